// Package mysql holds what MySQL 8 has otherwise than MariaDB; what the two share stands in
// package mariadb. It was tried on a server that speaks its protocol and fills its views, and
// the shared part on MariaDB: see README.
package mysql

import (
	"fmt"
	"regexp"
	"slices"
	"strings"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/mariadb"
	"nexdal/internal/engine/mariadb/traits"
	"nexdal/internal/pattern"
)

// Engine is MySQL, version 8.0.16 and later: checks are kept since then.
var Engine = mariadb.Of(&traits.Family{
	Name: "mysql", Title: "MySQL", Serves: "8.0.16 and later", Schemes: []string{"mysql"}, Client: "mysql", Adopts: "8.0.36",
	Is: func(version string) bool {
		return !strings.Contains(version, "MariaDB") && atLeast(version, 8, 0, 16)
	},
	Alter: abilities,
	// max_execution_time bounds queries alone
	// (https://dev.mysql.com/doc/refman/8.4/en/server-system-variables.html).
	Patience: func(statement, lock time.Duration) []string {
		return []string{"SET SESSION TRANSACTION READ ONLY", fmt.Sprintf("SET SESSION max_execution_time = %d, lock_wait_timeout = %d", statement.Milliseconds(), max(1, int(lock.Seconds())))}
	},
	// A key that the server makes by itself is one
	// (https://dev.mysql.com/doc/refman/8.4/en/create-table-gipks.html).
	Shown:     []string{"SET SESSION show_gipk_in_create_table_and_information_schema = ON"},
	Unlimited: func(time.Duration) string { return "" },
	Views: traits.Views{
		Isolation: "transaction_isolation", SchemaComment: "''", Expression: "COALESCE(EXPRESSION, '')", Algorithm: "'UNDEFINED'",
		Ignored: func(int) string { return "IS_VISIBLE = 'NO'" },
		// https://dev.mysql.com/doc/refman/8.4/en/information-schema-check-constraints-table.html
		Checks: `SELECT CONSTRAINT_SCHEMA, TABLE_NAME, CONSTRAINT_NAME, CHECK_CLAUSE, FALSE, ENFORCED <> 'NO' FROM
			(SELECT c.CONSTRAINT_SCHEMA, t.TABLE_NAME, c.CONSTRAINT_NAME, c.CHECK_CLAUSE, t.ENFORCED FROM information_schema.CHECK_CONSTRAINTS c JOIN information_schema.TABLE_CONSTRAINTS t
				ON t.CONSTRAINT_SCHEMA = c.CONSTRAINT_SCHEMA AND t.CONSTRAINT_NAME = c.CONSTRAINT_NAME WHERE t.CONSTRAINT_TYPE = 'CHECK') x WHERE %s`,
		DefaultOf: defaultOf,
		Generated: unescaped,
		Apart:     true, // where several share a statement was not tried on it
		Several:   func(statements []string) (string, bool) { return strings.Join(statements, "; "), false },
		// https://dev.mysql.com/doc/refman/8.4/en/performance-schema-table-wait-summary-tables.html;
		// sys.schema_unused_indexes is made of it.
		Reads: `SELECT OBJECT_SCHEMA, OBJECT_NAME, INDEX_NAME, COUNT_FETCH FROM performance_schema.table_io_waits_summary_by_index_usage WHERE INDEX_NAME IS NOT NULL AND %s`,
		// https://dev.mysql.com/doc/refman/8.4/en/information-schema-column-statistics-table.html
		Nulls: `SELECT db_name, TABLE_NAME, COLUMN_NAME, nulls FROM
			(SELECT SCHEMA_NAME AS db_name, TABLE_NAME, COLUMN_NAME, JSON_EXTRACT(HISTOGRAM, '$."null-values"') AS nulls FROM information_schema.COLUMN_STATISTICS) x WHERE nulls IS NOT NULL AND %s`,
	},
	Texts: traits.Texts{Unused: "INVISIBLE", DropCheck: "DROP CHECK", NotEnforced: true, Instant: instant, Convert: func(string) bool { return false }},
})

var number = pattern.New(`^(\d+)\.(\d+)(?:\.(\d+))?`)

func atLeast(version string, parts ...int) bool {
	m := number.FindStringSubmatch(version)
	if m == nil {
		return false
	}
	var is [3]int
	for i := range is {
		fmt.Sscan(m[i+1], &is[i])
	}
	return slices.Compare(is[:], parts) >= 0
}

