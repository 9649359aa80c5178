package traits

import (
	"fmt"
	"strings"
	"time"

	"nexdal/internal/catalog"
)

// A Family says what one server has otherwise than the others that speak its protocol and
// keep their structure in the same views. What they share stands once, in this package, and is
// MariaDB's; what another server has otherwise is its own package's.
type Family struct {
	Name, Title string   // "mariadb", "MariaDB"
	Serves      string   // which versions: "10.5 and later"
	Schemes     []string // of its URLs
	Client      string   // its own client's program
	Adopts      string   // the version that a structure is taken over for
	UUIDs       bool     // it has a type for them: https://mariadb.com/kb/en/uuid-data-type/
	// Is reports whether the server that says this version is one of it.
	Is func(version string) bool
	// Alter makes of MariaDB's abilities those of the version. Nil: they are.
	Alter func(can *catalog.Abilities, version string)
	// Patience are the statements that make a session read-only, and say how long a statement
	// of it may take and wait for a lock: the server may refuse any but the first.
	Patience func(statement, lock time.Duration) []string
	// Shown are statements that every session begins with, so that the server hides nothing;
	// one that it does not take is passed over.
	Shown []string
	// Blocks: statements can be put together in a block outside routines.
	Blocks bool
	// Unlimited is what a script says of how long a statement may take; empty: nothing does.
	Unlimited func(statement time.Duration) string

	Views
	Texts
}

// Views are what the server calls things in its views.
type Views struct {
	Isolation     string                                 // the variable of the isolation level
	SchemaComment string                                 // expression of SCHEMATA
	Ignored       func(version int) string               // expression of STATISTICS: an index that no search uses
	Expression    string                                 // of STATISTICS: what a part of an index is computed by
	Checks        string                                 // the question for checks: schema, table, name, clause, of a column, enforced
	Algorithm     string                                 // expression of VIEWS
	DefaultOf     func(value, data, extra string) string // a column's default as a statement writes it
	Generated     func(expression string) string         // the like of a computed column, a check, a part of an index
	Sequences     bool
	// Several is how several statements are sent at once. goesOn: behind one that fails, the
	// others are carried out.
	Several func(statements []string) (text string, goesOn bool)
	// Reads is the question for how often each index was read: schema, table, index, times; empty:
	// nobody counts.
	Reads string
	// Grouping stands behind SELECT where many groups are to be expected.
	Grouping string
	// Apart: a question to the data is about one table alone, however small.
	Apart bool
	// Nulls is the question for the shares of nulls: schema, table, column, share.
	Nulls string
}

// Texts are what the server takes in statements.
type Texts struct {
	Unused      string // an index that no search uses: "IGNORED"
	DropCheck   string // "DROP CONSTRAINT"
	Conditional bool   // IF EXISTS in ALTER TABLE, and statements outside routines that go on after an error
	OrReplace   bool   // CREATE OR REPLACE of routines and triggers
	// Convert: a partition can be made a table, and a table a partition.
	Convert func(version string) bool
	// NotEnforced: a check can be declared so that nothing keeps it.
	NotEnforced bool
	// Instant is what an action that only alters the catalog adds to its statement, from the
	// version on.
	Instant func(action, version string) bool
}

// MariaDB has what the family shares.
var MariaDB = Family{
	Name: "mariadb", Title: "MariaDB", Serves: "10.5 and later", Schemes: []string{"mariadb"}, Client: "mariadb", Adopts: "10.11", UUIDs: true, Blocks: true,
	Is: func(version string) bool { return strings.Contains(version, "MariaDB") },
	Patience: func(statement, lock time.Duration) []string {
		return []string{"SET SESSION TRANSACTION READ ONLY", fmt.Sprintf("SET SESSION max_statement_time = %f, lock_wait_timeout = %d", statement.Seconds(), max(1, int(lock.Seconds())))}
	},
	Unlimited: func(statement time.Duration) string {
		return fmt.Sprintf("SET SESSION max_statement_time = %v", statement.Seconds())
	},
	Views: Views{
		Isolation: "tx_isolation", SchemaComment: "COALESCE(SCHEMA_COMMENT, '')", Expression: "''", Algorithm: "ALGORITHM", Sequences: true,
		Ignored: func(version int) string {
			if version >= 1006 { // https://mariadb.com/kb/en/ignored-indexes/
				return "IGNORED = 'YES'"
			}
			return "FALSE"
		},
		Checks: `SELECT CONSTRAINT_SCHEMA, TABLE_NAME, CONSTRAINT_NAME, CHECK_CLAUSE, LEVEL = 'Column', TRUE FROM information_schema.CHECK_CONSTRAINTS WHERE %s`,
		DefaultOf: func(value, _, _ string) string {
			if value == "NULL" {
				return ""
			}
			return value
		},
		Generated: func(expression string) string { return expression },
		Several: func(statements []string) (string, bool) {
			return "BEGIN NOT ATOMIC DECLARE CONTINUE HANDLER FOR SQLEXCEPTION BEGIN END; " + strings.Join(statements, "; ") + "; END", true
		},
		// Sorting takes a twelfth of the time that a temporary table of a million
		// groups does (https://mariadb.com/kb/en/select/#sql_small_result-sql_big_result).
		Grouping: "SQL_BIG_RESULT ",
		Nulls:    `SELECT db_name, table_name, column_name, nulls_ratio FROM mysql.column_stats WHERE nulls_ratio IS NOT NULL AND %s`,
	},
	Texts: Texts{Unused: "IGNORED", DropCheck: "DROP CONSTRAINT", Conditional: true, OrReplace: true, Convert: convertsPartitions},
}

// Family is the server's.
func (e Traits) Family() *Family {
	if e.Is == nil {
		return &MariaDB
	}
	return e.Is
}
