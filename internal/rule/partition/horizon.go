package partition

import (
	"fmt"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/phrase"
	"nexdal/internal/rule"
)

// Horizon: see its Doc.
var Horizon = &rule.Rule{
	ID:       "partition/horizon",
	Title:    "partitions that end soon",
	Severity: rule.Error,
	Options: []rule.Option{
		{Name: "periods", Default: int64(2), Doc: "periods, as long as the partitions mostly are, that have to be there ahead of the survey's date"},
		{Name: "given-up", Default: int64(12), Doc: "periods after the end of the newest partition from which the table counts as one that nothing is added to"},
	},
	Doc: `The table is cut up by time, and its newest partition ends less than two periods ahead. On the day after, inserts fail; where there is a default partition, or one without an end, they gather there instead, which is a warning.

A period is as long as the partitions mostly are. A table whose newest partition ended more than twelve periods ago seems to be one that nothing is added to any more: a notice.

There is no fix here: the next partitions follow the pattern of those that are there.`,
	Check: func(p *rule.Pass) {
		for _, t := range p.Own {
			if method(t) != "range" {
				continue
			}
			list, _ := pieces(p, t)
			times := ranges(list)
			length, ok := period(times)
			if !ok || p.Catalog.Surveyed.IsZero() {
				continue
			}
			newest := times[len(times)-1]
			end := *newest.bounds.To[0].At
			ahead := end.Sub(p.Catalog.Surveyed)
			if ahead >= time.Duration(p.Count(t, "periods"))*length {
				continue
			}
			p.Report(horizon(p, t, newest, end, ahead, length, open(list)))
		}
	},
}

func horizon(p *rule.Pass, t *catalog.Table, newest piece, end time.Time, ahead, length time.Duration, open bool) rule.Finding {
	found := rule.Finding{Table: t.Ref(), Object: t.Name, Part: "horizon", Advice: "create the next partitions by the pattern of those that are there"}
	day := end.Format(time.DateOnly)
	switch {
	case ahead < -time.Duration(p.Count(t, "given-up"))*length:
		found.Severity = rule.Notice
		found.Message = fmt.Sprintf("the newest partition %s ended on %s: nothing seems to be added any more", newest.name, day)
	case open:
		found.Severity = rule.Warning
		found.Message = fmt.Sprintf("the newest partition %s ends on %s: rows from then on gather where no search expects them", newest.name, day)
	case ahead < 0:
		found.Message = fmt.Sprintf("the newest partition %s ended on %s: every insert of a later row fails", newest.name, day)
	default:
		found.Message = fmt.Sprintf("the newest partition %s ends on %s, in %s: from then on every insert fails", newest.name, day, phrase.Plural(int64(ahead/(24*time.Hour)), "day"))
	}
	return found
}
