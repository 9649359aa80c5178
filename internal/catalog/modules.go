package catalog

import "iter"

// A Module is a program that the database keeps: a routine, a trigger or a rule of a table or a view, or
// what runs by the clock.
type Module struct {
	Kind, Name string
	Text       string // "" where it was not read
	Returns    string // of a function
}

// Modules are the programs of the catalog: of each schema the triggers and rules of its tables, then
// those of its views, then its routines and events.
func (c *Catalog) Modules() iter.Seq[Module] {
	return func(yield func(Module) bool) {
		triggers := func(list []*Trigger) bool {
			for _, g := range list {
				if !yield(Module{"trigger", g.Name, g.Definition, ""}) {
					return false
				}
			}
			return true
		}
		objects := func(list []*Object) bool {
			for _, o := range list {
				if (o.Kind == "event" || o.Kind == "rule") && !yield(Module{o.Kind, o.Name, o.Definition, ""}) {
					return false
				}
			}
			return true
		}
		for _, s := range c.Schemas {
			for _, t := range s.Tables {
				if !triggers(t.Triggers) || !objects(t.Objects) {
					return
				}
			}
			for _, v := range s.Views {
				if !triggers(v.Triggers) || !objects(v.Objects) {
					return
				}
			}
			for _, f := range s.Routines {
				if !yield(Module{f.Kind, f.Name, f.Definition, f.Returns}) {
					return
				}
			}
			if !objects(s.Objects) {
				return
			}
		}
	}
}
