package test

import (
	"encoding/json"
	"io/fs"
	"os"
	"path/filepath"
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
	write(t, at("real.json"), "old")
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
