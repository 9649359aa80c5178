package check

import (
	"fmt"

	"nexdal/internal/change"
	"nexdal/internal/rule"
)

var Repeated = &rule.Rule{
	ID:          "check/repeated",
	Title:       "the same check twice",
	Severity:    rule.Notice,
	Consequence: rule.Slow,
	Fixes:       []string{"drop"},
	Doc: `Two checks of a table are the same expression. Every write evaluates both, and who changes one forgets the other.

The fix drops the later by name.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Roots {
			seen := map[string]string{}
			for _, k := range t.Checks {
				says := p.Abilities.Reads().Plain(k.Expression)
				if other, ok := seen[says]; ok && !k.Inherited {
					p.Report(rule.Finding{Table: t.Ref(), Object: name(k.Name, t.Name), Part: says, Message: fmt.Sprintf("%s says the same as %s: %s", name(k.Name, "a check"), name(other, "another"), k.Expression),
						Fixes: []rule.Fix{{ID: "drop", Title: "drop " + name(k.Name, "the second"), Changes: []change.Change{change.DropCheck{Table: t.Ref(), Check: k}}}}})
				}
				seen[says] = k.Name
			}
		}
		return nil
	},
}
