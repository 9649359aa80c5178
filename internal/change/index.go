package change

import (
	"fmt"

	"nexdal/internal/catalog"
)

// CreateIndex adds an index. On a partitioned table Partitions names the
// index of each partition, at every level.
type CreateIndex struct {
	Table      catalog.Ref
	Index      *catalog.Index
	Partitions []PartitionIndex
}

// A PartitionIndex is the share that one partition has in an index of the
// whole.
type PartitionIndex struct {
	Table  catalog.Ref
	Name   string
	Parent string // the index that it is attached to
}

// DropIndex removes an index that no constraint stands on.
type DropIndex struct {
	Table catalog.Ref
	Name  string
	// Restores are indexes that the engine had made for foreign keys and that had
	// given way to this one: they come back with its end.
	Restores []*catalog.Index
	Early    bool // another of its name takes its place
}

func (c CreateIndex) On() catalog.Ref { return c.Table }
func (c DropIndex) On() catalog.Ref   { return c.Table }

func (c CreateIndex) Title() string {
	return fmt.Sprintf("create index %s on %s", c.Index.Name, c.Table)
}
func (c DropIndex) Title() string { return fmt.Sprintf("drop index %s of %s", c.Name, c.Table) }

func (CreateIndex) rank() int { return rankIndex }
func (c DropIndex) rank() int { return dropRank(c.Early) }

// dropRank is when something goes: at the end, or before what takes its name.
func dropRank(again bool) int {
	if again {
		return rankEarly
	}
	return rankDrop
}

// apply adds the index, and its shares to the partitions.
func (c CreateIndex) apply(to *edit, can catalog.Abilities) error {
	t, err := to.table(c.Table)
	if err != nil {
		return err
	}
	if t.Index(c.Index.Name) != nil {
		return fmt.Errorf("index %s exists", c.Index.Name)
	}
	for _, name := range c.Index.NamedColumns() {
		if t.Column(name) == nil {
			return fmt.Errorf("column %s of %s does not exist", name, c.Table)
		}
	}
	x := c.Index.Clone()
	x.Definition = ""
	yield(t, x, can)
	t.Indexes = append(t.Indexes, x)
	for _, p := range c.Partitions {
		if part := to.Table(p.Table); part != nil {
			share := x.Clone()
			share.Name, share.Inherited, share.PartOf = p.Name, true, p.Parent
			to.altered(part).Indexes = append(part.Indexes, share)
		}
	}
	return nil
}

// apply removes the index. One that enforces a constraint stays.
func (c DropIndex) apply(to *edit, _ catalog.Abilities) error {
	t, err := to.table(c.Table)
	if err != nil {
		return err
	}
	x := t.Index(c.Name)
	switch {
	case x == nil:
		return fmt.Errorf("index %s of %s does not exist", c.Name, c.Table)
	case x.Origin != catalog.ByPerson:
		return fmt.Errorf("index %s of %s stands behind a %s", c.Name, c.Table, x.Origin)
	}
	t.Indexes = without(t.Indexes, x)
	for _, s := range Shares(to.Catalog, c.Table, c.Name) {
		part := to.altered(to.Table(s.Table))
		part.Indexes = without(part.Indexes, part.Index(s.Name))
	}
	restore(t, c.Restores)
	return nil
}

// Shares are the parts that partitions have in an index of the whole, the whole's own
// first.
func Shares(in *catalog.Catalog, whole catalog.Ref, name string) []PartitionIndex {
	var all []PartitionIndex
	if t := in.Table(whole); t == nil || t.Kind != catalog.Partitioned {
		return nil
	}
	for _, t := range in.Tables() {
		if t.PartitionOf == nil || *t.PartitionOf != whole {
			continue
		}
		for _, x := range t.Indexes {
			if x.PartOf == name {
				all = append(append(all, PartitionIndex{Table: t.Ref(), Name: x.Name, Parent: name}), Shares(in, t.Ref(), x.Name)...)
			}
		}
	}
	return all
}

func restore(t *catalog.Table, indexes []*catalog.Index) {
	for _, x := range indexes {
		t.Indexes = append(t.Indexes, x.Clone())
	}
}

// yielded returns the indexes that gave way to a new one, of the catalog as it
// was before.
func yielded(before *catalog.Catalog, ref catalog.Ref, x *catalog.Index) []*catalog.Index {
	t := before.Table(ref)
	if t == nil {
		return nil
	}
	// Where there are such indexes at all, they yield.
	return Yielding(t, x, catalog.Abilities{ForeignKeyIndexYields: true})
}

