package redshift

import (
	"context"
	"database/sql/driver"
	"errors"
	"fmt"
	"net"
	"slices"
	"strings"

	"github.com/jackc/pgx/v5/pgproto3"
	"modernc.org/sqlite"

	"nexdal/internal/engine/sqllex"
	"nexdal/internal/standin"
	"nexdal/internal/standin/grammar"
)

// client is one client's connection.
type client struct {
	*standin.Session
	c       *Cluster
	conn    net.Conn
	backend *pgproto3.Backend
	failed  bool // the transaction did
}

func newClient(c *Cluster, conn net.Conn) *client {
	s := &client{Session: c.Open("public", "pg_catalog"), c: c, conn: conn, backend: pgproto3.NewBackend(conn, conn)}
	s.Fold = strings.ToLower
	return s
}

func (s *client) talk() {
	for started := false; !started; {
		m, err := s.backend.ReceiveStartupMessage()
		if err != nil {
			return
		}
		switch m.(type) {
		case *pgproto3.SSLRequest, *pgproto3.GSSEncRequest:
			if _, err := s.conn.Write([]byte("N")); err != nil {
				return
			}
		case *pgproto3.StartupMessage:
			started = true
		default:
			return
		}
	}
	s.backend.Send(&pgproto3.AuthenticationOk{})
	for _, p := range [][2]string{{"server_version", "8.0.2"}, {"server_encoding", "UTF8"}, {"client_encoding", "UTF8"}, {"standard_conforming_strings", "on"}, {"DateStyle", "ISO, MDY"}, {"integer_datetimes", "on"}} {
		s.backend.Send(&pgproto3.ParameterStatus{Name: p[0], Value: p[1]})
	}
	s.backend.Send(&pgproto3.BackendKeyData{ProcessID: 1, SecretKey: []byte{0, 0, 0, 1}})
	s.ready()
	defer s.End(context.Background(), false) // what a client left open
	skipping := false                        // until the client says that it is done with what it could not have
	for {
		if s.backend.Flush() != nil {
			return
		}
		m, err := s.backend.Receive()
		if err != nil {
			return
		}
		switch m := m.(type) {
		case *pgproto3.Query:
			s.query(m.String)
			s.ready()
		case *pgproto3.Terminate:
			return
		case *pgproto3.Sync:
			skipping = false
			s.ready()
		case *pgproto3.Flush:
		default:
			if !skipping {
				skipping = true
				s.fail(beyond("prepared statements; send simple queries"))
			}
		}
	}
}

func (s *client) ready() {
	status := byte('I')
	switch {
	case s.failed:
		status = 'E'
	case s.Inside():
		status = 'T'
	}
	s.backend.Send(&pgproto3.ReadyForQuery{TxStatus: status})
}

func (s *client) fail(err error) {
	code := "XX000"
	var f *fault
	if errors.As(err, &f) {
		code = f.code
	}
	s.backend.Send(&pgproto3.ErrorResponse{Severity: "ERROR", SeverityUnlocalized: "ERROR", Code: code, Message: err.Error()})
	s.failed = s.Inside()
}

func (s *client) query(all string) {
	statements := s.c.Lexis().Statements(all)
	if len(statements) == 0 {
		s.backend.Send(&pgproto3.EmptyQueryResponse{})
	}
	for _, st := range statements {
		if err := s.understood(s.one(context.Background(), st.Text)); err != nil {
			s.fail(err)
			return
		}
	}
}

func (s *client) tag(t string) { s.backend.Send(&pgproto3.CommandComplete{CommandTag: []byte(t)}) }

// one carries out a statement.
func (s *client) one(ctx context.Context, sql string) error {
	c := grammar.New(s.c.Lexis(), sql, strings.ToLower)
	switch {
	case c.Is("BEGIN"), c.Is("START", "TRANSACTION"):
		s.tag("BEGIN")
		return s.Begin(ctx)
	case c.Is("COMMIT"), c.Is("END"), c.Is("ROLLBACK"), c.Is("ABORT"):
		keep := (c.Is("COMMIT") || c.Is("END")) && !s.failed
		s.failed = false
		if err := s.End(ctx, keep); err != nil {
			return err
		}
		s.tag(map[bool]string{true: "COMMIT", false: "ROLLBACK"}[keep])
		return nil
	case s.failed:
		return refuse("25P02", "current transaction is aborted, commands ignored until end of transaction block")
	case c.Take("SET"):
		c.Take("SESSION")
		err := grammar.Read(func() {
			name := c.Name()
			c.OneOf("TO", "=")
			if name == "search_path" {
				s.Path = []string{c.Name(), "pg_catalog"}
			}
		})
		s.tag("SET")
		return err
	case c.Is("SELECT"), c.Is("WITH"), c.Is("VALUES"), c.Is("("):
		return s.read(ctx, sql)
	}
	t, err := s.execute(ctx, sql)
	if err == nil {
		s.tag(t)
	}
	return err
}

