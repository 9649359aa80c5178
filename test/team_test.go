package test

import (
	"encoding/json"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"nexdal/test/server"
)

// harbours is a database with a reference that nothing declares.
const harbours = `CREATE TABLE harbour (id INTEGER PRIMARY KEY, code TEXT NOT NULL UNIQUE);
CREATE TABLE berth (id INTEGER PRIMARY KEY, harbour_id INTEGER NOT NULL, length_m INTEGER NOT NULL);
INSERT INTO harbour WITH RECURSIVE n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 40) SELECT i * 7, 'H' || i FROM n;
INSERT INTO berth WITH RECURSIVE n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 400) SELECT i, 7 * (1 + i * 13 % 40), 10 + i % 31 FROM n;
`

// filesOf are what a judgement says that it rests on.
func filesOf(t *testing.T, text string) map[string]string {
	t.Helper()
	var file struct{ Files map[string]string }
	if err := json.Unmarshal([]byte(text), &file); err != nil {
		t.Fatal(err)
	}
	return file.Files
}

// TestHouseFiles: settings, decisions and evidence are found in the nearest folder above, up to the
// repository's; sources have names, with what belongs to them; the environment names others, and the
// call goes before all.
func TestHouseFiles(t *testing.T) {
	t.Parallel()
	top := t.TempDir()
	house, deep := filepath.Join(top, "house"), filepath.Join(top, "house", "jobs", "nightly")
	if err := os.MkdirAll(deep, 0o755); err != nil {
		t.Fatal(err)
	}
	db := filepath.Join(house, "harbour.db")
	sqlite(t, db, harbours+"CREATE TABLE berth_old (id INTEGER);")
	write(t, filepath.Join(house, "nexdal.yaml"), `sources:
  live: {address: harbour.db, without: "*_old", baseline: known.json}
  plain: sqlite:harbour.db
rules: {key/generated-only: off}
`)
	must(t, deep, "probe", "live", "-o", filepath.Join(house, "nexdal.evidence.json"))
	must(t, deep, "decide", "accept", "berth.harbour_id", "--because", "a berth is in a harbour")
	if _, err := os.Stat(filepath.Join(house, "nexdal.decisions.yaml")); err != nil {
		t.Fatalf("the decisions are not beside the settings: %v", err)
	}
	check := func(args ...string) string {
		return must(t, deep, append([]string{"check", "--format", "json", "--fail-on", "never"}, args...)...)
	}
	live := check("live")
	up := filepath.Join("..", "..")
	if f := filesOf(t, live); f["settings"] != filepath.Join(up, "nexdal.yaml") || f["decisions"] != filepath.Join(up, "nexdal.decisions.yaml") || f["evidence"] != filepath.Join(up, "nexdal.evidence.json") || f["baseline"] != "" {
		t.Errorf("%v", f)
	}
	rules := func(text string) string {
		var all []string
		for _, f := range findingsIn(t, text) {
			all = append(all, f.Rule+" "+f.Table)
		}
		return strings.Join(all, ", ")
	}
	if got := rules(live); !strings.Contains(got, "fk/missing berth") || strings.Contains(got, "berth_old") || strings.Contains(got, "generated-only") {
		t.Errorf("live: %s", got)
	}
	if got := rules(check("plain")); !strings.Contains(got, "key/none berth_old") {
		t.Errorf("a source without a scope: %s", got)
	}
	if got := rules(check("live", "--without", "harbour")); !strings.Contains(got, "berth_old") {
		t.Errorf("the call's scope goes before the settings': %s", got)
	}
	match(t, "the words", must(t, deep, "check", "live", "--fail-on", "never"), `(?m)^judged with settings \.\./\.\./nexdal\.yaml, decisions \.\./\.\./nexdal\.decisions\.yaml, evidence\s\.\./\.\./nexdal\.evidence\.json$`)

	// What fits nothing is told, and does not fail the check: patterns of the settings, decisions.
	// A decision about what could not be judged is none of them.
	must(t, deep, "decide", "set-aside", "key/none main.pier", "--because", "gone")
	must(t, deep, "decide", "set-aside", "key/undeclared main.berth *", "--because", "known", "--decisions", filepath.Join(top, "other.yaml"))
	write(t, filepath.Join(top, "stray.yaml"), read(t, filepath.Join(house, "nexdal.yaml"))+"tables: {\"pier*\": {key/none: off}, \"ber*\": {key/none: off}}\n")
	r := nexdal(t, house, "check", "harbour.db", "--settings", filepath.Join(top, "stray.yaml"), "--fail-on", "never")
	if match(t, "strays", r.err, `^\S+stray\.yaml, line 5: no table fits "pier\*"\n1 decision without a finding any more: nexdal decide list harbour\.db\n$`); r.status != 0 {
		t.Errorf("status %d", r.status)
	}
	if r := nexdal(t, top, "check", db, "--decisions", "other.yaml", "--fail-on", "never"); r.err != "" {
		t.Errorf("what was not judged is said to be gone: %s", r.err)
	}
	must(t, deep, "decide", "withdraw", "key/none main.pier")

	// The baseline that the settings name is made by the first call, and heeded by the next.
	must(t, deep, "check", "live", "--write-baseline", filepath.Join(house, "known.json"), "--fail-on", "never")
	match(t, "the baseline", must(t, deep, "check", "live", "--fail-on", "notice"), `no findings +[0-9]+ known from the baseline`)
	if f := filesOf(t, check("live")); f["baseline"] != filepath.Join(up, "known.json") {
		t.Errorf("%v", f)
	}

	// The environment names others; a call names others still.
	write(t, filepath.Join(top, "own.yaml"), "sources: {live: house/harbour.db}\nrules: {fk/missing: off}\n")
	c := command(deep, "check", "live", "--format", "json", "--fail-on", "never")
	c.Env = append(c.Env, "NEXDAL_SETTINGS="+filepath.Join(top, "own.yaml"), "NEXDAL_BASELINE="+filepath.Join(house, "known.json"))
	r = call(t, c)
	if f := filesOf(t, r.out); f["settings"] != filepath.Join(top, "own.yaml") || f["baseline"] != filepath.Join(house, "known.json") {
		t.Errorf("%v %s", f, r.err)
	}
	if got := rules(r.out); strings.Contains(got, "fk/missing") || !strings.Contains(got, "key/none berth_old") {
		t.Errorf("by the environment: %s", got)
	}
	write(t, filepath.Join(top, "odd.json"), strings.Replace(read(t, filepath.Join(house, "nexdal.evidence.json")), "harbour.db", "pier.db", 1))
	if r := nexdal(t, deep, "check", "plain", "--evidence", filepath.Join(top, "odd.json")); r.status != 2 || !strings.Contains(r.err, "is evidence of sqlite pier.db") {
		t.Errorf("named evidence of another database: %d %s", r.status, r.err)
	}
	sqlite(t, filepath.Join(house, "pier.db"), "CREATE TABLE pier (id INTEGER PRIMARY KEY);")
	if f := filesOf(t, must(t, deep, "check", "../../pier.db", "--format", "json", "--fail-on", "never")); f["evidence"] != "" {
		t.Errorf("evidence that is found, and of another database, is used: %v", f)
	}

	// A file above that belongs to somebody else is passed over.
	if os.Getuid() == 0 {
		settings := filepath.Join(house, "nexdal.yaml")
		if err := os.Chown(settings, 12345, 12345); err != nil {
			t.Fatal(err)
		}
		if f := filesOf(t, check("../../pier.db")); f["settings"] != "" {
			t.Errorf("somebody else's settings are used: %v", f)
		}
		if err := os.Chown(settings, 0, 0); err != nil {
			t.Fatal(err)
		}
	}

	// What lies above a repository is not looked at.
	if err := os.Mkdir(filepath.Join(deep, ".git"), 0o755); err != nil {
		t.Fatal(err)
	}
	if f := filesOf(t, check(db)); len(f) != 0 {
		t.Errorf("above the repository: %v", f)
	}
	if r := nexdal(t, deep, "check", "live"); r.status != 3 || !strings.Contains(r.err, "no such file") {
		t.Errorf("%d %s", r.status, r.err)
	}
	os.Remove(filepath.Join(deep, ".git"))
	if r := nexdal(t, deep, "check", "liv"); r.status != 3 || !strings.Contains(r.err, "the settings have a source live") {
		t.Errorf("a name that is nearly one: %d %s", r.status, r.err)
	}
	if r := nexdal(t, deep, "check", "live", "--schema", "north*"); r.status != 2 || !strings.Contains(r.err, "there is no schema north*; there are main in live") {
		t.Errorf("a pattern that fits nothing: %d %s", r.status, r.err)
	}
	if r := nexdal(t, deep, "outline", "live", "--without", "quay"); r.status != 2 || !strings.Contains(r.err, "no schema, table or view quay") {
		t.Errorf("a pattern that fits nothing: %d %s", r.status, r.err)
	}
}

