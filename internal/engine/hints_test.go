package engine

import (
	"fmt"
	"slices"
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
