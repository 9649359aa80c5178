package fk

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/rule"
)

// Cycle: see its Doc.
var Cycle = &rule.Rule{
	ID:       "fk/cycle",
	Title:    "ring of required references",
	Severity: rule.Warning,
	Doc: `Tables refer to each other in a ring, by columns that may not be null and by foreign keys that are checked at once. The first row of none of them can be inserted, since each needs one of the next; and none can be deleted. Such tables are filled with foreign keys switched off, which is how broken rows get in.

A reference of a table to itself is no ring: a row may refer to itself.

There is no fix: which of the references may be null for a moment, or be checked at the end of the transaction, is for a person to say.`,
	Check: checkCycle,
}

func checkCycle(p *rule.Pass) {
	next := map[catalog.Ref][]catalog.Ref{}
	for _, t := range p.Own {
		for _, f := range t.ForeignKeys {
			if !f.Inherited && !f.Deferrable && f.Target != t.Ref() && t.NotNull(f.Columns) && !slices.Contains(next[t.Ref()], f.Target) {
				next[t.Ref()] = append(next[t.Ref()], f.Target)
			}
		}
	}
	seen := map[catalog.Ref]bool{}
	for _, t := range p.Own {
		if seen[t.Ref()] {
			continue
		}
		ring := ringOf(t.Ref(), next)
		for _, r := range ring {
			seen[r] = true
		}
		if len(ring) > 0 {
			p.Report(rule.Finding{Table: ring[0], Object: ring[0].Table,
				Message: fmt.Sprintf("no first row can be inserted: %s each need a row of the next", around(ring)),
				Advice:  "let one of the references be null, or make its foreign key deferrable where the engine can"})
		}
	}
}

// ringOf is the shortest way from a table over required references back to it.
func ringOf(from catalog.Ref, next map[catalog.Ref][]catalog.Ref) []catalog.Ref {
	before := map[catalog.Ref]catalog.Ref{}
	for todo := []catalog.Ref{from}; len(todo) > 0; todo = todo[1:] {
		for _, to := range next[todo[0]] {
			if to == from {
				ring := []catalog.Ref{todo[0]}
				for at := todo[0]; at != from; {
					at = before[at]
					ring = append(ring, at)
				}
				slices.Reverse(ring)
				return ring
			}
			if _, known := before[to]; !known {
				before[to] = todo[0]
				todo = append(todo, to)
			}
		}
	}
	return nil
}

func around(ring []catalog.Ref) string {
	var names []string
	for _, r := range ring {
		names = append(names, r.Table)
	}
	return strings.Join(append(names, ring[0].Table), " → ")
}
