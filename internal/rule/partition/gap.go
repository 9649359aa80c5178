package partition

import (
	"fmt"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/rule"
	"nexdal/internal/upkeep"
)

var Gap = &rule.Rule{
	ID:          "partition/gap",
	Title:       "gap between partitions",
	Severity:    rule.Error,
	Consequence: rule.FailsNow,
	Fixes:       []string{"fill"},
	Applies:     func(can catalog.Abilities) bool { return can.PartsAreTables },
	Doc: `Two neighbouring partitions do not meet: rows between the end of the one and the beginning of the next are refused, or go to the default partition. Mostly a partition was forgotten, or detached and not put back.

Of a table that is partitioned by hash, some remainder has no partition: every row whose hash leaves it is refused, which looks like an error that comes and goes.

The fix makes what is missing, by the length and the names of those that are there, or leaves it to you where they show no pattern.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Owned {
			if m := upkeep.Method(t); m != "range" && (m != "hash" || p.Abilities.HashBounds == nil) {
				continue
			}
			list, all := upkeep.Partitions(in(p), t)
			if !all {
				p.NotJudged("the bounds of partitions that are not understood", "", 1)
				continue
			}
			if upkeep.Method(t) == "hash" {
				hashGap(p, t, list)
				continue
			}
			known := upkeep.Ranges(list)
			for i := 1; i < len(known); i++ {
				a, b := known[i-1], known[i]
				if upkeep.CompareBounds(a.Bounds.To, b.Bounds.From) >= 0 {
					continue
				}
				found := rule.Finding{Table: t.Ref(), Object: t.Name, Part: a.Name + ", " + b.Name,
					Message: fmt.Sprintf("nothing takes rows from %s up to %s, between partitions \"%s\" and \"%s\": they are refused", a.Bounds.To[0].Text, b.Bounds.From[0].Text, a.Name, b.Name),
					Advice:  "create the partition between the two"}
				if taker(list) != "" {
					found.Severity, found.Consequence = rule.Warning, rule.Slow // no insert fails
					found.Message = fmt.Sprintf("rows from %s up to %s, between partitions \"%s\" and \"%s\", go to %s", a.Bounds.To[0].Text, b.Bounds.From[0].Text, a.Name, b.Name, taker(list))
				}
				if m, why := upkeep.PatternOf(in(p), t, list, false); why == "" && a.Bounds.To[0].At != nil && b.Bounds.From[0].At != nil {
					changes, parts := m.From(*a.Bounds.To[0].At, *b.Bounds.From[0].At, most)
					if end, ok := changes[len(changes)-1].(change.AddPartition); ok && parts < most && fills(p, t, end, b) {
						found.Advice, found.Fixes = "", []rule.Fix{{ID: "fill", Title: "add what is missing between the two", Changes: changes}}
					}
				}
				p.Report(found)
			}
		}
		return nil
	},
}

// fills reports whether the last of the new partitions ends where the next begins.
func fills(p *rule.Pass, t *catalog.Table, last change.AddPartition, next upkeep.Partition) bool {
	b, ok := p.Abilities.Bounds(t, last.Bounds)
	return ok && len(b.To) > 0 && b.To[0].At != nil && b.To[0].At.Equal(*next.Bounds.From[0].At)
}
