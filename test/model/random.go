package model

import (
	"fmt"
	"math/rand/v2"
	"reflect"
	"time"

	"nexdal/internal/catalog"
)

// Random returns a catalog that holds together and has something of every kind in it:
// keys of all sorts, foreign keys in rings, partitions that are tables and others that
// are not, numbers from identities, defaults and triggers. What is free to be anything,
// comments, figures and options, is drawn from the seed; the same seed gives the same.
func Random(seed uint64) *catalog.Catalog {
	m := &maker{Rand: rand.New(rand.NewPCG(seed, 3)), c: &catalog.Catalog{Database: "saltmere", Surveyed: time.Date(2026, 11, 23, 8, 0, 0, 0, time.UTC)}}
	m.c.Settings = []catalog.Setting{{Name: "enforcement", Value: "off", Source: "database"}, {Name: "slices", Value: "4"}}
	m.c.Objects = []*catalog.Object{{Kind: "extension", Name: "tides", Definition: "CREATE EXTENSION tides"}}
	m.s = &catalog.Schema{Name: "saltmere"}
	m.c.Schemas = []*catalog.Schema{m.s, {Name: "archive"}}
	m.stations()
	m.gauges()
	m.readings()
	m.alerts()
	for i := range 1 + m.IntN(3) {
		m.plain(i)
	}
	m.others()
	for _, t := range m.c.Tables() {
		m.adorn(t)
	}
	for _, s := range m.c.Schemas {
		for _, x := range s.Sequences {
			m.free(reflect.ValueOf(x).Elem(), "Comment", "Last")
		}
		for _, x := range s.Views {
			m.free(reflect.ValueOf(x).Elem(), "Comment", "Options")
		}
		for _, x := range s.Routines {
			m.free(reflect.ValueOf(x).Elem(), "Comment")
		}
	}
	m.c.Sort()
	return m.c
}

type maker struct {
	*rand.Rand
	c *catalog.Catalog
	s *catalog.Schema
}

// Types that every engine knows.
var (
	number = catalog.Type{Native: "integer", Family: catalog.Integer, Bits: 32}
	large  = catalog.Type{Native: "bigint", Family: catalog.Integer, Bits: 64}
	words  = catalog.Type{Native: "varchar(40)", Family: catalog.Text, Length: 40}
	date   = catalog.Type{Native: "date", Family: catalog.Date}
)

func ref(table string) catalog.Ref { return catalog.Ref{Schema: "saltmere", Table: table} }

// table adds a table with the columns.
func (m *maker) table(name string, columns ...*catalog.Column) *catalog.Table {
	t := &catalog.Table{Schema: m.s.Name, Name: name, Kind: catalog.Ordinary, Columns: columns}
	m.s.Tables = append(m.s.Tables, t)
	return t
}

func column(name string, t catalog.Type, nullable bool) *catalog.Column {
	return &catalog.Column{Name: name, Type: t, Nullable: nullable}
}

func index(name string, origin catalog.Origin, columns ...string) *catalog.Index {
	x := &catalog.Index{Name: name, Origin: origin, Method: "btree", Unique: origin == catalog.ByPrimaryKey || origin == catalog.ByUniqueKey}
	for _, c := range columns {
		x.Parts = append(x.Parts, catalog.IndexPart{Column: c})
	}
	return x
}

func primary(t *catalog.Table, columns ...string) {
	name := t.Name + "_pkey"
	t.PrimaryKey = &catalog.Key{Name: name, Columns: columns, Index: name}
	t.Indexes = append(t.Indexes, index(name, catalog.ByPrimaryKey, columns...))
}

func unique(t *catalog.Table, columns ...string) {
	name := fmt.Sprintf("%s_%s_key", t.Name, columns[0])
	t.UniqueKeys = append(t.UniqueKeys, &catalog.Key{Name: name, Columns: columns, Index: name})
	t.Indexes = append(t.Indexes, index(name, catalog.ByUniqueKey, columns...))
}

