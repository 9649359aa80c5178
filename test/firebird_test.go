package test

import (
	"net/url"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"nexdal/internal/engine/firebird"
	"nexdal/test/server"
)

// TestFirebird walks the job on the demo's structure: what the script answers is gone, nothing else
// has moved, by the program and by the engine's own client, and the reversal brings back what the
// engine's own tool saw first.
func TestFirebird(t *testing.T) {
	t.Parallel()
	f, folder := server.StartFirebird(t), t.TempDir()
	name := f.Database(t)
	on := f.URL(name)
	fewRows(t, firebird.Engine{}, on, map[string]int{"reading": 13_000, "reading_flag": 240}, 400, func(string) bool { return false })
	was := f.Dump(t, name)
	must(t, folder, "survey", on, "-o", "saltmere.json")
	match(t, "the outline", must(t, folder, "outline", on), `Firebird 3.*\n(?s:.*)43 tables, 1 view, 163 columns, 32 foreign keys, 96 indexes, 5 triggers, 3 sequences`)
	must(t, folder, "probe", on, "-o", "e.json")
	found := must(t, folder, "check", on, "--evidence", "e.json", "--fail-on", "never", "--all")
	for _, rule := range strings.Fields(`check/as-not-null check/repeated column/code-unchecked column/money-approximate column/stamp-no-default column/type-varies fk/cycle fk/missing
		fk/partly-null fk/required-set-null fk/two-targets fk/type-differs index/behind-key index/broken index/prefix index/repeated key/none key/nullable-unique key/pair-not-unique key/repeated
		name/needs-quotes sequence/behind`) {
		if !regexp.MustCompile(`(?m)\b` + rule + `\b`).MatchString(found) {
			t.Errorf("%s is not found", rule)
		}
	}
	must(t, folder, "script", "fix", on, "--evidence", "e.json", "-o", "fix.sql")
	text := read(t, filepath.Join(folder, "fix.sql"))
	match(t, "the way to run it", text, `(?m)^-- or with: +isql-fb -q -bail .*fix\.sql`)

	// The rehearsal takes an empty database, leaves it so, and refuses another.
	twin := f.Database(t)
	none := f.Dump(t, twin)
	match(t, "the rehearsal", must(t, folder, "rehearse", "fix.sql", "--evidence", "e.json", "--scratch", f.URL(twin)), `gone   (\d+)(?s:.*)new    0`)
	if now := f.Dump(t, twin); now != none {
		t.Errorf("the rehearsal leaves\n%s", changedLines(none, now))
	}
	if r := nexdal(t, folder, "rehearse", "fix.sql", "--scratch", on); r.status == 0 || !strings.Contains(r.err, "it holds 47 objects") {
		t.Errorf("a database in use is rehearsed on: status %d: %s", r.status, r.err)
	}
	if now := f.Dump(t, name); now != was {
		t.Errorf("the rehearsal has touched\n%s", changedLines(was, now))
	}

	// The engine's own client first, on a copy of the file; then the program.
	other := f.Copy(t, name)
	if out, err := f.File(other, filepath.Join(folder, "fix.sql")); err != nil || strings.Contains(out, "Statement failed") {
		t.Errorf("the client: %v: %s", err, out)
	}
	ran := must(t, folder, "run", "fix.sql", "--on", on, "--yes")
	match(t, "the run", ran, "the structure is the one that was planned; nothing else has moved")
	if m := goneOf.FindStringSubmatch(ran); m == nil || m[1] != m[2] {
		t.Errorf("not all is gone: %v in %s", m, ran)
	}
	if mine, its := f.Dump(t, name), f.Dump(t, other); mine != its {
		t.Errorf("the client leaves another structure:\n%s", changedLines(mine, its))
	}
	// A wider type stays, as the script says: rows may need it by then.
	stays := strings.NewReplacer("CREATE TABLE TICKET (ID INTEGER", "CREATE TABLE TICKET (ID BIGINT", "MARK_MM SMALLINT", "MARK_MM INTEGER").Replace(was)
	for db, back := range map[string]func(){
		name: func() { must(t, folder, "run", "fix.reversal.sql", "--on", on, "--yes") },
		other: func() {
			if out, err := f.File(other, filepath.Join(folder, "fix.reversal.sql")); err != nil || strings.Contains(out, "Statement failed") {
				t.Errorf("the client: %v: %s", err, out)
			}
		},
	} {
		back()
		if now := f.Dump(t, db); now != stays {
			t.Errorf("%s: the reversal leaves another structure:\n%s", db, changedLines(stays, now))
		}
	}
}

