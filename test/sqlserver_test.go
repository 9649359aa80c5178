package test

import (
	"fmt"
	"net/url"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
	"time"

	"nexdal/internal/engine"
	"nexdal/internal/engine/sqlserver"
	simulated "nexdal/internal/standin/sqlserver"
	"nexdal/test/server"
)

// TestSQLServer walks the job on the simulated server: what the script answers is gone, nothing
// else has moved, and after the reversal the server's own views say what they said.
func TestSQLServer(t *testing.T) {
	t.Parallel()
	up, err := simulated.StartOn("127.0.0.1:0", "Saltmere", simulated.Developer, 40*24*time.Hour)
	if err != nil {
		t.Fatal(err)
	}
	defer up.Close()
	folder, on := t.TempDir(), up.URL("Saltmere")
	s := server.Simulated(up)
	fewRows(t, sqlserver.Engine{}, on, map[string]int{"reading": 13_000, "reading_flag": 240}, 400, func(string) bool { return false }) // each flag is 53 readings on
	was := s.Dump(t, "Saltmere")
	use := []string{"--schema", "saltmere"}
	must(t, folder, append([]string{"survey", on, "-o", "saltmere.json"}, use...)...)
	match(t, "the outline", must(t, folder, append([]string{"outline", on}, use...)...), `46 tables, 6 partitions, 2 views, 181 columns, 36 foreign keys, 98 indexes, 1 trigger, 4\s+sequences`)
	must(t, folder, append([]string{"probe", on, "-o", "e.json"}, use...)...)
	use = append(use, "--evidence", "e.json")
	found := must(t, folder, append([]string{"check", on, "--fail-on", "never", "--all"}, use...)...)
	match(t, "the next parts", found, `(?s)partition/horizon +the newest partition "[0-9]+" ends on .*fix extend: split the partitions at`)
	large := must(t, folder, append([]string{"check", on, "--fail-on", "never", "--all", "--rule", "partition/none-on-large", "--set", "partition/none-on-large.rows=1000"}, use...)...)
	match(t, "what may be cut up", large, `(?s)"taken_at" could be the partition key.*partition it by that column.*nexdal script partitions`)
	match(t, "a key's index", found, `fix constraint: make it a unique constraint, whose index is built anew`)
	match(t, "what refuses here", found, `fix restrict: declare it NO ACTION, which is what happens today`)
	for _, rule := range strings.Fields(`check/as-not-null check/not-validated check/repeated check/violated column/default-refused column/money-approximate column/no-time-zone column/obsolete-type
		column/stamp-no-default column/type-varies fk/cascade-reach fk/cycle fk/disabled fk/missing fk/not-indexed fk/not-validated fk/partly-null fk/repeated fk/required-set-null fk/two-targets fk/type-differs
		fk/violated index/behind-key index/broken index/heap index/prefix index/repeated index/too-many index/too-wide index/unused key/index-only key/nearly-full key/none key/nullable-unique key/pair-not-unique
		key/random-clustered key/repeated key/unenforced key/unsuitable-type key/wide name/needs-quotes name/reserved partition/nullable-key sequence/behind sequence/cycles sequence/shared sequence/unused view/broken`) {
		if !regexp.MustCompile(`(?m)\b` + rule + `\b`).MatchString(found) {
			t.Errorf("%s is not found", rule)
		}
	}
	must(t, folder, append([]string{"script", "fix", on, "-o", "fix.sql"}, use...)...)
	text := read(t, filepath.Join(folder, "fix.sql"))
	match(t, "the way to run it", text, `(?m)^-- or with: +sqlcmd -b -x -I -S 127\.0\.0\.1,\d+ -d Saltmere -i fix\.sql$`)
	match(t, "the rehearsal", must(t, folder, "rehearse", "fix.sql", "--evidence", "e.json"), `gone   (\d+)(?s:.*)new    0`)
	ran := must(t, folder, "run", "fix.sql", "--on", on, "--yes")
	match(t, "the run", ran, "the structure is the one that was planned; nothing else has moved")
	if m := goneOf.FindStringSubmatch(ran); m == nil || m[1] != m[2] {
		t.Errorf("not all is gone: %v", m)
	}
	must(t, folder, "run", "fix.reversal.sql", "--on", on, "--yes")
	// An index that was switched off and is built again stays so, as the script says.
	if now := s.Dump(t, "Saltmere"); strings.Replace(now, "bollard|bollard_half_idx|NONCLUSTERED|false|false|false|false|0|false|false|", "bollard|bollard_half_idx|NONCLUSTERED|false|false|false|false|0|false|true|", 1) != was {
		t.Errorf("the reversal leaves another structure:\n%s", changedLines(was, now))
	}

	// Loading without foreign keys: put back unseen they are not trusted, and that is found.
	must(t, folder, "script", "bulkload", on, "--schema", "saltmere", "--table", "visit", "--triggers", "--unchecked", "-o", "load.sql")
	must(t, folder, "run", "load.sql", "--on", on, "--yes")
	if out, err := s.Run("Saltmere", "INSERT INTO saltmere.visit (station_id, keeper_id, visited_on) VALUES (1, 99999, '2026-01-01')"); err != nil {
		t.Errorf("loading: %s", out)
	}
	must(t, folder, "run", "load.reversal.sql", "--on", on, "--yes")
	match(t, "what stays", must(t, folder, "check", on, "--schema", "saltmere", "--rule", "fk/not-validated", "--fail-on", "never"), "visit_keeper_fk was added without checking existing rows")
	must(t, folder, "probe", on, "--schema", "saltmere", "-o", "e.json")
	match(t, "what is wrong", must(t, folder, "check", on, "--schema", "saltmere", "--evidence", "e.json", "--rule", "fk/violated", "--fail-on", "never"), "visit_keeper_fk: 1 of .* has no parent")

	// What puts rows right is what the server takes.
	repair := must(t, folder, "script", "repair", on, "--schema", "saltmere", "--evidence", "e.json")
	for _, choice := range []string{"a", "c", "d"} {
		carryChoice(t, s, repair, "saltmere.visit (keeper_id)", choice)
	}
}

