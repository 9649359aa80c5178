package evidence

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"
	"testing"

	"nexdal/internal/catalog"
)

// stations and n gauges of which so many refer to a station that is not there.
func gauges(column string, n, orphans int) *heap {
	h := &heap{}
	station := key(h.table("station", "id int!", "code text!"), "id")
	h.fill(station, 200, func(i int) []any { return []any{i + 1, fmt.Sprintf("ST%04d", i)} })
	gauge := key(h.table("gauge", "id int!", column+" int"), "id")
	h.fill(gauge, n, func(i int) []any {
		if i < orphans {
			return []any{i + 10_000, 5000 + i%7}
		}
		return []any{i + 10_000, i%200 + 1}
	})
	return h
}

// TestCoverage: how many orphans a reference may have, by how plainly its column is named.
func TestCoverage(t *testing.T) {
	for _, c := range []struct {
		column  string
		orphans int // of 1,000 rows
		found   bool
	}{
		{"station_id", 0, true}, {"station_id", 1, true}, {"station_id", 100, true}, {"station_id", 101, false},
		{"stat_id", 0, true}, {"stat_id", 50, true}, {"stat_id", 51, false},
		{"height", 0, false},
	} {
		h := gauges(c.column, 1000, c.orphans)
		e := h.probe(t, Options{})
		want := ""
		if c.found {
			want = "station.id"
		}
		if got := e.to("gauge", c.column); got != want {
			t.Errorf("%s with %d orphans: %q, want %q", c.column, c.orphans, got, want)
			continue
		}
		if !c.found {
			continue
		}
		r := e.References[0]
		if r.Orphans != int64(c.orphans) || r.RowsChecked != 1000 || !r.Verified || r.Declared || r.Coverage != float64(1000-c.orphans)/1000 || len(r.Samples) != min(c.orphans, 3) {
			t.Errorf("%s with %d orphans: %+v", c.column, c.orphans, r)
		}
		if r.Score <= 0 || r.Score > 1 || r.Most == nil || *r.Most < 5 || c.orphans == 0 && *r.Fewest != 5 {
			t.Errorf("%s with %d orphans: %+v", c.column, c.orphans, r)
		}
	}
}

// TestDirections: keys and columns that no data can tell apart are not taken for what they
// may not be.
func TestDirections(t *testing.T) {
	h := &heap{}
	station := key(h.table("station", "id int!", "code text!", "region text"), "id")
	h.fill(station, 100, func(i int) []any { return []any{i + 1, fmt.Sprintf("ST%04d", i), "north"} })
	detail := key(h.table("station_detail", "station_id int!", "height int", "active int"), "station_id")
	h.fill(detail, 80, func(i int) []any { return []any{i + 1, i * 7, i % 2} })
	visit := key(h.table("visit", "id int!", "station_id int", "rank int", "parent_id int", "station_code text"), "id")
	h.fill(visit, 300, func(i int) []any {
		parent := any(nil)
		if i > 10 {
			parent = 1000 + i/2
		}
		return []any{1000 + i, i%100 + 1, i%5 + 1, parent, fmt.Sprintf("ST%04d", i%100)}
	})
	empty := key(h.table("alert", "id int!", "station_id int", "note text"), "id")
	h.fill(empty, 0, nil)
	e := h.probe(t, Options{})
	for place, want := range map[string]string{
		"station.id": "", "station_detail.station_id": "station.id", "station_detail.active": "", "station_detail.height": "",
		"visit.id": "", "visit.station_id": "station.id", "visit.rank": "", "visit.parent_id": "visit.id", "visit.station_code": "station.code",
		"alert.id": "", "alert.station_id": "station.id", "alert.note": "", "station.region": "",
	} {
		table, column, _ := strings.Cut(place, ".")
		if got := e.to(table, column); got != want {
			t.Errorf("%s refers to %q, want %q", place, got, want)
		}
	}
	for _, r := range e.References {
		if r.Table == "alert" && (r.Verified && r.RowsChecked > 0 || r.Coverage != 1) {
			t.Errorf("a reference without rows: %+v", r)
		}
	}
}

