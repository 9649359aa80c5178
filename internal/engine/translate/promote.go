package translate

import (
	"slices"

	"nexdal/internal/catalog"
)

// Promote makes keys of the unique indexes that references lead to, for an engine on which they lead to
// keys alone.
func Promote(c *catalog.Catalog) {
	lookup := c.Lookup()
	for _, t := range c.Tables() {
		for _, f := range t.ForeignKeys {
			target := lookup.Table(f.Target)
			if target == nil || slices.ContainsFunc(target.Keys(), func(k *catalog.Key) bool { return catalog.SameColumns(k.Columns, f.TargetColumns) }) {
				continue
			}
			for _, x := range target.Indexes {
				if x.Unique && catalog.SameColumns(x.Columns(), f.TargetColumns) && x.Origin == catalog.ByPerson {
					x.Origin = catalog.ByUniqueKey
					for i := range x.Parts {
						x.Parts[i].Descending = false // as no key's index is
					}
					target.UniqueKeys = append(target.UniqueKeys, &catalog.Key{Name: x.Name, Columns: x.Columns(), Index: x.Name})
					break
				}
			}
		}
	}
}
