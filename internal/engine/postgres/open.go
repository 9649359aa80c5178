package postgres

import (
	"context"
	"errors"
	"fmt"
	"io"
	"net"
	"strings"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgconn"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
)

// The default time-outs: a survey must never be what others wait for.
const (
	connectTimeout   = 10 * time.Second
	statementTimeout = 5 * time.Minute
	lockTimeout      = 5 * time.Second
)

// session is one connection.
type session struct {
	conn    *pgx.Conn
	place   string
	options engine.Options
}

// Open connects. What the URL leaves out comes from the PG* variables and the
// password file, as with every client of this engine
// (https://www.postgresql.org/docs/current/libpq-envars.html).
func (Engine) Open(ctx context.Context, address string, o engine.Options) (engine.Session, error) {
	config, err := pgx.ParseConfig(address)
	if err != nil {
		return nil, wrongAddress(address)
	}
	s, err := connect(ctx, config, o)
	if err != nil {
		return nil, err // and no session: a nil one of ours would look like one
	}
	return s, nil
}

func wrongAddress(address string) error {
	return &engine.SourceError{Place: engine.Redact(address), Kind: engine.ErrWrongAddress, Hint: "write postgres://user@host:port/database"}
}

func connect(ctx context.Context, config *pgx.ConnConfig, o engine.Options) (*session, error) {
	if config.ConnectTimeout == 0 {
		config.ConnectTimeout = connectTimeout
	}
	config.RuntimeParams["application_name"] = "nexdal"
	// No prepared statements: they do not survive a pooler that hands each
	// transaction to another server connection.
	config.DefaultQueryExecMode = pgx.QueryExecModeExec
	place := fmt.Sprintf("%s at %s:%d", config.Database, config.Host, config.Port)
	if config.Database == "" {
		place = fmt.Sprintf("%s at %s:%d", config.User, config.Host, config.Port)
	}
	conn, err := pgx.ConnectConfig(ctx, config)
	if err != nil {
		return nil, unreachable(ctx, place, config.User, err)
	}
	s := &session{conn: conn, place: place, options: o}
	if v := conn.PgConn().ParameterStatus("server_version"); olderThan12(v) {
		s.Close()
		return nil, &engine.SourceError{Place: place, Kind: engine.ErrUnreachable, Err: fmt.Errorf("it is PostgreSQL %s", v), Hint: "versions from 12 on can be read"}
	}
	return s, nil
}

func olderThan12(version string) bool {
	var major int
	_, err := fmt.Sscanf(version, "%d", &major)
	return err == nil && major < 12
}

// unreachable says in a sentence why a connection did not come about.
func unreachable(ctx context.Context, place, user string, err error) error {
	if ctx.Err() != nil {
		return ctx.Err()
	}
	e := &engine.SourceError{Place: place, Kind: engine.ErrUnreachable, Hint: "check host, port and whether the server runs"}
	var said *pgconn.PgError
	var dns *net.DNSError
	var op *net.OpError
	switch {
	case errors.As(err, &said):
		e.Err = errors.New(said.Message)
		switch {
		case strings.HasPrefix(said.Code, "28"):
			e.Kind, e.Hint = engine.ErrRefused, fmt.Sprintf("check the password of %s (PGPASSWORD, or the password file) and the server's access rules", user)
		case said.Code == "3D000":
			e.Hint = "name a database that exists"
		case said.Code == "53300":
			e.Hint = "the server takes no more connections; try again later"
		default:
			e.Hint = ""
		}
	case errors.As(err, &dns):
		e.Err = errors.New("no such host")
	case errors.As(err, &op):
		e.Err = op.Err
	case pgconn.Timeout(err):
		e.Err = errors.New("no answer in time")
	case strings.Contains(err.Error(), "password"):
		e.Kind, e.Err = engine.ErrRefused, errors.New("it asks for a password and none was given")
		e.Hint = "set PGPASSWORD or use the password file"
	default:
		e.Err = errors.New(lastPart(err.Error()))
	}
	return e
}

// lastPart is the end of a chain of messages: the cause.
func lastPart(s string) string {
	s = strings.TrimSpace(s)
	if i := strings.LastIndexByte(s, '\n'); i >= 0 {
		s = s[i+1:]
	}
	return s
}

