package key

import (
	"fmt"
	"strings"

	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var Violated = &rule.Rule{
	ID:          "key/violated",
	Title:       "unique key that rows violate",
	Severity:    rule.Error,
	Consequence: rule.WrongNow,
	Needs:       []rule.Need{rule.Evidence},
	Doc: `The catalog says that columns are unique, by an index that is not valid or a key that the engine does not enforce, and the data holds values more than once. That is data that went wrong: the index cannot be finished, and whoever looks a row up by the value gets one of two.

Columns that are nearly unique, and that nothing declares, are left to nexdal probe, which lists them.

It needs the data (nexdal probe, then --evidence). The finding shows a few values.

Which of the rows is right is up to you: nexdal script repair writes the choices, as comments.`,
	Check: func(p *rule.Pass) error {
		if p.Data == nil {
			n := 0
			for _, t := range p.Roots {
				for _, x := range t.Indexes {
					if x.Unique && x.Invalid {
						n++
					}
				}
			}
			p.Unasked(n)
			return nil
		}
		for _, t := range p.Roots {
			for _, x := range p.Data.Promises(t) {
				if x.Kind != "unique" || x.Offenders == 0 || x.Origin != "declared" || !p.Abilities.KeysUnenforced && t.UniqueOn(x.Columns) {
					continue
				}
				found := rule.Finding{Table: t.Ref(), Object: t.Name, Columns: x.Columns, Part: strings.Join(x.Columns, ", "), Certainty: rule.CertaintyOf(x.Verified)}
				values := ""
				if len(x.Samples) > 0 {
					values = ": " + strings.Join(x.Samples[:min(3, len(x.Samples))], "; ")
				}
				found.Object = x.Object
				found.Message = fmt.Sprintf("%s should keep %s unique, and %s more than once%s", x.Object, strings.Join(x.Columns, ", "), text.Plural(x.Offenders, "value")+" there", values)
				found.Advice, found.Command = "put the rows right, then keep the columns unique", rule.Repair
				p.Report(found)
			}
		}
		return nil
	},
}
