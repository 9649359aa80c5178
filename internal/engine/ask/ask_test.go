package ask_test

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"math/rand/v2"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/ask"
	"nexdal/internal/engine/sqlite"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/evidence"
)

// A heap is rows of a child and of the parent that it refers to, null where a value is nil.
type heap struct{ child, parent [][]any }

// random is a heap whose columns are: number, text, another number.
func random(r *rand.Rand) heap {
	var h heap
	value := func(most int) any {
		if r.IntN(5) == 0 {
			return nil
		}
		return int64(r.IntN(most))
	}
	texts := []any{"", "a", "b'c", "2026-01-01", "2026-13-01", "17", "17.5", "ä 水", nil, "x\ny"}
	for range r.IntN(40) {
		h.child = append(h.child, []any{value(12), texts[r.IntN(len(texts))], value(4)})
	}
	seen := map[string]bool{}
	for range 1 + r.IntN(12) {
		row := []any{int64(r.IntN(12)), []any{"a", "17", ""}[r.IntN(3)]}
		if key := fmt.Sprint(row); !seen[key] {
			seen[key] = true
			h.parent = append(h.parent, row)
		}
	}
	return h
}

// asked is the heap in a database of its own, its tables, and who asks it.
func asked(t *testing.T, h heap, index bool) (evidence.Asker, *catalog.Table, *catalog.Table) {
	t.Helper()
	var b strings.Builder
	b.WriteString("CREATE TABLE child (a INTEGER, b TEXT, c INTEGER); CREATE TABLE parent (x INTEGER NOT NULL, y TEXT NOT NULL);\n")
	if index {
		b.WriteString("CREATE UNIQUE INDEX parent_xy ON parent (x, y);\n")
	}
	for table, rows := range map[string][][]any{"child": h.child, "parent": h.parent} {
		for _, row := range rows {
			var values []string
			for _, v := range row {
				switch v := v.(type) {
				case nil:
					values = append(values, "NULL")
				case string:
					values = append(values, "'"+strings.ReplaceAll(v, "'", "''")+"'")
				default:
					values = append(values, fmt.Sprint(v))
				}
			}
			fmt.Fprintf(&b, "INSERT INTO %s VALUES (%s);\n", table, strings.Join(values, ", "))
		}
	}
	path := filepath.Join(t.TempDir(), "a.db")
	db, err := sql.Open("sqlite", path)
	if err == nil {
		_, err = db.ExecContext(t.Context(), b.String())
		db.Close()
	}
	if err != nil {
		t.Fatal(err)
	}
	s, err := sqlite.Engine{}.Open(t.Context(), sqlite.Engine{}.FileURL(path), engine.Options{})
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { s.Close() })
	c, err := s.Survey(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	a, err := s.(engine.Prober).Asker(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	return a, c.Table(catalog.Ref{Schema: "main", Table: "child"}), c.Table(catalog.Ref{Schema: "main", Table: "parent"})
}

// groups counts the rows of each value, or values together, that are not null.
func groups(rows [][]any, columns ...int) map[string]int64 {
	all := map[string]int64{}
	for _, row := range rows {
		var key []any
		for _, i := range columns {
			key = append(key, row[i])
		}
		if !slices.Contains(key, nil) {
			all[fmt.Sprintf("%#v", key)]++
		}
	}
	return all
}

func variety(of map[string]int64) (v evidence.Variety) {
	v.Distinct = int64(len(of))
	for _, n := range of {
		if v.Fewest == 0 || n < v.Fewest {
			v.Fewest = n
		}
		v.Most = max(v.Most, n)
	}
	return v
}

// TestAgainstRows: what the engine answers is what comes of going through the rows.
func TestAgainstRows(t *testing.T) {
	ctx := t.Context()
	for seed := range uint64(25) {
		r := rand.New(rand.NewPCG(seed, 3))
		h := random(r)
		a, child, parent := asked(t, h, seed%2 == 0)
		whole := evidence.Part{Table: child}
		is := func(what string, got, want any, err error) {
			t.Helper()
			if err != nil || fmt.Sprint(got) != fmt.Sprint(want) {
				t.Errorf("seed %d: %s: %v, %v, want %v", seed, what, got, err, want)
			}
		}
		profile, err := a.Profile(ctx, whole, child.Columns)
		if err != nil {
			t.Fatal(err)
		}
		for i, f := range profile {
			nulls, empty := int64(0), int64(0)
			for _, row := range h.child {
				if row[i] == nil {
					nulls++
				}
				if row[i] == "" {
					empty++
				}
			}
			is(f.Column+" rows", f.Rows, len(h.child), nil)
			is(f.Column+" nulls", f.Nulls, nulls, nil)
			if f.Empty != nil {
				is(f.Column+" empty", *f.Empty, empty, nil)
			}
		}
		varieties, err := a.Varieties(ctx, whole, child.Columns)
		is("varieties", varieties, []evidence.Variety{variety(groups(h.child, 0)), variety(groups(h.child, 1)), variety(groups(h.child, 2))}, err)
		v, n, err := a.Together(ctx, whole, []string{"a", "c"})
		together, sum := groups(h.child, 0, 2), int64(0)
		for _, times := range together {
			sum += times
		}
		is("together", v, variety(together), err)
		is("rows together", n, sum, nil)
		values, err := a.Values(ctx, child, child.Columns[1:2], 50)
		if len(values[0]) != len(groups(h.child, 1)) || !slices.IsSorted(values[0]) {
			t.Errorf("seed %d: values %q, %v", seed, values, err)
		}
		for _, by := range [][][]int{{{0}, {0}}, {{0, 1}, {0, 1}}, {{1}, {1}}} {
			have := groups(h.parent, by[1]...)
			rows, distinct, filled := int64(0), int64(0), int64(0)
			for key, times := range groups(h.child, by[0]...) {
				if filled += times; have[key] == 0 {
					rows, distinct = rows+times, distinct+1
				}
			}
			var from, to []string
			for i := range by[0] {
				from, to = append(from, child.Columns[by[0][i]].Name), append(to, parent.Columns[by[1][i]].Name)
			}
			o, err := a.Orphans(ctx, whole, from, parent, to)
			is(fmt.Sprint(from, " orphans"), []int64{o.Rows, o.Values, int64(len(o.Samples))}, []int64{rows, distinct, min(5, distinct)}, err)
			if len(from) > 1 {
				is("checked", o.Checked, filled, nil)
			}
			once, err := a.Orphans(ctx, evidence.Part{Table: child, Once: true}, from, parent, to)
			is(fmt.Sprint(from, " orphans, each value once"), []int64{once.Rows, once.Values}, []int64{distinct, distinct}, err)
		}
		repeated := int64(0)
		for _, times := range groups(h.child, 0) {
			if times > 1 {
				repeated++
			}
		}
		o, err := a.Repeated(ctx, child, []string{"a"})
		is("repeated", []int64{o.Rows, int64(len(o.Samples))}, []int64{repeated, min(5, repeated)}, err)
		larger := int64(0)
		for _, row := range h.child {
			if x, ok := row[0].(int64); ok && x > 5 {
				larger++
			}
		}
		b, err := a.Breaks(ctx, child, "a <= 5", []string{"a", "b"})
		is("breaks", b.Rows, larger, err)
		counts, err := a.Counts(ctx, child, append(slices.Repeat([]string{"a > 5"}, 70), "1 = 0"))
		if err != nil || len(counts) != 71 || counts[0] != larger || counts[69] != larger || counts[70] != 0 {
			t.Errorf("seed %d: counts %v, %v", seed, counts, err)
		}
		parsed, err := a.Parses(ctx, whole, child.Columns[1:2])
		dates, numbers := groups(h.child, 1)[`[]interface {}{"2026-01-01"}`], groups(h.child, 1)[`[]interface {}{"17"}`]+groups(h.child, 1)[`[]interface {}{"17.5"}`]
		is("read as", parsed, []evidence.Parsed{{Dates: dates, Numbers: numbers}}, err)
		if err := a.There(ctx, child); err != nil {
			t.Error(err)
		}
		if err := a.There(ctx, &catalog.Table{Schema: "main", Name: "nowhere"}); err == nil {
			t.Error("a table that is not there can be read")
		}
		if g, ok := a.(evidence.Gatherer); ok {
			both, err := g.Profiles(ctx, []evidence.Part{whole, {Table: parent}})
			is("profiles of both", both[0][0].Nulls, profile[0].Nulls, err)
			is("rows of the second", both[1][0].Rows, len(h.parent), err)
			of, err := g.VarietiesOf(ctx, []evidence.Part{{Table: parent}, whole}, [][]*catalog.Column{parent.Columns, child.Columns[:1]})
			is("varieties of both", of, [][]evidence.Variety{{variety(groups(h.parent, 0)), variety(groups(h.parent, 1))}, {variety(groups(h.child, 0))}}, err)
		}
	}
}

// plain is as little of a dialect as a question needs.
var plain = ask.Dialect{Quoting: sqllex.NewQuoting(`"`, ""), Relation: func(r catalog.Ref) string { return r.Table }, Text: "text(%s)", Length: "length(%s)", Number: "number(%s)", Date: "date(%s)",
	Ordered: func(catalog.Type) bool { return true }, Fault: func(error) error { return nil }}

// TestOddAnswers: an answer of another shape than the question is an error, and no count.
func TestOddAnswers(t *testing.T) {
	x := "x"
	one := &catalog.Table{Schema: "main", Name: "t", Columns: []*catalog.Column{{Name: "a", Type: catalog.Type{Family: catalog.Integer}}, {Name: "b", Type: catalog.Type{Family: catalog.Text}}}}
	p, ctx := evidence.Part{Table: one}, context.Background()
	for name, answer := range map[string][]evidence.Row{"no row": {}, "a text": {{&x, &x, &x, &x, &x, &x, &x, &x, &x, &x}}, "nulls": {{nil, nil, nil, nil, nil, nil, nil, nil, nil, nil}}, "an empty row": {{}}, "too many rows": {{&x}, {&x}, {&x}}} {
		a := ask.New(func(context.Context, string, int) ([]string, []evidence.Row, error) { return nil, answer, nil }, plain)
		for what, put := range map[string]func() error{
			"profile":   func() error { _, err := a.Profile(ctx, p, one.Columns); return err },
			"varieties": func() error { _, err := a.Varieties(ctx, p, one.Columns); return err },
			"parses":    func() error { _, err := a.Parses(ctx, p, one.Columns[1:]); return err },
			"together":  func() error { _, _, err := a.Together(ctx, p, []string{"a", "b"}); return err },
		} {
			if put() == nil {
				t.Errorf("%s: %s is taken for an answer", what, name)
			}
		}
	}
	lost := ask.New(func(context.Context, string, int) ([]string, []evidence.Row, error) {
		return nil, nil, errors.New("gone")
	}, plain)
	if _, err := lost.Counts(ctx, one, []string{"1 = 1"}); err == nil || lost.Asked() != 1 {
		t.Errorf("%v after %d statements", err, lost.Asked())
	}
}
