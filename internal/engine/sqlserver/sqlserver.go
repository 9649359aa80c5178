// Package sqlserver reads and writes databases of Microsoft SQL Server, 2016 and later, and
// those of its family in Azure, by the catalog views that its manual documents
// (https://learn.microsoft.com/en-us/sql/relational-databases/system-catalog-views/).
package sqlserver

import (
	"strconv"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/sqlexpr"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/text"
)

// Engine is SQL Server.
type Engine struct{}

// Name is "sqlserver".
func (Engine) Name() string { return "sqlserver" }

// Title is the makers' spelling.
func (Engine) Title() string { return "SQL Server" }

// Schemes of its connection URLs.
func (Engine) Schemes() []string { return []string{"sqlserver"} }

// Serves says what this was tried on.
func (Engine) Serves() string {
	return "2016 and later, by its documented catalog views, tried on a simulated server alone"
}

// Dialect of its lexer (https://learn.microsoft.com/en-us/sql/relational-databases/databases/database-identifiers,
// https://learn.microsoft.com/en-us/sql/tools/sqlcmd/sqlcmd-commands for the lines of its client).
func (Engine) Dialect() sqllex.Dialect {
	return sqllex.Dialect{Brackets: true, DoubledBracket: true, National: true, Batches: true, NestedComments: true, CountsInto: true, Letters: "len", Hints: sqllex.WithIndex, Directives: ":"}
}

// expressions reads those of the engine.
var expressions = sqlexpr.Reader{Dialect: Engine{}.Dialect()}

// quoting knows the words that need brackets as names
// (https://learn.microsoft.com/en-us/sql/t-sql/language-elements/reserved-keywords-transact-sql).
var quoting = sqllex.NewQuoting("[", `add all alter and any as asc authorization backup begin between break browse bulk by cascade case check checkpoint close clustered coalesce collate column commit compute constraint contains containstable continue convert create cross current current_date current_time current_timestamp current_user cursor database dbcc deallocate declare default delete deny desc disk distinct distributed double drop dump else end errlvl escape except exec execute exists exit external fetch file fillfactor for foreign freetext freetexttable from full function goto grant group having holdlock identity identity_insert identitycol if in index inner insert intersect into is join key kill left like lineno load merge national nocheck nonclustered not null nullif of off offsets on open opendatasource openquery openrowset openxml option or order outer over percent pivot plan precision primary print proc procedure public raiserror read readtext reconfigure references replication restore restrict return revert revoke right rollback rowcount rowguidcol rule save schema securityaudit select semantickeyphrasetable semanticsimilaritydetailstable semanticsimilaritytable session_user set setuser shutdown some statistics system_user table tablesample textsize then to top tran transaction trigger truncate try_convert tsequal union unique unpivot update updatetext use user values varying view waitfor when where while with within writetext`).WithTop().WithCollations(inCollation)

// inCollation: texts of two collations are not compared (error 468)
// (https://learn.microsoft.com/en-us/sql/t-sql/statements/collation-precedence-transact-sql).
func inCollation(_ sqllex.Quoting, value string, as catalog.Type) string {
	if as.Collation == "" {
		return value + " COLLATE DATABASE_DEFAULT"
	}
	return value + " COLLATE " + as.Collation
}

func ident(name string) string     { return quoting.Ident(name) }
func idents(names []string) string { return quoting.Idents(names) }

// literal writes a text; the letters of any script stand in it.
func literal(s string) string { return "N'" + strings.ReplaceAll(s, "'", "''") + "'" }

// qualified writes a name with its schema.
func qualified(schema, name string) string { return ident(schema) + "." + ident(name) }

func relation(r catalog.Ref) string { return qualified(r.Schema, r.Table) }

// Quoting writes names as the engine wants them.
func (Engine) Quoting() sqllex.Quoting { return quoting }

// Relation is the table's name with its schema.
func (Engine) Relation(r catalog.Ref) string { return relation(r) }

// ClientLine is a call of sqlcmd, which stops at the first error, and for which $(name) is a text
// like others
// (https://learn.microsoft.com/en-us/sql/tools/sqlcmd/sqlcmd-utility).
func (Engine) ClientLine(address, file string) string {
	if address == "" {
		return "sqlcmd -b -x -I -d DATABASE -i " + file
	}
	c, err := parse(address)
	if err != nil {
		return "sqlcmd -b -x -I -i " + file
	}
	return "sqlcmd " + text.Shells([]string{"-b", "-x", "-I", "-S", c.Host + "," + strconv.FormatUint(c.Port, 10), "-d", c.Database, "-i", file})
}

var (
	_ engine.Opener = Engine{}
	_ engine.Client = Engine{}
)

// major is the first number of a version: 16 is that of 2022.
func major(version string) int {
	first, _, _ := strings.Cut(version, ".")
	n, _ := strconv.Atoi(first)
	return n
}

// Editions by SERVERPROPERTY('EngineEdition')
// (https://learn.microsoft.com/en-us/sql/t-sql/functions/serverproperty-transact-sql).
const (
	editionEnterprise = "3"
	editionDatabase   = "5" // Azure SQL Database
	editionInstance   = "8" // Azure SQL Managed Instance
)

// online reports whether indexes are built while others write: an edition's ability
// (https://learn.microsoft.com/en-us/sql/relational-databases/indexes/guidelines-for-online-index-operations).
func online(c *catalog.Catalog) bool {
	s, _ := c.Setting("engine edition")
	return s.Value == editionEnterprise || s.Value == editionDatabase || s.Value == editionInstance
}

// azure reports whether the database is one of Azure's, which have the newest abilities whatever
// their version says.
func azure(c *catalog.Catalog) bool {
	s, _ := c.Setting("engine edition")
	return s.Value == editionDatabase || s.Value == editionInstance
}
