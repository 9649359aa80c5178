package oracle

import (
	"testing"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqllex"
)

// TestAdoptEmptyText: a column that may not be null and begins with the empty text may be null
// here, unless the primary key forbids it; either is said.
func TestAdoptEmptyText(t *testing.T) {
	text := catalog.Type{Native: "varchar(20)", Family: catalog.Text, Length: 20}
	from := &catalog.Catalog{Engine: catalog.Engine{Name: "postgres"}, Schemas: []*catalog.Schema{{Name: "saltmere", Tables: []*catalog.Table{{Schema: "saltmere", Name: "raft", Kind: catalog.Ordinary,
		Columns: []*catalog.Column{{Name: "code", Type: text, Default: "''"}, {Name: "colour", Type: text, Default: "''"}, {Name: "note", Type: text, Nullable: true, Default: "''"},
			{Name: "kind", Type: text, Default: "'pier'"}, {Name: "mark", Type: text}},
		PrimaryKey: &catalog.Key{Name: "raft_pkey", Columns: []string{"code"}}}}}}}
	to, losses := Engine{}.Adopt(from, sqllex.Dialect{Small: true})
	said := map[string]bool{}
	for _, l := range losses {
		said[l.Why] = true
	}
	for _, c := range []struct {
		name, begins, says string
		nullable           bool
	}{
		{"CODE", "", "CODE: has lost its default, the empty text: it is a null, which the primary key does not take", false},
		{"COLOUR", "", "COLOUR: may be null, since the empty text, its default, is one", true},
		{"NOTE", "", "", true},
		{"KIND", "'pier'", "", false},
		{"MARK", "", "", false},
	} {
		col := to.Table(catalog.Ref{Schema: "SALTMERE", Table: "RAFT"}).Column(c.name)
		if col == nil || col.Default != c.begins || col.Nullable != c.nullable {
			t.Errorf("%s is %+v", c.name, col)
		}
		if c.says != "" && !said[c.says] {
			t.Errorf("%s: not said: %s in %v", c.name, c.says, losses)
		}
	}
}

// TestAdoptKeys: a list of columns has one key and one index, the strongest, and what a reference
// leads to is a key.
func TestAdoptKeys(t *testing.T) {
	number := catalog.Type{Native: "bigint", Family: catalog.Integer, Bits: 64}
	index := func(name string, unique bool) *catalog.Index {
		return &catalog.Index{Name: name, Origin: catalog.ByPerson, Method: "btree", Unique: unique, Parts: []catalog.IndexPart{{Column: "no"}}}
	}
	pier := &catalog.Table{Schema: "saltmere", Name: "pier", Kind: catalog.Ordinary, Columns: []*catalog.Column{{Name: "no", Type: number}},
		Indexes: []*catalog.Index{index("by_no", false), index("one_no", true), index("also_no", false)}}
	raft := &catalog.Table{Schema: "saltmere", Name: "raft", Kind: catalog.Ordinary, Columns: []*catalog.Column{{Name: "pier_no", Type: number}},
		ForeignKeys: []*catalog.ForeignKey{{Name: "raft_pier", Columns: []string{"pier_no"}, Target: pier.Ref(), TargetColumns: []string{"no"}, OnDelete: catalog.Cascade, OnUpdate: catalog.Cascade}}}
	to, losses := Engine{}.Adopt(&catalog.Catalog{Engine: catalog.Engine{Name: "postgres"}, Schemas: []*catalog.Schema{{Name: "saltmere", Tables: []*catalog.Table{pier, raft}}}}, sqllex.Dialect{Small: true})
	p, r := to.Table(catalog.Ref{Schema: "SALTMERE", Table: "PIER"}), to.Table(catalog.Ref{Schema: "SALTMERE", Table: "RAFT"})
	if len(p.UniqueKeys) != 1 || p.UniqueKeys[0].Name != "ONE_NO" || len(p.Indexes) != 1 || p.Indexes[0].Name != "ONE_NO" || p.Indexes[0].Origin != catalog.ByUniqueKey {
		t.Errorf("keys %+v, indexes %+v", p.UniqueKeys, p.Indexes)
	}
	if f := r.ForeignKeys[0]; f.OnDelete != catalog.Cascade || f.OnUpdate != catalog.NoAction || f.Target != p.Ref() {
		t.Errorf("the reference is %+v", f)
	}
	said := 0
	for _, l := range losses {
		switch l.Why {
		case "is left out: index ONE_NO is on the same columns", "does nothing when the key is updated: there is no ON UPDATE":
			said++
		}
	}
	if said != 3 {
		t.Errorf("said of it is %v", losses)
	}
}