// refer adds a foreign key, with an index made by CREATE INDEX or for the foreign key, or none.
func (m *maker) refer(t *catalog.Table, column, target, key string) *catalog.ForeignKey {
	actions := []catalog.Action{catalog.NoAction, catalog.Restrict, catalog.Cascade}
	f := &catalog.ForeignKey{Name: t.Name + "_" + column + "_fkey", Columns: []string{column}, Target: ref(target), TargetColumns: []string{key},
		OnDelete: actions[m.IntN(3)], OnUpdate: actions[m.IntN(2)], Deferrable: m.IntN(3) == 0}
	if to := m.c.Table(f.Target); to != nil {
		f.TargetIndex, _ = to.KeyOn(f.TargetColumns)
	}
	t.ForeignKeys = append(t.ForeignKeys, f)
	switch m.IntN(3) {
	case 0:
		t.Indexes = append(t.Indexes, index(t.Name+"_"+column+"_idx", catalog.ByPerson, column))
	case 1:
		t.Indexes = append(t.Indexes, index(f.Name, catalog.ByForeignKey, column))
	}
	return f
}

// sequence adds one that feeds the column, if any.
func (m *maker) sequence(name string, feeds *catalog.ColumnRef, how string) *catalog.Sequence {
	q := &catalog.Sequence{Name: name, Type: "integer", Start: 1, Increment: 1, Least: 1, Most: 1<<31 - 1, Cache: 1}
	if feeds != nil {
		q.UsedBy = []catalog.SequenceUse{{ColumnRef: *feeds, How: how}}
	}
	m.s.Sequences = append(m.s.Sequences, q)
	return q
}

func at(t *catalog.Table, column string) *catalog.ColumnRef {
	return &catalog.ColumnRef{Schema: t.Schema, Table: t.Name, Column: column}
}

// stations: a key of two columns that an identity could take the place of, and one that
// is an identity.
func (m *maker) stations() {
	section := m.table("coast_section", column("region", words, false), column("code", words, false), column("name", words, true))
	primary(section, "region", "code")
	station := m.table("station", column("id", number, false), column("code", words, false), column("name", words, true), column("region", words, true), column("section", words, true), column("near_id", number, true))
	id := station.Columns[0]
	q := m.sequence("station_id_seq", at(station, "id"), "identity")
	q.Identity, q.OwnedBy = true, at(station, "id")
	id.Identity, id.Sequence = catalog.IdentityAlways, &catalog.Ref{Schema: "saltmere", Table: q.Name}
	primary(station, "id")
	unique(station, "code")
	station.Indexes = append(station.Indexes, index("station_name_idx", catalog.ByPerson, "name"))
	f := m.refer(station, "region", "coast_section", "region")
	f.Columns, f.TargetColumns, f.TargetIndex = []string{"region", "section"}, []string{"region", "code"}, "coast_section_pkey"
	station.Indexes = station.Indexes[:3]
	m.refer(station, "near_id", "station", "id")
}

