package settings

import (
	"fmt"
	"slices"

	"nexdal/internal/catalog"
	"nexdal/internal/rule"
)

// Strays says which patterns of tables in the settings fit no table of the catalog, with where
// they stand: they may have been mistyped, or be meant for another database. Rules that the engine
// cannot break are passed over.
func (s *Settings) Strays(c *catalog.Catalog, rules []*rule.Rule, can catalog.Abilities) []string {
	var all []string
	tables := c.Tables()
	for _, p := range s.Rules {
		fits := func(t *catalog.Table) bool { return catalog.FitsTable(p.Table, t.Schema, t.Name) }
		says := fmt.Sprintf("%s: no table fits %q", p.From, p.Table)
		bears := slices.ContainsFunc(rules, func(r *rule.Rule) bool { return r.Is(p.Rule) && (r.Applies == nil || r.Applies(can)) })
		if p.Table != "" && bears && !slices.ContainsFunc(tables, fits) && !slices.Contains(all, says) {
			all = append(all, says)
		}
	}
	return all
}
