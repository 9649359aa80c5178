package test

import (
	"encoding/json"
	"path/filepath"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"

	"nexdal/test/server"
)

// unbroken names the rules that an engine's demo cannot break: the engine does
// not let it, the setting is the whole server's, or it takes a month, or
// rights that few have.
var unbroken = map[string][]string{
	"sqlite": strings.Fields(`key/nearly-full key/violated check/not-validated check/violated column/date-in-text column/generated-legacy column/no-time-zone column/stamp-by-trigger fk/disabled fk/not-validated
		index/bloated index/broken index/partition-missing index/unused key/index-only name/by-system note/missing
		partition/default-filled partition/differs partition/empty-parent partition/gap partition/horizon partition/key-outside-key partition/name partition/no-default
		partition/none-on-large partition/nullable-key partition/retention partition/too-many partition/uneven
		routine/definer-gone storage/no-transactions sequence/behind sequence/by-trigger sequence/cycles sequence/shared sequence/unowned sequence/unused`),
	"postgres": strings.Fields(`column/affinity-broken key/violated fk/enforcement-off fk/target-not-key routine/definer-gone storage/no-transactions view/broken index/bloated index/unused key/nullable-part key/random-clustered`),
	"mariadb": strings.Fields(`column/affinity-broken routine/definer-gone key/violated check/not-validated check/violated column/generated-legacy column/no-time-zone fk/disabled fk/enforcement-off fk/not-indexed fk/not-validated
		fk/required-set-null index/bloated index/broken index/partition-missing index/unused key/index-only key/nullable-part
		partition/default-filled partition/differs partition/empty-parent partition/gap partition/key-outside-key
		sequence/by-trigger sequence/unowned`),
}

// ofClusters are the rules that a cluster alone can break.
var ofClusters = regexp.MustCompile(`^(distribution|sort)/|^storage/(dead-rows|not-encoded|stale-statistics|filter-not-required)$|^key/unenforced$`)

// ofDocuments are those of stores that declare nothing of what rows hold.
var ofDocuments = regexp.MustCompile(`^column/(list-grows|nearly-always|several-types)$|^check/none$|^index/(on-nothing|expires-nothing)$|^storage/row-near-limit$|^distribution/(growing|not-searched)$|^fk/orphaned$`)

// ofHeaps are those of engines that keep rows in the order of an index, or in none.
var ofHeaps = regexp.MustCompile(`^index/heap$`)

// TestDemo walks the whole job on each engine: the demo ends with every
// fixable finding gone, and its reversal brings back what was surveyed first.
func TestDemo(t *testing.T) {
	t.Parallel()
	for engine, least := range map[string]int{"sqlite": 23, "postgres": 42, "mariadb": 22} {
		t.Run(engine, func(t *testing.T) {
			t.Parallel()
			folder := t.TempDir()
			source, only, out := "", []string{}, ""
			args := []string{"demo", "--folder", folder}
			switch engine {
			case "sqlite":
				folder = demoFolder(t)
				source = filepath.Join(folder, "saltmere.db")
				_, out = walked()
			case "postgres":
				p := server.StartPostgres(t)
				source = p.URL(p.Database(t))
			case "mariadb":
				source = server.StartMariaDB(t).URL("")
			}
			if engine != "sqlite" {
				args = append(args, "--engine", engine, "--on", source)
				only = []string{"--schema", "saltmere"}
				out = must(t, "/", args...)
			}
			gone := goneOf.FindStringSubmatch(out)
			if gone == nil || gone[1] != gone[2] {
				t.Fatalf("not all findings are gone: %v\n%s", gone, out)
			}
			if n, _ := strconv.Atoi(gone[1]); n < least {
				t.Errorf("the script answers %d findings", n)
			}
			only = append(only, "--settings", filepath.Join(folder, "nexdal.yaml"))
			if engine != "sqlite" {
				match(t, "a second demo on the same server", nexdal(t, "/", args...).err, `saltmere.*exists.*drop the (schema|database) first`)
			}
			evidence := append(slices.Clone(only), "--evidence", filepath.Join(folder, "evidence.json"))
			for _, f := range findings(t, source, evidence...) {
				// The evidence is from before: the counters are past the numbers by now.
				if len(f.Fixes) > 0 && !f.Fixes[0].Ask && f.Rule != "sequence/behind" {
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
			match(t, "the reversal", must(t, folder, "run", "fix.reversal.sql", "--on", source, "--yes"), `findings? before, [0-9,]+ now`)
			r = nexdal(t, folder, append([]string{"compare", "saltmere.json", source}, only...)...)
			if engine == "postgres" {
				// An index that was not valid is not made so again, and one that was
				// completed stays complete; the script says so.
				match(t, "compare after the reversal", stays.ReplaceAllString(r.out, ""), `7 differences: 5 added, 2 altered\s*$`)
				match(t, "the script", read(t, filepath.Join(folder, "fix.sql")), `(?s)not taken back.*not taken back`)
			} else {
				if now := structure(t, folder, source, only...); now != before {
					t.Error("the reversal does not bring back the catalog")
				}
				if r.status != 0 || !strings.Contains(r.out, "no differences") {
					t.Errorf("compare after the reversal: %s%s", r.out, r.err)
				}
			}
			// The demo breaks every rule that the engine can show by itself.
			broken := map[string]bool{}
			for _, f := range findings(t, filepath.Join(folder, "saltmere.json"), evidence...) {
				broken[f.Rule] = true
			}
			for _, rule := range rules(t) {
				if ofClusters.MatchString(rule) || ofDocuments.MatchString(rule) || ofHeaps.MatchString(rule) {
					continue
				}
				if broken[rule] == slices.Contains(unbroken[engine], rule) {
					t.Errorf("%s broken by the demo: %v", rule, broken[rule])
				}
			}
		})
	}
}

var goneOf = regexp.MustCompile(`(\d+) of (\d+) findings gone`)

// stays are the indexes that the reversal leaves valid.
var stays = regexp.MustCompile(`(?m)^(from|to) .*\n|^saltmere\..*\n|^ +(added|altered) +index +(bollard_half_idx|swell\w*_height_mm_idx).*\n|^ +valid: no → yes\n`)

type finding struct {
	ID, Rule, Severity, Consequence, Schema, Table, Object, Message, Certainty, Advice string
	Columns                                                                            []string
	Fixes                                                                              []struct {
		ID, Title string
		Ask       bool
	}
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
		if id := strings.Fields(line)[0]; strings.Contains(id, "/") { // a long title takes two lines
			ids = append(ids, id)
		}
	}
	return ids
}

// TestSameBytes: the same input gives the same output, and a survey file
// serves as well as the database.
func TestSameBytes(t *testing.T) {
	t.Parallel()
	folder := demoFolder(t)
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
	judged := func(source string) string { // with what to type, which names the source
		return strings.ReplaceAll(dated.ReplaceAllString(must(t, folder, "check", source, "--fail-on", "never", "--format", "json"), ""), " "+source+" ", " SOURCE ")
	}
	if judged("saltmere.db") != judged("a.json") {
		t.Error("a survey file is judged otherwise than its database")
	}
}
