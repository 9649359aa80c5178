package ddl

import (
	"errors"
	"fmt"
	"slices"
	"strings"
	"testing"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
	"nexdal/internal/engine/sqllex"
)

var plain = Dialect{
	Title: "Plain", Quoting: sqllex.NewQuoting(`"`, "order"), Begin: "BEGIN", Works: "; reads %s",
	Relation: func(r catalog.Ref) string { return r.Schema + "." + r.Table },
	Literal:  func(s string) string { return "'" + strings.ReplaceAll(s, "'", "''") + "'" },
	Create:   func(_ *Writer, t *catalog.Table) []string { return []string{"CREATE TABLE " + t.Schema + "." + t.Name} },
	Drop:     func(m *catalog.Member) string { return DropText(m, m.Schema+"."+m.ObjectRef.Name) },
	Made:     Takes("made", engine.BlocksNobody), Gone: Takes("gone", engine.BlocksBriefly),
}

func ref(name string) catalog.Ref { return catalog.Ref{Schema: "s", Table: name} }

// made is a catalog of tables, each with the columns a and b; "visit>boat" has a foreign key on a to a.
func made(tables ...string) *catalog.Catalog {
	s := &catalog.Schema{Name: "s"}
	for _, x := range tables {
		name, to, refers := strings.Cut(x, ">")
		t := &catalog.Table{Schema: "s", Name: name, Columns: []*catalog.Column{{Name: "a", Nullable: true}, {Name: "b", Nullable: true}}}
		if refers {
			t.ForeignKeys = []*catalog.ForeignKey{{Name: name + "_fk", Columns: []string{"a"}, Target: ref(to), TargetColumns: []string{"a"}}}
		}
		s.Tables = append(s.Tables, t)
	}
	return &catalog.Catalog{Schemas: []*catalog.Schema{s}}
}

func writing(c *catalog.Catalog, plan ...change.Change) *Writer {
	w := &Writer{Dialect: &plain, From: c, Now: c.Clone(), To: c, Work: &engine.Work{}}
	for i, ch := range plan {
		w.Plan = append(w.Plan, change.Item{Change: ch, Answers: []string{fmt.Sprint("finding ", i)}})
	}
	return w
}

func typed(table, column string) change.Change {
	return change.AlterType{Table: ref(table), Column: column, To: catalog.Type{Native: "bigint"}}
}

// TestTied: changes of types hang together where a foreign key is on what is altered, and only as far as
// they stand in a row.
func TestTied(t *testing.T) {
	c := made("visit>boat", "boat", "crew>visit", "pier", "log>pier")
	nullable := change.SetNullable{Table: ref("pier"), Column: "b", Nullable: true}
	alters := func(ch change.Change) bool { _, is := ch.(change.AlterType); return is }
	for _, x := range []struct {
		plan  []change.Change
		first int
		want  []int
	}{
		{[]change.Change{typed("boat", "a"), typed("pier", "b"), typed("visit", "a")}, 0, []int{0, 2}},
		{[]change.Change{typed("boat", "b"), typed("visit", "b")}, 0, []int{0}}, // the key is not on them
		{[]change.Change{typed("crew", "a"), typed("boat", "a"), typed("visit", "a")}, 0, []int{0, 1, 2}},
		{[]change.Change{typed("boat", "a"), nullable, typed("visit", "a")}, 0, []int{0}},
		{[]change.Change{nullable, typed("boat", "a"), typed("boat", "b"), typed("visit", "a")}, 1, []int{1, 2, 3}},
		{[]change.Change{typed("pier", "b"), typed("pier", "a")}, 0, []int{0, 1}},
	} {
		if got := writing(c, x.plan...).Tied(x.first, alters); !slices.Equal(got, x.want) {
			t.Errorf("from %d of %d on, %v are tied, want %v", x.first, len(x.plan), got, x.want)
		}
	}
}

