// Package write writes the DDL of PostgreSQL: changes of a structure, and whole ones.
package write

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
	"nexdal/internal/engine/ddl"
	"nexdal/internal/engine/postgres/traits"
)

// A Writer writes for PostgreSQL.
type Writer struct{ traits.Traits }

// The locks that steps take, as
// https://www.postgresql.org/docs/current/explicit-locking.html names them.
var (
	lockNone      = ddl.Takes("SHARE UPDATE EXCLUSIVE: neither readers nor writers wait", engine.BlocksNobody)
	lockExclusive = ddl.Takes("ACCESS EXCLUSIVE for a moment: readers and writers of the table wait", engine.BlocksBriefly)
	lockHeirs     = ddl.Takes("ACCESS EXCLUSIVE on the table and those that inherit from it for a moment: their readers and writers wait", engine.BlocksBriefly)
	lockReference = ddl.Takes("ACCESS EXCLUSIVE on both tables for a moment: their readers and writers wait", engine.BlocksBriefly)
	lockShared    = ddl.Takes("SHARE ROW EXCLUSIVE on both tables for a moment: their writers wait", engine.BlocksBriefly)
	lockSwitch    = ddl.Takes("SHARE ROW EXCLUSIVE for a moment: writers of the table wait", engine.BlocksBriefly)
	lockTied      = ddl.Takes("ACCESS EXCLUSIVE on the table and those that refer to it for a moment: readers and writers wait", engine.BlocksBriefly)
	lockParts     = ddl.Takes("ACCESS EXCLUSIVE on the table and its partitions for a moment: their readers and writers wait", engine.BlocksBriefly)
	lockRewrite   = ddl.Takes("ACCESS EXCLUSIVE while the table is rewritten: readers and writers of the table wait", engine.BlocksAtWork)
	lockRetype    = ddl.Takes("ACCESS EXCLUSIVE while the table and its indexes are rewritten: readers and writers of the table, and of those that it is tied to by its foreign keys, wait", engine.BlocksAtWork)
	lockRecheck   = ddl.Takes("ACCESS EXCLUSIVE while the foreign keys are checked again: readers and writers of the table, and of those that it is tied to by its foreign keys, wait", engine.BlocksAtWork)
	lockIndexed   = ddl.Takes("ACCESS EXCLUSIVE while the index of the key is built: readers and writers of the table wait", engine.BlocksAtWork)
	lockBuild     = ddl.Takes("ACCESS EXCLUSIVE on the table and its partitions while the indexes are built: readers and writers wait", engine.BlocksAtWork)
)

