package upkeep

import (
	"slices"
	"time"

	"nexdal/internal/catalog"
)

// calendars are the ways in which whole numbers stand for years, months and days.
var calendars = []string{"2006", "200601", "20060102"}

// calendarOf is the way in which the bounds of all partitions are written, where a table is
// partitioned by whole numbers that stand for time; "": they stand for none. Round numbers
// that happen to look like years are told by their distance: no period is longer than a year.
func calendarOf(t *catalog.Table, list []Partition) string {
	if t.PartitionBy == nil || len(t.PartitionBy.Columns) != 1 {
		return ""
	}
	if c := t.Column(t.PartitionBy.Columns[0]); c == nil || c.Type.Family != catalog.Integer {
		return ""
	}
	for _, layout := range calendars {
		var times []time.Time
		reads := true
		each(list, func(b *catalog.Bound) {
			at := inCalendar(layout, b.Text)
			if reads = reads && at != nil; reads {
				times = append(times, *at)
			}
		})
		if !reads || len(times) < 2 {
			continue
		}
		slices.SortFunc(times, time.Time.Compare)
		times = slices.Compact(times)
		apart := false
		for i := range times[1:] {
			apart = apart || times[i].AddDate(1, 0, 0).Before(times[i+1])
		}
		if !apart && len(times) > 1 {
			return layout
		}
	}
	return ""
}

// inCalendar is the moment that a number stands for; nil: none of our days.
func inCalendar(layout, number string) *time.Time {
	at, err := time.Parse(layout, number)
	if err != nil || at.Year() < 1900 || at.Year() > 2200 {
		return nil
	}
	return &at
}

// dated tells the bounds of partitions by whole numbers what moments they stand for. A list of
// such numbers covers the time from its least to the end of its greatest.
func dated(t *catalog.Table, list []Partition) string {
	layout := calendarOf(t, list)
	if layout == "" {
		return ""
	}
	each(list, func(b *catalog.Bound) { b.At = inCalendar(layout, b.Text) })
	for i := range list {
		values := list[i].Bounds.Values
		if len(values) == 0 {
			continue
		}
		byTime := func(a, b catalog.Bound) int { return a.At.Compare(*b.At) }
		end := next(layout, *slices.MaxFunc(values, byTime).At)
		list[i].Bounds.From = []catalog.Bound{slices.MinFunc(values, byTime)}
		list[i].Bounds.To = []catalog.Bound{{Text: end.Format(layout), At: &end}}
	}
	return layout
}

// next is the beginning of the year, month or day after the one that begins then.
func next(layout string, at time.Time) time.Time {
	switch layout {
	case "2006":
		return at.AddDate(1, 0, 0)
	case "200601":
		return at.AddDate(0, 1, 0)
	}
	return at.AddDate(0, 0, 1)
}

// each calls do with all bounds that are values.
func each(list []Partition, do func(*catalog.Bound)) {
	for _, x := range list {
		for _, bounds := range [][]catalog.Bound{x.Bounds.From, x.Bounds.To, x.Bounds.Values} {
			for i := range bounds {
				if !bounds[i].Least && !bounds[i].Greatest {
					do(&bounds[i])
				}
			}
		}
	}
}