// TestQuestions: what is asked before a step, about which step, and what is not asked at all.
func TestQuestions(t *testing.T) {
	reference := &catalog.ForeignKey{Columns: []string{"a", "order"}, Target: ref("boat"), TargetColumns: []string{"a", "b"}}
	for _, x := range []struct {
		ask  func(w *Writer)
		want string
	}{
		{func(w *Writer) { w.AskNulls(ref("visit"), "order") }, `rows of s.visit where order is null: SELECT * FROM s.visit WHERE "order" IS NULL LIMIT 20`},
		{func(w *Writer) { w.AskRows("any", ref("visit"), "") }, `any: SELECT * FROM s.visit LIMIT 20`},
		{func(w *Writer) { w.AskBreaks(ref("visit"), &catalog.Check{Expression: "a > 0"}, "a > 0") }, `rows of s.visit that break a > 0: SELECT * FROM s.visit WHERE NOT (a > 0) LIMIT 20`},
		{func(w *Writer) { w.AskRepeats(ref("visit"), []string{"a", "order"}) }, `values of s.visit (a, order) that occur more than once: SELECT a, "order", count(*) AS times FROM s.visit WHERE a IS NOT NULL AND "order" IS NOT NULL GROUP BY a, "order" HAVING count(*) > 1 LIMIT 20`},
		{func(w *Writer) { w.AskUnfit(typed("visit", "order").(change.AlterType), "length(x) > 3") }, `values of s.visit.order that bigint cannot hold: SELECT DISTINCT "order" FROM s.visit WHERE length(x) > 3 LIMIT 20`},
		{func(w *Writer) { w.AskUnfit(typed("visit", "order").(change.AlterType), "") }, ""},
		{func(w *Writer) { w.AskUnvalued(ref("visit"), &catalog.Column{Name: "c"}) }, `rows of s.visit, for which the new column c has no value: SELECT * FROM s.visit LIMIT 1`},
		{func(w *Writer) { w.AskUnvalued(ref("visit"), &catalog.Column{Name: "c", Nullable: true}) }, ""},
		{func(w *Writer) { w.AskUnvalued(ref("visit"), &catalog.Column{Name: "c", Default: "0"}) }, ""},
		{func(w *Writer) { w.AskUnvalued(ref("visit"), &catalog.Column{Name: "c", Generated: "a + b"}) }, ""},
		{func(w *Writer) {
			w.AskUnvalued(ref("visit"), &catalog.Column{Name: "c", Identity: catalog.IdentityAlways})
		}, ""},
		{func(w *Writer) { w.AskOrphans(ref("visit"), reference) }, ""}, // order comes with the script
	} {
		w := writing(made("visit", "boat"), typed("visit", "a"))
		w.Place(0)
		w.Add(engine.Step{Title: "one before"})
		x.ask(w)
		if x.want == "" {
			if len(w.Work.Preflight) > 0 {
				t.Errorf("it asks %s", w.Work.Preflight[0].SQL)
			}
			continue
		}
		if len(w.Work.Preflight) != 1 {
			t.Errorf("%s: %d questions", x.want, len(w.Work.Preflight))
			continue
		}
		q := w.Work.Preflight[0]
		if got := strings.Join(strings.Fields(q.Title+": "+q.SQL), " "); got != x.want || q.Step != 2 || !slices.Equal(q.Answers, []string{"finding 0"}) {
			t.Errorf("it asks for step %d and %v\n     %s\nwant %s", q.Step, q.Answers, got, x.want)
		}
	}
	w := writing(made("visit", "boat"))
	w.AskOrphans(ref("visit"), &catalog.ForeignKey{Columns: []string{"a"}, Target: ref("boat"), TargetColumns: []string{"b"}})
	if len(w.Work.Preflight) != 1 || !strings.Contains(w.Work.Preflight[0].SQL, "s.boat") || w.Work.Preflight[0].Title != "values of s.visit (a) without a row in s.boat" {
		t.Errorf("of orphans it asks %+v", w.Work.Preflight)
	}
}

// TestSteps: several statements are one transaction where there are any; each step tells which changes
// of the plan it carries out, the findings that these answer, and the table.
func TestSteps(t *testing.T) {
	w := writing(made("visit", "boat"), typed("visit", "a"), typed("visit", "b"), typed("boat", "a"))
	w.Place(0)
	one := *w.Step("one", Takes("says", engine.BlocksAtWork), "A")
	if fmt.Sprint(one.SQL) != "[A]" || !one.Transaction || one.Lock != "says" || one.Blocks != engine.BlocksAtWork || !slices.Equal(one.Tables, []catalog.Ref{ref("visit")}) {
		t.Errorf("one statement is the step %+v", one)
	}
	w.With(1)
	if two := *w.Step("two", Lock{}, "A", "B"); fmt.Sprint(two.SQL) != "[BEGIN A B COMMIT]" || !two.Transaction || !slices.Equal(two.Changes, []int{0, 1}) || !slices.Equal(two.Answers, []string{"finding 0", "finding 1"}) {
		t.Errorf("two statements are the step %+v", two)
	}
	if w.Place(2); len(w.At) != 1 || w.At[0] != 2 || w.Item.Change.On() != ref("boat") {
		t.Errorf("the next change is at %v", w.At)
	}
	bare := plain
	bare.Begin = ""
	w.Dialect = &bare
	if s := *w.Step("two", Lock{}, "A", "B"); fmt.Sprint(s.SQL) != "[A B]" || s.Transaction {
		t.Errorf("without transactions two statements are the step %+v", s)
	}
	bare.Begin, bare.Always = "BEGIN", true
	if s := *w.Step("one", Lock{}, "A"); fmt.Sprint(s.SQL) != "[BEGIN A COMMIT]" {
		t.Errorf("always opened, one statement is the step %+v", s)
	}
	bytes := int64(8192)
	w.Now.Table(ref("boat")).Stats.Bytes = &bytes
	if got := w.Sized(Takes("says", 0), ref("boat")).Says; got != "says; reads 8.2 kB" {
		t.Errorf("of a known size the lock says %q", got)
	}
	if got := w.Sized(Takes("says", 0), ref("visit")).Says; got != "says" {
		t.Errorf("of an unknown size the lock says %q", got)
	}
}

