package test

import (
	"path/filepath"
	"regexp"
	"strings"
	"testing"
)

// TestCollations: a reference whose column has another collation than the key is found by the data, and its
// rows without a parent are listed and put aside by what the repair says.
func TestCollations(t *testing.T) {
	t.Parallel()
	for name, x := range map[string]struct {
		build func(*testing.T, string) witness
		text  string
	}{
		"postgres": {nastyPostgres, `CREATE COLLATION "Saltmere's" (provider = icu, locale = 'de-AT');
			CREATE TABLE station (code text COLLATE "Saltmere's" PRIMARY KEY, name text COLLATE "C" NOT NULL UNIQUE);
			CREATE TABLE gauge (id bigint PRIMARY KEY, station_code text COLLATE "POSIX" NOT NULL, station_name text);
			CREATE TABLE visit (id bigint PRIMARY KEY, station_code text NOT NULL);
			INSERT INTO station SELECT 'ST' || i, 'Station ' || i FROM generate_series(1, 300) i;
			INSERT INTO gauge SELECT i, 'ST' || (i % 300 + 1), 'Station ' || (i % 300 + 1) FROM generate_series(1, 500) i;
			INSERT INTO visit SELECT i, 'ST' || (i % 300 + 1) FROM generate_series(1, 500) i;
			INSERT INTO visit VALUES (900, 'XX1');
			ALTER TABLE visit ADD CONSTRAINT visit_station FOREIGN KEY (station_code) REFERENCES station NOT VALID;
			ANALYZE;`},
		"mariadb": {nastyMariaDB, `CREATE TABLE station (code varchar(20) CHARACTER SET utf8mb4 COLLATE utf8mb4_general_ci NOT NULL PRIMARY KEY, name varchar(40) CHARACTER SET latin1 NOT NULL UNIQUE);
			CREATE TABLE gauge (id int PRIMARY KEY, station_code varchar(20) CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci NOT NULL, station_name varchar(40) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin);
			CREATE TABLE visit (id int PRIMARY KEY, station_code varchar(20) CHARACTER SET utf8mb4 COLLATE utf8mb4_general_ci NOT NULL);
			INSERT INTO station SELECT concat('ST', seq), concat('Station ', seq) FROM seq_1_to_300;
			INSERT INTO gauge SELECT seq, concat('ST', seq % 300 + 1), concat('Station ', seq % 300 + 1) FROM seq_1_to_500;
			INSERT INTO visit SELECT seq, concat('ST', seq % 300 + 1) FROM seq_1_to_500;
			INSERT INTO visit VALUES (900, 'XX1');`},
		"sqlite": {nastySQLite, `CREATE TABLE station (code TEXT COLLATE NOCASE NOT NULL PRIMARY KEY, name TEXT NOT NULL UNIQUE);
			CREATE TABLE gauge (id INTEGER PRIMARY KEY, station_code TEXT NOT NULL, station_name TEXT COLLATE RTRIM);
			CREATE TABLE visit (id INTEGER PRIMARY KEY, station_code TEXT NOT NULL);
			WITH RECURSIVE n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 300) INSERT INTO station SELECT 'ST' || i, 'Station ' || i FROM n;
			WITH RECURSIVE n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 500) INSERT INTO gauge SELECT i, 'st' || (i % 300 + 1), 'Station ' || (i % 300 + 1) FROM n;
			INSERT INTO visit SELECT id, upper(station_code) FROM gauge;
			INSERT INTO visit VALUES (900, 'XX1');`},
		"firebird": {nastyFirebird, `CREATE TABLE station (code varchar(20) CHARACTER SET UTF8 NOT NULL PRIMARY KEY COLLATE UNICODE_CI, name varchar(40) CHARACTER SET ISO8859_1 NOT NULL UNIQUE);
			CREATE TABLE gauge (id int NOT NULL PRIMARY KEY, station_code varchar(20) CHARACTER SET UTF8 NOT NULL COLLATE UNICODE, station_name varchar(40) CHARACTER SET UTF8);
			CREATE TABLE visit (id int NOT NULL PRIMARY KEY, station_code varchar(20) CHARACTER SET UTF8 NOT NULL);
			SET TERM ^;
			EXECUTE BLOCK AS DECLARE i int = 0; BEGIN WHILE (i < 300) DO BEGIN i = i + 1; INSERT INTO station VALUES ('ST' || :i, 'Station ' || :i); END i = 0;
			WHILE (i < 500) DO BEGIN i = i + 1; INSERT INTO gauge VALUES (:i, 'ST' || (mod(:i, 300) + 1), 'Station ' || (mod(:i, 300) + 1)); INSERT INTO visit VALUES (:i, 'ST' || (mod(:i, 300) + 1)); END END^
			SET TERM ;^
			INSERT INTO visit VALUES (900, 'XX1'); COMMIT;`},
	} {
		t.Run(name, func(t *testing.T) {
			t.Parallel()
			w, folder := x.build(t, x.text), t.TempDir()
			out := must(t, folder, "probe", w.source(), "-o", "e.json")
			for _, says := range []string{`gauge \(station_code\) +→ station \(code\)`, `gauge \(station_name\) +→ station \(name\)`, `visit \(station_code\) +→ station \(code\)`} {
				match(t, "the references", out, "(?i)"+says)
			}
			if strings.Contains(out, "Not asked") {
				t.Errorf("not all could be asked: %s", out)
			}
			if name != "postgres" {
				return // no foreign key is declared over two collations
			}
			must(t, folder, "script", "repair", w.source(), "--evidence", "e.json", "-o", "repair.sql")
			text := read(t, filepath.Join(folder, "repair.sql"))
			choice := regexp.MustCompile(`(?s)-- Choice a[^\n]*\n(.*?)-- Choice`).FindStringSubmatch(text)
			if choice == nil {
				t.Fatalf("nothing is put aside:\n%s", text)
			}
			write(t, filepath.Join(folder, "aside.sql"), strings.ReplaceAll(choice[1], "-- | ", ""))
			for _, script := range []string{"repair.sql", "aside.sql"} {
				if out, err := w.client(filepath.Join(folder, script)); err != nil {
					t.Fatal(script, err, out)
				}
			}
			if err := w.say("", "SELECT 1 / (SELECT count(*) FROM visit_aside WHERE station_code = 'XX1'); ALTER TABLE visit VALIDATE CONSTRAINT visit_station"); err != nil {
				t.Error(err)
			}
		})
	}
}
