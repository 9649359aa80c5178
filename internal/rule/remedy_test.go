package rule

import (
	"context"
	"errors"
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

func heal(t *testing.T, rules []*Rule, refuse func(change.Change) string) (titles []string, r *FixPlan) {
	t.Helper()
	c := sample()
	j := Checker{Rules: rules}
	r, err := j.PlanFixes(t.Context(), c, j.Run(t.Context(), c).Findings, refuse)
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
	r := Checker{Rules: []*Rule{report("b/x", Notice, "q"), report("a/y", Warning, "z", "a"), report("c/z", Error, "m")}}.Run(t.Context(), sample())
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

// TestOneFails: a rule that fails or panics ends no other; what it has reported stands,
// and it is among those that could not judge, with the place.
func TestOneFails(t *testing.T) {
	fails := func(id string, how func()) *Rule {
		return &Rule{ID: id, Severity: Error, Check: func(p *Pass) error {
			p.Report(Finding{Table: on, Object: id})
			how()
			return errors.New("the catalog is odd")
		}}
	}
	rules := []*Rule{fails("a/error", func() {}), fails("b/panic", func() { panic("out of bounds") }), fails("c/nil", func() { var t *catalog.Table; _ = t.Name }), whileThere("d/sound", "x")}
	r := Checker{Rules: rules}.Run(t.Context(), sample())
	if len(r.Findings) != 4 || len(r.Unjudged) != 3 {
		t.Fatalf("%+v", r)
	}
	for i, want := range []string{"the catalog is odd", "out of bounds (rule/remedy_test.go:", "nil pointer dereference (rule/remedy_test.go:"} {
		if u := r.Unjudged[i]; u.Rule != rules[i].ID || !strings.Contains(u.Failed, want) {
			t.Errorf("%+v, want %q", u, want)
		}
	}
	ctx, cancel := context.WithCancel(t.Context())
	cancel()
	if r := (Checker{Rules: rules}).Run(ctx, sample()); len(r.Findings) > 0 || len(r.Unjudged) != 4 || r.Unjudged[0].Failed == "" {
		t.Errorf("brought to an end: %+v", r)
	}
}

// TestValidate: what is wrong with a list of rules is said, of each.
func TestValidate(t *testing.T) {
	good := func(id string) *Rule {
		return &Rule{ID: id, Title: "t", Doc: "d", Severity: Notice, Consequence: Untidy, Check: func(*Pass) error { return nil }}
	}
	if err := Validate([]*Rule{good("a/b"), good("a/c")}); err != nil {
		t.Error(err)
	}
	for want, alter := range map[string]func(*Rule){
		"area/slug":                func(r *Rule) { r.ID = "B" },
		"lacks a title":            func(r *Rule) { r.Title = "" },
		"its documentation":        func(r *Rule) { r.Doc = " " },
		"or its check":             func(r *Rule) { r.Check = nil },
		"is no severity":           func(r *Rule) { r.Severity = "fatal" },
		"is no consequence":        func(r *Rule) { r.Consequence = "sad" },
		"is in the list twice":     func(r *Rule) { r.ID = "a/c" },
		"which is not in the list": func(r *Rule) { r.GivesWay = []string{"z/z"} },
		"which gives way to it":    func(r *Rule) { r.GivesWay = []string{"a/d"} },
		`option "rows" is there`: func(r *Rule) {
			r.Options = []Option{{Name: "rows", Default: int64(1), Doc: "d"}, {Name: "rows", Default: int64(1), Doc: "d"}}
		},
		`option "severity" is there`:  func(r *Rule) { r.Options = []Option{{Name: "severity", Default: int64(1), Doc: "d"}} },
		`option "a b" is`:             func(r *Rule) { r.Options = []Option{{Name: "a b", Default: int64(1), Doc: "d"}} },
		"or not documented":           func(r *Rule) { r.Options = []Option{{Name: "rows", Default: int64(1)}} },
		"does not accept its default": func(r *Rule) { r.Options = []Option{{Name: "rows", Default: int64(-1), Doc: "d"}} },
		"none of x":                   func(r *Rule) { r.Options = []Option{{Name: "style", Default: "y", Choices: []string{"x"}, Doc: "d"}} },
		"default of type int":         func(r *Rule) { r.Options = []Option{{Name: "rows", Default: 1, Doc: "d"}} },
	} {
		r, other, third := good("a/b"), good("a/c"), good("a/d")
		third.GivesWay = []string{"a/b"}
		alter(r)
		if r.ID != "a/b" {
			third.GivesWay = nil
		}
		if err := Validate([]*Rule{r, other, third}); err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("%v, want %q", err, want)
		}
	}
}

// TestWithdrawn: what one fix would make and another drop again is not made at all, and the
// finding that asked for it says why; what else asked for the columns gets its own.
func TestWithdrawn(t *testing.T) {
	make := func(name string, unique bool) Fix {
		x := &catalog.Index{Name: name, Origin: catalog.ByPerson, Unique: unique, Parts: []catalog.IndexPart{{Column: "b"}}}
		return Fix{ID: "make", Title: "make " + name, Changes: []change.Change{change.CreateIndex{Table: on, Index: x}}}
	}
	missing := func(id, index string, unique bool) *Rule {
		return &Rule{ID: id, Severity: Warning, Check: func(p *Pass) error {
			if p.Catalog.Table(on).Index(index) == nil {
				p.Report(Finding{Table: on, Object: index, Message: index + " is missing", Fixes: []Fix{make(index, unique)}})
			}
			return nil
		}}
	}
	needless := &Rule{ID: "c/needless", Severity: Warning, Check: func(p *Pass) error {
		if p.Catalog.Table(on).Index("z") != nil {
			p.Report(Finding{Table: on, Object: "z", Message: "z says nothing", Fixes: []Fix{drop("z")}})
		}
		return nil
	}}
	titles, r := heal(t, []*Rule{missing("a/unique", "z", true), missing("b/plain", "w", false), needless}, free)
	if len(titles) != 1 || !strings.Contains(titles[0], "create index w") || r.After.Table(on).Index("z") != nil {
		t.Errorf("the plan is %v", titles)
	}
	if len(r.Added) != 0 || len(r.Open) != 1 || r.Open[0].Rule != "a/unique" || !strings.Contains(r.Open[0].Advice, "needless: z says nothing") {
		t.Errorf("open: %+v, added: %+v", r.Open, r.Added)
	}
}

// TestSpoilt: what a fix makes and a new finding without a fix is about, is not made; where it
// is a notice, it is.
func TestSpoilt(t *testing.T) {
	for _, severity := range []Severity{Error, Warning, Notice} {
		x := &catalog.Index{Name: "z", Origin: catalog.ByPerson, Parts: []catalog.IndexPart{{Column: "b"}}}
		wanted := &Rule{ID: "a/wanted", Severity: Warning, Check: func(p *Pass) error {
			if p.Catalog.Table(on).Index("z") == nil {
				p.Report(Finding{Table: on, Object: "t", Message: "z is missing", Fixes: []Fix{{ID: "make", Title: "make z", Changes: []change.Change{change.CreateIndex{Table: on, Index: x}}}}})
			}
			return nil
		}}
		wrong := &Rule{ID: "b/wrong", Severity: severity, Check: func(p *Pass) error {
			if p.Catalog.Table(on).Index("z") != nil {
				p.Report(Finding{Table: on, Object: "z", Message: "z is wrong"})
			}
			return nil
		}}
		titles, r := heal(t, []*Rule{wanted, wrong}, free)
		if severity == Notice {
			if len(titles) != 1 || len(r.Open) != 0 {
				t.Errorf("a notice bars: %v, %+v", titles, r.Open)
			}
			continue
		}
		if len(titles) != 0 || len(r.Open) != 1 || !strings.Contains(r.Open[0].Advice, "it would bring about b/wrong: z is wrong") || r.After.Table(on).Index("z") != nil {
			t.Errorf("%s: the plan is %v, open: %+v", severity, titles, r.Open)
		}
	}
}
