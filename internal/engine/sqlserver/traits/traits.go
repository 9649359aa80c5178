// Package traits says what SQL Server is like: how it writes names and texts, and what tells its
// versions and editions apart.
package traits

import (
	"strconv"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqlexpr"
	"nexdal/internal/engine/sqllex"
)

// Traits are those of SQL Server.
type Traits struct{}

// Name is "sqlserver".
func (Traits) Name() string { return "sqlserver" }

// Title is the makers' spelling.
func (Traits) Title() string { return "SQL Server" }

// Schemes of its connection URLs.
func (Traits) Schemes() []string { return []string{"sqlserver"} }

// Serves says what this was tried on.
func (Traits) Serves() string {
	return "2016 and later, by its documented catalog views, tried on a simulated server alone"
}

// Dialect of its lexer (https://learn.microsoft.com/en-us/sql/relational-databases/databases/database-identifiers,
// https://learn.microsoft.com/en-us/sql/tools/sqlcmd/sqlcmd-commands for the lines of its client).
func (Traits) Dialect() sqllex.Dialect {
	return sqllex.Dialect{Brackets: true, DoubledBracket: true, National: true, Batches: true, NestedComments: true, CountsInto: true, Letters: "len", Hints: sqllex.WithIndex, Directives: ":"}
}

// Expressions reads those of the engine.
var Expressions = sqlexpr.Reader{Dialect: Traits{}.Dialect()}

// Quoting knows the words that need brackets as names
// (https://learn.microsoft.com/en-us/sql/t-sql/language-elements/reserved-keywords-transact-sql).
var Quoting = sqllex.NewQuoting("[", `add all alter and any as asc authorization backup begin between break browse bulk by cascade case check checkpoint close clustered coalesce collate column commit compute constraint contains containstable continue convert create cross current current_date current_time current_timestamp current_user cursor database dbcc deallocate declare default delete deny desc disk distinct distributed double drop dump else end errlvl escape except exec execute exists exit external fetch file fillfactor for foreign freetext freetexttable from full function goto grant group having holdlock identity identity_insert identitycol if in index inner insert intersect into is join key kill left like lineno load merge national nocheck nonclustered not null nullif of off offsets on open opendatasource openquery openrowset openxml option or order outer over percent pivot plan precision primary print proc procedure public raiserror read readtext reconfigure references replication restore restrict return revert revoke right rollback rowcount rowguidcol rule save schema securityaudit select semantickeyphrasetable semanticsimilaritydetailstable semanticsimilaritytable session_user set setuser shutdown some statistics system_user table tablesample textsize then to top tran transaction trigger truncate try_convert tsequal union unique unpivot update updatetext use user values varying view waitfor when where while with within writetext`).WithTop().WithCollations(inCollation)

// inCollation: texts of two collations are not compared (error 468)
// (https://learn.microsoft.com/en-us/sql/t-sql/statements/collation-precedence-transact-sql).
func inCollation(_ sqllex.Quoting, value string, as catalog.Type) string {
	if as.Collation == "" {
		return value + " COLLATE DATABASE_DEFAULT"
	}
	return value + " COLLATE " + as.Collation
}

// Ident writes a name.
func Ident(name string) string { return Quoting.Ident(name) }

// Idents writes names, with commas between them.
func Idents(names []string) string { return Quoting.Idents(names) }

// Literal writes a text; the letters of any script stand in it.
func Literal(s string) string { return "N'" + strings.ReplaceAll(s, "'", "''") + "'" }

// Qualified writes a name with its schema.
func Qualified(schema, name string) string { return Ident(schema) + "." + Ident(name) }

// Relation writes the name of a table or a view with its schema.
func Relation(r catalog.Ref) string { return Qualified(r.Schema, r.Table) }

// Quoting writes names as the engine wants them.
func (Traits) Quoting() sqllex.Quoting { return Quoting }

// Relation is the table's name with its schema.
func (Traits) Relation(r catalog.Ref) string { return Relation(r) }

// Major is the first number of a version: 16 is that of 2022.
func Major(version string) int {
	first, _, _ := strings.Cut(version, ".")
	n, _ := strconv.Atoi(first)
	return n
}

// Editions by SERVERPROPERTY('EngineEdition')
// (https://learn.microsoft.com/en-us/sql/t-sql/functions/serverproperty-transact-sql).
const (
	editionEnterprise = "3"
	EditionDatabase   = "5" // Azure SQL Database
	EditionInstance   = "8" // Azure SQL Managed Instance
)

// Online reports whether indexes are built while others write: an edition's ability
// (https://learn.microsoft.com/en-us/sql/relational-databases/indexes/guidelines-for-online-index-operations).
func Online(c *catalog.Catalog) bool {
	s, _ := c.Setting("engine edition")
	return s.Value == editionEnterprise || s.Value == EditionDatabase || s.Value == EditionInstance
}

// Azure reports whether the database is one of Azure's, which have the newest abilities whatever
// their version says.
func Azure(c *catalog.Catalog) bool {
	s, _ := c.Setting("engine edition")
	return s.Value == EditionDatabase || s.Value == EditionInstance
}

// DefaultName is as the server would begin the name, without its numbers.
func DefaultName(table, column string) string { return CutName("DF_" + table + "_" + column) }

// CutName keeps a name within what the server takes.
func CutName(name string) string {
	if letters := []rune(name); len(letters) > 128 {
		return string(letters[:128])
	}
	return name
}

// Bracket writes a name as the server writes it in its texts.
func Bracket(name string) string { return "[" + strings.ReplaceAll(name, "]", "]]") + "]" }
