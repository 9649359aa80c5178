// Package golden holds texts that tests make to files that people have read.
package golden

import (
	"flag"
	"os"
	"path/filepath"
	"strings"
	"testing"
)

var update = flag.Bool("update", false, "write the files that texts are held to")

// Hold compares a text with a file, line by line; with -update it writes the file.
func Hold(t *testing.T, path, text string) {
	t.Helper()
	if *update {
		if err := os.MkdirAll(filepath.Dir(path), 0o755); err != nil {
			t.Fatal(err)
		}
		if err := os.WriteFile(path, []byte(text), 0o644); err != nil {
			t.Fatal(err)
		}
	}
	was, err := os.ReadFile(path)
	if err != nil {
		t.Fatalf("%v; -update writes it", err)
	}
	got, want := strings.Split(text, "\n"), strings.Split(string(was), "\n")
	for i := range max(len(got), len(want)) {
		if i >= len(got) || i >= len(want) || got[i] != want[i] {
			t.Fatalf("line %d of %s:\n%s\nis now\n%s\n(-update writes it)", i+1, path, want[min(i, len(want)-1)], got[min(i, len(got)-1)])
		}
	}
}
