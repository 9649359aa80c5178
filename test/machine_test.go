package test

import (
	"crypto/sha256"
	"encoding/json"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"runtime"
	"slices"
	"strings"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"go.yaml.in/yaml/v3"

	"nexdal/test/server"
)

// conforms fails the test where the text is not what a schema in docs says.
func conforms(t *testing.T, file, text string) {
	t.Helper()
	schema, err := jsonschema.NewCompiler().Compile("../docs/" + file)
	if err != nil {
		t.Fatal(err)
	}
	value, err := jsonschema.UnmarshalJSON(strings.NewReader(text))
	if err == nil {
		err = schema.Validate(value)
	}
	if err != nil {
		t.Errorf("%s: %v\n%.600s", file, err, text)
	}
}

// A record is what run and rehearse say to programs.
type record struct {
	Kind, Script, Place, Outcome, Reason string
	DryRun                               bool `json:"dry_run"`
	Steps                                []struct {
		Step    int
		Title   string
		State   string
		Seconds *float64
		Answers []string
	}
	Gone        []string
	StillThere  []string `json:"still_there"`
	New         []string
	AsPlanned   *bool `json:"as_planned"`
	Differences []any
	WayBack     string `json:"way_back"`
}

func recordIn(t *testing.T, text string) record {
	t.Helper()
	conforms(t, "record.schema.json", text)
	var r record
	if err := json.Unmarshal([]byte(text), &r); err != nil {
		t.Fatalf("%v: %s", err, text)
	}
	return r
}

// TestRecord: run and rehearse tell programs what came of them, however they ended; journals,
// decisions and findings keep to their schemas.
func TestRecord(t *testing.T) {
	t.Parallel()
	folder, db := build(t, broken+"CREATE TABLE log (line TEXT); INSERT INTO gauge VALUES (1, '7'), (2, '8'); INSERT INTO station VALUES (7, 'a'), (8, 'b');")
	must(t, folder, "script", "fix", db, "-o", "fix.sql")
	states := func(r record) string {
		var all []string
		for _, s := range r.Steps {
			all = append(all, s.State)
			if (s.Seconds != nil) != (s.State == "done") || s.Title == "" {
				t.Errorf("step %+v", s)
			}
		}
		return strings.Join(all, ", ")
	}
	rehearsed := recordIn(t, must(t, folder, "rehearse", "fix.sql", "--format", "json"))
	if rehearsed.Kind != "rehearsal" || rehearsed.Outcome != "complete" || rehearsed.WayBack != "leads back" || rehearsed.AsPlanned == nil || !*rehearsed.AsPlanned || len(rehearsed.Gone) < 3 || len(rehearsed.StillThere) > 0 {
		t.Errorf("%+v", rehearsed)
	}
	n := len(rehearsed.Steps)
	dry := recordIn(t, must(t, folder, "run", "fix.sql", "--on", db, "--yes", "--dry-run", "--format", "json"))
	if !dry.DryRun || dry.Outcome != "complete" || states(dry) != strings.TrimSuffix(strings.Repeat("not done, ", n), ", ") {
		t.Errorf("%+v", dry)
	}
	first := recordIn(t, must(t, folder, "run", "fix.sql", "--on", db, "--yes", "--stop-after", "1", "--format", "json"))
	if first.Outcome != "stopped" || !strings.HasPrefix(states(first), "done, not done") || len(first.Gone) > 0 {
		t.Errorf("%+v", first)
	}
	rest := recordIn(t, must(t, folder, "run", "fix.sql", "--on", db, "--yes", "--format", "json"))
	if rest.Outcome != "complete" || !strings.HasPrefix(states(rest), "done before, done") || rest.AsPlanned == nil || !*rest.AsPlanned || !slices.Equal(rest.Gone, rehearsed.Gone) || rest.Place != db {
		t.Errorf("%+v", rest)
	}
	for _, line := range strings.Split(strings.TrimSpace(read(t, filepath.Join(folder, "fix.journal.jsonl"))), "\n") {
		conforms(t, "journal.schema.json", line)
	}
	other, db := build(t, broken)
	r := nexdal(t, other, "run", filepath.Join(folder, "fix.sql"), "--on", db, "--yes", "--format", "json")
	if refused := recordIn(t, r.out); refused.Outcome != "failed" || refused.Reason == "" || r.status != 2 || !strings.Contains(r.err, refused.Reason) {
		t.Errorf("status %d: %+v", r.status, refused)
	}
	sqlite(t, db, "INSERT INTO gauge VALUES (3, 'nine')")
	must(t, other, "script", "fix", db, "--rule", "key/none", "-o", "one.sql")
	twin := read(t, filepath.Join(other, "one.sql"))
	write(t, filepath.Join(other, "bad.sql"), strings.Replace(twin, "BEGIN IMMEDIATE;", "BEGIN IMMEDIATE;\nSELECT nothing;", 1))
	r = nexdal(t, other, "rehearse", "bad.sql", "--format", "json")
	if failed := recordIn(t, r.out); failed.Outcome != "failed" || r.status != 1 {
		t.Errorf("status %d: %+v", r.status, failed)
	}

	must(t, other, "decide", "set-aside", "key/none*", "--because", "a log", "--until", "2099-01-31")
	must(t, other, "decide", "note", "station.code", "painted on the wall")
	conforms(t, "findings.schema.json", nexdal(t, other, "check", db, "--format", "json").out)
	conforms(t, "findings.schema.json", nexdal(t, other, "check", db, "none.db", "--format", "json").out)
	var decisions any
	if err := yaml.Unmarshal([]byte(read(t, filepath.Join(other, "nexdal.decisions.yaml"))), &decisions); err != nil {
		t.Fatal(err)
	}
	text, err := json.Marshal(decisions)
	if err != nil {
		t.Fatal(err)
	}
	conforms(t, "decisions.schema.json", regexp.MustCompile(`T00:00:00Z`).ReplaceAllString(string(text), ""))
}

