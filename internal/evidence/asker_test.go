package evidence

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"testing"

	"nexdal/internal/catalog"
)

// A heap is an asker that holds the rows itself and counts them plainly: what it answers
// is true, or what fail says in its place.
type heap struct {
	c    *catalog.Catalog
	rows map[*catalog.Table][][]any // nil, int or string
	next map[string]int64           // of a counter, by table.column
	fail func(question, table string) error
	log  []string
}

func (h *heap) asked(question string, t *catalog.Table) error {
	h.log = append(h.log, question+" "+t.Name)
	if h.fail != nil {
		return h.fail(question, t.Name)
	}
	return nil
}

// at is the values of columns in the rows of a part.
func (h *heap) at(p Part, columns []string) [][]any {
	var all [][]any
	seen := map[string]bool{}
	for _, r := range h.rows[p.Table] {
		if p.Sample > 0 && int64(len(all)) == p.Sample {
			break
		}
		var v []any
		for _, name := range columns {
			v = append(v, r[slices.IndexFunc(p.Table.Columns, called(name))])
		}
		if key := fmt.Sprintf("%#v", v); !p.Once || !seen[key] {
			seen[key] = true
			all = append(all, v)
		}
	}
	return all
}

func filled(v []any) bool { return !slices.Contains(v, nil) }

func (h *heap) There(_ context.Context, t *catalog.Table) error { return h.asked("there", t) }

func (h *heap) Profile(_ context.Context, p Part, columns []*catalog.Column) ([]Column, error) {
	if err := h.asked("profile", p.Table); err != nil {
		return nil, err
	}
	var all []Column
	for _, c := range columns {
		f := Column{Schema: p.Table.Schema, Table: p.Table.Name, Column: c.Name}
		var values []any
		for _, v := range h.at(p, []string{c.Name}) {
			if f.Rows++; v[0] == nil {
				f.Nulls++
			} else {
				values = append(values, v[0])
			}
		}
		if len(values) > 0 {
			least, greatest := fmt.Sprint(slices.MinFunc(values, byValue)), fmt.Sprint(slices.MaxFunc(values, byValue))
			f.Least, f.Greatest = &least, &greatest
		}
		if c.Type.Family == catalog.Text && len(values) > 0 {
			short, long, empty := int64(1<<40), int64(0), int64(0)
			for _, v := range values {
				n := int64(len(v.(string)))
				short, long = min(short, n), max(long, n)
				if strings.TrimSpace(v.(string)) == "" {
					empty++
				}
			}
			f.Shortest, f.Longest, f.Empty = &short, &long, &empty
		}
		all = append(all, f)
	}
	return all, nil
}

func byValue(a, b any) int {
	if x, ok := a.(int); ok {
		return cmp.Compare(x, b.(int))
	}
	return strings.Compare(a.(string), b.(string))
}

func repeats(rows [][]any) (v Variety) {
	times := map[string]int64{}
	for _, r := range rows {
		if filled(r) {
			times[fmt.Sprintf("%#v", r)]++
		}
	}
	v.Distinct = int64(len(times))
	for _, n := range times {
		v.Most = max(v.Most, n)
		if v.Fewest == 0 || n < v.Fewest {
			v.Fewest = n
		}
	}
	return v
}

func (h *heap) Varieties(_ context.Context, p Part, columns []*catalog.Column) ([]Variety, error) {
	if err := h.asked("varieties", p.Table); err != nil {
		return nil, err
	}
	var all []Variety
	for _, c := range columns {
		all = append(all, repeats(h.at(p, []string{c.Name})))
	}
	return all, nil
}

func (h *heap) Parses(_ context.Context, p Part, columns []*catalog.Column) ([]Parsed, error) {
	if err := h.asked("parses", p.Table); err != nil {
		return nil, err
	}
	var all []Parsed
	for _, c := range columns {
		var n Parsed
		for _, v := range h.at(p, []string{c.Name}) {
			if v[0] == nil {
				continue
			}
			if _, err := strconv.ParseFloat(v[0].(string), 64); err == nil {
				n.Numbers++
			}
			if len(v[0].(string)) == len("2026-11-23") && strings.Count(v[0].(string), "-") == 2 {
				n.Dates++
			}
		}
		all = append(all, n)
	}
	return all, nil
}

func (h *heap) Values(_ context.Context, t *catalog.Table, columns []*catalog.Column, most int) ([][]string, error) {
	if err := h.asked("values", t); err != nil {
		return nil, err
	}
	var all [][]string
	for _, c := range columns {
		var values []string
		for _, v := range h.at(Part{Table: t, Once: true}, []string{c.Name}) {
			if v[0] != nil {
				values = append(values, fmt.Sprint(v[0]))
			}
		}
		slices.Sort(values)
		all = append(all, values[:min(len(values), most)])
	}
	return all, nil
}

func (h *heap) Together(_ context.Context, p Part, columns []string) (Variety, int64, error) {
	rows := h.at(p, columns)
	return repeats(rows), int64(len(rows)), h.asked("together", p.Table)
}

