package partition

import (
	"fmt"

	"nexdal/internal/catalog"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var NoneOnLarge = &rule.Rule{
	ID:          "partition/none-on-large",
	Title:       "very large table that is not partitioned",
	Severity:    rule.Notice,
	Consequence: rule.Slow,
	Needs:       []rule.Need{rule.Statistics},
	Options: []rule.Option{
		{Name: "rows", Default: int64(100_000_000), Doc: "rows from which a table is very large"},
		{Name: "bytes", Default: int64(50_000_000_000), Doc: "bytes from which it is"},
	},
	Applies: func(can catalog.Abilities) bool { return can.Bounds != nil || can.PartitionEvery != nil },
	Doc: `The table holds more than 100,000,000 rows, or more than 50 GB, has a column that says when, and is not partitioned. Old rows can only be deleted one by one, every upkeep goes over all of it, and its indexes do not fit into memory.

Leave it alone where rows are looked for by other columns alone and never grow old.

There is no fix here, since how it is partitioned is up to you: nexdal script partitions TABLE --by COLUMN --every month writes the whole of it, with the key that has to hold the column, those that refer to it, and the way back.`,
	Check: func(p *rule.Pass) error {
		unknown := 0
		for _, t := range p.Roots {
			if t.PartitionBy != nil || t.Kind != catalog.Ordinary {
				continue
			}
			if t.Stats.Rows == nil && t.Stats.Bytes == nil {
				unknown++
				continue
			}
			large := t.Stats.Rows != nil && *t.Stats.Rows > p.Count(t, "rows") || t.Stats.Bytes != nil && *t.Stats.Bytes > p.Count(t, "bytes")
			if when := timed(t); large && when != "" {
				says := text.Rows(t.Stats.Rows, t.Stats.Exact)
				if t.Stats.Bytes != nil {
					says += ", " + text.Size(*t.Stats.Bytes) + ","
				}
				command := rule.Command{"script", "partitions", rule.TheSource, t.Ref().String(), "--by", when, "--every", "month", "-o", "partitions.sql"}
				p.Report(rule.Finding{Table: t.Ref(), Object: t.Name, Columns: []string{when}, Certainty: rule.ByStatistics,
					Message: fmt.Sprintf("holds %s and is not partitioned; \"%s\" could be the partition key", says, when), Advice: "partition it by that column",
					Command: command})
			}
		}
		p.Uncounted(unknown)
		return nil
	},
}

// timed is the column that the rows could be partitioned by: a required moment or day,
// or else the first.
func timed(t *catalog.Table) string {
	first := ""
	for _, c := range t.Columns {
		if c.Type.Family != catalog.Timestamp && c.Type.Family != catalog.Date {
			continue
		}
		if !c.Nullable {
			return c.Name
		}
		if first == "" {
			first = c.Name
		}
	}
	return first
}
