package test

import (
	"encoding/csv"
	"encoding/json"
	"encoding/xml"
	"fmt"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"
)

// broken breaks a few rules, under names that try every form of output.
const broken = `
CREATE TABLE "=1+2 ""x""<b>|
y" (a INTEGER, b TEXT);
CREATE TABLE station (id INTEGER PRIMARY KEY, code TEXT NOT NULL);
CREATE TABLE gauge (id INTEGER PRIMARY KEY, station_id TEXT NOT NULL REFERENCES station (id));
`

type sarif struct {
	Schema  string `json:"$schema"`
	Version string
	Runs    []struct {
		Tool struct {
			Driver struct {
				Name  string
				Rules []struct {
					ID               string
					ShortDescription struct{ Text string }
					HelpURI          string                 `json:"helpUri"`
					Default          struct{ Level string } `json:"defaultConfiguration"`
				}
			}
		}
		Invocations []struct {
			Successful *bool `json:"executionSuccessful"`
		}
		Results []struct {
			RuleID    string `json:"ruleId"`
			RuleIndex int    `json:"ruleIndex"`
			Level     string
			Message   struct{ Text string }
			Locations []struct {
				Physical struct {
					Artifact struct{ URI string } `json:"artifactLocation"`
					Region   struct{ StartLine int }
				} `json:"physicalLocation"`
				Logical []struct {
					Qualified string `json:"fullyQualifiedName"`
				} `json:"logicalLocations"`
			}
			Fingerprints map[string]string `json:"partialFingerprints"`
			Suppressions []struct{ Kind, Status string }
		}
	}
}

