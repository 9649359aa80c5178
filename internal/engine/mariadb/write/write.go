// Package write writes the DDL of MariaDB and the other servers of its family: changes of a structure,
// and whole ones.
package write

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
	"nexdal/internal/engine/ddl"
	"nexdal/internal/engine/mariadb/traits"
	"nexdal/internal/engine/sqlexpr"
)

// A Writer writes for a server of the family.
type Writer struct{ traits.Traits }

// keepsHistory reports whether the change leaves the rows of before as they are: the engine makes
// it without system_versioning_alter_history (https://mariadb.com/kb/en/system-versioned-tables/).
func keepsHistory(ch change.Change) bool {
	switch ch := ch.(type) {
	case change.AddForeignKey, change.DropForeignKey, change.DropIndex:
		return true
	case change.CreateIndex:
		return !ch.Index.Unique
	}
	return false
}

// Refuses says why the change cannot be written, or "".
func (e Writer) Refuses(c *catalog.Catalog, ch change.Change) string {
	if why := e.refusesKind(c, ch); why != "" {
		return why
	}
	t := c.Table(ch.On())
	if t == nil {
		switch ch.(type) {
		case change.SetSetting:
			return "the setting is the server's"
		case change.CreateSequence, change.DropSequence, change.CreateObjects, change.DropObjects, change.AddLookupTable:
			return ""
		case change.ReplaceView, change.ReplaceRoutine, change.AlterSequence:
			return refusesText(c, ch)
		}
		return fmt.Sprintf("table %s does not exist", ch.On())
	}
	if why := refusesStorage(t, ch); why != "" {
		return why
	}
	if t.Has("system versioned") && !keepsHistory(ch) {
		return fmt.Sprintf("%s is system versioned, and its history would be altered with it", t.Name)
	}
	switch ch := ch.(type) {
	case change.ReplaceTrigger, change.SetComment, change.AlterSequence:
		return refusesText(c, ch)
	case change.DropIndex, change.DropKey:
		return ""
	case change.AddKey:
		if t.PartitionBy != nil && !catalog.Within(t.CutBy(Expressions), ch.Key.Columns) {
			return fmt.Sprintf("a key of the partitioned table %s has to hold its partition columns", t.Name)
		}
	case change.ReplaceKey:
		if ch.From.Key == nil || ch.To.Key == nil {
			return "every unique index is a constraint here"
		}
		for _, other := range c.Tables() {
			for _, f := range other.ForeignKeys {
				if f.Target == ch.Table && f.TargetIndex == ch.From.Key.Index {
					return fmt.Sprintf("foreign key %s of %s leans on the unique key", f.Name, other.Ref())
				}
			}
		}
	case change.AddCheck:
		if strings.ContainsFunc(ch.Check.Expression, func(c rune) bool { return c > 0xFFFF }) {
			return "a check with such a character would be kept, and shown as another: " + traits.FourBytes
		}
		for _, f := range t.ForeignKeys {
			if why := checkedByAction(f, ch.Check); why != "" {
				return why
			}
		}
	case change.AddForeignKey:
		if ch.Again {
			return "" // it was there, and so it can be
		}
		for _, k := range t.Checks {
			if why := checkedByAction(ch.ForeignKey, k); why != "" {
				return why
			}
		}
		for _, side := range []*catalog.Table{t, c.Table(ch.ForeignKey.Target)} {
			if side == nil {
				continue // comes with the same script
			}
			if side.PartitionBy != nil || slices.ContainsFunc(side.Options, func(o string) bool { return strings.HasPrefix(o, "engine ") }) {
				return "foreign keys bind InnoDB tables without partitions alone"
			}
		}
	case change.AlterType:
		if slices.Contains(t.CutBy(Expressions), ch.Column) {
			return fmt.Sprintf("%s is partitioned by %s", t.Name, ch.Column)
		}
		if why := refusesColumn(c, t, ch.Column); why != "" {
			return why
		}
		if ch.From.Family == catalog.Timestamp && ch.To.Family == catalog.Timestamp && ch.From.Zoned != ch.To.Zoned {
			return "what a moment means would depend on the session's time zone"
		}
		if ch.To.Family == catalog.Text && ch.From.Family == catalog.Text && ch.From.Collation != ch.To.Collation && traits.Charset(ch.From) != traits.Charset(ch.To) {
			return "another character set changes what the texts are kept as; see to it by hand"
		}
	case change.SetNullable:
		if col := t.Column(ch.Column); col != nil && !ch.Nullable && col.Default == "" && strings.Contains(col.Type.Native, "COMPRESSED") {
			return fmt.Sprintf("the server gives a compressed column without nulls the default '', and %s.%s has none", t.Name, ch.Column)
		}
		return refusesColumn(c, t, ch.Column)
	case change.SetDefault:
		return refusesColumn(c, t, ch.Column)
	case change.AlterForeignKey:
		if ch.Old.Name == "" {
			return "the foreign key has no name to drop it by"
		}
	case change.DropCheck:
		if ch.Check.Column != "" {
			return refusesColumn(c, t, ch.Check.Column)
		}
	case change.Rename:
		if ch.Kind != change.RenameIndex && ch.Kind != change.RenameUniqueKey {
			return "the server renames indexes and unique keys alone"
		}
	case change.AddSurrogateKey:
		if t.PartitionBy != nil {
			return fmt.Sprintf("a key of the partitioned table %s has to hold its partition columns", t.Name)
		}
	case change.AddPartition:
		return refusesGap(c, t)
	case change.PartitionTable:
		if why := refusesGap(c, t); why != "" {
			return why
		}
		for _, f := range t.ForeignKeys {
			return fmt.Sprintf("the server lets no partitioned table have foreign keys, and it has %s", f.Label())
		}
		for _, r := range c.Lookup().Referrers(t.Ref()) {
			return fmt.Sprintf("the server lets no foreign key refer to a partitioned table, as %s of %s does", r.ForeignKey.Label(), r.Table.Ref())
		}
	case change.ExtractPartition:
		if !e.Family().Convert(c.Engine.Version) {
			return "partitions are made tables by MariaDB alone, from version 10.7 on"
		}
		if t.PartitionBy.Sub != nil || len(t.Triggers) > 0 {
			return "it has triggers, or parts of parts"
		}
	case change.RebuildIndex:
		if x := t.Index(ch.Name); x == nil || !x.Invalid {
			return "an index that is valid is rebuilt with its table"
		}
	case change.Maintain:
		if ch.What == change.SortRows {
			return "rows are stored in the order of their key here"
		}
	case change.Undo[change.PartitionTable], change.Undo[change.ExtractPartition], change.CreateIndex, change.AddColumn, change.Undo[change.AddSurrogateKey], change.BackfillColumn, change.Undo[change.BackfillColumn], change.SetTrigger, change.DropColumn, change.DropForeignKey, change.AdvanceSequence, change.NoReversal:
	default:
		return "the server has no statement for it"
	}
	return ""
}

