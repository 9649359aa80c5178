package distribution

import (
	"fmt"

	"nexdal/internal/catalog"
	"nexdal/internal/rule"
)

var Growing = &rule.Rule{
	ID:          "distribution/growing",
	Title:       "rows spread by a value that only grows",
	Severity:    rule.Warning,
	Consequence: rule.Slow,
	Applies:     func(can catalog.Abilities) bool { return can.GrowsAtEnd != nil },
	Doc: `The rows are spread over the machines by ranges of a value that only grows: a moment, or an identifier that begins with one. Every new row lies beyond all others, on the machine that has the last range: it alone takes all writes, and the balancer moves what it got to the others for ever.

Leave it alone where the table is written by few.

There is no fix: the way out is a hashed key, or one that begins with something that many rows differ in (reshardCollection).`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Roots {
			if p.Abilities.GrowsAtEnd(t) {
				by := t.Spread.Column
				p.Report(rule.Finding{Table: t.Ref(), Object: t.Name, Columns: []string{by}, Part: "growing", Message: fmt.Sprintf("spread by ranges of \"%s\", which only grows: one machine takes all new rows", by), Advice: "spread it by a hash, or by what rows differ in from the first"})
			}
		}
		return nil
	},
}
