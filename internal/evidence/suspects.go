package evidence

import (
	"runtime"
	"slices"
	"strings"
	"sync"

	"nexdal/internal/catalog"
)

// Suspects are the references that names and types alone speak for, where nobody
// asked the data: as those of tables that hold no row. A column that takes part
// in a foreign key is left out, and so is what is no primary key.
func Suspects(c *catalog.Catalog, lookup *catalog.Lookup) []Reference {
	d := &discovery{c: c, lookup: lookup,
		comparable: func(t catalog.Type) bool {
			return t.Family != catalog.JSON && t.Family != catalog.Array && t.Family != catalog.Other
		}}
	for _, t := range c.Tables() {
		if t.PartitionOf == nil && t.IsOwn() && len(t.Columns) > 0 {
			d.tables = append(d.tables, t)
		}
	}
	d.names = namesOf(d.tables)
	// The keys of a table and what may refer to them are one walk: each walk over all
	// columns of a large catalog has its price.
	d.keys = make(map[*catalog.Table][]Key, len(d.tables))
	none := int64(0)
	d.unasked = &Column{Distinct: &none}
	parents := make([]parentKey, 0, len(d.tables))
	for _, t := range d.tables {
		var keys []Key
		for _, k := range t.Keys() {
			if len(k.Columns) == 1 && (k == t.PrimaryKey || t.NotNull(k.Columns)) {
				keys = append(keys, Key{Schema: t.Schema, Table: t.Name, Columns: k.Columns, Declared: true, Likely: 1})
			}
		}
		if keys != nil {
			d.keys[t] = keys
		}
		parents = d.parentsOf(parents, t)
	}
	near := d.nearbyOf(parents)
	// The walk over all columns is the longer half: each processor takes a share.
	share := len(d.tables)/runtime.GOMAXPROCS(0) + 1
	found := make([][]Reference, 0, runtime.GOMAXPROCS(0))
	var walks sync.WaitGroup
	for tables := range slices.Chunk(d.tables, share) {
		found = append(found, nil)
		into := &found[len(found)-1]
		walks.Go(func() { *into = d.suspected(tables, parents, near) })
	}
	walks.Wait()
	all := slices.Concat(found...)
	slices.SortStableFunc(all, func(a, b Reference) int {
		if n := a.From().Compare(b.From()); n != 0 {
			return n
		}
		return strings.Compare(a.Columns[0], b.Columns[0])
	})
	return all
}

// suspected are those of some of the tables.
func (d *discovery) suspected(tables []*catalog.Table, parents []parentKey, near *nearby) (all []Reference) {
	dull := map[*term]bool{} // named after nothing, and not like a reference
	for _, t := range tables {
		for _, col := range t.Columns {
			if !referable(col, d.unasked) || !d.comparable(col.Type) {
				continue
			}
			if terms := d.names.of(t, col.Name); len(terms) == 1 {
				is, known := dull[&terms[0]] // of a hundred thousand columns most are named as others are
				if !known {
					is = terms[0].handle == "" && !slices.Contains(terms[0].stem, "by") && len(near.named(terms)) == 0
					dull[&terms[0]] = is
				}
				if is {
					continue
				}
			}
			tied := func(f *catalog.ForeignKey) bool { return slices.Contains(f.Columns, col.Name) }
			if slices.ContainsFunc(t.ForeignKeys, tied) || slices.ContainsFunc(t.Accepted, tied) {
				continue
			}
			for _, r := range d.suspects(t, col, d.candidates(t, col, d.fact(t, col.Name), parents, near)) {
				if r.Score < likely {
					continue
				}
				if k := d.lookup.Table(r.To()).PrimaryKey; k != nil && slices.Equal(k.Columns, r.TargetColumns) {
					all = append(all, r)
				}
			}
		}
	}
	return all
}
