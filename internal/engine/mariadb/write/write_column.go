package write

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
	"nexdal/internal/engine/mariadb/traits"
)

// modify gathers every change of the column definitions of one table that
// stands together in the plan from place i on, and writes them as one
// statement: the engine is told each column whole
// (https://mariadb.com/kb/en/alter-table/#modify-column), and copies the table
// once. It returns how many changes there were.
func (w *writer) modify(first int) int {
	on := w.Item.Change.On()
	model := w.Now.Table(on).Clone()
	var order, titles []string
	copies, narrow := false, false
	for i := first; i < len(w.Plan) && w.Plan[i].Change.On() == on; i++ {
		name := ""
		switch ch := w.Plan[i].Change.(type) {
		case change.AlterType:
			name, copies = ch.Column, true
			model.Column(name).Type = ch.To
		case change.SetNullable:
			name = ch.Column
			model.Column(name).Nullable = ch.Nullable
		case change.SetDefault:
			name = ch.Column
			model.Column(name).Default = ch.To
		}
		if name == "" {
			break
		}
		if i > first {
			w.With(i)
		}
		switch ch := w.Item.Change.(type) {
		case change.AlterType:
			where := unfit(ch)
			narrow = narrow || where != ""
			w.AskUnfit(ch, where)
		case change.SetNullable:
			if !ch.Nullable {
				w.AskNulls(on, name)
			}
		}
		if !slices.Contains(order, name) {
			order = append(order, name)
		}
		titles = append(titles, w.Item.Change.Title())
	}
	actions := make([]string, len(order))
	for i, name := range order {
		actions[i] = "MODIFY COLUMN " + w.columnLine(model, name)
	}
	lock := "NONE"
	if copies {
		lock = "" // another type is another form of every row
	}
	s := w.step(strings.Join(titles, "; "), lock, strings.Join(actions, ", "))
	if narrow {
		s.Notes = append(s.Notes, "the engine refuses the statement where a value would not fit")
	}
	return len(titles)
}

// columnLine is the column with its name and its own check.
func (w *writer) columnLine(t *catalog.Table, name string) string {
	text := traits.Ident(name) + " " + columnText(t, t.Column(name))
	for _, k := range t.Checks {
		if k.Column == name {
			text += " CHECK (" + k.Expression + ")"
		}
	}
	return text
}

// tied lists the foreign keys that one of the changes alters a side of.
func (w *writer) tied(changes []change.AlterType) []catalog.Referrer {
	var all []catalog.Referrer
	for _, t := range w.Now.Tables() {
		for _, f := range t.ForeignKeys {
			if slices.ContainsFunc(changes, func(ch change.AlterType) bool {
				return ch.Table == t.Ref() && slices.Contains(f.Columns, ch.Column) || ch.Table == f.Target && slices.Contains(f.TargetColumns, ch.Column)
			}) {
				all = append(all, catalog.Referrer{Table: t, ForeignKey: f})
			}
		}
	}
	return all
}

// alterTied writes a change of type whose table foreign keys tie to others by what is
// altered, with the changes of type that hang together with it: the engine alters neither
// side of a foreign key that is there. It returns how many it wrote of those at hand; 0:
// it is not tied.
func (w *writer) alterTied(first int) int {
	var changes []change.AlterType
	for _, it := range w.Plan[first:] {
		ch, ok := it.Change.(change.AlterType)
		if !ok {
			break
		}
		changes = append(changes, ch)
	}
	if len(changes) == 0 || len(w.tied(changes)) == 0 {
		return 0
	}
	group := w.groups(changes)[0]
	places := make([]int, len(group))
	altered := make([]change.AlterType, len(group))
	for i, n := range group {
		places[i], altered[i] = first+n, changes[n]
	}
	if len(w.tied(altered)) == 0 {
		return 0
	}
	w.alterGroup(places, altered)
	return 1
}

// groups puts together the changes whose tables hang together by foreign keys that they
// alter a side of, in the order of the first of each.
func (w *writer) groups(changes []change.AlterType) [][]int {
	root := map[catalog.Ref]catalog.Ref{}
	var find func(catalog.Ref) catalog.Ref
	find = func(r catalog.Ref) catalog.Ref {
		if up, ok := root[r]; ok && up != r {
			return find(up)
		}
		return r
	}
	for _, r := range w.tied(changes) {
		root[find(r.Table.Ref())] = find(r.ForeignKey.Target)
	}
	var groups [][]int
	at := map[catalog.Ref]int{}
	for i, ch := range changes {
		g, ok := at[find(ch.Table)]
		if !ok {
			g = len(groups)
			at[find(ch.Table)] = g
			groups = append(groups, nil)
		}
		groups[g] = append(groups[g], i)
	}
	return groups
}

