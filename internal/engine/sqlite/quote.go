package sqlite

import (
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/pattern"
)

// quoting knows the engine's keywords (https://www.sqlite.org/lang_keywords.html).
var quoting = sqllex.NewQuoting(`"`, `abort action add after all alter always analyze and as asc attach autoincrement before begin between by cascade case cast check collate column commit conflict constraint create cross current current_date current_time current_timestamp database default deferrable deferred delete desc detach distinct do drop each else end escape except exclude exclusive exists explain fail filter first following for foreign from full generated glob group groups having if ignore immediate in index indexed initially inner insert instead intersect into is isnull join key last left like limit match materialized natural no not nothing notnull null nulls of offset on or order others outer over partition plan pragma preceding primary query raise range recursive references regexp reindex release rename replace restrict returning right rollback row rows savepoint select set table temp temporary then ties to transaction trigger unbounded union unique update using vacuum values view virtual when where window with within without true false`)

func ident(name string) string     { return quoting.Ident(name) }
func idents(names []string) string { return quoting.Idents(names) }

var plainCollation = pattern.New(`^[A-Z_][A-Z0-9_]*$`)

// collation writes a collation's name, the way people do.
func collation(name string) string {
	if plainCollation.MatchString(name) && !quoting.Reserved(strings.ToLower(name)) {
		return name
	}
	return ident(name)
}

// literal writes a string.
func literal(s string) string { return "'" + strings.ReplaceAll(s, "'", "''") + "'" }

// Quoting writes names as the engine wants them.
func (Engine) Quoting() sqllex.Quoting { return quoting }

// Relation is the table's name: there is one schema.
func (Engine) Relation(r catalog.Ref) string { return ident(r.Table) }

// Holding keeps other writers out of the database
// (https://www.sqlite.org/lang_transaction.html).
func (Engine) Holding(...catalog.Ref) []string { return []string{"BEGIN IMMEDIATE"} }
