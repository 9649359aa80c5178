package ddl

import (
	"slices"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
)

// Tied are the places of the plan, from the first on, that alter columns and hang together: those
// of one table, and of tables that foreign keys on altered columns tie to it. Only those that stand
// together in the plan, among others that alter columns, are taken; alters tells which do.
func (w *Writer) Tied(first int, alters func(change.Change) bool) []int {
	run := w.Plan[first:]
	if end := slices.IndexFunc(run, func(it change.Item) bool { return !alters(it.Change) }); end >= 0 {
		run = run[:end]
	}
	typed := func(t catalog.Ref, columns []string) bool {
		return slices.ContainsFunc(run, func(it change.Item) bool {
			ch, ok := it.Change.(change.AlterType)
			return ok && ch.Table == t && slices.Contains(columns, ch.Column)
		})
	}
	tables := map[catalog.Ref]bool{run[0].Change.On(): true}
	for grown := true; grown; {
		grown = false
		for _, t := range w.Now.Tables() {
			for _, f := range t.ForeignKeys {
				if tables[t.Ref()] != tables[f.Target] && (typed(t.Ref(), f.Columns) || typed(f.Target, f.TargetColumns)) {
					tables[t.Ref()], tables[f.Target], grown = true, true, true
				}
			}
		}
	}
	var places []int
	for i, it := range run {
		if tables[it.Change.On()] {
			places = append(places, first+i)
		}
	}
	return places
}
