package oracle

import (
	"fmt"
	"slices"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
	"nexdal/internal/engine/ddl"
)

func kindOf(primary bool) string {
	if primary {
		return "PRIMARY KEY"
	}
	return "UNIQUE"
}

// using adds a constraint on an index that is there.
func (w *writer) using(on catalog.Ref, k *catalog.Key, primary bool, index string) string {
	return w.Alter(on, fmt.Sprintf("ADD CONSTRAINT %s %s (%s)%s USING INDEX %s", ident(k.Name), kindOf(primary), idents(k.Columns), ddl.Timing(k.Deferrable, k.Deferred), qualified(on.Schema, index)))
}

// addKey builds the index while others write, where the edition can; the constraint then takes it.
func (w *writer) addKey(ch change.AddKey) {
	on := ch.Table
	if t := w.From.Table(on); t == nil || t.HasColumns(ch.Key.Columns) { // others come with the script
		w.AskRepeats(on, ch.Key.Columns)
	}
	t := w.Now.Table(on)
	if ch.Primary {
		for _, name := range ch.Key.Columns {
			if c := t.Column(name); c != nil && c.Nullable {
				w.AskNulls(on, name)
			}
		}
	}
	x := ch.Index()
	if ch.Key.Deferrable {
		x.Unique = false
	}
	w.builds(ch.Title()+": build its index", on, x)
	s := w.brief(ch.Title(), w.using(on, ch.Key, ch.Primary, x.Name))
	if ch.Primary && !t.NotNull(ch.Key.Columns) {
		s.Lock, s.Blocks = w.Sized(ddl.Takes(forLong, engine.BlocksAtWork), on).Says, engine.BlocksAtWork
		s.Notes = append(s.Notes, "the rows are looked at for nulls")
	}
}

// swap is the statements that let one kind of uniqueness take the place of another, on the index
// that is there.
func (w *writer) swap(t *catalog.Table, ch change.ReplaceKey) []string {
	var sql []string
	old := t.Index(ch.From.Name())
	if ch.From.Key != nil {
		old = t.Index(ch.From.Key.Index)
		sql = append(sql, w.Alter(ch.Table, "DROP CONSTRAINT "+ident(ch.From.Key.Name)+" KEEP INDEX"))
		if ch.From.Primary {
			sql = append(sql, w.required(t, ch.From.Key.Columns)...)
		}
	}
	x := ch.Index(old)
	switch {
	case !slices.Equal(x.Parts, old.Parts) || x.Unique != old.Unique || x.Storage != old.Storage:
		sql = append(sql, "DROP INDEX "+qualified(t.Schema, old.Name), indexText(t.Ref(), x))
	case x.Name != old.Name:
		sql = append(sql, fmt.Sprintf("ALTER INDEX %s RENAME TO %s", qualified(t.Schema, old.Name), ident(x.Name)))
	}
	if ch.To.Key != nil {
		sql = append(sql, w.using(ch.Table, ch.To.Key, ch.To.Primary, x.Name))
	}
	return sql
}

func (w *writer) replaceKey(ch change.ReplaceKey) {
	t := w.Now.Table(ch.Table)
	index := ch.From.Name()
	if ch.From.Key != nil {
		index = ch.From.Key.Index
	}
	if ch.To.Primary {
		for _, name := range ch.To.Key.Columns {
			if c := t.Column(name); c != nil && c.Nullable {
				w.AskNulls(ch.Table, name)
			}
		}
	}
	var drops, adds []string
	if ch.From.Key != nil { // of an index alone nothing leans on a constraint
		drops, adds = w.LeaningOn(t, index, w.declared)
	}
	s := w.several(ch.Title(), ddl.Takes(forMoment, engine.BlocksBriefly), slices.Concat(drops, w.swap(t, ch), adds)...)
	if len(drops) > 0 {
		s.Notes = append(s.Notes, "the foreign keys that lean on it are dropped and declared again")
	}
}

// required are the statements that keep columns required which a primary key alone may have made
// so: once it is dropped they take nulls again. Of those that are required by themselves the engine
// says so (ORA-01442).
func (w *writer) required(t *catalog.Table, columns []string) []string {
	var sql []string
	for _, name := range columns {
		if c := t.Column(name); c != nil && !c.Nullable && !numbered(c) && !slices.Contains(c.Options, "default on null") {
			sql = append(sql, fmt.Sprintf("BEGIN\n  EXECUTE IMMEDIATE %s;\nEXCEPTION\n  WHEN OTHERS THEN\n    IF SQLCODE <> -1442 THEN\n      RAISE;\n    END IF;\nEND;", literal(w.Alter(t.Ref(), "MODIFY ("+ident(name)+" NOT NULL)"))))
		}
	}
	return sql
}

