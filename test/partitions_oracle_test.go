package test

import (
	"path/filepath"
	"strings"
	"testing"
)

// TestPartitionsOracle: from captures a plain table that refers to another and is referred to is
// partitioned, gets parts ahead, and rows beyond the last range get parts of their own.
func TestPartitionsOracle(t *testing.T) {
	t.Parallel()
	folder := t.TempDir()
	d := dictionary(t, `CREATE TABLE gauge (id NUMBER(10) CONSTRAINT gauge_pk PRIMARY KEY);
CREATE TABLE reading (id NUMBER(10) NOT NULL, taken_at DATE NOT NULL, gauge_id NUMBER(10) CONSTRAINT reading_gauge REFERENCES gauge (id), mm NUMBER(9), CONSTRAINT reading_pk PRIMARY KEY (id, taken_at));
CREATE INDEX reading_gauge_idx ON reading (gauge_id);
CREATE TABLE flag (id NUMBER(10), taken_at DATE, CONSTRAINT flag_reading FOREIGN KEY (id, taken_at) REFERENCES reading (id, taken_at) ON DELETE CASCADE);
INSERT INTO gauge VALUES (1);
INSERT INTO reading VALUES (1, DATE '2026-01-05', 1, 10);
INSERT INTO reading VALUES (2, DATE '2026-02-05', 1, 20);
INSERT INTO reading VALUES (3, DATE '2026-04-05', NULL, 30);
INSERT INTO flag VALUES (2, DATE '2026-02-05');`)
	capture := func() { captured(t, d.As("SYSTEM", true), filepath.Join(folder, "result.txt")) }
	rows := func(query string) string {
		t.Helper()
		_, all, err := d.Paper().Rows(t.Context(), query, 100)
		if err != nil {
			t.Fatalf("%s: %v", query, err)
		}
		var values []string
		for _, row := range all {
			values = append(values, strings.Join(row.Texts(), "|"))
		}
		return strings.Join(values, " ")
	}
	capture()
	held := rows("SELECT COUNT(*), SUM(id), SUM(mm) FROM saltmere.reading")
	r := nexdal(t, folder, "script", "partitions", "result.txt", "READING", "--by", "TAKEN_AT", "--every", "month", "--first-ends", "2026-02-01", "--until", "2026-04-01", "--rest", "-o", "cut.sql")
	if r.status != 0 {
		t.Fatal(r.err)
	}
	text := read(t, filepath.Join(folder, "cut.sql"))
	match(t, "the script", text, `MODIFY PARTITION BY RANGE \(TAKEN_AT\)`)
	if strings.Contains(text, "DROP CONSTRAINT") {
		t.Error("a reference has to go, though partitioned tables have them")
	}
	runPlus(t, d, filepath.Join(folder, "cut.sql"))
	capture()
	match(t, "the table", must(t, folder, "describe", "result.txt", "READING"), `(?s)UNTIL_2026_02.*2026_02.*2026_03.*REST`)
	if got := rows("SELECT COUNT(*), SUM(id), SUM(mm) FROM saltmere.reading"); got != held {
		t.Errorf("%s, and before %s", got, held)
	}
	for sql, says := range map[string]string{
		"INSERT INTO reading VALUES (4, DATE '2026-03-01', 9, 1)":       "2291",
		"INSERT INTO reading VALUES (1, DATE '2026-01-05', 1, 1)":       "1",
		"INSERT INTO flag VALUES (9, DATE '2026-02-05')":                "2291",
		"INSERT INTO reading VALUES (1000, DATE '2026-07-09', NULL, 5)": "",
	} {
		err := d.As("SALTMERE", true).Exec(t.Context(), sql)
		if (err == nil) != (says == "") {
			t.Errorf("%s: %v", sql, err)
		} else if err != nil {
			match(t, sql, err.Error(), says)
		}
	}
	capture()
	cut := shown(t, d)
	must(t, folder, "script", "partitions", "result.txt", "READING", "--until", "2026-08-01", "-o", "ahead.sql")
	match(t, "the script", read(t, filepath.Join(folder, "ahead.sql")), `SPLIT PARTITION .*REST AT \(.*2026-05-01`)
	runPlus(t, d, filepath.Join(folder, "ahead.sql"))
	if got := rows("SELECT COUNT(*), SUM(id), SUM(mm) FROM saltmere.reading"); got != "4|1006|65" {
		t.Errorf("rows: %s", got)
	}
	runPlus(t, d, filepath.Join(folder, "ahead.reversal.sql"))
	if now := shown(t, d); now != cut {
		t.Errorf("the parts are others than before:\n%s", changedLines(cut, now))
	}
	// A key that others refer to, and that does not hold the column, stays what it is.
	other := dictionary(t, `CREATE TABLE reading (id NUMBER(10) CONSTRAINT reading_pk PRIMARY KEY, taken_at DATE NOT NULL);
CREATE TABLE flag (id NUMBER(10) CONSTRAINT flag_reading REFERENCES reading (id));`)
	captured(t, other.As("SYSTEM", true), filepath.Join(folder, "other.txt"))
	match(t, "a key that others refer to", nexdal(t, folder, "script", "partitions", "other.txt", "READING", "--by", "TAKEN_AT", "--every", "month", "--ahead", "2", "-o", "x.sql").err, "foreign key FLAG_READING of SALTMERE.FLAG refers to the primary key, which would have to hold TAKEN_AT")
}
