package evidence

import (
	"strings"

	"nexdal/internal/catalog"
)

// A namesake is what columns of one name refer to in tables where that is declared or proven.
type namesake struct {
	self   bool // each to the key of its own table
	target catalog.Ref
	column string
}

// learn gathers, by the name of the column, what references lead to: templateid may tell of
// hosts, and its name does not.
func learn(references []Reference) map[string]map[namesake]int {
	learnt := map[string]map[namesake]int{}
	for _, r := range references {
		if len(r.Columns) != 1 || !r.Declared && (r.RowsChecked == 0 || r.Orphans > 0) {
			continue
		}
		name := strings.ToLower(r.Columns[0])
		if learnt[name] == nil {
			learnt[name] = map[namesake]int{}
		}
		n := namesake{self: r.From() == r.To()}
		if !n.self {
			n.target, n.column = r.To(), r.TargetColumns[0]
		}
		learnt[name][n]++
	}
	return learnt
}

// How much what a column of the same name refers to elsewhere speaks for a target: once, and
// in more than one table.
const (
	asOnce  = 0.72
	asOften = 0.82
)

// byNamesakes lists what columns of the same name refer to elsewhere, the likeliest first.
func (d *discovery) byNamesakes(t *catalog.Table, c *catalog.Column, f *Column, learnt map[string]map[namesake]int) []candidate {
	if d.isKey(t, c.Name) && d.ownName(t, c) || inKey(t, c.Name) && len(t.PrimaryKey.Columns) == 1 {
		return nil
	}
	var list []candidate
	for n, times := range learnt[strings.ToLower(c.Name)] {
		parent, key := d.lookup.Table(n.target), n.column
		if n.self {
			if parent = t; t.PrimaryKey == nil || len(t.PrimaryKey.Columns) != 1 {
				continue
			}
			key = t.PrimaryKey.Columns[0]
		}
		if parent == nil || parent.Column(key) == nil || parent == t && key == c.Name {
			continue
		}
		g := d.fact(parent, key)
		if g == nil || g.Filled() == 0 || !alike(c.Type, parent.Column(key).Type) || !plausible(f, g, c.Type) {
			continue
		}
		x := candidate{parent: parent, key: key, name: asOnce, fit: span(f, g), near: parent.Schema == t.Schema, primary: true}
		if times > 1 {
			x.name = asOften
		}
		if whole(c.Type) && (!ample(f, x.fit) || parent != t && atOneEnd(f, g, x.fit) && times == 1) {
			continue
		}
		list = append(list, x)
	}
	order(list)
	return list
}

// taught looks once more at the columns for which nothing was found, by what columns of their
// names refer to elsewhere.
func (d *discovery) taught(tables []*catalog.Table, columns []*catalog.Column, found [][]Reference) {
	known := append([]Reference{}, d.references...)
	for _, list := range found {
		if len(list) > 0 {
			known = append(known, list[0])
		}
	}
	learnt := learn(known)
	var left []*catalog.Table
	var at []int
	for i, t := range tables {
		f := d.fact(t, columns[i].Name)
		if len(found[i]) == 0 && f.Filled() > 0 && !oneValue(f) && len(learnt[strings.ToLower(columns[i].Name)]) > 0 {
			left, at = append(left, t), append(at, i)
		}
	}
	if len(left) == 0 {
		return
	}
	d.each("references", left, "its columns' references", func(a Asker, i int) {
		t, c := left[i], columns[at[i]]
		f := d.fact(t, c.Name)
		if !d.either(t, c) {
			found[at[i]] = d.verified(a, t, c, f, d.byNamesakes(t, c, f, learnt))
		}
	})
}