// wrap turns an error while reading into a sentence.
func (s *session) wrap(ctx context.Context, err error) error {
	if err == nil {
		return nil
	}
	if ctx.Err() != nil {
		return ctx.Err()
	}
	e := &engine.SourceError{Place: s.place, Err: err}
	var said *pgconn.PgError
	switch {
	case errors.As(err, &said):
		e.Err = errors.New(said.Message)
		switch said.Code {
		case "42501":
			e.Kind, e.Hint = engine.ErrNoPrivilege, "ask for the right to read it"
		case "57014":
			e.Hint = "the statement time-out was reached; give a longer one with --timeout"
		case "55P03":
			e.Kind, e.Hint = engine.ErrBusy, "try again when the lock is gone"
		case "57P01", "57P02", "57P03", "57P05": // somebody ended it, or the server is going down
			e.Kind, e.Hint = engine.ErrUnreachable, "see whether the server still runs, and try again"
		}
	case errors.Is(err, io.ErrUnexpectedEOF), s.conn.IsClosed():
		e.Kind, e.Err, e.Hint = engine.ErrUnreachable, errors.New("the connection broke"), "see whether the server still runs, and try again"
	}
	return e
}

// Place names database and server.
func (s *session) Place() string { return s.place }

// Close ends the session.
func (s *session) Close() error {
	ctx, cancel := context.WithTimeout(context.Background(), 2*time.Second)
	defer cancel()
	return s.conn.Close(ctx)
}

// Exec carries out one statement as it stands, by the simple protocol, which
// lets what cannot run inside a transaction run.
func (s *session) Exec(ctx context.Context, sql string) error {
	_, err := s.conn.PgConn().Exec(ctx, sql).ReadAll()
	return s.statement(ctx, err)
}

func (s *session) statement(ctx context.Context, err error) error {
	var said *pgconn.PgError
	switch {
	case err == nil || ctx.Err() != nil:
		return err
	case errors.As(err, &said):
		message := said.Message
		if said.Detail != "" {
			message += ": " + said.Detail
		}
		e := &engine.StatementError{Code: said.Code, Err: errors.New(message)}
		switch said.Code { // https://www.postgresql.org/docs/current/errcodes-appendix.html
		case "42701", "42710", "42723", "42P04", "42P06", "42P07", "42P16":
			e.Exists = true
		case "42703", "42704", "42P01", "3F000":
			e.Missing = true
		case "55P03", "40P01":
			e.Busy = true
		case "55000": // of several things, in words alone
			e.Exists = strings.Contains(said.Message, "already associated with a constraint")
		}
		return e
	}
	return s.wrap(ctx, err)
}

// Rows sends a query and takes the answer as text.
func (s *session) Rows(ctx context.Context, sql string, max int) (names []string, all [][]string, err error) {
	results, err := s.conn.PgConn().Exec(ctx, sql).ReadAll()
	if err != nil {
		return nil, nil, s.statement(ctx, err)
	}
	if len(results) == 0 {
		return nil, nil, nil
	}
	for _, f := range results[0].FieldDescriptions {
		names = append(names, f.Name)
	}
	for _, row := range results[0].Rows {
		if len(all) == max {
			break
		}
		values := make([]string, len(row))
		for i, v := range row {
			if values[i] = string(v); v == nil {
				values[i] = "null"
			}
		}
		all = append(all, values)
	}
	return names, all, nil
}

// Rollback ends an open transaction. It is sent all the same where none is open,
// which the engine only warns of: so a connection that is gone is told.
func (s *session) Rollback(ctx context.Context) error { return s.Exec(ctx, "ROLLBACK") }

// Load adds rows by COPY.
func (s *session) Load(ctx context.Context, table catalog.Ref, columns []string, next func() []any) error {
	_, err := s.conn.CopyFrom(ctx, pgx.Identifier{table.Schema, table.Table}, columns, &source{next: next})
	return s.statement(ctx, err)
}

// source lets COPY pull the rows.
type source struct {
	next func() []any
	row  []any
}

func (s *source) Next() bool             { s.row = s.next(); return s.row != nil }
func (s *source) Values() ([]any, error) { return s.row, nil }
func (s *source) Err() error             { return nil }

// ClientLine is a call of psql.
func (Engine) ClientLine(address, file string) string {
	if address == "" {
		address = "DATABASE"
	}
	return fmt.Sprintf("psql -d '%s' -f %s", address, file)
}

// Build makes a schema and lets unqualified names lead there.
func (e Engine) Build(ctx context.Context, address, schema string) (engine.Loader, string, error) {
	opened, err := e.Open(ctx, address, engine.Options{Write: true})
	if err != nil {
		return nil, "", err
	}
	s := opened.(*session)
	for _, sql := range []string{"BEGIN", "CREATE SCHEMA " + ident(schema), "SET search_path = " + ident(schema)} {
		if err := s.Exec(ctx, sql); err != nil {
			s.Close()
			return nil, "", &engine.SourceError{Place: s.place, Err: err, Hint: "drop the schema first, or give another with --schema"}
		}
	}
	return s, schema, nil
}

// Discard has nothing to do: Build's schema is part of a transaction, which
// ended with the session.
func (Engine) Discard(context.Context, string, string) error { return nil }
