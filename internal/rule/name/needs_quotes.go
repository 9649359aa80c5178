package name

import (
	"fmt"
	"regexp"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/phrase"
	"nexdal/internal/rule"
)

// NeedsQuotes: see its Doc.
var NeedsQuotes = &rule.Rule{
	ID:       "name/needs-quotes",
	Title:    "name that has to be quoted",
	Severity: rule.Notice,
	Doc: `The name of a table or a column holds blanks, signs or letters outside the alphabet, or begins with a digit. Every statement has to quote it, in each engine's own way. So it is with capital letters on an engine that takes a name without quotes for its small ones.

There is no fix: a rename breaks every program that knows the name.`,
	Check: func(p *rule.Pass) {
		each(p, func(t *catalog.Table, c *catalog.Column, name string) {
			if !bare.MatchString(name) || p.Can.FoldsCase && strings.ToLower(name) != name {
				report(p, t, c, fmt.Sprintf("%q has to be quoted in every statement", phrase.Line(name)))
			}
		})
	},
}

var bare = regexp.MustCompile(`^[A-Za-z_][A-Za-z0-9_]*$`)
