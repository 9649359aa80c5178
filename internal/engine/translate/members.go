package translate

import (
	"slices"

	"nexdal/internal/catalog"
	"nexdal/internal/text"
)

// constraint gives a constraint a name that is free; unnamed ones stay so.
func (x *translation) constraint(d *catalog.Table, name string) string {
	if name == "" {
		return ""
	}
	if x.SharedConstraints {
		return x.free(d.Schema, name)
	}
	return x.free(d.Schema+"\x00"+d.Name, name)
}

func (x *translation) keys(t, d *catalog.Table) {
	make := func(k *catalog.Key, primary bool) *catalog.Key {
		out := &catalog.Key{Name: k.Name, Columns: x.allCalled(t.Ref(), k.Columns)}
		switch {
		case x.SharedNames && (k.Name == "" || k.Name == "PRIMARY"):
			out.Name = t.Name + catalog.InCaseOf("_pkey", t.Name)
			if !primary {
				out.Name = t.Name + catalog.InCaseOf("_key", t.Name)
			}
			out.Name = x.free(d.Schema, out.Name)
		case x.SharedNames:
			out.Name = x.free(d.Schema, k.Name)
		case primary:
			out.Name = "PRIMARY"
		default:
			if out.Name == "" {
				out.Name = t.Name + catalog.InCaseOf("_key", t.Name)
			}
			out.Name = x.constraint(d, out.Name)
		}
		if k.Deferrable && x.Deferrable {
			out.Deferrable, out.Deferred = k.Deferrable, k.Deferred
		} else if k.Deferrable {
			x.add(catalog.ObjectRef{Kind: "key", Schema: t.Schema, Name: cut(k.Name, t.Name)}, "is checked at once, and no longer when a transaction ends")
		}
		if k.NullsNotDistinct {
			x.add(catalog.ObjectRef{Kind: "key", Schema: t.Schema, Name: cut(k.Name, t.Name)}, "lets several nulls through")
		}
		out.Index = out.Name
		if primary {
			for _, name := range out.Columns {
				if c := d.Column(name); c != nil && c.Nullable && !x.KeyedNulls {
					c.Nullable = false
					x.losses.column(t, name, "may no longer be null, as part of the primary key")
				}
			}
		}
		return out
	}
	if t.PrimaryKey != nil {
		d.PrimaryKey = make(t.PrimaryKey, true)
		x.behind(t, d, d.PrimaryKey, t.PrimaryKey, catalog.ByPrimaryKey)
	}
	for _, k := range t.UniqueKeys {
		out := make(k, false)
		d.UniqueKeys = append(d.UniqueKeys, out)
		x.behind(t, d, out, k, catalog.ByUniqueKey)
	}
}

// behind makes the index of a key.
func (x *translation) behind(t, d *catalog.Table, k, was *catalog.Key, origin catalog.Origin) {
	i := &catalog.Index{Name: k.Name, Origin: origin, Method: "btree", Unique: true}
	old := t.Index(was.Index)
	for n, c := range k.Columns {
		part := catalog.IndexPart{Column: c}
		if old != nil && n < len(old.Parts) {
			part.Length = old.Parts[n].Length
		}
		i.Parts = append(i.Parts, part)
	}
	if old != nil && len(old.Include) > 0 {
		x.add(catalog.ObjectRef{Kind: "key", Schema: t.Schema, Name: cut(was.Name, t.Name)}, "its index no longer carries other columns")
	}
	d.Indexes = append(d.Indexes, i)
}