// TestDeclared: what is declared is asked, whatever comes of it, and never proposed.
func TestDeclared(t *testing.T) {
	h := gauges("station_id", 100, 7)
	gauge := h.c.Table(catalog.Ref{Schema: "s", Table: "gauge"})
	gauge.ForeignKeys = []*catalog.ForeignKey{{Name: "f", Columns: []string{"station_id"}, Target: catalog.Ref{Schema: "s", Table: "station"}, TargetColumns: []string{"id"}, NotValidated: true},
		{Name: "gone", Columns: []string{"station_id"}, Target: catalog.Ref{Schema: "s", Table: "gone"}, TargetColumns: []string{"id"}}}
	e := h.probe(t, Options{})
	if len(e.References) != 1 || !e.References[0].Declared || e.References[0].Orphans != 7 || e.References[0].Score != 1 {
		t.Fatalf("%+v", e.References)
	}
	i := slices.IndexFunc(e.Promises, func(p Promise) bool { return p.Kind == "foreign key" })
	if i < 0 || e.Promises[i].Offenders != 7 || e.Promises[i].Object != "f" || !e.Promises[i].Verified || len(e.Promises[i].Samples) != 3 {
		t.Errorf("%+v", e.Promises)
	}
}

// TestKeys: what the data shows to be a key, declared or not.
func TestKeys(t *testing.T) {
	h := &heap{}
	model := h.table("gauge_model", "maker text!", "model_no text!", "weight int", "note text")
	h.fill(model, 60, func(i int) []any {
		return []any{fmt.Sprintf("M%d", i/10), fmt.Sprintf("no%d", i%10), i % 3, nil}
	})
	keeper := key(h.table("keeper", "id int!", "badge_no text!", "phone text", "name text!"), "id")
	h.fill(keeper, 60, func(i int) []any {
		phone := any(fmt.Sprintf("0%05d", i))
		if i == 3 {
			phone = nil
		}
		return []any{i + 1, fmt.Sprintf("B%03d", i), phone, fmt.Sprintf("n%d", i/2)}
	})
	one := h.table("setting", "name text!", "value text")
	h.fill(one, 1, func(int) []any { return []any{"a", "b"} })
	e := h.probe(t, Options{KeyColumns: 2})
	has := func(table string, declared bool, columns ...string) bool {
		return slices.ContainsFunc(e.Keys, func(k Key) bool {
			return k.Table == table && slices.Equal(k.Columns, columns) && k.Declared == declared && k.Verified && k.Distinct == k.Rows
		})
	}
	for _, c := range []struct {
		want     bool
		table    string
		declared bool
		columns  []string
	}{
		{true, "keeper", true, []string{"id"}}, {true, "keeper", false, []string{"badge_no"}}, {false, "keeper", false, []string{"phone"}}, {false, "keeper", false, []string{"name"}},
		{true, "gauge_model", false, []string{"maker", "model_no"}}, {false, "gauge_model", false, []string{"maker"}}, {false, "gauge_model", false, []string{"maker", "weight"}},
		{false, "setting", false, []string{"name"}},
	} {
		if has(c.table, c.declared, c.columns...) != c.want {
			t.Errorf("%s %v as a key: %v; %+v", c.table, c.columns, !c.want, e.Keys)
		}
	}
	single := h.probe(t, Options{KeyColumns: 1})
	if slices.ContainsFunc(single.Keys, func(k Key) bool { return len(k.Columns) > 1 && !k.Declared }) {
		t.Errorf("combined keys, though none were asked for: %+v", single.Keys)
	}
}

// TestNearlyUnique: a column named like an identifier that a few rows break is told of,
// one that many break is none.
func TestNearlyUnique(t *testing.T) {
	for _, c := range []struct {
		twice int // values, of 500 rows
		told  bool
	}{{1, true}, {10, true}, {11, false}, {100, false}} {
		h := &heap{}
		keeper := key(h.table("keeper", "id int!", "badge_no text!"), "id")
		h.fill(keeper, 500, func(i int) []any {
			if i < c.twice {
				return []any{i, fmt.Sprintf("B%03d", 499-i)}
			}
			return []any{i, fmt.Sprintf("B%03d", i)}
		})
		e := h.probe(t, Options{})
		i := slices.IndexFunc(e.Promises, func(p Promise) bool { return p.Origin == "undeclared" && p.Kind == "unique" })
		if (i >= 0) != c.told || i >= 0 && e.Promises[i].Offenders != int64(c.twice) {
			t.Errorf("%d values twice: %+v", c.twice, e.Promises)
		}
	}
}

