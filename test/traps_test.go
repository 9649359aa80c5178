package test

import (
	"encoding/json"
	"fmt"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"
)

// TestTraps: of what looks like a reference just those are found that are ones, and those of
// which the values tell nothing are perhaps ones.
func TestTraps(t *testing.T) {
	t.Parallel()
	folder, text := t.TempDir(), read(t, "testdata/traps.sqlite.sql")
	sqlite(t, filepath.Join(folder, "a.db"), text)
	must(t, folder, "probe", "a.db", "-o", "e.json")
	var file struct {
		References []struct {
			Table, Target string
			Columns       []string
			TargetColumns []string `json:"target_columns"`
			RowsChecked   int      `json:"rows_checked"`
			Declared      bool
		}
	}
	if err := json.Unmarshal([]byte(read(t, filepath.Join(folder, "e.json"))), &file); err != nil {
		t.Fatal(err)
	}
	var found, wanted []string
	for _, r := range file.References {
		if !r.Declared {
			found = append(found, fmt.Sprintf("%s: %s (%s) > %s (%s)", map[bool]string{true: "is", false: "perhaps"}[r.RowsChecked > 0], r.Table, strings.Join(r.Columns, ", "), r.Target, strings.Join(r.TargetColumns, ", ")))
		}
	}
	for _, m := range regexp.MustCompile(`(?m)^-- ((is|perhaps): .*)$`).FindAllStringSubmatch(text, -1) {
		wanted = append(wanted, m[1])
	}
	for _, r := range found {
		if !slices.Contains(wanted, r) {
			t.Errorf("made up: %s", r)
		}
	}
	for _, r := range wanted {
		if !slices.Contains(found, r) {
			t.Errorf("missed: %s", r)
		}
	}
	// What the values do not tell is no warning.
	for _, f := range findings(t, filepath.Join(folder, "a.db"), "--evidence", filepath.Join(folder, "e.json")) {
		if f.Rule == "fk/missing" && (f.Table == "plate" || f.Table == "setup") && f.Severity != "notice" {
			t.Errorf("%s: %s", f.Severity, f.Message)
		}
	}
}
