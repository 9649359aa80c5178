package index

import (
	"fmt"

	"nexdal/internal/change"
	"nexdal/internal/rule"
)

var Broken = &rule.Rule{
	ID:       "index/broken",
	Title:    "index that is not valid",
	Severity: rule.Error,
	Doc: `The index is there and cannot be used: mostly, building it without blocking others was broken off. Every write keeps it up, no search uses it, and where it is unique it may not even keep rows apart.

An index on only a partitioned parent, which waits for those of the partitions, is not reported here.

The fix rebuilds it while others read and write; a second one drops it, if it was given up. What is rebuilt is not made unsound again by the reversal.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Owned {
			for _, x := range t.Indexes {
				if x.Invalid && t.PartitionBy == nil {
					p.Report(rule.Finding{Table: t.Ref(), Object: x.Name, Message: fmt.Sprintf("index %s is not valid: every write keeps it up, and no search can use it", x.Name),
						Fixes: []rule.Fix{
							{ID: "rebuild", Title: "rebuild it without blocking others", Changes: []change.Change{change.RebuildIndex{Table: t.Ref(), Name: x.Name}}},
							{ID: "drop", Title: "drop it", Changes: []change.Change{change.DropIndex{Table: t.Ref(), Name: x.Name}}}}})
				}
			}
		}
		return nil
	},
}
