package test

import (
	"path/filepath"
	"regexp"
	"strings"
	"testing"
)

// TestEfforts: with --verbose, probe tells of each table how many questions it took, of how many
// rows, and how long; the questions are those that the file counts.
func TestEfforts(t *testing.T) {
	t.Parallel()
	folder := t.TempDir()
	sqlite(t, filepath.Join(folder, "a.db"), read(t, "testdata/traps.sqlite.sql"))
	r := nexdal(t, folder, "probe", "a.db", "-o", "e.json", "--verbose")
	lines := regexp.MustCompile(`(?m)^ +[0-9.]+ s +([0-9]+) questions +([0-9,]+) rows  main\.(\w+)$`).FindAllStringSubmatch(r.err, -1)
	tables := strings.Count(read(t, "testdata/traps.sqlite.sql"), "CREATE TABLE")
	if len(lines) != tables {
		t.Errorf("%d lines of %d tables:\n%s", len(lines), tables, r.err)
	}
	match(t, "gauge", r.err, `s +[1-9][0-9]* questions +900 rows  main\.gauge\n`)
	if r := nexdal(t, folder, "probe", "a.db", "-o", "f.json"); strings.Contains(r.err, "questions   ") {
		t.Errorf("told without being asked: %s", r.err)
	}
}
