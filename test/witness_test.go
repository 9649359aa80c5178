package test

import (
	"fmt"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"

	"nexdal/test/server"
)

// A witness is a database that somebody else tells the state of: the engine's own dump,
// and statements as ordinary users send them.
type witness interface {
	source() string
	dump(t *testing.T) string            // structure, rows, rights
	say(role, statement string) error    // within a transaction that is rolled back
	client(path string) (string, error)  // runs a script file by the engine's own client
	rights(dump string) (lines []string) // what hangs on objects: grants, comments and the like
}

var (
	asRole  = regexp.MustCompile(`(?m)^-- as (\w*): (.+)$`)
	goes    = regexp.MustCompile(`(?m)^-- goes: (.+)$`)
	withIt  = regexp.MustCompile(`(?m)^-- with: (.+)$`)
	lasting = regexp.MustCompile(`(?m)^-- stays: (.+)$`)
)

// TestNasty fixes what can be fixed in databases as others make them, and takes it back.
// The engine's own dump has to be the one that it was; what hangs on the objects (grants,
// comments, owners) is there after the fix as well, unless a line of the script says
// "-- goes: regexp"; what cannot be taken back is said by "-- stays: regexp"; and what users send ("-- as ROLE: statement") works throughout.
func TestNasty(t *testing.T) {
	t.Parallel()
	witnessed(t, "testdata/nasty/*.sql", func(t *testing.T, build func(*testing.T, string) witness, text string) {
		holds(t, build(t, text), text, false)
		holds(t, build(t, text), text, true)
		halfDone(t, build(t, text), text, 25+35*(len(text)%2)) // early or late: each takes as long as the whole
	})
}

// witnessed tries each of the scripts, whose names end in that of the engine that builds
// databases of it.
func witnessed(t *testing.T, scripts string, try func(t *testing.T, build func(*testing.T, string) witness, text string)) {
	t.Helper()
	paths, err := filepath.Glob(scripts)
	if err != nil || len(paths) == 0 {
		t.Fatalf("no scripts: %v", err)
	}
	for _, path := range paths {
		name := strings.TrimSuffix(filepath.Base(path), ".sql")
		t.Run(name, func(t *testing.T) {
			t.Parallel()
			build := map[string]func(*testing.T, string) witness{"postgres": nastyPostgres, "mariadb": nastyMariaDB, "sqlite": nastySQLite, "firebird": nastyFirebird}[strings.TrimPrefix(filepath.Ext(name), ".")]
			if build == nil {
				t.Fatal("no engine builds it")
			}
			try(t, build, read(t, path))
		})
	}
}

// holds goes there and back, by nexdal run or by the engine's own client.
func holds(t *testing.T, w witness, text string, client bool) {
	t.Helper()
	folder := t.TempDir()
	users := func(when string) {
		t.Helper()
		for _, m := range asRole.FindAllStringSubmatch(text, -1) {
			if err := w.say(m[1], m[2]); err != nil {
				t.Errorf("%s, %s cannot: %s: %v", when, m[1], m[2], err)
			}
		}
	}
	users("before the fix")
	before := w.dump(t)
	must(t, folder, "probe", w.source(), "-o", "evidence.json")
	more := []string{"--proposals"}
	for _, m := range withIt.FindAllStringSubmatch(text, -1) {
		more = append(more, strings.Fields(m[1])...)
	}
	must(t, folder, append([]string{"script", "fix", w.source(), "--evidence", "evidence.json", "-o", "fix.sql"}, more...)...)
	carry := func(script string) {
		t.Helper()
		if client {
			if out, err := w.client(filepath.Join(folder, script)); err != nil {
				t.Fatalf("%s by the client: %v: %s\n%s", script, err, out, read(t, filepath.Join(folder, script)))
			}
			return
		}
		if r := nexdal(t, folder, "run", script, "--on", w.source(), "--yes"); r.status != 0 || !strings.Contains(r.out, "nothing else has moved") {
			t.Fatalf("%s: %s%s\n%s", script, r.out, r.err, read(t, filepath.Join(folder, script)))
		}
	}
	carry("fix.sql")
	users("after the fix")
	now := w.rights(w.dump(t))
	lost := slices.DeleteFunc(w.rights(before), func(line string) bool {
		return slices.Contains(now, line) || slices.ContainsFunc(goes.FindAllStringSubmatch(text, -1), func(m []string) bool { return regexp.MustCompile(m[1]).MatchString(line) })
	})
	if len(lost) > 0 {
		t.Errorf("after the fix these are gone:\n%s", strings.Join(lost, "\n"))
	}
	carry("fix.reversal.sql")
	users("after the reversal")
	if after := without(w.dump(t), text); after != without(before, text) {
		t.Errorf("the reversal leaves another database:\n%s", changedLines(before, after))
	}
}

