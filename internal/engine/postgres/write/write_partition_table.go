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

// refusesPartitioning says what keeps a table from being partitioned by a script of ours.
func refusesPartitioning(c *catalog.Catalog, t *catalog.Table, ch change.PartitionTable) string {
	if b, ok := traits.BoundsOf(nil, ch.Parts[0].Bounds); !ok || len(b.To) == 0 || len(ch.By.Columns) == 0 {
		return fmt.Sprintf("the bounds of the first part are no range: %s", ch.Parts[0].Bounds)
	}
	switch {
	case len(t.Triggers)+len(t.Objects) > 0:
		return "its triggers, rules, policies and extended statistics have to be re-created on the whole by hand"
	case slices.ContainsFunc(t.Indexes, func(x *catalog.Index) bool { return strings.Contains(x.Pinned, traits.PinnedReplica) }):
		return "its rows are published by an index (REPLICA IDENTITY), which every part would have to be"
	case len(t.Exclusions) > 0 || slices.ContainsFunc(t.Keys(), func(k *catalog.Key) bool { return k.WithoutOverlaps }):
		return "an exclusion constraint, or a key without overlaps, cannot be kept over the parts"
	case slices.ContainsFunc(t.ForeignKeys, func(f *catalog.ForeignKey) bool { return f.Period }):
		return "it refers to another table by periods"
	case t.Has("row security") || t.Has("unlogged") || t.OfType != "":
		return "row security, an unlogged table or a type that it is made of has to be seen to by hand"
	case slices.ContainsFunc(t.Columns, func(col *catalog.Column) bool {
		return col.NotNull != nil && (col.NotNull.NoInherit || col.NotNull.NotValidated)
	}):
		return "null is forbidden in one of its columns to it alone (NO INHERIT), or was never validated, and the parts cannot take that over"
	case len(t.Inherits)+len(c.Lookup().Heirs(t.Ref())) > 0:
		return "it takes part in an inheritance"
	}
	return ""
}

func numbersItself(c *catalog.Column) bool {
	return c.Identity == catalog.IdentityAlways || c.Identity == catalog.IdentityByDefault
}

