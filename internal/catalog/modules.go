package catalog

import "iter"

// A Module is a program that the database keeps: a routine, or a trigger of a table or a view.
type Module struct {
	Kind, Name string
	Text       string // "" where it was not read
	Returns    string // of a function
}

// Modules are the programs of the catalog: of each schema the triggers of its tables, then those of
// its views, then its routines.
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
		for _, s := range c.Schemas {
			for _, t := range s.Tables {
				if !triggers(t.Triggers) {
					return
				}
			}
			for _, v := range s.Views {
				if !triggers(v.Triggers) {
					return
				}
			}
			for _, f := range s.Routines {
				if !yield(Module{f.Kind, f.Name, f.Definition, f.Returns}) {
					return
				}
			}
		}
	}
}
