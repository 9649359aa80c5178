// Package routine holds the rules about what the database carries out: views, triggers, routines
// and events.
package routine

import (
	"fmt"

	"nexdal/internal/catalog"
	"nexdal/internal/rule"
)

var DefinerGone = &rule.Rule{
	ID:          "routine/definer-gone",
	Title:       "definer that does not exist",
	Severity:    rule.Error,
	Consequence: rule.FailsNow,
	Applies:     func(can catalog.Abilities) bool { return can.Definers },
	Doc: `A view, trigger, routine or event acts with the rights of an account that does not exist. Every call fails, and with a trigger every statement that fires it; an event fails silently, in the server's error log.

It happens where a dump is loaded on another server, or where somebody who left is dropped.

Not scripted, since it is up to you whose rights it shall have: re-create it with a definer that exists (ALTER DEFINER = ... VIEW or EVENT, CREATE OR REPLACE DEFINER = ... for triggers and routines), or create the account.`,
	Check: func(p *rule.Pass) error {
		for _, g := range p.Catalog.Gaps {
			if g.What == catalog.GapAccounts {
				p.NotJudged("the server's accounts", "survey as a user with SELECT on mysql.user", 1)
				return nil
			}
		}
		for _, f := range p.Catalog.Faults {
			if f.Definer == "" {
				continue
			}
			fails := "every call of it fails"
			switch f.Kind {
			case catalog.KindView:
				fails = "every query of it fails"
			case "trigger":
				fails = "every statement that fires it fails"
			case "event":
				fails = "it does nothing but fail"
			}
			p.Report(rule.Finding{Table: f.On(), Object: f.Name, Part: f.Kind,
				Message: fmt.Sprintf("%s \"%s\" acts with the rights of \"%s\", which does not exist: %s", f.Kind, f.Name, f.Definer, fails),
				Advice:  "re-create it with a definer that exists, or create the account"})
		}
		return nil
	},
}
