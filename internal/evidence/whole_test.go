package evidence

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"nexdal/internal/catalog"
	"nexdal/test/golden"
)

// harbour is a database that nobody declared anything in but its primary keys: references by
// all sorts of names, into keys of one column and of several, to twins that no data tells
// apart, with and without orphans, and columns that only look like references.
func harbour() *heap {
	h := &heap{}
	stations := key(h.table("tbl_station", "station_id int!", "code text!", "region text", "replaced_by int"), "station_id")
	h.fill(stations, 120, func(i int) []any {
		by := any(nil)
		if i%5 == 0 {
			by = (i+7)%120 + 1
		}
		return []any{i + 1, fmt.Sprintf("ST%03d", i), []string{"north", "south"}[i%2], by}
	})
	people := key(h.table("tbl_person", "person_id int!", "badge text!", "manager int"), "person_id")
	h.fill(people, 40, func(i int) []any { return []any{i + 1000, fmt.Sprintf("B-%d", i*i), 1000 + i/5} })
	gauges := key(h.table("tbl_gauge", "id int!", "StationID int!", "serial text!", "installed_by int", "range_mm int", "kind int"), "id")
	h.fill(gauges, 300, func(i int) []any {
		return []any{i + 1, i%118 + 1, fmt.Sprintf("G%05d", i*3), 1000 + i%40, 100 * (i % 9), i % 3}
	})
	days := key(h.table("tbl_station_day", "station int!", "day text!", "observer int"), "station", "day")
	h.fill(days, 360, func(i int) []any {
		return []any{i%120 + 1, fmt.Sprintf("2026-01-%02d", i/120+1), 1000 + (i*7)%40}
	})
	readings := key(h.table("tbl_reading", "id int!", "gauge_no int!", "station int!", "day text!", "level int", "checked_by int"), "id")
	h.fill(readings, 900, func(i int) []any {
		gauge := i%300 + 1
		if i%300 == 17 {
			gauge = 9999
		}
		by := any(nil)
		if i%3 == 0 {
			by = 1000 + i%41 // 1040 is nobody
		}
		return []any{i + 1, gauge, i%120 + 1, fmt.Sprintf("2026-01-%02d", i%3+1), 2000 + i%700, by}
	})
	parts := key(h.table("tbl_part", "part_no int!", "gauge_model text", "stn text"), "part_no")
	h.fill(parts, 80, func(i int) []any { return []any{i + 1, []string{"A", "B", "C"}[i%3], fmt.Sprintf("ST%03d", i)} })
	details := key(h.table("tbl_gauge_detail", "gauge_id int!", "height int", "active int"), "gauge_id")
	h.fill(details, 300, func(i int) []any { return []any{i + 1, i%50 + 1, i % 2} })
	links := h.table("tbl_gauge_part", "gauge int!", "part int!", "qty int")
	h.fill(links, 500, func(i int) []any { return []any{i%300 + 1, (i*7)%80 + 1, i%4 + 1} })
	h.fill(h.table("tbl_log", "line text", "person int", "old_station_id int"), 0, nil)
	docs := h.table("tbl_doc", "doc json", "ref text", "station_code text")
	h.fill(docs, 150, func(i int) []any { return []any{"{}", fmt.Sprint(i%40 + 1000), fmt.Sprintf("ST%03d", i%125)} })
	return h
}

// TestWhole: all that is found in one database, as it is written. The file is to be read when
// it changes.
func TestWhole(t *testing.T) {
	var b strings.Builder
	h := harbour()
	e := h.probe(t, Options{})
	for _, k := range e.Keys {
		fmt.Fprintf(&b, "key %s (%s): %d of %d rows, %d nulls, verified %v, declared %v, likely %.2f\n", k.Table, strings.Join(k.Columns, ", "), k.Distinct, k.Rows, k.Nulls, k.Verified, k.Declared, k.Likely)
	}
	number := func(n *int64) string {
		if n == nil {
			return "?"
		}
		return fmt.Sprint(*n)
	}
	for _, r := range e.References {
		fmt.Fprintf(&b, "reference %s (%s) to %s (%s): %d orphans of %d %v, children %s to %s, verified %v, score %.3f of name %.3f, coverage %.3f, type %.3f, spread %.3f\n", r.Table, strings.Join(r.Columns, ", "), r.Target, strings.Join(r.TargetColumns, ", "),
			r.Orphans, r.RowsChecked, r.Samples, number(r.Fewest), number(r.Most), r.Verified, r.Score, r.Parts.Name, r.Parts.Coverage, r.Parts.Type, r.Parts.Spread)
	}
	for _, p := range e.Promises {
		fmt.Fprintf(&b, "%s %s of %s (%s): %s: %d offenders %v\n", p.Origin, p.Kind, p.Table, strings.Join(p.Columns, ", "), p.Says, p.Offenders, p.Samples)
	}
	for _, c := range e.Columns {
		fmt.Fprintf(&b, "column %s.%s: %d rows, %d nulls, %s distinct, %s to %s rows each, dates %s, numbers %s, values %v\n", c.Table, c.Column, c.Rows, c.Nulls, number(c.Distinct), number(c.Fewest), number(c.Most), number(c.Dates), number(c.Numbers), c.Values)
	}
	fmt.Fprintf(&b, "%d gaps\n", len(e.Gaps))
	golden.Hold(t, "testdata/harbour.txt", b.String())
}

