// Package rule judges a catalog by design rules. A rule is a value; the
// driver knows no rule and no rule knows the driver or an engine.
package rule

import (
	"cmp"
	"regexp"
	"slices"
	"strings"
	"sync"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/evidence"
)

// Severity says how much a finding matters.
type Severity string

// The severities, worst first.
const (
	Error   Severity = "error"   // data can be or is wrong, or an operation will fail
	Warning Severity = "warning" // it will hurt: locks, scans, growth
	Notice  Severity = "notice"  // convention, tidiness
)

// Off is the severity of a rule that is not judged by unless a house says so.
const Off Severity = "off"

// Severities lists them, worst first.
var Severities = []Severity{Error, Warning, Notice}

// AtLeast reports whether s is as bad as o or worse.
func (s Severity) AtLeast(o Severity) bool {
	return slices.Index(Severities, s) <= slices.Index(Severities, o)
}

// Certainty says what a finding rests on.
type Certainty string

// The certainties.
const (
	ByStructure  Certainty = "structure"  // the catalog alone
	ByStatistics Certainty = "statistics" // the engine's own figures
	Sampled      Certainty = "sampled"    // some of the rows
	Verified     Certainty = "verified"   // all rows
)

// Need is something besides the structure that a rule judges by.
type Need string

// The needs.
const (
	Statistics Need = "statistics"
	Settings   Need = "settings"
	Evidence   Need = "evidence"
)

// A Rule is one design rule.
type Rule struct {
	ID       string   // area/slug
	Title    string   // the fault, in a few words
	Severity Severity // of a plain case; a finding may be better or worse
	Needs    []Need   // besides the structure
	Options  []Option // what a house may set
	// GivesWay names the rules that say it already where they have a finding
	// about the same columns or the same object.
	GivesWay []string
	// Doc is the user's documentation: what, why it hurts, when to leave it
	// alone, what the fix does. Paragraphs are set apart by blank lines.
	Doc   string
	Check func(*Pass)
	// Suspects says that Check asks for [Pass.Suspects], which are gathered beside the
	// other rules.
	Suspects bool
}

// Is reports whether the rule is the one of that identifier, or one that the
// pattern fits.
func (r *Rule) Is(pattern string) bool { return r.ID == pattern || catalog.Fits(pattern, r.ID) }

// Area is the part of the identifier before the slash.
func (r *Rule) Area() string { area, _, _ := strings.Cut(r.ID, "/"); return area }

// A Finding is one breach of a rule at one object.
type Finding struct {
	Rule      string
	Severity  Severity
	Table     catalog.Ref // empty for the database as a whole
	Object    string      // the key, foreign key or index; the table's name where the table itself is at fault
	Columns   []string
	Part      string // tells findings at the same object apart: one column of several
	Message   string
	Certainty Certainty
	Fixes     []Fix  // alternatives, the proposed one first; empty: nothing can be scripted
	Advice    string // what to do where there is no fix, or besides it
	Decision  *Decision
	// Story is the identifier of the finding that leads the story which this one
	// is part of; empty: it stands alone.
	Story string
}

// Area is that of its rule.
func (f Finding) Area() string { area, _, _ := strings.Cut(f.Rule, "/"); return area }

// A Decision is what a person said of a finding.
type Decision struct {
	Verdict string // "accept", "set aside", "choose"
	Fix     string // the one chosen
	By, At  string
	Because string
	Until   string
}

// SetAside reports whether a person decided to leave it as it is.
func (f Finding) SetAside() bool { return f.Decision != nil && f.Decision.Verdict == "set aside" }

// ID names the finding in decisions and scripts; it stays the same from
// survey to survey for as long as the object keeps its name.
func (f Finding) ID() string {
	id := f.Rule
	if f.Table.Table != "" {
		id += " " + f.Table.String()
	}
	if f.Object != "" && f.Object != f.Table.Table {
		id += " " + f.Object
	}
	if f.Part != "" {
		id += " " + f.Part
	}
	return id
}

// A Fix is one way to put a finding right.
type Fix struct {
	ID      string // short, the same for all findings of the rule: "index", "promote"
	Title   string
	Changes []change.Change
	// Ask: nothing in the catalog or the data proves that it is meant, so that a
	// script takes it only where a person chose it, or asked for all of these.
	Ask bool
}

// An Unjudged entry says what a rule could not judge, and what it lacked.
type Unjudged struct {
	Rule    string
	Needs   string
	Command string // that supplies it; empty: none does
	Objects int
}

// A Pass is one rule's walk over one catalog.
type Pass struct {
	Catalog *catalog.Catalog
	Lookup  *catalog.Lookup
	Own     []*catalog.Table // those that are the owner's to change, partitions among them
	Whole   []*catalog.Table // the same without partitions, which are judged with their parents
	Can     catalog.Abilities
	Names   *catalog.Names // for what fixes create
	Data    *Data          // what the data said; nil where it was not asked

	rule     *Rule
	mine     []Setting // those that bear on the rule
	result   *Result
	suspects func() []evidence.Reference
	// matched remembers which names fit which pattern: of a hundred thousand
	// columns most are named as others are.
	matched map[*regexp.Regexp]map[string]bool
}

