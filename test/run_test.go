package test

import (
	"bytes"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"nexdal/test/server"
)

const faulty = `CREATE TABLE station (id bigint NOT NULL PRIMARY KEY);
CREATE TABLE keeper (id bigint NOT NULL PRIMARY KEY);
CREATE TABLE gauge (id bigint NOT NULL PRIMARY KEY, station_id bigint REFERENCES station (id));
CREATE TABLE visit (id bigint NOT NULL PRIMARY KEY, station_id bigint REFERENCES station (id), cost bigint, minutes bigint);
`

// TestRunGoesOn: a step that a lock keeps from running fails without trace;
// what went before stays; the same call goes on from there.
func TestRunGoesOn(t *testing.T) {
	t.Parallel()
	p := server.StartPostgres(t)
	name := p.Database(t)
	p.Query(t, name, faulty)
	folder := t.TempDir()
	must(t, folder, "script", "fix", p.URL(name), "-o", "fix.sql")
	// Somebody holds visit against changes, and keeper even against a look at
	// its size, which a survey does without.
	release := hold(t, p, name, "LOCK TABLE visit IN SHARE ROW EXCLUSIVE MODE; LOCK TABLE keeper;")
	for range 100 {
		if strings.Contains(p.Query(t, name, "SELECT mode FROM pg_locks WHERE mode = 'AccessExclusiveLock'"), "Access") {
			break
		}
		time.Sleep(20 * time.Millisecond)
	}
	r := nexdal(t, folder, "run", "fix.sql", "--on", p.URL(name), "--yes", "--tries", "1", "--lock-timeout", "2s")
	release()
	if r.status != 1 {
		t.Fatalf("status %d: %s %s", r.status, r.out, r.err)
	}
	match(t, "the run", r.out, "done +1 of 2")
	match(t, "the run", r.err, "step 2 failed: canceling statement due to lock timeout.*go on from step 2")
	match(t, "the index", p.Query(t, name, "SELECT indexrelid::regclass FROM pg_index WHERE NOT indisvalid"), "^$")
	journal := read(t, filepath.Join(folder, "fix.journal.jsonl"))
	match(t, "the journal", journal, `(?s)"step":1,"state":"begun".*"step":1,"state":"done".*"step":2,"state":"begun".*"step":2,"state":"undone"`)
	out := must(t, folder, "run", "fix.sql", "--on", p.URL(name), "--yes")
	match(t, "the second run", out, `(?s)steps before 2 are done.*done  2 of 2.*2 of 2 findings gone`)
	r = nexdal(t, folder, "run", "fix.sql", "--on", p.URL(name), "--yes")
	if r.status != 2 {
		t.Errorf("a third run: status %d", r.status)
	}
	match(t, "a third run", r.err, "was carried out on .*give --first-step 1")
}

// TestPreflight: rows that stand in the way stop the run before its first
// step, and are shown.
func TestPreflight(t *testing.T) {
	t.Parallel()
	folder := t.TempDir()
	db := filepath.Join(folder, "a.db")
	sqlite(t, db, `CREATE TABLE station (id INTEGER PRIMARY KEY); CREATE TABLE keeper (id INTEGER PRIMARY KEY);
		CREATE TABLE station_keeper (id INTEGER PRIMARY KEY, station_id INTEGER NOT NULL REFERENCES station (id), keeper_id INTEGER NOT NULL REFERENCES keeper (id));
		CREATE TABLE gauge (id INTEGER PRIMARY KEY, station_id TEXT REFERENCES station (id));
		INSERT INTO station VALUES (7), (8); INSERT INTO keeper VALUES (1); INSERT INTO gauge VALUES (1, '007');
		INSERT INTO station_keeper VALUES (1, 7, 1), (2, 7, 1);`)
	// Of a live source the questions are put at once, and what would be refused
	// is left out; a survey cannot be asked.
	live := must(t, folder, "script", "fix", "a.db", "--proposals")
	match(t, "left out", strings.Join(strings.Fields(strings.ReplaceAll(live, "--", "")), " "), `(?s)key/pair-not-unique main.station_keeper.*not scripted: the data stands in the way: values of main.station_keeper \(station_id, keeper_id\).*such as station_id 7, keeper_id 1 \(2 times\)`)
	if strings.Contains(live, "change the type") || !strings.Contains(live, "ON station_keeper (keeper_id)") || !strings.Contains(live, "ON gauge (station_id)") {
		t.Errorf("the other fixes are not there alone:\n%s", live)
	}
	must(t, folder, "survey", "a.db", "-o", "a.json")
	must(t, folder, "script", "fix", "a.json", "-o", "fix.sql", "--proposals")
	before := structure(t, folder, "a.db")
	r := nexdal(t, folder, "run", "fix.sql", "--on", "a.db", "--yes")
	if r.status != 1 {
		t.Fatalf("status %d: %s", r.status, r.err)
	}
	match(t, "the first question", r.out, "007")
	match(t, "the first question", r.err, "the data stands in the way of step 1: values of main.gauge.station_id.*nothing was done")
	sqlite(t, db, "UPDATE gauge SET station_id = '7'")
	r = nexdal(t, folder, "run", "fix.sql", "--on", "a.db", "--yes")
	match(t, "the second question", r.out, `7 +1 +2`)
	match(t, "the second question", r.err, "occur more than once; nothing was done")
	if structure(t, folder, "a.db") != before {
		t.Error("something was done")
	}
	// The engine's own shell stops at the same places and leaves the rest alone.
	sqlite(t, db, "UPDATE gauge SET station_id = '007'")
	out, err := exec.Command("sqlite3", db, ".read "+filepath.Join(folder, "fix.sql")).CombinedOutput()
	if err == nil {
		t.Errorf("sqlite3 did not stop: %s", out)
	}
	match(t, "sqlite3", string(out), "rows would change or be lost")
	if structure(t, folder, "a.db") != before || sqlite(t, db, "SELECT station_id FROM gauge") != "007" {
		t.Error("sqlite3 changed something all the same")
	}
}

