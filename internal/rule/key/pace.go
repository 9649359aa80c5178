package key

import (
	"strconv"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/rule"
)

// A pace is how fast the numbers of a key go, by the data: so many from one moment to another, as
// a column of the same table tells.
type pace struct {
	column   string // that tells when
	from, to time.Time
	numbers  int64
}

const day = 24 * time.Hour

// paceOf reckons the pace at which the numbers of a column went. It is not known without
// evidence, where no column without nulls holds moments up to the survey, or where they span
// less than a week.
func paceOf(p *rule.Pass, t *catalog.Table, c *catalog.Column) (pace, bool) {
	if p.Data == nil || p.Catalog.Surveyed.IsZero() {
		return pace{}, false
	}
	numbers := p.Data.Column(t, c.Name)
	if numbers == nil || numbers.Least == nil || numbers.Greatest == nil {
		return pace{}, false
	}
	first, err := strconv.ParseInt(*numbers.Least, 10, 64)
	last, err2 := strconv.ParseInt(*numbers.Greatest, 10, 64)
	if err != nil || err2 != nil || last <= first {
		return pace{}, false
	}
	var found pace
	for _, when := range t.Columns {
		known := p.Data.Column(t, when.Name)
		if when.Type.Family != catalog.Timestamp && when.Type.Family != catalog.Date || known == nil || known.Nulls > 0 || known.Least == nil || known.Greatest == nil {
			continue
		}
		from, ok := dayOf(*known.Least)
		to, ok2 := dayOf(*known.Greatest)
		late := p.Catalog.Surveyed.Sub(to)
		if !ok || !ok2 || to.Sub(from) < 7*day || late < -2*day || late > 366*day {
			continue
		}
		if found.column == "" || from.Before(found.from) {
			found = pace{when.Name, from, to, last - first}
		}
	}
	return found, found.column != ""
}

// dayOf reads the day that a moment begins with, as all engines write it.
func dayOf(moment string) (time.Time, bool) {
	if len(moment) < len(time.DateOnly) {
		return time.Time{}, false
	}
	at, err := time.Parse(time.DateOnly, moment[:len(time.DateOnly)])
	return at, err == nil
}

// end is the day on which so many numbers are used up; false: not within a hundred years.
func (x pace) end(left int64, today time.Time) (time.Time, bool) {
	days := float64(left) / (float64(x.numbers) / (float64(x.to.Sub(x.from)) / float64(day)))
	if days > 100*365 {
		return time.Time{}, false
	}
	return today.Truncate(day).AddDate(0, 0, int(days)), true
}
