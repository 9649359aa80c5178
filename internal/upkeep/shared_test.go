package upkeep

import (
	"fmt"
	"slices"
	"strings"
	"testing"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
)

// shared is a table that a function cuts up at the values, together with another; the last part has
// no end.
func shared(values ...string) (In, *catalog.Table) {
	parts := func(values []string) (all []*catalog.Partition) {
		low := "-"
		for i, v := range append(slices.Clone(values), "+") {
			all = append(all, &catalog.Partition{Name: fmt.Sprint(i + 1), Bounds: low + " to " + v})
			low = v
		}
		return all
	}
	in, t := partitioned("range", date, false)
	t.Partitions = parts(values)
	in.Abilities.Boundaries = func(*catalog.Catalog, *catalog.Table) *catalog.Boundaries {
		return &catalog.Boundaries{Object: "f", Tables: []catalog.Ref{t.Ref(), {Schema: "tide", Table: "level"}}, Values: values, At: func(values []string) (string, []*catalog.Partition) {
			return strings.Join(values, " "), parts(values)
		}}
	}
	return in, t
}

// TestSharedBoundaries: one change gives a function all the boundaries that are wanted, in their
// order, without gaps.
func TestSharedBoundaries(t *testing.T) {
	at := func(s string) time.Time { at, _ := time.Parse(time.DateOnly, s); return at }
	months := []string{"2026-01-01", "2026-02-01", "2026-03-01"}
	for name, c := range map[string]struct {
		values []string
		wanted Wanted
		want   string // the boundaries then; "": nothing is to be done
		why    string
	}{
		"ahead":                  {months, Wanted{Until: at("2026-06-01"), Most: 9}, "2026-01-01 2026-02-01 2026-03-01 2026-04-01 2026-05-01 2026-06-01", ""},
		"up to within a month":   {months, Wanted{Until: at("2026-03-15"), Most: 9}, "2026-01-01 2026-02-01 2026-03-01 2026-04-01", ""},
		"what is there":          {months, Wanted{Until: at("2026-03-01"), Most: 9}, "", ""},
		"rows beyond":            {months, Wanted{Found: []time.Time{at("2026-05-01"), at("2026-07-01")}, Most: 9}, "2026-01-01 2026-02-01 2026-03-01 2026-04-01 2026-05-01 2026-06-01 2026-07-01 2026-08-01", ""},
		"rows beyond, and ahead": {months, Wanted{Found: []time.Time{at("2026-04-01")}, Until: at("2026-07-01"), Most: 9}, "2026-01-01 2026-02-01 2026-03-01 2026-04-01 2026-05-01 2026-06-01 2026-07-01", ""},
		"a row in another age":   {months, Wanted{Found: []time.Time{at("3026-05-01")}, Most: 9}, "", "rows lie as far as 3026-05-01"},
		"a rest, which is there": {months, Wanted{Rest: true, Most: 9}, "", ""},
		"too many":               {months, Wanted{Until: at("2027-06-01"), Most: 9}, "", "more than 9 partitions"},
		"of no one length":       {[]string{"2026-01-01", "2026-01-17", "2026-03-01"}, Wanted{Until: at("2026-06-01"), Most: 9}, "", "of no one length"},
		"years":                  {[]string{"2024-01-01", "2025-01-01", "2026-01-01"}, Wanted{Until: at("2027-05-01"), Most: 9}, "2024-01-01 2025-01-01 2026-01-01 2027-01-01 2028-01-01", ""},
	} {
		in, table := shared(c.values...)
		changes, err := Of(in, table).Plan(c.wanted)
		if (err != nil) != (c.why != "") || err != nil && !strings.Contains(err.Error(), c.why) {
			t.Errorf("%s: %v", name, err)
			continue
		}
		if c.want == "" {
			if len(changes) > 0 {
				t.Errorf("%s: %s", name, said(changes))
			}
			continue
		}
		if len(changes) != 1 {
			t.Errorf("%s: %s", name, said(changes))
			continue
		}
		ch := changes[0].(change.SetBoundaries)
		if got := strings.Join(ch.To.Values, " "); got != c.want || ch.To.Definition != c.want || len(ch.To.Parts) != len(ch.To.Values)+1 || len(ch.Of) != 2 || ch.From.Definition != strings.Join(c.values, " ") {
			t.Errorf("%s: %+v", name, ch)
		}
	}
	in, table := shared(months...)
	in.Abilities.Boundaries = func(*catalog.Catalog, *catalog.Table) *catalog.Boundaries {
		return &catalog.Boundaries{Refused: "its parts lie in several filegroups"}
	}
	if known := Of(in, table); known.Refused != "its parts lie in several filegroups" {
		t.Errorf("refused: %q", known.Refused)
	}
	in.Abilities.Boundaries = func(*catalog.Catalog, *catalog.Table) *catalog.Boundaries { return nil }
	if known := Of(in, table); known.Refused == "" {
		t.Error("a function that was not read bars nothing")
	}
}
