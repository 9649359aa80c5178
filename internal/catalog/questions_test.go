package catalog

import (
	"slices"
	"strings"
	"testing"
)

// single reads expressions as the lexer does where they are single words.
type single struct{ unread }

func (single) Mentions(expression, name string) bool {
	return slices.Contains(strings.Fields(expression), name)
}

func (single) NotNull(expression string) []string {
	if name, ok := strings.CutSuffix(expression, " IS NOT NULL"); ok {
		return []string{name}
	}
	return nil
}

func index(columns string, more ...func(*Index)) *Index {
	x := &Index{Name: "x", Method: "btree"}
	for _, name := range strings.Fields(columns) {
		if name == "()" {
			name = ""
		}
		x.Parts = append(x.Parts, IndexPart{Column: name})
	}
	for _, f := range more {
		f(x)
	}
	return x
}

// TestFindsRows: which indexes lead to the rows with given values.
func TestFindsRows(t *testing.T) {
	method := func(m string) func(*Index) { return func(x *Index) { x.Method = m } }
	where := func(p string) func(*Index) { return func(x *Index) { x.Predicate = p } }
	for _, c := range []struct {
		name    string
		x       *Index
		columns string
		want    bool
	}{
		{"the column", index("a"), "a", true},
		{"another", index("b"), "a", false},
		{"in front", index("a b"), "a", true},
		{"behind", index("b a"), "a", false},
		{"both, in any order", index("b a c"), "a b", true},
		{"one of two", index("a"), "a b", false},
		{"two, with another between", index("a c b"), "a b", false},
		{"one twice", index("a a"), "a b", false},
		{"an expression", index("() a"), "a", false},
		{"hash", index("a", method("hash")), "a", true},
		{"hash of two", index("a b", method("hash")), "a b", false},
		{"no method named", index("a", method("")), "a", true},
		{"gin", index("a", method("gin")), "a", false},
		{"not valid", index("a", func(x *Index) { x.Invalid = true }), "a", false},
		{"those that are not null", index("a", where("a IS NOT NULL")), "a", true},
		{"those where another is not null", index("a", where("b IS NOT NULL")), "a", false},
		{"some rows", index("a", where("a > 0")), "a", false},
	} {
		if got := c.x.FindsRows(strings.Fields(c.columns), single{}); got != c.want {
			t.Errorf("%s: %v", c.name, got)
		}
		table := &Table{Indexes: []*Index{index("z"), c.x}}
		if got := table.FindsRows(strings.Fields(c.columns), single{}); got != c.want {
			t.Errorf("%s, among those of a table: %v", c.name, got)
		}
	}
	own := &Table{PrimaryKey: &Key{Columns: []string{"a", "b"}}}
	for columns, want := range map[string]bool{"a": true, "b": false, "b a": true, "a b c": false} {
		if got := own.FindsRows(strings.Fields(columns), single{}); got != want {
			t.Errorf("the table's own order (a, b) leads to %s: %v", columns, got)
		}
	}
	own.PrimaryKey.Index = "p"
	if own.FindsRows([]string{"a"}, single{}) {
		t.Error("a primary key has an index, which is not there, and leads all the same")
	}
}

// TestUnique: which columns a table keeps unique, and which key or index is on just these.
func TestUnique(t *testing.T) {
	unique := func(x *Index) { x.Unique = true }
	table := &Table{PrimaryKey: &Key{Columns: []string{"id"}, Index: "pk"}, UniqueKeys: []*Key{{Columns: []string{"a", "b"}, Index: "ab"}},
		Indexes: []*Index{index("c", unique, func(x *Index) { x.Name = "c" }), index("d"), index("e", unique, func(x *Index) { x.Predicate = "e > 0" }), index("f", unique, func(x *Index) { x.Invalid = true }), index("() g", unique)}}
	for _, c := range []struct {
		columns string
		unique  bool
		index   string
		key     bool
	}{
		{"id", true, "pk", true}, {"id x", true, "", false}, {"a b", true, "ab", true}, {"b a", true, "ab", true}, {"a", false, "", false}, {"a b c", true, "", false}, {"c", true, "c", true},
		{"d", false, "", false}, {"e", false, "", false}, {"f", false, "", false}, {"g", false, "", false},
	} {
		columns := strings.Fields(c.columns)
		if got := table.UniqueOn(columns); got != c.unique {
			t.Errorf("unique on %s: %v", c.columns, got)
		}
		if x, ok := table.KeyOn(columns); x != c.index || ok != c.key {
			t.Errorf("the key on %s: %q, %v", c.columns, x, ok)
		}
	}
	if keys := table.Keys(); len(keys) != 2 || keys[0] != table.PrimaryKey {
		t.Errorf("the keys: %v", keys)
	}
	if keys := (&Table{UniqueKeys: table.UniqueKeys}).Keys(); len(keys) != 1 {
		t.Errorf("the keys without a primary key: %v", keys)
	}
	if got := index("() g h").NamedColumns(); !slices.Equal(got, []string{"g", "h"}) {
		t.Errorf("the columns by name: %q", got)
	}
	for _, c := range []struct {
		a, b         string
		same, within bool
	}{{"a b", "b a", true, true}, {"a", "a b", false, true}, {"a b", "a", false, false}, {"a a", "a b", false, true}, {"a b", "a a", false, false}, {"", "a", false, true}, {"", "", true, true}} {
		a, b := strings.Fields(c.a), strings.Fields(c.b)
		if SameColumns(a, b) != c.same || Within(a, b) != c.within {
			t.Errorf("%q and %q: the same %v, within %v", a, b, SameColumns(a, b), Within(a, b))
		}
	}
}

