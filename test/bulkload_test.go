package test

import (
	"path/filepath"
	"strings"
	"testing"

	"nexdal/test/server"
)

const loaded = `CREATE TABLE station (id bigint NOT NULL PRIMARY KEY, code varchar(9) NOT NULL);
CREATE INDEX station_code ON station (code);
CREATE TABLE gauge (id bigint NOT NULL PRIMARY KEY, station_id bigint, CONSTRAINT gauge_station FOREIGN KEY (station_id) REFERENCES station (id));
CREATE INDEX gauge_by_station ON gauge (station_id);
CREATE TABLE visit (id bigint NOT NULL PRIMARY KEY, gauge_id bigint, CONSTRAINT visit_gauge FOREIGN KEY (gauge_id) REFERENCES gauge (id));
CREATE INDEX visit_by_gauge ON visit (gauge_id);
INSERT INTO station VALUES (1, 'SAL-1');
INSERT INTO gauge VALUES (1, 1);
`

// TestBulkload puts aside what is in the way, loads, and puts it back exactly as it
// was; rows that lead nowhere are found, and stop it, unless nobody wants to know.
func TestBulkload(t *testing.T) {
	t.Parallel()
	for engine, trigger := range map[string]string{
		"sqlite":   "CREATE TRIGGER seen AFTER INSERT ON gauge BEGIN UPDATE station SET code = 'seen' WHERE id = NEW.station_id; END;",
		"postgres": "CREATE FUNCTION see() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN UPDATE station SET code = 'seen' WHERE id = NEW.station_id; RETURN NEW; END $$; CREATE TRIGGER seen AFTER INSERT ON gauge FOR EACH ROW EXECUTE FUNCTION see(); ALTER TABLE gauge ENABLE ALWAYS TRIGGER seen;",
		"mariadb":  "CREATE TRIGGER seen AFTER INSERT ON gauge FOR EACH ROW UPDATE station SET code = 'seen' WHERE id = NEW.station_id;",
	} {
		t.Run(engine, func(t *testing.T) {
			folder := t.TempDir()
			p := places(t)[engine](t, folder)
			p.query(t, loaded+trigger)
			before := structure(t, folder, p.source)
			must(t, folder, "script", "bulkload", p.source, "-o", "load.sql", "--table", "gauge", "--indexes", "--triggers")
			match(t, "the run", must(t, folder, "run", "load.sql", "--on", p.source, "--yes"), "the structure is the one that was planned")
			p.query(t, "INSERT INTO gauge VALUES (2, 77)")
			if code := strings.TrimSpace(p.query(t, "SELECT code FROM station")); code != "SAL-1" {
				t.Errorf("the trigger has acted: %s", code)
			}
			match(t, "the questions", p.query(t, read(t, filepath.Join(folder, "load.orphans.sql"))), "77")
			if engine != "sqlite" {
				r := nexdal(t, folder, "run", "load.reversal.sql", "--on", p.source, "--yes")
				match(t, "rows that lead nowhere", r.err, `values of [a-z0-9]+\.gauge \(station_id\) without a row in [a-z0-9]+\.station; nothing was done`)
			}
			p.query(t, "DELETE FROM gauge WHERE id = 2")
			match(t, "the reversal", must(t, folder, "run", "load.reversal.sql", "--on", p.source, "--yes"), "the structure is the one that was planned")
			if after := structure(t, folder, p.source); after != before {
				t.Errorf("not as it was: %s", after)
			}
			if engine == "sqlite" {
				return
			}
			must(t, folder, "script", "bulkload", p.source, "-o", "blind.sql", "--unchecked")
			must(t, folder, "run", "blind.sql", "--on", p.source, "--yes")
			p.query(t, "INSERT INTO gauge VALUES (3, 78)")
			match(t, "what is not checked", read(t, filepath.Join(folder, "blind.reversal.sql")), "foreign key gauge_station of [a-z0-9]+.gauge: the rows that came are not checked")
			match(t, "unchecked", must(t, folder, "run", "blind.reversal.sql", "--on", p.source, "--yes"), "the structure is the one that was planned")
			if r := nexdal(t, folder, "compare", "blind.before.json", p.source); engine == "postgres" {
				match(t, "what is left", r.out, `(?s)2 differences: 2 altered.*gauge_station\s+validated: yes → no.*visit_gauge`)
			} else if r.status != 0 {
				t.Errorf("not as it was: %s", r.out)
			}
		})
	}
	folder := t.TempDir()
	sqlite(t, filepath.Join(folder, "a.db"), loaded)
	for _, c := range []struct{ args, says string }{
		{"script bulkload a.db", "give a file with -o"},
		{"script bulkload a.db -o l.sql --table nothing", "there is no table nothing"},
		{"script change a.db -o c.sql", "1 argument given"},
		{"script change a.db a.db --kind engines", `there is no kind "engines"`},
	} {
		if r := nexdal(t, folder, strings.Fields(c.args)...); r.status != 2 || !strings.Contains(r.err, c.says) {
			t.Errorf("%s: %d %s", c.args, r.status, r.err)
		}
	}
}

