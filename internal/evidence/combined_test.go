package evidence

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"testing"

	"nexdal/internal/catalog"
)

// TestDensity: the share of the combinations of a key's values that are there.
func TestDensity(t *testing.T) {
	h := &heap{}
	berth := h.table("berth", "harbour int!", "no int!", "pier int")
	d := &discovery{columns: map[catalog.Ref]map[string]*Column{berth.Ref(): {"harbour": facts(60, 0, 10, "1", "10"), "no": facts(60, 0, 12, "1", "12"), "pier": facts(60, 60, 0, "", "")}}}
	for columns, want := range map[string]float64{"harbour no": 0.5, "harbour": 6, "harbour pier": 6, "no gone": 1} {
		if got := d.density(berth, Key{Columns: strings.Fields(columns), Rows: 60}); math.Abs(got-want) > 1e-9 {
			t.Errorf("%s: %.3f, want %.3f", columns, got, want)
		}
	}
	for _, c := range []struct {
		density float64
		rows    int64
		orphans int64
		want    bool
	}{
		{0.5, 13, 0, true}, {0.5, 14, 0, false}, {0.1, 3, 0, true}, {0.1, 5, 0, false}, {0.9, 80, 0, true}, {0.9, 90, 0, false}, {0.5, 1000, 1, false}, {0.51, 1000, 1, true}, {0, 1, 0, false},
	} {
		if got := byChance(c.density, Reference{RowsChecked: c.rows, Orphans: c.orphans}); got != c.want {
			t.Errorf("%d rows, %d orphans, of a density of %.2f by chance: %v", c.rows, c.orphans, c.density, got)
		}
	}
}

// pairs is a database in which tables refer by two columns, or could.
func pairs() (*heap, *discovery, *catalog.Table) {
	h := &heap{}
	harbour := key(h.table("harbour", "harbour_id int!", "name text"), "harbour_id")
	berth := key(h.table("berth", "harbour_id int!", "berth_no int!", "depth text", "since text"), "harbour_id", "berth_no")
	h.table("voyage", "voyage_id int!", "berth_harbour_id int", "berth_berth_no int", "harbour_id int", "berth_no int")
	h.table("lease", "lease_id int!", "former_harbour_id int", "former_berth_no int", "at_harbour_id int", "at_berth_no text")
	h.table("pilot", "pilot_id int!", "berth int")
	h.table("crane", "crane_no int!")
	h.table("light", "colour text", "height int")
	h.table("survey", "place_id int", "berth_no int", "port int")
	_ = harbour
	d := &discovery{tables: h.c.Tables(), names: namesOf(h.c.Tables()), lookup: h.c.Lookup(), columns: map[catalog.Ref]map[string]*Column{}}
	for _, t := range d.tables {
		d.columns[t.Ref()] = map[string]*Column{}
		for _, c := range t.Columns {
			d.columns[t.Ref()][c.Name] = facts(50, 0, 20, "1", "20")
		}
	}
	return h, d, berth
}

// TestNear: the tables that have columns named like those of a key of several columns.
func TestNear(t *testing.T) {
	_, d, berth := pairs()
	near := func(refers map[place]place) (all []string) {
		for _, o := range d.columnsByName(refers).near(berth, berth.PrimaryKey.Columns, refers) {
			all = append(all, o.Name)
		}
		return all
	}
	if got, want := near(nil), []string{"harbour", "berth", "voyage", "lease", "pilot", "survey"}; !slices.Equal(got, want) {
		t.Errorf("%q, want %q", got, want)
	}
	// What refers to the same tables as the key's columns do is near, whatever it is called.
	harbour, light := catalog.Ref{Schema: "s", Table: "harbour"}, catalog.Ref{Schema: "s", Table: "light"}
	refers := map[place]place{{berth.Ref(), "harbour_id"}: {harbour, "harbour_id"}, {light, "height"}: {harbour, "harbour_id"}}
	if got, want := near(refers), []string{"harbour", "berth", "voyage", "lease", "pilot", "light", "survey"}; !slices.Equal(got, want) {
		t.Errorf("with a reference: %q, want %q", got, want)
	}
}

func matches(all []match) string {
	var parts []string
	for _, m := range all {
		parts = append(parts, fmt.Sprintf("%s %.3f", strings.Join(m.columns, "+"), m.name))
	}
	return strings.Join(parts, ", ")
}

