package test

import (
	"fmt"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"nexdal/internal/standin/sqlserver"
	"nexdal/test/server"
)

// TestRandomChanges brings one random structure to another: what then differs is
// among what the script said that it leaves; the reversal leads back.
func TestRandomChanges(t *testing.T) {
	t.Parallel()
	for seed := range uint64(8) {
		t.Run(fmt.Sprintf("sqlite/%d", seed), func(t *testing.T) {
			t.Parallel()
			folder := t.TempDir()
			var sources []string
			for i, name := range []string{"a.db", "b.db"} {
				c := exec.Command("sqlite3", filepath.Join(folder, name))
				c.Stdin = strings.NewReader(bare(randomSchema(seed+uint64(i)*100, "sqlite"), seed, i))
				c.Run()
				sources = append(sources, filepath.Join(folder, name))
			}
			changeAndBack(t, folder, sources[0], sources[1], "", seed%3 == 0)
		})
		t.Run(fmt.Sprintf("sqlserver/%d", seed), func(t *testing.T) {
			t.Parallel()
			d := sqlServerDatabases{server.StartSQLServer(t, sqlserver.Developer)}
			var sources []string
			for i := range 2 {
				folder := t.TempDir()
				c := exec.Command("sqlite3", filepath.Join(folder, "a.db"))
				c.Stdin = strings.NewReader(inserts.ReplaceAllString(randomSchema(seed+uint64(i)*100, "sqlite"), ""))
				c.Run()
				must(t, folder, "script", "create", "a.db", "--for", "sqlserver", "-o", "create.sql")
				name, source := d.make(t)
				d.load(t, name, filepath.Join(folder, "create.sql"))
				sources = append(sources, source)
			}
			changeAndBack(t, t.TempDir(), sources[0], sources[1], "", false)
		})
		t.Run(fmt.Sprintf("postgres/%d", seed), func(t *testing.T) {
			t.Parallel()
			p := server.StartPostgres(t)
			var sources []string
			for i := range 2 {
				name := p.Database(t)
				c := exec.Command(server.Psql(), "-X", "-q", "-h", p.Folder, "-U", "postgres", "-d", name)
				c.Stdin = strings.NewReader(bare(randomSchema(seed+uint64(i)*100, "postgres"), seed, i))
				c.Run()
				sources = append(sources, p.URL(name))
			}
			changeAndBack(t, t.TempDir(), sources[0], sources[1], p.URL("postgres"), seed%3 == 0)
		})
	}
}

var inserts = regexp.MustCompile(`(?m)^INSERT [^;]*;$`)

// bare leaves most structures without rows, which would be in the way of most of the
// changes; and of the second every other one with other names of indexes.
func bare(sql string, seed uint64, second int) string {
	if second == 1 && seed%2 == 0 {
		sql = regexp.MustCompile(`\bix([0-9])`).ReplaceAllString(sql, "jx$1")
	}
	if seed%3 == 0 {
		return sql
	}
	return inserts.ReplaceAllString(sql, "")
}

func changeAndBack(t *testing.T, folder, from, to, scratch string, rows bool) {
	before := structure(t, folder, from)
	must(t, folder, "script", "change", from, to, "-o", "c.sql", "--drops")
	script := read(t, filepath.Join(folder, "c.sql"))
	if strings.Contains(script, "-- steps:      0,") {
		return
	}
	if scratch != "" || strings.HasSuffix(from, ".db") {
		if r := nexdal(t, folder, "rehearse", "c.sql", "--scratch", scratch); !strings.Contains(r.out, "what the engine reports is what the model says") && !strings.Contains(r.out, "not quite what it was to be") {
			t.Errorf("the rehearsal: %s%s\n%s", r.out, r.err, script)
		}
	}
	r := nexdal(t, folder, "run", "c.sql", "--on", from, "--yes")
	if r.status == 1 && strings.Contains(r.err, "stands in the way") {
		if structure(t, folder, from) != before {
			t.Error("the pre-flight stopped the run, but something was changed")
		}
		return
	}
	if r.status != 0 || !strings.Contains(r.out, "the structure is the one that was planned") {
		t.Fatalf("%s%s\n%s", r.out, r.err, script)
	}
	if r := nexdal(t, folder, "compare", from, to, "--ignore", "order"); r.status != 0 && !strings.Contains(script, "-- Not scripted:") {
		t.Errorf("differs, and the script does not say so: %s\n%s", r.out, script)
	}
	if rows {
		return // those of dropped tables are lost, and may be missed
	}
	if r := nexdal(t, folder, "run", "c.reversal.sql", "--on", from, "--yes"); r.status != 0 || !strings.Contains(r.out, "the structure is the one that was planned") {
		t.Errorf("the reversal: %s%s\n%s", r.out, r.err, read(t, filepath.Join(folder, "c.reversal.sql")))
	}
}

