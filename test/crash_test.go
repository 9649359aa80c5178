package test

import (
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
	"time"

	"nexdal/test/server"
)

// A place is one engine, as the tests that break runs off need it.
type place struct {
	source string
	query  func(t testing.TB, sql string) string
	hold   string             // the statement that takes as long as table hold says
	cut    func(t testing.TB) // ends the sessions that the killed program leaves behind
	slow   func(t testing.TB, yes bool)
	held   func(t testing.TB) bool // the statement that holds is at work
}

// seconds tells the statement that holds how long it is to take.
func seconds(query func(t testing.TB, sql string) string) func(testing.TB, bool) {
	return func(t testing.TB, yes bool) {
		query(t, map[bool]string{true: "UPDATE hold SET seconds = 60", false: "UPDATE hold SET seconds = 0"}[yes])
	}
}

func places(t *testing.T) map[string]func(t *testing.T, folder string) place {
	return map[string]func(t *testing.T, folder string) place{
		"sqlite": func(t *testing.T, folder string) place {
			db := filepath.Join(folder, "a.db")
			query := func(t testing.TB, sql string) string { return sqlite(t, db, sql) }
			return place{db, query,
				"WITH RECURSIVE c(x) AS (SELECT 1 UNION ALL SELECT x + 1 FROM c WHERE x < (SELECT max(seconds) * 10000000 FROM hold)) SELECT count(*) FROM c", func(testing.TB) {}, seconds(query), nil}
		},
		"postgres": func(t *testing.T, folder string) place { return onPostgres(t, server.StartPostgres(t)) },
		"mariadb":  func(t *testing.T, folder string) place { return onMariaDB(t, server.StartMariaDB(t)) },
	}
}

func onPostgres(t testing.TB, p *server.Postgres) place {
	name := p.Database(t)
	query := func(t testing.TB, sql string) string { return p.Query(t, name, sql) }
	return place{p.URL(name), query, "SELECT pg_sleep(seconds) FROM public.hold", func(t testing.TB) {
		for range 200 {
			if strings.TrimSpace(query(t, "SELECT count(pg_terminate_backend(pid)) FROM pg_stat_activity WHERE datname = current_database() AND pid <> pg_backend_pid()")) == "0" {
				return
			}
			time.Sleep(10 * time.Millisecond)
		}
		t.Fatal("the session does not end")
	}, seconds(query), func(t testing.TB) bool {
		return strings.Contains(query(t, "SELECT wait_event FROM pg_stat_activity"), "PgSleep")
	}}
}

func onMariaDB(t testing.TB, m *server.MariaDB) place {
	name := m.Database(t)
	query := func(t testing.TB, sql string) string { return m.Query(t, name, sql) }
	// A table could not be read while others are locked.
	return place{m.URL(name), query, "SELECT IF(@@GLOBAL.long_query_time > 1000, SLEEP(60), 0)", func(t testing.TB) {
		for range 200 {
			ids := strings.Fields(query(t, "SELECT id FROM information_schema.processlist WHERE db = DATABASE() AND id <> CONNECTION_ID() AND info LIKE '%SLEEP%'"))
			if len(ids) == 0 {
				return
			}
			m.Kill(ids[0])
			time.Sleep(10 * time.Millisecond)
		}
		t.Fatal("the session does not end")
	}, func(t testing.TB, yes bool) {
		query(t, map[bool]string{true: "SET GLOBAL long_query_time = 1001", false: "SET GLOBAL long_query_time = 10"}[yes])
	}, func(t testing.TB) bool {
		return query(t, "SELECT 1 FROM information_schema.processlist WHERE db = DATABASE() AND id <> CONNECTION_ID() AND info LIKE '%SLEEP%'") != ""
	}}
}

