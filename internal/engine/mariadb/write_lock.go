package mariadb

import (
	"regexp"
	"slices"
	"strings"

	"nexdal/internal/catalog"
)

// What makes the engine rewrite a table, or move columns. A name or a text
// that holds the words costs a stronger lock, and nothing else.
var (
	written = regexp.MustCompile(`(MODIFY|ADD|DROP) COLUMN|PRIMARY KEY`)
	altered = regexp.MustCompile(`MODIFY COLUMN|PRIMARY KEY`)
	moved   = regexp.MustCompile(`DROP COLUMN| FIRST| AFTER `)
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
