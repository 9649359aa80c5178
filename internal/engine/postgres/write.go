package postgres

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
	"nexdal/internal/phrase"
)

// A lock is what a step takes, as
// https://www.postgresql.org/docs/current/explicit-locking.html names it, and
// what it means to others.
type lock struct {
	says   string
	blocks engine.Blocking
}

var (
	lockNone      = lock{"SHARE UPDATE EXCLUSIVE: neither readers nor writers wait", engine.BlocksNobody}
	lockExclusive = lock{"ACCESS EXCLUSIVE for a moment: readers and writers of the table wait", engine.BlocksBriefly}
	lockReference = lock{"ACCESS EXCLUSIVE on both tables for a moment: their readers and writers wait", engine.BlocksBriefly}
	lockShared    = lock{"SHARE ROW EXCLUSIVE on both tables for a moment: their writers wait", engine.BlocksBriefly}
	lockSwitch    = lock{"SHARE ROW EXCLUSIVE for a moment: writers of the table wait", engine.BlocksBriefly}
	lockTied      = lock{"ACCESS EXCLUSIVE on the table and those that refer to it for a moment: readers and writers wait", engine.BlocksBriefly}
	lockParts     = lock{"ACCESS EXCLUSIVE on the table and its partitions for a moment: their readers and writers wait", engine.BlocksBriefly}
	lockRewrite   = lock{"ACCESS EXCLUSIVE while the table is written anew: readers and writers of the table wait", engine.BlocksAtWork}
	lockRetype    = lock{"ACCESS EXCLUSIVE while the table and its indexes are written anew: readers and writers of the table wait, and writers of those that it is tied to", engine.BlocksAtWork}
	lockRecheck   = lock{"ACCESS EXCLUSIVE while the foreign keys are checked anew: readers and writers of the table wait, and writers of those that it is tied to", engine.BlocksAtWork}
	lockBuild     = lock{"ACCESS EXCLUSIVE on the table and its partitions while the indexes are built: readers and writers wait", engine.BlocksAtWork}
)

