package catalog

import (
	"cmp"
	"container/heap"
	"slices"
	"strings"
)

// A Member is one object of a catalog that stands by itself, with what it is.
type Member struct {
	ObjectRef
	Table    *Table
	View     *View
	Sequence *Sequence
	Type     *UserType
	Routine  *Routine
	Object   *Object
	// Broken: it needs something that comes later, since they need each other.
	Broken bool
}

// Extension is the add-on that the member belongs to, or "".
func (m *Member) Extension() string {
	switch {
	case m.Table != nil:
		return m.Table.Extension
	case m.View != nil:
		return m.View.Extension
	case m.Sequence != nil:
		return m.Sequence.Extension
	case m.Type != nil:
		return m.Type.Extension
	case m.Routine != nil:
		return m.Routine.Extension
	}
	return m.Object.Extension
}

// Needs lists what must be there before the member.
func (m *Member) Needs() []ObjectRef {
	switch {
	case m.Table != nil:
		needs := slices.Clone(m.Table.Needs)
		for _, p := range m.Table.Inherits {
			needs = append(needs, p.thing())
		}
		if p := m.Table.PartitionOf; p != nil {
			needs = append(needs, p.thing())
		}
		return needs
	case m.View != nil:
		return m.View.Reads
	case m.Sequence != nil:
		return nil
	case m.Type != nil:
		return m.Type.Needs
	case m.Routine != nil:
		return m.Routine.Needs
	}
	return m.Object.Needs
}

func (r Ref) thing() ObjectRef { return ObjectRef{KindTable, r.Schema, r.Table} }

// rank puts first what others are likely to need.
func (m *Member) rank() int {
	switch {
	case m.Kind == "extension":
		return 0
	case m.Object != nil && m.Kind != "event trigger":
		return 3
	case m.Type != nil:
		return 1
	case m.Sequence != nil:
		return 2
	case m.Routine != nil:
		return 4
	case m.Table != nil:
		return 5
	case m.View != nil:
		return 6
	}
	return 7
}

// Members lists all objects that stand by themselves, schemas excepted, in an
// order in which each comes after what it needs.
func (c *Catalog) Members() []*Member {
	var all []*Member
	add := func(kind, schema, name string, m Member) {
		m.ObjectRef = ObjectRef{kind, schema, name}
		all = append(all, &m)
	}
	for _, o := range c.Objects {
		add(o.Kind, "", o.Name, Member{Object: o})
	}
	for _, s := range c.Schemas {
		for _, t := range s.Tables {
			add(KindTable, s.Name, t.Name, Member{Table: t})
		}
		for _, v := range s.Views {
			add(KindView, s.Name, v.Name, Member{View: v})
		}
		for _, q := range s.Sequences {
			add(KindSequence, s.Name, q.Name, Member{Sequence: q})
		}
		for _, y := range s.Types {
			add(KindType, s.Name, y.Name, Member{Type: y})
		}
		for _, f := range s.Routines {
			add(KindRoutine, s.Name, f.Signature(), Member{Routine: f})
		}
		for _, o := range s.Objects {
			add(o.Kind, s.Name, o.Name, Member{Object: o})
		}
	}
	return inOrder(all)
}

// queue holds the members that could come next, the likeliest needed first.
type queue []*Member

func (q queue) Len() int           { return len(q) }
func (q queue) Less(i, j int) bool { return q[i].before(q[j]) < 0 }
func (q queue) Swap(i, j int)      { q[i], q[j] = q[j], q[i] }
func (q *queue) Push(m any)        { *q = append(*q, m.(*Member)) }
func (q *queue) Pop() any {
	last := (*q)[len(*q)-1]
	*q = (*q)[:len(*q)-1]
	return last
}

func (m *Member) before(o *Member) int {
	return cmp.Or(cmp.Compare(m.rank(), o.rank()), strings.Compare(m.Schema, o.Schema), strings.Compare(m.Name, o.Name), strings.Compare(m.Kind, o.Kind))
}

