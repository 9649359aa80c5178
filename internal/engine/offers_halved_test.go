package engine

import (
	"strings"
	"testing"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
)

// TestHalfFilled: a check that columns of a foreign key are null together is not offered, and neither is
// MATCH FULL, where a program fills some of them alone.
func TestHalfFilled(t *testing.T) {
	can := catalog.Abilities{Condition: func(_ *catalog.Table, c catalog.Condition) string { return strings.Join(c.Together, " with ") }}
	for text, fails := range map[string]bool{
		"INSERT INTO boat (id, pier) VALUES (1, 3)":                   true,
		"INSERT INTO boat VALUES (1, 3, NULL)":                        true,
		"UPDATE boat SET no = NULL WHERE id = 3":                      true,
		"INSERT INTO boat (id) VALUES (1)":                            false,
		"INSERT INTO boat VALUES (1, NULL, NULL)":                     false,
		"INSERT INTO boat (id, no, pier) VALUES (1, 3, 4)":            false,
		"UPDATE boat SET no = NULL, pier = NULL":                      false,
		"UPDATE boat SET no = 4":                                      false,
		"INSERT INTO boat SELECT * FROM old":                          false,
		"INSERT INTO berth (id, pier) VALUES (1, 3)":                  false,
		"UPDATE boat SET no = 4, pier = 3; UPDATE boat SET note = ''": false,
	} {
		boat := &catalog.Table{Schema: "s", Name: "boat", Columns: []*catalog.Column{{Name: "id"}, {Name: "pier", Nullable: true}, {Name: "no", Nullable: true}}}
		f := &catalog.ForeignKey{Name: "f", Columns: []string{"pier", "no"}, Target: catalog.Ref{Schema: "s", Table: "berth"}}
		boat.ForeignKeys = []*catalog.ForeignKey{{Name: "one", Columns: []string{"pier"}}, {Name: "id", Columns: []string{"id", "no"}}, f}
		s := &catalog.Schema{Name: "s", Tables: []*catalog.Table{boat}, Routines: []*catalog.Routine{{Name: "p", Kind: "procedure", Definition: text}}}
		offers := Offers(keeps{can: can}, &catalog.Catalog{Schemas: []*catalog.Schema{s}})
		full, plain := *f, *f
		full.Match = "full"
		for _, ch := range []change.Change{change.AddCheck{Table: boat.Ref(), Check: &catalog.Check{Name: "k", Expression: "pier with no"}}, change.AlterForeignKey{Table: boat.Ref(), Old: f, New: &full}} {
			if why := offers(ch); strings.HasPrefix(why, "procedure p ") != fails {
				t.Errorf("%s beside %s: %q", ch.Title(), text, why)
			}
		}
		for _, ch := range []change.Change{change.AddCheck{Table: boat.Ref(), Check: &catalog.Check{Name: "k", Expression: "id with no"}}, change.AlterForeignKey{Table: boat.Ref(), Old: f, New: &plain}, change.AlterForeignKey{Table: boat.Ref(), Old: &full, New: &full}} {
			if why := offers(ch); why != "" {
				t.Errorf("%s beside %s: %q", ch.Title(), text, why)
			}
		}
	}
}
