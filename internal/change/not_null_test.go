package change

import (
	"reflect"
	"testing"

	"nexdal/internal/catalog"
)

var naming = catalog.Abilities{PartsAreTables: true, PartsShareIdentity: true, NotNullName: func(table, column string) string { return table + "_" + column + "_not_null" }}

func parted() *catalog.Catalog {
	whole := &catalog.Table{Schema: "s", Name: "reading", Kind: catalog.Partitioned, PartitionBy: &catalog.PartitionKey{Method: "range", Columns: []string{"at"}}, Columns: []*catalog.Column{
		{Name: "id", Identity: catalog.IdentityAlways, Sequence: &catalog.Ref{Schema: "s", Table: "reading_id_seq"}}, {Name: "at", NotNull: &catalog.NotNull{Name: "when"}}, {Name: "level", Nullable: true}}}
	part := &catalog.Table{Schema: "s", Name: "reading_1", Kind: catalog.Ordinary, PartitionOf: &catalog.Ref{Schema: "s", Table: "reading"}, Bounds: "FOR VALUES FROM ('2026-01-01') TO ('2027-01-01')", Columns: []*catalog.Column{
		{Name: "id", Identity: catalog.IdentityAlways, Inherited: true}, {Name: "at", Inherited: true}, {Name: "level", Nullable: true, Inherited: true}}}
	return &catalog.Catalog{Schemas: []*catalog.Schema{{Name: "s", Tables: []*catalog.Table{whole, part}}}}
}

// carry carries changes out, takes them back, and holds the end to the beginning.
func carry(t *testing.T, c *catalog.Catalog, ch Change, then func()) {
	t.Helper()
	before := c.Clone()
	it := Item{Change: ch}
	if err := it.Apply(c, naming); err != nil {
		t.Fatal(err)
	}
	then()
	back, err := (Plan{it}).Reverse(before, naming)
	if err != nil {
		t.Fatal(err)
	}
	for _, b := range back {
		if err := b.Apply(c, naming); err != nil {
			return // what only an engine takes back
		}
	}
	if !reflect.DeepEqual(c, before) {
		t.Errorf("%s: taken back, it is another", ch.Title())
	}
}

// TestDetachedKeepsNames: what forbids null in a part is called as the whole's was, and a
// number that the whole gave is none any more.
func TestDetachedKeepsNames(t *testing.T) {
	c := parted()
	part := catalog.Ref{Schema: "s", Table: "reading_1"}
	carry(t, c, DetachPartition{Of: catalog.Ref{Schema: "s", Table: "reading"}, Part: part}, func() {
		for column, want := range map[string]*catalog.NotNull{"id": {Name: "reading_id_not_null"}, "at": {Name: "when"}, "level": nil} {
			if got := c.Table(part).Column(column).NotNull; !reflect.DeepEqual(got, want) {
				t.Errorf("%s: %+v, not %+v", column, got, want)
			}
		}
		if id := c.Table(part).Column("id").Identity; id != catalog.NoIdentity {
			t.Errorf("numbered %s", id)
		}
	})
}

// TestMadePart: a new part is numbered as the whole is, and forbids null at once where the whole
// forbids it to what is written alone.
func TestMadePart(t *testing.T) {
	c := parted()
	whole := c.Table(catalog.Ref{Schema: "s", Table: "reading"})
	whole.Column("level").NotNull = &catalog.NotNull{Name: "some day", NotValidated: true}
	made := AddPartition{Of: whole.Ref(), Name: "reading_2", Bounds: "DEFAULT", Table: true}.Made(c, naming)
	if id := made.Column("id"); id.Identity != catalog.IdentityAlways || id.Sequence != nil {
		t.Errorf("numbered %+v", id)
	}
	if level := made.Column("level"); level.Nullable || level.NotNull != nil {
		t.Errorf("level: %+v", level)
	}
	if id := (AddPartition{Of: whole.Ref(), Name: "reading_2", Bounds: "DEFAULT", Table: true}).Made(c, catalog.Abilities{}).Column("id"); id.Identity != catalog.NoIdentity {
		t.Errorf("numbered %s where parts are not", id.Identity)
	}
}

// TestRenamedKeepsNames: what forbids null keeps its name when its table gets another.
func TestRenamedKeepsNames(t *testing.T) {
	c := &catalog.Catalog{Schemas: []*catalog.Schema{{Name: "s", Tables: []*catalog.Table{{Schema: "s", Name: "old", Kind: catalog.Ordinary, Columns: []*catalog.Column{{Name: "a"}, {Name: "b", NotNull: &catalog.NotNull{Name: "new_b_not_null", Comment: "c"}}, {Name: "n", Nullable: true}}}}}}}
	carry(t, c, RenameTable{Table: catalog.Ref{Schema: "s", Table: "old"}, To: "new"}, func() {
		x := c.Table(catalog.Ref{Schema: "s", Table: "new"})
		for column, want := range map[string]*catalog.NotNull{"a": {Name: "old_a_not_null"}, "b": {Comment: "c"}, "n": nil} {
			if got := x.Column(column).NotNull; !reflect.DeepEqual(got, want) {
				t.Errorf("%s: %+v, not %+v", column, got, want)
			}
		}
	})
}

// TestForbidNull: the constraint is there with its name, is validated where it was not, and comes
// back as it was, in the heirs too.
func TestForbidNull(t *testing.T) {
	on := catalog.Ref{Schema: "s", Table: "station"}
	build := func(n *catalog.NotNull, nullable bool, more ...*catalog.Check) *catalog.Catalog {
		heir := &catalog.Table{Schema: "s", Name: "tower", Kind: catalog.Ordinary, Inherits: []catalog.Ref{on}, Columns: []*catalog.Column{{Name: "name", Nullable: nullable, Inherited: true}}}
		if n != nil && n.NotValidated {
			heir.Columns[0].NotNull = &catalog.NotNull{NotValidated: true}
		}
		return &catalog.Catalog{Schemas: []*catalog.Schema{{Name: "s", Tables: []*catalog.Table{
			{Schema: "s", Name: "station", Kind: catalog.Ordinary, Checks: more, Columns: []*catalog.Column{{Name: "name", Nullable: nullable, NotNull: n}}}, heir}}}}
	}
	for name, x := range map[string]struct {
		c        *catalog.Catalog
		nullable bool
		want     *catalog.NotNull
	}{
		"forbidden":                {build(nil, true), false, nil},
		"its name is taken":        {build(nil, true, &catalog.Check{Name: "station_name_not_null", Expression: "name <> ''"}), false, &catalog.NotNull{Name: "station_name_not_null1"}},
		"validated":                {build(&catalog.NotNull{Name: "later", NotValidated: true, Comment: "c"}, true), false, &catalog.NotNull{Name: "later", Comment: "c"}},
		"validated, without names": {build(&catalog.NotNull{NotValidated: true}, true), false, nil},
		"allowed":                  {build(&catalog.NotNull{Name: "needed", Comment: "c"}, false), true, nil},
		"allowed again":            {build(&catalog.NotNull{Name: "later", NotValidated: true}, true), true, nil},
	} {
		carry(t, x.c, SetNullable{Table: on, Column: "name", Nullable: x.nullable}, func() {
			for _, table := range []catalog.Ref{on, {Schema: "s", Table: "tower"}} {
				col, want := x.c.Table(table).Column("name"), x.want
				if table != on {
					want = nil
				}
				if col.Nullable != x.nullable || !reflect.DeepEqual(col.NotNull, want) {
					t.Errorf("%s, %s: %+v with %+v", name, table, col, col.NotNull)
				}
			}
		})
	}
}
