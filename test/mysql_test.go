package test

import (
	"fmt"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"nexdal/internal/engine/mysql"
	"nexdal/test/server"
)

// TestMySQL reads, builds again, judges and corrects databases of the stand-in for MySQL. Its
// own texts of the tables are the witness.
func TestMySQL(t *testing.T) {
	t.Parallel()
	m := server.StartMySQL(t)
	t.Run("round trip", func(t *testing.T) {
		folder, name := t.TempDir(), m.Database(t)
		m.Query(t, name, read(t, "testdata/everything.mysql.sql"))
		want := lines(m.Dump(t, name))
		must(t, folder, "survey", m.URL(name), "-o", "s.json")
		must(t, folder, "script", "create", "s.json", "-o", "create.sql")
		for _, way := range []string{"client", "program"} {
			copied := m.Database(t)
			if way == "client" {
				if out, err := m.File(copied, filepath.Join(folder, "create.sql")); err != nil {
					t.Fatalf("%v: %s\n%s", err, out, read(t, filepath.Join(folder, "create.sql")))
				}
			} else {
				must(t, folder, "run", "create.sql", "--on", m.URL(copied), "--yes")
			}
			match(t, way, must(t, folder, "compare", "s.json", m.URL(copied), "--ignore", "name"), "no differences")
			if got := lines(m.Dump(t, copied)); got != want {
				t.Errorf("%s: the server shows another structure:\n%s", way, changedLines(want, got))
			}
		}
		shown := must(t, folder, "describe", m.URL(name), "station")
		for _, what := range []string{`depth_high +\(?depth < 9000\)?, not enforced`, `default 'it''s "new"'`, `default \(json_object\(\)\)`, `code_once +unique`, `where it's`} {
			match(t, "the table", shown, what)
		}
	})
	t.Run("fix and back", func(t *testing.T) {
		folder, name := t.TempDir(), m.Database(t)
		m.Query(t, name, `CREATE TABLE station (station_id int NOT NULL PRIMARY KEY, code varchar(8) NOT NULL, name varchar(20), UNIQUE KEY code_once (code), KEY code_again (code));
			CREATE TABLE gauge (gauge_id int NOT NULL PRIMARY KEY, station_id int NOT NULL, model varchar(9));
			CREATE TABLE visit (visit_id int NOT NULL PRIMARY KEY, seen varchar(20), CONSTRAINT seen_long CHECK (char_length(seen) > 1) NOT ENFORCED);`)
		var rows []string
		for i := range 120 {
			n := strings.Repeat("i", 1+i%7)
			rows = append(rows, strings.NewReplacer("#", fmt.Sprint(i+1), "%", fmt.Sprint(1+i%60), "~", n).Replace("INSERT INTO station VALUES (#, 'S#', 'n#'); INSERT INTO visit VALUES (#, 'seen #');"))
		}
		for i := range 120 {
			rows = append(rows, strings.NewReplacer("#", fmt.Sprint(i+1), "%", fmt.Sprint(1+i*7%119)).Replace("INSERT INTO gauge VALUES (#, %, 'm#');"))
		}
		m.Query(t, name, strings.Join(rows, "\n"))
		before := m.Dump(t, name)
		must(t, folder, "probe", m.URL(name), "-o", "e.json")
		found := must(t, folder, "check", m.URL(name), "--evidence", "e.json", "--all")
		for _, rule := range []string{"index/behind-key", "fk/missing", "key/unenforced", "column/never-null"} {
			match(t, "what is found", found, rule)
		}
		must(t, folder, "script", "fix", m.URL(name), "--evidence", "e.json", "--rule", "index/behind-key,fk/missing,column/never-null", "--proposals", "-o", "fix.sql")
		text := read(t, filepath.Join(folder, "fix.sql"))
		for _, not := range []string{"max_statement_time", "NOT ATOMIC", "IF EXISTS"} {
			if strings.Contains(text, not) {
				t.Errorf("the script holds %q, which MySQL does not take:\n%s", not, text)
			}
		}
		match(t, "the run", must(t, folder, "run", "fix.sql", "--on", m.URL(name), "--yes"), "the structure is the one that was planned; nothing else has moved")
		if after := m.Dump(t, name); !strings.Contains(after, "FOREIGN KEY (`station_id`) REFERENCES `station`") || strings.Contains(after, "code_again") {
			t.Errorf("what came of it:\n%s", after)
		}
		must(t, folder, "run", "fix.reversal.sql", "--on", m.URL(name), "--yes")
		if after := m.Dump(t, name); lines(after) != lines(before) {
			t.Errorf("the reversal leaves another structure:\n%s", changedLines(before, after))
		}
	})
	t.Run("taken over", func(t *testing.T) {
		folder, name := t.TempDir(), m.Database(t)
		p := server.StartPostgres(t)
		other := p.Database(t)
		p.Query(t, other, `CREATE TABLE station (station_id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY, code varchar(8) NOT NULL UNIQUE, depth numeric(8,2) DEFAULT 1.5 CHECK (depth > 0), opened timestamptz, tall boolean DEFAULT true, tag uuid);
			CREATE TABLE gauge (gauge_id int PRIMARY KEY, station_id bigint NOT NULL REFERENCES station ON DELETE CASCADE); CREATE INDEX ON gauge (station_id)`)
		must(t, folder, "script", "create", p.URL(other), "--for", "mysql", "-o", "create.sql")
		if out, err := m.File(name, filepath.Join(folder, "create.sql")); err != nil {
			t.Fatalf("%v: %s\n%s", err, out, read(t, filepath.Join(folder, "create.sql")))
		}
		match(t, "what has no like", read(t, filepath.Join(folder, "create.sql")), "`tag` char\\(36\\)(?s:.*)station: tag: holds text: nothing keeps it a UUID")
		match(t, "the tables", must(t, folder, "outline", m.URL(name)), "(?s)2 tables.*1 foreign key")
		match(t, "the reference", must(t, folder, "describe", m.URL(name), "gauge"), "(?s)Refers to\\s+station +\\(station_id\\).*on delete cascade")
	})
	t.Run("another server", func(t *testing.T) {
		folder := t.TempDir()
		db := server.StartMariaDB(t)
		r := nexdal(t, folder, "survey", strings.Replace(db.URL(db.Database(t)), "mariadb://", "mysql://", 1), "-o", "s.json")
		match(t, "MariaDB as MySQL", r.err, "MariaDB.* and not MySQL")
		r = nexdal(t, folder, "survey", strings.Replace(m.URL(m.Database(t)), "mysql://", "mariadb://", 1), "-o", "s.json")
		match(t, "MySQL as MariaDB", r.err, "it is 8.0.31 and not MariaDB")
	})
	t.Run("demo", func(t *testing.T) { walkFew(t, m) })
}