// TestForms: every form of a judgement tells the same findings, and keeps to its
// own rules.
func TestForms(t *testing.T) {
	t.Parallel()
	folder, db := build(t, broken)
	must(t, folder, "decide", "set-aside", "key/none*", "--because", "=it is a log")
	form := func(name string) string {
		return must(t, folder, "check", db, "--fail-on", "never", "--format", name)
	}
	found := findingsIn(t, form("json"))
	if len(found) < 4 {
		t.Fatalf("%d findings", len(found))
	}

	var log sarif
	if err := json.Unmarshal([]byte(form("sarif")), &log); err != nil || log.Version != "2.1.0" || len(log.Runs) != 1 || !strings.Contains(log.Schema, "sarif-schema-2.1.0") {
		t.Fatalf("SARIF: %v %s", err, log.Version)
	}
	run := log.Runs[0]
	if len(run.Results) != len(found) || run.Tool.Driver.Name != "nexdal" || len(run.Invocations) != 1 || run.Invocations[0].Successful == nil {
		t.Errorf("SARIF: %d results of %d findings", len(run.Results), len(found))
	}
	aside := 0
	for _, x := range run.Results {
		if run.Tool.Driver.Rules[x.RuleIndex].ID != x.RuleID || x.Message.Text == "" || len(x.Locations) != 1 || x.Locations[0].Logical[0].Qualified == "" || !strings.HasPrefix(x.Locations[0].Physical.Artifact.URI, "harbour.db") || x.Locations[0].Physical.Region.StartLine != 1 || len(x.Fingerprints) != 1 ||
			!slices.Contains([]string{"error", "warning", "note"}, x.Level) {
			t.Errorf("SARIF: %+v", x)
		}
		for _, s := range x.Suppressions {
			if s.Kind == "external" && s.Status == "accepted" {
				aside++
			}
		}
	}
	for _, x := range run.Tool.Driver.Rules {
		if !slices.Contains([]string{"error", "warning", "note", "none"}, x.Default.Level) || x.ShortDescription.Text == "" || x.HelpURI != "urn:nexdal:rule:"+x.ID {
			t.Errorf("SARIF: rule %+v", x)
		}
	}
	if aside != 1 {
		t.Errorf("SARIF: %d findings set aside", aside)
	}

	rows, err := csv.NewReader(strings.NewReader(form("csv"))).ReadAll()
	if err != nil || len(rows) != len(found)+1 {
		t.Fatalf("CSV: %v, %d rows", err, len(rows))
	}
	for _, row := range rows {
		for _, cell := range row {
			if cell != "" && strings.ContainsAny(cell[:1], "=+-@|%") || strings.ContainsAny(cell, "\n\r") {
				t.Errorf("CSV: the cell %q is a formula or breaks its line", cell)
			}
		}
	}

	var suites struct {
		Tests    int `xml:"tests,attr"`
		Failures int `xml:"failures,attr"`
		Suites   []struct {
			Cases []struct {
				Failure *struct{} `xml:"failure"`
				Skipped *struct{} `xml:"skipped"`
			} `xml:"testcase"`
		} `xml:"testsuite"`
	}
	failing := 0 // the form heeds --fail-on
	for _, f := range found {
		if f.Severity == "error" && !strings.HasPrefix(f.Rule, "key/none") {
			failing++
		}
	}
	if r := nexdal(t, folder, "check", db, "--format", "junit"); xml.Unmarshal([]byte(r.out), &suites) != nil || suites.Failures != failing || failing == 0 || r.status != 1 {
		t.Errorf("JUnit: %d failures of %d errors, status %d", suites.Failures, failing, r.status)
	}
	suites.Suites = nil
	if err := xml.Unmarshal([]byte(form("junit")), &suites); err != nil || suites.Failures != 0 {
		t.Errorf("JUnit: %v, %d failures where nothing fails", err, suites.Failures)
	}
	n := 0
	for _, s := range suites.Suites {
		n += len(s.Cases)
	}
	if n != suites.Tests {
		t.Errorf("JUnit: %d cases, %d counted", n, suites.Tests)
	}

	if lines := strings.Count(form("lines"), "\n"); lines != len(found)-1 {
		t.Errorf("lines: %d of %d findings", lines, len(found))
	}
	text := form("markdown")
	if strings.Contains(text, "<b>") || strings.Count(text, "\n| ")-strings.Count(text, "| severity") != len(found)-1 {
		t.Errorf("Markdown: %s", text)
	}
	match(t, "text", form("text"), `set aside`)
	match(t, "by rule", must(t, folder, "check", db, "--fail-on", "never", "--group", "rule", "--explain"), `(?s)fk/not-indexed +foreign key without an index +1 finding\n.*main.gauge: deleting from "station"`)
}

func findingsIn(t *testing.T, text string) []finding {
	t.Helper()
	var file struct{ Findings []finding }
	if err := json.Unmarshal([]byte(text), &file); err != nil {
		t.Fatal(err)
	}
	return file.Findings
}

