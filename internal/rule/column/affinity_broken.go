package column

import (
	"fmt"

	"nexdal/internal/catalog"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var AffinityBroken = &rule.Rule{
	ID:          "column/affinity-broken",
	Title:       "texts in a column of numbers",
	Severity:    rule.Warning,
	Consequence: rule.WrongNow,
	Needs:       []rule.Need{rule.Evidence},
	Applies:     func(can catalog.Abilities) bool { return can.Strays != nil },
	Doc: `A column is declared to hold numbers, and some rows hold texts or raw bytes in it: the engine does not hold values to the declared type. Comparisons and sums take them for something else than their writer meant (a text is greater than every number, and counts as 0 in a sum), and another engine refuses the rows.

It needs the data (nexdal probe, then --evidence).

Leave it alone where the kind of the value carries a meaning of its own.

Not scripted: what the values should have been is not in the database. The finding quotes the query that lists them. Once they are put right, a CHECK on typeof(), or a STRICT table, keeps others out.`,
	Check: func(p *rule.Pass) error {
		if p.Data == nil {
			return nil
		}
		for _, t := range p.Roots {
			for _, c := range t.Columns {
				f := p.Data.Column(t, c.Name)
				if f == nil || f.Strays == nil || *f.Strays == 0 {
					continue
				}
				verb := "hold"
				if *f.Strays == 1 {
					verb = "holds"
				}
				p.Report(rule.Finding{Table: t.Ref(), Object: t.Name, Columns: []string{c.Name}, Part: c.Name, Certainty: rule.CertaintyOf(!f.Sampled),
					Message: fmt.Sprintf("%s of %s %s no number in \"%s\", which is declared %s", text.Amount(*f.Strays), text.Plural(f.Rows, "row"), verb, c.Name, c.Type.Native),
					Advice:  "list them: " + p.Abilities.Strays(t, c)})
			}
		}
		return nil
	},
}
