package engine

import (
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqllex"
)

// ways finds the tables by which rows come into a table.
type ways struct {
	parts map[catalog.Ref][]*catalog.Table // and heirs
	views map[catalog.Ref][]*catalog.Table // those that show the one alone, as tables
}

func waysOf(c *catalog.Catalog) *ways {
	w := &ways{map[catalog.Ref][]*catalog.Table{}, map[catalog.Ref][]*catalog.Table{}}
	for _, t := range c.Tables() {
		if t.PartitionOf != nil {
			w.parts[*t.PartitionOf] = append(w.parts[*t.PartitionOf], t)
		}
		for _, of := range t.Inherits {
			w.parts[of] = append(w.parts[of], t)
		}
	}
	for _, s := range c.Schemas {
		for _, v := range s.Views {
			var reads []catalog.ObjectRef
			for _, o := range v.Reads {
				if o.Kind == catalog.KindTable || o.Kind == catalog.KindView {
					reads = append(reads, o)
				}
			}
			if len(reads) != 1 || slices.ContainsFunc(v.Triggers, func(g *catalog.Trigger) bool { return g.Timing == "instead of" }) {
				continue
			}
			of := catalog.Ref{Schema: reads[0].Schema, Table: reads[0].Name}
			shown := &catalog.Table{Schema: s.Name, Name: v.Name}
			for _, col := range v.Columns {
				shown.Columns = append(shown.Columns, &catalog.Column{Name: col.Name})
			}
			w.views[of] = append(w.views[of], shown)
		}
	}
	return w
}

// into are the table itself, its parts and those that inherit from it, and views of any of them.
func (w *ways) into(t *catalog.Table) []*catalog.Table {
	all := []*catalog.Table{t}
	for i := 0; i < len(all); i++ {
		for _, o := range slices.Concat(w.parts[all[i].Ref()], w.views[all[i].Ref()]) {
			if !slices.Contains(all, o) {
				all = append(all, o)
			}
		}
	}
	return all
}

// isOne reports whether a statement names one of the tables.
func isOne(name sqllex.Token, tables []*catalog.Table) bool {
	return slices.ContainsFunc(tables, func(t *catalog.Table) bool { return strings.EqualFold(name.Name(), t.Name) })
}