// TestSeveral: of several sources each is seen to, one that fails keeps no other from it, and the
// exit status is that of the worst; a survey may come by the standard input.
func TestSeveral(t *testing.T) {
	t.Parallel()
	folder := t.TempDir()
	sqlite(t, filepath.Join(folder, "a.db"), harbours)
	sqlite(t, filepath.Join(folder, "b.db"), "CREATE TABLE quay (id INTEGER PRIMARY KEY, code TEXT NOT NULL UNIQUE); CREATE TABLE log (line TEXT);")
	if err := os.MkdirAll(filepath.Join(folder, "old"), 0o755); err != nil {
		t.Fatal(err)
	}
	sqlite(t, filepath.Join(folder, "old", "a.db"), harbours)
	r := nexdal(t, folder, "check", "a.db", "b.db", "--fail-on", "never")
	if r.status != 0 {
		t.Errorf("status %d: %s", r.status, r.err)
	}
	match(t, "the table", r.out, `(?s)source +tables +errors +warnings +notices +first\n  a\.db +2 +0 .*\n  b\.db +2 +1 +.*main\.log: has no primary key.*a\.db +SQLite.*b\.db +SQLite`)
	if r := nexdal(t, folder, "check", "a.db", "b.db"); r.status != 1 {
		t.Errorf("an error in the second, and the status is %d", r.status)
	}
	r = nexdal(t, folder, "check", "a.db", "none.db", "b.db", "--format", "json")
	var all struct {
		Checks []struct {
			Source   struct{ Database string }
			Findings []finding
		}
		Failed []struct{ Source, Reason string }
	}
	if err := json.Unmarshal([]byte(r.out), &all); err != nil || r.status != 3 || len(all.Checks) != 2 || len(all.Failed) != 1 || all.Failed[0].Source != "none.db" || !strings.Contains(all.Failed[0].Reason, "no such file") || len(all.Checks[1].Findings) == 0 {
		t.Errorf("%v status %d %+v", err, r.status, all)
	}
	for form, want := range map[string]string{"sarif": `"results"`, "junit": `<testsuite name="none\.db" tests="1"`, "csv": `b\.db`, "lines": `(?m)^b\.db: main\.log: error: key/none`, "markdown": `# b\.db`} {
		if r := nexdal(t, folder, "check", "a.db", "none.db", "b.db", "--format", form); r.status != 3 {
			t.Errorf("%s: status %d", form, r.status)
		} else {
			match(t, form, r.out, want)
		}
	}

	out := must(t, folder, "survey", "a.db", "b.db", "old/a.db", "-o", "surveys")
	match(t, "surveys", out, `(?m)^  a\.db +2 +5 +0 +\d+ +440 +surveys/a\.json$`)
	for _, name := range []string{"a.json", "b.json", "a-2.json"} {
		must(t, folder, "outline", filepath.Join("surveys", name))
	}
	out = must(t, folder, "probe", "a.db", "b.db", "-o", "evidence")
	match(t, "evidence", out, `(?m)^  a\.db +2 +1 +1 +\d+ +evidence/a\.json$`)
	out = must(t, folder, "report", "a.db", "b.db", "-o", "pages")
	match(t, "pages", out, `(?m)^  b\.db +2 +1 +0 +\d+ +pages/b\.html$`)
	if !strings.Contains(read(t, filepath.Join(folder, "pages", "a.html")), "harbour_id") {
		t.Error("the page of a.db is not of a.db")
	}
	must(t, folder, "report", "a.db", "b.db", "-o", "pages", "--format", "md")
	match(t, "a page for a wiki", read(t, filepath.Join(folder, "pages", "b.md")), `(?m)^# b\.db`)
	for _, c := range []struct{ args, says string }{
		{"survey a.db b.db", "name a folder with -o"},
		{"survey a.db b.db -o surveys/a.json", "name a folder with -o"},
		{"check a.db b.db --write-baseline k.json", "keeps the findings of one source"},
		{"check a.db --write-baseline k.json --rule key/none", "a baseline is of all findings"},
	} {
		if r := nexdal(t, folder, strings.Fields(c.args)...); r.status != 2 || !strings.Contains(r.err, c.says) {
			t.Errorf("%s: %d %s", c.args, r.status, r.err)
		}
	}

	c := command(folder, "check", "-", "--format", "lines", "--fail-on", "never")
	c.Stdin = strings.NewReader(read(t, filepath.Join(folder, "surveys", "b.json")))
	if got, want := call(t, c).out, must(t, folder, "check", "surveys/b.json", "--format", "lines", "--fail-on", "never"); got != want || got == "" {
		t.Errorf("by the standard input: %q, want %q", got, want)
	}
	c = command(folder, "check", "-", "--fail-on", "never")
	c.Stdin = strings.NewReader(read(t, filepath.Join(folder, "surveys", "b.json")))
	if out := call(t, c).out; strings.Contains(out, "nexdal script fix") || !strings.Contains(out, "What to do first") {
		t.Errorf("what has been read already is named as a source:\n%s", out)
	}
	prints := must(t, folder, "survey", "a.db", "old/a.db", "surveys/a.json", "b.db", "--fingerprint")
	sums := regexp.MustCompile(`(?m)^([0-9a-f]{64})  \S+$`).FindAllStringSubmatch(prints, -1)
	if len(sums) != 4 || sums[0][1] != sums[1][1] || sums[0][1] != sums[2][1] || sums[0][1] == sums[3][1] {
		t.Errorf("fingerprints:\n%s", prints)
	}
}