// gauges: numbers from a default, from a sequence shared with others, and by a trigger.
func (m *maker) gauges() {
	gauge := m.table("gauge", column("id", number, false), column("station_id", number, false), column("twin_id", number, true), column("serial", words, true))
	id := gauge.Columns[0]
	q := m.sequence("gauge_id_seq", at(gauge, "id"), "default")
	q.OwnedBy = at(gauge, "id")
	id.Identity, id.Sequence, id.Default = catalog.IdentitySequence, &catalog.Ref{Schema: "saltmere", Table: q.Name}, "nextval('gauge_id_seq')"
	primary(gauge, "id")
	m.refer(gauge, "station_id", "station", "id").NotValidated = m.IntN(2) == 0
	m.refer(gauge, "twin_id", "gauge", "id")
	gauge.Checks = []*catalog.Check{{Name: "gauge_serial_check", Expression: "serial <> ''", NotValidated: true}, {Name: "gauge_id_check", Expression: "id > 0"}}
	gauge.Triggers = []*catalog.Trigger{{Name: "gauge_stamp", Timing: "before", Events: []string{"update"}, PerRow: true, Calls: "saltmere.stamp", Definition: "CREATE TRIGGER gauge_stamp"}}

	visit := m.table("visit", column("id", number, false), column("gauge_id", number, false), column("at", date, true))
	primary(visit, "id")
	m.refer(visit, "gauge_id", "gauge", "id")
	shared := m.sequence("visit_seq", at(visit, "id"), "default")
	task := m.table("visit_task", column("id", number, false), column("visit_id", number, true))
	shared.UsedBy = append(shared.UsedBy, catalog.SequenceUse{ColumnRef: *at(task, "id"), How: "default"})
	for _, t := range []*catalog.Table{visit, task} {
		t.Columns[0].Default, t.Columns[0].Sequence = "nextval('visit_seq')", &catalog.Ref{Schema: "saltmere", Table: shared.Name}
	}
	m.refer(task, "visit_id", "visit", "id")

	part := m.table("spare_part", column("no", number, false), column("name", words, false))
	primary(part, "no")
	m.sequence("part_seq", at(part, "no"), "trigger").UsedBy[0].Alone = true
	part.Columns[0].Sequence = &catalog.Ref{Schema: "saltmere", Table: "part_seq"}
	part.Triggers = []*catalog.Trigger{{Name: "part_number", Timing: "before", Events: []string{"insert"}, PerRow: true, Calls: "saltmere.number_part", Definition: "CREATE TRIGGER part_number"}}
	m.sequence("spare_seq", nil, "")
}

// readings: a partitioned table whose parts are tables, and one whose parts are none.
func (m *maker) readings() {
	made := func(name string) *catalog.Table {
		t := m.table(name, column("gauge_id", number, false), column("day", date, false), column("level", number, true))
		primary(t, "gauge_id", "day")
		t.Indexes = append(t.Indexes, index(name+"_level_idx", catalog.ByPerson, "level"))
		return t
	}
	whole := made("reading")
	whole.Kind, whole.PartitionBy = catalog.Partitioned, &catalog.PartitionKey{Method: "range", Columns: []string{"day"}, Definition: "RANGE (day)"}
	f := m.refer(whole, "gauge_id", "gauge", "id")
	whole.Checks = []*catalog.Check{{Name: "reading_level_check", Expression: "level > -1000"}}
	for year := 2024; year < 2027; year++ {
		part := made(fmt.Sprintf("reading_%d", year))
		of := whole.Ref()
		part.PartitionOf, part.Bounds = &of, fmt.Sprintf("FOR VALUES FROM ('%d-01-01') TO ('%d-01-01')", year, year+1)
		for _, c := range part.Columns {
			c.Inherited = true
		}
		part.Indexes[0].Inherited, part.Indexes[0].PartOf = true, "reading_pkey"
		part.Indexes[1].Inherited, part.Indexes[1].PartOf = true, "reading_level_idx"
		share := f.Clone()
		share.Inherited = true
		part.ForeignKeys = []*catalog.ForeignKey{share}
		part.Checks = []*catalog.Check{{Name: "reading_level_check", Expression: "level > -1000", Inherited: true}}
	}
	table := m.table("tide_table", column("station_id", number, false), column("day", date, false), column("height", number, true))
	primary(table, "station_id", "day")
	table.PartitionBy = &catalog.PartitionKey{Method: "range", Columns: []string{"day"}, Definition: "range (day)"}
	for year := 2024; year < 2027; year++ {
		rows := int64(m.IntN(1000))
		table.Partitions = append(table.Partitions, &catalog.Partition{Name: fmt.Sprintf("y%d", year), Bounds: fmt.Sprintf("VALUES LESS THAN ('%d-01-01')", year+1), Rows: &rows, Options: []string{"compressed"}})
	}
}

