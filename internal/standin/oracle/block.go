package oracle

import (
	"context"
	"fmt"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/standin/grammar"
)

// block carries out a block of PL/SQL, as far as the scripts have need of it: variables,
// assignments, SELECT INTO, EXECUTE IMMEDIATE, IF, some packages. A procedure that is called ask,
// in a block's declarations, shows the rows of a query as a capture has them: its text is not
// looked at (https://docs.oracle.com/en/database/oracle/oracle-database/19/lnpls/).
func (s *Session) block(ctx context.Context, c *grammar.Cursor) error {
	var locals []string
	defer func() {
		for _, name := range locals {
			delete(s.variables, name)
		}
	}()
	if c.Take("DECLARE") {
		s.renamed = strings.Contains(c.Whole(), "REPLACE(query, 'DBA_'")
		for !c.Is("BEGIN") {
			if c.Take("PROCEDURE") {
				name := c.Name()
				for !c.Is("END", name) && !c.Done() { // which says its name
					c.Skip()
				}
				c.Need("END", name)
				c.Need(";")
				continue
			}
			if c.Take("TYPE") {
				c.Statement()
				c.Need(";")
				continue
			}
			name := strings.ToLower(c.Name())
			locals = append(locals, name)
			s.variables[name] = nil
			c.Statement()
			c.Need(";")
		}
	}
	c.Need("BEGIN")
	err := s.statements(ctx, c, true)
	if c.Take("EXCEPTION") {
		c.Need("WHEN", "OTHERS", "THEN")
		passed := int64(0) // every error
		if c.Take("IF", "SQLCODE", "<", ">") {
			passed = c.Number()
			c.Need("THEN", "RAISE", ";", "END", "IF", ";")
		} else {
			c.Need("NULL", ";")
		}
		if e, ok := s.told(err).(*Error); passed == 0 || ok && int64(e.Code) == -passed {
			err = nil
		}
	}
	if err != nil {
		return err
	}
	c.Need("END")
	c.Need(";")
	c.End()
	return nil
}

// statements goes on to END or EXCEPTION, and carries out what comes as long as it is to run. An
// error is returned once the rest was read past.
func (s *Session) statements(ctx context.Context, c *grammar.Cursor, run bool) error {
	var failed error
	for !c.Is("END") && !c.Is("EXCEPTION") {
		if c.Done() {
			c.Need("END")
		}
		does := run && failed == nil
		if c.Take("IF") {
			condition := c.Upto("THEN")
			c.Need("THEN")
			if does {
				v, err := s.value(ctx, "("+condition+")")
				if err != nil {
					return err
				}
				does = v == int64(1)
			}
			err := s.statements(ctx, c, does)
			c.Need("END", "IF", ";")
			if failed == nil {
				failed = err
			}
			continue
		}
		text := c.Statement()
		c.Need(";")
		if does {
			failed = s.single(ctx, text)
		}
	}
	return failed
}

// single carries out one statement of a block.
func (s *Session) single(ctx context.Context, text string) (err error) {
	c := grammar.New(s.d.Lexis(), text, bare)
	e := grammar.Read(func() {
		switch {
		case c.Take("NULL"), c.Take("COMMIT"):
		case c.Take("EXECUTE", "IMMEDIATE"):
			var v any
			if v, err = s.value(ctx, c.Upto("INTO")); err != nil {
				return
			}
			if c.Take("INTO") {
				name := s.variable(c)
				s.variables[name], err = s.value(ctx, "("+fmt.Sprint(v)+")")
				return
			}
			err = s.exec(ctx, fmt.Sprint(v))
		case c.Is("SELECT"):
			err = s.into(ctx, text)
		case c.Take("DBMS_OUTPUT", ".", "PUT_LINE"):
			var v any
			if v, err = s.value(ctx, c.Rest()); err == nil {
				s.says(fmt.Sprint(v))
			}
		case c.Take("DBMS_STATS", ".", "GATHER_TABLE_STATS"):
			var names []string
			c.List(func() { names = append(names, strings.Trim(c.Literal(), `"`)) })
			err = s.gather(ctx, names)
		case c.Take("DBMS_RLS", ".", "ADD_POLICY"):
			var arguments []string
			c.List(func() { arguments = append(arguments, c.Literal()) })
			err = s.policy(arguments)
		case c.Take("ask"):
			err = s.asks(ctx, c)
		case c.Is("INSERT"), c.Is("UPDATE"), c.Is("DELETE"):
			err = s.write(ctx, c, text)
		default:
			name := s.variable(c)
			c.Need(":")
			c.Need("=")
			s.variables[name], err = s.value(ctx, c.Rest())
		}
	})
	if e != nil {
		return e
	}
	return err
}

