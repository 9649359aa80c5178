package upkeep

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
)

// Bounds in the tests are written "2026-01-01 to 2026-02-01", "- to 5", "5 to +", "in a b", "rest".
func boundsOf(_ *catalog.Table, text string) (catalog.Bounds, bool) {
	value := func(s string) catalog.Bound {
		b := catalog.Bound{Text: s, Least: s == "-", Greatest: s == "+"}
		for _, layout := range []string{time.DateOnly, "2006-01-02T15:04"} {
			if at, err := time.Parse(layout, s); err == nil {
				b.At = &at
			}
		}
		return b
	}
	if text == "rest" {
		return catalog.Bounds{Default: true}, true
	}
	if from, to, ok := strings.Cut(text, " to "); ok {
		return catalog.Bounds{From: []catalog.Bound{value(from)}, To: []catalog.Bound{value(to)}}, true
	}
	if list, ok := strings.CutPrefix(text, "in "); ok {
		var b catalog.Bounds
		for _, s := range strings.Fields(list) {
			b.Values = append(b.Values, value(s))
		}
		return b, true
	}
	return catalog.Bounds{}, false
}

// can are the abilities of an engine whose parts are tables, or not.
func can(tables bool) catalog.Abilities {
	return catalog.Abilities{PartsAreTables: tables, Bounds: boundsOf,
		RangeBounds: func(_ *catalog.Table, from, to catalog.Bound) string { return from.Text + " to " + to.Text },
		ListBounds: func(t *catalog.Table, value string) (string, string) {
			return "in " + value, t.PartitionBy.Columns[0] + " = " + value
		},
		BoundAt: func(_ *catalog.Table, at time.Time, _ catalog.Bound) catalog.Bound {
			return catalog.Bound{Text: at.Format(time.DateOnly), At: &at}
		},
		RestBounds: func(*catalog.Table) string { return "rest" },
		InRange: func(column string, from, to catalog.Bound) string {
			return fmt.Sprintf("%s in %s..%s", column, from.Text, to.Text)
		}}
}

// partitioned is a table by a column of the type, with parts "name: bounds" or "name: bounds, rows".
func partitioned(method string, column catalog.Type, tables bool, parts ...string) (In, *catalog.Table) {
	whole := &catalog.Table{Schema: "tide", Name: "reading", Kind: catalog.Partitioned, Columns: []*catalog.Column{{Name: "at", Type: column}, {Name: "level"}},
		PartitionBy: &catalog.PartitionKey{Method: method, Columns: []string{"at"}}}
	s := &catalog.Schema{Name: "tide", Tables: []*catalog.Table{whole}}
	for _, p := range parts {
		name, bounds, _ := strings.Cut(p, ": ")
		bounds, n, counted := strings.Cut(bounds, ", ")
		var rows *int64
		if counted {
			rows = new(int64)
			fmt.Sscan(n, rows)
		}
		if of := whole.Ref(); tables {
			s.Tables = append(s.Tables, &catalog.Table{Schema: "tide", Name: name, Kind: catalog.Ordinary, PartitionOf: &of, Bounds: bounds, Stats: catalog.TableStats{Rows: rows}})
		} else {
			whole.Partitions = append(whole.Partitions, &catalog.Partition{Name: name, Bounds: bounds, Rows: rows})
		}
	}
	c := &catalog.Catalog{Schemas: []*catalog.Schema{s}, Surveyed: time.Date(2026, 3, 10, 12, 0, 0, 0, time.UTC)}
	c.Sort()
	return In{c, c.Lookup(), can(tables), catalog.NewNames(c, 63)}, whole
}

var (
	date   = catalog.Type{Native: "date", Family: catalog.Date}
	number = catalog.Type{Native: "integer", Family: catalog.Integer}
	word   = catalog.Type{Native: "text", Family: catalog.Text}
)

// said are changes in a line each.
func said(changes []change.Change) string {
	var all []string
	for _, ch := range changes {
		switch ch := ch.(type) {
		case change.AddPartition:
			line := ch.Name + ": " + ch.Bounds
			for _, x := range [][2]string{{"before", ch.Before}, {"like", ch.Like}, {"from", ch.From}, {"where", ch.Where}} {
				if x[1] != "" {
					line += " " + x[0] + " " + x[1]
				}
			}
			all = append(all, line)
		default:
			all = append(all, ch.Title())
		}
	}
	return strings.Join(all, "; ")
}