// declared are the statements that make a foreign key as it is: for rows to come, and then with a
// look at those that are there.
func (w *writer) declared(on catalog.Ref, f *catalog.ForeignKey) []string {
	add := w.Alter(on, "ADD "+referenceText(f))
	switch {
	case f.Disabled:
		return []string{add + stateText(false, false)}
	case f.NotValidated:
		return []string{add + stateText(true, false)}
	}
	return []string{add + stateText(true, false), w.Alter(on, "MODIFY CONSTRAINT "+ident(f.Name)+" VALIDATE")}
}

// addSurrogate: the key that gives way stays as a unique constraint on its index, the number
// comes, and becomes the key.
func (w *writer) addSurrogate(ch change.AddSurrogateKey) {
	t := w.Now.Table(ch.Table)
	after := w.Now.Clone()
	if err := w.Item.Apply(after, w.Can); err != nil {
		return
	}
	then := after.Table(ch.Table)
	drops, adds := w.LeaningOn(t, ch.From.Index, w.declared)
	sql := slices.Concat(drops, w.swap(t, change.ReplaceKey{Table: ch.Table, From: change.Uniqueness{Primary: true, Key: ch.From}, To: change.Uniqueness{Key: ch.Unique}}),
		[]string{w.Alter(ch.Table, "ADD ("+columnText(nil, then.Column(ch.Column.Name))+")"), w.Alter(ch.Table, "ADD "+keyText(then, then.PrimaryKey, true, then.Index(then.PrimaryKey.Index)))}, adds)
	s := w.several(ch.Title(), w.Sized(ddl.Takes(forLong, engine.BlocksAtWork), ch.Table), sql...)
	s.Notes = append(s.Notes, widened(ch.Column))
}

func (w *writer) dropSurrogate(ch change.Undo[change.AddSurrogateKey]) {
	on := ch.Of.Table
	t := w.Now.Table(on)
	drops, adds := w.LeaningOn(t, ch.Of.Unique.Index, w.declared)
	sql := slices.Concat(drops, []string{w.Alter(on, "DROP CONSTRAINT "+ident(ch.Of.Key.Name)+" DROP INDEX"), w.Alter(on, "DROP COLUMN "+ident(ch.Of.Column.Name))},
		w.swap(t, change.ReplaceKey{Table: on, From: change.Uniqueness{Key: ch.Of.Unique}, To: change.Uniqueness{Primary: true, Key: ch.Of.From, Behind: ch.Before.Index(ch.Of.From.Index)}}), adds)
	s := w.several(ch.Title(), w.Sized(ddl.Takes(forLong, engine.BlocksAtWork), on), sql...)
	s.Notes = append(s.Notes, fmt.Sprintf("the numbers in %s are lost", ch.Of.Column.Name))
}

func (w *writer) addForeignKey(ch change.AddForeignKey) {
	f := ch.ForeignKey.Clone()
	if ch.Unchecked {
		f.NotValidated = true
	}
	w.declares(ch.Title(), ch.Table, f)
}

// declares adds the steps that make a foreign key. The rows that are there are looked at while
// others write.
func (w *writer) declares(title string, on catalog.Ref, f *catalog.ForeignKey) {
	sql := w.declared(on, f)
	if len(sql) == 1 {
		s := w.brief(title, sql[0])
		s.Notes = append(s.Notes, "the rows that are there are not looked at: the optimizer does not rely on it until they are")
		return
	}
	w.AskOrphans(on, f)
	w.brief(title+": for rows to come", sql[0])
	w.validates(title, on, f.Name)
}

func (w *writer) alterForeignKey(ch change.AlterForeignKey) {
	on, old, f := ch.Table, ch.Old, ch.New
	modify := func(state string) string { return w.Alter(on, "MODIFY CONSTRAINT "+ident(f.Name)+state) }
	switch {
	case !sameButState(old, f):
		w.brief(ch.Title()+": drop it", w.Alter(on, "DROP CONSTRAINT "+ident(old.Name)))
		w.declares(ch.Title(), on, f)
	case f.Disabled:
		w.brief(ch.Title(), modify(" DISABLE"))
	case f.NotValidated:
		w.brief(ch.Title(), modify(" ENABLE NOVALIDATE"))
	default:
		w.AskOrphans(on, f)
		if old.Disabled {
			w.brief(ch.Title()+": for rows to come", modify(" ENABLE NOVALIDATE"))
		}
		w.validates(ch.Title(), on, f.Name)
	}
}

func sameButState(a, b *catalog.ForeignKey) bool {
	return a.Name == b.Name && slices.Equal(a.Columns, b.Columns) && a.Target == b.Target && slices.Equal(a.TargetColumns, b.TargetColumns) && a.OnDelete == b.OnDelete &&
		a.Deferrable == b.Deferrable && a.Deferred == b.Deferred
}
