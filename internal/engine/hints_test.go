package engine

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine/sqllex"
)

// TestHints: what calls for an index by its name keeps it from being dropped or renamed.
func TestHints(t *testing.T) {
	table := func(name string, indexes ...string) *catalog.Table {
		t := &catalog.Table{Schema: "tide", Name: name, Kind: catalog.Ordinary, Columns: []*catalog.Column{{Name: "code"}}}
		for _, x := range indexes {
			t.Indexes = append(t.Indexes, &catalog.Index{Name: x, Origin: catalog.ByPerson, Parts: []catalog.IndexPart{{Column: "code"}}})
		}
		return t
	}
	station, gauge := table("station", "by_code", "Again", "free"), table("gauge", "by_code", "alone")
	gauge.Triggers = []*catalog.Trigger{{Name: "on_gauge", Definition: "CREATE TRIGGER on_gauge AFTER INSERT ON gauge FOR EACH ROW DELETE FROM station FORCE INDEX (AGAIN)"}}
	c := &catalog.Catalog{Schemas: []*catalog.Schema{{Name: "tide", Tables: []*catalog.Table{gauge, station},
		Views: []*catalog.View{{Name: "seen", Definition: "SELECT 1 FROM station USE INDEX (by_code)", Triggers: []*catalog.Trigger{{Name: "on_seen", Definition: "DELETE FROM gauge USE INDEX (alone)"}}},
			{Name: "free", Definition: "SELECT free FROM station"}},
		Routines: []*catalog.Routine{{Name: "tend", Kind: "procedure", Definition: "PREPARE q FROM 'SELECT 1 FROM gauge FORCE INDEX (by_code), other USE INDEX (free)'"}}}}}
	Hints(c, sqllex.Dialect{Backquotes: true, Hints: sqllex.UseIndex})
	var got []string
	for _, of := range []*catalog.Table{gauge, station} {
		for _, d := range of.Dependants {
			got = append(got, fmt.Sprintf("%s %s on %s.%s", d.Kind, d.Name, of.Name, d.On))
		}
	}
	slices.Sort(got)
	want := []string{"the text of procedure tide.tend on gauge.by_code", "the text of trigger tide.on_gauge on station.Again", "the text of trigger tide.on_seen on gauge.alone", "the text of view tide.seen on station.by_code"}
	if !slices.Equal(got, want) {
		t.Errorf("%q, want %q", got, want)
	}
	for name, free := range map[string]bool{"by_code": false, "Again": false, "free": true} {
		drop, rename := change.DropIndex{Table: station.Ref(), Name: name}, change.Rename{Table: station.Ref(), Kind: change.RenameIndex, From: name, To: "other"}
		for _, ch := range []change.Change{drop, rename} {
			if why := change.Bar(c, ch); (why == "") != free {
				t.Errorf("%s: %q", ch.Title(), why)
			}
		}
	}
}

// TestInferred: which unique indexes an ON CONFLICT calls for, and what may be done to them.
func TestInferred(t *testing.T) {
	index := func(name string, origin catalog.Origin, predicate string, columns ...string) *catalog.Index {
		x := &catalog.Index{Name: name, Origin: origin, Unique: true, Predicate: predicate}
		for _, c := range columns {
			x.Parts = append(x.Parts, catalog.IndexPart{Column: c})
		}
		return x
	}
	berth := &catalog.Table{Schema: "tide", Name: "berth", Kind: catalog.Ordinary, Columns: []*catalog.Column{{Name: "pier"}, {Name: "slot"}}, UniqueKeys: []*catalog.Key{{Name: "both", Index: "both", Columns: []string{"slot", "pier"}}},
		Indexes: []*catalog.Index{index("again", catalog.ByPerson, "", "pier", "slot"), index("both", catalog.ByUniqueKey, "", "slot", "pier"), index("some", catalog.ByPerson, "slot > 1", "pier", "slot"), index("plain", catalog.ByPerson, "", "pier"), index("high", catalog.ByPerson, "", "pier", "")}}
	plain := index("dead", catalog.ByPerson, "", "pier", "slot")
	plain.Invalid = true
	berth.Indexes = append(berth.Indexes, plain)
	for columns, want := range map[string]string{"pier,slot": "[some both]", "SLOT,pier": "[some both]", "pier": "[plain]", "slot": "[]", "pier,slot,pier": "[]"} {
		var got []string
		for _, x := range inferred(berth, sqllex.Conflict{Table: "berth", Columns: strings.Split(columns, ",")}) {
			got = append(got, x.Name)
		}
		if fmt.Sprint(got) != want {
			t.Errorf("(%s): %v, want %s", columns, got, want)
		}
	}
	if got := inferred(berth, sqllex.Conflict{Table: "berth", Columns: []string{"pier"}, Others: true}); len(got) != 1 || got[0].Name != "high" {
		t.Errorf("of expressions: %v", got)
	}
	c := &catalog.Catalog{Schemas: []*catalog.Schema{{Name: "tide", Tables: []*catalog.Table{berth}, Routines: []*catalog.Routine{{Name: "log", Kind: "function", Definition: "INSERT INTO tide.Berth VALUES (1, 2) ON CONFLICT (pier, slot) DO NOTHING"}}}}}
	Hints(c, sqllex.Dialect{Infers: true})
	both := change.Uniqueness{Key: berth.UniqueKeys[0]}
	for title, x := range map[string]struct {
		ch   change.Change
		free bool
	}{
		"the key":                            {change.DropKey{Table: berth.Ref(), Name: "both"}, false},
		"one beside it":                      {change.DropIndex{Table: berth.Ref(), Name: "again"}, true},
		"one with a condition":               {change.DropIndex{Table: berth.Ref(), Name: "some"}, false},
		"another name":                       {change.Rename{Table: berth.Ref(), Kind: change.RenameIndex, From: "some", To: "other"}, true},
		"the key by an index on the columns": {change.ReplaceKey{Table: berth.Ref(), From: both, To: change.Uniqueness{Index: index("new", catalog.ByPerson, "", "pier", "slot")}}, true},
		"the key by one with a condition":    {change.ReplaceKey{Table: berth.Ref(), From: both, To: change.Uniqueness{Index: index("new", catalog.ByPerson, "slot > 2", "pier", "slot")}}, false},
		"the key by another":                 {change.ReplaceKey{Table: berth.Ref(), From: both, To: change.Uniqueness{Index: index("new", catalog.ByPerson, "", "pier")}}, false},
	} {
		if why := change.Bar(c, x.ch); (why == "") != x.free {
			t.Errorf("%s: %q", title, why)
		}
	}
}
