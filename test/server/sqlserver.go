package server

import (
	"context"
	"database/sql"
	"fmt"
	"os"
	"strings"
	"sync/atomic"
	"testing"

	_ "github.com/microsoft/go-mssqldb" // the driver
	"nexdal/internal/standin/sqlserver"
)

// A SQLServer is a simulated one with one database. Its own client is not to be had: a script is
// cut into batches as sqlcmd cuts it, and these are sent by the maker's driver.
type SQLServer struct {
	server *sqlserver.Server
	made   atomic.Int64
}

// StartSQLServer starts one for a test.
func StartSQLServer(t *testing.T, edition sqlserver.Edition) *SQLServer {
	t.Helper()
	s, err := sqlserver.Start("Saltmere", edition)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(s.Close)
	return &SQLServer{server: s}
}

// Simulated is one that a test has started itself.
func Simulated(s *sqlserver.Server) *SQLServer { return &SQLServer{server: s} }

// Database makes an empty one, and gives its name.
func (s *SQLServer) Database(t *testing.T) string {
	t.Helper()
	name := fmt.Sprintf("t%d", s.made.Add(1))
	if out, err := s.Run("master", "CREATE DATABASE "+name); err != nil {
		t.Fatal(out)
	}
	return name
}

// URL leads to the database.
func (s *SQLServer) URL(database string) string { return s.server.URL(database) }

// File runs a script as sqlcmd -b does: lines that begin with a colon are the client's, GO ends a
// batch, and the first error ends it all.
func (s *SQLServer) File(database, path string) (string, error) {
	text, err := os.ReadFile(path)
	if err != nil {
		return "", err
	}
	return s.Run(database, string(text))
}

// Client answers a script as sqlcmd -x -y 0 does, which goes on behind an error and tells it. The
// script comes as somebody who is not the server's administrator, or is ("sa").
func (s *SQLServer) Client(database, user, path string) (string, error) {
	text, err := os.ReadFile(path)
	if err != nil {
		return "", err
	}
	conn, done, err := s.connect(database, user)
	if err != nil {
		return "", err
	}
	defer done()
	var out strings.Builder
	err = batches(string(text), func(batch string) error {
		if err := rowsOf(conn, batch, &out); err != nil {
			fmt.Fprintf(&out, "Msg 50000, Level 16, State 1, Server SIMULATED, Line 1\n%s\n", err)
		}
		return nil
	})
	return out.String(), err
}

func (s *SQLServer) connect(database, user string) (*sql.Conn, func(), error) {
	db, err := sql.Open("sqlserver", strings.Replace(s.URL(database), "sa@", user+"@", 1))
	if err != nil {
		return nil, nil, err
	}
	conn, err := db.Conn(context.Background())
	return conn, func() { db.Close() }, err
}

// batches cuts a script as the client does.
func batches(text string, send func(batch string) error) error {
	var batch strings.Builder
	end := func() error {
		defer batch.Reset()
		if strings.TrimSpace(batch.String()) == "" {
			return nil
		}
		return send(batch.String())
	}
	for line := range strings.Lines(text) {
		switch trimmed := strings.TrimSpace(line); {
		case strings.EqualFold(trimmed, "GO"):
			if err := end(); err != nil {
				return err
			}
		case strings.HasPrefix(trimmed, ":"):
		default:
			batch.WriteString(line)
		}
	}
	return end()
}

