// Package write writes the DDL of Firebird: changes of a structure, and whole ones.
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
	"nexdal/internal/engine/firebird/traits"
)

// A Writer writes for Firebird.
type Writer struct{ traits.Traits }

// Begin opens the transaction of a step: it sees what others have committed, and waits so long for
// their locks
// (https://firebirdsql.org/file/documentation/html/en/refdocs/fblangref30/firebird-30-language-reference.html#fblangref30-transacs-settransac).
const Begin = "SET TRANSACTION READ WRITE ISOLATION LEVEL READ COMMITTED RECORD_VERSION WAIT LOCK TIMEOUT 5"

// client has isql commit nothing by itself.
func client() []string { return []string{"SET AUTODDL OFF;"} }

// dialect is how Firebird writes what all engines have. Most of what alters a structure happens
// when its transaction ends, so that each statement has one.
var dialect = &ddl.Dialect{
	Title: "Firebird", Quoting: traits.Quoting, Relation: traits.Relation, Literal: traits.Literal, Begin: Begin, Always: true, Works: "; reads %s",
	Create:        func(w *ddl.Writer, t *catalog.Table) []string { return tableText(t, domainsOf(w.Now)) },
	Drop:          DropText,
	DropReference: DropReference,
	Made:          ddl.Takes("nothing that others use", engine.BlocksNobody),
	Gone:          ddl.Takes("refused as long as somebody uses what is dropped", engine.BlocksBriefly),
}

// DropText drops an object that is no table.
func DropText(m *catalog.Member) string {
	name := traits.Ident(m.Name)
	switch {
	case m.Type != nil:
		return "DROP DOMAIN " + name
	case m.Object != nil && m.Object.Kind == "character set":
		return "ALTER CHARACTER SET " + m.Name + " SET DEFAULT COLLATION " + m.Name
	case m.Object != nil && m.Object.Kind == traits.GrantToMake:
		what, to, _ := strings.Cut(m.Name, " TO ")
		return "REVOKE " + what + " FROM " + to
	case m.Object != nil:
		return "DROP " + strings.ToUpper(m.Object.Kind) + " " + name
	case m.Routine != nil:
		return "DROP " + strings.ToUpper(m.Routine.Kind) + " " + traits.Ident(m.Routine.Name)
	}
	return ddl.DropText(m, name)
}

type writer struct{ *ddl.Writer }

// Write turns the plan into steps, each one transaction but where it says so.
func (e Writer) Write(from, to *catalog.Catalog, plan change.Plan) (*engine.Work, error) {
	w := &writer{ddl.New(dialect, e, from, to, plan, &engine.Work{Client: client(), Waits: "5 seconds for a lock, then the step fails without trace; nexdal run tries it again"})}
	err := w.Each(func(i int, ch change.Change) (int, error) {
		if _, ok := ch.(change.AlterType); ok {
			return w.alterTypes(i)
		}
		return w.change(ch)
	})
	return w.Work, err
}

// What the manual says of locks is little: what is altered must be in no statement that somebody
// has prepared, or the transaction fails as it ends ("object is in use")
// (https://firebirdsql.org/file/documentation/html/en/refdocs/fblangref30/firebird-30-language-reference.html#fblangref30-ddl).
const (
	forMoment = "others go on; refused as long as somebody uses what is altered"
	forLong   = "writers wait until it is done; refused as long as somebody uses what is altered"
)

// brief adds a step that looks at no rows.
func (w *writer) brief(title string, sql ...string) *engine.Step {
	return w.Step(title, ddl.Takes(forMoment, engine.BlocksBriefly), sql...)
}

// works adds a step that looks at or writes every row of the table.
func (w *writer) works(title string, sql ...string) *engine.Step {
	return w.Step(title, w.Sized(ddl.Takes(forLong, engine.BlocksAtWork), w.Item.Change.On()), sql...)
}

