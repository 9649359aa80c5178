package compare_test

import (
	"fmt"
	"maps"
	"slices"
	"strings"
	"testing"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/compare"
	"nexdal/test/golden"
	"nexdal/test/model"
)

// aPair is two structures, one change apart.
type aPair struct {
	title    string
	from, to *catalog.Catalog
	can      catalog.Abilities
}

// pairs makes structures that are one change apart, on the way there and on the way back, of
// each kind of change so many.
func pairs(seed uint64, most int, visit func(aPair)) {
	c := model.Random(seed)
	all := model.Changes(c)
	for _, name := range slices.Sorted(maps.Keys(model.Abilities())) {
		can := model.Abilities()[name]
		seen := map[string]int{}
		for _, ch := range all {
			kind := model.Shape(ch)
			if seen[kind] >= most {
				continue
			}
			to := c.Clone()
			if change.Apply(ch, to, can) != nil {
				continue
			}
			seen[kind]++
			visit(aPair{name + ": " + ch.Title(), c, to, can})
			visit(aPair{name + ": back from " + ch.Title(), to, c, can})
		}
	}
}

// carriedOut applies what was found, in the order of a plan.
func carriedOut(t *testing.T, p aPair, items []change.Item) *catalog.Catalog {
	t.Helper()
	plan, _ := change.OrderAll(p.from, p.can, items)
	after, err := plan.Apply(p.from, p.can)
	if err != nil {
		t.Fatalf("%s: %v", p.title, err)
	}
	return after
}

func differences(a, b *catalog.Catalog) []string {
	var all []string
	for _, d := range compare.Catalogs(a.Comparable(), b.Comparable(), compare.Options{}) {
		all = append(all, says(d))
	}
	return all
}

func says(d compare.Difference) string {
	text := fmt.Sprintf("%s %s %s.%s", d.Kind, d.Object, d.Schema, d.Name)
	if d.Table != "" && d.Object != "table" {
		text += " of " + d.Table
	}
	for _, p := range d.What {
		text += fmt.Sprintf("; %s: %q, %q", p.Name, p.From, p.To)
	}
	if d.Hint != "" {
		text += "; " + d.Hint
	}
	return text
}

// TestChangesLead: what is found to lead from one structure to the other leads nearer to it,
// touches nothing that is alike in both, is found once, and drops only where that is wanted.
func TestChangesLead(t *testing.T) {
	t.Parallel()
	many := []int{4, 1} // pairs of a kind, of each catalog
	if testing.Short() {
		many = []int{1, 1}
	}
	for seed, most := range many {
		pairs(uint64(seed), most, func(p aPair) {
			from, to := p.from.Clone(), p.to.Clone()
			items := compare.Changes(p.from, p.to, p.can, compare.Wanted{Drops: true})
			if d := model.Diff(from, p.from) + model.Diff(to, p.to); d != "" {
				t.Fatalf("%s: comparing alters %s", p.title, d)
			}
			there, after := differences(p.from, p.to), carriedOut(t, p, items)
			left := differences(after, p.to)
			if len(items) == 0 && !slices.Equal(left, there) || len(left) > len(there) {
				t.Errorf("%s: %d changes lead from\n  %s\nto\n  %s", p.title, len(items), strings.Join(there, "\n  "), strings.Join(left, "\n  "))
			}
			if more := compare.Changes(after, p.to, p.can, compare.Wanted{Drops: true}); len(more) > 0 && len(left) == 0 {
				t.Errorf("%s: is reached, and then there is to %s", p.title, more[0].Change.Title())
			}
			kept := carriedOut(t, p, compare.Changes(p.from, p.to, p.can, compare.Wanted{}))
			for _, was := range p.from.Tables() {
				is := kept.Table(was.Ref())
				if is == nil {
					t.Errorf("%s: nothing is to be dropped, and %s is", p.title, was.Ref())
					continue
				}
				for _, c := range was.Columns {
					if is.Column(c.Name) == nil {
						t.Errorf("%s: nothing is to be dropped, and %s of %s is", p.title, c.Name, was.Ref())
					}
				}
			}
		})
	}
}

// TestWantedAlone: what is asked of some tables or kinds alone leaves the others be.
func TestWantedAlone(t *testing.T) {
	t.Parallel()
	pairs(1, 1, func(p aPair) {
		if !strings.HasPrefix(p.title, "tables") && !strings.HasPrefix(p.title, "order") {
			return
		}
		all := differences(p.from, p.to)
		for _, w := range []compare.Wanted{{Drops: true, Tables: []string{"nowhere.*"}}, {Drops: true, Kinds: []string{"nothing"}}} {
			if items := compare.Changes(p.from, p.to, p.can, w); len(items) > 0 {
				t.Errorf("%s: nothing is wanted, and there is to %s", p.title, items[0].Change.Title())
			}
		}
		for i, table := range p.from.Tables() {
			if i%4 > 0 {
				continue
			}
			w := compare.Wanted{Drops: true, Tables: []string{table.Ref().String()}}
			for _, d := range differences(p.from, carriedOut(t, p, compare.Changes(p.from, p.to, p.can, w))) {
				if !slices.Contains(all, d) && !strings.Contains(strings.Join(all, "\n"), table.Name) {
					t.Errorf("%s: of %s alone: %s", p.title, table.Ref(), d)
				}
			}
		}
	})
}

// TestFound: what is said to differ, and what would be done, one change apart. The file is to
// be read when it changes.
func TestFound(t *testing.T) {
	t.Parallel()
	var b strings.Builder
	told := map[string]bool{}
	pairs(1, 3, func(p aPair) {
		var text strings.Builder
		for _, d := range compare.Catalogs(p.from, p.to, compare.Options{}) {
			fmt.Fprintf(&text, "    %s\n", says(d))
		}
		items := compare.Changes(p.from, p.to, p.can, compare.Wanted{Drops: true})
		plan, left := change.OrderAll(p.from, p.can, items)
		for _, it := range plan {
			fmt.Fprintf(&text, "    -> %s\n", it.Change.Title())
		}
		for _, l := range left {
			fmt.Fprintf(&text, "    -> not: %s: %s\n", l.Change.Title(), l.Reason)
		}
		for _, d := range differences(carriedOut(t, p, items), p.to) {
			fmt.Fprintf(&text, "    left: %s\n", d)
		}
		if !told[text.String()] {
			told[text.String()] = true
			fmt.Fprintf(&b, "%s\n%s\n", p.title, text.String())
		}
	})
	golden.Hold(t, "testdata/changes.txt", b.String())
}
