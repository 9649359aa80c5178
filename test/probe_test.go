package test

import (
	"encoding/json"
	"fmt"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"nexdal/test/server"
)

// undeclared is a structure without foreign keys, with what is to be found and
// what must not be: small numbers that lie in every generated key.
func undeclared(text string) string {
	var w strings.Builder
	fmt.Fprintf(&w, `CREATE TABLE coast_section (code %[1]s NOT NULL PRIMARY KEY, name %[1]s);
		CREATE TABLE stations (id integer NOT NULL PRIMARY KEY, station_code %[1]s NOT NULL, section_code %[1]s, parent_id integer, replaced_by_station_id integer, floors integer);
		CREATE TABLE gauge_model (id integer NOT NULL PRIMARY KEY, maker %[1]s NOT NULL, type_no integer NOT NULL);
		CREATE TABLE gauge (id integer NOT NULL PRIMARY KEY, station_id integer, model integer, height integer, position integer);
		CREATE TABLE tide_table (station_code %[1]s NOT NULL, day integer NOT NULL, hour integer NOT NULL, level integer);
		CREATE TABLE setting (id integer NOT NULL PRIMARY KEY, rank_of_it integer, gauge_count integer);
		CREATE TABLE empty_one (id integer NOT NULL PRIMARY KEY, station_id integer);`+"\n", text)
	row := func(table string, values ...any) {
		texts := make([]string, len(values))
		for i, v := range values {
			switch v := v.(type) {
			case string:
				texts[i] = "'" + v + "'"
			case nil:
				texts[i] = "NULL"
			default:
				texts[i] = fmt.Sprint(v)
			}
		}
		fmt.Fprintf(&w, "INSERT INTO %s VALUES (%s);\n", table, strings.Join(texts, ", "))
	}
	for i := range 8 {
		row("coast_section", fmt.Sprintf("C%02d", i), fmt.Sprintf("Coast%d", i))
	}
	for i := 1; i <= 40; i++ {
		var replaced, parent any
		if i%9 == 0 {
			replaced, parent = i-1, i/2
		}
		row("stations", i, fmt.Sprintf("ST%03d", i*7), fmt.Sprintf("C%02d", i%8), parent, replaced, 1+i%3)
		row("setting", i, i%5, i%4)
	}
	for i := 1; i <= 6; i++ {
		row("gauge_model", i, []string{"Holm", "Tern"}[i%2], i/2)
	}
	for i := 1; i <= 60; i++ {
		station := any(1 + i%40)
		if i == 60 {
			station = 999 // an orphan
		}
		row("gauge", i, station, 1+i%6, 1+i%30, i)
	}
	for day := range 30 {
		for hour := range 4 {
			row("tide_table", fmt.Sprintf("ST%03d", (1+(day+hour)%40)*7), day, hour, day*hour)
		}
	}
	return w.String()
}

// TestProbe: on every engine the same references, keys and orphans, and no
// others; the file is well-formed, and values can be withheld.
func TestProbe(t *testing.T) {
	t.Parallel()
	p, m := server.StartPostgres(t), server.StartMariaDB(t)
	folder := t.TempDir()
	pg, maria, file := p.Database(t), m.Database(t), filepath.Join(folder, "a.db")
	p.Query(t, pg, undeclared("text"))
	m.Query(t, maria, undeclared("varchar(40)"))
	sqlite(t, file, undeclared("TEXT"))
	want := []string{
		"0.87 gauge (model) to gauge_model (id), 0 of 60 orphans",
		"0.96 stations (section_code) to coast_section (code), 0 of 40 orphans",
		"1.00 empty_one (station_id) to stations (id), 0 of 0 orphans", // by its name alone
		"1.00 gauge (station_id) to stations (id), 1 of 60 orphans [999]",
		"1.00 stations (parent_id) to stations (id), 0 of 4 orphans",
		"1.00 stations (replaced_by_station_id) to stations (id), 0 of 4 orphans",
		"1.00 tide_table (station_code) to stations (station_code), 0 of 120 orphans",
	}
	for name, source := range map[string]string{"sqlite": file, "postgres": p.URL(pg), "mariadb": m.URL(maria)} {
		t.Run(name, func(t *testing.T) {
			must(t, folder, "probe", source, "-o", name+".json")
			var e struct {
				Format, Questions int
				Columns           []struct {
					Table, Column, Least, Greatest string
					Rows, Nulls, Distinct          int64
				}
				Keys []struct {
					Table    string
					Columns  []string
					Declared bool
				}
				References []struct {
					Table, Target          string
					Columns, TargetColumns []string
					Target_Columns         []string
					Coverage, Score        float64
					Rows_Checked, Orphans  int64
					Orphan_Samples         []string
					Verified, Declared     bool
				}
			}
			if err := json.Unmarshal([]byte(read(t, filepath.Join(folder, name+".json"))), &e); err != nil || e.Format != 1 {
				t.Fatalf("format %d: %v", e.Format, err)
			}
			var found []string
			for _, r := range e.References {
				says := fmt.Sprintf("%.2f %s (%s) to %s (%s), %d of %d orphans", r.Score, r.Table, strings.Join(r.Columns, ", "), r.Target, strings.Join(r.Target_Columns, ", "), r.Orphans, r.Rows_Checked)
				if len(r.Orphan_Samples) > 0 {
					says += fmt.Sprint(" ", r.Orphan_Samples)
				}
				if found = append(found, says); r.Verified != (r.Rows_Checked > 0) || r.Declared {
					t.Errorf("%s: verified %v, declared %v", says, r.Verified, r.Declared)
				}
			}
			slices.Sort(found)
			if !slices.Equal(found, want) {
				t.Errorf("found\n%s\nnot\n%s", strings.Join(found, "\n"), strings.Join(want, "\n"))
			}
			keys := ""
			for _, k := range e.Keys {
				keys += fmt.Sprintf("%s %v %v\n", k.Table, k.Columns, k.Declared)
			}
			for _, k := range []string{"stations [id] true", "stations [station_code] false", "coast_section [code] true", "tide_table [station_code day] false"} {
				if !strings.Contains(keys, k+"\n") {
					t.Errorf("key %s is not among\n%s", k, keys)
				}
			}
			for _, c := range e.Columns {
				if c.Table == "gauge" && c.Column == "station_id" && (c.Rows != 60 || c.Nulls != 0 || c.Distinct != 41 || c.Least != "1" || c.Greatest != "999") {
					t.Errorf("%+v", c)
				}
			}
			if text := must(t, folder, "probe", source, "--no-values"); strings.Contains(text, "999") || strings.Contains(text, "ST007") || !json.Valid([]byte(text)) {
				t.Error("values get out")
			}
		})
	}
}