// carryChoice carries out one choice of a repair, and takes it back.
func carryChoice(t *testing.T, s *server.SQLServer, repair, about, choice string) {
	t.Helper()
	_, of, ok := strings.Cut(repair, about)
	if !ok {
		t.Fatalf("no repair of %s in\n%s", about, repair)
	}
	_, of, _ = strings.Cut(of, "Choice "+choice+": ")
	of, _, _ = strings.Cut(of, "\n--\n")
	var sql strings.Builder
	for _, m := range regexp.MustCompile(`(?m)^-- \| (.*)$`).FindAllStringSubmatch(of, -1) {
		line := strings.NewReplacer("COMMIT;", "ROLLBACK;", "NULL /* badge: fill in */", "N'new'", "NULL /* name: fill in */", "N'somebody'").Replace(m[1])
		sql.WriteString(line + "\n")
		if strings.HasPrefix(line, "SELECT TOP (0) * INTO") {
			sql.WriteString("GO\n")
		}
	}
	if out, err := s.Run("Saltmere", sql.String()); err != nil {
		t.Errorf("choice %s: %s\n%s", choice, out, sql.String())
	}
	s.Run("Saltmere", "DROP TABLE IF EXISTS saltmere.visit_aside")
}

// TestSQLServerEditions: indexes are built while others write where the edition can.
func TestSQLServerEditions(t *testing.T) {
	t.Parallel()
	for edition, online := range map[simulated.Edition]bool{simulated.Developer: true, simulated.Standard: false} {
		s, folder := server.StartSQLServer(t, edition), t.TempDir()
		name := s.Database(t)
		if out, err := s.Run(name, "CREATE TABLE station (id int PRIMARY KEY); CREATE TABLE gauge (id int PRIMARY KEY, station_id int REFERENCES station (id))"); err != nil {
			t.Fatal(out)
		}
		script := must(t, folder, "script", "fix", s.URL(name), "--rule", "fk/not-indexed")
		if strings.Contains(script, "WITH (ONLINE = ON, RESUMABLE = ON)") != online {
			t.Errorf("%s: %s", edition.Name, script)
		}
		says := map[bool]string{true: "for a moment at the beginning and the end", false: "writers wait while it is built"}[online]
		match(t, "the lock", script, says)
		match(t, "the journal", must(t, folder, "survey", s.URL(name), "-o", "-"), `"simulated"`)
	}
}

