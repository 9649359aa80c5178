package script

import (
	"fmt"
	"slices"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
)

// A Load is what stands in the way of loading data and is to be put aside for it.
type Load struct {
	Tables    []catalog.Ref // that are loaded
	Indexes   bool          // put aside indexes that enforce nothing, too
	Triggers  bool          // put aside triggers, too
	Unchecked bool          // put foreign keys back without a look at the rows
}

// Bulkload makes the script that puts aside what is in the way, and the one that puts
// all of it back exactly as it was; orphans are the questions after orphaned
// rows.
func Bulkload(w engine.Writer, c *catalog.Catalog, can catalog.Abilities, l Load) (p *Pair, orphans []engine.Question, err error) {
	var items []change.Item
	var left []Left
	add := func(ch change.Change) {
		// What is put aside has to be put back: both have to be possible.
		back, err := change.Reverse(ch, c)
		why := engine.Refuses(w, c, ch)
		if err == nil && why == "" {
			why = engine.Refuses(w, c, back)
		}
		if why != "" {
			left = append(left, Left{"not " + ch.Title(), why, ""})
			return
		}
		items = append(items, change.Item{Change: ch})
	}
	for _, t := range c.Tables() {
		loaded := slices.Contains(l.Tables, t.Ref())
		if l.Triggers && loaded {
			triggers := slices.Clone(t.Triggers)
			slices.SortStableFunc(triggers, func(a, b *catalog.Trigger) int { return b.Order - a.Order }) // the last goes first, and comes back last
			for _, g := range triggers {
				if !g.Inherited && g.Enabled != "disabled" {
					add(change.SetTrigger{Table: t.Ref(), Trigger: g, Off: true})
				}
			}
		}
		for _, f := range t.ForeignKeys {
			if !f.Inherited && !can.ForeignKeysPerConnection && (loaded || slices.Contains(l.Tables, f.Target)) {
				add(change.DropForeignKey{Table: t.Ref(), ForeignKey: f, Early: true})
			}
		}
		for _, x := range t.Indexes {
			if l.Indexes && loaded && x.Origin == catalog.ByPerson && !x.Unique && !x.Inherited && x.Pinned == "" {
				add(change.DropIndex{Table: t.Ref(), Name: x.Name})
			}
		}
	}
	plan, lost := change.OrderAll(c, can, items)
	for _, x := range lost {
		left = append(left, Left{"not " + x.Change.Title(), x.Reason, ""})
	}
	after, err := plan.Apply(c, can)
	if err != nil {
		return nil, nil, err
	}
	if p, err = pair(w, c, after, plan, can, nil); err != nil {
		return nil, nil, err
	}
	orphans = p.Back.Preflight
	if l.Unchecked {
		unchecked := func(back change.Plan) change.Plan {
			for i, it := range back {
				if f, ok := it.Change.(change.AddForeignKey); ok {
					f.Unchecked = true
					back[i] = change.Item{Change: f, Answers: it.Answers} // which leaves it as not looked at
				}
			}
			return back
		}
		if p, err = pair(w, c, after, plan, can, unchecked); err != nil {
			return nil, nil, err
		}
		p.Back.Preflight = nil
		for _, it := range plan {
			if d, ok := it.Change.(change.DropForeignKey); ok {
				p.Back.Left = append(p.Back.Left, Left{fmt.Sprintf("foreign key %s of %s", d.ForeignKey.Label(), d.Table), "the rows that came are not checked; ask for orphaned ones, then validate it", ""})
			}
		}
	}
	p.Forth.Kind, p.Back.Kind = "Script before a bulk load", "Script after a bulk load"
	p.Forth.LeftAs, p.Back.LeftAs = "thing", "foreign key"
	p.Forth.Left = left
	if can.ForeignKeysPerConnection {
		p.Forth.Left = append(p.Forth.Left, Left{"foreign keys", "each connection of this engine switches them on for itself, with " + can.EnforcementAdvice + ": load over one that does not", ""})
		if orphans, err = afterOrphans(w, c, can, l); err != nil {
			return nil, nil, err
		}
	}
	return p, orphans, nil
}

// afterOrphans are the questions that declaring the foreign keys of the tables would
// come with.
func afterOrphans(w engine.Writer, c *catalog.Catalog, can catalog.Abilities, l Load) ([]engine.Question, error) {
	without := c.Clone()
	var plan change.Plan
	for _, t := range c.Tables() {
		for _, f := range t.ForeignKeys {
			ch := change.AddForeignKey{Table: t.Ref(), ForeignKey: f, Again: true}
			if (slices.Contains(l.Tables, t.Ref()) || slices.Contains(l.Tables, f.Target)) && engine.Refuses(w, c, ch) == "" {
				plan = append(plan, change.Item{Change: ch})
				without.Table(t.Ref()).ForeignKeys = nil
			}
		}
	}
	work, err := w.Write(without, c, plan)
	if err != nil {
		return nil, err
	}
	return work.Preflight, nil
}
