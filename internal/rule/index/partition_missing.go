package index

import (
	"fmt"
	"slices"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var PartitionMissing = &rule.Rule{
	ID:          "index/partition-missing",
	Title:       "index that some partitions lack",
	Severity:    rule.Warning,
	Consequence: rule.Unprotected,
	Applies:     func(can catalog.Abilities) bool { return can.PartsAreTables },
	Fixes:       []string{"complete"},
	Doc: `An index was declared on the partitioned table alone, and not all partitions have their share of it, so that it is not valid on the partitioned table. Searches in the partitions that lack it read them through, and new partitions get one while old ones do not.

The fix builds the missing shares without blocking writers and attaches them, with which the index becomes valid. A share cannot be taken off again, so that the reversal leaves it. Where partitions are cut up again, or have an index of their own that could be attached, it is left to you.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Owned {
			if t.Kind != catalog.Partitioned {
				continue
			}
			for _, x := range t.Indexes {
				if x.Invalid {
					p.Report(partitionMissing(p, t, x))
				}
			}
		}
		return nil
	},
}

func partitionMissing(p *rule.Pass, t *catalog.Table, x *catalog.Index) rule.Finding {
	var lacking []string
	complete := change.CompleteIndex{Table: t.Ref(), Index: x}
	hard := x.Unique || x.Inherited
	for _, part := range p.Lookup.Partitions(t.Ref()) {
		if slices.ContainsFunc(part.Indexes, func(y *catalog.Index) bool { return y.PartOf == x.Name }) {
			continue
		}
		lacking = append(lacking, part.Name)
		hard = hard || part.Kind != catalog.Ordinary || slices.ContainsFunc(part.Indexes, func(y *catalog.Index) bool { return alike(x, y) })
		parts := append([]string{part.Name}, x.Columns()...)
		complete.Partitions = append(complete.Partitions, change.PartitionIndex{Table: part.Ref(), Name: p.Names.Free(part.Schema, "idx", parts...), Parent: x.Name})
	}
	shownNames := lacking
	if len(lacking) > 4 {
		shownNames = append(slices.Clone(lacking[:3]), fmt.Sprintf("%d more", len(lacking)-3))
	}
	found := rule.Finding{Table: t.Ref(), Object: x.Name, Columns: x.NamedColumns(), Part: "partitions",
		Message: fmt.Sprintf("index \"%s\" is not valid on the partitioned table: %s, of %s, lack it", x.Name, text.Names(shownNames), text.Plural(int64(len(p.Lookup.Partitions(t.Ref()))), "partition"))}
	switch {
	case len(lacking) == 0:
		found.Message = fmt.Sprintf("index \"%s\" is not valid on the partitioned table, though every partition has its share", x.Name)
		found.Advice = "one of the shares is not valid: rebuild it"
	case hard:
		found.Advice = "build what is missing, or attach the index that a partition has of its own"
	default:
		found.Fixes = []rule.Fix{{ID: "complete", Title: fmt.Sprintf("build it on %s, and attach", text.Plural(int64(len(lacking)), "partition")), Changes: []change.Change{complete}}}
	}
	return found
}
