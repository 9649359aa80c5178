package change

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
)

// Build makes everything that a catalog holds, in a database that holds other
// things: tables with their keys and indexes, views, sequences, types, routines.
type Build struct {
	What *catalog.Catalog
	// Late: it reads what is altered before.
	Late bool
}

// Raze takes everything away that a catalog holds, with the rows.
type Raze struct {
	What *catalog.Catalog
	// Empty: the tables are not to hold rows by then, since nobody asked for
	// their loss.
	Empty bool
	// First: it reads what is altered or dropped after.
	First bool
	// Schemas go too, where the engine drops none that holds anything.
	Schemas []string
}

func (Build) On() catalog.Ref { return catalog.Ref{} }
func (Raze) On() catalog.Ref  { return catalog.Ref{} }

func (c Build) rank() int {
	if c.Late {
		return rankText
	}
	return rankFirst
}

func (c Raze) rank() int {
	if c.First {
		return rankAnew
	}
	return rankLast
}

func (c Build) Title() string { return "create " + contents(c.What) }
func (c Raze) Title() string  { return "drop " + contents(c.What, c.Schemas...) }

// contents names what a catalog holds, and schemas.
func contents(c *catalog.Catalog, schemas ...string) string {
	var names []string
	for _, s := range schemas {
		names = append(names, "schema "+s)
	}
	for _, m := range c.Members() {
		names = append(names, m.Thing.String())
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
func (c Build) Tables() []catalog.Ref { return tablesOf(c.What) }

// Tables lists the tables that go.
func (c Raze) Tables() []catalog.Ref { return tablesOf(c.What) }

// Apply adds what is held.
func (c Build) Apply(to *catalog.Catalog, _ catalog.Abilities) error {
	for _, s := range c.What.Clone().Schemas {
		into := to.Schema(s.Name)
		if into == nil {
			to.Schemas = append(to.Schemas, s)
			continue
		}
		for _, t := range s.Tables {
			if to.Table(t.Ref()) != nil {
				return fmt.Errorf("table %s exists", t.Ref())
			}
		}
		into.Tables = append(into.Tables, s.Tables...)
		into.Views = append(into.Views, s.Views...)
		into.Sequences = append(into.Sequences, s.Sequences...)
		into.Types = append(into.Types, s.Types...)
		into.Routines = append(into.Routines, s.Routines...)
		into.Objects = append(into.Objects, s.Objects...)
	}
	return nil
}

// Apply removes what is held.
func (c Raze) Apply(from *catalog.Catalog, can catalog.Abilities) error {
	for _, t := range from.Tables() {
		for _, f := range t.ForeignKeys {
			if c.What.Table(f.Target) != nil && c.What.Table(t.Ref()) == nil {
				return fmt.Errorf("foreign key %s of %s refers to %s", f.Label(), t.Ref(), f.Target)
			}
		}
	}
	for _, s := range c.What.Schemas {
		in := from.Schema(s.Name)
		if in == nil {
			return fmt.Errorf("schema %s does not exist", s.Name)
		}
		for _, t := range s.Tables {
			if from.Table(t.Ref()) == nil {
				return fmt.Errorf("table %s does not exist", t.Ref())
			}
		}
		in.Tables = less(in.Tables, s.Tables, func(t *catalog.Table) string { return t.Name })
		in.Views = less(in.Views, s.Views, func(v *catalog.View) string { return v.Name })
		in.Sequences = less(in.Sequences, s.Sequences, func(q *catalog.Sequence) string { return q.Name })
		in.Types = less(in.Types, s.Types, func(y *catalog.UserType) string { return y.Name })
		in.Routines = less(in.Routines, s.Routines, (*catalog.Routine).Signature)
		in.Objects = less(in.Objects, s.Objects, func(o *catalog.Object) string { return o.Kind + " " + o.Name })
	}
	for _, name := range c.Schemas {
		if s := from.Schema(name); can.DropsEmptySchemas && s != nil {
			if s.Size() > 0 {
				return fmt.Errorf("schema %s is not empty by then", name)
			}
			from.Schemas = slices.DeleteFunc(from.Schemas, func(o *catalog.Schema) bool { return o == s })
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

// Reverse drops what was made, where it holds no rows, and the schemas that were made
// for it.
func (c Build) Reverse(before *catalog.Catalog) (Change, error) {
	raze := Raze{What: c.What, Empty: true}
	for _, s := range c.What.Schemas {
		if before.Schema(s.Name) == nil {
			raze.Schemas = append(raze.Schemas, s.Name)
		}
	}
	return raze, nil
}

// Reverse makes it again, without the rows.
func (c Raze) Reverse(before *catalog.Catalog) (Change, error) {
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
	return Build{What: what}, nil
}
