package fk

import (
	"fmt"

	"nexdal/internal/change"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var Disabled = &rule.Rule{
	ID:          "fk/disabled",
	Title:       "foreign key that is switched off",
	Severity:    rule.Error,
	Consequence: rule.Unprotected,
	Fixes:       []string{"enforce"},
	Doc: `The foreign key is declared, and the triggers that enforce it are switched off: rows without a parent get in, and parents are deleted from under their rows, while the catalog says that neither can be. Mostly somebody switched all triggers of the table off for a load, and not on again.

There is no case in which this is right for long; drop the foreign key if it is not wanted.

The fix re-creates it and has the engine check all rows, those that came meanwhile among them. Its pre-flight query lists values without a parent.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Owned {
			for _, f := range t.ForeignKeys {
				if !f.Disabled || f.Inherited {
					continue
				}
				on := f.Clone()
				on.Disabled, on.NotValidated = false, false
				p.Report(rule.Finding{Table: t.Ref(), Object: f.Label(), Columns: f.Columns,
					Message: fmt.Sprintf("%s is declared and switched off: nothing checks %s against \"%s\"", f.Label(), text.Names(f.Columns), p.Called(f.Target)),
					Fixes:   []rule.Fix{{ID: "enforce", Title: "re-create it, and check the rows", Changes: []change.Change{change.AlterForeignKey{Table: t.Ref(), Old: f, New: on}}}}})
			}
		}
		return nil
	},
}
