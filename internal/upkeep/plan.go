package upkeep

import (
	"cmp"
	"fmt"
	"slices"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
)

// Wanted is what a partitioned table is to have.
type Wanted struct {
	Until time.Time // partitions up to here; zero: none are added ahead
	Rest  bool      // one for what no other takes
	Keep  string    // older ones are detached: "24 months"; empty: none
	Most  int       // partitions that may be made; more are refused
	// Found are the moments between which the default partition holds rows, at most
	// one period each; they get partitions of their own.
	Found []time.Time
	// Values are those that the default partition of a list holds; they get partitions of
	// their own.
	Values []string
}

// A Table is a partitioned table whose pattern is known, and what can be made of it.
type Table struct {
	Pattern
	// Refused says why no partition can be added in the way of the others, or "".
	Refused string
	// NoValues says why no partition for a value can be made; "": one can be.
	NoValues string
}

// Of reads the pattern of a partitioned table.
func Of(in In, t *catalog.Table) Table {
	list, all := Partitions(in, t)
	m, why := PatternOf(in, t, list, true)
	switch {
	case Method(t) != "range" && m.calendar == "":
		why = "it is partitioned by " + cmp.Or(Method(t), "nothing") + ", and only ranges of time show what comes next"
	case !all:
		why = "the bounds of some partitions are not understood, or of mixed types"
	}
	return Table{m, why, m.noValues(all)}
}

// Newest is where the newest range ends; zero: there is none.
func (t Table) Newest() time.Time {
	times := Ranges(t.list)
	if len(times) == 0 || times[len(times)-1].Bounds.To[0].At == nil {
		return time.Time{}
	}
	return *times[len(times)-1].Bounds.To[0].At
}

// Default is the table that holds what no other partition takes; nil: there is none, or
// it is no table.
func (t Table) Default() *catalog.Table {
	for _, x := range t.list {
		if x.Bounds.Default {
			return x.Table
		}
	}
	return nil
}

// Ahead is so many periods after a moment.
func (t Table) Ahead(at time.Time, periods int) time.Time {
	for range periods {
		at = t.stride.after(at)
	}
	return at
}

// Periods are the beginnings of the periods, in step with the ranges that are there,
// that no partition covers and that touch the time from one moment to another, that one
// included.
func (t Table) Periods(from, to time.Time) []time.Time {
	times := Ranges(t.list)
	at := *times[len(times)-1].Bounds.To[0].At
	for at.After(from) {
		back := at.AddDate(0, -t.stride.months, -t.stride.days)
		at = back
	}
	var all []time.Time
	for ; !at.After(to); at = t.stride.after(at) {
		if next := t.stride.after(at); next.After(from) && !t.covered(at, next) {
			all = append(all, at)
		}
	}
	return all
}

// covered reports whether a range takes some of the time.
func (t Table) covered(from, to time.Time) bool {
	return slices.ContainsFunc(Ranges(t.list), func(x Partition) bool {
		end, begin := x.Bounds.To[0].At, x.Bounds.From[0]
		return end == nil || from.Before(*end) && (begin.Least || begin.At != nil && begin.At.Before(to))
	})
}

// Condition is what the rows of the period that begins then have in common.
func (t Table) Condition(at time.Time) string {
	from, to := t.bounds(at)
	if t.calendar != "" {
		from.At, to.At = nil, nil // the column holds the numbers
	}
	return t.in.Abilities.InRange(t.t.PartitionBy.Columns[0], from, to)
}

// Plan is what makes the table as wanted, or why it cannot be made so.
func (t Table) Plan(w Wanted) (changes []change.Change, err error) {
	end := t.Newest()
	if !w.Until.IsZero() || len(w.Found) > 0 {
		if t.Refused != "" {
			return nil, fmt.Errorf("%s", t.Refused)
		}
		n := 0
		for at := end; at.Before(w.Until); at = t.stride.after(at) {
			if n++; n > w.Most {
				return nil, fmt.Errorf("up to %s it would take more than %d partitions; say so if they are meant (--limit)", w.Until.Format(time.DateOnly), w.Most)
			}
		}
	}
	if changes, err = t.periods(w); err != nil {
		return nil, err
	}
	for _, value := range w.Values {
		if t.NoValues != "" {
			return nil, fmt.Errorf("%s", t.NoValues)
		}
		if len(changes) == w.Most {
			return nil, fmt.Errorf("the values would take more than %d partitions; say so if they are meant (--limit)", w.Most)
		}
		changes = append(changes, t.forValue(value))
	}
	if w.Rest && !Open(t.list) {
		if bounds := t.in.Abilities.RestBounds(t.t); bounds != "" {
			changes = append(changes, t.Rest())
		}
	}
	if w.Keep != "" {
		since, ok := Before(t.in.Catalog.Surveyed, w.Keep)
		if !ok {
			return nil, fmt.Errorf("%q is no time to keep rows for: say 90 days, 24 months or 7 years", w.Keep)
		}
		for _, x := range Ranges(t.list) {
			if at := x.Bounds.To[0].At; at != nil && !at.After(since) {
				if x.Table == nil {
					name := t.in.Names.Free(t.t.Schema, "old", t.t.Name, x.Name)
					changes = append(changes, change.ExtractPartition{Of: t.t.Ref(), Part: x.Name, To: name})
					continue
				}
				changes = append(changes, change.DetachPartition{Of: t.t.Ref(), Part: x.Table.Ref()})
			}
		}
	}
	return changes, nil
}

// periods makes partitions for those in which rows were found, and for those ahead.
func (t Table) periods(w Wanted) (changes []change.Change, err error) {
	starts := slices.Clone(w.Found)
	if !t.in.Abilities.PartsAreTables && len(starts) > 0 { // a part begins where the one before it ends
		last := slices.MaxFunc(starts, time.Time.Compare)
		for at := t.Newest(); at.Before(last); at = t.stride.after(at) {
			if !slices.Contains(starts, at) {
				starts = append(starts, at)
			}
			if len(starts) > w.Most {
				return nil, fmt.Errorf("rows lie as far as %s, and parts up to there would be more than %d; say so if they are meant (--limit)", last.Format(time.DateOnly), w.Most)
			}
		}
		slices.SortFunc(starts, time.Time.Compare)
	}
	for at := t.Newest(); !w.Until.IsZero() && at.Before(w.Until); at = t.stride.after(at) {
		if !slices.Contains(starts, at) {
			starts = append(starts, at)
		}
	}
	if t.shared != nil {
		return t.cut(starts), nil
	}
	for i, at := range starts {
		ch := t.Add(t.naming.Of(at), t.period(at), t.stride.after(at)).(change.AddPartition)
		if d := t.Default(); d != nil {
			if ch.Where = t.Condition(at); i < len(w.Found) {
				ch.From = d.Name
			} // else no such row may be there
		}
		changes = append(changes, ch)
	}
	return changes, nil
}