// partitionTable makes the table the first part of a new whole that bears its name. What takes
// long is done before, beside those who read and write: the index of the key, and a
// check that spares the engine to look through the rows when they are attached
// (https://www.postgresql.org/docs/current/ddl-partitioning.html, section "Partition
// Maintenance").
func (w *writer) partitionTable(ch change.PartitionTable) error {
	can, after := Writer{}.Abilities(w.Now.Engine.Version), w.Now.Clone()
	if err := change.Apply(ch, after, can); err != nil {
		return err
	}
	old, whole := w.Now.Table(ch.Table), after.Table(ch.Table)
	first := after.Table(catalog.Ref{Schema: ch.Table.Schema, Table: ch.Parts[0].Name})
	name, part := traits.Relation(ch.Table), traits.Relation(first.Ref())
	if ch.Key != nil {
		w.buildIndex(ch.Title()+": build the index of the key", ch.Table, alone(first.Index(first.PrimaryKey.Index), first.PrimaryKey.Index))
	}
	bound := traits.Ident(catalog.NewNames(w.Now, 63).Free(ch.Table.Schema, "check", "nexdal", ch.Table.Table, "bound"))
	condition := w.below(ch)
	w.Ask(fmt.Sprintf("rows of %s that lie beyond the part that takes them", ch.Table), fmt.Sprintf("SELECT * FROM %s WHERE NOT (%s) LIMIT %d", name, condition, ddl.ShownRows))
	s := w.validated(ch.Title()+": promise that the rows belong to the first part", lockExclusive, ch.Table, bound,
		[]string{dialect.Alter(ch.Table, fmt.Sprintf("ADD CONSTRAINT %s CHECK (%s) NOT VALID", bound, condition))})
	s.Notes = append(s.Notes, "rows that belong to a later part are refused until the table is partitioned")

	sql := []string{fmt.Sprintf("LOCK TABLE %s IN ACCESS EXCLUSIVE MODE", name)}
	for _, m := range ch.Moved {
		sql = append(sql, dialect.Alter(m.Table, "DROP CONSTRAINT "+traits.Ident(m.Old.Name)))
	}
	if ch.Key != nil {
		sql = append(sql, dialect.Alter(ch.Table, "DROP CONSTRAINT "+traits.Ident(old.PrimaryKey.Name)))
	}
	sql = append(sql, fmt.Sprintf("ALTER TABLE %s RENAME TO %s", name, traits.Ident(first.Name)))
	sql = append(sql, renamedIndexes(old, first, ch.Key != nil)...)
	counters, goOn, gone := w.handOver(old, part)
	sql = append(sql, counters...)
	c := newCreator(after)
	c.sequences, c.named = w.sequences(), true // the first part bears names that the whole is to have
	c.table(whole, false)
	sql = append(append(sql, c.objects...), asOwned(part, name)) // a sequence has the owner of its table
	sql = append(sql, goOn...)
	sql = append(sql, gone...)
	sql = append(sql, c.later...)
	if ch.Key != nil {
		sql = append(sql, w.usingIndex(first.Ref(), first.PrimaryKey, true)...)
		sql = append(sql, pinned(first.Ref(), first.Index(first.PrimaryKey.Index))...)
	}
	sql = append(append(append(sql, c.indexes...), c.references...), c.comments...)
	sql = append(sql, fmt.Sprintf("ALTER TABLE ONLY %s ATTACH PARTITION %s %s", name, part, first.Bounds),
		fmt.Sprintf("ALTER TABLE %s DROP CONSTRAINT %s", part, bound))
	made := w.Now.Clone() // as it is when the first part is there
	firstAlone := ch
	firstAlone.Parts = ch.Parts[:1]
	if err := change.Apply(firstAlone, made, can); err != nil {
		return err
	}
	for _, p := range ch.Rest(made) {
		sql = append(sql, w.partOf(p, p.Made(made, can))...)
		if err := change.Apply(p, made, can); err != nil {
			return err
		}
	}
	var later []string
	for _, m := range ch.Moved {
		now, check := w.declare(m.Table, m.New)
		sql, later = append(sql, now...), append(later, check...)
	}
	s = w.Step(ch.Title(), ddl.Takes("ACCESS EXCLUSIVE on the table and those that it is tied to for a moment: readers and writers wait", engine.BlocksBriefly), sql...)
	s.Tables = append(s.Tables, ch.Tables()...)
	s.Notes = append(s.Notes, fmt.Sprintf("the rows stay where they are, in a table that is called %s from then on", first.Name), "statements that name the table go on as before; owner and grants are carried over")
	if len(ch.Moved) > 0 {
		s.Notes = append(s.Notes, "a foreign key to the table takes the partition column too: rows of others in which that is null are not held to it")
	}
	for i, check := range later {
		s := w.Step(fmt.Sprintf("check the rows of foreign key %s of %s", ch.Moved[i].New.Name, ch.Moved[i].Table), w.Sized(lockNone, ch.Moved[i].Table), check)
		s.Passing = true
	}
	return nil
}

// alone is the index by another name, and part of none.
func alone(x *catalog.Index, name string) *catalog.Index {
	x = x.Clone()
	x.Name, x.Definition, x.PartOf, x.Inherited, x.Pinned = name, "", "", false, ""
	return x
}

// below is the condition that a row belongs to the first part.
func (w *writer) below(ch change.PartitionTable) string {
	b, _ := traits.BoundsOf(nil, ch.Parts[0].Bounds)
	return fmt.Sprintf("%s < %s", traits.Ident(ch.By.Columns[0]), traits.Literal(b.To[0].Text))
}

