package evidence

import (
	"slices"
	"strings"

	"nexdal/internal/catalog"
)

// Suspects are the references that names and types alone speak for, where nobody
// asked the data: as those of tables that hold no row. A column that takes part
// in a foreign key is left out, and so is what is no primary key.
func Suspects(c *catalog.Catalog, lookup *catalog.Lookup) []Reference {
	d := &discovery{c: c, lookup: lookup, keys: map[catalog.Ref][]Key{},
		comparable: func(t catalog.Type) bool {
			return t.Family != catalog.JSON && t.Family != catalog.Array && t.Family != catalog.Other
		}}
	for _, t := range c.Tables() {
		if t.PartitionOf == nil && t.IsOwn() && len(t.Columns) > 0 {
			d.tables = append(d.tables, t)
		}
	}
	d.names = namesOf(d.tables)
	none := int64(0)
	d.unasked = &Column{Distinct: &none}
	for _, t := range d.tables {
		for _, k := range t.Keys() {
			if len(k.Columns) == 1 && (k == t.PrimaryKey || t.NotNull(k.Columns)) {
				d.keys[t.Ref()] = append(d.keys[t.Ref()], Key{Schema: t.Schema, Table: t.Name, Columns: k.Columns, Declared: true, Likely: 1})
			}
		}
	}
	parents := d.parents()
	near := d.nearbyOf(parents)
	var all []Reference
	for _, t := range d.tables {
		for _, col := range t.Columns {
			tied := func(f *catalog.ForeignKey) bool { return slices.Contains(f.Columns, col.Name) }
			if !referable(col, d.fact(t, col.Name)) || !d.comparable(col.Type) || slices.ContainsFunc(t.ForeignKeys, tied) || slices.ContainsFunc(t.Logical, tied) {
				continue
			}
			terms := d.names.of(t.Ref(), col.Name)
			if len(terms) == 1 && terms[0].handle == "" && !slices.Contains(terms[0].stem, "by") && len(near.named(terms)) == 0 {
				continue // named after nothing, and not like a reference
			}
			for _, r := range d.suspects(t, col, d.candidates(t, col, d.fact(t, col.Name), parents, near)) {
				if k := d.lookup.Table(r.To()).PrimaryKey; k != nil && slices.Equal(k.Columns, r.TargetColumns) {
					all = append(all, r)
				}
			}
		}
	}
	slices.SortStableFunc(all, func(a, b Reference) int {
		if n := a.From().Compare(b.From()); n != 0 {
			return n
		}
		return strings.Compare(a.Columns[0], b.Columns[0])
	})
	return all
}