// TestPlan: what makes a partitioned table as wanted, and why it cannot be made so.
func TestPlan(t *testing.T) {
	months := []string{"reading_2026_01: 2026-01-01 to 2026-02-01, 5", "reading_2026_02: 2026-02-01 to 2026-03-01, 5", "reading_2026_03: 2026-03-01 to 2026-04-01, 0"}
	at := func(s string) time.Time { at, _ := time.Parse(time.DateOnly, s); return at }
	for name, c := range map[string]struct {
		method string
		column catalog.Type
		tables bool
		parts  []string
		wanted Wanted
		want   string
	}{
		"months ahead":     {"range", date, true, months, Wanted{Until: at("2026-05-15"), Most: 9}, "reading_2026_04: 2026-04-01 to 2026-05-01 like reading_2026_03; reading_2026_05: 2026-05-01 to 2026-06-01 like reading_2026_03"},
		"up to an end":     {"range", date, true, months, Wanted{Until: at("2026-05-01"), Most: 9}, "reading_2026_04: 2026-04-01 to 2026-05-01 like reading_2026_03"},
		"none needed":      {"range", date, true, months, Wanted{Until: at("2026-04-01"), Most: 9}, ""},
		"as many as may":   {"range", date, true, months, Wanted{Until: at("2026-06-01"), Most: 2}, "reading_2026_04: 2026-04-01 to 2026-05-01 like reading_2026_03; reading_2026_05: 2026-05-01 to 2026-06-01 like reading_2026_03"},
		"too many":         {"range", date, true, months, Wanted{Until: at("2026-06-02"), Most: 2}, "! up to 2026-06-02 it would take more than 2 partitions; say so if they are meant (--limit)"},
		"a rest":           {"range", date, true, months, Wanted{Rest: true}, "reading_rest: rest like reading_2026_03"},
		"a rest is there":  {"range", date, true, append(months, "others: rest, 0"), Wanted{Rest: true}, ""},
		"beside a rest":    {"range", date, true, append(months, "others: rest, 9"), Wanted{Until: at("2026-04-02"), Most: 9}, "reading_2026_04: 2026-04-01 to 2026-05-01 like reading_2026_03 where at in 2026-04-01..2026-05-01"},
		"out of a rest":    {"range", date, true, append(months, "others: rest, 9"), Wanted{Found: []time.Time{at("2025-11-01")}, Most: 9}, "reading_2025_11: 2025-11-01 to 2025-12-01 like reading_2026_03 from others where at in 2025-11-01..2025-12-01"},
		"both":             {"range", date, true, append(months, "others: rest, 9"), Wanted{Found: []time.Time{at("2026-04-01")}, Until: at("2026-06-01"), Most: 9}, "reading_2026_04: 2026-04-01 to 2026-05-01 like reading_2026_03 from others where at in 2026-04-01..2026-05-01; reading_2026_05: 2026-05-01 to 2026-06-01 like reading_2026_03 where at in 2026-05-01..2026-06-01"},
		"kept for a while": {"range", date, true, months, Wanted{Keep: "10 days"}, "detach partition reading_2026_01 of tide.reading"},
		"kept longer":      {"range", date, true, months, Wanted{Keep: "2 months"}, ""},
		"no time":          {"range", date, true, months, Wanted{Keep: "soon"}, `! "soon" is no time to keep rows for: say 90 days, 24 months or 7 years`},
		"no tables":        {"range", date, false, []string{"p2024: - to 2025-01-01", "p2025: 2025-01-01 to 2026-01-01", "p2026: 2026-01-01 to 2027-01-01", "pmax: 2027-01-01 to +"}, Wanted{Until: at("2028-01-01"), Most: 9}, "p2027: 2027-01-01 to 2028-01-01 before pmax like pmax"},
		"made tables":      {"range", date, false, []string{"p2024: - to 2025-01-01", "p2025: 2025-01-01 to 2026-01-01", "p2026: 2026-01-01 to 2027-01-01"}, Wanted{Keep: "1 year"}, "detach partition p2024 of tide.reading as table reading_p2024_old"},
		"taken":            {"range", date, true, append(months, "reading_2026_04: 2030-01-01 to 2030-02-01"), Wanted{Found: []time.Time{at("2026-04-01")}, Most: 9}, "reading_2026_04_part: 2026-04-01 to 2026-05-01 like reading_2026_04"},
		"days":             {"range", date, true, []string{"d20260101: 2026-01-01 to 2026-01-02", "d20260102: 2026-01-02 to 2026-01-03"}, Wanted{Until: at("2026-01-04"), Most: 9}, "d20260103: 2026-01-03 to 2026-01-04 like d20260102"},
		"quarters":         {"range", date, true, []string{"q2026_01: 2026-01-01 to 2026-04-01", "q2026_04: 2026-04-01 to 2026-07-01"}, Wanted{Until: at("2026-08-01"), Most: 9}, "q2026_07: 2026-07-01 to 2026-10-01 like q2026_04"},
		"no length":        {"range", date, true, []string{"a: 2026-01-01 to 2026-01-05", "b: 2026-01-05 to 2026-02-17"}, Wanted{Until: at("2026-08-01"), Most: 9}, "! they are of no one length"},
		"no names":         {"range", date, true, []string{"a: 2026-01-01 to 2026-02-01", "b: 2026-02-01 to 2026-03-01"}, Wanted{Until: at("2026-08-01"), Most: 9}, "! their names do not tell when they begin"},
		"no days":          {"range", date, true, []string{"r2026_01_01: 2026-01-01T06:00 to 2026-01-02T06:00", "r2026_01_02: 2026-01-02T06:00 to 2026-01-03T06:00"}, Wanted{Until: at("2026-01-08"), Most: 9}, "! they do not begin with a day"},
		"not understood":   {"range", date, true, append(months, "odd: whatever"), Wanted{Until: at("2026-08-01"), Most: 9}, "! the bounds of some partitions are not understood, or of mixed types"},
		"by hash":          {"hash", date, true, nil, Wanted{Until: at("2026-08-01"), Most: 9}, "! it is partitioned by hash, and only ranges of time show what comes next"},
		"numbers as days":  {"range", number, true, []string{"n20260101: 20260101 to 20260102", "n20260102: 20260102 to 20260103"}, Wanted{Until: at("2026-01-04"), Most: 9}, "n20260103: 20260103 to 20260104 like n20260102"},
		"months in lists":  {"list", number, true, []string{"m202601: in 202601", "m202602: in 202602"}, Wanted{Until: at("2026-04-01"), Most: 9}, "m202603: in 202603 like m202602"},
		"plain numbers":    {"range", number, true, []string{"a: 0 to 1000", "b: 1000 to 2000"}, Wanted{Until: at("2026-04-01"), Most: 9}, "! they are of no one length"},
		"values":           {"list", word, true, []string{"reading_north: in north", "reading_south: in south", "others: rest"}, Wanted{Values: []string{"West Bay"}, Most: 9}, "reading_west_bay: in West Bay like reading_south from others where at = West Bay"},
		"values, named so": {"list", word, false, []string{"p_north_x: in north", "p_south_x: in south"}, Wanted{Values: []string{"east", "EAST"}, Most: 9}, "p_east_x: in east like p_south_x; p_east_x_: in EAST like p_south_x"},
		"too many values":  {"list", word, true, []string{"reading_north: in north"}, Wanted{Values: []string{"a", "b"}, Most: 1}, "! the values would take more than 1 partitions; say so if they are meant (--limit)"},
		"values of ranges": {"range", date, true, months, Wanted{Values: []string{"a"}, Most: 1}, "! it is not partitioned by lists of values"},
	} {
		in, whole := partitioned(c.method, c.column, c.tables, c.parts...)
		changes, err := Of(in, whole).Plan(c.wanted)
		got := said(changes)
		if err != nil {
			got = "! " + err.Error()
		}
		if got != c.want {
			t.Errorf("%s:\n%s, want\n%s", name, got, c.want)
		}
	}
}

