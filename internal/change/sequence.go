package change

import (
	"fmt"
	"slices"

	"nexdal/internal/catalog"
)

// SetCycle says whether a sequence may start again.
type SetCycle struct {
	Schema, Name string
	Of           catalog.Ref // the table that it numbers
	Cycle        bool
}

// OwnSequence says which column a sequence belongs to.
type OwnSequence struct {
	Schema, Name string
	Of           catalog.Ref // the table that it numbers
	By           *catalog.ColumnRef
}

// AdvanceSequence makes a sequence go on past the largest number that its column
// holds. Figures alone change, no structure.
type AdvanceSequence struct {
	Schema, Sequence string
	Table            catalog.Ref
	Column           string
}

// DropSequence takes a sequence away that numbers no column.
type DropSequence struct {
	Schema   string
	Sequence *catalog.Sequence
}

// CreateSequence makes one, which begins at its start or goes on where it was.
type CreateSequence struct {
	Schema   string
	Sequence *catalog.Sequence
}

func (DropSequence) On() catalog.Ref   { return catalog.Ref{} }
func (CreateSequence) On() catalog.Ref { return catalog.Ref{} }
func (c DropSequence) Title() string {
	return fmt.Sprintf("drop sequence %s.%s", c.Schema, c.Sequence.Name)
}
func (c CreateSequence) Title() string {
	return fmt.Sprintf("create sequence %s.%s", c.Schema, c.Sequence.Name)
}
func (DropSequence) rank() int   { return rankDrop }
func (CreateSequence) rank() int { return rankType }

// apply removes it.
func (c DropSequence) apply(to *edit, _ catalog.Abilities) error {
	return to.dropSequence(c.Schema, c.Sequence.Name)
}

// apply adds it.
func (c CreateSequence) apply(to *edit, _ catalog.Abilities) error {
	return to.addSequence(c.Schema, c.Sequence)
}

// inverse makes it again.
func (c DropSequence) inverse(before *catalog.Catalog) (Change, error) {
	q, err := sequence(before, c.Schema, c.Sequence.Name)
	if err != nil {
		return nil, err
	}
	return CreateSequence{c.Schema, q}, nil
}

// inverse drops it.
func (c CreateSequence) inverse(*catalog.Catalog) (Change, error) { return DropSequence(c), nil }

// NoReversal is the reverse of a change that needs no way back, or has none.
type NoReversal struct {
	Table catalog.Ref
	Why   string
}

func (c SetCycle) On() catalog.Ref        { return c.Of }
func (c OwnSequence) On() catalog.Ref     { return c.Of }
func (c AdvanceSequence) On() catalog.Ref { return c.Table }
func (c NoReversal) On() catalog.Ref      { return c.Table }

func (c SetCycle) Title() string {
	if c.Cycle {
		return fmt.Sprintf("let sequence %s of %s cycle", c.Name, c.Of)
	}
	return fmt.Sprintf("let sequence %s of %s not cycle", c.Name, c.Of)
}

func (c OwnSequence) Title() string {
	if c.By == nil {
		return fmt.Sprintf("let sequence %s be owned by no column", c.Name)
	}
	return fmt.Sprintf("let sequence %s be owned by %s of %s", c.Name, c.By.Column, c.By.Ref())
}

func (c AdvanceSequence) Title() string {
	return fmt.Sprintf("advance sequence %s past the largest %s of %s", c.Sequence, c.Column, c.Table)
}

func (c NoReversal) Title() string { return c.Why }

func (SetCycle) rank() int        { return rankType }
func (OwnSequence) rank() int     { return rankType } // before the column takes it over
func (AdvanceSequence) rank() int { return rankSetting }
func (NoReversal) rank() int      { return rankSetting }

// sequence finds a sequence or says that it is gone.
func sequence(c *catalog.Catalog, schema, name string) (*catalog.Sequence, error) {
	if s := c.Schema(schema); s != nil {
		if i := slices.IndexFunc(s.Sequences, func(q *catalog.Sequence) bool { return q.Name == name }); i >= 0 {
			return s.Sequences[i], nil
		}
	}
	return nil, fmt.Errorf("sequence %s.%s does not exist", schema, name)
}

// apply sets it.
func (c SetCycle) apply(to *edit, _ catalog.Abilities) error {
	q, err := to.sequence(c.Schema, c.Name)
	if err == nil {
		q.Cycle = c.Cycle
	}
	return err
}

// apply sets it.
func (c OwnSequence) apply(to *edit, _ catalog.Abilities) error {
	q, err := to.sequence(c.Schema, c.Name)
	if err != nil {
		return err
	}
	if q.OwnedBy = nil; c.By != nil {
		by := *c.By
		q.OwnedBy = &by
	}
	return nil
}

// apply leaves the model as it is.
func (c AdvanceSequence) apply(to *edit, _ catalog.Abilities) error {
	_, err := sequence(to.Catalog, c.Schema, c.Sequence)
	return err
}

// apply does nothing.
func (NoReversal) apply(*edit, catalog.Abilities) error { return nil }

// inverse sets it back.
func (c SetCycle) inverse(before *catalog.Catalog) (Change, error) {
	q, err := sequence(before, c.Schema, c.Name)
	if err != nil {
		return nil, err
	}
	return SetCycle{c.Schema, c.Name, c.Of, q.Cycle}, nil
}

// inverse sets it back.
func (c OwnSequence) inverse(before *catalog.Catalog) (Change, error) {
	q, err := sequence(before, c.Schema, c.Name)
	if err != nil {
		return nil, err
	}
	return OwnSequence{c.Schema, c.Name, c.Of, q.OwnedBy}, nil
}

// inverse does nothing: the sequence would hand out numbers that are in use.
func (c AdvanceSequence) inverse(*catalog.Catalog) (Change, error) {
	return NoReversal{c.Table, "the sequence stays where it is"}, nil
}

// inverse does nothing either.
func (c NoReversal) inverse(*catalog.Catalog) (Change, error) { return c, nil }

// SetRange says how far a sequence counts, and in which type, where the engine has
// sequences of several.
type SetRange struct {
	Schema, Name     string
	Of               catalog.Ref // the table that it numbers
	FromType, ToType string
	FromMost, ToMost int64
}

func (c SetRange) On() catalog.Ref { return c.Of }
func (c SetRange) Title() string {
	return fmt.Sprintf("set the maximum of sequence %s of %s to %d", c.Name, c.Of, c.ToMost)
}
func (SetRange) rank() int { return rankType }

// apply sets it.
func (c SetRange) apply(to *edit, _ catalog.Abilities) error {
	q, err := to.sequence(c.Schema, c.Name)
	if err == nil {
		q.Type, q.Most = c.ToType, c.ToMost
	}
	return err
}

// inverse sets it back; the engine refuses that once numbers beyond were given out.
func (c SetRange) inverse(*catalog.Catalog) (Change, error) {
	return SetRange{c.Schema, c.Name, c.Of, c.ToType, c.FromType, c.ToMost, c.FromMost}, nil
}