func onFirebird(t testing.TB, f *server.Firebird) place {
	name := f.Database(t)
	query := func(t testing.TB, sql string) string { return f.Query(t, name, strings.TrimSuffix(sql, ";")+";") }
	others := "mon$attachment_id <> CURRENT_CONNECTION AND mon$system_flag = 0"
	// A statement without a semicolon within, which is not only fetched from; a left join keeps the order.
	return place{f.URL(name), query, "UPDATE hold SET seconds = seconds WHERE 0 = (SELECT count(*) FROM hold h LEFT JOIN rdb$fields a ON h.seconds > 0 LEFT JOIN rdb$fields b ON a.rdb$field_name IS NOT NULL LEFT JOIN rdb$fields c ON b.rdb$field_name IS NOT NULL LEFT JOIN rdb$types d ON c.rdb$field_name IS NOT NULL)",
		func(t testing.TB) {
			for range 200 {
				f.Try(name, "DELETE FROM mon$statements WHERE "+strings.Split(others, " AND")[0]+"; COMMIT; DELETE FROM mon$attachments WHERE "+others+";")
				if strings.TrimSpace(query(t, "SELECT count(*) FROM mon$attachments WHERE "+others)) == "0" {
					return
				}
				time.Sleep(10 * time.Millisecond)
			}
			t.Fatal("the session does not end")
		}, seconds(query), func(t testing.TB) bool {
			return strings.Contains(query(t, "SELECT 'held' FROM mon$statements WHERE mon$state = 1 AND mon$sql_text CONTAINING 'LEFT JOIN rdb$types d' AND mon$attachment_id <> CURRENT_CONNECTION"), "held")
		}}
}

// unsound needs steps of every kind: types on both sides of a foreign key, keys,
// indexes, a column.
const unsound = `CREATE TABLE hold (seconds int NOT NULL PRIMARY KEY);
INSERT INTO hold VALUES (0);
CREATE TABLE station (id bigint NOT NULL PRIMARY KEY, code varchar(9) NOT NULL);
CREATE INDEX station_code ON station (code);
CREATE INDEX station_code_too ON station (code);
CREATE TABLE keeper (id bigint NOT NULL PRIMARY KEY, name varchar(80) NOT NULL, UNIQUE (name));
CREATE TABLE gauge (id bigint NOT NULL PRIMARY KEY, station_id integer, CONSTRAINT gauge_station FOREIGN KEY (station_id) REFERENCES station (id));
CREATE TABLE visit (station_id bigint NOT NULL, keeper_id bigint NOT NULL, CONSTRAINT visit_station FOREIGN KEY (station_id) REFERENCES station (id), CONSTRAINT visit_keeper FOREIGN KEY (keeper_id) REFERENCES keeper (id));
INSERT INTO station VALUES (1, 'SAL-1'), (2, 'SAL-2');
INSERT INTO keeper VALUES (7, 'Ada Voss');
INSERT INTO visit VALUES (1, 7), (2, 7);
`

// forMaria is the like where the engine lets no types of a foreign key differ.
var forMaria = strings.NewReplacer("station_id integer, CONSTRAINT gauge_station FOREIGN KEY (station_id) REFERENCES station (id)",
	"keeper_name varchar(40), CONSTRAINT gauge_keeper FOREIGN KEY (keeper_name) REFERENCES keeper (name)")

// TestCrash kills the program at every step, before its statements, among them
// and behind them: the journal tells what it knows, the next run ends well, and
// the way back leads to the beginning.
func TestCrash(t *testing.T) {
	t.Parallel()
	engines := places(t)
	engines["firebird"] = func(t *testing.T, _ string) place { return onFirebird(t, server.StartFirebird(t)) }
	for engine, open := range engines {
		t.Run(engine, func(t *testing.T) {
			t.Parallel()
			scout := t.TempDir()
			p := open(t, scout)
			p.query(t, schemaOf(engine))
			must(t, scout, "script", "fix", p.source, "-o", "fix.sql", "--proposals")
			steps := len(regexp.MustCompile(`(?m)^-- Step \d+ of`).FindAllString(read(t, filepath.Join(scout, "fix.sql")), -1))
			if steps < 3 {
				t.Fatalf("%d steps are too few", steps)
			}
			for n := 1; n <= steps; n++ {
				for _, at := range []string{"before", "among", "behind"} {
					if at != "among" && engine == "firebird" {
						continue // its steps begin and end as those of PostgreSQL do; some are several transactions
					}
					if at == "before" && n > 1 {
						continue // the same as behind the one that went before
					}
					if at == "behind" && n%2 == 0 && n < steps {
						continue // as behind the others
					}
					t.Run(fmt.Sprintf("%d %s", n, at), func(t *testing.T) { crash(t, engine, open, n, at) })
				}
			}
		})
	}
}

