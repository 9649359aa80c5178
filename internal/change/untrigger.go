package change

import (
	"fmt"
	"slices"

	"nexdal/internal/catalog"
)

// NumberItself makes an identity of a column that a trigger numbers from a sequence,
// and does nothing else; trigger and sequence go.
type NumberItself struct {
	Table    catalog.Ref
	Column   string
	Trigger  *catalog.Trigger
	Schema   string            // of the sequence
	Sequence *catalog.Sequence // that the trigger draws from, and nothing else
}

// NumberByTrigger is the way back.
type NumberByTrigger NumberItself

func (c NumberItself) On() catalog.Ref    { return c.Table }
func (c NumberByTrigger) On() catalog.Ref { return c.Table }
func (c NumberItself) Title() string {
	return fmt.Sprintf("let %s of %s number itself, without trigger %s and sequence %s", c.Column, c.Table, c.Trigger.Name, c.Sequence.Name)
}
func (c NumberByTrigger) Title() string {
	return fmt.Sprintf("number %s of %s by trigger %s from sequence %s again", c.Column, c.Table, c.Trigger.Name, c.Sequence.Name)
}
func (NumberItself) rank() int    { return rankNull }
func (NumberByTrigger) rank() int { return rankNull }

// Apply sets the identity, whose own sequence the engine names.
func (c NumberItself) Apply(to *catalog.Catalog, _ catalog.Abilities) error {
	t, col, err := column(to, c.Table, c.Column)
	if err != nil {
		return err
	}
	q, err := sequence(to, c.Schema, c.Sequence.Name)
	if err != nil {
		return err
	}
	n := len(t.Triggers)
	if t.Triggers = less(t.Triggers, []*catalog.Trigger{c.Trigger}, func(g *catalog.Trigger) string { return g.Name }); len(t.Triggers) == n {
		return fmt.Errorf("trigger %s of %s does not exist", c.Trigger.Name, c.Table)
	}
	s := to.Schema(c.Schema)
	s.Sequences = without(s.Sequences, q)
	col.Identity, col.Sequence = catalog.IdentityByDefault, nil
	return nil
}

// Apply gives back trigger and sequence.
func (c NumberByTrigger) Apply(to *catalog.Catalog, _ catalog.Abilities) error {
	t, col, err := column(to, c.Table, c.Column)
	if err != nil {
		return err
	}
	if slices.ContainsFunc(t.Triggers, func(g *catalog.Trigger) bool { return g.Name == c.Trigger.Name }) {
		return fmt.Errorf("trigger %s of %s exists", c.Trigger.Name, c.Table)
	}
	again, q := *c.Trigger, *c.Sequence
	t.Triggers = append(t.Triggers, &again)
	s := to.Schema(c.Schema)
	s.Sequences = append(s.Sequences, &q)
	col.Identity, col.Sequence = catalog.NoIdentity, &catalog.Ref{Schema: c.Schema, Table: q.Name}
	return nil
}

// Reverse gives trigger and sequence back.
func (c NumberItself) Reverse(*catalog.Catalog) (Change, error) { return NumberByTrigger(c), nil }

// Reverse takes them again.
func (c NumberByTrigger) Reverse(*catalog.Catalog) (Change, error) { return NumberItself(c), nil }
