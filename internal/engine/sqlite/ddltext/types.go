package ddltext

import (
	"slices"
	"strings"

	"nexdal/internal/catalog"
)

// TypeOf classifies a declared type by the rules of
// https://www.sqlite.org/datatype3.html section 3.1, and names the family
// that the declaration speaks of.
func TypeOf(native, collation string) catalog.Type {
	t := catalog.Type{Native: native, Collation: collation, Family: family(native)}
	upper := strings.ToUpper(native)
	has := func(parts ...string) bool {
		return slices.ContainsFunc(parts, func(p string) bool { return strings.Contains(upper, p) })
	}
	switch {
	case has("INT"):
		t.Class, t.Bits = "number", 64
	case has("CHAR", "CLOB", "TEXT"):
		t.Class = "text"
	case native == "", has("BLOB"), upper == "ANY":
		t.Class = "any value as it comes"
	default:
		t.Class = "number"
	}
	return t
}

func family(native string) catalog.Family {
	word := strings.ToUpper(native)
	if i := strings.IndexByte(word, '('); i >= 0 {
		word = word[:i]
	}
	word = strings.TrimSpace(word)
	switch word {
	case "":
		return catalog.Untyped
	case "BOOLEAN", "BOOL":
		return catalog.Boolean
	case "DATE":
		return catalog.Date
	case "TIME":
		return catalog.Time
	case "JSON":
		return catalog.JSON
	case "UUID", "GUID":
		return catalog.UUID
	}
	for _, f := range []struct {
		part   string
		family catalog.Family
	}{{"DATETIME", catalog.Timestamp}, {"TIMESTAMP", catalog.Timestamp}, {"INT", catalog.Integer}, {"CHAR", catalog.Text},
		{"CLOB", catalog.Text}, {"TEXT", catalog.Text}, {"BLOB", catalog.Binary}, {"REAL", catalog.Float},
		{"FLOA", catalog.Float}, {"DOUB", catalog.Float}, {"NUMERIC", catalog.Decimal}, {"DECIMAL", catalog.Decimal}} {
		if strings.Contains(word, f.part) {
			return f.family
		}
	}
	return catalog.Other
}
