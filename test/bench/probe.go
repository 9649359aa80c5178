package main

import (
	"encoding/json"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"time"

	"nexdal/test/server"
)

// referring are columns of each of four tables that refer to one of two, and
// what their values are made of: all different, few different, in order.
var referring = []struct{ column, parent, value string }{
	{"station_id", "station", "(n * 7919) % 1000000 + 1"},
	{"from_station_id", "station", "(n * 104729) % 1000000 + 1"},
	{"to_station_id", "station", "n % 500 + 1"},
	{"keeper_id", "keeper", "(n * 31) % 1000000 + 1"},
	{"old_keeper_id", "keeper", "n % 20 + 1"},
}

// millions builds two parents and four children of a million rows. Where the
// keys have gaps, counts alone prove nothing and each reference is asked for.
func millions(numbers string) string {
	var w strings.Builder
	for _, p := range []string{"station", "keeper"} {
		fmt.Fprintf(&w, "CREATE TABLE %s (id bigint NOT NULL PRIMARY KEY, code varchar(20) NOT NULL);\nINSERT INTO %[1]s SELECT n * 2, 'S' || n FROM %s;\n", p, numbers)
	}
	for i := 1; i <= 4; i++ {
		var columns, values []string
		for _, r := range referring {
			columns = append(columns, r.column+" bigint")
			values = append(values, "2 * ("+r.value+")")
		}
		fmt.Fprintf(&w, "CREATE TABLE level%d (id bigint NOT NULL PRIMARY KEY, %s);\nINSERT INTO level%[1]d SELECT n, %[3]s FROM %[4]s;\n", i, strings.Join(columns, ", "), strings.Join(values, ", "), numbers)
	}
	return w.String()
}

// byHand is the anti-join of every reference.
func byHand() string {
	var w strings.Builder
	for i := 1; i <= 4; i++ {
		for _, r := range referring {
			fmt.Fprintf(&w, "SELECT count(*) FROM level%d c WHERE c.%s IS NOT NULL AND NOT EXISTS (SELECT 1 FROM %s p WHERE p.id = c.%[2]s);\n", i, r.column, r.parent)
		}
	}
	return w.String()
}

// probing compares the verification of twenty references with the same
// questions put by hand, and probes many small tables.
func probing(folder string) error {
	p, err := server.NewPostgres()
	if err != nil {
		return err
	}
	defer p.Stop()
	psql := []string{"psql", "-qX", "-v", "ON_ERROR_STOP=1", "-h", p.Folder, "-U", "postgres"}
	if err := load(exec.Command(psql[0], append(psql[1:], "postgres")...), millions("generate_series(1::bigint, 1000000) n")+"VACUUM ANALYZE;"); err != nil {
		return err
	}
	file := filepath.Join(folder, "millions.db")
	if err := load(exec.Command("sqlite3", "-bail", file), millions("(SELECT value AS n FROM generate_series(1, 1000000))")); err != nil {
		return err
	}
	questions := filepath.Join(folder, "hand.sql")
	if err := os.WriteFile(questions, []byte(byHand()), 0o644); err != nil {
		return err
	}
	for _, e := range []struct {
		name, source string
		client       []string
	}{
		{"PostgreSQL", p.URL("postgres"), append(psql, "-f", questions, "-o", os.DevNull, "postgres")},
		{"SQLite", file, []string{"sqlite3", file, ".read " + questions}},
	} {
		seconds, found, all, err := probed(e.source, filepath.Join(folder, "e.json"))
		if err != nil {
			return err
		}
		began := time.Now()
		if out, err := exec.Command(e.client[0], e.client[1:]...).CombinedOutput(); err != nil {
			return fmt.Errorf("%s: %v: %s", e.client[0], err, out)
		}
		hand := time.Since(began).Seconds()
		fmt.Printf("20 references among tables of 1,000,000 rows, %s\n", e.name)
		row("  found", "%.0f", "20", float64(found))
		row("  probe, whole", "%.1f s", "", all)
		row("  verification / by hand", "%.2f", "at most 1.3", seconds/hand)
	}
	small := filepath.Join(folder, "small.db")
	var w strings.Builder
	for i := range 200 {
		fmt.Fprintf(&w, "CREATE TABLE t%d (id INTEGER PRIMARY KEY, t%d_id INTEGER, code TEXT, level_mm INTEGER, day TEXT);\nINSERT INTO t%[1]d SELECT value, 1 + value * 7 %% 1000, 'C' || value, value %% 90, '2026-01-' || (10 + value %% 20) FROM generate_series(1, 1000);\n", i, max(0, i-1))
	}
	if err := load(exec.Command("sqlite3", "-bail", small), w.String()); err != nil {
		return err
	}
	_, found, all, err := probed(small, filepath.Join(folder, "e.json"))
	if err != nil {
		return err
	}
	fmt.Println("200 tables of 1,000 rows, SQLite")
	row("  references found", "%.0f", "", float64(found))
	row("  probe", "%.1f s", "under 30 s", all)
	return nil
}

// probed gives the seconds that verifying references took, how many were
// found, and the seconds of the whole.
func probed(source, file string) (seconds float64, found int, all float64, err error) {
	began := time.Now()
	if out, err := exec.Command(program, "probe", source, "-o", file).CombinedOutput(); err != nil {
		return 0, 0, 0, fmt.Errorf("probe: %v: %s", err, out)
	}
	all = time.Since(began).Seconds()
	text, err := os.ReadFile(file)
	if err != nil {
		return 0, 0, 0, err
	}
	var e struct {
		Seconds    map[string]float64
		References []json.RawMessage
	}
	err = json.Unmarshal(text, &e)
	return e.Seconds["references"], len(e.References), all, err
}
