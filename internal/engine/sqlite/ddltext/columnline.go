package ddltext

import (
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/pattern"
)

// The table options of SQLite.
const (
	Strict       = "strict"
	WithoutRowid = "without rowid"
)

// plainDefault fits what may stand behind DEFAULT without brackets
// (https://www.sqlite.org/lang_createtable.html#the_default_clause).
var plainDefault = pattern.New(`(?is)^(?:[+-]?\s*(?:[0-9][0-9a-z_]*(?:\.[0-9_]*)?(?:e[+-]?[0-9]+)?|\.[0-9]+(?:e[+-]?[0-9]+)?)|x?'(?:[^']|'')*'|"(?:[^"]|"")*"|null|true|false|current_(?:time|date|timestamp))$`)

// defaultText is a default as it stands behind DEFAULT: the engine tells it without the brackets
// that an expression needs.
func defaultText(value string) string {
	if plainDefault.MatchString(value) {
		return value
	}
	return "(" + value + ")"
}

// ColumnLine is a column as it is declared, without what numbers it.
func ColumnLine(c *catalog.Column) string {
	text := strings.TrimSpace(Ident(c.Name) + " " + c.Type.Native)
	if c.Identity != catalog.NoIdentity {
		return text
	}
	if !c.Nullable {
		text += " NOT NULL"
	}
	switch {
	case c.Generated != "":
		text += " GENERATED ALWAYS AS (" + c.Generated + ")"
		if c.Stored {
			text += " STORED"
		}
	case c.Default != "":
		text += " DEFAULT " + defaultText(c.Default)
	}
	if c.Type.Collation != "" {
		text += " COLLATE " + Collation(c.Type.Collation)
	}
	return text
}
