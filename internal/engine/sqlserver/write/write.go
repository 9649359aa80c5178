// Package write writes the DDL of SQL Server: changes of a structure, and whole ones.
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
	"nexdal/internal/engine/sqlserver/traits"
)

// A Writer writes for SQL Server.
type Writer struct{ traits.Traits }

// dialect is how SQL Server writes what all engines have.
var dialect = &ddl.Dialect{
	Title: "SQL Server", Quoting: traits.Quoting, Relation: traits.Relation, Literal: traits.Literal, Begin: "BEGIN TRANSACTION", Works: "; works on %s",
	Create: func(_ *ddl.Writer, t *catalog.Table) []string { return tableText(t) },
	Drop:   dropText,
	Made:   ddl.Takes("nothing that others use", engine.BlocksNobody),
	Gone:   ddl.Takes("users of what is dropped wait for a moment", engine.BlocksBriefly),
}

func dropText(m *catalog.Member) string {
	name := traits.Qualified(m.Schema, m.Name)
	switch {
	case m.Type != nil:
		return "DROP TYPE " + name
	case m.Object != nil && m.Object.Kind == "synonym":
		return "DROP SYNONYM " + name
	case m.Object != nil && (m.Object.Kind == KindFunction || m.Object.Kind == KindScheme):
		return "DROP " + strings.ToUpper(m.Object.Kind) + " " + traits.Ident(m.Name)
	}
	return ddl.DropText(m, name)
}

// setup prepares a session: an error ends the transaction, and the settings that indexes on
// computed columns and with filters need
// (https://learn.microsoft.com/en-us/sql/t-sql/statements/set-xact-abort-transact-sql,
// https://learn.microsoft.com/en-us/sql/t-sql/statements/create-index-transact-sql#required-set-options-for-filtered-indexes).
func setup() []string {
	return []string{"SET XACT_ABORT ON", "SET ANSI_NULLS, ANSI_PADDING, ANSI_WARNINGS, ARITHABORT, CONCAT_NULL_YIELDS_NULL, QUOTED_IDENTIFIER ON", "SET NUMERIC_ROUNDABORT OFF", traits.LockLimit(0)}
}

// Limits are the statements that say how long a step may wait for a lock. The server has no
// limit of its own for how long a statement may take.
func (Writer) Limits(lock, _ time.Duration) []string { return []string{traits.LockLimit(lock)} }

type writer struct{ *ddl.Writer }

// Write turns the plan into steps, each one transaction.
func (e Writer) Write(from, to *catalog.Catalog, plan change.Plan) (*engine.Work, error) {
	w := &writer{ddl.New(dialect, e, from, to, plan, &engine.Work{Client: []string{":on error exit"}, Setup: setup(),
		Waits: "5 seconds for a lock, then the step fails without trace; nexdal run tries it again"})}
	err := w.Each(func(i int, ch change.Change) (int, error) {
		switch ch.(type) {
		case change.AlterType, change.SetNullable:
			return w.alterColumns(i)
		case change.DropIndex:
			if w.replaceIndex(i) {
				return 1, nil
			}
		}
		return w.change(ch)
	})
	return w.Work, err
}

// The locks of its manual: a schema modification lock keeps everybody from a table
// (https://learn.microsoft.com/en-us/sql/relational-databases/sql-server-transaction-locking-and-row-versioning-guide).
const (
	forMoment = "schema modification lock for a moment: readers and writers wait"
	forLong   = "schema modification lock: readers and writers wait until it is done"
)

// brief adds a step that holds its lock for a moment.
func (w *writer) brief(title string, sql ...string) *engine.Step {
	return w.Step(title, ddl.Takes(forMoment, engine.BlocksBriefly), sql...)
}

// works adds a step that looks at or writes every row of the table.
func (w *writer) works(title string, sql ...string) *engine.Step {
	return w.Step(title, w.Sized(ddl.Takes(forLong, engine.BlocksAtWork), w.Item.Change.On()), sql...)
}

