package rule

import (
	"slices"
	"strings"
	"testing"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
)

var on = catalog.Ref{Schema: "s", Table: "t"}

// sample is one table with two indexes.
func sample() *catalog.Catalog {
	text := catalog.Type{Native: "text", Family: catalog.Text}
	return &catalog.Catalog{Schemas: []*catalog.Schema{{Name: "s", Tables: []*catalog.Table{{Schema: "s", Name: "t", Kind: catalog.Ordinary,
		Columns: []*catalog.Column{{Name: "a", Type: text}, {Name: "b", Type: text}},
		Indexes: []*catalog.Index{{Name: "x", Origin: catalog.ByPerson}, {Name: "y", Origin: catalog.ByPerson}}}}}}}
}

// whileThere reports an index for as long as it is there, with these fixes.
func whileThere(id, index string, fixes ...Fix) *Rule {
	return &Rule{ID: id, Severity: Warning, Check: func(p *Pass) error {
		if p.Catalog.Table(on).Index(index) != nil {
			p.Report(Finding{Table: on, Object: index, Fixes: fixes})
		}
		return nil
	}}
}

func drop(index string) Fix {
	return Fix{ID: "drop", Title: "drop " + index, Changes: []change.Change{change.DropIndex{Table: on, Name: index}}}
}

func free(change.Change) string { return "" }

func heal(t *testing.T, rules []*Rule, refuse func(change.Change) string) (titles []string, r *Remedy) {
	t.Helper()
	c := sample()
	j := Judge{Rules: rules}
	r, err := j.Heal(t.Context(), c, j.Run(t.Context(), c).Findings, refuse)
	if err != nil {
		t.Fatal(err)
	}
	for _, it := range r.Plan {
		titles = append(titles, it.Change.Title())
	}
	return titles, r
}

// TestHeal: one change answers all findings that ask for it; what a plan
// brings about is answered too.
func TestHeal(t *testing.T) {
	spare := &Rule{ID: "c/spare", Severity: Warning, Check: func(p *Pass) error { // y is of use only while x is there
		if t := p.Catalog.Table(on); t.Index("x") == nil && t.Index("y") != nil {
			p.Report(Finding{Table: on, Object: "y", Fixes: []Fix{drop("y")}})
		}
		return nil
	}}
	titles, r := heal(t, []*Rule{whileThere("a/one", "x", drop("x")), whileThere("b/two", "x", drop("x")), spare}, free)
	if !slices.Equal(titles, []string{"drop index x of s.t", "drop index y of s.t"}) {
		t.Errorf("%q", titles)
	}
	if len(r.Plan[0].Answers) != 2 || len(r.Added) != 1 || len(r.Open) != 0 || len(r.After.Table(on).Indexes) != 0 {
		t.Errorf("%+v", r)
	}
}

// TestRefused: where the first fix cannot be written the next is taken; where
// none can, the finding stays open with the reason.
func TestRefused(t *testing.T) {
	refuse := func(ch change.Change) string {
		if d, ok := ch.(change.DropIndex); ok && d.Name == "x" {
			return "x is dear to us"
		}
		return ""
	}
	titles, r := heal(t, []*Rule{whileThere("a/one", "y", drop("x"), drop("y")), whileThere("b/two", "x", drop("x")), whileThere("c/three", "x")}, refuse)
	if !slices.Equal(titles, []string{"drop index y of s.t"}) || len(r.Open) != 2 {
		t.Errorf("%q, open %+v", titles, r.Open)
	}
	if !strings.Contains(r.Open[0].Advice, "x is dear to us") || r.Open[1].Advice != "" {
		t.Errorf("advice: %q, %q", r.Open[0].Advice, r.Open[1].Advice)
	}
}

// TestContradiction: of two fixes that cannot both be had, one is planned with
// all of its changes, the other left with none.
func TestContradiction(t *testing.T) {
	text, number := catalog.Type{Native: "text", Family: catalog.Text}, catalog.Type{Native: "bigint", Family: catalog.Integer}
	retype := func(column string, to catalog.Type) change.Change {
		return change.AlterType{Table: on, Column: column, From: text, To: to}
	}
	other := catalog.Type{Native: "date", Family: catalog.Date}
	titles, r := heal(t, []*Rule{
		whileThere("a/one", "x", Fix{ID: "n", Changes: []change.Change{retype("a", number)}}),
		whileThere("b/two", "y", Fix{ID: "d", Changes: []change.Change{retype("b", other), retype("a", other)}}),
	}, free)
	if !slices.Equal(titles, []string{"change the type of s.t.a to bigint"}) {
		t.Errorf("%q", titles)
	}
	if len(r.Open) != 1 || r.Open[0].Rule != "b/two" || !strings.Contains(r.Open[0].Advice, "does not fit the others") {
		t.Errorf("%+v", r.Open)
	}
}

// TestOrder: findings come worst first, then by table, rule and object.
func TestOrder(t *testing.T) {
	report := func(id string, s Severity, objects ...string) *Rule {
		return &Rule{ID: id, Severity: s, Check: func(p *Pass) error {
			for _, o := range objects {
				p.Report(Finding{Table: on, Object: o})
			}
			p.NotJudged("something", "", 2)
			return nil
		}}
	}
	r := Judge{Rules: []*Rule{report("b/x", Notice, "q"), report("a/y", Warning, "z", "a"), report("c/z", Error, "m")}}.Run(t.Context(), sample())
	var got []string
	for _, f := range r.Findings {
		got = append(got, f.ID())
	}
	if want := []string{"c/z s.t m", "a/y s.t a", "a/y s.t z", "b/x s.t q"}; !slices.Equal(got, want) {
		t.Errorf("%q, want %q", got, want)
	}
	if len(r.Unjudged) != 3 || r.Count(Warning) != 2 || r.Findings[0].Certainty != ByStructure {
		t.Errorf("%+v", r)
	}
	if !Error.AtLeast(Warning) || Notice.AtLeast(Warning) || !Warning.AtLeast(Warning) {
		t.Error("severities are out of order")
	}
}
