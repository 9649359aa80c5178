package sqlexpr

import (
	"iter"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqllex"
)

// Written reads INSERT and UPDATE in the programs' texts.
func (r Reader) Written(programs iter.Seq[catalog.Module], t *catalog.Table, column *catalog.Column) []catalog.Written {
	var all []catalog.Written
	for m := range programs {
		if !strings.Contains(strings.ToLower(m.Text), strings.ToLower(t.Name)) {
			continue
		}
		take := func(value sqllex.Token) {
			if v, ok := r.Constant(value.Text); ok {
				all = append(all, catalog.Written{By: m, Value: v})
			}
		}
		for _, in := range sqllex.Inserts(r.Dialect, m.Text) {
			if !in.Table.Names(t.Name) {
				continue
			}
			at := slices.Index(t.Columns, column)
			if in.Listed {
				at = slices.IndexFunc(in.Columns, func(k sqllex.Token) bool { return k.Names(column.Name) })
			}
			for _, v := range in.Plain {
				if v.At == at {
					take(v.Value)
				}
			}
		}
		for _, u := range sqllex.Updates(r.Dialect, m.Text) {
			for _, a := range u.Sets {
				if value, ok := a.Plain(); ok && u.Table.Names(t.Name) && a.Column.Names(column.Name) {
					take(value)
				}
			}
		}
	}
	return all
}