// parts adds a step of several transactions: what one makes, only the next can fill. The statement
// clears away what a failure leaves.
func (w *writer) parts(title, cleanUp string, each ...[]string) *engine.Step {
	var sql []string
	for _, p := range each {
		sql = append(sql, Begin)
		sql = append(append(sql, p...), "COMMIT")
	}
	l := w.Sized(ddl.Takes(forLong, engine.BlocksAtWork), w.Item.Change.On())
	return w.Add(engine.Step{Title: title, Lock: l.Says, Blocks: l.Blocks, SQL: sql, CleanUp: cleanUp})
}

// where carries a statement out where the query finds something: no statement of the engine's asks
// that itself.
func where(query, statement string) string {
	return fmt.Sprintf("EXECUTE BLOCK AS\nBEGIN\n  IF (EXISTS (%s)) THEN EXECUTE STATEMENT %s;\nEND", query, traits.Literal(statement))
}

func (w *writer) change(ch change.Change) (int, error) {
	on := ch.On()
	t := w.Now.Table(on)
	switch ch := ch.(type) {
	case change.CreateIndex:
		w.askAlike(on, ch.Index)
		sql := []string{indexText(on, ch.Index)}
		if ch.Index.Comment != "" {
			sql = append(sql, commentText("INDEX", traits.Ident(ch.Index.Name), ch.Index.Comment))
		}
		if ch.Index.Invalid {
			sql = append(sql, "ALTER INDEX "+traits.Ident(ch.Index.Name)+" INACTIVE")
		}
		w.works(ch.Title(), sql...)
	case change.DropIndex:
		w.brief(ch.Title(), "DROP INDEX "+traits.Ident(ch.Name))
	case change.RebuildIndex:
		w.askAlike(on, t.Index(ch.Name))
		w.works(ch.Title(), "ALTER INDEX "+traits.Ident(ch.Name)+" ACTIVE")
	case change.AddKey:
		w.addKey(ch)
	case change.DropKey:
		k := t.PrimaryKey
		if !ch.Primary {
			k = uniqueKey(t, ch.Name, ch.Columns)
		}
		w.brief(ch.Title(), dropKey(t, k))
	case change.ReplaceKey:
		w.replaceKey(ch)
	case change.AddSurrogateKey:
		w.addSurrogate(ch)
	case change.Undo[change.AddSurrogateKey]:
		w.dropSurrogate(ch)
	case change.AddForeignKey:
		w.AskOrphans(on, ch.ForeignKey)
		w.works(ch.Title(), w.Alter(on, "ADD "+referenceText(w.To.Table(on), ch.ForeignKey)))
	case change.DropForeignKey:
		w.brief(ch.Title(), DropReference(on, ch.ForeignKey))
	case change.AlterForeignKey:
		w.AskOrphans(on, ch.New)
		w.works(ch.Title(), DropReference(on, ch.Old), w.Alter(on, "ADD "+referenceText(t, ch.New)))
	case change.AddCheck:
		w.AskBreaks(on, ch.Check, ch.Check.Expression)
		s := w.brief(ch.Title(), w.Alter(on, "ADD "+checkText(ch.Check)))
		s.Notes = append(s.Notes, "the engine does not look at the rows that are there: the pre-flight does")
	case change.DropCheck:
		w.brief(ch.Title(), dropCheck(on, ch.Check))
	case change.SetNullable:
		if ch.Nullable {
			w.brief(ch.Title(), w.column(on, ch.Column, "DROP NOT NULL"))
			break
		}
		w.AskNulls(on, ch.Column)
		w.works(ch.Title(), w.column(on, ch.Column, "SET NOT NULL"))
	case change.SetDefault:
		does := "DROP DEFAULT"
		if ch.To != "" {
			does = "SET DEFAULT " + ch.To
		}
		w.brief(ch.Title(), w.column(on, ch.Column, does))
	case change.AddColumn:
		w.addColumn(ch)
	case change.DropColumn:
		s := w.brief(ch.Title(), w.dropColumn(on, ch.Column)...)
		s.Notes = append(s.Notes, fmt.Sprintf("the values of %s are lost", ch.Column))
	case change.BackfillColumn:
		w.backfill(ch)
	case change.SetComment:
		w.brief(ch.Title(), commented(ch))
	case change.SetTrigger:
		does := map[bool]string{true: "INACTIVE", false: "ACTIVE"}[ch.Off || ch.Trigger.Enabled == "disabled"]
		w.brief(ch.Title(), fmt.Sprintf("ALTER TRIGGER %s %s", traits.Ident(ch.Trigger.Name), does))
	case change.ReplaceTrigger:
		w.replaceTrigger(ch)
	case change.ReplaceView:
		w.brief(ch.Title(), viewText(ch.New, "ALTER"))
	case change.ReplaceRoutine:
		w.brief(ch.Title(), "ALTER"+strings.TrimPrefix(ch.New.Definition, "CREATE"))
	case change.AlterSequence:
		w.alterSequence(ch)
	case change.CreateSequence:
		sql := []string{sequenceText(ch.Sequence, w.From.Engine.Version)}
		if ch.Sequence.Comment != "" {
			sql = append(sql, commentText("SEQUENCE", traits.Ident(ch.Sequence.Name), ch.Sequence.Comment))
		}
		w.Step(ch.Title(), w.Made, sql...)
	case change.DropSequence:
		w.Step(ch.Title(), w.Gone, "DROP SEQUENCE "+traits.Ident(ch.Sequence.Name))
	case change.AdvanceSequence:
		w.advance(ch)
	case change.AddLookupTable:
		w.addLookup(ch)
	case change.CreateObjects:
		c := &creator{version: w.From.Engine.Version, rights: true, domains: domainsOf(w.To)}
		for _, m := range ch.What.Members() {
			c.member(m)
		}
		s := w.Step(ch.Title(), w.Made, slices.Concat(c.objects, c.bodies, c.references, c.triggers, c.comments, c.grants)...)
		s.Tables = ch.Tables()
	case change.Maintain:
		w.maintain(ch, t)
	default:
		return 0, nil
	}
	return 1, nil
}