// storageEngines are those whose tables are known to be altered as InnoDB's are, each by a
// copy (https://mariadb.com/kb/en/storage-engines/).
var storageEngines = []string{"InnoDB", "MyISAM", "Aria", "MEMORY"}

// refusesStorage says why a table of its storage engine cannot be altered by a script, or "".
func refusesStorage(t *catalog.Table, ch change.Change) string {
	if _, ok := ch.(change.Maintain); ok {
		return ""
	}
	for _, o := range t.Options {
		if name, ok := strings.CutPrefix(o, "engine "); ok && !slices.ContainsFunc(storageEngines, func(k string) bool { return strings.EqualFold(k, name) }) {
			return fmt.Sprintf("tables of the storage engine %s take some changes and refuse others; see to it by hand", name)
		}
	}
	for _, x := range t.Indexes {
		if x.Pinned != "" { // some statements that alter the table make it a plain key, without a word (10.11)
			return fmt.Sprintf("key %s is declared %s, which the engine may lose when the table is altered", x.Name, x.Pinned)
		}
	}
	for _, d := range t.Dependants {
		if d.Kind == traits.MergeTable {
			return fmt.Sprintf("table %s merges it with others, and all of them have to be alike", d.Name)
		}
	}
	return ""
}

// Expressions reads those of the engine.
var Expressions = sqlexpr.Reader{Dialect: Writer{}.Dialect()}