// TestByRole: columns with the same words in front of a key's names, where each can hold such values.
func TestByRole(t *testing.T) {
	_, d, berth := pairs()
	of := func(table string) string {
		return matches(d.byRole(d.lookup.Table(catalog.Ref{Schema: "s", Table: table}), berth, berth.PrimaryKey.Columns))
	}
	for table, want := range map[string]string{
		"voyage": "berth_harbour_id+berth_berth_no 0.850",
		"lease":  "former_harbour_id+former_berth_no 0.850", // those of "at" are of another type
		"pilot":  "", "berth": "", "survey": "",
	} {
		if got := of(table); got != want {
			t.Errorf("%s: %q, want %q", table, got, want)
		}
	}
	d.columns[catalog.Ref{Schema: "s", Table: "voyage"}]["berth_berth_no"].Nulls = 50
	if got := of("voyage"); got != "" {
		t.Errorf("without a value: %q", got)
	}
	delete(d.columns[catalog.Ref{Schema: "s", Table: "lease"}], "former_berth_no")
	if got := of("lease"); got != "" {
		t.Errorf("of which nothing is known: %q", got)
	}
}

// TestMatching: for each column of a key the one that would refer to it.
func TestMatching(t *testing.T) {
	_, d, berth := pairs()
	at := func(table string) catalog.Ref { return catalog.Ref{Schema: "s", Table: table} }
	of := func(table string, refers map[place]place) string {
		return matches(d.matching(d.lookup.Table(at(table)), berth, berth.PrimaryKey.Columns, refers))
	}
	for table, want := range map[string]string{
		"voyage": "harbour_id+berth_no 0.950", // the very names, before those with a role
		"lease":  "former_harbour_id+former_berth_no 0.875",
		"pilot":  "", "light": "", "survey": "", "crane": "",
	} {
		if got := of(table, nil); got != want {
			t.Errorf("%s: %q, want %q", table, got, want)
		}
	}
	// What refers to where the key's own column does is taken, though its name says little; what
	// refers to something else is not, whatever it is called.
	both := map[place]place{{berth.Ref(), "harbour_id"}: {at("harbour"), "harbour_id"}, {at("survey"), "port"}: {at("harbour"), "harbour_id"}}
	if got, want := of("survey", both), "port+berth_no 0.875"; got != want {
		t.Errorf("by a reference: %q, want %q", got, want)
	}
	else_ := map[place]place{{at("voyage"), "harbour_id"}: {at("pilot"), "pilot_id"}}
	if got, want := of("voyage", else_), "berth_harbour_id+berth_no 0.925"; got != want {
		t.Errorf("beside a reference to something else: %q, want %q", got, want)
	}
	own := map[place]place{{at("voyage"), "harbour_id"}: {berth.Ref(), "harbour_id"}}
	if got, want := of("voyage", own), "harbour_id+berth_no 0.950"; got != want {
		t.Errorf("one that refers to the key's column alone: %q, want %q", got, want)
	}
	// Values that cannot be among the key's.
	d.columns[at("voyage")]["berth_no"] = facts(50, 0, 20, "31", "50")
	if got, want := of("voyage", nil), "harbour_id+berth_berth_no 0.900"; got != want {
		t.Errorf("beyond the key: %q, want %q", got, want)
	}
}

// TestCombinedKeys: to which keys of several columns others are held.
func TestCombinedKeys(t *testing.T) {
	for name, c := range map[string]struct {
		alter func(k *Key, berth *catalog.Table)
		asked bool
	}{
		"declared":               {func(*Key, *catalog.Table) {}, true},
		"found":                  {func(k *Key, berth *catalog.Table) { k.Declared, k.Likely, berth.PrimaryKey = false, 0.5, nil }, true},
		"found, and hardly one":  {func(k *Key, berth *catalog.Table) { k.Declared, k.Likely, berth.PrimaryKey = false, 0.49, nil }, false},
		"found beside a primary": {func(k *Key, berth *catalog.Table) { k.Declared, k.Likely = false, 0.9 }, false},
		"of one column":          {func(k *Key, _ *catalog.Table) { k.Columns = k.Columns[:1] }, false},
		"of five": {func(k *Key, _ *catalog.Table) {
			k.Columns = []string{"harbour_id", "berth_no", "depth", "since", "harbour_id"}
		}, false},
		"without rows":           {func(k *Key, _ *catalog.Table) { k.Rows = 0 }, false},
		"of all there could be":  {func(k *Key, _ *catalog.Table) { k.Rows = 361 }, false},
		"of most there could be": {func(k *Key, _ *catalog.Table) { k.Rows = 360 }, true},
	} {
		h, d, berth := pairs()
		k := Key{Schema: "s", Table: "berth", Columns: []string{"harbour_id", "berth_no"}, Rows: 60, Declared: true, Likely: 1}
		c.alter(&k, berth)
		d.keys = map[*catalog.Table][]Key{berth: {k}}
		d.ctx, d.parts, d.free = t.Context(), map[catalog.Ref]Part{}, make(chan Asker, 1)
		d.free <- h
		for _, of := range d.tables {
			d.parts[of.Ref()] = Part{Table: of}
		}
		d.findCombined()
		asked := slices.ContainsFunc(h.log, func(q string) bool { return strings.HasPrefix(q, "orphans voyage") })
		if asked != c.asked {
			t.Errorf("%s: asked %q", name, h.log)
		}
	}
}