// TestSQLServerReplaces: an index that is to be another under its name is replaced by one statement,
// there and back, and every other is as it was; one that cannot be is dropped and made.
func TestSQLServerReplaces(t *testing.T) {
	t.Parallel()
	s, folder := server.StartSQLServer(t, simulated.Standard), t.TempDir()
	const table = `CREATE TABLE station (id int CONSTRAINT pk_station PRIMARY KEY NONCLUSTERED, code varchar(8) NOT NULL, height int NOT NULL, at datetime2(0) NOT NULL);
		CREATE INDEX ix_at ON station (at);
		INSERT INTO station VALUES (1, 'a', 1, '2026-01-01'), (2, 'b', 1, '2026-01-02');`
	indexes := func(name string) string {
		out, err := s.Run(name, `SELECT i.name, i.type, i.is_unique, i.fill_factor, i.filter_definition, c.key_ordinal, c.column_id, c.is_descending_key, c.is_included_column
			FROM sys.indexes i LEFT JOIN sys.index_columns c ON c.object_id = i.object_id AND c.index_id = i.index_id ORDER BY i.name, c.index_column_id`)
		if err != nil {
			t.Fatal(out)
		}
		return out
	}
	for i, x := range []struct {
		old, new string
		once     bool // by one statement
	}{
		{"CREATE INDEX ix ON station (code)", "CREATE INDEX ix ON station (code, height)", true},
		{"CREATE INDEX ix ON station (code)", "CREATE UNIQUE INDEX ix ON station (code DESC) WHERE height > 0", true},
		{"CREATE INDEX ix ON station (code)", "CREATE INDEX ix ON station (code) INCLUDE (height) WITH (FILLFACTOR = 70)", true},
		{"CREATE CLUSTERED INDEX ix ON station (at)", "CREATE CLUSTERED INDEX ix ON station (at, code)", true},
		{"CREATE CLUSTERED INDEX ix ON station (at)", "CREATE INDEX ix ON station (at, code)", false},
	} {
		from, to, name := s.Database(t), s.Database(t), fmt.Sprintf("c%d.sql", i)
		for db, sql := range map[string]string{from: x.old, to: x.new} {
			if out, err := s.Run(db, table+sql); err != nil {
				t.Fatal(out)
			}
		}
		was, is := indexes(from), indexes(to)
		must(t, folder, "script", "change", s.URL(from), s.URL(to), "-o", name)
		script := read(t, filepath.Join(folder, name))
		if once := strings.Contains(script, "DROP_EXISTING = ON"); once != x.once || once == strings.Contains(script, "DROP INDEX") {
			t.Errorf("%s, then %s:\n%s", x.old, x.new, script)
		}
		must(t, folder, "run", name, "--on", s.URL(from), "--yes")
		if got := indexes(from); got != is {
			t.Errorf("%s, then %s: has\n%s\nnot\n%s", x.old, x.new, got, is)
		}
		if out, err := s.File(from, filepath.Join(folder, strings.TrimSuffix(name, ".sql")+".reversal.sql")); err != nil {
			t.Errorf("back: %s", out)
		}
		if got := indexes(from); got != was {
			t.Errorf("%s, back from %s: has\n%s\nnot\n%s", x.old, x.new, got, was)
		}
	}
}

// TestSQLServerRefused: who may not in, what is not there, what is locked, and addresses that
// are none: each is said with what to do, and no password.
func TestSQLServerRefused(t *testing.T) {
	t.Parallel()
	s, folder := server.StartSQLServer(t, simulated.Developer), t.TempDir()
	name := s.Database(t)
	at, _ := url.Parse(s.URL(name))
	with := func(edit func(u *url.URL)) string {
		u := *at
		edit(&u)
		return u.String()
	}
	for what, x := range map[string]struct {
		address, says string
		status        int
	}{
		"a login":     {with(func(u *url.URL) { u.User = url.UserPassword("nobody", "s3cret") }), `refused the login: Login failed for user 'nobody'.*SQLCMDPASSWORD`, 3},
		"a database":  {with(func(u *url.URL) { u.RawQuery = "database=nowhere" }), `Cannot open database "nowhere".*name a database that exists`, 3},
		"a server":    {with(func(u *url.URL) { u.Host = "127.0.0.1:1" }), `cannot be reached: .*check host, port`, 3},
		"no address":  {"sqlserver://dba:s3cret@[bad/x", `is not a usable address; write sqlserver://`, 2},
		"in its path": {with(func(u *url.URL) { u.Path, u.RawQuery = "/"+name, "" }), ``, 0},
	} {
		r := nexdal(t, folder, "survey", x.address, "-o", "s.json")
		if r.status != x.status && !(x.status == 2 && r.status == 3) {
			t.Errorf("%s: status %d: %s", what, r.status, r.err)
		}
		if x.says != "" {
			match(t, what, r.err, x.says)
		}
		if strings.Contains(r.err+r.out, "s3cret") {
			t.Errorf("%s: the password is told: %s", what, r.err)
		}
	}

	// Somebody holds what the survey needs for longer than it waits.
	held, err := sqlserver.Engine{}.Open(t.Context(), s.URL(name), engine.Options{Write: true})
	if err != nil {
		t.Fatal(err)
	}
	defer held.Close()
	if err := held.(engine.Runner).Exec(t.Context(), "BEGIN TRANSACTION"); err != nil {
		t.Fatal(err)
	}
	r := nexdal(t, folder, "survey", s.URL(name), "-o", "s.json", "--lock-timeout", "100ms")
	match(t, "a lock", r.err, "Lock request time out period exceeded")
	if r.status != 3 {
		t.Errorf("a lock: status %d", r.status)
	}

	// Two runs on one schema do not go on at a time.
	claim := func() (engine.Exclusive, string) {
		opened, err := sqlserver.Engine{}.Open(t.Context(), s.URL(s.Database(t)), engine.Options{Write: true})
		if err != nil {
			t.Fatal(err)
		}
		x := opened.(engine.Exclusive)
		holder, err := x.Claim(t.Context(), []string{"dbo", "tide"})
		if err != nil {
			t.Fatal(err)
		}
		return x, holder
	}
	first, holder := claim()
	if holder != "" {
		t.Errorf("the first run is kept away by %q", holder)
	}
	second, holder := claim()
	defer second.Close()
	if holder == "" {
		t.Error("two runs have the same schemas")
	}
	first.Close()
}

