package mariadb

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
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
	text := ident(name) + " " + columnText(t, t.Column(name))
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

// alterTied writes the changes of type that stand together from place i on, of
// whatever tables, as one step where foreign keys tie them: the engine alters
// neither side of one that is there. They are dropped and re-created within
// one lock of all the tables. It returns how many changes there were; 0: none of
// them is tied.
func (w *writer) alterTied(first int) int {
	var changes []change.AlterType
	for _, it := range w.Plan[first:] {
		ch, ok := it.Change.(change.AlterType)
		if !ok {
			break
		}
		changes = append(changes, ch)
	}
	ties := w.tied(changes)
	if len(ties) == 0 {
		return 0
	}
	model := w.Now.Clone()
	s := engine.Step{Transaction: false, CleanUp: "UNLOCK TABLES", Blocks: engine.BlocksAtWork,
		Lock: "readers and writers of the tables, and of those that they are tied to, wait while they are copied and the foreign keys checked"}
	modify := map[catalog.Ref][]string{}
	var titles []string
	for n, ch := range changes {
		if n > 0 {
			w.With(first + n)
		}
		titles = append(titles, ch.Title())
		t := model.Table(ch.Table)
		t.Column(ch.Column).Type = ch.To
		w.AskUnfit(ch, unfit(ch))
		if modify[ch.Table] == nil {
			s.Tables = append(s.Tables, ch.Table)
		}
		modify[ch.Table] = append(modify[ch.Table], "MODIFY COLUMN "+w.columnLine(t, ch.Column))
	}
	s.Title = strings.Join(titles, "; ")
	var locked []string
	lock := func(ref catalog.Ref) {
		if text := relation(ref) + " WRITE"; !slices.Contains(locked, text) {
			locked = append(locked, text)
		}
	}
	var drops, adds []string
	for _, r := range ties {
		on := r.Table.Ref()
		lock(on)
		lock(r.ForeignKey.Target)
		drops = append(drops, fmt.Sprintf("ALTER TABLE %s DROP FOREIGN KEY %s", relation(on), ident(r.ForeignKey.Name)))
		add := fmt.Sprintf("ALTER TABLE %s ADD %s", relation(on), foreignKey(r.ForeignKey))
		adds = append(append(adds, add), keptIndex(r.Table, r.ForeignKey)...)
		s.Notes = append(s.Notes, fmt.Sprintf("should it stop half way, foreign key %s of %s may have to be declared again: %s", r.ForeignKey.Name, on, add))
	}
	for _, ref := range s.Tables {
		lock(ref)
	}
	s.SQL = append([]string{"LOCK TABLES " + strings.Join(locked, ", ")}, drops...)
	for _, ref := range s.Tables {
		s.SQL = append(s.SQL, fmt.Sprintf("ALTER TABLE %s %s", relation(ref), strings.Join(modify[ref], ", ")))
	}
	s.SQL = append(append(s.SQL, adds...), "UNLOCK TABLES")
	w.Add(s)
	return len(changes)
}

// refusesColumn says why a column cannot be defined again, or "".
func refusesColumn(c *catalog.Catalog, t *catalog.Table, name string) string {
	col := t.Column(name)
	switch {
	case col == nil:
		return fmt.Sprintf("column %s of %s does not exist", name, t.Ref())
	case col.Generated != "":
		return fmt.Sprintf("%s.%s is computed", t.Name, name)
	case slices.ContainsFunc(c.Gaps, func(g catalog.Gap) bool { return g.Schema == t.Schema && g.Table == t.Name }):
		return fmt.Sprintf("not everything of %s could be read, and the column has to be told whole", t.Name)
	}
	return ""
}

// unfit is the condition of values that the new type cannot hold, or "".
func unfit(ch change.AlterType) string {
	c, from, to := ident(ch.Column), ch.From, ch.To
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
	case from.Family == catalog.Text && (to.Family == catalog.Date || to.Family == catalog.Timestamp):
		kind := "DATE"
		if to.Family == catalog.Timestamp {
			kind = "DATETIME(6)"
		}
		return fmt.Sprintf("%s IS NOT NULL AND CAST(%s AS %s) IS NULL", c, c, kind)
	}
	return fmt.Sprintf("BINARY CAST(%s AS CHAR) <> BINARY CAST(CAST(%s AS %s) AS CHAR)", c, c, castAs(to))
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
