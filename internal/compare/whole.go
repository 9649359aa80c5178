package compare

import (
	"cmp"
	"fmt"
	"slices"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
)

// whole gathers what is there on one side alone.
func (g *gathering) whole() {
	come, gone := g.only(g.to, g.from), g.only(g.from, g.to)
	if g.gone = gone; !g.w.Drops {
		g.gone = &catalog.Catalog{}
	}
	if len(come.Schemas) > 0 {
		for _, t := range come.Tables() {
			if g.can.ConstraintCopies {
				continue // they come with the table, which would have to be re-created for them
			}
			for _, f := range t.ForeignKeys {
				if !f.Inherited && t.PartitionOf == nil {
					g.add("table", change.AddForeignKey{Table: t.Ref(), ForeignKey: f})
				}
			}
			t.ForeignKeys = slices.DeleteFunc(slices.Clone(t.ForeignKeys), func(f *catalog.ForeignKey) bool { return !f.Inherited && t.PartitionOf == nil })
			if g.can.ReferencesBuild { // they come with the foreign keys
				t.Indexes = slices.DeleteFunc(slices.Clone(t.Indexes), func(x *catalog.Index) bool { return x.Origin == catalog.ByForeignKey })
			}
			for _, x := range t.Indexes {
				if x.Origin == catalog.ByForeignKey {
					x.Origin = catalog.ByPerson // until the foreign key is there
				}
			}
			g.share(t)
		}
		g.setReading(come)
		if len(come.Schemas) > 0 {
			g.items = append(g.items, change.Item{Change: change.CreateObjects{What: come}})
		}
	}
	schemas := g.emptied(gone)
	if !g.w.Drops || len(gone.Schemas)+len(schemas) == 0 {
		return
	}
	for _, t := range g.from.Tables() {
		for _, f := range t.ForeignKeys {
			if gone.Table(f.Target) != nil && gone.Table(t.Ref()) == nil && !f.Inherited {
				g.items = append(g.items, change.Item{Change: change.DropForeignKey{Table: t.Ref(), ForeignKey: f, Early: true}})
			}
		}
	}
	if views := viewsOf(gone); len(views.Schemas) > 0 {
		g.items = append(g.items, change.Item{Change: change.DropObjects{What: views, First: true}})
	}
	for _, t := range gone.Tables() {
		if g.can.ConstraintCopies {
			continue // where nothing stands on the key that they refer to
		}
		own := t.ForeignKeys
		t.ForeignKeys = nil
		for _, f := range own {
			if gone.Table(f.Target) != nil || f.Inherited || t.PartitionOf != nil {
				t.ForeignKeys = append(t.ForeignKeys, f)
				continue
			}
			g.items = append(g.items, change.Item{Change: change.DropForeignKey{Table: t.Ref(), ForeignKey: f, Early: true}})
		}
	}
	if len(gone.Schemas)+len(schemas) > 0 {
		g.items = append(g.items, change.Item{Change: change.DropObjects{What: gone, Schemas: schemas}})
	}
}

// emptied lists the schemas that only the first has, and that hold nothing else than
// what goes. The one that every database begins with stays.
func (g *gathering) emptied(gone *catalog.Catalog) (names []string) {
	for _, s := range g.from.Schemas {
		if !g.can.DropsEmptySchemas || !g.w.kind("schema") || s.Name == "public" || s.Extension != "" || len(s.Objects) > 0 || g.to.Schema(s.Name) != nil {
			continue
		}
		if in := gone.Schema(s.Name); s.Size() == 0 && len(g.w.Tables) == 0 || in != nil && in.Size() == s.Size() {
			names = append(names, s.Name)
		}
	}
	return names
}

// share leaves to the whole what the whole does not have yet: a new partition gets
// its part of a new index with those that are there.
func (g *gathering) share(part *catalog.Table) {
	if part.PartitionOf == nil {
		return
	}
	whole := g.from.Table(*part.PartitionOf)
	if whole == nil {
		return // comes with it
	}
	part.Indexes = slices.DeleteFunc(slices.Clone(part.Indexes), func(x *catalog.Index) bool {
		return x.PartOf != "" && x.Origin == catalog.ByPerson && whole.Index(x.PartOf) == nil
	})
}