// checkedByAction says that the engine takes no check on a column that the action of
// a foreign key writes, or "" (its error 1901).
func checkedByAction(f *catalog.ForeignKey, k *catalog.Check) string {
	if !f.Writes() {
		return ""
	}
	for _, name := range f.Columns {
		if Expressions.Mentions(k.Expression, name) {
			return fmt.Sprintf("the server takes no check on %s, which foreign key %s writes", name, f.Label())
		}
	}
	return ""
}

// ClientLine is a call of the engine's own client, which stops at the first
// error by itself.
func (e Writer) ClientLine(_, file string) string {
	return e.Family().Client + " DATABASE < " + file
}

// dialect is how the server writes what all engines have.
func (e Writer) dialect() *ddl.Dialect {
	d := *dialect
	d.Title = e.Title()
	d.Create = func(_ *ddl.Writer, t *catalog.Table) []string {
		c := &creator{server: server{e.Family()}, c: &catalog.Catalog{}, several: true, mode: map[*[]string]string{}}
		c.table(t)
		return c.objects
	}
	return &d
}

// dialect is how MariaDB writes what all engines have: each statement commits by itself.
var dialect = &ddl.Dialect{
	Title: "MariaDB", Quoting: traits.Quoting, Relation: traits.Relation, Literal: traits.Literal, Works: "; rewrites %s", Together: true,
	Drop:    dropObject,
	Outside: [2]string{"SET SESSION foreign_key_checks = 0", "SET SESSION foreign_key_checks = 1"},
	Made:    ddl.Takes("nothing that others use", engine.BlocksNobody),
	Gone:    ddl.Takes("users of what is dropped wait for a moment", engine.BlocksBriefly),
}

// A server of the family, for which statements are written.
type server struct{ *traits.Family }

func (s server) traits() traits.Traits { return traits.Traits{Is: s.Family} }

type writer struct {
	*ddl.Writer
	server
	can catalog.Abilities
}

// Write turns the plan into steps: one ALTER TABLE for each, which the engine
// carries out whole or not at all, in the form that blocks least
// (https://mariadb.com/kb/en/innodb-online-ddl-overview/).
func (e Writer) Write(from, to *catalog.Catalog, plan change.Plan) (*engine.Work, error) {
	w := &writer{ddl.New(e.dialect(), e, from, to, plan, &engine.Work{Setup: append(e.Limits(0, 0), strictMode),
		Waits: "5 seconds for a lock, then the step fails without trace; nexdal run tries it again"}), server{e.Family()}, e.Abilities(from.Engine.Version)}
	err := w.Each(func(i int, ch change.Change) (int, error) {
		n := 0
		switch ch.(type) {
		case change.AlterType, change.SetNullable, change.SetDefault:
			if n = w.alterTied(i); n == 0 {
				n = w.modify(i)
			}
		case change.AddPartition, change.Undo[change.AddPartition]:
			n = w.relist(i)
		}
		if n > 0 {
			return n, nil
		}
		return w.change(i, ch)
	})
	return w.Work, err
}

// Limits are the statements that say how long a step may wait for a lock and how long a
// statement may take: 5 seconds, and without end, where no time is given.
func (e Writer) Limits(lock, statement time.Duration) []string {
	if lock == 0 {
		lock = 5 * time.Second
	}
	limits := []string{fmt.Sprintf("SET SESSION lock_wait_timeout = %d", int(math.Ceil(lock.Seconds())))}
	if says := e.Family().Unlimited(statement); says != "" {
		limits = append(limits, says)
	}
	return limits
}

// strictMode has the engine refuse a value that does not fit, where it would
// otherwise write another in its place (https://mariadb.com/kb/en/sql-mode/).
const strictMode = "SET SESSION sql_mode = 'STRICT_ALL_TABLES,NO_AUTO_VALUE_ON_ZERO'"

