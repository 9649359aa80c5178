package partition

import (
	"fmt"
	"strings"

	"nexdal/internal/phrase"
	"nexdal/internal/rule"
)

// DefaultFilled: see its Doc.
var DefaultFilled = &rule.Rule{
	ID:       "partition/default-filled",
	Title:    "default partition that holds rows",
	Severity: rule.Warning,
	Needs:    []rule.Need{rule.Statistics},
	Doc: `The default partition holds rows: they lie outside the bounds of all others. It grows without anybody planning for it; searches by the partition columns read it in vain; and a partition for those rows can only be added once they are out of the way, by a scan of the default under a lock.

There is no fix yet: the rows are moved to partitions of their own.`,
	Check: func(p *rule.Pass) {
		for _, t := range p.Own {
			if t.PartitionOf == nil || !strings.EqualFold(strings.TrimSpace(t.Bounds), "default") || t.Stats.Rows == nil || *t.Stats.Rows == 0 {
				continue
			}
			p.Report(rule.Finding{Table: *t.PartitionOf, Object: t.Name, Certainty: rule.ByStatistics,
				Message: fmt.Sprintf("its default partition %s holds %s that no other partition takes", t.Name, strings.TrimPrefix(phrase.RowsOf(t), "about ")),
				Advice:  "move them to partitions of their own"})
		}
	},
}
