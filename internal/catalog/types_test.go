package catalog

import (
	"fmt"
	"math"
	"testing"
)

// TestGapTo: how the type of a referring column falls short of that referred to, and in which words.
func TestGapTo(t *testing.T) {
	integer := func(bits int, native string) Type { return Type{Native: native, Family: Integer, Bits: bits} }
	text := func(length int, native string) Type { return Type{Native: native, Family: Text, Length: length} }
	decimal := func(precision, scale int) Type {
		return Type{Native: fmt.Sprintf("numeric(%d,%d)", precision, scale), Family: Decimal, Precision: precision, Scale: scale}
	}
	number := func(precision int) Type {
		return Type{Native: fmt.Sprintf("numeric(%d)", precision), Family: Integer, Precision: precision}
	}
	with := func(t Type, change func(*Type)) Type { change(&t); return t }
	class := func(class, collation string) func(*Type) {
		return func(t *Type) { t.Class, t.Collation = class, collation }
	}
	for _, c := range []struct {
		from, to Type
		gap      TypeGap
		says     string
	}{
		{integer(32, "integer"), integer(32, "integer"), TypesAgree, ""},
		{integer(32, "integer"), integer(64, "bigint"), TypeTooSmall, "integer against bigint"},
		{integer(64, "bigint"), integer(32, "integer"), TypeLooser, "bigint against integer"},
		{integer(32, "int"), integer(32, "integer"), TypesAgree, ""},
		{with(integer(32, "int unsigned"), func(t *Type) { t.Unsigned = true }), integer(32, "int"), TypeTooSmall, "int unsigned against int"},
		{integer(64, "bigint"), with(integer(32, "int unsigned"), func(t *Type) { t.Unsigned = true }), TypeTooSmall, "bigint against int unsigned"},
		{integer(32, "integer"), text(9, "varchar(9)"), TypeUnlike, "integer against varchar(9)"},
		{text(9, "varchar(9)"), text(9, "varchar(9)"), TypesAgree, ""},
		{text(9, "varchar(9)"), text(12, "varchar(12)"), TypeTooSmall, "varchar(9) against varchar(12)"},
		{text(12, "varchar(12)"), text(9, "varchar(9)"), TypeLooser, "varchar(12) against varchar(9)"},
		{text(0, "text"), text(9, "varchar(9)"), TypeLooser, "text against varchar(9)"},
		{text(9, "varchar(9)"), text(0, "text"), TypeTooSmall, "varchar(9) against text"},
		{text(9, "varchar(9)"), text(9, "character varying(9)"), TypeLooser, "varchar(9) against character varying(9)"},
		{text(0, "text"), text(0, "clob"), TypeLooser, "text against clob"},
		{with(text(9, "char(9)"), func(t *Type) { t.Padded = true }), text(9, "varchar(9)"), TypeUnlike, "char(9) against varchar(9)"},
		{with(text(9, "varchar(9)"), func(t *Type) { t.Collation = "nocase" }), text(9, "varchar(9)"), TypeUnlike, ""},
		{decimal(10, 2), decimal(10, 2), TypesAgree, ""},
		{decimal(12, 2), decimal(10, 2), TypeLooser, "numeric(12,2) against numeric(10,2)"},
		{decimal(10, 2), decimal(12, 2), TypeTooSmall, "numeric(10,2) against numeric(12,2)"},
		{decimal(12, 4), decimal(12, 2), TypeTooSmall, "numeric(12,4) against numeric(12,2)"},
		{decimal(10, 1), decimal(10, 2), TypeTooSmall, "numeric(10,1) against numeric(10,2)"},
		{with(decimal(0, 0), func(t *Type) { t.Native = "numeric" }), decimal(10, 2), TypeLooser, "numeric against numeric(10,2)"},
		{decimal(10, 2), with(decimal(0, 0), func(t *Type) { t.Native = "numeric" }), TypeTooSmall, "numeric(10,2) against numeric"},
		{number(10), decimal(12, 2), TypeTooSmall, "numeric(10) against numeric(12,2)"},
		{decimal(14, 2), number(10), TypeLooser, "numeric(14,2) against numeric(10)"},
		{number(10), with(decimal(12, 2), func(t *Type) { t.Native = "decimal(12,2)" }), TypeUnlike, "numeric(10) against decimal(12,2)"},
		{Type{Native: "date", Family: Date}, Type{Native: "day", Family: Date}, TypeUnlike, "date against day"},
		{Type{Native: "code", Underlying: "varchar(9)", Family: Text, Length: 9}, text(9, "varchar(9)"), TypesAgree, ""},
		{with(text(0, "TEXT"), class("text", "")), with(text(0, "VARCHAR(9)"), class("text", "")), TypesAgree, ""},
		{with(text(0, "TEXT"), class("text", "nocase")), with(text(0, "TEXT"), class("text", "")), TypeUnlike, ""},
		{with(integer(64, "INT"), class("integer", "")), with(text(0, ""), class("blob", "")), TypeUnlike, "INT is stored as integer, a column without a type as blob"},
		{with(integer(64, "INT"), class("integer", "x")), with(integer(64, "INT8"), class("integer", "")), TypesAgree, ""},
		{with(integer(64, "INT"), class("integer", "")), text(0, "TEXT"), TypeUnlike, "INT against TEXT"},
	} {
		gap, says := c.from.GapTo(c.to)
		if gap != c.gap || c.says != "" && says != c.says || (says == "") != (gap == TypesAgree) {
			t.Errorf("%s to %s: %d %q, want %d %q", c.from.Native, c.to.Native, gap, says, c.gap, c.says)
		}
	}
}

