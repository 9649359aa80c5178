package catalog

import (
	"slices"
	"strings"
	"testing"
)

// scoped is two schemas and a third: a station that gauges of another schema refer to, by its key
// and by a unique index, and readings in partitions.
func scoped() *Catalog {
	station := &Table{Schema: "north", Name: "station", Kind: Ordinary, Columns: []*Column{{Name: "id"}, {Name: "code"}, {Name: "name"}},
		PrimaryKey: &Key{Name: "station_pkey", Columns: []string{"id"}}, UniqueKeys: []*Key{{Name: "station_code_key", Columns: []string{"code"}}},
		Indexes: []*Index{{Name: "station_code_idx", Unique: true, Parts: []IndexPart{{Column: "code"}}}, {Name: "station_name_idx", Parts: []IndexPart{{Column: "name"}}}}}
	gauge := &Table{Schema: "south", Name: "gauge", Kind: Ordinary, ForeignKeys: []*ForeignKey{
		{Name: "gauge_station_fkey", Columns: []string{"station"}, Target: station.Ref(), TargetColumns: []string{"code"}},
		{Columns: []string{"station_id"}, Target: station.Ref(), TargetColumns: []string{"id"}}}}
	reading := &Table{Schema: "north", Name: "reading", Kind: Ordinary}
	whole := reading.Ref()
	part := &Table{Schema: "north", Name: "reading_2026", Kind: Ordinary, PartitionOf: &whole}
	middle := part.Ref()
	sub := &Table{Schema: "south", Name: "reading_2026_01", Kind: Ordinary, PartitionOf: &middle}
	c := &Catalog{Schemas: []*Schema{
		{Name: "audit", Tables: []*Table{{Schema: "audit", Name: "entry"}}},
		{Name: "north", Tables: []*Table{reading, part, station}, Views: []*View{{Name: "stations"}, {Name: "stations_old"}}},
		{Name: "south", Tables: []*Table{gauge, sub}}},
		Gaps:   []Gap{{Schema: "audit", What: "rows"}, {Schema: "north", Table: "station", What: "rows"}, {What: "accounts"}},
		Faults: []Fault{{Kind: "view", Schema: "north", Name: "stations_old"}, {Kind: "trigger", Schema: "north", Table: "station", Name: "x"}}}
	return c
}

// TestOnly: the scope leaves what it names, partitions with their parents; what it takes out is kept
// in mind as leaning on what stays, by column, key and index; and a pattern that fits nothing fails,
// and takes nothing out.
func TestOnly(t *testing.T) {
	said := func(c *Catalog) string {
		var names []string
		for _, s := range c.Schemas {
			for _, x := range s.Tables {
				names = append(names, x.Name)
			}
			for _, v := range s.Views {
				names = append(names, v.Name)
			}
		}
		return strings.Join(names, " ")
	}
	all := said(scoped())
	for _, x := range []struct {
		name         string
		scope        Scope
		want, fails  string
		gaps, faults int
	}{
		{"nothing said", Scope{}, all, "", 3, 2},
		{"a schema", Scope{Schemas: []string{"north"}}, "reading reading_2026 station stations stations_old", "", 2, 2},
		{"a pattern", Scope{Schemas: []string{"*th"}}, "reading reading_2026 station stations stations_old gauge reading_2026_01", "", 2, 2},
		{"without a schema", Scope{Without: []string{"audit"}}, "reading reading_2026 station stations stations_old gauge reading_2026_01", "", 2, 2},
		{"without a table", Scope{Without: []string{"north.station"}}, "entry reading reading_2026 stations stations_old gauge reading_2026_01", "", 2, 1},
		{"without what is old", Scope{Schemas: []string{"north"}, Without: []string{"*_old"}}, "reading reading_2026 station stations", "", 2, 1},
		{"a parent takes its partitions along", Scope{Without: []string{"reading"}}, "entry station stations stations_old gauge", "", 3, 2},
		{"a partition goes not alone", Scope{Without: []string{"reading_2026"}}, all, "", 3, 2},
		{"no schema", Scope{Schemas: []string{"north", "west"}}, all, "there is no schema west; there are audit, north, south", 3, 2},
		{"nothing to leave out", Scope{Schemas: []string{"north"}, Without: []string{"pier"}}, all, "no schema, table or view pier", 3, 2},
	} {
		c := scoped()
		err := c.Only(x.scope)
		if got := said(c); got != x.want || len(c.Gaps) != x.gaps || len(c.Faults) != x.faults {
			t.Errorf("%s: %s; %d gaps, %d faults", x.name, got, len(c.Gaps), len(c.Faults))
		}
		if (err == nil) != (x.fails == "") || err != nil && !strings.Contains(err.Error(), x.fails) {
			t.Errorf("%s: %v", x.name, err)
		}
	}
	c := scoped()
	if err := c.Only(Scope{Schemas: []string{"north"}}); err != nil {
		t.Fatal(err)
	}
	var leans []string
	for _, d := range c.Table(Ref{"north", "station"}).Dependants {
		leans = append(leans, d.Name+" ("+strings.Join(d.Columns, ", ")+") "+d.On)
	}
	slices.Sort(leans)
	if want := []string{"south.gauge (id) ", "south.gauge (id) station_pkey", "south.gauge gauge_station_fkey (code) ", "south.gauge gauge_station_fkey (code) station_code_idx", "south.gauge gauge_station_fkey (code) station_code_key"}; !slices.Equal(leans, want) {
		t.Errorf("%q, want\n%q", leans, want)
	}
	whole := scoped()
	if err := whole.Only(Scope{Without: []string{"audit"}}); err != nil || len(whole.Table(Ref{"north", "station"}).Dependants) > 0 {
		t.Errorf("what stays leans on nothing: %v", err)
	}
}

// TestDigest: the fingerprint is the structure's, and not the moment's, the name's or the figures'.
func TestDigest(t *testing.T) {
	digest := func(alter func(*Catalog)) string {
		c := scoped()
		if alter != nil {
			alter(c)
		}
		sum, err := c.Digest()
		if err != nil || len(sum) != 64 {
			t.Fatalf("%q %v", sum, err)
		}
		return sum
	}
	was := digest(nil)
	rows := int64(7)
	for name, alter := range map[string]func(*Catalog){
		"name":     func(c *Catalog) { c.Database = "copy" },
		"rows":     func(c *Catalog) { c.Tables()[0].Stats.Rows = &rows },
		"settings": func(c *Catalog) { c.Settings = []Setting{{Name: "a", Value: "b"}} },
		"faults":   func(c *Catalog) { c.Faults = nil },
		"figures":  func(c *Catalog) { c.Gaps = append(c.Gaps, Gap{What: "sizes", Figures: true}) },
	} {
		if digest(alter) != was {
			t.Errorf("the %s are part of the fingerprint", name)
		}
	}
	for name, alter := range map[string]func(*Catalog){
		"column": func(c *Catalog) { c.Table(Ref{"north", "station"}).Columns[1].Nullable = true },
		"index":  func(c *Catalog) { c.Table(Ref{"north", "station"}).Indexes[0].Unique = false },
		"gap":    func(c *Catalog) { c.Gaps = c.Gaps[1:] },
		"table":  func(c *Catalog) { c.Schemas[0].Tables = nil },
	} {
		if digest(alter) == was {
			t.Errorf("the %s is no part of the fingerprint", name)
		}
	}
}
