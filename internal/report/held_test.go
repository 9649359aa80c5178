package report

import (
	"strings"
	"testing"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/evidence"
)

// TestHeld: what the columns hold is told of each that was asked about, in the table's order;
// a value is shown where there is one, and nothing stands for what is not known.
func TestHeld(t *testing.T) {
	n := func(i int64) *int64 { return &i }
	s := func(v string) *string { return &v }
	e := &evidence.Evidence{Probed: time.Date(2026, 3, 2, 0, 0, 0, 0, time.UTC), Columns: []evidence.Column{
		{Schema: "main", Table: "visit", Column: "kind", Rows: 2000, Distinct: n(2), Shortest: n(2), Longest: n(3), Values: []string{"in", "out"}},
		{Schema: "main", Table: "visit", Column: "id", Rows: 2000, Distinct: n(2000), Least: s("1"), Greatest: s("2000")},
		{Schema: "main", Table: "visit", Column: "note", Rows: 2000, Nulls: 500, Distinct: n(1), Shortest: n(1), Longest: n(1), Least: s("x\x1b[2J"), Greatest: s("x\x1b[2J")},
		{Schema: "main", Table: "visit", Column: "ever", Rows: 2000, Nulls: 2000, Distinct: n(0)},
		{Schema: "main", Table: "visit", Column: "list", Rows: 2000, Least: s("a"), Greatest: s("b")},
		{Schema: "main", Table: "visit", Column: "gone", Rows: 2000, Distinct: n(7), Least: s("gone"), Greatest: s("zz")},
		{Schema: "other", Table: "visit", Column: "id", Rows: 3, Distinct: n(3), Least: s("elsewhere"), Greatest: s("zz")},
		{Schema: "main", Table: "visit", Column: "level", Rows: 2000, Distinct: n(1234)},
	}}
	visit := &catalog.Table{Schema: "main", Name: "visit"}
	for _, name := range []string{"id", "kind", "note", "ever", "list", "level"} {
		visit.Columns = append(visit.Columns, &catalog.Column{Name: name})
	}
	c := &catalog.Catalog{Schemas: []*catalog.Schema{{Name: "main", Tables: []*catalog.Table{visit}}}}
	told := func(e *evidence.Evidence) string {
		d := Describe(c, catalog.Abilities{}, visit)
		d.Hold(e)
		var b strings.Builder
		(&Page{Writer: &b, Width: 100}).Describe(d)
		_, after, _ := strings.Cut(b.String(), "What they hold")
		after, _, _ = strings.Cut(after, "Keys")
		return strings.TrimSpace(after)
	}
	const want = `in 2,000 rows, probed on 2026-03-02
  id                   all differ                 1 … 2000
  kind                 2 values     2 to 3 letters  in, out
  note   null in 25 %  1 value      1 letter        x�[2J
  ever   null in 100 %
  list
  level                1,234 values`
	if got := told(e); strings.Join(strings.Fields(got), " ") != strings.Join(strings.Fields(want), " ") {
		t.Errorf("told is\n%s", got)
	}
	if got := told(nil); got != "" {
		t.Errorf("without evidence is told\n%s", got)
	}
	for i := range e.Columns {
		e.Columns[i].Sampled = true
	}
	if got := told(e); !strings.HasPrefix(got, "in a sample of 2,000 rows,") {
		t.Errorf("of a sample is told\n%s", got)
	}
}