// TestNames: how much the names of columns speak of the keys of tables. The file is to be read
// when it changes.
func TestNames(t *testing.T) {
	h := &heap{}
	for name, columns := range map[string]string{
		"station": "id code", "gauge": "id serial", "GaugeModel": "GaugeModelID maker", "person": "person_id badge", "users": "id login", "tide_table": "no year", "storm_alert": "alert_no level",
		"address": "id line", "companies": "company_code name", "xref_status": "status label", "keeper": "badge_no name", "app_order": "order_id total", "people_history": "id person",
	} {
		t := key(h.table(name), strings.Fields(columns)[0])
		for _, c := range strings.Fields(columns) {
			t.Columns = append(t.Columns, &catalog.Column{Name: c, Type: catalog.Type{Native: "integer", Family: catalog.Integer, Bits: 32}})
		}
	}
	child := h.table("visit")
	names := strings.Fields(`id station station_id StationID stationId stn stn_id fk_station id_station station_no station_code old_station from_station to_station_id replaced_by_station station_type station_name station_count stations
		gauge_id gauge gauge_model gauge_model_id GaugeModelID model_id person personId created_by owner changed_by_id user user_id users_id login tide_table_no tide_no alert alert_no storm_alert_id sa_id address_id addr addr_id company company_code comp_id
		status status_id order order_id app_order_id badge badge_no keeper keeper_badge_no level total no year code serial parent parent_id height active position visit_id`)
	for _, c := range names {
		child.Columns = append(child.Columns, &catalog.Column{Name: c, Type: catalog.Type{Native: "integer", Family: catalog.Integer, Bits: 32}})
	}
	h.c.Sort()
	n := namesOf(h.c.Tables())
	var lines []string
	for _, c := range child.Columns {
		for _, parent := range h.c.Tables() {
			for _, k := range parent.Columns {
				if s := n.speaks(child, c.Name, parent, k.Name); s > 0 {
					lines = append(lines, fmt.Sprintf("%-20s speaks of %-26s %.3f", c.Name, parent.Name+"."+k.Name, s))
				}
			}
		}
	}
	for _, parent := range h.c.Tables() { // of their own keys, and of each other
		for _, c := range parent.Columns {
			for _, other := range h.c.Tables() {
				if other != child && other.PrimaryKey != nil {
					if s := n.speaks(parent, c.Name, other, other.PrimaryKey.Columns[0]); s > 0 {
						lines = append(lines, fmt.Sprintf("%-20s speaks of %-26s %.3f", parent.Name+"."+c.Name, other.Name, s))
					}
				}
			}
		}
	}
	slices.Sort(lines)
	for _, w := range strings.Fields("GaugeModels stations addresses companies boxes status bus gas series glass HTTPServer idStation x2Y ÜberNahme tide_TABLE __a__ analyses branches days keys") {
		lines = append(lines, fmt.Sprintf("%s: %q", w, words(w)))
	}
	for _, p := range [][2]string{{"stn", "station"}, {"sta", "station"}, {"stat", "station"}, {"s", "station"}, {"nts", "station"}, {"station", "station"}, {"stationx", "station"}, {"gm", "gaugemodel"}, {"", "station"}, {"st", "st"}} {
		lines = append(lines, fmt.Sprintf("%q is short for %q: %v", p[0], p[1], abbreviates(p[0], p[1])))
	}
	golden.Hold(t, "testdata/names.txt", strings.Join(lines, "\n")+"\n")
}
