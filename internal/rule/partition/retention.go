package partition

import (
	"fmt"
	"regexp"
	"strconv"
	"strings"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/phrase"
	"nexdal/internal/rule"
)

var Retention = &rule.Rule{
	ID:       "partition/retention",
	Title:    "partitions older than the house keeps",
	Severity: rule.Notice,
	Options: []rule.Option{
		{Name: "keep", Default: "", Doc: "how long rows are kept, as 90 days, 24 months or 7 years; empty: for ever"},
	},
	Doc: `The house keeps rows of this table for so long (option keep, set for the tables that it is meant for), and partitions that ended earlier are still there. Without a setting nothing is reported.

The fix, where partitions are tables, detaches them: they stay as tables of their own, with their rows, until somebody who misses nothing drops them. It is taken only once it was chosen.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Owned {
			keep := p.Word(t, "keep")
			if keep == "" || method(t) != "range" {
				continue
			}
			since, ok := before(p.Catalog.Surveyed, keep)
			if !ok {
				p.NotJudged(fmt.Sprintf("a time to keep rows for; %q is none", keep), "", 1)
				continue
			}
			list, _ := pieces(p, t)
			var old []string
			fix := rule.Fix{ID: "detach", Ask: true, Title: "detach them"}
			for _, x := range ranges(list) {
				if end := x.bounds.To[0].At; end != nil && end.Before(since) {
					old = append(old, x.name)
					if x.table != nil && x.table.Kind == catalog.Ordinary && len(x.table.Triggers) == 0 {
						fix.Changes = append(fix.Changes, change.DetachPartition{Of: t.Ref(), Part: x.table.Ref()})
					}
				}
			}
			if len(old) > 0 {
				found := rule.Finding{Table: t.Ref(), Object: t.Name, Message: fmt.Sprintf("%s ended more than %s ago: %s", phrase.Plural(int64(len(old)), "partition"), keep, phrase.List(old[:min(4, len(old))])),
					Advice: "detach them, then drop them"}
				if len(fix.Changes) == len(old) {
					found.Advice, found.Fixes = "", []rule.Fix{fix}
				}
				p.Report(found)
			}
		}
		return nil
	},
}

var duration = regexp.MustCompile(`^\s*(\d+)\s*(day|week|month|year)s?\s*$`)

// before is the moment so long before another.
func before(at time.Time, keep string) (time.Time, bool) {
	m := duration.FindStringSubmatch(strings.ToLower(keep))
	if m == nil {
		return time.Time{}, false
	}
	n, err := strconv.Atoi(m[1])
	if err != nil {
		return time.Time{}, false
	}
	switch m[2] {
	case "day":
		return at.AddDate(0, 0, -n), true
	case "week":
		return at.AddDate(0, 0, -7*n), true
	case "month":
		return at.AddDate(0, -n, 0), true
	}
	return at.AddDate(-n, 0, 0), true
}