// abilities are those that differ
// (https://dev.mysql.com/doc/refman/8.4/en/invisible-columns.html,
// https://dev.mysql.com/doc/refman/8.4/en/create-index.html, "Functional Key Parts",
// https://dev.mysql.com/doc/refman/8.4/en/create-table-check-constraints.html,
// https://dev.mysql.com/doc/refman/8.4/en/create-table-foreign-keys.html).
func abilities(can *catalog.Abilities, version string) {
	can.AddedKeyType.Native = "bigint"
	for i, native := range []string{"smallint", "int", "bigint"} {
		can.IntegerTypes[i].Native = native
	}
	can.InvisibleColumns = atLeast(version, 8, 0, 23)
	can.IndexExpressions = true
	can.NotEnforced = true
	can.PlainAction = catalog.NoAction
	can.SequenceMost = 0
	can.CountsReads, can.ReadsAdvice = true, "switch performance_schema on, and survey the database itself"
	can.AnalyseAdvice = "ANALYZE TABLE ... UPDATE HISTOGRAM, then survey the database"
	can.Now = now
	can.Condition = nil // how the server writes one back was not seen
	can.ListBounds, can.RestBounds = nil, restBounds
	was := can.Reserved
	can.Reserved = func(word string) bool { return was(word) || reserved[word] }
}

// now is as the server shows it
// (https://dev.mysql.com/doc/refman/8.4/en/timestamp-initialization.html).
func now(t catalog.Type) string {
	if t.Family != catalog.Timestamp {
		return ""
	}
	_, digits, _ := strings.Cut(t.Native, "(")
	if digits = strings.TrimSuffix(digits, ")"); digits != "" {
		return "CURRENT_TIMESTAMP(" + digits + ")"
	}
	return "CURRENT_TIMESTAMP"
}

// restBounds: a list has no default here
// (https://dev.mysql.com/doc/refman/8.4/en/partitioning-list.html).
func restBounds(t *catalog.Table) string {
	if t.PartitionBy == nil || t.PartitionBy.Method != "range" {
		return ""
	}
	return "VALUES LESS THAN " + map[bool]string{true: "(" + strings.TrimSuffix(strings.Repeat("MAXVALUE, ", max(1, len(t.PartitionBy.Columns))), ", ") + ")", false: "MAXVALUE"}[strings.Contains(t.PartitionBy.Definition, "columns")]
}

var (
	bare    = []string{"tinyint", "smallint", "mediumint", "int", "bigint", "decimal", "float", "double", "bit", "year"}
	present = pattern.New(`(?i)^current_timestamp`)
)

// defaultOf: the view shows a literal without its quotes, and of an expression that it is one
// (https://dev.mysql.com/doc/refman/8.4/en/information-schema-columns-table.html).
func defaultOf(value, data, extra string) string {
	data = strings.ToLower(data)
	switch {
	case present.MatchString(value):
		return value
	case strings.Contains(strings.ToUpper(extra), "DEFAULT_GENERATED"):
		return "(" + unescaped(value) + ")"
	case slices.Contains(bare, data), strings.HasPrefix(value, "0x") && strings.HasSuffix(data, "binary"):
		return value
	}
	return "'" + strings.NewReplacer("'", "''", `\`, `\\`).Replace(value) + "'"
}

var escaped = regexp.MustCompile(`\\(.)`)

// unescaped takes back what the views escape in the expressions that they show.
func unescaped(expression string) string {
	return escaped.ReplaceAllStringFunc(expression, func(s string) string {
		switch s[1] {
		case '\'', '"', '\\':
			return s[1:]
		case 'n':
			return "\n"
		}
		return s
	})
}

var (
	adds    = pattern.New("(?i)^ADD COLUMN ")
	drops   = pattern.New("(?i)^DROP COLUMN ")
	stored  = pattern.New(`(?i) STORED\b|AUTO_INCREMENT|PRIMARY KEY|, `)
	behind  = pattern.New("(?i) (FIRST|AFTER) ")
	renames = pattern.New("(?i)^RENAME COLUMN ")
)

// instant: https://dev.mysql.com/doc/refman/8.4/en/innodb-online-ddl-operations.html. From
// 8.0.29 on a column comes and goes at any place without a look at the rows. An index is
// renamed in place alone, though only the catalog is altered then.
func instant(action, version string) bool {
	switch {
	case stored.MatchString(action):
		return false
	case adds.MatchString(action):
		return atLeast(version, 8, 0, 29) || !behind.MatchString(action)
	case drops.MatchString(action):
		return atLeast(version, 8, 0, 29)
	}
	return renames.MatchString(action) && atLeast(version, 8, 0, 28)
}

// reserved are the words that came with version 8
// (https://dev.mysql.com/doc/refman/8.4/en/keywords.html).
var reserved = func() map[string]bool {
	words := map[string]bool{}
	for _, w := range strings.Fields(`cube cume_dist dense_rank empty first_value function grouping groups json_table lag last_value lateral lead nth_value ntile of over percent_rank
		rank recursive row_number system virtual stored optimizer_costs io_after_gtids io_before_gtids master_bind get qualify tablesample parallel manual library`) {
		words[w] = true
	}
	return words
}()
