package partition

import (
	"fmt"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var KeyOutsideKey = &rule.Rule{
	ID:          "partition/key-outside-key",
	Title:       "key that is unique only within a partition",
	Severity:    rule.Error,
	Consequence: rule.Unprotected,
	Applies:     func(can catalog.Abilities) bool { return can.PartsAreTables },
	Doc: `Partitions have a primary or unique key of their own that leaves the partition columns out, and the partitioned table has none: a value is unique in each partition and may be there in several. The catalog looks as if there were a key.

There is no fix: a key of the partitioned table has to hold the partition columns, or the table be partitioned by columns of the key.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Owned {
			if t.Kind != catalog.Partitioned || t.PartitionBy == nil {
				continue
			}
			seen := map[string]int{}
			for _, part := range p.Lookup.Partitions(t.Ref()) {
				for _, k := range part.Keys() {
					if x := part.Index(k.Index); (x == nil || !x.Inherited) && !catalog.Within(t.PartitionBy.Columns, k.Columns) && !t.UniqueOn(k.Columns) {
						seen[strings.Join(k.Columns, ", ")]++
					}
				}
			}
			for columns, n := range seen {
				p.Report(rule.Finding{Table: t.Ref(), Object: t.Name, Columns: strings.Split(columns, ", "), Part: columns,
					Message: fmt.Sprintf("(%s) is unique only within each of %s: the same value may occur in several", columns, text.Plural(int64(n), "partition")),
					Advice:  fmt.Sprintf("a key of the whole that holds %s too", text.List(t.PartitionBy.Columns))})
			}
		}
		return nil
	},
}
