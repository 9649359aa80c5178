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

// JoinSequence lets the column draw from the shared sequence again.
type JoinSequence SplitSequence

func (c SplitSequence) On() catalog.Ref { return c.Table }
func (c JoinSequence) On() catalog.Ref  { return c.Table }
func (c SplitSequence) Title() string {
	return fmt.Sprintf("number %s of %s from a sequence of its own, %s", c.Column, c.Table, c.Own.Name)
}
func (c JoinSequence) Title() string {
	return fmt.Sprintf("number %s of %s from sequence %s again", c.Column, c.Table, c.Shared.Table)
}
func (SplitSequence) rank() int { return rankAnew } // before one of the columns takes the shared one over
func (JoinSequence) rank() int  { return rankNull }

// Apply makes the sequence, which belongs to the column.
func (c SplitSequence) Apply(to *catalog.Catalog, _ catalog.Abilities) error {
	t, col, err := column(to, c.Table, c.Column)
	if err != nil {
		return err
	}
	shared, err := sequence(to, c.Shared.Schema, c.Shared.Table)
	if err != nil {
		return err
	}
	if _, err := sequence(to, c.Shared.Schema, c.Own.Name); err == nil {
		return fmt.Errorf("sequence %s.%s exists", c.Shared.Schema, c.Own.Name)
	}
	at := catalog.ColumnRef{Schema: t.Schema, Table: t.Name, Column: c.Column}
	own := *c.Own
	own.OwnedBy, own.Feeds = &at, []catalog.Draw{{ColumnRef: at, How: "default"}}
	s := to.Schema(c.Shared.Schema)
	s.Sequences = append(s.Sequences, &own)
	shared.Feeds = slices.DeleteFunc(slices.Clone(shared.Feeds), func(d catalog.Draw) bool { return d.ColumnRef == at })
	col.Default, col.Sequence = c.To, &catalog.Ref{Schema: c.Shared.Schema, Table: own.Name}
	return nil
}

// Apply takes the sequence away.
func (c JoinSequence) Apply(to *catalog.Catalog, _ catalog.Abilities) error {
	t, col, err := column(to, c.Table, c.Column)
	if err != nil {
		return err
	}
	shared, err := sequence(to, c.Shared.Schema, c.Shared.Table)
	if err != nil {
		return err
	}
	own, err := sequence(to, c.Shared.Schema, c.Own.Name)
	if err != nil {
		return err
	}
	s := to.Schema(c.Shared.Schema)
	s.Sequences = without(s.Sequences, own)
	shared.Feeds = append(slices.Clone(shared.Feeds), catalog.Draw{ColumnRef: catalog.ColumnRef{Schema: t.Schema, Table: t.Name, Column: c.Column}, How: "default"})
	from := c.Shared
	col.Default, col.Sequence = c.From, &from
	return nil
}

// Reverse joins it again.
func (c SplitSequence) Reverse(*catalog.Catalog) (Change, error) { return JoinSequence(c), nil }

// Reverse splits it again.
func (c JoinSequence) Reverse(*catalog.Catalog) (Change, error) { return SplitSequence(c), nil }
