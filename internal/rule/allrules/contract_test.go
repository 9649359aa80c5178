package allrules

import (
	"fmt"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/mariadb"
	"nexdal/internal/engine/postgres"
	"nexdal/internal/engine/redshift"
	"nexdal/internal/engine/sqlite"
	"nexdal/internal/evidence"
	"nexdal/internal/rule"
	"nexdal/test/model"
)

var engines = map[string]catalog.Abilities{"sqlite": sqlite.Engine{}.Abilities("3.45.0"), "postgres": postgres.Engine{}.Abilities("15.0"),
	"mariadb": mariadb.Engine{}.Abilities("10.11.6"), "redshift": redshift.Engine{}.Abilities("1.0")}

// TestValid: the list holds to what is asked of a list of rules, is in order, and each
// rule's scripts stand beside it.
func TestValid(t *testing.T) {
	rules := Rules()
	if err := rule.Validate(rules); err != nil {
		t.Error(err)
	}
	if !slices.IsSortedFunc(rules, func(a, b *rule.Rule) int { return strings.Compare(a.ID, b.ID) }) {
		t.Error("the list is not in the order of the identifiers")
	}
	for _, r := range rules {
		area, slug, _ := strings.Cut(r.ID, "/")
		if scripts, _ := filepath.Glob(filepath.Join("..", area, "testdata", slug, "*.*")); len(scripts) == 0 {
			t.Errorf("%s has no script in internal/rule/%s/testdata/%s: the harness proves it on no engine", r.ID, area, slug)
		}
		docs, err := os.ReadFile(filepath.Join("..", "..", "..", "docs", "rules", area+".md"))
		if err != nil || !strings.Contains(string(docs), r.ID) {
			t.Errorf("%s is not in docs/rules: make docs (%v)", r.ID, err)
		}
	}
	folders, err := filepath.Glob("../*/testdata/*")
	if err != nil {
		t.Fatal(err)
	}
	for _, f := range folders {
		parts := strings.Split(filepath.ToSlash(f), "/")
		if id := parts[1] + "/" + parts[3]; !slices.ContainsFunc(rules, func(r *rule.Rule) bool { return r.ID == id }) {
			t.Errorf("%s holds scripts of a rule that is not in the list", f)
		}
	}
}

var word = map[string]string{"two": "2", "three": "3", "four": "4", "five": "5", "six": "6", "seven": "7", "eight": "8", "nine": "9", "ten": "10", "twelve": "12", "twenty": "20", "thirty": "30", "fifty": "50", "hundred": "100", "thousand": "1000",
	"half": "0.5", "third": "0.33", "quarter": "0.25", "fifth": "0.2", "tenth": "0.1", "twentieth": "0.05"}

// fixed are numbers in the texts of rules that no option stands behind.
var fixed = map[string][]string{
	"column/date-in-text": {"31", "20240131", "1950"}, "column/money-approximate": {"4"}, "index/mostly-null": {"10"}, "index/too-wide": {"0.33"}, "key/nearly-full": {"10", "64"},
	"key/nullable-unique": {"0.33"}, "key/random-clustered": {"0.5"}, "key/unsuitable-type": {"1000"}, "key/wide": {"32"}, "name/two-forms": {"6"}, "partition/name": {"3"},
}

// TestNumbersInText: a number that a rule's text names as a threshold is the default of
// one of its options: as it stands, as a share, in percent, or in words.
func TestNumbersInText(t *testing.T) {
	number := regexp.MustCompile(`\d[\d,]*(\.\d+)?`)
	for _, r := range Rules() {
		defaults := map[string]bool{"0": true, "1": true, "2": true}
		for _, o := range r.Options {
			switch v := o.Default.(type) {
			case int64:
				for _, n := range []float64{float64(v), float64(v) / 1e6, float64(v) / 1e9} {
					defaults[fmt.Sprintf("%g", n)] = true
					defaults[fmt.Sprintf("%.0f", n)] = true
				}
			case float64:
				defaults[fmt.Sprintf("%g", v)], defaults[fmt.Sprintf("%g", v*100)], defaults[fmt.Sprintf("%g", v*10)] = true, true, true
			}
		}
		for _, n := range fixed[r.ID] {
			defaults[n] = true
		}
		var said []string
		for _, n := range number.FindAllString(r.Doc, -1) {
			said = append(said, strings.TrimRight(strings.ReplaceAll(n, ",", ""), "."))
		}
		for w, n := range word {
			if regexp.MustCompile(`(?i)\b` + w + `\b`).MatchString(r.Doc) {
				said = append(said, n)
			}
		}
		for _, n := range said {
			if !defaults[n] {
				t.Errorf("%s: the text names %s, which is no default of its options", r.ID, n)
			}
		}
	}
}

