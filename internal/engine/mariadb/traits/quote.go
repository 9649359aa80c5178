package traits

import (
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqllex"
)

// Quoting leaves no name bare: the list of reserved words grows with every
// version.
var Quoting = sqllex.AlwaysQuoting("`").WithCollations(inCollation)

// inCollation: texts of two collations are not compared
// (https://mariadb.com/kb/en/character-sets/, error 1267).
func inCollation(_ sqllex.Quoting, value string, as catalog.Type) string {
	if as.Collation == "" {
		return value
	}
	return "CONVERT(" + value + " USING " + Charset(as) + ") COLLATE " + as.Collation
}

// Ident writes a name.
func Ident(name string) string { return Quoting.Ident(name) }

// Idents writes names, with commas between them.
func Idents(names []string) string { return Quoting.Idents(names) }

// Relation writes the name of a table or a view with its database.
func Relation(r catalog.Ref) string { return Ident(r.Schema) + "." + Ident(r.Table) }

// Literal writes a text.
func Literal(s string) string {
	return "'" + strings.NewReplacer("'", "''", `\`, `\\`).Replace(s) + "'"
}

// NoBackslashes is the sql_mode under which a backslash in a string is one
// (https://mariadb.com/kb/en/sql-mode/#no_backslash_escapes).
const NoBackslashes = "NO_BACKSLASH_ESCAPES"

// LiteralIn writes a string as it is read under the sql_mode.
func LiteralIn(mode, s string) string {
	if strings.Contains(mode, NoBackslashes) {
		return "'" + strings.ReplaceAll(s, "'", "''") + "'"
	}
	return Literal(s)
}

// DialectIn is how a text that was written under the sql_mode is cut.
func DialectIn(mode string) sqllex.Dialect {
	d := Traits{}.Dialect()
	d.Backslashes = !strings.Contains(mode, NoBackslashes)
	return d
}

// Quoting writes names as the engine wants them.
func (Traits) Quoting() sqllex.Quoting { return Quoting }

// Relation is the table's name with its database.
func (Traits) Relation(r catalog.Ref) string { return Relation(r) }

// Holding has what is read locked to the end of the transaction
// (https://mariadb.com/kb/en/set-transaction/).
func (Traits) Holding(...catalog.Ref) []string {
	return []string{"SET TRANSACTION ISOLATION LEVEL SERIALIZABLE", "BEGIN"}
}
