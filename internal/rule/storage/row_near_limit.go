package storage

import (
	"fmt"

	"nexdal/internal/catalog"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var RowNearLimit = &rule.Rule{
	ID:          "storage/row-near-limit",
	Title:       "row nearly as large as one may be",
	Severity:    rule.Warning,
	Consequence: rule.FailsByDate,
	Needs:       []rule.Need{rule.Statistics},
	Options:     []rule.Option{{Name: "share", Default: 0.5, Doc: "share of the largest size that a row may have"}},
	Applies:     func(can catalog.Abilities) bool { return can.LargestRow > 0 },
	Doc: `A row is more than half as large as the engine lets one be. What is added to it may be refused one day; each change writes all of it, and each query that reads it reads all of it.

It goes by the largest of the rows that were looked at; where hardly any room is left it is an error.

There is no fix: lists that grow belong into a table of their own, large objects into files.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Roots {
			n := t.Stats.LargestRow
			if n == nil {
				continue
			}
			share := float64(*n) / float64(p.Abilities.LargestRow)
			if share <= p.Share(t, "share") {
				continue
			}
			found := rule.Finding{Table: t.Ref(), Object: t.Name, Part: "largest row", Certainty: rule.ByStatistics, Message: fmt.Sprintf("the largest of the rows that were looked at takes %s of the %s that one may", text.Size(*n), text.Size(p.Abilities.LargestRow)), Advice: "keep what grows in a table of its own"}
			if share > 0.9 {
				found.Severity = rule.Error
			}
			p.Report(found)
		}
		return nil
	},
}
