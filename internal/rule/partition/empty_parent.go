// Package partition holds the rules on tables that are partitioned.
package partition

import (
	"nexdal/internal/catalog"
	"nexdal/internal/rule"
)

var EmptyParent = &rule.Rule{
	ID:       "partition/empty-parent",
	Title:    "partitioned table without partitions",
	Severity: rule.Error,
	Doc: `The table is partitioned and has no partition: every insert fails.

Which partitions it should have is for a person to say. The fix adds one for what no other takes, with which inserts no longer fail; those that are added later take their rows from there.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Owned {
			if t.Kind == catalog.Partitioned && len(p.Lookup.Partitions(t.Ref())) == 0 && len(t.Partitions) == 0 {
				found := rule.Finding{Table: t.Ref(), Object: t.Name, Message: "has no partition: every insert fails", Advice: "create its partitions"}
				if m := (making{p: p, t: t}); p.Abilities.RestBounds != nil && p.Abilities.RestBounds(t) != "" && m.whole(false) == "" {
					found.Advice, found.Fixes = "", []rule.Fix{m.rest()}
				}
				p.Report(found)
			}
		}
		return nil
	},
}
