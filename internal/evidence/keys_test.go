package evidence

import (
	"context"
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"nexdal/internal/catalog"
)

// TestKeyable: what may keep rows apart, by its type and what it holds.
func TestKeyable(t *testing.T) {
	n, text := func(n int64) *int64 { return &n }, func(s string) *string { return &s }
	for name, c := range map[string]struct {
		of   catalog.Type
		f    Column
		want bool
	}{
		"number": {catalog.Type{Family: catalog.Integer}, Column{}, true}, "identifier": {catalog.Type{Family: catalog.UUID}, Column{}, true}, "day": {catalog.Type{Family: catalog.Date}, Column{}, true}, "moment": {catalog.Type{Family: catalog.Timestamp}, Column{}, true},
		"time": {catalog.Type{Family: catalog.Time}, Column{}, true}, "enum": {catalog.Type{Family: catalog.Enum}, Column{}, true}, "float": {catalog.Type{Family: catalog.Float}, Column{}, false}, "json": {catalog.Type{Family: catalog.JSON}, Column{}, false}, "flag": {catalog.Type{Family: catalog.Boolean}, Column{}, false},
		"whole decimal": {catalog.Type{Family: catalog.Decimal}, Column{Least: text("1"), Greatest: text("9")}, true}, "decimal": {catalog.Type{Family: catalog.Decimal, Scale: 2}, Column{}, false}, "pointed decimal": {catalog.Type{Family: catalog.Decimal}, Column{Least: text("1"), Greatest: text("9.5")}, false}, "from a point on": {catalog.Type{Family: catalog.Decimal}, Column{Least: text("0.5"), Greatest: text("9")}, false},
		"text": {catalog.Type{Family: catalog.Text}, Column{}, true}, "short text": {catalog.Type{Family: catalog.Text, Length: 255}, Column{Longest: n(100)}, true}, "wide text": {catalog.Type{Family: catalog.Text, Length: 256}, Column{}, false}, "long texts": {catalog.Type{Family: catalog.Text}, Column{Longest: n(101)}, false},
	} {
		if got := keyable(&catalog.Column{Type: c.of}, &c.f); got != c.want {
			t.Errorf("%s: %v", name, got)
		}
	}
}

// TestLikely: what looks like a key that somebody meant, and what is unique by accident. The order counts:
// each looks less like one than those before it.
func TestLikely(t *testing.T) {
	h := &heap{}
	h.table("station", "id int!", "x int!")
	gauge := h.table("gauge", "gauge_no int!", "serial_no text!", "email text!", "name text!", "line int!", "colour text!", "station int!", "price int!", "made int!")
	gauge.Columns[8].Type = catalog.Type{Native: "date", Family: catalog.Date}
	d := &discovery{names: namesOf(h.c.Tables()), lookup: h.c.Lookup()}
	before, last := "", 2.0
	for _, columns := range []string{"gauge_no", "serial_no", "email", "name", "line", "station", "colour", "price"} {
		score := d.likely(gauge, []string{columns}, 100)
		if score > last || score < 0 || score > 0.99 {
			t.Errorf("%s looks %.2f like a key, and %s before it %.2f", columns, score, before, last)
		}
		before, last = columns, score
		if few := d.likely(gauge, []string{columns}, 19); few > score || score < 0.99 && score > 0.1 && fmt.Sprintf("%.2f", few) != fmt.Sprintf("%.2f", score-0.1) {
			t.Errorf("%s in few rows: %.2f, in more %.2f", columns, few, score)
		}
	}
	if made := d.likely(gauge, []string{"made"}, 100); made > 0.3 {
		t.Errorf("a day looks %.2f like a key", made)
	}
	for pair, want := range map[string]float64{"gauge_no serial_no": 0.84, "serial_no gauge_no": 0.84, "gauge_no email": 0.56, "email serial_no": 0.56} {
		if got := d.likely(gauge, strings.Fields(pair), 100); got != want {
			t.Errorf("%s: %.2f, want %.2f", pair, got, want)
		}
	}
	key(gauge, "price")
	if got := d.likely(gauge, []string{"price"}, 5); got != 1 {
		t.Errorf("the primary key looks %.2f like one", got)
	}
}

