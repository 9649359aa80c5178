package change

import (
	"fmt"
	"slices"

	"nexdal/internal/catalog"
)

// SetTrigger switches a trigger off, or on again as it was. Where the engine has no
// switch, the trigger is dropped, and made again.
type SetTrigger struct {
	Table   catalog.Ref
	Trigger *catalog.Trigger // as it is when it is on
	Off     bool
}

func (c SetTrigger) On() catalog.Ref { return c.Table }
func (c SetTrigger) Title() string {
	return fmt.Sprintf("%s trigger %s of %s", map[bool]string{true: "disable", false: "enable"}[c.Off], c.Trigger.Name, c.Table)
}
func (SetTrigger) rank() int { return rankEarly }

// apply switches it.
func (c SetTrigger) apply(to *edit, can catalog.Abilities) error {
	t, err := to.table(c.Table)
	if err != nil {
		return err
	}
	i := slices.IndexFunc(t.Triggers, func(g *catalog.Trigger) bool { return g.Name == c.Trigger.Name })
	switch {
	case can.TriggersSwitch && i < 0, !can.TriggersSwitch && c.Off == (i < 0):
		return fmt.Errorf("trigger %s of %s is not there, or is there already", c.Trigger.Name, c.Table)
	case can.TriggersSwitch && c.Off:
		t.Triggers[i].Enabled = "disabled"
	case can.TriggersSwitch:
		t.Triggers[i].Enabled = c.Trigger.Enabled
	case c.Off:
		makeRoom(t, c.Trigger, -1)
		t.Triggers = slices.Delete(t.Triggers, i, i+1)
	default:
		makeRoom(t, c.Trigger, 1)
		t.Triggers = append(t.Triggers, c.Trigger.Clone())
	}
	return nil
}

// inverse switches it back.
func (c SetTrigger) inverse(*catalog.Catalog) (Change, error) {
	return SetTrigger{c.Table, c.Trigger, !c.Off}, nil
}

// loseTrigger takes a trigger out of its table.
func loseTrigger(t *catalog.Table, g *catalog.Trigger) error {
	n := len(t.Triggers)
	if t.Triggers = less(t.Triggers, []*catalog.Trigger{g}, func(g *catalog.Trigger) string { return g.Name }); len(t.Triggers) == n {
		return fmt.Errorf("trigger %s of %s does not exist", g.Name, t.Ref())
	}
	return nil
}
