package oracle

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
)

// dialect is how Oracle writes what all engines have: each statement that defines something
// commits by itself (https://docs.oracle.com/en/database/oracle/oracle-database/19/sqlrf/Types-of-SQL-Statements.html).
var dialect = &ddl.Dialect{
	Title: "Oracle", Quoting: quoting, Relation: relation, Literal: literal, Works: "; works on %s",
	Create: func(_ *ddl.Writer, t *catalog.Table) []string { return tableText(t) },
	Drop: func(m *catalog.Member) string {
		at := qualified(m.Schema, m.Name)
		switch {
		case m.View != nil && m.View.Materialised:
			return "DROP MATERIALIZED VIEW " + at
		case m.Routine != nil && m.Routine.Kind == "package body":
			return "DROP PACKAGE BODY " + qualified(m.Schema, m.Routine.Name)
		case m.Routine != nil:
			return ddl.DropText(m, qualified(m.Schema, m.Routine.Name))
		case m.Object != nil && (m.Object.Kind == "synonym" || m.Object.Kind == "type" || m.Object.Kind == "type body"):
			return "DROP " + strings.ToUpper(m.Object.Kind) + " " + at
		}
		return ddl.DropText(m, at)
	},
	Made: ddl.Takes("nothing that others use", engine.BlocksNobody),
	Gone: ddl.Takes("users of what is dropped wait for a moment; a table goes to the recycle bin", engine.BlocksBriefly),
}

// Limits say how long a step may wait for a lock
// (https://docs.oracle.com/en/database/oracle/oracle-database/19/refrn/DDL_LOCK_TIMEOUT.html). How
// long a statement may take is the profile's to limit.
func (Engine) Limits(lock, _ time.Duration) []string {
	return []string{fmt.Sprintf("ALTER SESSION SET DDL_LOCK_TIMEOUT = %d", int(math.Ceil(cmp.Or(lock, 5*time.Second).Seconds())))}
}

func setup() []string { return Engine{}.Limits(0, 0) }

type writer struct {
	*ddl.Writer
	beside bool // the edition builds and validates while others write
}

// Write turns the plan into steps of one statement each, as far as that goes.
func (e Engine) Write(from, to *catalog.Catalog, plan change.Plan) (*engine.Work, error) {
	w := &writer{ddl.New(dialect, e, from, to, plan, &engine.Work{Client: clientLines, Setup: setup(),
		Waits: "5 seconds for a lock, then the step fails without trace; nexdal run tries it again"}), enterprise(from)}
	err := w.Each(func(_ int, ch change.Change) (int, error) { return w.change(ch) })
	for i := range w.Work.Steps {
		w.Work.Steps[i].SQL = safely(w.Work.Steps[i].SQL)
	}
	return w.Work, err
}

// The locks of its manual
// (https://docs.oracle.com/en/database/oracle/oracle-database/19/sqlrf/Automatic-Locks-in-DDL-Operations.html).
const (
	forMoment = "exclusive lock for a moment: writers wait, readers do not"
	forLong   = "exclusive lock: writers wait until it is done, readers do not"
	forNobody = "writers go on while it works"
)

// brief adds a step that holds its lock for a moment.
func (w *writer) brief(title, sql string) *engine.Step {
	return w.Step(title, ddl.Takes(forMoment, engine.BlocksBriefly), sql)
}

// works adds a step that looks at or writes every row, and lets nobody write meanwhile.
func (w *writer) works(title, sql string) *engine.Step {
	return w.Step(title, w.Sized(ddl.Takes(forLong, engine.BlocksAtWork), w.Item.Change.On()), sql)
}

// several adds a step for each of the statements, since each stands by itself.
func (w *writer) several(title string, l ddl.Lock, sql ...string) (first *engine.Step) {
	at := len(w.Work.Steps)
	for i, s := range sql {
		says := title
		if len(sql) > 1 {
			says = fmt.Sprintf("%s (%d of %d)", title, i+1, len(sql))
		}
		w.Step(says, l, s)
	}
	return &w.Work.Steps[at]
}

