package sqlite

import (
	"context"
	"fmt"
	"maps"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
)

// filled makes trees of several levels, rows with overflow pages in tables,
// indexes and tables without rowid, and free pages.
var filled = `CREATE TABLE reading (id INTEGER PRIMARY KEY, at TEXT, note TEXT);
	WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 4000)
	INSERT INTO reading SELECT i, hex(randomblob(i % 40)), CASE WHEN i % 50 = 0 THEN hex(zeroblob(i * 3)) ELSE 'quiet' END FROM n;
	CREATE INDEX reading_note ON reading (note, at);
	CREATE TABLE flag (code TEXT PRIMARY KEY, text TEXT) WITHOUT ROWID;
	INSERT INTO flag SELECT at || id, note FROM reading;
	CREATE TABLE gone (a); INSERT INTO gone SELECT note FROM reading; DELETE FROM gone WHERE rowid % 3 < 2;
	CREATE TABLE empty (a PRIMARY KEY);
	CREATE VIEW "long" AS SELECT '` + strings.Repeat("tide ", 2000) + `' AS text; `

// TestTreesAgainstEngine counts in the file and asks the engine, and expects
// the same of every tree; and where the file alone cannot tell, no answer.
func TestTreesAgainstEngine(t *testing.T) {
	for _, c := range []struct {
		name, before string
		damage       func([]byte)
		none         bool
	}{
		{name: "small pages", before: "PRAGMA page_size = 512;"},
		{name: "usual pages", before: "PRAGMA page_size = 4096;"},
		{name: "largest pages, vacuumed by itself", before: "PRAGMA page_size = 65536; PRAGMA auto_vacuum = FULL;"},
		{name: "write-ahead log", before: "PRAGMA journal_mode = WAL;", none: true},
		{name: "a ring of pages", before: "PRAGMA page_size = 512;", none: true, damage: func(file []byte) {
			for at := 512; at < len(file); at += 512 {
				if file[at] == innerTable { // its last child becomes itself
					copy(file[at+8:], []byte{0, 0, byte((at/512 + 1) >> 8), byte(at/512 + 1)})
				}
			}
		}},
		{name: "cells without end", before: "PRAGMA page_size = 512;", none: true, damage: func(file []byte) {
			for at := 512; at < len(file); at += 512 {
				file[at+3] = 0xff
			}
		}},
	} {
		t.Run(c.name, func(t *testing.T) {
			path := filepath.Join(t.TempDir(), "a.db")
			shell := exec.Command("sqlite3", "-bail", path)
			shell.Stdin = strings.NewReader(c.before + filled)
			if out, err := shell.CombinedOutput(); err != nil {
				t.Fatalf("%v: %s", err, out)
			}
			opened, err := Engine{}.Open(context.Background(), path, engine.Options{})
			if err != nil {
				t.Fatal(err)
			}
			defer opened.Close()
			s := opened.(*session)
			r := &reader{ctx: context.Background(), conn: s.conn}
			r.catalog = &catalog.Catalog{}
			f := newFigures()
			f.count(r.ask)
			r.askObjects(r.ask)
			if r.err != nil || len(r.stored) != 7 {
				t.Fatalf("%d objects: %v", len(r.stored), r.err)
			}
			if c.damage != nil {
				text, err := os.ReadFile(path)
				if err != nil {
					t.Fatal(err)
				}
				c.damage(text)
				if err := os.WriteFile(path, text, 0o644); err != nil {
					t.Fatal(err)
				}
			}
			var read []object
			files, err := openTrees(s.file)
			if err == nil {
				err = files.objects(func(o object) error { read = append(read, o); return nil })
			}
			if err == nil && !slices.Equal(read, r.stored) {
				t.Errorf("read\n%v\nthe engine\n%v", read, r.stored)
			} else if err != nil && !c.none {
				t.Error(err)
			}
			counted := walk(context.Background(), s.file, r.stored)
			delete(f.pages, "sqlite_schema")
			switch {
			case c.none && counted != nil:
				t.Errorf("counted %v", counted)
			case !c.none && !maps.Equal(counted, f.pages):
				t.Errorf("counted\n%v\nthe engine\n%v", counted, f.pages)
			}
		})
	}
}

// BenchmarkSurvey reads a thousand tables and some rows, counted in the file itself and
// by the engine: the way around the engine stays for as long as it halves the time.
func BenchmarkSurvey(b *testing.B) {
	path := filepath.Join(b.TempDir(), "a.db")
	var text strings.Builder
	text.WriteString("BEGIN;" + filled)
	for i := range 1000 {
		fmt.Fprintf(&text, "CREATE TABLE gauge_%d (gauge_id INTEGER PRIMARY KEY, code TEXT NOT NULL UNIQUE, station_id INTEGER REFERENCES reading (id), level REAL);", i)
	}
	shell := exec.Command("sqlite3", "-bail", path)
	shell.Stdin = strings.NewReader(text.String() + "COMMIT;")
	if out, err := shell.CombinedOutput(); err != nil {
		b.Fatalf("%v: %s", err, out)
	}
	none, err := os.Create(filepath.Join(b.TempDir(), "none"))
	if err != nil {
		b.Fatal(err)
	}
	for name, file := range map[string]*os.File{"file": nil, "engine": none} {
		b.Run(name, func(b *testing.B) {
			for b.Loop() {
				opened, err := Engine{}.Open(b.Context(), path, engine.Options{})
				if err != nil {
					b.Fatal(err)
				}
				s := opened.(*session)
				own := s.file
				if file != nil {
					s.file = file
				}
				if _, err := s.Survey(b.Context()); err != nil {
					b.Fatal(err)
				}
				s.file = own
				s.Close()
			}
		})
	}
}
