package compare

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/text"
)

func (c *comparison) table(a, b *catalog.Table) {
	c.add(Difference{Kind: Altered, Object: "table", Schema: a.Schema, Table: a.Name, Name: a.Name, What: []Property{
		{"kind", string(a.Kind), string(b.Kind)},
		{"options", c.own(a.Options), c.own(b.Options)},
		{"partitioned by", partitionedBy(a), partitionedBy(b)},
		{"bounds", a.Bounds, b.Bounds},
		{"parents", parents(a), parents(b)},
		{"partitions", parts(a.Partitions), parts(b.Partitions)},
		{"of type", a.OfType, b.OfType},
		{"server", a.Server, b.Server},
		{"comment", a.Comment, b.Comment},
		{"order", shared(a, b), shared(b, a)},
		{"spread", spread(a), spread(b)},
		{"sort key", sortKey(a), sortKey(b)},
	}})
	if !c.across {
		c.add(Difference{Kind: Altered, Object: "table", Schema: a.Schema, Table: a.Name, Name: a.Name, What: []Property{
			{"extension", a.Extension, b.Extension}, {"storage", a.Storage, b.Storage}, {"tablespace", a.Tablespace, b.Tablespace}, {"collation", a.Collation, b.Collation}, {"columns", map[bool]string{true: "as rows were seen to hold"}[a.Observed], map[bool]string{true: "as rows were seen to hold"}[b.Observed]}}})
	}
	c.columns(a, b)
	c.primaryKey(a, b)
	members(c, "unique key", a, a.UniqueKeys, b.UniqueKeys, func(k *catalog.Key) string { return k.Name }, c.keySays)
	members(c, "foreign key", a, a.ForeignKeys, b.ForeignKeys, func(f *catalog.ForeignKey) string { return f.Name }, c.foreignKeySays)
	if !c.across { // expressions are each engine's own
		members(c, "check", a, a.Checks, b.Checks, func(k *catalog.Check) string { return k.Name }, checkSays)
	}
	members(c, "index", a, byPerson(a), byPerson(b), func(x *catalog.Index) string { return x.Name }, c.indexSays)
	if c.across {
		return
	}
	members(c, "exclusion", a, a.Exclusions, b.Exclusions, func(e *catalog.Exclusion) string { return e.Name }, exclusionSays)
	members(c, "object", a, a.Objects, b.Objects, func(o *catalog.Object) string { return o.Kind + " " + o.Name }, objectSays)
	members(c, "trigger", a, a.Triggers, b.Triggers, func(g *catalog.Trigger) string { return g.Name }, triggerSays)
}

func spread(t *catalog.Table) string {
	if t.Spread == nil {
		return ""
	}
	return t.Spread.String()
}

func sortKey(t *catalog.Table) string {
	if t.SortKey == nil {
		return ""
	}
	return t.SortKey.String()
}

// own writes options, which are each engine's own.
func (c *comparison) own(options []string) string {
	if c.across {
		return ""
	}
	return strings.Join(options, ", ")
}

func partitionedBy(t *catalog.Table) string {
	if t.PartitionBy == nil {
		return ""
	}
	text := t.PartitionBy.Definition
	if t.PartitionBy.FilterRequired {
		text += ", to be filtered on"
	}
	if sub := t.PartitionBy.Sub; sub != nil {
		text += ", then " + sub.Definition
		if sub.FilterRequired {
			text += ", to be filtered on"
		}
	}
	return text
}

func parents(t *catalog.Table) string {
	var names []string
	for _, p := range t.Inherits {
		names = append(names, p.String())
	}
	if t.PartitionOf != nil {
		names = append(names, "partition of "+t.PartitionOf.String())
	}
	return strings.Join(names, ", ")
}

// shared lists the columns that both tables have, in a's order.
func shared(a, b *catalog.Table) string {
	var names []string
	for _, col := range a.Columns {
		if b.Column(col.Name) != nil {
			names = append(names, col.Name)
		}
	}
	return strings.Join(names, ", ")
}

// byPerson leaves out the indexes that the engine made: they are their keys'.
func byPerson(t *catalog.Table) []*catalog.Index {
	return slices.DeleteFunc(slices.Clone(t.Indexes), func(x *catalog.Index) bool { return x.Origin != catalog.ByPerson })
}

