package catalog

import "slices"

// Clone copies the catalog so deeply that altering the copy leaves the
// original alone.
func (c *Catalog) Clone() *Catalog {
	d := *c
	d.Features = slices.Clone(c.Features)
	d.Settings = slices.Clone(c.Settings)
	d.Gaps = slices.Clone(c.Gaps)
	d.Faults = slices.Clone(c.Faults)
	d.Schemas = each(c.Schemas, (*Schema).unshare)
	d.Objects = each(c.Objects, (*Object).unshare)
	return &d
}

// Clone copies the table as deeply.
func (t *Table) Clone() *Table { return copied(t, (*Table).unshare) }

// Clone copies the foreign key.
func (f *ForeignKey) Clone() *ForeignKey { return copied(f, (*ForeignKey).unshare) }

// Clone copies the index.
func (x *Index) Clone() *Index { return copied(x, (*Index).unshare) }

// Clone copies the key.
func (k *Key) Clone() *Key { return copied(k, (*Key).unshare) }

// Clone copies the column.
func (c *Column) Clone() *Column { return copied(c, (*Column).unshare) }

// Clone copies the view.
func (v *View) Clone() *View { return copied(v, (*View).unshare) }

// Clone copies the sequence.
func (q *Sequence) Clone() *Sequence { return copied(q, (*Sequence).unshare) }

// Clone copies the routine.
func (r *Routine) Clone() *Routine { return copied(r, (*Routine).unshare) }

// Clone copies the trigger.
func (g *Trigger) Clone() *Trigger { return copied(g, (*Trigger).unshare) }

// Clone copies the partition key.
func (k *PartitionKey) Clone() *PartitionKey { return copied(k, (*PartitionKey).unshare) }

// Clone copies the partition with its parts.
func (p *Partition) Clone() *Partition { return copied(p, (*Partition).unshare) }

// Clone copies the schema with all that it holds.
func (s *Schema) Clone() *Schema { return copied(s, (*Schema).unshare) }

// Clone copies the type.
func (y *UserType) Clone() *UserType { return copied(y, (*UserType).unshare) }

// Clone copies the object.
func (o *Object) Clone() *Object { return copied(o, (*Object).unshare) }

// Clone copies the check.
func (k *Check) Clone() *Check { return copied(k, plain) }

// copied returns a copy of what p points to, with lists and pointers of its own; nil
// stays nil.
func copied[T any](p *T, unshare func(*T)) *T {
	if p == nil {
		return nil
	}
	v := *p
	unshare(&v)
	return &v
}

// each copies a list and what it points to.
func each[T any](from []*T, unshare func(*T)) []*T {
	if from == nil {
		return nil
	}
	to := make([]*T, len(from))
	for i, p := range from {
		to[i] = copied(p, unshare)
	}
	return to
}

// plain is for what holds neither lists nor pointers.
func plain[T any](*T) {}

// figure copies a figure.
func figure[T any](p *T) *T { return copied(p, plain[T]) }

func unshared(list []Dependant) []Dependant {
	list = slices.Clone(list)
	for i := range list {
		list[i].Columns = slices.Clone(list[i].Columns)
	}
	return list
}

// The unshare methods give a copied value lists and pointers of its own in place of
// those that it has in common with the original.

func (s *Schema) unshare() {
	s.Options = slices.Clone(s.Options)
	s.Tables = each(s.Tables, (*Table).unshare)
	s.Views = each(s.Views, (*View).unshare)
	s.Sequences = each(s.Sequences, (*Sequence).unshare)
	s.Types = each(s.Types, (*UserType).unshare)
	s.Routines = each(s.Routines, (*Routine).unshare)
	s.Objects = each(s.Objects, (*Object).unshare)
	s.unshareRights()
}

