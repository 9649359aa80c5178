package upkeep

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"nexdal/internal/catalog"
)

// TestMaintenance: what tables need by their figures, at each threshold, the greatest gain for its time
// first; and what fits into a time.
func TestMaintenance(t *testing.T) {
	surveyed := time.Date(2026, 3, 10, 0, 0, 0, 0, time.UTC)
	n := func(n int64) *int64 { return &n }
	f := func(f float64) *float64 { return &f }
	ago := func(days int) *time.Time { at := surveyed.AddDate(0, 0, -days); return &at }
	const rows, bytes = 100_000, 100 << 20
	stats := func(change func(*catalog.TableStats)) *catalog.Table {
		t := &catalog.Table{Schema: "tide", Name: "reading", Kind: catalog.Ordinary, Columns: []*catalog.Column{{Name: "id", Type: catalog.Type{Family: catalog.Integer}}, {Name: "note", Type: catalog.Type{Family: catalog.Text}}}, Stats: catalog.TableStats{Rows: n(rows), Bytes: n(bytes), Stale: f(0)}}
		change(&t.Stats)
		return t
	}
	index := func(bytes int64, change func(*catalog.Index)) func(*catalog.Table) {
		return func(t *catalog.Table) {
			x := &catalog.Index{Name: "x", Parts: []catalog.IndexPart{{Column: "id"}}, Bytes: n(bytes)}
			change(x)
			t.Indexes = append(t.Indexes, x)
		}
	}
	none := func(*catalog.TableStats) {}
	for name, c := range map[string]struct {
		of     func(*catalog.TableStats)
		more   func(*catalog.Table)
		counts bool
		want   string
	}{
		"nothing":                  {none, nil, true, ""},
		"few dead rows":            {func(s *catalog.TableStats) { s.DeadRows = n(rows / 9) }, nil, true, ""},
		"dead rows":                {func(s *catalog.TableStats) { s.DeadRows = n(rows) }, nil, true, "reclaim 4s 52428800: 100,000 rows are gone and take room, 50 % of the table"},
		"no dead rows":             {func(s *catalog.TableStats) { s.DeadRows = n(0) }, nil, true, ""},
		"hardly out of order":      {func(s *catalog.TableStats) { s.Unsorted = f(0.05) }, nil, true, ""},
		"out of order":             {func(s *catalog.TableStats) { s.Unsorted = f(0.5) }, nil, true, "sort 2.2s 52428800: 50 % of the rows are out of order"},
		"hardly off":               {func(s *catalog.TableStats) { s.Stale = f(0.05) }, nil, true, ""},
		"off":                      {func(s *catalog.TableStats) { s.Stale = f(0.5) }, nil, true, "analyse 1s 26214400: the engine's figures are off by 50 %"},
		"never looked at":          {func(s *catalog.TableStats) { s.Stale = nil }, nil, true, "analyse 1s 52428800: the engine has never looked at its values"},
		"never counted":            {func(s *catalog.TableStats) { s.Stale = nil }, nil, false, ""},
		"looked at a month ago":    {func(s *catalog.TableStats) { s.Stale, s.Analysed = nil, ago(30) }, nil, true, ""},
		"looked at long ago":       {func(s *catalog.TableStats) { s.Stale, s.Analysed = nil, ago(31) }, nil, true, "analyse 1s 26214400: the engine looked at its values 31 days ago"},
		"too small":                {func(s *catalog.TableStats) { s.DeadRows, s.Rows = n(rows), n(999) }, nil, true, ""},
		"rows unknown":             {func(s *catalog.TableStats) { s.DeadRows, s.Rows = n(rows), nil }, nil, true, ""},
		"bytes unknown":            {func(s *catalog.TableStats) { s.DeadRows, s.Bytes = n(rows), nil }, nil, true, "reclaim 1s 4096: 100,000 rows are gone and take room, 50 % of the table"},
		"another's":                {func(s *catalog.TableStats) { s.DeadRows = n(rows) }, func(t *catalog.Table) { t.Extension = "x" }, true, ""},
		"air in an index":          {none, index(50<<20, func(*catalog.Index) {}), true, "rebuild 4s 50206578: its indexes take 52 MB, of which about 50 MB are air"},
		"hardly air":               {none, index(4<<20, func(*catalog.Index) {}), true, ""},
		"air in a small one":       {none, index(1<<20, func(*catalog.Index) {}), true, ""},
		"a partial one":            {none, index(50<<20, func(x *catalog.Index) { x.Predicate = "id > 5" }), true, ""},
		"one that is not valid":    {none, index(50<<20, func(x *catalog.Index) { x.Invalid = true }), true, ""},
		"one of texts":             {none, index(50<<20, func(x *catalog.Index) { x.Parts[0].Column = "note" }), true, ""},
		"one of expressions":       {none, index(50<<20, func(x *catalog.Index) { x.Parts[0].Column = "" }), true, ""},
		"one whose size is hidden": {none, index(50<<20, func(x *catalog.Index) { x.Bytes = nil }), true, ""},
		"two things":               {func(s *catalog.TableStats) { s.DeadRows, s.Stale = n(rows), f(0.5) }, nil, true, "analyse 1s 26214400: the engine's figures are off by 50 %; reclaim 4s 52428800: 100,000 rows are gone and take room, 50 % of the table"},
	} {
		table := stats(c.of)
		if c.more != nil {
			c.more(table)
		}
		catalogOf := &catalog.Catalog{Surveyed: surveyed, Schemas: []*catalog.Schema{{Name: "tide", Tables: []*catalog.Table{table}}}}
		var got []string
		for _, task := range Maintenance(catalogOf, catalog.Abilities{CountsReads: c.counts, IndexEntry: 12}, 1000) {
			what := strings.Fields(string(task.Tend.What))[0]
			got = append(got, fmt.Sprintf("%s %s %.0f: %s", what, task.Takes, task.Gain, task.Reason))
		}
		if s := strings.Join(got, "; "); s != c.want {
			t.Errorf("%s:\n%s, want\n%s", name, s, c.want)
		}
	}
	tasks := []Task{{Reason: "a", Takes: 5 * time.Second}, {Reason: "b", Takes: 10 * time.Second}, {Reason: "c", Takes: 3 * time.Second}, {Reason: "d", Takes: 2 * time.Second}}
	for limit, want := range map[time.Duration]string{0: "abcd", time.Second: "", 5 * time.Second: "a", 8 * time.Second: "ac", 10 * time.Second: "acd", 20 * time.Second: "abcd", 15 * time.Second: "ab"} {
		got := ""
		for _, task := range Within(tasks, limit) {
			got += task.Reason
		}
		if got != want {
			t.Errorf("within %s: %q, want %q", limit, got, want)
		}
	}
}

