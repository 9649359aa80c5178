// Package translate takes the structure of one engine over into the terms of
// another, and says what is lost on the way. What the engines share is here;
// what a target can hold, its own folder tells.
package translate

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/text"
)

// A Target is what an engine can hold.
type Target struct {
	Engine  catalog.Engine
	Dialect sqllex.Dialect
	Source  sqllex.Dialect // how the texts of the other engine are cut
	Ident   func(string) string
	// Type gives a type for values of the given one; the words say what is lost,
	// "" where nothing is. Keyed columns are part of a key, a reference or an
	// index, which some engines allow only for some types.
	Type func(t catalog.Type, keyed bool) (catalog.Type, string)
	// Numbered is how a numbered column of the primary key is numbered, and
	// whether any other column can be.
	Numbered      catalog.Identity
	NumberedTypes func(catalog.Type) catalog.Type
	// Schema is the only schema, where there is but one; empty: as it was.
	Schema string
	// SharedNames: the names of indexes must differ throughout a schema.
	SharedNames bool
	// LooseTypes: a reference may be of any type.
	LooseTypes bool
	// Columnless: a table may have no columns.
	Columnless bool
	// Named is a name as the engine can hold it. Nil: it holds them all.
	Named func(string) string
	// SharedConstraints: the names of constraints must differ throughout a schema, from those
	// of tables as well.
	SharedConstraints bool
	// CaseOfNames: names of columns may differ in capitals alone.
	CaseOfNames bool
	// SameTypes: a reference and what it refers to must be of one type, and what
	// it sets to null must allow that.
	SameTypes bool
	MaxName   int // bytes

	Sequences, Comments, PartialIndexes, ExpressionIndexes, IncludedColumns, Deferrable, SetDefault, Descending, KeyedNulls bool
	// Next writes the next number of a sequence. Nil: no default draws from one.
	Next func(catalog.Ref) string
	// Now and Today are the moment and the day of a statement; NowText is the moment as a text,
	// where the engine's own way to write it depends on the session.
	Now, Today, NowText string
	// True and False are the truth values.
	True, False string
}

// losses gathers what is lost, like reasons of one table together.
type losses struct {
	list  []engine.Loss
	by    map[string]int // place in list by thing and reason
	names map[string][]string
}

func (l *losses) add(o catalog.ObjectRef, why string) {
	l.list = append(l.list, engine.Loss{What: o, Why: why})
}

// column notes a loss of one column; columns of a table with the same loss are
// told of together.
func (l *losses) column(t *catalog.Table, column, why string) {
	key := t.Ref().String() + "\x00" + why
	l.names[key] = append(l.names[key], column)
	if at, ok := l.by[key]; ok {
		l.list[at].Why = strings.Join(l.names[key], ", ") + ": " + why
		return
	}
	l.by[key] = len(l.list)
	l.add(catalog.ObjectRef{Kind: catalog.KindTable, Schema: t.Schema, Name: t.Name}, column+": "+why)
}

// translation is one catalog on its way.
type translation struct {
	Target
	losses
	from  *catalog.Catalog
	to    *catalog.Catalog
	types map[string]*catalog.UserType // by the name that columns have for them
	taken map[string]bool              // names in use, folded
	moved map[catalog.Ref]catalog.Ref  // tables and sequences, and what they are called now
	// renamed are columns that go by another name, since the target does not
	// tell capitals from small letters.
	renamed map[catalog.Ref]map[string]string
	// unkept: some column has a length or digits that nothing has kept values to so far.
	unkept bool
	roots  *catalog.Lookup // of the catalog that is translated
}