// TestFindingsCompared: of two checks it is told what is new, gone, worse and better; a report over
// a folder of them shows how the numbers went.
func TestFindingsCompared(t *testing.T) {
	t.Parallel()
	folder, db := build(t, broken+"CREATE TABLE log (line TEXT);")
	check := func(file string, more ...string) {
		must(t, folder, append([]string{"check", db, "--format", "json", "--fail-on", "never", "-o", file}, more...)...)
	}
	check("a.json")
	sqlite(t, db, "DROP TABLE log; CREATE TABLE list (line TEXT);")
	check("b.json", "--set", "fk/type-differs=warning", "--set", "key/generated-only=error")
	r := nexdal(t, folder, "compare", "a.json", "b.json", "--format", "json")
	var turn struct {
		Kind          string
		New, Gone     []finding
		Worse, Better []struct{ Rule, Was, Severity string }
		Same          int
	}
	if err := json.Unmarshal([]byte(r.out), &turn); err != nil || r.status != 1 {
		t.Fatalf("%v, status %d: %s", err, r.status, r.err)
	}
	news := func(list []finding) string {
		var all []string
		for _, f := range list {
			all = append(all, f.Rule+" "+f.Table)
		}
		slices.Sort(all)
		return strings.Join(all, ", ")
	}
	if turn.Kind != "findings-compared" || !strings.Contains(news(turn.New), "key/none list") || !strings.Contains(news(turn.Gone), "key/none log") || strings.Contains(news(turn.New), "log") {
		t.Errorf("new %s; gone %s", news(turn.New), news(turn.Gone))
	}
	if len(turn.Worse) != 1 || turn.Worse[0].Rule != "key/generated-only" || !strings.HasPrefix(turn.Worse[0].Was, "notice") || len(turn.Better) != 1 || turn.Better[0].Rule != "fk/type-differs" || turn.Same == 0 {
		t.Errorf("%+v", turn)
	}
	match(t, "the text", nexdal(t, folder, "compare", "a.json", "b.json").out, `(?s)1 worse, 1 better, \d+ the same\n.*New\n.*key/none +main\.list.*Worse\n  error +key/generated-only .*was: notice.*Better\n.*Gone\n.*key/none +main\.log`)
	if r := nexdal(t, folder, "compare", "a.json", "a.json"); r.status != 0 || !strings.Contains(r.out, "0 new, 0 gone, 0 worse, 0 better") {
		t.Errorf("the same: %d %s", r.status, r.out)
	}
	must(t, folder, "survey", db, "-o", "s.json")
	if r := nexdal(t, folder, "compare", "a.json", "s.json"); r.status != 2 || !strings.Contains(r.err, "compare two of a kind") {
		t.Errorf("findings and a survey: %d %s", r.status, r.err)
	}

	history := filepath.Join(folder, "history")
	if err := os.Mkdir(history, 0o755); err != nil {
		t.Fatal(err)
	}
	dated := func(from, to, day string) {
		text := regexp.MustCompile(`"surveyed": "\d{4}-\d\d-\d\d`).ReplaceAllString(read(t, filepath.Join(folder, from)), `"surveyed": "`+day)
		write(t, filepath.Join(history, to), text)
	}
	dated("a.json", "1.json", "2026-01-05")
	dated("b.json", "2.json", "2026-02-05")
	dated("s.json", "3.json", "2026-03-05") // judged on the way
	write(t, filepath.Join(history, "other.json"), "[]")
	must(t, folder, "report", db, "--history", "history", "-o", "r.html")
	var page struct {
		Moments []struct {
			At                        string
			Errors, Warnings, Notices int
		}
	}
	data := regexp.MustCompile(`(?s)<script type="application/json" id="data">(.*?)</script>`).FindStringSubmatch(read(t, filepath.Join(folder, "r.html")))
	if data == nil {
		t.Fatal("the page holds no data")
	}
	if err := json.Unmarshal([]byte(data[1]), &page); err != nil || len(page.Moments) != 4 {
		t.Fatalf("%v %+v", err, page)
	}
	for i, day := range []string{"2026-01-05", "2026-02-05", "2026-03-05"} {
		if m := page.Moments[i]; !strings.HasPrefix(m.At, day) || m.Errors+m.Warnings+m.Notices == 0 {
			t.Errorf("%+v", m)
		}
	}
	if page.Moments[0].Notices <= page.Moments[1].Notices { // one of them counts as an error in the second
		t.Errorf("%+v", page.Moments)
	}
	if r := nexdal(t, folder, "report", db, "--history", "nowhere", "-o", "q.html"); r.status != 2 {
		t.Errorf("no folder: status %d", r.status)
	}
}

