package evidence

import (
	"fmt"
	"runtime"
	"slices"
	"strings"
	"testing"

	"nexdal/internal/catalog"
)

// suspected are the references that names and types alone speak for, as
// "table.column > table.column".
func suspected(c *catalog.Catalog) (all []string) {
	for _, r := range Suspects(c, c.Lookup()) {
		all = append(all, fmt.Sprintf("%s.%s > %s.%s", r.Table, strings.Join(r.Columns, "+"), r.Target, strings.Join(r.TargetColumns, "+")))
	}
	return all
}

// TestSuspects: what names and types say where nobody asked the data, and what keeps a column
// from being told.
func TestSuspects(t *testing.T) {
	for _, x := range []struct {
		name  string
		table func(h *heap) // beside "station" with its key "id"
		want  []string
	}{
		{"named after it", func(h *heap) { key(h.table("gauge", "id int!", "station_id int"), "id") },
			[]string{"gauge.station_id > station.id"}},
		{"with a role", func(h *heap) { key(h.table("gauge", "id int!", "former_station_id int"), "id") },
			[]string{"gauge.former_station_id > station.id"}},
		{"named after nothing", func(h *heap) { key(h.table("gauge", "id int!", "height int", "vendor_id int"), "id") }, nil},
		{"another type", func(h *heap) { key(h.table("gauge", "id int!", "station_id text"), "id") }, nil},
		{"a type that has no order", func(h *heap) { key(h.table("gauge", "id int!", "station_id json"), "id") }, nil},
		{"declared", func(h *heap) {
			g := key(h.table("gauge", "id int!", "station_id int"), "id")
			g.ForeignKeys = []*catalog.ForeignKey{{Columns: []string{"station_id"}, Target: catalog.Ref{Schema: "s", Table: "station"}, TargetColumns: []string{"id"}}}
		}, nil},
		{"accepted by people", func(h *heap) {
			g := key(h.table("gauge", "id int!", "station_id int"), "id")
			g.Accepted = []*catalog.ForeignKey{{Columns: []string{"station_id"}, Target: catalog.Ref{Schema: "s", Table: "station"}, TargetColumns: []string{"id"}}}
		}, nil},
		{"a partition says nothing that its table does not", func(h *heap) {
			g := key(h.table("gauge", "id int!", "height int"), "id")
			p := key(h.table("gauge_2026", "id int!", "station_id int"), "id")
			of := g.Ref()
			p.PartitionOf = &of
		}, nil},
		{"what an extension brought", func(h *heap) {
			key(h.table("gauge", "id int!", "station_id int"), "id").Extension = "survey"
		}, nil},
		{"to a key that is not the primary one", func(h *heap) {
			m := key(h.table("gauge_model", "id int!", "code text!"), "id")
			m.UniqueKeys = []*catalog.Key{{Name: "gauge_model_code", Columns: []string{"code"}}}
			key(h.table("gauge", "id int!", "gauge_model_code text"), "id")
		}, nil},
		{"to a table without a key", func(h *heap) {
			h.table("model", "id int!", "label text")
			key(h.table("gauge", "id int!", "model_id int"), "id")
		}, nil},
		{"in the order of names, from many tables", func(h *heap) {
			for i := range 4 * runtime.GOMAXPROCS(0) {
				key(h.table(fmt.Sprintf("log_%02d", 99-i), "id int!", "station_id int"), "id")
			}
		}, func() (want []string) {
			for i := range 4 * runtime.GOMAXPROCS(0) {
				want = append(want, fmt.Sprintf("log_%02d.station_id > station.id", 100-4*runtime.GOMAXPROCS(0)+i))
			}
			return want
		}()},
	} {
		h := &heap{}
		key(h.table("station", "id int!", "label text"), "id")
		x.table(h)
		if got := suspected(h.c); !slices.Equal(got, x.want) {
			t.Errorf("%s: %q, want %q", x.name, got, x.want)
		}
		if len(h.log) > 0 {
			t.Errorf("%s: asked %q", x.name, h.log)
		}
	}
}

// TestCombinedRoles: a reference by several columns whose names carry the key's names behind
// the same word, and those that do not make one.
func TestCombinedRoles(t *testing.T) {
	// Half of the pairs there could be: that all of a child's are among them is no accident.
	pair := func(i int) (harbour, no int) { return i%20 + 1, i/20%6 + 1 + i%20%7 }
	both := func(i int) []any { harbour, no := pair(i); return []any{harbour, no} }
	for _, x := range []struct {
		name    string
		columns []string
		row     func(i int) []any // behind the number
		want    string            // "" for none: "columns > key"
	}{
		{"the key's names", []string{"berth_harbour int", "berth_no int"},
			both, "berth_harbour+berth_no"},
		{"a role in front of both", []string{"former_berth_harbour int", "former_berth_no int"},
			both, "former_berth_harbour+former_berth_no"},
		{"no row filled in one of them", []string{"former_berth_harbour int", "former_berth_no int"},
			func(i int) []any { return []any{i%20 + 1, nil} }, ""},
		{"another type in one of them", []string{"former_berth_harbour int", "former_berth_no text"},
			func(i int) []any { harbour, no := pair(i); return []any{harbour, fmt.Sprint(no)} }, ""},
		{"values that no parent has", []string{"former_berth_harbour int", "former_berth_no int"},
			func(i int) []any { harbour, no := pair(i); return []any{harbour, no + 100} }, ""},
		{"a pair in thirty that no parent has", []string{"former_berth_harbour int", "former_berth_no int"},
			func(i int) []any {
				harbour, no := pair(i)
				if i%30 == 0 {
					no = 13
				}
				return []any{harbour, no}
			}, ""},
	} {
		h := &heap{}
		berth := key(h.table("berth", "berth_harbour int!", "berth_no int!", "depth text"), "berth_harbour", "berth_no")
		h.fill(berth, 120, func(i int) []any { return append(both(i), fmt.Sprintf("%d m", i)) })
		voyage := key(h.table("voyage", append([]string{"voyage_id int!"}, x.columns...)...), "voyage_id")
		h.fill(voyage, 240, func(i int) []any { return append([]any{i + 5000}, x.row(i)...) })
		var got []string
		for _, r := range h.probe(t, Options{}).References {
			if r.Table == "voyage" && len(r.Columns) > 1 {
				got = append(got, strings.Join(r.Columns, "+"))
				if r.Target != "berth" || !slices.Equal(r.TargetColumns, []string{"berth_harbour", "berth_no"}) || r.Coverage != 1 || r.Declared || !r.Verified {
					t.Errorf("%s: %+v", x.name, r)
				}
			}
		}
		if strings.Join(got, " ") != x.want {
			t.Errorf("%s: %q, want %q", x.name, got, x.want)
		}
	}
}

// TestTexts: a NULL is no text, and what is shown in its place is not mistaken for one.
func TestTexts(t *testing.T) {
	null, empty := "NULL", ""
	r := Row{nil, &null, &empty}
	if got := r.Texts(); !slices.Equal(got, []string{"NULL", "NULL", ""}) {
		t.Errorf("%q", got)
	}
	if got := r.Or("\\N"); !slices.Equal(got, []string{"\\N", "NULL", ""}) {
		t.Errorf("%q", got)
	}
}