func (h *heap) Orphans(_ context.Context, p Part, columns []string, parent *catalog.Table, target []string) (o Orphans, err error) {
	if err := h.asked("orphans", p.Table); err != nil {
		return o, err
	}
	held := map[string]bool{}
	for _, v := range h.at(Part{Table: parent}, target) {
		held[fmt.Sprintf("%#v", v)] = true
	}
	values := map[string]bool{}
	for _, v := range h.at(p, columns) {
		if !filled(v) {
			continue
		}
		if o.Checked++; !held[fmt.Sprintf("%#v", v)] {
			o.Rows++
			if key := fmt.Sprint(v...); !values[key] {
				values[key] = true
				o.Samples = append(o.Samples, key)
			}
		}
	}
	o.Values, o.Samples = int64(len(values)), o.Samples[:min(len(o.Samples), 3)]
	return o, nil
}

func (h *heap) Whole(_ context.Context, t *catalog.Table, _ string) (bool, error) {
	return true, h.asked("whole", t)
}

func (h *heap) Repeated(_ context.Context, t *catalog.Table, columns []string) (o Offenders, err error) {
	times := map[string]int{}
	for _, v := range h.at(Part{Table: t}, columns) {
		if filled(v) {
			if times[fmt.Sprint(v...)]++; times[fmt.Sprint(v...)] == 2 {
				o.Rows++
				o.Samples = append(o.Samples, fmt.Sprint(v...))
			}
		}
	}
	return o, h.asked("repeated", t)
}

// Breaks takes "column > number" for a condition.
func (h *heap) Breaks(_ context.Context, t *catalog.Table, condition string, _ []string) (o Offenders, err error) {
	var column string
	var least int
	if _, err := fmt.Sscanf(condition, "%s > %d", &column, &least); err != nil {
		return o, fmt.Errorf("%q is no condition", condition)
	}
	for _, v := range h.at(Part{Table: t}, []string{column}) {
		if v[0] != nil && v[0].(int) <= least {
			o.Rows++
			o.Samples = append(o.Samples, fmt.Sprint(v[0]))
		}
	}
	return o, h.asked("breaks", t)
}

func (h *heap) Counts(context.Context, *catalog.Table, []string) ([]int64, error) {
	return nil, errors.New("nobody asks for it here")
}

func (h *heap) Rows(_ context.Context, query string) (Offenders, error) {
	number, _, _ := strings.Cut(query, " ")
	n, err := strconv.ParseInt(number, 10, 64)
	return Offenders{Rows: n, Samples: []string{"sample of " + query}}, err
}

func (h *heap) Next(_ context.Context, t *catalog.Table, c *catalog.Column) (*int64, error) {
	if err := h.asked("next", t); err != nil {
		return nil, err
	}
	if n, ok := h.next[t.Name+"."+c.Name]; ok {
		return &n, nil
	}
	return nil, nil
}

func (h *heap) Comparable(t catalog.Type) bool { return t.Family != catalog.JSON }

func (h *heap) Asked() int { return len(h.log) }

// table adds one whose columns are written "name type": int, text, json; an ending
// "!" makes one required, "?" leaves it as it is. The first key is the primary one.
func (h *heap) table(name string, columns ...string) *catalog.Table {
	if h.c == nil {
		h.c, h.rows = &catalog.Catalog{Engine: catalog.Engine{Name: "heap"}, Database: "saltmere", Schemas: []*catalog.Schema{{Name: "s"}}}, map[*catalog.Table][][]any{}
	}
	t := &catalog.Table{Schema: "s", Name: name, Kind: catalog.Ordinary}
	for _, c := range columns {
		name, kind, _ := strings.Cut(c, " ")
		col := &catalog.Column{Name: name, Nullable: !strings.HasSuffix(kind, "!")}
		switch strings.TrimSuffix(kind, "!") {
		case "int":
			col.Type = catalog.Type{Native: "integer", Family: catalog.Integer, Bits: 32}
		case "text":
			col.Type = catalog.Type{Native: "text", Family: catalog.Text}
		case "json":
			col.Type = catalog.Type{Native: "json", Family: catalog.JSON}
		default:
			panic("a column of kind " + kind)
		}
		t.Columns = append(t.Columns, col)
	}
	h.c.Schemas[0].Tables = append(h.c.Schemas[0].Tables, t)
	return t
}

// key declares a primary key.
func key(t *catalog.Table, columns ...string) *catalog.Table {
	t.PrimaryKey = &catalog.Key{Name: t.Name + "_pkey", Columns: columns}
	return t
}

// fill gives the table n rows.
func (h *heap) fill(t *catalog.Table, n int, row func(i int) []any) {
	for i := range n {
		h.rows[t] = append(h.rows[t], row(i))
	}
	rows := int64(n)
	t.Stats.Rows = &rows
}

// probe asks with everything as it is by default.
func (h *heap) probe(t *testing.T, o Options) *Evidence {
	t.Helper()
	if o.KeyColumns == 0 {
		o.KeyColumns = 3
	}
	e, err := Discover(t.Context(), []Asker{h}, h.c, o)
	if err != nil {
		t.Fatal(err)
	}
	return e
}

// to is what the column refers to, or "".
func (e *Evidence) to(table, column string) string {
	var all []string
	for _, r := range e.References {
		if r.Table == table && strings.Join(r.Columns, "+") == column {
			all = append(all, fmt.Sprintf("%s.%s", r.Target, strings.Join(r.TargetColumns, "+")))
		}
	}
	return strings.Join(all, " ")
}