// variable needs the name of one: n, or :n of the client's.
func (s *Session) variable(c *grammar.Cursor) string {
	mark := ""
	if c.Take(":") {
		mark = ":"
	}
	name := mark + strings.ToLower(c.Name())
	if _, known := s.variables[name]; !known {
		grammar.Fail(refuse(6550, "PLS-00201: identifier '%s' must be declared", name))
	}
	return name
}

// value is what an expression gives.
func (s *Session) value(ctx context.Context, expression string) (any, error) {
	a, err := s.query(ctx, "SELECT "+expression)
	if err != nil || len(a.Rows) == 0 {
		return nil, err
	}
	return a.Rows[0][0], nil
}

// into is SELECT expression INTO variable FROM ...
func (s *Session) into(ctx context.Context, text string) error {
	var from, to sqllex.Token
	s.d.Lexis().Each(text, func(t sqllex.Token) bool {
		switch {
		case t.Is("INTO"):
			from = t
		case t.Is("FROM") && from.Text != "" && to.Text == "":
			to = t
		}
		return true
	})
	if from.Text == "" || to.Text == "" {
		return refuse(6550, "PLS-00428: an INTO clause is expected in this SELECT statement")
	}
	name := strings.ToLower(strings.TrimSpace(text[from.End:to.Start]))
	a, err := s.query(ctx, text[:from.Start]+" "+text[to.Start:])
	if err != nil {
		return err
	}
	if len(a.Rows) != 1 {
		return refuse(1403, "no data found")
	}
	s.variables[name] = a.Rows[0][0]
	return nil
}

// gather counts the rows of a table, and remembers that they were counted.
func (s *Session) gather(ctx context.Context, names []string) error {
	if len(names) != 2 {
		return refuse(6550, "wrong number or types of arguments in call to 'GATHER_TABLE_STATS'")
	}
	t, err := s.d.Table(catalog.Ref{Schema: names[0], Table: names[1]})
	if err != nil {
		return err
	}
	return s.Alter(ctx, func() error {
		n, err := s.d.Count(ctx, "SELECT count(*) FROM "+s.d.Stored(t.Ref()))
		t.Stats.Rows = &n
		return err
	})
}

// pieces is how many letters of a row stand on one line.
const pieces = 8000

// asks shows the rows of a query, as a capture has them.
func (s *Session) asks(ctx context.Context, c *grammar.Cursor) error {
	c.Need("(")
	key := c.Literal()
	c.Need(",")
	query, err := s.value(ctx, c.Until())
	c.Need(")")
	if err != nil {
		return err
	}
	s.says("@ask " + key)
	sql := fmt.Sprint(query)
	if views, ok := s.variables[":views"].(string); ok && s.renamed {
		sql = strings.ReplaceAll(sql, "DBA_", views+"_")
	}
	_, rows, err := s.Rows(ctx, sql, 1<<30)
	if err != nil {
		code := "ORA-00900"
		if e, ok := s.told(err).(*Error); ok {
			code = fmt.Sprintf("ORA-%05d", e.Code)
		}
		s.says("@failed " + key + " " + code)
		return nil
	}
	for _, row := range rows {
		var b strings.Builder
		for i, v := range row {
			b.WriteString(map[bool]string{true: "[", false: ","}[i == 0])
			if v == nil {
				b.WriteString("null")
				continue
			}
			b.WriteString(`"` + escaped(*v) + `"`)
		}
		line := b.String() + "]"
		head := fmt.Sprintf("@row %d ", len(line))
		for len(line) > pieces {
			s.says(head + line[:pieces])
			head, line = "", line[pieces:]
		}
		s.says(head + line)
	}
	s.says(fmt.Sprintf("@end %s %d", key, len(rows)))
	return nil
}

// escaped is ASCIISTR of a text in JSON.
func escaped(text string) string {
	var b strings.Builder
	for _, r := range strings.ReplaceAll(asciiOf(text), `\`, `\u`) {
		switch {
		case r == '"':
			b.WriteString(`\u0022`)
		case r < ' ':
			fmt.Fprintf(&b, `\u%04X`, r)
		default:
			b.WriteRune(r)
		}
	}
	return b.String()
}
