package catalog

// RenameSchema gives a schema another name, wherever the model speaks of it. Texts in
// the engine's own words are left as they are.
func (c *Catalog) RenameSchema(from, to string) {
	c.namesOfSchemas(func(name *string) {
		if *name == from {
			*name = to
		}
	})
}

// namesOfSchemas visits every place in which the model names a schema.
func (c *Catalog) namesOfSchemas(visit func(*string)) {
	ref := func(r *Ref) {
		if r != nil {
			visit(&r.Schema)
		}
	}
	things := func(list []ObjectRef) {
		for i := range list {
			visit(&list[i].Schema)
		}
	}
	objects := func(list []*Object) {
		for _, o := range list {
			things(o.Needs)
		}
	}
	columns := func(list []*Column) {
		for _, col := range list {
			ref(col.Sequence)
		}
	}
	for i := range c.Faults {
		visit(&c.Faults[i].Schema)
	}
	for i := range c.Gaps {
		visit(&c.Gaps[i].Schema)
	}
	objects(c.Objects)
	for _, s := range c.Schemas {
		visit(&s.Name)
		for _, t := range s.Tables {
			visit(&t.Schema)
			ref(t.PartitionOf)
			for i := range t.Inherits {
				ref(&t.Inherits[i])
			}
			for _, f := range t.ForeignKeys {
				ref(&f.Target)
			}
			for _, f := range t.Accepted {
				ref(&f.Target)
			}
			columns(t.Columns)
			things(t.Needs)
			objects(t.Objects)
		}
		for _, v := range s.Views {
			things(v.Reads)
			objects(v.Objects)
		}
		for _, q := range s.Sequences {
			if q.OwnedBy != nil {
				visit(&q.OwnedBy.Schema)
			}
			for i := range q.UsedBy {
				visit(&q.UsedBy[i].Schema)
			}
		}
		for _, y := range s.Types {
			columns(y.Attributes)
			things(y.Needs)
		}
		for _, r := range s.Routines {
			things(r.Needs)
			things(r.Touches)
		}
		objects(s.Objects)
	}
}
