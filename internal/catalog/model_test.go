package catalog_test

import (
	"bytes"
	"reflect"
	"slices"
	"strings"
	"testing"

	"nexdal/internal/catalog"
	"nexdal/test/model"
)

// TestCloneSharesNothing: altering a copy leaves the original alone, whatever field is
// altered.
func TestCloneSharesNothing(t *testing.T) {
	c := model.Filled()
	d := c.Clone()
	if !reflect.DeepEqual(c, d) {
		t.Errorf("the copy differs: %s", model.Diff(c, d))
	}
	for _, path := range model.Shared(c, d) {
		t.Errorf("shared: %s", path)
	}
	table := c.Schemas[0].Tables[0]
	for _, path := range model.Shared(table, table.Clone()) {
		t.Errorf("a table by itself, shared: %s", path)
	}
	var none catalog.Catalog
	if !reflect.DeepEqual(&none, none.Clone()) {
		t.Error("the copy of an empty catalog is not empty")
	}
}

// TestRoundTrip: a survey file holds every field of the model but those named here.
func TestRoundTrip(t *testing.T) {
	c := model.Filled()
	for _, table := range c.Tables() {
		table.Accepted = nil // what was accepted is kept in the decisions
		for _, p := range table.Partitions {
			p.Rows = nil // its parts hold the rows
		}
	}
	for _, s := range c.Schemas {
		for _, v := range s.Views {
			for _, x := range v.Indexes {
				x.Bytes, x.Scans = nil, nil // read of tables alone
			}
		}
		for _, y := range s.Types {
			for _, a := range y.Attributes {
				a.Stats = catalog.ColumnStats{} // no rows are made of it
			}
		}
	}
	written := func(figures bool) *catalog.Catalog {
		var b bytes.Buffer
		if err := c.Write(&b, figures); err != nil {
			t.Fatal(err)
		}
		again, err := catalog.Read(&b)
		if err != nil {
			t.Fatal(err)
		}
		return again
	}
	if d := model.Diff(c, written(true)); d != "" {
		t.Errorf("with figures: %s", d)
	}
	bare := written(false)
	for _, table := range c.Tables() {
		table.Stats = catalog.TableStats{}
		for _, col := range table.Columns {
			col.Stats = catalog.ColumnStats{}
		}
		for _, x := range table.Indexes {
			x.Bytes, x.Scans = nil, nil
		}
		for _, p := range table.Partitions {
			for _, sub := range p.Parts {
				sub.Rows = nil
			}
		}
	}
	for _, s := range c.Schemas {
		for _, q := range s.Sequences {
			q.Last = nil
		}
	}
	if d := model.Diff(c, bare); d != "" {
		t.Errorf("without figures: %s", d)
	}
}

// TestRenameSchema: nothing speaks of the old name any more, and nothing else changes.
func TestRenameSchema(t *testing.T) {
	c := model.Filled()
	other := c.Schemas[0].Name
	c.RenameSchema("saltmere", "low_water")
	for _, leaf := range texts(c) {
		if leaf.value == "saltmere" {
			t.Errorf("%s still says saltmere", leaf.path)
		}
	}
	if c.Schema("low_water") == nil || c.Schema(other) == nil {
		t.Error("the schemas have not the names that they should have")
	}
	c.RenameSchema("low_water", "saltmere")
	if d := model.Diff(model.Filled(), c); d != "" {
		t.Errorf("renamed there and back: %s", d)
	}
}

type text struct{ path, value string }

// texts lists every text of a value with its path.
func texts(p any) []text {
	var all []text
	var walk func(v reflect.Value, path string)
	walk = func(v reflect.Value, path string) {
		switch v.Kind() {
		case reflect.Pointer:
			if !v.IsNil() {
				walk(v.Elem(), path)
			}
		case reflect.Slice:
			for i := range v.Len() {
				walk(v.Index(i), path)
			}
		case reflect.Struct:
			for i := range v.NumField() {
				if v.Type().Field(i).IsExported() {
					walk(v.Field(i), path+"."+v.Type().Field(i).Name)
				}
			}
		case reflect.String:
			all = append(all, text{path, v.String()})
		}
	}
	walk(reflect.ValueOf(p), "")
	return all
}

// figures are the fields that two surveys of one structure may differ in.
var figures = []string{"Surveyed", "Faults", "Schemas.Rights", "Schemas.Tables.Rights", "Schemas.Views.Rights", "Schemas.Sequences.Rights", "Schemas.Types.Rights", "Schemas.Routines.Rights",
	"Schemas.Views.Dependants", "Schemas.Tables.Triggers.Definer", "Schemas.Tables.Objects.Definer", "Schemas.Objects.Definer", "Schemas.Views.Triggers.Definer", "Schemas.Sequences.Dependants",
	"Schemas.Sequences.Last", "Schemas.Sequences.UsedBy", "Schemas.Views.Columns.Type", "Schemas.Routines.Touches",
	"Schemas.Tables.Definition", "Schemas.Tables.NameText", "Schemas.Tables.Needs", "Schemas.Tables.Dependants", "Schemas.Tables.Accepted", "Schemas.Tables.Stats",
	"Schemas.Tables.Columns.Stats", "Schemas.Tables.Indexes.Definition", "Schemas.Tables.Indexes.Bytes", "Schemas.Tables.Indexes.Scans",
	"Schemas.Tables.Partitions.Rows", "Schemas.Tables.Partitions.Parts.Rows"}

