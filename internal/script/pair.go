package script

import (
	"fmt"
	"reflect"
	"slices"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
	"nexdal/internal/engine/sqllex"
)

// A Pair is a script, the one that takes it back, and the structures that they
// lead to and fro between.
type Pair struct {
	Forth, Back   *Script
	Before, After *catalog.Catalog
	// Returned is what the reversal leads to, where that is not quite what there
	// was before: something is not taken back. Otherwise nil.
	Returned *catalog.Catalog
	plan     change.Plan
}

// pair writes the plan, which leads from one catalog to the other, and its
// reversal, which other, where it is set, makes otherwise than the plain one.
func pair(w engine.Writer, from, to *catalog.Catalog, plan change.Plan, can catalog.Abilities, other func(change.Plan) change.Plan) (*Pair, error) {
	work, err := w.Write(from, to, plan)
	if err != nil {
		return nil, err
	}
	back, err := plan.Reverse(from, can)
	if err != nil {
		return nil, err
	}
	if other != nil {
		back = other(back)
	}
	undo, err := w.Write(to, from, back)
	if err != nil {
		return nil, err
	}
	answerable(work, plan, w.Dialect())
	answerable(undo, back, w.Dialect())
	p := &Pair{Forth: head(w, from, plan, work), Back: head(w, from, plan, undo), Before: from, After: to, plan: plan}
	returned, err := back.Apply(to, can)
	if err != nil {
		return nil, err
	}
	for _, t := range returned.Tables() {
		if was := from.Table(t.Ref()); was != nil && was.Definition != "" {
			*t = *was.Clone() // made by its very text
		}
	}
	if !same(returned, from, p.Forth.Tables) {
		p.Returned = returned
	}
	p.Forth.Structure = exact + from.Fingerprint(p.Forth.Tables)
	p.Forth.Back, p.Back.Back = "reversal", "undoes"
	for i := range p.Back.Steps {
		p.Back.Steps[i].Answers = nil
	}
	p.Back.Structure = modelled + to.Comparable().Fingerprint(p.Back.Tables)
	for i, it := range plan {
		if n, ok := back[len(back)-1-i].Change.(change.NoReversal); ok {
			p.Forth.Stays = append(p.Forth.Stays, fmt.Sprintf("%s is not taken back: %s", it.Change.Title(), n.Why))
		}
		if _, ok := it.Change.(change.DropColumn); ok {
			p.Forth.Stays = append(p.Forth.Stays, it.Change.Title()+": the reversal adds it without its values")
		}
	}
	p.Forth.Places = places(work, undo, len(plan))
	p.Back.Places = places(undo, work, len(plan))
	return p, nil
}

// same reports whether the tables are alike in two catalogs.
func same(a, b *catalog.Catalog, tables []catalog.Ref) bool {
	x, y := a.Comparable().Lookup(), b.Comparable().Lookup()
	return !slices.ContainsFunc(tables, func(ref catalog.Ref) bool { return !reflect.DeepEqual(x.Table(ref), y.Table(ref)) })
}

// answerable takes out the questions about what the plan itself makes: they are all
// put before the first step, when it is not there. No row is in its way then.
func answerable(work *engine.Work, plan change.Plan, dialect sqllex.Dialect) {
	columns := map[catalog.Ref][]string{}
	made := map[catalog.Ref]bool{}
	for _, it := range plan {
		switch ch := it.Change.(type) {
		case change.AddColumn:
			columns[ch.Table] = append(columns[ch.Table], ch.Column.Name)
		case change.CreateObjects, change.AddLookupTable:
			for _, ref := range ch.(interface{ Tables() []catalog.Ref }).Tables() {
				made[ref] = true
			}
		}
	}
	if len(columns)+len(made) == 0 {
		return
	}
	work.Preflight = slices.DeleteFunc(work.Preflight, func(q engine.Question) bool {
		for _, i := range work.Steps[q.Step-1].Changes {
			on := []catalog.Ref{plan[i].Change.On()}
			if f, ok := plan[i].Change.(change.AddForeignKey); ok {
				on = append(on, f.ForeignKey.Target)
			}
			for _, ref := range on {
				if made[ref] || slices.ContainsFunc(columns[ref], func(name string) bool { return dialect.Mentions(q.SQL, name) }) {
					return true
				}
			}
		}
		return false
	})
}
