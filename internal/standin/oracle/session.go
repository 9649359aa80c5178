package oracle

import (
	"context"
	"errors"
	"fmt"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/standin"
	"nexdal/internal/standin/grammar"
)

// A Session is that of one account. What it writes is there at once: it has no transactions.
type Session struct {
	*standin.Session
	d         *Dictionary
	account   string
	current   string // the schema that names without one are in
	plain     bool   // it sees no administrators' views
	says      func(line string)
	renamed   bool           // the block asks by the views that the account may see
	variables map[string]any // of blocks and of the client, in small letters
}

// As begins the session of an account. One that is not an administrator sees the views of what it
// may see alone.
func (d *Dictionary) As(account string, administrator bool) *Session {
	s := &Session{Session: d.Open(account, "SYS"), d: d, account: account, current: account, plain: !administrator, says: func(string) {}, variables: map[string]any{}}
	s.Fold, s.Of = strings.ToUpper, s
	return s
}

// Exec carries one statement out.
func (s *Session) Exec(ctx context.Context, sql string) error {
	return s.told(s.exec(ctx, sql))
}

func (s *Session) exec(ctx context.Context, sql string) (err error) {
	c := grammar.New(s.d.Lexis(), sql, bare)
	e := grammar.Read(func() {
		switch {
		case c.Is("DECLARE"), c.Is("BEGIN"):
			err = s.block(ctx, c)
		case c.Is("SELECT"), c.Is("WITH"):
			_, err = s.query(ctx, sql)
		case c.Is("INSERT"), c.Is("UPDATE"), c.Is("DELETE"), c.Is("MERGE"):
			err = s.write(ctx, c, sql)
		case c.Take("COMMIT"), c.Take("ROLLBACK"), c.Take("SET", "TRANSACTION", "READ", "ONLY"):
		case c.Take("ALTER", "SESSION", "SET"):
			err = s.set(c)
		default:
			if err = s.unnameable(sql); err != nil {
				return
			}
			err = s.Alter(ctx, func() error {
				var inner error
				if e := grammar.Read(func() { inner = s.define(ctx, c) }); e != nil {
					return e
				}
				return inner
			})
		}
	})
	err = errors.Join(err, e)
	if j, ok := err.(interface{ Unwrap() []error }); ok && len(j.Unwrap()) == 1 {
		err = j.Unwrap()[0]
	}
	var syntax *grammar.SyntaxError
	if errors.As(err, &syntax) {
		return refuse(922, "missing or invalid option: %v", syntax)
	}
	return err
}

// write adds, alters or removes rows.
func (s *Session) write(ctx context.Context, c *grammar.Cursor, sql string) error {
	if c.Take("INSERT", "INTO") {
		c.Ref(s.current)
		if c.Is("(") {
			c.Names()
		}
		if c.Take("VALUES") {
			c.Bracketed()
			if c.Is(",") {
				return refuse(933, "SQL command not properly ended")
			}
		}
	}
	_, err := s.Write(ctx, strings.TrimSuffix(strings.TrimSpace(sql), ";"))
	return err
}

// Rows asks, and gives at most so many rows as text.
func (s *Session) Rows(ctx context.Context, sql string, most int) (names []string, rows [][]*string, err error) {
	a, err := s.query(ctx, sql)
	if err != nil {
		return nil, nil, s.told(err)
	}
	for i, row := range a.Rows {
		if i == most {
			break
		}
		values := make([]*string, len(row))
		for k, v := range row {
			if v == nil {
				continue
			}
			text := shown(v)
			values[k] = &text
		}
		rows = append(rows, values)
	}
	for _, n := range a.Names {
		names = append(names, strings.ToUpper(n))
	}
	return names, rows, nil
}

// query asks, where the account may.
func (s *Session) query(ctx context.Context, sql string) (*standin.Answer, error) {
	if s.plain && mentions(s.d.Lexis(), sql, "DBA_") {
		return nil, refuse(942, "table or view does not exist")
	}
	return s.Query(ctx, sql)
}

func mentions(d sqllex.Dialect, sql, prefix string) bool {
	found := false
	d.Each(sql, func(t sqllex.Token) bool {
		found = t.Kind == sqllex.Word && strings.HasPrefix(strings.ToUpper(t.Text), prefix)
		return !found
	})
	return found
}

func shown(v any) string {
	switch v := v.(type) {
	case []byte:
		return fmt.Sprintf("%X", v)
	case float64:
		return strings.TrimSuffix(strings.TrimSuffix(fmt.Sprintf("%g", v), ".0"), ".")
	}
	return fmt.Sprint(v)
}

// home is where a name without a schema is.
func (s *Session) ref(c *grammar.Cursor) catalog.Ref { return c.Ref(s.current) }

// unnameable refuses a statement with a name in it that holds what no name may
// (https://docs.oracle.com/en/database/oracle/oracle-database/19/sqlrf/Database-Object-Names-and-Qualifiers.html).
func (s *Session) unnameable(sql string) (err error) {
	s.d.Lexis().Each(sql, func(t sqllex.Token) bool {
		switch name := t.Name(); {
		case t.Kind != sqllex.Quoted && t.Kind != sqllex.Word:
		case name == "":
			err = refuse(1741, "illegal zero-length identifier")
		case strings.ContainsAny(name, "\"\x00"):
			err = refuse(3001, "unimplemented feature: a quotation mark in a name")
		case len(name) > 128:
			err = refuse(972, "identifier is too long")
		}
		return err == nil
	})
	return err
}

// set alters the session.
func (s *Session) set(c *grammar.Cursor) error {
	switch what := c.OneOf("CURRENT_SCHEMA", "DDL_LOCK_TIMEOUT", "NLS_DATE_FORMAT"); what {
	case "CURRENT_SCHEMA":
		c.Need("=")
		name := c.Name()
		if s.d.Catalog.Schema(name) == nil {
			return refuse(1435, "user does not exist")
		}
		s.current, s.Path[0] = name, name
	default:
		c.Need("=")
		c.Skip()
	}
	c.End()
	return nil
}

// Fill adds rows to a table, as they are, and has them counted.
func (s *Session) Fill(ctx context.Context, ref catalog.Ref, columns []string, next func() []any) error {
	sql := fmt.Sprintf("INSERT INTO %s (%s) VALUES (?%s)", s.d.Stored(ref), strings.Join(quotedNames(columns), ", "), strings.Repeat(", ?", len(columns)-1))
	return s.told(s.Alter(ctx, func() error {
		return s.d.Many(ctx, sql, func(do func(args ...any) error) error {
			for row := next(); row != nil; row = next() {
				for i, v := range row {
					row[i] = kept(v)
				}
				if err := do(row...); err != nil {
					return err
				}
			}
			return nil
		})
	}))
}

func quotedNames(names []string) []string {
	all := make([]string, len(names))
	for i, n := range names {
		all[i] = standin.Quote(n)
	}
	return all
}