// askAlike asks for what a unique index would refuse.
func (w *writer) askAlike(on catalog.Ref, x *catalog.Index) {
	switch {
	case !x.Unique:
	case x.Parts[0].Expression != "":
		w.AskRepeatsBy(on, x.Parts[0].Expression, x.Parts[0].Expression+" IS NOT NULL")
	default:
		w.AskRepeats(on, x.Columns())
	}
}

func (w *writer) column(on catalog.Ref, column, does string) string {
	return w.Alter(on, "ALTER COLUMN "+traits.Ident(column)+" "+does)
}

// maintain: the engine knows how many values differ as of the last time that it was told to count.
func (w *writer) maintain(ch change.Maintain, t *catalog.Table) {
	var sql []string
	for _, x := range t.Indexes {
		if !x.Invalid {
			sql = append(sql, "SET STATISTICS INDEX "+traits.Ident(x.Name))
		}
	}
	if len(sql) == 0 {
		sql = []string{"EXECUTE BLOCK AS BEGIN END"}
	}
	w.Step(ch.Title(), ddl.Takes("readers and writers go on", engine.BlocksNobody), sql...)
}

// Limits are the statements that say how long a step may wait: its transaction does.
func (Writer) Limits(_, _ time.Duration) []string { return nil }

func (w *writer) replaceTrigger(ch change.ReplaceTrigger) {
	var sql []string
	if ch.Old != nil {
		sql = append(sql, "DROP TRIGGER "+traits.Ident(ch.Old.Name))
	}
	if ch.New != nil {
		c := &creator{}
		c.trigger(ch.Table.Table, ch.New)
		sql = slices.Concat(sql, c.triggers, c.comments)
	}
	w.brief(ch.Title(), sql...)
}

func commented(ch change.SetComment) string {
	switch ch.Kind {
	case change.OnColumn:
		return commentText("COLUMN", traits.Relation(ch.Table)+"."+traits.Ident(ch.Name), ch.To)
	case change.OnIndex:
		return commentText("INDEX", traits.Ident(ch.Name), ch.To)
	}
	return commentText("TABLE", traits.Relation(ch.Table), ch.To)
}

