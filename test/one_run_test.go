package test

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"nexdal/internal/engine"
	"nexdal/internal/engine/mariadb"
	"nexdal/internal/engine/postgres"
	enginesqlite "nexdal/internal/engine/sqlite"
	"nexdal/test/server"
)

// TestOneRunAtATime: while one run is at work on a database, another is refused, with who
// it is; a look at what it would do is not. The lock ends with its holder.
func TestOneRunAtATime(t *testing.T) {
	t.Parallel()
	for name, open := range map[string]func(t *testing.T) (engine.Opener, string){
		"sqlite": func(t *testing.T) (engine.Opener, string) {
			path := filepath.Join(t.TempDir(), "a.db")
			sqlite(t, path, faulty)
			return enginesqlite.Engine{}, path
		},
		"postgres": func(t *testing.T) (engine.Opener, string) {
			p := server.StartPostgres(t)
			db := p.Database(t)
			p.Query(t, db, faulty)
			return postgres.Engine{}, p.URL(db)
		},
		"mariadb": func(t *testing.T) (engine.Opener, string) {
			m := server.StartMariaDB(t)
			db := m.Database(t)
			m.Query(t, db, "CREATE TABLE visit (code bigint NOT NULL, cost bigint)")
			return mariadb.Engine{}, m.URL(db)
		},
	} {
		t.Run(name, func(t *testing.T) {
			t.Parallel()
			e, source := open(t)
			folder := t.TempDir()
			must(t, folder, "script", "fix", source, "-o", "fix.sql")
			s, err := e.Open(t.Context(), source, engine.Options{Write: true})
			if err != nil {
				t.Fatal(err)
			}
			defer s.Close()
			c, err := s.Survey(t.Context())
			if err != nil {
				t.Fatal(err)
			}
			schema := c.Schemas[0].Name
			if holder, err := s.(engine.Exclusive).Claim(t.Context(), []string{schema}); holder != "" || err != nil {
				t.Fatalf("held by %q, %v", holder, err)
			}
			r := nexdal(t, folder, "run", "fix.sql", "--on", source, "--yes")
			if r.status != 1 || !strings.Contains(r.err, "another run is at work on") || !strings.Contains(r.err, "nothing was done") || strings.Contains(r.err, "somebody else") {
				t.Errorf("status %d: %s%s", r.status, r.out, r.err)
			}
			if strings.Contains(files(t, folder), "journal") {
				t.Error("the refused run has a journal")
			}
			must(t, folder, "run", "fix.sql", "--on", source, "--dry-run")
			s.Close()
			must(t, folder, "run", "fix.sql", "--on", source, "--yes")
			if name == "sqlite" {
				if left, _ := filepath.Glob(source + "-*"); len(left) > 0 {
					t.Errorf("left beside the database: %v", left)
				}
				// What a killed run left behind keeps nobody away.
				if err := os.WriteFile(source+"-nexdal-run", []byte("process 1\n"), 0o644); err != nil {
					t.Fatal(err)
				}
			}
			must(t, folder, "run", "fix.reversal.sql", "--on", source, "--yes")
		})
	}
}

// TestClaimsGivenBack: who closes a session has given its claim back: the next run, a moment later, is
// not refused.
func TestClaimsGivenBack(t *testing.T) {
	p, m := server.StartPostgres(t), server.StartMariaDB(t)
	db, maria := p.Database(t), m.Database(t)
	for name, at := range map[string]struct {
		e      engine.Opener
		source string
	}{"postgres": {postgres.Engine{}, p.URL(db)}, "mariadb": {mariadb.Engine{}, m.URL(maria)}} {
		for i := range 100 {
			s, err := at.e.Open(t.Context(), at.source, engine.Options{Write: true})
			if err != nil {
				t.Fatal(err)
			}
			holder, err := s.(engine.Exclusive).Claim(t.Context(), []string{maria})
			if s.Close(); holder != "" || err != nil {
				t.Errorf("%s, at %d: held by %q, %v", name, i, holder, err)
				break
			}
		}
	}
}
