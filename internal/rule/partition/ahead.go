package partition

import (
	"slices"
	"strings"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/rule"
)

// most is how many partitions a fix makes at once.
const most = 100

// A stride is how far one partition reaches: so many months, or so many days.
type stride struct{ months, days int }

func (s stride) after(at time.Time) time.Time { return at.AddDate(0, s.months, s.days) }

// strideOf is what the newest of the ranges, at least two of them, have in common.
func strideOf(times []piece) (stride, bool) {
	var known []piece
	for _, x := range times {
		if len(x.bounds.From) == 1 && x.bounds.From[0].At != nil && x.bounds.To[0].At != nil {
			known = append(known, x)
		}
	}
	if len(known) == 0 {
		return stride{}, false
	}
	known = known[max(0, len(known)-3):]
	for _, s := range []stride{{months: 12}, {months: 6}, {months: 3}, {months: 1}, {days: 7}, {days: 1}} {
		fits := !slices.ContainsFunc(known, func(x piece) bool {
			from := x.bounds.From[0].At
			return !s.after(*from).Equal(*x.bounds.To[0].At) || s.months > 0 && from.Day() != 1
		})
		if fits {
			return s, true
		}
	}
	return stride{}, false
}

// layouts are the ways in which names tell when a partition begins.
var layouts = []string{"2006_01_02", "2006-01-02", "20060102", "2006_01", "2006-01", "200601", "y2006m01", "2006m01", "2006"}

// naming is how the siblings are named: what stands before and behind the date.
type naming struct{ before, layout, behind string }

func (n naming) of(at time.Time) string { return n.before + at.Format(n.layout) + n.behind }

// namingOf finds the way in which the ranges of the list are named after their
// beginning: all of two, or two thirds of more.
func namingOf(list []piece) (naming, bool) {
	for _, layout := range layouts {
		counts, dated := map[naming]int{}, 0
		for _, x := range list {
			if len(x.bounds.From) == 0 || x.bounds.From[0].At == nil {
				continue // the first may have no beginning
			}
			dated++
			before, behind, has := strings.Cut(x.name, x.bounds.From[0].At.Format(layout))
			if has && !strings.ContainsAny(before[max(0, len(before)-1):], "0123456789") {
				counts[naming{before, layout, behind}]++
			}
		}
		for n, of := range counts {
			if of*3 >= dated*2 && (of > 1 || dated == 1) {
				return n, true // no two can be of two thirds
			}
		}
	}
	return naming{}, false
}

// making is what is needed to make more partitions of a table like those that it has.
type making struct {
	p      *rule.Pass
	t      *catalog.Table
	list   []piece
	stride stride
	naming naming
	like   catalog.Bound // a bound as the engine writes it
}

// makingOf finds the pattern of the table's ranges; why says what keeps it from being
// one. Filled: the default partition may hold rows, which somebody sees to.
func makingOf(p *rule.Pass, t *catalog.Table, list []piece, filled bool) (m making, why string) {
	times := ranges(list)
	m = making{p: p, t: t, list: list}
	var ok bool
	if m.stride, ok = strideOf(times); !ok {
		return m, "they are of no one length"
	}
	if m.naming, ok = namingOf(times); !ok {
		return m, "their names do not tell when they begin"
	}
	m.like = times[len(times)-1].bounds.To[0]
	if p.Abilities.RangeBounds == nil || m.like.At == nil || !m.like.At.Equal(m.like.At.Truncate(24*time.Hour)) {
		return m, "they do not begin with a day"
	}
	return m, m.whole(filled)
}

// whole says why no part of the table can be made like the others, or "".
func (m making) whole(filled bool) string {
	if m.p.Abilities.PartsAreTables && (len(m.t.Triggers) > 0 || slices.ContainsFunc(m.list, func(x piece) bool { return x.table != nil && x.table.PartitionBy != nil })) {
		return "triggers, or parts of parts, have to be made with it"
	}
	if !filled && slices.ContainsFunc(m.list, func(x piece) bool { return m.holdsRows(x) }) {
		return "its default partition holds rows, or may hold some"
	}
	return ""
}

// holdsRows reports whether the part is one that takes what no other does, and rows
// may be in it already.
func (m making) holdsRows(x piece) bool {
	return m.p.Abilities.PartsAreTables && x.bounds.Default && (x.rows == nil || *x.rows != 0)
}

// from makes partitions from one moment up to another, which has to be met.
func (m making) from(at, end time.Time) []change.Change {
	var changes []change.Change
	for at.Before(end) && len(changes) < most {
		next := m.stride.after(at)
		from, to := m.p.Abilities.BoundAt(m.t, at, m.like), m.p.Abilities.BoundAt(m.t, next, m.like)
		changes = append(changes, m.add(m.naming.of(at), m.p.Abilities.RangeBounds(m.t, from, to), next))
		at = next
	}
	return changes
}

// add makes one part; end is where its range ends, if it is one.
func (m making) add(name, bounds string, end time.Time) change.Change {
	ch := change.AddPartition{Of: m.t.Ref(), Name: m.free(name), Bounds: bounds, Table: m.p.Abilities.PartsAreTables}
	for _, x := range m.list {
		if !x.bounds.Default {
			ch.Like = x.name
		}
		if !ch.Table && (!end.IsZero() && len(x.bounds.To) > 0 && x.bounds.To[0].Greatest || x.bounds.Default) {
			ch.Before = x.name // it took these rows so far
		}
	}
	return ch.Named(m.p.Names, m.t)
}

// free is the name itself, unless something bears it.
func (m making) free(name string) string {
	if m.p.Abilities.PartsAreTables && m.p.Names.Taken(m.t.Schema, name) {
		return m.p.Names.Free(m.t.Schema, "part", name)
	}
	m.p.Names.Take(m.t.Schema, name)
	return name
}

// rest is the part that takes what no other does.
func (m making) rest() rule.Fix {
	name := "rest"
	if m.p.Abilities.PartsAreTables {
		name = m.t.Name + "_rest"
	}
	return rule.Fix{ID: "rest", Title: "add a partition for what no other takes", Changes: []change.Change{m.add(name, m.p.Abilities.RestBounds(m.t), noEnd)}}
}
