// Package ask puts the questions of the evidence to engines that speak SQL.
// What differs between them is in a [Dialect].
package ask

import (
	"context"
	"fmt"
	"strconv"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/evidence"
)

// A Dialect is how an engine writes what the questions need.
type Dialect struct {
	Ident    func(string) string
	Relation func(catalog.Ref) string
	Text     string // a cast to text, of %s
	Length   string // the letters of the text %s
	// Ordered reports whether the least of a column can be asked for as it is;
	// otherwise it is asked of its text.
	Ordered func(catalog.Type) bool
}

// Rows sends a query and gives at most so many rows as text, a null as "null".
type Rows func(ctx context.Context, sql string, max int) (names []string, rows [][]string, err error)

// New makes an asker of a session's way to send queries.
func New(rows Rows, d Dialect) evidence.Asker { return &asker{rows: rows, d: d} }

type asker struct {
	rows  Rows
	d     Dialect
	asked int
}

func (a *asker) Asked() int { return a.asked }

func (a *asker) ask(ctx context.Context, sql string, most int) ([][]string, error) {
	a.asked++
	_, rows, err := a.rows(ctx, sql, most)
	return rows, err
}

// inOne is how many columns are looked at in one pass.
const inOne = 40

// comparable reports whether values of the type can be told apart by the
// engine, and its order.
func comparable(t catalog.Type) bool {
	switch t.Family {
	case catalog.JSON, catalog.Array, catalog.Other, catalog.Binary, catalog.Interval:
		return false
	}
	return true
}

func (a *asker) Profile(ctx context.Context, t *catalog.Table, columns []*catalog.Column) ([]evidence.Column, error) {
	var all []evidence.Column
	for len(columns) > 0 {
		n := min(inOne, len(columns))
		facts, err := a.pass(ctx, t, columns[:n])
		if err != nil {
			return nil, err
		}
		all, columns = append(all, facts...), columns[n:]
	}
	return all, nil
}

func (a *asker) pass(ctx context.Context, t *catalog.Table, columns []*catalog.Column) ([]evidence.Column, error) {
	parts := []string{"count(*)"}
	for _, c := range columns {
		name := a.d.Ident(c.Name)
		parts = append(parts, "count("+name+")")
		if !comparable(c.Type) {
			continue
		}
		value := name
		if !a.d.Ordered(c.Type) {
			value = fmt.Sprintf(a.d.Text, name)
		}
		parts = append(parts, "count(DISTINCT "+name+")", fmt.Sprintf(a.d.Text, "min("+value+")"), fmt.Sprintf(a.d.Text, "max("+value+")"))
		if c.Type.Family == catalog.Text {
			length := fmt.Sprintf(a.d.Length, name)
			parts = append(parts, "min("+length+")", "max("+length+")", "sum(CASE WHEN "+length+" = 0 THEN 1 ELSE 0 END)")
		}
	}
	rows, err := a.ask(ctx, "SELECT "+strings.Join(parts, ",\n  ")+"\nFROM "+a.d.Relation(t.Ref()), 1)
	if err != nil {
		return nil, err
	}
	if len(rows) != 1 || len(rows[0]) != len(parts) {
		return nil, fmt.Errorf("the answer has another shape than the question")
	}
	values := rows[0]
	number := func() *int64 {
		n, err := strconv.ParseInt(values[0], 10, 64)
		if values = values[1:]; err != nil {
			return nil
		}
		return &n
	}
	text := func() *string {
		s := values[0]
		if values = values[1:]; s == "null" {
			return nil
		}
		if runes := []rune(s); len(runes) > 80 {
			s = string(runes[:80]) + "…"
		}
		return &s
	}
	total := number()
	if total == nil {
		return nil, fmt.Errorf("%q is no count", rows[0][0])
	}
	var all []evidence.Column
	for _, c := range columns {
		f := evidence.Column{Schema: t.Schema, Table: t.Name, Column: c.Name, Rows: *total}
		if n := number(); n != nil {
			f.Nulls = *total - *n
		}
		if comparable(c.Type) {
			f.Distinct, f.Least, f.Greatest = number(), text(), text()
			if c.Type.Family == catalog.Text {
				f.Shortest, f.Longest, f.Empty = number(), number(), number()
			}
		}
		all = append(all, f)
	}
	return all, nil
}

func (a *asker) Distinct(ctx context.Context, t *catalog.Table, columns []string) (int64, error) {
	var names, filled []string
	for _, c := range columns {
		names = append(names, a.d.Ident(c))
		filled = append(filled, a.d.Ident(c)+" IS NOT NULL")
	}
	rows, err := a.ask(ctx, fmt.Sprintf("SELECT count(*) FROM (SELECT DISTINCT %s FROM %s WHERE %s) x", strings.Join(names, ", "), a.d.Relation(t.Ref()), strings.Join(filled, " AND ")), 1)
	return one(rows, err)
}

func (a *asker) Orphans(ctx context.Context, t *catalog.Table, columns []string, parent *catalog.Table, target []string) (int64, []string, error) {
	var filled, equal, names []string
	for i, c := range columns {
		filled = append(filled, "c."+a.d.Ident(c)+" IS NOT NULL")
		equal = append(equal, "p."+a.d.Ident(target[i])+" = c."+a.d.Ident(c))
		names = append(names, fmt.Sprintf(a.d.Text, "c."+a.d.Ident(c)))
	}
	from := fmt.Sprintf("FROM %s c WHERE %s AND NOT EXISTS (SELECT 1 FROM %s p WHERE %s)", a.d.Relation(t.Ref()), strings.Join(filled, " AND "), a.d.Relation(parent.Ref()), strings.Join(equal, " AND "))
	orphans, err := one(a.ask(ctx, "SELECT count(*) "+from, 1))
	if err != nil || orphans == 0 {
		return orphans, nil, err
	}
	rows, err := a.ask(ctx, "SELECT DISTINCT "+strings.Join(names, ", ")+" "+from+" ORDER BY 1 LIMIT 5", 5)
	var samples []string
	for _, r := range rows {
		samples = append(samples, strings.Join(r, ", "))
	}
	return orphans, samples, err
}

func one(rows [][]string, err error) (int64, error) {
	if err != nil {
		return 0, err
	}
	if len(rows) != 1 {
		return 0, fmt.Errorf("there is no answer")
	}
	return strconv.ParseInt(rows[0][0], 10, 64)
}
