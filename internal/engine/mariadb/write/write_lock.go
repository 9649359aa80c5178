package write

import (
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/pattern"
)

// What makes the engine rewrite a table, or move columns. A name or a text
// that holds the words costs a stronger lock, and nothing else.
var (
	written = pattern.New(`(MODIFY|ADD|DROP) COLUMN|PRIMARY KEY`)
	altered = pattern.New(`MODIFY COLUMN|PRIMARY KEY`)
	moved   = pattern.New(`DROP COLUMN| FIRST| AFTER `)
	unique  = pattern.New(`MODIFY COLUMN|UNIQUE`)
	special = pattern.New(`ADD (FULLTEXT|SPATIAL) INDEX`)
)

// attainable is the weakest lock under which the table lets itself be altered, ""
// where it is copied whatever the lock. A full-text or spatial index is built
// again with the table, for which InnoDB holds writers off; tables with computed
// columns are altered in a copy, for the most part
// (https://mariadb.com/kb/en/innodb-online-ddl-overview/ and what 10.11 answers).
func attainable(t *catalog.Table, lock, actions string) string {
	if t == nil {
		return lock
	}
	if slices.ContainsFunc(t.Options, func(o string) bool { return strings.HasPrefix(o, "engine ") }) {
		return ""
	}
	if lock != "" && special.MatchString(actions) {
		return "SHARED"
	}
	if lock == "" || !written.MatchString(actions) {
		return lock
	}
	for _, c := range t.Columns {
		if c.Generated == "" {
			continue
		}
		indexed := slices.ContainsFunc(t.Indexes, func(x *catalog.Index) bool { return slices.Contains(x.Columns(), c.Name) })
		if c.Stored && altered.MatchString(actions) || !c.Stored && (indexed || moved.MatchString(actions)) {
			return ""
		}
	}
	for _, x := range t.Indexes {
		if x.Method == "fulltext" || x.Method == "spatial" {
			return "SHARED"
		}
	}
	return lock
}

// peculiar reports whether the table has something for which the engine may not let itself
// be altered beside writers, nor tell so before it is asked: errors 1845 and 1846
// (https://mariadb.com/kb/en/innodb-online-ddl-limitations/).
func peculiar(t *catalog.Table, actions string) bool {
	return t == nil || special.MatchString(actions) || t.PrimaryKey == nil && reordered(t, actions) || t.PartitionBy != nil || t.Storage != "" ||
		slices.ContainsFunc(t.Columns, func(c *catalog.Column) bool { return c.Generated != "" }) ||
		slices.ContainsFunc(t.Checks, func(k *catalog.Check) bool { return k.Column != "" }) ||
		slices.ContainsFunc(t.Indexes, func(x *catalog.Index) bool { return x.Method != "btree" })
}

// reordered reports whether the actions may alter what the rows of a table without a primary
// key are kept in the order of: its first unique key without nulls
// (https://mariadb.com/kb/en/innodb-online-ddl-operations-with-the-inplace-alter-algorithm/).
func reordered(t *catalog.Table, actions string) bool {
	return unique.MatchString(actions) || strings.Contains(actions, "DROP INDEX") && slices.ContainsFunc(t.Indexes, func(x *catalog.Index) bool { return x.Unique })
}
