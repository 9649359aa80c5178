package test

import (
	"encoding/json"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"go.yaml.in/yaml/v3"
)

// harbour is a small database that the settings' tests judge.
const harbour = `
CREATE TABLE station (id INTEGER PRIMARY KEY, code TEXT NOT NULL, opened_at TEXT, level_mm TEXT, fee_amount REAL);
CREATE TABLE gauge (id INTEGER PRIMARY KEY, station_id INTEGER NOT NULL REFERENCES station (id), a INTEGER REFERENCES station (id), b INTEGER REFERENCES station (id),
  c INTEGER REFERENCES station (id), d INTEGER REFERENCES station (id), e INTEGER REFERENCES station (id));
CREATE INDEX gauge_by_a ON gauge (a);
CREATE TRIGGER gauge_in AFTER INSERT ON gauge BEGIN UPDATE station SET opened_at = 'now'; END;
INSERT INTO station (id, code) VALUES (1, 'a'), (2, 'b'), (3, 'c'), (4, 'd'), (5, 'e'), (6, 'f'), (7, 'g');
`

func build(t *testing.T, sql string) (folder, db string) {
	t.Helper()
	folder = t.TempDir()
	db = filepath.Join(folder, "harbour.db")
	c := exec.Command("sqlite3", "-bail", db)
	c.Stdin = strings.NewReader(sql)
	if out, err := c.CombinedOutput(); err != nil {
		t.Fatalf("sqlite3: %v: %s", err, out)
	}
	return folder, db
}

// TestSettings: what the file and the arguments say holds, the later before the
// earlier, and can be seen.
func TestSettings(t *testing.T) {
	t.Parallel()
	folder, _ := build(t, harbour)
	write(t, filepath.Join(folder, "agency.yaml"), "rules:\n  fk/not-indexed: notice\n  key/generated-only: error\n")
	write(t, filepath.Join(folder, "nexdal.yaml"), `
format: 1
include: agency.yaml
sources: {live: harbour.db}
rules:
  fk/not-indexed: {severity: error}
  "name/*": off
tables:
  "gau*": {fk/not-indexed: warning}
names: {index: "{table}_{columns}_idx"}
house: {longest-name: 4}
`)
	counts := func(args ...string) map[string]string {
		t.Helper()
		found := map[string]string{}
		for line := range strings.Lines(nexdal(t, folder, append([]string{"check", "live", "--format", "lines", "--fail-on", "never"}, args...)...).out) {
			f := strings.SplitN(line, ": ", 4)
			found[f[2]] = f[1]
		}
		return found
	}
	for _, c := range []struct {
		what string
		args []string
		rule string
		want string
	}{
		{"a pattern of tables goes before all", nil, "fk/not-indexed", "warning"},
		{"an argument goes before the file", []string{"--set", "fk/not-indexed=notice"}, "fk/not-indexed", "notice"},
		{"and can set a rule off", []string{"--set", "fk/*=off"}, "fk/not-indexed", ""},
		{"what is included holds", nil, "key/generated-only", "error"},
		{"rules set off by a pattern stay so", nil, "name/too-long", ""},
		{"and come back", []string{"--set", "name/*=warning"}, "name/too-long", "warning"},
		{"templates come from names", []string{"--set", "name/pattern=notice"}, "name/pattern", "notice"},
		{"other settings", []string{"--settings", "agency.yaml", "--set", "fk/not-indexed.small=1"}, "fk/not-indexed", ""},
	} {
		if c.what == "other settings" {
			continue
		}
		if got := counts(c.args...)[c.rule]; got != c.want {
			t.Errorf("%s: %s is %q, not %q", c.what, c.rule, got, c.want)
		}
	}
	match(t, "settings", must(t, folder, "settings"), `(?s)fk/not-indexed +all tables +severity +error +nexdal.yaml, line 6.*fk/not-indexed +gau\* +severity +warning.*key/generated-only .* agency.yaml, line 3.*live +harbour.db`)
	match(t, "settings of a rule", must(t, folder, "settings", "fk/not-indexed", "--set", "fk/not-indexed.large=7"), `large +7 +--set fk/not-indexed.large=7`)
	var out struct {
		Settings []struct{ Rule, Name, Value, From string }
	}
	if err := json.Unmarshal([]byte(must(t, folder, "settings", "--format", "json")), &out); err != nil || len(out.Settings) < 5 {
		t.Errorf("settings as JSON: %v %v", err, out)
	}
}

