package settings

import (
	"bytes"
	"fmt"
	"reflect"
	"strings"
	"testing"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/evidence"
)

func day(s string) Day {
	d, err := ParseDay(s)
	if err != nil {
		panic(err)
	}
	return d
}

func at(s string) time.Time { return day(s).Time }

// TestHolds: a decision holds on its last day, to its last moment, and not after.
func TestHolds(t *testing.T) {
	for _, c := range []struct {
		until string
		today time.Time
		want  bool
	}{
		{"", at("2999-01-01"), true}, {"2026-12-31", at("2026-12-30"), true}, {"2026-12-31", at("2026-12-31"), true}, {"2026-12-31", at("2026-12-31").Add(24*time.Hour - 1), true},
		{"2026-12-31", at("2027-01-01"), false}, {"2026-12-31", at("2027-01-01").Add(time.Hour), false},
	} {
		x := Decision{}
		if c.until != "" {
			x.Until = day(c.until)
		}
		if got := x.Holds(c.today); got != c.want {
			t.Errorf("until %s, on %s: %v", c.until, c.today, got)
		}
	}
}

// TestOf: what was said of a thing by its own name goes before what a pattern says, the
// later before the earlier, and what has come to its end counts for nothing.
func TestOf(t *testing.T) {
	today := at("2026-06-01")
	aside := func(about, because, until string) Decision {
		x := Decision{About: about, Verdict: SetAside, Because: because}
		if until != "" {
			x.Until = day(until)
		}
		return x
	}
	for _, c := range []struct {
		name string
		list []Decision
		want string
	}{
		{"nothing", nil, ""}, {"another", []Decision{aside("fk/missing main.gauge", "a", "")}, ""},
		{"its own", []Decision{aside("key/none main.gauge", "a", "")}, "a"},
		{"a pattern", []Decision{aside("key/none *", "a", "")}, "a"},
		{"the later of two patterns", []Decision{aside("key/*", "a", ""), aside("*", "b", "")}, "b"},
		{"its own before a later pattern", []Decision{aside("key/none main.gauge", "a", ""), aside("*", "b", "")}, "a"},
		{"its own after a pattern", []Decision{aside("*", "b", ""), aside("key/none main.gauge", "a", "")}, "a"},
		{"the later of its own", []Decision{aside("key/none main.gauge", "a", ""), aside("key/none main.gauge", "b", "")}, "b"},
		{"its own ended, a pattern holds", []Decision{aside("*", "b", ""), aside("key/none main.gauge", "a", "2026-05-31")}, "b"},
		{"both ended", []Decision{aside("*", "b", "2026-05-31"), aside("key/none main.gauge", "a", "2026-05-31")}, ""},
		{"on its last day", []Decision{aside("key/none main.gauge", "a", "2026-06-01")}, "a"},
	} {
		d := &Decisions{List: c.list}
		got := ""
		if x := d.Of("key/none main.gauge", today); x != nil {
			got = x.Because
		}
		if got != c.want {
			t.Errorf("%s: %q, want %q", c.name, got, c.want)
		}
	}
}

// TestCheck: what a decision must say.
func TestCheck(t *testing.T) {
	reference := "reference main.gauge (a) to main.station (id)"
	for _, c := range []struct {
		x    Decision
		want string
	}{
		{Decision{About: "key/none main.gauge", Verdict: SetAside, Because: "x"}, ""}, {Decision{About: "*", Verdict: SetAside, Because: "x"}, ""}, {Decision{About: reference, Verdict: Accept}, ""}, {Decision{About: reference, Verdict: Refuse}, ""},
		{Decision{About: "key/none main.gauge", Verdict: Choose, Fix: "identity"}, ""}, {Decision{About: "key/none main.gauge", Verdict: Accept}, ""},
		{Decision{About: " ", Verdict: Accept}, "what it is about"}, {Decision{About: "gauge", Verdict: Accept}, "neither a reference nor a finding"}, {Decision{About: "/x y", Verdict: Accept}, "neither"}, {Decision{About: "key/ y", Verdict: Accept}, "neither"},
		{Decision{About: "key/none x", Verdict: Refuse}, "set aside, not refused"}, {Decision{About: reference, Verdict: SetAside, Because: "x"}, "refused, not set aside"}, {Decision{About: "key/none x", Verdict: Choose}, "chooses no fix"},
		{Decision{About: reference, Verdict: Choose, Fix: "x"}, "fixes are chosen of findings"}, {Decision{About: "key/none x", Verdict: "maybe"}, "is no decision"}, {Decision{About: "key/none x", Verdict: SetAside, Because: "  "}, "for a reason"},
		{Decision{About: "key/none x", Verdict: SetAside, Because: "x", At: day("2026-02-01"), Until: day("2026-01-31")}, "before it was made"}, {Decision{About: "key/none x", Verdict: SetAside, Because: "x", At: day("2026-02-01"), Until: day("2026-02-01")}, ""},
	} {
		err := c.x.Check()
		if (err == nil) != (c.want == "") || err != nil && !strings.Contains(err.Error(), c.want) {
			t.Errorf("%+v: %v, want %q", c.x, err, c.want)
		}
	}
}

