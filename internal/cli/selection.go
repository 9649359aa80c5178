package cli

import (
	"slices"
	"strings"

	"github.com/spf13/pflag"

	"nexdal/internal/catalog"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

// selection is which findings are told, or answered by a script, and how they are answered.
type selection struct {
	rules, areas, consequences, tables patterns
	findings                           []string
	severity, baseline                 string
	choices                            []string
	decided                            bool
}

func (s *selection) flags(f *pflag.FlagSet) {
	f.Var(&s.rules, "rule", "findings of these rules alone: identifiers or patterns with * and ?, with commas between them")
	f.Var(&s.areas, "area", "findings of these areas alone, such as key,fk")
	f.Var(&s.tables, "table", "findings at these tables alone: names or patterns, with commas between them")
	f.Var(&s.consequences, "consequence", "findings of these consequences alone: "+strings.Join(consequences(), ", "))
	f.StringVar(&s.severity, "severity", "", "findings of this severity and worse alone: error, warning or notice")
	f.StringArrayVar(&s.findings, "finding", nil, "this finding alone, by its identifier, or all that a pattern fits (may be given several times)")
	f.StringVar(&s.baseline, "baseline", "", "findings alone that this file, of check --write-baseline, does not hold")
}

// choosing are the flags of a script: which fixes it takes.
func (s *selection) choosing(f *pflag.FlagSet) {
	f.BoolVar(&s.decided, "decided", false, "answer those findings alone for which somebody has chosen a fix (nexdal decide)")
	f.StringArrayVar(&s.choices, "choose", nil, "take this fix: FIX, or RULE=FIX for one rule alone (may be given several times)")
}

func consequences() []string {
	var all []string
	for _, c := range rule.Consequences {
		all = append(all, string(c))
	}
	return all
}

// narrow reports whether some findings alone were asked for.
func (s *selection) narrow() bool {
	return len(s.rules)+len(s.areas)+len(s.tables)+len(s.consequences)+len(s.findings) > 0 || s.severity != "" || s.decided
}

// about reports whether findings of the rule were asked for.
func (s *selection) about(id string) bool {
	area, _, _ := strings.Cut(id, "/")
	return s.rules.fit(id) && s.areas.fit(area) && (len(s.findings) == 0 || slices.ContainsFunc(s.findings, func(p string) bool { return rule.Of(p) == id }))
}

// check says what is wrong with what was asked for: it names a rule, area, table or consequence
// that there is not.
func (s *selection) check(c *catalog.Catalog, rules []*rule.Rule) error {
	if s.severity != "" && !known(rule.Severity(s.severity)) {
		return wrong("--severity takes error, warning or notice, not %q", s.severity)
	}
	var areas []string
	for _, r := range rules {
		areas = append(areas, r.Area())
	}
	for _, id := range s.rules {
		if _, err := rulesLike(slices.Clone(rules), id); err != nil {
			return err
		}
	}
	for _, x := range []struct {
		flag     string
		patterns patterns
		of       []string
	}{{"--area", s.areas, areas}, {"--consequence", s.consequences, consequences()}} {
		for _, p := range x.patterns {
			if !slices.ContainsFunc(x.of, func(of string) bool { return catalog.Fits(p, of) }) {
				return wrong("%s: there is no %s; nearest is %s", x.flag, p, text.Nearest(p, x.of))
			}
		}
	}
	for _, p := range s.tables {
		if _, err := matching(c, p); err != nil {
			return err
		}
	}
	return nil
}

// pick leaves the findings that were asked for, each with the fix that was asked
// for in the first place.
func (s *selection) pick(c *catalog.Catalog, list []rule.Finding, rules []*rule.Rule) ([]rule.Finding, error) {
	if err := s.check(c, rules); err != nil {
		return nil, err
	}
	tables := map[catalog.Ref]bool{}
	for _, p := range s.tables {
		found, _ := matching(c, p) // check has said what is wrong
		for _, t := range found {
			tables[t.Ref()] = true
		}
	}
	picked := slices.DeleteFunc(slices.Clone(list), func(f rule.Finding) bool {
		return s.decided && (f.Decision == nil || f.Decision.Verdict != "choose" && f.Decision.Verdict != "accept") || s.severity != "" && !f.Severity.AtLeast(rule.Severity(s.severity)) ||
			!s.rules.fit(f.Rule) || !s.areas.fit(f.Area()) || !s.consequences.fit(string(f.Consequence)) ||
			len(s.tables) > 0 && !tables[f.Table] || !patterns(s.findings).fit(f.ID())
	})
	if len(picked) == 0 && len(s.findings) > 0 {
		return nil, wrong("there is no finding %s; nexdal check shows what there is", s.findings[0])
	}
	for i, a := range s.choices {
		id, fix, _ := strings.Cut(a, "=")
		for _, other := range s.choices[:i] {
			if same, wants, _ := strings.Cut(other, "="); same == id && wants != fix {
				return nil, wrong("--choose asks for both %s and %s of %s; give one, or decide finding by finding (nexdal decide)", wants, fix, id)
			}
		}
		if err := choose(picked, a); err != nil {
			return nil, err
		}
	}
	return picked, nil
}

// choose puts the fix of "RULE=FIX", or of "FIX", first, as if somebody had chosen it.
func choose(findings []rule.Finding, choice string) error {
	id, fix, ok := strings.Cut(choice, "=")
	if !ok {
		id, fix = "*", choice
	}
	found := false
	var offered []string
	for i := range findings {
		f := &findings[i]
		if f.Rule != id && !catalog.Fits(id, f.Rule) {
			continue
		}
		for n, x := range f.Fixes {
			if !slices.Contains(offered, x.ID) {
				offered = append(offered, x.ID)
			}
			if x.ID == fix {
				x.Ask, found = false, true
				f.Fixes = slices.Insert(slices.Delete(slices.Clone(f.Fixes), n, n+1), 0, x)
				break
			}
		}
	}
	switch {
	case found:
		return nil
	case len(offered) == 0 && id == "*":
		return wrong("--choose %s: none of these findings has a fix", fix)
	case len(offered) == 0:
		return wrong("no finding of %s has a fix here", id)
	case id == "*":
		return wrong("--choose: there is no fix %s here; there are %s", fix, strings.Join(offered, ", "))
	}
	return wrong("%s offers no fix %s here; it offers %s", id, fix, strings.Join(offered, ", "))
}
