package compare

import (
	"slices"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
)

// texts gathers the views and routines that both have and that read otherwise, the views
// that read what is altered, and the sequences that count otherwise: in the order in
// which they need one another.
func (g *gathering) texts() {
	c := &comparison{}
	for _, m := range g.to.Members() {
		s := g.from.Schema(m.Schema)
		if s == nil || !g.w.table(catalog.Ref{Schema: m.Schema, Table: m.Name}) {
			continue
		}
		switch {
		case g.late[catalog.Ref{Schema: m.Schema, Table: m.Name}]:
			g.add("view", change.CreateObjects{Late: true, What: &catalog.Catalog{Engine: g.to.Engine, Database: g.to.Database, Settings: g.to.Settings,
				Schemas: []*catalog.Schema{{Name: m.Schema, Views: []*catalog.View{m.View}}}}})
		case m.View != nil && m.View.Extension == "":
			if old := namesake(s.Views, m.View, func(v *catalog.View) string { return v.Name }); old != nil && differs(c.viewSays(old), c.viewSays(m.View)) {
				g.add("view", change.ReplaceView{Schema: m.Schema, Old: old, New: m.View})
			}
		case m.Routine != nil && m.Routine.Extension == "":
			if old := namesake(s.Routines, m.Routine, (*catalog.Routine).Signature); old != nil && differs(routineSays(old), routineSays(m.Routine)) {
				g.add("routine", change.ReplaceRoutine{Schema: m.Schema, Old: old, New: m.Routine})
			}
		case m.Sequence != nil && m.Sequence.Extension == "" && !m.Sequence.Identity:
			old := namesake(s.Sequences, m.Sequence, func(q *catalog.Sequence) string { return q.Name })
			if old == nil || old.Identity {
				continue
			}
			alike := *m.Sequence // whose it is, is the column's
			alike.OwnedBy, alike.Unlogged = old.OwnedBy, old.Unlogged
			if differs(c.sequenceSays(old), c.sequenceSays(&alike)) {
				g.add("sequence", change.AlterSequence{Schema: m.Schema, Old: old, New: &alike})
			}
		}
	}
}

func differs(a, b says) bool {
	return slices.ContainsFunc(differ(a, b), func(p Property) bool { return p.From != p.To })
}

// namesake is the one of the list that is called as the other is, or nil.
func namesake[T any](list []*T, like *T, name func(*T) string) *T {
	if i := slices.IndexFunc(list, func(x *T) bool { return name(x) == name(like) }); i >= 0 {
		return list[i]
	}
	return nil
}

// setReading takes the views that read what is there already out of what comes: they are
// made one by one among the other texts, once that has been altered.
func (g *gathering) setReading(come *catalog.Catalog) {
	late := map[catalog.Ref]bool{}
	for _, m := range come.Members() {
		if m.View == nil {
			continue
		}
		reads := func(r catalog.ObjectRef) bool {
			ref := catalog.Ref{Schema: r.Schema, Table: r.Name}
			s := g.from.Schema(r.Schema)
			return late[ref] || g.from.Table(ref) != nil || s != nil && slices.ContainsFunc(s.Views, func(v *catalog.View) bool { return v.Name == r.Name })
		}
		if !slices.ContainsFunc(m.View.Reads, reads) {
			continue
		}
		late[catalog.Ref{Schema: m.Schema, Table: m.Name}] = true
	}
	g.late = late
	for _, s := range come.Schemas {
		s.Views = slices.DeleteFunc(s.Views, func(v *catalog.View) bool { return late[catalog.Ref{Schema: s.Name, Table: v.Name}] })
	}
	come.Schemas = slices.DeleteFunc(come.Schemas, hollow)
}

// viewsOf takes the views out of what goes: they go first, since they may read columns
// that go too.
func viewsOf(gone *catalog.Catalog) *catalog.Catalog {
	views := &catalog.Catalog{Engine: gone.Engine, Database: gone.Database, Settings: gone.Settings}
	for _, s := range gone.Schemas {
		if len(s.Views) > 0 {
			views.Schemas = append(views.Schemas, &catalog.Schema{Name: s.Name, Views: s.Views})
			s.Views = nil
		}
	}
	gone.Schemas = slices.DeleteFunc(gone.Schemas, hollow)
	return views
}

