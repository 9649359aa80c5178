package postgres

import (
	"context"
	"fmt"
	"strings"

	"github.com/jackc/pgx/v5"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/ask"
	"nexdal/internal/engine/pgwire"
	"nexdal/internal/engine/postgres/read"
	"nexdal/internal/engine/postgres/traits"
	"nexdal/internal/evidence"
)

// session is one connection.
type session struct {
	*pgwire.Session
	claimed bool // a run holds the database
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
	wire, err := pgwire.Connect(ctx, config, o, "server")
	if err != nil {
		return nil, err
	}
	s := &session{Session: wire}
	if v := s.Conn.PgConn().ParameterStatus("server_version"); olderThan12(v) {
		s.Close()
		return nil, &engine.SourceError{Place: s.Place(), Kind: engine.ErrUnreachable, Err: fmt.Errorf("it is PostgreSQL %s", v), Hint: "versions from 12 on can be read"}
	}
	return s, nil
}

func olderThan12(version string) bool {
	var major int
	_, err := fmt.Sscanf(version, "%d", &major)
	return err == nil && major < 12
}

// Survey reads the catalog.
func (s *session) Survey(ctx context.Context) (*catalog.Catalog, error) {
	return read.Survey(ctx, s.Session)
}

// Load adds rows by COPY.
func (s *session) Load(ctx context.Context, table catalog.Ref, columns []string, next func() []any) error {
	_, err := s.Conn.CopyFrom(ctx, pgx.Identifier{table.Schema, table.Table}, columns, &source{next: next})
	return s.Statement(ctx, err)
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
	if err := s.BuildIn(ctx, traits.Ident(schema)); err != nil {
		return nil, "", err
	}
	return s, schema, nil
}

// Discard has nothing to do: Build's schema is part of a transaction, which
// ended with the session.
func (Engine) Discard(context.Context, string, string) error { return nil }

// Asker makes the session read-only and limits its statements.
func (s *session) Asker(ctx context.Context) (evidence.Asker, error) {
	statement, lock := s.Options.StatementTimeout, s.Options.LockTimeout
	if statement == 0 {
		statement = pgwire.StatementTimeout
	}
	if lock == 0 {
		lock = pgwire.LockTimeout
	}
	err := s.Exec(ctx, fmt.Sprintf("SET SESSION CHARACTERISTICS AS TRANSACTION READ ONLY; SET statement_timeout = %d; SET lock_timeout = %d; SET search_path = pg_catalog; "+
		strings.ReplaceAll(read.Spelling, "SET LOCAL", "SET"),
		statement.Milliseconds(), lock.Milliseconds()))
	return ask.New(s.Rows, read.Asking), err
}
