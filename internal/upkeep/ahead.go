package upkeep

import (
	"slices"
	"strings"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
)

// A stride is how far one partition reaches: so many months, or so many days.
type stride struct{ months, days int }

func (s stride) after(at time.Time) time.Time { return at.AddDate(0, s.months, s.days) }

// strideOf is what the newest of the ranges, at least two of them, have in common.
func strideOf(times []Partition) (stride, bool) {
	var known []Partition
	for _, x := range times {
		if len(x.Bounds.From) == 1 && x.Bounds.From[0].At != nil && x.Bounds.To[0].At != nil {
			known = append(known, x)
		}
	}
	if len(known) == 0 {
		return stride{}, false
	}
	known = known[max(0, len(known)-3):]
	for _, s := range []stride{{months: 12}, {months: 6}, {months: 3}, {months: 1}, {days: 7}, {days: 1}} {
		fits := !slices.ContainsFunc(known, func(x Partition) bool {
			from := x.Bounds.From[0].At
			return !s.after(*from).Equal(*x.Bounds.To[0].At) || s.months > 0 && from.Day() != 1
		})
		if fits {
			return s, true
		}
	}
	return stride{}, false
}

// layouts are the ways in which names tell when a partition begins.
var layouts = []string{"2006_01_02", "2006-01-02", "20060102", "2006_01", "2006-01", "200601", "y2006m01", "2006m01", "2006"}

// Naming is how the siblings are named: what stands before and behind the date.
type Naming struct{ before, layout, behind string }

// Of is the name of the partition that begins then.
func (n Naming) Of(at time.Time) string { return n.before + at.Format(n.layout) + n.behind }

// NamingOf finds the way in which the ranges of the list are named after their
// beginning: all of two, or two thirds of more.
func NamingOf(list []Partition) (Naming, bool) {
	for _, layout := range layouts {
		counts, dated := map[Naming]int{}, 0
		for _, x := range list {
			if len(x.Bounds.From) == 0 || x.Bounds.From[0].At == nil {
				continue // the first may have no beginning
			}
			dated++
			before, behind, has := strings.Cut(x.Name, x.Bounds.From[0].At.Format(layout))
			if has && !strings.ContainsAny(before[max(0, len(before)-1):], "0123456789") {
				counts[Naming{before, layout, behind}]++
			}
		}
		for n, of := range counts {
			if of*3 >= dated*2 && (of > 1 || dated == 1) {
				return n, true // no two can be of two thirds
			}
		}
	}
	return Naming{}, false
}

// A Pattern is what is needed to make more partitions of a table like those that it has.
type Pattern struct {
	in     In
	t      *catalog.Table
	list   []Partition
	stride stride
	naming Naming
	like   catalog.Bound // a bound as the engine writes it
	// calendar is how whole numbers stand for moments, where they do.
	calendar string
	// shared are the boundaries of a function that cuts the table up; nil: its parts are its own.
	shared *catalog.Boundaries
}

// Plain is the pattern of a table whose partitions show none in time.
func Plain(in In, t *catalog.Table, list []Partition) Pattern {
	return Pattern{in: in, t: t, list: list}
}

// PatternOf finds the pattern of the table's ranges; why says what keeps it from being
// one. Filled: the default partition may hold rows, which somebody sees to.
func PatternOf(in In, t *catalog.Table, list []Partition, filled bool) (m Pattern, why string) {
	times := Ranges(list)
	m = Pattern{in: in, t: t, list: list}
	if in.Abilities.Boundaries != nil {
		if m.shared = in.Abilities.Boundaries(in.Catalog, t); m.shared == nil {
			return m, "the function that cuts it up was not read"
		}
		if m.shared.Refused != "" {
			return m, m.shared.Refused
		}
	}
	var ok bool
	if m.stride, ok = strideOf(times); !ok {
		return m, "they are of no one length"
	}
	if m.naming, ok = NamingOf(times); !ok && m.shared == nil { // whose parts are numbered
		return m, "their names do not tell when they begin"
	}
	m.like, m.calendar = times[len(times)-1].Bounds.To[0], calendarOf(t, list)
	if in.Abilities.RangeBounds == nil || m.like.At == nil || !midnight(*m.like.At) {
		return m, "they do not begin with a day"
	}
	return m, m.Whole(filled)
}