// TestKeysAgainstRows: every key that is found keeps all rows apart, lets no null in, and holds no smaller
// one; of those that do, what looks like one that somebody meant is found.
func TestKeysAgainstRows(t *testing.T) {
	apart := func(rows [][]any, columns []int) bool {
		seen := map[string]bool{}
		for _, row := range rows {
			var values []any
			for _, i := range columns {
				if row[i] == nil {
					return false
				}
				values = append(values, row[i])
			}
			if k := fmt.Sprint(values...); seen[k] {
				return false
			} else {
				seen[k] = true
			}
		}
		return true
	}
	for seed := range uint64(30) {
		r := rand.New(rand.NewPCG(seed, 5))
		h := &heap{}
		visit := h.table("visit", "station_id int", "day_no int", "visit_no int", "note text")
		h.fill(visit, 30+r.IntN(60), func(i int) []any {
			row := []any{i % 7, i / 7, 1000 + i, fmt.Sprintf("n%d", r.IntN(1000))}
			switch seed % 4 {
			case 1:
				row[2] = 1000 + i/2 // each number twice
			case 2:
				if i == 3 {
					row[2] = nil
				}
			case 3:
				row[1] = r.IntN(9)
			}
			return row
		})
		rows := h.rows[visit]
		found := map[string]bool{}
		for _, k := range h.probe(t, Options{KeyColumns: 3}).Keys {
			var at []int
			for _, name := range k.Columns {
				at = append(at, slices.IndexFunc(visit.Columns, func(c *catalog.Column) bool { return c.Name == name }))
			}
			found[strings.Join(k.Columns, " ")] = true
			if !apart(rows, at) || k.Rows != int64(len(rows)) || k.Distinct != k.Rows || !k.Verified {
				t.Errorf("seed %d: %v is no key of %d rows: %+v", seed, k.Columns, len(rows), k)
			}
			for i := range at {
				if len(at) > 1 && apart(rows, slices.Delete(slices.Clone(at), i, i+1)) {
					t.Errorf("seed %d: %v holds a smaller key", seed, k.Columns)
				}
			}
		}
		if is := apart(rows, []int{2}); is != found["visit_no"] {
			t.Errorf("seed %d: visit_no keeps rows apart: %v, found: %v", seed, is, found)
		}
		if apart(rows, []int{0, 1}) && !found["station_id day_no"] && !found["visit_no"] {
			t.Errorf("seed %d: station_id and day_no are a key, found: %v", seed, found)
		}
	}
}

// TestWanted: what keeps the rows of a table apart so well that no key of several columns is looked for.
func TestWanted(t *testing.T) {
	h := &heap{}
	gauge := h.table("gauge", "id int!", "serial_no text!", "pier int!", "slot int!")
	gauge.Columns[0].Identity = catalog.IdentityAlways
	code := h.table("code", "code text!").Columns[0]
	code.Identity = catalog.IdentityAlways // no engine has it, but it says what counts
	gauge.Columns = append(gauge.Columns, code)
	d := &discovery{}
	for name, c := range map[string]struct {
		key  Key
		want bool
	}{
		"a number that the engine gives":        {Key{Columns: []string{"id"}, Declared: true, Likely: 1}, true},
		"a number":                              {Key{Columns: []string{"slot"}, Declared: true, Likely: 1}, true},
		"a text that looks like a key":          {Key{Columns: []string{"serial_no"}, Likely: 0.5}, false},
		"a text that does not":                  {Key{Columns: []string{"serial_no"}, Likely: 0.49}, true},
		"a text that the engine gives":          {Key{Columns: []string{"code"}, Likely: 0.9}, true},
		"several columns, declared":             {Key{Columns: []string{"pier", "slot"}, Declared: true}, false},
		"several columns that are a key so far": {Key{Columns: []string{"pier", "slot"}, Likely: 0.9}, true},
	} {
		if got := d.wanted(gauge, []Key{c.key}); got != c.want {
			t.Errorf("%s: %v", name, got)
		}
	}
	if !d.wanted(gauge, nil) {
		t.Error("without a key none is looked for")
	}
}