// without leaves out of a dump what the script says to stay, and the empty lines around it.
func without(dump, text string) string {
	for _, m := range lasting.FindAllStringSubmatch(text, -1) {
		dump = regexp.MustCompile(`(?m)^(`+m[1]+`)?\n`).ReplaceAllString(dump, "")
	}
	return dump
}

// halfDone stops after so many percent of the steps, and takes back what was done.
func halfDone(t *testing.T, w witness, text string, share int) {
	t.Helper()
	folder := t.TempDir()
	before := w.dump(t)
	must(t, folder, "probe", w.source(), "-o", "evidence.json")
	must(t, folder, "script", "fix", w.source(), "--evidence", "evidence.json", "-o", "fix.sql", "--proposals")
	steps := strings.Count(read(t, filepath.Join(folder, "fix.sql")), "\n-- Step ")
	until := max(1, steps*share/100)
	for {
		must(t, folder, "run", "fix.sql", "--on", w.source(), "--yes", "--stop-after", fmt.Sprint(until))
		r := nexdal(t, folder, "run", "fix.reversal.sql", "--on", w.source(), "--yes")
		if r.status == 0 {
			break
		}
		m := regexp.MustCompile(`to the end of step (\d+) `).FindStringSubmatch(r.err)
		if m == nil || m[1] == fmt.Sprint(until) {
			t.Fatalf("after %d of %d steps: %s%s", until, steps, r.out, r.err)
		}
		fmt.Sscan(m[1], &until)
	}
	if after := without(w.dump(t), text); after != without(before, text) {
		t.Errorf("after %d of %d steps the reversal leaves another database:\n%s", until, steps, changedLines(before, after))
	}
}

// TestDroppedComesBack: what a script of changes drops comes back with its owner, its
// grants and its comments.
func TestDroppedComesBack(t *testing.T) {
	t.Parallel()
	w := nastyPostgres(t, read(t, "testdata/nasty/rights.postgres.sql"))
	folder := t.TempDir()
	structure := func() string {
		return regexp.MustCompile(`(?s)COPY .*?\n\\\.\n`).ReplaceAllString(w.dump(t), "") // the rows of what is dropped are lost, as the script says
	}
	before := structure()
	of := w.(ofPostgres)
	goal := of.name + "_goal"
	of.p.Query(t, "postgres", "CREATE DATABASE "+goal+" TEMPLATE "+of.name)
	of.p.Query(t, goal, "DROP TABLE saltmere.visit, saltmere.alert, saltmere.calib CASCADE; DROP SEQUENCE saltmere.lone_seq")
	must(t, folder, "script", "change", w.source(), of.p.URL(goal), "--drops", "-o", "change.sql")
	must(t, folder, "run", "change.sql", "--on", w.source(), "--yes")
	if now := w.dump(t); strings.Contains(now, "CREATE TABLE saltmere.visit ") || strings.Contains(now, "lone_seq") {
		t.Fatal("nothing was dropped")
	}
	must(t, folder, "run", "change.reversal.sql", "--on", w.source(), "--yes")
	if after := structure(); after != before {
		t.Errorf("the reversal leaves another database:\n%s", changedLines(before, after))
	}
}

