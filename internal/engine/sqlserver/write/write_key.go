package write

import (
	"fmt"
	"slices"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
	"nexdal/internal/engine/ddl"
	"nexdal/internal/engine/sqlserver/traits"
)

// askAlike asks for what a unique index would refuse: nulls are alike too, among the rows that
// its filter leaves.
func (w *writer) askAlike(on catalog.Ref, columns []string, where string) {
	if t := w.From.Table(on); t != nil && !t.HasColumns(columns) {
		return // they come with the script
	}
	w.AskRepeatsBy(on, traits.Idents(columns), where)
}

// made is the index that the change makes behind a key, as the model will have it.
func made(t *catalog.Table, x *catalog.Index, primary, given bool) *catalog.Index {
	x = x.Clone()
	if !given {
		x.Clustered = primary && t.Clustering() == nil
	}
	return x
}

func (w *writer) addKey(ch change.AddKey) {
	t := w.Now.Table(ch.Table)
	if w.numbered(ch) {
		return // written with its column
	}
	x := made(t, ch.Index(), ch.Primary, ch.Behind != nil)
	w.askAlike(ch.Table, ch.Key.Columns, "")
	w.builds(ch.Title(), x, since2022, func(more string) string { return w.Alter(ch.Table, w.keyClause(t, ch.Key.Name, ch.Primary, x, more)) })
	if ch.Key.Comment != "" {
		w.brief("write the comment on it", comment(onTable(ch.Table, "CONSTRAINT", ch.Key.Name), "", ch.Key.Comment))
	}
}

func (w *writer) keyClause(t *catalog.Table, name string, primary bool, x *catalog.Index, more string) string {
	kind := "UNIQUE"
	if primary {
		kind = "PRIMARY KEY"
	}
	return fmt.Sprintf("ADD CONSTRAINT %s %s %s (%s)%s", traits.Ident(name), kind, clusteredText(x), parts(x), storage(t, x, more))
}

// numbered reports whether the key is that on a column which was added before it, and with it.
func (w *writer) numbered(ch change.AddKey) bool {
	return slices.ContainsFunc(w.Work.Steps, func(s engine.Step) bool { return slices.Contains(s.Changes, w.At[0]) })
}

func (w *writer) dropsKey(title, name string) {
	t := w.Now.Table(w.Item.Change.On())
	s := w.brief(title, w.Alter(t.Ref(), "DROP CONSTRAINT "+traits.Ident(name)))
	if x := t.Index(name); x != nil && x.Clustered && len(t.Indexes) > 1 {
		s.Blocks, s.Lock = engine.BlocksAtWork, w.Sized(ddl.Takes(forLong, engine.BlocksAtWork), t.Ref()).Says
		s.Notes = append(s.Notes, "the rows are left in no order, and all other indexes of the table are rebuilt")
	}
}

// swap is the statements that let one kind of uniqueness take the place of another.
func (w *writer) swap(t *catalog.Table, ch change.ReplaceKey) []string {
	on := traits.Relation(ch.Table)
	drop := fmt.Sprintf("DROP INDEX %s ON %s", traits.Ident(ch.From.Name()), on)
	var old *catalog.Index
	if ch.From.Key != nil {
		drop = w.Alter(ch.Table, "DROP CONSTRAINT "+traits.Ident(ch.From.Key.Name))
		old = t.Index(ch.From.Key.Index)
	} else {
		old = t.Index(ch.From.Index.Name)
	}
	x := ch.Index(old)
	add := indexText(t, x, "")
	if ch.To.Key != nil {
		add = w.Alter(ch.Table, w.keyClause(t, ch.To.Key.Name, ch.To.Primary, x, ""))
	}
	if ch.From.Name() != ch.To.Name() && !(x.Clustered && old != nil && old.Clustered) {
		return []string{add, drop} // the columns stay unique throughout
	}
	return []string{drop, add}
}

func (w *writer) replaceKey(title string, ch change.ReplaceKey) {
	if ch.To.Index != nil && ch.To.Index.Predicate == "" || ch.To.Key != nil && ch.From.Index != nil && ch.From.Index.Predicate != "" {
		w.askAlike(ch.Table, ch.To.Columns(), "")
	}
	t := w.Now.Table(ch.Table)
	index := ch.From.Name()
	if ch.From.Key != nil {
		index = ch.From.Key.Index
	}
	drops, adds := w.LeaningOn(t, index, w.declared)
	s := w.works(title, slices.Concat(drops, w.swap(t, ch), adds)...)
	if len(drops) > 0 {
		s.Notes = append(s.Notes, "the foreign keys that lean on it are dropped and declared again; those that were trusted are checked again")
	}
}