func (x *translation) reference(lookup *catalog.Lookup, t, d *catalog.Table, f *catalog.ForeignKey) {
	self := catalog.ObjectRef{Kind: "foreign key", Schema: t.Schema, Name: cut(f.Name, t.Name)}
	to, ok := x.moved[f.Target]
	if !ok {
		x.add(self, "leads to "+f.Target.String()+", which is not taken over")
		return
	}
	if len(f.Columns) != len(f.TargetColumns) {
		x.add(self, "names other columns than it refers to")
		return
	}
	if !keeps(x.from.Table(f.Target), f.TargetColumns) {
		x.add(self, "refers to columns that no key keeps unique, which is not possible here")
		return
	}
	for i, name := range f.Columns {
		a, b := d.Column(x.called(t.Ref(), name)), lookup.Table(to).Column(x.called(f.Target, f.TargetColumns[i]))
		if a != nil && b != nil && !x.comparable(a.Type, b.Type) {
			x.add(self, "is left out: "+name+" is "+a.Type.Native+", and what it refers to "+b.Type.Native+", which cannot be compared here")
			return
		}
	}
	out := &catalog.ForeignKey{Name: f.Name, Columns: x.allCalled(t.Ref(), f.Columns), Target: to, TargetColumns: x.allCalled(f.Target, f.TargetColumns), OnDelete: f.OnDelete, OnUpdate: f.OnUpdate}
	if out.Name == "" && x.SharedNames {
		out.Name = t.Name + "_" + f.Columns[0] + catalog.InCaseOf("_fkey", t.Name)
	}
	out.Name = x.constraint(d, out.Name)
	if !x.SharedNames && x.MaxName > 0 && out.Name != "" { // unique throughout the database
		out.Name = x.free(d.Schema+"\x00references", out.Name)
	}
	if f.Deferrable {
		if out.Deferrable, out.Deferred = x.Deferrable, x.Deferrable && f.Deferred; !x.Deferrable {
			x.add(self, "is checked at once, and no longer when a transaction ends")
		}
	}
	for _, a := range []*catalog.Action{&out.OnDelete, &out.OnUpdate} {
		if *a == catalog.SetDefault && !x.SetDefault {
			*a = catalog.Restrict
			x.add(self, "refuses where it set the default")
		}
	}
	if x.SameTypes && slices.ContainsFunc(out.Columns, func(name string) bool { c := d.Column(name); return c != nil && !c.Nullable }) {
		for _, a := range []*catalog.Action{&out.OnDelete, &out.OnUpdate} {
			if *a == catalog.SetNull {
				*a = catalog.Restrict
				x.add(self, "refuses, where it would have set null in a column that may not be null")
			}
		}
	}
	if len(f.SetColumns) > 0 {
		x.add(self, "sets all its columns, and no longer some of them")
	}
	if f.Match == "full" {
		x.add(self, "lets half-empty references through, as MATCH SIMPLE does")
	}
	d.ForeignKeys = append(d.ForeignKeys, out)
}

// comparable reports whether a reference may lead from one type to the other.
func (x *translation) comparable(a, b catalog.Type) bool {
	number := func(t catalog.Type) bool {
		return t.Family == catalog.Integer || t.Family == catalog.Decimal || t.Family == catalog.Float
	}
	switch {
	case x.LooseTypes || a.Native == b.Native || a.Family == catalog.Text && b.Family == catalog.Text:
		return true
	case x.SameTypes:
		return false
	}
	return a.Family == b.Family || number(a) && number(b)
}

// keeps reports whether a key or a whole unique index is on exactly these
// columns.
func keeps(t *catalog.Table, columns []string) bool {
	return slices.ContainsFunc(t.Keys(), func(k *catalog.Key) bool { return catalog.SameColumns(k.Columns, columns) }) ||
		slices.ContainsFunc(t.Indexes, func(i *catalog.Index) bool {
			return i.Unique && i.Predicate == "" && catalog.SameColumns(i.Columns(), columns)
		})
}

func (x *translation) index(t, d *catalog.Table, i *catalog.Index) {
	if i.Origin != catalog.ByPerson && i.Origin != catalog.ByForeignKey {
		return
	}
	self := catalog.ObjectRef{Kind: "index", Schema: t.Schema, Name: i.Name}
	out := &catalog.Index{Origin: catalog.ByPerson, Method: "btree", Unique: i.Unique}
	switch i.Method {
	case "", "btree", "hash":
	default:
		x.add(self, "is of kind "+i.Method+", which has no like")
		return
	}
	if i.Pinned != "" {
		x.add(self, "no longer serves as "+i.Pinned)
	}
	if i.Invalid {
		x.add(self, "is broken, and left out")
		return
	}
	if i.Predicate != "" {
		expression, ok := x.Expression(t, i.Predicate)
		switch {
		case x.PartialIndexes && ok:
			out.Predicate = expression
		case i.Unique:
			x.add(self, "keeps some rows unique alone, which cannot be said here: "+text.OneLine(i.Predicate))
			return
		default:
			x.add(self, "holds all rows, and no longer those alone where "+text.OneLine(i.Predicate))
		}
	}
	for _, p := range i.Parts {
		part := catalog.IndexPart{Column: x.called(t.Ref(), p.Column), Descending: p.Descending && x.Descending, Length: p.Length}
		if p.Column == "" {
			expression, ok := x.Expression(t, p.Expression)
			if !ok || !x.ExpressionIndexes {
				x.add(self, "is over an expression that cannot be said here: "+text.OneLine(p.Expression))
				return
			}
			part.Expression = "(" + expression + ")"
		}
		if x.SharedNames && p.Length > 0 {
			part.Length = 0
			x.add(self, "holds whole values, and no longer their beginnings alone")
		}
		out.Parts = append(out.Parts, part)
	}
	if len(i.Include) > 0 {
		if out.Include = x.allCalled(t.Ref(), i.Include); !x.IncludedColumns {
			out.Include = nil
			x.add(self, "no longer carries other columns")
		}
	}
	if x.SharedNames {
		out.Name = x.free(d.Schema, i.Name)
	} else {
		out.Name = x.constraint(d, i.Name)
	}
	if out.Name != i.Name {
		x.add(self, "is called "+out.Name)
	}
	d.Indexes = append(d.Indexes, out)
}
