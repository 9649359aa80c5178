package sqlite

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"strconv"
	"strings"
	"time"

	"modernc.org/sqlite"
	sqlite3 "modernc.org/sqlite/lib"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/sqlite/ddltext"
)

// Exec carries out one statement.
func (s *session) Exec(ctx context.Context, text string) error {
	_, err := s.conn.ExecContext(ctx, text)
	return statementError(err)
}

func statementError(err error) error {
	var said *sqlite.Error
	if errors.As(err, &said) {
		text := said.Error()
		return &engine.StatementError{Code: strconv.Itoa(said.Code()), Err: err,
			Exists:  strings.Contains(text, "already exists") || strings.Contains(text, "duplicate column name"),
			Missing: strings.Contains(text, "no such "),
			Busy:    said.Code()&0xff == sqlite3.SQLITE_BUSY || said.Code()&0xff == sqlite3.SQLITE_LOCKED}
	}
	return err
}

// Rows sends a query.
func (s *session) Rows(ctx context.Context, query string, max int) (names []string, all []engine.Row, err error) {
	rows, err := s.conn.QueryContext(ctx, query)
	if err != nil {
		return nil, nil, statementError(err)
	}
	names, all, err = engine.TextRows(rows, max, asText)
	return names, all, statementError(err)
}

// asText writes bytes as a literal.
func asText(v any, _ string) *string {
	if v == nil {
		return nil
	}
	text := fmt.Sprint(v)
	if blob, ok := v.([]byte); ok {
		text = fmt.Sprintf("x'%x'", blob)
	}
	return &text
}

// Rollback leaves no transaction open and the session's switches as a fresh
// connection has them.
func (s *session) Rollback(ctx context.Context) error {
	s.conn.ExecContext(ctx, "ROLLBACK") // fails where nothing is open
	_, err := s.conn.ExecContext(ctx, "PRAGMA legacy_alter_table = OFF; PRAGMA foreign_keys = OFF")
	return err
}

// loadAtOnce is how many rows one statement adds: each statement has its price.
const loadAtOnce = 100

// Load adds rows with a prepared statement, in the transaction that is open.
func (s *session) Load(ctx context.Context, table catalog.Ref, columns []string, next func() []any) error {
	marks := "(" + strings.Repeat("?, ", len(columns)-1) + "?)"
	prepare := func(rows int) (*sql.Stmt, error) {
		st, err := s.conn.PrepareContext(ctx, fmt.Sprintf("INSERT INTO %s (%s) VALUES %s%s", ddltext.Ident(table.Table), ddltext.Idents(columns), strings.Repeat(marks+", ", rows-1), marks))
		return st, statementError(err)
	}
	insert, err := prepare(loadAtOnce)
	if err != nil {
		return err
	}
	defer insert.Close()
	values := make([]any, 0, loadAtOnce*len(columns))
	for row := next(); row != nil; row = next() {
		for _, v := range row {
			if t, ok := v.(time.Time); ok {
				v = t.UTC().Format(time.DateTime)
			}
			values = append(values, v)
		}
		if len(values) == cap(values) {
			if _, err := insert.ExecContext(ctx, values...); err != nil {
				return statementError(err)
			}
			values = values[:0]
		}
	}
	if len(values) == 0 {
		return nil
	}
	rest, err := prepare(len(values) / len(columns))
	if err != nil {
		return err
	}
	defer rest.Close()
	_, err = rest.ExecContext(ctx, values...)
	return statementError(err)
}
