package catalog

import (
	"fmt"
	"slices"
	"strings"
	"testing"
)

// TestMemberKinds: each object comes after what it needs, and of those that could come next the
// likeliest needed first.
func TestMemberKinds(t *testing.T) {
	station := Ref{"tide", "station"}
	c := &Catalog{
		Objects: []*Object{{Kind: "event trigger", Name: "watch"}, {Kind: "extension", Name: "ext"}, {Kind: "cast", Name: "cast", Needs: []ObjectRef{{KindRoutine, "tide", "f()"}}}},
		Schemas: []*Schema{{Name: "tide",
			Tables: []*Table{{Schema: "tide", Name: "a_part", PartitionOf: &station, Needs: []ObjectRef{{KindSequence, "tide", "z"}}}, {Schema: "tide", Name: "heir", Inherits: []Ref{station}}, {Schema: "tide", Name: "station"}},
			Views:  []*View{{Name: "a_view", Reads: []ObjectRef{{KindView, "tide", "b_view"}}}, {Name: "b_view", Reads: []ObjectRef{{KindTable, "tide", "station"}}}},
			// What is not there keeps nobody waiting.
			Sequences: []*Sequence{{Name: "z"}}, Types: []*UserType{{Name: "kind", Needs: []ObjectRef{{KindType, "tide", "gone"}}}},
			Routines: []*Routine{{Name: "f", Kind: "function", Needs: []ObjectRef{{KindTable, "tide", "station"}}}}, Objects: []*Object{{Kind: "operator", Name: "=="}},
		}}}
	var got []string
	for _, m := range c.Members() {
		got = append(got, m.ObjectRef.String())
		if m.Broken {
			t.Errorf("%s is in no ring", m.ObjectRef)
		}
	}
	want := "extension ext; type tide.kind; sequence tide.z; operator tide.==; table tide.station; routine tide.f(); cast cast; table tide.a_part; table tide.heir; view tide.b_view; view tide.a_view; event trigger watch"
	if s := strings.Join(got, "; "); s != want {
		t.Errorf("%s\nwant\n%s", s, want)
	}
}

// TestMembersOfExtensions: what comes with an add-on needs that alone, and so does what needs it.
func TestMembersOfExtensions(t *testing.T) {
	far := []ObjectRef{{KindView, "tide", "z"}}
	c := &Catalog{Objects: []*Object{{Kind: "extension", Name: "z_ext"}, {Kind: "cast", Name: "a_cast", Extension: "z_ext", Needs: far}},
		Schemas: []*Schema{{Name: "tide", Tables: []*Table{{Schema: "tide", Name: "t", Extension: "z_ext", Needs: far}}, Views: []*View{{Name: "v", Extension: "z_ext", Reads: far}, {Name: "z"}}, Sequences: []*Sequence{{Name: "q", Extension: "z_ext"}},
			Types: []*UserType{{Name: "y", Extension: "z_ext", Needs: far}, {Name: "a_type", Needs: []ObjectRef{{KindView, "tide", "v"}}}}, Routines: []*Routine{{Name: "f", Extension: "z_ext", Needs: far}}}}}
	var got []string
	for _, m := range c.Members() {
		got = append(got, m.Name+" "+m.Extension())
		if m.Broken {
			t.Errorf("%s is in no ring", m.Name)
		}
	}
	if s := strings.Join(got, "; "); s != "z_ext ; a_type ; y z_ext; q z_ext; a_cast z_ext; f() z_ext; t z_ext; v z_ext; z " {
		t.Error(s)
	}
}

// TestMembersInRings: of those that need each other one is marked, and all are there once.
func TestMembersInRings(t *testing.T) {
	for length := 1; length < 6; length++ {
		s := &Schema{Name: "tide"}
		for i := range length {
			s.Routines = append(s.Routines, &Routine{Name: fmt.Sprintf("f%d", i), Needs: []ObjectRef{{KindRoutine, "tide", fmt.Sprintf("f%d()", (i+1)%length)}}})
		}
		s.Views = []*View{{Name: "v", Reads: []ObjectRef{{KindRoutine, "tide", "f0()"}}}}
		var names []string
		broken := 0
		for _, m := range (&Catalog{Schemas: []*Schema{s}}).Members() {
			names = append(names, m.Name)
			if m.Broken {
				broken++
			}
		}
		if len(names) != length+1 || names[length] != "v" || broken > 1 || broken == 0 && length > 1 {
			t.Errorf("%d in a ring: %v, %d broken", length, names, broken)
		}
		slices.Sort(names)
		if len(slices.Compact(names)) != length+1 {
			t.Errorf("%d in a ring: %v", length, names)
		}
	}
}

