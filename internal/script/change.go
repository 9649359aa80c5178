package script

import (
	"cmp"
	"errors"
	"fmt"
	"reflect"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/compare"
	"nexdal/internal/engine"
)

// Change makes the script that leads from one structure towards another, as far as
// is wanted and there are typed changes for it; what it leaves is listed.
func Change(w engine.Writer, from, to *catalog.Catalog, can catalog.Abilities, wanted compare.Wanted) (*Pair, error) {
	// What is new is there already when the rest is asked about.
	built := from.Clone()
	for _, it := range compare.Changes(from, to, can, wanted) {
		if b, ok := it.Change.(change.CreateObjects); ok {
			if err := change.Apply(b, built, can); err != nil {
				return nil, err
			}
		}
	}
	var items []change.Item
	reasons := map[string]string{}
	for _, it := range compare.Changes(from, to, can, wanted) {
		if why := engine.Refuses(w, built, it.Change); why != "" {
			reasons[it.Change.Title()] = why
			continue
		}
		items = append(items, it)
	}
	var p *Pair
	var after *catalog.Catalog
	for {
		plan, left := change.OrderAll(from, can, items)
		for _, l := range left {
			reasons[l.Change.Title()] = l.Reason
		}
		var err error
		if after, err = plan.Apply(from, can); err != nil {
			return nil, err
		}
		reached(after, to)
		p, err = pair(w, from, after, plan, can, nil)
		if err == nil {
			break
		}
		var of *engine.TableError
		if !errors.As(err, &of) {
			return nil, err
		}
		// Without what cannot be written of one table the rest can be.
		n := len(items)
		items = slices.DeleteFunc(items, func(it change.Item) bool {
			if it.Change.On() == of.Table {
				reasons[it.Change.Title()] = of.Err.Error()
			}
			return it.Change.On() == of.Table
		})
		if len(items) == n {
			return nil, err
		}
	}
	p.Forth.LeftAs = "difference"
	p.Forth.Kind, p.Back.Kind = "Script of changes", "Reversal of a script of changes"
	for title, why := range reasons {
		p.Forth.Left = append(p.Forth.Left, Left{title, why, ""})
	}
	slices.SortFunc(p.Forth.Left, func(a, b Left) int { return strings.Compare(a.Finding, b.Finding) })
	for _, d := range compare.Catalogs(after.Comparable(), to.Comparable(), compare.Options{Without: []string{"order"}}) {
		if wants(wanted, d) {
			left := remaining(d, wanted.Drops)
			if t := to.Table(catalog.Ref{Schema: d.Schema, Table: d.Name}); t != nil && d.Object == "table" && d.Kind == compare.Added {
				if why := compare.Clash(from, t, can); why != "" {
					left.Message = "is not made by this script: " + why
				}
			}
			p.Forth.Left = append(p.Forth.Left, left)
		}
	}
	return p, nil
}

// reached gives the tables that have come to be those of the goal its very text,
// where the engine keeps one.
func reached(after, goal *catalog.Catalog) {
	a, b := after.Comparable().Lookup(), goal.Comparable().Lookup()
	for _, t := range after.Tables() {
		if there := goal.Table(t.Ref()); t.Definition == "" && there != nil && there.Definition != "" && reflect.DeepEqual(a.Table(t.Ref()), b.Table(t.Ref())) {
			t.Definition = there.Definition
		}
	}
}

func wants(w compare.Wanted, d compare.Difference) bool {
	if len(w.Kinds) > 0 && !slices.Contains(w.Kinds, d.Object) {
		return false
	}
	name := d.Table
	if name == "" {
		name = d.Name
	}
	for _, p := range w.Tables {
		if catalog.FitsTable(p, d.Schema, name) {
			return true
		}
	}
	return len(w.Tables) == 0
}

func remaining(d compare.Difference, drops bool) Left {
	what := strings.TrimSpace(d.Object + " " + d.Name)
	if d.Table != "" && d.Object != "table" {
		what += " of " + d.Schema + "." + d.Table
	} else {
		what = strings.TrimSpace(d.Object + " " + d.Schema + "." + d.Name)
	}
	switch d.Kind {
	case compare.Added:
		return Left{what, "is not made by this script", ""}
	case compare.Removed:
		if !drops {
			return Left{what, "stays: nothing is dropped without --drops", ""}
		}
		if d.Hint != "" {
			return Left{what, "is not dropped: " + d.Hint, ""}
		}
		return Left{what, "is not dropped by this script", ""}
	}
	var parts []string
	for _, p := range d.What {
		parts = append(parts, fmt.Sprintf("%s: %s, there %s", p.Name, cmp.Or(p.From, "none"), cmp.Or(p.To, "none")))
	}
	return Left{what, strings.Join(parts, "; "), ""}
}
