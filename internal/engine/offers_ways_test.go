package engine

import (
	"strings"
	"testing"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
)

// TestWaysIn: rows come into a table by its parts, by those that inherit from it and by views of it
// alone, and what programs do there counts.
func TestWaysIn(t *testing.T) {
	shows := func(name string, columns string, instead bool, of ...string) *catalog.View {
		v := &catalog.View{Name: name, Reads: []catalog.ObjectRef{{Kind: "function", Schema: "s", Name: "f"}}}
		for _, c := range strings.Fields(columns) {
			v.Columns = append(v.Columns, &catalog.ViewColumn{Name: c})
		}
		for _, o := range of {
			v.Reads = append(v.Reads, catalog.ObjectRef{Kind: catalog.KindTable, Schema: "s", Name: o})
		}
		if instead {
			v.Triggers = []*catalog.Trigger{{Name: "g", Timing: "instead of"}}
		}
		return v
	}
	table := func(name string, more func(*catalog.Table)) *catalog.Table {
		made := &catalog.Table{Schema: "s", Name: name, Columns: []*catalog.Column{{Name: "id"}, {Name: "day", Nullable: true}, {Name: "note", Nullable: true}}}
		if more != nil {
			more(made)
		}
		return made
	}
	whole := catalog.Ref{Schema: "s", Table: "storm"}
	notNull := change.SetNullable{Table: whole, Column: "note"}
	for name, x := range map[string]struct {
		text string
		ch   change.Change
		says string
	}{
		"the table":             {"INSERT INTO storm VALUES (1, 2, NULL)", notNull, `procedure p inserts into storm and leaves "note" null`},
		"a part":                {"INSERT INTO storm_1 (id) VALUES (1)", notNull, `procedure p inserts into storm_1 and leaves "note" null`},
		"an heir":               {"INSERT INTO gale VALUES (1, 2, NULL)", notNull, `procedure p inserts into gale and leaves "note" null`},
		"a part of a part":      {"UPDATE storm_11 SET note = NULL", notNull, `procedure p updates storm_11 and leaves "note" null`},
		"a view without it":     {"INSERT INTO days VALUES (1, 2)", notNull, `procedure p inserts into days and leaves "note" null`},
		"a view of a view":      {"INSERT INTO list VALUES (1, 2)", notNull, `procedure p inserts into list and leaves "note" null`},
		"a view that shows it":  {"INSERT INTO notes VALUES ('x', 1)", notNull, ""},
		"and takes null for it": {"INSERT INTO notes VALUES (NULL, 1)", notNull, `procedure p inserts into notes and leaves "note" null`},
		"a view of two":         {"INSERT INTO pairs VALUES (1, 2)", notNull, ""},
		"a trigger in between":  {"INSERT INTO guarded VALUES (1, 2)", notNull, ""},
		"another table":         {"INSERT INTO calm VALUES (1, 2, NULL)", notNull, ""},
		"a column with a value": {"INSERT INTO days VALUES (1, 2)", change.SetNullable{Table: whole, Column: "day"}, ""},
		"numbers in a part":     {"UPDATE storm_1 SET id = id + 1", change.AddKey{Table: whole, Key: &catalog.Key{Name: "k", Columns: []string{"id"}}}, `procedure p moves the values of "id" in storm_1`},
		"copies in a part":      {"INSERT INTO storm_1 SELECT * FROM storm_1", change.AddKey{Table: whole, Key: &catalog.Key{Name: "k", Columns: []string{"id"}}}, "procedure p adds copies of rows to storm"},
		"order by a view": {"INSERT INTO calm VALUES (1, 2, 3); INSERT INTO list VALUES (1, 2)",
			change.AddForeignKey{Table: catalog.Ref{Schema: "s", Table: "calm"}, ForeignKey: &catalog.ForeignKey{Columns: []string{"day"}, Target: whole, TargetColumns: []string{"id"}}}, "procedure p adds rows to calm before those of storm"},
		"a part emptied": {"TRUNCATE storm_1",
			change.AddForeignKey{Table: catalog.Ref{Schema: "s", Table: "calm"}, ForeignKey: &catalog.ForeignKey{Columns: []string{"day"}, Target: whole, TargetColumns: []string{"id"}}}, "procedure p truncates storm"},
	} {
		s := &catalog.Schema{Name: "s", Routines: []*catalog.Routine{{Name: "p", Kind: "procedure", Definition: x.text}}, Tables: []*catalog.Table{table("storm", nil), table("calm", nil),
			table("storm_1", func(t *catalog.Table) { t.PartitionOf = &whole }), table("storm_11", func(t *catalog.Table) { t.PartitionOf = &catalog.Ref{Schema: "s", Table: "storm_1"} }),
			table("gale", func(t *catalog.Table) { t.Inherits = []catalog.Ref{whole} })},
			Views: []*catalog.View{shows("days", "id day", false, "storm"), shows("list", "id day", false, "days"), shows("notes", "note id", false, "storm"), shows("pairs", "id day", false, "storm", "calm"), shows("guarded", "id day", true, "storm")}}
		why := Offers(able{}, &catalog.Catalog{Schemas: []*catalog.Schema{s}})(x.ch)
		if x.says == "" && why != "" || !strings.HasPrefix(why, x.says) {
			t.Errorf("%s: %q, want %q", name, why, x.says)
		}
	}
}
