package fk

import (
	"fmt"
	"strings"

	"nexdal/internal/phrase"
	"nexdal/internal/rule"
)

// PartlyNull: see its Doc.
var PartlyNull = &rule.Rule{
	ID:       "fk/partly-null",
	Title:    "combined foreign key that can be half filled",
	Severity: rule.Warning,
	Doc: `A foreign key of several columns has more than one that may be null. Unless it is declared MATCH FULL, a row in which only some of them are filled is not checked at all: it may refer to nothing, and nobody notices.

Where only one of the columns may be null, it alone says whether there is a reference, and nothing is reported. The same goes where a check of the table names all the columns and speaks of nulls.

There is no fix: the columns may be required together, or a check say that all or none are filled, or the foreign key match in full where the engine can.`,
	Check: func(p *rule.Pass) {
		for _, t := range p.Own {
			for _, f := range t.ForeignKeys {
				if f.Inherited || len(f.Columns) < 2 || f.Match == "full" {
					continue
				}
				var open []string
				for _, name := range f.Columns {
					if c := t.Column(name); c != nil && c.Nullable {
						open = append(open, name)
					}
				}
				checked := false
				for _, k := range t.Checks {
					all := strings.Contains(strings.ToLower(k.Expression), "null")
					for _, name := range open {
						all = all && strings.Contains(k.Expression, name)
					}
					checked = checked || all
				}
				if len(open) < 2 || checked {
					continue
				}
				p.Report(rule.Finding{Table: t.Ref(), Object: f.Label(), Columns: f.Columns, Part: "nulls",
					Message: fmt.Sprintf("a row in which only one of %s is filled is not checked against %s", phrase.List(open), f.Target.Table),
					Advice:  "say by a check that all or none of the columns are filled, or require them"})
			}
		}
	},
}
