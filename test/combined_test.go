package test

import (
	"path/filepath"
	"strings"
	"testing"
)

// berths are told apart by two columns, half of the pairs that there could be; voyages name
// them once as they are and once in a role.
const berths = `
CREATE TABLE berth (berth_harbour INTEGER NOT NULL, berth_no INTEGER NOT NULL, PRIMARY KEY (berth_harbour, berth_no));
CREATE TABLE voyage (voyage_id INTEGER PRIMARY KEY, berth_harbour INTEGER, berth_no INTEGER,
  former_berth_harbour INTEGER, former_berth_no INTEGER);
WITH RECURSIVE n (i) AS (SELECT 0 UNION ALL SELECT i + 1 FROM n WHERE i < 119)
INSERT INTO berth SELECT i % 20 + 1, i / 20 % 6 + 1 + i % 20 % 7 FROM n;
WITH RECURSIVE n (i) AS (SELECT 0 UNION ALL SELECT i + 1 FROM n WHERE i < 239)
INSERT INTO voyage SELECT i + 5000, i % 20 + 1, i / 20 % 6 + 1 + i % 20 % 7,
  CASE WHEN i % 3 > 0 THEN i % 20 + 1 END, CASE WHEN i % 3 > 0 THEN i / 20 % 6 + 1 + i % 20 % 7 END FROM n;
`

// TestCombined: references by several columns are found, told in plain words, declared and from
// then on kept by the engine.
func TestCombined(t *testing.T) {
	t.Parallel()
	folder := t.TempDir()
	db := filepath.Join(folder, "a.db")
	sqlite(t, db, berths)
	must(t, folder, "probe", "a.db", "-o", "e.json")
	out := must(t, folder, "check", "a.db", "--evidence", "e.json", "--rule", "fk/*", "--fail-on", "never", "--format", "lines")
	match(t, "as it is", out, `"berth_harbour" and "berth_no" refer to "berth" \(berth_harbour, berth_no\) in all of 240 rows, and no foreign key says so`)
	match(t, "in a role", out, `"former_berth_harbour" and "former_berth_no" refer to "berth" \(berth_harbour, berth_no\) in all of 160 rows, and no foreign key says so`)
	if n := strings.Count(out, "fk/missing"); n != 2 {
		t.Errorf("%d missing foreign keys:\n%s", n, out)
	}
	must(t, folder, "script", "fix", "a.db", "--evidence", "e.json", "--rule", "fk/missing", "--proposals", "-o", "fix.sql")
	must(t, folder, "run", "fix.sql", "--on", "a.db", "--yes")
	const keys = `SELECT group_concat("from" || '>' || "to") FROM pragma_foreign_key_list('voyage') GROUP BY id ORDER BY 1;`
	want := "berth_harbour>berth_harbour,berth_no>berth_no\nformer_berth_harbour>berth_harbour,former_berth_no>berth_no"
	if got := sqlite(t, db, keys); got != want {
		t.Errorf("the engine keeps %q, want %q", got, want)
	}
	if got := sqlite(t, db, "SELECT count(*), count(former_berth_no) FROM voyage; PRAGMA foreign_key_check;"); got != "240|160" {
		t.Errorf("rows after the fix: %q", got)
	}
}