// TestNotes: what people know is kept, shown, and written as comments that the engine itself tells;
// comments that are there stay, and the way back takes the notes away alone.
func TestNotes(t *testing.T) {
	t.Parallel()
	p, m := server.StartPostgres(t), server.StartMariaDB(t)
	base := `CREATE TABLE station (id integer NOT NULL PRIMARY KEY, code varchar(9) NOT NULL UNIQUE, height integer NOT NULL);
CREATE TABLE gauge (id integer NOT NULL PRIMARY KEY, station_id integer NOT NULL);
`
	name, db := p.Database(t), m.Database(t)
	p.Query(t, name, base+"COMMENT ON COLUMN station.height IS 'in mm';")
	m.Query(t, db, base+"ALTER TABLE station MODIFY height integer NOT NULL COMMENT 'in mm';")
	for _, c := range []struct {
		engine, source, schema string
		tells                  func() string
	}{
		{"postgres", p.URL(name), "public", func() string {
			return p.Query(t, name, "SELECT obj_description('gauge'::regclass), col_description('station'::regclass, 2), col_description('station'::regclass, 3)")
		}},
		{"mariadb", m.URL(db), db, func() string {
			return m.Query(t, db, "SELECT (SELECT table_comment FROM information_schema.tables WHERE table_schema = DATABASE() AND table_name = 'gauge'), (SELECT column_comment FROM information_schema.columns WHERE table_schema = DATABASE() AND table_name = 'station' AND column_name = 'code'), (SELECT column_comment FROM information_schema.columns WHERE table_schema = DATABASE() AND table_name = 'station' AND column_name = 'height')")
		}},
	} {
		folder := t.TempDir()
		before := c.tells()
		must(t, folder, "decide", "note", c.schema+".gauge", "an instrument's \"place\"", "--source", c.source, "--who", "ada")
		must(t, folder, "decide", "note", "station.code", "as painted; see <the list>")
		must(t, folder, "decide", "note", "station.height", "above the old datum")
		must(t, folder, "decide", "note", "pier.code", "gone long ago")
		must(t, folder, "decide", "note", "station.code", "as painted")
		match(t, "describe", must(t, folder, "describe", c.source, "station", "gauge"), `(?s)code .*note: as painted\n.*note: above the old datum.*gauge .*\n +note: an instrument's "place"`)
		must(t, folder, "report", c.source, "-o", "r.html")
		must(t, folder, "draw", c.source, "-o", "d.svg")
		if page, picture := read(t, filepath.Join(folder, "r.html")), read(t, filepath.Join(folder, "d.svg")); !strings.Contains(page, "note: as painted") || !strings.Contains(picture, "code: as painted") || !strings.Contains(picture, "“an instrument") {
			t.Errorf("%s: the notes are not on the page or in the diagram", c.engine)
		}
		match(t, "the list", must(t, folder, "decide", "list", c.source), `(?s)note pier\.code\n.*stale: no such table`)
		r := nexdal(t, folder, "script", "notes", c.source, "-o", "notes.sql")
		if r.status != 0 || !strings.Contains(r.err, "pier.code") {
			t.Fatalf("%s: status %d: %s", c.engine, r.status, r.err)
		}
		must(t, folder, "run", "notes.sql", "--on", c.source, "--yes")
		if after := c.tells(); !strings.Contains(after, `an instrument's "place"`) || !strings.Contains(after, "as painted") || !strings.Contains(after, "in mm") || !strings.Contains(after, "above the old datum") || strings.Contains(after, "<the list>") {
			t.Errorf("%s: the engine tells %q", c.engine, after)
		}
		if r := nexdal(t, folder, "script", "notes", c.source, "-o", "again.sql"); r.status != 2 || !strings.Contains(r.err, "nothing to do") {
			t.Errorf("%s: again: %d %s", c.engine, r.status, r.err)
		}
		must(t, folder, "run", "notes.reversal.sql", "--on", c.source, "--yes")
		if back := c.tells(); back != before {
			t.Errorf("%s: the way back leaves %q, not %q", c.engine, back, before)
		}
		must(t, folder, "decide", "withdraw", "note station.code")
		if strings.Contains(must(t, folder, "describe", c.source, "station"), "as painted") {
			t.Errorf("%s: a note that was taken back is shown", c.engine)
		}
		for _, x := range []struct {
			args []string
			says string
		}{
			{[]string{"decide", "note", "statoin", "x", "--source", c.source}, "near it is station|near it are station"},
			{[]string{"decide", "note", "station.cod", "x", "--source", c.source}, "no table or column station.cod"},
			{[]string{"decide", "note", "station", " "}, "says nothing"},
		} {
			r := nexdal(t, folder, x.args...)
			if match(t, strings.Join(x.args, " "), r.err, x.says); r.status != 2 {
				t.Errorf("%v: status %d", x.args, r.status)
			}
		}
	}
	folder, file := build(t, base)
	must(t, folder, "decide", "note", "station.code", "as painted")
	if r := nexdal(t, folder, "script", "notes", file, "-o", "n.sql"); r.status != 2 || !strings.Contains(r.err, "SQLite keeps no comments") {
		t.Errorf("SQLite: %d %s", r.status, r.err)
	}
}

