package change

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
)

// AlterSequence lets a sequence count otherwise, or belong to another column. What is
// alike in Old and New stays as it is, whatever it is: several of them may alter
// one sequence.
type AlterSequence struct {
	Schema   string
	Of       catalog.Ref // the table that it numbers; empty: none is concerned
	Old, New *catalog.Sequence
}

// Alter returns the change that edit makes to a copy of the sequence.
func Alter(schema string, q *catalog.Sequence, of catalog.Ref, edit func(*catalog.Sequence)) AlterSequence {
	altered := q.Clone()
	edit(altered)
	return AlterSequence{schema, of, q, altered}
}

// AdvanceSequence makes a sequence go on past the largest number that its column
// holds. Figures alone change, no structure.
type AdvanceSequence struct {
	Schema, Sequence string // empty: the column counts by itself
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

func (c AlterSequence) On() catalog.Ref   { return c.Of }
func (c AdvanceSequence) On() catalog.Ref { return c.Table }
func (c NoReversal) On() catalog.Ref      { return c.Table }

func (c AlterSequence) Title() string {
	var what []string
	switch old, n := c.Old, c.New; {
	case old.Start != n.Start || old.Increment != n.Increment || old.Least != n.Least:
		what = append(what, fmt.Sprintf("alter sequence %s.%s: start %d, increment %d, from %d to %d", c.Schema, n.Name, n.Start, n.Increment, n.Least, n.Most))
	case old.Most != n.Most || old.Type != n.Type:
		what = append(what, fmt.Sprintf("set the maximum of sequence %s to %d", c.name(), n.Most))
	}
	if c.Old.Cycle != c.New.Cycle {
		what = append(what, fmt.Sprintf("let sequence %s %scycle", c.name(), map[bool]string{false: "not "}[c.New.Cycle]))
	}
	if from, to := c.Old.OwnedBy, c.New.OwnedBy; !alike(from, to) {
		owner := "no column"
		if to != nil {
			owner = fmt.Sprintf("%s of %s", to.Column, to.Ref())
		}
		what = append(what, fmt.Sprintf("let sequence %s be owned by %s", c.New.Name, owner))
	}
	if what == nil {
		return fmt.Sprintf("alter sequence %s.%s", c.Schema, c.New.Name)
	}
	return strings.Join(what, "; ")
}

// name is the sequence's, with the table that it numbers.
func (c AlterSequence) name() string {
	if c.Of == (catalog.Ref{}) {
		return c.Schema + "." + c.New.Name
	}
	return fmt.Sprintf("%s of %s", c.New.Name, c.Of)
}

func (c AdvanceSequence) Title() string {
	if c.Sequence == "" {
		return fmt.Sprintf("advance the next number of %s.%s past the largest", c.Table, c.Column)
	}
	return fmt.Sprintf("advance sequence %s past the largest %s of %s", c.Sequence, c.Column, c.Table)
}

func (c NoReversal) Title() string { return c.Why }

func (AlterSequence) rank() int   { return rankType } // before a column takes it over
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

// apply sets what differs.
func (c AlterSequence) apply(to *edit, _ catalog.Abilities) error {
	q, err := to.sequence(c.Schema, c.New.Name)
	if err != nil {
		return err
	}
	old, n := c.Old, c.New.Clone()
	set(&q.Type, old.Type, n.Type)
	set(&q.Start, old.Start, n.Start)
	set(&q.Increment, old.Increment, n.Increment)
	set(&q.Least, old.Least, n.Least)
	set(&q.Most, old.Most, n.Most)
	set(&q.Cache, old.Cache, n.Cache)
	set(&q.Cycle, old.Cycle, n.Cycle)
	set(&q.Comment, old.Comment, n.Comment)
	if !alike(old.OwnedBy, n.OwnedBy) {
		q.OwnedBy = n.OwnedBy
	}
	return nil
}

// set gives the value that changes from one to another.
func set[T comparable](value *T, from, to T) {
	if from != to {
		*value = to
	}
}

// alike reports whether both are unset, or hold the same.
func alike[T comparable](a, b *T) bool { return a == b || a != nil && b != nil && *a == *b }

// apply leaves the model as it is.
func (c AdvanceSequence) apply(to *edit, _ catalog.Abilities) error {
	if c.Sequence == "" {
		_, col, err := column(to.Catalog, c.Table, c.Column)
		if err == nil && col.Identity == catalog.NoIdentity {
			err = fmt.Errorf("column %s of %s is not numbered", c.Column, c.Table)
		}
		return err
	}
	_, err := sequence(to.Catalog, c.Schema, c.Sequence)
	return err
}

// apply does nothing.
func (NoReversal) apply(*edit, catalog.Abilities) error { return nil }

// inverse sets back what differs; the engine refuses that once numbers beyond were given
// out.
func (c AlterSequence) inverse(*catalog.Catalog) (Change, error) {
	return AlterSequence{c.Schema, c.Of, c.New, c.Old}, nil
}

// inverse does nothing: the sequence would hand out numbers that are in use.
func (c AdvanceSequence) inverse(*catalog.Catalog) (Change, error) {
	return NoReversal{c.Table, "the sequence stays where it is"}, nil
}

// inverse does nothing either.
func (c NoReversal) inverse(*catalog.Catalog) (Change, error) { return c, nil }
