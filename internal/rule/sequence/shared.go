package sequence

import (
	"fmt"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var Shared = &rule.Rule{
	ID:          "sequence/shared",
	Title:       "one sequence for several tables",
	Severity:    rule.Warning,
	Consequence: rule.Unprotected,
	Fixes:       []string{"split"},
	Doc: `One sequence numbers the keys of several tables. Each has gaps where the others took a number; the numbers run out as many times faster; and the sequence can be reset for none of them alone. When it belongs to one of the tables, dropping that table takes it from the others.

Leave it alone where the numbers are meant to be different across the tables, as for an inheritance or a common log. Tables that inherit from one another are not reported.

The fix, where the engine can have it without a gap in which two take one number, gives each table but the first a sequence of its own, which goes on past what the shared one has handed out. Whether the numbers are meant to be different across the tables is up to you: it is taken once it was chosen.`,
	Check: func(p *rule.Pass) error {
		each(p, func(s *catalog.Schema, q *catalog.Sequence) {
			tables := fed(q)
			if len(tables) < 2 || kin(p, q) {
				return
			}
			found := rule.Finding{Table: q.UsedBy[0].Ref(), Object: q.Name,
				Message: fmt.Sprintf("sequence \"%s\" numbers %s together: each has gaps where the others took a number, and none can be reset alone", q.Name, text.Names(tables)),
				Advice:  "give each its own sequence, begun past the largest number in use"}
			if fix := split(p, s, q); fix != nil {
				found.Advice, found.Fixes = "", []rule.Fix{*fix}
			}
			p.Report(found)
		})
		return nil
	},
}

// split gives all but the first a sequence of their own; nil where one of them cannot
// have it.
func split(p *rule.Pass, s *catalog.Schema, q *catalog.Sequence) *rule.Fix {
	if p.Abilities.NextValue == nil {
		return nil
	}
	shared := catalog.Ref{Schema: s.Name, Table: q.Name}
	fix := &rule.Fix{ID: "split", Ask: true, Title: "give each table but " + q.UsedBy[0].Table + " a sequence of its own"}
	for _, d := range q.UsedBy {
		t := p.Lookup.Table(d.Ref())
		if t == nil || d.How != "default" || t.Kind != catalog.Ordinary || t.PartitionOf != nil || len(p.Lookup.Heirs(t.Ref())) > 0 || t.Schema != s.Name {
			return nil
		}
		if d == q.UsedBy[0] || q.OwnedBy != nil && *q.OwnedBy == d.ColumnRef {
			continue
		}
		own := *q
		own.Name, own.Comment, own.Last, own.OwnedBy = p.Names.Free(s.Name, "seq", d.Table, d.Column), "", nil, nil
		fix.Changes = append(fix.Changes, change.SplitSequence{Table: d.Ref(), Column: d.Column, Shared: shared, Own: &own,
			From: t.Column(d.Column).Default, To: p.Abilities.NextValue(catalog.Ref{Schema: s.Name, Table: own.Name})})
	}
	return fix
}

// kin reports whether the tables are heirs or parts of one.
func kin(p *rule.Pass, q *catalog.Sequence) bool {
	roots := map[catalog.Ref]bool{}
	for _, d := range q.UsedBy {
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