// Catalog translates a whole catalog. The given one is left alone. Names that the two engines
// would write in different letters are respelled, and what is lost goes by the new ones.
func Catalog(from *catalog.Catalog, target Target) (*catalog.Catalog, []engine.Loss) {
	from = Respelled(from, target.Source, target.Dialect)
	x := &translation{Target: target, losses: losses{by: map[string]int{}, names: map[string][]string{}}, from: from,
		to:    &catalog.Catalog{Engine: target.Engine, Database: from.Database, Surveyed: from.Surveyed, Gaps: from.Gaps},
		types: map[string]*catalog.UserType{}, taken: map[string]bool{}, moved: map[catalog.Ref]catalog.Ref{}, renamed: map[catalog.Ref]map[string]string{}}
	for _, s := range from.Schemas {
		for _, y := range s.Types {
			for _, name := range []string{y.Name, s.Name + "." + y.Name, target.Ident(s.Name) + "." + target.Ident(y.Name), quoted(s.Name) + "." + quoted(y.Name),
				s.Name + "." + quoted(y.Name), quoted(s.Name) + "." + y.Name} {
				x.types[name] = y
			}
		}
	}
	x.name()
	for _, s := range from.Schemas {
		x.schema(s)
	}
	lookup := x.to.Lookup()
	for _, t := range from.Tables() {
		if d := lookup.Table(x.moved[t.Ref()]); d != nil && x.takes(t) {
			for _, f := range t.ForeignKeys {
				x.reference(lookup, t, d, f)
			}
		}
	}
	for _, o := range from.Objects {
		if o.Extension == "" && o.Kind != "extension" {
			x.add(catalog.ObjectRef{Kind: o.Kind, Name: o.Name}, "belongs to the other engine")
		}
	}
	x.to.Sort()
	if x.unkept && !x.LooseTypes {
		return x.to, append([]engine.Loss{{What: catalog.ObjectRef{Kind: "every column", Name: "with a length or digits"}, Why: "takes no value beyond them, where nothing held values to them so far"}}, x.list...)
	}
	return x.to, x.list
}

func quoted(name string) string { return `"` + strings.ReplaceAll(name, `"`, `""`) + `"` }

// name decides what each table is called: where schemas fall together, a name
// that is taken gets its schema in front.
func (x *translation) name() {
	for _, s := range x.from.Schemas {
		for _, t := range s.Tables {
			if !x.takes(t) {
				continue
			}
			to := catalog.Ref{Schema: s.Name, Table: t.Name}
			if x.Schema != "" {
				to.Schema = x.Schema
			}
			if x.taken[key(to)] {
				to.Table = s.Name + "_" + t.Name
			}
			to.Table = x.free(to.Schema, to.Table)
			if to.Table != t.Name {
				x.add(catalog.ObjectRef{Kind: catalog.KindTable, Schema: s.Name, Name: t.Name}, "is called "+to.Table)
			}
			x.moved[t.Ref()] = to
			x.nameColumns(t)
		}
	}
}

func (x *translation) nameColumns(t *catalog.Table) {
	if x.CaseOfNames && x.Named == nil {
		return
	}
	fold := strings.ToLower
	if x.CaseOfNames {
		fold = func(name string) string { return name }
	}
	taken := map[string]bool{}
	for _, c := range t.Columns {
		name := c.Name
		if x.Named != nil {
			name = x.Named(name)
		}
		stem := name
		for n := 2; taken[fold(name)]; n++ {
			name = fmt.Sprintf("%s_%d", stem, n)
		}
		taken[fold(name)] = true
		if name != c.Name {
			if x.renamed[t.Ref()] == nil {
				x.renamed[t.Ref()] = map[string]string{}
			}
			x.renamed[t.Ref()][c.Name] = name
			x.losses.column(t, c.Name, "is called "+name+", since the other could not be told from another column's, or is no name here")
		}
	}
}

// called is what a column is called now.
func (x *translation) called(t catalog.Ref, column string) string {
	if name, ok := x.renamed[t][column]; ok {
		return name
	}
	return column
}

func (x *translation) allCalled(t catalog.Ref, columns []string) []string {
	out := make([]string, len(columns))
	for i, c := range columns {
		out[i] = x.called(t, c)
	}
	return out
}