func (t *Table) unshare() {
	t.Options = slices.Clone(t.Options)
	t.Columns = each(t.Columns, (*Column).unshare)
	t.PrimaryKey = t.PrimaryKey.Clone()
	t.UniqueKeys = each(t.UniqueKeys, (*Key).unshare)
	t.ForeignKeys = each(t.ForeignKeys, (*ForeignKey).unshare)
	t.Checks = each(t.Checks, plain)
	t.Exclusions = each(t.Exclusions, func(e *Exclusion) { e.Operators = slices.Clone(e.Operators) })
	t.Indexes = each(t.Indexes, (*Index).unshare)
	t.Triggers = each(t.Triggers, (*Trigger).unshare)
	t.Inherits = slices.Clone(t.Inherits)
	t.PartitionOf = copied(t.PartitionOf, plain)
	t.PartitionBy = t.PartitionBy.Clone()
	t.Spread = copied(t.Spread, plain)
	t.SortKey = copied(t.SortKey, func(k *SortKey) { k.Columns = slices.Clone(k.Columns) })
	t.Partitions = each(t.Partitions, (*Partition).unshare)
	t.Objects = each(t.Objects, (*Object).unshare)
	t.Dependants = unshared(t.Dependants)
	t.unshareRights()
	t.Needs = slices.Clone(t.Needs)
	t.Accepted = each(t.Accepted, (*ForeignKey).unshare)
	t.Stats.unshare()
}

func (s *TableStats) unshare() {
	s.Rows, s.DeadRows, s.Counter, s.Orphans = figure(s.Rows), figure(s.DeadRows), figure(s.Counter), figure(s.Orphans)
	s.Analysed, s.Bytes, s.IndexBytes = figure(s.Analysed), figure(s.Bytes), figure(s.IndexBytes)
	s.Unsorted, s.Stale, s.Parts, s.Looked, s.LargestRow = figure(s.Unsorted), figure(s.Stale), figure(s.Parts), figure(s.Looked), figure(s.LargestRow)
	s.IndexOrder, s.Slices = slices.Clone(s.IndexOrder), slices.Clone(s.Slices)
}

func (c *Column) unshare() {
	c.Options = slices.Clone(c.Options)
	c.Sequence = copied(c.Sequence, plain)
	c.NotNull = copied(c.NotNull, plain)
	s := &c.Stats
	s.Nulls, s.Distinct, s.Common, s.Bytes = figure(s.Nulls), figure(s.Distinct), figure(s.Common), figure(s.Bytes)
	s.Absent, s.Items = figure(s.Absent), figure(s.Items)
	if s.Types != nil {
		types := slices.Clone(*s.Types)
		s.Types = &types
	}
}

func (k *Key) unshare() { k.Columns = slices.Clone(k.Columns) }

func (f *ForeignKey) unshare() {
	f.Columns = slices.Clone(f.Columns)
	f.TargetColumns = slices.Clone(f.TargetColumns)
	f.SetColumns = slices.Clone(f.SetColumns)
}

func (x *Index) unshare() {
	x.Parts = slices.Clone(x.Parts)
	x.Include = slices.Clone(x.Include)
	x.Bytes, x.Scans = figure(x.Bytes), figure(x.Scans)
}

func (k *PartitionKey) unshare() {
	k.Columns = slices.Clone(k.Columns)
	k.Sub = k.Sub.Clone()
}

func (p *Partition) unshare() {
	p.Options = slices.Clone(p.Options)
	p.Parts = each(p.Parts, (*Partition).unshare)
	p.Rows = figure(p.Rows)
}

func (g *Trigger) unshare() { g.Events = slices.Clone(g.Events) }

func (o *Object) unshare() { o.Needs = slices.Clone(o.Needs) }

func (v *View) unshare() {
	v.Options = slices.Clone(v.Options)
	v.Columns = each(v.Columns, plain)
	v.Indexes = each(v.Indexes, (*Index).unshare)
	v.Triggers = each(v.Triggers, (*Trigger).unshare)
	v.Objects = each(v.Objects, (*Object).unshare)
	v.Reads = slices.Clone(v.Reads)
	v.Dependants = unshared(v.Dependants)
	v.unshareRights()
}

func (q *Sequence) unshare() {
	q.OwnedBy = copied(q.OwnedBy, plain)
	q.UsedBy = slices.Clone(q.UsedBy)
	q.Dependants = unshared(q.Dependants)
	q.unshareRights()
	q.Last = figure(q.Last)
}

func (y *UserType) unshare() {
	y.Labels = slices.Clone(y.Labels)
	y.Base = copied(y.Base, plain)
	y.NotNull = copied(y.NotNull, plain)
	y.Checks = each(y.Checks, plain)
	y.Attributes = each(y.Attributes, (*Column).unshare)
	y.Needs = slices.Clone(y.Needs)
	y.unshareRights()
}

func (r *Routine) unshare() {
	r.Needs = slices.Clone(r.Needs)
	r.Touches = slices.Clone(r.Touches)
	r.unshareRights()
}