// TestForeignKeySays: what a foreign key does to the rows that refer, and how it is called.
func TestForeignKeySays(t *testing.T) {
	for _, a := range []Action{NoAction, Restrict, Cascade, SetNull, SetDefault} {
		onDelete, onUpdate := &ForeignKey{OnDelete: a, OnUpdate: NoAction}, &ForeignKey{OnDelete: NoAction, OnUpdate: a}
		if got, want := onDelete.Writes(), a == SetNull || a == SetDefault; got != want {
			t.Errorf("on delete %s writes: %v", a, got)
		}
		if got, want := onUpdate.Writes(), a == SetNull || a == SetDefault || a == Cascade; got != want {
			t.Errorf("on update %s writes: %v", a, got)
		}
		f := ForeignKey{Columns: []string{"a", "b"}, OnDelete: a, SetColumns: []string{"b"}}
		table := &Table{ForeignKeys: []*ForeignKey{&f}}
		if table.SetToNull("a") || table.SetToNull("b") != (a == SetNull) {
			t.Errorf("on delete %s (b): a is set to null: %v, b: %v", a, table.SetToNull("a"), table.SetToNull("b"))
		}
		f.OnDelete, f.OnUpdate = NoAction, a // which acts on all columns
		if table.SetToNull("a") != (a == SetNull) || table.SetToNull("b") != (a == SetNull) || table.SetToNull("c") {
			t.Errorf("on update %s: a is set to null: %v", a, table.SetToNull("a"))
		}
	}
	f := &ForeignKey{Columns: []string{"a", "b"}, Target: Ref{"saltmere", "station"}}
	if f.Label() != "(a, b) to station" || !slices.Equal(f.Touched(), f.Columns) {
		t.Errorf("%s touches %v", f.Label(), f.Touched())
	}
	if f.Name = "stands_at"; f.Label() != "stands_at" {
		t.Error(f.Label())
	}
}

