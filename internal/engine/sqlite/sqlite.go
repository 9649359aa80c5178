// Package sqlite reads and writes SQLite databases, 3.31 and later, through
// the embedded engine.
package sqlite

import (
	sqlite3 "modernc.org/sqlite/lib"

	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqlexpr"
	"nexdal/internal/engine/sqllex"
)

// Engine is SQLite.
type Engine struct{}

// Name is "sqlite".
func (Engine) Name() string { return "sqlite" }

// Title is the makers' spelling.
func (Engine) Title() string { return "SQLite" }

// Schemes lead to a file: sqlite:path.
func (Engine) Schemes() []string { return []string{"sqlite"} }

// Dialect of SQLite's tokenizer (https://www.sqlite.org/lang.html), with the
// dot commands of its shell.
func (Engine) Dialect() sqllex.Dialect {
	return sqllex.Dialect{Backquotes: true, Brackets: true, Letters: "length", Hints: sqllex.IndexedBy, Infers: true, Directives: "."}
}

// Abilities of every version from 3.31 on. The manual pages behind them:
// https://www.sqlite.org/foreignkeys.html section 2 (enforcement is asked for
// by each connection), https://www.sqlite.org/lang_createtable.html sections
// 3.5 (primary keys may hold nulls) and 5 (INTEGER PRIMARY KEY is the rowid).
func (Engine) Abilities(string) catalog.Abilities {
	return catalog.Abilities{
		ForeignKeysPerConnection: true,
		EnforcementAdvice:        "PRAGMA foreign_keys = ON",
		AddedKeyType:             typeOf("INTEGER", ""),
		AddedKeyIdentity:         catalog.IdentityRowid,
		OwnOrder:                 ownOrder,
		NullableKeys:             true,
		ViewsBreak:               true,
		Strays:                   strays,
		SystemNamedKeys:          true,
		ConstraintCopies:         true,
		ClusteredByKey:           func(t *catalog.Table) bool { return t.Has(withoutRowid) },
		AnalyseAdvice:            "ANALYZE on the database, then survey it",
		DeferrableReferences:     true,
		PartialIndexes:           true,
		Obsolete:                 obsolete,
		Now: func(t catalog.Type) string {
			return map[bool]string{true: "CURRENT_TIMESTAMP", false: ""}[t.Family == catalog.Timestamp || t.Family == catalog.Text]
		},
		Condition:   condition,
		Expressions: sqlexpr.Reader{Dialect: Engine{}.Dialect()},
	}
}

// ownOrder: a rowid table's key on a single column declared as just INTEGER
// is the rowid itself.
func ownOrder(t *catalog.Table, columns []string) bool {
	if len(columns) != 1 || t.Has(withoutRowid) {
		return false
	}
	c := t.Column(columns[0])
	return c != nil && strings.EqualFold(c.Type.Native, "INTEGER")
}

// The table options of SQLite.
const (
	strict       = "strict"
	withoutRowid = "without rowid"
)

// typeOf classifies a declared type by the rules of
// https://www.sqlite.org/datatype3.html section 3.1, and names the family
// that the declaration speaks of.
func typeOf(native, collation string) catalog.Type {
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

// Serves names the versions whose files are read, and the engine that reads them.
func (Engine) Serves() string { return "3.31 and later, by the built-in " + sqlite3.SQLITE_VERSION }
