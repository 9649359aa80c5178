package check

import (
	"fmt"

	"nexdal/internal/change"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var NotValidated = &rule.Rule{
	ID:          "check/not-validated",
	Title:       "check that was never validated",
	Severity:    rule.Warning,
	Consequence: rule.Unprotected,
	Fixes:       []string{"validate"},
	Uses:        []rule.Need{rule.Evidence},
	Doc: `The check, or NOT NULL where that can be a constraint of its own, was declared without looking at the rows that were there. New rows are checked; old ones may break it, and an update of such a row fails, whatever it changes.

With evidence (nexdal probe, then --evidence) rows that break it are reported by check/violated.

The fix validates it, while others read and write. Its pre-flight query lists rows that break it. The reversal declares it again without looking at the rows.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Owned {
			for _, c := range t.Columns {
				if n := c.NotNull; n != nil && n.NotValidated && !c.Inherited && nulls(p, t, c) == 0 {
					p.Report(rule.Finding{Table: t.Ref(), Object: name(n.Name, c.Name), Columns: []string{c.Name}, Part: c.Name,
						Message: fmt.Sprintf("null was forbidden in \"%s\" without checking existing rows: some may hold one, and then cannot be updated", c.Name),
						Fixes:   []rule.Fix{{ID: "validate", Title: "forbid null in " + text.Name(c.Name) + " to all rows", Changes: []change.Change{change.SetNullable{Table: t.Ref(), Column: c.Name}}}}})
				}
			}
			for _, k := range t.Checks {
				if k.NotValidated && !k.NotEnforced && !k.Inherited && len(broken(p, t, k)) == 0 {
					p.Report(rule.Finding{Table: t.Ref(), Object: k.Name, Message: fmt.Sprintf("\"%s\" was added without checking existing rows: some may violate it, and then cannot be updated", k.Name),
						Fixes: []rule.Fix{{ID: "validate", Title: "validate " + text.Name(k.Name), Changes: []change.Change{change.ValidateCheck{Table: t.Ref(), Check: k}}}}})
				}
			}
		}
		return nil
	},
}