// TestLacking: without evidence and figures, every rule that needs them says so, on
// every engine that can have its fault; with them, none does.
func TestLacking(t *testing.T) {
	c := model.Random(1)
	for _, table := range c.Tables() {
		table.Stats = catalog.TableStats{}
		for _, col := range table.Columns {
			col.Stats = catalog.ColumnStats{}
		}
	}
	for name, can := range engines {
		result := rule.Checker{Abilities: can, Rules: Rules()}.Run(t.Context(), c)
		for _, r := range Rules() {
			if r.Applies != nil && !r.Applies(can) || r.Severity == rule.Off {
				if slices.ContainsFunc(result.Unjudged, func(u rule.Unjudged) bool { return u.Rule == r.ID }) {
					t.Errorf("%s: %s does not apply, and lacks something", name, r.ID)
				}
				continue
			}
			for _, n := range r.Needs {
				asks := map[rule.Need]string{rule.Evidence: "data", rule.Statistics: "figures"}[n]
				if n == rule.Settings || silentlyNothing[name+" "+r.ID] || silentlyNothing[r.ID] {
					continue
				}
				if !slices.ContainsFunc(result.Unjudged, func(u rule.Unjudged) bool {
					return u.Rule == r.ID && (strings.Contains(u.Needs, asks) || n == rule.Statistics) && u.Objects > 0
				}) {
					t.Errorf("%s: %s needs %s, lacks it, and says nothing", name, r.ID, n)
				}
			}
		}
		for _, u := range result.Unjudged {
			if u.Failed != "" {
				t.Errorf("%s: %s failed: %s", name, u.Rule, u.Failed)
			}
		}
	}
	full := &evidence.Evidence{}
	for _, table := range c.Tables() {
		rows := int64(10)
		table.Stats.Rows = &rows
	}
	for _, u := range (rule.Checker{Abilities: engines["postgres"], Rules: Rules(), Evidence: full}).Run(t.Context(), c).Unjudged {
		if strings.Contains(u.Needs, "the data") {
			t.Errorf("%s lacks the data, though it was asked: %+v", u.Rule, u)
		}
	}
}

// silentlyNothing are rules that lack nothing here, since the catalog holds nothing that
// they could judge.
var silentlyNothing = map[string]bool{"key/violated": true, "distribution/copied-large": true, "partition/uneven": true,
	"redshift index/low-variety": true, "redshift index/mostly-null": true, "redshift index/bloated": true}

// TestDeclaredInputs: a rule that does not declare the data as an input is not given it,
// and one that does says the same of a catalog wherever it stands in the list.
func TestDeclaredInputs(t *testing.T) {
	c := model.Random(2)
	e := &evidence.Evidence{}
	for _, r := range Rules() {
		declared := slices.Contains(r.Needs, rule.Evidence) || slices.Contains(r.Uses, rule.Evidence)
		given := false
		spy := *r
		spy.GivesWay = nil
		spy.Check = func(p *rule.Pass) error {
			given = p.Data != nil
			return r.Check(p)
		}
		if spy.Severity == rule.Off {
			spy.Severity = rule.Notice
		}
		for name, can := range engines {
			if r.Applies != nil && !r.Applies(can) {
				continue
			}
			result := rule.Checker{Abilities: can, Rules: []*rule.Rule{&spy}, Evidence: e}.Run(t.Context(), c)
			if given != declared {
				t.Errorf("%s, %s: the data is declared: %v, and given: %v", r.ID, name, declared, given)
			}
			for _, u := range result.Unjudged {
				if u.Failed != "" {
					t.Errorf("%s, %s: %s", r.ID, name, u.Failed)
				}
			}
		}
	}
}

// TestNeverFails: no rule fails on any catalog that holds together, whatever the engine's
// abilities, nor on one whose every field is set.
func TestNeverFails(t *testing.T) {
	for name, can := range engines {
		for seed := range uint64(6) {
			c := model.Random(seed)
			if seed == 5 {
				c = model.Filled()
			}
			j := rule.Checker{Abilities: can, Rules: Rules(), Settings: []rule.Setting{{Rule: "*", Severity: rule.Notice}}}
			for _, u := range j.Run(t.Context(), c).Unjudged {
				if u.Failed != "" {
					t.Errorf("%s, seed %d: %s: %s", name, seed, u.Rule, u.Failed)
				}
			}
		}
	}
}