// TestPeriods: the periods in step with the ranges that nothing covers.
func TestPeriods(t *testing.T) {
	at := func(s string) time.Time { at, _ := time.Parse(time.DateOnly, s); return at }
	in, whole := partitioned("range", date, true, "r_2026_01: 2026-01-01 to 2026-02-01", "r_2026_03: 2026-03-01 to 2026-04-01", "r_2026_04: 2026-04-01 to 2026-05-01", "r_2026_05: 2026-05-01 to 2026-06-01", "others: rest")
	table := Of(in, whole)
	for span, want := range map[[2]string]string{
		{"2026-02-10", "2026-02-20"}: "2026-02", {"2026-01-31", "2026-03-01"}: "2026-02", {"2025-11-30", "2026-01-15"}: "2025-11 2025-12", {"2026-03-05", "2026-05-31"}: "", {"2026-05-31", "2026-07-01"}: "2026-06 2026-07", {"2026-02-01", "2026-02-01"}: "2026-02",
	} {
		var got []string
		for _, x := range table.Periods(at(span[0]), at(span[1])) {
			got = append(got, x.Format("2006-01"))
		}
		if s := strings.Join(got, " "); s != want {
			t.Errorf("%v: %s, want %s", span, s, want)
		}
	}
	if n := table.Newest(); !n.Equal(at("2026-06-01")) || !table.Ahead(n, 3).Equal(at("2026-09-01")) || !table.After(n).Equal(at("2026-07-01")) {
		t.Errorf("the newest ends on %s", n)
	}
	if d := table.Default(); d == nil || d.Name != "others" || !table.HasRest() {
		t.Errorf("the default is %v", d)
	}
	if p, ok := Period(Ranges(table.list)); !ok || p != 31*24*time.Hour {
		t.Errorf("a period is %s", p)
	}
	in, whole = partitioned("list", word, true, "a: in x y", "b: in z")
	if got := strings.Join(Of(in, whole).Untaken([]string{"x", "q", "z", "r"}), " "); got != "q r" {
		t.Errorf("untaken: %s", got)
	}
	if _, ok := Period(Of(in, whole).list); ok {
		t.Error("lists of words have a period")
	}
}