// TestScope: tables that are left out are neither told nor altered, and nothing is altered under
// those of them that lean on it; the same on all commands.
func TestScope(t *testing.T) {
	t.Parallel()
	p := server.StartPostgres(t)
	name, folder := p.Database(t), t.TempDir()
	p.Query(t, name, `CREATE SCHEMA harbour_north; CREATE SCHEMA harbour_south; CREATE SCHEMA audit;
CREATE TABLE harbour_north.quay (id integer PRIMARY KEY, code varchar(9) NOT NULL UNIQUE);
ALTER TABLE harbour_north.quay ADD CONSTRAINT quay_code_again UNIQUE (code);
CREATE TABLE harbour_north.bollard (id integer PRIMARY KEY, quay_id integer NOT NULL REFERENCES harbour_north.quay);
CREATE TABLE harbour_north.quay_old (id integer);
CREATE TABLE harbour_south.berth (id integer PRIMARY KEY, quay_code varchar(9) REFERENCES harbour_north.quay (code));
CREATE TABLE audit.entry (line text);
CREATE VIEW harbour_north.long_quay AS SELECT * FROM harbour_north.quay;`)
	tables := func(args ...string) string {
		out := must(t, folder, append([]string{"outline", p.URL(name), "--format", "csv"}, args...)...)
		var names []string
		for _, m := range regexp.MustCompile(`(?m)^(\w+),(\w+),`).FindAllStringSubmatch(out, -1)[1:] {
			names = append(names, m[1]+"."+m[2])
		}
		return strings.Join(names, " ")
	}
	for args, want := range map[string][2]string{
		"--schema harbour_*":                           {"quay_old berth", "entry"},
		"--schema harbour_north,audit":                 {"quay entry", "berth"},
		"--without audit,*_old":                        {"quay berth", "entry quay_old"},
		"--schema harbour_* --without harbour_south.*": {"quay quay_old", "berth entry"},
	} {
		got := " " + strings.ReplaceAll(strings.ReplaceAll(strings.ReplaceAll(tables(strings.Fields(args)...), "harbour_north.", ""), "harbour_south.", ""), "audit.", "") + " "
		for i, list := range want {
			for _, table := range strings.Fields(list) {
				if strings.Contains(got, " "+table+" ") != (i == 0) {
					t.Errorf("%s: %s: %s", args, table, got)
				}
			}
		}
	}
	for _, args := range [][]string{
		{"survey", p.URL(name), "-o", "s.json"}, {"check", p.URL(name), "--fail-on", "never", "-o", "c.txt", "--all"}, {"probe", p.URL(name), "-o", "e.json"},
		{"report", p.URL(name), "-o", "r.html"}, {"draw", p.URL(name), "-o", "d.svg"}, {"script", "fix", p.URL(name), "-o", "f.sql"}, {"script", "create", p.URL(name), "-o", "k.sql"},
	} {
		must(t, folder, append(args, "--schema", "harbour_north", "--without", "*_old")...)
		file := args[len(args)-1]
		if args[0] == "check" {
			file = "c.txt"
		}
		if text := read(t, filepath.Join(folder, file)); strings.Contains(text, "quay_old") || strings.Contains(text, "entry") || !strings.Contains(text, "quay") {
			t.Errorf("nexdal %s tells of what is left out, or nothing: %s", args[0], regexp.MustCompile(`.*(quay_old|entry).*`).FindString(text))
		}
	}
	// Of two unique keys on the same column one is spare; the one that the table outside refers to
	// is not dropped, and the reference holds after the fix.
	must(t, folder, "script", "fix", p.URL(name), "--schema", "harbour_north", "-o", "g.sql")
	must(t, folder, "run", "g.sql", "--on", p.URL(name), "--yes")
	if got := p.Query(t, name, "SELECT count(*) FROM pg_constraint WHERE contype = 'f' AND conrelid = 'harbour_south.berth'::regclass"); got != "1" {
		t.Errorf("%s references are left", got)
	}
	sqlite(t, filepath.Join(folder, "a.db"), `CREATE TABLE quay (id INTEGER PRIMARY KEY, code STRING NOT NULL UNIQUE);
CREATE TABLE berth (id INTEGER PRIMARY KEY, quay_code STRING REFERENCES quay (code));`)
	must(t, folder, "script", "fix", "a.db", "-o", "whole.sql")
	must(t, folder, "script", "fix", "a.db", "--without", "berth", "-o", "part.sql")
	if part := read(t, filepath.Join(folder, "part.sql")); strings.Contains(part, "code TEXT") || !strings.Contains(part, "main.berth leans on it") {
		t.Errorf("a column is altered that a table outside refers to:\n%s", part)
	}
}

