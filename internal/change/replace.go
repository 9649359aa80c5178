package change

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
)

// ReplaceView gives a view another query, or other options, under its name.
type ReplaceView struct {
	Schema   string
	Old, New *catalog.View
}

// ReplaceRoutine gives a routine another text under its name and arguments.
type ReplaceRoutine struct {
	Schema   string
	Old, New *catalog.Routine
}

// ReplaceTrigger makes a trigger (no old one), drops it (no new one), or gives it another
// text.
type ReplaceTrigger struct {
	Table    catalog.Ref
	Old, New *catalog.Trigger
}

func (ReplaceView) On() catalog.Ref      { return catalog.Ref{} }
func (ReplaceRoutine) On() catalog.Ref   { return catalog.Ref{} }
func (c ReplaceTrigger) On() catalog.Ref { return c.Table }

func (c ReplaceView) Title() string {
	return fmt.Sprintf("replace view %s.%s", c.Schema, c.New.Name)
}

func (c ReplaceRoutine) Title() string {
	return fmt.Sprintf("replace %s %s.%s", c.New.Kind, c.Schema, c.New.Signature())
}

func (c ReplaceTrigger) Title() string {
	switch {
	case c.Old == nil:
		return fmt.Sprintf("create trigger %s of %s", c.New.Name, c.Table)
	case c.New == nil:
		return fmt.Sprintf("drop trigger %s of %s", c.Old.Name, c.Table)
	}
	return fmt.Sprintf("replace trigger %s of %s", c.New.Name, c.Table)
}

func (ReplaceView) rank() int    { return rankText }
func (ReplaceRoutine) rank() int { return rankText }
func (c ReplaceTrigger) rank() int {
	if c.New == nil {
		return rankEarly // while what it calls is there
	}
	return rankText
}

// apply replaces it.
func (c ReplaceView) apply(to *edit, _ catalog.Abilities) error {
	v, err := to.view(c.Schema, c.New.Name)
	if err == nil {
		*v = *c.New.Clone()
	}
	return err
}

// apply replaces it.
func (c ReplaceRoutine) apply(to *edit, _ catalog.Abilities) error {
	r, err := to.routine(c.Schema, c.New.Signature())
	if err == nil {
		*r = *c.New.Clone()
	}
	return err
}

// apply makes it, drops it or gives it the other text.
func (c ReplaceTrigger) apply(to *edit, _ catalog.Abilities) error {
	t, err := to.table(c.Table)
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
		makeRoom(t, c.New, 1)
		t.Triggers = append(t.Triggers, c.New.Clone())
		slices.SortFunc(t.Triggers, func(a, b *catalog.Trigger) int { return strings.Compare(a.Name, b.Name) })
		return nil
	}
	i := find(c.Old)
	if i < 0 {
		return fmt.Errorf("trigger %s of %s does not exist", c.Old.Name, c.Table)
	}
	makeRoom(t, t.Triggers[i], -1)
	if c.New == nil {
		t.Triggers = slices.Delete(t.Triggers, i, i+1)
		return nil
	}
	makeRoom(t, c.New, 1)
	t.Triggers[i] = c.New.Clone()
	return nil
}

// makeRoom moves those that act after the trigger, where the engine counts them.
func makeRoom(t *catalog.Table, g *catalog.Trigger, by int) {
	for _, x := range t.Triggers {
		if g.Order > 0 && x.Name != g.Name && x.SameEvent(g) && (x.Order > g.Order || by > 0 && x.Order == g.Order) {
			x.Order += by
		}
	}
}

// inverse gives it back its own text.
func (c ReplaceView) inverse(*catalog.Catalog) (Change, error) {
	return ReplaceView{c.Schema, c.New, c.Old}, nil
}

// inverse gives it back its own text.
func (c ReplaceRoutine) inverse(*catalog.Catalog) (Change, error) {
	return ReplaceRoutine{c.Schema, c.New, c.Old}, nil
}

// inverse drops what was made, makes what was dropped, and gives back the text.
func (c ReplaceTrigger) inverse(*catalog.Catalog) (Change, error) {
	return ReplaceTrigger{c.Table, c.New, c.Old}, nil
}