// Refuses says why the change cannot be written, or "".
func (Writer) Refuses(c *catalog.Catalog, ch change.Change) string {
	t := c.Table(ch.On())
	if t == nil {
		switch ch := ch.(type) {
		case change.SetSetting, change.CreateSequence, change.DropSequence, change.CreateObjects, change.DropObjects, change.AddLookupTable, change.AlterSequence:
			return ""
		case change.ReplaceView:
			return refusesView(c, ch)
		case change.ReplaceRoutine:
			return refusesRoutine(ch)
		}
		return fmt.Sprintf("table %s does not exist", ch.On())
	}
	for _, g := range c.Gaps {
		if g.Schema == t.Schema && g.Table == t.Name && !g.Figures {
			return fmt.Sprintf("not everything of %s was read: %s: %s", t.Name, g.What, g.Reason)
		}
	}
	switch ch := ch.(type) {
	case change.ReplaceTrigger:
		return refusesTrigger(t, ch)
	case change.AddColumn:
		if t.Has("of a type") {
			return fmt.Sprintf("%s is made of a composite type, to which the column would have to be added", t.Name)
		}
	case change.ReplaceKey:
		if k := ch.From.Key; k != nil && k.WithoutOverlaps || ch.To.Key != nil && ch.To.Key.WithoutOverlaps {
			return "a key without overlaps cannot take another's place on an index that was built before"
		}
	case change.AddSurrogateKey:
		if ch.From.WithoutOverlaps {
			return "the rows of one thing have a key each, by periods, and no number would tell which of them are one"
		}
	case change.CreateIndex:
		if name := virtual(t, ch.Index.NamedColumns()); name != "" {
			return fmt.Sprintf("column %s is computed when it is read, and cannot be indexed", name)
		}
	case change.AddKey:
		if name := virtual(t, ch.Key.Columns); name != "" {
			return fmt.Sprintf("column %s is computed when it is read, and cannot be part of a key", name)
		}
		if t.PartitionBy != nil && !catalog.Within(t.PartitionBy.Columns, ch.Key.Columns) {
			return fmt.Sprintf("a key of the partitioned table %s has to hold its partition columns", t.Name)
		}
	case change.AddForeignKey:
		if ch.Again {
			return "" // it was there, and so it can be
		}
		if name := virtual(t, ch.ForeignKey.Columns); name != "" {
			return fmt.Sprintf("column %s is computed when it is read, and cannot refer to anything", name)
		}
		if target := c.Table(ch.ForeignKey.Target); t.Kind == catalog.Partitioned || t.PartitionOf != nil || target != nil && target.Kind == catalog.Partitioned {
			return "a foreign key of or to a partitioned table is added with those of its partitions, which is left to you"
		}
	case change.AlterForeignKey:
		if ch.New.Period && (ch.New.Match == "full" || ch.New.OnDelete != catalog.NoAction || ch.New.OnUpdate != catalog.NoAction) {
			return "a foreign key by periods takes no actions, and no MATCH FULL"
		}
		if ch.Old.Disabled && (t.Kind == catalog.Partitioned || t.PartitionOf != nil) {
			return "a foreign key of a partitioned table is switched on with those of its partitions, which is left to you"
		}
	case change.RebuildIndex:
		if t.Kind == catalog.Partitioned {
			return "the index of a partitioned table is rebuilt partition by partition"
		}
	case change.SetNullable:
		for _, part := range c.Tables() {
			inherits := slices.Contains(part.Parents(), t.Ref())
			if col := part.Column(ch.Column); inherits && col != nil && (col.Nullable != !ch.Nullable || part.PartitionBy != nil) {
				return fmt.Sprintf("%s would be altered with it, and could not be put back as it was", part.Ref())
			}
		}
	case change.AlterType:
		return refusesType(c, t, ch)
	case change.PartitionTable:
		return refusesPartitioning(c, t, ch)
	case change.SetSpread, change.SetSortKey, change.SetEncoding:
		return "tables are not spread over a cluster here"
	case change.ReplaceByDefault:
		return "a default does not stand in for a null that is given; a column that is there can be made an identity"
	case change.ExtractPartition:
		return "a partition is a table here, and is detached"
	case change.Maintain:
		if ch.What == change.SortRows {
			return "rows are kept in no order here"
		}
		if ch.What == change.RebuildIndexes && !traits.AtLeast(c.Engine.Version, 12) {
			return "indexes are rebuilt beside others from version 12 on"
		}
	case change.AddPartition:
		if ch.From != "" {
			if rest := c.Table(catalog.Ref{Schema: ch.Of.Schema, Table: ch.From}); rest != nil && slices.ContainsFunc(rest.Objects, func(o *catalog.Object) bool { return o.Kind == "rule" }) {
				return fmt.Sprintf("rules of %s would be carried out for the rows that are moved", ch.From)
			}
			for _, r := range c.Lookup().Referrers(t.Ref()) {
				return fmt.Sprintf("foreign key %s of %s refers to it: the engine would take moved rows for deleted ones", r.ForeignKey.Label(), r.Table.Ref())
			}
		}
	case change.SetNumbering:
		if ch.From.Sequence.Unlogged != t.Has("unlogged") {
			return "its sequence is unlogged and the table is not, or the other way round: an identity's is as its table is"
		}
	case change.DropKey:
		for _, k := range t.Keys() {
			if x := t.Index(k.Index); k.Name == ch.Name && x != nil && strings.Contains(x.Pinned, traits.PinnedReplica) {
				return replicaIdentity
			}
		}
		if t.Kind == catalog.Partitioned {
			return "the key of a partitioned table could not be put back under the names that its partitions have it by"
		}
	case change.DropIndex:
		if x := t.Index(ch.Name); x != nil && strings.Contains(x.Pinned, traits.PinnedReplica) {
			return replicaIdentity
		}
		if t.Kind == catalog.Partitioned {
			return "the index of a partitioned table cannot be dropped and put back without blocking writers of every partition"
		}
	}
	return ""
}

