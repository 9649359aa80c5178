package change

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
)

// RedefineView gives a view another query, or other options, under its name.
type RedefineView struct {
	Schema   string
	Old, New *catalog.View
}

// RedefineRoutine gives a routine another text under its name and arguments.
type RedefineRoutine struct {
	Schema   string
	Old, New *catalog.Routine
}

// ReplaceTrigger makes a trigger (no old one), drops it (no new one), or gives it another
// text.
type ReplaceTrigger struct {
	Table    catalog.Ref
	Old, New *catalog.Trigger
}

// AlterSequence lets a sequence that belongs to no identity column count otherwise.
type AlterSequence struct {
	Schema   string
	Old, New *catalog.Sequence
}

func (RedefineView) On() catalog.Ref     { return catalog.Ref{} }
func (RedefineRoutine) On() catalog.Ref  { return catalog.Ref{} }
func (c ReplaceTrigger) On() catalog.Ref { return c.Table }
func (AlterSequence) On() catalog.Ref    { return catalog.Ref{} }

func (c RedefineView) Title() string {
	return fmt.Sprintf("define view %s.%s anew", c.Schema, c.New.Name)
}

func (c RedefineRoutine) Title() string {
	return fmt.Sprintf("define %s %s.%s anew", c.New.Kind, c.Schema, c.New.Signature())
}

func (c ReplaceTrigger) Title() string {
	switch {
	case c.Old == nil:
		return fmt.Sprintf("create trigger %s of %s", c.New.Name, c.Table)
	case c.New == nil:
		return fmt.Sprintf("drop trigger %s of %s", c.Old.Name, c.Table)
	}
	return fmt.Sprintf("define trigger %s of %s anew", c.New.Name, c.Table)
}

func (c AlterSequence) Title() string {
	return fmt.Sprintf("let sequence %s.%s count from %d by %d, %d to %d", c.Schema, c.New.Name, c.New.Start, c.New.Increment, c.New.Least, c.New.Most)
}

func (RedefineView) rank() int    { return rankText }
func (RedefineRoutine) rank() int { return rankText }
func (AlterSequence) rank() int   { return rankType }
func (c ReplaceTrigger) rank() int {
	if c.New == nil {
		return rankAnew // while what it calls is there
	}
	return rankText
}

// swap puts one of a list in the place of that of the same name, a copy of it.
func swap[T any](list []*T, with *T, name func(*T) string) error {
	i := slices.IndexFunc(list, func(x *T) bool { return name(x) == name(with) })
	if i < 0 {
		return fmt.Errorf("%s does not exist", name(with))
	}
	again := *with
	list[i] = &again
	return nil
}

// Apply defines it anew.
func (c RedefineView) Apply(to *catalog.Catalog, _ catalog.Abilities) error {
	s := to.Schema(c.Schema)
	if s == nil {
		return fmt.Errorf("schema %s does not exist", c.Schema)
	}
	return swap(s.Views, c.New, func(v *catalog.View) string { return v.Name })
}

// Apply defines it anew.
func (c RedefineRoutine) Apply(to *catalog.Catalog, _ catalog.Abilities) error {
	s := to.Schema(c.Schema)
	if s == nil {
		return fmt.Errorf("schema %s does not exist", c.Schema)
	}
	return swap(s.Routines, c.New, (*catalog.Routine).Signature)
}

// Apply sets how it counts; what it feeds stays.
func (c AlterSequence) Apply(to *catalog.Catalog, _ catalog.Abilities) error {
	q, err := sequence(to, c.Schema, c.New.Name)
	if err != nil {
		return err
	}
	n := c.New
	q.Type, q.Start, q.Increment, q.Least, q.Most, q.Cache, q.Cycle, q.Comment = n.Type, n.Start, n.Increment, n.Least, n.Most, n.Cache, n.Cycle, n.Comment
	return nil
}

// Apply makes it, drops it or gives it the other text.
func (c ReplaceTrigger) Apply(to *catalog.Catalog, _ catalog.Abilities) error {
	t, err := table(to, c.Table)
	if err != nil {
		return err
	}
	find := func(g *catalog.Trigger) int {
		return slices.IndexFunc(t.Triggers, func(x *catalog.Trigger) bool { return x.Name == g.Name })
	}
	if c.Old == nil {
		if find(c.New) >= 0 {
			return fmt.Errorf("trigger %s of %s exists", c.New.Name, c.Table)
		}
		made := *c.New
		t.Triggers = append(slices.Clone(t.Triggers), &made)
		slices.SortFunc(t.Triggers, func(a, b *catalog.Trigger) int { return strings.Compare(a.Name, b.Name) })
		return nil
	}
	i := find(c.Old)
	if i < 0 {
		return fmt.Errorf("trigger %s of %s does not exist", c.Old.Name, c.Table)
	}
	if c.New == nil {
		t.Triggers = slices.Delete(slices.Clone(t.Triggers), i, i+1)
		return nil
	}
	made := *c.New
	t.Triggers = slices.Clone(t.Triggers)
	t.Triggers[i] = &made
	return nil
}

// Reverse gives it back its own text.
func (c RedefineView) Reverse(*catalog.Catalog) (Change, error) {
	return RedefineView{c.Schema, c.New, c.Old}, nil
}

// Reverse gives it back its own text.
func (c RedefineRoutine) Reverse(*catalog.Catalog) (Change, error) {
	return RedefineRoutine{c.Schema, c.New, c.Old}, nil
}

// Reverse drops what was made, makes what was dropped, and gives back the text.
func (c ReplaceTrigger) Reverse(*catalog.Catalog) (Change, error) {
	return ReplaceTrigger{c.Table, c.New, c.Old}, nil
}

// Reverse lets it count as before; the engine refuses that once numbers beyond were
// given out.
func (c AlterSequence) Reverse(*catalog.Catalog) (Change, error) {
	return AlterSequence{c.Schema, c.New, c.Old}, nil
}
