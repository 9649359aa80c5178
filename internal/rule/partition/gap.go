package partition

import (
	"fmt"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/rule"
)

var Gap = &rule.Rule{
	ID:       "partition/gap",
	Title:    "hole between partitions",
	Severity: rule.Error,
	Doc: `Two neighbouring partitions do not meet: rows between the end of the one and the beginning of the next are refused, or gather in the default partition. Mostly a partition was forgotten, or detached and not put back.

Of a table that is partitioned by hash, some remainder has no partition: every row whose hash leaves it is refused, which looks like an error that comes and goes.

The fix makes what is missing, by the length and the names of those that are there, or leaves it to a person where they show no pattern.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Owned {
			if m := method(t); m != "range" && (m != "hash" || p.Abilities.HashBounds == nil) {
				continue
			}
			list, all := pieces(p, t)
			if !all {
				p.NotJudged("the bounds of partitions that are not understood", "", 1)
				continue
			}
			if method(t) == "hash" {
				hashGap(p, t, list)
				continue
			}
			known := ranges(list)
			for i := 1; i < len(known); i++ {
				a, b := known[i-1], known[i]
				if compare(a.bounds.To, b.bounds.From) >= 0 {
					continue
				}
				found := rule.Finding{Table: t.Ref(), Object: t.Name, Part: a.name + ", " + b.name,
					Message: fmt.Sprintf("nothing takes rows from %s up to %s, between partitions %s and %s: they are refused", a.bounds.To[0].Text, b.bounds.From[0].Text, a.name, b.name),
					Advice:  "create the partition between the two"}
				if open(list) {
					found.Severity = rule.Warning
					found.Message = fmt.Sprintf("rows from %s up to %s, between partitions %s and %s, gather in the default partition", a.bounds.To[0].Text, b.bounds.From[0].Text, a.name, b.name)
				}
				if m, why := makingOf(p, t, list, false); why == "" && a.bounds.To[0].At != nil && b.bounds.From[0].At != nil {
					changes := m.from(*a.bounds.To[0].At, *b.bounds.From[0].At)
					if end := changes[len(changes)-1].(change.AddPartition); len(changes) < most && fills(p, t, end, b) {
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
func fills(p *rule.Pass, t *catalog.Table, last change.AddPartition, next piece) bool {
	b, ok := p.Abilities.Bounds(t, last.Bounds)
	return ok && len(b.To) > 0 && b.To[0].At != nil && b.To[0].At.Equal(*next.bounds.From[0].At)
}