// TestDecisionsThereAndBack: what is written is read back, and what is damaged is refused.
func TestDecisionsThereAndBack(t *testing.T) {
	d := &Decisions{}
	d.Put(Decision{About: "key/none main.gauge", Verdict: SetAside, By: "ada", At: day("2026-01-02"), Because: "line\nfeed: \"x\" # y", Until: day("2026-12-31")})
	d.Put(Decision{About: "reference a.b (c) to d.e (f)", Verdict: Accept, By: "ada", At: day("2026-01-02")})
	d.Put(Decision{About: "key/none main.gauge", Verdict: Choose, Fix: "identity", By: "eve", At: day("2026-01-03")})
	if len(d.List) != 2 || d.List[1].By != "eve" {
		t.Fatalf("a decision does not take the place of the one before: %+v", d.List)
	}
	var b bytes.Buffer
	if err := d.Write(&b); err != nil {
		t.Fatal(err)
	}
	again, err := ReadDecisions(bytes.NewReader(b.Bytes()))
	if err != nil || !reflect.DeepEqual(again, d) {
		t.Errorf("%v: %+v\n%s", err, again, &b)
	}
	if !d.Withdraw("key/none main.gauge") || d.Withdraw("key/none main.gauge") || len(d.List) != 1 {
		t.Errorf("withdrawn: %+v", d.List)
	}
	for text, want := range map[string]string{
		"": "", "format: 1\ndecisions: []\n": "", "format: 2\ndecisions: []\n": "format 2", "format: 1\ndecisions: [{abuot: x}]": "abuot", "format: 1\ndecisions: [{about: key/none x, decision: accept, at: yesterday}]": "is no date",
		"format: 1\ndecisions: [{about: key/none x, decision: maybe}]": "decision 1", ": :": "",
	} {
		_, err := ReadDecisions(strings.NewReader(text))
		if text == ": :" {
			if err == nil {
				t.Error("what is no YAML is read")
			}
			continue
		}
		if (err == nil) != (want == "") || err != nil && !strings.Contains(err.Error(), want) {
			t.Errorf("%q: %v, want %q", text, err, want)
		}
	}
}

// hostile is a catalog whose names are made to be taken for others'.
func hostile() *catalog.Catalog {
	table := func(schema, name string, columns ...string) *catalog.Table {
		t := &catalog.Table{Schema: schema, Name: name, Kind: catalog.Ordinary}
		for _, c := range columns {
			t.Columns = append(t.Columns, &catalog.Column{Name: c})
		}
		return t
	}
	return &catalog.Catalog{Schemas: []*catalog.Schema{{Name: "s", Tables: []*catalog.Table{table("s", "gauge", "a", "b", "a, b", "c) to s.station (id"), table("s", "station", "id", "id, no", "no"), table("s", "x (y", "z")}}}}
}