// TestFirebirdLoads: rows are loaded without foreign keys, indexes and triggers, which come back as
// they were; rows that lead nowhere then keep a foreign key from coming back.
func TestFirebirdLoads(t *testing.T) {
	t.Parallel()
	f, folder := server.StartFirebird(t), t.TempDir()
	name := f.Database(t)
	f.Query(t, name, `CREATE TABLE station (id INTEGER NOT NULL PRIMARY KEY, code VARCHAR(9) NOT NULL CONSTRAINT station_code UNIQUE);
CREATE TABLE visit (id INTEGER NOT NULL CONSTRAINT visit_pk PRIMARY KEY, station_id INTEGER CONSTRAINT visit_station REFERENCES station (id), visited_on DATE NOT NULL, noted INTEGER);
CREATE INDEX visit_day ON visit (visited_on);
SET TERM ^ ;
CREATE TRIGGER visit_note FOR visit BEFORE INSERT AS BEGIN NEW.noted = 1; END^
SET TERM ; ^
COMMIT; INSERT INTO station VALUES (1, 'SAL-1');`)
	was := f.Dump(t, name)
	must(t, folder, "script", "bulkload", f.URL(name), "--table", "VISIT", "--indexes", "--triggers", "-o", "load.sql")
	must(t, folder, "run", "load.sql", "--on", f.URL(name), "--yes")
	// Neither the foreign key nor the trigger is there.
	f.Query(t, name, "INSERT INTO visit (id, station_id, visited_on) VALUES (1, 77, '2026-01-01');")
	match(t, "the row", f.Query(t, name, "SELECT noted FROM visit;"), `<null>`)
	r := nexdal(t, folder, "run", "load.reversal.sql", "--on", f.URL(name), "--yes")
	match(t, "a foreign key over rows that break it", r.err, `the data stands in the way of step 2: values of main\.VISIT \(STATION_ID\) without a row in main\.STATION; nothing was done`)
	f.Query(t, name, "UPDATE visit SET station_id = 1;")
	must(t, folder, "run", "load.reversal.sql", "--on", f.URL(name), "--yes")
	if now := f.Dump(t, name); now != was {
		t.Errorf("after the load:\n%s", changedLines(was, now))
	}
	f.Query(t, name, "INSERT INTO visit (id, station_id, visited_on) VALUES (2, 1, '2026-01-01');")
	match(t, "the row", f.Query(t, name, "SELECT noted FROM visit WHERE id = 2;"), `1`)
}

