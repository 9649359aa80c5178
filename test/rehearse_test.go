package test

import (
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"nexdal/test/server"
)

// TestRehearse: what a script leads to is told, and held to an empty twin, with rows
// and without; a script that somebody has bent is found out.
func TestRehearse(t *testing.T) {
	t.Parallel()
	for _, engine := range []string{"sqlite", "postgres"} {
		t.Run(engine, func(t *testing.T) {
			folder := t.TempDir()
			p := places(t)[engine](t, folder)
			p.query(t, unsound)
			before := structure(t, folder, p.source)
			must(t, folder, "script", "fix", p.source, "-o", "fix.sql")
			scratch := []string{"--scratch", p.source}
			out := must(t, folder, append([]string{"rehearse", "fix.sql"}, scratch...)...)
			match(t, "the rehearsal", out, `(?s)On the model\n  gone +\d+: .*key/none.*new +\d+.*On an empty twin.*steps done\n  what the engine reports is what the model says, and so is what the rules say of it\n  the way back, \d+ steps, leads to where it began`)
			// The place for the twin may be named by the environment, or stand with the source in the settings.
			c := command(folder, "rehearse", "fix.sql")
			c.Env = append(c.Env, "NEXDAL_SCRATCH="+p.source)
			match(t, "by the environment", call(t, c).out, `On an empty twin.*\n +\d+ steps? done`)
			write(t, filepath.Join(folder, "nexdal.yaml"), fmt.Sprintf("sources: {live: {address: %q, scratch: %q}}\n", p.source, p.source))
			match(t, "by the settings", must(t, folder, "rehearse", "fix.sql", "--on", "live"), `On an empty twin.*\n +\d+ steps? done`)
			os.Remove(filepath.Join(folder, "nexdal.yaml"))
			out = must(t, folder, append([]string{"rehearse", "fix.sql", "--on", p.source, "--sample", "3"}, scratch...)...)
			match(t, "with rows", out, `(?s)6 rows of 4 tables carried over\n.*every table holds as many rows as before.*leads to where it began`)
			path := filepath.Join(folder, "fix.sql")
			whole := read(t, path)
			write(t, path, strings.Replace(whole, "-- End of script.", "", 1)) // and nothing else
			match(t, "cut off", nexdal(t, folder, append([]string{"rehearse", "fix.sql"}, scratch...)...).err, "its end is missing")
			extra := "CREATE INDEX stray ON keeper (name, id);\n"
			if engine == "postgres" {
				extra = "CREATE INDEX stray ON public.keeper (name, id);\n"
			}
			last := strings.LastIndex(whole, "\n-- Not scripted:")
			if last < 0 {
				last = strings.LastIndex(whole, "\n-- End of script.")
			}
			write(t, path, whole[:last]+extra+whole[last:])
			r := nexdal(t, folder, append([]string{"rehearse", "fix.sql"}, scratch...)...)
			if r.status != 1 {
				t.Errorf("bent: status %d: %s", r.status, r.err)
			}
			match(t, "bent", r.out, `(?s)what the engine reports is not what the model says:.*added    index +stray`)
			write(t, path, whole)
			p.query(t, "ALTER TABLE keeper ADD COLUMN remark text")
			match(t, "of another structure", nexdal(t, folder, append([]string{"rehearse", "fix.sql", "--on", p.source}, scratch...)...).out+"", `(?s)remark|On the model`)
			if err := os.Remove(filepath.Join(folder, "fix.before.json")); err != nil {
				t.Fatal(err)
			}
			match(t, "without its survey", nexdal(t, folder, append([]string{"rehearse", "fix.sql"}, scratch...)...).err, "the survey file that stood beside fix.sql is gone; name the source")
			p.query(t, "ALTER TABLE keeper DROP COLUMN remark")
			if after := structure(t, folder, p.source); engine == "sqlite" && after != before {
				t.Error("a rehearsal changed the database itself")
			}
		})
	}
	folder := t.TempDir()
	// Of rows without a parent each is refused, not the first alone.
	sqlite(t, filepath.Join(folder, "orphans.db"), `CREATE TABLE keeper (id INTEGER PRIMARY KEY); CREATE TABLE visit (id INTEGER PRIMARY KEY, keeper_id INTEGER REFERENCES keeper (id));
		INSERT INTO keeper VALUES (1); INSERT INTO visit VALUES (1, 1), (2, 8), (3, 9), (4, 1), (5, 7);`)
	must(t, folder, "script", "fix", "orphans.db", "-o", "orphans.sql")
	match(t, "orphans", must(t, folder, "rehearse", "orphans.sql", "--on", "orphans.db", "--sample", "9"), `3 rows of 2 tables carried over; 3 rows refused there`)
	for args, says := range map[string]string{
		"rehearse fix.sql --sample -1": "--sample takes a number",
		"rehearse fix.sql --sample 5":  "--sample needs the database that the rows come from",
	} {
		if r := nexdal(t, folder, strings.Fields(args)...); r.status != 2 || !strings.Contains(r.err, says) {
			t.Errorf("%s: %d %s", args, r.status, r.err)
		}
	}
}