// TestSQLServerActions: actions that the server would refuse are not written (error 1785), and
// what it takes is.
func TestSQLServerActions(t *testing.T) {
	t.Parallel()
	s, folder := server.StartSQLServer(t, simulated.Developer), t.TempDir()
	name := s.Database(t)
	if out, err := s.Run(name, `CREATE TABLE a (id int PRIMARY KEY);
		CREATE TABLE b (id int PRIMARY KEY, a_id int CONSTRAINT b_a REFERENCES a (id) ON DELETE CASCADE);
		CREATE TABLE c (id int PRIMARY KEY, b_id int CONSTRAINT c_b REFERENCES b (id), a_id int CONSTRAINT c_a REFERENCES a (id) ON DELETE CASCADE, own_id int CONSTRAINT c_c REFERENCES c (id));
		CREATE TABLE d (id int PRIMARY KEY, a_id int CONSTRAINT d_a REFERENCES a (id));`); err != nil {
		t.Fatal(out)
	}
	write(t, filepath.Join(folder, "nexdal.yaml"), "rules:\n  fk/house-actions:\n    severity: warning\n    on-delete: [cascade]\n")
	script := must(t, folder, "script", "fix", s.URL(name), "--rule", "fk/house-actions", "-o", "-")
	match(t, "what is written", script, `ADD CONSTRAINT d_a FOREIGN KEY \(a_id\) REFERENCES dbo\.a \(id\) ON DELETE CASCADE`)
	for _, refused := range []string{"c_b", "c_c"} {
		if regexp.MustCompile(`(?m)^ALTER TABLE.*ADD CONSTRAINT ` + refused).MatchString(script) {
			t.Errorf("%s gets an action that the server refuses:\n%s", refused, script)
		}
		match(t, "why not", script, `(?s)`+refused+`.*error 1785`)
	}
	write(t, filepath.Join(folder, "fix.sql"), script)
	if out, err := s.File(name, filepath.Join(folder, "fix.sql")); err != nil {
		t.Error(out)
	}
}

