package script

import (
	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
)

// A Pair is a script, the one that takes it back, and the structures that they
// lead to and fro between.
type Pair struct {
	Forth, Back   *Script
	Before, After *catalog.Catalog
	// Returned is what the reversal leads to, where that is not quite what there
	// was before: something is not taken back. Otherwise nil.
	Returned *catalog.Catalog
}

// pair writes the plan, which leads from one catalog to the other, and its
// reversal.
func pair(w engine.Writer, from, to *catalog.Catalog, plan change.Plan, can catalog.Abilities) (*Pair, error) {
	work, err := w.Write(from, to, plan)
	if err != nil {
		return nil, err
	}
	back, err := plan.Reverse(from, can)
	if err != nil {
		return nil, err
	}
	undo, err := w.Write(to, from, back)
	if err != nil {
		return nil, err
	}
	p := &Pair{Forth: head(w, from, plan, work), Back: head(w, from, plan, undo), Before: from, After: to}
	returned, err := back.Apply(to, can)
	if err != nil {
		return nil, err
	}
	if returned.Comparable().Fingerprint(p.Forth.Tables) != from.Comparable().Fingerprint(p.Forth.Tables) {
		p.Returned = returned
	}
	p.Forth.Structure = exact + from.Fingerprint(p.Forth.Tables)
	p.Forth.Back, p.Back.Back = "reversal", "undoes"
	for i := range p.Back.Steps {
		p.Back.Steps[i].Answers = nil
	}
	p.Back.Structure = modelled + to.Comparable().Fingerprint(p.Back.Tables)
	p.Forth.Places = places(work, undo, len(plan))
	p.Back.Places = places(undo, work, len(plan))
	return p, nil
}