// TestBulkloadShares: triggers that are switched otherwise in some partitions than in the whole are so again
// after a load, as the server's own catalog tells.
func TestBulkloadShares(t *testing.T) {
	t.Parallel()
	p := server.StartPostgres(t)
	db, folder := p.Database(t), t.TempDir()
	p.Query(t, db, `CREATE TABLE reading (id int, at date, level int) PARTITION BY RANGE (at); CREATE TABLE reading_2025 PARTITION OF reading FOR VALUES FROM ('2025-01-01') TO ('2026-01-01');
		CREATE TABLE reading_2026 PARTITION OF reading FOR VALUES FROM ('2026-01-01') TO ('2027-01-01') PARTITION BY LIST (level); CREATE TABLE reading_2026_low PARTITION OF reading_2026 FOR VALUES IN (1, 2); CREATE TABLE reading_2026_rest PARTITION OF reading_2026 DEFAULT;
		CREATE FUNCTION noted() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN RETURN NEW; END $$; CREATE TRIGGER noted BEFORE INSERT ON reading FOR EACH ROW EXECUTE FUNCTION noted();
		CREATE TRIGGER always AFTER INSERT ON reading FOR EACH ROW EXECUTE FUNCTION noted(); ALTER TABLE reading ENABLE ALWAYS TRIGGER always;
		ALTER TABLE reading_2025 DISABLE TRIGGER noted; ALTER TABLE reading_2026_low ENABLE REPLICA TRIGGER noted; ALTER TABLE reading_2026_rest ENABLE TRIGGER always;`)
	states := func() string {
		return p.Query(t, db, "SELECT tgrelid::regclass, tgname, tgenabled FROM pg_trigger WHERE NOT tgisinternal OR tgparentid <> 0 ORDER BY 1, 2")
	}
	before := states()
	must(t, folder, "script", "bulkload", p.URL(db), "-o", "load.sql", "--triggers")
	must(t, folder, "run", "load.sql", "--on", p.URL(db), "--yes")
	if off := states(); strings.Count(off, "|D") != 10 {
		t.Errorf("not all are off:\n%s", off)
	}
	must(t, folder, "run", "load.reversal.sql", "--on", p.URL(db), "--yes")
	if after := states(); after != before {
		t.Errorf("the triggers are in other states:\n%s", changedLines(before, after))
	}
	// Made again elsewhere they are in the same.
	must(t, folder, "script", "create", p.URL(db), "-o", "create.sql")
	of := db
	db = p.Database(t)
	must(t, folder, "run", "create.sql", "--on", p.URL(db), "--yes")
	if made := states(); made != before {
		t.Errorf("the copy of %s has others:\n%s", of, changedLines(before, made))
	}
	p.Query(t, db, "ALTER TABLE reading_2025 ENABLE ALWAYS TRIGGER noted; ALTER TABLE reading_2026_low DISABLE TRIGGER noted; ALTER TABLE reading_2026_rest DISABLE TRIGGER always")
	must(t, folder, "script", "change", p.URL(db), p.URL(of), "-o", "change.sql")
	must(t, folder, "run", "change.sql", "--on", p.URL(db), "--yes")
	if now := states(); now != before {
		t.Errorf("brought to the state of %s it has others:\n%s", of, changedLines(before, now))
	}
}