// advance lets a sequence, or the one of an identity column, go on past the largest number. What it
// restarts with is given by a block, since no statement computes it.
func (w *writer) advance(ch change.AdvanceSequence) {
	largest := fmt.Sprintf("(SELECT MAX(%s) FROM %s)", traits.Ident(ch.Column), traits.Relation(ch.Table))
	w.Step(ch.Title(), ddl.Takes("others go on: numbers are handed out beside transactions", engine.BlocksNobody), w.goesOn(ch, largest))
}

// goesOn is the block that sets what numbers a column to the largest number that was given. RESTART WITH
// would change where a sequence begins as well, for good.
func (w *writer) goesOn(ch change.AdvanceSequence, from string) string {
	set := "SET GENERATOR " + traits.Ident(ch.Sequence) + " TO "
	if ch.Sequence == "" {
		set = fmt.Sprintf("ALTER TABLE %s ALTER COLUMN %s RESTART WITH ", traits.Relation(ch.Table), traits.Ident(ch.Column))
	}
	return fmt.Sprintf("EXECUTE BLOCK AS\nDECLARE n BIGINT;\nBEGIN\n  n = COALESCE(%s, 0);\n  EXECUTE STATEMENT %s || n;\nEND", from, traits.Literal(set))
}

func (w *writer) alterSequence(ch change.AlterSequence) {
	var sql []string
	name := traits.Ident(ch.New.Name)
	if ch.Old.Increment != ch.New.Increment {
		sql = append(sql, fmt.Sprintf("ALTER SEQUENCE %s INCREMENT BY %d", name, ch.New.Increment))
	}
	if ch.Old.Comment != ch.New.Comment {
		sql = append(sql, commentText("SEQUENCE", name, ch.New.Comment))
	}
	w.brief(ch.Title(), sql...)
}

// addLookup makes the table, and fills it once it is there.
func (w *writer) addLookup(ch change.AddLookupTable) {
	made := ch.Made(w.Can)
	name := traits.Relation(made.Ref())
	var fill []string
	for _, v := range ch.Values {
		fill = append(fill, fmt.Sprintf("INSERT INTO %s VALUES (%s)", name, traits.Literal(v)))
	}
	s := w.parts(ch.Title(), where("SELECT 1 FROM rdb$relations r WHERE r.rdb$relation_name = "+traits.Literal(made.Name), "DROP TABLE "+name), tableText(made, domainsOf(w.Now)), fill)
	s.Tables, s.Lock, s.Blocks = ch.Tables(), w.Made.Says, w.Made.Blocks
}

// backfill writes where the value is not there.
func (w *writer) backfill(ch change.BackfillColumn) {
	c := traits.Ident(ch.Column)
	s := w.Step(ch.Title(), w.Sized(ddl.Takes("writers of the rows wait", engine.BlocksAtWork), ch.Table),
		fmt.Sprintf("UPDATE %s c SET c.%s = (SELECT p.%s FROM %s p WHERE %s) WHERE c.%[2]s IS NULL", traits.Relation(ch.Table), c, traits.Ident(ch.From), traits.Relation(ch.Via.Target), traits.Quoting.Refers(ch.Via.Columns, ch.Via.TargetColumns)))
	s.Passing = true
}

// addColumn: what numbers the rows that are there comes in a transaction of its own, since the one
// that adds the column does not see it yet.
func (w *writer) addColumn(ch change.AddColumn) {
	w.AskUnvalued(ch.Table, ch.Column)
	c, own := ch.Column, domainsOf(w.To)
	if c.Identity == catalog.IdentityTrigger {
		made, numbers := w.numbered(ch.Table, c)
		s := w.parts(ch.Title(), w.unnumber(ch.Table, c), made, numbers)
		s.Notes = append(s.Notes, widened(c), "every row is given its number; a trigger numbers those that come, since the engine adds no identity column to a table with rows")
		return
	}
	if NumberedBySelf(c) {
		w.Ask(fmt.Sprintf("rows of %s, which the engine gives no number", ch.Table), traits.Quoting.First(1, "SELECT * FROM "+traits.Relation(ch.Table)))
	}
	sql := []string{w.Alter(ch.Table, "ADD "+columnText(c, own))}
	if c.Comment != "" {
		sql = append(sql, commentText("COLUMN", traits.Relation(ch.Table)+"."+traits.Ident(c.Name), c.Comment))
	}
	s := w.brief(ch.Title(), sql...)
	s.Notes = append(s.Notes, widened(c))
}

