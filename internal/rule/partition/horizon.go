package partition

import (
	"fmt"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/rule"
	"nexdal/internal/text"
	"nexdal/internal/upkeep"
)

var Horizon = &rule.Rule{
	ID:          "partition/horizon",
	Title:       "partitions that end soon",
	Severity:    rule.Error,
	Consequence: rule.FailsByDate,
	Applies:     func(can catalog.Abilities) bool { return can.Bounds != nil },
	Fixes:       []string{"extend"},
	Options: []rule.Option{
		{Name: "periods", Default: int64(2), Doc: "periods, as long as the partitions mostly are, that have to be there ahead of the survey's date"},
		{Name: "given-up", Default: int64(12), Doc: "periods after the end of the newest partition from which the table counts as one that nothing is added to"},
	},
	Doc: `The table is partitioned by time, and its newest partition ends less than two periods ahead. On the day after, inserts fail; where there is a default partition, or one without an end, they gather there instead, which is a warning.

Whole numbers that stand for years, months or days (yyyy, yyyymm, yyyymmdd) are taken for time as well, in ranges and in lists.

A period is as long as the partitions mostly are. A table whose newest partition ended more than twelve periods ago seems to be one that nothing is added to any more: a notice.

The fix makes the next partitions, by the length and the names of those that are there, until there are enough ahead. It makes none where the default partition holds rows, or where lengths and names show no pattern.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Owned {
			list, _ := upkeep.Partitions(in(p), t)
			times := upkeep.Ranges(list)
			length, ok := upkeep.Period(times)
			if !ok || p.Catalog.Surveyed.IsZero() {
				continue
			}
			newest := times[len(times)-1]
			end := *newest.Bounds.To[0].At
			ahead := end.Sub(p.Catalog.Surveyed)
			if ahead >= time.Duration(p.Count(t, "periods"))*length {
				continue
			}
			found := horizon(p, t, newest, end, ahead, length, taker(list))
			if found.Severity != rule.Notice {
				extend(p, t, list, end, &found)
			}
			p.Report(found)
		}
		return nil
	},
}

// extend proposes the next partitions, up to so many periods ahead.
func extend(p *rule.Pass, t *catalog.Table, list []upkeep.Partition, end time.Time, found *rule.Finding) {
	m, why := upkeep.PatternOf(in(p), t, list, false)
	if why != "" {
		found.Advice += "; not scripted: " + why
		return
	}
	until := p.Catalog.Surveyed
	for range p.Count(t, "periods") {
		until = m.After(until)
	}
	changes, parts := m.From(end, until, most)
	if len(changes) == 0 {
		return
	}
	if parts >= most {
		found.Advice += "; not scripted: they are too many to be meant"
		return
	}
	title := changes[0].Title()
	if first, ok := changes[0].(change.AddPartition); ok {
		title = "add partition " + first.Name
		if n := len(changes); n > 1 {
			title = fmt.Sprintf("add %s, %s to %s", text.Plural(int64(n), "partition"), first.Name, changes[n-1].(change.AddPartition).Name)
		}
	}
	found.Advice, found.Fixes = "", []rule.Fix{{ID: "extend", Title: title, Changes: changes}}
}

// taker is what takes the rows that come behind all ranges, or "".
func taker(list []upkeep.Partition) string {
	for _, x := range list {
		switch {
		case x.Bounds.Default:
			return "the default partition"
		case x.Endless():
			return fmt.Sprintf("partition \"%s\", which has no end", x.Name)
		}
	}
	return ""
}

func horizon(p *rule.Pass, t *catalog.Table, newest upkeep.Partition, end time.Time, ahead, length time.Duration, taker string) rule.Finding {
	found := rule.Finding{Table: t.Ref(), Object: t.Name, Part: "horizon", Advice: "create the next partitions by the pattern of those that are there"}
	day := end.Format(time.DateOnly)
	switch {
	case ahead < -time.Duration(p.Count(t, "given-up"))*length:
		found.Severity, found.Consequence = rule.Notice, rule.Untidy
		found.Message = fmt.Sprintf("the newest partition \"%s\" ended on %s: nothing seems to be added any more", newest.Name, day)
	case taker != "":
		found.Severity, found.Consequence = rule.Warning, rule.Slow
		found.Message = fmt.Sprintf("the newest partition \"%s\" ends on %s: later rows go to %s", newest.Name, day, taker)
	case ahead < 0:
		found.Consequence = rule.FailsNow
		found.Message = fmt.Sprintf("the newest partition \"%s\" ended on %s: every insert of a later row fails", newest.Name, day)
	default:
		found.By = end
		found.Message = fmt.Sprintf("the newest partition \"%s\" ends on %s, in %s: from then on every insert fails", newest.Name, day, text.Plural(int64(ahead/(24*time.Hour)), "day"))
	}
	return found
}