// TestFirebirdRepairs takes each choice in the engine's own client.
func TestFirebirdRepairs(t *testing.T) {
	t.Parallel()
	f := server.StartFirebird(t)
	const rows = `CREATE DOMAIN words VARCHAR(20) CHARACTER SET WIN1252 COLLATE WIN_PTBR;
CREATE TABLE station (id INTEGER NOT NULL PRIMARY KEY, code VARCHAR(9), name words);
CREATE TABLE gauge (id INTEGER NOT NULL PRIMARY KEY, serial_number words NOT NULL, station_id INTEGER, twice COMPUTED BY (id * 2));
CREATE TABLE visit (id INTEGER NOT NULL PRIMARY KEY, gauge_id INTEGER NOT NULL REFERENCES gauge (id));
COMMIT;
INSERT INTO station VALUES (1, 'SAL-1', 'The Old Pier'); INSERT INTO station VALUES (2, 'SAL-2', NULL);
SET TERM ^ ;
EXECUTE BLOCK AS DECLARE i INTEGER = 1; BEGIN
  WHILE (i <= 150) DO BEGIN
    INSERT INTO gauge (id, serial_number, station_id) VALUES (:i, 'SN-' || IIF(:i = 150, 1, :i), IIF(:i > 147, 77, 1)); i = i + 1;
  END
  INSERT INTO visit VALUES (1, 150); INSERT INTO visit VALUES (2, 1);
END^
SET TERM ; ^
`
	for choice, want := range map[string]string{ // gauges, stations, visits of the first gauge, and rows put aside
		"station a": "147 2 1 3", "station b": "150 2 1", "station c": "150 3 1", "station d": "147 2 1",
		"serial a": "149 2 1 1", "serial b": "149 2 2 1",
	} {
		t.Run(choice, func(t *testing.T) {
			t.Parallel()
			folder, name := t.TempDir(), f.Database(t)
			f.Query(t, name, rows)
			about, letter, _ := strings.Cut(choice, " ")
			if choice == "serial a" || choice == "station a" || choice == "station d" {
				f.Query(t, name, "DELETE FROM visit WHERE gauge_id = 150;") // which refers to one that goes
			}
			must(t, folder, "probe", f.URL(name), "-o", "e.json")
			must(t, folder, "decide", "accept", "GAUGE.STATION_ID", "--evidence", "e.json")
			must(t, folder, "probe", f.URL(name), "-o", "e.json")
			text := must(t, folder, "script", "repair", f.URL(name), "--evidence", "e.json")
			was := f.Dump(t, name)
			f.Query(t, name, regexp.MustCompile(`(?m)^--.*$`).ReplaceAllString(text, ""))
			_, fault, _ := strings.Cut(text, map[string]string{"station": "GAUGE (STATION_ID)", "serial": "GAUGE (SERIAL_NUMBER)"}[about])
			taken := regexp.MustCompile(`(?m)^-- Choice ` + letter + `:.*\n((-- \| .*\n)+)`).FindStringSubmatch(fault)
			if taken == nil {
				t.Fatalf("no such choice: %s", text)
			}
			f.Query(t, name, strings.ReplaceAll(taken[1], "-- | ", ""))
			got := f.Query(t, name, "SELECT (SELECT count(*) FROM gauge), (SELECT count(*) FROM station), (SELECT count(*) FROM visit WHERE gauge_id = 1) FROM rdb$database;")
			if aside := regexp.MustCompile(`GAUGE_ASIDE\d*`).FindString(taken[1]); aside != "" {
				got += " " + f.Query(t, name, "SELECT count(*) FROM "+aside+" WHERE twice = 2 * id;")
				f.Query(t, name, "DROP TABLE "+aside+";")
			}
			if got = strings.Join(strings.Fields(got), " "); got != want {
				t.Errorf("%s are left, want %s", got, want)
			}
			if now := f.Dump(t, name); now != was {
				t.Errorf("more than rows has changed:\n%s", changedLines(was, now))
			}
		})
	}
}

// TestFirebirdRefused: who may not in, what is not there, and addresses that are none: each is said
// with what to do, and no password.
func TestFirebirdRefused(t *testing.T) {
	t.Parallel()
	f, folder := server.StartFirebird(t), t.TempDir()
	name := f.Database(t)
	at, err := url.Parse(f.URL(name))
	if err != nil {
		t.Fatal(err)
	}
	with := func(edit func(u *url.URL)) string {
		u := *at
		edit(&u)
		return u.String()
	}
	for what, x := range map[string]struct {
		address, says string
		status        int
	}{
		"a login":      {with(func(u *url.URL) { u.User = url.UserPassword("NOBODY", "s3cret") }), `user name and password`, 3},
		"a database":   {with(func(u *url.URL) { u.Path = filepath.Dir(u.Path) + "/nowhere.fdb" }), `nowhere\.fdb`, 3},
		"a server":     {with(func(u *url.URL) { u.Host = "127.0.0.1:1" }), `cannot be reached`, 3},
		"no address":   {"firebird://dba:s3cret@[bad/x", `is not a usable address; write firebird://`, 2},
		"no database":  {with(func(u *url.URL) { u.Path = "" }), `write firebird://user@host:3050/alias`, 2},
		"as it should": {at.String(), ``, 0},
	} {
		r := nexdal(t, folder, "survey", x.address, "-o", "s.json")
		if r.status != x.status && !(x.status == 2 && r.status == 3) {
			t.Errorf("%s: status %d: %s", what, r.status, r.err)
		}
		if x.says != "" {
			match(t, what, r.err, x.says)
		}
		if strings.Contains(r.err+r.out, "s3cret") || strings.Contains(r.err+r.out, "masterkey") {
			t.Errorf("%s: the password is told: %s", what, r.err)
		}
	}
	// Where a survey was, none is left by a call that failed.
	if _, err := os.Stat(filepath.Join(folder, "s.json")); err != nil {
		t.Error(err)
	}
}

