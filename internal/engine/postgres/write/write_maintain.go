package write

import (
	"nexdal/internal/change"
	"nexdal/internal/engine"
	"nexdal/internal/engine/postgres/traits"
)

// maintain: https://www.postgresql.org/docs/current/routine-vacuuming.html.
func (w *writer) maintain(ch change.Maintain) {
	on := traits.Relation(ch.Table)
	s := engine.Step{Title: ch.Title()}
	switch l := w.Sized(lockNone, ch.Table); ch.What {
	case change.ReclaimSpace:
		s.SQL, s.Lock, s.Blocks = []string{"VACUUM (ANALYZE) " + on}, l.Says, l.Blocks
		s.Notes = []string{"the room is used for new rows; the file hardly gets smaller"}
	case change.RebuildIndexes:
		s.SQL, s.Lock, s.Blocks = patient("REINDEX TABLE CONCURRENTLY "+on), l.Says, l.Blocks
		s.Notes = []string{"room for a second copy of the indexes is needed; an index that a failure leaves ends in _ccnew and has to be dropped"}
	default:
		s.SQL, s.Lock, s.Blocks, s.Transaction = []string{"ANALYZE " + on}, lockNone.Says, lockNone.Blocks, true
	}
	w.Add(s)
}