func key(r catalog.Ref) string { return strings.ToLower(r.Schema + "\x00" + r.Table) }

// free returns the name, or one like it that is not taken and not too long.
func (x *translation) free(schema, name string) string {
	if x.Named != nil {
		name = x.Named(name)
	}
	stem := name
	for n := 2; ; n++ {
		if x.MaxName > 0 && len(name) > x.MaxName {
			cut := x.MaxName - 4
			for cut > 0 && name[cut]&0xc0 == 0x80 {
				cut--
			}
			stem = name[:cut]
			name = stem
		}
		if at := key(catalog.Ref{Schema: schema, Table: name}); !x.taken[at] {
			x.taken[at] = true
			return name
		}
		name = fmt.Sprintf("%s_%d", stem, n)
	}
}

// takes reports whether the table becomes one of its own.
func (x *translation) takes(t *catalog.Table) bool {
	return t.Extension == "" && t.PartitionOf == nil && (x.Columnless || len(t.Columns) > 0) && t.Kind != catalog.Shadow && t.Kind != catalog.Virtual
}

func (x *translation) schema(s *catalog.Schema) {
	to := x.to.Schema(s.Name)
	if x.Schema != "" {
		to = x.to.Schema(x.Schema)
	}
	if to == nil {
		to = &catalog.Schema{Name: s.Name}
		if x.Schema != "" {
			to.Name = x.Schema
		}
		if x.Comments {
			to.Comment = s.Comment
		}
		x.to.Schemas = append(x.to.Schemas, to)
	}
	if x.Sequences {
		for _, q := range s.Sequences {
			if q.Extension == "" && !q.Identity {
				x.sequence(to, s, q)
			}
		}
	}
	if !x.Sequences {
		for _, q := range s.Sequences {
			if q.Extension == "" && !q.Identity && !slices.ContainsFunc(q.UsedBy, func(u catalog.SequenceUse) bool { return u.How != "trigger" }) {
				x.add(catalog.ObjectRef{Kind: catalog.KindSequence, Schema: s.Name, Name: q.Name}, "has no like")
			}
		}
	}
	for _, t := range s.Tables {
		self := catalog.ObjectRef{Kind: catalog.KindTable, Schema: s.Name, Name: t.Name}
		switch {
		case x.takes(t):
			to.Tables = append(to.Tables, x.table(t))
		case t.PartitionOf != nil:
			x.add(self, "is a partition, and its rows belong to "+t.PartitionOf.String())
		case len(t.Columns) == 0 && t.Kind != catalog.Shadow:
			x.add(self, "has no columns, or they were not read")
		case t.Kind == catalog.Virtual:
			x.add(self, "is virtual: what makes it is a module of the other engine's")
		}
	}
	for _, v := range s.Views {
		if v.Extension == "" {
			x.add(catalog.ObjectRef{Kind: catalog.KindView, Schema: s.Name, Name: v.Name}, "its query is in the other engine's SQL, and is to be rewritten")
		}
	}
	for _, f := range s.Routines {
		if f.Extension == "" {
			x.add(catalog.ObjectRef{Kind: f.Kind, Schema: s.Name, Name: f.Signature()}, "is in the other engine's language, and is to be rewritten")
		}
	}
	for _, o := range s.Objects {
		if o.Extension == "" {
			x.add(catalog.ObjectRef{Kind: o.Kind, Schema: s.Name, Name: o.Name}, "belongs to the other engine")
		}
	}
	for _, y := range s.Types {
		if y.Extension == "" && y.Kind != catalog.EnumType && y.Kind != catalog.DomainType {
			x.add(catalog.ObjectRef{Kind: catalog.KindType, Schema: s.Name, Name: y.Name}, "has no like; columns of it hold text")
		}
	}
}