// TestSpoken: --verbose tells the statements that are sent, on each engine; --quiet tells nothing but
// what went wrong, and keeps the results.
func TestSpoken(t *testing.T) {
	t.Parallel()
	p, m := server.StartPostgres(t), server.StartMariaDB(t)
	folder, db := build(t, broken)
	for engine, c := range map[string][2]string{"sqlite": {db, `PRAGMA schema_version`}, "postgres": {p.URL(p.Database(t)), `FROM pg_class|pg_catalog`}, "mariadb": {m.URL(m.Database(t)), `(?i)information_schema`}} {
		r := nexdal(t, folder, "survey", c[0], "-o", "s.json", "--verbose")
		lines := regexp.MustCompile(`(?m)^ +[0-9]+\.[0-9]{3} ms  \S.*$`).FindAllString(r.err, -1)
		if len(lines) < 4 || r.status != 0 {
			t.Errorf("%s: %d statements told, status %d", engine, len(lines), r.status)
		}
		match(t, engine, strings.Join(lines, "\n"), c[1])
		if quiet := nexdal(t, folder, "survey", c[0], "-o", "s.json", "--quiet"); quiet.err != "" || quiet.status != 0 {
			t.Errorf("%s: --quiet says %q", engine, quiet.err)
		}
		if plain := nexdal(t, folder, "survey", c[0], "-o", "s.json"); strings.Contains(plain.err, " ms  ") || plain.err == "" {
			t.Errorf("%s: without a flag: %q", engine, plain.err)
		}
	}
	if r := nexdal(t, folder, "survey", "none.db", "-q"); r.status != 3 || !strings.Contains(r.err, "no such file") {
		t.Errorf("what went wrong is kept back: %q", r.err)
	}
	for _, args := range []string{"survey a.db -q --verbose", "survey a.db --color sometimes"} {
		if r := nexdal(t, folder, strings.Fields(args)...); r.status != 2 {
			t.Errorf("%s: status %d", args, r.status)
		}
	}
}