// renamedIndexes gives the indexes of the table the names that they bear as a part's.
func renamedIndexes(old, first *catalog.Table, keyGone bool) []string {
	var sql []string
	for _, x := range old.Indexes {
		if keyGone && old.PrimaryKey != nil && x.Name == old.PrimaryKey.Index {
			continue
		}
		for _, share := range first.Indexes {
			if share.PartOf == x.Name && share.Name != x.Name {
				sql = append(sql, fmt.Sprintf("ALTER INDEX %s RENAME TO %s", traits.Qualified(old.Schema, x.Name), traits.Ident(share.Name)))
			}
		}
	}
	return sql
}

// handOver puts the counter of a numbered column aside before the new table has one of
// its own by that name (aside), lets that go on where it was (goOn), and takes it from
// the old table (gone). A sequence behind a default only changes its owner.
func (w *writer) handOver(t *catalog.Table, old string) (aside, goOn, gone []string) {
	for _, col := range t.Columns {
		if col.Sequence == nil {
			continue
		}
		q := traits.Relation(*col.Sequence)
		if !numbersItself(col) {
			goOn = append(goOn, fmt.Sprintf("ALTER SEQUENCE %s OWNED BY %s.%s", q, traits.Relation(t.Ref()), traits.Ident(col.Name)))
			continue
		}
		name := catalog.NewNames(w.Now, 63).Free(col.Sequence.Schema, "seq", "nexdal", col.Sequence.Table)
		aside = append(aside, fmt.Sprintf("ALTER SEQUENCE %s RENAME TO %s", q, traits.Ident(name)))
		goOn = append(goOn, w.carriedOn(*col.Sequence, name)...)
		gone = append(gone, fmt.Sprintf("ALTER TABLE %s ALTER COLUMN %s DROP IDENTITY", old, traits.Ident(col.Name)))
	}
	return aside, goOn, gone
}

// sequences are those of the catalog.
func (w *writer) sequences() map[catalog.Ref]*catalog.Sequence {
	all := map[catalog.Ref]*catalog.Sequence{}
	for _, s := range w.Now.Schemas {
		for _, q := range s.Sequences {
			all[catalog.Ref{Schema: s.Name, Table: q.Name}] = q
		}
	}
	return all
}