// TestAnswerNo: only a plain yes carries a script out.
func TestAnswerNo(t *testing.T) {
	t.Parallel()
	folder := t.TempDir()
	sqlite(t, filepath.Join(folder, "a.db"), faulty)
	must(t, folder, "script", "fix", "a.db", "-o", "fix.sql")
	for answer, status := range map[string]int{"": 1, "n\n": 1, "yep\n": 1, "\n": 1, "y\n": 0} {
		if answer == "y\n" {
			continue
		}
		c := command(folder, "run", "fix.sql", "--on", "a.db")
		c.Stdin = strings.NewReader(answer)
		if r := call(t, c); r.status != status || !strings.Contains(r.err, "nothing was done") {
			t.Errorf("%q: status %d: %s", answer, r.status, r.err)
		}
	}
	c := command(folder, "run", "fix.sql", "--on", "a.db")
	c.Stdin = strings.NewReader("y\n")
	if r := call(t, c); r.status != 0 || !strings.Contains(r.out, "2 of 2 findings gone") {
		t.Errorf("y: status %d: %s", r.status, r.err)
	}
}

// TestBusy: while somebody writes, a step waits, fails without trace, and the
// next call goes on.
func TestBusy(t *testing.T) {
	t.Parallel()
	folder := t.TempDir()
	db := filepath.Join(folder, "a.db")
	sqlite(t, db, faulty)
	must(t, folder, "script", "fix", "a.db", "-o", "fix.sql")
	hold := exec.Command("sqlite3", db)
	in, err := hold.StdinPipe()
	if err != nil {
		t.Fatal(err)
	}
	out, err := hold.StdoutPipe()
	if err != nil {
		t.Fatal(err)
	}
	if err := hold.Start(); err != nil {
		t.Fatal(err)
	}
	in.Write([]byte("BEGIN IMMEDIATE;\nSELECT 'held';\n"))
	out.Read(make([]byte, 5))
	r := nexdal(t, folder, "run", "fix.sql", "--on", "a.db", "--yes", "--lock-timeout", "100ms", "--tries", "1")
	in.Close()
	hold.Wait()
	if r.status != 1 {
		t.Errorf("status %d", r.status)
	}
	match(t, "a busy file", r.err, "step 1 failed: database is locked.*left no trace")
	match(t, "afterwards", must(t, folder, "run", "fix.sql", "--on", "a.db", "--yes"), "2 of 2 findings gone")
}