// virtual is the first of the columns that is computed when it is read, or ""
// (https://www.postgresql.org/docs/18/ddl-generated-columns.html).
func virtual(t *catalog.Table, columns []string) string {
	for _, name := range columns {
		if c := t.Column(name); c != nil && c.Generated != "" && !c.Stored {
			return name
		}
	}
	return ""
}

// replicaIdentity bars dropping an index: without it the updates of a published table fail
// (https://www.postgresql.org/docs/current/logical-replication-publication.html).
const replicaIdentity = "rows are published by this index (REPLICA IDENTITY): updates of the table would fail without it"

func refusesType(c *catalog.Catalog, t *catalog.Table, ch change.AlterType) string {
	col := t.Column(ch.Column)
	switch {
	case col == nil:
		return fmt.Sprintf("column %s of %s does not exist", ch.Column, t.Ref())
	case t.Has("of a type"):
		return fmt.Sprintf("%s is made of a composite type", t.Name)
	case ch.From.Underlying != "" && ch.From.Native != ch.To.Native:
		return fmt.Sprintf("%s.%s is of domain %s, whose rules would no longer hold", t.Name, ch.Column, ch.From.Native)
	case ch.From.Native == "oid":
		return fmt.Sprintf("%s.%s may name large objects, which are found by their oid alone", t.Name, ch.Column)
	case col.Inherited || len(c.Lookup().Heirs(t.Ref())) > 0:
		return fmt.Sprintf("%s.%s is inherited, and altered with the tables that inherit it", t.Name, ch.Column)
	case ch.From.Family == catalog.Timestamp && ch.To.Family == catalog.Timestamp && ch.From.Zoned != ch.To.Zoned:
		return "what a moment means would depend on the session's time zone"
	case ch.To.Family != catalog.Text && len(stored(col)) > 0:
		return fmt.Sprintf("%s.%s is stored in a way of its own (STORAGE, COMPRESSION), which the new type may not have", t.Name, ch.Column)
	case col.Default != "" && ch.From.Family != ch.To.Family:
		return fmt.Sprintf("the default of %s.%s is not of the new type", t.Name, ch.Column)
	}
	return ""
}

// dialect is how PostgreSQL writes what all engines have. Within the transaction of a
// step DDL is taken back whole.
var dialect = &ddl.Dialect{
	Title: "PostgreSQL", Quoting: traits.Quoting, Relation: traits.Relation, Literal: traits.Literal, Begin: "BEGIN", Works: "; reads %s", Together: true,
	Create: func(w *ddl.Writer, t *catalog.Table) []string {
		c := newCreator(w.Now)
		c.table(t, false)
		return slices.Concat(c.objects, c.later, c.indexes)
	},
	Drop: dropObject,
	Made: ddl.Takes("nothing that others use", engine.BlocksNobody),
	Gone: ddl.Takes("ACCESS EXCLUSIVE on what is dropped for a moment", engine.BlocksBriefly),
}

// writer gathers the steps of one plan.
type writer struct {
	*ddl.Writer
	// rests are the default partitions that were looked for, by their whole; nil: there
	// is none. Cleared by whatever may make another.
	rests  map[catalog.Ref]*catalog.Table
	lookup *catalog.Lookup // of the catalog before the script; nil: not asked for yet
}

