package test

import (
	"encoding/json"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
	"time"

	"nexdal/internal/engine/capture"
	"nexdal/internal/engine/mysql"
	"nexdal/internal/standin/redshift"
	"nexdal/internal/standin/sqlserver"
	"nexdal/test/server"
)

// client runs a capture's script with an engine's own client, and returns what it writes.
type client func(t *testing.T, script string) string

// captures tests that what the client answers is read as the survey of the database itself is.
func captures(t *testing.T, engine, source string, ask client) (result string) {
	t.Helper()
	folder := t.TempDir()
	must(t, folder, "capture", engine, "-o", "ask.sql")
	// A server counts some time after the fact: what it says before and after has to be the same.
	want := undated(must(t, folder, "survey", source))
	for range 20 {
		result = ask(t, filepath.Join(folder, "ask.sql"))
		before := want
		if want = undated(must(t, folder, "survey", source)); want == before {
			break
		}
		time.Sleep(250 * time.Millisecond)
	}
	if err := os.WriteFile(filepath.Join(folder, "result.txt"), []byte(result), 0o644); err != nil {
		t.Fatal(err)
	}
	got := undated(must(t, folder, "survey", "result.txt"))
	if engine == "sqlite" { // the program reads with another release of the library than the shell's
		want, got = unversioned.ReplaceAllString(want, ""), unversioned.ReplaceAllString(got, "")
	}
	if got != want {
		t.Errorf("the capture is read otherwise than the database:\n%s", changedLines(want, got))
	}
	return result
}

var unversioned = regexp.MustCompile(`"version": "3[^"]*"`)

// undated is a survey without the moment at which it was made.
func undated(survey string) string {
	lines := strings.SplitAfter(survey, "\n")
	for i, line := range lines {
		if strings.Contains(line, `"surveyed": "`) {
			lines[i] = ""
		}
	}
	return strings.Join(lines, "")
}

func TestCapture(t *testing.T) {
	t.Parallel()
	t.Run("postgres", func(t *testing.T) {
		t.Parallel()
		p := server.StartPostgres(t)
		nasty, err := filepath.Glob("testdata/nasty/*.postgres.sql")
		if err != nil || len(nasty) == 0 {
			t.Fatal(err)
		}
		for _, path := range append(nasty, "testdata/everything.postgres.sql", "testdata/captured/names.postgres.sql") {
			t.Run(filepath.Base(path), func(t *testing.T) {
				text := read(t, path)
				if why := needsNewer(text, p); why != "" {
					t.Skip(why)
				}
				db := p.Database(t)
				p.Query(t, db, text)
				captures(t, "postgres", p.URL(db), psqlClient(p.URL(db)))
			})
		}
	})
}

func TestCaptureMariaDB(t *testing.T) {
	t.Parallel()
	m := server.StartMariaDB(t)
	nasty, err := filepath.Glob("testdata/nasty/*.mariadb.sql")
	if err != nil || len(nasty) == 0 {
		t.Fatal(err)
	}
	for _, path := range append(nasty, "testdata/everything.mariadb.sql", "testdata/sound.mariadb.sql", "testdata/captured/names.mariadb.sql") {
		t.Run(filepath.Base(path), func(t *testing.T) {
			db := m.Database(t)
			m.Query(t, db, read(t, path))
			captures(t, "mariadb", m.URL(db), mariadbClient(m, db))
		})
	}
}

