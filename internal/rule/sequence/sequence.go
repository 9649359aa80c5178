// Package sequence holds the rules on what numbers keys.
package sequence

import (
	"nexdal/internal/catalog"
	"nexdal/internal/rule"
)

// each calls for every sequence that is the owner's to change.
func each(p *rule.Pass, do func(s *catalog.Schema, q *catalog.Sequence)) {
	for _, s := range p.Catalog.Schemas {
		for _, q := range s.Sequences {
			if q.Extension == "" && s.Extension == "" {
				do(s, q)
			}
		}
	}
}

// fed lists the tables whose columns the sequence numbers, each once.
func fed(q *catalog.Sequence) []string {
	var tables []string
	seen := map[catalog.Ref]bool{}
	for _, d := range q.UsedBy {
		if !seen[d.Ref()] {
			seen[d.Ref()] = true
			tables = append(tables, d.Table)
		}
	}
	return tables
}
