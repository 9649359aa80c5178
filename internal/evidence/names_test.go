package evidence

import (
	"strings"
	"testing"

	"nexdal/internal/catalog"
)

// TestSpeaks: how plainly a column says what it refers to, in the ways that
// houses name things.
func TestSpeaks(t *testing.T) {
	for _, x := range []struct {
		child, column, parent, key string
		from, to                   float64
	}{
		// The thing, and its key.
		{"gauges", "station_id", "stations", "id", 1, 1},
		{"gauge", "StationID", "Station", "StationID", 1, 1},
		{"gauge", "stationid", "station", "id", 0.95, 1},
		{"gauge", "id_station", "station", "id", 1, 1},
		{"gauge", "fk_station", "sm_station", "rowid", 1, 1},
		{"gauge", "station", "station", "id", 1, 1},
		{"channel_alias_limit", "channel_alias", "channel_alias", "id", 1, 1}, // no plural, though it ends like one
		{"chart", "atlas", "atlases", "id", 1, 1},
		{"camera", "lens", "lens", "id", 1, 1},
		{"visit", "person_id", "people", "id", 1, 1},
		{"visit", "address_id", "addresses", "id", 1, 1},
		{"visit", "category_id", "categories", "id", 1, 1},
		{"tide_table", "station_code", "station", "code", 1, 1},
		// With a role.
		{"station", "replaced_by_station_id", "station", "id", 0.9, 0.9},
		{"gauge", "fk_station_home", "sm_station", "rowid", 0.8, 0.85},
		{"voyage", "stationFromId", "station", "id", 0.8, 0.8},
		{"voyage", "fromstationid", "station", "id", 0.8, 0.8},
		{"gauge", "station_id_home", "station", "id", 0.8, 0.9},
		// Part of the name, shortened, by its letters.
		{"gauge", "model_id", "gauge_model", "id", 0.75, 0.9},
		{"artist", "type", "artist_type", "id", 0.8, 0.9},
		{"gauge", "stn_id", "station", "id", 0.6, 0.8},
		{"gauge", "stat_id", "station", "id", 0.6, 0.8},
		{"order", "ol_id", "order_line", "id", 0.6, 0.7},
		// The key's own name.
		{"visit_task", "visit_no", "visits", "visit_no", 0.9, 1},
		{"note", "poster_badge_no", "keepers", "badge_no", 0.85, 0.9},
		// Another row of the same table.
		{"document", "parent_id", "document", "id", 0.8, 0.8},
		{"keeper", "boss", "keeper", "id", 0.6, 0.8},
		{"document", "copy_of", "document", "id", 0.8, 0.8},
		// People.
		{"calibration", "done_by", "keeper", "id", 0.6, 0.7},
		{"ticket", "assigned_to", "users", "id", 0.6, 0.7},
		{"course", "teacher_id", "employee", "id", 0.6, 0.7},
		{"course", "usermodified", "user", "id", 0.6, 0.7},
		{"Employee", "ReportsTo", "Employee", "EmployeeId", 0.6, 0.8},
		{"bugs", "initialowner", "profiles", "userid", 0.6, 0.7},
		{"gauge", "fk_station_type", "sm_station", "rowid", 0, 0.59},
		// What speaks of nothing, or of another thing.
		{"gauge", "position", "station", "id", 0, 0.5},
		{"purchase_line", "line", "purchase_line", "id", 0, 0.59},
		{"keeper", "level", "datum_level", "id", 0, 0.59},
		{"gauge", "station_type_id", "station", "id", 0, 0.5},
		{"gauge", "station_count", "station", "id", 0, 0.5},
		{"visit", "created_at", "user", "id", 0, 0.5},
		{"visit", "order_number", "users", "id", 0, 0.5},
		{"visit", "station_code", "station", "id", 0.5, 0.6}, // of another kind
		{"station_keeper", "since", "keeper", "id", 0, 0.5},
		{"gauge", "id", "station", "id", 0, 0.5},
	} {
		child, parent := tableOf(x.child, x.column, "other", "more"), tableOf(x.parent, x.key, "what", "ever")
		if x.child == x.parent {
			parent = child
			child.Columns = append(child.Columns, &catalog.Column{Name: x.key})
		}
		list := []*catalog.Table{child, parent}
		if strings.HasPrefix(x.parent, "sm_") {
			list = append(list, tableOf("sm_a", "x"), tableOf("sm_b", "x"), tableOf("sm_c", "x"))
			child.Name = "sm_" + x.child
			list = append(list, tableOf("sm_d", "x"))
		}
		if got := namesOf(list).speaks(child, x.column, parent, x.key); got < x.from || got > x.to {
			t.Errorf("%s.%s speaks of %s.%s: %.2f, not %.2f to %.2f", x.child, x.column, x.parent, x.key, got, x.from, x.to)
		}
	}
}

func tableOf(name string, columns ...string) *catalog.Table {
	t := &catalog.Table{Schema: "s", Name: name}
	for _, c := range columns {
		t.Columns = append(t.Columns, &catalog.Column{Name: c})
	}
	return t
}

func TestSubsets(t *testing.T) {
	got := ""
	for _, s := range subsets([]string{"a", "b", "c", "d"}, 2) {
		got += strings.Join(s, "") + " "
	}
	if got != "ab ac bc ad bd cd " { // those of the first names first
		t.Errorf("%q", got)
	}
}