func hollow(s *catalog.Schema) bool {
	return s.Size() == 0
}

// triggers gathers what differs of the triggers of a table that both have.
func (g *gathering) triggers(a, b *catalog.Table) {
	own := func(list []*catalog.Trigger, name string) *catalog.Trigger {
		if i := slices.IndexFunc(list, func(t *catalog.Trigger) bool { return t.Name == name && !t.Inherited }); i >= 0 {
			return list[i]
		}
		return nil
	}
	for _, y := range b.Triggers {
		if y.Inherited { // which comes with the whole's, but may be switched otherwise
			if x := shareOf(a.Triggers, y.Name); x != nil && x.Enabled != y.Enabled {
				g.add("trigger", change.SetTrigger{Table: a.Ref(), Trigger: y, Off: y.Enabled == "disabled"})
			}
			continue
		}
		x := own(a.Triggers, y.Name)
		alike := y.Clone()
		if x != nil && place(a, b, y) == place(b, a, x) {
			alike.Order = x.Order // only others come or go before it
		}
		if x == nil || differs(triggerSays(x), triggerSays(alike)) {
			g.add("trigger", change.ReplaceTrigger{Table: a.Ref(), Old: x, New: y})
		}
	}
	for _, x := range a.Triggers {
		if g.w.Drops && !x.Inherited && own(b.Triggers, x.Name) == nil {
			g.add("trigger", change.ReplaceTrigger{Table: a.Ref(), Old: x})
		}
	}
}

// shareOf is the share in a trigger of the whole.
func shareOf(list []*catalog.Trigger, name string) *catalog.Trigger {
	if i := slices.IndexFunc(list, func(t *catalog.Trigger) bool { return t.Name == name && t.Inherited }); i >= 0 {
		return list[i]
	}
	return nil
}

// place is the trigger's place in its table among those of the same event that another table
// has too.
func place(other, in *catalog.Table, g *catalog.Trigger) int {
	n := 0
	for _, x := range in.Triggers {
		if x.SameEvent(g) && x.Order < g.Order && slices.ContainsFunc(other.Triggers, func(o *catalog.Trigger) bool { return o.Name == x.Name }) {
			n++
		}
	}
	return n
}

// comments gathers the comments that differ, on what both have.
func (g *gathering) comments(a, b *catalog.Table) {
	put := func(kind, on, name, from, to string) {
		if from != to && (name != "" || on == change.OnTable) {
			g.add(kind, change.SetComment{Table: a.Ref(), Kind: on, Name: name, From: from, To: to})
		}
	}
	put("table", change.OnTable, "", a.Comment, b.Comment)
	for _, y := range b.Columns {
		if x := a.Column(y.Name); x != nil {
			put("column", change.OnColumn, y.Name, x.Comment, y.Comment)
		}
	}
	for _, y := range b.Indexes {
		if x := a.Index(y.Name); x != nil && x.Origin == y.Origin && x.Origin == catalog.ByPerson && sameIndex(x, y) {
			put("index", change.OnIndex, y.Name, x.Comment, y.Comment)
		}
	}
	for _, y := range b.Keys() {
		if i := slices.IndexFunc(a.Keys(), func(x *catalog.Key) bool { return x.Name == y.Name && sameKey(x, y) }); i >= 0 {
			put(keyKind(y == b.PrimaryKey), change.OnConstraint, y.Name, a.Keys()[i].Comment, y.Comment)
		}
	}
	for _, y := range b.ForeignKeys {
		if i := slices.IndexFunc(a.ForeignKeys, func(x *catalog.ForeignKey) bool { return x.Name == y.Name && !x.Inherited }); i >= 0 {
			put("foreign key", change.OnConstraint, y.Name, a.ForeignKeys[i].Comment, y.Comment)
		}
	}
	for _, y := range b.Checks {
		if i := slices.IndexFunc(a.Checks, func(x *catalog.Check) bool { return x.Name == y.Name && x.Expression == y.Expression && !x.Inherited }); i >= 0 {
			put("check", change.OnConstraint, y.Name, a.Checks[i].Comment, y.Comment)
		}
	}
}
