package sequence

import (
	"fmt"

	"nexdal/internal/catalog"
	"nexdal/internal/phrase"
	"nexdal/internal/rule"
)

// Shared: see its Doc.
var Shared = &rule.Rule{
	ID:       "sequence/shared",
	Title:    "one sequence for several tables",
	Severity: rule.Warning,
	Doc: `One sequence numbers the keys of several tables. Each has gaps where the others took a number; the numbers run out as many times faster; and the sequence can be reset for none of them alone. When it belongs to one of the tables, dropping that table takes it from the others.

Leave it alone where the numbers are meant to be different across the tables, as for an inheritance or a common log. Tables that inherit from one another are not reported.

There is no fix: a sequence of its own for each, begun past the largest number in use, is the way.`,
	Check: func(p *rule.Pass) {
		each(p, func(s *catalog.Schema, q *catalog.Sequence) {
			tables := fed(q)
			if len(tables) < 2 || kin(p, q) {
				return
			}
			p.Report(rule.Finding{Table: q.Feeds[0].Ref(), Object: q.Name,
				Message: fmt.Sprintf("sequence %s numbers %s together: each has gaps where the others took a number, and none can be reset alone", q.Name, phrase.List(tables)),
				Advice:  "give each its own sequence, begun past the largest number in use"})
		})
	},
}

// kin reports whether the tables are heirs or parts of one.
func kin(p *rule.Pass, q *catalog.Sequence) bool {
	roots := map[catalog.Ref]bool{}
	for _, d := range q.Feeds {
		at := d.Ref()
		for range 10 {
			t := p.Lookup.Table(at)
			switch {
			case t != nil && t.PartitionOf != nil:
				at = *t.PartitionOf
			case t != nil && len(t.Inherits) > 0:
				at = t.Inherits[0]
			}
		}
		roots[at] = true
	}
	return len(roots) < 2
}
