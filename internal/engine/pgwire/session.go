// Package pgwire is a connection over PostgreSQL's protocol, for the engines that speak
// it: connecting, statements as they stand, answers as text, errors in one sentence.
package pgwire

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

	"nexdal/internal/engine"
)

// The default time-outs: a survey must never be what others wait for.
const (
	connectTimeout   = 10 * time.Second
	StatementTimeout = 5 * time.Minute
	LockTimeout      = 5 * time.Second
)

// Session is one connection.
type Session struct {
	Conn    *pgx.Conn
	Options engine.Options
	place   string
	server  string // "server", "cluster"
}

// Connect connects. What the address leaves out comes from the PG* variables and the
// password file, as with every client of PostgreSQL
// (https://www.postgresql.org/docs/current/libpq-envars.html). Server is what messages
// call the other side.
func Connect(ctx context.Context, config *pgx.ConnConfig, o engine.Options, server string) (*Session, error) {
	if config.ConnectTimeout == 0 {
		config.ConnectTimeout = connectTimeout
	}
	config.RuntimeParams["application_name"] = "nexdal"
	// No prepared statements: they do not survive a pooler that hands each
	// transaction to another server connection.
	config.DefaultQueryExecMode = pgx.QueryExecModeExec
	if o.Watch != nil {
		config.Tracer = tracer{o.Watch}
	}
	name := config.Database
	if name == "" {
		name = config.User
	}
	s := &Session{Options: o, place: fmt.Sprintf("%s at %s:%d", name, config.Host, config.Port), server: server}
	conn, err := pgx.ConnectConfig(ctx, config)
	if err != nil {
		return nil, s.unreachable(ctx, config.User, err)
	}
	s.Conn = conn
	return s, nil
}

// unreachable says in a sentence why a connection did not come about.
func (s *Session) unreachable(ctx context.Context, user string, err error) error {
	if ctx.Err() != nil {
		return ctx.Err()
	}
	e := &engine.SourceError{Place: s.place, Kind: engine.ErrUnreachable, Hint: fmt.Sprintf("check host, port and whether the %s runs and lets you in", s.server)}
	var said *pgconn.PgError
	var dns *net.DNSError
	var op *net.OpError
	switch {
	case errors.As(err, &said):
		e.Err = errors.New(said.Message)
		switch {
		case strings.HasPrefix(said.Code, "28"):
			e.Kind, e.Hint = engine.ErrRefused, fmt.Sprintf("check the password of %s (PGPASSWORD, or the password file) and the %s's access rules", user, s.server)
		case said.Code == "3D000":
			e.Hint = "name a database that exists"
		case said.Code == "53300":
			e.Hint = fmt.Sprintf("the %s takes no more connections; try again later", s.server)
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
		lines := strings.Split(strings.TrimSpace(err.Error()), "\n")
		e.Err = errors.New(lines[len(lines)-1]) // the cause, at the end of the chain
	}
	return e
}

// Wrap turns an error while reading into a sentence.
func (s *Session) Wrap(ctx context.Context, err error) error {
	if err == nil {
		return nil
	}
	if ctx.Err() != nil {
		return ctx.Err()
	}
	down := fmt.Sprintf("see whether the %s still runs, and try again", s.server)
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
			e.Kind, e.Hint = engine.ErrUnreachable, down
		}
	case errors.Is(err, io.ErrUnexpectedEOF), s.Conn.IsClosed():
		e.Kind, e.Err, e.Hint = engine.ErrUnreachable, errors.New("the connection broke"), down
	}
	return e
}

// Place names database and server.
func (s *Session) Place() string { return s.place }

// Close ends the session.
func (s *Session) Close() error {
	ctx, cancel := context.WithTimeout(context.Background(), 2*time.Second)
	defer cancel()
	return s.Conn.Close(ctx)
}

// Exec carries out one statement as it stands, by the simple protocol, which
// lets what cannot run inside a transaction run.
func (s *Session) Exec(ctx context.Context, sql string) error {
	_, err := s.simple(ctx, sql)
	return s.Statement(ctx, err)
}

// Statement says what the engine said to a statement; an error that it did not say is
// one of the connection.
func (s *Session) Statement(ctx context.Context, err error) error {
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
	return s.Wrap(ctx, err)
}

// Rows sends a query and takes the answer as text.
func (s *Session) Rows(ctx context.Context, sql string, max int) (names []string, all []engine.Row, err error) {
	results, err := s.simple(ctx, sql)
	if err != nil {
		return nil, nil, s.Statement(ctx, err)
	}
	if len(results) == 0 {
		return nil, nil, nil
	}
	for _, f := range results[0].FieldDescriptions {
		names = append(names, f.Name)
	}
	for _, values := range results[0].Rows[:min(max, len(results[0].Rows))] {
		row := make(engine.Row, len(values))
		for i, v := range values {
			if v != nil {
				text := string(v)
				row[i] = &text
			}
		}
		all = append(all, row)
	}
	return names, all, nil
}

// Rollback ends an open transaction. It is sent all the same where none is open,
// which the engine only warns of: so a connection that is gone is told.
func (s *Session) Rollback(ctx context.Context) error { return s.Exec(ctx, "ROLLBACK") }

// BuildIn begins a transaction, makes a schema in it and lets unqualified names lead
// there. Where it fails, the session is closed.
func (s *Session) BuildIn(ctx context.Context, quoted string) error {
	for _, sql := range []string{"BEGIN", "CREATE SCHEMA " + quoted, "SET search_path TO " + quoted} {
		if err := s.Exec(ctx, sql); err != nil {
			s.Close()
			return &engine.SourceError{Place: s.place, Err: err, Hint: "drop the schema first, or give another with --schema"}
		}
	}
	return nil
}

// Fault tells a time-out and a lost connection from what the engine says.
func Fault(err error, timeout, lost error) error {
	var said *engine.StatementError
	switch {
	case errors.As(err, &said) && said.Code == "57014":
		return timeout
	case errors.Is(err, engine.ErrUnreachable):
		return lost
	}
	return nil
}