func schemaOf(engine string) string {
	switch engine {
	case "mariadb":
		return forMaria.Replace(unsound)
	case "firebird":
		return strings.NewReplacer("keeper_name varchar(40)", "keeper_name varchar(80)", "'SAL-1'), (2,", "'SAL-1'); INSERT INTO station VALUES (2,", "(1, 7), (2,", "(1, 7); INSERT INTO visit VALUES (2,").Replace(forMaria.Replace(unsound))
	}
	return unsound
}

func crash(t *testing.T, engine string, open func(*testing.T, string) place, n int, at string) {
	folder := t.TempDir()
	p := open(t, folder)
	p.query(t, schemaOf(engine))
	before := structure(t, folder, p.source)
	must(t, folder, "script", "fix", p.source, "-o", "fix.sql", "--proposals")
	path := filepath.Join(folder, "fix.sql")
	text, ok := held(read(t, path), n, at, p.hold)
	if !ok {
		t.Skip("the step is one statement")
	}
	write(t, path, text)
	p.slow(t, true)
	c := command(folder, "run", "fix.sql", "--on", p.source, "--yes")
	if err := c.Start(); err != nil {
		t.Fatal(err)
	}
	began := fmt.Sprintf(`"step":%d,"state":"begun"`, n)
	for i := 0; ; i++ {
		if text, err := os.ReadFile(filepath.Join(folder, "fix.journal.jsonl")); err == nil && strings.Contains(string(text), began) {
			break
		}
		if i == 1000 {
			t.Fatal("the step does not begin")
		}
		time.Sleep(10 * time.Millisecond)
	}
	time.Sleep(100 * time.Millisecond)
	c.Process.Kill()
	c.Wait()
	p.cut(t)
	p.slow(t, false)
	journal := read(t, filepath.Join(folder, "fix.journal.jsonl"))
	match(t, "the journal", journal, began+`.*"edited":true.*\n$`)
	r := nexdal(t, folder, "run", "fix.sql", "--on", p.source, "--yes")
	if r.status != 0 {
		t.Fatalf("going on: status %d: %s\n%s\n%s", r.status, r.out, r.err, journal)
	}
	match(t, "going on", r.err, fmt.Sprintf("whether step %d took place is not known", n))
	match(t, "going on", r.out, `the structure is the one that was planned`)
	must(t, folder, "run", "fix.reversal.sql", "--on", p.source, "--yes")
	if after := structure(t, folder, p.source); after != before {
		t.Errorf("the reversal does not lead back: %s", after)
	}
	for table, rows := range map[string]string{"station": "2", "keeper": "1", "visit": "2"} {
		if got := strings.TrimSpace(p.query(t, "SELECT count(*) FROM "+table)); got != rows {
			t.Errorf("%s holds %s rows", table, got)
		}
	}
}