func (w *writer) change(ch change.Change) (int, error) {
	on := ch.On()
	t := w.Now.Table(on)
	switch ch := ch.(type) {
	case change.CreateIndex:
		if ch.Index.Unique {
			w.askAlike(on, ch.Index.Columns(), ch.Index.Predicate)
		}
		w.builds(ch.Title(), ch.Index, since2019, func(more string) string { return indexText(t, ch.Index, more) })
	case change.DropIndex:
		w.brief(ch.Title(), fmt.Sprintf("DROP INDEX %s ON %s", traits.Ident(ch.Name), traits.Relation(on)))
	case change.RebuildIndex:
		x, rebuild := t.Index(ch.Name), fmt.Sprintf("ALTER INDEX %s ON %s REBUILD", traits.Ident(ch.Name), traits.Relation(on))
		if x.Invalid { // what is disabled is not built while others write
			w.blocks(ch.Title(), x, rebuild)
			break
		}
		w.builds(ch.Title(), x, since2017, func(more string) string {
			if more == "" {
				return rebuild
			}
			return rebuild + " WITH (" + more + ")"
		})
	case change.AddKey:
		w.addKey(ch)
	case change.DropKey:
		w.dropsKey(ch.Title(), ch.Name)
	case change.ReplaceKey:
		w.replaceKey(ch.Title(), ch)
	case change.AddSurrogateKey:
		w.addSurrogate(ch)
	case change.Undo[change.AddSurrogateKey]:
		w.dropSurrogate(ch)
	case change.AddForeignKey:
		w.addForeignKey(ch)
	case change.DropForeignKey:
		w.brief(ch.Title(), w.Alter(on, "DROP CONSTRAINT "+traits.Ident(ch.ForeignKey.Name)))
	case change.AlterForeignKey:
		w.alterForeignKey(ch)
	case change.ValidateForeignKey:
		w.AskOrphans(on, ch.ForeignKey)
		w.works(ch.Title(), w.Alter(on, "WITH CHECK CHECK CONSTRAINT "+traits.Ident(ch.ForeignKey.Name))).Passing = true
	case change.AddCheck:
		if !ch.Check.NotValidated && !ch.Check.NotEnforced {
			w.AskBreaks(on, ch.Check, ch.Check.Expression)
		}
		w.works(ch.Title(), addCheck(on, ch.Check)...)
	case change.DropCheck:
		w.brief(ch.Title(), w.Alter(on, "DROP CONSTRAINT "+traits.Ident(ch.Check.Name)))
	case change.ValidateCheck:
		w.AskBreaks(on, ch.Check, ch.Check.Expression)
		w.works(ch.Title(), w.Alter(on, "WITH CHECK CHECK CONSTRAINT "+traits.Ident(ch.Check.Name))).Passing = true
	case change.Undo[change.ValidateCheck]:
		name := traits.Ident(ch.Of.Check.Name)
		w.brief(ch.Title(), w.Alter(on, "NOCHECK CONSTRAINT "+name), w.Alter(on, "WITH NOCHECK CHECK CONSTRAINT "+name))
	case change.SetDefault:
		w.brief(ch.Title(), w.setDefault(ch)...)
	case change.AddColumn:
		w.addColumn(ch)
	case change.DropColumn:
		s := w.brief(ch.Title(), dropColumn(t, ch.Column)...)
		s.Notes = append(s.Notes, fmt.Sprintf("the values of %s are lost", ch.Column))
	case change.BackfillColumn:
		w.backfill(ch)
	case change.Rename:
		kind, name := "OBJECT", traits.Qualified(on.Schema, ch.From)
		if ch.Kind == change.RenameIndex {
			kind, name = "INDEX", traits.Relation(on)+"."+traits.Ident(ch.From)
		}
		w.brief(ch.Title(), fmt.Sprintf("EXEC sys.sp_rename %s, %s, %s", traits.Literal(name), traits.Literal(ch.To), traits.Literal(kind)))
	case change.SetComment:
		w.brief(ch.Title(), w.commented(ch))
	case change.SetTrigger:
		does := map[bool]string{true: "DISABLE", false: "ENABLE"}[ch.Off || ch.Trigger.Enabled == "disabled"]
		w.brief(ch.Title(), fmt.Sprintf("%s TRIGGER %s ON %s", does, traits.Qualified(on.Schema, ch.Trigger.Name), traits.Relation(on)))
	case change.ReplaceView:
		w.brief(ch.Title(), altered(ch.New.Definition))
	case change.ReplaceRoutine:
		w.brief(ch.Title(), moded(ch.New.Mode, altered(ch.New.Definition))...)
	case change.ReplaceTrigger:
		w.replaceTrigger(ch)
	case change.AlterSequence:
		w.brief(ch.Title(), w.alterSequence(ch)...)
	case change.CreateSequence:
		w.Step(ch.Title(), w.Made, "CREATE SEQUENCE "+traits.Qualified(ch.Schema, ch.Sequence.Name)+sequenceText(ch.Sequence))
	case change.DropSequence:
		w.Step(ch.Title(), w.Gone, "DROP SEQUENCE "+traits.Qualified(ch.Schema, ch.Sequence.Name))
	case change.AdvanceSequence:
		w.advance(ch)
	case change.SplitSequence:
		w.splitSequence(ch)
	case change.Undo[change.SplitSequence]:
		w.joinSequence(ch.Of)
	case change.CreateObjects:
		c := &creator{rights: true}
		for _, m := range ch.What.Members() {
			c.member(m)
		}
		var sql []string
		for _, in := range ch.What.Schemas {
			if w.Now.Schema(in.Name) == nil {
				sql = append(sql, "CREATE SCHEMA "+traits.Ident(in.Name))
			}
		}
		s := w.Step(ch.Title(), w.Made, slices.Concat(sql, c.first, c.objects, c.references, c.triggers, c.comments, c.grants)...)
		s.Tables = ch.Tables()
	case change.SetBoundaries:
		w.setBoundaries(ch)
	case change.PartitionTable:
		w.partitionTable(ch)
	case change.Undo[change.PartitionTable]:
		w.unpartitionTable(ch)
	case change.Maintain:
		w.maintain(ch)
	default:
		return 0, nil
	}
	return 1, nil
}