// TestPromises: checks that were not validated, indexes that are not valid, keys that may
// be null and what fixes would add, each asked and counted.
func TestPromises(t *testing.T) {
	h := &heap{}
	gauge := key(h.table("gauge", "id int", "level int", "serial text"), "id")
	h.fill(gauge, 50, func(i int) []any {
		id := any(i + 1)
		if i == 0 {
			id = nil
		}
		return []any{id, i - 4, fmt.Sprintf("s%d", i/2)}
	})
	gauge.Checks = []*catalog.Check{{Name: "low", Expression: "level > 0", NotValidated: true}, {Name: "sure", Expression: "level > 9"}, {Name: "whole", Expression: "level > 0", NotValidated: true, Inherited: true}}
	gauge.Indexes = []*catalog.Index{{Name: "broken", Unique: true, Invalid: true, Origin: catalog.ByPerson, Parts: []catalog.IndexPart{{Column: "serial"}}},
		{Name: "partial", Unique: true, Invalid: true, Predicate: "x", Parts: []catalog.IndexPart{{Column: "serial"}}}}
	e := h.probe(t, Options{Proposals: []Proposal{
		{Promise{Origin: "proposed", Kind: "fix", Schema: "s", Table: "gauge", Says: "a fix", Findings: []string{"x"}}, "17"},
		{Promise{Origin: "proposed", Kind: "fix", Schema: "s", Table: "nowhere", Says: "of no table"}, "1"},
		{Promise{Origin: "proposed", Kind: "fix", Schema: "s", Table: "gauge", Says: "refused"}, "no number"}}})
	got := map[string]int64{}
	for _, p := range e.Promises {
		got[p.Kind+" "+p.Object+p.Says] = p.Offenders
		if !p.Verified {
			t.Errorf("not verified: %+v", p)
		}
	}
	want := map[string]int64{"check lowlevel > 0": 5, "unique brokenunique on serial, by an index that is not valid": 25, "not null gauge_pkeyid is part of the primary key": 1, "fix a fix": 17}
	if fmt.Sprint(got) != fmt.Sprint(want) {
		t.Errorf("%v, want %v", got, want)
	}
	if !slices.ContainsFunc(e.Gaps, func(g catalog.Gap) bool { return strings.Contains(g.What, "refused") && g.Table == "gauge" }) {
		t.Errorf("a question that was refused is no gap: %+v", e.Gaps)
	}
}

// TestCounters: when a counter is behind.
func TestCounters(t *testing.T) {
	for _, c := range []struct {
		name   string
		rows   int
		next   int64
		asks   bool
		down   bool
		behind bool
	}{
		{"past the largest", 10, 11, true, false, false}, {"at the largest", 10, 10, true, false, true}, {"below", 10, 1, true, false, true},
		{"no rows", 0, 1, true, false, false}, {"not told", 10, 0, false, false, false}, {"counts down", 10, 1, true, true, false},
	} {
		h := &heap{next: map[string]int64{}}
		gauge := key(h.table("gauge", "id int!"), "id")
		gauge.Columns[0].Identity = catalog.IdentityByDefault
		h.fill(gauge, c.rows, func(i int) []any { return []any{i + 1} })
		if c.asks {
			h.next["gauge.id"] = c.next
		}
		if c.down {
			gauge.Columns[0].Sequence = &catalog.Ref{Schema: "s", Table: "q"}
			h.c.Schemas[0].Sequences = []*catalog.Sequence{{Name: "q", Increment: -1}}
		}
		e := h.probe(t, Options{})
		if len(e.Counters) != 1 || e.Counters[0].Behind != c.behind || (e.Counters[0].Next != nil) != c.asks || (e.Counters[0].Greatest != nil) != (c.rows > 0) {
			t.Errorf("%s: %+v", c.name, e.Counters)
		}
	}
}

// TestSampled: of a table over the limit a part is looked at, and nothing is said to be
// verified.
func TestSampled(t *testing.T) {
	for _, c := range []struct {
		limit   int64
		sampled bool
	}{{0, false}, {99, true}, {100, false}, {101, false}} {
		h := gauges("station_id", 100, 0)
		h.c.Tables()[0].Stats.Rows = nil // not counted: looked at whole
		e := h.probe(t, Options{LimitRows: c.limit})
		for _, f := range e.Columns {
			want := int64(100)
			if c.sampled {
				want = c.limit
			}
			if f.Table == "gauge" && (f.Sampled != c.sampled || f.Rows != want) || f.Table == "station" && (f.Sampled || f.Rows != 200) {
				t.Errorf("limit %d: %+v", c.limit, f)
			}
		}
		if r := e.References; len(r) != 1 || r[0].Verified == c.sampled || (r[0].Most == nil) != c.sampled {
			t.Errorf("limit %d: %+v", c.limit, r)
		}
		for _, k := range e.Keys {
			if k.Table == "gauge" && k.Verified == c.sampled {
				t.Errorf("limit %d: %+v", c.limit, k)
			}
		}
	}
}