// Write turns the plan into steps, choosing for each change the form that
// blocks least: indexes CONCURRENTLY, references NOT VALID and validated
// afterwards, keys on an index that is there already.
func (e Writer) Write(from, to *catalog.Catalog, plan change.Plan) (*engine.Work, error) {
	setup := append(e.Limits(0, 0)[:2], settings...)
	if _, shadowed := from.Setting(traits.ShadowedNames); shadowed {
		setup = append(setup, "SET search_path = pg_catalog") // which triggers and functions that fire meanwhile find as well
	}
	w := &writer{Writer: ddl.New(dialect, e, from, to, plan, &engine.Work{
		Client: []string{`\set ON_ERROR_STOP on`},
		Setup:  setup,
		Waits:  "5 seconds for a lock, then the step fails without trace; nexdal run tries it again",
	})}
	err := w.Each(func(i int, ch change.Change) (int, error) {
		if add, ok := ch.(change.AddPartition); !ok || strings.EqualFold(add.Bounds, "DEFAULT") {
			defer func() { w.rests = nil }()
		}
		return w.change(i, ch)
	})
	return w.Work, err
}

// Limits are the statements that say how long a step may wait for a lock and how long a
// statement may take: 5 seconds, and without end, where no time is given; and how long one
// may wait that holds nobody up meanwhile.
func (Writer) Limits(lock, statement time.Duration) []string {
	wait, patient := "5s", "10min"
	if lock > 0 {
		wait = fmt.Sprintf("%dms", lock.Milliseconds())
		patient = wait
	}
	return []string{"SET lock_timeout = " + traits.Literal(wait), fmt.Sprintf("SET statement_timeout = %d", statement.Milliseconds()), "SET lock_timeout = " + traits.Literal(patient)}
}

// settings are what the texts of a script rest on, whatever the server, the database or the
// role says otherwise. Names are all qualified.
var settings = []string{"SET client_encoding = 'UTF8'", "SET standard_conforming_strings = on", "SET DateStyle = 'ISO, YMD'", "SET IntervalStyle = 'postgres'", "SET TimeZone = 'UTC'",
	"SET default_tablespace = ''", "SET row_security = off"}

// patient lets what waits for the transactions of others, and holds nobody up meanwhile,
// wait longer: an index that gave up after it was built would have been built for nothing.
func patient(sql ...string) []string {
	limits := Writer{}.Limits(0, 0)
	return append(append([]string{limits[2]}, sql...), limits[0])
}

// Step adds a step as all engines do. What is done to a table is done to those that inherit
// from it, its partitions among them, and they are locked alike.
func (w *writer) Step(title string, l ddl.Lock, sql ...string) *engine.Step {
	return w.Writer.Step(title, w.withHeirs(l), sql...)
}

// inherited reports whether other tables inherit from the table before the script.
func (w *writer) inherited(ref catalog.Ref) bool {
	if w.lookup == nil {
		w.lookup = w.From.Lookup()
	}
	return len(w.lookup.Heirs(ref)) > 0
}

func (w *writer) withHeirs(l ddl.Lock) ddl.Lock {
	if rest, ok := strings.CutPrefix(l.Says, lockExclusive.Says); ok && w.inherited(w.Item.Change.On()) {
		l.Says = lockHeirs.Says + rest
	}
	return l
}