// TestComparable: of every field, whether two catalogs that differ in it alone count as
// one structure.
func TestComparable(t *testing.T) {
	build := func() *catalog.Catalog {
		c := model.Filled()
		for _, table := range c.Tables() {
			table.Observed = false // whose columns do not count: TestObserved
			for _, x := range table.Indexes {
				x.SystemNamed = false
			}
		}
		for _, s := range c.Schemas {
			for _, q := range s.Sequences {
				q.Identity = false // one that comes and goes with its column
			}
			for _, v := range s.Views {
				v.Follows = false // whose columns do not count: TestFollows
			}
		}
		return c
	}
	want := build().Comparable()
	all := model.Leaves(build())
	for i, leaf := range all {
		c := build()
		again := model.Leaves(c)
		if again[i].Path != leaf.Path {
			t.Fatal("two catalogs with two lists of leaves")
		}
		again[i].Alter()
		ignored := slices.ContainsFunc(figures, func(f string) bool {
			return leaf.Path == f || strings.HasPrefix(leaf.Path, f+".") || strings.HasPrefix(leaf.Path, f+"[")
		})
		d := model.Diff(want, c.Comparable())
		if ignored && d != "" {
			t.Errorf("%s counts: %s", leaf.Path, d)
		}
		if !ignored && d == "" {
			t.Errorf("%s does not count", leaf.Path)
		}
	}
	if len(all) < 250 {
		t.Errorf("only %d fields were looked at", len(all))
	}
}

// TestFollows: the columns of a view that has those of its tables count with these alone; of any
// other they count.
func TestFollows(t *testing.T) {
	made := func(follows bool, columns ...string) *catalog.Catalog {
		v := &catalog.View{Name: "v", Follows: follows}
		for _, name := range columns {
			v.Columns = append(v.Columns, &catalog.ViewColumn{Name: name})
		}
		return (&catalog.Catalog{Schemas: []*catalog.Schema{{Name: "main", Views: []*catalog.View{v}}}}).Comparable()
	}
	if d := model.Diff(made(true, "a"), made(true, "a", "b")); d != "" {
		t.Errorf("the columns of a view that follows count: %s", d)
	}
	if model.Diff(made(false, "a"), made(false, "a", "b")) == "" {
		t.Error("the columns of a view do not count")
	}
	if model.Diff(made(false, "a"), made(true, "a")) == "" {
		t.Error("that a view follows does not count")
	}
}

// TestFingerprint: it changes with every field of the table that is structure, and with
// no other table.
func TestFingerprint(t *testing.T) {
	build := func() *catalog.Catalog {
		c := model.Filled()
		c.Tables()[0].Observed = false // whose columns do not count: TestObserved
		return c
	}
	c := build()
	ref, other := c.Tables()[0].Ref(), c.Tables()[1].Ref()
	print, beside := c.Fingerprint([]catalog.Ref{ref}), c.Fingerprint([]catalog.Ref{other})
	for i, leaf := range model.Leaves(c.Tables()[0]) {
		d := build()
		table := d.Tables()[0]
		model.Leaves(table)[i].Alter()
		if leaf.Path == "Name" || leaf.Path == "Schema" {
			continue // another table
		}
		figure := strings.Contains(leaf.Path, "Stats") || strings.HasPrefix(leaf.Path, "Rights") || strings.HasPrefix(leaf.Path, "Accepted") || strings.HasSuffix(leaf.Path, ".Rows") || leaf.Path == "Indexes.Bytes" || leaf.Path == "Indexes.Scans"
		if same := d.Fingerprint([]catalog.Ref{ref}) == print; same != figure {
			t.Errorf("%s: the digest stays the same: %v", leaf.Path, same)
		}
		if d.Fingerprint([]catalog.Ref{other}) != beside {
			t.Errorf("%s: the digest of another table changes", leaf.Path)
		}
	}
	gone := catalog.Ref{Schema: "saltmere", Table: "gone"}
	if c.Fingerprint([]catalog.Ref{gone}) == c.Fingerprint(nil) || c.Fingerprint([]catalog.Ref{ref, other}) == c.Fingerprint([]catalog.Ref{other, ref}) {
		t.Error("a table that is absent, and the order, count")
	}
}

// TestObserved: columns that are only what rows were seen to hold are no structure that a
// script could go by; what is declared of such a table is.
func TestObserved(t *testing.T) {
	build := func() *catalog.Catalog {
		c := model.Filled()
		c.Tables()[0].Observed = true
		return c
	}
	c := build()
	refs := []catalog.Ref{c.Tables()[0].Ref()}
	print, want := c.Fingerprint(refs), c.Comparable()
	for what, alter := range map[string]func(*catalog.Table){
		"a column less": func(t *catalog.Table) { t.Columns = t.Columns[1:] },
		"a type":        func(t *catalog.Table) { t.Columns[0].Type.Native = "other" },
	} {
		d := build()
		alter(d.Tables()[0])
		if d.Fingerprint(refs) != print {
			t.Errorf("%s: another digest", what)
		}
		if diff := model.Diff(want, d.Comparable()); diff != "" {
			t.Errorf("%s: another structure: %s", what, diff)
		}
	}
	d := build()
	d.Tables()[0].Indexes[0].Unique = !d.Tables()[0].Indexes[0].Unique
	if d.Fingerprint(refs) == print || model.Diff(want, d.Comparable()) == "" {
		t.Error("an index is declared, and does not count")
	}
}