// TestCodes: when the values of a column are listed.
func TestCodes(t *testing.T) {
	for _, c := range []struct {
		name           string
		rows, distinct int
		length         int
		refers, told   bool
	}{
		{"few", 48, 12, 3, false, true}, {"too many", 52, 13, 3, false, false}, {"too few rows", 19, 3, 3, false, false}, {"enough rows", 20, 5, 3, false, true},
		{"hardly repeated", 44, 12, 3, false, false}, {"long", 48, 4, 41, false, false}, {"as long as may be", 48, 4, 40, false, true}, {"a reference", 48, 4, 3, true, false},
	} {
		h := &heap{}
		gauge := key(h.table("gauge", "id int!", "state text"), "id")
		h.fill(gauge, c.rows, func(i int) []any { return []any{i, fmt.Sprintf("%0*d", c.length, i%c.distinct)} })
		if c.refers {
			gauge.ForeignKeys = []*catalog.ForeignKey{{Columns: []string{"state"}, Target: catalog.Ref{Schema: "s", Table: "gone"}, TargetColumns: []string{"id"}}}
		}
		e := h.probe(t, Options{})
		i := slices.IndexFunc(e.Columns, func(f Column) bool { return f.Column == "state" })
		if got := e.Columns[i].Values; (len(got) == c.distinct) != c.told || !c.told && got != nil {
			t.Errorf("%s: %v", c.name, got)
		}
	}
}

// TestWhatFails: what cannot be asked is a gap of its table, and costs nothing else; what
// takes too long is asked of a sample; a lost connection ends the probe with what is known.
func TestWhatFails(t *testing.T) {
	build := func() *heap { return gauges("station_id", 20_000, 0) }
	whole := build().probe(t, Options{})
	questions := map[string]bool{}
	h := build()
	h.probe(t, Options{})
	for _, q := range h.log {
		name, _, _ := strings.Cut(q, " ")
		questions[name] = true
	}
	refused := errors.New("permission denied")
	for question := range questions {
		h := build()
		h.fail = func(q, table string) error {
			if q == question && table == "gauge" {
				return refused
			}
			return nil
		}
		e := h.probe(t, Options{})
		told := slices.ContainsFunc(e.Gaps, func(g catalog.Gap) bool {
			return g.Table == "gauge" && g.Reason == refused.Error() && g.Figures && g.What != ""
		})
		if len(e.Gaps) > 0 != told {
			t.Errorf("%s refused: %+v", question, e.Gaps)
		}
		if !told && len(e.References) != len(whole.References) {
			t.Errorf("%s refused: a reference less, and no gap", question)
		}
		for _, f := range e.Columns {
			if f.Table == "station" && f.Distinct == nil {
				t.Errorf("%s refused of gauge, and station's %s is not known", question, f.Column)
			}
		}
	}
	slow := build()
	slow.fail = func(q, table string) error {
		if q == "profile" && table == "gauge" && strings.Count(strings.Join(slow.log, "\n"), "profile gauge") == 1 {
			return fmt.Errorf("gauge: %w", ErrTimeout)
		}
		return nil
	}
	e := slow.probe(t, Options{})
	for _, f := range e.Columns {
		if f.Table == "gauge" && (!f.Sampled || f.Rows != smallest) {
			t.Errorf("too slow: %+v", f)
		}
	}
	if len(e.Gaps) != 1 || !strings.Contains(e.Gaps[0].Reason, "sample") {
		t.Errorf("too slow: %+v", e.Gaps)
	}
	for at := 1; at < len(h.log); at++ {
		lost := build()
		lost.fail = func(string, string) error {
			if len(lost.log) >= at {
				return ErrLost
			}
			return nil
		}
		e, err := Discover(t.Context(), []Asker{lost}, lost.c, Options{KeyColumns: 3})
		if err == nil && at < len(h.log)-2 {
			t.Errorf("lost at question %d, %s: no error", at, h.log[at-1])
			continue
		}
		if err != nil && (!errors.Is(err, ErrLost) || len(e.Gaps) == 0) {
			t.Errorf("lost at question %d: %v, %+v", at, err, e.Gaps)
		}
		// With the answers that are there it goes on, and comes to the same.
		again, known := build(), len(e.Answers)
		rest, err := Discover(t.Context(), []Asker{again}, again.c, Options{KeyColumns: 3, Answers: e.Answers})
		if err != nil {
			t.Fatal(err)
		}
		rest.Questions, rest.Answers = whole.Questions, whole.Answers
		a, _ := json.Marshal(rest)
		b, _ := json.Marshal(whole)
		if string(a) != string(b) {
			t.Errorf("lost at question %d and gone on: not the same\n%s\n%s", at, a, b)
		}
		if len(again.log)+known > len(h.log) {
			t.Errorf("lost at question %d: %d answers, and %d questions more, of %d", at, known, len(again.log), len(h.log))
		}
	}
	ctx, cancel := context.WithCancel(t.Context())
	stopped := build()
	stopped.fail = func(string, string) error { cancel(); return nil }
	if e, err := Discover(ctx, []Asker{stopped}, stopped.c, Options{KeyColumns: 3}); !errors.Is(err, context.Canceled) || len(e.Gaps) == 0 || len(stopped.log) > 3 {
		t.Errorf("brought to an end: %v after %d questions", err, len(stopped.log))
	}
}

