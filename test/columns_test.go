package test

import (
	"regexp"
	"slices"
	"strings"
	"testing"

	"nexdal/test/server"
)

// ledger is what a table of docs/catalog.md says becomes of the columns of an engine's own
// tables: by table, those that are read, and all.
func ledger(t *testing.T, heading string) (asked, all map[string][]string, whole []string) {
	t.Helper()
	_, rest, ok := strings.Cut(read(t, "../docs/catalog.md"), "\n"+heading+"\n")
	if !ok {
		t.Fatalf("docs/catalog.md has no %q", heading)
	}
	rest, _, _ = strings.Cut(rest, "\n### ")
	asked, all = map[string][]string{}, map[string][]string{}
	for _, m := range regexp.MustCompile("(?m)^\\| `(\\w+)` \\| ?(.*?) ?\\| ?(.*?) ?\\| ?(.*?) ?\\|$").FindAllStringSubmatch(rest, -1) {
		if m[2] == "read" {
			continue // the table's head
		}
		words := func(text string) []string { return regexp.MustCompile(`\w+`).FindAllString(text, -1) }
		asked[m[1]] = words(m[2])
		derived, _, _ := strings.Cut(m[3], ": by ")
		all[m[1]] = append(words(m[2]), words(derived)...)
		for _, part := range strings.Split(m[4], "; ") {
			columns, why, ok := strings.Cut(part, ": ")
			if part != "" && (!ok || why == "") {
				t.Errorf("%s: no reason is given for leaving out %q", m[1], part)
			}
			all[m[1]] = append(all[m[1]], words(columns)...)
		}
		sorted := slices.Sorted(slices.Values(all[m[1]]))
		if twice := slices.Compact(slices.Clone(sorted)); len(twice) != len(sorted) {
			t.Errorf("%s: a column is listed twice: %v", m[1], sorted)
		}
	}
	if _, names, ok := strings.Cut(rest, "Not of structure: "); ok {
		for _, m := range regexp.MustCompile("`(\\w+)`").FindAllStringSubmatch(names, -1) {
			whole = append(whole, m[1])
		}
	}
	return asked, all, whole
}

// TestSystemColumns holds docs/catalog.md to the servers: it knows every column of the tables
// that they keep their structure in, and those that it says are read the survey asks for.
func TestSystemColumns(t *testing.T) {
	t.Parallel()
	for engine, x := range map[string]struct{ heading, columns string }{
		"postgres": {"### PostgreSQL 12 to 18", `SELECT c.relname || ' ' || a.attname FROM pg_attribute a JOIN pg_class c ON c.oid = a.attrelid
			WHERE c.relnamespace = 'pg_catalog'::regnamespace AND c.relkind = 'r' AND a.attnum > 0 AND NOT a.attisdropped`},
		"mariadb": {"### MariaDB", `SELECT concat(table_name, ' ', column_name) FROM information_schema.columns WHERE table_schema = 'information_schema'`},
		"firebird": {"### Firebird 3", `SELECT REPLACE(REPLACE(REPLACE(TRIM(c.rdb$relation_name) || ' ' || TRIM(c.rdb$field_name), 'RDB$', ''), 'MON$', IIF(c.rdb$relation_name STARTING WITH 'MON$', 'MON_', '')), 'SEC$', 'SEC_')
			FROM rdb$relation_fields c JOIN rdb$relations r ON r.rdb$relation_name = c.rdb$relation_name WHERE r.rdb$system_flag = 1;`},
	} {
		t.Run(engine, func(t *testing.T) {
			t.Parallel()
			text := read(t, "testdata/everything."+engine+".sql")
			var p place
			switch engine {
			case "postgres":
				text = server.StartPostgres(t).Fit(text)
			case "firebird":
				f := server.StartFirebird(t)
				name := f.Database(t)
				p = place{source: f.URL(name), query: func(t testing.TB, sql string) string { return f.Query(t, name, sql) }}
			}
			if p.query == nil {
				p = places(t)[engine](t, t.TempDir())
			}
			p.query(t, text)
			named, all, whole := ledger(t, x.heading)
			there := map[string]bool{}
			for _, line := range strings.Split(strings.TrimSpace(p.query(t, x.columns)), "\n") {
				table, column, _ := strings.Cut(strings.TrimSpace(line), " ")
				if table == "" {
					continue
				}
				if before, _, ok := strings.Cut(table, "_"); ok && (before == "MON" || before == "SEC") {
					column = strings.TrimPrefix(column, before+"_")
				}
				there[table+" "+column] = true
				if !slices.Contains(all[table], column) && !slices.Contains(whole, table) {
					t.Errorf("%s.%s is not in docs/catalog.md", table, column)
				}
			}
			asked := strings.ToUpper(nexdal(t, t.TempDir(), "survey", p.source, "-o", "s.json", "--verbose").err)
			if engine == "postgres" && server.StartPostgres(t).Major() < 15 {
				return // versions ask for what they have
			}
			for table, columns := range named {
				for _, column := range columns {
					if there[table+" "+column] && !regexp.MustCompile(`\b`+strings.ToUpper(column)+`\b`).MatchString(asked) {
						t.Errorf("%s.%s is said to be read, and the survey does not ask for it", table, column)
					}
				}
			}
		})
	}
}
