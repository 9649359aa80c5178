package evidence

import (
	"cmp"
	"slices"
	"strings"

	"nexdal/internal/catalog"
)

func join(words []string) string { return strings.Join(words, " ") }

// A place is a column of a table.
type place struct {
	table  catalog.Ref
	column string
}

// settle chooses one target for each column. Where a column's values lie in two
// keys, one of which itself refers to the other, the other is the parent: what
// refers to a child's key refers to the child's parent. Two keys that lie in
// each other refer one way only.
func settle(declared []Reference, found [][]Reference) []Reference {
	to := map[place]place{} // what a single column refers to
	for _, r := range declared {
		if len(r.Columns) == 1 {
			to[place{r.From(), r.Columns[0]}] = place{r.To(), r.TargetColumns[0]}
		}
	}
	for _, list := range found {
		if len(list) > 0 && list[0].Score >= likely {
			to[place{list[0].From(), list[0].Columns[0]}] = place{list[0].To(), list[0].TargetColumns[0]}
		}
	}
	var settled []Reference
	for _, list := range found {
		if len(list) == 0 {
			continue
		}
		best := list[0]
		from := place{best.From(), best.Columns[0]}
		for range list {
			next, ok := to[place{best.To(), best.TargetColumns[0]}]
			if !ok || next == from {
				break
			}
			i := slices.IndexFunc(list, func(r Reference) bool { return (place{r.To(), r.TargetColumns[0]}) == next })
			if i < 0 || list[i].Parts.Name < best.Parts.Name-0.3 {
				break
			}
			// That it is one of the two is as probable as both together.
			list[i].Score = percent(min(1, list[i].Score+best.Score))
			best = list[i]
		}
		to[from] = place{best.To(), best.TargetColumns[0]}
		settled = append(settled, best)
	}
	return slices.DeleteFunc(settled, func(r Reference) bool {
		from, target := place{r.From(), r.Columns[0]}, place{r.To(), r.TargetColumns[0]}
		if from == target || to[target] != from {
			return false
		}
		i := slices.IndexFunc(settled, func(o Reference) bool { return (place{o.From(), o.Columns[0]}) == target })
		if i < 0 {
			return true // the other way is declared
		}
		o := settled[i]
		if s := cmp.Compare(r.Score, o.Score); s != 0 {
			return s < 0
		}
		return len(r.Table) < len(o.Table) || len(r.Table) == len(o.Table) && r.Table < o.Table // a part is named longer than the whole
	})
}

// overshadow takes out references of single columns that a reference of several
// columns says already, since its target refers to the same table.
func overshadow(all []Reference) []Reference {
	to := map[place]place{}
	for _, r := range all {
		if len(r.Columns) == 1 {
			to[place{r.From(), r.Columns[0]}] = place{r.To(), r.TargetColumns[0]}
		}
	}
	shadow := map[place]bool{}
	for _, r := range all {
		if len(r.Columns) < 2 || r.Orphans > 0 {
			continue
		}
		for i, c := range r.Columns {
			from := place{r.From(), c}
			if next, ok := to[place{r.To(), r.TargetColumns[i]}]; ok && to[from] == next {
				shadow[from] = true
			}
		}
	}
	return slices.DeleteFunc(all, func(r Reference) bool {
		return len(r.Columns) == 1 && !r.Declared && shadow[place{r.From(), r.Columns[0]}]
	})
}