// TestChange brings a database to a structure with something new of every kind, and
// back, on each engine.
func TestChange(t *testing.T) {
	t.Parallel()
	for engine, sql := range map[string][2]string{
		"sqlite": {
			`CREATE TABLE station (id integer PRIMARY KEY, code text); INSERT INTO station VALUES (1, 'SAL-1'); CREATE INDEX by_code ON station (code); CREATE TABLE gone (id integer PRIMARY KEY);`,
			`CREATE TABLE station (id integer PRIMARY KEY, code text NOT NULL UNIQUE, depth_mm integer NOT NULL DEFAULT 0 CHECK (depth_mm >= 0));
			CREATE TABLE gauge (id integer PRIMARY KEY, station_id integer NOT NULL REFERENCES station (id)); CREATE INDEX by_code ON station (code DESC); CREATE VIEW seen AS SELECT * FROM gauge;`},
		"postgres": {
			`CREATE TABLE station (id bigint PRIMARY KEY, code text); INSERT INTO station VALUES (1, 'SAL-1'); CREATE INDEX by_code ON station (code); CREATE TABLE gone (id integer PRIMARY KEY);
			CREATE TABLE reading (id int, at date NOT NULL) PARTITION BY RANGE (at); CREATE TABLE reading_1 PARTITION OF reading FOR VALUES FROM ('2026-01-01') TO ('2026-02-01'); CREATE SCHEMA "Old one"; CREATE TABLE "Old one".mark (id int PRIMARY KEY); CREATE SCHEMA hollow;`,
			`CREATE SCHEMA harbour; CREATE TABLE harbour.pier (id int PRIMARY KEY); CREATE TABLE station (id bigint PRIMARY KEY, code text NOT NULL UNIQUE, depth_mm integer NOT NULL DEFAULT 0 CHECK (depth_mm >= 0));
			CREATE TYPE mood AS ENUM ('calm', 'rough'); CREATE TABLE gauge (id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY, station_id bigint NOT NULL REFERENCES station (id), mood mood);
			CREATE INDEX by_code ON station (code DESC); CREATE VIEW seen AS SELECT * FROM gauge; CREATE FUNCTION one() RETURNS int LANGUAGE sql AS 'SELECT 1';
			CREATE TABLE reading (id int, at date NOT NULL) PARTITION BY RANGE (at); CREATE TABLE reading_1 PARTITION OF reading FOR VALUES FROM ('2026-01-01') TO ('2026-02-01');
			CREATE TABLE reading_2 PARTITION OF reading FOR VALUES FROM ('2026-02-01') TO ('2026-03-01'); CREATE INDEX ON reading (at);`},
		"mariadb": {
			`CREATE TABLE station (id bigint PRIMARY KEY, code varchar(20)); INSERT INTO station VALUES (1, 'SAL-1'); CREATE INDEX by_code ON station (code); CREATE TABLE gone (id integer PRIMARY KEY); CREATE TABLE tide (a int, id int PRIMARY KEY, b int, c int);`,
			`CREATE TABLE tide (x int, id int PRIMARY KEY, y int, z int, c int); CREATE TABLE station (id bigint PRIMARY KEY, code varchar(20) NOT NULL UNIQUE, depth_mm integer NOT NULL DEFAULT 0 CHECK (depth_mm >= 0));
			CREATE TABLE gauge (id bigint AUTO_INCREMENT PRIMARY KEY, station_id bigint NOT NULL, kind text, CONSTRAINT stands_at FOREIGN KEY (station_id) REFERENCES station (id));
			CREATE INDEX by_code ON station (code DESC); CREATE VIEW seen AS SELECT * FROM gauge; CREATE SEQUENCE numbers; CREATE FUNCTION one() RETURNS int DETERMINISTIC RETURN 1;`},
	} {
		t.Run(engine, func(t *testing.T) {
			folder, other := t.TempDir(), t.TempDir()
			from, to := places(t)[engine](t, folder), places(t)[engine](t, other)
			from.query(t, sql[0])
			to.query(t, sql[1])
			before := structure(t, folder, from.source)
			must(t, folder, "script", "change", from.source, to.source, "-o", "kept.sql")
			match(t, "what is left", read(t, filepath.Join(folder, "kept.sql")), `(?s)Not scripted:\n.*--   table [a-z0-9]+\.gone: stays: nothing is dropped without --drops\n`)
			must(t, folder, "script", "change", from.source, to.source, "-o", "few.sql", "--kind", "index", "--table", "stat*")
			match(t, "a few", read(t, filepath.Join(folder, "few.sql")), `-- steps: +[12],`)
			must(t, folder, "script", "change", from.source, to.source, "-o", "c.sql", "--drops")
			match(t, "the run", must(t, folder, "run", "c.sql", "--on", from.source, "--yes"), "the structure is the one that was planned")
			r := nexdal(t, folder, "compare", from.source, to.source)
			match(t, "what differs", r.out, `no differences|1 difference: 1 altered\n\nschema t`)
			match(t, "the reversal", must(t, folder, "run", "c.reversal.sql", "--on", from.source, "--yes"), "the structure is the one that was planned")
			if after := structure(t, folder, from.source); after != before {
				t.Errorf("the reversal leads to %s", after)
			}
			// What was made is not dropped once it holds rows.
			must(t, folder, "script", "change", from.source, to.source, "-o", "d.sql")
			must(t, folder, "run", "d.sql", "--on", from.source, "--yes")
			from.query(t, "INSERT INTO gauge (station_id) VALUES (1)")
			r = nexdal(t, folder, "run", "d.reversal.sql", "--on", from.source, "--yes")
			match(t, "the reversal with rows", r.err, `rows of [a-z0-9]+\.gauge, which was made for none yet; nothing was done`)
		})
	}
}