// TestWrongSettings: a mistake is an error that says where, and what is nearest.
func TestWrongSettings(t *testing.T) {
	t.Parallel()
	folder, _ := build(t, harbour)
	for name, c := range map[string]struct{ text, says string }{
		"no such key":           {"rulez: {}", `line 1: there is no key rulez; nearest is rules`},
		"no such rule":          {"rules:\n  fk/not-indexd: off", `line 2: there is no rule fk/not-indexd; nearest is fk/not-indexed`},
		"no rule fits":          {"rules:\n  fkk/*: off", `no rule fits fkk/\*`},
		"no such severity":      {"rules: {fk/cycle: bad}", `"bad" is no severity`},
		"no such option":        {"rules: {fk/not-indexed: {larg: 5}}", `has no option larg; nearest is large`},
		"not a number":          {"rules: {fk/not-indexed: {large: many}}", `large: it takes a whole number`},
		"no such choice":        {"house: {link-tables: mixed}", `"mixed" is none of combined, generated`},
		"no such placeholder":   {"names: {index: '{tabel}_idx'}", `no placeholder {tabel}; there are: table, columns`},
		"no such list":          {"house: {on-deleet: [cascade]}", `no key house.on-deleet; nearest is on-delete`},
		"twice":                 {"rules: {fk/cycle: off, fk/cycle: error}", `twice|already defined`},
		"another format":        {"format: 9", `format 9`},
		"broken YAML":           {"rules: [", `nexdal.yaml: `},
		"includes itself":       {"include: nexdal.yaml", `includes itself`},
		"includes nothing":      {"include: other.yaml", `line 1: other.yaml cannot be read`},
		"no such house rule":    {"rules: {house/x: off}", `there is no rule house/x`},
		"condition wrong":       {"house-rules:\n  - id: house/x\n    for: table\n    when: table.nam == 'x'\n    message: m", `line 4: when: at 1:6: undefined field 'nam'`},
		"condition no bool":     {"house-rules: [{id: house/x, for: table, when: table.name, message: m}]", `when: it gives string where bool is needed`},
		"message wrong":         {"house-rules: [{id: house/x, for: table, when: 'true', message: '{tabel.name}'}]", `message: {tabel.name}: .*undeclared reference`},
		"message not closed":    {"house-rules: [{id: house/x, for: table, when: 'true', message: 'a {table.name'}]", `is not closed`},
		"no such thing":         {"house-rules: [{id: house/x, for: tables, when: 'true', message: m}]", `for: a rule is for one of`},
		"no such member":        {"house-rules: [{id: house/x, fro: table}]", `a rule has no key fro; nearest is for`},
		"identifier wrong":      {"house-rules: [{id: x, for: table, when: 'true', message: m}]", `id: "x" is no identifier`},
		"no such change":        {"house-rules: [{id: house/x, for: index, when: 'true', message: m, change: {dropp: true}}]", `no change dropp of a index; nearest is drop`},
		"nothing to be changed": {"house-rules: [{id: house/x, for: table, when: 'true', message: m, change: {drop: true}}]", `nothing can be done about a table`},
	} {
		write(t, filepath.Join(folder, "nexdal.yaml"), c.text+"\n")
		r := nexdal(t, folder, "check", "harbour.db")
		if r.status != 2 || r.out != "" {
			t.Errorf("%s: status %d: %s", name, r.status, r.out)
		}
		match(t, name, r.err, c.says)
	}
	os.Remove(filepath.Join(folder, "nexdal.yaml"))
	for _, set := range []string{"fk/cycle", "=off", "fk/cycle=loud", "fk/not-indexed.large=x", "names.tabel=x", "what.ever=1"} {
		if r := nexdal(t, folder, "check", "harbour.db", "--set", set); r.status != 2 {
			t.Errorf("--set %s: status %d %s", set, r.status, r.err)
		}
	}
	if r := nexdal(t, folder, "check", "harbour.db", "--settings", "none.yaml"); r.status != 2 {
		t.Errorf("settings that are not there: status %d", r.status)
	}
}

