package rulecheck

import (
	"fmt"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"

	"nexdal/internal/engine/all"
	"nexdal/internal/rule/allrules"
	"nexdal/test/golden"
)

var wanting = regexp.MustCompile(`-- want(-database)?: `)

// TestProven lists, for each engine, the rules that it can have by its abilities and that no script
// shows on it. Who adds a rule or an engine reads here what is lacking: a script, or an ability.
func TestProven(t *testing.T) {
	paths, err := filepath.Glob("../../internal/rule/*/testdata/*/*.*")
	if err != nil {
		t.Fatal(err)
	}
	shown := map[string]bool{} // rule and engine
	for _, path := range paths {
		text, err := os.ReadFile(path)
		if err != nil {
			t.Fatal(err)
		}
		folder := filepath.Dir(path)
		own := filepath.Base(filepath.Dir(filepath.Dir(folder))) + "/" + filepath.Base(folder)
		for _, name := range meant(path, string(text)) {
			if wanting.MatchString(string(text)) {
				shown[own+" "+name] = true
			}
		}
	}
	versions := map[string]string{"postgres": "15.0", "sqlite": "3.45.0", "mariadb": "10.11.6"}
	var b strings.Builder
	for _, name := range []string{"sqlite", "postgres", "mariadb", "firebird", "sqlserver", "oracle"} {
		can := all.ByName(name).Abilities(versions[name])
		var none []string
		for _, r := range allrules.Rules() {
			if (r.Applies == nil || r.Applies(can)) && !shown[r.ID+" "+name] {
				none = append(none, r.ID)
			}
		}
		slices.Sort(none)
		fmt.Fprintf(&b, "%s\n  %s\n", name, strings.Join(none, "\n  "))
	}
	golden.Hold(t, "testdata/unproven.txt", b.String())
}
