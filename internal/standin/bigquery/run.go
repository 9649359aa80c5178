package bigquery

import (
	"context"
	"errors"
	"fmt"
	"math"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/standin"
	"nexdal/internal/standin/grammar"
)

// A fault is an error with its code and reason
// (https://cloud.google.com/bigquery/docs/error-messages).
type fault struct {
	code            int
	reason, message string
}

func (f *fault) Error() string { return f.message }

func refuse(format string, args ...any) error {
	return &fault{400, "invalidQuery", fmt.Sprintf(format, args...)}
}

// beyond is the answer to what the stand-in does not know.
func beyond(what string) error { return refuse("the simulated service does not know %s", what) }

// understood says what went wrong in the service's words.
func (s *session) understood(err error) error {
	var own *fault
	var f *standin.Fault
	var syntax *grammar.SyntaxError
	switch {
	case err == nil || errors.As(err, &own):
		return err
	case errors.As(err, &syntax):
		return refuse("Syntax error: %s", syntax)
	case errors.As(err, &f):
		name := fmt.Sprintf("%s:%s.%s", s.p.name, f.Table.Schema, f.Table.Table)
		switch f.Kind {
		case standin.Exists:
			return &fault{409, "duplicate", fmt.Sprintf("Already Exists: %s of Table %s", f.Name, name)}
		case standin.Missing:
			return &fault{404, "notFound", fmt.Sprintf("Not found: %s of Table %s was not found in location %s", f.Name, name, s.p.location)}
		case standin.NoColumn:
			return refuse("Column %s is not present in table %s", f.Name, name)
		case standin.HasKey:
			return refuse("Table %s already has a primary key", name)
		}
		return refuse("%s", f)
	}
	if b := s.Told(err); b != nil {
		if b.Kind == "null" {
			return refuse("Required field %s cannot be null", b.Column)
		}
		return refuse("%s: the value is too long or does not fit", b.Column)
	}
	text := err.Error()
	if strings.Contains(text, "no such table") {
		return &fault{404, "notFound", "Not found: " + text}
	}
	return refuse("%s", text)
}

// session is one statement's.
type session struct {
	*standin.Session
	p       *Project
	tables  []catalog.Ref // that the query reads
	percent map[catalog.Ref]int64
}

func (p *Project) session() *session {
	s := &session{p: p, percent: map[catalog.Ref]int64{}}
	s.Session = p.Open()
	s.Of = s
	return s
}

// script carries out statements one after another; what came of the last is returned.
func (p *Project) script(ctx context.Context, text string) (*job, error) {
	last := &job{}
	for _, st := range p.Lexis().Statements(text) {
		if st.Text == "" {
			continue
		}
		var err error
		if last, err = p.one(ctx, st.Text); err != nil {
			return nil, err
		}
	}
	return last, nil
}

// asked is script, which is billed, and refused where it would be billed for more than is allowed.
func (p *Project) asked(ctx context.Context, text string, most int64) (*job, error) {
	would, err := p.estimate(ctx, text)
	if err != nil {
		return nil, err
	}
	if most > 0 && would.bytes > most {
		return nil, &fault{400, "bytesBilledLimitExceeded", fmt.Sprintf("Query exceeded limit for bytes billed: %d. %d or higher required.", most, would.bytes)}
	}
	j, err := p.script(ctx, text)
	if err != nil {
		return nil, err
	}
	j.bytes, j.tables, j.kind = would.bytes, would.tables, would.kind
	p.billed += would.bytes
	return j, nil
}

func isQuery(c *grammar.Cursor) bool { return c.Is("SELECT") || c.Is("WITH") || c.Is("(") }

// one carries out a statement.
func (p *Project) one(ctx context.Context, sql string) (*job, error) {
	s := p.session()
	c := grammar.New(p.Lexis(), sql, asIs)
	if isQuery(c) {
		a, err := s.ask(ctx, sql)
		if err != nil {
			return nil, s.understood(err)
		}
		j := &job{}
		for i, name := range a.Names {
			j.fields = append(j.fields, field{name, typeIn(a, i), "NULLABLE"})
		}
		for _, row := range a.Rows {
			for i, v := range row {
				row[i] = handed(j.fields[i].Type, v)
			}
			j.rows = append(j.rows, row)
		}
		return j, nil
	}
	return &job{}, s.understood(s.execute(ctx, c, sql))
}

func asIs(name string) string { return name }

// ask answers a query on tables that may be read so.
func (s *session) ask(ctx context.Context, sql string) (*standin.Answer, error) {
	a, err := s.Query(ctx, sql)
	if err != nil {
		return nil, err
	}
	return a, s.filtered(sql)
}

