package test

import (
	"fmt"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"

	"nexdal/internal/engine/all"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/standin/sqlserver"
	"nexdal/test/server"
)

// databases of one engine, as the round trip needs them.
type databases interface {
	// make builds an empty one and gives its source.
	make(t *testing.T) (name, source string)
	// load runs a script by the engine's own client.
	load(t *testing.T, name, path string)
	// witness is what the engine's own tools say of the structure.
	witness(t *testing.T, name string) string
}

type postgresDatabases struct{ *server.Postgres }

func (p postgresDatabases) make(t *testing.T) (string, string) {
	name := p.Database(t)
	return name, p.URL(name)
}

func (p postgresDatabases) load(t *testing.T, name, path string) {
	if why := needsNewer(read(t, path), p.Postgres); why != "" {
		t.Skip(why)
	}
	if text := read(t, path); p.Fit(text) != text {
		path = filepath.Join(t.TempDir(), "fit.sql")
		write(t, path, p.Fit(text))
	}
	if out, err := p.File(name, path); err != nil || strings.Contains(out, "ERROR") {
		t.Fatalf("psql: %v: %s\n%s", err, out, read(t, path))
	}
}

func (p postgresDatabases) witness(t *testing.T, name string) string {
	return regexp.MustCompile(`(?m)^(\\(un)?restrict.*|--\n-- PostgreSQL database dump complete\n--)$`).ReplaceAllString(p.Dump(t, name, "--schema-only", "--no-owner", "--no-privileges"), "")
}

type mariaDatabases struct{ *server.MariaDB }

func (m mariaDatabases) make(t *testing.T) (string, string) {
	name := m.Database(t)
	return name, m.URL(name)
}

func (m mariaDatabases) load(t *testing.T, name, path string) {
	if out, err := m.File(name, path); err != nil {
		t.Fatalf("mariadb: %v: %s\n%s", err, out, read(t, path))
	}
}

var (
	counter  = regexp.MustCompile(` AUTO_INCREMENT=\d+`)
	definers = regexp.MustCompile("(?i)DEFINER=(`[^`]*`|[^@ ]*)@(`[^`]*`|[^ *]*)") // of whoever makes it
	drawn    = regexp.MustCompile(`(?m)^DO SETVAL\(.*\n`)
	declared = regexp.MustCompile(`(?m)^.*(CREATE DEFINER=|/\*!50003 CREATE).*$`)
)

// witness leaves out what is no structure: counters, the own name, and how the
// heads of triggers and routines were typed.
func (m mariaDatabases) witness(t *testing.T, name string) string {
	out := m.Dump(t, name)
	out = definers.ReplaceAllString(out, "")
	out = strings.ReplaceAll(drawn.ReplaceAllString(counter.ReplaceAllString(out, ""), ""), "`"+name+"`.", "")
	out = declared.ReplaceAllStringFunc(out, func(s string) string {
		return strings.ToLower(strings.NewReplacer("`", "", "(20)", "", "(11)", "").Replace(s))
	})
	return out
}

type sqlServerDatabases struct{ *server.SQLServer }

func (s sqlServerDatabases) make(t *testing.T) (string, string) {
	name := s.Database(t)
	return name, s.URL(name)
}

func (s sqlServerDatabases) load(t *testing.T, name, path string) {
	if out, err := s.File(name, path); err != nil {
		t.Fatalf("%v: %s\n%s", err, out, read(t, path))
	}
}

func (s sqlServerDatabases) witness(t *testing.T, name string) string { return s.Dump(t, name) }

type firebirdDatabases struct{ *server.Firebird }

func (f firebirdDatabases) make(t *testing.T) (string, string) {
	name := f.Database(t)
	return name, f.URL(name)
}

func (f firebirdDatabases) load(t *testing.T, name, path string) {
	if out, err := f.File(name, path); err != nil {
		t.Fatalf("isql-fb: %v: %s\n%s", err, out, read(t, path))
	}
}

func (f firebirdDatabases) witness(t *testing.T, name string) string { return f.Dump(t, name) }

type sqliteDatabases struct{}

func (s *sqliteDatabases) make(t *testing.T) (string, string) {
	path := filepath.Join(t.TempDir(), "a.db")
	sqlite(t, path, "VACUUM")
	return path, path
}

