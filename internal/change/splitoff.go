package change

import (
	"fmt"
	"slices"

	"nexdal/internal/catalog"
)

// SplitOff makes a table of its own, with its rows, of a part that is none.
type SplitOff struct {
	Of       catalog.Ref
	Part, To string // the part, and what the table is called
}

// JoinBack puts the rows of the table back, in a part like the one that there was.
type JoinBack struct {
	SplitOff
	Was *catalog.Partition
	// Next is the part that took the rows of its range since; empty: none did.
	Next string
}

func (c SplitOff) On() catalog.Ref { return c.Of }
func (SplitOff) rank() int         { return rankDrop }
func (c SplitOff) Title() string {
	return fmt.Sprintf("detach partition %s of %s as table %s", c.Part, c.Of, c.To)
}
func (c JoinBack) Title() string {
	return fmt.Sprintf("put the rows of %s back into partition %s of %s", c.To, c.Part, c.Of)
}

// Ref names the table.
func (c SplitOff) Ref() catalog.Ref { return catalog.Ref{Schema: c.Of.Schema, Table: c.To} }

// Tables names the table.
func (c SplitOff) Tables() []catalog.Ref { return []catalog.Ref{c.Ref()} }

// Apply makes the table.
func (c SplitOff) Apply(to *catalog.Catalog, _ catalog.Abilities) error {
	t, err := table(to, c.Of)
	if err != nil {
		return err
	}
	i := slices.IndexFunc(t.Partitions, func(p *catalog.Partition) bool { return p.Name == c.Part })
	if i < 0 || len(t.Partitions) == 1 {
		return fmt.Errorf("partition %s of %s is not there, or the only one", c.Part, c.Of)
	}
	if to.Table(c.Ref()) != nil {
		return fmt.Errorf("table %s exists", c.Ref())
	}
	alone := t.Clone()
	alone.Name, alone.PartitionBy, alone.Partitions, alone.Stats = c.To, nil, nil, catalog.TableStats{Rows: t.Partitions[i].Rows}
	alone.Triggers = nil
	t.Partitions = slices.Delete(slices.Clone(t.Partitions), i, i+1)
	s := to.Schema(c.Of.Schema)
	s.Tables = ordered(append(s.Tables, alone))
	return nil
}

// Apply takes the table away.
func (c JoinBack) Apply(to *catalog.Catalog, _ catalog.Abilities) error {
	t, err := table(to, c.Of)
	if err != nil {
		return err
	}
	gone, err := table(to, c.Ref())
	if err != nil {
		return err
	}
	at := len(t.Partitions)
	if i := slices.IndexFunc(t.Partitions, func(p *catalog.Partition) bool { return p.Name == c.Next }); i >= 0 {
		at = i
	}
	t.Partitions = slices.Insert(slices.Clone(t.Partitions), at, c.Was)
	s := to.Schema(c.Of.Schema)
	s.Tables = without(s.Tables, gone)
	return nil
}

// Reverse puts the rows back.
func (c SplitOff) Reverse(before *catalog.Catalog) (Change, error) {
	t, err := table(before, c.Of)
	if err != nil {
		return nil, err
	}
	i := slices.IndexFunc(t.Partitions, func(p *catalog.Partition) bool { return p.Name == c.Part })
	if i < 0 {
		return nil, fmt.Errorf("partition %s of %s is not there", c.Part, c.Of)
	}
	back := JoinBack{SplitOff: c, Was: t.Partitions[i]}
	if i+1 < len(t.Partitions) {
		back.Next = t.Partitions[i+1].Name
	}
	return back, nil
}

// Reverse makes the table again.
func (c JoinBack) Reverse(*catalog.Catalog) (Change, error) { return c.SplitOff, nil }
