package partition

import (
	"fmt"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/rule"
)

var NullableKey = &rule.Rule{
	ID:          "partition/nullable-key",
	Title:       "partition column that may be null",
	Severity:    rule.Warning,
	Consequence: rule.Unprotected,
	Fixes:       []string{"not-null"},
	Applies:     func(can catalog.Abilities) bool { return can.Bounds != nil },
	Doc: `A column that the table is partitioned by may be null. Such rows are refused where no partition takes nulls, or go to the default partition or the lowest one, where no search by the column expects them.

A table partitioned by list in which some partition names the null is not reported.

The fix forbids nulls, after a question to the data.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Roots {
			if t.PartitionBy == nil || t.PartitionBy.Method == "hash" || t.PartitionBy.Method == "key" || takesNull(p, t) {
				continue
			}
			for _, name := range t.CutBy(p.Abilities.Reads()) {
				if c := t.Column(name); c != nil && c.Nullable {
					p.Report(rule.Finding{Table: t.Ref(), Object: t.Name, Columns: []string{name}, Part: name,
						Message: fmt.Sprintf("is partitioned by \"%s\", which may be null: rows with a null there are refused, or end up where no search looks for them", name),
						Fixes:   []rule.Fix{{ID: "not-null", Title: "forbid null in " + name, Changes: []change.Change{change.SetNullable{Table: t.Ref(), Column: name}}}}})
				}
			}
		}
		return nil
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