// TestCaptureMySQL: what the first run writes is asked by the second. What a refused question does
// to those behind it is tried on MariaDB, which tells of errors as MySQL does.
func TestCaptureMySQL(t *testing.T) {
	t.Parallel()
	m := server.OwnMySQL(t)
	for _, path := range []string{"testdata/everything.mysql.sql", "testdata/captured/names.mysql.sql"} {
		t.Run(filepath.Base(path), func(t *testing.T) {
			db := m.Database(t)
			m.Query(t, db, read(t, path))
			captures(t, "mysql", m.URL(db), mysqlClient(m, db))
		})
	}
	t.Run("refused", func(t *testing.T) {
		real := server.StartMariaDB(t)
		script := filepath.Join(t.TempDir(), "data.sql")
		refused, empty, some := capture.Question{SQL: "SELECT x FROM nowhere", Most: 2}, capture.Question{SQL: "SELECT 1 AS one FROM DUAL WHERE 1 = 0", Most: 2}, capture.Question{SQL: "SELECT 7 AS seven", Most: 2}
		if err := os.WriteFile(script, []byte(mysql.Engine.DataScript([]capture.Question{refused, empty, refused, some})), 0o644); err != nil {
			t.Fatal(err)
		}
		all, err := capture.Read(strings.NewReader(mariadbClient(real, real.Database(t))(t, script)))
		if err != nil || len(all) != 1 {
			t.Fatalf("%d captures, %v", len(all), err)
		}
		for q, want := range map[string]string{refused.SQL: "refused []", empty.SQL: " []", some.SQL: " [[7]]"} {
			a, err := all[0].Answer(q)
			if err != nil {
				t.Fatal(err)
			}
			if got := fmt.Sprintf("%s %s", map[bool]string{true: "refused"}[a.Failed != ""], a.Rows); got != want {
				t.Errorf("%s: %s, want %s", q, got, want)
			}
		}
	})
}

func mysqlClient(m *server.MySQL, database string) client {
	return func(t *testing.T, script string) string {
		t.Helper()
		if !strings.Contains(read(t, script), "SELECT '@nexdal 1 mysql data'") { // a structure's is run twice
			second, err := m.Client(database, script, "--raw", "--skip-column-names").Output()
			if err != nil {
				t.Fatal(err)
			}
			script = filepath.Join(t.TempDir(), "second.sql")
			if err := os.WriteFile(script, second, 0o644); err != nil {
				t.Fatal(err)
			}
		}
		out, _ := m.Client(database, script, "--force").Output() // some questions it has no views for
		return string(out)
	}
}

func TestCaptureSQLite(t *testing.T) {
	t.Parallel()
	nasty, err := filepath.Glob("testdata/nasty/*.sqlite.sql")
	if err != nil || len(nasty) == 0 {
		t.Fatal(err)
	}
	for _, path := range append(nasty, "testdata/sound.sqlite.sql", "testdata/traps.sqlite.sql", "testdata/captured/names.sqlite.sql") {
		t.Run(filepath.Base(path), func(t *testing.T) {
			db := filepath.Join(t.TempDir(), "saltmere.db")
			sqlite(t, db, read(t, path))
			if strings.Contains(path, "texts") {
				sqlite(t, db, "DROP TABLE dangling") // it refers to no key: the shell can follow no reference then
			}
			captures(t, "sqlite", db, sqliteClient(db))
		})
	}
	t.Run("demo", func(t *testing.T) {
		db := filepath.Join(builtFolder(t), "saltmere.db")
		sqlite(t, db, "ANALYZE; DROP TABLE logbook_line")
		captures(t, "sqlite", db, sqliteClient(db))
	})
}

// TestCaptureFirebird: by the owner, and by a user who may do nothing.
func TestCaptureFirebird(t *testing.T) {
	t.Parallel()
	f := server.StartFirebird(t)
	for _, path := range []string{"testdata/everything.firebird.sql", "testdata/captured/names.firebird.sql"} {
		t.Run(filepath.Base(path), func(t *testing.T) {
			db := f.Database(t)
			if out, err := f.File(db, absolute(t, path)); err != nil {
				t.Fatal(out)
			}
			captures(t, "firebird", f.URL(db), firebirdClient(f, "SYSDBA", "masterkey", db))
			captures(t, "firebird", f.As("GUARDED", "right", db), firebirdClient(f, "GUARDED", "right", db))
		})
	}
}

