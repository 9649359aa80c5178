package catalog

// RenameSchema gives a schema another name, wherever the model speaks of it. Texts in
// the engine's own words are left as they are.
func (c *Catalog) RenameSchema(from, to string) {
	ref := func(r *Ref) {
		if r != nil && r.Schema == from {
			r.Schema = to
		}
	}
	things := func(list []Thing) {
		for i := range list {
			if list[i].Schema == from {
				list[i].Schema = to
			}
		}
	}
	for _, s := range c.Schemas {
		if s.Name == from {
			s.Name = to
		}
		for _, t := range s.Tables {
			t.Schema = s.Name
			ref(t.PartitionOf)
			for i := range t.Inherits {
				ref(&t.Inherits[i])
			}
			for _, f := range t.ForeignKeys {
				ref(&f.Target)
			}
			for _, col := range t.Columns {
				ref(col.Sequence)
			}
			things(t.Needs)
		}
		for _, v := range s.Views {
			things(v.Reads)
		}
		for _, q := range s.Sequences {
			if q.OwnedBy != nil && q.OwnedBy.Schema == from {
				q.OwnedBy.Schema = to
			}
			for i := range q.Feeds {
				if q.Feeds[i].Schema == from {
					q.Feeds[i].Schema = to
				}
			}
		}
		for _, r := range s.Routines {
			things(r.Needs)
			things(r.Touches)
		}
	}
}
