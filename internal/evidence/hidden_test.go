package evidence

import (
	"context"
	"errors"
	"slices"
	"strings"
	"testing"

	"nexdal/internal/catalog"
)

// guarding is an asker that tells what filters a table, or fails to.
type guarding struct {
	*heap
	by  string
	err error
}

func (g guarding) Filters(_ context.Context, t *catalog.Table) (string, error) {
	if t.Name == "station" {
		return g.by, g.err
	}
	return "", nil
}

// spaced are expressions that name what is among their words.
type spaced struct{ catalog.Expressions }

func (spaced) Mentions(expression, name string) bool {
	return slices.Contains(strings.Fields(expression), name)
}

// TestHidden: of a table of which rows may be hidden nothing is said, nor of what refers to it;
// whether the catalog tells of it or the asker has to ask, and where asking fails.
func TestHidden(t *testing.T) {
	for name, x := range map[string]struct {
		option string
		guard  *guarding
		says   string
		found  bool
	}{
		"nothing":     {found: true},
		"the catalog": {option: catalog.RowFilter + "policy own_rows", says: "policy own_rows may hide rows of s.station from who asks"},
		"the asker":   {guard: &guarding{by: "policy asked"}, says: "policy asked may hide rows of s.station from who asks"},
		"not told":    {guard: &guarding{err: errors.New("no")}, says: "what could not be asked may hide rows of s.station from who asks"},
		"asked, none": {guard: &guarding{}, found: true},
	} {
		h := &heap{}
		station := key(h.table("station", "id int!", "code text", "north int"), "id")
		h.fill(station, 200, func(i int) []any { return []any{i + 1, strings.Repeat("x", i%7+1) + string(rune('a'+i%26)), i % 2} })
		gauge := key(h.table("gauge", "id int!", "station_id int!", "serial text!"), "id")
		h.fill(gauge, 300, func(i int) []any { return []any{i + 1, i%180 + 1, strings.Repeat("y", i%9) + string(rune('a'+i%26))} })
		gauge.ForeignKeys = append(gauge.ForeignKeys, &catalog.ForeignKey{Name: "gauge_station", Columns: []string{"station_id"}, Target: station.Ref(), TargetColumns: []string{"id"}, NotValidated: true})
		station.Checks = append(station.Checks, &catalog.Check{Name: "half", Expression: "north > -1", NotValidated: true})
		if x.option != "" {
			station.Options = append(station.Options, x.option)
		}
		var asker Asker = h
		if x.guard != nil {
			x.guard.heap = h
			asker = *x.guard
		}
		e, err := Discover(t.Context(), []Asker{asker}, h.c, Options{KeyColumns: 2, Can: catalog.Abilities{Expressions: spaced{catalog.Abilities{}.Reads()}}, Proposals: []Proposal{
			{Promise{Origin: "proposed", Kind: "not null", Schema: "s", Table: "station", Says: "required"}, "1 of station"},
			{Promise{Origin: "proposed", Kind: "check", Schema: "s", Table: "gauge", Says: "north alone"}, "2 of gauge in station"},
			{Promise{Origin: "proposed", Kind: "check", Schema: "s", Table: "gauge", Says: "a serial"}, "3 of gauge"},
		}})
		if err != nil {
			t.Fatal(err)
		}
		station0 := func(table string) bool { return table == "station" }
		judged := slices.ContainsFunc(e.Columns, func(c Column) bool { return station0(c.Table) }) || slices.ContainsFunc(e.Keys, func(k Key) bool { return station0(k.Table) }) ||
			slices.ContainsFunc(slices.Concat(e.References, e.Perhaps), func(r Reference) bool { return station0(r.Table) || station0(r.Target) }) ||
			slices.ContainsFunc(e.Promises, func(p Promise) bool {
				return station0(p.Table) || p.Object == "gauge_station" || p.Says == "north alone"
			})
		if judged != x.found {
			t.Errorf("%s: judged is %v: %+v %+v %+v", name, judged, e.Keys, e.References, e.Promises)
		}
		if !slices.ContainsFunc(e.Promises, func(p Promise) bool { return p.Says == "a serial" }) || !slices.ContainsFunc(e.Columns, func(c Column) bool { return c.Table == "gauge" }) {
			t.Errorf("%s: the other table is not asked about: %+v", name, e.Gaps)
		}
		if told := slices.ContainsFunc(e.Gaps, func(g catalog.Gap) bool { return g.Reason == x.says && g.Table == "station" }); told != (x.says != "") {
			t.Errorf("%s: the gaps are %+v", name, e.Gaps)
		}
		for _, asked := range h.log {
			if x.says != "" && strings.HasSuffix(asked, " station") {
				t.Errorf("%s: asked %s", name, asked)
			}
		}
	}
}
