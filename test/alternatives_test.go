package test

import (
	"fmt"
	"strings"
	"testing"
)

// TestShownKey: columns that the data shows to be a key become it once they were chosen.
func TestShownKey(t *testing.T) {
	t.Parallel()
	for _, engine := range []string{"sqlite", "postgres", "mariadb"} {
		t.Run(engine, func(t *testing.T) {
			folder := t.TempDir()
			p := places(t)[engine](t, folder)
			p.query(t, "CREATE TABLE buoy (code varchar(9), depth_mm integer NOT NULL);")
			var rows []string
			for i := range 40 {
				rows = append(rows, fmt.Sprintf("('B-%03d', %d)", i, i%7))
			}
			p.query(t, "INSERT INTO buoy VALUES "+strings.Join(rows, ", "))
			before := structure(t, folder, p.source)
			must(t, folder, "probe", p.source, "-o", "evidence.json")
			r := nexdal(t, folder, "script", "fix", p.source, "--evidence", "evidence.json", "-o", "fix.sql", "--choose", "key/none=number", "--choose", "key/none=columns")
			match(t, "two alternatives", r.err, "asks for both number and columns of key/none")
			must(t, folder, "script", "fix", p.source, "--evidence", "evidence.json", "-o", "fix.sql", "--rule", "key/none", "--choose", "key/none=columns")
			match(t, "the run", must(t, folder, "run", "fix.sql", "--on", p.source, "--yes"), "(?s)1 of 1 finding gone.*the structure is the one that was planned")
			match(t, "the key", must(t, folder, "describe", p.source, "buoy"), `(?s)Keys\s+primary +\(code\)`)
			must(t, folder, "run", "fix.reversal.sql", "--on", p.source, "--yes")
			if after := structure(t, folder, p.source); after != before {
				t.Errorf("the reversal leads to %s", after)
			}
		})
	}
}

// TestLookup: a table of values for a column of codes, once it was chosen, and back.
func TestLookup(t *testing.T) {
	t.Parallel()
	for _, engine := range []string{"sqlite", "postgres", "mariadb"} {
		t.Run(engine, func(t *testing.T) {
			folder := t.TempDir()
			p := places(t)[engine](t, folder)
			p.query(t, "CREATE TABLE gauge (id integer NOT NULL PRIMARY KEY, serial_number varchar(9) NOT NULL UNIQUE, status varchar(10));")
			var rows []string
			for i := range 150 {
				rows = append(rows, fmt.Sprintf("(%d, 'SN-%03d', %s)", i, i, []string{"'in use'", "'lost'", "'it''s gone'", "NULL"}[i%4]))
			}
			p.query(t, "INSERT INTO gauge VALUES "+strings.Join(rows, ", "))
			before := structure(t, folder, p.source)
			must(t, folder, "probe", p.source, "-o", "evidence.json")
			must(t, folder, "script", "fix", p.source, "--evidence", "evidence.json", "-o", "fix.sql", "--rule", "column/code-unchecked", "--choose", "column/code-unchecked=lookup")
			match(t, "the run", must(t, folder, "run", "fix.sql", "--on", p.source, "--yes"), "(?s)2 of 2 findings gone.*the structure is the one that was planned")
			match(t, "the values", strings.Join(strings.Fields(p.query(t, "SELECT status FROM gauge_status ORDER BY status")), " "), "^in use it's gone lost$")
			match(t, "the reference", must(t, folder, "describe", p.source, "gauge"), `(?s)Refers to\s+gauge_status +\(status\)`)
			must(t, folder, "run", "fix.reversal.sql", "--on", p.source, "--yes")
			if after := structure(t, folder, p.source); after != before {
				t.Errorf("the reversal leads to %s", after)
			}
		})
	}
}
