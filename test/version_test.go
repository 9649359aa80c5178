package test

import (
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"nexdal/test/server"
)

// TestVersion: a script that needs what the server is too old for is refused before its first
// step, with the reason, and is carried out where the server has it. Texts, names and comments
// need nothing.
func TestVersion(t *testing.T) {
	t.Parallel()
	p, folder := server.StartPostgres(t), t.TempDir()
	name, copied := p.Database(t), p.Database(t)
	p.Query(t, name, `CREATE TABLE gauge (gauge_id integer PRIMARY KEY, depth integer CONSTRAINT depth_low CHECK (depth > 0), note text DEFAULT 'NOT ENFORCED');
		COMMENT ON TABLE gauge IS 'WITHOUT OVERLAPS, PERIOD'; ALTER TABLE gauge ADD CONSTRAINT depth_high CHECK (depth < 9000) NOT VALID`)
	must(t, folder, "survey", p.URL(name), "-o", "plain.json")
	must(t, folder, "script", "create", "plain.json", "-o", "plain.sql")
	survey := read(t, filepath.Join(folder, "plain.json"))
	match(t, "what the version has", survey, map[bool]string{true: `"features": \[.*"NULLS NOT DISTINCT"`, false: `"features"|"schemas"`}[p.Major() >= 15])
	survey = regexp.MustCompile(`"version": "[^"]*"`).ReplaceAllString(survey, `"version": "18.4"`)
	survey = strings.Replace(survey, `"not_validated": true`, `"not_validated": true, "not_enforced": true`, 1)
	write(t, filepath.Join(folder, "newer.json"), survey)
	must(t, folder, "script", "create", "newer.json", "-o", "newer.sql")
	r := nexdal(t, folder, "run", "newer.sql", "--on", p.URL(copied), "--yes")
	if p.Major() < 18 {
		if r.status != 2 {
			t.Errorf("status %d: %s%s", r.status, r.out, r.err)
		}
		match(t, "the refusal", r.err, `newer\.sql needs what postgres \S+ on .* has not: NOT ENFORCED \(18\); write it again for this server`)
		if there := p.Query(t, copied, "SELECT count(*) FROM pg_class WHERE relname = 'gauge'"); there != "0" {
			t.Error("something of it was carried out")
		}
	} else if r.status != 0 {
		t.Errorf("%s%s", r.out, r.err)
	} else if enforced := p.Query(t, copied, "SELECT conenforced FROM pg_constraint WHERE conname = 'depth_high'"); enforced != "f" {
		t.Errorf("enforced: %s", enforced)
	}
	other := p.Database(t)
	match(t, "the plain one", must(t, folder, "run", "plain.sql", "--on", p.URL(other), "--yes"), "2 of 2|steps|done")
}