// TestCompletion: the shell is told formats, severities, rules, areas, the sources of the settings and
// the tables of a survey.
func TestCompletion(t *testing.T) {
	t.Parallel()
	folder, db := build(t, harbours)
	must(t, folder, "survey", db, "-o", "s.json")
	write(t, filepath.Join(folder, "nexdal.yaml"), "sources: {live: harbour.db, test: harbour.db}\n")
	for args, want := range map[string]string{
		"check --format|s": "sarif junit", "check --fail-on|": "error never", "check --rule|fk/": "fk/missing fk/not-indexed", "check --rule|key/none,": "key/none,fk/missing", "check --area|": "key partition",
		"script fix s.json --table|": "harbour berth", "describe s.json|": "harbour berth", "check|": "live test", "rules|": "key/none", "script create --for|": "mariadb", "draw --shade|": "findings", "outline --format|": "csv markdown", "compare|": "live",
	} {
		before, begun, _ := strings.Cut(args, "|")
		out := must(t, folder, append(append([]string{"__complete"}, strings.Fields(before)...), begun)...)
		for _, w := range strings.Fields(want) {
			if !slices.Contains(strings.Fields(out), w) {
				t.Errorf("nexdal %s: %q does not hold %s", args, out, w)
			}
		}
	}
	if out := must(t, folder, "__complete", "describe", db, ""); strings.Contains(out, "berth") {
		t.Error("a database is opened for the shell")
	}
}

// TestRelease: the archive for this system holds a program that runs and says its version, its
// completions, a manual page for each command, and the documents; the checksum is its own.
func TestRelease(t *testing.T) {
	t.Parallel()
	folder := t.TempDir()
	c := exec.Command("go", "run", "./release", "-o", folder, "-targets", runtime.GOOS+"/"+runtime.GOARCH, "-commit", "abc123")
	c.Dir = ".."
	if out, err := c.CombinedOutput(); err != nil {
		t.Fatalf("%v: %s", err, out)
	}
	files, _ := filepath.Glob(filepath.Join(folder, "*.tar.gz"))
	if len(files) != 1 {
		t.Fatalf("%v", files)
	}
	if got, want := read(t, filepath.Join(folder, "SHA256SUMS")), fmt.Sprintf("%x  %s\n", sha256.Sum256([]byte(read(t, files[0]))), filepath.Base(files[0])); got != want {
		t.Errorf("%q, want %q", got, want)
	}
	if out, err := exec.Command("tar", "xzf", files[0], "-C", folder).CombinedOutput(); err != nil {
		t.Fatalf("%v: %s", err, out)
	}
	stem := strings.TrimSuffix(files[0], ".tar.gz")
	out, err := exec.Command(filepath.Join(stem, "nexdal"), "--version").Output()
	if err != nil {
		t.Fatal(err)
	}
	match(t, "the version", string(out), `^nexdal \d+\.\d+\.\d+\+abc123\n  SQLite 3\.31 and later, by the built-in 3\.\d+\.\d+\n  PostgreSQL 12 and later\n  MariaDB 10\.5 and later\n`)
	for file, holds := range map[string]string{
		"completions/nexdal.bash": "__start_nexdal", "completions/_nexdal": "#compdef nexdal", "completions/nexdal.fish": "complete -c nexdal", "completions/nexdal.ps1": "Register-ArgumentCompleter",
		"man/man1/nexdal.1": ".TH \"NEXDAL\" \"1\"", "man/man1/nexdal-script-fix.1": "--finding", "man/man1/nexdal-decide-note.1": "note TABLE", "README.md": "## A tour", "docs/ci.md": "baseline", "docs/rules/fk.md": "fk/missing",
	} {
		if !strings.Contains(strings.ReplaceAll(read(t, filepath.Join(stem, file)), `\-`, "-"), holds) {
			t.Errorf("%s does not hold %s", file, holds)
		}
	}
}