// filtered refuses a query that names no partition column where one is required
// (https://cloud.google.com/bigquery/docs/querying-partitioned-tables#require_a_partition_filter_in_queries).
func (s *session) filtered(sql string) error {
	_, where, _ := strings.Cut(strings.ToUpper(sql), "WHERE")
	for _, ref := range s.tables {
		t := s.p.Catalog.Table(ref)
		if t == nil || t.PartitionBy == nil || !t.PartitionBy.FilterRequired {
			continue
		}
		named := slices.ContainsFunc(t.PartitionBy.Columns, func(name string) bool { return s.p.Lexis().Mentions(where, strings.ToUpper(name)) })
		if !named {
			return refuse("Cannot query over table '%s.%s' without a filter over column(s) '%s' that can be used for partition elimination", ref.Schema, ref.Table, strings.Join(t.PartitionBy.Columns, "', '"))
		}
	}
	return nil
}

// typeIn is the type of a column of an answer.
func typeIn(a *standin.Answer, i int) string {
	declared, _, _ := strings.Cut(strings.ToUpper(a.Types[i]), " ")
	switch declared {
	case "INT64":
		return "INTEGER"
	case "FLOAT64":
		return "FLOAT"
	case "BOOL":
		return "BOOLEAN"
	case "STRING", "BYTES", "DATE", "DATETIME", "TIMESTAMP", "TIME", "NUMERIC", "BIGNUMERIC":
		return declared
	}
	for _, row := range a.Rows {
		switch row[i].(type) {
		case int64:
			return "INTEGER"
		case float64:
			return "FLOAT"
		case nil:
			continue
		}
		break
	}
	return "STRING"
}

// widths of values in bytes
// (https://cloud.google.com/bigquery/pricing#data).
func width(t catalog.Type) int64 {
	switch t.Family {
	case catalog.Boolean:
		return 1
	case catalog.Decimal:
		return 16
	case catalog.Text, catalog.Binary, catalog.JSON:
		return 22
	case catalog.Array, catalog.Other:
		return 64
	}
	return 8
}

// estimate reckons what a text would be billed for: of each table, its rows times the width of the
// columns that the text names, or of all.
func (p *Project) estimate(ctx context.Context, text string) (*job, error) {
	all := &job{kind: "SCRIPT"}
	statements := slices.DeleteFunc(p.Lexis().Statements(text), func(st sqllex.Statement) bool { return st.Text == "" })
	for _, st := range statements {
		s := p.session()
		c := grammar.New(p.Lexis(), st.Text, asIs)
		kind := "SELECT"
		if !isQuery(c) {
			kind = strings.ToUpper(c.Peek(0).Text)
		}
		if len(statements) == 1 {
			all.kind = kind
		}
		if kind == "SELECT" {
			if _, err := s.ask(ctx, "SELECT * FROM ("+strings.TrimSuffix(strings.TrimSpace(st.Text), ";")+") LIMIT 0"); err != nil {
				return nil, s.understood(err)
			}
		}
		words := map[string]bool{}
		p.Lexis().Each(st.Text, func(t sqllex.Token) bool {
			if t.Kind == sqllex.Word || t.Kind == sqllex.Quoted {
				words[strings.ToLower(t.Name())] = true
			}
			return true
		})
		if kind == "INSERT" && words["select"] || kind == "ASSERT" || kind == "UPDATE" || kind == "DELETE" {
			p.Spell(s.Session, p.Lexis().Tokens(st.Text))
		}
		for _, ref := range s.tables {
			bytes, err := p.bytes(ctx, ref, words)
			if err != nil {
				return nil, err
			}
			if share, ok := s.percent[ref]; ok {
				bytes = bytes * share / 100
			}
			all.bytes += bytes
			all.tables = append(all.tables, ref)
		}
	}
	return all, nil
}

func (p *Project) bytes(ctx context.Context, ref catalog.Ref, words map[string]bool) (int64, error) {
	t := p.Catalog.Table(ref)
	if t == nil {
		return 0, nil
	}
	rows, err := p.Count(ctx, "SELECT count(*) FROM "+p.Stored(ref))
	if err != nil {
		return 0, err
	}
	var named, every int64
	for _, c := range t.Columns {
		every += width(c.Type)
		if words[strings.ToLower(c.Name)] {
			named += width(c.Type)
		}
	}
	if named == 0 && !words["count"] {
		named = every
	}
	return int64(math.Max(0, float64(rows)*float64(named))), nil
}