// TestFirstPage: the first page says in a line what there is, lists what to do first by what comes of
// it, each with what to type, and folds the notices.
func TestFirstPage(t *testing.T) {
	t.Parallel()
	folder := demoFolder(t)
	source := filepath.Join(folder, "saltmere.json")
	now, hurt, notices := 0, 0, 0
	found := findingsIn(t, must(t, folder, "check", source, "--format", "json", "--fail-on", "never"))
	for _, f := range found {
		switch {
		case f.Severity == "notice":
			notices++
		case strings.HasSuffix(f.Consequence, " now"):
			now++
		default:
			hurt++
		}
	}
	r := nexdal(t, folder, "check", source, "--fail-on", "never")
	match(t, "the line", r.out, fmt.Sprintf(`(?m)^%d fail or are wrong now, %d will hurt, %d notices; first: main\.`, now, hurt, notices))
	match(t, "the files", r.out, `(?m)^judged with settings nexdal\.yaml$`)
	order := regexp.MustCompile(`(?m)^ +([0-9]+)  (fails now|wrong now|fails by a date|unprotected|slow|untidy)   main\.\S+   [a-z]+/[a-z-]+$`).FindAllStringSubmatch(r.out, -1)
	if len(order) != 10 {
		t.Fatalf("%d in the list:\n%s", len(order), r.out)
	}
	all := []string{"fails now", "wrong now", "fails by a date", "unprotected", "slow", "untidy"}
	for i := range order[1:] {
		if slices.Index(all, order[i][2]) > slices.Index(all, order[i+1][2]) {
			t.Errorf("%s before %s", order[i][0], order[i+1][0])
		}
	}
	lines := strings.Split(r.out, "\n")
	commands := 0
	for i, line := range lines { // each of the ten that a script can answer says how
		if strings.Contains(line, " fix ") && strings.Contains(line, ": ") && commands < 10 {
			commands++
			match(t, line, strings.Join(lines[i:i+5], "\n"), `nexdal script fix \S+saltmere\.json --finding '.*' .*-o fix\.sql`)
		}
	}
	folded := regexp.MustCompile(`(?m)^ +([0-9]+)  ([a-z]+/[a-z-]+)  `).FindAllStringSubmatch(r.out, -1)
	sum := 0
	for _, f := range folded {
		n := 0
		fmt.Sscan(f[1], &n)
		sum += n
	}
	if sum != notices {
		t.Errorf("%d notices are folded, of %d", sum, notices)
	}
	whole := must(t, folder, "check", source, "--fail-on", "never", "--all", "--top", "0")
	if strings.Contains(whole, "What to do first") || strings.Count(whole, "\n  notice ") == 0 || strings.Contains(whole, "--all shows each") {
		t.Error("--all --top 0 folds notices, or lists some first")
	}
	match(t, "islands", whole, `(?s)10 tables\n  notice   fk/island .*refers to nothing, and nothing refers to it: main\.`)
	for i := 1; i < len(found); i++ { // notices come last, the others by what comes of them
		a, b := found[i-1], found[i]
		if a.Severity == "notice" && b.Severity != "notice" || a.Severity != "notice" && b.Severity != "notice" && slices.Index(all, a.Consequence) > slices.Index(all, b.Consequence) {
			t.Errorf("%s %s before %s %s", a.Rule, a.Consequence, b.Rule, b.Consequence)
		}
	}
	colour := nexdal(t, folder, "check", source, "--fail-on", "never", "--color", "always")
	if !strings.Contains(colour.out, "\x1b[") || strings.Contains(r.out, "\x1b[") {
		t.Error("--color always has none, or the other has some")
	}
	wide := command(folder, "check", source, "--fail-on", "never", "--all")
	wide.Env = append(wide.Env, "COLUMNS=60")
	for _, line := range strings.Split(call(t, wide).out, "\n") {
		if len([]rune(line)) > 74 && !strings.Contains(line, "nexdal ") && !strings.Contains(line, "sqlite_autoindex") { // a word is not broken
			t.Errorf("longer than COLUMNS says: %q", line)
		}
	}
}

