package change

import (
	"encoding/json"
	"strings"
	"testing"

	"nexdal/internal/catalog"
)

var station, gauge = catalog.Ref{Schema: "s", Table: "station"}, catalog.Ref{Schema: "s", Table: "gauge"}

// sample is a small catalog: station with a unique code, gauge that refers to
// it by code.
func sample() *catalog.Catalog {
	text := catalog.Type{Native: "text", Family: catalog.Text}
	c := &catalog.Catalog{Schemas: []*catalog.Schema{{Name: "s", Tables: []*catalog.Table{
		{Schema: "s", Name: "gauge", Kind: catalog.Ordinary,
			Columns:     []*catalog.Column{{Name: "id", Type: text}, {Name: "code", Type: text, Nullable: true}},
			PrimaryKey:  &catalog.Key{Name: "gauge_pkey", Columns: []string{"id"}, Index: "gauge_pkey"},
			ForeignKeys: []*catalog.ForeignKey{{Name: "f", Columns: []string{"code"}, Target: station, TargetColumns: []string{"code"}, TargetIndex: "station_code_key", OnDelete: catalog.SetNull, OnUpdate: catalog.NoAction}},
			Indexes:     []*catalog.Index{index("gauge_pkey", catalog.ByPrimaryKey, "id"), index("gauge_code", catalog.ByPerson, "code")}},
		{Schema: "s", Name: "station", Kind: catalog.Ordinary,
			Columns:    []*catalog.Column{{Name: "code", Type: text}, {Name: "name", Type: text, Nullable: true}},
			UniqueKeys: []*catalog.Key{{Name: "station_code_key", Columns: []string{"code"}, Index: "station_code_key"}},
			Indexes:    []*catalog.Index{index("station_code_key", catalog.ByUniqueKey, "code")}},
	}}}}
	c.Sort()
	return c
}

func index(name string, origin catalog.Origin, columns ...string) *catalog.Index {
	x := &catalog.Index{Name: name, Origin: origin, Method: "btree", Unique: origin != catalog.ByPerson}
	for _, c := range columns {
		x.Parts = append(x.Parts, catalog.IndexPart{Column: c})
	}
	return x
}

func promote() ReplaceKey {
	return ReplaceKey{station, Uniqueness{Key: &catalog.Key{Name: "station_code_key", Columns: []string{"code"}, Index: "station_code_key"}},
		Uniqueness{Primary: true, Key: &catalog.Key{Name: "station_pkey", Columns: []string{"code"}, Index: "station_pkey"}}}
}

// TestReverse: every change, alone and with the others, leads back exactly.
func TestReverse(t *testing.T) {
	old := sample().Table(gauge).ForeignKeys[0]
	restrict := old.Clone()
	restrict.OnDelete = catalog.Restrict
	text, number := catalog.Type{Native: "text", Family: catalog.Text}, catalog.Type{Native: "bigint", Family: catalog.Integer, Bits: 64}
	changes := []Change{
		AlterType{gauge, "id", text, number},
		SetNullable{Table: station, Column: "name"},
		AddColumn{Table: station, Column: &catalog.Column{Name: "id", Type: number}},
		AddKey{Table: gauge, Key: &catalog.Key{Name: "k", Columns: []string{"id", "code"}, Index: "k"}},
		promote(),
		AlterForeignKey{gauge, old, restrict},
		CreateIndex{Table: station, Index: index("station_name", catalog.ByPerson, "name")},
		DropIndex{gauge, "gauge_code", nil, false},
	}
	var all []Item
	for _, ch := range changes {
		one := Plan{{Change: ch}}
		thereAndBack(t, ch.Title(), one)
		all = append(all, Item{Change: ch, Answers: []string{ch.Title()}})
	}
	plan, left := Order(sample(), catalog.Abilities{}, all)
	if len(left) > 0 || len(plan) != len(changes) {
		t.Fatalf("left: %v", left)
	}
	thereAndBack(t, "all", plan)
}

func thereAndBack(t *testing.T, name string, plan Plan) {
	t.Helper()
	before := sample()
	after, err := plan.Apply(before, catalog.Abilities{})
	if err != nil {
		t.Fatalf("%s: %v", name, err)
	}
	if text(t, after) == text(t, before) {
		t.Errorf("%s changes nothing", name)
	}
	if text(t, before) != text(t, sample()) {
		t.Errorf("%s changes the catalog that it is applied to", name)
	}
	back, err := plan.Reverse(before, catalog.Abilities{})
	if err != nil {
		t.Fatalf("%s: %v", name, err)
	}
	again, err := back.Apply(after, catalog.Abilities{})
	if err != nil {
		t.Fatalf("%s reversed: %v", name, err)
	}
	if text(t, again) != text(t, before) {
		t.Errorf("%s: not back:\n%s\n%s", name, text(t, again), text(t, before))
	}
}

