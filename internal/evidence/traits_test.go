package evidence

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"testing"

	"nexdal/internal/catalog"
	"nexdal/test/golden"
)

// TestChances: a column refers to one of its candidates or to none, so that what speaks for one
// speaks against the others.
func TestChances(t *testing.T) {
	weights := traits{isAny: 1}
	list := func(sums ...float64) []candidate {
		all := make([]candidate, len(sums))
		for i, s := range sums {
			all[i].is[isAny] = s
		}
		return all
	}
	for _, c := range []struct {
		sums, want []float64
	}{
		{nil, nil}, {[]float64{0}, []float64{0.5}}, {[]float64{math.Log(3)}, []float64{0.75}}, {[]float64{0, 0}, []float64{1. / 3, 1. / 3}},
		{[]float64{math.Log(6), math.Log(3)}, []float64{0.6, 0.3}}, {[]float64{-1000}, []float64{0}}, {[]float64{1e9}, []float64{1}}, {[]float64{1e9, 1e9}, []float64{0.5, 0.5}},
	} {
		got := chances(list(c.sums...), &weights)
		if !slices.EqualFunc(got, c.want, func(a, b float64) bool { return math.Abs(a-b) < 1e-9 }) {
			t.Errorf("of %v: %v, want %v", c.sums, got, c.want)
		}
	}
	if len(TraitNames) != int(traitCount) || slices.Contains(TraitNames[:], "") {
		t.Errorf("%d traits, named %q", traitCount, TraitNames)
	}
}

// TestHolding: how many keys have a range of numbers among theirs.
func TestHolding(t *testing.T) {
	var parents []parentKey
	text := func(n int) *string { s := fmt.Sprint(n); return &s }
	for _, r := range [][2]int{{1, 10}, {1, 100}, {1, 400}, {5, 100}, {1000, 2000}, {1, 1}} {
		parents = append(parents, parentKey{column: &catalog.Column{Type: catalog.Type{Family: catalog.Integer}}, declared: true, facts: &Column{Rows: 9, Least: text(r[0]), Greatest: text(r[1])}})
	}
	loose := parents[0]
	loose.declared, loose.likely = false, 0.4
	named := parents[0]
	named.column = &catalog.Column{Type: catalog.Type{Family: catalog.Text}}
	r := rangesOf(append(parents, loose, named))
	for _, c := range []struct{ from, to, want int }{{1, 1, 4}, {1, 10, 3}, {2, 11, 2}, {5, 100, 3}, {6, 100, 3}, {101, 400, 1}, {401, 999, 0}, {1000, 2000, 1}, {1500, 1600, 1}, {2000, 2001, 0}, {0, 5, 0}} {
		if got := r.holding(float64(c.from), float64(c.to)); got != c.want {
			t.Errorf("%d to %d is in %d keys, want %d", c.from, c.to, got, c.want)
		}
	}
	var none *ranges
	if none.holding(1, 2) != 0 {
		t.Error("none hold something")
	}
}

// TestVaried: as many different values as a random draw would have are 1, fewer are less.
func TestVaried(t *testing.T) {
	for _, c := range []struct {
		rows, nulls, distinct, keys int64
		low, high                   float64
	}{
		{1000, 0, 100, 100, 1, 1}, {1000, 0, 50, 100, 0.49, 0.51}, {100, 0, 63, 100, 0.99, 1}, {100, 0, 100, 100, 1, 1}, {10, 0, 2, 100_000, 0.19, 0.21},
		{1000, 900, 63, 100, 0.99, 1}, {10, 10, 0, 100, 0, 0}, {10, 0, 5, 0, 0, 0},
	} {
		got := varied(&Column{Rows: c.rows, Nulls: c.nulls, Distinct: &c.distinct}, &Column{Rows: c.keys})
		if got < c.low || got > c.high {
			t.Errorf("%+v: %.3f", c, got)
		}
	}
}

// quay is a database whose columns tell of every trait.
func quay() *heap {
	h := harbour()
	boats := key(h.table("boat", "boatid int!", "boat_code text!", "main int", "templateid int", "captain int", "mate_id int", "logger_no int", "slot int!"), "boatid")
	boats.UniqueKeys = []*catalog.Key{{Name: "code", Columns: []string{"boat_code"}}}
	h.fill(boats, 90, func(i int) []any {
		return []any{20_000 + i, fmt.Sprintf("BT%03d", i), i % 2, 20_000 + (i*7)%80, 1000 + (i*3)%40, 1000 + (i*11)%40, 1 + i%12, i + 1}
	})
	trips := key(h.table("trip", "trip_id int!", "boat_id_first int", "boat_code text", "templateid int", "captain int", "slot int", "crew_id int", "skipper_boat_id int"), "trip_id")
	h.fill(trips, 400, func(i int) []any {
		boat := any(20_000 + (i*13)%90)
		if i%80 == 0 {
			boat = 99_000 + i
		}
		return []any{i + 1, boat, fmt.Sprintf("BT%03d", (i*17)%90), 20_000 + (i*19)%90, 1000 + (i*23)%40, 1 + i%30, 1 + (i*29)%118, 20_000}
	})
	return h
}

// TestTraits: what speaks for and against every candidate of a whole database, and what comes of
// it. The file is to be read when it changes.
func TestTraits(t *testing.T) {
	h := quay()
	var b strings.Builder
	e := h.probe(t, Options{KeyColumns: 2, Weighed: func(all []Reference, traits [][]float64, asked bool) {
		for i, r := range all {
			fmt.Fprintf(&b, "%s (%s) to %s (%s), asked %v:", r.Table, strings.Join(r.Columns, ", "), r.Target, strings.Join(r.TargetColumns, ", "), asked)
			for j, v := range traits[i] {
				if v != 0 && trait(j) != isAny {
					fmt.Fprintf(&b, " %s %.2f", TraitNames[j], v)
				}
			}
			b.WriteByte('\n')
		}
	}})
	b.WriteByte('\n')
	for title, list := range map[string][]Reference{"references": e.References, "perhaps": e.Perhaps} {
		for _, r := range list {
			if r.Likely() != (title == "references") {
				t.Errorf("among %s: %+v", title, r)
			}
		}
	}
	for _, r := range append(e.References, e.Perhaps...) {
		fmt.Fprintf(&b, "%.2f %s (%s) to %s (%s)\n", r.Score, r.Table, strings.Join(r.Columns, ", "), r.Target, strings.Join(r.TargetColumns, ", "))
	}
	golden.Hold(t, "testdata/traits.txt", b.String())
}