func (s *sqliteDatabases) load(t *testing.T, path, script string) {
	sqlite(t, path, read(t, script))
}

func (s *sqliteDatabases) witness(t *testing.T, path string) string {
	return sqlite(t, path, `SELECT m.type, m.name, m.tbl_name, x.* FROM sqlite_schema m LEFT JOIN pragma_table_xinfo(m.name) x WHERE m.type <> 'index' AND m.name NOT LIKE 'sqlite\_stat%' ESCAPE '\' ORDER BY 1, 2, 3, 4;
		SELECT m.name, x.* FROM sqlite_schema m JOIN pragma_foreign_key_list(m.name) x ORDER BY 1, 2, 3;
		SELECT m.name, x.name, x."unique", x.origin, x.partial, y.* FROM sqlite_schema m JOIN pragma_index_list(m.name) x JOIN pragma_index_xinfo(x.name) y ORDER BY 1, 2, 3, 4, 5, 6;
		SELECT name, sql FROM sqlite_schema WHERE type <> 'table' ORDER BY 1; PRAGMA user_version; PRAGMA encoding;`)
}

// TestRoundTrip builds a structure, surveys it, writes the script that creates
// it, loads that into an empty database by the engine's own client and by the
// program, and expects the same: by our survey, by compare, by the engine's own
// tools.
func TestRoundTrip(t *testing.T) {
	t.Parallel()
	engines := map[string]func(t *testing.T) databases{
		"postgres": func(t *testing.T) databases { return postgresDatabases{server.StartPostgres(t)} },
		"mariadb":  func(t *testing.T) databases { return mariaDatabases{server.StartMariaDB(t)} },
		"sqlite":   func(*testing.T) databases { return &sqliteDatabases{} },
		"firebird": func(t *testing.T) databases { return firebirdDatabases{server.StartFirebird(t)} },
		"sqlserver": func(t *testing.T) databases {
			return sqlServerDatabases{server.StartSQLServer(t, sqlserver.Standard)}
		},
	}
	scripts := map[string][]string{
		"postgres":  {"testdata/everything.postgres.sql", "testdata/everything.postgres.18.sql", "../demo/postgres.sql"},
		"mariadb":   {"testdata/everything.mariadb.sql"},
		"sqlite":    {"../internal/engine/sqlite/testdata/odd.sql", "../demo/sqlite.sql"},
		"firebird":  {"testdata/everything.firebird.sql", "testdata/rights.firebird.sql"},
		"sqlserver": {"testdata/everything.sqlserver.sql"},
	}
	for _, engine := range []string{"postgres", "mariadb", "sqlite"} {
		nasty, err := filepath.Glob("testdata/nasty/*." + engine + ".sql")
		if err != nil || len(nasty) == 0 {
			t.Fatalf("no nasty ones of %s: %v", engine, err)
		}
		scripts[engine] = append(scripts[engine], nasty...)
	}
	for seed := range uint64(6) {
		for _, engine := range []string{"postgres", "sqlite"} {
			path := filepath.Join(t.TempDir(), fmt.Sprintf("random-%d.%s.sql", seed, engine))
			write(t, path, withoutRows(randomSchema(1000+seed, engine), all.ByName(engine).Dialect()))
			scripts[engine] = append(scripts[engine], path)
		}
	}
	for engine, start := range engines {
		for _, path := range scripts[engine] {
			t.Run(engine+"/"+strings.TrimSuffix(filepath.Base(path), ".sql"), func(t *testing.T) {
				t.Parallel()
				d, folder := start(t), t.TempDir()
				name, source := d.make(t)
				d.load(t, name, absolute(t, path))
				must(t, folder, "script", "create", source, "-o", "create.sql")
				must(t, folder, "survey", source, "-o", "survey.json")
				if again := must(t, folder, "script", "create", "survey.json"); withoutRunLines(again) != withoutRunLines(read(t, filepath.Join(folder, "create.sql"))) {
					t.Error("from the survey file the script is another")
				}
				before := anonymous(structure(t, folder, source), name)
				if stored := anonymous(structure(t, folder, "survey.json"), name); stored != before {
					t.Errorf("read back from its file, the survey is another:\n%s", firstDifference(before, stored))
				}
				want := d.witness(t, name)
				for _, way := range []string{"client", "program"} {
					copied, second := d.make(t)
					if way == "client" {
						d.load(t, copied, filepath.Join(folder, "create.sql"))
					} else {
						must(t, folder, "run", "create.sql", "--on", second, "--yes")
					}
					// Nasty ones have owners and grants, which a structure is made without.
					if after := anonymous(structure(t, folder, second), copied); after != before && !strings.Contains(path, "nasty") && engine != "firebird" { // whose numbers order what has no name
						t.Errorf("%s: the survey differs:\n%s", way, firstDifference(before, after))
					}
					if r := nexdal(t, folder, "compare", "survey.json", second, "--ignore", "name"); r.status != 0 {
						t.Errorf("%s: compare: %s%s", way, r.out, r.err)
					}
					script := read(t, filepath.Join(folder, "create.sql"))
					if got, want := saidLost(script, d.witness(t, copied)), saidLost(script, want); got != want {
						t.Errorf("%s: the engine's own tools differ:\n%s", way, firstDifference(want, got))
					}
				}
			})
		}
	}
}

