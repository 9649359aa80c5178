package test

import (
	"encoding/csv"
	"path/filepath"
	"strings"
	"testing"
)

// TestOutlineSelection: patterns, kinds, order and forms.
func TestOutlineSelection(t *testing.T) {
	t.Parallel()
	folder := t.TempDir()
	sqlite(t, filepath.Join(folder, "a.db"), `CREATE TABLE station (id INTEGER PRIMARY KEY); CREATE TABLE station_keeper (id INTEGER PRIMARY KEY, station_id INTEGER REFERENCES station);
		CREATE TABLE "=cmd|' /C calc'!A1" (a); CREATE TABLE "'quoted" (a); CREATE TABLE "a,b" (a); CREATE VIRTUAL TABLE words USING fts5 (text);
		INSERT INTO station VALUES (1), (2), (3); CREATE VIEW open_station AS SELECT id FROM station; CREATE VIEW broken AS SELECT * FROM gone;
		CREATE TRIGGER new_station INSTEAD OF INSERT ON open_station BEGIN INSERT INTO station VALUES (NULL); END;`)
	for _, c := range []struct{ args, want string }{
		{"outline a.db station*", `2 tables, 3 columns, 1 foreign key`},
		{"outline a.db main.station", `(?s)1 table, 1 column.*Tables, the largest first\n.*\n  station `},
		{"outline a.db *station", `1 table, 1 view`},
		{"outline a.db --kind virtual", `(?s)1 table \(1 virtual\).*words \(virtual\)`},
		{"outline a.db --sort rows --top 1", `(?s)those of most rows first \(1 of \d+\).*\n  station +3 `},
		{"outline a.db --sort name --format markdown", `(?s)\| main\.'quoted \|.*\| main\.a,b \|.*\| main\.station\\_keeper \| table \| 0 \|.*\| 1 \| 0 \| yes \|`},
		{"outline a.db", `(?s)Not read.*columns of view broken`},
		{"describe a.db station*", `(?s)main\.station .*Read by\n  view main\.open_station.*main\.station_keeper `},
		{"describe a.db open_station", `(?s)main\.open_station   view.*Columns\n +id +INTEGER.*Reads\n  table main\.station.*Triggers\n  new_station +instead of insert of each row.*Query`},
		{"describe a.db *station --format json", `(?s)"tables": \[.*"view": \{.*"table": \{`},
	} {
		match(t, c.args, must(t, folder, strings.Fields(c.args)...), c.want)
	}
	rows, err := csv.NewReader(strings.NewReader(must(t, folder, "outline", "a.db", "--format", "csv"))).ReadAll()
	if err != nil || len(rows) < 6 || len(rows[0]) != 11 {
		t.Fatalf("%v: %v", err, rows)
	}
	for _, row := range rows {
		for _, cell := range row {
			if cell != "" && strings.ContainsRune("=+-@|%", rune(cell[0])) {
				t.Errorf("a spreadsheet would take %q for a formula", cell)
			}
		}
	}
	for args, want := range map[string]string{
		"outline a.db --kind tables": "there is no kind of table \"tables\"; there are table, partitioned",
		"outline a.db --sort age":    "tables cannot be sorted by \"age\"; there are size, rows",
		"outline a.db --format xml":  "there is no format \"xml\"",
		"describe a.db x*":           `no table fits "x\*"`,
	} {
		r := nexdal(t, folder, strings.Fields(args)...)
		if match(t, args, r.err, want); r.status != 2 {
			t.Errorf("%s: status %d", args, r.status)
		}
	}
}

// TestTablesByName: a table whose own name reads like "schema.table" hides no namesake,
// and is reached by quoting it as SQL does.
func TestTablesByName(t *testing.T) {
	t.Parallel()
	folder := t.TempDir()
	sqlite(t, filepath.Join(folder, "n.db"), `CREATE TABLE gauge (plain INTEGER PRIMARY KEY); CREATE TABLE "main.gauge" (odd INTEGER PRIMARY KEY); CREATE TABLE "a""b*" (star INTEGER PRIMARY KEY);
		CREATE TABLE """x" (led INTEGER PRIMARY KEY); CREATE TABLE "Case" (lone INTEGER PRIMARY KEY);`)
	for name, column := range map[string]string{"gauge": "plain", "main.gauge": "plain", "GAUGE": "plain", `"gauge"`: "plain", `main."gauge"`: "plain",
		`"main.gauge"`: "odd", `main."main.gauge"`: "odd", "main.main.gauge": "odd", `"a""b*"`: "star", `a"b*`: "star", `main."a""b*"`: "star", `"""x"`: "led", `"x`: "led", "case": "lone"} {
		if text := must(t, folder, "describe", "n.db", name); strings.Count(text, "Columns\n") != 1 || !strings.Contains(text, "1  "+column+"  ") {
			t.Errorf("%s shows another table than that with %s:\n%s", name, column, text)
		}
	}
	for _, name := range []string{`"Gauge"`, `"gauge`, `"gauge"x`, `"main"."gauge"."x"`, `"main.gauge".x`} {
		if r := nexdal(t, folder, "describe", "n.db", name); r.status != 2 || !strings.Contains(r.err, "there is no table") {
			t.Errorf("%s: status %d %s", name, r.status, r.err)
		}
	}
}