// addSurrogate: the key that gives way is dropped and declared as unique, the number comes, and
// becomes the key.
func (w *writer) addSurrogate(ch change.AddSurrogateKey) {
	t := w.Now.Table(ch.Table)
	after := w.Now.Clone()
	if err := w.Item.Apply(after, w.Can); err != nil {
		return
	}
	then := after.Table(ch.Table)
	drops, adds := w.LeaningOn(t, ch.From.Index, w.declared)
	sql := slices.Concat(drops, []string{w.Alter(ch.Table, "DROP CONSTRAINT "+traits.Ident(ch.From.Name)),
		w.Alter(ch.Table, "ADD "+keyText(then, ch.Unique)),
		w.Alter(ch.Table, "ADD "+columnText(then.Column(ch.Column.Name))),
		w.Alter(ch.Table, "ADD "+keyText(then, then.PrimaryKey))}, adds)
	s := w.works(ch.Title(), sql...)
	s.Notes = append(s.Notes, widened(ch.Column))
}

func (w *writer) dropSurrogate(ch change.Undo[change.AddSurrogateKey]) {
	t, then := w.Now.Table(ch.Of.Table), w.To.Table(ch.Of.Table)
	drops, adds := w.LeaningOn(t, ch.Of.Unique.Index, w.declared)
	sql := slices.Concat(drops, []string{w.Alter(ch.Of.Table, "DROP CONSTRAINT "+traits.Ident(ch.Of.Key.Name))}, dropColumn(t, ch.Of.Column.Name),
		[]string{w.Alter(ch.Of.Table, "DROP CONSTRAINT "+traits.Ident(ch.Of.Unique.Name)), w.Alter(ch.Of.Table, "ADD "+keyText(then, then.PrimaryKey))}, adds)
	w.works(ch.Title(), sql...)
}

func widened(c *catalog.Column) string {
	return fmt.Sprintf("statements that name no columns meet %s: INSERT without a list is not concerned, SELECT * gives one more column", c.Name)
}

func (w *writer) addForeignKey(ch change.AddForeignKey) {
	f := ch.ForeignKey.Clone()
	if ch.Unchecked {
		f.NotValidated = true
	}
	if !f.NotValidated && !f.Disabled {
		w.AskOrphans(ch.Table, f)
		w.works(ch.Title(), addReference(ch.Table, f)...)
		return
	}
	s := w.brief(ch.Title(), addReference(ch.Table, f)...)
	s.Notes = append(s.Notes, "the rows that are there are not checked: the optimizer does not trust it until they are")
}

func (w *writer) alterForeignKey(ch change.AlterForeignKey) {
	on, old, f := ch.Table, ch.Old, ch.New
	switch {
	case sameButTrust(old, f) && old.Disabled && !f.Disabled && !f.NotValidated:
		w.AskOrphans(on, f)
		w.works(ch.Title(), w.Alter(on, "WITH CHECK CHECK CONSTRAINT "+traits.Ident(f.Name)))
	case sameButTrust(old, f) && !old.Disabled && f.Disabled:
		w.brief(ch.Title(), w.Alter(on, "NOCHECK CONSTRAINT "+traits.Ident(f.Name)))
	case sameButTrust(old, f) && !old.NotValidated && f.NotValidated && !f.Disabled: // switched off and on without a look
		w.brief(ch.Title(), w.Alter(on, "NOCHECK CONSTRAINT "+traits.Ident(f.Name)), w.Alter(on, "WITH NOCHECK CHECK CONSTRAINT "+traits.Ident(f.Name)))
	default:
		if !f.NotValidated && !f.Disabled {
			w.AskOrphans(on, f)
		}
		w.works(ch.Title(), append([]string{w.Alter(on, "DROP CONSTRAINT "+traits.Ident(old.Name))}, w.declared(on, f)...)...)
	}
}

func sameButTrust(a, b *catalog.ForeignKey) bool {
	return a.Name == b.Name && slices.Equal(a.Columns, b.Columns) && a.Target == b.Target && slices.Equal(a.TargetColumns, b.TargetColumns) && a.OnDelete == b.OnDelete && a.OnUpdate == b.OnUpdate
}