// held puts a statement that takes long into a step.
func held(text string, n int, at, hold string) (string, bool) {
	lines := strings.Split(text, "\n")
	mark := regexp.MustCompile(fmt.Sprintf(`^-- Step %d of`, n))
	next := regexp.MustCompile(`^-- (Step \d+ of|Not scripted|End of script)`)
	var ends []int // the lines that end a statement of the step
	first, block := 0, false
	for i := range lines {
		if first == 0 && mark.MatchString(lines[i]) {
			first = i + 1
			continue
		}
		if first == 0 {
			continue
		}
		if next.MatchString(lines[i]) {
			break
		}
		if strings.HasPrefix(lines[i], "--") {
			first = i + 1
		} else if strings.HasPrefix(lines[i], "SET TERM ") { // of Firebird's client, around a text with semicolons
			if block = !block; !block {
				ends = append(ends, i+1)
			}
		} else if !block && strings.HasSuffix(lines[i], ";") {
			ends = append(ends, i+1)
		}
	}
	place := first
	switch {
	case len(ends) == 0:
		return text, false
	case at == "behind":
		place = ends[len(ends)-1]
	case at == "among" && len(ends) == 1:
		return text, false
	case at == "among":
		place = ends[(len(ends)-1)/2]
	}
	lines = append(lines[:place], append([]string{hold + ";"}, lines[place:]...)...)
	return strings.Join(lines, "\n"), true
}

// TestServerDies kills the server in every step: the journal says that the step is in
// doubt, and once the server is there again the next run ends well, and so does the way
// back.
func TestServerDies(t *testing.T) {
	t.Parallel()
	for engine, open := range map[string]func(t *testing.T) (place, func(testing.TB), func()){
		"postgres": func(t *testing.T) (place, func(testing.TB), func()) {
			server.StartPostgres(t) // where none is installed the test ends here
			p, err := server.NewPostgres()
			if err != nil {
				t.Fatal(err)
			}
			return onPostgres(t, p), p.Crash, p.Stop
		},
		"mariadb": func(t *testing.T) (place, func(testing.TB), func()) {
			server.StartMariaDB(t)
			m, err := server.NewMariaDB()
			if err != nil {
				t.Fatal(err)
			}
			return onMariaDB(t, m), m.Crash, m.Stop
		},
	} {
		t.Run(engine, func(t *testing.T) {
			t.Parallel()
			p, crash, stop := open(t)
			defer stop()
			p.query(t, schemaOf(engine))
			before := structure(t, t.TempDir(), p.source)
			for n := 1; ; n++ {
				folder := t.TempDir()
				must(t, folder, "script", "fix", p.source, "-o", "fix.sql", "--proposals")
				path := filepath.Join(folder, "fix.sql")
				text, ok := held(read(t, path), n, "among", p.hold)
				if !ok {
					if text, ok = held(text, n, "behind", p.hold); !ok {
						if n < 4 {
							t.Fatalf("%d steps are too few", n-1)
						}
						return
					}
				}
				write(t, path, text)
				p.slow(t, true)
				c := command(folder, "run", "fix.sql", "--on", p.source, "--yes")
				done := make(chan []byte)
				go func() { out, _ := c.CombinedOutput(); done <- out }()
				for !p.held(t) {
					time.Sleep(10 * time.Millisecond)
				}
				crash(t)
				match(t, "the run", string(<-done), fmt.Sprintf(`step %d failed: .*; .*(in doubt: run the script again|left no trace)`, n))
				p.slow(t, false)
				match(t, "going on", must(t, folder, "run", "fix.sql", "--on", p.source, "--yes"), "the structure is the one that was planned")
				must(t, folder, "run", "fix.reversal.sql", "--on", p.source, "--yes")
				if after := structure(t, folder, p.source); after != before {
					t.Fatalf("step %d: the reversal does not lead back: %s", n, after)
				}
			}
		})
	}
}

