package sequence

import (
	"fmt"
	"slices"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/rule"
)

var ByTrigger = &rule.Rule{
	ID:          "sequence/by-trigger",
	Title:       "key numbered by a trigger",
	Severity:    rule.Notice,
	Consequence: rule.Untidy,
	Fixes:       []string{"identity", "default"},
	Doc: `A trigger takes the numbers of a key from a sequence, on an engine whose columns can be numbered by themselves. Every insert runs the trigger for it, bulk loads feel it, and whoever reads the table does not see how its key comes about.

Leave it alone where the same schema has to run on an engine without such columns.

The fix "identity" makes the column an identity that goes on where the sequence was, and drops the trigger and the sequence, in one transaction. It is offered where the trigger does nothing else; the function that it called stays. An insert that gives a number of its own has that kept from then on, where the trigger replaced it. Where a column that is there can be made no identity, the fix "default" lets its default draw from the sequence, for nulls that are given as well, and drops the trigger.`,
	Check: func(p *rule.Pass) error {
		if p.Abilities.AddedKeyIdentity == catalog.NoIdentity || p.Abilities.AddedKeyIdentity == catalog.IdentityTrigger {
			return nil // or rows that are there can be numbered in no other way
		}
		each(p, func(s *catalog.Schema, q *catalog.Sequence) {
			for _, d := range q.UsedBy {
				if t := p.Lookup.Table(d.Ref()); d.How == "trigger" && t != nil && t.IsOwn() {
					found := rule.Finding{Table: d.Ref(), Object: q.Name, Columns: []string{d.Column},
						Message: fmt.Sprintf("a trigger numbers \"%s\" from sequence \"%s\"; the engine can number the column by itself", d.Column, q.Name),
						Advice:  "an identity that begins past the largest number; then drop the trigger, and the sequence"}
					if g := numbering(p, t, q, d); g != nil {
						found.Advice, found.Fixes = "", []rule.Fix{replaced(p, s, q, t, d, g)}
					}
					p.Report(found)
				}
			}
		})
		return nil
	},
}

// replaced is what takes the place of the trigger.
func replaced(p *rule.Pass, s *catalog.Schema, q *catalog.Sequence, t *catalog.Table, d catalog.SequenceUse, g *catalog.Trigger) rule.Fix {
	if p.Abilities.DefaultOnNull {
		at := catalog.Ref{Schema: s.Name, Table: q.Name}
		return rule.Fix{ID: "default", Title: fmt.Sprintf("let the default of \"%s\" draw from sequence \"%s\", and drop trigger \"%s\"", d.Column, q.Name, g.Name), Changes: []change.Change{
			change.ReplaceByDefault{Table: t.Ref(), Column: d.Column, Trigger: g, Sequence: at, Default: p.Abilities.NextValue(at)}}}
	}
	return rule.Fix{ID: "identity", Title: fmt.Sprintf("make \"%s\" an identity", d.Column), Changes: []change.Change{
		change.MakeIdentity{Table: t.Ref(), Column: d.Column, Trigger: g, Schema: s.Name, Sequence: q}}}
}

// numbering is the trigger that numbers the column, where it can be done without: it does
// nothing else, and nothing else draws from the sequence.
func numbering(p *rule.Pass, t *catalog.Table, q *catalog.Sequence, d catalog.SequenceUse) *catalog.Trigger {
	col := t.Column(d.Column)
	if p.Abilities.AddedKeyIdentity != catalog.IdentityByDefault || !d.Alone || len(q.UsedBy) != 1 || col == nil || col.Nullable || col.Default != "" ||
		t.Kind != catalog.Ordinary || t.PartitionOf != nil || len(p.Lookup.Heirs(t.Ref()))+len(t.Inherits) > 0 ||
		col.Type.Family != catalog.Integer || col.Type.Bits < 64 && q.Most > 1<<(col.Type.Bits-1)-1 {
		return nil
	}
	var found *catalog.Trigger
	for _, g := range t.Triggers {
		if g.Timing == "before" && g.PerRow && slices.Contains(g.Events, "insert") {
			if found != nil || len(g.Events) > 1 || g.Enabled != "" || g.Inherited {
				return nil // which of them it is cannot be told, or it does more
			}
			found = g
		}
	}
	return found
}