// TestFirebirdNumbers: rows are given numbers by an UPDATE, so that no trigger is to fire and no check
// to refuse one, and who may insert needs no right to the sequence.
func TestFirebirdNumbers(t *testing.T) {
	t.Parallel()
	f := server.StartFirebird(t)
	for name, x := range map[string]struct{ sql, script string }{
		"plain":   {"", `ADD ID BIGINT`},
		"trigger": {"SET TERM ^ ; CREATE TRIGGER log_bu FOR log BEFORE UPDATE AS BEGIN NEW.noted = CURRENT_TIMESTAMP; END^ SET TERM ; ^", `to number the rows would fire trigger LOG_BU for each`},
		"off":     {"SET TERM ^ ; CREATE TRIGGER log_bu FOR log INACTIVE BEFORE UPDATE AS BEGIN NEW.noted = CURRENT_TIMESTAMP; END^ SET TERM ; ^", `ADD ID BIGINT`},
		"check":   {"ALTER TABLE log ADD CONSTRAINT positive CHECK (what > 0);", `the data stands in the way: rows of main\.LOG that break what > 0`},
		"whole":   {"SET TERM ^ ; CREATE PROCEDURE add_log AS BEGIN INSERT INTO log VALUES (1, NULL); END^ SET TERM ; ^", `procedure ADD_LOG inserts into LOG without a list of columns, and would fail\s+--\s+with one more`},
		"named":   {"SET TERM ^ ; CREATE PROCEDURE add_log AS BEGIN INSERT INTO log (what) VALUES (1); END^ SET TERM ; ^", `ADD ID BIGINT`},
		"taken":   {"CREATE SEQUENCE log_id_seq;", `there is a sequence LOG_ID_SEQ already`},
	} {
		t.Run(name, func(t *testing.T) {
			t.Parallel()
			folder, db := t.TempDir(), f.Database(t)
			f.Query(t, db, "CREATE TABLE log (what INTEGER, noted TIMESTAMP); GRANT INSERT, SELECT ON log TO USER guarded; COMMIT; INSERT INTO log VALUES (-1, NULL); INSERT INTO log VALUES (2, NULL); COMMIT; "+x.sql)
			was, rows := f.Dump(t, db), f.Query(t, db, "SELECT * FROM log;")
			must(t, folder, "script", "fix", f.URL(db), "--rule", "key/none", "-o", "fix.sql")
			match(t, "the script", read(t, filepath.Join(folder, "fix.sql")), x.script)
			if x.script != "ADD ID BIGINT" {
				return
			}
			must(t, folder, "run", "fix.sql", "--on", f.URL(db), "--yes")
			if out, err := f.TryAs("GUARDED", "right", db, "INSERT INTO log (what) VALUES (3); COMMIT; SELECT 'number ' || id FROM log WHERE what = 3;"); err != nil || !strings.Contains(out, "number 3") {
				t.Errorf("who may insert: %v: %s", err, out)
			}
			f.Query(t, db, "DELETE FROM log WHERE what = 3;")
			must(t, folder, "run", "fix.reversal.sql", "--on", f.URL(db), "--yes")
			if now := f.Dump(t, db); now != was {
				t.Errorf("another structure is left:\n%s", changedLines(was, now))
			}
			if now := f.Query(t, db, "SELECT * FROM log;"); now != rows {
				t.Errorf("other rows are left: %s\nwere: %s", now, rows)
			}
		})
	}
}

