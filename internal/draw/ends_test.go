package draw

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"nexdal/internal/catalog"
)

// TestEnds: the ends of a line say whether there must be a parent, and whether there can be
// more than one child; what is declared stands before what was accepted, and that before
// what was found, whatever else refers by the same columns.
func TestEnds(t *testing.T) {
	station := &catalog.Table{Schema: "saltmere", Name: "station", Kind: catalog.Ordinary, Columns: []*catalog.Column{{Name: "id"}, {Name: "code"}}}
	ref := station.Ref()
	for _, c := range []struct {
		name     string
		nullable []bool // of the columns
		unique   bool
		of       string // declared, accepted, found: the first letters
		arrows   bool
		want     string
	}{
		{"required, many", []bool{false}, false, "d", false, "one many solid"},
		{"optional, many", []bool{true}, false, "d", false, "zero-or-one many solid"},
		{"required, unique", []bool{false}, true, "d", false, "one zero-or-one solid"},
		{"optional, unique", []bool{true}, true, "d", false, "zero-or-one zero-or-one solid"},
		{"two, one of them optional", []bool{false, true}, false, "d", false, "zero-or-one many solid"},
		{"two, both required", []bool{false, false}, false, "d", false, "one many solid"},
		{"two, unique together", []bool{false, false}, true, "d", false, "one zero-or-one solid"},
		{"accepted", []bool{false}, false, "a", false, "one many dashed"},
		{"found", []bool{true}, false, "f", false, "zero-or-one many dashed 98.77 %"},
		{"declared and found", []bool{false}, false, "df", false, "one many solid"},
		{"accepted and found", []bool{false}, false, "af", false, "one many dashed"},
		{"arrows", []bool{true}, true, "d", true, "arrow none solid"},
	} {
		gauge := &catalog.Table{Schema: "saltmere", Name: "gauge", Kind: catalog.Ordinary}
		var columns, target []string
		for i, null := range c.nullable {
			columns, target = append(columns, fmt.Sprintf("station_%d", i)), append(target, station.Columns[i].Name)
			gauge.Columns = append(gauge.Columns, &catalog.Column{Name: columns[i], Nullable: null})
		}
		if c.unique {
			gauge.UniqueKeys = []*catalog.Key{{Name: "u", Columns: columns}}
		}
		o := Options{Arrows: c.arrows}
		f := &catalog.ForeignKey{Name: "f", Columns: columns, Target: ref, TargetColumns: target}
		if strings.Contains(c.of, "d") {
			gauge.ForeignKeys = []*catalog.ForeignKey{f}
		}
		if strings.Contains(c.of, "a") {
			gauge.Accepted = []*catalog.ForeignKey{f}
		}
		if strings.Contains(c.of, "f") {
			o.Undeclared = []Reference{{From: gauge.Ref(), Columns: columns, To: ref, TargetNames: target, Coverage: 0.98765}, // another's is not this one's
				{From: ref, Columns: []string{"nowhere"}, To: catalog.Ref{Schema: "saltmere", Table: "gone"}, TargetNames: []string{"id"}, Coverage: 1}}
		}
		all := &catalog.Catalog{Schemas: []*catalog.Schema{{Name: "saltmere", Tables: []*catalog.Table{gauge, station}}}}
		var got []string
		for _, l := range New(all, []catalog.Ref{ref, gauge.Ref()}, o).Lines {
			says := fmt.Sprintf("%s %s %s", ends[l.From], ends[l.To], map[bool]string{true: "dashed", false: "solid"}[l.Dashed])
			if l.Label != "" {
				says += " " + l.Label
			}
			if l.Between != [2]string{"saltmere.station", "saltmere.gauge"} {
				t.Errorf("%s: a line between %v", c.name, l.Between)
			}
			got = append(got, says)
		}
		slices.Sort(got)
		slices.Reverse(got)
		want := strings.Split(c.want, ", ")
		slices.Sort(want)
		slices.Reverse(want)
		if !slices.Equal(got, want) {
			t.Errorf("%s: %q, want %q", c.name, got, want)
		}
	}
}

var ends = map[End]string{EndOne: "one", EndZeroOrOne: "zero-or-one", EndMany: "many", EndArrow: "arrow", EndNone: "none"}

// TestPartitionsAreDrawnAsTheWhole: what refers to a partition refers to the box of the
// whole.
func TestPartitionsAreDrawnAsTheWhole(t *testing.T) {
	whole := catalog.Ref{Schema: "saltmere", Table: "reading"}
	part := catalog.Ref{Schema: "saltmere", Table: "reading_2026"}
	id := func() []*catalog.Column { return []*catalog.Column{{Name: "id"}} }
	c := &catalog.Catalog{Schemas: []*catalog.Schema{{Name: "saltmere", Tables: []*catalog.Table{
		{Schema: "saltmere", Name: "flag", Kind: catalog.Ordinary, Columns: id(), ForeignKeys: []*catalog.ForeignKey{{Name: "f", Columns: []string{"id"}, Target: part, TargetColumns: []string{"id"}}}},
		{Schema: "saltmere", Name: "reading", Kind: catalog.Partitioned, Columns: id(), PartitionBy: &catalog.PartitionKey{Method: "range", Definition: "RANGE (id)", Columns: []string{"id"}}},
		{Schema: "saltmere", Name: "reading_2026", Kind: catalog.Ordinary, Columns: id(), PartitionOf: &whole,
			ForeignKeys: []*catalog.ForeignKey{{Name: "g", Columns: []string{"id"}, Target: catalog.Ref{Schema: "saltmere", Table: "flag"}, TargetColumns: []string{"id"}, Inherited: true}}},
	}}}}
	s := New(c, []catalog.Ref{{Schema: "saltmere", Table: "flag"}, whole, part}, Options{})
	if len(s.Boxes) != 2 || len(s.Lines) != 1 || s.Lines[0].Between != [2]string{"saltmere.reading", "saltmere.flag"} {
		t.Errorf("%d boxes, lines %+v", len(s.Boxes), s.Lines)
	}
}
