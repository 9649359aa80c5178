package catalog

// Respell writes the names of schemas, tables, views, sequences, columns, keys and indexes as
// the given function does, unless that would make two names of one place one. Texts in the
// engine's own words, and what belongs to the engine alone, are left as they are.
func (c *Catalog) Respell(as func(string) string) {
	apart := c.apart(as)
	c.names(func(name *string) {
		if to := as(*name); !apart[to] {
			*name = to
		}
	})
	c.Sort()
}

// apart are the spellings that several names of one place would have: of the schemas, of what a
// schema holds, of the columns of a table, and of its keys and indexes.
func (c *Catalog) apart(as func(string) string) map[string]bool {
	apart := map[string]bool{}
	place := func() func(string) {
		by := map[string]string{}
		return func(name string) {
			to := as(name)
			if other, ok := by[to]; ok && other != name {
				apart[to] = true
			}
			by[to] = name
		}
	}
	schemas := place()
	for _, s := range c.Schemas {
		schemas(s.Name)
		relations := place()
		for _, t := range s.Tables {
			relations(t.Name)
			columns, constraints := place(), place()
			for _, c := range t.Columns {
				columns(c.Name)
			}
			for _, name := range t.ConstraintNames() {
				constraints(name)
			}
			for _, x := range t.Indexes {
				constraints(x.Name)
			}
		}
		for _, v := range s.Views {
			relations(v.Name)
		}
		for _, q := range s.Sequences {
			relations(q.Name)
		}
	}
	return apart
}

// names visits every place in which the model names what a statement would name.
func (c *Catalog) names(visit func(*string)) {
	ref := func(r *Ref) {
		if r != nil {
			visit(&r.Table)
		}
	}
	things := func(list []ObjectRef) {
		for i := range list {
			visit(&list[i].Name)
		}
	}
	c.namesOfSchemas(visit)
	for i := range c.Gaps {
		visit(&c.Gaps[i].Table)
	}
	for _, s := range c.Schemas {
		for _, t := range s.Tables {
			t.names(visit)
			ref(t.PartitionOf)
			for i := range t.Inherits {
				ref(&t.Inherits[i])
			}
			things(t.Needs)
		}
		for _, v := range s.Views {
			visit(&v.Name)
			for _, col := range v.Columns {
				visit(&col.Name)
			}
			things(v.Reads)
		}
		for _, q := range s.Sequences {
			visit(&q.Name)
			if q.OwnedBy != nil {
				visit(&q.OwnedBy.Table)
				visit(&q.OwnedBy.Column)
			}
			for i := range q.UsedBy {
				visit(&q.UsedBy[i].Table)
				visit(&q.UsedBy[i].Column)
			}
		}
		for _, r := range s.Routines {
			visit(&r.Name)
			things(r.Needs)
			things(r.Touches)
		}
	}
}

// names visits the names within a table, and those of others in it.
func (t *Table) names(visit func(*string)) {
	all := func(names []string) {
		for i := range names {
			visit(&names[i])
		}
	}
	visit(&t.Name)
	for _, c := range t.Columns {
		visit(&c.Name)
		if c.Sequence != nil {
			visit(&c.Sequence.Table)
		}
		if c.NotNull != nil {
			visit(&c.NotNull.Name)
		}
	}
	for _, k := range t.Keys() {
		visit(&k.Name)
		visit(&k.Index)
		all(k.Columns)
	}
	for _, list := range [][]*ForeignKey{t.ForeignKeys, t.Accepted} {
		for _, f := range list {
			visit(&f.Name)
			visit(&f.Target.Table)
			visit(&f.TargetIndex)
			all(f.Columns)
			all(f.TargetColumns)
			all(f.SetColumns)
		}
	}
	for _, k := range t.Checks {
		visit(&k.Name)
		visit(&k.Column)
	}
	for _, x := range t.Indexes {
		visit(&x.Name)
		all(x.Include)
		for i := range x.Parts {
			visit(&x.Parts[i].Column)
		}
	}
	for _, g := range t.Triggers {
		visit(&g.Name)
	}
	for k := t.PartitionBy; k != nil; k = k.Sub {
		all(k.Columns)
	}
}