// TestSQLServerLeaning: what leans on keys and columns besides references and plain indexes is kept,
// and what a policy may hide is not taken for all there is.
func TestSQLServerLeaning(t *testing.T) {
	t.Parallel()
	s, folder := server.StartSQLServer(t, simulated.Developer), t.TempDir()
	name := s.Database(t)
	if out, err := s.Run(name, `CREATE TABLE keeper (id int NOT NULL CONSTRAINT pk_keeper PRIMARY KEY, code varchar(8) NOT NULL CONSTRAINT uq_first UNIQUE, said xml NULL, CONSTRAINT uq_second UNIQUE (code));
		CREATE FULLTEXT INDEX ON keeper (code LANGUAGE 1033, said) KEY INDEX uq_first;
		CREATE TABLE visit (id smallint NOT NULL, keeper_id int NOT NULL, notes xml NULL, CONSTRAINT pk_visit PRIMARY KEY (id, keeper_id));
		CREATE PRIMARY XML INDEX px ON visit (notes);
		CREATE XML INDEX sx_path ON visit (notes) USING XML INDEX px FOR PATH;
		CREATE XML INDEX sx_value ON visit (notes) USING XML INDEX px FOR VALUE;
		CREATE XML INDEX sx_property ON visit (notes) USING XML INDEX px FOR PROPERTY;
		CREATE TABLE task (id int NOT NULL CONSTRAINT pk_task PRIMARY KEY, keeper_id bigint NULL, what nvarchar(40) NULL);
		ALTER TABLE task ENABLE CHANGE_TRACKING;
		CREATE SECURITY POLICY own_tasks ADD FILTER PREDICATE dbo.may_see(keeper_id) ON dbo.task WITH (STATE = ON);
		CREATE TABLE part (id int NOT NULL CONSTRAINT pk_part PRIMARY KEY, task_id int NULL, keeper_id bigint NULL);
		INSERT INTO keeper (id, code) VALUES (1, 'a'), (2, 'b');
		INSERT INTO task VALUES (1, 1, N'oil'), (2, 2, N'paint');
		INSERT INTO part VALUES (1, 1, 1), (2, 7, 2);`); err != nil {
		t.Fatal(out)
	}
	on := s.URL(name)
	must(t, folder, "probe", on, "-o", "e.json")
	probed := read(t, filepath.Join(folder, "e.json"))
	match(t, "what could not be asked", probed, `security policy dbo\.own_tasks may hide rows of dbo\.task from who asks`)
	for _, says := range []string{`(?s)"columns": \[[^]]*"table": *"task"`, `"target": *"task"`} {
		if regexp.MustCompile(says).MatchString(probed) {
			t.Errorf("the data of a filtered table is judged: %s", says)
		}
	}
	found := must(t, folder, "check", on, "--fail-on", "never", "--all", "--evidence", "e.json")
	for _, says := range []string{`index/repeated +.*sx_`, `drop "?uq_first`} {
		if regexp.MustCompile(says).MatchString(found) {
			t.Errorf("check says %s:\n%s", says, found)
		}
	}
	match(t, "the spare key", found, `key/repeated`)
	must(t, folder, "script", "fix", on, "--proposals", "--evidence", "e.json", "-o", "fix.sql")
	text := read(t, filepath.Join(folder, "fix.sql"))
	for _, says := range []string{`DROP CONSTRAINT uq_first`, `DROP INDEX sx_`, `ALTER TABLE dbo\.task ALTER COLUMN`} {
		if regexp.MustCompile(says).MatchString(text) {
			t.Errorf("the script says %s:\n%s", says, text)
		}
	}
	match(t, "the other key goes", text, `DROP CONSTRAINT uq_second`)

	// What the change asks for and something leans on is refused with the reason.
	to := s.Database(t)
	if out, err := s.Run(to, `CREATE TABLE keeper (id int NOT NULL CONSTRAINT pk_keeper PRIMARY KEY, code varchar(8) NOT NULL, said xml NULL, CONSTRAINT uq_second UNIQUE (code));
		CREATE TABLE visit (id int NOT NULL, keeper_id int NOT NULL, notes xml NULL, CONSTRAINT pk_visit PRIMARY KEY (id));
		CREATE TABLE task (id int NOT NULL, keeper_id int NULL, what nvarchar(40) NULL);
		CREATE TABLE part (id int NOT NULL CONSTRAINT pk_part PRIMARY KEY, task_id int NULL, keeper_id bigint NULL);`); err != nil {
		t.Fatal(out)
	}
	r := nexdal(t, folder, "script", "change", on, s.URL(to), "--drops", "-o", "change.sql")
	for _, says := range []string{`full-text index keeper leans on it`, `XML index px leans on index pk_visit`, `security policy dbo\.own_tasks leans on it`, `change tracking of task leans on it`} {
		match(t, "what stays", r.out+r.err+read(t, filepath.Join(folder, "change.sql")), says)
	}
	r = nexdal(t, folder, "script", "create", on, "-o", "create.sql")
	for _, says := range []string{`full-text index`, `security policy`, `its changes are tracked`} {
		match(t, "what a copy lacks", r.out+r.err+read(t, filepath.Join(folder, "create.sql")), says)
	}
	for sql, says := range map[string]string{
		"ALTER TABLE visit DROP CONSTRAINT pk_visit":                                  "3734",
		"CREATE XML INDEX nothing ON visit (notes) USING XML INDEX sx_path FOR PATH":  "6391",
		"CREATE PRIMARY XML INDEX nothing ON visit (id)":                              "6350",
		"CREATE TABLE w (x xml)\nGO\nCREATE PRIMARY XML INDEX nothing ON w (x)":       "6332",
		"CREATE FULLTEXT INDEX ON part (task_id) KEY INDEX nothing":                   "7653",
		"ALTER TABLE visit DROP CONSTRAINT pk_visit\nGO\nALTER TABLE w DROP COLUMN x": "3734",
	} {
		if out, err := s.Run(name, sql); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%s: %s %v, not %s", sql, out, err, says)
		}
	}
}
