package test

import (
	"encoding/json"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"nexdal/test/server"
)

// unbroken names the rules that an engine's demo cannot break: the engine does
// not let it, or the setting is the whole server's.
var unbroken = map[string][]string{
	"sqlite":   planted,
	"postgres": append([]string{"fk/enforcement-off"}, planted...),
	"mariadb":  append([]string{"fk/enforcement-off", "fk/not-indexed", "fk/required-set-null"}, planted...),
}

// planted are rules whose breach is planted in their own scripts alone so far.
var planted = strings.Fields(`check/as-not-null check/not-validated check/repeated check/violated fk/cycle fk/not-validated fk/partly-null fk/repeated fk/target-not-key
	fk/two-targets fk/violated index/broken index/too-many index/too-wide key/nullable-part key/repeated key/unsuitable-type partition/default-filled partition/empty-parent
	partition/nullable-key sequence/behind sequence/cycles sequence/shared name/reserved name/needs-quotes`)

// TestDemo walks the whole job on each engine: the demo ends with every
// fixable finding gone, and its reversal brings back what was surveyed first.
func TestDemo(t *testing.T) {
	for engine, gone := range map[string]string{"sqlite": "13", "postgres": "13", "mariadb": "7"} {
		t.Run(engine, func(t *testing.T) {
			folder := t.TempDir()
			source, only := filepath.Join(folder, "saltmere.db"), []string{}
			args := []string{"demo", "--folder", folder}
			switch engine {
			case "postgres":
				p := server.StartPostgres(t)
				source = p.URL(p.Database(t))
			case "mariadb":
				source = server.StartMariaDB(t).URL("")
			}
			if engine != "sqlite" {
				args = append(args, "--engine", engine, "--on", source)
				only = []string{"--schema", "saltmere"}
			}
			out := must(t, "/", args...)
			match(t, "the demo", out, gone+" of "+gone+" findings gone")
			if engine != "sqlite" {
				match(t, "a second demo on the same server", nexdal(t, "/", args...).err, `saltmere.*exists.*drop the (schema|database) first`)
			}
			for _, f := range findings(t, source, only...) {
				if len(f.Fixes) > 0 {
					t.Errorf("left: %s %s", f.Rule, f.Table)
				}
			}
			// Compared with the first survey, what was done is there and nothing else.
			r := nexdal(t, folder, append([]string{"compare", "saltmere.json", source}, only...)...)
			if r.status != 1 {
				t.Errorf("compare: status %d: %s", r.status, r.err)
			}
			match(t, "compare", r.out, `(?m)^[0-9]+ differences: .*(?s:.*)added    primary key +(feed_delivery_pkey|PRIMARY) \(id\)`)
			before := structure(t, folder, filepath.Join(folder, "saltmere.json"))
			match(t, "the reversal", must(t, folder, "run", "fix.reversal.sql", "--on", source, "--yes"), `findings? before, ([789]|1[0-9]) now`)
			if now := structure(t, folder, source, only...); now != before {
				t.Error("the reversal does not bring back the catalog")
			}
			if r := nexdal(t, folder, append([]string{"compare", "saltmere.json", source}, only...)...); r.status != 0 || !strings.Contains(r.out, "no differences") {
				t.Errorf("compare after the reversal: %s%s", r.out, r.err)
			}
			// The demo breaks every rule that the engine can show by itself.
			broken := map[string]bool{}
			for _, f := range findings(t, source, append(only, "--evidence", filepath.Join(folder, "evidence.json"))...) {
				broken[f.Rule] = true
			}
			for _, rule := range rules(t) {
				if broken[rule] == slices.Contains(unbroken[engine], rule) {
					t.Errorf("%s broken by the demo: %v", rule, broken[rule])
				}
			}
		})
	}
}

type finding struct {
	Rule, Severity, Schema, Table, Object, Message, Certainty, Advice string
	Columns                                                           []string
	Fixes                                                             []struct{ ID, Title string }
}

func findings(t *testing.T, source string, more ...string) []finding {
	t.Helper()
	var file struct {
		Format   int
		Summary  map[string]int
		Findings []finding
	}
	text := must(t, "/", append([]string{"check", source, "--format", "json", "--fail-on", "never"}, more...)...)
	if err := json.Unmarshal([]byte(text), &file); err != nil || file.Format != 1 {
		t.Fatalf("%v: %s", err, text)
	}
	sum := 0
	for _, n := range file.Summary {
		sum += n
	}
	if sum != len(file.Findings) {
		t.Errorf("the summary counts %d findings of %d", sum, len(file.Findings))
	}
	return file.Findings
}

func rules(t *testing.T) []string {
	t.Helper()
	var ids []string
	for line := range strings.Lines(must(t, "/", "rules")) {
		ids = append(ids, strings.Fields(line)[0])
	}
	return ids
}

// TestSameBytes: the same input gives the same output, and a survey file
// serves as well as the database.
func TestSameBytes(t *testing.T) {
	folder := t.TempDir()
	must(t, folder, "demo", "--folder", folder)
	must(t, folder, "run", "fix.reversal.sql", "--on", "saltmere.db", "--yes")
	must(t, folder, "survey", "saltmere.db", "-o", "a.json")
	for _, args := range [][]string{
		{"survey", "a.json"},
		{"outline", "a.json"}, {"outline", "a.json", "--format", "json"},
		{"describe", "a.json", "gauge"}, {"describe", "a.json", "GAUGE", "--format", "json"},
		{"check", "a.json", "--fail-on", "never"}, {"check", "a.json", "--fail-on", "never", "--format", "json"},
		{"script", "fix", "a.json"},
		{"compare", "a.json", "saltmere.json"}, {"compare", "a.json", "saltmere.json", "--format", "json"}, {"compare", "a.json", "saltmere.json", "--format", "markdown"},
		{"rules"}, {"rules", "key/none"}, {"rules", "--format", "json"},
	} {
		if a, b := must(t, folder, args...), must(t, folder, args...); a != b || a == "" {
			t.Errorf("nexdal %s says different things", strings.Join(args, " "))
		}
	}
	if must(t, folder, "survey", "a.json") != read(t, filepath.Join(folder, "a.json")) {
		t.Error("a survey file does not come back as it was")
	}
	live := dated.ReplaceAllString(must(t, folder, "check", "saltmere.db", "--fail-on", "never", "--format", "json"), "")
	if live != dated.ReplaceAllString(must(t, folder, "check", "a.json", "--fail-on", "never", "--format", "json"), "") {
		t.Error("a survey file is judged otherwise than its database")
	}
}