// change writes one change.
func (w *writer) change(i int, ch change.Change) (int, error) {
	switch ch := ch.(type) {
	case change.CreateIndex:
		if ch.Index.Unique {
			w.AskRepeats(ch.Table, ch.Index.Columns())
		}
		w.step(ch.Title(), "NONE", "ADD "+w.indexText(ch.Index)+w.yielding(ch.Table, ch.Index))
	case change.DropIndex:
		w.step(ch.Title(), "NONE", "DROP INDEX "+traits.Ident(ch.Name)+w.putBack(ch.Restores))
	case change.RebuildIndex: // all that are switched off: https://mariadb.com/kb/en/alter-table/
		w.Step(ch.Title(), w.Sized(ddl.Takes("writers of the table wait while the index is built", engine.BlocksAtWork), ch.Table), "ALTER TABLE "+traits.Relation(ch.Table)+" ENABLE KEYS")
	case change.PartitionTable:
		w.partitionTable(ch)
	case change.Maintain:
		s := w.step(ch.Title(), "NONE", "")
		s.SQL, s.Lock = []string{"ANALYZE TABLE " + traits.Relation(ch.Table)}, "neither readers nor writers wait"
		if ch.What != change.Analyze {
			s.SQL, s.Lock, s.Blocks = []string{"OPTIMIZE TABLE " + traits.Relation(ch.Table)}, "writers wait for a moment at the beginning and the end, while the table is rewritten", engine.BlocksBriefly
		}
	case change.Undo[change.PartitionTable]:
		w.unpartitionTable(ch)
	case change.ExtractPartition:
		w.extractPartition(ch)
	case change.Undo[change.ExtractPartition]:
		w.mergePartition(ch)
	case change.AddPartition:
		w.addPartition(ch)
	case change.Undo[change.AddPartition]:
		w.dropPartition(ch)
	case change.SetTrigger:
		w.setTrigger(ch)
	case change.ReplaceView:
		w.replaceView(ch)
	case change.ReplaceRoutine:
		w.text(ch.Title(), ch.Schema, ch.New.Mode, ch.New.Definition, cmp.Or(ch.New.Owner, ch.Old.Owner), strings.ToUpper(ch.Old.Kind)+" "+traits.Relation(catalog.Ref{Schema: ch.Schema, Table: ch.Old.Name}))
	case change.ReplaceTrigger:
		w.replaceTrigger(ch)
	case change.AlterSequence:
		w.alterSequence(ch)
	case change.SetComment:
		w.setComment(ch)
	case change.CreateObjects:
		w.createObjects(ch)
	case change.AddColumn:
		if ch.Column.Identity != catalog.IdentityCounter {
			w.addColumn(ch)
			break
		}
		action := fmt.Sprintf("ADD COLUMN %s %s NOT NULL%s AUTO_INCREMENT PRIMARY KEY%s", traits.Ident(ch.Column.Name), ch.Column.Type.Native, unseen(ch.Column), placed(w.Now.Table(ch.Table), ch.Before))
		key := slices.IndexFunc(w.Plan, func(o change.Item) bool {
			k, ok := o.Change.(change.AddKey)
			return ok && k.Primary && k.Table == ch.Table && slices.Equal(k.Key.Columns, []string{ch.Column.Name})
		})
		if key < 0 {
			return 0, fmt.Errorf("column %s is added without being numbered as the key", ch.Column.Name)
		}
		w.At = append(w.At, key)
		s := w.step(ch.Title()+" as its primary key", "SHARED", action)
		s.Notes = append(s.Notes, widened(ch.Column))
	case change.AddKey:
		if w.numbered(ch) {
			return 1, nil // written with its column
		}
		x := ch.Index()
		text := "UNIQUE KEY " + traits.Ident(ch.Key.Name)
		if ch.Primary {
			text = "PRIMARY KEY"
		}
		text += " (" + indexColumns(x) + ")" + w.indexOptions(x)
		w.AskRepeats(ch.Table, ch.Key.Columns)
		w.step(ch.Title(), "NONE", "ADD "+text+w.yielding(ch.Table, behind(ch.Key)))
	case change.DropKey:
		if w.dropsColumn(ch) >= 0 {
			return 1, nil // goes with its column, which must not be without it
		}
		lock, drop := "NONE", "DROP INDEX "+traits.Ident(ch.Name)
		if ch.Primary {
			lock, drop = "", "DROP PRIMARY KEY" // rows go into another order, which only a copy can do
		}
		w.step(ch.Title(), lock, drop+w.putBack(ch.Restores))
	case change.DropColumn:
		lock, action := "NONE", "DROP COLUMN "+traits.Ident(ch.Column)
		for j, o := range w.Plan {
			if k, ok := o.Change.(change.DropKey); ok && k.Primary && w.dropsColumn(k) == i {
				lock, action = "", "DROP PRIMARY KEY, "+action // dropping the key takes a copy
				w.At = append(w.At, j)
			}
		}
		s := w.step(ch.Title(), lock, action)
		s.Notes = append(s.Notes, fmt.Sprintf("the values of %s are lost", ch.Column))
	case change.AddForeignKey:
		f := ch.ForeignKey
		unchecked := ch.Unchecked || ch.Beside(w.Now.Table(ch.Table))
		if !unchecked {
			w.AskOrphans(ch.Table, f)
		}
		if unchecked {
			s := w.step(ch.Title(), "NONE", "ADD "+w.foreignKey(f))
			s.SQL = append([]string{"SET SESSION foreign_key_checks = 0"}, append(s.SQL, append(w.keptIndex(w.Now.Table(ch.Table), f), "SET SESSION foreign_key_checks = 1")...)...)
			s.Transaction = false
			s.Notes = append(s.Notes, "the engine does not look at the rows, and the catalog does not tell: nothing but the questions will")
			break
		}
		s := w.step(ch.Title(), "", "ADD "+w.foreignKey(f))
		if kept := w.keptIndex(w.Now.Table(ch.Table), f); kept != nil {
			s.SQL, s.Transaction = append(s.SQL, kept...), false
		}
		s.Notes = append(s.Notes, "the engine checks the rows while it copies the table: with foreign_key_checks off it would not look at them")
	case change.DropForeignKey:
		w.step(ch.Title(), "NONE", "DROP FOREIGN KEY "+traits.Ident(ch.ForeignKey.Name))
	case change.ReplaceKey:
		x := ch.Index(w.Now.Table(ch.Table).Index(ch.From.Key.Index))
		parts := fmt.Sprintf("(%s)%s", indexColumns(x), w.indexOptions(x))
		drop, add := "DROP INDEX "+traits.Ident(ch.From.Key.Name), "ADD PRIMARY KEY "+parts
		if ch.From.Primary {
			drop, add = "DROP PRIMARY KEY", "ADD UNIQUE KEY "+traits.Ident(ch.To.Key.Name)+" "+parts
		}
		lock := "NONE"
		if ch.From.Primary {
			lock = "" // rows go into another order, which only a copy can do
		}
		w.step(ch.Title(), lock, drop+", "+add)
	case change.AddSurrogateKey:
		s := w.step(ch.Title(), "SHARED", fmt.Sprintf("DROP PRIMARY KEY, ADD UNIQUE KEY %s (%s), ADD COLUMN %s %s NOT NULL%s AUTO_INCREMENT PRIMARY KEY%s",
			traits.Ident(ch.Unique.Name), traits.Idents(ch.Unique.Columns), traits.Ident(ch.Column.Name), ch.Column.Type.Native, unseen(ch.Column), w.yielding(ch.Table, behind(ch.Unique))))
		s.Notes = append(s.Notes, widened(ch.Column))
	case change.Undo[change.AddSurrogateKey]:
		of := ch.Of
		s := w.step(ch.Title(), "SHARED", fmt.Sprintf("DROP COLUMN %s, DROP PRIMARY KEY, DROP INDEX %s, ADD PRIMARY KEY %s%s", traits.Ident(of.Column.Name), traits.Ident(of.Unique.Name), w.indexParts(ch.Before, of.From.Index, of.From.Columns), w.putBack(change.Yielding(ch.Before, behind(of.Unique), w.can))))
		s.Notes = append(s.Notes, fmt.Sprintf("the numbers in %s are lost", of.Column.Name))
	case change.BackfillColumn:
		s := w.step(ch.Title(), "", "")
		s.SQL = []string{fmt.Sprintf("UPDATE %s AS c JOIN %s AS p ON %s\n  SET c.%s = p.%s\n  WHERE c.%s IS NULL", traits.Relation(ch.Table), traits.Relation(ch.Via.Target), traits.Quoting.Refers(ch.Via.Columns, ch.Via.TargetColumns),
			traits.Ident(ch.Column), traits.Ident(ch.From), traits.Ident(ch.Column))}
		s.Lock = "the rows that are written, and shared the rows that they refer to: who writes one of them waits"
		s.Notes = append(s.Notes, "rows that are written meanwhile without the column keep a null there; triggers on update run for every row")
	case change.AlterForeignKey:
		w.alterForeignKey(ch)
	case change.AddCheck:
		w.addCheck(ch)
	case change.DropCheck:
		w.dropCheck(ch)
	case change.Rename:
		w.step(ch.Title(), "NONE", fmt.Sprintf("RENAME INDEX %s TO %s", traits.Ident(ch.From), traits.Ident(ch.To)))
	case change.DropSequence:
		w.Step(ch.Title(), lockSequence, "DROP SEQUENCE "+traits.Relation(catalog.Ref{Schema: ch.Schema, Table: ch.Sequence.Name}))
	case change.CreateSequence:
		w.Step(ch.Title(), lockSequence, w.createSequence(ch)...)
	case change.AdvanceSequence:
		// SETVAL takes a plain number alone (https://mariadb.com/kb/en/setval/).
		s := w.Step(ch.Title(), lockSequence,
			fmt.Sprintf("SET @nexdal = (SELECT COALESCE(CONCAT('DO SETVAL(%s, ', MAX(%s), ')'), 'DO 0') FROM %s)", strings.ReplaceAll(traits.Relation(catalog.Ref{Schema: ch.Schema, Table: ch.Sequence}), "'", "''"), traits.Ident(ch.Column), traits.Relation(ch.Table)),
			"EXECUTE IMMEDIATE @nexdal")
		s.Notes = append(s.Notes, "a sequence never goes back by this; not taken back: it would give numbers that are in use")
	default:
		return 0, nil
	}
	return 1, nil
}

