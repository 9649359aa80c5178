package fk

import (
	"nexdal/internal/catalog"
	"nexdal/internal/rule"
)

var Island = &rule.Rule{
	ID:          "fk/island",
	Title:       "table without references",
	Severity:    rule.Notice,
	Consequence: rule.Untidy,
	Options: []rule.Option{
		{Name: "tied", Default: 0.5, Doc: "share of the database's tables that must be tied to others before one that is not is worth a word"},
	},
	Uses: []rule.Need{rule.Evidence},
	Doc: `The table refers to nothing, and nothing refers to it, though most tables of the database are tied to each other. Either references of it were never declared (nexdal probe finds them in the data), or it is left over, or it stands alone by its nature: settings, a log, a list of versions.

References that were accepted (nexdal decide) count as declared, and so do those that the data shows, or the names where nobody asked the data: fk/missing speaks of them. Where less than half of the tables are tied to others, nothing is reported.

There is no fix.`,
	Suspects: true,
	Check: func(p *rule.Pass) error {
		suspected := map[catalog.Ref]bool{}
		for _, r := range p.Suspects() {
			suspected[r.From()], suspected[r.To()] = true, true
		}
		tied := map[*catalog.Table]bool{}
		for _, t := range p.Roots {
			tied[t] = len(t.ForeignKeys)+len(t.Accepted)+len(p.Lookup.Referrers(t.Ref()))+len(p.Lookup.Accepted(t.Ref())) > 0 ||
				len(t.Inherits) > 0 || len(p.Lookup.Heirs(t.Ref())) > 0 || shown(p, t) || suspected[t.Ref()]
		}
		n := 0
		for _, is := range tied {
			if is {
				n++
			}
		}
		for _, t := range p.Roots {
			if tied[t] || n < 3 || float64(n) < p.Share(t, "tied")*float64(len(p.Roots)) {
				continue
			}
			p.Report(rule.Finding{Table: t.Ref(), Object: t.Name, Message: "refers to nothing, and nothing refers to it", Advice: "see in the data whether references were left undeclared", Command: rule.Probe})
		}
		return nil
	},
}

// shown reports whether the data shows references of the table: it is tied to
// others, though fk/missing may have to say so first.
func shown(p *rule.Pass, t *catalog.Table) bool {
	return p.Data != nil && (len(p.Data.References(t)) > 0 || p.Data.ReferredTo(t))
}
