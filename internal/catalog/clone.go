package catalog

import "slices"

// Clone copies the catalog so deeply that altering the copy leaves the
// original alone.
func (c *Catalog) Clone() *Catalog {
	d := *c
	d.Settings = slices.Clone(c.Settings)
	d.Gaps = slices.Clone(c.Gaps)
	d.Schemas = each(c.Schemas, func(s *Schema) {
		s.Tables = slices.Clone(s.Tables)
		for i, t := range s.Tables {
			s.Tables[i] = t.Clone()
		}
		s.Views = each(s.Views, func(*View) {})
	})
	return &d
}

// Clone copies the table as deeply.
func (t *Table) Clone() *Table {
	d := *t
	d.Options = slices.Clone(t.Options)
	d.Columns = each(t.Columns, func(*Column) {})
	if t.PrimaryKey != nil {
		d.PrimaryKey = t.PrimaryKey.clone()
	}
	d.UniqueKeys = each(t.UniqueKeys, func(k *Key) { k.Columns = slices.Clone(k.Columns) })
	d.ForeignKeys = slices.Clone(t.ForeignKeys)
	for i, f := range t.ForeignKeys {
		d.ForeignKeys[i] = f.Clone()
	}
	d.Checks = each(t.Checks, func(*Check) {})
	d.Indexes = each(t.Indexes, func(x *Index) {
		x.Parts = slices.Clone(x.Parts)
		x.Include = slices.Clone(x.Include)
	})
	d.Triggers = each(t.Triggers, func(*Trigger) {})
	d.Inherits = slices.Clone(t.Inherits)
	d.Dependants = slices.Clone(t.Dependants)
	return &d
}

// Clone copies the foreign key.
func (f *ForeignKey) Clone() *ForeignKey {
	d := *f
	d.Columns = slices.Clone(f.Columns)
	d.TargetColumns = slices.Clone(f.TargetColumns)
	d.SetColumns = slices.Clone(f.SetColumns)
	return &d
}

func (k *Key) clone() *Key {
	d := *k
	d.Columns = slices.Clone(k.Columns)
	return &d
}

// each copies a slice of pointers and what they point to, then lets deepen
// copy what the copies still share with the originals.
func each[T any](from []*T, deepen func(*T)) []*T {
	if from == nil {
		return nil
	}
	to := make([]*T, len(from))
	for i, p := range from {
		v := *p
		deepen(&v)
		to[i] = &v
	}
	return to
}