// module adds a step that makes one, in the session of its schema.
func (w *writer) module(title string, sql ...string) {
	s := w.brief(title, sql[0])
	s.SQL = sql
}

// online is what stands behind a statement that builds an index
// (https://docs.oracle.com/en/database/oracle/oracle-database/19/sqlrf/CREATE-INDEX.html, ONLINE).
func (w *writer) online(t *catalog.Table) []string {
	if w.beside && (t == nil || !temporary(t)) {
		return []string{"ONLINE"}
	}
	return nil
}

// builds adds a step that builds an index, while others write where the edition can.
func (w *writer) builds(title string, on catalog.Ref, x *catalog.Index) {
	more := w.online(w.Now.Table(on))
	w.Step(title, w.Sized(w.building(more), on), indexText(on, x, more...))
}

func (w *writer) building(more []string) ddl.Lock {
	if len(more) > 0 {
		return ddl.Takes("writers wait for a moment at the beginning and the end", engine.BlocksBriefly)
	}
	return ddl.Takes("share lock: writers wait while it is built", engine.BlocksAtWork)
}

func (w *writer) change(ch change.Change) (int, error) {
	on := ch.On()
	t := w.Now.Table(on)
	switch ch := ch.(type) {
	case change.CreateIndex:
		if ch.Index.Unique {
			w.AskRepeats(on, ch.Index.Columns())
		}
		w.builds(ch.Title(), on, ch.Index)
	case change.DropIndex:
		w.dropIndex(ch, t)
	case change.RebuildIndex:
		w.rebuild(ch, t)
	case change.AddKey:
		w.addKey(ch)
	case change.DropKey:
		sql := []string{w.Alter(on, "DROP CONSTRAINT "+ident(ch.Name)+" DROP INDEX")}
		if ch.Primary {
			sql = append(sql, w.required(t, ch.Columns)...)
		}
		w.several(ch.Title(), ddl.Takes(forMoment, engine.BlocksBriefly), sql...)
	case change.ReplaceKey:
		w.replaceKey(ch)
	case change.AddSurrogateKey:
		w.addSurrogate(ch)
	case change.Undo[change.AddSurrogateKey]:
		w.dropSurrogate(ch)
	case change.AddForeignKey:
		w.addForeignKey(ch)
	case change.DropForeignKey:
		w.brief(ch.Title(), w.Alter(on, "DROP CONSTRAINT "+ident(ch.ForeignKey.Name)))
	case change.AlterForeignKey:
		w.alterForeignKey(ch)
	case change.ValidateForeignKey:
		w.AskOrphans(on, ch.ForeignKey)
		w.validates(ch.Title(), on, ch.ForeignKey.Name).Passing = true
	case change.AddCheck:
		w.addCheck(ch)
	case change.DropCheck:
		w.brief(ch.Title(), w.Alter(on, "DROP CONSTRAINT "+ident(ch.Check.Name)))
	case change.ValidateCheck:
		w.AskBreaks(on, ch.Check, ch.Check.Expression)
		w.validates(ch.Title(), on, ch.Check.Name).Passing = true
	case change.Undo[change.ValidateCheck]:
		w.brief(ch.Title(), w.Alter(on, "MODIFY CONSTRAINT "+ident(ch.Of.Check.Name)+" ENABLE NOVALIDATE"))
	case change.AlterType:
		w.AskUnfit(ch, unfit(ch))
		w.brief(ch.Title(), w.Alter(on, fmt.Sprintf("MODIFY (%s %s)", ident(ch.Column), typeText(ch.To))))
	case change.SetNullable:
		if ch.Nullable {
			w.brief(ch.Title(), w.Alter(on, fmt.Sprintf("MODIFY (%s NULL)", ident(ch.Column))))
			break
		}
		w.AskNulls(on, ch.Column)
		w.works(ch.Title(), w.Alter(on, fmt.Sprintf("MODIFY (%s %s)", ident(ch.Column), notNull(ch.Constraint))))
	case change.SetDefault:
		w.brief(ch.Title(), w.Alter(on, fmt.Sprintf("MODIFY (%s DEFAULT %s)", ident(ch.Column), cmp.Or(ch.To, "NULL"))))
	case change.AddColumn:
		w.addColumn(ch)
	case change.DropColumn:
		s := w.works(ch.Title(), w.Alter(on, "DROP COLUMN "+ident(ch.Column)))
		s.Notes = append(s.Notes, fmt.Sprintf("the values of %s are lost", ch.Column))
	case change.BackfillColumn:
		w.backfill(ch)
	case change.Rename:
		w.rename(ch)
	case change.RenameTable:
		w.brief(ch.Title(), w.Alter(on, "RENAME TO "+ident(ch.To)))
	case change.SetComment:
		w.Step(ch.Title(), ddl.Takes("nobody waits", engine.BlocksNobody), commentText(on, ofColumn(ch), ch.To))
	case change.SetTrigger:
		does := map[bool]string{true: "DISABLE", false: "ENABLE"}[ch.Off || ch.Trigger.Enabled == "disabled"]
		w.brief(ch.Title(), fmt.Sprintf("ALTER TRIGGER %s %s", qualified(on.Schema, ch.Trigger.Name), does))
	case change.ReplaceView:
		w.module(ch.Title(), inSchema(ch.Schema, viewText(ch.Schema, ch.New, "CREATE OR REPLACE "))...)
	case change.ReplaceRoutine:
		w.module(ch.Title(), inSchema(ch.Schema, ch.New.Definition)...)
	case change.ReplaceTrigger:
		w.replaceTrigger(ch)
	case change.ReplaceByDefault:
		if ch.Sequence.Table != "" {
			w.advance(change.AdvanceSequence{Schema: ch.Sequence.Schema, Sequence: ch.Sequence.Table, Table: on, Column: ch.Column})
		}
		w.several(ch.Title(), ddl.Takes(forMoment, engine.BlocksBriefly),
			w.Alter(on, fmt.Sprintf("MODIFY (%s DEFAULT ON NULL %s)", ident(ch.Column), ch.Default)), "DROP TRIGGER "+qualified(on.Schema, ch.Trigger.Name))
	case change.Undo[change.ReplaceByDefault]:
		w.module(ch.Title(), triggerText(on.Schema, ch.Of.Trigger)...)
		w.brief(ch.Title()+": take the default away", w.Alter(on, fmt.Sprintf("MODIFY (%s DEFAULT NULL)", ident(ch.Of.Column))))
	case change.SplitSequence:
		w.splitSequence(ch)
	case change.Undo[change.SplitSequence]:
		w.joinSequence(ch.Of)
	case change.AlterSequence:
		w.brief(ch.Title(), "ALTER SEQUENCE "+qualified(ch.Schema, ch.New.Name)+counting(ch.New))
	case change.CreateSequence:
		w.Step(ch.Title(), w.Made, "CREATE SEQUENCE "+qualified(ch.Schema, ch.Sequence.Name)+sequenceText(ch.Sequence))
	case change.DropSequence:
		w.Step(ch.Title(), w.Gone, "DROP SEQUENCE "+qualified(ch.Schema, ch.Sequence.Name))
	case change.AdvanceSequence:
		w.advance(ch)
	case change.CreateObjects:
		c := &creator{rights: true}
		for _, m := range ch.What.Members() {
			c.member(m)
		}
		s := w.Step(ch.Title(), w.Made, slices.Concat(c.objects, c.references, c.triggers, c.comments, c.grants)...)
		s.Tables = ch.Tables()
		s.Notes = append(s.Notes, "each statement stands by itself")
	case change.AddPartition:
		w.addPartition(ch)
	case change.Undo[change.AddPartition]:
		w.dropPartition(ch)
	case change.PartitionTable:
		w.partitionTable(ch)
	case change.Maintain:
		w.Step(ch.Title(), ddl.Takes("readers and writers go on", engine.BlocksNobody),
			fmt.Sprintf("BEGIN\n  DBMS_STATS.GATHER_TABLE_STATS(%s, %s);\nEND;", literal(quoted(ch.Table.Schema)), literal(quoted(ch.Table.Table))))
	default:
		return 0, nil
	}
	return 1, nil
}