// TestTableAnswers: what a table and the lookup of a catalog say when they are asked.
func TestTableAnswers(t *testing.T) {
	station, part, mark := Ref{"saltmere", "station"}, Ref{"saltmere", "reading_2026"}, Ref{"saltmere", "mark"}
	gauge := &Table{Schema: "saltmere", Name: "gauge", Kind: Ordinary, Options: []string{"strict"}, Columns: []*Column{{Name: "id"}, {Name: "station_id", Nullable: true}, {Name: "at"}},
		ForeignKeys: []*ForeignKey{{Name: "f", Columns: []string{"station_id"}, Target: station}}, Accepted: []*ForeignKey{{Columns: []string{"id"}, Target: mark}},
		Dependants: []Dependant{{Kind: "view", Name: "all"}, {Kind: "view", Name: "some", Columns: []string{"at"}}}, Indexes: []*Index{index("id")}}
	whole := Ref{"saltmere", "reading"}
	reading := &Table{Schema: "saltmere", Name: "reading", Kind: Partitioned, Columns: []*Column{{Name: "day"}, {Name: "hour"}, {Name: "id"}},
		PartitionBy: &PartitionKey{Columns: []string{"day"}, Sub: &PartitionKey{Definition: "hash ( hour )"}}}
	c := &Catalog{Settings: []Setting{{Name: "slices", Value: "4"}, {Name: "nodes", Value: "two"}}, Gaps: []Gap{{Schema: "archive", What: "x"}, {What: "y"}, {Schema: "saltmere", What: "z"}},
		Schemas: []*Schema{{Name: "archive"}, {Name: "saltmere", Tables: []*Table{gauge, {Schema: "saltmere", Name: "mark", Kind: Foreign}, reading,
			{Schema: "saltmere", Name: "reading_2026", Kind: Ordinary, PartitionOf: &whole, Inherits: []Ref{mark}, Extension: "tides"}, {Schema: "saltmere", Name: "station", Kind: Virtual}},
			Sequences: []*Sequence{{Name: "numbers"}}}}}
	l := c.Lookup()
	if got := l.Referrers(station); len(got) != 1 || got[0].Table != gauge || got[0].ForeignKey != gauge.ForeignKeys[0] || len(l.Referrers(mark)) > 0 {
		t.Errorf("what refers to station: %v", got)
	}
	if got := l.Accepted(mark); len(got) != 1 || got[0].Table != gauge || len(l.Accepted(station)) > 0 {
		t.Errorf("what was accepted to refer to mark: %v", got)
	}
	if l.Table(part) == nil || l.Table(Ref{"archive", "gauge"}) != nil || l.Sequence(Ref{"saltmere", "numbers"}) == nil || l.Sequence(station) != nil {
		t.Error("the lookup finds what is not there, or not what is")
	}
	if p, h := l.Partitions(whole), l.Heirs(mark); len(p) != 1 || p[0].Ref() != part || len(h) != 1 || h[0] != p[0] || len(l.Heirs(whole)) > 0 {
		t.Errorf("partitions %v, heirs %v", p, h)
	}
	if got := l.Table(part).Parents(); !slices.Equal(got, []Ref{whole, mark}) || len(gauge.Parents()) > 0 {
		t.Errorf("the parents of a partition: %v", got)
	}
	if !c.Referred(station) || c.Referred(mark) {
		t.Error("referred to: by foreign keys alone")
	}
	if !gauge.Has("strict") || gauge.Has("temporary") || gauge.Column("at") == nil || gauge.Column("AT") != nil || gauge.Index("x") == nil || gauge.Index("y") != nil {
		t.Error("the table has what it has not, or not what it has")
	}
	if !gauge.HasColumns([]string{"id", "at"}) || gauge.HasColumns([]string{"id", "gone"}) || !gauge.Refers("station_id") || gauge.Refers("id") {
		t.Error("columns and those that refer")
	}
	if !gauge.NotNull([]string{"id", "at"}) || gauge.NotNull([]string{"id", "station_id"}) || gauge.NotNull([]string{"gone"}) || !gauge.NotNull(nil) {
		t.Error("not null: all of the columns, and they have to be there")
	}
	if on := gauge.DependantsOn("at"); len(on) != 2 || len(gauge.DependantsOn("id")) != 1 {
		t.Errorf("what leans on at: %v", on)
	}
	for name, own := range map[string]bool{"gauge": true, "reading": true, "mark": false, "station": false, "reading_2026": false} {
		if got := c.Table(Ref{"saltmere", name}).IsOwn(); got != own {
			t.Errorf("%s is its owner's to change: %v", name, got)
		}
	}
	if got := reading.CutBy(single{}); !slices.Equal(got, []string{"day", "hour"}) {
		t.Errorf("reading is partitioned by %v", got)
	}
	if c.Slices() != 4 || c.Nodes() != 0 || (&Catalog{}).Slices() != 0 {
		t.Errorf("%d slices, %d nodes", c.Slices(), c.Nodes())
	}
	for _, s := range []struct {
		rows []int64
		want float64
	}{{nil, 0}, {[]int64{0, 0}, 0}, {[]int64{5, 5}, 1}, {[]int64{9, 0, 0}, 3}, {[]int64{1, 3}, 1.5}} {
		if got := (&Table{Stats: TableStats{Slices: s.rows}}).Skew(); got != s.want {
			t.Errorf("the skew of %v: %g", s.rows, got)
		}
	}
	if s := c.Schema("saltmere"); s.Size() != 6 || (&Schema{Views: []*View{{}}, Types: []*UserType{{}}, Routines: []*Routine{{}}, Objects: []*Object{{}}}).Size() != 4 {
		t.Errorf("saltmere holds %d things", s.Size())
	}
	if err := c.Only(Scope{Schemas: []string{"gone"}}); err == nil || len(c.Schemas) != 2 {
		t.Errorf("a schema that is not there: %v", err)
	}
	if err := c.Only(Scope{Schemas: []string{"saltmere"}}); err != nil || len(c.Schemas) != 1 || len(c.Gaps) != 2 {
		t.Errorf("saltmere alone: %v, %v", err, c.Gaps)
	}
	n := NewNames(c, 20)
	if n.Take("saltmere", "Tide"); !n.Taken("saltmere", "tide") || n.Taken("archive", "tide") || n.Taken("saltmere", "ebb") {
		t.Error("names in use")
	}
}

// TestSpreadSays: how the rows of a cluster lie, in words, and when two orders are one.
func TestSpreadSays(t *testing.T) {
	for want, s := range map[string]*Spread{"not known": nil, "by a": {Style: "key", Column: "a"}, "on every node": {Style: "all"}, "evenly": {Style: "even"}, "as the engine chooses": {Style: "auto"}} {
		if s.String() != want {
			t.Errorf("%s, want %s", s, want)
		}
	}
	a, both, other, inter := &SortKey{Columns: []string{"a"}}, &SortKey{Columns: []string{"a", "b"}}, &SortKey{Columns: []string{"a"}}, &SortKey{Columns: []string{"a"}, Interleaved: true}
	if a.String() != "by a" || both.String() != "by a, b" || inter.String() != "interleaved by a" || (*SortKey)(nil).String() != "none" || (&SortKey{}).String() != "none" {
		t.Errorf("%s; %s; %s", a, both, inter)
	}
	if !a.Equal(other) || a.Equal(both) || a.Equal(inter) || a.Equal(nil) || (*SortKey)(nil).Equal(a) || !(*SortKey)(nil).Equal(nil) {
		t.Error("which orders are one")
	}
}
