// Package ddltext reads and alters the texts of CREATE statements, which SQLite keeps as they were
// written.
package ddltext

import (
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/pattern"
)

// Quoting knows the engine's keywords (https://www.sqlite.org/lang_keywords.html).
var Quoting = sqllex.NewQuoting(`"`, `abort action add after all alter always analyze and as asc attach autoincrement before begin between by cascade case cast check collate column commit conflict constraint create cross current current_date current_time current_timestamp database default deferrable deferred delete desc detach distinct do drop each else end escape except exclude exclusive exists explain fail filter first following for foreign from full generated glob group groups having if ignore immediate in index indexed initially inner insert instead intersect into is isnull join key last left like limit match materialized natural no not nothing notnull null nulls of offset on or order others outer over partition plan pragma preceding primary query raise range recursive references regexp reindex release rename replace restrict returning right rollback row rows savepoint select set table temp temporary then ties to transaction trigger unbounded union unique update using vacuum values view virtual when where window with within without true false`)

// Ident writes a name.
func Ident(name string) string { return Quoting.Ident(name) }

// Idents writes names, with commas between them.
func Idents(names []string) string { return Quoting.Idents(names) }

var plainCollation = pattern.New(`^[A-Z_][A-Z0-9_]*$`)

// Collation writes a collation's name, the way people do.
func Collation(name string) string {
	if plainCollation.MatchString(name) && !Quoting.Reserved(strings.ToLower(name)) {
		return name
	}
	return Ident(name)
}

// Literal writes a string.
func Literal(s string) string { return "'" + strings.ReplaceAll(s, "'", "''") + "'" }

// Texts are SQLite's.
type Texts struct{}

// Dialect of SQLite's tokenizer (https://www.sqlite.org/lang.html), with the
// dot commands of its shell.
func (Texts) Dialect() sqllex.Dialect {
	return sqllex.Dialect{Backquotes: true, Brackets: true, Letters: "length", Hints: sqllex.IndexedBy, Infers: true, Directives: "."}
}

// Quoting writes names as the engine wants them.
func (Texts) Quoting() sqllex.Quoting { return Quoting }

// Relation is the table's name: there is one schema.
func (Texts) Relation(r catalog.Ref) string { return Ident(r.Table) }

// Holding keeps other writers out of the database
// (https://www.sqlite.org/lang_transaction.html).
func (Texts) Holding(...catalog.Ref) []string { return []string{"BEGIN IMMEDIATE"} }