func (c *comparison) columns(a, b *catalog.Table) {
	var gone []*catalog.Column
	for _, x := range a.Columns {
		if b.Column(x.Name) == nil {
			gone = append(gone, x)
			c.add(Difference{Kind: Removed, Object: "column", Schema: a.Schema, Table: a.Name, Name: x.Name})
		}
	}
	for _, y := range b.Columns {
		d := Difference{Kind: Altered, Object: "column", Schema: a.Schema, Table: a.Name, Name: y.Name}
		x := a.Column(y.Name)
		if x == nil {
			d.Kind = Added
			if i := slices.IndexFunc(gone, func(g *catalog.Column) bool {
				return g.Type == y.Type && g.Nullable == y.Nullable && g.Default == y.Default
			}); i >= 0 {
				d.Hint = "has the type of " + gone[i].Name + ", which is gone: a new name?"
			}
			c.add(d)
			continue
		}
		d.What = []Property{
			{"type", c.typeSays(x.Type), c.typeSays(y.Type)},
			{"null", allowed(x), allowed(y)},
			{"numbered", c.numbered(x), c.numbered(y)},
			{"comment", x.Comment, y.Comment},
			{"field of", x.Within, y.Within},
			{"values", map[bool]string{true: "any number"}[x.Many], map[bool]string{true: "any number"}[y.Many]},
		}
		if !c.across { // expressions are each engine's own
			d.What = append(d.What, Property{"default", x.Default, y.Default}, Property{"name of the default", x.DefaultName, y.DefaultName},
				Property{"computed as", stored(x), stored(y)}, Property{"on update", x.OnUpdate, y.OnUpdate},
				Property{"shown", yes(!x.Invisible), yes(!y.Invisible)}, Property{"options", strings.Join(x.Options, ", "), strings.Join(y.Options, ", ")},
				Property{"draws from", c.drawn(a, x), c.drawn(b, y)}, Property{"encoding", x.Encoding, y.Encoding},
				Property{"inherited", inherited(x.Inherited, x.Local), inherited(y.Inherited, y.Local)}, Property{"constraint that forbids null", forbidder(x.NotNull), forbidder(y.NotNull)})
		}
		c.add(d)
	}
}

func allowed(c *catalog.Column) string {
	switch {
	case !c.Nullable:
		return "forbidden"
	case c.NotNull != nil:
		return "forbidden, not validated"
	}
	return "allowed"
}

// forbidder is what there is to say of the constraint that forbids null.
func forbidder(n *catalog.NotNull) string {
	if n == nil {
		return ""
	}
	parts := []string{cmp.Or(n.Name, "as the engine calls it")}
	for _, more := range []struct {
		there bool
		text  string
	}{{n.NotValidated, "not validated"}, {n.NoInherit, "not for heirs"}, {n.Local, "here too"}, {n.Inherited, "inherited"}, {n.Comment != "", "comment: " + n.Comment}} {
		if more.there {
			parts = append(parts, more.text)
		}
	}
	return strings.Join(parts, ", ")
}

// numbered says how a column is numbered; between engines, whether.
func (c *comparison) numbered(col *catalog.Column) string {
	if c.across && col.Identity != catalog.NoIdentity {
		return "yes"
	}
	return string(col.Identity)
}

// drawn names the sequence that a column draws from, unless the engine picked
// the name by itself.
func (c *comparison) drawn(t *catalog.Table, col *catalog.Column) string {
	if col.Sequence == nil || col.Identity == catalog.IdentityAlways || col.Identity == catalog.IdentityByDefault {
		return ""
	}
	return beside(*col.Sequence, t.Schema)
}

// beside names what is referred to as seen from a schema: by its name alone where it is
// in the same.
func beside(ref catalog.Ref, schema string) string {
	if ref.Schema == schema {
		return ref.Table
	}
	return ref.String()
}

// inherited says whether a table has something from its parent, and by itself too.
func inherited(from, local bool) string {
	switch {
	case from && local:
		return "and its own"
	case from:
		return "yes"
	case local:
		return "its own"
	}
	return "no"
}

func stored(c *catalog.Column) string {
	if c.Generated == "" {
		return ""
	}
	return c.Generated + map[bool]string{true: " (stored)", false: " (when read)"}[c.Stored]
}

func (c *comparison) typeSays(t catalog.Type) string {
	if !c.across {
		if t.Collation != "" {
			return t.Native + " collate " + t.Collation
		}
		return t.Native
	}
	says := string(t.Family)
	if t.Length > 0 {
		says += fmt.Sprintf("(%d)", t.Length)
	}
	if t.Precision > 0 && t.Family != catalog.Integer { // how many digits a whole number has, each engine counts its own way
		says += fmt.Sprintf("(%d,%d)", t.Precision, t.Scale)
	}
	return says
}

func (c *comparison) primaryKey(a, b *catalog.Table) {
	d := Difference{Kind: Altered, Object: "primary key", Schema: a.Schema, Table: a.Name}
	switch x, y := a.PrimaryKey, b.PrimaryKey; {
	case x == nil && y == nil:
		return
	case x == nil:
		d.Kind, d.Name, d.What = Added, label(y.Name, c.keySays(y)), []Property{c.keySays(y)[0]}
	case y == nil:
		d.Kind, d.Name, d.What = Removed, label(x.Name, c.keySays(x)), []Property{went(c.keySays(x)[0])}
	default:
		d.Name = label(x.Name, c.keySays(x))
		d.What = append(differ(c.keySays(x), c.keySays(y)), Property{"name", x.Name, y.Name})
	}
	c.add(d)
}