func ofColumn(ch change.SetComment) string {
	if ch.Kind == change.OnColumn {
		return ch.Name
	}
	return ""
}

// dropIndex hides the index before it goes: queries do without it from then on, and the way back
// costs nothing as long as it is there
// (https://docs.oracle.com/en/database/oracle/oracle-database/19/sqlrf/ALTER-INDEX.html, INVISIBLE).
func (w *writer) dropIndex(ch change.DropIndex, t *catalog.Table) {
	at := qualified(ch.Table.Schema, ch.Name)
	if x := t.Index(ch.Name); x != nil && !x.Ignored && !x.Invalid {
		s := w.brief(ch.Title()+": make it invisible", "ALTER INDEX "+at+" INVISIBLE")
		s.Notes = append(s.Notes, "queries do without it from here on, and it is kept up to date: whoever wants to see first whether it is missed stops here; ALTER INDEX "+at+" VISIBLE is the way back")
	}
	sql := "DROP INDEX " + at
	if w.beside {
		sql += " ONLINE"
	}
	w.brief(ch.Title(), sql)
}

func (w *writer) rebuild(ch change.RebuildIndex, t *catalog.Table) {
	more := strings.Join(append([]string{""}, w.online(t)...), " ")
	at := qualified(ch.Table.Schema, ch.Name)
	x := t.Index(ch.Name)
	l := w.Sized(w.building(w.online(t)), ch.Table)
	if !strings.Contains(x.Storage, "LOCAL") {
		w.Step(ch.Title(), l, "ALTER INDEX "+at+" REBUILD"+more)
		return
	}
	var sql []string
	for _, p := range t.Partitions {
		sql = append(sql, "ALTER INDEX "+at+" REBUILD PARTITION "+ident(p.Name)+more)
	}
	w.several(ch.Title(), l, sql...)
}

