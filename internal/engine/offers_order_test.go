package engine

import (
	"strings"
	"testing"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
)

// keeps is an engine that looks at references when its abilities say.
type keeps struct {
	able
	can catalog.Abilities
}

func (k keeps) Abilities(string) catalog.Abilities { return k.can }

// TestOrderOfWrites: a foreign key is not offered where a program writes the two tables in an order that
// it would refuse, or a trigger comes too late.
func TestOrderOfWrites(t *testing.T) {
	on := func(timing, event, calls, text string) *catalog.Trigger {
		return &catalog.Trigger{Name: "g", Timing: timing, Events: []string{event}, Calls: calls, Definition: text}
	}
	key := func(more func(*catalog.ForeignKey)) *catalog.ForeignKey {
		f := &catalog.ForeignKey{Name: "f", Columns: []string{"station_id"}, Target: catalog.Ref{Schema: "s", Table: "station"}, TargetColumns: []string{"id"}}
		if more != nil {
			more(f)
		}
		return f
	}
	for name, x := range map[string]struct {
		text      string           // of a procedure
		ofGauge   *catalog.Trigger // the table that is to refer
		ofStation *catalog.Trigger
		rule      string // of the table that is to refer
		key       func(*catalog.ForeignKey)
		can       catalog.Abilities
		says      string
	}{
		"parts first":            {text: "INSERT INTO gauge VALUES (1, 1); INSERT INTO station VALUES (1)", says: "procedure p adds rows to gauge before those of station"},
		"whole first":            {text: "INSERT INTO station VALUES (1); INSERT INTO gauge VALUES (1, 1); INSERT INTO station VALUES (2)"},
		"parts alone":            {text: "INSERT INTO gauge VALUES (1, 1); UPDATE station SET name = 'x'"},
		"whole gone first":       {text: "DELETE FROM station WHERE id = 1; DELETE FROM gauge WHERE station_id = 1", says: "procedure p removes rows of station before those of gauge"},
		"parts gone first":       {text: "DELETE FROM gauge WHERE station_id = 1; DELETE FROM station WHERE id = 1"},
		"both at once":           {text: "WITH x AS (DELETE FROM station RETURNING id) DELETE FROM gauge USING x"},
		"gone, and it cascades":  {text: "DELETE FROM station WHERE id = 1; DELETE FROM gauge WHERE station_id = 1", key: func(f *catalog.ForeignKey) { f.OnDelete = catalog.Cascade }},
		"gone, and it restricts": {text: "DELETE FROM station; DELETE FROM gauge", key: func(f *catalog.ForeignKey) { f.OnDelete = catalog.Restrict }, says: "procedure p removes"},
		"renumbered":             {text: "UPDATE gauge SET station_id = 2; UPDATE station SET id = 2", says: "procedure p alters what gauge refers to"},
		"renumbered later":       {text: "UPDATE gauge SET note = ''; UPDATE station SET name = ''; UPDATE gauge SET station_id = 2; UPDATE station SET id = 2", says: "procedure p alters what gauge refers to"},
		"renumbered, cascading":  {text: "UPDATE gauge SET station_id = 2; UPDATE station SET id = 2", key: func(f *catalog.ForeignKey) { f.OnUpdate = catalog.Cascade }},
		"another column":         {text: "UPDATE gauge SET station_id = 2; UPDATE station SET name = 2"},
		"another part":           {text: "UPDATE gauge SET no = 2; UPDATE station SET id = 2"},
		"deferred":               {text: "INSERT INTO gauge VALUES (1, 1); INSERT INTO station VALUES (1)", key: func(f *catalog.ForeignKey) { f.Deferrable, f.Deferred = true, true }},
		"nothing keeps it":       {text: "INSERT INTO gauge VALUES (1, 1); INSERT INTO station VALUES (1)", can: catalog.Abilities{KeysUnenforced: true}},
		"to itself":              {text: "INSERT INTO gauge VALUES (1, 1); INSERT INTO gauge VALUES (2, 1)", key: func(f *catalog.ForeignKey) { f.Target.Table = "gauge" }},
		"to what is not there":   {text: "INSERT INTO gauge VALUES (1, 1); INSERT INTO shed VALUES (1)", key: func(f *catalog.ForeignKey) { f.Target.Table = "shed" }},
		"brought afterwards":     {ofGauge: on("after", "insert", "", "INSERT INTO station VALUES (NEW.station_id)"), says: "trigger g adds rows to station only once"},
		"brought before":         {ofGauge: on("before", "insert", "", "INSERT INTO station VALUES (NEW.station_id)")},
		"brought by a routine":   {text: "INSERT INTO station VALUES (1)", ofGauge: on("after", "insert", "s.p()", "CREATE TRIGGER g"), says: "trigger g adds rows"},
		"another routine":        {text: "INSERT INTO station VALUES (1)", ofGauge: on("after", "insert", "s.pp()", "CREATE TRIGGER g")},
		"at the end":             {ofGauge: on("after", "insert", "", "INSERT INTO station VALUES (NEW.station_id)"), can: catalog.Abilities{ReferencesAtEnd: true}},
		"parts first, at the end": {text: "INSERT INTO gauge VALUES (1, 1); INSERT INTO station VALUES (1)", can: catalog.Abilities{ReferencesAtEnd: true},
			says: "procedure p adds rows"},
		"cleared afterwards":        {ofStation: on("after", "delete", "", "DELETE FROM gauge WHERE station_id = OLD.id"), says: "trigger g sees to the rows of gauge only once"},
		"emptied afterwards":        {ofStation: on("after", "delete", "", "UPDATE gauge SET station_id = NULL"), says: "trigger g sees to"},
		"told afterwards":           {ofStation: on("after", "delete", "", "UPDATE gauge SET note = 'gone'")},
		"cleared before":            {ofStation: on("before", "delete", "", "DELETE FROM gauge WHERE station_id = OLD.id")},
		"cleared, and cascading":    {ofStation: on("after", "delete", "", "DELETE FROM gauge"), key: func(f *catalog.ForeignKey) { f.OnDelete = catalog.Cascade }},
		"cleared after an insert":   {ofStation: on("after", "insert", "", "DELETE FROM gauge")},
		"follows afterwards":        {ofStation: on("after", "update", "", "UPDATE gauge SET station_id = NEW.id"), says: "trigger g alters the references of gauge"},
		"follows before":            {ofStation: on("before", "update", "", "UPDATE gauge SET station_id = NEW.id"), says: "trigger g alters the references of gauge"},
		"follows, and cascading":    {ofStation: on("before", "update", "", "UPDATE gauge SET station_id = NEW.id"), key: func(f *catalog.ForeignKey) { f.OnUpdate = catalog.Cascade }},
		"brought by a rule":         {rule: "CREATE RULE r AS ON INSERT TO gauge DO ALSO INSERT INTO station VALUES (NEW.station_id)", says: "rule r adds rows to station only once"},
		"told by a rule":            {rule: "CREATE RULE r AS ON INSERT TO gauge DO ALSO INSERT INTO shed VALUES (NEW.station_id)"},
		"brought by a rule, at end": {rule: "CREATE RULE r AS ON INSERT TO gauge DO ALSO INSERT INTO station VALUES (NEW.station_id)", can: catalog.Abilities{ReferencesAtEnd: true}},
	} {
		station := &catalog.Table{Schema: "s", Name: "station", Columns: []*catalog.Column{{Name: "id"}, {Name: "name"}}}
		gauge := &catalog.Table{Schema: "s", Name: "gauge", Columns: []*catalog.Column{{Name: "no"}, {Name: "station_id"}, {Name: "note"}}}
		if x.ofGauge != nil {
			gauge.Triggers = append(gauge.Triggers, x.ofGauge)
		}
		if x.ofStation != nil {
			station.Triggers = append(station.Triggers, x.ofStation)
		}
		if x.rule != "" {
			gauge.Objects = append(gauge.Objects, &catalog.Object{Kind: "rule", Name: "r", Definition: x.rule})
		}
		s := &catalog.Schema{Name: "s", Tables: []*catalog.Table{station, gauge}, Routines: []*catalog.Routine{{Name: "p", Kind: "procedure", Definition: x.text}}}
		add := change.AddForeignKey{Table: gauge.Ref(), ForeignKey: key(x.key)}
		why := Offers(keeps{can: x.can}, &catalog.Catalog{Schemas: []*catalog.Schema{s}})(add)
		if x.says == "" && why != "" || !strings.HasPrefix(why, x.says) {
			t.Errorf("%s: %q, want %q", name, why, x.says)
		}
		on, off := *add.ForeignKey, *add.ForeignKey
		off.Disabled = true
		if again := Offers(keeps{can: x.can}, &catalog.Catalog{Schemas: []*catalog.Schema{s}})(change.AlterForeignKey{Table: gauge.Ref(), Old: &off, New: &on}); again != why {
			t.Errorf("%s, switched on: %q, want %q", name, again, why)
		}
		if again := Offers(keeps{can: x.can}, &catalog.Catalog{Schemas: []*catalog.Schema{s}})(change.AlterForeignKey{Table: gauge.Ref(), Old: &on, New: &on}); again != "" {
			t.Errorf("%s, and kept already: %q", name, again)
		}
		for _, g := range append(gauge.Triggers, station.Triggers...) {
			g.Enabled = "disabled"
			if why := Offers(keeps{can: x.can}, &catalog.Catalog{Schemas: []*catalog.Schema{s}})(add); why != "" {
				t.Errorf("%s, switched off: %q", name, why)
			}
		}
	}
}