func firebirdClient(f *server.Firebird, user, password, db string) client {
	return func(t *testing.T, script string) string {
		t.Helper()
		out, err := f.FileAs(user, password, db, script)
		if err != nil {
			t.Fatal(out)
		}
		return out
	}
}

func sqliteClient(db string) client {
	return func(t *testing.T, script string) string {
		t.Helper()
		c := exec.Command("sqlite3", "-readonly", db)
		c.Stdin = strings.NewReader(read(t, script))
		out, _ := c.Output() // a question without an answer is an error, and no other's
		return string(out)
	}
}

func mariadbClient(m *server.MariaDB, database string) client {
	return mariadbClientAs(m, database, "root")
}

func mariadbClientAs(m *server.MariaDB, database, user string) client {
	return func(t *testing.T, script string) string {
		t.Helper()
		c := exec.Command("mariadb", "--no-defaults", "--socket="+m.Socket(), "-u"+user, "--batch", "--force", "--default-character-set=utf8mb4", database)
		c.Stdin = strings.NewReader(read(t, script))
		out, err := c.Output()
		if err != nil {
			t.Fatal(err)
		}
		return string(out)
	}
}

// TestCaptureOrdinary: who may see less captures less, and the gaps say so as a survey's do.
func TestCaptureOrdinary(t *testing.T) {
	t.Parallel()
	p := server.StartPostgres(t)
	db := p.Database(t)
	p.Query(t, db, read(t, "testdata/everything.postgres.sql"))
	p.Query(t, db, "CREATE ROLE captures_only LOGIN; CREATE SCHEMA closed; CREATE TABLE closed.gauge (id int PRIMARY KEY)")
	url := strings.Replace(p.URL(db), "postgres@", "captures_only@", 1)
	captures(t, "postgres", url, psqlClient(url))
	m := server.StartMariaDB(t)
	of := m.Database(t)
	m.Query(t, of, read(t, "testdata/everything.mariadb.sql"))
	for _, rights := range []string{"SELECT ON " + of + ".*", "SELECT, TRIGGER, EVENT, EXECUTE, SHOW VIEW ON " + of + ".*", "CREATE ON " + of + ".*"} {
		m.Query(t, of, "CREATE OR REPLACE USER captures_only@localhost; GRANT "+rights+" TO captures_only@localhost")
		result := captures(t, "mariadb", strings.Replace(m.URL(of), "root@", "captures_only@", 1), mariadbClientAs(m, of, "captures_only"))
		if !strings.Contains(result, "captures_only@localhost") {
			t.Error("it was asked as somebody else")
		}
		if folder := t.TempDir(); strings.HasPrefix(rights, "CREATE") { // which lets it read no sequence
			must(t, folder, "script", "create", strings.Replace(m.URL(of), "root@", "captures_only@", 1), "-o", "create.sql")
			text := read(t, filepath.Join(folder, "create.sql"))
			match(t, "what is not made", text, "by_hand.*its numbers were not read")
			if strings.Contains(text, "CREATE SEQUENCE") {
				t.Error("a sequence is made of numbers that nobody read")
			}
		}
	}
}

func psqlClient(url string) client {
	return func(t *testing.T, script string) string {
		t.Helper()
		out, err := exec.Command(server.Psql(), "-X", "-d", url, "-f", script).Output()
		if err != nil {
			t.Fatal(err)
		}
		return string(out)
	}
}

// script is a file that holds the text.
func script(t *testing.T, text string) string {
	t.Helper()
	path := filepath.Join(t.TempDir(), "script.sql")
	if err := os.WriteFile(path, []byte(text), 0o644); err != nil {
		t.Fatal(err)
	}
	return path
}

// cluster is a simulated one, until the test ends.
func cluster(t *testing.T) *redshift.Cluster {
	t.Helper()
	c, err := redshift.Start(2, 2)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(c.Close)
	return c
}

