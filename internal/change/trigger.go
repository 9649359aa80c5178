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
	// Shares are the partitions whose share in the trigger is in another state than the whole's once
	// it is on again, and the states, as in [catalog.Trigger].
	Shares []TriggerShare
}

// A TriggerShare is a partition's share in a trigger of the whole, and its state.
type TriggerShare struct {
	Of      catalog.Ref
	Enabled string
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
	case can.TriggersSwitch:
		is := c.Trigger.Enabled
		if c.Off {
			is = "disabled"
		}
		t.Triggers[i].Enabled = is
		return c.applyShares(to, is)
	case c.Off:
		makeRoom(t, c.Trigger, -1)
		t.Triggers = slices.Delete(t.Triggers, i, i+1)
	default:
		makeRoom(t, c.Trigger, 1)
		t.Triggers = append(t.Triggers, c.Trigger.Clone())
	}
	return nil
}

// applyShares switches those that partitions have in it, which go with the whole's.
func (c SetTrigger) applyShares(to *edit, is string) error {
	for _, s := range shares(to.Catalog, c.Table, c.Trigger) {
		state := is
		if i := slices.IndexFunc(c.Shares, func(x TriggerShare) bool { return x.Of == s.Of }); i >= 0 && !c.Off {
			state = c.Shares[i].Enabled
		}
		part, err := to.table(s.Of)
		if err != nil {
			return err
		}
		part.Triggers[shareIn(part, c.Trigger)].Enabled = state
	}
	return nil
}

// shares are those that the partitions of the table, and theirs, have in the trigger.
func shares(in *catalog.Catalog, whole catalog.Ref, g *catalog.Trigger) (all []TriggerShare) {
	if t := in.Table(whole); t == nil || t.PartitionBy == nil {
		return nil
	}
	for _, part := range in.Lookup().Partitions(whole) {
		if i := shareIn(part, g); i >= 0 {
			all = append(append(all, TriggerShare{part.Ref(), part.Triggers[i].Enabled}), shares(in, part.Ref(), g)...)
		}
	}
	return all
}

func shareIn(part *catalog.Table, g *catalog.Trigger) int {
	return slices.IndexFunc(part.Triggers, func(x *catalog.Trigger) bool { return x.Inherited && x.Name == g.Name })
}

// inverse switches it back, and the shares that were otherwise as they were.
func (c SetTrigger) inverse(before *catalog.Catalog) (Change, error) {
	back := SetTrigger{Table: c.Table, Trigger: c.Trigger, Off: !c.Off}
	if c.Off {
		back.Shares = slices.DeleteFunc(shares(before, c.Table, c.Trigger), func(s TriggerShare) bool { return s.Enabled == c.Trigger.Enabled })
	}
	return back, nil
}

// loseTrigger takes a trigger out of its table.
func loseTrigger(t *catalog.Table, g *catalog.Trigger) error {
	n := len(t.Triggers)
	if t.Triggers = less(t.Triggers, []*catalog.Trigger{g}, func(g *catalog.Trigger) string { return g.Name }); len(t.Triggers) == n {
		return fmt.Errorf("trigger %s of %s does not exist", g.Name, t.Ref())
	}
	return nil
}
