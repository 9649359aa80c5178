package check

import (
	"fmt"

	"nexdal/internal/rule"
)

// Repeated: see its Doc.
var Repeated = &rule.Rule{
	ID:       "check/repeated",
	Title:    "the same check twice",
	Severity: rule.Notice,
	Doc: `Two checks of a table are the same expression. Every write evaluates both, and who changes one forgets the other.

There is no fix: drop the one whose name nobody knows.`,
	Check: func(p *rule.Pass) {
		for _, t := range p.Whole {
			seen := map[string]string{}
			for _, k := range t.Checks {
				says := plain(k.Expression)
				if other, ok := seen[says]; ok && !k.Inherited {
					p.Report(rule.Finding{Table: t.Ref(), Object: name(k.Name, t.Name), Part: says, Message: fmt.Sprintf("%s says the same as %s: %s", name(k.Name, "a check"), name(other, "another"), k.Expression),
						Advice: "drop one of them"})
				}
				seen[says] = k.Name
			}
		}
	},
}
