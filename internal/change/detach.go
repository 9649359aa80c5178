package change

import (
	"fmt"

	"nexdal/internal/catalog"
)

// DetachPartition makes a table of its own of a part that is one, with its rows.
type DetachPartition struct{ Of, Part catalog.Ref }

// AttachPartition makes it a part again.
type AttachPartition struct {
	Of     catalog.Ref
	Part   *catalog.Table // as it was
	Bounds string
}

func (c DetachPartition) On() catalog.Ref { return c.Part }
func (c AttachPartition) On() catalog.Ref { return c.Part.Ref() }
func (c DetachPartition) Title() string {
	return fmt.Sprintf("detach partition %s of %s", c.Part.Table, c.Of)
}
func (c AttachPartition) Title() string {
	return fmt.Sprintf("attach %s to %s as its partition", c.Part.Name, c.Of)
}
func (DetachPartition) rank() int { return rankDrop }
func (AttachPartition) rank() int { return rankColumn }

// Tables names both tables.
func (c DetachPartition) Tables() []catalog.Ref { return []catalog.Ref{c.Of, c.Part} }

// Tables names both tables.
func (c AttachPartition) Tables() []catalog.Ref { return []catalog.Ref{c.Of, c.Part.Ref()} }

// Apply leaves to the part what came from the whole.
func (c DetachPartition) Apply(to *catalog.Catalog, _ catalog.Abilities) error {
	t, err := table(to, c.Part)
	if err != nil {
		return err
	}
	if t.PartitionOf == nil || *t.PartitionOf != c.Of {
		return fmt.Errorf("%s is no partition of %s", c.Part, c.Of)
	}
	t.PartitionOf, t.Bounds = nil, ""
	for _, col := range t.Columns {
		col.Inherited, col.Local = false, false
	}
	for _, x := range t.Indexes {
		x.Inherited, x.PartOf = false, ""
	}
	for _, f := range t.ForeignKeys {
		f.Inherited = false
	}
	for _, k := range t.Checks {
		k.Inherited, k.Local = false, false
	}
	return nil
}

// Apply gives the part back what it was.
func (c AttachPartition) Apply(to *catalog.Catalog, _ catalog.Abilities) error {
	t, err := table(to, c.Part.Ref())
	if err != nil {
		return err
	}
	if t.PartitionOf != nil {
		return fmt.Errorf("%s is a partition already", c.Part.Ref())
	}
	stats := t.Stats
	*t = *c.Part.Clone()
	t.Stats = stats
	return nil
}

// Reverse attaches it again.
func (c DetachPartition) Reverse(before *catalog.Catalog) (Change, error) {
	t, err := table(before, c.Part)
	if err != nil {
		return nil, err
	}
	return AttachPartition{c.Of, t.Clone(), t.Bounds}, nil
}

// Reverse detaches it again.
func (c AttachPartition) Reverse(*catalog.Catalog) (Change, error) {
	return DetachPartition{c.Of, c.Part.Ref()}, nil
}
