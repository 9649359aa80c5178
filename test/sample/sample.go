// Package sample makes large schemas to measure with.
package sample

import (
	"fmt"
	"os/exec"
	"strings"
)

// ThousandTables builds, with the engine's own shell, a SQLite file of 1,000
// tables of ten columns, with keys, references, checks and two indexes each.
func ThousandTables(path string) error {
	return build(path, func(w *strings.Builder, i, before int) {
		fmt.Fprintf(w, `CREATE TABLE table_%03d (id INTEGER PRIMARY KEY, code TEXT NOT NULL UNIQUE, name TEXT NOT NULL COLLATE NOCASE, parent_id INTEGER REFERENCES table_%03d (id) ON DELETE CASCADE,
  amount NUMERIC(12, 2) NOT NULL DEFAULT 0 CHECK (amount >= 0), created_at TEXT NOT NULL DEFAULT CURRENT_TIMESTAMP, note TEXT, kind TEXT NOT NULL CHECK (kind IN ('a', 'b')), place INTEGER, flag INTEGER);
CREATE INDEX table_%03d_parent ON table_%03d (parent_id);
CREATE INDEX table_%03d_name ON table_%03d (name, code DESC) WHERE flag = 1;
`, i, before, i, i, i, i)
	})
}

// ThousandNarrow builds one of 1,000 tables of five columns, with a key, a
// reference and an index each.
func ThousandNarrow(path string) error {
	return build(path, func(w *strings.Builder, i, before int) {
		fmt.Fprintf(w, "CREATE TABLE t%d (id INTEGER PRIMARY KEY, name TEXT NOT NULL, parent_id INTEGER REFERENCES t%d (id), value REAL, created TEXT);\nCREATE INDEX t%d_p ON t%d (parent_id);\n", i, before, i, i)
	})
}

// build writes 1,000 tables, each of which may refer to the one before.
func build(path string, table func(w *strings.Builder, i, before int)) error {
	var sql strings.Builder
	sql.WriteString("BEGIN;\n")
	for i := range 1000 {
		table(&sql, i, max(0, i-1))
	}
	sql.WriteString("COMMIT;\n")
	shell := exec.Command("sqlite3", path)
	shell.Stdin = strings.NewReader(sql.String())
	if out, err := shell.CombinedOutput(); err != nil {
		return fmt.Errorf("%v: %s", err, out)
	}
	return nil
}