// says is what an object is made of, property by property, its name aside.
type says []Property

func (c *comparison) keySays(k *catalog.Key) says {
	return says{{"columns", "", columns(k.Columns)}, {"deferrable", "", deferral(k.Deferrable, k.Deferred)}, {"nulls", "", nulls(k.NullsNotDistinct)}, {"overlaps", "", overlaps(k)}, {"comment", "", k.Comment}}
}

func overlaps(k *catalog.Key) string {
	if k.WithoutOverlaps {
		return "forbidden"
	}
	return "allowed"
}

func (c *comparison) foreignKeySays(f *catalog.ForeignKey) says {
	return says{{"columns", "", columns(f.Columns)}, {"refers to", "", c.target(f) + " " + columns(f.TargetColumns)},
		{"on delete", "", string(f.OnDelete) + suffix(f.SetColumns)}, {"on update", "", string(f.OnUpdate)}, {"match", "", cmp.Or(f.Match, "simple")},
		{"deferrable", "", deferral(f.Deferrable, f.Deferred)}, {"validated", "", yes(!f.NotValidated)}, {"enforced", "", yes(!f.NotEnforced)}, {"by ranges", "", yes(f.Period)}, {"switched on", "", yes(!f.Disabled)}, {"inherited", "", yes(f.Inherited)}, {"comment", "", f.Comment}}
}

// target names what a foreign key refers to as the first side calls it.
func (c *comparison) target(f *catalog.ForeignKey) string {
	ref := f.Target
	if c.renamed[0] != "" && ref.Schema == c.renamed[0] {
		ref.Schema = c.renamed[1]
	}
	return ref.String()
}

func checkSays(k *catalog.Check) says {
	return says{{"condition", "", text.OneLine(k.Expression)}, {"validated", "", yes(!k.NotValidated)}, {"enforced", "", yes(!k.NotEnforced)}, {"for heirs", "", yes(!k.NoInherit)}, {"inherited", "", inherited(k.Inherited, k.Local)}, {"of column", "", k.Column}, {"comment", "", k.Comment}}
}

func (c *comparison) indexSays(x *catalog.Index) says {
	var parts []string
	for _, p := range x.Parts {
		s := cmp.Or(p.Column, text.OneLine(p.Expression))
		if p.Length > 0 {
			s += fmt.Sprintf("(%d)", p.Length)
		}
		for _, more := range []struct {
			there bool
			text  string
		}{{p.Collation != "", " collate " + p.Collation}, {p.OpClass != "", " " + p.OpClass}, {p.Descending, " desc"}, {p.Nulls != "", " nulls " + p.Nulls}, {p.Statistics != "", " statistics " + p.Statistics}} {
			if more.there {
				s += more.text
			}
		}
		parts = append(parts, s)
	}
	return says{{"columns", "", columns(parts)}, {"unique", "", yes(x.Unique)}, {"method", "", x.Method}, {"carries", "", strings.Join(x.Include, ", ")},
		{"only rows", "", text.OneLine(x.Predicate)}, {"nulls", "", nulls(x.NullsNotDistinct)}, {"clustered", "", yes(x.Clustered)}, {"valid", "", yes(!x.Invalid)}, {"used", "", yes(!x.Ignored)},
		{"pinned by", "", x.Pinned}, {"inherited", "", yes(x.Inherited)}, {"storage", "", x.Storage}, {"tablespace", "", x.Tablespace}, {"comment", "", x.Comment}}
}

func triggerSays(g *catalog.Trigger) says {
	return says{{"definition", "", text.OneLine(g.Definition)}, {"enabled", "", cmp.Or(g.Enabled, "yes")}, {"order", "", fmt.Sprint(g.Order)}, {"mode", "", g.Mode}, {"inherited", "", yes(g.Inherited)}, {"comment", "", g.Comment}}
}

func columns(names []string) string { return "(" + strings.Join(names, ", ") + ")" }

func suffix(names []string) string {
	if len(names) == 0 {
		return ""
	}
	return " " + columns(names)
}

func deferral(deferrable, deferred bool) string {
	switch {
	case deferred:
		return "initially deferred"
	case deferrable:
		return "initially immediate"
	}
	return "no"
}

func nulls(notDistinct bool) string {
	return map[bool]string{true: "count as equal", false: "count as different"}[notDistinct]
}

// went turns round what an object is made of: it is no longer.
func went(p Property) Property { return Property{p.Name, p.To, ""} }

func differ(a, b says) []Property {
	var out []Property
	for i := range a {
		out = append(out, Property{a[i].Name, a[i].To, b[i].To})
	}
	return out
}

// label names an object by its name, or else by what it is made of.
func label(name string, s says) string { return cmp.Or(name, s[0].To) }