// TestInterrupt: an interrupt in the middle of a command ends it in one
// sentence and leaves nothing half-written.
func TestInterrupt(t *testing.T) {
	p := server.StartPostgres(t)
	name := p.Database(t)
	p.Query(t, name, faulty)
	folder := t.TempDir()
	must(t, folder, "script", "fix", p.URL(name), "-o", "fix.sql")
	before := files(t, folder)
	// Whoever describes an index waits for this lock, and so does whoever makes one.
	release := hold(t, p, name, "LOCK TABLE pg_attribute, visit, gauge IN ACCESS EXCLUSIVE MODE;")
	defer release()
	time.Sleep(300 * time.Millisecond)
	for _, c := range []struct {
		args   []string
		status int
	}{
		{[]string{"survey", p.URL(name), "-o", "s.json"}, 130},
		{[]string{"outline", p.URL(name)}, 130},
		{[]string{"describe", p.URL(name), "visit"}, 130},
		{[]string{"check", p.URL(name), "-o", "c.txt"}, 130},
		{[]string{"script", "fix", p.URL(name), "-o", "again.sql"}, 130},
		{[]string{"run", "fix.sql", "--on", p.URL(name), "--yes"}, 130}, // before the first step
	} {
		r := interrupted(t, folder, 300*time.Millisecond, c.args...)
		if r.status != c.status || strings.Count(r.err, "\n") != 1 {
			t.Errorf("nexdal %s: status %d: %s", c.args[0], r.status, r.err)
		}
		match(t, c.args[0], r.err, "^nexdal: interrupted")
		if now := files(t, folder); now != before {
			t.Errorf("nexdal %s left %s", c.args[0], now)
		}
	}
}

// TestInterruptedRun: an interrupt in the middle of a step takes the step
// back; the journal says so.
func TestInterruptedRun(t *testing.T) {
	p := server.StartPostgres(t)
	name := p.Database(t)
	p.Query(t, name, faulty+`INSERT INTO station SELECT generate_series(1, 10);`)
	folder := t.TempDir()
	must(t, folder, "script", "fix", p.URL(name), "-o", "fix.sql")
	fix := strings.Replace(read(t, filepath.Join(folder, "fix.sql")), "lock_timeout = '5s'", "lock_timeout = '60s'", 1)
	write(t, filepath.Join(folder, "fix.sql"), fix)
	release := hold(t, p, name, "LOCK TABLE visit IN SHARE ROW EXCLUSIVE MODE;")
	time.Sleep(300 * time.Millisecond)
	r := interrupted(t, folder, 1500*time.Millisecond, "run", "fix.sql", "--on", p.URL(name), "--yes")
	release()
	if r.status != 130 || strings.Count(r.err, "\n") != 1 || strings.Contains(r.err, "context canceled") {
		t.Errorf("status %d: %s", r.status, r.err)
	}
	match(t, "the interrupt", r.err, "^nexdal: interrupted: step 2 was cut short")
	match(t, "the journal", read(t, filepath.Join(folder, "fix.journal.jsonl")), `"step":2,"state":"(undone|unknown)"`)
	r = nexdal(t, folder, "run", "fix.sql", "--on", p.URL(name), "--yes")
	if strings.Contains(r.err, "does not know whether step 2 took place") {
		p.Query(t, name, "DROP INDEX IF EXISTS visit_station_id_idx")
		r = nexdal(t, folder, "run", "fix.sql", "--on", p.URL(name), "--yes", "--first-step", "2")
	}
	match(t, "going on", r.out, "2 of 2 findings gone")
}

// interrupted calls the program and interrupts it after a while.
func interrupted(t *testing.T, folder string, after time.Duration, args ...string) result {
	t.Helper()
	c := command(folder, args...)
	var out, errOut bytes.Buffer
	c.Stdout, c.Stderr = &out, &errOut
	if err := c.Start(); err != nil {
		t.Fatal(err)
	}
	time.Sleep(after)
	c.Process.Signal(os.Interrupt)
	done := make(chan struct{})
	go func() {
		select {
		case <-done:
		case <-time.After(20 * time.Second):
			c.Process.Kill()
		}
	}()
	c.Wait()
	close(done)
	return result{c.ProcessState.ExitCode(), out.String(), errOut.String()}
}

