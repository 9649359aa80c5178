package write

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
	"nexdal/internal/engine/ddl"
	"nexdal/internal/engine/postgres/traits"
)

// lockAttach is what attaching takes
// (https://www.postgresql.org/docs/current/sql-altertable.html, ATTACH PARTITION).
var lockAttach = ddl.Takes("SHARE UPDATE EXCLUSIVE on the whole for a moment: neither readers nor writers of it wait", engine.BlocksNobody)

// addPartition makes the part with all that the whole asks of it, by itself, and
// attaches it then: the whole is locked less than by CREATE TABLE ... PARTITION OF.
func (w *writer) addPartition(ch change.AddPartition) {
	part := ch.Made(w.Now, Writer{}.Abilities(w.Now.Engine.Version))
	sql := w.partOf(ch, part)
	if ch.From != "" {
		w.movePartition(ch, part, sql)
		return
	}
	l := lockAttach
	if len(part.ForeignKeys) > 0 {
		l = ddl.Takes(l.Says+"; SHARE ROW EXCLUSIVE on the tables that it refers to: their writers wait", engine.BlocksBriefly)
	}
	if rest := w.rest(ch.Of); rest != nil && !strings.EqualFold(ch.Bounds, "DEFAULT") {
		if ch.Where != "" && w.From.Table(rest.Ref()) != nil {
			w.Ask(fmt.Sprintf("rows of %s that belong to the new partition %s (--empty-rest moves them)", rest.Name, ch.Name), fmt.Sprintf("SELECT * FROM %s WHERE %s LIMIT %d", traits.Relation(rest.Ref()), ch.Where, ddl.ShownRows))
		}
		l = ddl.Takes(l.Says+"; ACCESS EXCLUSIVE on the default partition while it is looked through", engine.BlocksBriefly)
	}
	s := w.Step(ch.Title(), l, sql...)
	s.Notes = append(s.Notes, partNote)
}

const partNote = "the partition has the owner of the whole, and no grants of its own: rows are reached through the whole"

// partOf makes the part by itself, and attaches it by the last statement.
func (w *writer) partOf(ch change.AddPartition, part *catalog.Table) []string {
	c := newCreator(w.Now)
	c.table(part, false)
	attach := c.objects[slices.IndexFunc(c.objects, func(sql string) bool {
		return strings.HasPrefix(sql, "ALTER TABLE ONLY "+traits.Relation(ch.Of)+" ATTACH PARTITION")
	})]
	made := slices.DeleteFunc(slices.Concat(c.objects, c.later, c.indexes), func(sql string) bool { return sql == attach })
	if owner := w.owner(ch.Of); owner != "" { // or who owns the whole could not drop it
		made = append(made, giveRights(w.From, "TABLE", traits.Relation(part.Ref()), catalog.Rights{Owner: owner}, false)...)
	}
	return append(made, attach)
}

// movePartition takes the rows out of the part that they are in, in the transaction that
// makes theirs: nobody sees them missing, and none can come in between.
func (w *writer) movePartition(ch change.AddPartition, part *catalog.Table, sql []string) {
	from, to := traits.Relation(catalog.Ref{Schema: ch.Of.Schema, Table: ch.From}), traits.Relation(part.Ref())
	n := len(sql) - 1
	move := moved(part, from, to, " WHERE "+ch.Where)
	rest := w.Now.Table(catalog.Ref{Schema: ch.Of.Schema, Table: ch.From})
	sql = slices.Concat([]string{fmt.Sprintf("LOCK TABLE %s IN SHARE ROW EXCLUSIVE MODE", from)}, sql[:n], unnoticed(rest, "delete", move), sql[n:])
	s := w.Step(ch.Title()+", with the rows of "+ch.From+" that belong to it",
		ddl.Takes(fmt.Sprintf("SHARE ROW EXCLUSIVE on %s while the rows are moved, ACCESS EXCLUSIVE while what is left is looked through: who writes rows that no other partition takes waits", ch.From), engine.BlocksAtWork), sql...)
	s.Tables = append(s.Tables, catalog.Ref{Schema: ch.Of.Schema, Table: ch.From})
	s.Notes = append(s.Notes, partNote, "the rows are rewritten, and so much more log with them")
}

