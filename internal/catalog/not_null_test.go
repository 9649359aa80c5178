package catalog

import (
	"reflect"
	"testing"
)

// naming stands for an engine that names what forbids null.
var naming = Abilities{NotNullName: func(table, column string) string { return table + "_" + column + "_not_null" }}

func family() *Catalog {
	required := func(name string, n *NotNull) *Column {
		return &Column{Name: name, NotNull: n, Inherited: name != "own"}
	}
	parent := &Table{Schema: "s", Name: "station", Columns: []*Column{{Name: "plain"}, {Name: "named", NotNull: &NotNull{Name: "needed"}}, {Name: "alone", NotNull: &NotNull{NoInherit: true}}, {Name: "free", Nullable: true}, {Name: "later", Nullable: true, NotNull: &NotNull{Name: "some day", NotValidated: true}}}}
	child := &Table{Schema: "s", Name: "tower", Inherits: []Ref{{"s", "station"}}, Columns: []*Column{required("plain", nil), required("named", nil), required("alone", nil), required("later", nil), required("own", nil), {Name: "free", Nullable: true}}}
	part := &Table{Schema: "s", Name: "part", PartitionOf: &Ref{"s", "station"}, Columns: []*Column{required("plain", &NotNull{Name: "by itself"}), required("named", nil)}}
	heir := &Table{Schema: "s", Name: "mast", Inherits: []Ref{{"s", "gone"}, {"s", "tower"}}, Columns: []*Column{required("named", nil)}}
	return &Catalog{Schemas: []*Schema{{Name: "s", Tables: []*Table{parent, child, part, heir}}}}
}

// TestNotNullNames: a constraint that forbids null is called as it says, as its parent's is, or as
// the engine calls it.
func TestNotNullNames(t *testing.T) {
	c := family()
	l := c.Lookup()
	for table, want := range map[string]map[string]string{
		"station": {"plain": "station_plain_not_null", "named": "needed", "alone": "station_alone_not_null", "later": "some day"},
		"tower":   {"plain": "station_plain_not_null", "named": "needed", "alone": "tower_alone_not_null", "later": "some day", "own": "tower_own_not_null"},
		"part":    {"plain": "by itself", "named": "needed"},
		"mast":    {"named": "needed"},
	} {
		x := l.Table(Ref{"s", table})
		names := l.NotNullNames(x, naming)
		if !reflect.DeepEqual(names, want) {
			t.Errorf("%s: %v, not %v", table, names, want)
		}
		if len(l.NotNullNames(x, Abilities{})) > 0 {
			t.Errorf("%s: names where the engine has none", table)
		}
		was := x.Clone()
		if l.NameNotNull(x, names, naming); !reflect.DeepEqual(x, was) {
			t.Errorf("%s: its own names make it another: %+v", table, x)
		}
	}
}

// TestNameNotNull: a name that does not go without saying is noted, and what else there is to say
// is kept.
func TestNameNotNull(t *testing.T) {
	c := family()
	l := c.Lookup()
	tower := l.Table(Ref{"s", "tower"})
	tower.Column("own").NotNull = &NotNull{Comment: "why", NoInherit: true}
	l.NameNotNull(tower, map[string]string{"plain": "tower_plain_not_null", "named": "needed", "own": "mine"}, naming)
	for column, want := range map[string]*NotNull{"plain": {Name: "tower_plain_not_null"}, "named": nil, "own": {Name: "mine", Comment: "why", NoInherit: true}, "alone": nil} {
		if got := tower.Column(column).NotNull; !reflect.DeepEqual(got, want) {
			t.Errorf("%s: %+v, not %+v", column, got, want)
		}
	}
	l.NameNotNull(tower, map[string]string{"own": "tower_own_not_null"}, naming)
	if got := tower.Column("own").NotNull; got == nil || got.Name != "" || got.Comment != "why" {
		t.Errorf("called as the engine does: %+v", got)
	}
}

// TestFreeNotNullName: the engine's name, or with a number where another constraint of the table
// bears it.
func TestFreeNotNullName(t *testing.T) {
	const plain = "g_a_not_null"
	for name, x := range map[string]*Table{
		"":            {},
		"check":       {Checks: []*Check{{Name: plain}}},
		"primary key": {PrimaryKey: &Key{Name: plain}},
		"unique key":  {UniqueKeys: []*Key{{Name: plain}}},
		"foreign key": {ForeignKeys: []*ForeignKey{{Name: plain}}},
		"not null":    {Columns: []*Column{{Name: "b", NotNull: &NotNull{Name: plain}}}},
	} {
		want := plain
		if name != "" {
			want += "1"
		}
		if x.Name = "g"; x.FreeNotNullName("a", naming) != want {
			t.Errorf("beside a %s: %s", name, x.FreeNotNullName("a", naming))
		}
	}
	if got := (&Table{Name: "g", Checks: []*Check{{Name: plain}, {Name: plain + "1"}}}).FreeNotNullName("a", naming); got != plain+"2" {
		t.Errorf("beside two: %s", got)
	}
}

func TestValidated(t *testing.T) {
	for _, x := range []struct{ is, want *NotNull }{{nil, nil}, {&NotNull{NotValidated: true}, nil}, {&NotNull{Name: "n", NotValidated: true}, &NotNull{Name: "n"}}, {&NotNull{Comment: "c"}, &NotNull{Comment: "c"}}} {
		if got := x.is.Validated(); !reflect.DeepEqual(got, x.want) {
			t.Errorf("%+v validated: %+v", x.is, got)
		}
	}
	for _, x := range []struct {
		c    Column
		want bool
	}{{Column{}, true}, {Column{Nullable: true}, false}, {Column{Nullable: true, NotNull: &NotNull{NotValidated: true}}, true}} {
		if got := x.c.ForbidsNull(); got != x.want {
			t.Errorf("%+v forbids null: %v", x.c, got)
		}
	}
}
