package write

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
	"nexdal/internal/engine/ddl"
	"nexdal/internal/engine/sqlserver/traits"
)

func (w *writer) addColumn(ch change.AddColumn) {
	t := w.Now.Table(ch.Table)
	w.AskUnvalued(ch.Table, ch.Column)
	c := ch.Column.Clone()
	if c.Default != "" && c.DefaultName == "" {
		c.DefaultName = traits.DefaultName(t.Name, c.Name)
	}
	sql := []string{w.Alter(ch.Table, "ADD "+columnText(c))}
	if c.Comment != "" {
		sql = append(sql, comment(onTable(ch.Table, "COLUMN", c.Name), "", c.Comment))
	}
	if c.Identity != catalog.IdentityAlways {
		s := w.brief(ch.Title(), sql...)
		s.Notes = append(s.Notes, widened(c))
		return
	}
	s := w.works(ch.Title(), sql...)
	s.Notes = append(s.Notes, widened(c), "every row is given its number")
}

// dropColumn drops a column, its default before.
func dropColumn(t *catalog.Table, name string) []string {
	var sql []string
	if c := t.Column(name); c != nil && c.DefaultName != "" {
		sql = append(sql, dialect.Alter(t.Ref(), "DROP CONSTRAINT "+traits.Ident(c.DefaultName)))
	}
	return append(sql, dialect.Alter(t.Ref(), "DROP COLUMN "+traits.Ident(name)))
}

func (w *writer) setDefault(ch change.SetDefault) []string {
	c := w.Now.Table(ch.Table).Column(ch.Column)
	var sql []string
	if c.DefaultName != "" {
		sql = append(sql, w.Alter(ch.Table, "DROP CONSTRAINT "+traits.Ident(c.DefaultName)))
	}
	if ch.To != "" {
		name := ch.Name
		if name == "" {
			name = traits.DefaultName(ch.Table.Table, ch.Column)
		}
		sql = append(sql, addDefault(ch.Table, name, ch.To, ch.Column))
	}
	return sql
}

func addDefault(on catalog.Ref, name, value, column string) string {
	return dialect.Alter(on, fmt.Sprintf("ADD CONSTRAINT %s DEFAULT (%s) FOR %s", traits.Ident(name), value, traits.Ident(column)))
}

// backfill writes where the value is not there, row by row of what is joined.
func (w *writer) backfill(ch change.BackfillColumn) {
	table, c := traits.Relation(ch.Table), traits.Ident(ch.Column)
	s := w.Step(ch.Title(), w.Sized(ddl.Takes("writers of the rows wait", engine.BlocksAtWork), ch.Table),
		fmt.Sprintf("UPDATE c SET %s = p.%s FROM %s c JOIN %s p ON %s WHERE c.%[1]s IS NULL", c, traits.Ident(ch.From), table, traits.Relation(ch.Via.Target), traits.Quoting.Refers(ch.Via.Columns, ch.Via.TargetColumns)))
	s.Passing = true
}

// An alteration is what becomes of one column.
type alteration struct {
	table  catalog.Ref
	column string
	to     *catalog.Column
}

// alterColumns writes the alterations of columns that stand together in the plan from place i on
// and hang together by foreign keys, as one step: what leans on a column bars its alteration
// (error 5074), and so it is dropped, and made again as it was
// (https://learn.microsoft.com/en-us/sql/t-sql/statements/alter-table-transact-sql#alter-column).
func (w *writer) alterColumns(first int) (int, error) {
	model := w.Now.Clone()
	places := w.Tied(first, func(ch change.Change) bool {
		switch ch.(type) {
		case change.AlterType, change.SetNullable:
			return true
		}
		return false
	})
	w.Several(places)
	var altered []alteration
	var titles []string
	for _, i := range places {
		w.Item = w.Plan[i]
		titles = append(titles, w.Item.Change.Title())
		var name string
		switch ch := w.Item.Change.(type) {
		case change.AlterType:
			name = ch.Column
			w.AskUnfit(ch, unfit(ch))
		case change.SetNullable:
			if name = ch.Column; !ch.Nullable {
				w.AskNulls(ch.Table, name)
			}
		}
		if err := w.Item.Apply(model, w.Can); err != nil {
			return 0, err
		}
		on := w.Item.Change.On()
		at := slices.IndexFunc(altered, func(a alteration) bool { return a.table == on && a.column == name })
		if at < 0 {
			altered = append(altered, alteration{table: on, column: name})
		}
	}
	for i := range altered {
		altered[i].to = model.Table(altered[i].table).Column(altered[i].column)
	}
	w.Item = w.Plan[first]
	sql, back := w.leaning(altered)
	for _, a := range altered {
		sql = append(sql, w.Alter(a.table, "ALTER COLUMN "+alteredText(a.to)))
	}
	sql = append(sql, back...)
	s := w.Step(strings.Join(titles, "; "), w.Sized(ddl.Takes(forLong, engine.BlocksAtWork), w.Item.Change.On()), sql...)
	for _, a := range altered {
		if !slices.Contains(s.Tables, a.table) {
			s.Tables = append(s.Tables, a.table)
		}
	}
	if len(back) > 0 {
		s.Notes = append(s.Notes, "what leans on the columns is dropped and made again; foreign keys that were trusted are checked again")
	}
	return 1, nil
}

func alteredText(c *catalog.Column) string {
	null := " NOT NULL"
	if c.Nullable {
		null = " NULL"
	}
	return traits.Ident(c.Name) + " " + typeText(c.Type) + null
}

