package engine

import (
	"strings"
	"testing"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine/sqllex"
)

// able writes everything but what is on a table called "closed".
type able struct{ Writer }

func (able) Dialect() sqllex.Dialect            { return sqllex.Dialect{} }
func (able) Abilities(string) catalog.Abilities { return catalog.Abilities{PrimaryKeyName: "PRIMARY"} }
func (able) Refuses(_ *catalog.Catalog, ch change.Change) string {
	if ch.On().Table == "closed" {
		return "it is closed"
	}
	return ""
}

// TestOffers: NOT NULL is offered unless a program of the catalog puts null there; what the
// engine refuses is refused.
func TestOffers(t *testing.T) {
	column := func(name, more string) *catalog.Column {
		c := &catalog.Column{Name: name, Nullable: true}
		switch more {
		case "numbered":
			c.Identity = catalog.IdentityByDefault
		case "generated":
			c.Generated = "1"
		default:
			c.Default = more
		}
		return c
	}
	for _, x := range []struct {
		column, text string
		free         bool
	}{
		{"note", "INSERT INTO visit (ship) VALUES ('a')", false},
		{"note", "INSERT INTO VISIT (SHIP, NOTE) VALUES ('a', NULL)", false},
		{"note", "INSERT INTO visit VALUES ('a', NULL)", false},
		{"note", "INSERT INTO visit DEFAULT VALUES", false},
		{"note", "INSERT INTO visit (note) VALUES ('a')", true},
		{"note", "INSERT INTO visit SELECT * FROM old", true},
		{"note", "INSERT INTO visit (ship, note) VALUES (NULL, 'a')", true},
		{"note", "INSERT INTO other (ship) VALUES ('a')", true},
		{"kind", "INSERT INTO visit (ship) VALUES ('a')", true},
		{"kind", "INSERT INTO visit (kind) VALUES (NULL)", false},
		{"no", "INSERT INTO visit (ship) VALUES ('a')", true},
		{"twice", "INSERT INTO visit (ship) VALUES ('a')", true},
		{"note", "UPDATE visit SET ship = 'a', note = NULL WHERE no = 3", false},
		{"note", "UPDATE visit SET note = (SELECT NULL)", true},
		{"ship", "UPDATE visit SET note = NULL", true},
		{"note", "EXECUTE 'UPDATE ' || t || ' SET note = NULL WHERE ' || x", false},
		{"ship", "", true},
		{"gone", "INSERT INTO visit (ship) VALUES ('a')", true},
	} {
		visit := &catalog.Table{Schema: "saltmere", Name: "visit", Columns: []*catalog.Column{column("ship", ""), column("note", ""), column("kind", "'in'"), column("no", "numbered"), column("twice", "generated")}}
		for name, s := range map[string]*catalog.Schema{
			"a trigger": {Name: "saltmere", Tables: []*catalog.Table{visit, {Schema: "saltmere", Name: "boat", Triggers: []*catalog.Trigger{{Name: "seen", Definition: x.text}}}}},
			"a routine": {Name: "saltmere", Tables: []*catalog.Table{visit}, Routines: []*catalog.Routine{{Name: "seen", Kind: "procedure", Definition: x.text}}},
		} {
			why := Offers(able{}, &catalog.Catalog{Schemas: []*catalog.Schema{s}})(change.SetNullable{Table: visit.Ref(), Column: x.column})
			if (why == "") != x.free || !x.free && !strings.Contains(strings.Replace(why, "updates", "inserts into", 1), "seen inserts into visit and leaves \""+x.column+"\" null") {
				t.Errorf("%s that says %s, %s: %q", name, x.text, x.column, why)
			}
			if why := Offers(able{}, &catalog.Catalog{Schemas: []*catalog.Schema{s}})(change.SetNullable{Table: visit.Ref(), Column: x.column, Nullable: true}); why != "" {
				t.Errorf("%s that says %s: null is not allowed again: %s", name, x.text, why)
			}
		}
	}
	if why := Offers(able{}, &catalog.Catalog{})(change.SetNullable{Table: catalog.Ref{Table: "closed"}, Column: "a"}); why != "it is closed" {
		t.Errorf("what the engine refuses is offered: %q", why)
	}
}

