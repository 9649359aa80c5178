package test

import (
	"path/filepath"
	"regexp"
	"strings"
	"testing"
)

// heldLocks are the strong locks on tables that the transaction holds by now, on those that
// were there before.
const heldLocks = `SELECT 'held ' || l.mode || ' ' || string_agg(c.relname, ' ' ORDER BY c.relname) FROM pg_locks l JOIN pg_class c ON c.oid = l.relation JOIN there t ON t.oid = c.oid
	WHERE l.pid = pg_backend_pid() AND l.mode IN ('AccessExclusiveLock', 'ShareRowExclusiveLock', 'ExclusiveLock', 'ShareLock') GROUP BY l.mode;`

// TestLocks: no step takes a stronger lock than it says, nor on more tables: the engine's own
// list of locks is the witness.
func TestLocks(t *testing.T) {
	t.Parallel()
	for _, name := range []string{"rights", "leaning", "odd"} {
		t.Run(name, func(t *testing.T) {
			t.Parallel()
			text := read(t, filepath.Join("testdata", "nasty", name+".postgres.sql"))
			w, folder := nastyPostgres(t, text).(ofPostgres), t.TempDir()
			must(t, folder, "probe", w.source(), "-o", "evidence.json")
			must(t, folder, "script", "fix", w.source(), "--evidence", "evidence.json", "-o", "fix.sql", "--proposals")
			for _, script := range []string{"fix.sql", "fix.reversal.sql"} {
				witnessLocks(t, w, read(t, filepath.Join(folder, script)), folder)
			}
		})
	}
}

func witnessLocks(t *testing.T, w ofPostgres, script, folder string) {
	t.Helper()
	body, _, _ := strings.Cut(script, "\n-- Not scripted:")
	for _, step := range regexp.MustCompile(`(?m)^-- Step `).Split(body, -1)[1:] {
		lock := regexp.MustCompile(`(?s)--   locks: +(.*?)\n--   transaction`).FindStringSubmatch(step)[1]
		lock = strings.Join(strings.Fields(strings.ReplaceAll(lock, "\n--", " ")), " ")
		title, sql, _ := strings.Cut(step, "\n")
		sql = regexp.MustCompile(`(?m)^--.*\n`).ReplaceAllString(sql+"\n", "")
		var run strings.Builder
		run.WriteString("\\set ON_ERROR_STOP on\nSET search_path = pg_catalog; CREATE TEMP TABLE there AS SELECT oid FROM pg_class WHERE relkind IN ('r', 'p');\n")
		switch {
		case strings.Contains(sql, "CONCURRENTLY"): // in no transaction
			run.WriteString(sql)
		case strings.Contains(sql, "BEGIN;\n"):
			run.WriteString(strings.Replace(sql, "\nCOMMIT;", "\n"+strings.ReplaceAll(heldLocks, "there t", "pg_temp.there t")+"\nCOMMIT;", 1))
		default: // each statement by itself
			for _, one := range statementsOf(sql) {
				run.WriteString("BEGIN;\n" + one + "\n" + heldLocks + "\nCOMMIT;\n")
			}
		}
		path := filepath.Join(folder, "step.sql")
		write(t, path, strings.ReplaceAll(run.String(), "JOIN there t", "JOIN pg_temp.there t"))
		out, err := w.p.File(w.name, path)
		if err != nil {
			t.Fatalf("%s: %v: %s", title, err, out)
		}
		for _, m := range regexp.MustCompile(`held (\w+) (.*)`).FindAllStringSubmatch(out, -1) {
			said := map[string]string{"AccessExclusiveLock": "ACCESS EXCLUSIVE", "ShareRowExclusiveLock": "(ACCESS|SHARE ROW) EXCLUSIVE", "ExclusiveLock": "EXCLUSIVE", "ShareLock": "SHARE|EXCLUSIVE"}[m[1]]
			if !regexp.MustCompile(said).MatchString(lock) {
				t.Errorf("%s takes %s on %s, and says: %s", title, m[1], m[2], lock)
			}
			if strings.Contains(m[2], " ") && !regexp.MustCompile(`tables|those|tied|partitions|whole`).MatchString(lock) {
				t.Errorf("%s takes %s on %s, and says of one table alone: %s", title, m[1], m[2], lock)
			}
		}
	}
}

// statementsOf cuts at the semicolons that end lines, DO blocks left whole.
func statementsOf(sql string) []string {
	var all []string
	open, part := false, ""
	for line := range strings.Lines(sql) {
		open = open != (strings.Count(line, "$nexdal$")%2 == 1)
		if part += line; !open && strings.HasSuffix(strings.TrimSpace(line), ";") {
			all, part = append(all, part), ""
		}
	}
	return all
}