// TestReferenceIDs: whatever the names hold, an identifier leads back to the reference
// that it was made of.
func TestReferenceIDs(t *testing.T) {
	c := hostile()
	ids := map[string]string{}
	for _, from := range c.Tables() {
		for _, to := range c.Tables() {
			for _, a := range from.Columns {
				for _, b := range to.Columns {
					r := evidence.Reference{Schema: from.Schema, Table: from.Name, Columns: []string{a.Name}, TargetSchema: to.Schema, Target: to.Name, TargetColumns: []string{b.Name}}
					id := ReferenceID(&r)
					if !Named(c, id) {
						t.Errorf("%s is not found again", id)
					}
					what := fmt.Sprint(from.Name, a.Name, to.Name, b.Name)
					if ids[id] != "" && ids[id] != what {
						t.Errorf("%s stands for two references", id)
					}
					ids[id] = what
				}
			}
		}
	}
	for _, id := range []string{"reference s.gauge (nothing) to s.station (id)", "reference s.gauge (a) to s.nothing (id)", "reference s.gauge (a, b) to s.station (id) ", "key/none s.gauge", "reference s.gauge (z) to s.station (id)"} {
		if Named(c, id) {
			t.Errorf("%s is found", id)
		}
	}
}

// TestAccepted: an accepted reference is the table's, unless it is declared, refused, of
// another catalog, or its time is over; a refused one is struck from the evidence.
func TestAccepted(t *testing.T) {
	today := at("2026-06-01")
	id := "reference s.gauge (a) to s.station (id)"
	e := &evidence.Evidence{References: []evidence.Reference{{Schema: "s", Table: "gauge", Columns: []string{"a"}, TargetSchema: "s", Target: "station", TargetColumns: []string{"id"}},
		{Schema: "s", Table: "gauge", Columns: []string{"b"}, TargetSchema: "s", Target: "station", TargetColumns: []string{"id"}, Declared: true}, {Schema: "s", Table: "gauge", Columns: []string{"gone"}, TargetSchema: "s", Target: "station", TargetColumns: []string{"id"}}}}
	for _, c := range []struct {
		name   string
		list   []Decision
		with   *evidence.Evidence
		alters func(*catalog.Catalog)
		want   int
		struck int
	}{
		{"by its name", []Decision{{About: id, Verdict: Accept}}, nil, nil, 1, 0},
		{"by its name, with evidence", []Decision{{About: id, Verdict: Accept}}, e, nil, 1, 0},
		{"by a pattern, with evidence", []Decision{{About: "reference s.gauge *", Verdict: Accept}}, e, nil, 2, 0},
		{"by a pattern, without", []Decision{{About: "reference s.gauge *", Verdict: Accept}}, nil, nil, 0, 0},
		{"refused", []Decision{{About: id, Verdict: Refuse}}, e, nil, 0, 1},
		{"refused by a pattern: what is declared stays", []Decision{{About: "reference *", Verdict: Refuse}}, e, nil, 0, 2},
		{"accepted, then refused by a pattern", []Decision{{About: id, Verdict: Accept}, {About: "reference *", Verdict: Refuse}}, e, nil, 1, 1},
		{"over", []Decision{{About: id, Verdict: Accept, Until: day("2026-05-31")}}, e, nil, 0, 0},
		{"declared by now", []Decision{{About: id, Verdict: Accept}}, e, func(c *catalog.Catalog) {
			c.Tables()[0].ForeignKeys = []*catalog.ForeignKey{{Columns: []string{"a"}, Target: catalog.Ref{Schema: "s", Table: "station"}, TargetColumns: []string{"id"}}}
		}, 0, 0},
		{"the column is gone", []Decision{{About: id, Verdict: Accept}}, e, func(c *catalog.Catalog) { c.Tables()[0].Columns = c.Tables()[0].Columns[1:] }, 0, 0},
	} {
		d := &Decisions{List: c.list}
		cat := hostile()
		if c.alters != nil {
			c.alters(cat)
		}
		d.Accepted(cat, c.with, today)
		d.Accepted(cat, c.with, today) // once more adds nothing
		if got := len(cat.Tables()[0].Accepted); got != c.want {
			t.Errorf("%s: %d references, want %d", c.name, got, c.want)
		}
		if Declared(cat, id) != (c.name == "declared by now") {
			t.Errorf("%s: declared: %v", c.name, !Declared(cat, id))
		}
		if c.with != nil {
			left := &evidence.Evidence{References: append([]evidence.Reference(nil), e.References...)}
			if n := d.Strike(left, today); n != c.struck || len(left.References) != 3-c.struck {
				t.Errorf("%s: %d are struck, want %d", c.name, n, c.struck)
			}
		}
	}
}
