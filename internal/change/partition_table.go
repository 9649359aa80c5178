package change

import (
	"fmt"
	"slices"

	"nexdal/internal/catalog"
)

// PartitionTable cuts a plain table up by ranges of one of its columns. Where parts are tables,
// the table that is there becomes the first part, with its rows, and a new whole takes
// its name; otherwise the engine spreads the rows.
type PartitionTable struct {
	Table catalog.Ref
	By    *catalog.PartitionKey
	Key   *catalog.Key // the primary key that holds the column; nil: it does already, or there is none
	Parts []Part       // in their order; the first takes the rows that are there
	Moved []Repointed
	// AsTables: the parts are tables.
	AsTables bool
	// Place is where the other indexes lie then, where the engine lays each by itself; empty: with
	// the table.
	Place string
}

// A Part is one part of a table that is to be cut up.
type Part struct{ Name, Bounds string }

// A Repointed foreign key of another table refers to the old key, and to the new one then.
type Repointed struct {
	Table    catalog.Ref
	Old, New *catalog.ForeignKey
}

func (c PartitionTable) On() catalog.Ref { return c.Table }
func (PartitionTable) rank() int         { return rankReference }

func (c PartitionTable) Title() string {
	return fmt.Sprintf("partition %s by %s", c.Table, c.By.Definition)
}

// Tables names the tables that come to be, and those whose foreign keys move.
func (c PartitionTable) Tables() []catalog.Ref {
	var all []catalog.Ref
	if c.AsTables {
		for _, p := range c.Parts {
			all = append(all, catalog.Ref{Schema: c.Table.Schema, Table: p.Name})
		}
	}
	for _, m := range c.Moved {
		all = append(all, m.Table)
	}
	return all
}

// First is the part that the rows which are there come to be in, where parts are
// tables: made like the whole, with what is the table's own.
func (c PartitionTable) First(in *catalog.Catalog, old *catalog.Table, can catalog.Abilities) *catalog.Table {
	t := c.part(0).Made(in, can)
	t.Storage, t.Tablespace, t.Options, t.Comment, t.Stats, t.Objects = old.Storage, old.Tablespace, old.Options, old.Comment, old.Stats, old.Objects
	for _, col := range t.Columns {
		was := old.Column(col.Name)
		col.Comment, col.Options, col.Stats = was.Comment, was.Options, was.Stats
		if was.NotNull != nil && was.NotNull.Comment != "" {
			col.NotNull = &catalog.NotNull{Comment: was.NotNull.Comment}
		}
	}
	for _, x := range t.Indexes {
		if was := old.Index(x.PartOf); was != nil {
			x.Pinned = was.Pinned
			if c.Key == nil || x.PartOf != old.PrimaryKey.Index { // which is made anew
				x.Comment = was.Comment
			}
		}
	}
	c.comments(t, old)
	return t
}

// comments stay with the table that has them.
func (c PartitionTable) comments(t, old *catalog.Table) {
	for i, k := range t.Checks {
		for _, was := range old.Checks {
			if was.Name == k.Name {
				t.Checks[i].Comment = was.Comment
			}
		}
	}
	for _, f := range t.ForeignKeys {
		for _, was := range old.ForeignKeys {
			if was.Name == f.Name {
				f.Comment = was.Comment
			}
		}
	}
	if c.Key == nil && t.PrimaryKey != nil {
		t.PrimaryKey.Comment = old.PrimaryKey.Comment
	}
	for _, k := range t.UniqueKeys {
		for _, was := range old.UniqueKeys {
			if x := t.Index(k.Index); x != nil && x.PartOf == was.Index {
				k.Comment = was.Comment
			}
		}
	}
}

// part is the change that makes one part.
func (c PartitionTable) part(i int) AddPartition {
	return AddPartition{Of: c.Table, Name: c.Parts[i].Name, Bounds: c.Parts[i].Bounds, Table: true}
}

// Rest are the changes that make the parts behind the first, where parts are tables: in a
// catalog in which the whole and the first are there.
func (c PartitionTable) Rest(in *catalog.Catalog) []AddPartition {
	names, whole := catalog.NewNames(in, 63), in.Table(c.Table)
	var all []AddPartition
	for i := range c.Parts[1:] {
		all = append(all, c.part(i+1).Named(names, whole))
	}
	return all
}

// Whole is what the table comes to be.
func (c PartitionTable) Whole(old *catalog.Table) *catalog.Table {
	t := old.Clone()
	t.Kind, t.PartitionBy, t.Storage, t.Objects = catalog.Partitioned, c.By.Clone(), "", nil
	t.Stats = catalog.TableStats{}
	for _, x := range t.Indexes {
		x.Definition, x.Bytes, x.Scans, x.Pinned = "", nil, nil, "" // the rows are in the parts
	}
	c.key(t)
	redefined(t)
	return t
}

// key lets the primary key hold the column.
func (c PartitionTable) key(t *catalog.Table) {
	if c.Key == nil {
		return
	}
	if x := t.Index(t.PrimaryKey.Index); x != nil {
		x.Parts = nil
		for _, name := range c.Key.Columns {
			x.Parts = append(x.Parts, catalog.IndexPart{Column: name})
		}
	}
	t.PrimaryKey = c.Key.Clone()
}

// Divided is what the table comes to be where its parts are no tables.
func (c PartitionTable) Divided(old *catalog.Table) *catalog.Table {
	t := old.Clone()
	t.PartitionBy = c.By.Clone()
	for _, p := range c.Parts {
		t.Partitions = append(t.Partitions, &catalog.Partition{Name: p.Name, Bounds: p.Bounds})
	}
	if c.Place != "" {
		t.Tablespace = ""
		for _, x := range t.Indexes {
			if !x.Clustered {
				x.Tablespace = c.Place
			}
		}
	}
	c.key(t)
	redefined(t)
	return t
}

// apply cuts it up.
func (c PartitionTable) apply(to *edit, can catalog.Abilities) error {
	t, err := to.table(c.Table)
	if err != nil {
		return err
	}
	if t.PartitionBy != nil || t.PartitionOf != nil {
		return fmt.Errorf("%s is cut up already, or a part itself", c.Table)
	}
	if c.AsTables != can.PartsAreTables {
		return fmt.Errorf("the partitions of %s are tables: %v, and of this engine: %v", c.Table, c.AsTables, can.PartsAreTables)
	}
	if c.Key != nil && t.PrimaryKey == nil {
		return fmt.Errorf("%s has no primary key", c.Table)
	}
	if !c.AsTables {
		*t = *c.Divided(t)
		return nil
	}
	old := t.Clone()
	*t = *c.Whole(old)
	if err := to.addTable(c.First(to.Catalog, old, can)); err != nil {
		return err
	}
	for _, p := range c.Rest(to.Catalog) {
		if err := p.apply(to, can); err != nil {
			return err
		}
	}
	for _, m := range c.Moved {
		t, err := to.table(m.Table)
		if err != nil {
			return err
		}
		i := slices.IndexFunc(t.ForeignKeys, func(f *catalog.ForeignKey) bool { return f.Name == m.Old.Name })
		if i < 0 {
			return fmt.Errorf("foreign key %s of %s does not exist", m.Old.Label(), m.Table)
		}
		t.ForeignKeys[i] = m.New.Clone()
	}
	return nil
}

// inverse makes it one table again.
func (c PartitionTable) inverse(before *catalog.Catalog) (Change, error) {
	return undo(c, before)
}

func (c PartitionTable) undone() string { return fmt.Sprintf("make %s one table again", c.Table) }
