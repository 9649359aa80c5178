package mariadb

import (
	"context"
	"errors"
	"strconv"
	"strings"

	"github.com/go-sql-driver/mysql"

	"nexdal/internal/engine"
)

// Exec carries out one statement.
func (s *session) Exec(ctx context.Context, text string) error {
	_, err := s.conn.ExecContext(ctx, text)
	return s.statement(ctx, err)
}

func (s *session) statement(ctx context.Context, err error) error {
	var said *mysql.MySQLError
	switch {
	case err == nil || ctx.Err() != nil:
		return err
	case errors.As(err, &said):
		e := &engine.StatementError{Code: strconv.Itoa(int(said.Number)), Err: errors.New(said.Message)}
		switch said.Number { // https://mariadb.com/kb/en/mariadb-error-code-reference/
		case 1050, 1060, 1061, 1068, 1826: // table, column, index, primary key, foreign key
			e.Exists = true
		case 1005: // of a foreign key: its name is taken
			e.Exists = strings.Contains(said.Message, "errno: 121")
		case 1051, 1054, 1091, 1146, 1176:
			e.Missing = true
		case 1205, 1213:
			e.Busy = true
		}
		return e
	}
	return s.wrap(ctx, "", err)
}

// Rows sends a query and takes the answer as text.
func (s *session) Rows(ctx context.Context, query string, max int) (names []string, all []engine.Row, err error) {
	rows, err := s.conn.QueryContext(ctx, query)
	if err != nil {
		return nil, nil, s.statement(ctx, err)
	}
	defer rows.Close()
	if names, err = rows.Columns(); err != nil {
		return nil, nil, err
	}
	for rows.Next() && len(all) < max {
		row := make(engine.Row, len(names))
		into := make([]any, len(names))
		for i := range row {
			into[i] = &row[i]
		}
		if err := rows.Scan(into...); err != nil {
			return nil, nil, err
		}
		all = append(all, row)
	}
	return names, all, s.statement(ctx, rows.Err())
}

// Rollback ends an open transaction; a connection that is gone is told.
func (s *session) Rollback(ctx context.Context) error {
	return s.Exec(ctx, "ROLLBACK")
}
