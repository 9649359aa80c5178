package postgres

import "nexdal/internal/change"

// setTrigger switches it (https://www.postgresql.org/docs/current/sql-altertable.html,
// DISABLE TRIGGER), the shares that partitions have in it too.
func (w *writer) setTrigger(ch change.SetTrigger) {
	how := "ENABLE TRIGGER "
	switch {
	case ch.Off:
		how = "DISABLE TRIGGER "
	case ch.Trigger.Enabled == "replica":
		how = "ENABLE REPLICA TRIGGER "
	case ch.Trigger.Enabled == "always":
		how = "ENABLE ALWAYS TRIGGER "
	}
	w.Step(ch.Title(), lockSwitch, dialect.Alter(ch.Table, how+ident(ch.Trigger.Name)))
}
