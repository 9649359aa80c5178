package traits

import (
	"fmt"
	"strings"

	"nexdal/internal/catalog"
)

// What a table may be besides a plain one.
const (
	RowsOfSession     = "temporary, rows of a session"
	RowsOfTransaction = "temporary, rows of a transaction"
)

// GrantToMake is the right to make, alter or drop objects of a kind, which belongs to no object
// (https://firebirdsql.org/file/documentation/html/en/refdocs/fblangref30/firebird-30-language-reference.html#fblangref-security-grant-ddl).
const GrantToMake = "right to make"

// Grantable ends a grant that may be handed on.
func Grantable(may bool) string {
	if may {
		return " WITH GRANT OPTION"
	}
	return ""
}

// TriggerHead is what stands before the text that the engine keeps of a trigger.
func TriggerHead(g *catalog.Trigger, on string) string {
	return fmt.Sprintf("CREATE TRIGGER %s FOR %s\nACTIVE %s %s POSITION %d\n", Ident(g.Name), Ident(on), strings.ToUpper(g.Timing), strings.ToUpper(strings.Join(g.Events, " OR ")), g.Order)
}

// UsualStart is where counting begins, where nothing is said.
func UsualStart(version string) int64 {
	if Major(version) < 4 {
		return 0
	}
	return 1
}

// SystemNamed reports whether the engine made the name of a constraint up.
func SystemNamed(name string) bool { return name == "" || strings.HasPrefix(name, "INTEG_") }

// TypeText is a type with its collation. Whose letters are of another character set than the
// database's says so itself.
func TypeText(t catalog.Type) string {
	if c := Collated(t); c != "" {
		return t.Native + " COLLATE " + c
	}
	return t.Native
}

// Collated is the collation that has to be said, or "".
func Collated(t catalog.Type) string {
	if t.Collation == "" {
		return ""
	}
	return Ident(t.Collation)
}

// IsBlobType reports whether values of the type lie apart from their rows: they are neither
// compared nor part of an index.
func IsBlobType(t catalog.Type) bool {
	base := t.Native
	if t.Underlying != "" {
		base = t.Underlying
	}
	return strings.HasPrefix(base, "BLOB")
}

// Uncompared are the types whose values the engine does not compare, or that are no text.
func Uncompared(t catalog.Type) bool {
	return IsBlobType(t) || t.Family == catalog.Array || t.Family == catalog.Binary || t.Family == catalog.Other
}
