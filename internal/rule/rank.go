package rule

import (
	"cmp"
	"slices"
	"strings"
	"time"

	"nexdal/internal/catalog"
)

// rank brings findings into the order in which people should see to them: by what comes of them,
// then by the day on which it does, how grave it is, what is at stake, and how much work is left.
// What a house holds to be no more than a notice waits until the end.
func rank(findings []Finding, lookup *catalog.Lookup) {
	slices.SortStableFunc(findings, func(a, b Finding) int {
		return cmp.Or(
			late(a)-late(b),
			slices.Index(Consequences, a.Consequence)-slices.Index(Consequences, b.Consequence),
			day(a.By).Compare(day(b.By)),
			slices.Index(Severities, a.Severity)-slices.Index(Severities, b.Severity),
			cmp.Compare(stake(b, lookup), stake(a, lookup)),
			work(a)-work(b),
			a.Table.Compare(b.Table), strings.Compare(a.Rule, b.Rule), strings.Compare(a.Object, b.Object))
	})
}

func late(f Finding) int {
	if f.Severity == Notice {
		return 1
	}
	return 0
}

// day puts what has no date behind what has one.
func day(by time.Time) time.Time {
	if by.IsZero() {
		return time.Date(9999, 1, 1, 0, 0, 0, 0, time.UTC)
	}
	return by
}

// stake is what the fault touches: rows, and of what is slow all bytes that have to be read or
// kept.
func stake(f Finding, lookup *catalog.Lookup) int64 {
	t := lookup.Table(f.Table)
	if t == nil {
		return 0
	}
	of := func(n *int64) int64 {
		if n == nil {
			return 0
		}
		return *n
	}
	if f.Consequence == Slow {
		return of(t.Stats.Bytes) + of(t.Stats.IndexBytes)
	}
	return of(t.Stats.Rows)
}

// work is how much of it is left to people: nothing where a script holds the fix, a choice, all.
func work(f Finding) int {
	switch {
	case len(f.Fixes) == 0:
		return 2
	case f.Fixes[0].Ask:
		return 1
	}
	return 0
}