// TestSetsAsked: which sets of columns are asked whether they are unique, in what order, and how many
// at most.
func TestSetsAsked(t *testing.T) {
	asked := func(rows int64, size int, held string, sample bool, columns ...string) string {
		h := &heap{}
		wide := h.table("wide", columns...)
		facts := map[string]*Column{}
		var loose []string
		for i, c := range wide.Columns {
			facts[c.Name] = &Column{Rows: rows}
			distinct := int64(8)
			if n, ok := map[string]int64{"few_no": 2, "many_no": 4}[c.Name]; ok {
				distinct = n
			}
			facts[c.Name].Distinct = &distinct
			if c.Name == "mostly_no" {
				most := rows - 5
				facts[c.Name].Most = &most
			}
			if i > 0 || len(columns) < 4 {
				loose = append(loose, c.Name)
			}
		}
		d := &discovery{ctx: t.Context(), names: namesOf(h.c.Tables()), lookup: h.c.Lookup()}
		d.o.KeyColumns = size
		var sets []string
		a := noting{h, &sets}
		p := Part{Table: wide}
		if sample {
			p.Sample = smallest
		}
		d.combined(a, p, facts, rows, loose, func(set []string) bool { return strings.Join(set, "+") == held }, func([]string) { t.Error("a key of no rows") })
		return strings.Join(sets, " ")
	}
	for name, c := range map[string]struct{ got, want string }{
		"all pairs, the likeliest first":       {asked(16, 2, "", false, "note text", "pier_no int", "at int"), "pier_no+at pier_no+note at+note"},
		"not one that holds a key":             {asked(16, 2, "pier_no+note", false, "note text", "pier_no int", "at int"), "pier_no+at at+note"},
		"with enough values":                   {asked(32, 2, "", false, "pier_no int", "many_no int"), "pier_no+many_no"},
		"with too few":                         {asked(33, 2, "", false, "pier_no int", "many_no int"), ""},
		"with too few of the second":           {asked(17, 2, "", false, "pier_no int", "few_no int"), ""},
		"three of them":                        {asked(33, 3, "", false, "pier_no int", "many_no int", "few_no int"), "pier_no+many_no+few_no"},
		"not where one value has most rows":    {asked(16, 2, "", false, "pier_no int", "mostly_no int"), ""},
		"where it has as many as there can be": {asked(13, 2, "", false, "pier_no int", "mostly_no int"), "pier_no+mostly_no"},
		"none larger than asked for":           {asked(16, 1, "", false, "note text", "pier_no int"), ""},
		"a sample first of very many rows":     {asked(5*smallest+1, 2, "", false, "pier_no int", "slot_no int"), ""},
	} {
		if c.got != c.want {
			t.Errorf("%s: %q, want %q", name, c.got, c.want)
		}
	}
	// Of n columns there are n log n questions and a few.
	var many []string
	for i := range 8 {
		many = append(many, fmt.Sprintf("%c_no int", 'a'+i))
	}
	if got := len(strings.Fields(asked(16, 3, "", false, many...))); got != 28 {
		t.Errorf("%d questions about eight columns", got)
	}
}

// noting writes down which columns are asked about together.
type noting struct {
	*heap
	sets *[]string
}

// Together notes the columns, the likeliest first, and finds rows alike.
func (n noting) Together(_ context.Context, p Part, columns []string) (Variety, int64, error) {
	set := strings.Join(columns, "+")
	if p.Sample > 0 {
		set = "some:" + set
	}
	*n.sets = append(*n.sets, set)
	return Variety{Distinct: 1}, 2, nil
}