// TestNamesakes: of two databases of one server that hold objects of the same names, each is read as
// it is read alone: what a default, a view, a trigger or a procedure names is its own database's.
func TestNamesakes(t *testing.T) {
	t.Parallel()
	m := server.StartMariaDB(t)
	text := `CREATE SEQUENCE visit_no CYCLE MAXVALUE 9999;
CREATE TABLE visit (id bigint NOT NULL PRIMARY KEY DEFAULT nextval(visit_no), kind varchar(9) NOT NULL);
CREATE TABLE visit_log (id integer NOT NULL AUTO_INCREMENT PRIMARY KEY, visit_id bigint NOT NULL);
CREATE VIEW visits AS SELECT id, kind FROM visit;
CREATE TRIGGER visit_logged AFTER INSERT ON visit FOR EACH ROW INSERT INTO visit_log (visit_id) VALUES (NEW.id);
CREATE PROCEDURE tidy_visits () DELETE FROM visit_log WHERE visit_id < 7;
`
	alone := m.Database(t)
	m.Query(t, alone, text)
	folder := t.TempDir()
	want := structure(t, folder, m.URL(alone))
	var twins []string
	for range 2 {
		db := m.Database(t)
		m.Query(t, db, text)
		twins = append(twins, db)
	}
	for _, db := range twins {
		got := strings.ReplaceAll(structure(t, folder, m.URL(""), "--schema", db), `"`+db, `"`+alone)
		got = strings.Replace(got, `"database": "all databases"`, `"database": "`+alone+`"`, 1)
		if got != want {
			t.Errorf("%s is read otherwise beside its namesake:\n%s\nalone:\n%s", db, got, want)
		}
		match(t, "the sequence", must(t, folder, "check", m.URL(""), "--schema", db, "--format", "lines", "--fail-on", "never"), `visit_no: error: sequence/cycles`)
	}
}
