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
		s.Views = each(s.Views, func(v *View) {
			v.Columns = each(v.Columns, func(*ViewColumn) {})
			v.Indexes = each(v.Indexes, (*Index).own)
			v.Triggers = each(v.Triggers, func(*Trigger) {})
			v.Objects = each(v.Objects, func(*Object) {})
		})
		s.Sequences = each(s.Sequences, func(q *Sequence) { q.Feeds = slices.Clone(q.Feeds) })
		s.Types = each(s.Types, func(y *UserType) {
			y.Checks = each(y.Checks, func(*Check) {})
			y.Attributes = each(y.Attributes, func(*Column) {})
		})
		s.Routines = each(s.Routines, func(*Routine) {})
		s.Objects = each(s.Objects, func(*Object) {})
	})
	d.Objects = each(c.Objects, func(*Object) {})
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
	d.Exclusions = each(t.Exclusions, func(*Exclusion) {})
	d.Indexes = each(t.Indexes, (*Index).own)
	d.Partitions = each(t.Partitions, func(*Partition) {})
	d.Objects = each(t.Objects, func(*Object) {})
	d.Triggers = each(t.Triggers, func(*Trigger) {})
	d.Inherits = slices.Clone(t.Inherits)
	d.Dependants = slices.Clone(t.Dependants)
	if t.Spread != nil {
		s := *t.Spread
		d.Spread = &s
	}
	if t.SortKey != nil {
		d.SortKey = &SortKey{slices.Clone(t.SortKey.Columns), t.SortKey.Interleaved}
	}
	return &d
}

// own gives a copied index lists of its own.
func (x *Index) own() {
	x.Parts = slices.Clone(x.Parts)
	x.Include = slices.Clone(x.Include)
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
