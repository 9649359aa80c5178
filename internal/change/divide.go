package change

import (
	"fmt"
	"slices"

	"nexdal/internal/catalog"
)

// Divide cuts a plain table up by ranges of one of its columns. Where parts are tables,
// the table that is there becomes the first part, with its rows, and a new whole takes
// its name; otherwise the engine spreads the rows.
type Divide struct {
	Table catalog.Ref
	By    *catalog.PartitionKey
	Key   *catalog.Key // the primary key that holds the column; nil: it does already, or there is none
	Parts []Part       // in their order; the first takes the rows that are there
	Moved []Moved
}

// A Part is one part of a table that is to be cut up.
type Part struct{ Name, Bounds string }

// A Moved foreign key of another table refers to the old key, and to the new one then.
type Moved struct {
	Table    catalog.Ref
	Old, New *catalog.ForeignKey
}

// Undivide makes it one table again, with the rows of all parts.
type Undivide struct {
	Divide
	Was *catalog.Table
}

func (c Divide) On() catalog.Ref { return c.Table }
func (Divide) rank() int         { return rankReference }

func (c Divide) Title() string {
	return fmt.Sprintf("cut %s up by %s", c.Table, c.By.Definition)
}

func (c Undivide) Title() string { return fmt.Sprintf("make %s one table again", c.Table) }

// Tables names the tables that come to be, and those whose foreign keys move.
func (c Divide) Tables() []catalog.Ref {
	var all []catalog.Ref
	if slices.ContainsFunc(c.Parts, func(p Part) bool { return p.Name != "" }) {
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
func (c Divide) First(in *catalog.Catalog, old *catalog.Table) *catalog.Table {
	t := c.part(0).Made(in)
	t.Storage, t.Tablespace, t.Options, t.Comment, t.Stats, t.Objects = old.Storage, old.Tablespace, old.Options, old.Comment, old.Stats, old.Objects
	for _, col := range t.Columns {
		was := old.Column(col.Name)
		col.Comment, col.Options, col.Stats = was.Comment, was.Options, was.Stats
	}
	return t
}

// part is the change that makes one part.
func (c Divide) part(i int) AddPartition {
	return AddPartition{Of: c.Table, Name: c.Parts[i].Name, Bounds: c.Parts[i].Bounds, Table: true}
}

// Rest are the changes that make the parts behind the first, where parts are tables: in a
// catalog in which the whole and the first are there.
func (c Divide) Rest(in *catalog.Catalog) []AddPartition {
	names, whole := catalog.NewNames(in, 63), in.Table(c.Table)
	var all []AddPartition
	for i := range c.Parts[1:] {
		all = append(all, c.part(i+1).Named(names, whole))
	}
	return all
}

// Whole is what the table comes to be.
func (c Divide) Whole(old *catalog.Table) *catalog.Table {
	t := old.Clone()
	t.Kind, t.PartitionBy, t.Storage, t.Objects = catalog.Partitioned, c.By, "", nil
	t.Stats = catalog.TableStats{}
	for _, x := range t.Indexes {
		x.Definition, x.Bytes, x.Scans = "", nil, nil
	}
	c.key(t)
	redefined(t)
	return t
}

// key lets the primary key hold the column.
func (c Divide) key(t *catalog.Table) {
	if c.Key == nil {
		return
	}
	if x := t.Index(t.PrimaryKey.Index); x != nil {
		x.Parts = nil
		for _, name := range c.Key.Columns {
			x.Parts = append(x.Parts, catalog.IndexPart{Column: name})
		}
	}
	k := *c.Key
	t.PrimaryKey = &k
}

// Apply cuts it up.
func (c Divide) Apply(to *catalog.Catalog, can catalog.Abilities) error {
	t, err := table(to, c.Table)
	if err != nil {
		return err
	}
	if t.PartitionBy != nil || t.PartitionOf != nil {
		return fmt.Errorf("%s is cut up already, or a part itself", c.Table)
	}
	if !can.PartsAreTables {
		t.PartitionBy = c.By
		for _, p := range c.Parts {
			t.Partitions = append(t.Partitions, &catalog.Partition{Name: p.Name, Bounds: p.Bounds})
		}
		c.key(t)
		redefined(t)
		return nil
	}
	s := to.Schema(c.Table.Schema)
	for _, p := range c.Parts {
		if to.Table(catalog.Ref{Schema: s.Name, Table: p.Name}) != nil {
			return fmt.Errorf("table %s.%s exists", s.Name, p.Name)
		}
	}
	old := t.Clone()
	*t = *c.Whole(old)
	s.Tables = ordered(append(s.Tables, c.First(to, old)))
	for _, p := range c.Rest(to) {
		if err := p.Apply(to, can); err != nil {
			return err
		}
	}
	return c.move(to, func(m Moved) (*catalog.ForeignKey, *catalog.ForeignKey) { return m.Old, m.New })
}

// move lets the foreign keys of others refer otherwise.
func (c Divide) move(in *catalog.Catalog, which func(Moved) (from, to *catalog.ForeignKey)) error {
	for _, m := range c.Moved {
		t, err := table(in, m.Table)
		if err != nil {
			return err
		}
		from, to := which(m)
		i := slices.IndexFunc(t.ForeignKeys, func(f *catalog.ForeignKey) bool { return f.Name == from.Name })
		if i < 0 {
			return fmt.Errorf("foreign key %s of %s does not exist", from.Label(), m.Table)
		}
		t.ForeignKeys[i] = to.Clone()
	}
	return nil
}

// Apply makes it one table.
func (c Undivide) Apply(to *catalog.Catalog, can catalog.Abilities) error {
	t, err := table(to, c.Table)
	if err != nil {
		return err
	}
	if can.PartsAreTables {
		s := to.Schema(c.Table.Schema)
		for _, p := range c.Parts {
			part, err := table(to, catalog.Ref{Schema: s.Name, Table: p.Name})
			if err != nil {
				return err
			}
			s.Tables = without(s.Tables, part)
		}
	}
	*t = *c.Was.Clone()
	redefined(t)
	if !can.PartsAreTables {
		return nil
	}
	return c.move(to, func(m Moved) (*catalog.ForeignKey, *catalog.ForeignKey) { return m.New, m.Old })
}

// Reverse makes it one table again.
func (c Divide) Reverse(before *catalog.Catalog) (Change, error) {
	t, err := table(before, c.Table)
	if err != nil {
		return nil, err
	}
	return Undivide{c, t.Clone()}, nil
}

// Reverse cuts it up again.
func (c Undivide) Reverse(*catalog.Catalog) (Change, error) { return c.Divide, nil }