// validates looks at the rows that are there, while others write
// (https://docs.oracle.com/en/database/oracle/oracle-database/19/sqlrf/constraint.html, ENABLE NOVALIDATE).
func (w *writer) validates(title string, on catalog.Ref, name string) *engine.Step {
	return w.Step(title, w.Sized(ddl.Takes(forNobody, engine.BlocksNobody), on), w.Alter(on, "MODIFY CONSTRAINT "+ident(name)+" VALIDATE"))
}

func (w *writer) addCheck(ch change.AddCheck) {
	k := ch.Check
	t := w.Now.Table(ch.Table)
	if k.NotEnforced || k.NotValidated {
		w.brief(ch.Title(), w.Alter(ch.Table, "ADD "+checkText(t, k)+stateText(!k.NotEnforced, !k.NotValidated)))
		return
	}
	w.AskBreaks(ch.Table, k, k.Expression)
	w.brief(ch.Title()+": for rows to come", w.Alter(ch.Table, "ADD "+checkText(t, k)+" ENABLE NOVALIDATE"))
	w.validates(ch.Title(), ch.Table, k.Name)
}

func (w *writer) addColumn(ch change.AddColumn) {
	w.AskUnvalued(ch.Table, ch.Column)
	text := columnText(nil, ch.Column)
	sql := []string{w.Alter(ch.Table, "ADD ("+text+")")}
	if ch.Column.Comment != "" {
		sql = append(sql, commentText(ch.Table, ch.Column.Name, ch.Column.Comment))
	}
	l := ddl.Takes(forMoment, engine.BlocksBriefly)
	says := widened(ch.Column)
	if numbered(ch.Column) {
		l = w.Sized(ddl.Takes(forLong, engine.BlocksAtWork), ch.Table)
	}
	s := w.several(ch.Title(), l, sql...)
	s.Notes = append(s.Notes, says)
	if numbered(ch.Column) {
		s.Notes = append(s.Notes, "every row is given its number")
	}
}