// change writes one change, or all that stand together in the plan from there on and are
// one statement; it returns how many.
func (w *writer) change(i int, ch change.Change) (int, error) {
	switch ch := ch.(type) {
	case change.CreateIndex:
		w.createIndex(ch)
	case change.DropIndex:
		w.dropIndex(ch)
	case change.AlterType:
		return w.alterTypes(i), nil
	case change.SetNullable:
		w.setNullable(ch)
	case change.AddColumn:
		w.addColumn(ch)
	case change.DropColumn:
		w.dropColumn(ch)
	case change.AddKey:
		if columnOf(w.Plan, ch) < 0 {
			w.addKey(ch)
		}
	case change.DropKey:
		w.Step(ch.Title(), lockExclusive, dialect.Alter(ch.Table, "DROP CONSTRAINT "+traits.Ident(ch.Name)))
	case change.ReplaceKey:
		w.replaceKey(ch)
	case change.AddSurrogateKey:
		w.addSurrogateKey(ch)
	case change.Undo[change.AddSurrogateKey]:
		w.dropSurrogateKey(ch)
	case change.BackfillColumn:
		w.backfill(ch)
	case change.AddForeignKey:
		w.addForeignKey(ch)
	case change.ValidateForeignKey:
		w.AskOrphans(ch.Table, ch.ForeignKey)
		w.Step(ch.Title(), w.Sized(lockNone, ch.Table), dialect.Alter(ch.Table, "VALIDATE CONSTRAINT "+traits.Ident(ch.ForeignKey.Name)))
	case change.DropForeignKey:
		w.Step(ch.Title(), lockReference, dialect.Alter(ch.Table, "DROP CONSTRAINT "+traits.Ident(ch.ForeignKey.Name)))
	case change.AlterForeignKey:
		w.alterForeignKey(ch)
	case change.SetSetting:
		w.setSetting(ch)
	case change.AddCheck:
		w.addCheck(ch)
	case change.DropCheck:
		w.Step(ch.Title(), lockExclusive, dialect.Alter(ch.Table, "DROP CONSTRAINT "+traits.Ident(ch.Check.Name)))
	case change.ValidateCheck:
		w.validateCheck(ch)
	case change.Undo[change.ValidateCheck]:
		w.invalidateCheck(ch)
	case change.SetDefault:
		w.setDefault(ch)
	case change.Rename:
		w.rename(ch)
	case change.RebuildIndex:
		w.rebuildIndex(ch)
	case change.CompleteIndex:
		w.completeIndex(ch)
	case change.DropSequence:
		w.Step(ch.Title(), ddl.Takes("ACCESS EXCLUSIVE on the sequence for a moment: who takes numbers waits", engine.BlocksBriefly), "DROP SEQUENCE "+traits.Qualified(ch.Schema, ch.Sequence.Name))
	case change.CreateSequence:
		w.createSequence(ch)
	case change.SetNumbering:
		w.setNumbering(ch)
	case change.AdvanceSequence:
		w.advanceSequence(ch)
	case change.DetachPartition:
		w.askReferrers(ch)
		w.Step(ch.Title(), ddl.Takes("ACCESS EXCLUSIVE on the whole and the partition for a moment: their readers and writers wait", engine.BlocksBriefly),
			fmt.Sprintf("ALTER TABLE %s DETACH PARTITION %s", traits.Relation(ch.Of), traits.Relation(ch.Part)))
	case change.Undo[change.DetachPartition]:
		w.Step(ch.Title(), w.Sized(ddl.Takes("SHARE UPDATE EXCLUSIVE on the whole, ACCESS EXCLUSIVE on the partition while its rows are looked through", engine.BlocksAtWork), ch.On()),
			fmt.Sprintf("ALTER TABLE ONLY %s ATTACH PARTITION %s %s", traits.Relation(ch.Of.Of), traits.Relation(ch.On()), ch.Before.Bounds))
	case change.RenameTable:
		s := w.Step(ch.Title(), lockExclusive, dialect.Alter(ch.Table, "RENAME TO "+traits.Ident(ch.To)))
		s.Notes = append(s.Notes, "programs that name the table have to name it otherwise from then on; its indexes keep their names")
	case change.SplitSequence:
		w.splitSequence(ch)
	case change.Undo[change.SplitSequence]:
		w.joinSequence(ch)
	case change.MakeIdentity:
		w.makeIdentity(ch)
	case change.Undo[change.MakeIdentity]:
		w.numberByTrigger(ch)
	case change.Maintain:
		w.maintain(ch)
	case change.PartitionTable:
		return 1, w.partitionTable(ch)
	case change.Undo[change.PartitionTable]:
		w.unpartitionTable(ch)
	case change.AddPartition:
		w.addPartition(ch)
	case change.Undo[change.AddPartition]:
		w.dropPartition(ch)
	case change.SetTrigger:
		w.setTrigger(ch)
	case change.ReplaceView:
		w.replaceView(ch)
	case change.ReplaceRoutine:
		w.replaceRoutine(ch)
	case change.ReplaceTrigger:
		w.replaceTrigger(ch)
	case change.AlterSequence:
		w.alterSequence(ch)
	case change.SetComment:
		w.setComment(ch)
	case change.CreateObjects:
		w.createObjects(ch)
	default:
		return 0, nil
	}
	return 1, nil
}