// declared are the statements that make a foreign key as it is, with its comment.
func (w *writer) declared(on catalog.Ref, f *catalog.ForeignKey) []string {
	sql := addReference(on, f)
	if f.Comment != "" {
		sql = append(sql, comment(onTable(on, "CONSTRAINT", f.Name), "", f.Comment))
	}
	return sql
}

func (w *writer) advance(ch change.AdvanceSequence) {
	t := w.Now.Table(ch.Table)
	c := t.Column(ch.Column)
	lock := ddl.Takes("who inserts waits for a moment", engine.BlocksBriefly)
	if c != nil && c.Identity == catalog.IdentityAlways {
		// Without a number it goes on past the largest
		// (https://learn.microsoft.com/en-us/sql/t-sql/database-console-commands/dbcc-checkident-transact-sql).
		w.Step(ch.Title(), lock, fmt.Sprintf("DBCC CHECKIDENT (%s, RESEED) WITH NO_INFOMSGS", traits.Literal(traits.Relation(ch.Table))))
		return
	}
	w.Step(ch.Title(), lock, goesOn(traits.Qualified(ch.Schema, ch.Sequence), "", ch.Table, ch.Column))
}

// splitSequence lets the new sequence go on past what the shared one has handed out, while nobody can
// insert (https://learn.microsoft.com/en-us/sql/t-sql/statements/alter-sequence-transact-sql).
func (w *writer) splitSequence(ch change.SplitSequence) {
	own := traits.Qualified(ch.Shared.Schema, ch.Own.Name)
	w.brief(ch.Title(), slices.Concat([]string{
		"CREATE SEQUENCE " + own + sequenceText(ch.Own),
		goesOn(own, "DECLARE @past bigint = NEXT VALUE FOR "+traits.Relation(ch.Shared), ch.Table, ch.Column),
	}, w.setDefault(change.SetDefault{Table: ch.Table, Column: ch.Column, From: ch.From, To: ch.To, Name: w.Now.Table(ch.Table).Column(ch.Column).DefaultName}))...)
}

// joinSequence lets the shared sequence go on past what the other has handed out.
func (w *writer) joinSequence(of change.SplitSequence) {
	own, shared := traits.Qualified(of.Shared.Schema, of.Own.Name), traits.Relation(of.Shared)
	w.brief(fmt.Sprintf("number %s of %s from sequence %s again", of.Column, of.Table, of.Shared.Table), slices.Concat([]string{
		goesOn(shared, "DECLARE @own bigint = NEXT VALUE FOR "+own+" DECLARE @shared bigint = NEXT VALUE FOR "+shared+" DECLARE @past bigint = CASE WHEN @own > @shared THEN @own ELSE @shared END", of.Table, of.Column),
	}, w.setDefault(change.SetDefault{Table: of.Table, Column: of.Column, From: of.To, To: of.From, Name: w.Now.Table(of.Table).Column(of.Column).DefaultName}), []string{
		"DROP SEQUENCE " + own})...)
}

// goesOn lets a sequence go on past a column's largest number and past @past, if that is declared.
func goesOn(sequence, past string, table catalog.Ref, column string) string {
	next := fmt.Sprintf("max(%s) + 1", traits.Ident(column))
	if past != "" {
		past, next = past+" ", fmt.Sprintf("CASE WHEN max(%[1]s) >= @past THEN max(%[1]s) + 1 ELSE @past END", traits.Ident(column))
	}
	return past + fmt.Sprintf("DECLARE @next bigint = (SELECT %s FROM %s WITH (TABLOCKX, HOLDLOCK)) DECLARE @sql nvarchar(max) = %s + CAST(@next AS nvarchar(20)) EXEC (@sql)",
		next, traits.Relation(table), traits.Literal("ALTER SEQUENCE "+sequence+" RESTART WITH "))
}

func (w *writer) alterSequence(ch change.AlterSequence) []string {
	q := ch.New.Clone()
	name := traits.Qualified(ch.Schema, q.Name)
	sql := []string{"ALTER SEQUENCE " + name + counting(q)}
	if note := comment(noted{"SCHEMA", ch.Schema, "SEQUENCE", q.Name}, ch.Old.Comment, ch.New.Comment); note != "" {
		sql = append(sql, note)
	}
	return sql
}