func widened(c *catalog.Column) string {
	if c.Invisible {
		return "the column is invisible: SELECT * leaves it out, and an INSERT without a list of columns goes on as before"
	}
	return "an INSERT without a list of columns will fail from now on, and programs that select * see one column more"
}

// backfill writes where the value is not there.
func (w *writer) backfill(ch change.BackfillColumn) {
	parent := fmt.Sprintf("(SELECT p.%s FROM %s p WHERE %s)", ident(ch.From), relation(ch.Via.Target), quoting.Refers(ch.Via.Columns, ch.Via.TargetColumns))
	s := w.Step(ch.Title(), w.Sized(ddl.Takes("the rows that are written: who writes one of them waits", engine.BlocksAtWork), ch.Table),
		fmt.Sprintf("BEGIN\n  UPDATE %s c SET %s = %s WHERE c.%[2]s IS NULL;\n  COMMIT;\nEND;", relation(ch.Table), ident(ch.Column), parent))
	s.Passing = true
}

func (w *writer) rename(ch change.Rename) {
	on := ch.Table
	constraint := w.Alter(on, fmt.Sprintf("RENAME CONSTRAINT %s TO %s", ident(ch.From), ident(ch.To)))
	index := fmt.Sprintf("ALTER INDEX %s RENAME TO %s", qualified(on.Schema, ch.From), ident(ch.To))
	l := ddl.Takes(forMoment, engine.BlocksBriefly)
	switch t := w.Now.Table(on); {
	case ch.Kind == change.RenameIndex:
		w.several(ch.Title(), l, index)
	case (ch.Kind == change.RenamePrimaryKey || ch.Kind == change.RenameUniqueKey) && t.Index(ch.From) != nil:
		w.several(ch.Title(), l, constraint, index)
	default:
		w.several(ch.Title(), l, constraint)
	}
}

func (w *writer) replaceTrigger(ch change.ReplaceTrigger) {
	l := ddl.Takes(forMoment, engine.BlocksBriefly)
	switch {
	case ch.New == nil:
		w.several(ch.Title(), l, "DROP TRIGGER "+qualified(ch.Table.Schema, ch.Old.Name))
	case ch.Old != nil && ch.Old.Name != ch.New.Name:
		w.several(ch.Title()+": drop the old one", l, "DROP TRIGGER "+qualified(ch.Table.Schema, ch.Old.Name))
		w.module(ch.Title(), triggerText(ch.Table.Schema, ch.New)...)
	default:
		w.module(ch.Title(), triggerText(ch.Table.Schema, ch.New)...)
	}
}

// advance lets numbers go on past the largest. Of an identity column that is said in one word
// (https://docs.oracle.com/en/database/oracle/oracle-database/19/sqlrf/ALTER-TABLE.html, START WITH LIMIT VALUE).
// past asks for the number past what a sequence has handed out and what a column holds, into n.
func past(schema, sequence string, table catalog.Ref, column string) string {
	return fmt.Sprintf("SELECT GREATEST(NVL(MAX(%s), 0) + 1, (SELECT q.last_number FROM all_sequences q WHERE q.sequence_owner = %s AND q.sequence_name = %s)) INTO n FROM %s",
		ident(column), literal(schema), literal(sequence), relation(table))
}

// inBetween is how many numbers are left out, for the rows that come while a sequence is made and the
// default does not draw from it yet: a statement that defines something lets no lock go on past it.
const inBetween = 1000

