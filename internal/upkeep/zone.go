package upkeep

import (
	"time"

	"nexdal/internal/catalog"
)

// ZoneOf is where the days of a column begin. Moments of a type that keeps them apart from
// time zones have their days where the database's clocks are, as far as the survey tells.
func ZoneOf(c *catalog.Catalog, col *catalog.Column) *time.Location {
	if col == nil || !col.Type.Zoned {
		return time.UTC
	}
	if s, ok := c.Setting("TimeZone"); ok {
		if zone, err := time.LoadLocation(s.Value); err == nil {
			return zone
		}
	}
	return time.UTC
}

// midnight reports whether a day begins then, where the clock is.
func midnight(at time.Time) bool {
	h, m, s := at.Clock()
	return h+m+s+at.Nanosecond() == 0
}

// day is the beginning of the same day of the calendar somewhere else.
func day(at time.Time, zone *time.Location) time.Time {
	if at.IsZero() {
		return at
	}
	return time.Date(at.Year(), at.Month(), at.Day(), 0, 0, 0, 0, zone)
}

// inZone tells the bounds of partitions by the clock of the zone, unless all of them are
// where a day begins in UTC.
func inZone(list []Partition, zone *time.Location) {
	each := func(do func(at *time.Time)) {
		for _, x := range list {
			for _, bounds := range [][]catalog.Bound{x.Bounds.From, x.Bounds.To} {
				for _, b := range bounds {
					if b.At != nil {
						do(b.At)
					}
				}
			}
		}
	}
	elsewhere := false
	each(func(at *time.Time) { elsewhere = elsewhere || !midnight(*at) })
	if elsewhere {
		each(func(at *time.Time) { *at = at.In(zone) })
	}
}