// TestReplacedView: a view that is made again keeps its owner and its grants, those of
// columns and those handed on included, and so does one that reads it. What default
// privileges give a new object is not added.
func TestReplacedView(t *testing.T) {
	t.Parallel()
	w := nastyPostgres(t, `DO $$ BEGIN CREATE ROLE tide_owner; EXCEPTION WHEN duplicate_object THEN NULL; END $$;
		DO $$ BEGIN CREATE ROLE tide_reader; EXCEPTION WHEN duplicate_object THEN NULL; END $$;
		DO $$ BEGIN CREATE ROLE tide_writer; EXCEPTION WHEN duplicate_object THEN NULL; END $$;
		CREATE SCHEMA saltmere;
		CREATE TABLE saltmere.gauge (gauge_id int PRIMARY KEY, "Model" text, level numeric);
		CREATE VIEW saltmere.gauge_list AS SELECT gauge_id, "Model", level FROM saltmere.gauge;
		CREATE VIEW saltmere.gauge_ids AS SELECT gauge_id FROM saltmere.gauge_list;
		GRANT USAGE ON SCHEMA saltmere TO tide_reader, tide_writer;
		GRANT SELECT (gauge_id, level), UPDATE (level) ON saltmere.gauge_list TO tide_reader;
		GRANT SELECT ("Model") ON saltmere.gauge_list TO PUBLIC;
		GRANT INSERT, SELECT ON saltmere.gauge_list TO tide_writer WITH GRANT OPTION;
		SET ROLE tide_writer; GRANT INSERT ON saltmere.gauge_list TO tide_reader; RESET ROLE;
		ALTER VIEW saltmere.gauge_ids OWNER TO tide_owner;
		GRANT SELECT ON saltmere.gauge_list TO tide_owner;
		REVOKE DELETE ON saltmere.gauge_ids FROM tide_owner;
		GRANT SELECT ON saltmere.gauge_ids TO tide_reader;
		COMMENT ON COLUMN saltmere.gauge_list."Model" IS 'the kind';
		ALTER DEFAULT PRIVILEGES IN SCHEMA saltmere GRANT ALL ON TABLES TO tide_writer;`)
	folder := t.TempDir()
	of := w.(ofPostgres)
	goal := of.name + "_goal"
	of.p.Query(t, "postgres", "CREATE DATABASE "+goal+" TEMPLATE "+of.name)
	of.p.Query(t, goal, `DROP VIEW saltmere.gauge_list CASCADE; CREATE VIEW saltmere.gauge_list AS SELECT gauge_id, "Model" FROM saltmere.gauge;
		CREATE VIEW saltmere.gauge_ids AS SELECT gauge_id FROM saltmere.gauge_list; COMMENT ON COLUMN saltmere.gauge_list."Model" IS 'the kind'`)
	before := w.dump(t)
	must(t, folder, "script", "change", w.source(), of.p.URL(goal), "--drops", "-o", "change.sql")
	must(t, folder, "run", "change.sql", "--on", w.source(), "--yes")
	for line := range strings.Lines(changedLines(before, w.dump(t))) {
		if line = strings.TrimSpace(line[1:]); regexp.MustCompile("GRANT|REVOKE|OWNER|COMMENT").MatchString(line) && !regexp.MustCompile(`\(level\)|gauge_list\.level `).MatchString(line) {
			t.Errorf("the view made again differs in: %s", line)
		}
	}
	must(t, folder, "run", "change.reversal.sql", "--on", w.source(), "--yes")
	if after := w.dump(t); after != before {
		t.Errorf("the reversal leaves another database:\n%s", changedLines(before, after))
	}
}

// changedLines are those that one text alone has.
func changedLines(before, after string) string {
	count := map[string]int{}
	for line := range strings.Lines(before) {
		count[line]++
	}
	var b strings.Builder
	for line := range strings.Lines(after) {
		if count[line]--; count[line] < 0 {
			b.WriteString("+ " + line)
		}
	}
	for line := range strings.Lines(before) {
		if count[line] > 0 {
			count[line]--
			b.WriteString("- " + line)
		}
	}
	if b.Len() == 0 {
		return "the same lines in another order"
	}
	return b.String()
}

type ofPostgres struct {
	p    *server.Postgres
	name string
	test *testing.T
}

var fromVersion = regexp.MustCompile(`(?m)^-- from postgres (\d+)$`)

// needsNewer is the line of a script that says from which version on it is one, where the server is older.
func needsNewer(text string, p *server.Postgres) string {
	if m := fromVersion.FindStringSubmatch(text); m != nil && m[1] > fmt.Sprint(p.Major()) {
		return m[0]
	}
	return ""
}