// Run sends the batches of a text over one connection, and gives the rows of all answers.
func (s *SQLServer) Run(database, text string) (string, error) {
	conn, done, err := s.connect(database, "sa")
	if err != nil {
		return "", err
	}
	defer done()
	var out strings.Builder
	if err := batches(text, func(batch string) error { return rowsOf(conn, batch, &out) }); err != nil {
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

// Batch sends a text as it is.
func (s *SQLServer) Batch(database, text string) (string, error) {
	conn, done, err := s.connect(database, "sa")
	if err != nil {
		return "", err
	}
	defer done()
	var out strings.Builder
	if err := rowsOf(conn, text, &out); err != nil {
		return out.String() + err.Error(), err
	}
	return out.String(), nil
}

// Dump is what the server's own views say of the structure, by names: the witness of tests.
func (s *SQLServer) Dump(t *testing.T, database string) string {
	t.Helper()
	var b strings.Builder
	for _, query := range witnesses {
		out, err := s.Run(database, query)
		if err != nil {
			t.Fatalf("%s: %s", query, out)
		}
		fmt.Fprintf(&b, "%s\n%s\n", strings.SplitN(query, "FROM", 2)[1], out)
	}
	return b.String()
}

// witnesses ask what there is, each object by the names of what it belongs to.
var witnesses = []string{
	"SELECT s.name FROM sys.schemas s ORDER BY 1",
	"SELECT s.name AS s, o.name AS o, o.type FROM sys.objects o JOIN sys.schemas s ON s.schema_id = o.schema_id ORDER BY 1, 2, 3",
	"SELECT y.name AS y, b.name AS b, y.max_length, y.precision, y.scale, y.is_nullable FROM sys.types y JOIN sys.types b ON b.user_type_id = y.system_type_id WHERE y.is_user_defined = 1 ORDER BY 1",
	`SELECT s.name AS s, o.name AS o, c.column_id, c.name AS c, y.name AS y, c.max_length, c.precision, c.scale, c.collation_name, c.is_nullable, c.is_identity, c.is_computed, c.is_sparse, c.is_rowguidcol, i.seed_value, i.increment_value, k.definition AS k, k.is_persisted, d.name AS d, d.definition AS e
  FROM sys.columns c JOIN sys.objects o ON o.object_id = c.object_id JOIN sys.schemas s ON s.schema_id = o.schema_id JOIN sys.types y ON y.user_type_id = c.user_type_id LEFT JOIN sys.identity_columns i ON i.object_id = c.object_id AND i.column_id = c.column_id
  LEFT JOIN sys.computed_columns k ON k.object_id = c.object_id AND k.column_id = c.column_id LEFT JOIN sys.default_constraints d ON d.object_id = c.default_object_id ORDER BY 1, 2, 3`,
	`SELECT o.name AS o, i.name AS i, i.type_desc, i.is_unique, i.is_primary_key, i.is_unique_constraint, i.ignore_dup_key, i.fill_factor, i.is_padded, i.is_disabled, i.allow_row_locks, i.allow_page_locks, i.filter_definition, p.name AS p FROM sys.indexes i JOIN sys.objects o ON o.object_id = i.object_id LEFT JOIN sys.data_spaces p ON p.data_space_id = i.data_space_id ORDER BY 1, 2`,
	`SELECT o.name AS o, i.name AS i, x.index_column_id, c.name AS c, x.key_ordinal, x.partition_ordinal, x.is_descending_key, x.is_included_column FROM sys.index_columns x JOIN sys.indexes i ON i.object_id = x.object_id AND i.index_id = x.index_id JOIN sys.objects o ON o.object_id = x.object_id JOIN sys.columns c ON c.object_id = x.object_id AND c.column_id = x.column_id ORDER BY 1, 2, 3`,
	`SELECT o.name AS o, f.name AS f, t.name AS t, a.name AS a, b.name AS b, i.name AS i, f.is_disabled, f.is_not_trusted, f.delete_referential_action, f.update_referential_action FROM sys.foreign_keys f JOIN sys.objects o ON o.object_id = f.parent_object_id JOIN sys.objects t ON t.object_id = f.referenced_object_id JOIN sys.foreign_key_columns k ON k.constraint_object_id = f.object_id
  JOIN sys.columns a ON a.object_id = k.parent_object_id AND a.column_id = k.parent_column_id JOIN sys.columns b ON b.object_id = k.referenced_object_id AND b.column_id = k.referenced_column_id JOIN sys.indexes i ON i.object_id = f.referenced_object_id AND i.index_id = f.key_index_id ORDER BY 1, 2, k.constraint_column_id`,
	"SELECT o.name AS o, k.name AS k, k.definition, k.is_disabled, k.is_not_trusted FROM sys.check_constraints k JOIN sys.objects o ON o.object_id = k.parent_object_id ORDER BY 1, 2",
	"SELECT o.name AS o, m.definition, m.is_schema_bound FROM sys.sql_modules m JOIN sys.objects o ON o.object_id = m.object_id ORDER BY 1",
	"SELECT o.name AS o, g.name AS g, g.is_disabled, g.is_instead_of_trigger, e.type_desc, e.is_first, e.is_last FROM sys.triggers g JOIN sys.objects o ON o.object_id = g.parent_id JOIN sys.trigger_events e ON e.object_id = g.object_id ORDER BY 1, 2, 5",
	"SELECT q.name, q.start_value, q.increment, q.minimum_value, q.maximum_value, q.is_cycling, q.is_cached, q.cache_size FROM sys.sequences q ORDER BY 1",
	"SELECT y.name, y.base_object_name FROM sys.synonyms y ORDER BY 1",
	"SELECT e.class, o.name AS o, c.name AS c, e.value FROM sys.extended_properties e LEFT JOIN sys.objects o ON o.object_id = e.major_id LEFT JOIN sys.columns c ON c.object_id = e.major_id AND c.column_id = e.minor_id AND e.class = 1 ORDER BY 1, 2, 3, 4",
	"SELECT f.name AS f, f.boundary_value_on_right, v.boundary_id, v.value FROM sys.partition_functions f LEFT JOIN sys.partition_range_values v ON v.function_id = f.function_id ORDER BY 1, 3",
	"SELECT s.name AS s, f.name AS f FROM sys.partition_schemes s JOIN sys.partition_functions f ON f.function_id = s.function_id ORDER BY 1",
	"SELECT o.name AS o, i.name AS i, p.partition_number, p.data_compression_desc FROM sys.partitions p JOIN sys.objects o ON o.object_id = p.object_id JOIN sys.indexes i ON i.object_id = p.object_id AND i.index_id = p.index_id ORDER BY 1, 2, 3",
	"SELECT o.name AS o, t.name AS t FROM sys.stats t JOIN sys.objects o ON o.object_id = t.object_id WHERE t.user_created = 1 ORDER BY 1, 2",
}
