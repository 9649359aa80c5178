package change

import (
	"fmt"

	"nexdal/internal/catalog"
)

// NumberByDefault lets the default of a column draw from the sequence that a trigger numbers it
// from, and does nothing else; the trigger goes. The sequence goes on past the largest number that is
// there, and a null that is given is numbered as well, as the trigger did.
type NumberByDefault struct {
	Table    catalog.Ref
	Column   string
	Trigger  *catalog.Trigger
	Sequence catalog.Ref
	Default  string // what draws from the sequence, in the engine's words
}

func (c NumberByDefault) On() catalog.Ref { return c.Table }
func (c NumberByDefault) Title() string {
	return fmt.Sprintf("number %s of %s from sequence %s by its default, without trigger %s", c.Column, c.Table, c.Sequence.Table, c.Trigger.Name)
}
func (NumberByDefault) rank() int { return rankNull }

// onNull says of a default that it takes the place of a null that is given.
const onNull = "default on null"

// apply sets the default and drops the trigger.
func (c NumberByDefault) apply(to *edit, _ catalog.Abilities) error {
	t, col, err := to.column(c.Table, c.Column)
	if err != nil {
		return err
	}
	if err := loseTrigger(t, c.Trigger); err != nil {
		return err
	}
	q, err := to.sequence(c.Sequence.Schema, c.Sequence.Table)
	if err != nil {
		return err
	}
	at := c.Sequence
	col.Identity, col.Sequence, col.Default = catalog.IdentitySequence, &at, c.Default
	col.Options = append([]string{onNull}, col.Options...)
	for i, u := range q.UsedBy {
		if u.Ref() == c.Table && u.Column == c.Column {
			q.UsedBy[i].How, q.UsedBy[i].Alone = "default", false
		}
	}
	redefined(t)
	return nil
}

// inverse gives the trigger back.
func (c NumberByDefault) inverse(before *catalog.Catalog) (Change, error) { return undo(c, before) }

func (c NumberByDefault) undone() string {
	return fmt.Sprintf("number %s of %s by trigger %s from sequence %s again", c.Column, c.Table, c.Trigger.Name, c.Sequence.Table)
}
