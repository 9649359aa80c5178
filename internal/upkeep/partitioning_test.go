package upkeep

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
)

// plain is a table that is to be partitioned, in a catalog with one that refers to it.
func plain(alter func(reading, flag *catalog.Table)) (*catalog.Catalog, *catalog.Table) {
	reading := &catalog.Table{Schema: "tide", Name: "reading", Kind: catalog.Ordinary, Columns: []*catalog.Column{{Name: "id"}, {Name: "at", Type: date}, {Name: "level"}}, PrimaryKey: &catalog.Key{Name: "reading_pkey", Columns: []string{"id"}}}
	flag := &catalog.Table{Schema: "tide", Name: "flag", Kind: catalog.Ordinary, Columns: []*catalog.Column{{Name: "reading_id"}}}
	alter(reading, flag)
	c := &catalog.Catalog{Surveyed: time.Date(2026, 3, 10, 12, 0, 0, 0, time.UTC), Schemas: []*catalog.Schema{{Name: "tide", Tables: []*catalog.Table{flag, reading}}}}
	return c, reading
}

// TestPartitioning: how a plain table is partitioned, and why it cannot be.
func TestPartitioning(t *testing.T) {
	at := func(s string) time.Time { at, _ := time.Parse(time.DateOnly, s); return at }
	refers := func(columns, target string) func(_, flag *catalog.Table) {
		return func(_, flag *catalog.Table) {
			flag.ForeignKeys = append(flag.ForeignKeys, &catalog.ForeignKey{Name: "flag_fkey", Columns: []string{columns}, Target: catalog.Ref{Schema: "tide", Table: "reading"}, TargetColumns: []string{target}})
		}
	}
	same := func(_, _ *catalog.Table) {}
	for name, c := range map[string]struct {
		alter  func(reading, flag *catalog.Table)
		tables bool
		w      Partitioning
		want   string
	}{
		"by months": {same, true, Partitioning{Column: "at", Every: "month", Ahead: 2, Most: 9}, "reading_until_2026_05: MINVALUE to 2026-05-01, reading_2026_05: 2026-05-01 to 2026-06-01; key id at"},
		"from, until and a rest": {same, true, Partitioning{Column: "at", Every: "month", From: at("2026-04-01"), Until: at("2026-06-15"), Rest: true, Most: 9},
			"reading_until_2026_04: MINVALUE to 2026-04-01, reading_2026_04: 2026-04-01 to 2026-05-01, reading_2026_05: 2026-05-01 to 2026-06-01, reading_2026_06: 2026-06-01 to 2026-07-01, reading_rest: rest; key id at"},
		"by weeks":                  {same, true, Partitioning{Column: "at", Every: "week", Most: 9}, "reading_until_2026_03_23: MINVALUE to 2026-03-23; key id at"},
		"by quarters, no tables":    {same, false, Partitioning{Column: "at", Every: "quarter", Ahead: 1, Rest: true, Most: 9}, "until_2026_07: MINVALUE to 2026-07-01, rest: rest; key id at"},
		"by years, no tables":       {same, false, Partitioning{Column: "at", Every: "year", Until: at("2029-01-01"), Most: 9}, "until_2028: MINVALUE to 2028-01-01, p2028: 2028-01-01 to 2029-01-01; key id at"},
		"a key that holds it":       {func(r, _ *catalog.Table) { r.PrimaryKey.Columns = []string{"at", "id"} }, true, Partitioning{Column: "at", Every: "year", Most: 9}, "reading_until_2028: MINVALUE to 2028-01-01"},
		"nullable":                  {func(r, _ *catalog.Table) { r.Columns[1].Nullable = true }, true, Partitioning{Column: "at", Every: "year", Most: 9}, "SetNullable; reading_until_2028: MINVALUE to 2028-01-01; key id at"},
		"one that refers":           {refers("reading_id", "id"), true, Partitioning{Column: "at", Every: "year", Most: 9}, "AddColumn; BackfillColumn; CreateIndex; reading_until_2028: MINVALUE to 2028-01-01; key id at; moved reading_id at to id at"},
		"one that refers, no parts": {refers("reading_id", "id"), false, Partitioning{Column: "at", Every: "year", Most: 9}, "! this engine has no foreign keys of or to partitioned tables; 1 would have to go (--without-references)"},
		"without":                   {refers("reading_id", "id"), false, Partitioning{Column: "at", Every: "year", Most: 9, Without: true}, "DropForeignKey; until_2028: MINVALUE to 2028-01-01; key id at"},
		"refers to no key":          {refers("reading_id", "level"), true, Partitioning{Column: "at", Every: "year", Most: 9}, "! foreign key flag_fkey of tide.flag refers to what nothing keeps unique over the parts"},
		"refers to it":              {refers("reading_id", "at"), true, Partitioning{Column: "at", Every: "year", Most: 9}, "! foreign key flag_fkey of tide.flag refers to at already, by a key of its own; see to it by hand"},
		"too many":                  {same, true, Partitioning{Column: "at", Every: "day", Until: at("2026-06-01"), Most: 5}, "! up to 2026-06-01 it would take more than 5 partitions; say so if they are meant (--limit)"},
		"no such length":            {same, true, Partitioning{Column: "at", Every: "hour", Most: 9}, `! a table is partitioned by day, week, month, quarter or year, not by "hour"`},
		"no such column":            {same, true, Partitioning{Column: "when", Every: "day", Most: 9}, "! tide.reading has no column when"},
		"no time":                   {same, true, Partitioning{Column: "level", Every: "day", Most: 9}, "! level is a : ranges of time need a day or a moment"},
		"partitioned already":       {func(r, _ *catalog.Table) { r.PartitionBy = &catalog.PartitionKey{} }, true, Partitioning{Column: "at", Every: "day", Most: 9}, "! tide.reading is no plain table"},
		"another unique key": {func(r, _ *catalog.Table) {
			r.UniqueKeys = []*catalog.Key{{Name: "u", Columns: []string{"id", "level"}}}
		}, true, Partitioning{Column: "at", Every: "day", Most: 9}, "! unique key u (id, level) does not hold at: over several partitions nothing could keep it"},
		"a unique index": {func(r, _ *catalog.Table) {
			r.Indexes = []*catalog.Index{{Name: "x", Unique: true, Origin: catalog.ByPerson, Parts: []catalog.IndexPart{{Column: "level"}}}}
		}, true, Partitioning{Column: "at", Every: "day", Most: 9}, "! unique index x does not hold at: over several partitions nothing could keep it"},
	} {
		tables, reading := plain(c.alter)
		able := can(c.tables)
		able.MaxName = 63
		able.RangeKey = func(t *catalog.Table, column string) (*catalog.PartitionKey, catalog.Bound) {
			if t.Column(column).Type.Family != catalog.Date {
				return nil, catalog.Bound{}
			}
			return &catalog.PartitionKey{Method: "range", Columns: []string{column}}, catalog.Bound{}
		}
		changes, err := c.w.Plan(tables, able, catalog.NewNames(tables, 63), reading)
		var all []string
		for _, ch := range changes {
			cut, ok := ch.(change.PartitionTable)
			if !ok {
				all = append(all, strings.TrimPrefix(fmt.Sprintf("%T", ch), "change."))
				continue
			}
			var parts []string
			for _, p := range cut.Parts {
				parts = append(parts, p.Name+": "+p.Bounds)
			}
			all = append(all, strings.Join(parts, ", "))
			if cut.Key != nil {
				all = append(all, "key "+strings.Join(cut.Key.Columns, " "))
			}
			for _, m := range cut.Moved {
				all = append(all, "moved "+strings.Join(m.New.Columns, " ")+" to "+strings.Join(m.New.TargetColumns, " "))
			}
		}
		got := strings.Join(all, "; ")
		if err != nil {
			got = "! " + err.Error()
		}
		if got != c.want {
			t.Errorf("%s:\n%s, want\n%s", name, got, c.want)
		}
	}
}
