package firebird

import (
	"cmp"
	"context"
	"database/sql"
	drivers "database/sql/driver"
	"errors"
	"fmt"
	"net"
	"net/url"
	"os"
	"strings"
	"time"

	"github.com/nakagami/firebirdsql"

	"nexdal/internal/engine"
	"nexdal/internal/engine/trace"
)

// The default time-outs: a survey must never be what others wait for.
const (
	statementTimeout = 5 * time.Minute
	lockTimeout      = 5 * time.Second
)

// session is one connection.
type session struct {
	db        *sql.DB
	conn      *sql.Conn
	tx        drivers.Tx // the transaction that is open, or nil
	place     string
	write     bool
	statement time.Duration // for each statement; 0: as long as it takes
	lock      time.Duration
}

// address is where a database is, and who asks.
type address struct{ host, database, user, password, charset, role string }

// parse reads firebird://user@host:port/alias or firebird://user@host:port//folder/file.fdb. What it
// leaves out comes from where isql takes it: ISC_USER and ISC_PASSWORD
// (https://firebirdsql.org/file/documentation/html/en/firebirddocs/isql/firebird-isql.html#isql-commandline).
func parse(text string) (address, error) {
	wrong := &engine.SourceError{Place: engine.Redact(text), Kind: engine.ErrWrongAddress, Hint: "write firebird://user@host:3050/alias, or firebird://user@host:3050//folder/file.fdb"}
	u, err := url.Parse(text)
	if err != nil || u.Scheme != "firebird" {
		return address{}, wrong
	}
	a := address{host: u.Host, database: strings.TrimPrefix(u.Path, "/"), user: os.Getenv("ISC_USER"), password: os.Getenv("ISC_PASSWORD"), role: u.Query().Get("role")}
	if u.User != nil {
		a.user = u.User.Username()
		if p, ok := u.User.Password(); ok {
			a.password = p
		}
	}
	if u.Port() == "" {
		a.host = net.JoinHostPort(cmp.Or(u.Hostname(), "localhost"), "3050")
	}
	if a.charset = u.Query().Get("charset"); a.charset == "" {
		a.charset = "UTF8"
	}
	if a.database == "" || a.user == "" {
		return address{}, wrong
	}
	return a, nil
}

// driverURL is how the driver wants it: what is no path it takes for an alias.
func (a address) driverURL() string {
	q := url.Values{"charset": {a.charset}}
	if a.role != "" {
		q.Set("role", a.role)
	}
	u := url.URL{Scheme: "firebird", User: url.UserPassword(a.user, a.password), Host: a.host, Path: "/" + strings.TrimPrefix(a.database, "/"), RawQuery: q.Encode()}
	return u.String()
}

// connector connects by one of the drivers that the driver's package registers: one attaches to
// databases, the other makes them.
type connector struct{ driver, url string }

func (c connector) Driver() drivers.Driver {
	db, err := sql.Open(c.driver, "")
	if err != nil {
		return nil // the package registers both
	}
	defer db.Close()
	return db.Driver()
}

func (c connector) Connect(ctx context.Context) (drivers.Conn, error) {
	d := c.Driver()
	if several, ok := d.(drivers.DriverContext); ok {
		made, err := several.OpenConnector(c.url)
		if err != nil {
			return nil, err
		}
		return made.Connect(ctx)
	}
	return d.Open(c.url)
}

// Open connects.
func (e Engine) Open(ctx context.Context, address string, o engine.Options) (engine.Session, error) {
	a, err := parse(address)
	if err != nil {
		return nil, err
	}
	return e.open(ctx, a, o, "firebirdsql")
}

func (Engine) open(ctx context.Context, a address, o engine.Options, driver string) (*session, error) {
	s := &session{place: a.database + " at " + a.host, write: o.Write, statement: o.StatementTimeout, lock: o.LockTimeout}
	if s.statement == 0 && !o.Write {
		s.statement = statementTimeout
	}
	if s.lock == 0 {
		s.lock = lockTimeout
	}
	s.db = trace.Open(connector{driver, a.driverURL()}, o.Watch)
	var err error
	if s.conn, err = s.db.Conn(ctx); err == nil && !o.Write {
		err = s.begin(ctx, forReading)
	}
	if err != nil {
		s.db.Close()
		return nil, s.wrap(ctx, a.user, err)
	}
	return s, nil
}

// Status codes of the server
// (https://firebirdsql.org/file/documentation/html/en/refdocs/fblangref30/firebird-30-language-reference.html#fblangref-appx02-errorcodes).
const (
	isLogin       = 335544472 // login
	isUnavailable = 335544344 // io_error
	isNoPrivilege = 335544352 // no_priv
	isDeadlock    = 335544336 // deadlock
	isLockConf    = 335544345 // lock_conflict
	isLockTime    = 335544510 // lock_timeout
	isInUse       = 335544453 // obj_in_use
	isShutdown    = 335544528 // shutdown
	isOldFormat   = 335544379 // wrong_ods
)

// wrap turns the driver's errors into sentences.
func (s *session) wrap(ctx context.Context, user string, err error) error {
	if err == nil {
		return nil
	}
	if ctx.Err() != nil {
		return ctx.Err()
	}
	e := &engine.SourceError{Place: s.place, Err: err}
	var said *firebirdsql.FbError
	var op *net.OpError
	switch {
	case errors.As(err, &said):
		e.Err = errors.New(oneLine(said.Message))
		switch {
		case has(said, isLogin):
			e.Kind, e.Hint = engine.ErrRefused, fmt.Sprintf("check the password of %s (ISC_PASSWORD)", user)
		case has(said, isUnavailable), has(said, isShutdown), has(said, isOldFormat):
			e.Kind, e.Hint = engine.ErrUnreachable, "name a database that exists, and that the server may open"
		case has(said, isNoPrivilege):
			e.Kind, e.Hint = engine.ErrNoPrivilege, "ask for the right to read it"
		case busy(said):
			e.Kind, e.Hint = engine.ErrBusy, "try again when the lock is gone"
		}
	case errors.As(err, &op):
		e.Kind, e.Err, e.Hint = engine.ErrUnreachable, op.Err, "check host, port and whether the server runs"
	case lost(err):
		e.Kind, e.Err, e.Hint = engine.ErrUnreachable, errors.New("the connection broke"), "see whether the server still runs, and try again"
	}
	return e
}

// oneLine joins what the server says in several lines.
func oneLine(message string) string {
	return strings.Join(strings.FieldsFunc(message, func(r rune) bool { return r == '\n' || r == '\r' }), "; ")
}

// Place names database and server.
func (s *session) Place() string { return s.place }

// Close ends the session.
func (s *session) Close() error {
	if s.tx != nil {
		s.tx.Rollback()
		s.tx = nil
	}
	s.conn.Close()
	return s.db.Close()
}