func (x *translation) sequence(to *catalog.Schema, s *catalog.Schema, q *catalog.Sequence) {
	d := *q
	d.OwnedBy, d.UsedBy, d.Unlogged = nil, nil, false
	d.Type = "bigint"
	d.Name = x.free(to.Name, q.Name)
	if !x.Comments {
		d.Comment = ""
	}
	x.moved[catalog.Ref{Schema: s.Name, Table: q.Name}] = catalog.Ref{Schema: to.Name, Table: d.Name}
	to.Sequences = append(to.Sequences, &d)
}

func (x *translation) table(t *catalog.Table) *catalog.Table {
	at := x.moved[t.Ref()]
	self := catalog.ObjectRef{Kind: catalog.KindTable, Schema: t.Schema, Name: t.Name}
	d := &catalog.Table{Schema: at.Schema, Name: at.Table, Kind: catalog.Ordinary}
	d.Comment = x.comment(self, t.Comment)
	for _, c := range t.Columns {
		if c.Within == "" { // fields go with their column
			d.Columns = append(d.Columns, x.column(t, d, c))
		}
	}
	x.keys(t, d)
	for _, k := range t.Checks {
		if expression, ok := x.Expression(t, k.Expression); ok {
			d.Checks = append(d.Checks, &catalog.Check{Name: x.constraint(d, k.Name), Expression: expression})
			continue
		}
		x.add(catalog.ObjectRef{Kind: "check", Schema: t.Schema, Name: cut(k.Name, t.Name)}, "is to be rewritten: "+text.OneLine(k.Expression))
	}
	for _, e := range t.Exclusions {
		x.add(catalog.ObjectRef{Kind: "exclusion", Schema: t.Schema, Name: e.Name}, "has no like: "+text.OneLine(e.Definition))
	}
	for _, i := range t.Indexes {
		x.index(t, d, i)
	}
	for _, g := range t.Triggers {
		if !g.Inherited {
			x.add(catalog.ObjectRef{Kind: "trigger", Schema: t.Schema, Name: g.Name + " on " + t.Name}, "is in the other engine's language, and is to be rewritten")
		}
	}
	for _, o := range t.Objects {
		x.add(catalog.ObjectRef{Kind: o.Kind, Schema: t.Schema, Name: o.Name + " on " + t.Name}, "belongs to the other engine")
	}
	switch {
	case t.PartitionBy != nil:
		x.add(self, "is no longer partitioned by "+text.OneLine(t.PartitionBy.Definition))
	case t.Kind == catalog.Foreign:
		x.add(self, "lies on another server, and becomes a table of this one")
	case len(t.Inherits) > 0:
		x.add(self, "no longer inherits: a query of the parent does not find its rows")
	}
	for _, o := range t.Options {
		switch {
		case o == "system versioned":
			x.add(self, "no longer keeps its history")
		case o == "row security":
			x.add(self, "has no row security: everybody who may read it reads all rows")
		}
	}
	return d
}

func cut(name, table string) string {
	if name == "" {
		return "on " + table
	}
	return name + " on " + table
}

func (x *translation) comment(o catalog.ObjectRef, says string) string {
	if says != "" && !x.Comments {
		x.add(o, "its comment is lost: "+text.OneLine(says))
		return ""
	}
	return says
}

// keyed reports whether the column is part of a key, a reference or an index.
func keyed(t *catalog.Table, name string) bool {
	for _, k := range t.Keys() {
		if slices.Contains(k.Columns, name) {
			return true
		}
	}
	for _, i := range t.Indexes {
		if slices.Contains(i.Columns(), name) && (i.Method == "" || i.Method == "btree" || i.Method == "hash") {
			return true
		}
	}
	return slices.ContainsFunc(t.ForeignKeys, func(f *catalog.ForeignKey) bool { return slices.Contains(f.Columns, name) })
}

// WholeNumber is the type of a numbered column: its own, where that is whole.
func WholeNumber(t catalog.Type) catalog.Type {
	if t.Family == catalog.Integer {
		return t
	}
	return catalog.Type{Native: "bigint", Family: catalog.Integer, Bits: 64}
}
