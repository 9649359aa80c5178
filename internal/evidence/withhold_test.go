package evidence

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"nexdal/internal/catalog"
)

// secrets is a database in which every value is known when it is seen again: texts begin
// with "secret", numbers with 77.
func secrets(t *testing.T) *Evidence {
	h := &heap{next: map[string]int64{"keeper.id": 7711}}
	keeper := key(h.table("keeper", "id int!", "badge_no text!", "state text", "pin int"), "id")
	keeper.Columns[0].Identity = catalog.IdentityByDefault
	h.fill(keeper, 60, func(i int) []any {
		return []any{7700000 + i, fmt.Sprintf("secret-badge-%d", max(i, 1)), fmt.Sprintf("secret-state-%d", i%3), 7780000 + i%5}
	})
	keeper.Checks = []*catalog.Check{{Name: "pin", Expression: "pin > 90000000", NotValidated: true}}
	visit := key(h.table("visit", "id int!", "keeper_id int", "badge_no text"), "id")
	h.fill(visit, 60, func(i int) []any { return []any{7710000 + i, 7700000 + i - i%40*9, fmt.Sprintf("secret-badge-%d", i)} })
	visit.ForeignKeys = []*catalog.ForeignKey{{Name: "f", Columns: []string{"keeper_id"}, Target: catalog.Ref{Schema: "s", Table: "keeper"}, TargetColumns: []string{"id"}, NotValidated: true}}
	h.fail = nil
	e := h.probe(t, Options{Proposals: []Proposal{{Promise{Origin: "proposed", Kind: "fix", Schema: "s", Table: "keeper", Says: "a fix"}, "55"}}})
	e.Answers = Answers{}
	for _, place := range []string{"profile", "values", "orphans"} { // as of a probe that was ended
		e.Answers[fmt.Sprintf("%q x", place)] = json.RawMessage(`{"Samples":["secret-answer"],"Least":"secret"}`)
	}
	e.Answers[`"varieties" x`] = json.RawMessage(`[{"Distinct":3}]`)
	return e
}

func written(e *Evidence) string {
	b, err := json.Marshal(e)
	if err != nil {
		panic(err)
	}
	return string(b)
}

// TestWithholdAll: no value is left in any place, and every count is.
func TestWithholdAll(t *testing.T) {
	e := secrets(t)
	if before := written(e); strings.Count(before, "secret") < 10 || strings.Count(before, "77") < 10 {
		t.Fatalf("the values are not there to begin with: %s", before)
	}
	counts := fmt.Sprint(len(e.Columns), len(e.Keys), len(e.References), len(e.Promises), len(e.Counters))
	e.Withhold(func(string, string, string) bool { return true })
	after := written(e)
	for _, sign := range []string{"secret", `"77`, ":77"} {
		if i := strings.Index(after, sign); i >= 0 {
			t.Errorf("a value is left: ...%s", after[max(0, i-80):min(len(after), i+40)])
		}
	}
	if fmt.Sprint(len(e.Columns), len(e.Keys), len(e.References), len(e.Promises), len(e.Counters)) != counts {
		t.Error("more than values is gone")
	}
	if len(e.Answers) != 1 {
		t.Errorf("answers: %v", e.Answers)
	}
}

// TestWithholdOne: the values of a column are gone wherever they stand, and those of the
// others are there.
func TestWithholdOne(t *testing.T) {
	for _, c := range []struct{ table, column, gone, stays string }{
		{"keeper", "badge_no", "secret-badge", "secret-state"},
		{"keeper", "state", "secret-state", "secret-badge"},
	} {
		e := secrets(t)
		e.Withhold(func(_, table, column string) bool { return column == c.column })
		after := written(e)
		if strings.Contains(after, c.gone) {
			t.Errorf("%s is withheld, and %s... is there: %s", c.column, c.gone, after)
		}
		if !strings.Contains(after, c.stays) {
			t.Errorf("%s is withheld, and %s... is gone", c.column, c.stays)
		}
	}
	e := secrets(t)
	before := written(e)
	e.Withhold(func(string, string, string) bool { return false })
	if written(e) != before {
		t.Error("nothing is withheld, and something is gone")
	}
	// What a check or a fix shows may be of any column of the table.
	e = secrets(t)
	e.Withhold(func(_, table, column string) bool { return table == "keeper" && column == "state" })
	for _, p := range e.Promises {
		if (p.Kind == "check" || p.Kind == "fix") && p.Samples != nil {
			t.Errorf("%+v", p)
		}
	}
}
