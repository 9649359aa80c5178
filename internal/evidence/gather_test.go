package evidence

import (
	"context"
	"encoding/json"
	"errors"
	"strings"
	"testing"

	"nexdal/internal/catalog"
)

// A gatherer is a heap that answers for several tables at once, or fails to.
type gatherer struct {
	*heap
	profiles, varieties error
}

func (g *gatherer) Profiles(ctx context.Context, parts []Part) (all [][]Column, err error) {
	h := &heap{c: g.c, rows: g.rows}
	for _, p := range parts {
		columns, err := h.Profile(ctx, p, p.Table.Columns)
		if err != nil {
			return nil, err
		}
		all = append(all, columns)
	}
	g.log = append(g.log, "profiles of several")
	return all, g.profiles
}

func (g *gatherer) VarietiesOf(ctx context.Context, parts []Part, columns [][]*catalog.Column) (all [][]Variety, err error) {
	h := &heap{c: g.c, rows: g.rows}
	for i, p := range parts {
		v, err := h.Varieties(ctx, p, columns[i])
		if err != nil {
			return nil, err
		}
		all = append(all, v)
	}
	g.log = append(g.log, "varieties of several")
	return all, g.varieties
}

// TestGathered: what is asked of small tables together comes to the same as what is asked of each,
// by fewer questions, and so does what fails and is asked again.
func TestGathered(t *testing.T) {
	text := func(a Asker) (string, int) {
		h := quay()
		switch x := a.(type) {
		case nil:
			a = h
		case *gatherer:
			x.heap = h
		}
		e, err := Discover(t.Context(), []Asker{a}, h.c, Options{KeyColumns: 3})
		if err != nil {
			t.Fatal(err)
		}
		asked := e.Questions
		e.Questions = 0
		b, err := json.Marshal(e)
		if err != nil {
			t.Fatal(err)
		}
		return string(b), asked
	}
	want, alone := text(nil)
	together := &gatherer{}
	got, fewer := text(together)
	if got != want {
		t.Errorf("together\n%s\nalone\n%s", got, want)
	}
	if n := strings.Count(strings.Join(together.log, "\n"), "of several"); fewer >= alone || n < 2 {
		t.Errorf("%d questions, of which %d are of several, and %d alone", fewer, n, alone)
	}
	for _, q := range together.log {
		if strings.HasPrefix(q, "profile ") || strings.HasPrefix(q, "varieties ") && !strings.HasSuffix(q, "several") {
			t.Errorf("asked again: %s", q)
		}
	}
	for _, x := range []*gatherer{{profiles: errors.New("refused")}, {varieties: errors.New("refused")}} {
		if got, _ := text(x); got != want {
			t.Errorf("refused together\n%s\nalone\n%s", got, want)
		}
	}
}

// TestGroups: which tables share a statement.
func TestGroups(t *testing.T) {
	var tables []*catalog.Table
	add := func(rows int64, columns int) {
		x := &catalog.Table{Columns: make([]*catalog.Column, columns)}
		if x.Stats.Rows = &rows; rows < 0 {
			x.Stats.Rows = nil
		}
		tables = append(tables, x)
	}
	sizes := func() (all []int) {
		for _, g := range (&discovery{memory: &memory{hidden: map[catalog.Ref]string{{Table: "filtered"}: "policy"}}, c: &catalog.Catalog{Gaps: []catalog.Gap{{Table: "held", What: "its size"}}}}).groups(tables) {
			all = append(all, len(g))
		}
		return all
	}
	for range 14 {
		add(10, 3)
	}
	add(2000, 30)
	add(2000, 30)
	add(2001, 3)
	add(5, 3)
	add(-1, 3)
	add(5, 61)
	add(5, 3)
	add(5, 57)
	add(5, 1)
	tables[len(tables)-1].Name = "held"
	if got, want := sizes(), []int{12, 3, 1, 1, 1, 1, 1, 2, 1}; len(got) != len(want) {
		t.Fatalf("%v, want %v", got, want)
	} else {
		for i := range want {
			if got[i] != want[i] {
				t.Errorf("%v, want %v", got, want)
			}
		}
	}
}