// Whole says why no part of the table can be made like the others, or "".
func (m Pattern) Whole(filled bool) string {
	if m.in.Abilities.PartsAreTables && (len(m.t.Triggers) > 0 || slices.ContainsFunc(m.list, func(x Partition) bool { return x.Table != nil && x.Table.PartitionBy != nil })) {
		return "triggers, or parts of parts, have to be made with it"
	}
	if !filled && slices.ContainsFunc(m.list, func(x Partition) bool { return m.holdsRows(x) }) {
		return "its default partition holds rows, or may hold some"
	}
	return ""
}

// holdsRows reports whether the part is one that takes what no other does, and rows
// may be in it already.
func (m Pattern) holdsRows(x Partition) bool {
	return m.in.Abilities.PartsAreTables && x.Bounds.Default && (x.Rows == nil || *x.Rows != 0)
}

// From makes partitions from one moment up to another, at most so many, and says how many.
func (m Pattern) From(at, end time.Time, most int) (changes []change.Change, parts int) {
	var starts []time.Time
	for ; at.Before(end) && len(starts) < most; at = m.stride.after(at) {
		starts = append(starts, at)
	}
	if m.shared != nil {
		return m.cut(starts), len(starts)
	}
	for _, at := range starts {
		changes = append(changes, m.Add(m.naming.Of(at), m.period(at), m.stride.after(at)))
	}
	return changes, len(starts)
}

// cut gives the function that cuts up the table the ends of the periods that begin then.
func (m Pattern) cut(starts []time.Time) []change.Change {
	from := boundariesOf(m.shared, m.shared.Values)
	values := slices.Clone(m.shared.Values)
	for _, at := range starts {
		low, high := m.bounds(at)
		values = append(values, low.Text, high.Text)
	}
	slices.Sort(values) // days and moments of one column, written from the year on
	values = slices.Compact(values)
	if len(values) == len(from.Values) {
		return nil
	}
	return []change.Change{change.SetBoundaries{Object: m.shared.Object, Of: m.shared.Tables, From: from, To: boundariesOf(m.shared, values)}}
}

func boundariesOf(b *catalog.Boundaries, values []string) change.Boundaries {
	definition, parts := b.At(values)
	return change.Boundaries{Values: values, Definition: definition, Parts: parts}
}

// period are the bounds of the part for the time that begins then.
func (m Pattern) period(at time.Time) string {
	from, to := m.bounds(at)
	if Method(m.t) == "list" {
		bounds, _ := m.in.Abilities.ListBounds(m.t, from.Text)
		return bounds
	}
	return m.in.Abilities.RangeBounds(m.t, from, to)
}

// bounds are the ends of the period that begins then.
func (m Pattern) bounds(at time.Time) (from, to catalog.Bound) {
	end := m.stride.after(at)
	if m.calendar != "" {
		return catalog.Bound{Text: at.Format(m.calendar), At: &at}, catalog.Bound{Text: end.Format(m.calendar), At: &end}
	}
	return m.in.Abilities.BoundAt(m.t, at, m.like), m.in.Abilities.BoundAt(m.t, end, m.like)
}

// Add makes one partition; end is where its range ends, if it is one.
func (m Pattern) Add(name, bounds string, end time.Time) change.Change {
	ch := change.AddPartition{Of: m.t.Ref(), Name: m.free(name), Bounds: bounds, Table: m.in.Abilities.PartsAreTables}
	for _, x := range m.list {
		if !x.Bounds.Default {
			ch.Like = x.Name
		}
		if !ch.Table && (!end.IsZero() && x.Endless() || x.Bounds.Default) {
			ch.Before = x.Name // it took these rows so far
		}
	}
	return ch.Named(m.in.Names, m.t)
}

// free is the name itself, unless something bears it.
func (m Pattern) free(name string) string {
	if m.in.Abilities.PartsAreTables && m.in.Names.Taken(m.t.Schema, name) {
		return m.in.Names.Free(m.t.Schema, "part", name)
	}
	m.in.Names.Take(m.t.Schema, name)
	return name
}

// Rest is the partition that takes what no other does.
func (m Pattern) Rest() change.Change {
	name := catalog.InCaseOf("rest", m.t.Name)
	if m.in.Abilities.PartsAreTables {
		name = m.t.Name + "_rest"
	}
	return m.Add(name, m.in.Abilities.RestBounds(m.t), NoEnd)
}

// After is the end of the period that begins then.
func (m Pattern) After(at time.Time) time.Time { return m.stride.after(at) }