// only holds what is in one catalog and not in the other, of what is wanted.
func (g *gathering) only(in, not *catalog.Catalog) *catalog.Catalog {
	c := in.Clone()
	for _, s := range c.Schemas {
		there := cmp.Or(not.Schema(s.Name), &catalog.Schema{})
		s.Tables = missing(g, "table", s, s.Tables, there.Tables, func(t *catalog.Table) string { return t.Name })
		s.Views = missing(g, "view", s, s.Views, there.Views, func(v *catalog.View) string { return v.Name })
		s.Sequences = missing(g, "sequence", s, s.Sequences, there.Sequences, func(q *catalog.Sequence) string { return q.Name })
		s.Types = missing(g, "type", s, s.Types, there.Types, func(y *catalog.UserType) string { return y.Name })
		s.Routines = missing(g, "routine", s, s.Routines, there.Routines, (*catalog.Routine).Signature)
		s.Objects = missing(g, "object", s, s.Objects, there.Objects, func(o *catalog.Object) string { return o.Kind + " " + o.Name })
		// A sequence that a column has for its identity comes and goes with it.
		s.Sequences = slices.DeleteFunc(s.Sequences, func(q *catalog.Sequence) bool {
			return q.Identity && !slices.ContainsFunc(s.Tables, func(t *catalog.Table) bool {
				return slices.ContainsFunc(t.Columns, func(c *catalog.Column) bool { return c.Sequence != nil && c.Sequence.Table == q.Name })
			})
		})
	}
	if in == g.to {
		g.orphaned(c)
		g.unclash(c)
	}
	if in == g.from {
		ofAddOns(c)
		g.perhapsRenamed(c)
		g.readStill(c)
	}
	c.Objects = nil
	c.Schemas = slices.DeleteFunc(c.Schemas, func(s *catalog.Schema) bool {
		return len(s.Tables)+len(s.Views)+len(s.Sequences)+len(s.Types)+len(s.Routines)+len(s.Objects) == 0
	})
	if in == g.to && len(c.Schemas) > 0 {
		c.Objects = neededBy(c, in, not)
	}
	return c
}

// ofAddOns leaves out what came with an add-on, which is not dropped, and goes with that alone.
func ofAddOns(c *catalog.Catalog) {
	for _, s := range c.Schemas {
		s.Tables = slices.DeleteFunc(s.Tables, func(t *catalog.Table) bool { return t.Extension != "" })
		s.Views = slices.DeleteFunc(s.Views, func(v *catalog.View) bool { return v.Extension != "" })
		s.Sequences = slices.DeleteFunc(s.Sequences, func(q *catalog.Sequence) bool { return q.Extension != "" })
		s.Types = slices.DeleteFunc(s.Types, func(y *catalog.UserType) bool { return y.Extension != "" })
		s.Routines = slices.DeleteFunc(s.Routines, func(f *catalog.Routine) bool { return f.Extension != "" })
		s.Objects = slices.DeleteFunc(s.Objects, func(o *catalog.Object) bool { return o.Extension != "" })
	}
}

// neededBy are the objects of the database itself, as extensions and servers, that some of its
// members need and another lacks.
func neededBy(some, in, lacks *catalog.Catalog) []*catalog.Object {
	all := map[catalog.ObjectRef]*catalog.Member{}
	for _, m := range in.Members() {
		all[m.ObjectRef] = m
	}
	wanted := map[string]bool{}
	var need func(m *catalog.Member)
	need = func(m *catalog.Member) {
		if e := m.Extension(); e != "" {
			wanted["extension "+e] = true
			return
		}
		if key := m.Kind + " " + m.Name; m.Object != nil && m.Schema == "" {
			if wanted[key] {
				return
			}
			wanted[key] = true
		} else if some.Schema(m.Schema) == nil {
			return // of a schema that is there
		}
		for _, o := range m.Needs() {
			if n := all[o]; n != nil && n.ObjectRef != m.ObjectRef && (n.Extension() != "" || n.Object != nil && n.Schema == "") {
				need(n)
			}
		}
	}
	for _, m := range some.Members() {
		need(m)
	}
	var objects []*catalog.Object
	for _, o := range in.Objects {
		if wanted[o.Kind+" "+o.Name] && !slices.ContainsFunc(lacks.Objects, func(x *catalog.Object) bool { return x.Kind == o.Kind && x.Name == o.Name }) {
			objects = append(objects, o)
		}
	}
	return objects
}

// perhapsRenamed leaves out the tables that may be there still, under a new name: their rows
// would be lost.
func (g *gathering) perhapsRenamed(gone *catalog.Catalog) {
	for _, s := range gone.Schemas {
		come := slices.DeleteFunc(slices.Clone(cmp.Or(g.to.Schema(s.Name), &catalog.Schema{}).Tables), func(t *catalog.Table) bool { return g.from.Table(t.Ref()) != nil })
		s.Tables = slices.DeleteFunc(s.Tables, func(t *catalog.Table) bool { return likeliest(come, t) != nil })
	}
}

