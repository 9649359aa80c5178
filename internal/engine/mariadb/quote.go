package mariadb

import (
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqllex"
)

// quoting leaves no name bare: the list of reserved words grows with every
// version.
var quoting = sqllex.AlwaysQuoting("`")

func ident(name string) string     { return quoting.Ident(name) }
func idents(names []string) string { return quoting.Idents(names) }

func relation(r catalog.Ref) string { return ident(r.Schema) + "." + ident(r.Table) }

func literal(s string) string {
	return "'" + strings.NewReplacer("'", "''", `\`, `\\`).Replace(s) + "'"
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
