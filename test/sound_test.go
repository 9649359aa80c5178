package test

import (
	"path/filepath"
	"testing"

	"nexdal/test/server"
)

// TestSound: in a structure that is sound no error and no warning is found, with
// the data asked and without.
func TestSound(t *testing.T) {
	t.Parallel()
	for engine, open := range map[string]func(*testing.T) (source string, run func(string)){
		"sqlite": func(t *testing.T) (string, func(string)) {
			_, db := build(t, read(t, "testdata/sound.sqlite.sql"))
			return db, nil
		},
		"postgres": func(t *testing.T) (string, func(string)) {
			p := server.StartPostgres(t)
			name := p.Database(t)
			return p.URL(name), func(sql string) { p.Query(t, name, sql) }
		},
		"mariadb": func(t *testing.T) (string, func(string)) {
			m := server.StartMariaDB(t)
			name := m.Database(t)
			return m.URL(name), func(sql string) { m.Query(t, name, sql) }
		},
		"firebird": func(t *testing.T) (string, func(string)) {
			f := server.StartFirebird(t)
			name := f.Database(t)
			return f.URL(name), func(sql string) { f.Query(t, name, sql) }
		},
	} {
		t.Run(engine, func(t *testing.T) {
			source, run := open(t)
			if run != nil {
				run(read(t, "testdata/sound."+engine+".sql"))
			}
			evidence := filepath.Join(t.TempDir(), "e.json")
			must(t, "/", "probe", source, "-o", evidence)
			for _, args := range [][]string{nil, {"--evidence", evidence}} {
				for _, f := range findings(t, source, args...) {
					if f.Severity != "notice" {
						t.Errorf("%s %s %s %s: %s", f.Severity, f.Rule, f.Table, f.Object, f.Message)
					}
				}
			}
		})
	}
}
