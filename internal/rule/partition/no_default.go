package partition

import (
	"fmt"

	"nexdal/internal/catalog"
	"nexdal/internal/rule"
	"nexdal/internal/upkeep"
)

var NoDefault = &rule.Rule{
	ID:          "partition/no-default",
	Title:       "rows outside all partitions are refused",
	Severity:    rule.Notice,
	Consequence: rule.Unprotected,
	Applies:     func(can catalog.Abilities) bool { return can.Bounds != nil },
	Fixes:       []string{"rest"},
	GivesWay:    []string{"partition/empty-parent"},
	Doc: `The table is partitioned by ranges or lists and has no partition for what none of them takes: such a row is refused. That may be just what is wanted, so that nothing strays; where a lost row is worse than one out of place, it is not.

A default partition has its price: each new partition has to be checked against it, under a lock.

The fix adds one, once it was chosen.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Owned {
			if m := upkeep.Method(t); m != "range" && m != "list" {
				continue
			}
			list, all := upkeep.Partitions(in(p), t)
			if !all || len(list) == 0 || upkeep.Open(list) {
				continue
			}
			found := rule.Finding{Table: t.Ref(), Object: t.Name, Message: fmt.Sprintf("a row that none of its %d partitions takes is refused", len(list)), Advice: "a default partition, if rows must not be lost"}
			if m := (upkeep.Plain(in(p), t, list)); p.Abilities.RestBounds != nil && p.Abilities.RestBounds(t) != "" && m.Whole(false) == "" {
				fix := restFix(m)
				fix.Ask = true
				found.Advice, found.Fixes = "", []rule.Fix{fix}
			}
			p.Report(found)
		}
		return nil
	},
}
