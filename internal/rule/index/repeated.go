package index

import (
	"fmt"
	"slices"

	"nexdal/internal/catalog"
	"nexdal/internal/rule"
)

var Repeated = &rule.Rule{
	ID:          "index/repeated",
	Title:       "duplicate index",
	Severity:    rule.Warning,
	Consequence: rule.Slow,
	Fixes:       []string{"drop"},
	Doc: `Two indexes of a table are alike in method, columns, order, predicate and carried columns. One of them is work without use.

Of a group the one is kept that does most: enforces uniqueness, is checked against by a foreign key, or is pinned (replica identity, clustering order). Otherwise the first by name stays.

The fix drops the others, without blocking writes where the engine can.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Owned {
			repeated(p, t)
		}
		return nil
	},
}

func repeated(p *rule.Pass, t *catalog.Table) {
	leaned := leanedOn(p.Lookup, t)
	weight := func(x *catalog.Index) int {
		switch {
		case leaned[x.Name], x.Pinned != "", len(t.DependantsOf(x.Name)) > 0:
			return 0
		case x.Unique:
			return 1
		}
		return 2
	}
	ranked := slices.Clone(t.Indexes)
	slices.SortStableFunc(ranked, func(a, b *catalog.Index) int { return weight(a) - weight(b) })
	for i, x := range ranked {
		if !free(x) || leaned[x.Name] || keyAlike(t, x) != "" {
			continue
		}
		for _, kept := range ranked[:i] {
			if loose(kept) && !kept.Invalid && !kept.Inherited && alike(x, kept) {
				p.Report(spare(t, x, fmt.Sprintf("\"%s\" %s repeats \"%s\"; every write maintains both%s", x.Name, shown(x), kept.Name, cost(x))))
				break
			}
		}
	}
}