// TestChangeTexts brings views, routines, triggers, sequences and comments to others, in
// the order in which they read one another, and back; grants stay.
func TestChangeTexts(t *testing.T) {
	t.Parallel()
	for engine, sql := range map[string][2]string{
		"sqlite": {
			`CREATE TABLE station (id integer PRIMARY KEY, code text); CREATE TABLE log (line text);
			CREATE VIEW open_station AS SELECT id FROM station; CREATE VIEW first AS SELECT min(id) AS id FROM open_station; CREATE VIEW gone AS SELECT code FROM station;
			CREATE TRIGGER noted AFTER INSERT ON station BEGIN INSERT INTO log VALUES (new.code); END; CREATE TRIGGER old AFTER DELETE ON station BEGIN INSERT INTO log VALUES ('gone'); END;`,
			`CREATE TABLE station (id integer PRIMARY KEY, code text, depth integer NOT NULL DEFAULT 0); CREATE TABLE log (line text);
			CREATE VIEW open_station AS SELECT id, depth FROM station WHERE depth > 0; CREATE VIEW first AS SELECT min(depth) AS depth FROM open_station; CREATE VIEW deep AS SELECT depth FROM open_station;
			CREATE TRIGGER noted AFTER INSERT ON station BEGIN INSERT INTO log VALUES (new.code || '!'); END; CREATE TRIGGER moved AFTER UPDATE ON station BEGIN INSERT INTO log VALUES ('moved'); END;`},
		"postgres": {
			`CREATE TABLE station (id bigint PRIMARY KEY, code text); COMMENT ON TABLE station IS 'where a gauge stands'; CREATE TABLE log (line text); CREATE SEQUENCE numbers MAXVALUE 100;
			CREATE VIEW open_station AS SELECT id FROM station; COMMENT ON VIEW open_station IS 'open ones'; CREATE VIEW first AS SELECT id FROM open_station; CREATE VIEW gone AS SELECT code FROM station;
			CREATE FUNCTION note() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN INSERT INTO log VALUES (new.code); RETURN new; END $$; CREATE FUNCTION twice(integer) RETURNS integer LANGUAGE sql AS 'SELECT 2 * $1';
			CREATE TRIGGER noted AFTER INSERT ON station FOR EACH ROW EXECUTE FUNCTION note(); CREATE TRIGGER old AFTER DELETE ON station FOR EACH ROW EXECUTE FUNCTION note();
			DO $$ BEGIN IF NOT EXISTS (SELECT FROM pg_roles WHERE rolname = 'watcher') THEN CREATE ROLE watcher; END IF; END $$; GRANT SELECT ON first, open_station TO watcher;`,
			`CREATE TABLE station (id bigint PRIMARY KEY, code text, depth integer NOT NULL DEFAULT 0); COMMENT ON TABLE station IS 'where a gauge stands, or stood'; COMMENT ON COLUMN station.code IS 'painted on it'; CREATE TABLE log (line text); CREATE SEQUENCE numbers MAXVALUE 1000 INCREMENT BY 5 CYCLE;
			CREATE VIEW open_station AS SELECT id, depth FROM station WHERE depth > 0; CREATE VIEW first AS SELECT min(depth) AS depth FROM open_station; COMMENT ON VIEW first IS 'the least deep'; CREATE VIEW deep AS SELECT depth FROM open_station;
			CREATE FUNCTION note() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN INSERT INTO log VALUES (new.code || '!'); RETURN new; END $$; CREATE FUNCTION twice(integer) RETURNS integer LANGUAGE sql AS 'SELECT $1 + $1'; COMMENT ON FUNCTION twice(integer) IS 'doubles';
			CREATE TRIGGER noted AFTER INSERT OR UPDATE ON station FOR EACH ROW EXECUTE FUNCTION note(); CREATE TRIGGER moved AFTER UPDATE ON station FOR EACH ROW EXECUTE FUNCTION note();
			COMMENT ON CONSTRAINT station_pkey ON station IS 'never changes';`},
		"mariadb": {
			`CREATE TABLE station (id bigint PRIMARY KEY, code varchar(20)) COMMENT 'where a gauge stands'; CREATE TABLE log (line text); CREATE SEQUENCE numbers MAXVALUE 100;
			CREATE VIEW open_station AS SELECT id FROM station; CREATE VIEW first AS SELECT id FROM open_station; CREATE VIEW gone AS SELECT code FROM station;
			CREATE FUNCTION twice(n int) RETURNS int DETERMINISTIC RETURN 2 * n; CREATE TRIGGER noted AFTER INSERT ON station FOR EACH ROW INSERT INTO log VALUES (new.code); CREATE TRIGGER old AFTER DELETE ON station FOR EACH ROW INSERT INTO log VALUES ('gone');`,
			`CREATE TABLE station (id bigint PRIMARY KEY, code varchar(20) COMMENT 'painted on it', depth integer NOT NULL DEFAULT 0) COMMENT 'where a gauge stands, or stood'; CREATE TABLE log (line text); CREATE SEQUENCE numbers MAXVALUE 1000 INCREMENT BY 5 CYCLE;
			CREATE VIEW open_station AS SELECT id, depth FROM station WHERE depth > 0; CREATE VIEW first AS SELECT min(depth) AS depth FROM open_station; CREATE VIEW deep AS SELECT depth FROM open_station;
			CREATE FUNCTION twice(n int) RETURNS int DETERMINISTIC RETURN n + n; CREATE TRIGGER noted AFTER INSERT ON station FOR EACH ROW INSERT INTO log VALUES (concat(new.code, '!')); CREATE TRIGGER moved AFTER UPDATE ON station FOR EACH ROW INSERT INTO log VALUES ('moved');`},
	} {
		t.Run(engine, func(t *testing.T) {
			t.Parallel()
			folder, other := t.TempDir(), t.TempDir()
			from, to := places(t)[engine](t, folder), places(t)[engine](t, other)
			from.query(t, sql[0])
			to.query(t, sql[1])
			before := structure(t, folder, from.source)
			must(t, folder, "script", "change", from.source, to.source, "-o", "c.sql", "--drops")
			text := read(t, filepath.Join(folder, "c.sql"))
			if strings.Contains(text, "Not scripted") {
				t.Errorf("something is left:\n%s", text)
			}
			match(t, "the run", must(t, folder, "run", "c.sql", "--on", from.source, "--yes"), "the structure is the one that was planned")
			match(t, "what differs", nexdal(t, folder, "compare", from.source, to.source).out, `no differences|1 difference: 1 altered\n\nschema t`)
			from.query(t, "INSERT INTO station VALUES (1, 'SAL-1', 3)")
			match(t, "the trigger", from.query(t, "SELECT line FROM log"), "SAL-1!")
			if engine == "postgres" {
				match(t, "the grants", from.query(t, "SET ROLE watcher; SELECT depth FROM first; SELECT id FROM open_station"), `3\n1`)
			}
			from.query(t, "DELETE FROM station; DELETE FROM log")
			match(t, "the reversal", must(t, folder, "run", "c.reversal.sql", "--on", from.source, "--yes"), "the structure is the one that was planned")
			if after := structure(t, folder, from.source); after != before {
				t.Errorf("the reversal leads to %s\nand it was %s", after, before)
			}
			if engine == "postgres" {
				from.query(t, "SET ROLE watcher; SELECT id FROM first")
			}
		})
	}
}

