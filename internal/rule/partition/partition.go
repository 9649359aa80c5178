// Package partition holds the rules on tables that are cut up.
package partition

import (
	"fmt"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/phrase"
	"nexdal/internal/rule"
)

// EmptyParent: see its Doc.
var EmptyParent = &rule.Rule{
	ID:       "partition/empty-parent",
	Title:    "partitioned table without partitions",
	Severity: rule.Error,
	Doc: `The table is partitioned and has no partition: every insert fails.

There is no fix: which partitions it should have is for a person to say.`,
	Check: func(p *rule.Pass) {
		for _, t := range p.Catalog.Tables() {
			if t.IsOwn() && t.Kind == catalog.Partitioned && len(p.Lookup.Partitions(t.Ref())) == 0 && len(t.Partitions) == 0 {
				p.Report(rule.Finding{Table: t.Ref(), Object: t.Name, Message: "has no partition: every insert fails", Advice: "create its partitions"})
			}
		}
	},
}

// NullableKey: see its Doc.
var NullableKey = &rule.Rule{
	ID:       "partition/nullable-key",
	Title:    "partition column that may be null",
	Severity: rule.Warning,
	Doc: `A column that the table is cut up by may be null. Such rows are refused where no partition takes nulls, or gather in the default partition or the lowest one, where no search by the column expects them.

A table cut up by list in which some partition names the null is not reported.

There is no fix: forbid nulls, once there are none.`,
	Check: func(p *rule.Pass) {
		for _, t := range p.Catalog.Tables() {
			if !t.IsOwn() || t.PartitionBy == nil || t.PartitionOf != nil || t.PartitionBy.Method == "hash" || takesNull(p, t) {
				continue
			}
			for _, name := range t.PartitionBy.Columns {
				if c := t.Column(name); c != nil && c.Nullable {
					p.Report(rule.Finding{Table: t.Ref(), Object: t.Name, Columns: []string{name}, Part: name,
						Message: fmt.Sprintf("is cut up by %s, which may be null: such rows are refused, or gather where no search expects them", name), Advice: "forbid nulls in " + name})
				}
			}
		}
	},
}

func takesNull(p *rule.Pass, t *catalog.Table) bool {
	if t.PartitionBy.Method != "list" {
		return false
	}
	for _, part := range p.Lookup.Partitions(t.Ref()) {
		if strings.Contains(strings.ToLower(part.Bounds), "null") {
			return true
		}
	}
	for _, part := range t.Partitions {
		if strings.Contains(strings.ToLower(part.Bounds), "null") {
			return true
		}
	}
	return false
}

// DefaultFilled: see its Doc.
var DefaultFilled = &rule.Rule{
	ID:       "partition/default-filled",
	Title:    "default partition that holds rows",
	Severity: rule.Warning,
	Needs:    []rule.Need{rule.Statistics},
	Doc: `The default partition holds rows: they lie outside the bounds of all others. It grows without anybody planning for it; searches by the partition columns read it in vain; and a partition for those rows can only be added once they are out of the way, by a scan of the default under a lock.

There is no fix yet: the rows are moved to partitions of their own.`,
	Check: func(p *rule.Pass) {
		for _, t := range p.Catalog.Tables() {
			if !t.IsOwn() || t.PartitionOf == nil || !strings.EqualFold(strings.TrimSpace(t.Bounds), "default") || t.Stats.Rows == nil || *t.Stats.Rows == 0 {
				continue
			}
			p.Report(rule.Finding{Table: *t.PartitionOf, Object: t.Name, Certainty: rule.ByStatistics,
				Message: fmt.Sprintf("its default partition %s holds %s that no other partition takes", t.Name, strings.TrimPrefix(phrase.RowsOf(t), "about ")),
				Advice:  "move them to partitions of their own"})
		}
	},
}
