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

// Postgres writes so many PostgreSQL tables of ten columns, each with a key, a
// unique key, a reference, a check and an index or two more: 35 indexes to
// ten tables.
func Postgres(n int) string {
	var w strings.Builder
	w.WriteString("SET synchronous_commit = off;\nBEGIN;\n")
	for i := range n {
		fmt.Fprintf(&w, `CREATE TABLE t%[1]d (id bigint PRIMARY KEY, code text NOT NULL UNIQUE, name varchar(40) NOT NULL, parent_id bigint REFERENCES t%[2]d (id),
  a int, b int DEFAULT 5, c numeric(10,2), d date, e timestamptz DEFAULT now(), f text CHECK (f <> ''));
CREATE INDEX t%[1]d_p ON t%[1]d (parent_id);
`, i, i/2)
		if i%2 == 0 {
			fmt.Fprintf(&w, "CREATE INDEX t%[1]d_n ON t%[1]d (name, code DESC);\n", i)
		}
		if i%500 == 499 {
			w.WriteString("COMMIT; BEGIN;\n")
		}
	}
	w.WriteString("COMMIT;\n")
	return w.String()
}

// MariaDB writes so many tables of ten columns with keys, a reference, a check
// and an index more.
func MariaDB(n int) string {
	var w strings.Builder
	for i := range n {
		fmt.Fprintf(&w, `CREATE TABLE t%[1]d (id bigint PRIMARY KEY, code varchar(40) NOT NULL UNIQUE, name varchar(40) NOT NULL, parent_id bigint, a int, b int DEFAULT 5,
  c decimal(10,2), d date, e timestamp DEFAULT now(), f varchar(20) CHECK (f <> ''), KEY n (name, code), FOREIGN KEY (parent_id) REFERENCES t%[2]d (id));
`, i, i/2)
	}
	return w.String()
}
