package write

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
	"nexdal/internal/engine/ddl"
	"nexdal/internal/engine/firebird/traits"
)

// unnamed drops a constraint that the engine numbered: it is looked for by what it is, since
// another database gave it another number.
func unnamed(on catalog.Ref, kind, fits string) string {
	return fmt.Sprintf(`EXECUTE BLOCK AS
DECLARE n VARCHAR(63);
BEGIN
  SELECT FIRST 1 TRIM(TRAILING FROM k.rdb$constraint_name) FROM rdb$relation_constraints k%[3]s
    WHERE k.rdb$relation_name = %[1]s AND k.rdb$constraint_type = '%[2]s' AND k.rdb$constraint_name STARTING WITH 'INTEG_'%[4]s INTO :n;
  EXECUTE STATEMENT %[5]s || n;
END`, traits.Literal(on.Table), kind, joins[kind], fits, traits.Literal("ALTER TABLE "+traits.Relation(on)+" DROP CONSTRAINT "))
}

// joins are what a constraint of the kind is told by.
var joins = map[string]string{
	"CHECK":       " JOIN rdb$check_constraints c ON c.rdb$constraint_name = k.rdb$constraint_name JOIN rdb$triggers t ON t.rdb$trigger_name = c.rdb$trigger_name",
	"FOREIGN KEY": " JOIN rdb$ref_constraints f ON f.rdb$constraint_name = k.rdb$constraint_name JOIN rdb$relation_constraints p ON p.rdb$constraint_name = f.rdb$const_name_uq",
}

// onColumns is the condition that the index of the constraint is on the columns, in their order.
func onColumns(of string, columns []string) string {
	text := fmt.Sprintf("\n    AND (SELECT COUNT(*) FROM rdb$index_segments s WHERE s.rdb$index_name = %s.rdb$index_name) = %d", of, len(columns))
	for i, c := range columns {
		text += fmt.Sprintf("\n    AND EXISTS (SELECT 1 FROM rdb$index_segments s WHERE s.rdb$index_name = %s.rdb$index_name AND s.rdb$field_name = %s AND s.rdb$field_position = %d)", of, traits.Literal(c), i)
	}
	return text
}

func dropKey(t *catalog.Table, k *catalog.Key) string {
	switch {
	case !traits.SystemNamed(k.Name):
		return traits.Alter(t.Ref(), "DROP CONSTRAINT "+traits.Ident(k.Name))
	case k == t.PrimaryKey:
		return unnamed(t.Ref(), "PRIMARY KEY", "")
	}
	return unnamed(t.Ref(), "UNIQUE", onColumns("k", k.Columns))
}

// DropReference drops a foreign key; one without a name is looked for by its columns.
func DropReference(on catalog.Ref, f *catalog.ForeignKey) string {
	if !traits.SystemNamed(f.Name) {
		return traits.Alter(on, "DROP CONSTRAINT "+traits.Ident(f.Name))
	}
	return unnamed(on, "FOREIGN KEY", " AND p.rdb$relation_name = "+traits.Literal(f.Target.Table)+onColumns("k", f.Columns))
}

// dropCheck looks for one without a name by its text: the shortest that holds it.
func dropCheck(on catalog.Ref, k *catalog.Check) string {
	if !traits.SystemNamed(k.Name) {
		return traits.Alter(on, "DROP CONSTRAINT "+traits.Ident(k.Name))
	}
	return unnamed(on, "CHECK", " AND POSITION("+traits.Literal(k.Expression)+" IN t.rdb$trigger_source) > 0 ORDER BY CHAR_LENGTH(t.rdb$trigger_source)")
}

// uniqueKey is the one of that name, or of those columns where it has none.
func uniqueKey(t *catalog.Table, name string, columns []string) *catalog.Key {
	for _, k := range t.UniqueKeys {
		if k.Name == name && (name != "" || slices.Equal(k.Columns, columns)) {
			return k
		}
	}
	return nil
}

func (w *writer) addKey(ch change.AddKey) {
	t := w.Now.Table(ch.Table)
	if t.HasColumns(ch.Key.Columns) && w.From.Table(ch.Table) != nil && w.From.Table(ch.Table).HasColumns(ch.Key.Columns) {
		w.AskRepeats(ch.Table, ch.Key.Columns)
	}
	kind := "UNIQUE"
	if ch.Primary {
		kind = "PRIMARY KEY"
	}
	x := ch.Index()
	w.works(ch.Title(), w.Alter(ch.Table, "ADD "+keyOf(kind, ch.Key, x)))
}

// uniqueness makes one kind of uniqueness, and drops it.
func (w *writer) uniqueness(t *catalog.Table, u change.Uniqueness, x *catalog.Index) (make, drop string) {
	if u.Key == nil {
		return indexText(t.Ref(), x), "DROP INDEX " + traits.Ident(u.Index.Name)
	}
	kind := "UNIQUE"
	if u.Primary {
		kind = "PRIMARY KEY"
	}
	k := u.Key
	if u.Primary && t.PrimaryKey != nil {
		k = t.PrimaryKey
	}
	return w.Alter(t.Ref(), "ADD "+keyOf(kind, u.Key, x)), dropKey(t, k)
}

