package name

import (
	"fmt"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/pattern"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var NeedsQuotes = &rule.Rule{
	ID:          "name/needs-quotes",
	Title:       "name that has to be quoted",
	Severity:    rule.Notice,
	Consequence: rule.Untidy,
	Applies:     func(can catalog.Abilities) bool { return !can.Undeclared },
	Doc: `The name of a table or a column holds blanks, signs or letters outside the alphabet, or begins with a digit. Every statement has to quote it, in each engine's own way. So it is with capital letters on an engine that takes a name without quotes for its small ones.

There is no fix: a rename breaks every program that knows the name.`,
	Check: func(p *rule.Pass) error {
		capitals := map[*catalog.Table][]string{}
		each(p, func(t *catalog.Table, c *catalog.Column, name string) {
			switch {
			case !p.Matches(bare, name):
				report(p, t, c, fmt.Sprintf("%q has to be quoted in every statement", text.Line(name)))
			case !p.Abilities.FoldsCase || strings.ToLower(name) == name:
			case c == nil:
				report(p, t, c, fmt.Sprintf("\"%s\" has capital letters, and has to be quoted in every statement", name))
			default:
				capitals[t] = append(capitals[t], name)
			}
		})
		for _, t := range p.Roots { // of columns with capital letters a table mostly has many
			if names := capitals[t]; len(names) > 0 {
				p.Report(rule.Finding{Table: t.Ref(), Object: t.Name, Columns: names, Part: "capitals",
					Message: fmt.Sprintf("%s: capital letters, so that every statement has to quote them", text.Some(names, 5))})
			}
		}
		return nil
	},
}

var bare = pattern.New(`^[A-Za-z_][A-Za-z0-9_]*$`)
