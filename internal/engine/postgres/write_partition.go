package postgres

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
)

// lockAttach is what attaching takes
// (https://www.postgresql.org/docs/current/sql-altertable.html, ATTACH PARTITION).
var lockAttach = lock{"SHARE UPDATE EXCLUSIVE on the whole for a moment: neither readers nor writers of it wait", engine.BlocksNobody}

// addPartition makes the part with all that the whole asks of it, by itself, and
// attaches it then: the whole is locked less than by CREATE TABLE ... PARTITION OF.
func (w *writer) addPartition(ch change.AddPartition) {
	part := ch.Made(w.now)
	c := creator{sequences: map[catalog.Ref]*catalog.Sequence{}, lookup: w.now.Lookup()}
	c.table(part, false)
	attach := c.objects[slices.IndexFunc(c.objects, func(sql string) bool {
		return strings.HasPrefix(sql, "ALTER TABLE ONLY "+relation(ch.Of)+" ATTACH PARTITION")
	})]
	sql := slices.DeleteFunc(slices.Concat(c.objects, c.later, c.indexes), func(sql string) bool { return sql == attach })
	l := lockAttach
	if len(part.ForeignKeys) > 0 {
		l = lock{l.says + "; SHARE ROW EXCLUSIVE on the tables that it refers to: their writers wait", engine.BlocksBriefly}
	}
	if rest := w.rest(ch.Of); rest != nil && !strings.EqualFold(ch.Bounds, "DEFAULT") {
		l = lock{l.says + "; ACCESS EXCLUSIVE on the default partition while it is looked through", engine.BlocksBriefly}
	}
	s := w.step(ch.Title(), l, append(sql, attach)...)
	s.Notes = append(s.Notes, "the partition belongs to whoever runs the script; rows are reached through the whole")
}

// rest is the table's default partition, or nil.
func (w *writer) rest(of catalog.Ref) *catalog.Table {
	for _, t := range w.now.Lookup().Partitions(of) {
		if strings.EqualFold(t.Bounds, "DEFAULT") {
			return t
		}
	}
	return nil
}

// dropPartition drops a part that holds nothing; one that holds rows by then stays, and
// the step fails.
func (w *writer) dropPartition(ch change.DropPartition) {
	part := relation(change.AddPartition(ch).Ref())
	w.ask(fmt.Sprintf("rows of partition %s, which would be lost", ch.Name), fmt.Sprintf("SELECT * FROM %s LIMIT %d", part, shownRows))
	guard := fmt.Sprintf("DO $nexdal$ BEGIN IF EXISTS (SELECT FROM %s) THEN RAISE EXCEPTION 'the partition holds rows by now'; END IF; END $nexdal$", part)
	w.step(ch.Title(), lock{"ACCESS EXCLUSIVE on the whole and the partition for a moment: their readers and writers wait", engine.BlocksBriefly},
		fmt.Sprintf("LOCK TABLE %s IN ACCESS EXCLUSIVE MODE", part), guard, "DROP TABLE "+part)
}
