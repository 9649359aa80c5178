package partition

import (
	"cmp"
	"slices"
	"strconv"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/rule"
)

// A piece is a part of a partitioned table, be it a table of its own or not.
type piece struct {
	name   string
	bounds catalog.Bounds
	rows   *int64
	table  *catalog.Table // nil where it is none
}

// pieces are the parts of the table whose bounds are understood; all is false
// where some are not.
func pieces(p *rule.Pass, t *catalog.Table) (list []piece, all bool) {
	if p.Abilities.Bounds == nil {
		return nil, false
	}
	all = true
	add := func(name, bounds string, rows *int64, table *catalog.Table) {
		b, ok := p.Abilities.Bounds(t, bounds)
		if all = all && ok; ok {
			list = append(list, piece{name, b, rows, table})
		}
	}
	for _, part := range p.Lookup.Partitions(t.Ref()) {
		add(part.Name, part.Bounds, part.Stats.Rows, part)
	}
	for _, part := range t.Partitions {
		add(part.Name, part.Bounds, part.Rows, nil)
	}
	return list, all
}

// method is how the table is partitioned: "range", "list", "hash", or "".
func method(t *catalog.Table) string {
	if t.PartitionBy == nil {
		return ""
	}
	return t.PartitionBy.Method
}

// noEnd is the end of a part that is no range.
var noEnd time.Time

// open reports whether some piece takes what no other does.
func open(list []piece) bool {
	return slices.ContainsFunc(list, func(x piece) bool {
		return x.bounds.Default || len(x.bounds.To) > 0 && x.bounds.To[0].Greatest
	})
}

// ranges are the pieces that are ranges, in order, the one without an end and
// the default left out.
func ranges(list []piece) []piece {
	var all []piece
	for _, x := range list {
		if len(x.bounds.To) > 0 && !x.bounds.To[0].Greatest {
			all = append(all, x)
		}
	}
	slices.SortStableFunc(all, func(a, b piece) int { return compare(a.bounds.To, b.bounds.To) })
	return all
}

// compare orders bounds by their values, as far as they are understood.
func compare(a, b []catalog.Bound) int {
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

// period is how long one of the pieces mostly is: the median, the shorter of two; ok is false where
// they are not partitioned by time, or too few to tell.
func period(list []piece) (time.Duration, bool) {
	var lengths []time.Duration
	for _, x := range list {
		if len(x.bounds.From) > 0 && x.bounds.From[0].At != nil && x.bounds.To[0].At != nil {
			lengths = append(lengths, x.bounds.To[0].At.Sub(*x.bounds.From[0].At))
		}
	}
	if len(list) < 2 || len(lengths) == 0 {
		return 0, false // one alone shows no pattern
	}
	slices.Sort(lengths)
	d := lengths[(len(lengths)-1)/2]
	return d, d > 0
}
