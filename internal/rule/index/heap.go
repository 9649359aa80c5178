package index

import (
	"fmt"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/rule"
)

var Heap = &rule.Rule{
	ID:          "index/heap",
	Title:       "table whose rows are kept in no order",
	Severity:    rule.Notice,
	Consequence: rule.Slow,
	Fixes:       []string{"cluster"},
	Applies:     func(can catalog.Abilities) bool { return can.ClustersKeys },
	Doc: `No index of the table is clustered: its rows lie where there was room. A row that grows is moved and leaves a pointer behind, which every reader follows; room that was freed is not given back; and each index leads to a place instead of a key.

A table without a primary key is reported as such. Of one that is known to hold fewer than 1,000 rows nothing is said.

Leave it alone where rows are loaded at once, read whole and dropped, as in a staging table.

The fix makes the primary key the order of the rows. The table and all of its indexes are rebuilt, and foreign keys that refer to the key are dropped and declared again; so it is made once it was chosen.`,
	Options: []rule.Option{
		{Name: "small", Default: int64(1000), Doc: "rows below which nothing is said, unless the table is empty"},
	},
	Check: func(p *rule.Pass) error {
		for _, t := range p.Roots {
			k := t.PrimaryKey
			if k == nil || t.Clustering() != nil || t.Has("memory optimized") {
				continue
			}
			if n := t.Stats.Rows; n != nil && *n > 0 && *n < p.Count(t, "small") {
				continue
			}
			found := rule.Finding{Table: t.Ref(), Object: t.Name, Message: fmt.Sprintf("the rows of \"%s\" are kept in no order: no index of it is clustered", t.Name)}
			if x := t.Index(k.Index).Clone(); x != nil {
				x.Clustered = true
				found.Fixes = []rule.Fix{{ID: "cluster", Title: "keep the rows in the order of the primary key", Ask: true, Changes: []change.Change{
					change.ReplaceKey{Table: t.Ref(), From: change.Uniqueness{Primary: true, Key: k}, To: change.Uniqueness{Primary: true, Key: k, Behind: x}}}}}
			}
			p.Report(found)
		}
		return nil
	},
}
