package storage

import (
	"fmt"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var FilterNotRequired = &rule.Rule{
	ID:          "storage/filter-not-required",
	Title:       "large partitioned table that any query may read whole",
	Severity:    rule.Notice,
	Consequence: rule.Slow,
	Fixes:       []string{"require"},
	Needs:       []rule.Need{rule.Statistics},
	Options: []rule.Option{
		{Name: "rows", Default: int64(100_000_000), Doc: "rows from which it matters"},
		{Name: "bytes", Default: int64(50_000_000_000), Doc: "bytes from which it does"},
	},
	Applies: func(can catalog.Abilities) bool { return can.FiltersRequired },
	Doc: `The table is partitioned and very large, and a query that names no partition reads all of it. Where every byte that is read is billed, one careless SELECT costs as much as a month of careful ones.

Leave it alone where most queries do read all of it.

The fix has the engine refuse queries without a filter on the partitions. Queries of programs and views that have none fail from then on: it has to be chosen.`,
	Check: func(p *rule.Pass) error {
		unknown := 0
		for _, t := range p.Roots {
			if t.PartitionBy == nil || t.PartitionBy.FilterRequired {
				continue
			}
			if t.Stats.Rows == nil && t.Stats.Bytes == nil {
				unknown++
				continue
			}
			if large := t.Stats.Rows != nil && *t.Stats.Rows >= p.Count(t, "rows") || t.Stats.Bytes != nil && *t.Stats.Bytes >= p.Count(t, "bytes"); !large {
				continue
			}
			says := text.Rows(t.Stats.Rows, t.Stats.Exact)
			if t.Stats.Bytes != nil {
				says += ", " + text.Size(*t.Stats.Bytes) + ","
			}
			p.Report(rule.Finding{Table: t.Ref(), Object: t.Name, Columns: t.PartitionBy.Columns, Part: "filter", Certainty: rule.ByStatistics, Message: fmt.Sprintf("holds %s partitioned by %s, and a query without a filter reads it all", says, t.PartitionBy.Definition),
				Fixes: []rule.Fix{{ID: "require", Title: "require a filter on the partitions", Ask: true, Changes: []change.Change{change.RequireFilter{Table: t.Ref(), Required: true}}}}})
		}
		p.Uncounted(unknown)
		return nil
	},
}