// TestWholeRows: a column more is not offered where a program takes all columns into another table.
func TestWholeRows(t *testing.T) {
	reads := []catalog.ObjectRef{{Kind: catalog.KindTable, Schema: "saltmere", Name: "visit"}}
	for text, free := range map[string]bool{
		"INSERT INTO visit_old SELECT * FROM visit":                                         false,
		"CREATE PROCEDURE keep AS BEGIN INSERT INTO visit_old SELECT v.* FROM VISIT v; END": false,
		"INSERT INTO visit_old SELECT * FROM all_visits":                                    false, // a view that follows
		"INSERT INTO visit_old (a) SELECT a FROM visit":                                     true,
		"INSERT INTO visit_old SELECT * FROM some_visits":                                   true,
		"INSERT INTO visit_old SELECT * FROM boat":                                          true,
		"SELECT * FROM visit":                                                               true,
		"":                                                                                  true,
	} {
		s := &catalog.Schema{Name: "saltmere", Tables: []*catalog.Table{{Schema: "saltmere", Name: "visit", Columns: []*catalog.Column{{Name: "a"}}}}, Routines: []*catalog.Routine{{Name: "keep", Kind: "procedure", Definition: text}},
			Views: []*catalog.View{{Name: "all_visits", Follows: true, Definition: "SELECT * FROM visit", Reads: reads}, {Name: "some_visits", Definition: "SELECT a FROM visit", Reads: reads}}}
		offered := Offers(able{}, &catalog.Catalog{Schemas: []*catalog.Schema{s}})
		on := s.Tables[0].Ref()
		for _, ch := range []change.Change{change.AddColumn{Table: on, Column: &catalog.Column{Name: "id"}}, change.AddSurrogateKey{Table: on, Column: &catalog.Column{Name: "id"}}} {
			if why := offered(ch); (why == "") != free || !free && !strings.HasPrefix(why, "procedure keep takes all columns of ") {
				t.Errorf("%s, beside %s: %q", ch.Title(), text, why)
			}
		}
		if why := offered(change.AddColumn{Table: on, Column: &catalog.Column{Name: "id", Invisible: true}}); why != "" {
			t.Errorf("a column that nobody sees, beside %s: %s", text, why)
		}
	}
}

// TestRowsOfTriggers: nor where the routine that a trigger of the table calls keeps its rows whole.
func TestRowsOfTriggers(t *testing.T) {
	for text, free := range map[string]bool{
		"BEGIN INSERT INTO visit_audit SELECT 'D', now(), OLD.*; RETURN NULL; END": false,
		"BEGIN INSERT INTO visit_audit VALUES ('I', NEW.*); RETURN NULL; END":      false,
		"BEGIN INSERT INTO visit_audit SELECT 'D', OLD.a; RETURN NULL; END":        true,
		"BEGIN INSERT INTO log SELECT * FROM other; RETURN NULL; END":              true,
		"BEGIN RAISE NOTICE 'x', OLD.*; RETURN NULL; END":                          true,
	} {
		visit := &catalog.Table{Schema: "saltmere", Name: "visit", Triggers: []*catalog.Trigger{{Name: "kept", Calls: "saltmere.audit()"}}}
		boat := &catalog.Table{Schema: "saltmere", Name: "boat"}
		s := &catalog.Schema{Name: "saltmere", Tables: []*catalog.Table{visit, boat}, Routines: []*catalog.Routine{{Name: "audit", Kind: "function", Definition: text}}}
		offered := Offers(able{}, &catalog.Catalog{Schemas: []*catalog.Schema{s}})
		if why := offered(change.AddColumn{Table: visit.Ref(), Column: &catalog.Column{Name: "id"}}); (why == "") != free || !free && why != "trigger kept takes all columns of visit, and would fail with one more" {
			t.Errorf("%s: %q", text, why)
		}
		if why := offered(change.AddColumn{Table: boat.Ref(), Column: &catalog.Column{Name: "id"}}); why != "" {
			t.Errorf("%s, of another table: %s", text, why)
		}
	}
}