// unpartitionTable takes the rows of all parts back into the first, which becomes the table
// again.
func (w *writer) unpartitionTable(ch change.Undo[change.PartitionTable]) {
	of := ch.Of
	first := w.Now.Table(catalog.Ref{Schema: of.Table.Schema, Table: of.Parts[0].Name})
	was, whole := ch.Before, w.Now.Table(of.Table)
	name, part := traits.Relation(of.Table), traits.Relation(first.Ref())
	var key string
	if of.Key != nil {
		key = catalog.NewNames(w.Now, 63).Free(of.Table.Schema, "idx", "nexdal", was.PrimaryKey.Name)
		w.buildIndex(ch.Title()+": build the index of the key", first.Ref(), alone(was.Index(was.PrimaryKey.Index), key))
	}
	var columns []string
	for _, col := range was.Columns {
		if col.Generated == "" {
			columns = append(columns, col.Name)
		}
	}
	sql := []string{fmt.Sprintf("LOCK TABLE %s IN ACCESS EXCLUSIVE MODE", name)}
	for _, m := range of.Moved {
		sql = append(sql, dialect.Alter(m.Table, "DROP CONSTRAINT "+traits.Ident(m.New.Name)))
	}
	sql = append(sql, fmt.Sprintf("ALTER TABLE %s DETACH PARTITION %s", name, part),
		fmt.Sprintf("INSERT INTO %s (%s)\n  SELECT %[2]s FROM %[3]s", part, traits.Idents(columns), name))
	if of.Key != nil {
		sql = append(sql, fmt.Sprintf("ALTER TABLE %s DROP CONSTRAINT %s", part, traits.Ident(first.PrimaryKey.Name)))
	}
	counters, goOn := w.handBack(whole, part)
	sql = append(append(sql, counters...), goOn...)
	sql = append(sql, "DROP TABLE "+name, fmt.Sprintf("ALTER TABLE %s RENAME TO %s", part, traits.Ident(of.Table.Table)))
	for _, x := range was.Indexes {
		for _, share := range first.Indexes {
			if share.PartOf == x.Name && share.Name != x.Name && !(of.Key != nil && x.Name == was.PrimaryKey.Index) {
				sql = append(sql, fmt.Sprintf("ALTER INDEX %s RENAME TO %s", traits.Qualified(was.Schema, share.Name), traits.Ident(x.Name)))
			}
		}
	}
	if of.Key != nil {
		sql = append(sql, fmt.Sprintf("ALTER INDEX %s RENAME TO %s", traits.Qualified(was.Schema, key), traits.Ident(was.PrimaryKey.Index)))
		sql = append(sql, w.usingIndex(was.Ref(), was.PrimaryKey, true)...)
		sql = append(sql, pinned(was.Ref(), was.Index(was.PrimaryKey.Index))...)
	}
	var later []string
	for _, m := range of.Moved {
		now, check := w.declare(m.Table, m.Old)
		sql, later = append(sql, now...), append(later, check...)
	}
	s := w.Step(ch.Title(), ddl.Takes("ACCESS EXCLUSIVE while the rows of the later parts are written into the first: readers and writers of the table wait", engine.BlocksAtWork), sql...)
	s.Tables = append(s.Tables, of.Tables()...)
	s.Notes = append(s.Notes, "rows of two parts that have the same key as it was stop it, without trace")
	for i, check := range later {
		w.Step(fmt.Sprintf("check the rows of foreign key %s of %s", of.Moved[i].Old.Name, of.Moved[i].Table), w.Sized(lockNone, of.Moved[i].Table), check)
	}
}

// handBack gives the part the counters of the whole, which go on where they were.
func (w *writer) handBack(whole *catalog.Table, part string) (aside, goOn []string) {
	sequences := w.sequences()
	for _, col := range whole.Columns {
		if col.Sequence == nil {
			continue
		}
		q := traits.Relation(*col.Sequence)
		if !numbersItself(col) {
			goOn = append(goOn, fmt.Sprintf("ALTER SEQUENCE %s OWNED BY %s.%s", q, part, traits.Ident(col.Name)))
			continue
		}
		name := catalog.NewNames(w.Now, 63).Free(col.Sequence.Schema, "seq", "nexdal", col.Sequence.Table)
		how := map[catalog.Identity]string{catalog.IdentityAlways: "ALWAYS", catalog.IdentityByDefault: "BY DEFAULT"}[col.Identity]
		aside = append(aside, fmt.Sprintf("ALTER SEQUENCE %s RENAME TO %s", q, traits.Ident(name)),
			fmt.Sprintf("ALTER TABLE %s ALTER COLUMN %s ADD GENERATED %s AS IDENTITY (SEQUENCE NAME %s%s)", part, traits.Ident(col.Name), how, q, counting(sequences[*col.Sequence], 0)))
		goOn = append(goOn, w.carriedOn(*col.Sequence, name)...)
	}
	return aside, goOn
}

// carriedOn lets the new sequence of an identity go on where the one of that other name was,
// with its grants and its comment.
func (w *writer) carriedOn(q catalog.Ref, from string) []string {
	sql := []string{fmt.Sprintf("SELECT pg_catalog.setval(%s, last_value, is_called) FROM %s", traits.Literal(traits.Relation(q)), traits.Qualified(q.Schema, from))}
	if is := w.sequences()[q]; is != nil {
		sql = append(append(sql, giveRights(w.From, "SEQUENCE", traits.Relation(q), is.Rights, true)...), sequenceComment(traits.Relation(q), is)...)
	}
	return sql
}