// alterGroup alters types within one lock of all the tables that hang together: their
// foreign keys are dropped and declared again. What it needs of the data is asked before;
// where it stops all the same, the columns are altered back and the foreign keys put back.
func (w *writer) alterGroup(places []int, changes []change.AlterType) {
	w.Several(places)
	was, model := w.Now, w.Now.Clone()
	s := engine.Step{Transaction: false, Blocks: engine.BlocksAtWork,
		Lock: "readers and writers of the tables, and of those that they are tied to, wait while they are copied and the foreign keys checked"}
	to, back := map[catalog.Ref][]string{}, map[catalog.Ref][]string{}
	var titles []string
	for i, ch := range changes {
		w.Item = w.Plan[places[i]] // whose answers a question bears on
		titles = append(titles, ch.Title())
		t := model.Table(ch.Table)
		t.Column(ch.Column).Type = ch.To
		w.AskUnfit(ch, unfit(ch))
		if to[ch.Table] == nil {
			s.Tables = append(s.Tables, ch.Table)
		}
		to[ch.Table] = append(to[ch.Table], "MODIFY COLUMN "+w.columnLine(t, ch.Column))
		back[ch.Table] = append(back[ch.Table], "MODIFY COLUMN "+w.columnLine(was.Table(ch.Table), ch.Column))
	}
	s.Title = strings.Join(titles, "; ")
	var locked, drops, adds, undrops, restores, restoresPlain []string
	lock := func(ref catalog.Ref) {
		if text := traits.Relation(ref) + " WRITE"; !slices.Contains(locked, text) {
			locked = append(locked, text)
		}
	}
	for _, r := range w.tied(changes) {
		on, f := r.Table.Ref(), r.ForeignKey
		lock(on)
		lock(f.Target)
		w.AskOrphans(on, f)
		drops = append(drops, dialect.Alter(on, "DROP FOREIGN KEY "+traits.Ident(f.Name)))
		adds = append(append(adds, dialect.Alter(on, "ADD "+w.foreignKey(f))), w.keptIndex(r.Table, f)...)
		restoresPlain = append(restoresPlain, dialect.Alter(on, "ADD "+w.foreignKey(f)))
		undrops = append(undrops, dialect.Alter(on, "DROP FOREIGN KEY IF EXISTS "+traits.Ident(f.Name))) // where it came as far as that
		restores = append(restores, dialect.Alter(on, "ADD "+strings.Replace(w.foreignKey(f), "FOREIGN KEY (", "FOREIGN KEY IF NOT EXISTS "+traits.Ident(f.Name)+" (", 1)))
	}
	for _, ref := range s.Tables {
		lock(ref)
	}
	s.SQL = append([]string{"LOCK TABLES " + strings.Join(locked, ", ")}, drops...)
	var undo []string
	for _, ref := range s.Tables {
		s.SQL = append(s.SQL, dialect.Alter(ref, to[ref]...))
		undo = append(undo, dialect.Alter(ref, back[ref]...))
	}
	s.SQL = append(append(s.SQL, adds...), "UNLOCK TABLES")
	if !w.Conditional {
		s.CleanUp = "UNLOCK TABLES"
		s.Notes = append(s.Notes, "if it stops between, foreign keys are gone and have to be declared again: "+strings.Join(restoresPlain, "; "))
		w.Add(s)
		return
	}
	s.CleanUp = "BEGIN NOT ATOMIC " + strings.Join(slices.Concat(undrops, undo, restores), "; ") + "; END"
	w.Add(s)
}

// refusesColumn says why a column cannot be defined again, or "".
func refusesColumn(c *catalog.Catalog, t *catalog.Table, name string) string {
	col := t.Column(name)
	switch {
	case col == nil:
		return fmt.Sprintf("column %s of %s does not exist", name, t.Ref())
	case col.Generated != "":
		return fmt.Sprintf("%s.%s is computed", t.Name, name)
	}
	return refusesGap(c, t)
}

// refusesGap bars what tells a column or the partitions whole, where not everything of the
// table was read.
func refusesGap(c *catalog.Catalog, t *catalog.Table) string {
	if i := slices.IndexFunc(c.Gaps, func(g catalog.Gap) bool { return g.Schema == t.Schema && g.Table == t.Name }); i >= 0 {
		return fmt.Sprintf("not everything of %s could be read: %s: %s", t.Name, c.Gaps[i].What, c.Gaps[i].Reason)
	}
	return ""
}