// TestDryAndStop: a dry run changes nothing; a run that is to stop early goes on
// later; a lock that others give up in time is waited for.
func TestDryAndStop(t *testing.T) {
	t.Parallel()
	folder := t.TempDir()
	p := places(t)["postgres"](t, folder)
	p.query(t, unsound)
	before := structure(t, folder, p.source)
	must(t, folder, "script", "fix", p.source, "-o", "fix.sql")
	match(t, "a dry run", must(t, folder, "run", "fix.sql", "--on", p.source, "--dry-run"), "nothing was done: a dry run; nothing stands in the way")
	if structure(t, folder, p.source) != before {
		t.Error("a dry run changed something")
	}
	if _, err := os.Stat(filepath.Join(folder, "fix.journal.jsonl")); err == nil {
		t.Error("a dry run left a journal")
	}
	match(t, "stopping", must(t, folder, "run", "fix.sql", "--on", p.source, "--yes", "--stop-after", "2"), "stopped after step 2, as asked; run it again to go on with step 3")
	match(t, "stopping too early", nexdal(t, folder, "run", "fix.sql", "--on", p.source, "--yes", "--stop-after", "1").err, "step 1 is behind the run already")
	// The third step finds the table held, and free a little later.
	holder := exec.Command(server.Psql(), strings.Fields("-X -q -h "+regexp.MustCompile(`host=([^&]+)`).FindStringSubmatch(p.source)[1]+" -U postgres "+regexp.MustCompile(`@/(\w+)`).FindStringSubmatch(p.source)[1])...)
	holder.Stdin = strings.NewReader("BEGIN; LOCK TABLE visit, gauge, station; SELECT pg_sleep(2); COMMIT;")
	if err := holder.Start(); err != nil {
		t.Fatal(err)
	}
	for !strings.Contains(p.query(t, "SELECT wait_event FROM pg_stat_activity"), "PgSleep") {
		time.Sleep(10 * time.Millisecond)
	}
	path := filepath.Join(folder, "fix.sql")
	if !strings.Contains(read(t, path), "SET lock_timeout = '5s'") {
		t.Error("the script waits for its locks without end")
	}
	r := nexdal(t, folder, "run", "fix.sql", "--on", p.source, "--yes")
	holder.Wait()
	if r.status != 0 {
		t.Fatalf("going on: %s", r.err)
	}
	match(t, "going on", r.out, "the structure is the one that was planned")
}

// TestMovedOn: a database that is no longer what the script was made for is
// refused, with what differs.
func TestMovedOn(t *testing.T) {
	t.Parallel()
	folder := t.TempDir()
	p := places(t)["sqlite"](t, folder)
	p.query(t, unsound)
	must(t, folder, "script", "fix", p.source, "-o", "fix.sql")
	p.query(t, "ALTER TABLE visit ADD COLUMN remark text")
	r := nexdal(t, folder, "run", "fix.sql", "--on", p.source, "--yes")
	if r.status != 2 {
		t.Errorf("status %d", r.status)
	}
	match(t, "what differs", r.out, `(?s)1 difference.*added    column +remark`)
	match(t, "the refusal", r.err, "no longer as they were when it was made")
}

// TestNoRight: what the user may not alter is found before the first step.
func TestNoRight(t *testing.T) {
	t.Parallel()
	for engine, reader := range map[string]func(place) (setup, source string){
		"postgres": func(p place) (string, string) {
			return "DO $$ BEGIN IF NOT EXISTS (SELECT FROM pg_roles WHERE rolname = 'reader') THEN CREATE ROLE reader LOGIN; END IF; END $$; GRANT SELECT ON ALL TABLES IN SCHEMA public TO reader", strings.Replace(p.source, "postgres@", "reader@", 1)
		},
		"mariadb": func(p place) (string, string) {
			return "CREATE OR REPLACE USER reader@localhost; GRANT SELECT, SHOW VIEW, TRIGGER ON *.* TO reader@localhost", strings.Replace(p.source, "root@", "reader@", 1)
		},
	} {
		t.Run(engine, func(t *testing.T) {
			folder := t.TempDir()
			p := places(t)[engine](t, folder)
			p.query(t, schemaOf(engine))
			setup, source := reader(p)
			p.query(t, setup)
			must(t, folder, "script", "fix", p.source, "-o", "fix.sql")
			r := nexdal(t, folder, "run", "fix.sql", "--on", source, "--yes")
			if r.status != 1 {
				t.Errorf("status %d", r.status)
			}
			match(t, "the refusal", r.err, `the user may not alter \d+ of the script's tables, such as .*; nothing was done`)
		})
	}
}

