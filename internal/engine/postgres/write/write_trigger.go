package write

import (
	"slices"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine/postgres/traits"
)

// setTrigger switches it (https://www.postgresql.org/docs/current/sql-altertable.html,
// DISABLE TRIGGER), the shares that partitions have in it too.
func (w *writer) setTrigger(ch change.SetTrigger) {
	sql := []string{switched(ch.Table, ch.Trigger, ch.Off)}
	if !ch.Off {
		for _, s := range ch.Shares {
			sql = append(sql, switched(s.Of, &catalog.Trigger{Name: ch.Trigger.Name, Enabled: s.Enabled}, s.Enabled == "disabled"))
		}
	}
	w.Step(ch.Title(), lockSwitch, sql...)
}

// switched switches a trigger off, or on again as it was.
func switched(on catalog.Ref, g *catalog.Trigger, off bool) string {
	how := "ENABLE TRIGGER "
	switch {
	case off:
		how = "DISABLE TRIGGER "
	case g.Enabled == "replica":
		how = "ENABLE REPLICA TRIGGER "
	case g.Enabled == "always":
		how = "ENABLE ALWAYS TRIGGER "
	}
	return "ALTER TABLE " + traits.Relation(on) + " " + how + traits.Ident(g.Name)
}

// unnoticed keeps the triggers of a table from an event: rows that only change their place
// are neither new nor gone.
func unnoticed(t *catalog.Table, event, sql string) []string {
	var off, on []string
	for _, g := range t.Triggers {
		if g.Enabled != "disabled" && slices.Contains(g.Events, event) {
			off, on = append(off, switched(t.Ref(), g, true)), append(on, switched(t.Ref(), g, false))
		}
	}
	return slices.Concat(off, []string{sql}, on)
}
