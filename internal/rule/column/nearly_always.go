package column

import (
	"fmt"

	"nexdal/internal/catalog"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var NearlyAlways = &rule.Rule{
	ID:          "column/nearly-always",
	Title:       "field that nearly all rows have",
	Severity:    rule.Notice,
	Consequence: rule.WrongNow,
	Needs:       []rule.Need{rule.Statistics},
	Options: []rule.Option{
		{Name: "share", Default: 0.98, Doc: "share of the rows from which nearly all have it"},
		{Name: "rows", Default: int64(100), Doc: "rows that were looked at, at least"},
	},
	Applies: func(can catalog.Abilities) bool { return can.Undeclared },
	Doc: `At least 98 % of the rows have the field, and some do not. Mostly it was meant to be there, and a program that counts on it fails on the few.

Fields within lists, and those of a table of kinds with different fields, are not reported unless nearly all of it have them.

Leave it alone where the few are another kind of thing.

There is no fix: what the few should hold is up to you. A validator (check/none) keeps new rows to it.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Roots {
			if !p.Looked(t, "rows") {
				continue
			}
			for _, c := range t.Columns {
				if c.Many || c.Stats.Absent == nil || c.Within != "" {
					continue
				}
				if absent := *c.Stats.Absent; absent > 0 && 1-absent >= p.Share(t, "share") {
					few := int64(absent*float64(*t.Stats.Looked) + 0.5)
					p.Report(rule.Finding{Table: t.Ref(), Object: t.Name, Columns: []string{c.Name}, Part: c.Name + " absent", Certainty: rule.ByStatistics, Message: fmt.Sprintf("\"%s\" is missing in %s of %s that were looked at", c.Name, text.Amount(few), text.Plural(*t.Stats.Looked, "row")), Advice: "give it to them, then have a validator require it"})
				}
			}
		}
		return nil
	},
}