func TestLargest(t *testing.T) {
	for _, c := range []struct {
		of   Type
		want int64
	}{
		{Type{Bits: 16}, 32767}, {Type{Bits: 16, Unsigned: true}, 65535}, {Type{Bits: 32}, math.MaxInt32}, {Type{Bits: 64}, math.MaxInt64}, {Type{Bits: 64, Unsigned: true}, math.MaxInt64},
		{Type{}, math.MaxInt64}, {Type{Bits: 128}, math.MaxInt64}, {Type{Bits: 128, Unsigned: true}, math.MaxInt64}, {Type{Precision: 1}, 9}, {Type{Precision: 5, Bits: 16}, 99999},
		{Type{Precision: 18}, 999_999_999_999_999_999}, {Type{Precision: 19}, math.MaxInt64}, {Type{Precision: 38}, math.MaxInt64},
	} {
		if got := c.of.Largest(); got != c.want {
			t.Errorf("%+v: %d, want %d", c.of, got, c.want)
		}
	}
}

// TestFitsName: * stands for any letters and ? for one, and a name in capitals is fit by small letters.
func TestFitsName(t *testing.T) {
	for _, c := range []struct {
		pattern, name string
		want          bool
	}{
		{"gauge", "gauge", true}, {"gauge", "gauges", false}, {"gauges", "gauge", false}, {"", "", true}, {"", "a", false}, {"*", "", true}, {"*", "gauge", true}, {"**", "gauge", true},
		{"?", "", false}, {"?", "ä", true}, {"??", "ä", false}, {"g*", "gauge", true}, {"g*", "a", false}, {"*e", "gauge", true}, {"*g", "gauge", false}, {"*g?", "gauge", true}, {"g*g*", "gauge", true}, {"g*x*", "gauge", false},
		{"*a*a*", "banana", true}, {"*ana", "banana", true}, {"*anb", "banana", false}, {"b*n?", "banana", true}, {"b*n?", "banan", false}, {"gauge*", "gauge", true}, {"gauge?", "gauge", false}, {"a*b", "a*b", true}, {"a?b", "a*b", true},
		{"[g]*", "gauge", false}, {"[g]*", "[g]auge", true}, {`a\*`, `a\b`, true}, {"station", "STATION", true}, {"STATION", "station", false}, {"st*", "STATION", true}, {"Station", "station", false},
	} {
		if got := Fits(c.pattern, c.name); got != c.want {
			t.Errorf("%q fits %q: %v", c.name, c.pattern, got)
		}
	}
	for _, c := range []struct {
		pattern string
		want    bool
	}{{"tide.*", true}, {"tide.gauge", true}, {"gauge", true}, {"ebb.*", false}, {"*.gauge", true}, {"tide", false}} {
		if got := FitsTable(c.pattern, "tide", "gauge"); got != c.want {
			t.Errorf("tide.gauge fits %q: %v", c.pattern, got)
		}
	}
}