// behind is the index that a key stands on.
func behind(k *catalog.Key) *catalog.Index {
	x := &catalog.Index{Name: k.Name}
	for _, c := range k.Columns {
		x.Parts = append(x.Parts, catalog.IndexPart{Column: c})
	}
	return x
}

// yielding drops, in the same statement, the indexes of foreign keys that give
// way to a new one. The engine drops those of its own making by itself, but
// cannot tell us which those are.
func (w *writer) yielding(table catalog.Ref, x *catalog.Index) string {
	t := w.Now.Table(table)
	if t == nil {
		return ""
	}
	text := ""
	for _, old := range change.Yielding(t, x, w.can) {
		text += ", DROP INDEX " + traits.Ident(old.Name)
	}
	return text
}

// putBack makes, in the statement that drops an index, those that had given
// way to it, since a foreign key must not be without one.
func (f server) putBack(restored []*catalog.Index) string {
	text := ""
	for _, x := range restored {
		text += ", ADD " + f.indexText(x)
	}
	return text
}

// numbered reports whether the key comes with a column that the plan adds.
func (w *writer) numbered(k change.AddKey) bool {
	return k.Primary && slices.ContainsFunc(w.Plan, func(o change.Item) bool {
		c, ok := o.Change.(change.AddColumn)
		return ok && c.Table == k.Table && slices.Equal(k.Key.Columns, []string{c.Column.Name})
	})
}

