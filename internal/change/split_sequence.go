package change

import (
	"fmt"
	"slices"

	"nexdal/internal/catalog"
)

// SplitSequence gives a column, which draws from a sequence that others draw from too,
// one of its own; it goes on past what was handed out.
type SplitSequence struct {
	Table    catalog.Ref
	Column   string
	Shared   catalog.Ref       // the sequence that it leaves to the others
	Own      *catalog.Sequence // the new one, in the same schema
	From, To string            // the column's default before and after
}

func (c SplitSequence) On() catalog.Ref { return c.Table }
func (c SplitSequence) Title() string {
	return fmt.Sprintf("number %s of %s from a sequence of its own, %s", c.Column, c.Table, c.Own.Name)
}
func (SplitSequence) rank() int { return rankEarly } // before one of the columns takes the shared one over

// apply makes the sequence, which belongs to the column where the engine has it so.
func (c SplitSequence) apply(to *edit, can catalog.Abilities) error {
	t, col, err := to.column(c.Table, c.Column)
	if err != nil {
		return err
	}
	shared, err := to.sequence(c.Shared.Schema, c.Shared.Table)
	if err != nil {
		return err
	}
	at := catalog.ColumnRef{Schema: t.Schema, Table: t.Name, Column: c.Column}
	own := *c.Own
	own.OwnedBy, own.UsedBy = nil, []catalog.SequenceUse{{ColumnRef: at, How: "default"}}
	if can.OwnedSequences {
		own.OwnedBy = &at
	}
	if err := to.addSequence(c.Shared.Schema, &own); err != nil {
		return err
	}
	shared.UsedBy = slices.DeleteFunc(slices.Clone(shared.UsedBy), func(d catalog.SequenceUse) bool { return d.ColumnRef == at })
	col.Sequence = &catalog.Ref{Schema: c.Shared.Schema, Table: own.Name}
	return SetDefault{Table: c.Table, Column: c.Column, From: c.From, To: c.To, Name: col.DefaultName}.apply(to, can)
}

// inverse joins it again.
func (c SplitSequence) inverse(before *catalog.Catalog) (Change, error) { return undo(c, before) }

func (c SplitSequence) undone() string {
	return fmt.Sprintf("number %s of %s from sequence %s again", c.Column, c.Table, c.Shared.Table)
}
