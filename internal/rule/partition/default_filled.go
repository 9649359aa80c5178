package partition

import (
	"fmt"
	"strings"

	"nexdal/internal/rule"
	"nexdal/internal/text"
	"nexdal/internal/upkeep"
)

var DefaultFilled = &rule.Rule{
	ID:       "partition/default-filled",
	Title:    "default partition that holds rows",
	Severity: rule.Warning,
	Needs:    []rule.Need{rule.Statistics},
	Doc: `The default partition holds rows: they lie outside the bounds of all others. It grows without anybody planning for it; searches by the partition columns read it in vain; and a partition for those rows can only be added once they are out of the way, by a scan of the default under a lock.

No fix is in the script of corrections, since the data has to be asked which rows there are: nexdal script partitions SOURCE TABLE --empty-rest counts them by period, or by value, and writes the script that gives them partitions of their own without losing one.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Owned {
			if t.PartitionOf == nil || !strings.EqualFold(strings.TrimSpace(t.Bounds), "default") || t.Stats.Rows == nil || *t.Stats.Rows == 0 {
				continue
			}
			advice := fmt.Sprintf("move them to partitions of their own: nexdal script partitions SOURCE %s --empty-rest", t.PartitionOf.Table)
			whole := p.Lookup.Table(*t.PartitionOf)
			if whole == nil {
				continue
			}
			known := upkeep.Of(in(p), whole)
			why := known.Refused
			if upkeep.Method(whole) == "list" {
				why = known.NoValues
			}
			if why != "" {
				advice = "move them to partitions of their own by hand: " + why
			}
			p.Report(rule.Finding{Table: *t.PartitionOf, Object: t.Name, Certainty: rule.ByStatistics,
				Message: fmt.Sprintf("its default partition %s holds %s that no other partition takes", t.Name, strings.TrimPrefix(text.Rows(t.Stats.Rows, t.Stats.Exact), "about ")),
				Advice:  advice})
		}
		return nil
	},
}