// numbered makes a column with the sequence that numbers it, and then gives each row a number, and
// those that come by a trigger.
func (w *writer) numbered(on catalog.Ref, c *catalog.Column) (made, numbers []string) {
	q, g := w.Can.NumberedBy(w.Now.Table(on), c.Name)
	for _, k := range w.Now.Table(on).Checks { // a check was not asked about rows that were there before it
		w.AskBreaks(on, k, k.Expression)
	}
	plain := c.Clone()
	plain.Nullable, plain.Identity = true, catalog.NoIdentity
	made = []string{sequenceText(q, w.From.Engine.Version), w.Alter(on, "ADD "+columnText(plain, domainsOf(w.To)))}
	numbers = []string{fmt.Sprintf("UPDATE %s SET %s = NEXT VALUE FOR %s", traits.Relation(on), traits.Ident(c.Name), traits.Ident(q.Name))}
	if !c.Nullable {
		numbers = append(numbers, w.column(on, c.Name, "SET NOT NULL"))
	}
	its := &creator{rights: true}
	its.granted("SEQUENCE ", q.Name, q.Rights)
	return made, slices.Concat(numbers, []string{g.Definition}, its.grants)
}

// unnumber takes away what is there of such a column.
func (w *writer) unnumber(on catalog.Ref, c *catalog.Column) string {
	q, g := w.Can.NumberedBy(w.Now.Table(on), c.Name)
	drop := func(query, statement string) string {
		return fmt.Sprintf("  IF (EXISTS (SELECT 1 FROM %s)) THEN EXECUTE STATEMENT %s;\n", query, traits.Literal(statement))
	}
	return "EXECUTE BLOCK AS\nBEGIN\n" + drop("rdb$triggers t WHERE t.rdb$trigger_name = "+traits.Literal(g.Name), "DROP TRIGGER "+traits.Ident(g.Name)) +
		drop(fmt.Sprintf("rdb$relation_fields f WHERE f.rdb$relation_name = %s AND f.rdb$field_name = %s", traits.Literal(on.Table), traits.Literal(c.Name)), traits.Alter(on, "DROP "+traits.Ident(c.Name))) +
		drop("rdb$generators q WHERE q.rdb$generator_name = "+traits.Literal(q.Name), "DROP SEQUENCE "+traits.Ident(q.Name)) + "END"
}

// dropColumn takes what numbers it alone away as well, where it is gone in the end.
func (w *writer) dropColumn(on catalog.Ref, name string) []string {
	t, after := w.Now.Table(on), w.To.Table(on)
	var sql, behind []string
	for _, g := range t.Triggers {
		if after != nil && !slices.ContainsFunc(after.Triggers, func(o *catalog.Trigger) bool { return o.Name == g.Name }) && (Writer{}).Dialect().Mentions(g.Definition, name) {
			sql = append(sql, "DROP TRIGGER "+traits.Ident(g.Name))
		}
	}
	q, then := t.Column(name).Sequence, w.To.Schema(on.Schema)
	if q != nil && then != nil && !slices.ContainsFunc(then.Sequences, func(o *catalog.Sequence) bool { return o.Name == q.Table }) {
		behind = append(behind, "DROP SEQUENCE "+traits.Ident(q.Table))
	}
	return slices.Concat(sql, []string{w.Alter(on, "DROP "+traits.Ident(name))}, behind)
}

func widened(c *catalog.Column) string {
	return fmt.Sprintf("statements that name no columns meet %s: INSERT without a list fails, SELECT * gives one more column", c.Name)
}
