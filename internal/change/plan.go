package change

import (
	"fmt"
	"reflect"
	"slices"

	"nexdal/internal/catalog"
)

// An Item is one change of a plan and the findings that it answers.
type Item struct {
	Change  Change
	Answers []string // identifiers of findings, for people
	// before is set where the change takes another back: what that had touched.
	before *snapshot
}

// Apply carries the item out on the model, whole or not at all. What takes a change
// back puts all that the change had touched back as it was.
func (it Item) Apply(c *catalog.Catalog, can catalog.Abilities) error {
	_, err := it.carryOut(c, can)
	return err
}

// carryOut applies the item and returns what it has touched, as that was before.
func (it Item) carryOut(c *catalog.Catalog, can catalog.Abilities) (*edit, error) {
	e := &edit{Catalog: c}
	var err error
	if it.before != nil {
		err = it.before.restore(e)
	} else {
		err = it.Change.apply(e, can)
	}
	if err != nil {
		e.undo()
		return nil, err
	}
	return e, nil
}

// A Plan is changes in the order that they must run in.
type Plan []Item

// Omitted is a change that a plan had to leave out, and why.
type Omitted struct {
	Item
	Reason string
}

// Order makes a plan of the changes: duplicates merged, those dropped that
// another makes needless, the rest in the order of work and table by table
// within it, and none that does not fit what went before.
func Order(c *catalog.Catalog, can catalog.Abilities, items []Item) (Plan, []Omitted) {
	return OrderAll(c, can, needed(merged(items)))
}

// OrderAll makes a plan of the changes, all of them, in the order of work.
func OrderAll(c *catalog.Catalog, can catalog.Abilities, items []Item) (Plan, []Omitted) {
	slices.SortStableFunc(items, func(a, b Item) int {
		if d := a.Change.rank() - b.Change.rank(); d != 0 {
			return d
		}
		return a.Change.On().Compare(b.Change.On())
	})
	var plan Plan
	var left []Omitted
	model := c.Clone()
	for _, it := range items {
		if err := it.Apply(model, can); err != nil {
			left = append(left, Omitted{it, err.Error()})
			continue
		}
		plan = append(plan, it)
	}
	return plan, left
}

// Apply carries the plan out on a copy of the catalog.
func (p Plan) Apply(c *catalog.Catalog, can catalog.Abilities) (*catalog.Catalog, error) {
	model := c.Clone()
	for _, it := range p {
		if err := it.Apply(model, can); err != nil {
			return nil, fmt.Errorf("%s: %w", it.Change.Title(), err)
		}
	}
	model.Sort()
	return model, nil
}

// Reverse returns the plan that leads from p's result back to the catalog, but for what
// lasts: that stays, whatever is put back around it.
func (p Plan) Reverse(c *catalog.Catalog, can catalog.Abilities) (Plan, error) {
	model := c.Clone()
	early := p.lasting(model, can)
	back, err := p.reverse(model, can, early)
	if err != nil && len(early) > 0 { // a step before one that lasts fits only without it
		return p.reverse(c.Clone(), can, nil)
	}
	return back, err
}

// lasting carries out at once, as far as they fit, the steps that are never taken back, and
// returns their places: what an earlier step has touched is then put back with them in it.
func (p Plan) lasting(model *catalog.Catalog, can catalog.Abilities) map[int]NoReversal {
	early := map[int]NoReversal{}
	for i, it := range p {
		r, err := wayBack(it.Change, model, can)
		if n, ok := r.(NoReversal); ok && err == nil && it.Apply(model, can) == nil {
			early[i] = n
		}
	}
	return early
}

// wayBack is what takes the change back, or says that nothing does.
func wayBack(ch Change, model *catalog.Catalog, can catalog.Abilities) (Change, error) {
	if why := lasts(ch, can); why != "" {
		return NoReversal{ch.On(), why}, nil
	}
	return ch.inverse(model)
}

// reverse is Reverse, on a model that has the early steps already.
func (p Plan) reverse(model *catalog.Catalog, can catalog.Abilities, early map[int]NoReversal) (Plan, error) {
	back := make(Plan, len(p))
	for i, it := range p {
		at := &back[len(p)-1-i]
		if n, ok := early[i]; ok {
			*at = Item{Change: n, Answers: it.Answers}
			continue
		}
		r, err := wayBack(it.Change, model, can)
		if err != nil {
			return nil, fmt.Errorf("%s: %w", it.Change.Title(), err)
		}
		done, err := it.carryOut(model, can)
		if err != nil {
			return nil, fmt.Errorf("%s: %w", it.Change.Title(), err)
		}
		*at = Item{Change: r, Answers: it.Answers}
		if _, lasting := r.(NoReversal); !lasting {
			at.before = done.snapshot()
		}
	}
	return back, nil
}