func (w *writer) replaceKey(ch change.ReplaceKey) {
	t := w.Now.Table(ch.Table)
	index := ch.From.Name()
	var old *catalog.Index
	if ch.From.Key != nil {
		index = ch.From.Key.Index
	}
	old = t.Index(index)
	drops, adds := w.LeaningOn(t, index, w.again)
	add, _ := w.uniqueness(t, ch.To, ch.Index(old))
	_, drop := w.uniqueness(t, ch.From, old)
	w.AskRepeats(ch.Table, ch.To.Columns())
	s := w.works(ch.Title(), slices.Concat(drops, []string{drop, add}, adds)...)
	if len(drops) > 0 {
		s.Notes = append(s.Notes, "the foreign keys that lean on it are dropped and declared again, and checked then")
	}
}

// again are the statements that make a foreign key as it is.
func (w *writer) again(on catalog.Ref, f *catalog.ForeignKey) []string {
	return []string{w.Alter(on, "ADD "+referenceText(w.Now.Table(on), f))}
}

// addSurrogate: the number comes first, the key that gives way is dropped and declared as unique, and
// the number becomes the key.
func (w *writer) addSurrogate(ch change.AddSurrogateKey) {
	t := w.Now.Table(ch.Table)
	after := w.Now.Clone()
	if err := w.Item.Apply(after, w.Can); err != nil {
		return
	}
	then := after.Table(ch.Table)
	drops, adds := w.LeaningOn(t, ch.From.Index, w.again)
	keys := slices.Concat(drops, []string{dropKey(t, t.PrimaryKey), w.Alter(ch.Table, "ADD "+keyText(then, ch.Unique)), w.Alter(ch.Table, "ADD "+keyText(then, then.PrimaryKey))}, adds)
	made, numbers := w.numbered(ch.Table, ch.Column)
	s := w.parts(ch.Title(), w.unnumber(ch.Table, ch.Column), made, numbers, keys)
	s.Notes = append(s.Notes, widened(ch.Column))
}

func (w *writer) dropSurrogate(ch change.Undo[change.AddSurrogateKey]) {
	t, then := w.Now.Table(ch.Of.Table), w.To.Table(ch.Of.Table)
	drops, adds := w.LeaningOn(t, ch.Of.Unique.Index, w.again)
	w.works(ch.Title(), slices.Concat(drops, []string{dropKey(t, t.PrimaryKey)}, w.dropColumn(ch.Of.Table, ch.Of.Column.Name), []string{dropKey(t, uniqueKey(t, ch.Of.Unique.Name, ch.Of.Unique.Columns)),
		w.Alter(ch.Of.Table, "ADD "+keyText(then, then.PrimaryKey))}, adds)...)
}

// alterTypes writes the alterations of types that stand together in the plan and hang together by
// foreign keys, as one step: a column of a constraint's index is not altered, and so the constraint
// is dropped, and made again as it was.
func (w *writer) alterTypes(first int) (int, error) {
	places := w.Tied(first, func(ch change.Change) bool { _, ok := ch.(change.AlterType); return ok })
	w.Several(places)
	type column struct {
		table catalog.Ref
		name  string
	}
	altered := map[column]bool{}
	var titles, sql []string
	for _, i := range places {
		ch := w.Plan[i].Change.(change.AlterType)
		altered[column{ch.Table, ch.Column}] = true
		titles = append(titles, ch.Title())
		native := ch.To.Native
		sql = append(sql, w.column(ch.Table, ch.Column, "TYPE "+native))
	}
	touches := func(t catalog.Ref, columns []string) bool {
		return slices.ContainsFunc(columns, func(c string) bool { return altered[column{t, c}] })
	}
	var drops, adds []string
	for _, t := range w.Now.Tables() {
		for _, f := range t.ForeignKeys {
			if touches(t.Ref(), f.Columns) || touches(f.Target, f.TargetColumns) {
				w.AskOrphans(t.Ref(), f)
				drops = append(drops, DropReference(t.Ref(), f))
				adds = append(adds, w.again(t.Ref(), f)...)
			}
		}
	}
	references := adds
	adds = nil
	for _, t := range w.Now.Tables() {
		for _, k := range t.Keys() {
			if !touches(t.Ref(), k.Columns) {
				continue
			}
			for _, r := range w.Now.Lookup().Referrers(t.Ref()) { // those on other columns of it
				if add := w.again(r.Table.Ref(), r.ForeignKey); r.ForeignKey.TargetIndex == k.Index && !slices.Contains(references, add[0]) {
					drops, references = append(drops, DropReference(r.Table.Ref(), r.ForeignKey)), append(references, add...)
				}
			}
			drops, adds = append(drops, dropKey(t, k)), append(adds, w.Alter(t.Ref(), "ADD "+keyText(t, k)))
			if x := t.Index(k.Index); x != nil && x.Comment != "" && !x.SystemNamed {
				adds = append(adds, commentText("INDEX", traits.Ident(x.Name), x.Comment))
			}
		}
	}
	l := ddl.Takes(forMoment, engine.BlocksBriefly)
	if len(drops) > 0 {
		l = ddl.Takes(forLong, engine.BlocksAtWork)
	}
	s := w.Step(strings.Join(titles, "; "), w.Sized(l, w.Plan[first].Change.On()), slices.Concat(drops, sql, adds, references)...)
	s.Tables = nil
	for c := range altered {
		if !slices.Contains(s.Tables, c.table) {
			s.Tables = append(s.Tables, c.table)
		}
	}
	slices.SortFunc(s.Tables, catalog.Ref.Compare)
	if len(drops) > 0 {
		s.Notes = append(s.Notes, "keys and foreign keys on the columns are dropped and made again, and checked then")
	}
	return 1, nil
}
