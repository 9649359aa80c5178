package sqlite

import (
	"fmt"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqlite/ddltext"
	"nexdal/internal/pattern"
)

var (
	stringName = pattern.New(`(?i)^string\b`)
	points     = pattern.New(`(?i)^float(ing)?[ _]?point\b`)
)

// obsolete: names of types that do not mean what they say
// (https://www.sqlite.org/datatype3.html section 3.1, on affinity).
func obsolete(t catalog.Type) (string, catalog.Type) {
	switch {
	case stringName.MatchString(t.Native):
		return "to the engine STRING is a number: a code such as 007 is kept as 7", catalog.Type{Native: "TEXT", Family: catalog.Text}
	case points.MatchString(t.Native):
		return "the letters INT in its name make it a whole number to the engine", catalog.Type{}
	}
	return "", catalog.Type{}
}

// condition writes it as it will stand in the table's text.
func condition(t *catalog.Table, c catalog.Condition) string {
	switch {
	case c.Filled != "":
		return ddltext.Ident(c.Filled) + " IS NOT NULL"
	case c.Among != nil:
		return fmt.Sprintf("%s IN (%s)", ddltext.Ident(c.Among.Column), strings.Join(c.Among.Written(t, ddltext.Literal), ", "))
	}
	var pairs []string
	for i := 1; i < len(c.Together); i++ {
		pairs = append(pairs, fmt.Sprintf("(%s IS NULL) = (%s IS NULL)", ddltext.Ident(c.Together[i-1]), ddltext.Ident(c.Together[i])))
	}
	return strings.Join(pairs, " AND ")
}
