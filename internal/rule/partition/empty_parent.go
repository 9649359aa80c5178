// Package partition holds the rules on tables that are partitioned.
package partition

import (
	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/rule"
	"nexdal/internal/upkeep"
)

var EmptyParent = &rule.Rule{
	ID:          "partition/empty-parent",
	Title:       "partitioned table without partitions",
	Severity:    rule.Error,
	Consequence: rule.FailsNow,
	Applies:     func(can catalog.Abilities) bool { return can.PartsAreTables },
	Fixes:       []string{"rest"},
	Doc: `The table is partitioned and has no partition: every insert fails.

Which partitions it should have is up to you. The fix adds one for what no other takes, with which inserts no longer fail; those that are added later take their rows from there.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Owned {
			if t.Kind == catalog.Partitioned && len(p.Lookup.Partitions(t.Ref())) == 0 && len(t.Partitions) == 0 {
				found := rule.Finding{Table: t.Ref(), Object: t.Name, Message: "has no partition: every insert fails", Advice: "create its partitions"}
				if m := (upkeep.Plain(in(p), t, nil)); p.Abilities.RestBounds != nil && p.Abilities.RestBounds(t) != "" && m.Whole(false) == "" {
					found.Advice, found.Fixes = "", []rule.Fix{restFix(m)}
				}
				p.Report(found)
			}
		}
		return nil
	},
}

// in is where the pass looks.
func in(p *rule.Pass) upkeep.In {
	return upkeep.In{Catalog: p.Catalog, Lookup: p.Lookup, Abilities: p.Abilities, Names: p.Names}
}

// most is how many partitions a fix makes at once.
const most = 100

// restFix adds the partition that takes what no other does.
func restFix(m upkeep.Pattern) rule.Fix {
	return rule.Fix{ID: "rest", Title: "add a partition for what no other takes", Changes: []change.Change{m.Rest()}}
}
