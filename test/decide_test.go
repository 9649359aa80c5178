package test

import (
	"encoding/json"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
)

// decidable is a database with undeclared references and findings to decide about,
// and its evidence.
func decidable(t *testing.T) (folder string) {
	t.Helper()
	folder = t.TempDir()
	sqlite(t, filepath.Join(folder, "a.db"), undeclared("TEXT")+"CREATE TABLE loose (a TEXT NOT NULL UNIQUE, b INTEGER REFERENCES gauge (id));")
	must(t, folder, "probe", "a.db", "-o", "e.json")
	return folder
}

// byHand is the file that is read where none is named.
const byHand = "nexdal.decisions.yaml"

// TestDecide: what was accepted is a reference from then on, what was refused
// is not brought up again, what was set aside is counted and comes back.
func TestDecide(t *testing.T) {
	t.Parallel()
	folder := decidable(t)
	check := func(more ...string) result {
		r := nexdal(t, folder, append([]string{"check", "a.db", "--evidence", "e.json", "--fail-on", "warning"}, more...)...)
		if len(more) == 0 {
			r.out = strings.Join(strings.Fields(r.out), " ")
		}
		return r
	}
	describe := func() string { return must(t, folder, "describe", "a.db", "stations", "gauge") }
	match(t, "before", check().out, `"model" refers to "gauge_model" \(id\) in all of 60 rows, and no foreign key says so`)
	if strings.Contains(describe(), "accepted") {
		t.Error("an accepted reference before anything was decided")
	}
	out := must(t, folder, "decide", "accept", "gauge.model", "--evidence", "e.json", "--because", "the maker's list: \"of models\"", "--who", "ada")
	match(t, "accepting", out, `reference main\.gauge \(model\) to main\.gauge_model \(id\)\n  accept by ada on \d{4}-\d\d-\d\d: the maker's list: "of models"`)
	match(t, "describe", describe(), `(?s)model +INTEGER.*⇢ gauge_model\.id.*gauge_model +\(model\) .*accepted: nothing declares it`)
	match(t, "check", check().out, `(?s)"model" refers to "gauge_model" \(id\) in all of 60 rows, as was decided.*fix foreign-key: declare the foreign key`)
	match(t, "without evidence", must(t, folder, "check", "a.db", "--fail-on", "never"), `"model" refers to "gauge_model" \(id\), as was decided`)
	match(t, "the script", must(t, folder, "script", "fix", "a.db"), `FOREIGN KEY \(model\) REFERENCES gauge_model \(id\)`)
	must(t, folder, "decide", "accept", "gauge.station_id", "--evidence", "e.json")
	match(t, "orphans stand in the way", check().out, `(?s)"station_id" refers to "stations" \(id\) in all but 1 of 60 rows \(without a parent: 999\), as was decided.*not scripted: 1 row without a parent would be refused`)
	if text := must(t, folder, "script", "fix", "a.db", "--evidence", "e.json"); strings.Contains(text, "FOREIGN KEY (station_id)") {
		t.Error("a foreign key is scripted that the data would refuse")
	}

	must(t, folder, "decide", "refuse", "reference main.tide_table *", "--evidence", "e.json")
	if text := check().out; strings.Contains(text, "station_code refers") {
		t.Errorf("a refused reference is brought up again:\n%s", text)
	}

	findings := func() (n int, aside float64) {
		var j struct {
			Summary  map[string]float64
			Findings []struct {
				Rule     string
				Decision *struct{ Verdict, Because string }
			}
		}
		if err := json.Unmarshal([]byte(check("--format", "json").out), &j); err != nil {
			t.Fatal(err)
		}
		for _, f := range j.Findings {
			if f.Decision != nil && f.Decision.Verdict == "set aside" {
				n++
			}
		}
		return n, j.Summary["set_aside"]
	}
	must(t, folder, "decide", "set-aside", "*", "--because", "a playground", "--until", "2199-12-31")
	if n, aside := findings(); n == 0 || float64(n) != aside {
		t.Errorf("%d findings are set aside, %v counted", n, aside)
	}
	if r := check(); r.status != 0 || !strings.Contains(r.out, "set aside") {
		t.Errorf("status %d with all set aside:\n%s", r.status, r.out)
	}
	write(t, filepath.Join(folder, byHand), strings.ReplaceAll(read(t, filepath.Join(folder, byHand)), "2199-12-31", "2026-11-22"))
	madeOn := regexp.MustCompile(`at: \d{4}-\d\d-\d\d`) // long before that
	write(t, filepath.Join(folder, byHand), madeOn.ReplaceAllString(read(t, filepath.Join(folder, byHand)), "at: 2026-10-02"))
	if n, _ := findings(); n != 0 {
		t.Errorf("%d are still set aside though the end has passed", n)
	}
	match(t, "the list", must(t, folder, "decide", "list", "a.db", "--evidence", "e.json"), `ended on 2026-11-22`)
	must(t, folder, "decide", "withdraw", "*")

	// A finding with several fixes: the chosen one is scripted.
	match(t, "the first fix", must(t, folder, "script", "fix", "a.db"), `make the unique constraint \(a\) of main.loose its primary key`)
	must(t, folder, "decide", "choose", "key/none main.loose", "number", "--source", "a.db")
	match(t, "the chosen fix", must(t, folder, "script", "fix", "a.db"), `add column id to main.loose`)

	// What a decision was about goes: by being declared, or from the catalog.
	sqlite(t, filepath.Join(folder, "a.db"), "DROP TABLE loose; DROP TABLE tide_table;")
	must(t, folder, "probe", "a.db", "-o", "e.json")
	list := must(t, folder, "decide", "list", "a.db", "--evidence", "e.json")
	match(t, "a finding that is gone", list, `key/none main.loose\n.*\n  stale: it fits nothing any more`)
	match(t, "a pattern that fits nothing", list, `reference main.tide_table \*\n.*\n  stale`)
	must(t, folder, "script", "fix", "a.db", "--evidence", "e.json", "-o", "fix.sql")
	must(t, folder, "run", "fix.sql", "--on", "a.db", "--yes")
	match(t, "a reference that is declared", must(t, folder, "decide", "list", "a.db"), `\(model\) to main.gauge_model \(id\)\n.*\n  declared by now`)
}