// TestBaseline: with a baseline only what is new is told, and counts.
func TestBaseline(t *testing.T) {
	t.Parallel()
	folder, db := build(t, broken)
	if r := nexdal(t, folder, "check", db, "--write-baseline", "known.json"); r.status != 1 {
		t.Fatalf("status %d: %s", r.status, r.err)
	}
	r := nexdal(t, folder, "check", db, "--baseline", "known.json", "--fail-on", "notice")
	if r.status != 0 {
		t.Errorf("nothing is new, and the status is %d: %s", r.status, r.out)
	}
	match(t, "the summary", r.out, `no findings +[0-9]+ known from the baseline`)
	r = nexdal(t, folder, "check", db, "--baseline", "known.json", "--set", "name/too-long.bytes=3", "--format", "lines", "--fail-on", "notice")
	if r.status != 1 || !strings.Contains(r.out, "name/too-long") || strings.Contains(r.out, "key/none") {
		t.Errorf("status %d: %s", r.status, r.out)
	}
	// A baseline that is written anew takes in nothing that is new.
	r = nexdal(t, folder, "check", db, "--baseline", "known.json", "--write-baseline", "known.json", "--set", "name/too-long.bytes=3", "--fail-on", "notice")
	if again := nexdal(t, folder, "check", db, "--baseline", "known.json", "--set", "name/too-long.bytes=3", "--fail-on", "notice"); r.status != 1 || again.status != 1 || strings.Contains(read(t, filepath.Join(folder, "known.json")), "too-long") {
		t.Errorf("what is new was swallowed: %d, %d", r.status, again.status)
	}
	other, _ := build(t, "CREATE TABLE t (id INTEGER PRIMARY KEY);")
	for _, c := range []struct{ file, text, says string }{
		{"none.json", "", `cannot be read`},
		{"bad.json", "{}", `it is no baseline`},
		{"later.json", `{"kind":"baseline","format":9}`, `format 9`},
		{"other.json", read(t, filepath.Join(folder, "known.json")), `no table in common`},
	} {
		if c.text != "" {
			write(t, filepath.Join(other, c.file), c.text)
		}
		r := nexdal(t, other, "check", "harbour.db", "--baseline", c.file)
		if r.status != 2 {
			t.Errorf("%s: status %d", c.file, r.status)
		}
		match(t, c.file, r.err, c.says)
	}
}

// TestProposals: a fix that nothing proves to be meant is written only where it
// was chosen or all of them are asked for.
func TestProposals(t *testing.T) {
	t.Parallel()
	folder, db := build(t, "CREATE TABLE boat (id INTEGER PRIMARY KEY, hull_code TEXT NOT NULL);\n"+
		"INSERT INTO boat WITH RECURSIVE n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 60) SELECT i, 'H' || (1000 + i) FROM n;")
	must(t, folder, "probe", db, "-o", "e.json")
	write := func(args ...string) string {
		must(t, folder, append([]string{"script", "fix", db, "--evidence", "e.json", "-o", "fix.sql"}, args...)...)
		return read(t, filepath.Join(folder, "fix.sql"))
	}
	const unique = "CREATE UNIQUE INDEX"
	if text := write(); strings.Contains(text, unique) {
		t.Errorf("nobody chose it: %s", text)
	}
	match(t, "asked for", write("--proposals"), unique)
	must(t, folder, "decide", "choose", "key/undeclared main.boat hull_code", "unique")
	match(t, "chosen", write(), unique)
}

// TestSelection: a script answers what it was asked for, by the fix that was
// asked for.
func TestSelection(t *testing.T) {
	t.Parallel()
	folder, db := build(t, `CREATE TABLE boat (code TEXT NOT NULL UNIQUE, berth_id INTEGER REFERENCES berth (id));
CREATE TABLE berth (id INTEGER PRIMARY KEY, mark TEXT CHECK (mark IS NOT NULL));
CREATE TABLE pier (no INTEGER);`)
	for _, c := range []struct {
		args  []string
		want  string
		never string
	}{
		{[]string{"--rule", "fk/*"}, `CREATE INDEX boat_berth_id_idx`, `PRIMARY KEY`},
		{[]string{"--table", "pi*"}, `(?s)CREATE TABLE pier .*PRIMARY KEY`, `boat`},
		{[]string{"--severity", "error"}, `(?s)PRIMARY KEY`, `boat_berth_id_idx|mark TEXT NOT NULL`},
		{[]string{"--finding", "check/as-not-null main.berth *"}, `mark TEXT NOT NULL`, `pier|boat_berth`},
		{[]string{"--rule", "key/none", "--table", "boat", "--choose", "key/none=number"}, `(?s)CREATE TABLE boat .*id INTEGER.*PRIMARY KEY \(id\)`, `PRIMARY KEY \(code\)`},
	} {
		must(t, folder, append([]string{"script", "fix", db, "-o", "fix.sql"}, c.args...)...)
		text := read(t, filepath.Join(folder, "fix.sql"))
		match(t, strings.Join(c.args, " "), text, c.want)
		if regexp.MustCompile(c.never).MatchString(text[strings.Index(text, "-- Step"):strings.Index(text, "-- End of script")]) {
			t.Errorf("%v: the script holds %s:\n%s", c.args, c.never, text)
		}
	}
	for _, args := range [][]string{{"--rule", "fk/nothing"}, {"--table", "none"}, {"--severity", "bad"}, {"--finding", "x/y"}, {"--choose", "key/none"}, {"--choose", "key/none=nothing"}} {
		if r := nexdal(t, folder, append([]string{"script", "fix", db, "-o", "no.sql"}, args...)...); r.status != 2 {
			t.Errorf("%v: status %d: %s", args, r.status, r.err)
		}
	}
}