// TestNothingMade: that the owner of the tables may make nothing in their schema is found
// before the first step; a script that makes nothing is carried out.
func TestNothingMade(t *testing.T) {
	t.Parallel()
	folder := t.TempDir()
	p := places(t)["postgres"](t, folder)
	p.query(t, `DO $$ BEGIN IF NOT EXISTS (SELECT FROM pg_roles WHERE rolname = 'tide_holder') THEN CREATE ROLE tide_holder LOGIN; END IF; END $$;
		CREATE SCHEMA "Tide s"; GRANT USAGE ON SCHEMA "Tide s" TO tide_holder; CREATE TABLE "Tide s".station (id int PRIMARY KEY);
		CREATE TABLE "Tide s".gauge (id int PRIMARY KEY, station_id int REFERENCES "Tide s".station (id)); CREATE TABLE "Tide s".mark (id int PRIMARY KEY, a int, b int); CREATE INDEX x ON "Tide s".mark (a); CREATE INDEX y ON "Tide s".mark (a);
		ALTER TABLE "Tide s".station OWNER TO tide_holder; ALTER TABLE "Tide s".gauge OWNER TO tide_holder; ALTER TABLE "Tide s".mark OWNER TO tide_holder`)
	holder := strings.Replace(p.source, "postgres@", "tide_holder@", 1)
	must(t, folder, "script", "fix", p.source, "-o", "fix.sql")
	r := nexdal(t, folder, "run", "fix.sql", "--on", holder, "--yes")
	if r.status != 1 {
		t.Errorf("status %d", r.status)
	}
	match(t, "the refusal", r.err, `the user may make nothing in schema Tide s .*nothing was done`)
	p.query(t, `CREATE INDEX gauge_station ON "Tide s".gauge (station_id)`)
	must(t, folder, "script", "fix", p.source, "-o", "drop.sql")
	match(t, "a script that drops", must(t, folder, "run", "drop.sql", "--on", holder, "--yes"), "nothing else has moved")
}

// TestRightsMoved: a statement that grants something, put into a script by hand, is told at the
// end of the run: the structure is not all that may move.
func TestRightsMoved(t *testing.T) {
	t.Parallel()
	folder := t.TempDir()
	p := places(t)["postgres"](t, folder)
	p.query(t, "CREATE TABLE station (id int PRIMARY KEY); CREATE TABLE gauge (id int PRIMARY KEY, station_id int REFERENCES station)")
	must(t, folder, "script", "fix", p.source, "-o", "fix.sql")
	path := filepath.Join(folder, "fix.sql")
	write(t, path, strings.Replace(read(t, path), "\nCREATE INDEX", "\nGRANT SELECT ON public.gauge TO PUBLIC;\nCREATE INDEX", 1))
	match(t, "the run", must(t, folder, "run", "fix.sql", "--on", p.source, "--yes"), `(?s)not quite the one that was planned.*gauge.*grants: none → .*SELECT to everybody`)
}

// TestDiskFull: the file may not grow any more in the middle of a step; the step leaves
// no trace, and goes on once there is room.
func TestDiskFull(t *testing.T) {
	folder := t.TempDir()
	p := places(t)["sqlite"](t, folder)
	p.query(t, unsound+"WITH RECURSIVE n(i) AS (SELECT 3 UNION ALL SELECT i + 1 FROM n WHERE i < 20000) INSERT INTO station SELECT i, 'SAL-' || i FROM n; INSERT INTO visit SELECT id, 7 FROM station WHERE id > 2;")
	before := structure(t, folder, p.source)
	must(t, folder, "script", "fix", p.source, "-o", "fix.sql")
	info, err := os.Stat(p.source)
	if err != nil {
		t.Fatal(err)
	}
	program := command(folder).Path
	full := exec.Command("bash", "-c", fmt.Sprintf("ulimit -f %d; exec %s run fix.sql --on a.db --yes", info.Size()/1024+16, program))
	full.Dir = folder
	out, err := full.CombinedOutput()
	if err == nil {
		t.Fatalf("there was room enough: %s", out)
	}
	match(t, "the run", string(out), `step \d+ failed: .*left no trace`)
	if got := p.query(t, "PRAGMA integrity_check"); strings.TrimSpace(got) != "ok" {
		t.Errorf("the file: %s", got)
	}
	match(t, "going on", must(t, folder, "run", "fix.sql", "--on", p.source, "--yes"), "the structure is the one that was planned")
	must(t, folder, "run", "fix.reversal.sql", "--on", p.source, "--yes")
	if after := structure(t, folder, p.source); after != before {
		t.Errorf("the reversal leads to %s", after)
	}
}