// splitSequence lets the new sequence begin past what the shared one has handed out.
func (w *writer) splitSequence(ch change.SplitSequence) {
	made := literal("CREATE SEQUENCE " + qualified(ch.Shared.Schema, ch.Own.Name) + counting(ch.Own) + " START WITH ")
	w.several(ch.Title(), ddl.Takes(forMoment, engine.BlocksBriefly),
		fmt.Sprintf("DECLARE\n  n NUMBER;\nBEGIN\n  %s;\n  n := n + %d;\n  EXECUTE IMMEDIATE %s || n;\nEND;", past(ch.Shared.Schema, ch.Shared.Table, ch.Table, ch.Column), inBetween, made),
		w.drawsFrom(ch.Table, ch.Column, ch.To))
}

// joinSequence lets the shared sequence go on past what the other has handed out.
func (w *writer) joinSequence(of change.SplitSequence) {
	title, past := fmt.Sprintf("number %s of %s from sequence %s again", of.Column, of.Table, of.Shared.Table), change.AdvanceSequence{Schema: of.Shared.Schema, Sequence: of.Shared.Table, Table: of.Table, Column: of.Column}
	w.advance(past)
	w.brief(title, w.drawsFrom(of.Table, of.Column, of.From))
	w.advance(past) // and past the rows that came in between
	w.brief(title+": drop its own", "DROP SEQUENCE "+qualified(of.Shared.Schema, of.Own.Name))
}

func (w *writer) drawsFrom(table catalog.Ref, column, value string) string {
	return w.Alter(table, fmt.Sprintf("MODIFY (%s DEFAULT %s%s)", ident(column), onNull(w.Now.Table(table).Column(column)), value))
}

func (w *writer) advance(ch change.AdvanceSequence) {
	t := w.Now.Table(ch.Table)
	c := t.Column(ch.Column)
	l := ddl.Takes("who inserts waits for a moment", engine.BlocksBriefly)
	if c != nil && numbered(c) {
		text := strings.TrimSuffix(identityText(nil, c), ")")
		if strings.Contains(text, "(") {
			text += " START WITH LIMIT VALUE)"
		} else {
			text += " (START WITH LIMIT VALUE)"
		}
		w.Step(ch.Title(), l, w.Alter(ch.Table, "MODIFY ("+ident(c.Name)+text+")"))
		return
	}
	q := qualified(ch.Schema, ch.Sequence)
	max := past(ch.Schema, ch.Sequence, ch.Table, ch.Column) // it never goes back
	if major, _ := release(w.From.Engine.Version); major >= 18 {
		w.Step(ch.Title(), l, fmt.Sprintf("DECLARE\n  n NUMBER;\nBEGIN\n  %s;\n  EXECUTE IMMEDIATE %s || n;\nEND;", max, literal("ALTER SEQUENCE "+q+" RESTART START WITH ")))
		return
	}
	// Before 18 a sequence goes on by a step alone, which is made as long as it takes.
	step := int64(1)
	if s := w.Now.Schema(ch.Schema); s != nil {
		for _, is := range s.Sequences {
			if is.Name == ch.Sequence {
				step = is.Increment
			}
		}
	}
	w.Step(ch.Title(), l, fmt.Sprintf("DECLARE\n  n NUMBER;\n  m NUMBER;\nBEGIN\n  %s;\n  SELECT n - 1 - %s.NEXTVAL INTO m FROM dual;\n  IF m > 0 THEN\n    EXECUTE IMMEDIATE %s || m;\n    SELECT %[2]s.NEXTVAL INTO m FROM dual;\n    EXECUTE IMMEDIATE %[4]s;\n  END IF;\nEND;",
		max, q, literal("ALTER SEQUENCE "+q+" INCREMENT BY "), literal(fmt.Sprintf("ALTER SEQUENCE %s INCREMENT BY %d", q, step))))
}

// unfit is the condition of values that the new type cannot hold, or "".
func unfit(ch change.AlterType) string {
	c, to := ident(ch.Column), ch.To
	switch {
	case ch.From.Family == catalog.Text && to.Family == catalog.Text && to.Length > 0 && (ch.From.Length == 0 || to.Length < ch.From.Length):
		return fmt.Sprintf("LENGTH(%s) > %d", c, to.Length)
	}
	return ""
}