func nastyPostgres(t *testing.T, text string) witness {
	p := server.StartPostgres(t)
	if why := needsNewer(text, p); why != "" {
		t.Skip(why)
	}
	w := ofPostgres{p, p.Database(t), t}
	p.Query(t, w.name, text)
	return w
}

func (w ofPostgres) source() string { return w.p.URL(w.name) }

var notStructure = regexp.MustCompile(`(?m)^(--.*|\\(un)?restrict .*|SELECT pg_catalog\.setval.*)\n`)

func (w ofPostgres) dump(t *testing.T) string {
	t.Helper()
	return notStructure.ReplaceAllString(w.p.Dump(t, w.name), "")
}

func (w ofPostgres) say(role, statement string) error {
	set := ""
	if role != "" {
		set = "SET LOCAL ROLE " + role + ";"
	}
	out, err := exec.Command(server.Psql(), "-X", "-q", "-v", "ON_ERROR_STOP=1", "-h", w.p.Folder, "-U", "postgres", "-d", w.name, "-c", "BEGIN; "+set+" "+strings.TrimSuffix(statement, ";")+"; ROLLBACK").CombinedOutput()
	if err != nil {
		return &exec.Error{Name: strings.TrimSpace(string(out)), Err: err}
	}
	return nil
}

func (w ofPostgres) client(path string) (string, error) { return w.p.File(w.name, path) }

var rightsOfPostgres = regexp.MustCompile(`(?m)^(GRANT|REVOKE|COMMENT ON|SECURITY LABEL|CREATE (POLICY|RULE|PUBLICATION|STATISTICS)|ALTER PUBLICATION|ALTER DEFAULT PRIVILEGES|ALTER .* (OWNER TO|CLUSTER ON|REPLICA IDENTITY|SET STORAGE|SET COMPRESSION|SET STATISTICS)) .*$`)

func (w ofPostgres) rights(dump string) []string { return rightsOfPostgres.FindAllString(dump, -1) }

type ofMariaDB struct {
	m    *server.MariaDB
	name string
}

func nastyMariaDB(t *testing.T, text string) witness {
	m := server.StartMariaDB(t)
	w := ofMariaDB{m, m.Database(t)}
	path := filepath.Join(t.TempDir(), "nasty.sql")
	write(t, path, text)
	if out, err := m.File(w.name, path); err != nil {
		t.Fatalf("%v: %s", err, out)
	}
	return w
}

func (w ofMariaDB) source() string { return w.m.URL(w.name) }

func (w ofMariaDB) dump(t *testing.T) string {
	t.Helper()
	out, err := exec.Command("mariadb-dump", "--no-defaults", "-u", "root", "-S", w.m.Socket(), "--routines", "--events", "--triggers", "--skip-comments", "--skip-extended-insert", "--complete-insert", w.name).CombinedOutput()
	if err != nil {
		t.Fatalf("mariadb-dump: %s", out)
	}
	privileges, err := exec.Command("mariadb", "--no-defaults", "-u", "root", "-S", w.m.Socket(), "-N", "-e",
		"SELECT 'PRIVILEGE', grantee, table_name, privilege_type FROM information_schema.table_privileges WHERE table_schema = '"+w.name+"' UNION ALL SELECT 'PRIVILEGE', grantee, CONCAT(table_name, '.', column_name), privilege_type FROM information_schema.column_privileges WHERE table_schema = '"+w.name+"' ORDER BY 1, 2, 3, 4").CombinedOutput()
	if err != nil {
		t.Fatalf("privileges: %s", privileges)
	}
	// A key that is put back stands behind the others, and how far a table has counted is no
	// structure.
	text := regexp.MustCompile(` AUTO_INCREMENT=\d+`).ReplaceAllString(strings.ReplaceAll(string(out), ",\n", "\n"), "")
	return sorted(strings.Split(text, "\n"), "\x00") + string(privileges)
}

func (w ofMariaDB) say(role, statement string) error {
	user := role
	if user == "" {
		user = "root"
	}
	out, err := exec.Command("mariadb", "--no-defaults", "-u", user, "-S", w.m.Socket(), w.name, "-e", "BEGIN; "+strings.TrimSuffix(statement, ";")+"; ROLLBACK").CombinedOutput()
	if err != nil {
		return &exec.Error{Name: strings.TrimSpace(string(out)), Err: err}
	}
	return nil
}