// alerts: tables without a key, with unique indexes alone, laid out over a cluster.
func (m *maker) alerts() {
	alert := m.table("storm_alert", column("id", large, false), column("level", number, false), column("kind", words, true))
	x := index("storm_alert_id_idx", catalog.ByPerson, "id")
	x.Unique = true
	alert.Indexes = append(alert.Indexes, x)
	alert.Spread, alert.SortKey = &catalog.Spread{Style: "key", Column: "id"}, &catalog.SortKey{Columns: []string{"level"}}
	alert.Columns[2].Encoding = "raw"
	m.table("alert_station", column("alert_id", large, false), column("station_id", number, false))
}

// plain adds a table of a random shape.
func (m *maker) plain(i int) {
	t := m.table(fmt.Sprintf("note_%d", i), column("id", []catalog.Type{number, large}[m.IntN(2)], false))
	for k := range 1 + m.IntN(4) {
		t.Columns = append(t.Columns, column(fmt.Sprintf("c%d", k), []catalog.Type{number, large, words, date}[m.IntN(4)], m.IntN(2) == 0))
	}
	if m.IntN(4) > 0 {
		primary(t, "id")
	}
	if m.IntN(2) == 0 {
		unique(t, t.Columns[1].Name)
	}
	if m.IntN(2) == 0 {
		t.Indexes = append(t.Indexes, index(t.Name+"_both", catalog.ByPerson, t.Columns[1].Name, "id"))
	}
}

func (m *maker) others() {
	m.s.Views = []*catalog.View{{Name: "station_names", Columns: []*catalog.ViewColumn{{Name: "name", Type: "varchar(40)"}}, Definition: "SELECT name FROM station", Reads: []catalog.ObjectRef{{Kind: catalog.KindTable, Schema: "saltmere", Name: "station"}}}}
	m.s.Routines = []*catalog.Routine{{Name: "stamp", Kind: "function", Returns: "trigger", Language: "plpgsql", Definition: "CREATE FUNCTION saltmere.stamp()"},
		{Name: "number_part", Kind: "function", Returns: "trigger", Language: "plpgsql", Definition: "CREATE FUNCTION saltmere.number_part()"}}
	m.s.Types = []*catalog.UserType{{Name: "level_mm", Kind: catalog.DomainType, Base: &number}}
	m.s.Objects = []*catalog.Object{{Kind: "collation", Name: "tidal", Definition: "CREATE COLLATION saltmere.tidal (locale = 'C')"}}
}

// adorn gives a table and its parts what changes have to carry along untouched.
func (m *maker) adorn(t *catalog.Table) {
	m.free(reflect.ValueOf(t).Elem(), "Comment", "Storage", "Tablespace", "Definition", "Options")
	m.free(reflect.ValueOf(&t.Stats).Elem(), "Rows", "DeadRows", "Counter", "Analysed", "Bytes", "IndexBytes", "IndexOrder", "Slices", "Unsorted", "Stale")
	for _, c := range t.Columns {
		m.free(reflect.ValueOf(c).Elem(), "Comment", "Options")
		m.free(reflect.ValueOf(&c.Stats).Elem(), "Nulls", "Distinct", "Common", "Bytes")
	}
	for _, x := range t.Indexes {
		m.free(reflect.ValueOf(x).Elem(), "Comment", "Definition", "Storage", "Bytes", "Scans")
	}
	for _, k := range t.Keys() {
		m.free(reflect.ValueOf(k).Elem(), "Comment")
	}
	for _, f := range t.ForeignKeys {
		m.free(reflect.ValueOf(f).Elem(), "Comment")
	}
	for _, k := range t.Checks {
		m.free(reflect.ValueOf(k).Elem(), "Comment")
	}
	for _, g := range t.Triggers {
		m.free(reflect.ValueOf(g).Elem(), "Comment")
	}
}

// free sets half of the named fields of a struct.
func (m *maker) free(v reflect.Value, names ...string) {
	f := filler{n: m.IntN(10_000), depth: map[reflect.Type]int{}}
	for _, name := range names {
		if m.IntN(2) == 0 {
			f.fill(v.FieldByName(name))
		}
	}
}
