package key

import (
	"fmt"
	"nexdal/internal/catalog"

	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var Unenforced = &rule.Rule{
	ID:          "key/unenforced",
	Title:       "constraints that are not enforced",
	Severity:    rule.Notice,
	Consequence: rule.Unprotected,
	Uses:        []rule.Need{rule.Evidence},
	Applies:     func(can catalog.Abilities) bool { return can.KeysUnenforced },
	Doc: `The engine takes keys and foreign keys down and does not enforce them; its planner believes them all the same. A row that breaks one makes wrong answers: a DISTINCT that is left out, a join that finds a row twice.

It is one finding for the whole database, as long as nobody asked the data. Once it was asked (nexdal probe, then --evidence), a key that holds is not reported, and one that does not is, as key/violated or fk/violated.

There is no fix but to ask the data after every load.`,
	Check: func(p *rule.Pass) error {
		if p.Data != nil {
			return nil
		}
		keys, references := int64(0), int64(0)
		for _, t := range p.Roots {
			keys += int64(len(t.Keys()))
			references += int64(len(t.ForeignKeys))
		}
		if keys+references > 0 {
			p.Report(rule.Finding{Object: "keys", Message: fmt.Sprintf("%s and %s are declared and not enforced: the planner believes them", text.Plural(keys, "key"), text.Plural(references, "foreign key")),
				Advice: "ask the data whether it holds", Command: rule.Probe})
		}
		return nil
	},
}