// TestZones: days begin where the database's clocks are, for moments that are kept apart from zones.
func TestZones(t *testing.T) {
	c := &catalog.Catalog{Settings: []catalog.Setting{{Name: "TimeZone", Value: "Europe/Copenhagen"}}}
	zoned, plain := &catalog.Column{Type: catalog.Type{Zoned: true}}, &catalog.Column{}
	for want, got := range map[string]*time.Location{"Europe/Copenhagen": ZoneOf(c, zoned), "UTC": ZoneOf(c, plain)} {
		if got.String() != want {
			t.Errorf("%s, want %s", got, want)
		}
	}
	for _, none := range []*time.Location{ZoneOf(c, nil), ZoneOf(&catalog.Catalog{}, zoned), ZoneOf(&catalog.Catalog{Settings: []catalog.Setting{{Name: "TimeZone", Value: "Nowhere/At all"}}}, zoned)} {
		if none != time.UTC {
			t.Errorf("%s is no UTC", none)
		}
	}
	copenhagen := ZoneOf(c, zoned)
	at := func(s string) *time.Time { at, _ := time.Parse(time.RFC3339, s); return &at }
	list := func(s ...string) (all []Partition) {
		for i := range s[1:] {
			all = append(all, Partition{Bounds: catalog.Bounds{From: []catalog.Bound{{At: at(s[i])}}, To: []catalog.Bound{{At: at(s[i+1])}}}})
		}
		return all
	}
	there := list("2025-12-31T23:00:00Z", "2026-01-31T23:00:00Z", "2026-03-31T22:00:00Z")
	inZone(there, copenhagen)
	for i, want := range []string{"2026-02-01", "2026-04-01"} {
		if got := there[i].Bounds.To[0].At; got.Format(time.DateOnly) != want || !midnight(*got) {
			t.Errorf("part %d ends %s", i, got)
		}
	}
	utc := list("2026-01-01T00:00:00Z", "2026-02-01T00:00:00Z")
	inZone(utc, copenhagen)
	if got := utc[0].Bounds.To[0].At; !midnight(*got) || got.Location() != time.UTC {
		t.Errorf("it ends %s", got)
	}
	if got := day(time.Date(2026, 3, 29, 5, 6, 7, 8, time.UTC), copenhagen); got.Format(time.RFC3339) != "2026-03-29T00:00:00+01:00" {
		t.Errorf("the day begins %s", got)
	}
	if !day(time.Time{}, copenhagen).IsZero() {
		t.Error("no moment has a day")
	}
}

// TestStart: the beginning of the period that a moment lies in.
func TestStart(t *testing.T) {
	at := time.Date(2026, 8, 13, 15, 30, 0, 0, time.UTC) // a Thursday
	for s, want := range map[stride]string{{days: 1}: "2026-08-13", {days: 7}: "2026-08-10", {months: 1}: "2026-08-01", {months: 3}: "2026-07-01", {months: 6}: "2026-07-01", {months: 12}: "2026-01-01"} {
		if got := s.start(at); got.Format(time.DateOnly) != want || !midnight(got) {
			t.Errorf("%+v: %s, want %s", s, got, want)
		}
	}
	for day, want := range map[int]string{9: "2026-08-03", 10: "2026-08-10", 16: "2026-08-10", 17: "2026-08-17"} {
		if got := (stride{days: 7}).start(time.Date(2026, 8, day, 0, 0, 0, 0, time.UTC)); got.Format(time.DateOnly) != want {
			t.Errorf("the week of %d August begins %s", day, got)
		}
	}
}