// TestSmallWords: how things are named in messages, and what of them is looked up.
func TestSmallWords(t *testing.T) {
	for want, o := range map[string]ObjectRef{"extension ext": {"extension", "", "ext"}, "table tide.station": {KindTable, "tide", "station"}, "objects in tide": {"objects", "tide", ""}, "grants": {"grants", "", ""}} {
		if got := o.String(); got != want {
			t.Errorf("%q, want %q", got, want)
		}
	}
	if got := (ColumnRef{"tide", "station", "code"}).String(); got != "tide.station.code" {
		t.Error(got)
	}
	for want, g := range map[string]Gap{"tide": {Schema: "tide"}, "": {}, "tide.station": {Schema: "tide", Table: "station"}} {
		if got := g.Place(); got != want {
			t.Errorf("%q, want %q", got, want)
		}
	}
	a, ab, ba, typed := &View{Columns: []*ViewColumn{{Name: "a"}}}, &View{Columns: []*ViewColumn{{Name: "a"}, {Name: "b"}}}, &View{Columns: []*ViewColumn{{Name: "b"}, {Name: "a"}}}, &View{Columns: []*ViewColumn{{Name: "a", Type: "text"}, {Name: "b"}}}
	for _, c := range []struct {
		v, old *View
		want   bool
	}{{ab, a, true}, {a, ab, false}, {ab, ab, true}, {ba, a, false}, {ba, ab, false}, {typed, a, false}, {a, &View{}, true}} {
		if got := c.v.Extends(c.old); got != c.want {
			t.Errorf("%d columns extend %d: %v", len(c.v.Columns), len(c.old.Columns), got)
		}
	}
	table := &Table{Columns: []*Column{{Name: "code", Type: Type{Family: Text}}, {Name: "level", Type: Type{Family: Integer}}}}
	quoted := func(s string) string { return "<" + s + ">" }
	for column, want := range map[string]string{"code": "<1> <2>", "level": "1 2", "gone": "1 2"} {
		if got := strings.Join((&Among{column, []string{"1", "2"}}).Written(table, quoted), " "); got != want {
			t.Errorf("%s: %s, want %s", column, got, want)
		}
	}
	notes, at := Notes{}, Ref{"tide", "station"}
	notes.Put(at, "", "where a gauge stands")
	notes.Put(at, "code", "made up")
	if notes.Of(at, "") != "where a gauge stands" || notes.Of(at, "code") != "made up" || notes.Of(at, "name") != "" || notes.Of(Ref{"ebb", "station"}, "") != "" {
		t.Errorf("%v", notes)
	}
	r := Rights{Grants: []Grant{{What: "SELECT"}, {What: "UPDATE", Column: "code"}}, SecurityLabels: []SecurityLabel{{Provider: "p", Column: "code"}, {Provider: "q"}}}
	if of := r.OfColumn("code"); len(of.Grants) != 1 || of.Grants[0].What != "UPDATE" || len(of.SecurityLabels) != 1 || of.SecurityLabels[0].Provider != "p" || len(r.Grants) != 2 {
		t.Errorf("%+v", of)
	}
	for _, c := range []struct {
		t    Table
		want bool
	}{{Table{Kind: Ordinary}, true}, {Table{Kind: Partitioned}, true}, {Table{Kind: Ordinary, Extension: "x"}, false}, {Table{Kind: Foreign}, false}, {Table{Kind: Virtual}, false}} {
		if got := c.t.IsOwn(); got != c.want {
			t.Errorf("%+v is its owner's: %v", c.t, got)
		}
	}
	// Found though the tables are in no order.
	odd := &Catalog{Schemas: []*Schema{{Name: "tide", Tables: []*Table{{Name: "z"}, {Name: "a"}, {Name: "m"}}}}}
	for _, name := range []string{"z", "a", "m"} {
		if found := odd.Table(Ref{"tide", name}); found == nil || found.Name != name {
			t.Errorf("%s: %v", name, found)
		}
	}
	if odd.Table(Ref{"tide", "b"}) != nil || odd.Table(Ref{"ebb", "a"}) != nil {
		t.Error("a table that is not there is found")
	}
}

// TestNames: new names collide with nothing that has one, whatever it is and however it is written.
func TestNames(t *testing.T) {
	c := &Catalog{Schemas: []*Schema{{Name: "tide", Views: []*View{{Name: "gauge_v"}}, Sequences: []*Sequence{{Name: "gauge_id_seq"}}, Objects: []*Object{{Kind: "foreign table", Name: "gauge_far"}},
		Tables: []*Table{{Schema: "tide", Name: "gauge", PrimaryKey: &Key{Name: "gauge_pkey"}, Indexes: []*Index{{Name: "gauge_pkey"}, {Name: "Gauge_Code_Idx"}}, Checks: []*Check{{Name: "gauge_check"}}, ForeignKeys: []*ForeignKey{{Name: "gauge_fkey"}}}}}}}
	n := NewNames(c, 0)
	for _, taken := range []string{"gauge", "gauge_v", "gauge_id_seq", "gauge_far", "gauge_pkey", "gauge_code_idx", "gauge_check", "gauge_fkey", "GAUGE"} {
		if !n.Taken("tide", taken) {
			t.Errorf("%s is free", taken)
		}
	}
	for _, x := range []struct{ schema, ending, parts, want string }{
		{"tide", "seq", "gauge id", "gauge_id_seq2"}, {"tide", "seq", "gauge id", "gauge_id_seq3"}, {"ebb", "seq", "gauge id", "gauge_id_seq"}, {"tide", "idx", "gauge code", "gauge_code_idx2"},
		{"tide", "fkey", "GAUGE STATION", "GAUGE_STATION_FKEY"}, {"tide", "key", strings.Repeat("x", 59), strings.Repeat("x", 59) + "_key"},
	} {
		if got := n.Free(x.schema, x.ending, strings.Fields(x.parts)...); got != x.want {
			t.Errorf("%s, want %s", got, x.want)
		}
	}
	// A long one is cut where letters end, and tells what was cut.
	a, b := n.Free("tide", "key", strings.Repeat("ä", 40)), n.Free("tide", "key", strings.Repeat("ä", 39)+"ö")
	if len(a) > 63 || len(b) > 63 || a == b || strings.Contains(a, "\uFFFD") || !strings.HasSuffix(a, "_key") {
		t.Errorf("%s, %s", a, b)
	}
	if short := NewNames(c, 30).Free("tide", "key", strings.Repeat("y", 40)); len(short) != 30 {
		t.Errorf("%s has %d bytes", short, len(short))
	}
}
