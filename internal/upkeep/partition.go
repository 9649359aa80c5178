// Package upkeep plans what keeps tables in order: partitions that are to come and those
// that are to go, a plain table that is partitioned, and the maintenance that tables need
// by their figures.
package upkeep

import (
	"cmp"
	"slices"
	"strconv"
	"time"

	"nexdal/internal/catalog"
)

// A Partition is one of a partitioned table, be it a table of its own or not.
type Partition struct {
	Name   string
	Bounds catalog.Bounds
	Rows   *int64         // nil: not known
	Table  *catalog.Table // nil where it is none
}

// In is where a partitioned table stands.
type In struct {
	Catalog   *catalog.Catalog
	Lookup    *catalog.Lookup
	Abilities catalog.Abilities
	Names     *catalog.Names
}

// Partitions are those of the table whose bounds are understood; all is false where some
// are not.
func Partitions(in In, t *catalog.Table) (list []Partition, all bool) {
	if in.Abilities.Bounds == nil {
		return nil, false
	}
	all = true
	add := func(name, bounds string, rows *int64, table *catalog.Table) {
		b, ok := in.Abilities.Bounds(t, bounds)
		if all = all && ok; ok {
			list = append(list, Partition{name, b, rows, table})
		}
	}
	for _, part := range in.Lookup.Partitions(t.Ref()) {
		add(part.Name, part.Bounds, rowsBelow(in.Lookup, part), part)
	}
	for _, part := range t.Partitions {
		add(part.Name, part.Bounds, part.Rows, nil)
	}
	if dated(t, list) == "" && t.PartitionBy != nil && len(t.PartitionBy.Columns) > 0 {
		inZone(list, ZoneOf(in.Catalog, t.Column(t.PartitionBy.Columns[0])))
	}
	return list, all
}

// rowsBelow are the rows of a part, and of its own parts where it has such; nil: not known of all.
func rowsBelow(l *catalog.Lookup, t *catalog.Table) *int64 {
	if t.PartitionBy == nil {
		return t.Stats.Rows
	}
	all := int64(0)
	for _, part := range l.Partitions(t.Ref()) {
		n := rowsBelow(l, part)
		if n == nil {
			return nil
		}
		all += *n
	}
	return &all
}

// Method is how the table is partitioned: "range", "list", "hash", or "".
func Method(t *catalog.Table) string {
	if t.PartitionBy == nil {
		return ""
	}
	return t.PartitionBy.Method
}

// NoEnd is the end of a part that is no range.
var NoEnd time.Time

// Endless reports whether the partition is a range that has no end.
func (x Partition) Endless() bool { return len(x.Bounds.To) > 0 && x.Bounds.To[0].Greatest }

// Open reports whether some partition takes what no other does.
func Open(list []Partition) bool {
	return slices.ContainsFunc(list, func(x Partition) bool { return x.Bounds.Default || x.Endless() })
}

// Ranges are the partitions that are ranges, in order, the one without an end and
// the default left out.
func Ranges(list []Partition) []Partition {
	var all []Partition
	for _, x := range list {
		if len(x.Bounds.To) > 0 && !x.Endless() {
			all = append(all, x)
		}
	}
	slices.SortStableFunc(all, func(a, b Partition) int { return CompareBounds(a.Bounds.To, b.Bounds.To) })
	return all
}

// CompareBounds orders bounds by their values, as far as they are understood.
func CompareBounds(a, b []catalog.Bound) int {
	for i := range min(len(a), len(b)) {
		x, y := a[i], b[i]
		switch {
		case x.Least && y.Least, x.Greatest && y.Greatest:
			continue
		case x.Least, y.Greatest:
			return -1
		case y.Least, x.Greatest:
			return 1
		case x.At != nil && y.At != nil:
			if c := x.At.Compare(*y.At); c != 0 {
				return c
			}
			continue
		}
		m, errX := strconv.ParseFloat(x.Text, 64)
		n, errY := strconv.ParseFloat(y.Text, 64)
		if errX == nil && errY == nil {
			if c := cmp.Compare(m, n); c != 0 {
				return c
			}
			continue
		}
		if c := cmp.Compare(x.Text, y.Text); c != 0 {
			return c
		}
	}
	return 0
}

// Period is how long one of the partitions mostly is: the median, the shorter of two; ok is false where
// they are not partitioned by time, or too few to tell.
func Period(list []Partition) (time.Duration, bool) {
	var lengths []time.Duration
	for _, x := range list {
		if len(x.Bounds.From) > 0 && x.Bounds.From[0].At != nil && x.Bounds.To[0].At != nil {
			lengths = append(lengths, x.Bounds.To[0].At.Sub(*x.Bounds.From[0].At))
		}
	}
	if len(list) < 2 || len(lengths) == 0 {
		return 0, false // one alone shows no pattern
	}
	slices.Sort(lengths)
	d := lengths[(len(lengths)-1)/2]
	return d, d > 0
}