// unfit is the condition of values that the new type cannot hold, or "".
func unfit(ch change.AlterType) string {
	c, from, to := traits.Ident(ch.Column), ch.From, ch.To
	switch {
	case from.Family == catalog.Integer && to.Family == catalog.Integer:
		least, most := limits(to)
		wasLeast, wasMost := limits(from)
		if least <= wasLeast && most >= wasMost {
			return ""
		}
		return fmt.Sprintf("%s NOT BETWEEN %d AND %d", c, least, most)
	case from.Family == catalog.Text && to.Family == catalog.Text:
		if to.Length == 0 || from.Length != 0 && from.Length <= to.Length {
			return ""
		}
		return fmt.Sprintf("char_length(%s) > %d", c, to.Length)
	case from.Family == catalog.Integer && to.Family == catalog.Decimal && to.Precision-to.Scale >= 19:
		return ""
	case from.Family == catalog.Decimal && to.Family == catalog.Decimal && to.Scale >= from.Scale && to.Precision-to.Scale >= from.Precision-from.Scale:
		return ""
	case from.Family == catalog.Decimal && to.Family == catalog.Float && (to.Bits == 64 && from.Precision <= 15 || from.Precision <= 7):
		return "" // so many digits come back as they were
	case from.Family == catalog.Decimal && to.Family == catalog.Float:
		return fmt.Sprintf("CAST(CAST(%s AS DOUBLE) AS DECIMAL(%d,%d)) <> %s", c, from.Precision, from.Scale, c)
	case from.Family == catalog.Float && to.Family == catalog.Decimal && from.Bits == 32: // as exact as so few digits are
		return fmt.Sprintf("ABS(CAST(%s AS DECIMAL(%d,%d)) - %s) > ABS(%s) * 0.000001", c, to.Precision, to.Scale, c, c)
	case to.Family == catalog.Decimal:
		return fmt.Sprintf("CAST(%s AS DECIMAL(%d,%d)) <> %s", c, to.Precision, to.Scale, c)
	case from.Family == catalog.Date && to.Family == catalog.Timestamp && !to.Zoned:
		return ""
	case from.Family == catalog.Timestamp && to.Family == catalog.Date:
		return fmt.Sprintf("%s <> CAST(%s AS DATE)", c, c)
	case from.Family == to.Family && (to.Family == catalog.Timestamp || to.Family == catalog.Time):
		if fractions(to) >= fractions(from) {
			return ""
		}
		return fmt.Sprintf("%s <> CAST(%s AS %s(%d))", c, c, castAs(to), fractions(to))
	case from.Family == catalog.Text && (to.Family == catalog.Date || to.Family == catalog.Timestamp):
		kind := "DATE"
		if to.Family == catalog.Timestamp {
			kind = "DATETIME(6)"
		}
		return fmt.Sprintf("%s IS NOT NULL AND CAST(%s AS %s) IS NULL", c, c, kind)
	}
	return fmt.Sprintf("BINARY CAST(%s AS CHAR) <> BINARY CAST(CAST(%s AS %s) AS CHAR)", c, c, castAs(to))
}

// fractions are the digits of a second that a type of time keeps.
func fractions(t catalog.Type) int {
	n := 0
	if _, digits, ok := strings.Cut(t.Native, "("); ok {
		fmt.Sscanf(digits, "%d", &n)
	}
	return n
}

// castAs is the type as CAST knows it (https://mariadb.com/kb/en/cast/).
func castAs(t catalog.Type) string {
	switch t.Family {
	case catalog.Integer, catalog.Boolean:
		if t.Unsigned {
			return "UNSIGNED"
		}
		return "SIGNED"
	case catalog.Float:
		return "DOUBLE"
	case catalog.Date:
		return "DATE"
	case catalog.Time:
		return "TIME"
	case catalog.Timestamp:
		return "DATETIME"
	}
	return "CHAR"
}

// limits of a whole number type, as far as 64 bits with a sign reach.
func limits(t catalog.Type) (least, most int64) {
	bits := t.Bits
	if bits == 0 || bits > 64 {
		bits = 64
	}
	switch {
	case t.Unsigned && bits == 64:
		return 0, math.MaxInt64
	case t.Unsigned:
		return 0, 1<<bits - 1
	case bits == 64:
		return math.MinInt64, math.MaxInt64
	}
	return -1 << (bits - 1), 1<<(bits-1) - 1
}