// TestFirebirdTextTaken: what somebody took the text of is told, is not judged, and goes on working
// behind a fix.
func TestFirebirdTextTaken(t *testing.T) {
	t.Parallel()
	f, folder := server.StartFirebird(t), t.TempDir()
	name := f.Database(t)
	f.Query(t, name, `CREATE TABLE station (id INTEGER NOT NULL PRIMARY KEY, height SMALLINT CONSTRAINT above CHECK (height > 0));
CREATE TABLE gauge (id INTEGER, station_id INTEGER NOT NULL REFERENCES station (id), kind VARCHAR(3) CHECK (kind IN ('a', 'b')));
CREATE INDEX gauge_station ON gauge (station_id);
CREATE SEQUENCE gauge_seq; CREATE SEQUENCE spare_seq;
CREATE VIEW tall AS SELECT id FROM station WHERE height > 10;
SET TERM ^ ;
CREATE TRIGGER gauge_bi FOR gauge BEFORE INSERT AS BEGIN IF (NEW.id IS NULL) THEN NEW.id = GEN_ID(gauge_seq, 1); END^
CREATE PROCEDURE tally RETURNS (n INTEGER) AS BEGIN SELECT COUNT(*) FROM gauge INTO :n; SUSPEND; END^
CREATE PACKAGE pack AS BEGIN FUNCTION one RETURNS INTEGER; END^
CREATE PACKAGE BODY pack AS BEGIN FUNCTION one RETURNS INTEGER AS BEGIN RETURN 1; END END^
SET TERM ; ^
COMMIT;
UPDATE rdb$procedures SET rdb$procedure_source = NULL WHERE rdb$system_flag = 0;
UPDATE rdb$packages SET rdb$package_header_source = NULL, rdb$package_body_source = NULL;
UPDATE rdb$triggers SET rdb$trigger_source = NULL WHERE rdb$relation_name IN ('GAUGE', 'STATION');
UPDATE rdb$relations SET rdb$view_source = NULL WHERE rdb$relation_name = 'TALL';
COMMIT; INSERT INTO station VALUES (1, 12);`)
	r := nexdal(t, folder, "survey", f.URL(name), "-o", "s.json")
	for _, what := range []string{"package PACK", "procedure TALLY", "view TALL", "trigger GAUGE_BI", "check ABOVE", `check INTEG_\d+`} {
		match(t, "the gaps", r.err, `text of `+what+`: it was taken away`)
	}
	made := must(t, folder, "script", "create", "s.json")
	if strings.Contains(made, "CHECK") || !strings.Contains(made, "view main.TALL: its query was not read") {
		t.Errorf("what was not read is made up, or not told: %s", made)
	}
	found := must(t, folder, "check", "s.json", "--all", "--fail-on", "never")
	match(t, "what is not judged", found, `sequence/unused \(1\)`)
	if strings.Contains(found, "takes numbers from sequence") {
		t.Errorf("a sequence is told to be of no use: %s", found)
	}
	works := func() {
		t.Helper()
		f.Query(t, name, "INSERT INTO gauge (station_id, kind) VALUES (1, 'a'); COMMIT; EXECUTE PROCEDURE tally; SELECT pack.one() FROM tall;")
		for _, sql := range []string{"INSERT INTO gauge (station_id, kind) VALUES (1, 'c');", "INSERT INTO station VALUES (2, 0);"} {
			if out, err := f.Try(name, sql); err == nil || !strings.Contains(out, "CHECK constraint") {
				t.Errorf("%s is taken: %s", sql, out)
			}
		}
	}
	works()
	was := f.Dump(t, name)
	must(t, folder, "script", "fix", f.URL(name), "-o", "fix.sql")
	match(t, "the fix", read(t, filepath.Join(folder, "fix.sql")), "DROP INDEX GAUGE_STATION")
	must(t, folder, "run", "fix.sql", "--on", f.URL(name), "--yes")
	works()
	must(t, folder, "run", "fix.reversal.sql", "--on", f.URL(name), "--yes")
	works()
	if now := f.Dump(t, name); now != was {
		t.Errorf("the reversal leaves another structure:\n%s", changedLines(was, now))
	}
	// Another type of a column that an unread check reads is not written.
	other := f.Database(t)
	f.Query(t, other, `CREATE TABLE station (id INTEGER NOT NULL PRIMARY KEY, height INTEGER CONSTRAINT above CHECK (height > 0));`)
	if r := nexdal(t, folder, "script", "change", f.URL(name), f.URL(other), "--table", "STATION"); strings.Contains(r.out, "HEIGHT TYPE") {
		t.Errorf("the type is changed below an unread check: %s", r.out)
	} else {
		match(t, "why not", r.out+r.err, `check STATION\.ABOVE leans on`)
	}
}
