package partition

import (
	"fmt"

	"nexdal/internal/catalog"
	"nexdal/internal/rule"
)

var TooMany = &rule.Rule{
	ID:          "partition/too-many",
	Title:       "very many partitions",
	Severity:    rule.Warning,
	Consequence: rule.Slow,
	Applies:     func(can catalog.Abilities) bool { return can.Bounds != nil || can.PartitionEvery != nil },
	Options: []rule.Option{
		{Name: "partitions", Default: int64(1000), Doc: "partitions of one table that are not too many"},
	},
	Doc: `The table has more than 1,000 partitions. Each is opened, locked and planned for; a query that cannot leave any of them out takes longer to plan than to run, and a session that touches all needs memory for each.

There is no fix: longer periods, or old ones put together.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Owned {
			if t.PartitionBy == nil {
				continue
			}
			n := len(p.Lookup.Partitions(t.Ref())) + len(t.Partitions)
			if made := t.Stats.Parts; made != nil {
				n = int(*made)
			}
			if int64(n) > p.Count(t, "partitions") {
				p.Report(rule.Finding{Table: t.Ref(), Object: t.Name, Part: "number", Message: fmt.Sprintf("has %d partitions: queries that touch all take long to plan", n)})
			}
		}
		return nil
	},
}