func TestCompareBounds(t *testing.T) {
	b := func(texts ...string) (list []catalog.Bound) {
		for _, s := range texts {
			bounds, _ := boundsOf(nil, "in "+s)
			list = append(list, bounds.Values...)
		}
		return list
	}
	for _, c := range []struct {
		a, b []catalog.Bound
		want int
	}{
		{b("1"), b("2"), -1}, {b("10"), b("9"), 1}, {b("a"), b("b"), -1}, {b("10"), b("9x"), -1}, {b("2026-01-01"), b("2025-12-31"), 1}, {b("2026-01-01"), b("2026-01-01"), 0}, {b("-"), b("5"), -1}, {b("5"), b("-"), 1}, {b("+"), b("5"), 1}, {b("5"), b("+"), -1},
		{b("-"), b("-"), 0}, {b("+"), b("+"), 0}, {b("-"), b("+"), -1}, {b("1", "2"), b("1", "3"), -1}, {b("1", "3"), b("1", "2"), 1}, {b("1"), b("1", "2"), 0}, {b("2026-01-01", "b"), b("2026-01-01", "a"), 1}, {b("-", "1"), b("-", "2"), -1}, {nil, b("1"), 0},
	} {
		if got := CompareBounds(c.a, c.b); got != c.want {
			t.Errorf("%v against %v: %d", c.a, c.b, got)
		}
	}
}

func TestBefore(t *testing.T) {
	at := time.Date(2026, 3, 31, 12, 0, 0, 0, time.UTC)
	for keep, want := range map[string]string{"90 days": "2025-12-31", "1 day": "2026-03-30", "2 weeks": "2026-03-17", "24 months": "2024-03-31", "1 month": "2026-03-03", "7 Years": "2019-03-31", " 3  years ": "2023-03-31", "soon": "", "": "", "5": "", "-5 days": "", "5 hours": "", "99999999999999999999 days": ""} {
		got, ok := Before(at, keep)
		if ok != (want != "") || ok && got.Format(time.DateOnly) != want {
			t.Errorf("%q: %s, %v, want %s", keep, got, ok, want)
		}
	}
}