// Refuses says why the change cannot be written, or "".
func (Engine) Refuses(c *catalog.Catalog, ch change.Change) string {
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
	switch ch := ch.(type) {
	case change.ReplaceTrigger:
		return refusesTrigger(t, ch)
	case change.AddColumn:
		if t.Has("of a type") {
			return fmt.Sprintf("%s is made of a composite type, to which the column would have to be added", t.Name)
		}
	case change.AddKey:
		if t.PartitionBy != nil && !catalog.Within(t.PartitionBy.Columns, ch.Key.Columns) {
			return fmt.Sprintf("a key of the partitioned table %s has to hold its partition columns", t.Name)
		}
	case change.AddForeignKey:
		if ch.Again {
			return "" // it was there, and so it can be
		}
		if target := c.Table(ch.ForeignKey.Target); t.Kind == catalog.Partitioned || t.PartitionOf != nil || target != nil && target.Kind == catalog.Partitioned {
			return "a foreign key of or to a partitioned table is added with those of its partitions, which is left to a person"
		}
	case change.AlterForeignKey:
		if ch.Old.Disabled && (t.Kind == catalog.Partitioned || t.PartitionOf != nil) {
			return "a foreign key of a partitioned table is switched on with those of its partitions, which is left to a person"
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
		return refusesType(t, ch)
	case change.PartitionTable:
		return refusesDivide(c, t, ch)
	case change.SetSpread, change.SetSortKey, change.SetEncoding:
		return "tables are not spread over a cluster here"
	case change.Maintain:
		if ch.What == change.SortRows {
			return "rows are kept in no order here"
		}
		if ch.What == change.RebuildIndexes && !atLeast(c.Engine.Version, 12) {
			return "indexes are rebuilt beside others from version 12 on"
		}
	case change.AddPartition:
		if ch.From != "" {
			for _, r := range c.Lookup().Referrers(t.Ref()) {
				return fmt.Sprintf("foreign key %s of %s refers to it: the engine would take moved rows for deleted ones", r.ForeignKey.Label(), r.Table.Ref())
			}
		}
	case change.DropKey:
		if t.Kind == catalog.Partitioned {
			return "the key of a partitioned table could not be put back under the names that its partitions have it by"
		}
	case change.DropIndex:
		if t.Kind == catalog.Partitioned {
			return "the index of a partitioned table cannot be dropped and put back without blocking writers of every partition"
		}
	}
	return ""
}

func refusesType(t *catalog.Table, ch change.AlterType) string {
	col := t.Column(ch.Column)
	switch {
	case col == nil:
		return fmt.Sprintf("column %s of %s does not exist", ch.Column, t.Ref())
	case t.Has("of a type"):
		return fmt.Sprintf("%s is made of a composite type", t.Name)
	case ch.From.Family == catalog.Timestamp && ch.To.Family == catalog.Timestamp && ch.From.Zoned != ch.To.Zoned:
		return "what a moment means would depend on the session's time zone"
	case col.Default != "" && ch.From.Family != ch.To.Family:
		return fmt.Sprintf("the default of %s.%s is not of the new type", t.Name, ch.Column)
	}
	return ""
}

// writer gathers the steps of one plan.
type writer struct {
	from *catalog.Catalog // as it is
	now  *catalog.Catalog // as it will be before the change that is being written
	work *engine.Work
	item change.Item
	at   []int // places of what is being written
	// rests are the default partitions that were looked for, by their whole; nil: there
	// is none. Cleared by whatever may make another.
	rests map[catalog.Ref]*catalog.Table
}

// Write turns the plan into steps, choosing for each change the form that
// blocks least: indexes CONCURRENTLY, references NOT VALID and validated
// afterwards, keys on an index that is there already.
func (Engine) Write(from, _ *catalog.Catalog, plan change.Plan) (*engine.Work, error) {
	can := Engine{}.Abilities(from.Engine.Version)
	w := &writer{from: from, now: from.Clone(), work: &engine.Work{
		Client: []string{`\set ON_ERROR_STOP on`},
		Setup:  []string{"SET lock_timeout = '5s'", "SET statement_timeout = 0"},
		Waits:  "5 seconds for a lock, then the step fails without trace; nexdal run tries it again",
	}}
	for i := 0; i < len(plan); i++ {
		first := i
		w.item, w.at = plan[i], []int{i}
		switch ch := plan[i].Change.(type) {
		case change.CreateIndex:
			w.createIndex(ch)
		case change.DropIndex:
			w.dropIndex(ch)
		case change.AlterType:
			i += w.alterTypes(plan[i:], i) - 1
		case change.SetNullable:
			w.setNullable(ch)
		case change.AddColumn:
			w.addColumn(ch, plan)
		case change.DropColumn:
			w.dropColumn(ch)
		case change.AddKey:
			if columnOf(plan, ch) < 0 {
				w.addKey(ch)
			}
		case change.DropKey:
			w.step(ch.Title(), lockExclusive, alter(ch.Table, "DROP CONSTRAINT "+ident(ch.Name)))
		case change.ReplaceKey:
			w.replaceKey(ch)
		case change.AddSurrogateKey:
			w.numberKey(ch)
		case change.Undo[change.AddSurrogateKey]:
			w.unnumberKey(ch)
		case change.BackfillColumn:
			w.fillColumn(ch)
		case change.AddForeignKey:
			w.addForeignKey(ch)
		case change.ValidateForeignKey:
			w.askOrphans(ch.Table, ch.ForeignKey)
			w.step(ch.Title(), w.reading(lockNone, ch.Table), alter(ch.Table, "VALIDATE CONSTRAINT "+ident(ch.ForeignKey.Name)))
		case change.DropForeignKey:
			w.step(ch.Title(), lockReference, alter(ch.Table, "DROP CONSTRAINT "+ident(ch.ForeignKey.Name)))
		case change.AlterForeignKey:
			w.alterForeignKey(ch)
		case change.SetSetting:
			w.setSetting(ch)
		case change.AddCheck:
			w.addCheck(ch)
		case change.DropCheck:
			w.step(ch.Title(), lockExclusive, alter(ch.Table, "DROP CONSTRAINT "+ident(ch.Check.Name)))
		case change.ValidateCheck:
			w.validateCheck(ch)
		case change.Undo[change.ValidateCheck]:
			w.forgetCheck(ch)
		case change.SetDefault:
			w.setDefault(ch)
		case change.Rename:
			w.rename(ch)
		case change.RebuildIndex:
			w.rebuildIndex(ch)
		case change.CompleteIndex:
			w.completeIndex(ch)
		case change.DropSequence:
			w.step(ch.Title(), lock{"ACCESS EXCLUSIVE on the sequence for a moment: who takes numbers waits", engine.BlocksBriefly}, "DROP SEQUENCE "+qualified(ch.Schema, ch.Sequence.Name))
		case change.CreateSequence:
			w.createSequence(ch)
		case change.SetNumbering:
			w.renumber(ch)
		case change.SetCycle:
			w.alterSequence(ch.Title(), ch.Schema, ch.Name, map[bool]string{true: "CYCLE", false: "NO CYCLE"}[ch.Cycle])
		case change.OwnSequence:
			owner := "NONE"
			if by := ch.By; by != nil {
				owner = relation(by.Ref()) + "." + ident(by.Column)
			}
			w.alterSequence(ch.Title(), ch.Schema, ch.Name, "OWNED BY "+owner)
		case change.AdvanceSequence:
			w.setNext(ch)
		case change.DetachPartition:
			w.askReferrers(ch)
			w.step(ch.Title(), lock{"ACCESS EXCLUSIVE on the whole and the partition for a moment: their readers and writers wait", engine.BlocksBriefly},
				fmt.Sprintf("ALTER TABLE %s DETACH PARTITION %s", relation(ch.Of), relation(ch.Part)))
		case change.Undo[change.DetachPartition]:
			w.step(ch.Title(), w.reading(lock{"SHARE UPDATE EXCLUSIVE on the whole, ACCESS EXCLUSIVE on the partition while its rows are looked through", engine.BlocksAtWork}, ch.On()),
				fmt.Sprintf("ALTER TABLE ONLY %s ATTACH PARTITION %s %s", relation(ch.Of.Of), relation(ch.On()), ch.Before.Bounds))
		case change.RenameTable:
			s := w.step(ch.Title(), lockExclusive, alter(ch.Table, "RENAME TO "+ident(ch.To)))
			s.Notes = append(s.Notes, "programs that name the table have to name it otherwise from then on; its indexes keep their names")
		case change.AddLookupTable:
			w.addLookup(ch)
		case change.Undo[change.AddLookupTable]:
			w.dropLookup(ch)
		case change.SetRange:
			as := ""
			if ch.ToType != ch.FromType {
				as = "AS " + ch.ToType + " "
			}
			w.alterSequence(ch.Title(), ch.Schema, ch.Name, fmt.Sprintf("%sMAXVALUE %d", as, ch.ToMost))
		case change.SplitSequence:
			w.splitSequence(ch)
		case change.Undo[change.SplitSequence]:
			w.joinSequence(ch)
		case change.MakeIdentity:
			w.numberItself(ch)
		case change.Undo[change.MakeIdentity]:
			w.numberByTrigger(ch)
		case change.Maintain:
			w.tend(ch)
		case change.PartitionTable:
			if err := w.divide(ch); err != nil {
				return nil, err
			}
		case change.Undo[change.PartitionTable]:
			w.undivide(ch)
		case change.AddPartition:
			w.addPartition(ch)
		case change.Undo[change.AddPartition]:
			w.dropPartition(ch)
		case change.SetTrigger:
			w.setTrigger(ch)
		case change.ReplaceView:
			w.redefineView(ch)
		case change.ReplaceRoutine:
			w.redefineRoutine(ch)
		case change.ReplaceTrigger:
			w.replaceTrigger(ch)
		case change.AlterSequence:
			w.countOtherwise(ch)
		case change.SetComment:
			w.setComment(ch)
		case change.CreateObjects:
			w.build(ch)
		case change.DropObjects:
			w.raze(ch)
		case change.Undo[change.BackfillColumn], change.NoReversal:
		default:
			return nil, fmt.Errorf("%s cannot be written for PostgreSQL", ch.Title())
		}
		for _, it := range plan[first : i+1] {
			if add, ok := it.Change.(change.AddPartition); !ok || strings.EqualFold(add.Bounds, "DEFAULT") {
				w.rests = nil
			}
			if err := it.Apply(w.now, can); err != nil {
				return nil, fmt.Errorf("%s: %w", it.Change.Title(), err)
			}
		}
	}
	return w.work, nil
}

// step adds a step that runs as one transaction.
func (w *writer) step(title string, l lock, sql ...string) *engine.Step {
	if len(sql) > 1 {
		sql = append(append([]string{"BEGIN"}, sql...), "COMMIT")
	}
	return w.add(engine.Step{Title: title, Lock: l.says, Blocks: l.blocks, Transaction: true, SQL: sql})
}

func (w *writer) add(s engine.Step) *engine.Step {
	s.Answers, s.Changes = w.item.Answers, w.at
	if on := w.item.Change.On(); on != (catalog.Ref{}) {
		s.Tables = []catalog.Ref{on}
	}
	w.work.Steps = append(w.work.Steps, s)
	return &w.work.Steps[len(w.work.Steps)-1]
}

// ask adds a pre-flight question for the step that comes next.
func (w *writer) ask(title, sql string) {
	w.work.Preflight = append(w.work.Preflight, engine.Question{Title: title, Step: len(w.work.Steps) + 1, Answers: w.item.Answers, SQL: sql})
}

func alter(table catalog.Ref, actions ...string) string {
	return fmt.Sprintf("ALTER TABLE %s %s", relation(table), strings.Join(actions, ", "))
}

// reading adds how much a step reads, where the survey knows.
func (w *writer) reading(l lock, ref catalog.Ref) lock {
	if t := w.now.Table(ref); t != nil && t.Stats.Bytes != nil && *t.Stats.Bytes > 0 {
		l.says += "; reads " + phrase.Size(*t.Stats.Bytes)
	}
	return l
}

func (w *writer) setNullable(ch change.SetNullable) {
	c := ident(ch.Column)
	if ch.Nullable {
		w.step(ch.Title(), lockExclusive, alter(ch.Table, "ALTER COLUMN "+c+" DROP NOT NULL"))
		return
	}
	w.ask(fmt.Sprintf("rows of %s where %s is null", ch.Table, ch.Column),
		fmt.Sprintf("SELECT * FROM %s WHERE %s IS NULL LIMIT %d", relation(ch.Table), c, shownRows))
	// A validated check spares SET NOT NULL its scan under the strong lock.
	name := ident(catalog.NewNames(w.now, 63).Free(ch.Table.Schema, "check", "nexdal", ch.Table.Table, ch.Column))
	w.step(ch.Title()+": promise it", lockExclusive, alter(ch.Table, fmt.Sprintf("ADD CONSTRAINT %s CHECK (%s IS NOT NULL) NOT VALID", name, c)))
	w.step(ch.Title()+": check the rows", w.reading(lockNone, ch.Table), alter(ch.Table, "VALIDATE CONSTRAINT "+name))
	w.step(ch.Title(), lockExclusive, alter(ch.Table, "ALTER COLUMN "+c+" SET NOT NULL"), alter(ch.Table, "DROP CONSTRAINT "+name))
}

// alterTypes writes the type changes of one table, which stand together in
// the plan, as one statement; it returns how many there were.
func (w *writer) alterTypes(rest change.Plan, at int) int {
	var actions, titles []string
	on, n := rest[0].Change.On(), 0
	rewrites := false
	for _, it := range rest {
		ch, ok := it.Change.(change.AlterType)
		if !ok || ch.Table != on {
			break
		}
		if n > 0 {
			w.at = append(w.at, at+n)
		}
		n++
		w.item.Answers = change.Union(w.item.Answers, it.Answers)
		if title, sql, ok := narrowed(ch); ok {
			w.ask(title, sql)
		}
		collate := ""
		if ch.To.Collation != "" {
			collate = " COLLATE " + collationName(ch.To.Collation)
		} else if ch.From.Collation != "" {
			collate = ` COLLATE "default"`
		}
		actions = append(actions, fmt.Sprintf("ALTER COLUMN %s TYPE %s%s USING %s::%s", ident(ch.Column), ch.To.Native, collate, ident(ch.Column), ch.To.Native))
		titles = append(titles, ch.Title())
		rewrites = rewrites || !(ch.From.Family == catalog.Text && ch.To.Family == catalog.Text && !ch.To.Padded && !ch.From.Padded && (ch.To.Length == 0 || ch.From.Length != 0 && ch.From.Length < ch.To.Length))
	}
	l := lockRecheck
	if rewrites {
		l = lockRetype
	}
	w.step(strings.Join(titles, "; "), w.reading(l, on), append([]string{alter(on, actions...)}, w.offAgain(on, rest[:n])...)...)
	return n
}

// offAgain switches foreign keys off that were off: the engine makes them anew, and
// switched on, where a column on either side gets another type.
func (w *writer) offAgain(on catalog.Ref, changes change.Plan) (sql []string) {
	for _, t := range w.now.Tables() {
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

func (w *writer) addColumn(ch change.AddColumn, plan change.Plan) {
	col, lock := ch.Column, lockExclusive
	c := creator{sequences: map[catalog.Ref]*catalog.Sequence{}}
	bare := *col
	bare.Sequence, bare.Inherited = nil, false
	text, _ := c.column(&catalog.Table{}, &bare, false)
	actions := []string{"ADD COLUMN " + text}
	title := ch.Title()
	for i, it := range plan {
		if k, ok := it.Change.(change.AddKey); ok && columnOf(plan, k) == w.at[0] {
			actions = append(actions, fmt.Sprintf("ADD CONSTRAINT %s PRIMARY KEY (%s)", ident(k.Key.Name), idents(k.Key.Columns)))
			title += " as its primary key"
			w.at = append(w.at, i)
			break
		}
	}
	numbered := col.Identity == catalog.IdentityAlways || col.Identity == catalog.IdentityByDefault
	if numbered || col.Generated != "" || len(actions) > 1 {
		lock = w.reading(lockRewrite, ch.Table) // a default alone is kept once for all rows
	}
	if !col.Nullable && col.Default == "" && !numbered && col.Generated == "" {
		w.ask(fmt.Sprintf("rows of %s, for which the new column %s has no value", ch.Table, col.Name), fmt.Sprintf("SELECT * FROM %s LIMIT 1", relation(ch.Table)))
	}
	s := w.step(title, lock, alter(ch.Table, actions...))
	s.Notes = append(s.Notes, "programs that select * see one column more")
	if col.Comment != "" {
		w.step(title+": its comment", lockNone, fmt.Sprintf("COMMENT ON COLUMN %s.%s IS %s", relation(ch.Table), ident(col.Name), literal(col.Comment)))
	}
}

// columnOf returns the place of the change that adds the column of a new
// primary key, or -1: the two are written together, so that the table is
// locked and written anew once.
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
	s := w.step(ch.Title(), lockExclusive, alter(ch.Table, "DROP COLUMN "+ident(ch.Column)))
	s.Notes = append(s.Notes, fmt.Sprintf("the values of %s are lost", ch.Column))
}

func (w *writer) setSetting(ch change.SetSetting) {
	sql := fmt.Sprintf("ALTER DATABASE %s RESET %s", ident(w.now.Database), ident(ch.Name))
	if ch.To != "" {
		sql = fmt.Sprintf("ALTER DATABASE %s SET %s = %s", ident(w.now.Database), ident(ch.Name), literal(ch.To))
	}
	s := w.step(ch.Title(), lock{"none; sessions that are open keep the old value", engine.BlocksNobody}, sql)
	s.Notes = append(s.Notes, "only a superuser may set this")
}