// TestSideBySide: several askers find the same.
func TestSideBySide(t *testing.T) {
	text := func(n int) string {
		h := gauges("station_id", 300, 3)
		var askers []Asker
		for range n {
			askers = append(askers, &heap{c: h.c, rows: h.rows})
		}
		var steps []Progress
		e, err := Discover(t.Context(), askers, h.c, Options{KeyColumns: 3, Progress: func(p Progress) { steps = append(steps, p) }})
		if err != nil {
			t.Fatal(err)
		}
		for i, p := range steps {
			if p.Done > p.Total || i > 0 && p.Step == steps[i-1].Step && p.Done < steps[i-1].Done || p.Rows > p.AllRows || p.AllRows != 500 {
				t.Errorf("progress %d: %+v", i, p)
			}
		}
		if last := steps[len(steps)-1]; last.Done != last.Total {
			t.Errorf("it ends with %+v", last)
		}
		e.Questions = 0
		b, _ := json.Marshal(e)
		return string(b)
	}
	if one, four := text(1), text(4); one != four {
		t.Errorf("one finds\n%s\nfour find\n%s", one, four)
	}
}

// TestCrowded: a combined key is not asked for where one value of a column has more rows than the
// other columns have values.
func TestCrowded(t *testing.T) {
	for _, c := range []struct {
		most  int // rows with the most common value, of 60
		asked bool
	}{{41, false}, {40, true}, {30, true}} {
		h := &heap{}
		plate := h.table("plate", "letter_code text!", "number_code text!")
		h.fill(plate, 60, func(i int) []any {
			letter := "a"
			if i >= c.most {
				letter = "b"
			}
			return []any{letter, fmt.Sprint("n", i%40)}
		})
		h.probe(t, Options{KeyColumns: 2})
		if asked := slices.ContainsFunc(h.log, func(q string) bool { return strings.HasPrefix(q, "together") }); asked != c.asked {
			t.Errorf("%d of 60 rows alike: asked %v", c.most, asked)
		}
	}
}

// TestPartOfDeclared: a column of a declared reference by several columns is not said to refer to its
// part of that again; to anything else it may.
func TestPartOfDeclared(t *testing.T) {
	h := harbour()
	crews := key(h.table("crew", "crew_id int!", "code text!"), "crew_id")
	crews.UniqueKeys = []*catalog.Key{{Name: "both", Columns: []string{"crew_id", "code"}}, {Name: "code", Columns: []string{"code"}}}
	h.fill(crews, 60, func(i int) []any { return []any{500 + i, fmt.Sprintf("CREW%03d", i)} })
	shifts := key(h.table("shift", "shift_id int!", "crew_id int", "crew_code text"), "shift_id")
	h.fill(shifts, 300, func(i int) []any { return []any{i + 1, 500 + i*7%60, fmt.Sprintf("CREW%03d", i*7%60)} })
	found := func() (all []string) {
		for _, r := range h.probe(t, Options{KeyColumns: 2}).References {
			if r.Table == "shift" && !r.Declared {
				all = append(all, strings.Join(r.Columns, ", ")+" to "+r.Target)
			}
		}
		slices.Sort(all)
		return all
	}
	if got := strings.Join(found(), "; "); got != "crew_code to crew; crew_id to crew; crew_id, crew_code to crew" {
		t.Errorf("undeclared: %s", got)
	}
	shifts.ForeignKeys = []*catalog.ForeignKey{{Name: "fk", Columns: []string{"crew_id", "crew_code"}, Target: crews.Ref(), TargetColumns: []string{"crew_id", "code"}}}
	if got := strings.Join(found(), "; "); got != "" {
		t.Errorf("beside the declared one: %s", got)
	}
	shifts.ForeignKeys[0].TargetColumns = []string{"code", "crew_id"} // the other way about
	if got := strings.Join(found(), "; "); got != "crew_code to crew; crew_id to crew" {
		t.Errorf("beside one that leads elsewhere: %s", got)
	}
}
