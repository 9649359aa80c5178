package catalog_test

import (
	"slices"
	"strings"
	"testing"

	"nexdal/internal/catalog"
	"nexdal/test/model"
)

// TestRespell: what is named in one place is respelled in all others, there and back.
func TestRespell(t *testing.T) {
	c := model.Filled()
	small := map[string]bool{}
	for _, leaf := range texts(c) {
		if strings.HasSuffix(leaf.path, ".Columns.Name") || strings.HasSuffix(leaf.path, ".Tables.Name") {
			small[leaf.value] = true
		}
	}
	up := func(name string) string {
		if small[name] {
			return strings.ToUpper(name)
		}
		return name
	}
	c.Respell(up)
	said := 0
	for _, leaf := range texts(c) {
		if small[strings.ToLower(leaf.value)] && leaf.value == strings.ToUpper(leaf.value) {
			said++
		}
	}
	if said < len(small) {
		t.Errorf("%d of %d names are in capitals", said, len(small))
	}
	c.Respell(func(name string) string {
		if low := strings.ToLower(name); small[low] {
			return low
		}
		return name
	})
	if d := model.Diff(model.Filled(), c); d != "" {
		t.Errorf("there and back: %s", d)
	}
}

// TestRespellKeepsApart: two names never become one, and references go where they went.
func TestRespellKeepsApart(t *testing.T) {
	c := &catalog.Catalog{Schemas: []*catalog.Schema{{Name: "saltmere", Tables: []*catalog.Table{
		{Schema: "saltmere", Name: "raft", Columns: []*catalog.Column{{Name: "no"}, {Name: "Pier"}},
			ForeignKeys: []*catalog.ForeignKey{{Name: "raft_pier", Columns: []string{"Pier"}, Target: catalog.Ref{Schema: "saltmere", Table: "pier"}, TargetColumns: []string{"no"}}},
			Checks:      []*catalog.Check{{Name: "raft_no", Column: "no"}},
			Indexes:     []*catalog.Index{{Name: "raft_idx", Parts: []catalog.IndexPart{{Column: "no"}}, Include: []string{"Pier"}}}},
		{Schema: "saltmere", Name: "RAFT"},
		{Schema: "saltmere", Name: "pier", Columns: []*catalog.Column{{Name: "no", Sequence: &catalog.Ref{Schema: "saltmere", Table: "pier_seq"}}}, PrimaryKey: &catalog.Key{Name: "pier_pkey", Columns: []string{"no"}, Index: "pier_pkey"}},
	}, Sequences: []*catalog.Sequence{{Name: "pier_seq", OwnedBy: &catalog.ColumnRef{Schema: "saltmere", Table: "pier", Column: "no"}}}}}}
	c.Respell(strings.ToUpper)
	s := c.Schema("SALTMERE")
	if s == nil {
		t.Fatal("the schema kept its name")
	}
	var names []string
	for _, table := range s.Tables {
		names = append(names, table.Name)
	}
	// RAFT is what two tables would be called, and the column Pier is none of them.
	if want := []string{"PIER", "RAFT", "raft"}; !slices.Equal(names, want) {
		t.Errorf("tables are %q, want %q", names, want)
	}
	raft, pier := c.Table(catalog.Ref{Schema: "SALTMERE", Table: "raft"}), c.Table(catalog.Ref{Schema: "SALTMERE", Table: "PIER"})
	f := raft.ForeignKeys[0]
	if f.Name != "RAFT_PIER" || !raft.HasColumns(f.Columns) || c.Table(f.Target) != pier || !pier.HasColumns(f.TargetColumns) {
		t.Errorf("the reference is %+v", f)
	}
	if x := raft.Indexes[0]; x.Name != "RAFT_IDX" || !raft.HasColumns(x.Columns()) || !raft.HasColumns(x.Include) || raft.Checks[0].Column != "NO" {
		t.Errorf("index %+v, check %+v", x, raft.Checks[0])
	}
	if k := pier.PrimaryKey; k.Name != k.Index || k.Name != "PIER_PKEY" || !pier.HasColumns(k.Columns) {
		t.Errorf("the key is %+v", k)
	}
	q := s.Sequences[0]
	if *pier.Columns[0].Sequence != (catalog.Ref{Schema: "SALTMERE", Table: q.Name}) || q.OwnedBy.Table != pier.Name || q.OwnedBy.Column != pier.Columns[0].Name || q.OwnedBy.Schema != "SALTMERE" {
		t.Errorf("sequence %+v of %+v", q, q.OwnedBy)
	}
}
