package compare

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/text"
)

// standing compares one kind of what stands in a schema by itself, or in the
// whole database. What an extension brought is the extension's.
func standing[T any](c *comparison, object, schema string, a, b []*T, name func(*T) string, extension func(*T) string, of func(*T) says) {
	own := func(list []*T) []*T {
		return slices.DeleteFunc(slices.Clone(list), func(x *T) bool { return extension(x) != "" })
	}
	pairs(own(a), own(b), name, func(x, y *T) {
		d := Difference{Kind: Altered, Object: object, Schema: schema}
		switch {
		case x == nil:
			d.Kind, d.Name = Added, name(y)
		case y == nil:
			d.Kind, d.Name = Removed, name(x)
		default:
			d.Name, d.What = name(x), differ(of(x), of(y))
		}
		if !c.excepted(schema, d.Name) {
			c.add(d)
		}
	})
}

// others compares everything in two schemas but tables.
func (c *comparison) others(a, b *catalog.Schema) {
	standing(c, "view", a.Name, a.Views, b.Views, func(v *catalog.View) string { return v.Name }, func(v *catalog.View) string { return v.Extension }, c.viewSays)
	standing(c, "sequence", a.Name, a.Sequences, b.Sequences, func(q *catalog.Sequence) string { return q.Name }, func(q *catalog.Sequence) string {
		if q.Identity && c.across {
			return "the column's"
		}
		return q.Extension
	}, func(q *catalog.Sequence) says { return c.sequenceSays(q, a, b) })
	if c.across { // each engine's own language
		return
	}
	standing(c, "type", a.Name, a.Types, b.Types, func(y *catalog.UserType) string { return y.Name }, func(y *catalog.UserType) string { return y.Extension }, c.typeMade)
	standing(c, "routine", a.Name, a.Routines, b.Routines, func(f *catalog.Routine) string { return f.Kind + " " + f.Signature() },
		func(f *catalog.Routine) string { return f.Extension }, routineSays)
	c.objects(a.Name, a.Objects, b.Objects)
}

func (c *comparison) objects(schema string, a, b []*catalog.Object) {
	standing(c, "object", schema, a, b, func(o *catalog.Object) string { return o.Kind + " " + o.Name }, func(o *catalog.Object) string {
		if o.Kind == "extension" {
			return ""
		}
		return o.Extension
	}, objectSays)
}

func objectSays(o *catalog.Object) says {
	return says{{"definition", "", o.Definition}, {"mode", "", o.Mode}, {"comment", "", o.Comment}}
}

func (c *comparison) viewSays(v *catalog.View) says {
	s := says{{"materialised", "", yes(v.Materialised)}, {"comment", "", v.Comment}}
	if c.across {
		return s
	}
	s = append(s, says{{"definition", "", text.OneLine(v.Definition)}, {"options", "", strings.Join(v.Options, ", ")}, {"tablespace", "", v.Tablespace}}...)
	var columns, more []string
	for _, col := range v.Columns {
		columns = append(columns, strings.TrimSpace(col.Name+" "+col.Type))
		if col.Default != "" || col.Comment != "" {
			more = append(more, fmt.Sprintf("%s: default %s, comment %q", col.Name, col.Default, col.Comment))
		}
	}
	for _, x := range v.Indexes {
		more = append(more, c.indexSays(x).whole("index "+x.Name))
	}
	for _, g := range v.Triggers {
		more = append(more, triggerSays(g).whole("trigger "+g.Name))
	}
	for _, o := range v.Objects {
		more = append(more, objectSays(o).whole(o.Kind+" "+o.Name))
	}
	return append(s, Property{"columns", "", strings.Join(columns, ", ")}, Property{"belongings", "", strings.Join(more, "; ")})
}

// whole writes all that is said of one object in one line: "index i (columns (a), unique
// yes)".
func (s says) whole(name string) string {
	var parts []string
	for _, p := range s {
		if p.To != "" {
			parts = append(parts, p.Name+" "+p.To)
		}
	}
	return name + " (" + strings.Join(parts, ", ") + ")"
}

// sequenceSays describes a sequence of either of two schemas.
func (c *comparison) sequenceSays(q *catalog.Sequence, either ...*catalog.Schema) says {
	owner := ""
	if at := q.OwnedBy; at != nil {
		owner = at.Ref().String() + "." + at.Column
		for _, s := range either {
			if s.Name == at.Schema {
				owner = at.Table + "." + at.Column
			}
		}
	}
	return says{{"counts", "", fmt.Sprintf("from %d by %d, %d to %d", q.Start, q.Increment, q.Least, q.Most)}, {"type", "", q.Type}, {"cache", "", fmt.Sprint(q.Cache)},
		{"starts again", "", yes(q.Cycle)}, {"belongs to", "", owner}, {"unlogged", "", yes(q.Unlogged)}, {"comment", "", q.Comment}}
}

func (c *comparison) typeMade(y *catalog.UserType) says {
	base := ""
	if y.Base != nil {
		base = c.typeSays(*y.Base)
	}
	var checks, attributes []string
	for _, k := range y.Checks {
		checks = append(checks, fmt.Sprintf("%s %v", k.Name, checkSays(k)))
	}
	for _, a := range y.Attributes {
		attributes = append(attributes, strings.TrimSpace(a.Name+" "+c.typeSays(a.Type)+" "+a.Comment))
	}
	return says{{"kind", "", string(y.Kind)}, {"labels", "", strings.Join(y.Labels, ", ")}, {"base", "", base}, {"null", "", yes(!y.Required)}, {"constraint that forbids null", "", forbidder(y.NotNull)}, {"default", "", y.Default},
		{"checks", "", strings.Join(checks, "; ")}, {"attributes", "", strings.Join(attributes, ", ")}, {"definition", "", y.Definition}, {"comment", "", y.Comment}}
}

func routineSays(f *catalog.Routine) says {
	return says{{"definition", "", f.Definition}, {"returns", "", f.Returns}, {"mode", "", f.Mode}, {"comment", "", f.Comment}}
}

func exclusionSays(e *catalog.Exclusion) says {
	return says{{"definition", "", e.Definition}, {"deferrable", "", deferral(e.Deferrable, e.Deferred)}, {"comment", "", e.Comment}}
}

// parts writes the partitions that are no tables.
func parts(list []*catalog.Partition) string {
	var all []string
	for _, p := range list {
		s := strings.TrimSpace(p.Name + " " + p.Bounds + " " + p.Comment)
		if len(p.Options) > 0 {
			s += " [" + strings.Join(p.Options, ", ") + "]"
		}
		if len(p.Parts) > 0 {
			s += " (" + parts(p.Parts) + ")"
		}
		all = append(all, s)
	}
	return strings.Join(all, ", ")
}
