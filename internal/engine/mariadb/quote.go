package mariadb

import (
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqllex"
)

// quoting leaves no name bare: the list of reserved words grows with every
// version.
var quoting = sqllex.AlwaysQuoting("`").WithCollations(inCollation)

// inCollation: texts of two collations are not compared
// (https://mariadb.com/kb/en/character-sets/, error 1267).
func inCollation(_ sqllex.Quoting, value string, as catalog.Type) string {
	if as.Collation == "" {
		return value
	}
	return "CONVERT(" + value + " USING " + charset(as) + ") COLLATE " + as.Collation
}

func ident(name string) string     { return quoting.Ident(name) }
func idents(names []string) string { return quoting.Idents(names) }

func relation(r catalog.Ref) string { return ident(r.Schema) + "." + ident(r.Table) }

func literal(s string) string {
	return "'" + strings.NewReplacer("'", "''", `\`, `\\`).Replace(s) + "'"
}

// noBackslashes is the sql_mode under which a backslash in a string is one
// (https://mariadb.com/kb/en/sql-mode/#no_backslash_escapes).
const noBackslashes = "NO_BACKSLASH_ESCAPES"

// literalIn writes a string as it is read under the sql_mode.
func literalIn(mode, s string) string {
	if strings.Contains(mode, noBackslashes) {
		return "'" + strings.ReplaceAll(s, "'", "''") + "'"
	}
	return literal(s)
}

// dialectIn is how a text that was written under the sql_mode is cut.
func dialectIn(mode string) sqllex.Dialect {
	d := Engine{}.Dialect()
	d.Backslashes = !strings.Contains(mode, noBackslashes)
	return d
}

// Quoting writes names as the engine wants them.
func (Engine) Quoting() sqllex.Quoting { return quoting }

// Relation is the table's name with its database.
func (Engine) Relation(r catalog.Ref) string { return relation(r) }

// Holding has what is read locked to the end of the transaction
// (https://mariadb.com/kb/en/set-transaction/).
func (Engine) Holding(...catalog.Ref) []string {
	return []string{"SET TRANSACTION ISOLATION LEVEL SERIALIZABLE", "BEGIN"}
}