// lines are those of a dump, in any order: what is made again stands behind the others.
func lines(dump string) string {
	return sorted(strings.Split(strings.ReplaceAll(dump, ",\n", "\n"), "\n"), "\x00")
}

// unborne are statements of the demo that the stand-in does not read, or breaks on: it neither
// lists nor shows a view that is broken.
var unborne = regexp.MustCompile("PARTITION BY LIST|^ANALYZE|VIEW ferry_run")

// walkFew walks the job on the demo with few of its rows: the stand-in looks through all rows
// of a table for each that is added.
func walkFew(t *testing.T, m *server.MySQL) {
	folder := t.TempDir()
	fewRows(t, mysql.Engine, m.URL(""), map[string]int{"reading": 1700, "reading_flag": 32}, 260, unborne.MatchString) // each flag is 53 readings on
	m.Settle(t, "saltmere")
	on := m.URL("saltmere")
	was := m.Dump(t, "saltmere")
	must(t, folder, "survey", on, "-o", "saltmere.json")
	match(t, "the outline", must(t, folder, "outline", on), "47 tables, 1 view, .* 34 foreign keys, .* 1 trigger")
	must(t, folder, "probe", on, "-o", "e.json")
	first := must(t, folder, "check", on, "--evidence", "e.json", "--fail-on", "never", "--all")
	for _, rule := range []string{"column/default-refused", "fk/cycle", "key/nearly-full", "fk/type-differs", "key/none", "fk/missing", "key/wide", "key/random-clustered", "name/reserved"} {
		match(t, "what is found", first, rule)
	}
	// The stand-in forgets INVISIBLE, which a new key is, and does not take a numbered key back.
	must(t, folder, "script", "fix", on, "--evidence", "e.json", "--rule", "check/*,column/*,fk/*,index/*,key/nearly-full,key/repeated", "-o", "fix.sql")
	match(t, "the rehearsal", must(t, folder, "rehearse", "fix.sql", "--evidence", "e.json"), "gone   10(?s:.*)new    0")
	match(t, "the run", must(t, folder, "run", "fix.sql", "--on", on, "--yes"), "(?s)10 of 10 findings gone.*the structure is the one that was planned; nothing else has moved")
	match(t, "what is left", must(t, folder, "check", on, "--evidence", "e.json", "--fail-on", "never"), "4 errors, ")
	if now := m.Dump(t, "saltmere"); now == was {
		t.Error("the script has altered nothing")
	}
	must(t, folder, "run", "fix.reversal.sql", "--on", on, "--yes")
	if now := m.Dump(t, "saltmere"); lines(now) != lines(was) {
		t.Errorf("the reversal leaves another structure:\n%s", changedLines(was, now))
	}
}
