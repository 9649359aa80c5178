package settings

import (
	"slices"
	"strings"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/evidence"
)

// Accepted finds the references that were accepted and that the catalog holds
// the columns of, and gives each to its table as an accepted reference. What is
// declared by now needs none. Evidence, which may be nil, is what patterns are
// held against; identifiers are found without it.
func (d *Decisions) Accepted(c *catalog.Catalog, e *evidence.Evidence, today time.Time) {
	lookup := c.Lookup()
	add := func(t *catalog.Table, columns []string, target *catalog.Table, key []string) {
		f := &catalog.ForeignKey{Columns: columns, Target: target.Ref(), TargetColumns: key, OnDelete: catalog.NoAction, OnUpdate: catalog.NoAction}
		same := func(o *catalog.ForeignKey) bool {
			return slices.Equal(o.Columns, columns) && o.Target == f.Target && slices.Equal(o.TargetColumns, key)
		}
		if !slices.ContainsFunc(t.ForeignKeys, same) && !slices.ContainsFunc(t.Accepted, same) {
			t.Accepted = append(t.Accepted, f)
		}
	}
	accepted := func(id string) bool {
		x := d.Of(id, today)
		return x != nil && x.Verdict == Accept
	}
	if e != nil {
		for i := range e.References {
			r := &e.References[i]
			t, target := lookup.Table(r.From()), lookup.Table(r.To())
			if t != nil && target != nil && has(t, r.Columns) && has(target, r.TargetColumns) && accepted(ReferenceID(r)) {
				add(t, r.Columns, target, r.TargetColumns)
			}
		}
	}
	for _, x := range d.List {
		if t, columns, target, key := find(c, x.About); t != nil && accepted(x.About) {
			add(t, columns, target, key)
		}
	}
}

func has(t *catalog.Table, columns []string) bool {
	return !slices.ContainsFunc(columns, func(name string) bool { return t.Column(name) == nil })
}

// find resolves a reference's identifier. Names may hold anything, so that it
// is not taken apart: the tables and columns are tried that it could be made of.
func find(c *catalog.Catalog, id string) (t *catalog.Table, columns []string, target *catalog.Table, key []string) {
	rest, ok := cut(id, referencePrefix)
	if !ok {
		return nil, nil, nil, nil
	}
	for _, t := range c.Tables() {
		after, ok := cut(rest, t.Ref().String()+" (")
		if !ok {
			continue
		}
		for _, columns := range lists(t, after, ") to ") {
			next, _ := cut(after, join(columns)+") to ")
			for _, target := range c.Tables() {
				last, ok := cut(next, target.Ref().String()+" (")
				if !ok {
					continue
				}
				for _, key := range lists(target, last, ")") {
					if join(key)+")" == last && len(key) == len(columns) {
						return t, columns, target, key
					}
				}
			}
		}
	}
	return nil, nil, nil, nil
}

// lists are the lists of the table's columns that the text begins with, before
// an end.
func lists(t *catalog.Table, text, end string) [][]string {
	var all [][]string
	var grow func(list []string, rest string)
	grow = func(list []string, rest string) {
		for _, c := range t.Columns {
			after, ok := cut(rest, c.Name)
			if !ok || slices.Contains(list, c.Name) {
				continue
			}
			longer := append(slices.Clone(list), c.Name)
			if _, ok := cut(after, end); ok {
				all = append(all, longer)
			}
			if next, ok := cut(after, ", "); ok && len(longer) < 8 {
				grow(longer, next)
			}
		}
	}
	grow(nil, text)
	return all
}

func cut(s, prefix string) (string, bool) { return strings.CutPrefix(s, prefix) }

func join(names []string) string { return strings.Join(names, ", ") }

// Named reports whether the identifier names a reference between tables and
// columns that the catalog holds.
func Named(c *catalog.Catalog, id string) bool {
	t, _, _, _ := find(c, id)
	return t != nil
}

// Declared reports whether the reference that the identifier names is a foreign
// key.
func Declared(c *catalog.Catalog, id string) bool {
	t, columns, target, key := find(c, id)
	return t != nil && slices.ContainsFunc(t.ForeignKeys, func(f *catalog.ForeignKey) bool {
		return slices.Equal(f.Columns, columns) && f.Target == target.Ref() && slices.Equal(f.TargetColumns, key)
	})
}

// Strike takes the references that were refused out of the evidence, and says
// how many.
func (d *Decisions) Strike(e *evidence.Evidence, today time.Time) int {
	n := len(e.References) + len(e.Perhaps)
	refused := func(r evidence.Reference) bool {
		x := d.Of(ReferenceID(&r), today)
		return !r.Declared && x != nil && x.Verdict == Refuse
	}
	e.References, e.Perhaps = slices.DeleteFunc(e.References, refused), slices.DeleteFunc(e.Perhaps, refused)
	return n - len(e.References) - len(e.Perhaps)
}