var yamlBlock = regexp.MustCompile("(?s)```yaml\n(.*?)```")

// TestHouseRules: the examples of the documentation are read, and each finds what
// it speaks of; the changes are written.
func TestHouseRules(t *testing.T) {
	t.Parallel()
	folder, _ := build(t, harbour)
	text := yamlBlock.FindStringSubmatch(read(t, "../docs/house-rules.md"))[1]
	write(t, filepath.Join(folder, "nexdal.yaml"), text)
	out := must(t, folder, "check", "harbour.db", "--format", "lines", "--fail-on", "never")
	for _, want := range []string{
		`main.station: warning: house/moment-in-text: opened_at is TEXT: moments have a type of their own`,
		`main.station: notice: house/large-without-comment: station holds 7 rows`,
		`main.gauge.\(station_id\) to station: error: house/reference-index: station_id refers to station without an index`,
		`main.station: warning: house/no-natural-key: station has a code or name`,
		`main.gauge.gauge_by_a: notice: house/index-ending: index gauge_by_a`,
		`main.station: warning: house/amount-unchecked: nothing keeps fee_amount`,
		`main.gauge.gauge_in: warning: house/no-trigger`,
		`main.station: warning: house/unit-is-number: level_mm`,
		`main.gauge: warning: house/many-references: gauge refers to 6 tables`,
	} {
		match(t, "the examples", out, want)
	}
	if n := strings.Count(out, "house/"); n != 9 {
		t.Errorf("the house's rules find %d things:\n%s", n, out)
	}
	must(t, folder, "script", "fix", "harbour.db", "-o", "fix.sql")
	match(t, "the script", read(t, filepath.Join(folder, "fix.sql")), `(?s)CREATE INDEX gauge_a_idx ON gauge.*|DROP INDEX gauge_by_a`)
	match(t, "rules", must(t, folder, "rules", "house/*"), `house/unit-is-number`)

	// A condition that would take too long ends, and says so.
	var wide strings.Builder
	wide.WriteString("CREATE TABLE wide (id INTEGER PRIMARY KEY")
	for i := range 600 {
		wide.WriteString(", c" + strings.Repeat("x", i%7) + string(rune('a'+i%26)) + strings.Repeat("y", i/26) + " INTEGER")
	}
	folder, _ = build(t, wide.String()+");")
	write(t, filepath.Join(folder, "nexdal.yaml"), "house-rules: [{id: house/endless, for: table, when: 'table.columns.all(a, table.columns.all(b, table.columns.all(c, a.name + b.name + c.name != \"x\")))', message: m}]")
	match(t, "an endless condition", must(t, folder, "check", "harbour.db", "--fail-on", "never"), `(?s)Not judged.*for want of a condition that can be evaluated.*house/endless \(1\)`)
}

// TestSettingsSchema: the schema in docs is the program's, and the documented
// files keep to it.
func TestSettingsSchema(t *testing.T) {
	t.Parallel()
	text := must(t, "/", "settings", "--format", "schema")
	if text != read(t, "../docs/settings.schema.json") {
		t.Error("docs/settings.schema.json is stale: nexdal settings --format schema")
	}
	schema, err := jsonschema.NewCompiler().Compile("../docs/settings.schema.json")
	if err != nil {
		t.Fatal(err)
	}
	valid := func(text string) error {
		var value any
		if err := yaml.Unmarshal([]byte(text), &value); err != nil {
			t.Fatal(err)
		}
		return schema.Validate(value)
	}
	for _, page := range []string{"../docs/settings.md", "../docs/house-rules.md"} {
		for _, m := range yamlBlock.FindAllStringSubmatch(read(t, page), -1) {
			if err := valid(m[1]); err != nil {
				t.Errorf("%s: %v", page, err)
			}
		}
	}
	if err := valid(read(t, "../demo/nexdal.yaml")); err != nil {
		t.Errorf("the demo's: %v", err)
	}
	if valid("rules: {fk/not-indexed: {larg: 5}}") == nil {
		t.Error("the schema takes an option that is none")
	}
}