// inverse of creating an index is dropping it.
func (c CreateIndex) inverse(before *catalog.Catalog) (Change, error) {
	return DropIndex{c.Table, c.Index.Name, yielded(before, c.Table, c.Index), false}, nil
}

// inverse of dropping an index is creating it as it was, unless no search could use it.
func (c DropIndex) inverse(before *catalog.Catalog) (Change, error) {
	t, err := table(before, c.Table)
	if err != nil {
		return nil, err
	}
	x := t.Index(c.Name)
	if x == nil {
		return nil, fmt.Errorf("index %s of %s does not exist", c.Name, c.Table)
	}
	if x.Invalid {
		return NoReversal{c.Table, "the index was not valid, and is not built again"}, nil
	}
	return CreateIndex{Table: c.Table, Index: x, Partitions: Shares(before, c.Table, c.Name)}, nil
}

// Yielding returns the indexes that the engine made for foreign keys and that
// give way to a new one which serves as well.
func Yielding(t *catalog.Table, x *catalog.Index, can catalog.Abilities) []*catalog.Index {
	var gone []*catalog.Index
	for _, old := range t.Indexes {
		if can.ForeignKeyIndexYields && old.Origin == catalog.ByForeignKey && x.LeadsWith(old.Columns()) {
			gone = append(gone, old)
		}
	}
	return gone
}

func yield(t *catalog.Table, x *catalog.Index, can catalog.Abilities) {
	for _, old := range Yielding(t, x, can) {
		t.Indexes = without(t.Indexes, old)
	}
}

// CompleteIndex gives the partitions that lack their share of an index of the
// whole one, with which the index becomes valid.
type CompleteIndex struct {
	Table      catalog.Ref
	Index      *catalog.Index
	Partitions []PartitionIndex
}

func (c CompleteIndex) On() catalog.Ref { return c.Table }
func (c CompleteIndex) Title() string {
	return fmt.Sprintf("complete index %s of %s", c.Index.Name, c.Table)
}
func (CompleteIndex) rank() int { return rankIndex }

// apply adds the shares.
func (c CompleteIndex) apply(to *edit, _ catalog.Abilities) error {
	t, err := to.table(c.Table)
	if err != nil {
		return err
	}
	x := t.Index(c.Index.Name)
	if x == nil {
		return fmt.Errorf("index %s of %s does not exist", c.Index.Name, c.Table)
	}
	if len(c.Partitions) == 0 {
		return fmt.Errorf("no partition of %s lacks its share of index %s", c.Table, c.Index.Name)
	}
	x.Invalid = false
	for _, p := range c.Partitions {
		if part := to.Table(p.Table); part != nil {
			share := x.Clone()
			share.Name, share.Inherited, share.PartOf, share.Definition = p.Name, true, p.Parent, ""
			share.Bytes, share.Scans = nil, nil
			to.altered(part).Indexes = append(part.Indexes, share)
		}
	}
	return nil
}

// inverse does nothing: a share cannot be taken off again.
func (c CompleteIndex) inverse(*catalog.Catalog) (Change, error) {
	return NoReversal{c.Table, "the index stays complete"}, nil
}

// RebuildIndex rebuilds an index from the rows: one that is not valid, or has
// become half empty.
type RebuildIndex struct {
	Table catalog.Ref
	Name  string
}

func (c RebuildIndex) On() catalog.Ref { return c.Table }
func (c RebuildIndex) Title() string   { return fmt.Sprintf("rebuild index %s of %s", c.Name, c.Table) }
func (RebuildIndex) rank() int         { return rankIndex }

// apply notes that the index can be used.
func (c RebuildIndex) apply(to *edit, _ catalog.Abilities) error {
	t, err := to.table(c.Table)
	if err != nil {
		return err
	}
	x := t.Index(c.Name)
	if x == nil {
		return fmt.Errorf("index %s of %s does not exist", c.Name, c.Table)
	}
	x.Invalid = false
	return nil
}

// inverse does nothing: a sound index is not made unsound again.
func (c RebuildIndex) inverse(*catalog.Catalog) (Change, error) {
	return NoReversal{c.Table, "the index stays as it was rebuilt"}, nil
}
