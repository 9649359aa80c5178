package server

import (
	"context"
	"database/sql"
	"fmt"
	"os"
	"strings"
	"testing"

	_ "github.com/microsoft/go-mssqldb" // the driver
	"nexdal/internal/standin/sqlserver"
)

// A SQLServer is a simulated one with one database. Its own client is not to be had: a script is
// cut into batches as sqlcmd cuts it, and these are sent by the maker's driver.
type SQLServer struct {
	server *sqlserver.Server
}

// StartSQLServer starts one for a test.
func StartSQLServer(t *testing.T, edition sqlserver.Edition) *SQLServer {
	t.Helper()
	s, err := sqlserver.Start("Saltmere", edition)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(s.Close)
	return &SQLServer{s}
}

// URL leads to the database.
func (s *SQLServer) URL() string { return s.server.URL("Saltmere") }

// File runs a script as sqlcmd -b does: lines that begin with a colon are the client's, GO ends a
// batch, and the first error ends it all.
func (s *SQLServer) File(path string) (string, error) {
	text, err := os.ReadFile(path)
	if err != nil {
		return "", err
	}
	return s.Run(string(text))
}

// Run sends the batches of a text over one connection, and gives the rows of all answers.
func (s *SQLServer) Run(text string) (string, error) {
	db, err := sql.Open("sqlserver", s.URL())
	if err != nil {
		return "", err
	}
	defer db.Close()
	conn, err := db.Conn(context.Background())
	if err != nil {
		return "", err
	}
	var out, batch strings.Builder
	send := func() error {
		defer batch.Reset()
		if strings.TrimSpace(batch.String()) == "" {
			return nil
		}
		return rowsOf(conn, batch.String(), &out)
	}
	for line := range strings.Lines(text) {
		switch trimmed := strings.TrimSpace(line); {
		case strings.EqualFold(trimmed, "GO"):
			if err := send(); err != nil {
				return out.String() + err.Error(), err
			}
		case strings.HasPrefix(trimmed, ":"):
		default:
			batch.WriteString(line)
		}
	}
	if err := send(); err != nil {
		return out.String() + err.Error(), err
	}
	return out.String(), nil
}

func rowsOf(conn *sql.Conn, batch string, out *strings.Builder) error {
	rows, err := conn.QueryContext(context.Background(), batch)
	if err != nil {
		return err
	}
	defer rows.Close()
	for more := true; more; more = rows.NextResultSet() {
		names, err := rows.Columns()
		if err != nil {
			return err
		}
		for rows.Next() {
			values, into := make([]any, len(names)), make([]any, len(names))
			for i := range values {
				into[i] = &values[i]
			}
			if err := rows.Scan(into...); err != nil {
				return err
			}
			for i, v := range values {
				if i > 0 {
					out.WriteByte('|')
				}
				if v != nil {
					fmt.Fprint(out, v)
				}
			}
			out.WriteByte('\n')
		}
	}
	return rows.Err()
}