// maintain: https://learn.microsoft.com/en-us/sql/t-sql/statements/update-statistics-transact-sql,
// https://learn.microsoft.com/en-us/sql/relational-databases/indexes/reorganize-and-rebuild-indexes.
func (w *writer) maintain(ch change.Maintain) {
	if ch.What == change.Analyze {
		w.Step(ch.Title(), ddl.Takes("readers and writers go on", engine.BlocksNobody), "UPDATE STATISTICS "+traits.Relation(ch.Table))
		return
	}
	w.Step(ch.Title(), ddl.Takes("readers and writers go on; pages are locked one by one", engine.BlocksNobody), "ALTER INDEX ALL ON "+traits.Relation(ch.Table)+" REORGANIZE")
}

// altered makes ALTER of the CREATE that a text begins with.
func altered(text string) string {
	for _, t := range (Writer{}).Dialect().Tokens(text) {
		if t.Is("CREATE") {
			return text[:t.Start] + "ALTER" + text[t.End:]
		}
	}
	return text
}

func (w *writer) replaceTrigger(ch change.ReplaceTrigger) {
	switch {
	case ch.New == nil:
		w.brief(ch.Title(), "DROP TRIGGER "+traits.Qualified(ch.Table.Schema, ch.Old.Name))
	case ch.Old == nil:
		w.brief(ch.Title(), triggerText(ch.Table, ch.New)...)
	default:
		w.brief(ch.Title(), append([]string{"DROP TRIGGER " + traits.Qualified(ch.Table.Schema, ch.Old.Name)}, triggerText(ch.Table, ch.New)...)...)
	}
}

func (w *writer) commented(ch change.SetComment) string {
	switch ch.Kind {
	case change.OnColumn:
		return comment(onTable(ch.Table, "COLUMN", ch.Name), ch.From, ch.To)
	case change.OnIndex:
		return comment(onTable(ch.Table, "INDEX", ch.Name), ch.From, ch.To)
	case change.OnConstraint:
		return comment(onTable(ch.Table, "CONSTRAINT", ch.Name), ch.From, ch.To)
	}
	return comment(onTable(ch.Table), ch.From, ch.To)
}
