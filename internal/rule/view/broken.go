// Package view holds the rules about views.
package view

import (
	"fmt"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/rule"
)

var Broken = &rule.Rule{
	ID:          "view/broken",
	Title:       "view that the engine refuses",
	Severity:    rule.Error,
	Consequence: rule.FailsNow,
	GivesWay:    []string{"routine/definer-gone"},
	Applies:     func(can catalog.Abilities) bool { return can.ViewsBreak },
	Doc: `A view reads a table, column or routine that is not there any more, or may not be read with the rights it has. Every query of it fails.

Not scripted: only who uses the view knows whether what it reads shall come back, or the view shall go or read something else.`,
	Check: func(p *rule.Pass) error {
		for _, f := range p.Catalog.Faults {
			if f.Kind == catalog.KindView && f.Definer == "" {
				p.Report(rule.Finding{Table: f.On(), Object: f.Name, Part: f.Kind, Message: fmt.Sprintf("every query of view \"%s\" fails: %s", f.Name, strings.TrimSuffix(f.Reason, ".")),
					Advice: "replace or drop it"})
			}
		}
		return nil
	},
}
