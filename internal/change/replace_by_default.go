package change

import (
	"fmt"

	"nexdal/internal/catalog"
)

// ReplaceByDefault gives a column by its default what a trigger gives it, which does nothing else,
// in the place of a null that is given as well; the trigger goes. A sequence that numbers the column
// goes on past the largest number that is there.
type ReplaceByDefault struct {
	Table    catalog.Ref
	Column   string
	Trigger  *catalog.Trigger
	Sequence catalog.Ref // what the column is numbered from, if it is
	Default  string      // in the engine's words
}

func (c ReplaceByDefault) On() catalog.Ref { return c.Table }
func (c ReplaceByDefault) Title() string {
	if !c.numbers() {
		return fmt.Sprintf("set %s of %s by its default, without trigger %s", c.Column, c.Table, c.Trigger.Name)
	}
	return fmt.Sprintf("number %s of %s from sequence %s by its default, without trigger %s", c.Column, c.Table, c.Sequence.Table, c.Trigger.Name)
}
func (ReplaceByDefault) rank() int { return rankNull }

// numbers reports whether a sequence numbers the column.
func (c ReplaceByDefault) numbers() bool { return c.Sequence.Table != "" }

// onNull says of a default that it takes the place of a null that is given.
const onNull = "default on null"

// apply sets the default and drops the trigger.
func (c ReplaceByDefault) apply(to *edit, _ catalog.Abilities) error {
	t, col, err := to.column(c.Table, c.Column)
	if err != nil {
		return err
	}
	if err := loseTrigger(t, c.Trigger); err != nil {
		return err
	}
	col.Default = c.Default
	col.Options = append([]string{onNull}, col.Options...)
	if c.numbers() {
		q, err := to.sequence(c.Sequence.Schema, c.Sequence.Table)
		if err != nil {
			return err
		}
		at := c.Sequence
		col.Identity, col.Sequence = catalog.IdentitySequence, &at
		for i, u := range q.UsedBy {
			if u.Ref() == c.Table && u.Column == c.Column {
				q.UsedBy[i].How, q.UsedBy[i].Alone = "default", false
			}
		}
	}
	redefined(t)
	return nil
}

// inverse gives the trigger back.
func (c ReplaceByDefault) inverse(before *catalog.Catalog) (Change, error) { return undo(c, before) }

func (c ReplaceByDefault) undone() string {
	if !c.numbers() {
		return fmt.Sprintf("set %s of %s by trigger %s again", c.Column, c.Table, c.Trigger.Name)
	}
	return fmt.Sprintf("number %s of %s by trigger %s from sequence %s again", c.Column, c.Table, c.Trigger.Name, c.Sequence.Table)
}