// lasts says what stays as the change has made it, since the engine has no way back; or "".
func lasts(ch Change, can catalog.Abilities) string {
	switch ch := ch.(type) {
	case AlterType:
		if can.OneWay != nil && can.OneWay(ch.From, ch.To) {
			return fmt.Sprintf("column %s stays %s: with values in it the engine does not take it back", ch.Column, ch.To.Native)
		}
	case PartitionTable:
		if can.PartitionsStay {
			return fmt.Sprintf("%s stays partitioned: no statement makes it one table again", ch.Table)
		}
	}
	return ""
}

// Reverse returns the change that takes ch back, given the catalog as it was before.
func Reverse(ch Change, before *catalog.Catalog) (Change, error) { return ch.inverse(before) }

// Tables names the tables that the plan touches, each once, in order.
func (p Plan) Tables() []catalog.Ref {
	var refs []catalog.Ref
	for _, it := range p {
		if on := it.Change.On(); on != (catalog.Ref{}) {
			refs = append(refs, on)
		}
		if several, ok := it.Change.(interface{ Tables() []catalog.Ref }); ok {
			refs = append(refs, several.Tables()...)
		}
	}
	slices.SortFunc(refs, catalog.Ref.Compare)
	return slices.Compact(refs)
}

// merged lets equal changes answer all their findings together.
func merged(items []Item) []Item {
	var once []Item
	seen := map[string][]int{}
	for _, it := range items {
		title := it.Change.Title()
		i := slices.IndexFunc(seen[title], func(i int) bool { return reflect.DeepEqual(once[i].Change, it.Change) })
		if i >= 0 {
			at := seen[title][i]
			once[at].Answers = Union(once[at].Answers, it.Answers)
			continue
		}
		seen[title] = append(seen[title], len(once))
		it.Answers = slices.Clone(it.Answers)
		once = append(once, it)
	}
	return once
}

// needed drops the creation of an index where another change of the list
// makes one that begins with the same columns; that one then answers both.
func needed(items []Item) []Item {
	byTable := map[catalog.Ref][]int{}
	for i, it := range items {
		if len(orderOf(it.Change)) > 0 {
			byTable[it.Change.On()] = append(byTable[it.Change.On()], i)
		}
	}
	gone := map[int]bool{}
	for _, group := range byTable {
		for _, i := range group {
			mine, ok := items[i].Change.(CreateIndex)
			if !ok || mine.Index.Unique || mine.Index.Predicate != "" {
				continue
			}
			for _, j := range group {
				theirs := orderOf(items[j].Change)
				if i == j || gone[j] || len(theirs) < len(mine.Index.Parts) || len(theirs) == len(mine.Index.Parts) && j > i && isPlain(items[j].Change) {
					continue
				}
				if catalog.SameColumns(mine.Index.Columns(), theirs[:len(mine.Index.Parts)]) {
					gone[i] = true
					items[j].Answers = Union(items[j].Answers, items[i].Answers)
					break
				}
			}
		}
	}
	var rest []Item
	for i, it := range items {
		if !gone[i] {
			rest = append(rest, it)
		}
	}
	return rest
}

// Drops reports whether the change drops a key or an index that another one makes, or makes
// of one that is there.
func Drops(ch, made Change) bool {
	name := Made(made)
	if name == "" || ch.On() != made.On() {
		return false
	}
	switch ch := ch.(type) {
	case DropKey:
		return !ch.Primary && ch.Name == name
	case DropIndex:
		return ch.Name == name
	}
	return false
}

// Made is the name of the key, index or constraint that the change makes, or makes of one that
// is there; "": it makes none.
func Made(ch Change) string {
	switch m := ch.(type) {
	case AddKey:
		return m.Key.Name
	case CreateIndex:
		return m.Index.Name
	case ReplaceKey:
		return m.To.Name()
	case AddForeignKey:
		return m.ForeignKey.Name
	case AddCheck:
		return m.Check.Name
	}
	return ""
}

// orderOf returns the columns that the index which a change makes is ordered
// by, or nil where it makes none.
func orderOf(c Change) []string {
	switch c := c.(type) {
	case CreateIndex:
		if c.Index.Predicate != "" || slices.Contains(c.Index.Columns(), "") {
			return nil
		}
		return c.Index.Columns()
	case AddKey:
		return c.Key.Columns
	case ReplaceKey:
		return c.To.Columns()
	}
	return nil
}

// isPlain reports whether the change makes an index that enforces nothing.
func isPlain(c Change) bool {
	x, ok := c.(CreateIndex)
	return ok && !x.Index.Unique
}

// Union joins two lists of findings, each named once, and leaves both alone.
func Union(a, b []string) []string {
	a = slices.Clone(a)
	for _, x := range b {
		if !slices.Contains(a, x) {
			a = append(a, x)
		}
	}
	return a
}

// Phase names the part of the work that a change belongs to.
func Phase(c Change) string {
	switch r := c.rank(); {
	case r <= rankColumn:
		return "columns"
	case r <= rankForeignKey:
		return "constraints"
	case r <= rankIndex:
		return "indexes"
	case r <= rankText:
		return "references"
	case r <= rankDrop:
		return "drops"
	}
	return "rest"
}
