package engine

import (
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqllex"
)

// Hints notes on each table which of its indexes the texts of views, triggers and routines call for
// by their names: without the index the engine refuses the statement, and keeps no record of that.
func Hints(c *catalog.Catalog, d sqllex.Dialect) {
	if d.Hints == "" {
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
	note := func(kind, schema, name, text string) {
		for _, said := range sqllex.Hinted(d, text) {
			for _, x := range named[strings.ToLower(said)] {
				leans := catalog.Dependant{Kind: catalog.TextOf + kind, Name: schema + "." + name, On: x.name}
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