func (w *writer) setNullable(ch change.SetNullable) {
	c := traits.Ident(ch.Column)
	if can := (Writer{}).Abilities(w.From.Engine.Version); can.NotNullName != nil {
		w.setNotNull(ch, can)
		return
	}
	if ch.Nullable {
		w.Step(ch.Title(), lockExclusive, dialect.Alter(ch.Table, "ALTER COLUMN "+c+" DROP NOT NULL"))
		return
	}
	w.AskNulls(ch.Table, ch.Column)
	// A validated check spares SET NOT NULL its scan under the strong lock.
	name := traits.Ident(catalog.NewNames(w.Now, 63).Free(ch.Table.Schema, "check", "nexdal", ch.Table.Table, ch.Column))
	w.validated(ch.Title(), lockExclusive, ch.Table, name,
		[]string{dialect.Alter(ch.Table, fmt.Sprintf("ADD CONSTRAINT %s CHECK (%s IS NOT NULL) NOT VALID", name, c))},
		dialect.Alter(ch.Table, "ALTER COLUMN "+c+" SET NOT NULL", "DROP CONSTRAINT "+name))
}

// validated adds a step that declares a constraint first and has the rows checked
// afterwards, under a weak lock
// (https://www.postgresql.org/docs/current/sql-altertable.html, "NOT VALID"). Until they
// are, the constraint is in force for what is written: where the rows break it, it is
// dropped again.
func (w *writer) validated(title string, l ddl.Lock, on catalog.Ref, name string, declare []string, then ...string) *engine.Step {
	l = w.withHeirs(l)
	l.Says += ", and neither readers nor writers while the rows are checked"
	l = w.Sized(l, on)
	return w.Add(engine.Step{Title: title, Lock: l.Says, Blocks: l.Blocks, CleanUp: dialect.Alter(on, "DROP CONSTRAINT IF EXISTS "+name),
		SQL: append(append(slices.Clone(declare), dialect.Alter(on, "VALIDATE CONSTRAINT "+name)), then...)})
}

// alterTypes writes the type changes of one table, which stand together in
// the plan, as one statement; it returns how many there were.
func (w *writer) alterTypes(first int) int {
	var actions, kept, titles []string
	on := w.Item.Change.On()
	rewrites := false
	for i, it := range w.Plan[first:] {
		ch, ok := it.Change.(change.AlterType)
		if !ok || ch.Table != on {
			break
		}
		if i > 0 {
			w.With(first + i)
		}
		w.AskUnfit(ch, unfit(ch))
		collate := ""
		if ch.To.Collation != "" {
			collate = " COLLATE " + traits.CollationName(ch.To.Collation)
		} else if ch.From.Collation != "" {
			collate = ` COLLATE "default"`
		}
		actions = append(actions, fmt.Sprintf("ALTER COLUMN %s TYPE %s%s USING %s::%s", traits.Ident(ch.Column), ch.To.Native, collate, traits.Ident(ch.Column), ch.To.Native))
		if c := w.Now.Table(on).Column(ch.Column); c != nil {
			kept = append(kept, stored(c)...)
		}
		titles = append(titles, ch.Title())
		rewrites = rewrites || !(ch.From.Family == catalog.Text && ch.To.Family == catalog.Text && !ch.To.Padded && !ch.From.Padded && (ch.To.Length == 0 || ch.From.Length != 0 && ch.From.Length < ch.To.Length))
	}
	l := lockRecheck
	if rewrites {
		l = lockRetype
	}
	w.Step(strings.Join(titles, "; "), w.Sized(l, on), append([]string{dialect.Alter(on, slices.Concat(actions, kept)...)}, w.offAgain(on, w.Plan[first:first+len(actions)])...)...)
	return len(actions)
}

// stored are the clauses of ALTER TABLE that say how a column's values are stored; with
// another type it would be that type's own way
// (https://www.postgresql.org/docs/current/storage-toast.html).
func stored(c *catalog.Column) []string {
	var clauses []string
	for _, o := range c.Options {
		for _, kind := range []string{"storage ", "compression "} {
			if what, ok := strings.CutPrefix(o, kind); ok {
				clauses = append(clauses, "ALTER COLUMN "+traits.Ident(c.Name)+" SET "+strings.ToUpper(kind)+what)
			}
		}
	}
	return clauses
}

