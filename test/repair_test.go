package test

import (
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
	"testing"
)

const unkept = `CREATE TABLE station (id integer NOT NULL PRIMARY KEY, code varchar(9));
CREATE TABLE gauge (id integer NOT NULL PRIMARY KEY, serial_number varchar(20) NOT NULL, station_id integer, spare_of integer);
CREATE TABLE visit (id integer NOT NULL PRIMARY KEY, gauge_id integer NOT NULL, FOREIGN KEY (gauge_id) REFERENCES gauge (id));
INSERT INTO station VALUES (1, 'SAL-1'), (2, 'SAL-2');
`

// TestRepair takes each choice by turns, on each engine: afterwards the evidence knows
// of no such fault, and no row is lost but those of the choice to delete.
func TestRepair(t *testing.T) {
	t.Parallel()
	var rows strings.Builder
	for i := 1; i <= 150; i++ {
		station, spare := "1", "NULL"
		if i > 147 {
			station = "77" // three rows lead nowhere
		}
		if i == 5 {
			spare = "999"
		}
		serial := "SN-" + strings.Repeat("0", i%7) + string(rune('A'+i%26)) + strings.Repeat("1", i/26)
		if i == 150 {
			serial = "SN-0B" // that of the first
		}
		rows.WriteString("INSERT INTO gauge VALUES (" + strconv.Itoa(i) + ", '" + serial + "', " + station + ", " + spare + ");\n")
	}
	rows.WriteString("INSERT INTO visit VALUES (1, 150), (2, 1);\n")
	for _, engine := range []string{"sqlite", "postgres", "mariadb"} {
		for choice, want := range map[string][3]string{ // gauges, stations, and visits of the first gauge
			"1a": {"147", "2", "1"}, "1b": {"150", "2", "1"}, "1c": {"150", "3", "1"}, "1d": {"147", "2", "1"},
			"2a": {"149", "2", "1"}, "2b": {"150", "2", "1"}, "3b": {"149", "2", "2"},
		} {
			t.Run(engine+" "+choice, func(t *testing.T) {
				t.Parallel()
				folder := t.TempDir()
				p := places(t)[engine](t, folder)
				p.query(t, unkept+rows.String())
				declare := "ALTER TABLE gauge ADD CONSTRAINT stands_at FOREIGN KEY (station_id) REFERENCES station (id)"
				switch engine {
				case "sqlite": // declared and not enforced
					p.query(t, "PRAGMA writable_schema = ON; UPDATE sqlite_master SET sql = replace(replace(sql, 'station_id integer', 'station_id integer REFERENCES station (id)'), 'spare_of integer', 'spare_of integer REFERENCES gauge (id)') WHERE name = 'gauge'; PRAGMA writable_schema = RESET;")
				case "postgres":
					p.query(t, declare+" NOT VALID; ALTER TABLE gauge ADD FOREIGN KEY (spare_of) REFERENCES gauge (id) NOT VALID; ANALYZE")
				default:
					p.query(t, "SET foreign_key_checks = 0; "+declare+"; ALTER TABLE gauge ADD FOREIGN KEY (spare_of) REFERENCES gauge (id)")
				}
				if strings.HasPrefix(choice, "1") && (choice == "1a" || choice == "1d") {
					p.query(t, "DELETE FROM visit WHERE gauge_id = 150") // which refers to one that goes
				}
				must(t, folder, "probe", p.source, "-o", "evidence.json")
				must(t, folder, "script", "repair", p.source, "--evidence", "evidence.json", "-o", "repair.sql")
				text := read(t, filepath.Join(folder, "repair.sql"))
				// As it stands it changes nothing.
				p.query(t, regexp.MustCompile(`(?m)^--.*$`).ReplaceAllString(text, ""))
				fault := regexp.MustCompile(`(?ms)^-- ` + faultOf(choice, text) + `\. .*?(\n\n|\z)`).FindString(text)
				taken := regexp.MustCompile(`(?m)^-- Choice ` + choice[1:] + `:.*\n((-- \| .*\n)+)`).FindStringSubmatch(fault)
				if taken == nil {
					t.Fatalf("no such choice: %s", text)
				}
				p.query(t, regexp.MustCompile(`(?m)^-- \| `).ReplaceAllString(taken[1], ""))
				for i, sql := range []string{"SELECT count(*) FROM gauge", "SELECT count(*) FROM station", "SELECT count(*) FROM visit WHERE gauge_id = 1"} {
					if got := strings.TrimSpace(p.query(t, sql)); got != want[i] {
						t.Errorf("%s: %s, want %s", sql, got, want[i])
					}
				}
				if aside := regexp.MustCompile(`gauge_aside\d*`).FindString(taken[1]); aside != "" {
					held := strings.TrimSpace(p.query(t, "SELECT count(*) FROM "+aside))
					if gone := map[string]string{"1a": "3", "2a": "1", "3b": "1"}[choice]; held != gone {
						t.Errorf("%s rows are aside, want %s", held, gone)
					}
				}
				must(t, folder, "probe", p.source, "-o", "after.json")
				must(t, folder, "script", "repair", p.source, "--evidence", "after.json", "-o", "again.sql")
				if first := strings.SplitN(fault, ":", 2)[0][5:]; strings.Contains(read(t, filepath.Join(folder, "again.sql")), first[strings.Index(first, " ")+1:]) {
					t.Errorf("the fault is still there: %s", first)
				}
			})
		}
	}
}

// faultOf gives the number that the file has for a fault: 1 the station, 2 the spare,
// 3 the serial number.
func faultOf(choice, text string) string {
	for n, words := range map[string]string{"1": `gauge \(station_id\)`, "2": `gauge \(spare_of\)`, "3": `gauge \(serial_number\)`} {
		if choice[:1] == n {
			if m := regexp.MustCompile(`(?m)^-- (\d+)\. [^\n]*` + words).FindStringSubmatch(text); m != nil {
				return m[1]
			}
		}
	}
	return "none"
}
