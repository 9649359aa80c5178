package change

import (
	"fmt"
	"slices"

	"nexdal/internal/catalog"
)

// ExtractPartition makes a table of its own, with its rows, of a part that is none.
type ExtractPartition struct {
	Of       catalog.Ref
	Part, To string // the part, and what the table is called
}

func (c ExtractPartition) On() catalog.Ref { return c.Of }
func (ExtractPartition) rank() int         { return rankDrop }
func (c ExtractPartition) Title() string {
	return fmt.Sprintf("detach partition %s of %s as table %s", c.Part, c.Of, c.To)
}

// Ref names the table.
func (c ExtractPartition) Ref() catalog.Ref { return catalog.Ref{Schema: c.Of.Schema, Table: c.To} }

// Tables names the table.
func (c ExtractPartition) Tables() []catalog.Ref { return []catalog.Ref{c.Ref()} }

// apply makes the table.
func (c ExtractPartition) apply(to *edit, _ catalog.Abilities) error {
	t, err := to.table(c.Of)
	if err != nil {
		return err
	}
	i := slices.IndexFunc(t.Partitions, func(p *catalog.Partition) bool { return p.Name == c.Part })
	if i < 0 || len(t.Partitions) == 1 {
		return fmt.Errorf("partition %s of %s is not there, or the only one", c.Part, c.Of)
	}
	alone := t.Clone()
	alone.Name, alone.PartitionBy, alone.Partitions, alone.Stats = c.To, nil, nil, catalog.TableStats{Rows: t.Partitions[i].Rows}
	alone.Triggers = nil
	t.Partitions = slices.Delete(t.Partitions, i, i+1)
	return to.addTable(alone)
}

// inverse puts the rows back.
func (c ExtractPartition) inverse(before *catalog.Catalog) (Change, error) {
	t, err := table(before, c.Of)
	if err != nil {
		return nil, err
	}
	i := slices.IndexFunc(t.Partitions, func(p *catalog.Partition) bool { return p.Name == c.Part })
	if i < 0 {
		return nil, fmt.Errorf("partition %s of %s is not there", c.Part, c.Of)
	}
	return undo(c, before)
}

func (c ExtractPartition) undone() string {
	return fmt.Sprintf("put the rows of %s back into partition %s of %s", c.To, c.Part, c.Of)
}
