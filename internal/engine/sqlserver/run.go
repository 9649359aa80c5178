package sqlserver

import (
	"context"
	"database/sql/driver"
	"errors"
	"fmt"
	"io"
	"math"
	"strconv"
	"strings"
	"time"

	mssql "github.com/microsoft/go-mssqldb"

	"nexdal/internal/engine"
)

// within gives a statement the time that the session has for one. The server itself has no
// time-out of statements.
func (s *session) within(ctx context.Context) (context.Context, context.CancelFunc) {
	return engine.Within(ctx, s.statement)
}

// Exec carries out one statement.
func (s *session) Exec(ctx context.Context, text string) error {
	at, cancel := s.within(ctx)
	defer cancel()
	_, err := s.conn.ExecContext(at, text)
	return s.said(ctx, err)
}

func lost(err error) bool {
	return errors.Is(err, driver.ErrBadConn) || errors.Is(err, io.EOF) || errors.Is(err, io.ErrUnexpectedEOF)
}

// said tells an error of a statement.
func (s *session) said(ctx context.Context, err error) error {
	var said mssql.Error
	switch {
	case err == nil || ctx.Err() != nil:
		return err
	case errors.Is(err, context.DeadlineExceeded):
		return engine.TookTooLong(s.place)
	case errors.As(err, &said):
		// Of several messages the first says what is wrong, the last that nothing came of it.
		if len(said.All) > 0 {
			said = said.All[0]
		}
		e := &engine.StatementError{Code: strconv.Itoa(int(said.Number)), Err: errors.New(said.Message)}
		switch said.Number {
		case 1779, 1781, 1913, 2705, 2714, 15335: // key, default, index, column, object, name
			e.Exists = true
		case 208, 3701, 3728, 4902, 4917, 4924, 7999:
			e.Missing = true
		case 1222, 1205:
			e.Busy = true
		}
		return e
	}
	return s.wrap(ctx, "", err)
}

// Rows sends a query and takes the answer as text.
func (s *session) Rows(ctx context.Context, query string, max int) (names []string, all []engine.Row, err error) {
	at, cancel := s.within(ctx)
	defer cancel()
	rows, err := s.conn.QueryContext(at, query)
	if err != nil {
		return nil, nil, s.said(ctx, err)
	}
	names, all, err = engine.TextRows(rows, max, asText)
	return names, all, s.said(ctx, err)
}

// asText writes a value as the server would, were it cast with style 121.
func asText(v any, kind string) *string {
	text := ""
	switch v := v.(type) {
	case nil:
		return nil
	case string:
		text = v
	case bool:
		text = map[bool]string{true: "1", false: "0"}[v]
	case float64:
		text = strconv.FormatFloat(v, 'g', -1, 64)
		if v == math.Trunc(v) && math.Abs(v) < 1e15 {
			text = strconv.FormatFloat(v, 'f', -1, 64)
		}
	case []byte:
		switch {
		case kind == "UNIQUEIDENTIFIER":
			var u mssql.UniqueIdentifier
			if u.Scan(v) == nil {
				text = strings.ToUpper(u.String())
				break
			}
			fallthrough
		case strings.Contains(kind, "BINARY") || kind == "IMAGE":
			text = fmt.Sprintf("0x%X", v)
		default: // decimals and money
			text = string(v)
		}
	case time.Time:
		switch kind {
		case "DATE":
			text = v.Format(time.DateOnly)
		case "TIME":
			text = v.Format("15:04:05.9999999")
		case "DATETIMEOFFSET":
			text = v.Format("2006-01-02 15:04:05.9999999 -07:00")
		default:
			text = v.Format("2006-01-02 15:04:05.9999999")
		}
	default:
		text = fmt.Sprint(v)
	}
	return &text
}

// Rollback ends an open transaction, which an error may have ended already, and brings the
// settings back that a step may have left.
func (s *session) Rollback(ctx context.Context) error {
	return s.Exec(ctx, "IF @@TRANCOUNT > 0 ROLLBACK TRANSACTION")
}