// TestProgramsFail: what a program of the catalog does stands in the way of a change after which it would
// fail, and of no other.
func TestProgramsFail(t *testing.T) {
	station := &catalog.Table{Schema: "saltmere", Name: "station", Columns: []*catalog.Column{{Name: "id"}, {Name: "place"}, {Name: "kind", Default: "'buoy'", Type: catalog.Type{Native: "text", Family: catalog.Text}}}}
	gauge := &catalog.Table{Schema: "saltmere", Name: "gauge", Columns: []*catalog.Column{{Name: "station_id"}}}
	key := func(deferrable bool, columns ...string) change.Change {
		return change.AddKey{Table: station.Ref(), Key: &catalog.Key{Name: "k", Columns: columns, Deferrable: deferrable}}
	}
	unique := func(unique bool) change.Change {
		return change.CreateIndex{Table: station.Ref(), Index: &catalog.Index{Name: "x", Unique: unique, Parts: []catalog.IndexPart{{Column: "id"}, {Column: "place"}}}}
	}
	check := func(expression string) change.Change {
		return change.AddCheck{Table: station.Ref(), Check: &catalog.Check{Name: "c", Expression: expression}}
	}
	refers := change.AddForeignKey{Table: gauge.Ref(), ForeignKey: &catalog.ForeignKey{Columns: []string{"station_id"}, Target: station.Ref(), TargetColumns: []string{"id"}}}
	rename := change.Rename{Table: station.Ref(), Kind: change.RenameCheck, From: "station_ok", To: "ck_station"}
	for _, x := range []struct {
		text string
		ch   change.Change
		says string
	}{
		{"UPDATE station SET place = place + 1 WHERE place > 3", key(false, "place"), `procedure p moves the values of "place" in station`},
		{"UPDATE station SET place = place + 1 WHERE place > 3", key(true, "place"), ""},
		{"UPDATE station SET place = place - 1", unique(true), `procedure p moves the values of "place" in station`},
		{"UPDATE station SET place = place - 1", unique(false), ""},
		{"UPDATE station SET place = place - 1", key(false, "id"), ""},
		{"UPDATE station SET place = id + 1", key(false, "place"), ""},
		{"UPDATE gauge SET place = place + 1", key(false, "place"), ""},
		{"INSERT INTO station VALUES (1, 2, 'raft')", check("kind IN ('buoy', 'pier')"), `procedure p writes raft into "kind" of station`},
		{"INSERT INTO station (kind) VALUES ('pier'), ('raft')", check("kind IN ('buoy', 'pier')"), `procedure p writes raft into "kind" of station`},
		{"UPDATE station SET kind = 'raft' WHERE id = 3", check("kind IN ('buoy', 'pier')"), `procedure p writes raft into "kind" of station`},
		{"UPDATE station SET kind = 'pier' WHERE kind = 'raft'", check("kind IN ('buoy', 'pier')"), ""},
		{"UPDATE station SET kind = lower('raft')", check("kind IN ('buoy', 'pier')"), ""},
		{"INSERT INTO station (id, place) VALUES (1, 2)", check("kind IN ('raft', 'pier')"), `the default 'buoy' of "kind" would be refused`},
		{"INSERT INTO station (id, place) VALUES (1, 2)", check("place > 0"), ""},
		{"TRUNCATE TABLE station", refers, "procedure p truncates station"},
		{"TRUNCATE station CASCADE", refers, "procedure p truncates station"},
		{"EXECUTE 'TRUNCATE saltmere.station, other'", refers, "procedure p truncates station"},
		{"TRUNCATE station, gauge", refers, ""},
		{"TRUNCATE gauge", refers, ""},
		{"SELECT truncate(station, 2) FROM station", refers, ""},
		{"REPLACE INTO station VALUES (1, 2, 'pier')", refers, "procedure p replaces rows of station"},
		{"INSERT INTO station VALUES (1, 2, replace('a', 'b', 'pier'))", refers, ""},
		{"REPLACE INTO gauge VALUES (1)", refers, ""},
		{"EXCEPTION WHEN check_violation THEN IF SQLERRM LIKE '%station_ok%' THEN RETURN 1; END IF", rename, "procedure p has the name in its text"},
		{"IF name = 'STATION_OK' THEN", rename, "procedure p has the name in its text"},
		{"SELECT station_okay FROM station", rename, ""},
		{"SELECT place FROM station", change.Rename{Table: station.Ref(), Kind: change.RenameIndex, From: "place", To: "ix_place"}, ""}, // a column
		{"", key(false, "place"), ""},
		{"INSERT INTO station SELECT id + 1, place, kind FROM station", key(false, "place"), "procedure p adds copies of rows to station"},
		{"INSERT INTO station SELECT id + 1, place, kind FROM station", key(true, "place"), ""},
		{"INSERT INTO station SELECT id, place, kind FROM gauge JOIN station USING (id)", unique(true), "procedure p adds copies of rows to station"},
		{"INSERT INTO station SELECT id, place, kind FROM gauge", key(false, "place"), ""},
		{"DROP TABLE IF EXISTS work, station; CREATE TABLE station (id int)", refers, "procedure p drops or renames station"},
		{"RENAME TABLE shed TO old, saltmere.station TO station_old, station_new TO station", refers, "procedure p drops or renames station"},
		{"EXECUTE 'ALTER TABLE IF EXISTS ONLY station RENAME TO station_old'", refers, "procedure p drops or renames station"},
		{"ALTER TABLE station RENAME name TO title; ALTER TABLE station RENAME COLUMN a TO b; DROP TABLE gauge, station_old", refers, ""},
		{"CREATE INDEX ix ON station (id)", change.DropIndex{Table: station.Ref(), Name: "ix"}, "procedure p has the name in its text"},
		{"DROP INDEX ix ON station", change.DropIndex{Table: station.Ref(), Name: "ix", Early: true}, ""},
		{"SELECT place FROM station", change.DropIndex{Table: station.Ref(), Name: "place"}, ""},
		{"ALTER TABLE station DROP CONSTRAINT uq", change.DropKey{Table: station.Ref(), Name: "uq"}, "procedure p has the name in its text"},
		{"ALTER TABLE station DROP CONSTRAINT uq", change.DropKey{Table: station.Ref(), Name: "uq", Early: true}, ""},
		{"ALTER TABLE station DROP CONSTRAINT uq", change.DropKey{Table: station.Ref(), Name: "uq2"}, ""},
		{"CREATE TABLE x (id int PRIMARY KEY)", change.DropKey{Table: station.Ref(), Name: "PRIMARY", Primary: true}, ""},
		{"IF c = 'fk_1' THEN", change.DropForeignKey{Table: station.Ref(), ForeignKey: &catalog.ForeignKey{Name: "fk_1"}}, "procedure p has the name in its text"},
		{"IF c = 'fk_1' THEN", change.DropForeignKey{Table: station.Ref(), ForeignKey: &catalog.ForeignKey{}}, ""},
		{"IF c = 'ck_1' THEN", change.DropCheck{Table: station.Ref(), Check: &catalog.Check{Name: "ck_1"}}, "procedure p has the name in its text"},
		{"RETURN currval('numbers')", change.SplitSequence{Table: station.Ref(), Column: "id", Shared: catalog.Ref{Schema: "saltmere", Table: "numbers"}}, "procedure p has the name in its text"},
		{"RETURN currval('others')", change.SplitSequence{Table: station.Ref(), Column: "id", Shared: catalog.Ref{Schema: "saltmere", Table: "numbers"}}, ""},
	} {
		s := &catalog.Schema{Name: "saltmere", Tables: []*catalog.Table{station, gauge}, Routines: []*catalog.Routine{{Name: "p", Kind: "procedure", Definition: x.text}}}
		why := Offers(able{}, &catalog.Catalog{Schemas: []*catalog.Schema{s}})(x.ch)
		if x.says == "" && why != "" || !strings.HasPrefix(why, x.says) {
			t.Errorf("%s, beside %s: %q, want %q", x.ch.Title(), x.text, why, x.says)
		}
	}
}
