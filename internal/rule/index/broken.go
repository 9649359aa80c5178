package index

import (
	"fmt"

	"nexdal/internal/rule"
)

// Broken: see its Doc.
var Broken = &rule.Rule{
	ID:       "index/broken",
	Title:    "index that is not valid",
	Severity: rule.Error,
	Doc: `The index is there and cannot be used: mostly, building it without blocking others was broken off. Every write keeps it up, no search uses it, and where it is unique it may not even keep rows apart.

An index on only a partitioned parent, which waits for those of the partitions, is not reported here.

There is no fix: rebuild it, or drop it if it was given up.`,
	Check: func(p *rule.Pass) {
		for _, t := range p.Own {
			for _, x := range t.Indexes {
				if x.Invalid && t.PartitionBy == nil {
					p.Report(rule.Finding{Table: t.Ref(), Object: x.Name, Message: fmt.Sprintf("index %s is not valid: every write keeps it up, and no search can use it", x.Name),
						Advice: "rebuild it without blocking others, or drop it"})
				}
			}
		}
	},
}
