// Package compare finds what differs between two catalogs, object by object
// and property by property.
package compare

import (
	"cmp"
	"slices"

	"nexdal/internal/catalog"
)

// Kind says what became of an object on the way from the first catalog to the
// second.
type Kind string

// The kinds.
const (
	Added   Kind = "added"
	Removed Kind = "removed"
	Altered Kind = "altered"
)

// A Difference is one object that differs.
type Difference struct {
	Kind   Kind
	Object string // "table", "column", "primary key", "unique key", "foreign key", "check", "exclusion", "index", "trigger", "view", "sequence", "type", "routine", "object", "schema"
	Schema string
	Table  string // empty for what is on no table
	Name   string
	What   []Property // of an altered object; of one that came or went, what it is made of
	Hint   string     // what may have happened instead: a new name
}

// A Property is one thing about an object that is not as it was.
type Property struct {
	Name string
	From string
	To   string
}

// Options leave things out of the comparison.
type Options struct {
	// Without names kinds of objects ("index", "trigger", ...) and of
	// properties ("comment", "order", "name").
	Without []string
	// Except are patterns of tables and views, schema.name with * and ?.
	Except []string
}

// Ignorable lists what Without may name.
var Ignorable = []string{"check", "comment", "exclusion", "foreign key", "index", "name", "object", "order", "partition", "routine", "sequence", "storage", "trigger", "type",
	"unique key", "view"}

// Catalogs compares two catalogs. Settings, figures, dates and the engine's
// own texts of tables are no structure and are left aside. Where the engines
// differ, types are compared by what they hold, not by how they are written.
func Catalogs(from, to *catalog.Catalog, o Options) []Difference {
	c := comparison{o: o, across: from.Engine.Name != to.Engine.Name}
	if a, b := from.Schemas, to.Schemas; len(a) == 1 && len(b) == 1 && a[0].Name != b[0].Name {
		// One schema each: it is the same under another name.
		c.add(Difference{Kind: Altered, Object: "schema", Schema: a[0].Name, Name: a[0].Name, What: []Property{{"name", a[0].Name, b[0].Name}}})
		c.renamed[0], c.renamed[1] = b[0].Name, a[0].Name
		c.schema(a[0], b[0])
		return c.found
	}
	pairs(from.Schemas, to.Schemas, func(s *catalog.Schema) string { return s.Name },
		func(old, new *catalog.Schema) {
			switch {
			case old == nil:
				c.add(Difference{Kind: Added, Object: "schema", Schema: new.Name, Name: new.Name})
				old = &catalog.Schema{Name: new.Name, Comment: new.Comment, Options: new.Options}
			case new == nil:
				c.add(Difference{Kind: Removed, Object: "schema", Schema: old.Name, Name: old.Name})
				new = &catalog.Schema{Name: old.Name, Comment: old.Comment, Options: old.Options}
			}
			c.schema(old, new)
		})
	if !c.across {
		c.objects("", from.Objects, to.Objects)
	}
	return c.found
}

type comparison struct {
	o      Options
	across bool // two engines
	// renamed holds the second side's name of the only schema and the first's.
	renamed [2]string
	found   []Difference
}

func (c *comparison) without(what string) bool { return slices.Contains(c.o.Without, what) }

func (c *comparison) excepted(schema, name string) bool {
	return slices.ContainsFunc(c.o.Except, func(pattern string) bool { return catalog.FitsTable(pattern, schema, name) })
}

func (c *comparison) add(d Difference) {
	d.What = slices.DeleteFunc(d.What, func(p Property) bool { return p.From == p.To || c.without(p.Name) })
	if c.without(d.Object) || d.Kind == Altered && len(d.What) == 0 {
		return
	}
	c.found = append(c.found, d)
}

// pairs walks two lists by key, in the order of the keys; an object that only
// one side has comes with nil for the other.
func pairs[T any](a, b []*T, key func(*T) string, visit func(a, b *T)) {
	left, right := map[string]*T{}, map[string]*T{}
	var keys []string
	for _, x := range a {
		left[key(x)] = x
		keys = append(keys, key(x))
	}
	for _, x := range b {
		if right[key(x)] = x; left[key(x)] == nil {
			keys = append(keys, key(x))
		}
	}
	slices.Sort(keys)
	for _, k := range slices.Compact(keys) {
		visit(left[k], right[k])
	}
}

func (c *comparison) schema(old, new *catalog.Schema) {
	var gone, come []*catalog.Table
	pairs(old.Tables, new.Tables, func(t *catalog.Table) string { return t.Name }, func(a, b *catalog.Table) {
		switch {
		case c.excepted(old.Name, cmp.Or(a, b).Name):
		case a == nil:
			come = append(come, b)
		case b == nil:
			gone = append(gone, a)
		default:
			c.table(a, b)
		}
	})
	for _, t := range gone {
		d := Difference{Kind: Removed, Object: "table", Schema: old.Name, Table: t.Name, Name: t.Name}
		if is := likeliest(come, t); is != nil {
			d.Hint = "has the columns of " + is.Name + ", which is new: its new name?"
		}
		c.add(d)
	}
	for _, t := range come {
		d := Difference{Kind: Added, Object: "table", Schema: old.Name, Table: t.Name, Name: t.Name}
		if was := likeliest(gone, t); was != nil {
			d.Hint = "has the columns of " + was.Name + ", which is gone: a new name?"
		}
		c.add(d)
	}
	c.add(Difference{Kind: Altered, Object: "schema", Schema: old.Name, Name: old.Name,
		What: []Property{{"comment", old.Comment, new.Comment}, {"extension", c.own([]string{old.Extension}), c.own([]string{new.Extension})}, {"options", c.own(old.Options), c.own(new.Options)}}})
	c.others(old, new)
}

// likeliest returns the table of the list that has the very columns of t.
func likeliest(list []*catalog.Table, t *catalog.Table) *catalog.Table {
	for _, x := range list {
		if len(x.Columns) > 0 && slices.EqualFunc(x.Columns, t.Columns, func(a, b *catalog.Column) bool { return a.Name == b.Name && a.Type == b.Type }) {
			return x
		}
	}
	return nil
}

func yes(b bool) string {
	if b {
		return "yes"
	}
	return "no"
}
