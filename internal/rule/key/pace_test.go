package key

import (
	"testing"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/evidence"
	"nexdal/internal/rule"
)

// TestPace: the day on which the numbers end follows from how many went while a column told when,
// and is named only where the data tells so, up to the survey.
func TestPace(t *testing.T) {
	today := time.Date(2026, 7, 1, 8, 30, 0, 0, time.UTC)
	value := func(s string) *string { return &s }
	for _, c := range []struct {
		name              string
		least, greatest   *string // numbers
		from, to          *string // moments
		nulls             int64
		left              int64
		column, since, by string
		second            *string // least of another moment
	}{
		{"a year", value("1"), value("3650"), value("2025-07-01 10:00:00"), value("2026-07-01"), 0, 1000, "at", "2025-07-01", "2026-10-09", nil},
		{"the longer of two", value("1"), value("3651"), value("2025-07-01"), value("2026-07-01"), 0, 1000, "earlier", "2024-07-01", "2027-01-17", value("2024-07-01")},
		{"not within a hundred years", value("1"), value("3650"), value("2025-07-01"), value("2026-07-01"), 0, 10_000_000, "at", "2025-07-01", "", nil},
		{"some without a moment", value("1"), value("3650"), value("2025-07-01"), value("2026-07-01"), 1, 1000, "", "", "", nil},
		{"a few days", value("1"), value("3650"), value("2026-06-28"), value("2026-07-01"), 0, 1000, "", "", "", nil},
		{"long ago", value("1"), value("3650"), value("2020-07-01"), value("2024-07-01"), 0, 1000, "", "", "", nil},
		{"the future", value("1"), value("3650"), value("2025-07-01"), value("2027-07-01"), 0, 1000, "", "", "", nil},
		{"one number", value("7"), value("7"), value("2025-07-01"), value("2026-07-01"), 0, 1000, "", "", "", nil},
		{"no numbers", value("a"), value("b"), value("2025-07-01"), value("2026-07-01"), 0, 1000, "", "", "", nil},
		{"no moments", value("1"), value("3650"), value("x"), value("2026-07-01"), 0, 1000, "", "", "", nil},
		{"values that were withheld", nil, nil, value("2025-07-01"), value("2026-07-01"), 0, 1000, "", "", "", nil},
	} {
		id, at, earlier := &catalog.Column{Name: "id"}, &catalog.Column{Name: "at", Type: catalog.Type{Family: catalog.Timestamp}}, &catalog.Column{Name: "earlier", Type: catalog.Type{Family: catalog.Date}}
		table := &catalog.Table{Schema: "s", Name: "t", Columns: []*catalog.Column{id, at, earlier}}
		e := &evidence.Evidence{Columns: []evidence.Column{{Schema: "s", Table: "t", Column: "id", Least: c.least, Greatest: c.greatest}, {Schema: "s", Table: "t", Column: "at", Least: c.from, Greatest: c.to, Nulls: c.nulls}}}
		if c.second != nil {
			e.Columns = append(e.Columns, evidence.Column{Schema: "s", Table: "t", Column: "earlier", Least: c.second, Greatest: c.to})
		}
		var found pace
		var ok bool
		r := &rule.Rule{ID: "key/x", Title: "x", Doc: "x", Severity: rule.Notice, Consequence: rule.Untidy, Uses: []rule.Need{rule.Evidence}, Check: func(p *rule.Pass) error {
			found, ok = paceOf(p, table, id)
			return nil
		}}
		rule.Checker{Rules: []*rule.Rule{r}, Evidence: e}.Run(t.Context(), &catalog.Catalog{Surveyed: today, Schemas: []*catalog.Schema{{Name: "s", Tables: []*catalog.Table{table}}}})
		if ok != (c.column != "") || found.column != c.column || ok && found.from.Format(time.DateOnly) != c.since {
			t.Errorf("%s: %v %+v", c.name, ok, found)
			continue
		}
		if !ok {
			continue
		}
		by, ends := found.end(c.left, today)
		if ends != (c.by != "") || ends && by.Format(time.DateOnly) != c.by {
			t.Errorf("%s: %v %s", c.name, ends, by.Format(time.DateOnly))
		}
	}
}