// moved is the statement that takes rows out of one table and puts them into another.
func moved(t *catalog.Table, from, to, where string) string {
	var columns []string
	for _, col := range t.Columns {
		if col.Generated == "" {
			columns = append(columns, col.Name)
		}
	}
	return fmt.Sprintf("WITH moved AS (DELETE FROM %s%s RETURNING %s)\n  INSERT INTO %s (%[3]s) SELECT %[3]s FROM moved", from, where, traits.Idents(columns), to)
}

// rest is the table's default partition, or nil.
func (w *writer) rest(of catalog.Ref) *catalog.Table {
	if found, known := w.rests[of]; known {
		return found
	}
	if w.rests == nil {
		w.rests = map[catalog.Ref]*catalog.Table{}
	}
	w.rests[of] = nil
	for _, s := range w.Now.Schemas {
		for _, t := range s.Tables {
			if t.PartitionOf != nil && *t.PartitionOf == of && strings.EqualFold(t.Bounds, "DEFAULT") {
				w.rests[of] = t
			}
		}
	}
	return w.rests[of]
}

// dropPartition drops a part that holds nothing; one that has got rows stays, and
// the step fails.
func (w *writer) dropPartition(undo change.Undo[change.AddPartition]) {
	ch := undo.Of
	if ch.From != "" {
		whole, name := traits.Relation(ch.Of), traits.Relation(ch.Ref())
		from := catalog.Ref{Schema: ch.Of.Schema, Table: ch.From}
		s := w.Step(undo.Title()+", with its rows back into "+ch.From, ddl.Takes("ACCESS EXCLUSIVE on the whole and the partition while the rows are moved: their readers and writers wait", engine.BlocksAtWork),
			slices.Concat([]string{fmt.Sprintf("LOCK TABLE %s IN ACCESS EXCLUSIVE MODE", name), fmt.Sprintf("ALTER TABLE %s DETACH PARTITION %s", whole, name)},
				unnoticed(w.Now.Table(from), "insert", moved(w.Now.Table(ch.Ref()), name, traits.Relation(from), "")), []string{"DROP TABLE " + name})...)
		s.Tables = append(s.Tables, from)
		return
	}
	part := traits.Relation(ch.Ref())
	w.Ask(fmt.Sprintf("rows of partition %s, which would be lost", ch.Name), fmt.Sprintf("SELECT * FROM %s LIMIT %d", part, ddl.ShownRows))
	guard := fmt.Sprintf("DO $nexdal$ BEGIN IF EXISTS (SELECT FROM %s) THEN RAISE EXCEPTION 'the partition holds rows by now'; END IF; END $nexdal$", part)
	sql := []string{fmt.Sprintf("LOCK TABLE %s IN ACCESS EXCLUSIVE MODE", part), guard}
	if w.Now.Referred(ch.Of) { // whose foreign keys hold on to every part
		sql = append(sql, fmt.Sprintf("ALTER TABLE %s DETACH PARTITION %s", traits.Relation(ch.Of), part))
	}
	w.Step(undo.Title(), ddl.Takes("ACCESS EXCLUSIVE on the whole and the partition for a moment: their readers and writers wait", engine.BlocksBriefly), append(sql, "DROP TABLE "+part)...)
}

// askReferrers asks for rows that refer to those of the part: they would refer to
// nothing once it is none.
func (w *writer) askReferrers(ch change.DetachPartition) {
	for _, r := range w.Now.Lookup().Referrers(ch.Of) {
		f := r.ForeignKey
		if f.Inherited {
			continue
		}
		w.Ask(fmt.Sprintf("rows of %s that refer to rows of %s", r.Table.Ref(), ch.Part), fmt.Sprintf("SELECT c.* FROM %s AS c WHERE EXISTS (SELECT FROM %s AS p WHERE %s) LIMIT %d", traits.Relation(r.Table.Ref()), traits.Relation(ch.Part), traits.Quoting.Refers(f.Columns, f.TargetColumns), ddl.ShownRows))
	}
}
