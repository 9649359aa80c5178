package partition

import (
	"fmt"
	"slices"

	"nexdal/internal/catalog"
	"nexdal/internal/rule"
	"nexdal/internal/text"
	"nexdal/internal/upkeep"
)

var Uneven = &rule.Rule{
	ID:          "partition/uneven",
	Title:       "partitions of very different size",
	Severity:    rule.Notice,
	Consequence: rule.Slow,
	Applies:     func(can catalog.Abilities) bool { return can.Bounds != nil },
	Needs:       []rule.Need{rule.Statistics},
	Options: []rule.Option{
		{Name: "times", Default: int64(5), Doc: "times the median that the largest partition may hold"},
		{Name: "partitions", Default: int64(4), Doc: "partitions that hold rows at least"},
		{Name: "rows", Default: int64(10_000), Doc: "rows of the largest from which it matters"},
	},
	Doc: `The largest partition holds more than five times the rows of the median. What partitions are for (to search in little, to drop old rows at once, to spread work) does not come about where most rows are in one.

Four partitions at least have to hold rows. Empty ones, made ahead, do not count.

There is no fix: another key, or finer ranges where the rows are.`,
	Check: func(p *rule.Pass) error {
		unknown := 0
		for _, t := range p.Owned {
			if t.PartitionBy == nil {
				continue
			}
			list, _ := upkeep.Partitions(in(p), t)
			if upkeep.Method(t) == "hash" && len(list) == 0 {
				for _, part := range t.Partitions {
					list = append(list, upkeep.Partition{Name: part.Name, Rows: part.Rows})
				}
			}
			var rows []int64
			largest := upkeep.Partition{}
			for _, x := range list {
				switch {
				case x.Rows == nil:
					unknown++
				case *x.Rows > 0 && !x.Bounds.Default:
					rows = append(rows, *x.Rows)
					if largest.Rows == nil || *x.Rows > *largest.Rows {
						largest = x
					}
				}
			}
			if int64(len(rows)) < p.Count(t, "partitions") {
				continue
			}
			slices.Sort(rows)
			median := rows[len(rows)/2]
			if *largest.Rows > p.Count(t, "times")*median && *largest.Rows >= p.Count(t, "rows") {
				p.Report(rule.Finding{Table: t.Ref(), Object: t.Name, Certainty: rule.ByStatistics,
					Message: fmt.Sprintf("partition \"%s\" holds about %s, and half of the partitions hold %s or fewer", largest.Name, text.Plural(*largest.Rows, "row"), text.Amount(median))})
			}
		}
		p.Uncounted(unknown)
		return nil
	},
}