// dropsColumn returns the place of the change that drops the key's column.
func (w *writer) dropsColumn(k change.DropKey) int {
	return slices.IndexFunc(w.Plan, func(o change.Item) bool {
		c, ok := o.Change.(change.DropColumn)
		return ok && k.Primary && c.Table == k.Table && slices.Equal(k.Columns, []string{c.Column})
	})
}

// step adds one ALTER TABLE. InnoDB is told the weakest lock that it may take,
// and so fails at once, without trace, where it would need a stronger one.
func (w *writer) step(title, lock, actions string) *engine.Step {
	on := w.Item.Change.On()
	l := ddl.Takes("NONE: neither readers nor writers wait, except for a moment at the beginning and the end", engine.BlocksBriefly)
	t := w.Now.Table(on)
	sql := dialect.Alter(on, actions)
	switch lock = attainable(t, lock, actions); lock {
	case "":
		return w.Step(title, w.Sized(ddl.Takes("writers of the table wait while it is copied", engine.BlocksAtWork), on), sql)
	case "SHARED":
		l = w.Sized(ddl.Takes("SHARED: writers of the table wait while it is rewritten, readers do not", engine.BlocksAtWork), on)
	}
	if lock == "NONE" && w.Instant != nil && w.Instant(actions, w.From.Engine.Version) && !peculiar(t, actions) {
		return w.Step(title, ddl.Takes("neither readers nor writers wait but for a moment: only the catalog is altered", engine.BlocksBriefly), sql+", ALGORITHM=INSTANT")
	}
	beside := sql + ", ALGORITHM=INPLACE, LOCK=" + lock
	if !peculiar(t, actions) {
		return w.Step(title, l, beside)
	}
	l.Says += "; where the engine cannot, writers of the table wait while it is copied"
	if !w.Conditional { // the engine takes the weakest way that it can, and cannot be asked to try another
		return w.Step(title, l, sql)
	}
	return w.Step(title, l, fmt.Sprintf("BEGIN NOT ATOMIC\n  DECLARE EXIT HANDLER FOR 1845, 1846 %s;\n  %s;\nEND", sql, beside))
}