// readStill leaves out what a view reads that stays, and those views' own views, and the
// tables that others which stay are a part of.
func (g *gathering) readStill(gone *catalog.Catalog) {
	for again := true; again; {
		again = false
		for _, s := range g.from.Schemas {
			for _, t := range s.Tables {
				if gone.Table(t.Ref()) == nil {
					for _, parent := range t.Parents() {
						again = leaveOut(gone, catalog.ObjectRef{Schema: parent.Schema, Name: parent.Table}) || again
					}
				}
			}
			for _, v := range s.Views {
				if held := gone.Schema(s.Name); held != nil && slices.ContainsFunc(held.Views, func(x *catalog.View) bool { return x.Name == v.Name }) {
					continue
				}
				for _, r := range v.Reads {
					again = leaveOut(gone, r) || again
				}
			}
		}
	}
}

// orphaned leaves out partitions of a table that is there and has none.
func (g *gathering) orphaned(come *catalog.Catalog) {
	for n := -1; n != len(come.Tables()); {
		n = len(come.Tables())
		for _, s := range come.Schemas {
			s.Tables = slices.DeleteFunc(s.Tables, func(t *catalog.Table) bool {
				if t.PartitionOf == nil {
					return false
				}
				whole := cmp.Or(come.Table(*t.PartitionOf), g.from.Table(*t.PartitionOf))
				return whole == nil || whole.Kind != catalog.Partitioned
			})
		}
	}
}

// leaveOut takes a relation out of the catalog; false: it is not there.
func leaveOut(c *catalog.Catalog, r catalog.ObjectRef) bool {
	s := c.Schema(r.Schema)
	if s == nil {
		return false
	}
	n := len(s.Tables) + len(s.Views)
	s.Tables = slices.DeleteFunc(s.Tables, func(t *catalog.Table) bool { return t.Name == r.Name })
	s.Views = slices.DeleteFunc(s.Views, func(v *catalog.View) bool { return v.Name == r.Name })
	return len(s.Tables)+len(s.Views) < n
}

// unclash leaves out the tables one of whose indexes or constraints has the name of one that is
// there on another table, where the engine lets no two have it, and with them what may lean on
// them.
func (g *gathering) unclash(come *catalog.Catalog) {
	for _, s := range come.Schemas {
		there := g.from.Schema(s.Name)
		if there == nil {
			continue
		}
		taken := map[string]bool{}
		for _, t := range there.Tables {
			for _, name := range claimed(t, g.can) {
				taken[name] = true
			}
		}
		n := len(s.Tables)
		s.Tables = slices.DeleteFunc(s.Tables, func(t *catalog.Table) bool {
			return slices.ContainsFunc(claimed(t, g.can), func(name string) bool { return taken[name] })
		})
		if len(s.Tables) < n {
			s.Views, s.Routines = nil, nil
		}
	}
}

// claimed are the names that no other table of the schema can have for its indexes, or for its
// constraints.
func claimed(t *catalog.Table, can catalog.Abilities) (names []string) {
	if !can.IndexNamesPerTable {
		for _, x := range t.Indexes {
			if x.Name != "" && !x.SystemNamed {
				names = append(names, "index "+x.Name)
			}
		}
	}
	if can.ConstraintNamesPerSchema {
		for _, name := range t.ConstraintNames() {
			names = append(names, "constraint "+name)
		}
	}
	return names
}

// Clash says why a new table cannot stand beside those that are there, "" where it can: one of its
// indexes or constraints has the name of another table's, where the engine lets no two have it.
func Clash(there *catalog.Catalog, t *catalog.Table, can catalog.Abilities) string {
	names := claimed(t, can)
	if s := there.Schema(t.Schema); s != nil && len(names) > 0 {
		for _, other := range s.Tables {
			for _, name := range claimed(other, can) {
				if other.Name != t.Name && slices.Contains(names, name) {
					return fmt.Sprintf("its %s has the name of one of %s", name, other.Ref())
				}
			}
		}
	}
	return ""
}

func missing[T any](g *gathering, kind string, s *catalog.Schema, list, there []*T, name func(*T) string) []*T {
	if !g.w.kind(kind) || s.Extension != "" {
		return nil
	}
	held := map[string]bool{}
	for _, x := range there {
		held[name(x)] = true
	}
	return slices.DeleteFunc(slices.Clone(list), func(x *T) bool {
		return held[name(x)] || !g.w.table(catalog.Ref{Schema: s.Name, Table: name(x)})
	})
}