func text(t *testing.T, c *catalog.Catalog) string {
	t.Helper()
	b, err := json.Marshal(c.Comparable().Schemas)
	if err != nil {
		t.Fatal(err)
	}
	return string(b)
}

// TestReferencesFollow: what leans on a key that is replaced leans on the new.
func TestReferencesFollow(t *testing.T) {
	after, err := Plan{{Change: promote()}}.Apply(sample(), catalog.Abilities{})
	if err != nil {
		t.Fatal(err)
	}
	if got := after.Table(gauge).ForeignKeys[0].TargetIndex; got != "station_pkey" {
		t.Errorf("it leans on %s", got)
	}
}

// TestNeeded: of changes that serve the same, one is done and answers all.
func TestNeeded(t *testing.T) {
	create := func(name string, columns ...string) Item {
		return Item{Change: CreateIndex{Table: station, Index: index(name, catalog.ByPerson, columns...)}, Answers: []string{name}}
	}
	key := Item{Change: AddKey{Table: station, Key: &catalog.Key{Name: "k", Columns: []string{"name", "code"}, Index: "k"}}, Answers: []string{"k"}}
	for _, c := range []struct {
		name  string
		items []Item
		want  string
	}{
		{"the same twice", []Item{create("a", "name"), create("a", "name")}, "a"},
		{"two names for one", []Item{create("a", "name"), create("b", "name")}, "a+b"},
		{"a longer one", []Item{create("a", "name"), create("b", "name", "code")}, "b+a"},
		{"another order", []Item{create("a", "code", "name"), create("b", "name", "code")}, "a+b"},
		{"not the beginning", []Item{create("a", "code"), create("b", "name", "code")}, "a b"},
		{"a key serves", []Item{create("a", "name"), key}, "k+a"},
	} {
		for i := range c.items { // fresh copies: plain indexes enforce nothing
			if x, ok := c.items[i].Change.(CreateIndex); ok {
				x.Index.Unique = false
			}
		}
		plan, _ := Order(sample(), catalog.Abilities{}, c.items)
		var got []string
		for _, it := range plan {
			got = append(got, strings.Join(it.Answers, "+"))
		}
		if strings.Join(got, " ") != c.want {
			t.Errorf("%s: %v, want %s", c.name, got, c.want)
		}
	}
}

// TestNotFitting: a change that does not fit the catalog is left out with the
// reason, and the model stays as it was.
func TestNotFitting(t *testing.T) {
	nowhere := catalog.Ref{Schema: "s", Table: "nowhere"}
	for _, ch := range []Change{
		DropIndex{nowhere, "x", nil, false}, DropIndex{station, "nothing", nil, false}, DropIndex{station, "station_code_key", nil, false},
		CreateIndex{Table: gauge, Index: index("gauge_code", catalog.ByPerson, "id")},
		AlterType{gauge, "code", catalog.Type{Native: "bigint"}, catalog.Type{Native: "text"}}, AlterType{gauge, "nothing", catalog.Type{}, catalog.Type{}},
		SetNullable{Table: nowhere, Column: "a", Nullable: true}, AddColumn{Table: station, Column: &catalog.Column{Name: "code"}}, DropColumn{station, "nothing"},
		AddKey{Table: gauge, Key: &catalog.Key{Columns: []string{"id"}}, Primary: true}, AddKey{Table: station, Key: &catalog.Key{Columns: []string{"nothing"}}},
		DropKey{Table: station, Columns: []string{"name"}}, ReplaceKey{gauge, Uniqueness{Index: index("gauge_code", catalog.ByPerson, "code")}, Uniqueness{Primary: true, Key: &catalog.Key{Columns: []string{"code"}}}},
		AlterForeignKey{station, &catalog.ForeignKey{}, &catalog.ForeignKey{}}, SetSetting{Name: "unknown"},
	} {
		plan, left := Order(sample(), catalog.Abilities{}, []Item{{Change: ch}})
		if len(plan) != 0 || len(left) != 1 || left[0].Reason == "" {
			t.Errorf("%s: plan %v, left %v", ch.Title(), plan, left)
		}
	}
	if back, err := Reverse(DropColumn{station, "name"}, sample()); err != nil || back.(AddColumn).Column.Name != "name" {
		t.Errorf("dropping a column is taken back by %v, %v", back, err)
	}
}
