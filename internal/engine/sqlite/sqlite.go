// Package sqlite reads and writes SQLite databases, 3.31 and later, through
// the embedded engine.
package sqlite

import (
	"strings"

	sqlite3 "modernc.org/sqlite/lib"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqlexpr"
	"nexdal/internal/engine/sqlite/ddltext"
)

// Engine is SQLite.
type Engine struct{ ddltext.Texts }

// Name is "sqlite".
func (Engine) Name() string { return "sqlite" }

// Title is the makers' spelling.
func (Engine) Title() string { return "SQLite" }

// Schemes lead to a file: sqlite:path.
func (Engine) Schemes() []string { return []string{"sqlite"} }

// Abilities of every version from 3.31 on. The manual pages behind them:
// https://www.sqlite.org/foreignkeys.html section 2 (enforcement is asked for
// by each connection), https://www.sqlite.org/lang_createtable.html sections
// 3.5 (primary keys may hold nulls) and 5 (INTEGER PRIMARY KEY is the rowid).
func (Engine) Abilities(string) catalog.Abilities {
	return catalog.Abilities{
		ForeignKeysPerConnection: true,
		EnforcementAdvice:        "PRAGMA foreign_keys = ON",
		AddedKeyType:             ddltext.TypeOf("INTEGER", ""),
		AddedKeyIdentity:         catalog.IdentityRowid,
		OwnOrder:                 ownOrder,
		NullableKeys:             true,
		ReferencesAtEnd:          true, // https://www.sqlite.org/foreignkeys.html#fk_deferred
		ViewsBreak:               true,
		Strays:                   strays,
		SystemNamedKeys:          true,
		ConstraintCopies:         true,
		ClusteredByKey:           func(t *catalog.Table) bool { return t.Has(ddltext.WithoutRowid) },
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
	if len(columns) != 1 || t.Has(ddltext.WithoutRowid) {
		return false
	}
	c := t.Column(columns[0])
	return c != nil && strings.EqualFold(c.Type.Native, "INTEGER")
}

// Serves names the versions whose files are read, and the engine that reads them.
func (Engine) Serves() string { return "3.31 and later, by the built-in " + sqlite3.SQLITE_VERSION }