func (w ofMariaDB) client(path string) (string, error) { return w.m.File(w.name, path) }

var rightsOfMariaDB = regexp.MustCompile(`(?m)^(PRIVILEGE\t.*|.*DEFINER=.*)$`)

func (w ofMariaDB) rights(dump string) []string { return rightsOfMariaDB.FindAllString(dump, -1) }

type ofSQLite struct{ path string }

func nastySQLite(t *testing.T, text string) witness {
	path := filepath.Join(t.TempDir(), "nasty.db")
	sqlite(t, path, text)
	return ofSQLite{path}
}

func (w ofSQLite) source() string { return w.path }

func (w ofSQLite) dump(t *testing.T) string {
	t.Helper()
	// A table that was made again stands behind the others.
	statements := strings.Split(sqlite(t, w.path, ".dump\nPRAGMA user_version; PRAGMA application_id;"), ";\n")
	slices.Sort(statements)
	return strings.Join(statements, ";\n")
}

func (w ofSQLite) say(_, statement string) error {
	c := exec.Command("sqlite3", "-bail", w.path)
	c.Stdin = strings.NewReader("PRAGMA foreign_keys = ON; BEGIN; " + strings.TrimSuffix(statement, ";") + "; ROLLBACK;")
	if out, err := c.CombinedOutput(); err != nil {
		return &exec.Error{Name: strings.TrimSpace(string(out)), Err: err}
	}
	return nil
}

func (w ofSQLite) client(path string) (string, error) {
	out, err := exec.Command("sqlite3", "-bail", w.path, ".read "+path).CombinedOutput()
	return string(out), err
}

func (w ofSQLite) rights(string) []string { return nil }

var keeps = regexp.MustCompile(`(?m)^-- stays: (.+)$`)

// TestBecomes brings databases to be as others are, and takes it back: what the engine's dump
// says of them then is what it says of the others, and of themselves before, but for lines
// that fit "-- stays: regexp".
func TestBecomes(t *testing.T) {
	t.Parallel()
	witnessed(t, "testdata/changes/*.sql", func(t *testing.T, build func(*testing.T, string) witness, text string) {
		from, to, ok := strings.Cut(text, "\n-- becomes\n")
		if !ok {
			t.Fatal("it does not say what it becomes")
		}
		a, b, folder := build(t, from), build(t, to), t.TempDir()
		structure := func(w witness) string {
			dump := regexp.MustCompile(`(?m)^INSERT INTO .*\n|(?s)COPY .*?\n\\\.\n`).ReplaceAllString(w.dump(t), "")
			for _, m := range keeps.FindAllStringSubmatch(text, -1) {
				dump = regexp.MustCompile(`(?m)^.*`+m[1]+`.*\n`).ReplaceAllString(dump, "")
			}
			return dump
		}
		before, whole, goal := structure(a), a.dump(t), structure(b)
		must(t, folder, "script", "change", a.source(), b.source(), "--drops", "-o", "c.sql")
		must(t, folder, "run", "c.sql", "--on", a.source(), "--yes")
		if now := structure(a); now != goal {
			t.Errorf("it is another than the one that it was to become:\n%s\n%s", changedLines(goal, now), read(t, filepath.Join(folder, "c.sql")))
		}
		must(t, folder, "run", "c.reversal.sql", "--on", a.source(), "--yes")
		if now := structure(a); now != before {
			t.Errorf("the reversal leaves another structure:\n%s", changedLines(before, now))
		} else if now := a.dump(t); now != whole {
			t.Errorf("the reversal leaves other rows:\n%s", changedLines(whole, now))
		}
	})
}

var scripted = regexp.MustCompile(`(?m)^-- script: (.+)$`)

