package script

import (
	"fmt"
	"slices"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
)

// A Part is one of several scripts that do together what one would.
type Part struct {
	Name string // what it is about, as part of a file's name
	*Pair
}

// ByTable splits a corrective script into one for each table, or for several whose
// changes hang together; any of them can be left out.
func ByTable(w engine.Writer, p *Pair, can catalog.Abilities) ([]Part, error) {
	group := map[catalog.Ref]catalog.Ref{}
	var root func(catalog.Ref) catalog.Ref
	root = func(r catalog.Ref) catalog.Ref {
		if up, ok := group[r]; ok && up != r {
			return root(up)
		}
		return r
	}
	touched := p.plan.Tables()
	for _, r := range touched {
		group[r] = r
	}
	join := func(a, b catalog.Ref) {
		if slices.Contains(touched, a) && slices.Contains(touched, b) {
			if x, y := root(a), root(b); x.Compare(y) <= 0 {
				group[y] = x
			} else {
				group[x] = y
			}
		}
	}
	for _, t := range p.Before.Tables() {
		for _, f := range t.ForeignKeys {
			join(t.Ref(), f.Target) // keys, types and references of both are altered in one order
		}
		if t.PartitionOf != nil {
			join(t.Ref(), *t.PartitionOf)
		}
	}
	for _, it := range p.plan {
		if f, ok := it.Change.(change.AddForeignKey); ok {
			join(f.Table, f.ForeignKey.Target)
		}
	}
	of := func(ch change.Change) string {
		if on := ch.On(); on != (catalog.Ref{}) {
			return root(on).String()
		}
		return "database"
	}
	return split(w, p, can, of)
}

// ByPhase splits a corrective script into what is done first, next and last: columns,
// constraints, indexes, references, what is dropped, and the rest. They have to be run
// in their order.
func ByPhase(w engine.Writer, p *Pair, can catalog.Abilities) ([]Part, error) {
	if can.ConstraintCopies {
		return nil, fmt.Errorf("this engine rebuilds a table once for all its changes; split by table")
	}
	return split(w, p, can, func(ch change.Change) string {
		k, ok := ch.(change.AddKey)
		if ok && slices.ContainsFunc(p.plan, func(it change.Item) bool {
			c, ok := it.Change.(change.AddColumn)
			return ok && k.Primary && c.Table == k.Table && slices.Equal(k.Key.Columns, []string{c.Column.Name})
		}) {
			return change.Phase(change.AddColumn{}) // a numbered column comes with its key
		}
		return change.Phase(ch)
	})
}

func split(w engine.Writer, p *Pair, can catalog.Abilities, of func(change.Change) string) ([]Part, error) {
	var names []string
	plans := map[string]change.Plan{}
	for _, it := range p.plan {
		name := of(it.Change)
		if plans[name] == nil {
			names = append(names, name)
		}
		plans[name] = append(plans[name], it)
	}
	var parts []Part
	from := p.Before
	for i, name := range names {
		to, err := plans[name].Apply(from, can)
		if err != nil {
			return nil, err
		}
		part, err := pair(w, from, to, plans[name], can, nil)
		if err != nil {
			return nil, err
		}
		part.Forth.Kind, part.Back.Kind = fmt.Sprintf("%s, part %d of %d: %s", p.Forth.Kind, i+1, len(names), name), fmt.Sprintf("%s, part %d of %d: %s", p.Back.Kind, i+1, len(names), name)
		part.Forth.Findings = len(answered(plans[name]))
		if i > 0 { // what went before was done by the model
			part.Forth.Structure = modelled + from.Comparable().Fingerprint(part.Forth.Tables)
		}
		if i == len(names)-1 {
			part.Forth.Left = p.Forth.Left
		}
		parts = append(parts, Part{name, part})
		from = to
	}
	return parts, nil
}
