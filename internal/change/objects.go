package change

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
)

// CreateObjects makes everything that a catalog holds, in a database that holds other
// things: tables with their keys and indexes, views, sequences, types, routines.
type CreateObjects struct {
	What *catalog.Catalog
	// Late: it reads what is altered before.
	Late bool
}

// DropObjects takes everything away that a catalog holds, with the rows.
type DropObjects struct {
	What *catalog.Catalog
	// Empty: the tables are not to hold rows, since nobody asked for
	// their loss.
	Empty bool
	// First: it reads what is altered or dropped after.
	First bool
	// Schemas go too, where the engine drops none that holds anything.
	Schemas []string
}

func (CreateObjects) On() catalog.Ref { return catalog.Ref{} }
func (DropObjects) On() catalog.Ref   { return catalog.Ref{} }

func (c CreateObjects) rank() int {
	if c.Late {
		return rankText
	}
	return rankFirst
}

func (c DropObjects) rank() int {
	if c.First {
		return rankEarly
	}
	return rankLast
}

func (c CreateObjects) Title() string { return "create " + contents(c.What) }
func (c DropObjects) Title() string   { return "drop " + contents(c.What, c.Schemas...) }

// contents names what a catalog holds, and schemas.
func contents(c *catalog.Catalog, schemas ...string) string {
	var names []string
	for _, s := range schemas {
		names = append(names, "schema "+s)
	}
	for _, m := range c.Members() {
		if m.Extension() == "" {
			names = append(names, m.ObjectRef.String())
		}
	}
	if len(names) > 6 {
		names = append(names[:5], fmt.Sprintf("%d more", len(names)-5))
	}
	return strings.Join(names, ", ")
}

// Tables lists the tables that come or go.
func tablesOf(c *catalog.Catalog) []catalog.Ref {
	var refs []catalog.Ref
	for _, t := range c.Tables() {
		refs = append(refs, t.Ref())
	}
	return refs
}

// Tables lists the tables that are made.
func (c CreateObjects) Tables() []catalog.Ref { return tablesOf(c.What) }

// Tables lists the tables that go.
func (c DropObjects) Tables() []catalog.Ref { return tablesOf(c.What) }

// apply adds what is held.
func (c CreateObjects) apply(to *edit, _ catalog.Abilities) error {
	if len(c.What.Objects) > 0 {
		top := to.whole()
		top.Objects = append(top.Objects, c.What.Clone().Objects...)
	}
	for _, s := range c.What.Clone().Schemas {
		if to.Schema(s.Name) == nil {
			top := to.whole()
			top.Schemas = append(top.Schemas, s)
			continue
		}
		into, err := to.schema(s.Name)
		if err != nil {
			return err
		}
		for _, t := range s.Tables {
			if err := to.addTable(t); err != nil {
				return err
			}
		}
		into.Views = append(into.Views, s.Views...)
		into.Sequences = append(into.Sequences, s.Sequences...)
		into.Types = append(into.Types, s.Types...)
		into.Routines = append(into.Routines, s.Routines...)
		into.Objects = append(into.Objects, s.Objects...)
	}
	return nil
}

// apply removes what is held.
func (c DropObjects) apply(from *edit, can catalog.Abilities) error {
	if len(c.What.Schemas) == 0 && !can.DropsEmptySchemas {
		return fmt.Errorf("schemas are not dropped here")
	}
	for _, t := range from.Tables() {
		if c.What.Table(t.Ref()) != nil {
			continue
		}
		for _, f := range t.ForeignKeys {
			if c.What.Table(f.Target) != nil {
				return fmt.Errorf("foreign key %s of %s refers to %s", f.Label(), t.Ref(), f.Target)
			}
		}
		for _, parent := range t.Parents() {
			if c.What.Table(parent) != nil {
				return fmt.Errorf("%s would go with %s, or lose what it has of it", t.Ref(), parent)
			}
		}
	}
	for _, s := range c.What.Schemas {
		in, err := from.schema(s.Name)
		if err != nil {
			return err
		}
		for _, t := range s.Tables {
			if _, err := table(from.Catalog, t.Ref()); err != nil {
				return err
			}
		}
		in.Tables = less(in.Tables, s.Tables, func(t *catalog.Table) string { return t.Name })
		in.Views = less(in.Views, s.Views, func(v *catalog.View) string { return v.Name })
		in.Sequences = less(in.Sequences, s.Sequences, func(q *catalog.Sequence) string { return q.Name })
		in.Types = less(in.Types, s.Types, func(y *catalog.UserType) string { return y.Name })
		in.Routines = less(in.Routines, s.Routines, (*catalog.Routine).Signature)
		in.Objects = less(in.Objects, s.Objects, func(o *catalog.Object) string { return o.Kind + " " + o.Name })
	}
	if len(c.What.Objects) > 0 {
		top := from.whole()
		top.Objects = less(top.Objects, c.What.Objects, func(o *catalog.Object) string { return o.Kind + " " + o.Name })
	}
	for _, name := range c.Schemas {
		if s := from.Schema(name); can.DropsEmptySchemas && s != nil {
			if s.Size() > 0 {
				return fmt.Errorf("schema %s is not empty", name)
			}
			top := from.whole()
			top.Schemas = without(top.Schemas, s)
		}
	}
	return nil
}

// less returns the list without those of the same name.
func less[T any](list, gone []*T, name func(*T) string) []*T {
	return slices.DeleteFunc(slices.Clone(list), func(x *T) bool {
		return slices.ContainsFunc(gone, func(g *T) bool { return name(g) == name(x) })
	})
}

// inverse drops what was made, where it holds no rows, and the schemas that were made
// for it.
func (c CreateObjects) inverse(before *catalog.Catalog) (Change, error) {
	raze := DropObjects{What: c.What, Empty: true}
	for _, s := range c.What.Schemas {
		if before.Schema(s.Name) == nil {
			raze.Schemas = append(raze.Schemas, s.Name)
		}
	}
	return raze, nil
}

// inverse makes it again, without the rows.
func (c DropObjects) inverse(before *catalog.Catalog) (Change, error) {
	what := c.What.Clone()
	for _, name := range c.Schemas {
		s := what.Schema(name)
		if s == nil {
			s = &catalog.Schema{Name: name}
			what.Schemas = append(what.Schemas, s)
		}
		if was := before.Schema(name); was != nil {
			s.Options, s.Comment = was.Options, was.Comment
		}
	}
	return CreateObjects{What: what}, nil
}
