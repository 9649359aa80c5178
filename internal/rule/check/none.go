package check

import (
	"fmt"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var None = &rule.Rule{
	ID:          "check/none",
	Title:       "table that takes anything",
	Severity:    rule.Notice,
	Consequence: rule.Unprotected,
	Fixes:       []string{"warn"},
	Needs:       []rule.Need{rule.Statistics},
	Options:     []rule.Option{{Name: "rows", Default: int64(100), Doc: "rows that were looked at, at least"}},
	Applies:     func(can catalog.Abilities) bool { return can.Presence != nil },
	Doc: `Nothing says what rows of the table have to hold: it has no validator. A misspelt name makes a new field, a text where a number was is taken, and a row without what all others have as well.

Leave it alone where the table is to take anything.

The fix declares a validator that says what the rows that were looked at have in common, the types of each field and those that all have, and that only warns, in the server's log: nothing is refused. It has to be chosen. Once nothing breaks it, key/unenforced has it enforced.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Roots {
			if len(t.Checks) > 0 || !p.Looked(t, "rows") {
				continue
			}
			k := p.Abilities.Presence(t)
			k.NotEnforced = true
			p.Report(rule.Finding{Table: t.Ref(), Object: t.Name, Part: "validator", Certainty: rule.ByStatistics, Message: fmt.Sprintf("has no validator: what %s have in common is kept by programs alone", text.Plural(*t.Stats.Looked, "row")),
				Fixes: []rule.Fix{{ID: "warn", Title: "declare a validator that warns", Ask: true, Changes: []change.Change{change.AddCheck{Table: t.Ref(), Check: k}}}}})
		}
		return nil
	},
}