// TestRulePages: the reference in docs is what the program says.
func TestRulePages(t *testing.T) {
	t.Parallel()
	for _, area := range []string{"check", "column", "fk", "index", "key", "name", "note", "partition", "sequence"} {
		if must(t, "/", "rules", area+"/*", "--format", "markdown") != read(t, "../docs/rules/"+area+".md") {
			t.Errorf("docs/rules/%s.md is stale: make docs", area)
		}
	}
	for _, engine := range []string{"sqlite", "postgres", "mariadb"} {
		match(t, "an example for "+engine, must(t, "/", "rules", "fk/partly-null", "--engine", engine), `(?s)Options|An example.*-- found: fk/partly-null.*What the fix does there.*CHECK`)
	}
	if r := nexdal(t, "/", "rules", "fk/partly-null", "--engine", "abacus"); r.status != 2 {
		t.Errorf("an engine without examples: status %d", r.status)
	}
}

// TestViolated: values that are there twice are a finding where an index says that they may not
// be, and none where nothing does.
func TestViolated(t *testing.T) {
	t.Parallel()
	folder := t.TempDir()
	p := places(t)["postgres"](t, folder)
	p.query(t, `CREATE TABLE station (id integer PRIMARY KEY, station_code varchar(20) NOT NULL, plate varchar(20) NOT NULL);
		INSERT INTO station SELECT i, 'S' || i, 'P' || i FROM generate_series(1, 200) i; INSERT INTO station VALUES (900, 'S17', 'P17');
		CREATE INDEX station_code ON station (station_code); UPDATE pg_index SET indisvalid = false, indisunique = true WHERE indexrelid = 'station_code'::regclass`)
	must(t, folder, "probe", p.source, "-o", "e.json")
	var says []string
	for _, f := range findings(t, p.source, "--evidence", filepath.Join(folder, "e.json")) {
		if f.Rule == "key/violated" {
			says = append(says, f.Severity+" "+f.Message)
		}
	}
	if len(says) != 1 || !strings.HasPrefix(says[0], "error station_code should keep station_code unique, and 1 value there more than once") {
		t.Errorf("%q", says)
	}
	// A column of one letter is of no type that others agree on.
	p.query(t, "CREATE TABLE a1 (id int PRIMARY KEY, x int, tide int); CREATE TABLE a2 (id int PRIMARY KEY, x int, tide int); CREATE TABLE a3 (id int PRIMARY KEY, x int, tide int); CREATE TABLE a4 (id int PRIMARY KEY, x bigint, tide bigint)")
	varies := ""
	for _, f := range findings(t, p.source) {
		if f.Rule == "column/type-varies" {
			varies += strings.Join(f.Columns, ",") + ";"
		}
	}
	if varies != "tide;" {
		t.Errorf("of another type: %s", varies)
	}
	// An index for a foreign key to nowhere finds nothing.
	sqlite(t, filepath.Join(folder, "a.db"), "CREATE TABLE gauge (id INTEGER PRIMARY KEY, station_id INTEGER REFERENCES station (id))")
	if out := nexdal(t, folder, "check", "a.db").out; strings.Contains(out, "fk/not-indexed") {
		t.Error(out)
	}
}