// offAgain switches foreign keys off that were off: the engine re-creates them, and
// switched on, where a column on either side gets another type.
func (w *writer) offAgain(on catalog.Ref, changes change.Plan) (sql []string) {
	for _, t := range w.Now.Tables() {
		for _, f := range t.ForeignKeys {
			if f.Disabled && slices.ContainsFunc(changes, func(it change.Item) bool {
				ch := it.Change.(change.AlterType)
				return t.Ref() == on && slices.Contains(f.Columns, ch.Column) || f.Target == on && slices.Contains(f.TargetColumns, ch.Column)
			}) {
				sql = append(sql, switchOff(t.Ref(), f))
			}
		}
	}
	return sql
}

func (w *writer) addColumn(ch change.AddColumn) {
	col, lock := ch.Column, lockExclusive
	bare := *col
	bare.Sequence, bare.Inherited = nil, false
	text, _ := newCreator(w.Now).column(&catalog.Table{Name: ch.Table.Table}, &bare, false)
	actions := []string{"ADD COLUMN " + text}
	title := ch.Title()
	for i, it := range w.Plan {
		if k, ok := it.Change.(change.AddKey); ok && columnOf(w.Plan, k) == w.At[0] {
			actions = append(actions, fmt.Sprintf("ADD CONSTRAINT %s PRIMARY KEY (%s)", traits.Ident(k.Key.Name), traits.Idents(k.Key.Columns)))
			title += " as its primary key"
			w.At = append(w.At, i)
			break
		}
	}
	numbered := col.Identity == catalog.IdentityAlways || col.Identity == catalog.IdentityByDefault
	if numbered || col.Generated != "" || len(actions) > 1 {
		lock = w.Sized(lockRewrite, ch.Table) // a default alone is kept once for all rows
	}
	w.AskUnvalued(ch.Table, col)
	s := w.Step(title, lock, dialect.Alter(ch.Table, actions...))
	s.Notes = append(s.Notes, "programs that select * see one column more")
	if col.Comment != "" {
		w.Step(title+": its comment", lockNone, fmt.Sprintf("COMMENT ON COLUMN %s.%s IS %s", traits.Relation(ch.Table), traits.Ident(col.Name), traits.Literal(col.Comment)))
	}
}

// columnOf returns the place of the change that adds the column of a new
// primary key, or -1: the two are written together, so that the table is
// locked and rewritten once.
func columnOf(plan change.Plan, k change.AddKey) int {
	at := slices.IndexFunc(plan, func(it change.Item) bool {
		c, ok := it.Change.(change.AddColumn)
		return ok && k.Primary && k.Table == c.Table && slices.Equal(k.Key.Columns, []string{c.Column.Name})
	})
	if at >= 0 && slices.ContainsFunc(plan[at:], func(it change.Item) bool {
		switch d := it.Change.(type) {
		case change.DropKey:
			return d.Primary && d.Table == k.Table
		case change.ReplaceKey:
			return d.From.Primary && d.Table == k.Table
		}
		return false
	}) {
		return -1 // another primary key has to go first
	}
	return at
}

func (w *writer) dropColumn(ch change.DropColumn) {
	s := w.Step(ch.Title(), lockExclusive, dialect.Alter(ch.Table, "DROP COLUMN "+traits.Ident(ch.Column)))
	s.Notes = append(s.Notes, fmt.Sprintf("the values of %s are lost", ch.Column))
}

func (w *writer) setSetting(ch change.SetSetting) {
	sql := fmt.Sprintf("ALTER DATABASE %s RESET %s", traits.Ident(w.Now.Database), traits.Ident(ch.Name))
	if ch.To != "" {
		sql = fmt.Sprintf("ALTER DATABASE %s SET %s = %s", traits.Ident(w.Now.Database), traits.Ident(ch.Name), traits.Literal(ch.To))
	}
	s := w.Step(ch.Title(), ddl.Takes("none; sessions that are open keep the old value", engine.BlocksNobody), sql)
	s.Notes = append(s.Notes, "only a superuser may set this")
}