// TestRehearseElsewhere: the twin of a database whose roles, tablespaces, other databases
// and whole views the scratch server does not have. What it lacks is made there and taken
// away again, or left out and told; the script and its way back are carried out.
func TestRehearseElsewhere(t *testing.T) {
	t.Parallel()
	t.Run("postgres", func(t *testing.T) {
		p := server.StartPostgres(t)
		name, folder := p.Database(t), t.TempDir()
		space := filepath.Join(folder, "space.sql")
		write(t, space, "SET allow_in_place_tablespaces = on; CREATE TABLESPACE far_space LOCATION '';") // in no transaction
		if out, err := p.File(name, space); err != nil {
			t.Fatalf("%v: %s", err, out)
		}
		p.Query(t, name, `CREATE ROLE "Far owner"; CREATE ROLE far_reader`)
		p.Query(t, name, `CREATE TABLE station (station_id serial PRIMARY KEY, code text NOT NULL) TABLESPACE far_space; ALTER TABLE station OWNER TO "Far owner";
			CREATE TABLE gauge (gauge_id int PRIMARY KEY, station_id int NOT NULL REFERENCES station); CREATE INDEX a ON gauge (gauge_id, station_id) TABLESPACE far_space; CREATE INDEX b ON gauge (gauge_id, station_id) TABLESPACE far_space;
			GRANT SELECT ON station TO far_reader WITH GRANT OPTION; SET ROLE far_reader; GRANT SELECT ON station TO "Far owner"; RESET ROLE; GRANT USAGE ON station_station_id_seq TO far_reader`)
		must(t, folder, "script", "fix", p.URL(name), "-o", "fix.sql")
		p.Query(t, name, `DROP TABLE gauge, station; DROP ROLE "Far owner", far_reader`)
		p.Query(t, name, `DROP TABLESPACE far_space`)
		match(t, "the rehearsal", must(t, folder, "rehearse", "fix.sql", "--scratch", p.URL("postgres")), `(?s)On an empty twin, [^\n]*\n  \d+ steps done\n  what the engine reports is what the model says.*leads to where it began`)
		match(t, "what is left on the server", p.Query(t, "postgres", `SELECT count(*) FROM (SELECT rolname FROM pg_roles WHERE rolname ~* '^far' UNION ALL SELECT spcname FROM pg_tablespace WHERE spcname = 'far_space') x`), `^0\s*$`)
	})
	t.Run("mariadb", func(t *testing.T) {
		m := server.StartMariaDB(t)
		name, folder := m.Database(t), t.TempDir()
		other := name + "_b"
		path := filepath.Join(folder, "build.sql")
		write(t, path, `ALTER DATABASE `+name+` COMMENT 'the coast''s'; CREATE DATABASE `+other+`; CREATE TABLE `+other+`.keeper (keeper_id int PRIMARY KEY);
			CREATE TABLE station (station_id int PRIMARY KEY, keeper_id int, KEY a (keeper_id), KEY b (keeper_id), FOREIGN KEY (keeper_id) REFERENCES `+other+`.keeper (keeper_id));
			CREATE TABLE `+other+`.visit (visit_id int PRIMARY KEY, station_id int, FOREIGN KEY (station_id) REFERENCES `+name+`.station (station_id));
			CREATE TABLE gone (x int); CREATE VIEW broken AS SELECT x FROM gone; DROP TABLE gone; CREATE VIEW whole AS SELECT station_id FROM station;
			CREATE VIEW from_other AS SELECT keeper_id FROM `+other+`.keeper;`)
		if out, err := m.File(name, path); err != nil {
			t.Fatalf("%v: %s", err, out)
		}
		must(t, folder, "script", "fix", m.URL(name), "-o", "one.sql")
		must(t, folder, "script", "fix", m.URL(""), "--schema", name, "--schema", other, "-o", "two.sql")
		write(t, path, "SET foreign_key_checks = 0; DROP DATABASE "+name+"; DROP DATABASE "+other)
		if out, err := m.File("mysql", path); err != nil {
			t.Fatalf("%v: %s", err, out)
		}
		for _, script := range []string{"two.sql", "one.sql"} {
			out := nexdal(t, folder, "rehearse", script, "--scratch", m.URL(""))
			match(t, script, out.out+out.err, `(?s)could not be built: CREATE.* VIEW .*broken.*steps? done\n  what the engine reports is what the model says.*leads to where it began`)
		}
		write(t, path, "SELECT count(*) FROM information_schema.schemata WHERE schema_name LIKE '"+name+"%'")
		if out, err := m.File("mysql", path); err != nil || !strings.Contains(out, "0") {
			t.Errorf("what is left on the server: %v: %s", err, out)
		}
	})
}

// TestRehearseNasty: a twin of each nasty database can be made, owners and all, and its script
// goes there and back on it.
func TestRehearseNasty(t *testing.T) {
	t.Parallel()
	paths, err := filepath.Glob("testdata/nasty/*.postgres.sql")
	if err != nil || len(paths) == 0 {
		t.Fatalf("no scripts: %v", err)
	}
	for _, path := range paths {
		t.Run(filepath.Base(path), func(t *testing.T) {
			w, folder := nastyPostgres(t, read(t, path)), t.TempDir()
			must(t, folder, "probe", w.source(), "-o", "evidence.json")
			must(t, folder, "script", "fix", w.source(), "--evidence", "evidence.json", "--proposals", "-o", "fix.sql")
			out := nexdal(t, folder, "rehearse", "fix.sql", "--evidence", "evidence.json", "--scratch", w.source())
			match(t, "the rehearsal", out.out+out.err, `(?s)On an empty twin, [^\n]*\n  \d+ steps done\n  what the engine reports is what the model says.*leads to where it began`)
		})
	}
}