// TestChangeLosesNothing brings a database towards one in which tables have other names, are
// partitioned otherwise or have a second foreign key on the same columns. With --drops too,
// no row is lost that is under another name there, and what is left is said.
func TestChangeLosesNothing(t *testing.T) {
	t.Parallel()
	folder, other := t.TempDir(), t.TempDir()
	from, to := places(t)["postgres"](t, folder), places(t)["postgres"](t, other)
	from.query(t, `CREATE TABLE station (id int PRIMARY KEY); INSERT INTO station VALUES (1);
		CREATE TABLE gauge (id int PRIMARY KEY, station_id int CONSTRAINT stands_at REFERENCES station); INSERT INTO gauge VALUES (1, 1);
		CREATE TABLE visit (id int PRIMARY KEY, at date); INSERT INTO visit VALUES (1, '2026-01-01'); CREATE INDEX by_day ON visit (at);
		CREATE TABLE reading (id int, at date) PARTITION BY RANGE (at); CREATE TABLE reading_1 PARTITION OF reading FOR VALUES FROM ('2026-01-01') TO ('2026-02-01'); INSERT INTO reading VALUES (1, '2026-01-05');
		CREATE TABLE level (id int, at date NOT NULL); INSERT INTO level VALUES (1, '2026-01-05');`)
	to.query(t, `CREATE TABLE station (id int PRIMARY KEY);
		CREATE TABLE gauge (id int PRIMARY KEY, station_id int CONSTRAINT stands_at REFERENCES station CONSTRAINT stands_at_again REFERENCES station);
		CREATE TABLE call (id int PRIMARY KEY, at date); CREATE INDEX by_day ON call (at);
		CREATE TABLE reading_1 (id int, at date);
		CREATE TABLE level (id int, at date NOT NULL) PARTITION BY RANGE (at); CREATE TABLE level_1 PARTITION OF level FOR VALUES FROM ('2026-01-01') TO ('2026-02-01');`)
	must(t, folder, "script", "change", from.source, to.source, "-o", "c.sql", "--drops")
	match(t, "what is left", read(t, filepath.Join(folder, "c.sql")),
		`(?s)table public.level: kind: table, there partitioned.*table public.visit: is not dropped: has the columns of call, which is new: its new name\?.*table public.level_1: is not made by this script`)
	match(t, "the run", must(t, folder, "run", "c.sql", "--on", from.source, "--yes"), "the structure is the one that was planned")
	match(t, "the rows", from.query(t, `SELECT (SELECT count(*) FROM visit), (SELECT count(*) FROM reading), (SELECT count(*) FROM level)`), `1\|1\|1`)
	match(t, "the keys", from.query(t, `SELECT string_agg(conname, ' ' ORDER BY conname) FROM pg_constraint WHERE contype = 'f'`), `^stands_at stands_at_again\s*$`)
	match(t, "the reversal", must(t, folder, "run", "c.reversal.sql", "--on", from.source, "--yes"), "the structure is the one that was planned")
}