// unseen leaves a column out of SELECT * and of INSERT without a list of columns
// (https://mariadb.com/kb/en/invisible-columns/).
func unseen(c *catalog.Column) string {
	if c.Invisible {
		return " INVISIBLE"
	}
	return ""
}

// widened is what a further column means to those who know nothing of it.
func widened(c *catalog.Column) string {
	if c.Invisible {
		return "the column is invisible: SELECT * leaves it out, and an INSERT without a list of columns goes on as before"
	}
	return "an INSERT without a list of columns will fail from now on, and programs that select * see one column more"
}

// indexColumns are the columns of an index, in parentheses.
func indexColumns(x *catalog.Index) string {
	parts := make([]string, len(x.Parts))
	for i, p := range x.Parts {
		if parts[i] = traits.Ident(p.Column); p.Column == "" {
			parts[i] = "(" + p.Expression + ")"
		}
		if p.Length > 0 {
			parts[i] += fmt.Sprintf("(%d)", p.Length)
		}
		if p.Descending {
			parts[i] += " DESC"
		}
	}
	return strings.Join(parts, ", ")
}

func (f server) indexText(x *catalog.Index) string {
	kind := ""
	switch {
	case x.Unique:
		kind = "UNIQUE "
	case x.Method == "fulltext", x.Method == "spatial":
		kind = strings.ToUpper(x.Method) + " "
	}
	return fmt.Sprintf("%sINDEX %s (%s)%s", kind, traits.Ident(x.Name), indexColumns(x), f.indexOptions(x))
}

// indexOptions are what stands behind the columns of an index.
func (f server) indexOptions(x *catalog.Index) string {
	text := ""
	if x.Storage != "" {
		text += " " + x.Storage
	}
	if x.Comment != "" {
		text += " COMMENT " + traits.Literal(x.Comment)
	}
	if x.Ignored {
		text += " " + f.Unused
	}
	return text
}
