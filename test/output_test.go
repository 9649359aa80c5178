package test

import (
	"encoding/json"
	"io/fs"
	"os"
	"path/filepath"
	"strings"
	"syscall"
	"testing"
)

// TestOutputPlaces: a file is replaced whole; a link stays a link; a pipe or a
// device is written to, and never replaced.
func TestOutputPlaces(t *testing.T) {
	t.Parallel()
	folder := t.TempDir()
	at := func(name string) string { return filepath.Join(folder, name) }
	sqlite(t, at("a.db"), "CREATE TABLE station (id INTEGER PRIMARY KEY)")
	write(t, at("real.json"), `{"format": 2, "kind": "survey", "database": "old"}`)
	if err := os.Symlink("real.json", at("link.json")); err != nil {
		t.Fatal(err)
	}
	if err := syscall.Mkfifo(at("pipe"), 0o600); err != nil {
		t.Fatal(err)
	}
	piped := make(chan string, 1)
	go func() {
		text, err := os.ReadFile(at("pipe"))
		if err != nil {
			text = []byte(err.Error())
		}
		piped <- string(text)
	}()
	for _, name := range []string{"new.json", "link.json", "pipe", "/dev/null"} {
		must(t, folder, "survey", "a.db", "-o", name)
	}
	for name, text := range map[string]string{"new.json": read(t, at("new.json")), "link.json": read(t, at("real.json")), "pipe": <-piped} {
		if !json.Valid([]byte(text)) {
			t.Errorf("%s holds %q", name, text)
		}
	}
	for path, want := range map[string]fs.FileMode{at("link.json"): fs.ModeSymlink, at("pipe"): fs.ModeNamedPipe, "/dev/null": fs.ModeDevice} {
		if info, err := os.Lstat(path); err != nil || info.Mode()&want == 0 {
			t.Errorf("%s is no longer what it was: %v (%v)", path, info.Mode(), err)
		}
	}
}

// TestNothingOverwritten: a result is put in place of what the same command wrote before,
// and of nothing else: no database, no source, no text of somebody else's, no script that
// was carried out.
func TestNothingOverwritten(t *testing.T) {
	t.Parallel()
	folder := t.TempDir()
	at := func(name string) string { return filepath.Join(folder, name) }
	sqlite(t, at("a.db"), faulty)
	sqlite(t, at("b.db"), faulty)
	must(t, folder, "survey", "a.db", "-o", "a.json")
	write(t, at("notes.md"), "my notes\n")
	write(t, at("mine.sql"), "CREATE TABLE mine (a);\n")
	write(t, at("mine.json"), `{"gauges": []}`)
	write(t, at("empty.json"), "")
	before := map[string]string{}
	for _, name := range []string{"a.db", "b.db", "a.json", "notes.md", "mine.sql", "mine.json"} {
		before[name] = read(t, at(name))
	}
	for _, c := range []struct{ call, says string }{
		{"survey a.db -o a.db", "is a database"},
		{"survey a.db -o b.db", "is a database"},
		{"script fix a.db -o b.db", "is a database"},
		{"check a.json -o b.db", "is a database"},
		{"survey a.json --structure-only -o a.json", "is the source"},
		{"check a.json --format json -o a.json", "is the source"},
		{"outline a.db --format markdown -o notes.md", "does not look like"},
		{"script fix a.db -o mine.sql", "does not look like"},
		{"survey a.db -o mine.json", "does not look like"},
		{"check a.db --format json -o a.json", "does not look like"},
	} {
		r := nexdal(t, folder, strings.Fields(c.call)...)
		if r.status != 2 || !strings.Contains(r.err, c.says) {
			t.Errorf("nexdal %s: status %d: %s", c.call, r.status, r.err)
		}
		for name, was := range before {
			if read(t, at(name)) != was {
				t.Fatalf("nexdal %s: %s is another", c.call, name)
			}
		}
	}
	for _, call := range []string{"survey a.db -o a.json", "survey a.db -o empty.json", "check a.db -o c.txt", "check a.db -o c.txt", "check a.db --format csv -o c.csv", "check a.db --format csv -o c.csv",
		"outline a.db --format markdown -o o.md", "outline a.db --format markdown -o o.md", "draw a.db -o d.svg", "draw a.db -o d.svg", "draw a.db -o d.png", "draw a.db -o d.png", "report a.db -o r.html", "report a.db -o r.html",
		"script fix a.db -o fix.sql", "script fix a.db -o fix.sql"} {
		if r := nexdal(t, folder, strings.Fields(call)...); r.status > 1 {
			t.Errorf("nexdal %s: status %d: %s", call, r.status, r.err)
		}
	}
	// The way back of a script that was carried out stays, until it was gone.
	must(t, folder, "run", "fix.sql", "--on", "a.db", "--yes", "--stop-after", "1")
	reversal := read(t, at("fix.reversal.sql"))
	r := nexdal(t, folder, "script", "fix", "a.db", "-o", "fix.sql")
	if r.status != 2 || !strings.Contains(r.err, "write to fix.2.sql") || read(t, at("fix.reversal.sql")) != reversal {
		t.Errorf("status %d: %s", r.status, r.err)
	}
	must(t, folder, "run", "fix.reversal.sql", "--on", "a.db", "--yes")
	must(t, folder, "script", "fix", "a.db", "-o", "fix.sql")
}
