package change

import (
	"fmt"

	"nexdal/internal/catalog"
)

// MakeIdentity makes an identity of a column that a trigger numbers from a sequence,
// and does nothing else; trigger and sequence go.
type MakeIdentity struct {
	Table    catalog.Ref
	Column   string
	Trigger  *catalog.Trigger
	Schema   string            // of the sequence
	Sequence *catalog.Sequence // that the trigger draws from, and nothing else
}

func (c MakeIdentity) On() catalog.Ref { return c.Table }
func (c MakeIdentity) Title() string {
	return fmt.Sprintf("make %s of %s an identity column, without trigger %s and sequence %s", c.Column, c.Table, c.Trigger.Name, c.Sequence.Name)
}
func (MakeIdentity) rank() int { return rankNull }

// apply sets the identity, whose own sequence the engine names.
func (c MakeIdentity) apply(to *edit, _ catalog.Abilities) error {
	t, col, err := to.column(c.Table, c.Column)
	if err != nil {
		return err
	}
	if err := loseTrigger(t, c.Trigger); err != nil {
		return err
	}
	if err := to.dropSequence(c.Schema, c.Sequence.Name); err != nil {
		return err
	}
	col.Identity, col.Sequence = catalog.IdentityByDefault, nil
	return nil
}

// inverse gives trigger and sequence back.
func (c MakeIdentity) inverse(before *catalog.Catalog) (Change, error) { return undo(c, before) }

func (c MakeIdentity) undone() string {
	return fmt.Sprintf("number %s of %s by trigger %s from sequence %s again", c.Column, c.Table, c.Trigger.Name, c.Sequence.Name)
}