var nameText = regexp.MustCompile(`,\s*"name_text": "(?:[^"\\]|\\.)*"`)

// anonymous takes the database's own name out of a survey, and how the text of a table
// writes its name: a script writes it in its own way.
func anonymous(survey, name string) string {
	name = filepath.Base(name)
	return strings.NewReplacer(`"`+name+`"`, `"x"`, name+".", "x.").Replace(nameText.ReplaceAllString(survey, ""))
}

var (
	sections = regexp.MustCompile(`(?m)^--\n-- Name: (.*); Type: (.*); Schema: .*\n--\n`)
	saidOf   = regexp.MustCompile(`(?m)^--   (publication|user mapping) (?:of )?([^\s:]+)`)
	saidIn   = regexp.MustCompile(`(?m)^--   (?:period|option|column) \S+ \S+\.(\S+): it was not read`)
)

// saidLost is what a dump says without the objects, or of MariaDB the tables, of which a script
// says that they were not read, or not all of them.
func saidLost(script, dump string) string {
	for _, m := range saidIn.FindAllStringSubmatch(script, -1) {
		dump = regexp.MustCompile("(?s)CREATE TABLE `"+m[1]+"` \\(.*?;\n").ReplaceAllString(dump, "")
	}
	lost := saidOf.FindAllStringSubmatch(script, -1)
	at := sections.FindAllStringSubmatchIndex(dump, -1)
	if len(lost) == 0 {
		return dump
	}
	kept := dump[:at[0][0]]
	for i, m := range at {
		end := len(dump)
		if i+1 < len(at) {
			end = at[i+1][0]
		}
		name, kind := dump[m[2]:m[3]], strings.ToLower(dump[m[4]:m[5]])
		if !slices.ContainsFunc(lost, func(l []string) bool {
			return strings.HasPrefix(kind, l[1]) && slices.Contains(strings.Fields(name), l[2])
		}) {
			kept += dump[m[0]:end]
		}
	}
	return strings.TrimSpace(kept) // behind the last there may be blank lines
}

func withoutRunLines(script string) string {
	return regexp.MustCompile(`(?m)^-- (surveyed:|Run it with:|or with:).*$`).ReplaceAllString(script, "")
}

// withoutRows leaves rows out of a random schema: some are meant to fail.
func withoutRows(script string, d sqllex.Dialect) string {
	kept := ""
	for _, st := range d.Statements(script) {
		if !strings.HasPrefix(st.Text, "INSERT") {
			kept += st.Text + ";\n"
		}
	}
	return kept
}

func absolute(t *testing.T, path string) string {
	t.Helper()
	full, err := filepath.Abs(path)
	if err != nil {
		t.Fatal(err)
	}
	return full
}

// firstDifference shows the lines around the first that differs.
func firstDifference(a, b string) string {
	x, y := strings.Split(a, "\n"), strings.Split(b, "\n")
	for i := range min(len(x), len(y)) {
		if x[i] != y[i] {
			return fmt.Sprintf("line %d:\n- %s\n+ %s", i+1, strings.Join(x[max(0, i-2):min(len(x), i+3)], "\n  "), strings.Join(y[max(0, i-2):min(len(y), i+3)], "\n  "))
		}
	}
	return fmt.Sprintf("%d and %d lines", len(x), len(y))
}
