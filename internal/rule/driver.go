package rule

import (
	"context"
	"errors"
	"fmt"
	"runtime/debug"
	"slices"
	"strings"
	"sync"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/evidence"
	"nexdal/internal/pattern"
	"nexdal/internal/text"
)

// A Checker is what catalogs are judged by.
type Checker struct {
	Abilities catalog.Abilities
	Rules     []*Rule
	Evidence  *evidence.Evidence // may be nil
	Settings  []Setting          // in order; of two that bear on the same, the later holds
	// Proposals: plans take fixes too that nobody chose and that ask for it.
	Proposals bool
	// LongestName is the most bytes that a name which a fix makes may have, where
	// the house allows fewer than the engine; 0: as the engine.
	LongestName int
	// Before is what the rules said of the catalog that is to be healed, where they
	// were asked already.
	Before *Result
	// Watch, where set, is told how long each rule took.
	Watch func(*Rule, time.Duration)
}

// shortestName is what a name with an ending and a digest takes.
const shortestName = 20

// Run judges the catalog. Findings come in the order in which people should see to them. A rule that fails ends nothing but itself: it is among those that could not
// judge. When the context ends, the rules that are left are too.
func (j Checker) Run(ctx context.Context, c *catalog.Catalog) Result {
	var result Result
	shared := j.pass(c)
	if shared.Data == nil && slices.ContainsFunc(j.Rules, func(r *Rule) bool { return r.Suspects && runs(r, settingsFor(r, j.Settings)) }) {
		go shared.suspects()
	}
	for _, r := range j.Rules {
		p := *shared
		p.rule, p.mine, p.result, p.told = r, settingsFor(r, j.Settings), &result, map[Need]bool{}
		if !runs(r, p.mine) || r.Applies != nil && !r.Applies(j.Abilities) {
			continue
		}
		if !slices.Contains(slices.Concat(r.Needs, r.Uses), Evidence) {
			p.Data = nil
		}
		began := time.Now()
		if err := p.check(ctx); err != nil {
			result.Unjudged = append(result.Unjudged, Unjudged{Rule: r.ID, Failed: err.Error()})
		}
		p.reportLacking()
		if j.Watch != nil {
			j.Watch(r, time.Since(began))
		}
	}
	result.Findings = suppressOverlaps(j.Rules, result.Findings)
	for _, f := range result.Findings {
		for i, x := range f.Fixes { // a matter of tidiness is not worth a table that is written again
			if f.Severity == Notice && slices.ContainsFunc(x.Changes, change.Rewrites) {
				f.Fixes[i].Ask = true
			}
		}
	}
	rank(result.Findings, shared.Lookup)
	groupRelated(result.Findings)
	return result
}

// pass is what the passes of all rules have in common.
func (j Checker) pass(c *catalog.Catalog) *Pass {
	longest := j.Abilities.MaxName
	if j.LongestName > 0 && (longest == 0 || j.LongestName < longest) {
		longest = max(j.LongestName, shortestName)
	}
	p := &Pass{Catalog: c, Lookup: c.Lookup(), Abilities: j.Abilities, Names: catalog.NewNames(c, longest), Data: dataOf(j.Evidence), matched: map[*pattern.Pattern]map[string]bool{}}
	for _, t := range c.Tables() {
		if !t.IsOwn() {
			continue
		}
		if p.Owned = append(p.Owned, t); t.PartitionOf == nil {
			p.Roots = append(p.Roots, t)
		}
	}
	p.namesakes = sync.OnceValue(func() map[string]int {
		count := map[string]int{}
		for _, t := range c.Tables() {
			count[t.Name]++
		}
		return count
	})
	p.keysNameTables = sync.OnceValue(func() bool {
		long := 0
		for _, t := range c.Tables() {
			if t.PrimaryKey == nil || len(t.PrimaryKey.Columns) != 1 {
				continue
			}
			switch strings.ToLower(t.PrimaryKey.Columns[0]) {
			case "id":
				long--
			case strings.ToLower(t.Name) + "_id":
				long++
			}
		}
		return long > 0
	})
	p.suspects = sync.OnceValue(func() []evidence.Reference { return evidence.Suspects(c, p.Lookup) })
	return p
}

// check runs the rule. A panic is an error of the rule's, with the place in the code.
func (p *Pass) check(ctx context.Context) (err error) {
	if ctx.Err() != nil {
		return context.Cause(ctx)
	}
	defer func() {
		if v := recover(); v != nil {
			err = fmt.Errorf("%v (%s)", v, text.PanicPlace(debug.Stack()))
		}
	}()
	return p.rule.Check(p)
}

// reportLacking says what the rule needs and lacks, where it did not say so itself.
func (p *Pass) reportLacking() {
	for _, n := range p.rule.Needs {
		if p.told[n] {
			continue
		}
		lacking := 0
		for _, t := range p.Roots {
			if n == Evidence && p.Data == nil || n == Statistics && t.Stats.Rows == nil {
				lacking++
			}
		}
		switch n {
		case Evidence:
			p.Unasked(lacking)
		case Statistics:
			p.Uncounted(lacking)
		}
	}
}

// Validate says what is wrong with a list of rules: each has an identifier of its own,
// title, documentation, a severity and a check; options have names of their own and
// defaults that they accept; what it gives way to is in the list, and not in a ring.
func Validate(rules []*Rule) error {
	byID := map[string]*Rule{}
	var wrong []error
	complain := func(r *Rule, format string, args ...any) {
		wrong = append(wrong, fmt.Errorf("rule %q: "+format, append([]any{r.ID}, args...)...))
	}
	for _, r := range rules {
		if byID[r.ID] != nil {
			complain(r, "is in the list twice")
		}
		byID[r.ID] = r
	}
	for _, r := range rules {
		if !identifier.MatchString(r.ID) {
			complain(r, "an identifier is area/slug in small letters")
		}
		if r.Title == "" || strings.TrimSpace(r.Doc) == "" || r.Check == nil {
			complain(r, "lacks a title, its documentation or its check")
		}
		if r.Severity != Off && !slices.Contains(Severities, r.Severity) {
			complain(r, "%q is no severity", r.Severity)
		}
		if !slices.Contains(Consequences, r.Consequence) {
			complain(r, "%q is no consequence", r.Consequence)
		}
		seen := map[string]bool{"severity": true}
		for i := range r.Options {
			o := &r.Options[i]
			if seen[o.Name] || !slug.MatchString(o.Name) || o.Doc == "" {
				complain(r, "option %q is there twice, badly named or not documented", o.Name)
			}
			seen[o.Name] = true
			switch o.Default.(type) {
			case int64, float64, string, []string:
				if no := o.Accepts(o.Default); no != "" {
					complain(r, "option %s does not accept its default: %s", o.Name, no)
				}
			default:
				complain(r, "option %s has a default of type %T", o.Name, o.Default)
			}
		}
		for _, id := range r.GivesWay {
			if byID[id] == nil {
				complain(r, "gives way to %q, which is not in the list", id)
			} else if id == r.ID || slices.Contains(byID[id].GivesWay, r.ID) {
				complain(r, "gives way to %q, which gives way to it", id)
			}
		}
	}
	return errors.Join(wrong...)
}

var (
	slug       = pattern.New(`^[a-z][a-z0-9-]*$`)
	identifier = pattern.New(`^[a-z][a-z0-9-]*/[a-z][a-z0-9-]*$`)
)
