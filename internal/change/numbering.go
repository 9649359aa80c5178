package change

import (
	"fmt"

	"nexdal/internal/catalog"
)

// SetNumbering changes how a column is numbered, and goes on where the numbers were.
type SetNumbering struct {
	Table    catalog.Ref
	Column   string
	From, To Numbering
}

// A Numbering is how the engine numbers a column.
type Numbering struct {
	Identity catalog.Identity
	Default  string            // the expression that draws from the sequence, where one does
	Schema   string            // of the sequence
	Sequence *catalog.Sequence // as it is with this numbering
}

func (c SetNumbering) On() catalog.Ref { return c.Table }
func (c SetNumbering) Title() string {
	if c.To.Sequence.Identity {
		return fmt.Sprintf("make %s of %s an identity column", c.Column, c.Table)
	}
	return fmt.Sprintf("number %s of %s from sequence %s", c.Column, c.Table, c.To.Sequence.Name)
}
func (SetNumbering) rank() int { return rankNull }

// apply sets the numbering of the column and what the sequence is.
func (c SetNumbering) apply(to *edit, _ catalog.Abilities) error {
	t, col, err := to.column(c.Table, c.Column)
	if err != nil {
		return err
	}
	q, err := to.sequence(c.From.Schema, c.From.Sequence.Name)
	if err != nil {
		return err
	}
	col.Identity, col.Default = c.To.Identity, c.To.Default
	*q = *c.Counting(q)
	redefined(t)
	return nil
}

// Counting is the sequence that it comes to, given the one that is there: how that
// counts by now, its comment and its rights stay.
func (c SetNumbering) Counting(is *catalog.Sequence) *catalog.Sequence {
	q := is.Clone()
	q.Name, q.Identity, q.OwnedBy = c.To.Sequence.Name, c.To.Sequence.Identity, c.To.Sequence.Clone().OwnedBy
	return q
}

// inverse numbers it as before.
func (c SetNumbering) inverse(*catalog.Catalog) (Change, error) {
	return SetNumbering{c.Table, c.Column, c.To, c.From}, nil
}
