package change

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
)

// AddPartition gives a partitioned table one more part, made like the whole.
type AddPartition struct {
	Of           catalog.Ref
	Name, Bounds string // the bounds in the engine's words
	// Before is the part that took these rows so far and stays behind the new one,
	// where parts are no tables; empty: the new part is the last.
	Before string
	Like   string // the part that it is stored like; empty: like the whole
	// From is the part whose rows it takes, of those that belong to it, where parts are
	// tables; empty: none has any. Where is what they have in common, in the engine's
	// words.
	From, Where string
	Table       bool // the part is a table of its own
	// Shares are the names of its shares in the indexes of the whole, in their order,
	// chosen when the change was planned. Those that the whole has got since, and all of
	// them where there are none, are named when the part is made.
	Shares []Share
}

// A Share is what a part's index is called that is part of an index of the whole.
type Share struct{ Of, Name string }

// Named chooses the names of the shares, which are taken then.
func (c AddPartition) Named(names *catalog.Names, whole *catalog.Table) AddPartition {
	if !c.Table {
		return c
	}
	part := &catalog.Table{Schema: c.Of.Schema, Name: c.Name}
	for _, x := range whole.Indexes {
		c.Shares = append(c.Shares, Share{x.Name, shareName(names, whole, part, x)})
	}
	return c
}

func (c AddPartition) On() catalog.Ref { return c.Of }

// Ref names the table that the part is.
func (c AddPartition) Ref() catalog.Ref { return catalog.Ref{Schema: c.Of.Schema, Table: c.Name} }

// Tables names the table that the part is, if it is one.
func (c AddPartition) Tables() []catalog.Ref {
	if !c.Table {
		return nil
	}
	return []catalog.Ref{c.Ref()}
}

func (c AddPartition) Title() string { return fmt.Sprintf("add partition %s to %s", c.Name, c.Of) }

func (AddPartition) rank() int { return rankLast } // alike the whole as it has come to be

// apply adds it.
func (c AddPartition) apply(to *edit, can catalog.Abilities) error {
	if _, err := table(to.Catalog, c.Of); err != nil {
		return err
	}
	if c.Table {
		return to.addTable(c.Made(to.Catalog, can))
	}
	t, err := to.table(c.Of)
	if err != nil {
		return err
	}
	part := &catalog.Partition{Name: c.Name, Bounds: c.Bounds}
	at := len(t.Partitions)
	for i, p := range t.Partitions {
		switch p.Name {
		case c.Name:
			return fmt.Errorf("partition %s of %s exists", p.Name, c.Of)
		case c.Before:
			at = i
		}
		if p.Name == c.Like {
			part.Options = slices.Clone(p.Options)
		}
	}
	if n := len(t.Partitions); n > 0 { // as many sub-partitions as the others have, called as the engine calls them
		for i := range t.Partitions[n-1].Parts {
			part.Parts = append(part.Parts, &catalog.Partition{Name: fmt.Sprintf("%ssp%d", part.Name, i)})
		}
	}
	t.Partitions = slices.Insert(t.Partitions, at, part)
	return nil
}

// Made is the table that the part comes to be, with all that comes from the whole.
func (c AddPartition) Made(in *catalog.Catalog, can catalog.Abilities) *catalog.Table {
	whole := in.Table(c.Of)
	of := c.Of
	t := &catalog.Table{Schema: of.Schema, Name: c.Name, Kind: catalog.Ordinary, PartitionOf: &of, Bounds: c.Bounds, Tablespace: whole.Tablespace}
	if like := in.Table(catalog.Ref{Schema: of.Schema, Table: c.Like}); like != nil {
		t.Storage, t.Tablespace, t.Options = like.Storage, like.Tablespace, slices.Clone(like.Options)
	}
	for _, col := range whole.Columns {
		share := col.Clone()
		if share.Identity == catalog.IdentityAlways || share.Identity == catalog.IdentityByDefault {
			if share.Sequence = nil; !can.PartsShareIdentity { // the whole gives the numbers
				share.Identity = catalog.NoIdentity
			}
		}
		share.Inherited, share.Comment, share.Stats = true, "", catalog.ColumnStats{}
		share.Nullable, share.NotNull = !col.ForbidsNull(), nil // there are no rows that would have to be looked at
		t.Columns = append(t.Columns, share)
	}
	called := map[string]string{}
	var names *catalog.Names
	for _, x := range whole.Indexes {
		share := x.Clone()
		if i := slices.IndexFunc(c.Shares, func(s Share) bool { return s.Of == x.Name }); i >= 0 {
			share.Name = c.Shares[i].Name
		} else {
			if names == nil {
				names = catalog.NewNames(in, 63)
			}
			share.Name = shareName(names, whole, t, x)
		}
		share.PartOf, share.Inherited, share.Definition, share.Comment, share.Pinned, share.Invalid = x.Name, true, "", "", "", false
		share.Bytes, share.Scans = nil, nil
		called[x.Name] = share.Name
		t.Indexes = append(t.Indexes, share)
	}
	key := func(k *catalog.Key) *catalog.Key {
		share := k.Clone()
		share.Name, share.Index, share.Comment = called[k.Index], called[k.Index], ""
		return share
	}
	if whole.PrimaryKey != nil {
		t.PrimaryKey = key(whole.PrimaryKey)
	}
	for _, k := range whole.UniqueKeys {
		t.UniqueKeys = append(t.UniqueKeys, key(k))
	}
	for _, f := range whole.ForeignKeys {
		share := f.Clone()
		share.Inherited, share.Comment = true, ""
		t.ForeignKeys = append(t.ForeignKeys, share)
	}
	for _, k := range whole.Checks {
		if !k.NoInherit {
			share := k.Clone()
			share.Inherited, share.Comment = true, ""
			t.Checks = append(t.Checks, share)
		}
	}
	return t
}

// shareName names a part's share in an index as the index is named after the whole.
func shareName(names *catalog.Names, whole, part *catalog.Table, x *catalog.Index) string {
	ending := strings.TrimPrefix(x.Name, whole.Name+"_")
	if i := strings.LastIndexByte(ending, '_'); i > 0 {
		return names.Free(part.Schema, cmp.Or(ending[i+1:], "idx"), part.Name, ending[:i])
	}
	return names.Free(part.Schema, ending, part.Name)
}

// inverse drops it again.
func (c AddPartition) inverse(before *catalog.Catalog) (Change, error) { return undo(c, before) }

func (c AddPartition) undone() string { return fmt.Sprintf("drop partition %s of %s", c.Name, c.Of) }