// inOrder sorts by need (Kahn's method). Where some need each other in a ring,
// the first of them by rank goes before what it needs, and is marked.
func inOrder(all []*Member) []*Member {
	slices.SortFunc(all, (*Member).before)
	byThing := make(map[ObjectRef]*Member, len(all))
	for _, m := range all {
		byThing[m.ObjectRef] = m
	}
	waits := map[*Member]int{}
	for_ := map[*Member][]*Member{} // who waits for it
	for _, m := range all {
		seen := map[*Member]bool{m: true}
		needs := m.Needs()
		if m.Extension() != "" {
			needs = nil // it is nothing that is made by itself
		}
		for _, o := range needs {
			n := byThing[o]
			if n != nil && n.Extension() != "" { // which comes with its add-on, whole
				n = byThing[ObjectRef{"extension", "", n.Extension()}]
			}
			if n != nil && !seen[n] {
				seen[n] = true
				waits[m]++
				for_[n] = append(for_[n], m)
			}
		}
	}
	var next queue
	for _, m := range all {
		if waits[m] == 0 {
			next = append(next, m)
		}
	}
	heap.Init(&next)
	done := map[*Member]bool{}
	sorted := make([]*Member, 0, len(all))
	for at := 0; len(sorted) < len(all); {
		if next.Len() == 0 {
			// A ring. A table can do without its defaults and checks for a while.
			var first *Member
			for _, m := range all[at:] {
				if !done[m] && (first == nil || m.Table != nil && first.Table == nil) {
					first = m
				}
			}
			first.Broken = true
			next = append(next, first)
		}
		m := heap.Pop(&next).(*Member)
		if done[m] {
			continue
		}
		done[m] = true
		sorted = append(sorted, m)
		for at < len(all) && done[all[at]] {
			at++
		}
		for _, w := range for_[m] {
			if waits[w]--; waits[w] == 0 && !done[w] {
				heap.Push(&next, w)
			}
		}
	}
	return sorted
}

// Subset returns a catalog that holds the tables and what they need: parents
// and partitions, what their foreign keys refer to, types, sequences and the
// routines that their triggers call.
func (c *Catalog) Subset(tables []Ref) *Catalog {
	members := map[ObjectRef]*Member{}
	routines := map[string]ObjectRef{}
	for _, m := range c.Members() {
		members[m.ObjectRef] = m
		if m.Routine != nil {
			routines[m.Schema+"."+m.Name] = m.ObjectRef
		}
	}
	lookup := c.Lookup()
	keep := map[ObjectRef]bool{}
	var take func(ObjectRef)
	take = func(o ObjectRef) {
		m := members[o]
		if m == nil || keep[o] {
			return
		}
		keep[o] = true
		for _, n := range m.Needs() {
			take(n)
		}
		if t := m.Table; t != nil {
			for _, f := range t.ForeignKeys {
				take(f.Target.thing())
			}
			for _, p := range lookup.Partitions(t.Ref()) {
				take(p.Ref().thing())
			}
			for _, col := range t.Columns {
				if q := col.Sequence; q != nil {
					take(ObjectRef{KindSequence, q.Schema, q.Table})
				}
			}
			for _, g := range t.Triggers {
				take(routines[g.Calls])
			}
			for _, o := range t.Objects {
				for _, n := range o.Needs {
					take(n)
				}
			}
		}
	}
	for _, ref := range tables {
		take(ref.thing())
	}
	d := c.Clone()
	kept := func(kind, schema, name string) bool { return keep[ObjectRef{kind, schema, name}] }
	d.Objects = slices.DeleteFunc(d.Objects, func(o *Object) bool { return !kept(o.Kind, "", o.Name) })
	for _, s := range d.Schemas {
		s.Tables = slices.DeleteFunc(s.Tables, func(t *Table) bool { return !kept(KindTable, s.Name, t.Name) })
		s.Views = slices.DeleteFunc(s.Views, func(v *View) bool { return !kept(KindView, s.Name, v.Name) })
		s.Sequences = slices.DeleteFunc(s.Sequences, func(q *Sequence) bool { return !kept(KindSequence, s.Name, q.Name) })
		s.Types = slices.DeleteFunc(s.Types, func(y *UserType) bool { return !kept(KindType, s.Name, y.Name) })
		s.Routines = slices.DeleteFunc(s.Routines, func(f *Routine) bool { return !kept(KindRoutine, s.Name, f.Signature()) })
		s.Objects = slices.DeleteFunc(s.Objects, func(o *Object) bool { return !kept(o.Kind, s.Name, o.Name) })
	}
	d.Schemas = slices.DeleteFunc(d.Schemas, func(s *Schema) bool {
		return len(s.Tables)+len(s.Views)+len(s.Sequences)+len(s.Types)+len(s.Routines)+len(s.Objects) == 0
	})
	return d
}
