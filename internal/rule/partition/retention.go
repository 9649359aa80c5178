package partition

import (
	"fmt"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/rule"
	"nexdal/internal/text"
	"nexdal/internal/upkeep"
)

var Retention = &rule.Rule{
	ID:          "partition/retention",
	Title:       "partitions older than the house keeps",
	Severity:    rule.Notice,
	Consequence: rule.Slow,
	Applies:     func(can catalog.Abilities) bool { return can.Bounds != nil },
	Fixes:       []string{"detach"},
	Options: []rule.Option{
		{Name: "keep", Default: "", Doc: "how long rows are kept, as 90 days, 24 months or 7 years; empty: for ever"},
	},
	Doc: `The house keeps rows of this table for so long (option keep, set for the tables that it is meant for), and partitions that ended earlier are still there. Without a setting nothing is reported.

The fix, where partitions are tables, detaches them: they stay as tables of their own, with their rows, until somebody who misses nothing drops them. It is taken only once it was chosen.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Owned {
			keep := p.Word(t, "keep")
			if keep == "" || upkeep.Method(t) != "range" {
				continue
			}
			since, ok := upkeep.Before(p.Catalog.Surveyed, keep)
			if !ok {
				p.NotJudged(fmt.Sprintf("a time to keep rows for; %q is none", keep), "", 1)
				continue
			}
			list, _ := upkeep.Partitions(in(p), t)
			var old []string
			fix := rule.Fix{ID: "detach", Ask: true, Title: "detach them"}
			for _, x := range upkeep.Ranges(list) {
				if end := x.Bounds.To[0].At; end != nil && end.Before(since) {
					old = append(old, x.Name)
					if x.Table != nil && x.Table.Kind == catalog.Ordinary && len(x.Table.Triggers) == 0 {
						fix.Changes = append(fix.Changes, change.DetachPartition{Of: t.Ref(), Part: x.Table.Ref()})
					}
				}
			}
			if len(old) > 0 {
				found := rule.Finding{Table: t.Ref(), Object: t.Name, Message: fmt.Sprintf("%s ended more than %s ago: %s", text.Plural(int64(len(old)), "partition"), keep, text.Names(old[:min(4, len(old))])),
					Advice: "move each into a table of its own, then drop it"}
				if p.Abilities.PartsAreTables {
					found.Advice = "detach them, then drop them"
				}
				if len(fix.Changes) == len(old) {
					found.Advice, found.Fixes = "", []rule.Fix{fix}
				}
				p.Report(found)
			}
		}
		return nil
	},
}
