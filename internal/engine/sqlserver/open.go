package sqlserver

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"net"
	"net/url"
	"os"
	"strings"
	"time"

	mssql "github.com/microsoft/go-mssqldb"
	"github.com/microsoft/go-mssqldb/msdsn"

	"nexdal/internal/engine"
	"nexdal/internal/engine/sqlserver/traits"
	"nexdal/internal/engine/trace"
)

// statementTimeout is the default: a survey must never be what others wait for.
const statementTimeout = 5 * time.Minute

// session is one connection.
type session struct {
	db        *sql.DB
	conn      *sql.Conn
	place     string
	statement time.Duration // for each statement; 0: as long as it takes
}

// parse makes a connection's settings of a URL, sqlserver://user@host:port?database=name or
// sqlserver://user@host/database. What it leaves out comes from where sqlcmd takes it:
// SQLCMDSERVER, SQLCMDUSER, SQLCMDPASSWORD and SQLCMDDBNAME
// (https://learn.microsoft.com/en-us/sql/tools/sqlcmd/sqlcmd-utility).
func parse(address string) (msdsn.Config, error) {
	wrong := func() error {
		return &engine.SourceError{Place: engine.Redact(address), Kind: engine.ErrWrongAddress, Hint: "write sqlserver://user@host:1433?database=name"}
	}
	u, err := url.Parse(address)
	if err != nil || u.Scheme != "sqlserver" {
		return msdsn.Config{}, wrong()
	}
	q := u.Query()
	if u.Host == "" {
		host, port, _ := strings.Cut(os.Getenv("SQLCMDSERVER"), ",")
		if u.Host = host; port != "" {
			u.Host = net.JoinHostPort(host, port)
		}
	}
	if path := strings.Trim(u.Path, "/"); path != "" && !q.Has("database") && !strings.Contains(path, "/") {
		q.Set("database", path)
		u.Path = ""
	}
	if !q.Has("database") {
		q.Set("database", os.Getenv("SQLCMDDBNAME"))
	}
	user, password := "", ""
	if u.User != nil {
		user = u.User.Username()
		password, _ = u.User.Password()
	}
	if user == "" {
		user = os.Getenv("SQLCMDUSER")
	}
	if password == "" {
		password = os.Getenv("SQLCMDPASSWORD")
	}
	if user != "" {
		u.User = url.UserPassword(user, password)
	}
	if !q.Has("app name") {
		q.Set("app name", "nexdal")
	}
	u.RawQuery = q.Encode()
	c, err := msdsn.Parse(u.String())
	if err != nil {
		return c, wrong()
	}
	if c.Port == 0 {
		c.Port = 1433
	}
	return c, nil
}

// Open connects. A session that only reads tells the server so
// (https://learn.microsoft.com/en-us/sql/database-engine/availability-groups/windows/listeners-client-connectivity-application-failover#ReadOnlyAppIntent).
func (e Engine) Open(ctx context.Context, address string, o engine.Options) (engine.Session, error) {
	config, err := parse(address)
	if err != nil {
		return nil, err
	}
	config.ReadOnlyIntent = !o.Write && config.Database != ""
	place := fmt.Sprintf("%s at %s:%d", config.Database, config.Host, config.Port)
	if config.Database == "" {
		place = fmt.Sprintf("%s:%d", config.Host, config.Port)
	}
	s := &session{db: trace.Open(mssql.NewConnectorConfig(config), o.Watch), place: place, statement: o.StatementTimeout}
	if s.statement == 0 && !o.Write {
		s.statement = statementTimeout
	}
	if s.conn, err = s.db.Conn(ctx); err == nil {
		_, err = s.conn.ExecContext(ctx, traits.LockLimit(o.LockTimeout))
	}
	if err == nil && !o.Write {
		err = s.readOnly(ctx)
	}
	if err != nil {
		s.db.Close()
		return nil, s.wrap(ctx, config.User, err)
	}
	return s, nil
}

// readOnly has the session see one moment where the database keeps row versions
// (https://learn.microsoft.com/en-us/sql/t-sql/statements/set-transaction-isolation-level-transact-sql).
// The server has no transactions that are read-only: nothing is sent but queries.
func (s *session) readOnly(ctx context.Context) error {
	var snapshot sql.NullInt64
	err := s.conn.QueryRowContext(ctx, "SELECT CAST(d.snapshot_isolation_state AS int) FROM sys.databases d WHERE d.name = DB_NAME()").Scan(&snapshot)
	if err == nil && snapshot.Int64 == 1 {
		_, err = s.conn.ExecContext(ctx, "SET TRANSACTION ISOLATION LEVEL SNAPSHOT")
	}
	return err
}

// wrap turns the driver's errors into sentences.
func (s *session) wrap(ctx context.Context, user string, err error) error {
	if err == nil {
		return nil
	}
	if ctx.Err() != nil {
		return ctx.Err()
	}
	e := &engine.SourceError{Place: s.place, Err: err}
	var said mssql.Error
	var op *net.OpError
	switch {
	case errors.As(err, &said):
		e.Err = errors.New(strings.TrimPrefix(said.Message, "login error: "))
		switch said.Number { // https://learn.microsoft.com/en-us/sql/relational-databases/errors-events/database-engine-events-and-errors
		case 18456:
			e.Kind, e.Hint = engine.ErrRefused, fmt.Sprintf("check the password of %s (SQLCMDPASSWORD)", user)
		case 4060, 911:
			e.Kind, e.Hint = engine.ErrUnreachable, "name a database that exists and that the login may use"
		case 229, 230, 262, 300:
			e.Kind, e.Hint = engine.ErrNoPrivilege, "ask for the right to read it"
		case 1222:
			e.Kind, e.Hint = engine.ErrBusy, "try again when the lock is gone"
		}
	case errors.As(err, &op):
		e.Kind, e.Err, e.Hint = engine.ErrUnreachable, op.Err, "check host, port and whether the server runs"
	case lost(err):
		e.Kind, e.Err, e.Hint = engine.ErrUnreachable, errors.New("the connection broke"), "see whether the server still runs, and try again"
	}
	return e
}

// Place names database and server.
func (s *session) Place() string { return s.place }

// Close ends the session, and the locks of a run with it.
func (s *session) Close() error {
	s.conn.Close()
	return s.db.Close()
}