// TestReview: one screen for each open item; answers come line by line where the
// input is no terminal, and each is kept at once.
func TestReview(t *testing.T) {
	t.Parallel()
	folder := decidable(t)
	c := command(folder, "decide", "review", "a.db", "--evidence", "e.json", "--who", "ada")
	c.Stdin = strings.NewReader("d\ns\nb\nr it is a floor\nz\na they said so\nq\n")
	r := call(t, c)
	if match(t, "the review", r.out, `(?s)1 of \d+: a reference that nothing declares.*1 of \d+:.*refuse by ada on .*: it is a floor.*'z' is no answer here.*accept by ada.*2 decided, kept in nexdal.decisions.yaml`); r.status != 0 {
		t.Errorf("status %d: %s", r.status, r.err)
	}
	match(t, "rows", r.out, `(?s)d show rows.*>\s+there are no rows`)
	match(t, "proof", r.out, `certainty +(verified on all rows|suspected by the name alone)`)
	text := read(t, filepath.Join(folder, byHand))
	if strings.Count(text, "about: reference") != 2 || !strings.Contains(text, "because: it is a floor") {
		t.Errorf("kept:\n%s", text)
	}
	// The rows without a parent are those that the engine finds.
	c = command(folder, "decide", "review", "a.db", "--evidence", "e.json", "--decisions", "rows.yaml")
	c.Stdin = strings.NewReader(strings.Repeat("d\ns\n", 12))
	orphan := sqlite(t, filepath.Join(folder, "a.db"), "SELECT id FROM gauge WHERE station_id NOT IN (SELECT id FROM stations)")
	match(t, "orphaned rows", call(t, c).out, `(?s)main\.gauge \(station_id\).*Rows without a parent\n +id .*\n +`+orphan+` +.*999`)
	// A file that is named and not there yet is begun.
	c = command(folder, "decide", "review", "a.db", "--evidence", "e.json", "--decisions", "new.yaml")
	c.Stdin = strings.NewReader("a\n")
	match(t, "a new file", call(t, c).out, `1 decided, kept in new.yaml`)
	c = command(folder, "decide", "review", "a.db", "--evidence", "e.json")
	c.Stdin = strings.NewReader(strings.Repeat("s\n", 20) + "1\n")
	match(t, "a finding with a choice", call(t, c).out, `(?s)a finding whose fix is to be chosen.*key/none main.loose.*1  make \(a\) the primary key\n +2  add the generated column`)
}

