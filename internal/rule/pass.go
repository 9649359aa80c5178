package rule

import (
	"cmp"
	"slices"

	"nexdal/internal/catalog"
	"nexdal/internal/evidence"
	"nexdal/internal/pattern"
)

// A Pass is one rule's walk over one catalog.
type Pass struct {
	Catalog   *catalog.Catalog
	Lookup    *catalog.Lookup
	Owned     []*catalog.Table // those that are the owner's to change, partitions among them
	Roots     []*catalog.Table // the same without partitions, which are judged with their parents
	Abilities catalog.Abilities
	Names     *catalog.Names // for what fixes create
	Data      *Data          // what the data said; nil where it was not asked, and for rules that do not declare it

	rule     *Rule
	told     map[Need]bool // the rule itself says what it lacks
	mine     []Setting     // those that bear on the rule
	result   *Result
	suspects func() []evidence.Reference
	// namesakes counts the tables of each name.
	namesakes      func() map[string]int
	keysNameTables func() bool
	// matched remembers which names fit which pattern: of a hundred thousand
	// columns most are named as others are.
	matched map[*pattern.Pattern]map[string]bool
}

// Suspects are the references that names and types alone speak for, where nobody
// asked the data; none where somebody did.
func (p *Pass) Suspects() []evidence.Reference {
	if p.Data != nil {
		return nil
	}
	return p.suspects()
}

// Unread reports whether the survey says that something of the table could not be read.
func (p *Pass) Unread(t *catalog.Table, what string) bool {
	return slices.ContainsFunc(p.Catalog.Gaps, func(g catalog.Gap) bool { return g.Schema == t.Schema && g.Table == t.Name && g.What == what })
}

// Called is what a message calls a table: by its name, and with its schema where several tables
// have the name.
func (p *Pass) Called(ref catalog.Ref) string {
	if len(p.Catalog.Schemas) > 1 && p.namesakes()[ref.Table] > 1 {
		return ref.String()
	}
	return ref.Table
}

// KeysNameTables reports whether most keys of one number are called after their table, gauge_id,
// and not id.
func (p *Pass) KeysNameTables() bool { return p.keysNameTables() }

// Matches reports whether the pattern matches the name.
func (p *Pass) Matches(re *pattern.Pattern, name string) bool {
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

// Requires is the name, as the check spells it, of the column in which the check forbids
// null and of which it says nothing else; empty: it is another check.
func (p *Pass) Requires(k *catalog.Check) string {
	if required := p.Abilities.Reads().NotNull(k.Expression); len(required) == 1 {
		return required[0]
	}
	return ""
}

// Report notes a finding. Rule, severity, consequence and certainty are filled in where
// the rule left them empty; what the house says of the severity goes before what
// the rule says.
func (p *Pass) Report(f Finding) {
	f.Rule = p.rule.ID
	f.Severity, f.Consequence = cmp.Or(f.Severity, p.rule.Severity), cmp.Or(f.Consequence, p.rule.Consequence)
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
	for _, n := range p.rule.Needs {
		p.told[n] = true
	}
	p.lacks("", needs, command, objects)
}

func (p *Pass) lacks(need Need, needs, command string, objects int) {
	p.told[need] = true
	if objects > 0 {
		p.result.Unjudged = append(p.result.Unjudged, Unjudged{Rule: p.rule.ID, Needs: needs, Command: command, Objects: objects})
	}
}

// Unasked notes that objects could not be judged since the data was not asked.
func (p *Pass) Unasked(objects int) {
	p.lacks(Evidence, "the data", "nexdal probe SOURCE -o nexdal.evidence.json", objects)
}

// Uncounted notes that objects could not be judged for want of the engine's own
// figures.
func (p *Pass) Uncounted(objects int) {
	p.lacks(Statistics, "the engine's figures", cmp.Or(p.Abilities.AnalyseAdvice, "survey the database itself"), objects)
}
