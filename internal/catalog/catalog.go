// Package catalog is the model, in memory, of one database's structure.
//
// It knows no SQL dialect and does no input or output: engines fill it, rules
// read it, changes alter it. Slices are kept in the order that [Catalog.Sort]
// gives, so that the same database always yields the same survey.
package catalog

import (
	"cmp"
	"fmt"
	"slices"
	"strings"
	"time"
)

// A Catalog is the structure of one database at one moment.
type Catalog struct {
	Engine   Engine
	Database string    // the database's own name, never a path or a URL with secrets
	Surveyed time.Time // when it was read, UTC
	Settings []Setting
	Schemas  []*Schema
	Gaps     []Gap
}

// Engine names the database system that a catalog was read from.
type Engine struct {
	Name    string `json:"name"`    // "sqlite", "postgres", ...
	Version string `json:"version"` // as the system itself gives it: "15.8", "3.46.1"
}

// A Setting is a server or database setting that bears on keys.
type Setting struct {
	Name  string `json:"name"`
	Value string `json:"value"`
	// Source says where the value comes from, in the engine's words
	// ("database", "configuration file"); empty where the engine cannot tell.
	Source string `json:"source,omitempty"`
}

// A Gap is something that could not be read. What is unknown is recorded as
// unknown; it is never taken for absent.
type Gap struct {
	Schema string `json:"schema,omitempty"`
	Table  string `json:"table,omitempty"`
	What   string `json:"what"`
	Reason string `json:"reason"`
}

// A Schema is a name space of tables and views.
type Schema struct {
	Name   string   `json:"name"`
	Tables []*Table `json:"tables,omitempty"`
	Views  []*View  `json:"views,omitempty"`
}

// A View is a stored query.
type View struct {
	Name         string `json:"name"`
	Materialised bool   `json:"materialised,omitempty"`
	Comment      string `json:"comment,omitempty"`
	Definition   string `json:"definition,omitempty"` // the engine's own text
}

// A Ref names a table (or another relation) by schema and name.
type Ref struct {
	Schema string `json:"schema"`
	Table  string `json:"table"`
}

// String gives schema.table, unquoted, for messages.
func (r Ref) String() string {
	if r.Schema == "" {
		return r.Table
	}
	return r.Schema + "." + r.Table
}

// Compare orders refs by schema, then table.
func (r Ref) Compare(o Ref) int {
	return cmp.Or(strings.Compare(r.Schema, o.Schema), strings.Compare(r.Table, o.Table))
}

// Schema returns the schema of that name, or nil.
func (c *Catalog) Schema(name string) *Schema {
	for _, s := range c.Schemas {
		if s.Name == name {
			return s
		}
	}
	return nil
}

// Table returns the table that ref names, or nil. For whole-catalog passes
// build an [Index] lookup with [Catalog.Lookup] instead: this scans.
func (c *Catalog) Table(ref Ref) *Table {
	if s := c.Schema(ref.Schema); s != nil {
		for _, t := range s.Tables {
			if t.Name == ref.Table {
				return t
			}
		}
	}
	return nil
}

// Tables returns all tables in catalog order.
func (c *Catalog) Tables() []*Table {
	var all []*Table
	for _, s := range c.Schemas {
		all = append(all, s.Tables...)
	}
	return all
}

// Only leaves the named schemas and takes the others out of the catalog. It
// fails where one is not there.
func (c *Catalog) Only(schemas []string) error {
	for _, name := range schemas {
		if c.Schema(name) == nil {
			return fmt.Errorf("there is no schema %s", name)
		}
	}
	out := func(name string) bool { return !slices.Contains(schemas, name) }
	c.Schemas = slices.DeleteFunc(c.Schemas, func(s *Schema) bool { return out(s.Name) })
	c.Gaps = slices.DeleteFunc(c.Gaps, func(g Gap) bool { return g.Schema != "" && out(g.Schema) })
	return nil
}

// Setting returns the named setting and whether it was read.
func (c *Catalog) Setting(name string) (Setting, bool) {
	for _, s := range c.Settings {
		if s.Name == name {
			return s, true
		}
	}
	return Setting{}, false
}

// Sort brings everything into the order that surveys are written in: by name,
// columns by position, unnamed constraints as they were declared.
func (c *Catalog) Sort() {
	slices.SortFunc(c.Settings, func(a, b Setting) int { return strings.Compare(a.Name, b.Name) })
	slices.SortFunc(c.Schemas, func(a, b *Schema) int { return strings.Compare(a.Name, b.Name) })
	slices.SortFunc(c.Gaps, func(a, b Gap) int {
		return cmp.Or(strings.Compare(a.Schema, b.Schema), strings.Compare(a.Table, b.Table),
			strings.Compare(a.What, b.What), strings.Compare(a.Reason, b.Reason))
	})
	for _, s := range c.Schemas {
		slices.SortFunc(s.Tables, func(a, b *Table) int { return strings.Compare(a.Name, b.Name) })
		slices.SortFunc(s.Views, func(a, b *View) int { return strings.Compare(a.Name, b.Name) })
		for _, t := range s.Tables {
			t.sort()
		}
	}
}