// fixed are functions without arguments, and words, that have one answer for a session.
func (s *client) fixed(name string) string {
	switch name {
	case "version":
		return "'" + Version + "'"
	case "current_database":
		return "'" + s.c.Catalog.Database + "'"
	case "current_schema":
		return "'" + s.Path[0] + "'"
	case "current_user":
		return "'demo'"
	case "getdate", "sysdate":
		return "CURRENT_TIMESTAMP"
	}
	return ""
}

// renamed are functions that SQLite has by other names, or none.
var renamed = map[string]string{"len": "length", "chr": "char", "regexp_instr": "nexdal_regexp_instr", "array_to_string": "nexdal_array_to_string"}

func init() {
	sqlite.MustRegisterDeterministicScalarFunction("nexdal_array_to_string", 2, func(_ *sqlite.FunctionContext, args []driver.Value) (driver.Value, error) {
		list, of := args[0].(string)
		between, by := args[1].(string)
		if !of || !by {
			return nil, nil
		}
		return strings.ReplaceAll(strings.Trim(list, "{}"), ",", between), nil
	})
}

// Spell writes the engine's words as SQLite has them.
func (c *Cluster) Spell(of *standin.Session, tokens []sqllex.Token) []sqllex.Token {
	s := &client{Session: of, c: c}
	var out []sqllex.Token
	for i := 0; i < len(tokens); i++ {
		t := tokens[i]
		next := func(k int) sqllex.Token {
			if i+k < len(tokens) {
				return tokens[i+k]
			}
			return sqllex.Token{}
		}
		word := strings.ToLower(t.Text)
		switch {
		case t.Is(":") && next(1).Is(":"): // a cast, whose type goes
			i += 2
			for next(1).Kind == sqllex.Word || next(1).Kind == sqllex.Space && next(2).Kind == sqllex.Word && castWord(next(2).Text) {
				i++
			}
			if next(1).Is("(") {
				for i++; !tokens[i].Is(")"); i++ {
				}
			}
			continue
		case t.Kind == sqllex.String:
			t.Text = strings.ReplaceAll(t.Text, `\\`, `\`)
		case t.Kind == sqllex.Word && next(1).Is("(") && renamed[word] != "":
			t.Text = renamed[word]
		case t.Kind == sqllex.Word && next(1).Is("(") && next(2).Is(")") && s.fixed(word) != "":
			t.Text = s.fixed(word)
			i += 2
		case t.Kind == sqllex.Word && (word == "sysdate" || word == "current_user"):
			t.Text = s.fixed(word)
		}
		out = append(out, t)
	}
	return out
}

// castWord reports whether the word goes on with the name of a type.
func castWord(word string) bool {
	return slices.Contains([]string{"varying", "precision", "with", "without", "time", "zone"}, strings.ToLower(word))
}

// read answers a query, every value as text.
func (s *client) read(ctx context.Context, sql string) error {
	a, err := s.Query(ctx, sql)
	if err != nil {
		return err
	}
	fields := make([]pgproto3.FieldDescription, len(a.Names))
	for i, n := range a.Names {
		fields[i] = pgproto3.FieldDescription{Name: []byte(n), DataTypeOID: 25, DataTypeSize: -1, TypeModifier: -1}
	}
	s.backend.Send(&pgproto3.RowDescription{Fields: fields})
	for n, row := range a.Rows {
		texts := make([][]byte, len(row))
		for i, v := range row {
			texts[i] = shown(v)
		}
		s.backend.Send(&pgproto3.DataRow{Values: texts})
		if n%1000 == 999 {
			if err := s.backend.Flush(); err != nil {
				return err
			}
		}
	}
	s.tag(fmt.Sprintf("SELECT %d", len(a.Rows)))
	return nil
}

func shown(v any) []byte {
	switch v := v.(type) {
	case nil:
		return nil
	case []byte:
		return v
	case string:
		return []byte(v)
	case bool:
		return []byte(map[bool]string{true: "t", false: "f"}[v])
	case float64:
		return []byte(strings.TrimSuffix(strings.TrimRight(fmt.Sprintf("%.6f", v), "0"), "."))
	case interface{ Format(string) string }:
		return []byte(v.Format("2006-01-02 15:04:05"))
	}
	return []byte(fmt.Sprint(v))
}
