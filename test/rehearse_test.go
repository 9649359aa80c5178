package test

import (
	"os"
	"path/filepath"
	"strings"
	"testing"
)

// TestRehearse: what a script leads to is told, and held to an empty twin, with rows
// and without; a script that somebody has bent is found out.
func TestRehearse(t *testing.T) {
	t.Parallel()
	for _, engine := range []string{"sqlite", "postgres"} {
		t.Run(engine, func(t *testing.T) {
			folder := t.TempDir()
			p := places(t)[engine](t, folder)
			p.query(t, unsound)
			before := structure(t, folder, p.source)
			must(t, folder, "script", "fix", p.source, "-o", "fix.sql")
			scratch := []string{"--scratch", p.source}
			out := must(t, folder, append([]string{"rehearse", "fix.sql"}, scratch...)...)
			match(t, "the rehearsal", out, `(?s)On the model\n  gone +\d+: .*key/none.*new +\d+.*On an empty twin.*steps done\n  what the engine reports is what the model says, and so is what the rules say of it\n  the way back, \d+ steps, leads to where it began`)
			out = must(t, folder, append([]string{"rehearse", "fix.sql", "--on", p.source, "--rows", "3"}, scratch...)...)
			match(t, "with rows", out, `(?s)6 rows of 4 tables carried over\n.*every table holds as many rows as before.*leads to where it began`)
			path := filepath.Join(folder, "fix.sql")
			whole := read(t, path)
			write(t, path, strings.Replace(whole, "-- End of script.", "", 1)) // and nothing else
			match(t, "cut off", nexdal(t, folder, append([]string{"rehearse", "fix.sql"}, scratch...)...).err, "its end is missing")
			extra := "CREATE INDEX stray ON keeper (name, id);\n"
			if engine == "postgres" {
				extra = "CREATE INDEX stray ON public.keeper (name, id);\n"
			}
			last := strings.LastIndex(whole, "\n-- Not scripted:")
			if last < 0 {
				last = strings.LastIndex(whole, "\n-- End of script.")
			}
			write(t, path, whole[:last]+extra+whole[last:])
			r := nexdal(t, folder, append([]string{"rehearse", "fix.sql"}, scratch...)...)
			if r.status != 1 {
				t.Errorf("bent: status %d: %s", r.status, r.err)
			}
			match(t, "bent", r.out, `(?s)what the engine reports is not what the model says:.*added    index +stray`)
			write(t, path, whole)
			p.query(t, "ALTER TABLE keeper ADD COLUMN remark text")
			match(t, "of another structure", nexdal(t, folder, append([]string{"rehearse", "fix.sql", "--on", p.source}, scratch...)...).out+"", `(?s)remark|On the model`)
			if err := os.Remove(filepath.Join(folder, "fix.before.json")); err != nil {
				t.Fatal(err)
			}
			match(t, "without its survey", nexdal(t, folder, append([]string{"rehearse", "fix.sql"}, scratch...)...).err, "the survey file that stood beside fix.sql is gone; name the source")
			p.query(t, "ALTER TABLE keeper DROP COLUMN remark")
			if after := structure(t, folder, p.source); engine == "sqlite" && after != before {
				t.Error("a rehearsal changed the database itself")
			}
		})
	}
	folder := t.TempDir()
	// Of rows without a parent each is refused, not the first alone.
	sqlite(t, filepath.Join(folder, "orphans.db"), `CREATE TABLE keeper (id INTEGER PRIMARY KEY); CREATE TABLE visit (id INTEGER PRIMARY KEY, keeper_id INTEGER REFERENCES keeper (id));
		INSERT INTO keeper VALUES (1); INSERT INTO visit VALUES (1, 1), (2, 8), (3, 9), (4, 1), (5, 7);`)
	must(t, folder, "script", "fix", "orphans.db", "-o", "orphans.sql")
	match(t, "orphans", must(t, folder, "rehearse", "orphans.sql", "--on", "orphans.db", "--rows", "9"), `3 rows of 2 tables carried over; 3 rows refused there`)
	for args, says := range map[string]string{
		"rehearse fix.sql --rows -1": "--rows takes a number",
		"rehearse fix.sql --rows 5":  "--rows needs the database that the rows come from",
	} {
		if r := nexdal(t, folder, strings.Fields(args)...); r.status != 2 || !strings.Contains(r.err, says) {
			t.Errorf("%s: %d %s", args, r.status, r.err)
		}
	}
}