// wire is the address of a cluster as psql takes it.
func wire(url string) string { return strings.Replace(url, "redshift:", "postgres:", 1) }

// TestCaptureRedshift: psql on the simulated cluster.
func TestCaptureRedshift(t *testing.T) {
	t.Parallel()
	c := cluster(t)
	psqlClient(wire(c.URL()))(t, script(t, read(t, "testdata/captured/names.redshift.sql")))
	result := captures(t, "redshift", c.URL(), psqlClient(wire(c.URL())))
	match(t, "the result", result, `(?m)^@nexdal 1 redshift$`)
	folder := t.TempDir()
	if err := os.WriteFile(filepath.Join(folder, "result.txt"), []byte(strings.ReplaceAll(result, "\n", "\r\n")), 0o644); err != nil {
		t.Fatal(err)
	}
	match(t, "what is found", must(t, folder, "check", "result.txt", "--fail-on", "never", "--all"), "Redshift.*simulated")
	r := nexdal(t, folder, "run", "result.txt", "--on", c.URL())
	if r.status == 0 {
		t.Error("a capture is run")
	}
}

// TestCaptureData: a client that answers a probe's questions gives the evidence that the database
// itself gives, on each engine.
func TestCaptureData(t *testing.T) {
	t.Parallel()
	p, m, ms := server.StartPostgres(t), server.StartMariaDB(t), server.StartSQLServer(t, sqlserver.Developer)
	name, of, at := p.Database(t), m.Database(t), ms.Database(t)
	my := server.OwnMySQL(t)
	mine := my.Database(t)
	f := server.StartFirebird(t)
	ours := f.Database(t)
	rs := cluster(t)
	const missing = "CREATE TABLE seal (seal_id int PRIMARY KEY); INSERT INTO seal VALUES (1), (2), (3), (4), (5), (6), (7); CREATE TABLE pup (pup_id int PRIMARY KEY, seal_id int, born varchar(40)); INSERT INTO pup VALUES (1, 1, 'it''s'), (2, 3, '\\n'), (3, 3, NULL), (4, 7, ''), (5, 2, 'ä 水'), (6, 6, '\"'), (7, 5, 'x'), (8, 4, 'y');"
	// What would end a statement in a script of the client.
	const hostile = `CREATE TABLE "a$$b;:asked" (id int PRIMARY KEY, ":ERROR" int, "x$$;\\q" varchar(9)); INSERT INTO "a$$b;:asked" VALUES (1, 1, 'a$$'), (2, 2, ';'), (3, 3, ':asked'), (4, 4, '@done 1');` + "\n"
	for _, c := range []struct {
		engine string
		build  func(folder string)
		source string
		ask    func(folder string) client
	}{
		{"sqlite", func(folder string) {
			if err := os.Rename(filepath.Join(builtFolder(t), "saltmere.db"), filepath.Join(folder, "saltmere.db")); err != nil {
				t.Fatal(err)
			}
		}, "saltmere.db", func(folder string) client { return sqliteClient(filepath.Join(folder, "saltmere.db")) }},
		{"postgres", func(string) { p.Query(t, name, missing+hostile+read(t, "testdata/captured/names.postgres.sql")) }, p.URL(name), func(string) client { return psqlClient(p.URL(name)) }},
		{"mariadb", func(string) {
			m.Query(t, of, missing+strings.ReplaceAll(hostile, `"`, "`")+read(t, "testdata/captured/names.mariadb.sql"))
		}, m.URL(of), func(string) client { return mariadbClient(m, of) }},
		{"mysql", func(string) { my.Query(t, mine, strings.ReplaceAll(missing, `\n`, "x")) }, my.URL(mine), func(string) client { return mysqlClient(my, mine) }},
		{"firebird", func(string) {
			hurts := `CREATE TABLE "a;^b" ("id" INTEGER NOT NULL PRIMARY KEY, ":x" VARCHAR(20), "^;" VARCHAR(9), seen TIMESTAMP, much DOUBLE PRECISION, cost NUMERIC(9,2), "on" DATE, told BOOLEAN, note BLOB SUB_TYPE TEXT);
INSERT INTO "a;^b" VALUES (1, ':x', '^', '2026-03-01 06:00:00.120', 0.1, 1.5, '2026-03-01', TRUE, 'a
b'); INSERT INTO "a;^b" VALUES (2, '@done 1', ';', NULL, 1e20, NULL, NULL, NULL, NULL); INSERT INTO "a;^b" VALUES (3, '水 🌊  x ', 'a  ', '2026-03-01', 12345.678901, 2, '2026-03-02', FALSE, ''); INSERT INTO "a;^b" VALUES (4, '', '\', '2026-03-02', 3, NULL, NULL, NULL, NULL);`
			f.Query(t, ours, byRow(strings.ReplaceAll(missing, `\n`, "x"))+hurts)
		}, f.URL(ours), func(string) client { return firebirdClient(f, "SYSDBA", "masterkey", ours) }},
		{"sqlserver", func(string) {
			hurts := "CREATE TABLE [a]]b\nGO\n:r $(x) 🌊] (id int PRIMARY KEY, [x]]\nGO\n'] nvarchar(20), at datetime2(3), much float, cost money, day date, told uniqueidentifier); INSERT INTO [a]]b\nGO\n:r $(x) 🌊] VALUES " +
				"(1, N'$(x)', '2026-03-01T06:00:00.120', 0.1, 1.5, '2026-03-01', NULL), (2, N'@done 1', NULL, 1e20, NULL, NULL, '0E984725-C51C-4BF4-9960-E1C80E27ABA0'), (3, N'水 🌊', '2026-03-01', 12345.678901, 2, '2026-03-02', NULL), (4, N'', '2026-03-02', 3, NULL, NULL, NULL);"
			if out, err := ms.Batch(at, strings.ReplaceAll(missing, `\n`, "x")+hurts); err != nil {
				t.Fatal(out)
			}
		}, ms.URL(at), func(string) client { return sqlServerClient(ms, at, "sa") }},
		{"redshift", func(string) {
			cut := strings.NewReplacer(`$$`, "$", `\\`, `\`) // what the cluster reads otherwise
			psqlClient(wire(rs.URL()))(t, script(t, cut.Replace(strings.ReplaceAll(missing, `\n`, "x")+hostile)+`CREATE TABLE told (id int PRIMARY KEY, yes boolean, day date, at timestamp, much float, much_more decimal(9,2));
INSERT INTO told VALUES (1, true, '2026-03-01', '2026-03-01 06:00:00', 0.5, 1.5), (2, false, NULL, NULL, NULL, NULL), (3, NULL, '2026-03-02', '2026-03-02 06:00:00', 12345.678901, 2);`))
		}, rs.URL(), func(string) client { return psqlClient(wire(rs.URL())) }},
	} {
		t.Run(c.engine, func(t *testing.T) {
			folder := t.TempDir()
			c.build(folder)
			put := func(file, text string) {
				if err := os.WriteFile(filepath.Join(folder, file), []byte(text), 0o644); err != nil {
					t.Fatal(err)
				}
			}
			must(t, folder, "capture", c.engine, "-o", "ask.sql")
			put("result.txt", c.ask(folder)(t, filepath.Join(folder, "ask.sql")))
			r := nexdal(t, folder, "probe", "result.txt", "--ask", "more.sql", "-o", "e.json")
			match(t, "the first round", r.err, "[0-9]+ questions left: more.sql puts them")
			data := ""
			for round := 1; !strings.Contains(r.err, "all questions are answered"); round++ {
				if round > 8 {
					t.Fatalf("after %d rounds: %s", round, r.err)
				}
				data += c.ask(folder)(t, filepath.Join(folder, "more.sql"))
				put("data.txt", data)
				r = nexdal(t, folder, "probe", "result.txt", "--answers", "data.txt", "--ask", "more.sql", "-o", "e.json")
				if r.status != 0 {
					t.Fatalf("round %d: %s", round, r.err)
				}
			}
			must(t, folder, "probe", c.source, "-o", "live.json")
			want, got := settled(t, read(t, filepath.Join(folder, "live.json"))), settled(t, read(t, filepath.Join(folder, "e.json")))
			if got != want {
				t.Errorf("the client's answers give other evidence:\n%s", changedLines(want, got))
			}
			match(t, "what is found", nexdal(t, folder, "check", "result.txt", "--evidence", "e.json", "--all").out, "fk/missing")
			r = nexdal(t, folder, "probe", c.source, "--ask", "more.sql")
			match(t, "a database that can be asked", r.err, "can be asked itself")
			r = nexdal(t, folder, "survey", "data.txt")
			match(t, "answers as a structure", r.err, "answers about data, and no structure")
		})
	}
}

// byRow makes an INSERT of each row of one; what makes a table is committed.
func byRow(sql string) string {
	var b strings.Builder
	for st := range strings.SplitSeq(sql, "; ") {
		into, rows, ok := strings.Cut(strings.TrimSuffix(st, ";"), " VALUES ")
		if !ok {
			b.WriteString(strings.Replace(strings.TrimSuffix(st, ";"), "int PRIMARY KEY", "int NOT NULL PRIMARY KEY", 1) + ";\nCOMMIT;\n")
			continue
		}
		for row := range strings.SplitSeq(rows, "), (") {
			b.WriteString(into + " VALUES (" + strings.Trim(row, "()") + ");\n")
		}
	}
	return b.String()
}

// settled is evidence without what differs from one probe to the next: when it was, what it took,
// and the samples of rows. SQLite's shell writes fewer digits of a number than its library.
func settled(t *testing.T, text string) string {
	t.Helper()
	var e map[string]any
	if err := json.Unmarshal([]byte(text), &e); err != nil {
		t.Fatal(err)
	}
	for _, key := range []string{"probed", "seconds", "questions", "engine"} {
		delete(e, key)
	}
	for _, x := range e["promises"].([]any) {
		if one := x.(map[string]any); one["kind"] == "fix" {
			delete(one, "samples")
		}
	}
	b, err := json.MarshalIndent(e, "", " ")
	if err != nil {
		t.Fatal(err)
	}
	return regexp.MustCompile(`\b(0\.\d{12})\d*`).ReplaceAllString(string(b), "$1")
}

// TestCaptureFiles: what a capture cannot be used for, and what is no capture.
func TestCaptureFiles(t *testing.T) {
	t.Parallel()
	folder := builtFolder(t)
	must(t, folder, "capture", "sqlite", "-o", "ask.sql")
	whole := sqliteClient(filepath.Join(folder, "saltmere.db"))(t, filepath.Join(folder, "ask.sql"))
	put := func(name, text string) string {
		if err := os.WriteFile(filepath.Join(folder, name), []byte(text), 0o644); err != nil {
			t.Fatal(err)
		}
		return name
	}
	put("whole.txt", whole)
	put("tide.db", read(t, filepath.Join(folder, "saltmere.db")))
	put("both.txt", whole+"\n"+sqliteClient(filepath.Join(folder, "tide.db"))(t, filepath.Join(folder, "ask.sql")))
	put("twice.txt", whole+whole)
	match(t, "the outline", must(t, folder, "outline", "whole.txt"), "(?s)saltmere.db.*41 tables")
	match(t, "one of two", must(t, folder, "outline", "both.txt#tide.db"), "tide.db")
	match(t, "what is found", nexdal(t, folder, "check", "whole.txt").out, "key/none")
	must(t, folder, "script", "fix", "whole.txt", "-o", "fix.sql")
	match(t, "the script", read(t, filepath.Join(folder, "fix.sql")), "coast_section")
	match(t, "the comparison", must(t, folder, "compare", "whole.txt", "saltmere.db"), "no differences")
	for name, c := range map[string]struct {
		args []string
		says string
	}{
		"two, and none named": {[]string{"survey", "both.txt"}, "holds captures of .*name one, as in both.txt#"},
		"two of the same":     {[]string{"survey", "twice.txt#saltmere.db"}, "several captures of"},
		"another database":    {[]string{"survey", "both.txt#ebb"}, "no capture of ebb; there are those of"},
		"cut off":             {[]string{"survey", put("cut.txt", whole[:len(whole)*2/3])}, "cut.txt cannot be used: .*breaks off"},
		"another engine":      {[]string{"survey", put("else.txt", strings.Replace(whole, "@nexdal 1 sqlite", "@nexdal 1 tern", 1))}, "engine tern, whose captures this program does not read"},
		"the wrong engine":    {[]string{"survey", put("wrong.txt", strings.Replace(whole, "@nexdal 1 sqlite", "@nexdal 1 postgres", 1))}, "another version of Nexdal"},
		"an older script":     {[]string{"survey", put("older.txt", strings.ReplaceAll(whole, questionKey(whole), "01234567"))}, "another version of Nexdal: write it again"},
		"asked for rows":      {[]string{"probe", "whole.txt"}, "whole.txt is no database that could be asked; --ask FILE writes the questions"},
		"run on":              {[]string{"run", "fix.sql", "--on", "whole.txt", "--yes"}, "it is a capture"},
		"no engine":           {[]string{"capture", "tern"}, `no capture is known for engine "tern"; give sqlite or postgres or mariadb`},
		"no client":           {[]string{"capture", "mongodb"}, "no capture is known"},
	} {
		r := nexdal(t, folder, c.args...)
		if r.status == 0 {
			t.Errorf("%s: it is taken:\n%s", name, r.out)
		}
		match(t, name, r.err, c.says)
	}
}

// questionKey is the key of one of its questions.
func questionKey(whole string) string {
	return regexp.MustCompile(`@ask ([0-9a-f]{8})`).FindStringSubmatch(whole)[1]
}

func sqlServerClient(s *server.SQLServer, database, user string) client {
	return func(t *testing.T, script string) string {
		t.Helper()
		out, err := s.Client(database, user, script)
		if err != nil {
			t.Fatal(err)
		}
		return out
	}
}

// TestCaptureSQLServer: a simulated server; its own client is not to be had.
func TestCaptureSQLServer(t *testing.T) {
	t.Parallel()
	s := server.StartSQLServer(t, sqlserver.Developer)
	of := s.Database(t)
	if out, err := s.File(of, "testdata/everything.sqlserver.sql"); err != nil {
		t.Fatal(out)
	}
	long := strings.Repeat("-- ä 水 🌊 \t'\"\\ @end head 1\r\nGO  \n", 30000) // more than one line holds
	names := "CREATE TABLE dbo.[a]]b\n@done 1] ([@row 3 ]]] int NOT NULL, [$(x) 🌊] int);\nEXEC sp_addextendedproperty N'MS_Description', N'" + strings.ReplaceAll(long, "'", "''") + "', N'SCHEMA', N'dbo', N'TABLE', N'a]b\n@done 1'"
	if out, err := s.Batch(of, names); err != nil {
		t.Fatal(out)
	}
	for _, user := range []string{"sa", "somebody"} {
		result := captures(t, "sqlserver", strings.Replace(s.URL(of), "sa@", user+"@", 1), sqlServerClient(s, of, user))
		if !strings.Contains(result, `"`+user+`"]`) || strings.Contains(result, "Msg ") {
			t.Errorf("asked as %s:\n%.2000s", user, result)
		}
		if refused := strings.Contains(result, "@failed"); refused != (user != "sa") {
			t.Errorf("asked as %s, questions were refused: %v", user, refused)
		}
	}
}
