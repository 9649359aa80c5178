package change

import (
	"fmt"
	"slices"

	"nexdal/internal/catalog"
)

// DetachPartition makes a table of its own of a part that is one, with its rows.
type DetachPartition struct{ Of, Part catalog.Ref }

func (c DetachPartition) On() catalog.Ref { return c.Part }
func (c DetachPartition) Title() string {
	return fmt.Sprintf("detach partition %s of %s", c.Part.Table, c.Of)
}
func (DetachPartition) rank() int { return rankDrop }

// Tables names both tables.
func (c DetachPartition) Tables() []catalog.Ref { return []catalog.Ref{c.Of, c.Part} }

// apply leaves to the part what came from the whole.
func (c DetachPartition) apply(to *edit, can catalog.Abilities) error {
	t, err := to.table(c.Part)
	if err != nil {
		return err
	}
	if t.PartitionOf == nil || *t.PartitionOf != c.Of {
		return fmt.Errorf("%s is no partition of %s", c.Part, c.Of)
	}
	lookup := to.Lookup()
	names := lookup.NotNullNames(t, can)
	t.PartitionOf, t.Bounds = nil, ""
	lookup.NameNotNull(t, names, can)
	for _, col := range t.Columns {
		if can.PartsShareIdentity && col.Sequence == nil && (col.Identity == catalog.IdentityAlways || col.Identity == catalog.IdentityByDefault) {
			col.Identity = catalog.NoIdentity // it was the whole's
		}
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
	t.Triggers = slices.DeleteFunc(t.Triggers, func(g *catalog.Trigger) bool { return g.Inherited }) // they are the whole's
	return nil
}

// inverse attaches it again.
func (c DetachPartition) inverse(before *catalog.Catalog) (Change, error) {
	return undo(c, before)
}

func (c DetachPartition) undone() string {
	return fmt.Sprintf("attach %s to %s as its partition", c.Part.Table, c.Of)
}