// Suspects are the references that names and types alone speak for, where nobody
// asked the data; none where somebody did.
func (p *Pass) Suspects() []evidence.Reference {
	if p.Data != nil {
		return nil
	}
	return p.suspects()
}

// Matches reports whether the pattern matches the name.
func (p *Pass) Matches(re *regexp.Regexp, name string) bool {
	known := p.matched[re]
	if known == nil {
		known = map[string]bool{}
		p.matched[re] = known
	}
	is, ok := known[name]
	if !ok {
		is = re.MatchString(name)
		known[name] = is
	}
	return is
}

// Report notes a finding. Rule, severity and certainty are filled in where
// the rule left them empty; what the house says of the severity goes before what
// the rule says.
func (p *Pass) Report(f Finding) {
	f.Rule = p.rule.ID
	f.Severity = cmp.Or(f.Severity, p.rule.Severity)
	if len(p.mine) > 0 {
		f.Severity = cmp.Or(p.severity(f.Table), f.Severity)
	}
	if f.Severity == Off {
		return
	}
	f.Certainty = cmp.Or(f.Certainty, ByStructure)
	if p.Data != nil && (f.Certainty == Sampled || f.Certainty == Verified) {
		f.Message += p.Data.age(p.Catalog.Surveyed)
	}
	p.result.Findings = append(p.result.Findings, f)
}

// NotJudged notes that objects could not be judged for want of something, and
// the command that would supply it.
func (p *Pass) NotJudged(needs, command string, objects int) {
	if objects > 0 {
		p.result.Unjudged = append(p.result.Unjudged, Unjudged{p.rule.ID, needs, command, objects})
	}
}

// Unasked notes that objects could not be judged since the data was not asked.
func (p *Pass) Unasked(objects int) {
	p.NotJudged("the data", "nexdal probe SOURCE -o F, then check with --evidence F", objects)
}

// Uncounted notes that objects could not be judged for want of the engine's own
// figures.
func (p *Pass) Uncounted(objects int) {
	p.NotJudged("the engine's figures", cmp.Or(p.Can.AnalyseAdvice, "survey the database itself"), objects)
}

// RestsOnData reports whether the finding is one of the data, which a change of
// the structure alone says nothing of.
func (f Finding) RestsOnData() bool { return f.Certainty == Verified || f.Certainty == Sampled }

// A Result is what the rules said of a catalog.
type Result struct {
	Findings []Finding
	Unjudged []Unjudged
}

// A Judge is what catalogs are judged by.
type Judge struct {
	Can      catalog.Abilities
	Rules    []*Rule
	Evidence *evidence.Evidence // may be nil
	Settings []Setting          // in order; of two that bear on the same, the later holds
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

// Run judges the catalog. Findings come worst first, then by table, rule and
// object.
func (j Judge) Run(c *catalog.Catalog) Result {
	var result Result
	longest := j.Can.MaxName
	if j.LongestName > 0 && (longest == 0 || j.LongestName < longest) {
		longest = max(j.LongestName, shortestName)
	}
	p := Pass{Catalog: c, Lookup: c.Lookup(), Can: j.Can, Names: catalog.NewNames(c, longest), Data: dataOf(j.Evidence), result: &result, matched: map[*regexp.Regexp]map[string]bool{}}
	for _, t := range c.Tables() {
		if !t.IsOwn() {
			continue
		}
		if p.Own = append(p.Own, t); t.PartitionOf == nil {
			p.Whole = append(p.Whole, t)
		}
	}
	p.suspects = sync.OnceValue(func() []evidence.Reference { return evidence.Suspects(c, p.Lookup) })
	if slices.ContainsFunc(j.Rules, func(r *Rule) bool { return r.Suspects && runs(r, heed(r, j.Settings)) }) {
		go p.Suspects()
	}
	for _, r := range j.Rules {
		p.rule, p.mine = r, heed(r, j.Settings)
		if !runs(r, p.mine) {
			continue
		}
		if j.Watch == nil {
			r.Check(&p)
			continue
		}
		began := time.Now()
		r.Check(&p)
		j.Watch(r, time.Since(began))
	}
	result.Findings = settle(j.Rules, result.Findings)
	slices.SortStableFunc(result.Findings, func(a, b Finding) int {
		return cmp.Or(slices.Index(Severities, a.Severity)-slices.Index(Severities, b.Severity),
			a.Table.Compare(b.Table), strings.Compare(a.Rule, b.Rule), strings.Compare(a.Object, b.Object))
	})
	plot(result.Findings)
	return result
}

// Count returns how many findings have the severity, without those set aside.
func (r Result) Count(s Severity) int {
	n := 0
	for _, f := range r.Findings {
		if f.Severity == s && !f.SetAside() {
			n++
		}
	}
	return n
}
