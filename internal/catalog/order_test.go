package catalog

import (
	"slices"
	"strings"
	"testing"
)

func saltmere() *Catalog {
	return &Catalog{
		Objects: []*Object{{Kind: "extension", Name: "gist"}, {Kind: "event trigger", Name: "watch", Needs: []ObjectRef{{KindRoutine, "s", "f()"}}}},
		Schemas: []*Schema{{Name: "s",
			Tables: []*Table{
				{Schema: "s", Name: "reading", PartitionBy: &PartitionKey{}, ForeignKeys: []*ForeignKey{{Target: Ref{"s", "station"}}}},
				{Schema: "s", Name: "a_part", PartitionOf: &Ref{"s", "reading"}},
				{Schema: "s", Name: "station", Needs: []ObjectRef{{KindType, "s", "code"}, {KindSequence, "s", "n"}}, Triggers: []*Trigger{{Name: "t", Calls: "s.f"}}},
				{Schema: "s", Name: "alone"},
				{Schema: "s", Name: "ring", Needs: []ObjectRef{{KindRoutine, "s", "of_ring(ring)"}}},
			},
			Views:     []*View{{Name: "a_view", Reads: []ObjectRef{{KindView, "s", "base"}}}, {Name: "base", Reads: []ObjectRef{{KindTable, "s", "station"}}}},
			Sequences: []*Sequence{{Name: "n"}, {Name: "spare"}},
			Types:     []*UserType{{Name: "code", Needs: []ObjectRef{{KindRoutine, "s", "f()"}}}},
			Routines: []*Routine{{Name: "f"}, {Name: "of_ring", Arguments: "ring", Needs: []ObjectRef{{KindTable, "s", "ring"}}},
				{Name: "late", Needs: []ObjectRef{{KindView, "s", "a_view"}}}},
		}},
	}
}

// TestMembers: everything comes after what it needs, whatever its kind; of a
// ring one goes first, and is marked.
func TestMembers(t *testing.T) {
	var names []string
	for _, m := range saltmere().Members() {
		name := m.Name
		if m.Broken {
			name += "!"
		}
		names = append(names, name)
	}
	all := strings.Join(names, " ")
	if len(names) != 15 {
		t.Fatalf("%d members: %s", len(names), all)
	}
	at := func(name string) int { return slices.Index(names, name) }
	for _, pair := range [][2]string{{"gist", "f()"}, {"f()", "code"}, {"code", "station"}, {"n", "station"}, {"station", "base"}, {"base", "a_view"}, {"a_view", "late()"},
		{"reading", "a_part"}, {"ring!", "of_ring(ring)"}, {"f()", "watch"}} {
		if a, b := at(pair[0]), at(pair[1]); a < 0 || b < 0 || a > b {
			t.Errorf("%s is not before %s: %s", pair[0], pair[1], all)
		}
	}
}

// TestSubset: a table comes with all that it needs, and nothing else.
func TestSubset(t *testing.T) {
	c := saltmere()
	for tables, want := range map[string]string{
		"alone":   "alone",
		"a_part":  "a_part reading station n code f",
		"station": "station n code f",
		"ring":    "ring of_ring",
	} {
		d := c.Subset([]Ref{{"s", tables}})
		var got []string
		for _, s := range d.Schemas {
			for _, t := range s.Tables {
				got = append(got, t.Name)
			}
			for _, q := range s.Sequences {
				got = append(got, q.Name)
			}
			for _, y := range s.Types {
				got = append(got, y.Name)
			}
			for _, f := range s.Routines {
				got = append(got, f.Name)
			}
			if len(s.Views)+len(d.Objects) > 0 {
				t.Errorf("%s: views or objects came along", tables)
			}
		}
		wanted := strings.Fields(want)
		slices.Sort(got)
		if slices.Sort(wanted); !slices.Equal(got, wanted) {
			t.Errorf("%s: %v, not %v", tables, got, wanted)
		}
	}
	if len(c.Tables()) != 5 {
		t.Error("the catalog itself was altered")
	}
}

func TestFits(t *testing.T) {
	for _, c := range []struct {
		pattern, schema, name string
		want                  bool
	}{
		{"station", "s", "station", true}, {"station", "s", "station_keeper", false}, {"s.station", "s", "station", true}, {"x.station", "s", "station", false},
		{"stat*", "s", "station_keeper", true}, {"*keeper", "s", "station_keeper", true}, {"*a*e*", "s", "station_keeper", true}, {"s.*", "s", "anything", true},
		{"????", "s", "gage", true}, {"????", "s", "gauge", false}, {"*", "", "", true}, {"", "s", "x", false}, {"é?", "s", "éß", true},
		{"[a]*", "s", "[a]b", true}, {`a\*`, "s", `a\b`, true}, {"**x**", "s", "x", true}, {"a*b*c", "s", "abbbcc", true}, {"a*b*c", "s", "acb", false},
	} {
		if got := FitsTable(c.pattern, c.schema, c.name); got != c.want {
			t.Errorf("%q and %s.%s: %v", c.pattern, c.schema, c.name, got)
		}
	}
}
