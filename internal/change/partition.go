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

// DropPartition takes away a part that AddPartition made, unless it holds rows by then.
type DropPartition AddPartition

func (c AddPartition) On() catalog.Ref  { return c.Of }
func (c DropPartition) On() catalog.Ref { return c.Of }

// Ref names the table that the part is.
func (c AddPartition) Ref() catalog.Ref { return catalog.Ref{Schema: c.Of.Schema, Table: c.Name} }

// Tables names the table that the part is, if it is one.
func (c AddPartition) Tables() []catalog.Ref {
	if !c.Table {
		return nil
	}
	return []catalog.Ref{c.Ref()}
}

// Tables names the table that the part is, if it is one.
func (c DropPartition) Tables() []catalog.Ref { return AddPartition(c).Tables() }

func (c AddPartition) Title() string { return fmt.Sprintf("add partition %s to %s", c.Name, c.Of) }
func (c DropPartition) Title() string {
	return fmt.Sprintf("drop partition %s of %s", c.Name, c.Of)
}

func (AddPartition) rank() int  { return rankLast } // alike the whole as it has come to be
func (DropPartition) rank() int { return rankFirst }

// Apply adds it.
func (c AddPartition) Apply(to *catalog.Catalog, _ catalog.Abilities) error {
	t, err := table(to, c.Of)
	if err != nil {
		return err
	}
	if c.Table {
		s := to.Schema(c.Of.Schema) // whose tables are in order: there may be thousands of parts
		at, there := slices.BinarySearchFunc(s.Tables, c.Name, func(t *catalog.Table, name string) int { return strings.Compare(t.Name, name) })
		if there {
			return fmt.Errorf("table %s exists", c.Ref())
		}
		s.Tables = slices.Insert(s.Tables, at, c.Made(to))
		return nil
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
	t.Partitions = slices.Insert(slices.Clone(t.Partitions), at, part)
	return nil
}

// Made is the table that the part comes to be, with all that comes from the whole.
func (c AddPartition) Made(in *catalog.Catalog) *catalog.Table {
	whole := in.Table(c.Of)
	of := c.Of
	t := &catalog.Table{Schema: of.Schema, Name: c.Name, Kind: catalog.Ordinary, PartitionOf: &of, Bounds: c.Bounds, Tablespace: whole.Tablespace}
	if like := in.Table(catalog.Ref{Schema: of.Schema, Table: c.Like}); like != nil {
		t.Storage, t.Tablespace, t.Options = like.Storage, like.Tablespace, slices.Clone(like.Options)
	}
	for _, col := range whole.Columns {
		share := *col
		if share.Identity == catalog.IdentityAlways || share.Identity == catalog.IdentityByDefault {
			share.Identity, share.Sequence = catalog.NoIdentity, nil // the whole gives the numbers
		}
		share.Inherited, share.Comment, share.Stats, share.Options = true, "", catalog.ColumnStats{}, slices.Clone(col.Options)
		t.Columns = append(t.Columns, &share)
	}
	called := map[string]string{}
	var names *catalog.Names
	for _, x := range whole.Indexes {
		share := *x
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
		t.Indexes = append(t.Indexes, &share)
	}
	key := func(k *catalog.Key) *catalog.Key {
		share := *k
		share.Name, share.Index, share.Comment = called[k.Index], called[k.Index], ""
		return &share
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
			share := *k
			share.Inherited, share.Comment = true, ""
			t.Checks = append(t.Checks, &share)
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

// Apply removes it.
func (c DropPartition) Apply(to *catalog.Catalog, _ catalog.Abilities) error {
	t, err := table(to, c.Of)
	if err != nil {
		return err
	}
	if c.Table {
		part, err := table(to, AddPartition(c).Ref())
		if err == nil {
			s := to.Schema(c.Of.Schema)
			s.Tables = without(s.Tables, part)
		}
		return err
	}
	i := slices.IndexFunc(t.Partitions, func(p *catalog.Partition) bool { return p.Name == c.Name })
	if i < 0 {
		return fmt.Errorf("partition %s of %s does not exist", c.Name, c.Of)
	}
	t.Partitions = slices.Delete(slices.Clone(t.Partitions), i, i+1)
	return nil
}

// Reverse drops it again.
func (c AddPartition) Reverse(*catalog.Catalog) (Change, error) { return DropPartition(c), nil }

// Reverse adds it again.
func (c DropPartition) Reverse(*catalog.Catalog) (Change, error) { return AddPartition(c), nil }