// TestPartitioned partitions plain tables as "-- script: flags" says, and takes it back: what
// users send works throughout, what they may do stays, and the dump in the end is the one
// that it was.
func TestPartitioned(t *testing.T) {
	t.Parallel()
	witnessed(t, "testdata/partitioned/*.postgres.sql", func(t *testing.T, build func(*testing.T, string) witness, text string) {
		flags := strings.Fields(scripted.FindStringSubmatch(text)[1])
		for i := range flags {
			flags[i] = strings.ReplaceAll(flags[i], "~", " ")
		}
		for _, left := range []int{0, 1, 3} { // steps that are not carried out
			w, folder := build(t, text), t.TempDir()
			before := w.dump(t)
			must(t, folder, append([]string{"script", "partitions", w.source(), "-o", "p.sql"}, flags...)...)
			run := []string{"run", "p.sql", "--on", w.source(), "--yes"}
			until := strings.Count(read(t, filepath.Join(folder, "p.sql")), "\n-- Step ") - left
			if until < 1 {
				break
			}
			if left > 0 {
				run = append(run, "--stop-after", fmt.Sprint(until))
			}
			match(t, "the run", must(t, folder, run...), "nothing else has moved|stop")
			for _, m := range asRole.FindAllStringSubmatch(text, -1) {
				if err := w.say(m[1], m[2]); err != nil {
					t.Errorf("after it, %s cannot: %s: %v", m[1], m[2], err)
				}
			}
			if left == 0 {
				after := w.dump(t)
				for _, m := range regexp.MustCompile(`(?m)^-- holds: (.+)$`).FindAllStringSubmatch(text, -1) {
					if w.(ofPostgres).p.Major() <= 15 { // it is in the words of pg_dump
						match(t, "the dump", after, m[1])
					}
				}
				if !strings.Contains(after, "ATTACH PARTITION") || strings.Contains(after, "GRANT ALL ON TABLE saltmere.reading_20") {
					t.Errorf("what came of it:\n%s", changedLines(before, after))
				}
				for _, line := range w.rights(before) { // the whole's are those that the table had
					if !strings.Contains(after, line) && regexp.MustCompile(`^(GRANT|REVOKE|ALTER .* OWNER)`).MatchString(line) {
						t.Errorf("after it this is gone: %s", line)
					}
				}
			}
			must(t, folder, "run", "p.reversal.sql", "--on", w.source(), "--yes")
			if after := w.dump(t); sorted(strings.Split(after, "\n"), "\n") != sorted(strings.Split(before, "\n"), "\n") { // rows that moved stand elsewhere
				t.Errorf("the reversal, after step %d, leaves another database:\n%s", until, changedLines(before, after))
			}
		}
	})
}

// TestFromNothing: an empty database is brought to be as each nasty one is, and back: then there is
// nothing again, as the engine's own dump says. Between, all is there but what belongs to the database
// as a whole and nothing else needs, and a reference to what no key keeps unique, which is not made: the
// script says both.
func TestFromNothing(t *testing.T) {
	t.Parallel()
	left := regexp.MustCompile(`(?m)^ +(added|removed) +(object +(cast|event trigger)|(foreign key|index) +to_some) .*$`)
	for engine, empty := range map[string]string{"postgres": "SELECT 1;", "mariadb": "SELECT 1;", "sqlite": "VACUUM;", "firebird": "SELECT 1 FROM rdb$database;"} {
		witnessed(t, "testdata/nasty/*."+engine+".sql", func(t *testing.T, build func(*testing.T, string) witness, text string) {
			a, b, folder := build(t, empty), build(t, text), t.TempDir()
			// A table of the engine's own stays, which counts for others.
			dump := func() string { return strings.ReplaceAll(a.dump(t), "DELETE FROM sqlite_sequence;\n", "") }
			before := dump()
			must(t, folder, "script", "change", a.source(), b.source(), "-o", "c.sql")
			must(t, folder, "run", "c.sql", "--on", a.source(), "--yes")
			r := nexdal(t, folder, "compare", a.source(), b.source(), "--ignore", "name")
			if found := regexp.MustCompile(`(?m)^ +(added|removed|altered) .*$`).FindAllString(left.ReplaceAllString(r.out, ""), -1); len(found) > 0 {
				t.Errorf("it is another:\n%s%s", r.out, r.err)
			}
			must(t, folder, "run", "c.reversal.sql", "--on", a.source(), "--yes")
			if now := dump(); now != before {
				t.Errorf("something is left:\n%s", changedLines(before, now))
			}
		})
	}
}
