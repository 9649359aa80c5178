package firebird

import (
	"context"
	"database/sql"
	"database/sql/driver"
	"errors"
	"fmt"
	"io"
	"math"
	"net"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/nakagami/firebirdsql"

	"nexdal/internal/engine"
)

// begin opens a transaction, which does not end with the context of the statement that opened it.
// It is the driver's own: that of database/sql cannot be rolled back once its COMMIT was refused.
func (s *session) begin(ctx context.Context, o driver.TxOptions) error {
	return s.conn.Raw(func(c any) (err error) {
		s.tx, err = c.(driver.ConnBeginTx).BeginTx(context.WithoutCancel(ctx), o)
		return err
	})
}

// The transactions of a session. The driver knows no time for which one waits for a lock: it does
// not wait, and what was in the way is tried again.
var (
	forReading  = driver.TxOptions{ReadOnly: true}
	forWriting  = driver.TxOptions{Isolation: driver.IsolationLevel(firebirdsql.LevelReadCommittedNoWait)}
	ofOneMoment = driver.TxOptions{Isolation: driver.IsolationLevel(sql.LevelRepeatableRead)} // SNAPSHOT
)

// within gives a statement the time that the session has for one.
func (s *session) within(ctx context.Context) (context.Context, context.CancelFunc) {
	return engine.Within(ctx, s.statement)
}

// Exec carries out one statement. What opens and ends a transaction is no statement of the server's,
// but of its client; what stands in none is one by itself, since most of what alters a structure
// happens when that ends
// (https://firebirdsql.org/file/documentation/html/en/refdocs/fblangref30/firebird-30-language-reference.html#fblangref30-transacs).
func (s *session) Exec(ctx context.Context, text string) error {
	switch word := strings.ToUpper(strings.Join(strings.Fields(text[:min(len(text), 40)]), " ")); {
	case strings.HasPrefix(word, "SET TRANSACTION"):
		if s.tx != nil {
			return errors.New("a transaction is open already")
		}
		return s.said(ctx, s.begin(ctx, forWriting))
	case word == "COMMIT":
		return s.said(ctx, s.commit())
	case word == "ROLLBACK":
		return s.Rollback(ctx)
	}
	at, cancel := s.within(ctx)
	defer cancel()
	if s.tx != nil {
		_, err := s.conn.ExecContext(at, text)
		return s.said(ctx, err)
	}
	if err := s.begin(ctx, forWriting); err != nil {
		return s.said(ctx, err)
	}
	if _, err := s.conn.ExecContext(at, text); err != nil {
		s.Rollback(context.WithoutCancel(ctx))
		return s.said(ctx, err)
	}
	return s.said(ctx, s.commit())
}

// commit ends the transaction. The server looks at much of what it was told only now; what it
// refuses is rolled back.
func (s *session) commit() error {
	if s.tx == nil {
		return nil
	}
	err := s.tx.Commit()
	if err != nil && !lost(err) {
		err = errors.Join(err, s.tx.Rollback())
	}
	s.tx = nil
	return err
}

func lost(err error) bool {
	var broken net.Error
	return errors.Is(err, driver.ErrBadConn) || errors.Is(err, io.EOF) || errors.Is(err, io.ErrUnexpectedEOF) || errors.Is(err, sql.ErrConnDone) || errors.As(err, &broken)
}

func has(e *firebirdsql.FbError, codes ...int) bool {
	return slices.ContainsFunc(codes, func(c int) bool { return slices.Contains(e.GDSCodes, c) })
}

// busy reports whether somebody else holds what is needed.
func busy(e *firebirdsql.FbError) bool { return has(e, isDeadlock, isLockConf, isLockTime, isInUse) }

// said tells an error of a statement.
func (s *session) said(ctx context.Context, err error) error {
	var said *firebirdsql.FbError
	switch {
	case err == nil || ctx.Err() != nil:
		return err
	case errors.As(err, &said):
		message := oneLine(said.Message)
		e := &engine.StatementError{Code: cmpCode(said), Err: errors.New(message), Busy: busy(said)}
		e.Exists = strings.Contains(message, "already exists") || strings.Contains(message, "attempt to store duplicate value") && strings.Contains(message, "RDB$")
		e.Missing = strings.Contains(message, "not found") || strings.Contains(message, "does not exist") || strings.Contains(message, "unknown")
		return e
	case errors.Is(err, context.DeadlineExceeded):
		return engine.TookTooLong(s.place)
	}
	return s.wrap(ctx, "", err)
}

// cmpCode is the SQLSTATE, or else the first code of the status.
func cmpCode(e *firebirdsql.FbError) string {
	if e.SQLState != "" || len(e.GDSCodes) == 0 {
		return e.SQLState
	}
	return strconv.Itoa(e.GDSCodes[0])
}

// Rows sends a query and takes the answer as text.
func (s *session) Rows(ctx context.Context, query string, max int) (names []string, all []engine.Row, err error) {
	if s.tx == nil {
		if err := s.begin(ctx, forReading); err != nil {
			return nil, nil, s.said(ctx, err)
		}
		defer func() {
			if back := s.Rollback(context.WithoutCancel(ctx)); err == nil {
				err = back
			}
		}()
	}
	at, cancel := s.within(ctx)
	defer cancel()
	rows, err := s.conn.QueryContext(at, query)
	if err != nil {
		return nil, nil, s.said(ctx, err)
	}
	names, all, err = engine.TextRows(rows, max, asText)
	return names, all, s.said(ctx, err)
}

// asText writes a value as the server would, were it cast.
func asText(v any, kind string) *string {
	text := ""
	switch v := v.(type) {
	case nil:
		return nil
	case string:
		text = v
	case bool:
		text = strings.ToUpper(strconv.FormatBool(v))
	case float64:
		text = strconv.FormatFloat(v, 'g', -1, 64)
		if v == math.Trunc(v) && math.Abs(v) < 1e15 {
			text = strconv.FormatFloat(v, 'f', -1, 64)
		}
	case []byte:
		text = string(v)
	case time.Time:
		switch kind {
		case "DATE":
			text = v.Format(time.DateOnly)
		case "TIME":
			text = v.Format("15:04:05.0000")
		default:
			text = v.Format("2006-01-02 15:04:05.0000")
		}
	default:
		text = fmt.Sprint(v)
	}
	return &text
}

// Rollback ends an open transaction.
func (s *session) Rollback(context.Context) error {
	if s.tx == nil {
		return nil
	}
	err := s.tx.Rollback()
	s.tx = nil
	return err
}
