package mariadb

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"io"
	"log"
	"net"
	"time"

	"github.com/go-sql-driver/mysql"

	"nexdal/internal/engine"
	"nexdal/internal/engine/mariadb/traits"
	"nexdal/internal/engine/trace"
)

// The default time-outs: a survey must never be what others wait for.
const (
	statementTimeout = 5 * time.Minute
	lockTimeout      = 5 * time.Second
)

// session is one connection.
type session struct {
	family   *traits.Family
	db       *sql.DB
	conn     *sql.Conn
	place    string
	database string   // the one to read; empty: all but the engine's own
	among    []string // or these alone
	claimed  []string // locks that a run holds
}

// Open connects; the session is read-only unless told otherwise.
func (e Engine) Open(ctx context.Context, address string, o engine.Options) (engine.Session, error) {
	config, err := parse(e.Family(), address)
	if err != nil {
		return nil, err
	}
	config.Logger = log.New(io.Discard, "", 0) // what goes wrong comes back as an error
	place := fmt.Sprintf("%s at %s", config.DBName, config.Addr)
	if config.DBName == "" {
		place = config.Addr
	}
	connector, err := mysql.NewConnector(config)
	if err != nil {
		return nil, &engine.SourceError{Place: place, Kind: engine.ErrWrongAddress}
	}
	s := &session{family: e.Family(), db: trace.Open(connector, o.Watch), place: place, database: config.DBName}
	if s.conn, err = s.db.Conn(ctx); err == nil {
		err = s.prepare(ctx, o)
	}
	if err != nil {
		s.db.Close()
		return nil, s.wrap(ctx, config.User, err)
	}
	return s, nil
}

func (s *session) prepare(ctx context.Context, o engine.Options) error {
	statement, lock := o.StatementTimeout, o.LockTimeout
	if statement == 0 {
		statement = statementTimeout
	}
	if lock == 0 {
		lock = lockTimeout
	}
	var version string
	if err := s.conn.QueryRowContext(ctx, "SELECT VERSION()").Scan(&version); err != nil {
		return err
	}
	if !s.family.Is(version) {
		return fmt.Errorf("it is %s and not %s", version, s.family.Title)
	}
	// What follows bears on this session alone.
	for _, sql := range s.family.Shown {
		if _, err := s.conn.ExecContext(ctx, sql); err != nil && ctx.Err() != nil {
			return err
		}
	}
	if o.Write {
		_, err := s.conn.ExecContext(ctx, fmt.Sprintf("SET SESSION lock_wait_timeout = %d", max(1, int(lock.Seconds()))))
		return err
	}
	for i, sql := range s.family.Patience(statement, lock) {
		if _, err := s.conn.ExecContext(ctx, sql); err != nil && (i == 0 || ctx.Err() != nil) {
			return err
		}
	}
	return nil
}

// wrap turns the driver's errors into sentences.
func (s *session) wrap(ctx context.Context, user string, err error) error {
	if err == nil || ctx.Err() != nil {
		return cmpError(ctx.Err(), err)
	}
	e := &engine.SourceError{Place: s.place, Err: err}
	var said *mysql.MySQLError
	var op *net.OpError
	switch {
	case errors.As(err, &said):
		e.Err = errors.New(said.Message)
		switch said.Number {
		case 1045, 1698:
			e.Kind, e.Hint = engine.ErrRefused, fmt.Sprintf("check the password of %s (MYSQL_PWD, or ~/.my.cnf)", user)
		case 1044:
			e.Kind, e.Hint = engine.ErrNoPrivilege, "ask for the right to read it"
		case 1049:
			e.Kind, e.Hint = engine.ErrUnreachable, "name a database that exists"
		case 1205:
			e.Kind, e.Hint = engine.ErrBusy, "try again when the lock is gone"
		case 1969:
			e.Hint = "the statement time-out was reached; give a longer one with --timeout"
		}
	case errors.As(err, &op):
		e.Kind, e.Err, e.Hint = engine.ErrUnreachable, op.Err, "check host, port and whether the server runs"
	case errors.Is(err, mysql.ErrInvalidConn), errors.Is(err, io.ErrUnexpectedEOF):
		e.Kind, e.Err, e.Hint = engine.ErrUnreachable, errors.New("the connection broke"), "see whether the server still runs, and try again"
	}
	return e
}

func cmpError(first, second error) error {
	if first != nil {
		return first
	}
	return second
}

// Place names database and server.
func (s *session) Place() string { return s.place }

// Close ends the session.
func (s *session) Close() error {
	s.release()
	s.conn.Close()
	return s.db.Close()
}