// TestEach: every change is handed out once, on the catalog as the ones before leave it; what nobody
// knows is refused, and so is what does not fit.
func TestEach(t *testing.T) {
	forbids := func(table, column string) change.Change { return change.SetNullable{Table: ref(table), Column: column} }
	w := writing(made("visit", "boat"), forbids("visit", "a"), forbids("boat", "a"), forbids("visit", "b"), forbids("boat", "b"))
	var seen []string
	err := w.Each(func(i int, ch change.Change) (int, error) {
		state := ""
		for _, c := range w.Now.Table(ref("visit")).Columns {
			state += map[bool]string{true: "?", false: "!"}[c.Nullable]
		}
		seen = append(seen, fmt.Sprint(i, state))
		if i == 0 {
			w.Several([]int{0, 2}) // the two of one table at once
		}
		return 1, nil
	})
	if want := []string{"0??", "1!!", "3!!"}; err != nil || !slices.Equal(seen, want) {
		t.Errorf("handed out are %v, want %v: %v", seen, want, err)
	}
	if c := w.Now.Table(ref("boat")).Columns; c[0].Nullable || c[1].Nullable {
		t.Error("the last changes were not applied")
	}
	w = writing(made("visit"), forbids("visit", "a"))
	if err := w.Each(func(int, change.Change) (int, error) { return 0, nil }); err == nil || !strings.HasSuffix(err.Error(), "cannot be written for Plain") {
		t.Errorf("what nobody knows: %v", err)
	}
	w = writing(made("visit"), forbids("boat", "a"))
	if err := w.Each(func(int, change.Change) (int, error) { return 1, nil }); err == nil || !strings.Contains(err.Error(), "s.boat") {
		t.Errorf("what does not fit: %v", err)
	}
	mine := errors.New("mine")
	if err := w.Each(func(int, change.Change) (int, error) { return 0, mine }); !errors.Is(err, mine) {
		t.Errorf("what fails: %v", err)
	}
}

// TestDropped: what leans on others goes first; references between tables that go are taken away before,
// where each goes by a statement of its own; rows that came meanwhile stand in the way.
func TestDropped(t *testing.T) {
	for _, x := range []struct {
		together bool
		want     string
	}{
		{true, "BEGIN; DROP VIEW s.seen; DROP TABLE s.boat, s.visit; COMMIT"},
		{false, "BEGIN; DROP VIEW s.seen; ALTER TABLE s.visit DROP CONSTRAINT visit_fk; DROP TABLE s.visit; DROP TABLE s.boat; COMMIT"},
	} {
		d := plain
		d.Together = x.together
		c := made("visit>boat", "boat")
		c.Schemas[0].Views = []*catalog.View{{Name: "seen", Reads: []catalog.ObjectRef{{Kind: catalog.KindTable, Schema: "s", Name: "visit"}}}}
		w := writing(c, change.DropObjects{What: c, Empty: true})
		w.Dialect = &d
		w.Place(0)
		if !w.Common(w.Item.Change) {
			t.Fatal("dropping is not written")
		}
		var sql []string
		for _, s := range w.Work.Steps {
			sql = append(sql, s.SQL...)
		}
		got := strings.Join(sql, "; ")
		if !sameSet(got, x.want) || strings.Index(got, "VIEW") > strings.Index(got, "DROP TABLE") || !x.together && strings.Index(got, "CONSTRAINT") > strings.Index(got, "DROP TABLE s.boat") {
			t.Errorf("together %v: %s, want %s", x.together, got, x.want)
		}
		if len(w.Work.Preflight) != 2 || !strings.HasSuffix(w.Work.Preflight[0].Title, "which was made for none yet") {
			t.Errorf("it asks %+v", w.Work.Preflight)
		}
	}
}

func sameSet(a, b string) bool {
	x, y := strings.Split(a, "; "), strings.Split(b, "; ")
	slices.Sort(x)
	slices.Sort(y)
	return slices.Equal(x, y)
}

// TestTexts: clauses that all engines write alike.
func TestTexts(t *testing.T) {
	for _, x := range []struct{ got, want string }{
		{Timing(false, false), ""}, {Timing(true, false), " DEFERRABLE"}, {Timing(true, true), " DEFERRABLE INITIALLY DEFERRED"},
		{plain.Alter(ref("visit"), "ADD a int", "DROP b"), "ALTER TABLE s.visit ADD a int, DROP b"},
		{plain.Unreferred(ref("visit"), &catalog.ForeignKey{Name: "order"}), `ALTER TABLE s.visit DROP CONSTRAINT "order"`},
		{DropText(&catalog.Member{View: &catalog.View{}}, "v"), "DROP VIEW v"},
		{DropText(&catalog.Member{Sequence: &catalog.Sequence{}}, "q"), "DROP SEQUENCE q"},
		{DropText(&catalog.Member{Routine: &catalog.Routine{Kind: "procedure"}}, "p"), "DROP PROCEDURE p"},
		{DropText(&catalog.Member{}, "x"), ""},
	} {
		if x.got != x.want {
			t.Errorf("%q, want %q", x.got, x.want)
		}
	}
}
