package fk

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/rule"
)

var Cycle = &rule.Rule{
	ID:          "fk/cycle",
	Title:       "ring of required references",
	Severity:    rule.Warning,
	Consequence: rule.FailsNow,
	Fixes:       []string{"defer", "allow-null"},
	Doc: `Tables refer to each other in a ring, by columns that may not be null and by foreign keys that are checked at once. The first row of none of them can be inserted, since each needs one of the next; and none can be deleted. Such tables are filled with foreign keys switched off, which is how broken rows get in.

A reference of a table to itself is no ring: a row may refer to itself.

The fix, where the engine can, has the last reference of the ring checked at the end of the transaction. Another lets it be null, which programs have to know of, so that a script holds it only once it was chosen.`,
	Check: checkCycle,
}

func checkCycle(p *rule.Pass) error {
	next := map[catalog.Ref][]catalog.Ref{}
	for _, t := range p.Owned {
		for _, f := range t.ForeignKeys {
			if !f.Inherited && !f.Deferrable && f.Target != t.Ref() && t.NotNull(f.Columns) && !slices.Contains(next[t.Ref()], f.Target) {
				next[t.Ref()] = append(next[t.Ref()], f.Target)
			}
		}
	}
	seen := map[catalog.Ref]bool{}
	for _, t := range p.Owned {
		if seen[t.Ref()] {
			continue
		}
		ring := ringOf(t.Ref(), next)
		for _, r := range ring {
			seen[r] = true
		}
		if len(ring) > 0 {
			p.Report(rule.Finding{Table: ring[0], Object: ring[0].Table, Fixes: openings(p, ring),
				Message: fmt.Sprintf("no first row can be inserted: in %s each table needs a row of the next", around(ring))})
		}
	}
	return nil
}

// openings are the ways to break the ring at its last reference.
func openings(p *rule.Pass, ring []catalog.Ref) []rule.Fix {
	last := p.Lookup.Table(ring[len(ring)-1])
	var later, nullable rule.Fix
	for _, f := range last.ForeignKeys {
		if f.Inherited || f.Deferrable || f.Target != ring[0] || !last.NotNull(f.Columns) {
			continue
		}
		deferred := f.Clone()
		deferred.Deferrable, deferred.Deferred = true, true
		later.Changes = append(later.Changes, change.AlterForeignKey{Table: last.Ref(), Old: f, New: deferred})
		if c := last.Column(f.Columns[0]); last.PrimaryKey == nil || !slices.Contains(last.PrimaryKey.Columns, c.Name) {
			nullable.Changes = append(nullable.Changes, change.SetNullable{Table: last.Ref(), Column: c.Name, Nullable: true})
		}
	}
	var fixes []rule.Fix
	if p.Abilities.DeferrableReferences {
		later.ID, later.Title = "defer", fmt.Sprintf("check the reference of \"%s\" at the end of the transaction", last.Name)
		fixes = append(fixes, later)
	}
	if len(nullable.Changes) == len(later.Changes) {
		nullable.ID, nullable.Title, nullable.Ask = "allow-null", fmt.Sprintf("allow null in the reference of \"%s\"", last.Name), true
		fixes = append(fixes, nullable)
	}
	return fixes
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