// TestDecisionsFile: a file that is wrong is refused with the place and what is
// wrong; names may hold anything.
func TestDecisionsFile(t *testing.T) {
	t.Parallel()
	folder := decidable(t)
	for _, x := range []struct{ text, says string }{
		{"format: 1\ndecisions:\n  - about: key/none main.a\n    decison: accept\n", `line 4: there is no key decison`},
		{"format: 1\ndecisions:\n  - about: key/none main.a\n    decision: maybe\n    by: a\n    at: 2026-01-01\n", `decision 1: "maybe" is no decision; there are accept, refuse, set aside and choose`},
		{"format: 1\ndecisions:\n  - about: key/none main.a\n    decision: set aside\n    by: a\n    at: 2026-01-01\n", `decision 1: a finding is set aside for a reason`},
		{"format: 1\ndecisions:\n  - about: key/none main.a\n    decision: accept\n    by: a\n    at: last week\n", `line 6: "last week" is no date`},
		{"format: 1\ndecisions:\n  - about: something\n    decision: accept\n    by: a\n    at: 2026-01-01\n", `"something" is neither a reference nor a finding`},
		{"format: 1\ndecisions:\n  - about: reference a (b) to c (d)\n    decision: set aside\n    because: x\n    by: a\n    at: 2026-01-01\n", `a reference is refused, not set aside`},
		{"format: 1\ndecisions:\n  - about: key/none main.a\n    decision: accept\n    by: a\n    at: 2026-02-01\n    until: 2026-01-01\n", `ends on 2026-01-01, before it was made`},
		{"format: 7\ndecisions: []\n", `format 7`},
		{"- a\n- b\n", `cannot be used`},
		{"{{", `cannot be used`},
	} {
		write(t, filepath.Join(folder, "d.yaml"), x.text)
		r := nexdal(t, folder, "check", "a.db", "--decisions", "d.yaml")
		if match(t, x.text, r.err, x.says); r.status != 2 || strings.Count(strings.TrimSpace(r.err), "\n") > 0 {
			t.Errorf("%q: status %d, %s", x.text, r.status, r.err)
		}
	}
	for _, x := range []struct {
		args []string
		says string
	}{
		{[]string{"check", "a.db", "--decisions", "none.yaml"}, `none.yaml cannot be read`},
		{[]string{"decide", "accept", "gauge.nothing", "--evidence", "e.json"}, `no reference of that column`},
		{[]string{"decide", "accept", "gauge.model"}, `with --evidence it may be table.column`},
		{[]string{"decide", "accept", "reference main.x (a) to main.y (b)", "--evidence", "e.json"}, `fits nothing in e.json`},
		{[]string{"decide", "set-aside", "key/none main.gone", "--source", "a.db", "--because", "x"}, `fits nothing in a.db`},
		{[]string{"decide", "set-aside", "key/none main.loose"}, `say because`},
		{[]string{"decide", "refuse", "key/none main.loose"}, `set aside, not refused`},
		{[]string{"decide", "accept", "key/none main.loose", "--until", "soon"}, `"soon" is no date`},
		{[]string{"decide", "choose", "key/none main.loose"}, `1 argument given; write: nexdal decide choose`},
		{[]string{"decide", "choose", "key/none main.loose", "nosuch"}, `there is no fix nosuch; there is columns, number`},
		{[]string{"decide", "choose", "key/none main.loose", "columns", "--source", "a.db"}, `a\.db has no fix columns there; there is number, promote`},
		{[]string{"decide", "choose", "fk/island main.loose", "drop"}, `there is no fix drop; there is none`},
		{[]string{"decide", "set-aside", "key/nonesuch *", "--because", "x"}, `there is no rule key/nonesuch`},
		{[]string{"probe", "a.db", "--withhold", "loose.nosuch", "-o", "e9.json"}, `--withhold loose\.nosuch fits no column of a\.db; nothing was asked`},
		{[]string{"decide", "withdraw", "key/none main.loose"}, `nothing was decided`},
		{[]string{"decide", "review", "a.db", "--evidence", "a.db"}, `no evidence file`},
		{[]string{"check", "a.db", "--evidence", "none.json"}, `cannot be read`},
	} {
		if r := nexdal(t, folder, x.args...); r.status != 2 {
			t.Errorf("%q: status %d: %s", x.args, r.status, r.err)
		} else {
			match(t, strings.Join(x.args, " "), r.err, x.says)
		}
	}
	// Evidence of another database, and evidence that is older than the survey.
	sqlite(t, filepath.Join(folder, "b.db"), "CREATE TABLE x (a INTEGER PRIMARY KEY)")
	match(t, "evidence of another database", nexdal(t, folder, "check", "b.db", "--evidence", "e.json").err, `e.json is evidence of sqlite a.db, and the source is sqlite b.db`)
	text := read(t, filepath.Join(folder, "e.json"))
	i := strings.Index(text, `"probed": "`) + len(`"probed": "`)
	write(t, filepath.Join(folder, "old.json"), text[:i]+"2026-01-05"+text[i+10:])
	match(t, "old evidence", nexdal(t, folder, "check", "a.db", "--evidence", "old.json").out, `\(asked \d+ days before\s+this\s+survey,\s+on\s+2026-01-05\)`)

	// Hostile names survive the way into the file and back.
	sqlite(t, filepath.Join(folder, "h.db"), "CREATE TABLE \"a (b) to c\" (\"x, y\" INTEGER PRIMARY KEY, \"q: #'\n\" TEXT);\nCREATE TABLE child (id INTEGER PRIMARY KEY, \"a_(b)_to_c_id\" INTEGER);\n"+
		many("\"a (b) to c\"", 30, "%[1]d, 'v'")+many("child", 30, "%[1]d, %[1]d"))
	must(t, folder, "probe", "h.db", "-o", "h.json")
	must(t, folder, "decide", "accept", "child.*", "--evidence", "h.json", "--decisions", "h.yaml")
	match(t, "hostile names", must(t, folder, "describe", "h.db", "child", "--decisions", "h.yaml"), `accepted`)
}
