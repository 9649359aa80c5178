package column

import (
	"fmt"
	"nexdal/internal/catalog"

	"nexdal/internal/change"
	"nexdal/internal/rule"
)

var ObsoleteType = &rule.Rule{
	ID:          "column/obsolete-type",
	Title:       "type that the engine's manual advises against",
	Severity:    rule.Warning,
	Consequence: rule.Untidy,
	Fixes:       []string{"alter"},
	Applies:     func(can catalog.Abilities) bool { return can.Obsolete != nil },
	Doc: `The engine's own manual advises against the type: what it keeps depends on a setting, or it is meant for the engine itself, or its name means another type than it says, or it is kept for old schemas alone.

On PostgreSQL these are money, time with time zone, "char", name and oid; on MariaDB floating-point numbers with a count of digits, years of two digits, and ZEROFILL; on SQLite names such as STRING, which to the engine is a number.

The fix alters the column to what the manual advises in its place, where something does as it stands; a pre-flight query looks for values that would not come back the same.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Roots {
			for _, c := range t.Columns {
				why, to := p.Abilities.Obsolete(c.Type)
				if why == "" {
					continue
				}
				found := rule.Finding{Table: t.Ref(), Object: t.Name, Columns: []string{c.Name}, Part: c.Name,
					Message: fmt.Sprintf("\"%s\" is %s: %s", c.Name, c.Type.Native, why)}
				if to.Native != "" && !tied(p, t, c.Name) && c.Generated == "" {
					if to.Class == "" && c.Type.Class != "" {
						to.Class = "text"
					}
					found.Fixes = []rule.Fix{{ID: "alter", Title: fmt.Sprintf("make \"%s\" %s", c.Name, to.Native), Changes: []change.Change{
						change.AlterType{Table: t.Ref(), Column: c.Name, From: c.Type, To: to}}}}
				} else {
					found.Advice = "choose another type"
				}
				p.Report(found)
			}
		}
		return nil
	},
}
