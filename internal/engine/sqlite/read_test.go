package sqlite

import (
	"bytes"
	"context"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
)

// TestTextAgainstPragmas reads many databases from their text and by the
// pragma functions, which are the engine's own word, and expects the same.
func TestTextAgainstPragmas(t *testing.T) {
	scripts, err := filepath.Glob("../../rule/*/testdata/*/*.sql")
	if err != nil || len(scripts) < 10 {
		t.Fatalf("%d scripts: %v", len(scripts), err)
	}
	scripts = append(scripts, "../../../demo/sqlite.sql", "testdata/odd.sql")
	for _, path := range scripts {
		if !strings.Contains(path, "sqlite") && filepath.Dir(path) != "testdata" || strings.HasPrefix(filepath.Base(path), "fixed.") {
			continue
		}
		t.Run(filepath.Base(filepath.Dir(path))+"/"+filepath.Base(path), func(t *testing.T) {
			text, err := os.ReadFile(path)
			if err != nil {
				t.Fatal(err)
			}
			db := filepath.Join(t.TempDir(), "a.db")
			shell := exec.Command("sqlite3", "-bail", db)
			shell.Stdin = bytes.NewReader(text)
			if out, err := shell.CombinedOutput(); err != nil {
				t.Fatalf("%v: %s", err, out)
			}
			opened, err := Engine{}.Open(context.Background(), db, engine.Options{})
			if err != nil {
				t.Fatal(err)
			}
			defer opened.Close()
			s := opened.(*session)
			var made [2]string
			for i, pragmas := range []bool{false, true} {
				c, err := s.read(context.Background(), pragmas)
				if err != nil {
					t.Fatal(err)
				}
				made[i] = surveyText(t, c)
				for _, g := range c.Gaps {
					if strings.Contains(g.Reason, "understood") {
						t.Errorf("gap: %v", g)
					}
				}
			}
			if made[0] != made[1] {
				a, b := strings.Split(made[0], "\n"), strings.Split(made[1], "\n")
				for i := range min(len(a), len(b)) {
					if a[i] != b[i] {
						t.Fatalf("line %d:\n text:    %s\n pragmas: %s", i+1, a[i], b[i])
					}
				}
				t.Fatal("one is longer")
			}
		})
	}
}

func surveyText(t *testing.T, c *catalog.Catalog) string {
	t.Helper()
	var b bytes.Buffer
	if err := c.Write(&b, true); err != nil {
		t.Fatal(err)
	}
	lines := strings.Split(b.String(), "\n")
	return strings.Join(append(lines[:3], lines[4:]...), "\n") // without the date
}