func TestSpreadWords(t *testing.T) {
	for want, s := range map[string]*Spread{"not known": nil, "by station_id": {Style: "key", Column: "station_id"}, "on every node": {Style: "all"}, "evenly": {Style: "even"}, "as the engine chooses": {Style: "auto"}} {
		if got := s.String(); got != want {
			t.Errorf("%q, want %q", got, want)
		}
	}
	ab, mixed := &SortKey{Columns: []string{"a", "b"}}, &SortKey{Columns: []string{"a", "b"}, Interleaved: true}
	for want, k := range map[string]*SortKey{"none": nil, "by a, b": ab, "interleaved by a, b": mixed} {
		if got := k.String(); got != want {
			t.Errorf("%q, want %q", got, want)
		}
	}
	if (&SortKey{}).String() != "none" {
		t.Error("an order of no columns is one")
	}
	for _, c := range []struct {
		a, b *SortKey
		want bool
	}{{nil, nil, true}, {nil, ab, false}, {ab, nil, false}, {ab, &SortKey{Columns: []string{"a", "b"}}, true}, {ab, mixed, false}, {ab, &SortKey{Columns: []string{"b", "a"}}, false}} {
		if c.a.Equal(c.b) != c.want {
			t.Errorf("%s and %s: %v", c.a, c.b, !c.want)
		}
	}
	for want, slices := range map[float64][]int64{0: nil, 1: {5, 5}, 2: {10, 0}, 1.5: {3, 2, 1}} {
		if got := (&Table{Stats: TableStats{Slices: slices}}).Skew(); got != want {
			t.Errorf("%v: %v, want %v", slices, got, want)
		}
	}
	if got := (&Table{Stats: TableStats{Slices: []int64{0, 0}}}).Skew(); got != 0 {
		t.Errorf("without rows the fullest holds %v", got)
	}
	c := &Catalog{Settings: []Setting{{Name: "slices", Value: "4"}, {Name: "nodes", Value: "x"}}}
	if c.Slices() != 4 || c.Nodes() != 0 {
		t.Errorf("%d slices, %d nodes", c.Slices(), c.Nodes())
	}
}

// TestUpTo: a part that says only where it ends begins where the one before it ends.
func TestUpTo(t *testing.T) {
	ends := func(text string) ([]Bound, bool) {
		if text == "" {
			return nil, false
		}
		return []Bound{{Text: text}, {Text: text + "'"}}, true
	}
	of := func(bounds ...string) *Table {
		t := &Table{}
		for _, b := range bounds {
			t.Partitions = append(t.Partitions, &Partition{Bounds: b})
		}
		return t
	}
	for _, c := range []struct {
		t    *Table
		text string
		want string
	}{
		{of("10", "20", "30"), "10", "MINVALUE,MINVALUE to 10,10'"}, {of("10", "20", "30"), "20", "10,10' to 20,20'"}, {of("10", "20", "30"), "30", "20,20' to 30,30'"},
		{of("10", "20"), "40", "none"}, {of(), "10", "none"}, {of("", "20"), "20", "none"}, {of("10", "", "30"), "30", "none"}, {of("10", ""), "10", "MINVALUE,MINVALUE to 10,10'"},
	} {
		b, ok := c.t.UpTo(c.text, ends)
		got := "none"
		if ok {
			got = b.From[0].Text + "," + b.From[1].Text + " to " + b.To[0].Text + "," + b.To[1].Text
			if b.From[0].Least != (b.From[0].Text == "MINVALUE") {
				t.Errorf("%s: least %v", got, b.From[0].Least)
			}
		}
		if got != c.want {
			t.Errorf("%s: %s, want %s", c.text, got, c.want)
		}
	}
}
