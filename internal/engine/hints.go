package engine

import (
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqllex"
)

// Hints notes on each table which of its indexes the texts of views, triggers and routines call for
// by their names, or by the columns that ON CONFLICT is to look at, and which constraint it names:
// without it the engine refuses the statement, and keeps no record of that.
func Hints(c *catalog.Catalog, d sqllex.Dialect) {
	if d.Hints == "" && !d.Infers {
		return
	}
	type index struct {
		of   *catalog.Table
		name string
	}
	named := map[string][]index{} // by their names in small letters: some engines tell no others apart
	for _, t := range c.Tables() {
		for _, x := range t.Indexes {
			low := strings.ToLower(x.Name)
			named[low] = append(named[low], index{t, x.Name})
		}
	}
	tables := map[string][]*catalog.Table{}
	for _, t := range c.Tables() {
		low := strings.ToLower(t.Name)
		tables[low] = append(tables[low], t)
	}
	note := func(kind, schema, by, text string) {
		for _, said := range sqllex.Conflicts(d, text) {
			for _, t := range tables[strings.ToLower(said.Table)] {
				for _, name := range t.ConstraintNames() {
					if said.Constraint.Names(name) {
						t.Dependants = append(t.Dependants, catalog.Dependant{Kind: catalog.TextOf + kind, Name: schema + "." + by, On: name})
					}
				}
				for _, x := range inferred(t, said) {
					t.Dependants = append(t.Dependants, catalog.Dependant{Kind: catalog.TextOf + kind, Name: schema + "." + by, Columns: x.Columns(), On: x.Name})
				}
			}
		}
		for _, said := range sqllex.Hinted(d, text) {
			for _, x := range named[strings.ToLower(said)] {
				leans := catalog.Dependant{Kind: catalog.TextOf + kind, Name: schema + "." + by, On: x.name}
				if d.Hints == sqllex.ByIndex || sqllex.Says(d, text, x.of.Name) {
					x.of.Dependants = append(x.of.Dependants, leans)
				}
			}
		}
	}
	for _, s := range c.Schemas {
		for _, v := range s.Views {
			note("view", s.Name, v.Name, v.Definition)
			for _, g := range v.Triggers {
				note("trigger", s.Name, g.Name, g.Definition)
			}
		}
		for _, f := range s.Routines {
			note(f.Kind, s.Name, f.Name, f.Definition)
		}
		for _, t := range s.Tables {
			for _, g := range t.Triggers {
				note("trigger", s.Name, g.Name, g.Definition)
			}
		}
	}
}

// inferred are the indexes that an ON CONFLICT calls for: of those on just its columns, of which
// one is enough, that of a key before others; of expressions, all that there are.
func inferred(t *catalog.Table, said sqllex.Conflict) (all []*catalog.Index) {
	if said.Constraint.Text != "" {
		return nil
	}
	var best *catalog.Index
	for _, x := range t.Indexes {
		switch {
		case !x.Unique || x.Invalid:
		case said.Others && slices.Contains(x.Columns(), ""):
			all = append(all, x)
		case said.Others || !sameNames(x.Columns(), said.Columns):
		case x.Predicate != "": // for a condition of its own
			all = append(all, x)
		case best == nil, best.Origin == catalog.ByPerson && x.Origin != catalog.ByPerson:
			best = x
		}
	}
	if best != nil {
		all = append(all, best)
	}
	return all
}

// sameNames reports whether the columns are those, in whatever order.
func sameNames(columns, said []string) bool {
	return len(columns) == len(said) && !slices.ContainsFunc(columns, func(c string) bool {
		return !slices.ContainsFunc(said, func(s string) bool { return strings.EqualFold(c, s) })
	})
}
