// Package catalog is the model, in memory, of one database's structure.
//
// It knows no SQL dialect and does no input or output: engines fill it, rules
// read it, changes alter it. Slices are kept in the order that [Catalog.Sort]
// gives, so that the same database always yields the same survey.
package catalog

import (
	"cmp"
	"slices"
	"strings"
	"time"
)

// A Catalog is the structure of one database at one moment.
type Catalog struct {
	Engine   Engine
	Features []string  // what this version of the engine can do, and an older one cannot
	Database string    // the database's own name, never a path or a URL with secrets
	Surveyed time.Time // when it was read, UTC
	Settings []Setting
	Schemas  []*Schema
	Objects  []*Object // what belongs to the whole database: extensions, casts, ...
	Gaps     []Gap
	Faults   []Fault
}

// Engine names the database system that a catalog was read from.
type Engine struct {
	Name    string `json:"name"`    // "sqlite", "postgres", ...
	Version string `json:"version"` // as the system itself gives it: "15.8", "3.46.1"
}

// Release is the engine's version, as it is shown, and that the server is simulated if it is.
func (c *Catalog) Release() string {
	simulated := slices.ContainsFunc(c.Settings, func(s Setting) bool { return s.Name == "simulated" && s.Value == "yes" })
	if simulated && !strings.Contains(c.Engine.Version, "simulated") {
		return c.Engine.Version + " (simulated)"
	}
	return c.Engine.Version
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
	// Figures: the structure was read, only figures were not.
	Figures bool `json:"figures,omitempty"`
}

// Place names what the gap is in, for messages: a table, a schema, or nothing.
func (g Gap) Place() string {
	if g.Table == "" {
		return g.Schema
	}
	return Ref{g.Schema, g.Table}.String()
}

// Unread are the gaps in the structure, figures aside.
func (c *Catalog) Unread() []Gap {
	return slices.DeleteFunc(slices.Clone(c.Gaps), func(g Gap) bool { return g.Figures })
}

// A Schema is a name space of tables, views and the rest.
type Schema struct {
	Name      string      `json:"name"`
	Extension string      `json:"extension,omitempty"`
	Options   []string    `json:"options,omitempty"` // "character set utf8mb4"
	Comment   string      `json:"comment,omitempty"`
	Tables    []*Table    `json:"tables,omitempty"`
	Views     []*View     `json:"views,omitempty"`
	Sequences []*Sequence `json:"sequences,omitempty"`
	Types     []*UserType `json:"types,omitempty"`
	Routines  []*Routine  `json:"routines,omitempty"`
	Objects   []*Object   `json:"objects,omitempty"` // collations, operators, ...
	Rights
}

// Size is how many things the schema holds.
func (s *Schema) Size() int {
	return len(s.Tables) + len(s.Views) + len(s.Sequences) + len(s.Types) + len(s.Routines) + len(s.Objects)
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

// Table returns the table that ref names, or nil. Where the tables are in order,
// as [Catalog.Sort] leaves them, it is found at once; one that is not there is
// looked for from end to end.
func (c *Catalog) Table(ref Ref) *Table {
	if s := c.Schema(ref.Schema); s != nil {
		if i, ok := slices.BinarySearchFunc(s.Tables, ref.Table, func(t *Table, name string) int { return strings.Compare(t.Name, name) }); ok {
			return s.Tables[i]
		}
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
	slices.SortFunc(c.Faults, compareFaults)
	sortObjects(c.Objects)
	for _, s := range c.Schemas {
		slices.SortFunc(s.Tables, func(a, b *Table) int { return strings.Compare(a.Name, b.Name) })
		slices.SortFunc(s.Views, func(a, b *View) int { return strings.Compare(a.Name, b.Name) })
		slices.SortFunc(s.Sequences, func(a, b *Sequence) int { return strings.Compare(a.Name, b.Name) })
		slices.SortFunc(s.Types, func(a, b *UserType) int { return strings.Compare(a.Name, b.Name) })
		slices.SortFunc(s.Routines, func(a, b *Routine) int {
			return cmp.Or(strings.Compare(a.Name, b.Name), strings.Compare(a.Kind, b.Kind), strings.Compare(a.Arguments, b.Arguments))
		})
		sortObjects(s.Objects)
		s.sortRights()
		for _, v := range s.Views {
			sortDependants(v.Dependants)
			v.sortRights()
			slices.SortFunc(v.Indexes, byIndexName)
			slices.SortFunc(v.Triggers, func(a, b *Trigger) int { return strings.Compare(a.Name, b.Name) })
			slices.SortFunc(v.Reads, ObjectRef.Compare)
			sortObjects(v.Objects)
		}
		for _, q := range s.Sequences {
			sortDependants(q.Dependants)
			q.sortRights()
			slices.SortFunc(q.UsedBy, func(a, b SequenceUse) int {
				return cmp.Or(a.Ref().Compare(b.Ref()), strings.Compare(a.Column, b.Column))
			})
		}
		for _, y := range s.Types {
			slices.SortFunc(y.Checks, func(a, b *Check) int { return strings.Compare(a.Name, b.Name) })
			slices.SortFunc(y.Needs, ObjectRef.Compare)
			y.sortRights()
		}
		for _, f := range s.Routines {
			slices.SortFunc(f.Needs, ObjectRef.Compare)
			slices.SortFunc(f.Touches, ObjectRef.Compare)
			f.sortRights()
		}
		for _, t := range s.Tables {
			t.sort()
		}
	}
}

func sortObjects(list []*Object) {
	slices.SortFunc(list, func(a, b *Object) int {
		return cmp.Or(strings.Compare(a.Kind, b.Kind), strings.Compare(a.Name, b.Name))
	})
	for _, o := range list {
		slices.SortFunc(o.Needs, ObjectRef.Compare)
	}
}

// byIndexName puts those whose names the engine counts behind the others, by what they are on: another
// database would count them otherwise.
func byIndexName(a, b *Index) int {
	if a.SystemNamed != b.SystemNamed {
		if a.SystemNamed {
			return 1
		}
		return -1
	}
	if a.SystemNamed {
		return cmp.Or(slices.Compare(a.Columns(), b.Columns()), cmp.Compare(len(a.Name), len(b.Name)), strings.Compare(a.Name, b.Name))
	}
	return strings.Compare(a.Name, b.Name)
}