// TestInterruptedDemo: a demo that is broken off while it builds its database
// takes away what it made.
func TestInterruptedDemo(t *testing.T) {
	t.Parallel()
	folder := t.TempDir()
	p, m := server.StartPostgres(t), server.StartMariaDB(t)
	name := p.Database(t)
	for _, c := range []struct {
		engine, on string
		left       func() string
	}{
		{"sqlite", "", func() string { return files(t, folder) }},
		{"postgres", p.URL(name), func() string {
			return p.Query(t, name, "SELECT nspname FROM pg_namespace WHERE nspname = 'broken_off'")
		}},
		{"mariadb", m.URL(""), func() string { return m.Query(t, "", "SHOW DATABASES LIKE 'broken%'") }},
	} {
		args := []string{"demo", "--engine", c.engine, "--folder", folder, "--schema", "broken_off"}
		if c.on != "" {
			args = append(args, "--on", c.on)
		}
		r := interrupted(t, folder, 300*time.Millisecond, args...)
		if r.status != 130 || !strings.Contains(r.err, "interrupted") {
			t.Errorf("%s: status %d: %s", c.engine, r.status, r.err)
		}
		if left := c.left(); left != "" {
			t.Errorf("%s: left %s", c.engine, left)
		}
	}
}

// some waits until the query counts something; what comes next fails by itself
// where it never does.
func some(t *testing.T, p *server.Postgres, database, count string) {
	t.Helper()
	for range 200 {
		if p.Query(t, database, count) != "0" {
			return
		}
		time.Sleep(20 * time.Millisecond)
	}
}

// hold takes locks on a PostgreSQL database in a transaction that lasts until
// release is called.
func hold(t *testing.T, p *server.Postgres, database, locks string) (release func()) {
	t.Helper()
	end := holdUntil(t, p, database, locks)
	return func() { end("ROLLBACK;") }
}

// holdUntil lets the caller say how the transaction ends.
func holdUntil(t *testing.T, p *server.Postgres, database, locks string) (end func(sql string)) {
	t.Helper()
	c := exec.Command(server.Psql(), "-X", "-q", "-h", p.Folder, "-U", "postgres", "-d", database)
	in, err := c.StdinPipe()
	if err != nil {
		t.Fatal(err)
	}
	if err := c.Start(); err != nil {
		t.Fatal(err)
	}
	in.Write([]byte("BEGIN; " + locks + "\n"))
	return func(sql string) { in.Write([]byte(sql + "\n")); in.Close(); c.Wait() }
}

// TestSplit: the parts of a script do together what the whole does, by table or by
// phase, and the prose speaks of every finding.
func TestSplit(t *testing.T) {
	t.Parallel()
	for engine, by := range map[string][]string{"sqlite": {"table"}, "postgres": {"table", "phase"}, "mariadb": {"table", "phase"}} {
		for _, by := range by {
			t.Run(engine+" "+by, func(t *testing.T) {
				folder := t.TempDir()
				p := places(t)[engine](t, folder)
				p.query(t, schemaOf(engine)+"CREATE TABLE buoy (id integer NOT NULL);")
				before := structure(t, folder, p.source)
				must(t, folder, "script", "fix", p.source, "-o", "fix.sql", "--split", by, "--review", "fix.md")
				match(t, "the prose", read(t, filepath.Join(folder, "fix.md")), `(?s)^# Corrective script.*### Step 1: .*- \*\*key/none\*\* \(error\) at [a-z0-9.]+buoy.*Who waits: .*\x60\x60\x60sql`)
				files, err := filepath.Glob(filepath.Join(folder, "fix.[0-9].sql"))
				if err != nil || len(files) < 2 {
					t.Fatalf("%d parts, %v", len(files), err)
				}
				for _, f := range files {
					match(t, f, must(t, folder, "run", f, "--on", p.source, "--yes"), "the structure is the one that was planned")
				}
				if left := nexdal(t, folder, "script", "fix", p.source); !strings.Contains(left.out, "-- steps:      0,") {
					t.Errorf("left: %s", left.out)
				}
				for i := len(files) - 1; i >= 0; i-- {
					must(t, folder, "run", strings.Replace(files[i], ".sql", ".reversal.sql", 1), "--on", p.source, "--yes")
				}
				if after := structure(t, folder, p.source); after != before {
					t.Errorf("the reversals lead to %s", after)
				}
			})
		}
	}
	folder := t.TempDir()
	sqlite(t, filepath.Join(folder, "a.db"), unsound)
	for args, says := range map[string]string{
		"script fix a.db --split table":           "give the name that theirs begin with",
		"script fix a.db -o f.sql --split colour": "--split takes table or phase",
		"script fix a.db -o f.sql --split phase":  "split by table",
	} {
		if r := nexdal(t, folder, strings.Fields(args)...); r.status != 2 || !strings.Contains(r.err, says) {
			t.Errorf("%s: %d %s", args, r.status, r.err)
		}
	}
}