// leaning are the statements that take away what leans on the columns, and those that make it
// again as they were.
func (w *writer) leaning(altered []alteration) (drops, back []string) {
	touches := func(ref catalog.Ref, columns []string) bool {
		return slices.ContainsFunc(altered, func(a alteration) bool { return a.table == ref && slices.Contains(columns, a.column) })
	}
	var keys, keysBack, references, referencesBack []string
	for _, t := range w.Now.Tables() {
		for _, f := range t.ForeignKeys {
			if touches(t.Ref(), f.Columns) || touches(f.Target, f.TargetColumns) {
				references = append(references, w.Alter(t.Ref(), "DROP CONSTRAINT "+traits.Ident(f.Name)))
				referencesBack = append(referencesBack, w.declared(t.Ref(), f)...)
				if !f.NotValidated && !f.Disabled {
					w.AskOrphans(t.Ref(), f)
				}
			}
		}
		if !slices.ContainsFunc(altered, func(a alteration) bool { return a.table == t.Ref() }) {
			continue
		}
		for _, k := range t.Checks {
			if slices.ContainsFunc(altered, func(a alteration) bool {
				return a.table == t.Ref() && traits.Expressions.Mentions(k.Expression, a.column)
			}) {
				drops = append(drops, w.Alter(t.Ref(), "DROP CONSTRAINT "+traits.Ident(k.Name)))
				back = append(back, addCheck(t.Ref(), k)...)
				if k.Comment != "" {
					back = append(back, comment(onTable(t.Ref(), "CONSTRAINT", k.Name), "", k.Comment))
				}
			}
		}
		for _, a := range altered {
			if c := t.Column(a.column); a.table == t.Ref() && c.DefaultName != "" {
				drops = append(drops, w.Alter(t.Ref(), "DROP CONSTRAINT "+traits.Ident(c.DefaultName)))
				back = append(back, addDefault(t.Ref(), c.DefaultName, c.Default, c.Name))
			}
		}
		// The clustered index goes last, and comes first: the others hold its columns.
		indexes := slices.Clone(t.Indexes)
		slices.SortStableFunc(indexes, func(a, b *catalog.Index) int { return rank(a) - rank(b) })
		for _, x := range indexes {
			used := append(x.NamedColumns(), x.Include...)
			for _, a := range altered {
				if x.Predicate != "" && traits.Expressions.Mentions(x.Predicate, a.column) {
					used = append(used, a.column)
				}
			}
			if !touches(t.Ref(), used) {
				continue
			}
			drop, make := fmt.Sprintf("DROP INDEX %s ON %s", traits.Ident(x.Name), traits.Relation(t.Ref())), []string{indexText(t, x, "")}
			for _, k := range t.Keys() {
				if k.Index == x.Name {
					drop, make = w.Alter(t.Ref(), "DROP CONSTRAINT "+traits.Ident(k.Name)), []string{w.Alter(t.Ref(), "ADD "+keyText(t, k))}
					if k.Comment != "" {
						make = append(make, comment(onTable(t.Ref(), "CONSTRAINT", k.Name), "", k.Comment))
					}
				}
			}
			if x.Comment != "" {
				make = append(make, comment(onTable(t.Ref(), "INDEX", x.Name), "", x.Comment))
			}
			if x.Invalid {
				make = append(make, fmt.Sprintf("ALTER INDEX %s ON %s DISABLE", traits.Ident(x.Name), traits.Relation(t.Ref())))
			}
			keys, keysBack = append(keys, drop), append(make, keysBack...)
		}
	}
	return slices.Concat(references, drops, keys), slices.Concat(keysBack, back, referencesBack)
}

func rank(x *catalog.Index) int {
	if x.Clustered {
		return 1
	}
	return 0
}

// unfit is the condition of values that the new type cannot hold, or "".
func unfit(ch change.AlterType) string {
	c, from, to := traits.Ident(ch.Column), ch.From, ch.To
	switch {
	case from.Family == catalog.Integer && to.Family == catalog.Integer && to.Bits >= from.Bits && (to.Bits > from.Bits || to.Unsigned == from.Unsigned):
		return ""
	case from.Family == catalog.Text && to.Family == catalog.Text && (to.Length == 0 || from.Length != 0 && from.Length <= to.Length) && (wide(to) || !wide(from)):
		return ""
	case from.Family == catalog.Text && to.Family == catalog.Text && to.Length > 0 && (wide(to) || !wide(from)):
		return fmt.Sprintf("len(%s + '.') - 1 > %d", c, to.Length)
	case from.Family == catalog.Decimal && to.Family == catalog.Decimal && to.Scale >= from.Scale && to.Precision-to.Scale >= from.Precision-from.Scale:
		return ""
	case from.Family == catalog.Float && to.Family == catalog.Decimal: // as exact as so few digits are
		return fmt.Sprintf("%s IS NOT NULL AND (TRY_CONVERT(%s, %[1]s) IS NULL OR abs(TRY_CONVERT(%[2]s, %[1]s) - %[1]s) > abs(%[1]s) * 0.000001)", c, to.Native)
	case from.Family == catalog.Timestamp && to.Family == catalog.Timestamp && (strings.HasPrefix(to.Native, "datetime2") || to.Zoned):
		return ""
	}
	// A value fits where it comes back as it was.
	base := from.Native
	if from.Underlying != "" {
		base = from.Underlying
	}
	return fmt.Sprintf("%s IS NOT NULL AND (TRY_CONVERT(%s, %[1]s) IS NULL OR TRY_CONVERT(%s, TRY_CONVERT(%[2]s, %[1]s)) <> %[1]s)", c, to.Native, base)
}

// wide reports whether a text type holds the letters of any script.
func wide(t catalog.Type) bool {
	base := t.Native
	if t.Underlying != "" {
		base = t.Underlying
	}
	return strings.HasPrefix(base, "n") || base == "sysname"
}