// TestServerFull: a server has no room for the copy of a table; the step leaves no trace,
// and goes on once there is room, with all rows.
func TestServerFull(t *testing.T) {
	for engine, open := range map[string]func(t *testing.T) (p place, fill, level string, room func(full bool), stop func()){
		"postgres": func(t *testing.T) (place, string, string, func(bool), func()) {
			server.StartPostgres(t)
			p, err := server.NewPostgres()
			if err != nil {
				t.Fatal(err)
			}
			room := func(full bool) { // for a file of the log, but not for the table
				p.Room(t, map[bool]int64{true: 20 << 20}[full])
			}
			return onPostgres(t, p), "INSERT INTO reading SELECT i, i % 9000, repeat('level ', 9) FROM generate_series(1, 250000) i; VACUUM reading; CHECKPOINT", "integer", room, p.Stop
		},
		"mariadb": func(t *testing.T) (place, string, string, func(bool), func()) {
			server.StartMariaDB(t)
			m, err := server.NewMariaDB()
			if err != nil {
				t.Fatal(err)
			}
			p := onMariaDB(t, m)
			base := regexp.MustCompile(`@/(\w+)`).FindStringSubmatch(p.source)[1]
			room := func(full bool) { m.Disk(t, base, map[bool]uint64{true: 4 << 20, false: 99 << 20}[full]) }
			room(false)
			return p, "INSERT INTO reading SELECT seq, seq % 9000, repeat('level ', 9) FROM seq_1_to_100000", "int", room, m.Stop
		},
	} {
		t.Run(engine, func(t *testing.T) {
			t.Parallel()
			p, fill, level, room, stop := open(t)
			defer stop()
			folder := t.TempDir()
			table := "CREATE TABLE reading (id bigint PRIMARY KEY, level %s NOT NULL, note varchar(90) NOT NULL);"
			p.query(t, fmt.Sprintf(table, "bigint")+"CREATE INDEX by_level ON reading (level)")
			must(t, folder, "survey", p.source, "-o", "goal.json")
			p.query(t, "DROP TABLE reading; "+fmt.Sprintf(table, level))
			p.query(t, fill)
			before, sum := structure(t, folder, p.source), func() string { return p.query(t, "SELECT count(*), sum(level), min(note) FROM reading") }
			rows := sum()
			must(t, folder, "script", "change", p.source, "goal.json", "-o", "c.sql")
			room(true)
			r := nexdal(t, folder, "run", "c.sql", "--on", p.source, "--yes")
			room(false)
			if r.status != 1 {
				t.Fatalf("there was room enough: %s", r.out)
			}
			match(t, "the run", r.err, `step 1 failed: .*left no trace`)
			if structure(t, folder, p.source) != before || sum() != rows {
				t.Errorf("something was changed: %s, was %s", sum(), rows)
			}
			match(t, "going on", must(t, folder, "run", "c.sql", "--on", p.source, "--yes"), "the structure is the one that was planned")
			if sum() != rows {
				t.Errorf("rows were lost: %s, were %s", sum(), rows)
			}
			must(t, folder, "run", "c.reversal.sql", "--on", p.source, "--yes")
			if after := structure(t, folder, p.source); after != before || sum() != rows {
				t.Errorf("the reversal leads to %s", after)
			}
		})
	}
}
