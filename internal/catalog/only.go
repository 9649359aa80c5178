package catalog

import (
	"fmt"
	"slices"
	"strings"
)

// A Scope is which part of a catalog is looked at. In patterns * stands for any letters, and ?
// for one.
type Scope struct {
	Schemas []string // names or patterns; none: all
	Without []string // schemas, tables and views to leave out: names or patterns of name or schema.name
}

// Only leaves what is in the scope and takes the rest out of the catalog. What the rest refers to
// is kept in mind as leaning on it, so that nothing is changed under tables that are not seen.
// A partition goes and stays with its parent. Only fails where a schema or pattern fits nothing.
func (c *Catalog) Only(s Scope) error {
	if len(s.Schemas)+len(s.Without) == 0 {
		return nil
	}
	if err := c.fits(s); err != nil {
		return err
	}
	out := func(schema string) bool {
		return len(s.Schemas) > 0 && !anyFits(s.Schemas, schema) || anyFits(s.Without, schema)
	}
	gone := map[Ref]bool{}
	for _, schema := range c.Schemas {
		for _, t := range schema.Tables {
			gone[t.Ref()] = out(schema.Name) || anyFitsTable(s.Without, schema.Name, t.Name)
		}
	}
	lookup := c.Lookup()
	for _, t := range c.Tables() {
		for up := t; up != nil && up.PartitionOf != nil; up = lookup.Table(*up.PartitionOf) {
			gone[t.Ref()] = gone[*up.PartitionOf]
		}
	}
	for _, t := range c.Tables() {
		if gone[t.Ref()] {
			for _, f := range t.ForeignKeys {
				if target := lookup.Table(f.Target); target != nil && !gone[f.Target] {
					target.leanedOn(t, f)
				}
			}
		}
	}
	c.Schemas = slices.DeleteFunc(c.Schemas, func(s *Schema) bool { return out(s.Name) })
	for _, schema := range c.Schemas {
		schema.Tables = slices.DeleteFunc(schema.Tables, func(t *Table) bool { return gone[t.Ref()] })
		schema.Views = slices.DeleteFunc(schema.Views, func(v *View) bool { return anyFitsTable(s.Without, schema.Name, v.Name) })
	}
	left := func(schema, table string) bool {
		return schema != "" && (out(schema) || table != "" && (gone[Ref{schema, table}] || anyFitsTable(s.Without, schema, table)))
	}
	c.Gaps = slices.DeleteFunc(c.Gaps, func(g Gap) bool { return left(g.Schema, g.Table) })
	c.Faults = slices.DeleteFunc(c.Faults, func(f Fault) bool { return left(f.Schema, f.On().Table) })
	return nil
}

// leanedOn keeps in mind that a foreign key of a table that is left out refers to this one.
func (t *Table) leanedOn(from *Table, f *ForeignKey) {
	name := from.Ref().String()
	if f.Name != "" {
		name += " " + f.Name
	}
	lean := func(on string) {
		d := Dependant{Kind: "foreign key", Name: name, Columns: slices.Clone(f.TargetColumns), On: on}
		if !slices.ContainsFunc(t.Dependants, func(o Dependant) bool { return o.Kind == d.Kind && o.Name == d.Name && o.On == d.On }) {
			t.Dependants = append(t.Dependants, d)
		}
	}
	lean("")
	for _, k := range t.Keys() {
		if SameColumns(k.Columns, f.TargetColumns) {
			lean(k.Name)
		}
	}
	for _, x := range t.Indexes {
		if x.Unique && SameColumns(x.Columns(), f.TargetColumns) {
			lean(x.Name)
		}
	}
	sortDependants(t.Dependants)
}

// fits says which part of a scope fits nothing.
func (c *Catalog) fits(s Scope) error {
	var names []string
	for _, schema := range c.Schemas {
		names = append(names, schema.Name)
	}
	for _, p := range s.Schemas {
		if !slices.ContainsFunc(names, func(name string) bool { return Fits(p, name) }) {
			return fmt.Errorf("there is no schema %s; there are %s", p, strings.Join(names, ", "))
		}
	}
	for _, p := range s.Without {
		fits := slices.ContainsFunc(c.Schemas, func(s *Schema) bool {
			return Fits(p, s.Name) || slices.ContainsFunc(s.Tables, func(t *Table) bool { return FitsTable(p, s.Name, t.Name) }) ||
				slices.ContainsFunc(s.Views, func(v *View) bool { return FitsTable(p, s.Name, v.Name) })
		})
		if !fits {
			return fmt.Errorf("there is no schema, table or view %s to leave out", p)
		}
	}
	return nil
}

func anyFits(patterns []string, name string) bool {
	return slices.ContainsFunc(patterns, func(p string) bool { return Fits(p, name) })
}

func anyFitsTable(patterns []string, schema, name string) bool {
	return slices.ContainsFunc(patterns, func(p string) bool { return FitsTable(p, schema, name) })
}
