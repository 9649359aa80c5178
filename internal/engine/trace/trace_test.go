package trace

import (
	"context"
	"database/sql"
	"strings"
	"testing"
	"time"

	"modernc.org/sqlite"
)

// TestOpen: every statement is told once, with what the engine has against it; rows, arguments,
// transactions and prepared statements come through as they do without.
func TestOpen(t *testing.T) {
	connector, err := sqlite.NewConnector(":memory:")
	if err != nil {
		t.Fatal(err)
	}
	var told []string
	db := Open(connector, func(statement string, took time.Duration, err error) {
		if took < 0 {
			t.Errorf("%s took %s", statement, took)
		}
		if err != nil {
			statement += " failed"
		}
		told = append(told, statement)
	})
	defer db.Close()
	db.SetMaxOpenConns(1)
	must := func(err error) {
		t.Helper()
		if err != nil {
			t.Fatal(err)
		}
	}
	exec := func(q interface {
		ExecContext(context.Context, string, ...any) (sql.Result, error)
	}, statement string, args ...any) error {
		_, err := q.ExecContext(t.Context(), statement, args...)
		return err
	}
	must(exec(db, "CREATE TABLE t (a INTEGER, b TEXT)"))
	must(exec(db, "INSERT INTO t VALUES (?, ?)", 7, "x"))
	tx, err := db.BeginTx(t.Context(), nil)
	must(err)
	must(exec(tx, "INSERT INTO t VALUES (8, 'y')"))
	must(tx.Rollback())
	stmt, err := db.PrepareContext(t.Context(), "INSERT INTO t VALUES (?, 'z')")
	must(err)
	_, err = stmt.ExecContext(t.Context(), 9)
	must(err)
	must(stmt.Close())
	var n int
	var all string
	must(db.QueryRowContext(t.Context(), "SELECT count(*), group_concat(b) FROM t WHERE a > ?", 1).Scan(&n, &all))
	if n != 2 || all != "x,z" {
		t.Errorf("%d rows: %s", n, all)
	}
	if err := exec(db, "INSERT INTO nowhere VALUES (1)"); err == nil {
		t.Error("a table that is not there takes a row")
	}
	must(db.PingContext(t.Context()))
	if got, want := strings.Join(told, "; "), "CREATE TABLE t (a INTEGER, b TEXT); INSERT INTO t VALUES (?, ?); INSERT INTO t VALUES (8, 'y'); SELECT count(*), group_concat(b) FROM t WHERE a > ?; INSERT INTO nowhere VALUES (1) failed"; got != want {
		t.Errorf("told\n%s, want\n%s", got, want)
	}
	plain := Open(connector, nil)
	defer plain.Close()
	told = nil
	must(exec(plain, "SELECT 1"))
	if len(told) > 0 {
		t.Errorf("nobody watches, and %q is told", told)
	}
}
