package standin

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqllex"
)

// lay makes the place for the rows of a table as the catalog has it, and carries those over
// that are there: of each column, from the one that it was called before.
func (s *Session) lay(ctx context.Context, t *catalog.Table, were map[string]string) error {
	m := s.m
	var parts, into, from []string
	for _, c := range t.Columns {
		parts = append(parts, s.column(c))
		if was, ok := were[c.Name]; ok && c.Generated == "" {
			into, from = append(into, Quote(c.Name)), append(from, was)
		}
	}
	place, old := stored(t.Ref()), ""
	if were != nil {
		old = Quote("old " + t.Schema + "." + t.Name)
		if err := m.unguard(ctx, t.Ref()); err != nil {
			return err
		}
		if err := m.Do(ctx, "ALTER TABLE "+place+" RENAME TO "+old); err != nil {
			return err
		}
	}
	if err := m.Do(ctx, fmt.Sprintf("CREATE TABLE %s (%s)", place, strings.Join(parts, ", "))); err != nil {
		return err
	}
	if old != "" {
		if len(into) > 0 {
			if err := m.Do(ctx, fmt.Sprintf("INSERT INTO %s (%s) SELECT %s FROM %s ORDER BY rowid", place, strings.Join(into, ", "), strings.Join(from, ", "), old)); err != nil {
				return err
			}
		}
		if err := m.Do(ctx, "DROP TABLE "+old); err != nil {
			return err
		}
	}
	return s.Guard(ctx, t)
}

// same are the columns as they are.
func same(t *catalog.Table) map[string]string {
	were := map[string]string{}
	for _, c := range t.Columns {
		were[c.Name] = Quote(c.Name)
	}
	return were
}

// column is a column where the rows are. What it refuses the guards see to, so that what is
// there may stay.
func (s *Session) column(c *catalog.Column) string {
	text := Quote(c.Name) + " " + kept(c.Type)
	switch {
	case c.Generated != "":
		text += " AS (" + s.readable(c.Generated) + ")"
	case c.Default != "":
		text += " DEFAULT (" + s.readable(c.Default) + ")"
	}
	return text
}

// kept is the type by which SQLite keeps the values: the system's own name first, which faces
// look at.
func kept(t catalog.Type) string {
	name, _, _ := strings.Cut(t.Native, "(")
	name = strings.Map(func(r rune) rune {
		if r >= 'a' && r <= 'z' || r >= '0' && r <= '9' || r == '_' {
			return r
		}
		return '_'
	}, strings.ToLower(name))
	switch t.Family {
	case catalog.Integer, catalog.Boolean:
		return name + " INTEGER"
	case catalog.Float:
		return name + " REAL"
	case catalog.Decimal:
		return name + " NUMERIC"
	case catalog.Binary:
		return name + " BLOB"
	}
	return name + " TEXT"
}

// guardsOf are the triggers and indexes that keep the promises of a table, each by the statement
// that made it: how to drop it.
func (m *Machine) guardsOf(ctx context.Context, ref catalog.Ref) (map[string]string, error) {
	rows, err := m.rows.QueryContext(ctx, "SELECT sql, 'DROP ' || type || ' \"' || replace(name, '\"', '\"\"') || '\"' FROM sqlite_schema WHERE tbl_name = ? AND type IN ('trigger', 'index') AND sql IS NOT NULL", unquoted(stored(ref)))
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	guards := map[string]string{}
	for rows.Next() {
		var made, drop string
		if err := rows.Scan(&made, &drop); err != nil {
			return nil, err
		}
		guards[made] = drop
	}
	return guards, rows.Err()
}

// unguard takes them away.
func (m *Machine) unguard(ctx context.Context, ref catalog.Ref) error {
	guards, err := m.guardsOf(ctx, ref)
	if err != nil {
		return err
	}
	for _, drop := range guards {
		if err := m.Do(ctx, drop); err != nil {
			return err
		}
	}
	return nil
}

func unquoted(name string) string { return strings.ReplaceAll(name[1:len(name)-1], `""`, `"`) }

// Guard brings what keeps the promises of the table to what the catalog says: unique indexes, and
// triggers that refuse new rows for what is null, breaks a check or lacks a parent. Rows that are
// there are not looked at.
func (s *Session) Guard(ctx context.Context, t *catalog.Table) error {
	m := s.m
	g := &guards{s: s, t: t}
	if m.Keeps {
		for _, x := range t.Indexes {
			if x.Unique && !x.Invalid {
				g.made = append(g.made, g.unique(x))
			}
		}
		g.checks()
		for _, f := range t.ForeignKeys {
			if !f.Disabled {
				g.child(f)
			}
		}
		for _, other := range m.Catalog.Tables() {
			for _, f := range other.ForeignKeys {
				if f.Target == t.Ref() && !f.Disabled {
					g.parent(other, f)
				}
			}
		}
	}
	g.values()
	g.numbers()
	there, err := m.guardsOf(ctx, t.Ref())
	if err != nil {
		return err
	}
	for made, drop := range there {
		if !slices.Contains(g.made, made) {
			if err := m.Do(ctx, drop); err != nil {
				return err
			}
		}
	}
	for _, sql := range g.made {
		if there[sql] == "" {
			if err := m.Do(ctx, sql); err != nil {
				return err
			}
		}
	}
	return nil
}

type guards struct {
	s    *Session
	t    *catalog.Table
	made []string
}

// A Broken says which promise a statement would have broken.
type Broken struct {
	Kind   string // "null", "long", "range", "check", "foreign key", "referred", "unique"
	Name   string // of the constraint or index
	Table  catalog.Ref
	Column string
	Verb   string // "INSERT", "UPDATE", "DELETE"
}

// Error says it in a sentence.
func (b *Broken) Error() string {
	return fmt.Sprintf("%s of %s.%s is broken: %s", b.Kind, b.Table, b.Column, b.Name)
}

const mark = "\x1f"

// refuse raises what [Session.Told] reads.
func (g *guards) refuse(kind, name, column, verb string) string {
	return "SELECT RAISE(ABORT, " + literal(strings.Join([]string{mark, kind, name, g.t.Schema, g.t.Name, column, verb, mark}, "\x1e")) + ")"
}

// Told is the promise that was broken by what SQLite says, or nil.
func (s *Session) Told(err error) *Broken {
	if err == nil {
		return nil
	}
	text := err.Error()
	if _, rest, ok := strings.Cut(text, mark+"\x1e"); ok {
		rest, _, _ = strings.Cut(rest, "\x1e"+mark)
		if p := strings.Split(rest, "\x1e"); len(p) == 6 {
			return &Broken{p[0], p[1], catalog.Ref{Schema: p[2], Table: p[3]}, p[4], p[5]}
		}
	}
	if _, rest, ok := strings.Cut(text, "UNIQUE constraint failed: "); ok {
		for _, t := range s.m.Catalog.Tables() {
			for _, x := range t.Indexes {
				of := fmt.Sprintf("index '%s'", uniqueName(t, x))
				if plainly(t, x) { // SQLite names the columns then
					of = unquoted(stored(t.Ref())) + "." + strings.Join(x.Columns(), ", "+unquoted(stored(t.Ref()))+".")
				}
				if rest, ok := strings.CutPrefix(rest, of); ok && x.Unique && (rest == "" || rest[0] == ' ') {
					return &Broken{Kind: "unique", Name: x.Name, Table: t.Ref(), Column: strings.Join(x.Columns(), ", "), Verb: "INSERT"}
				}
			}
		}
	}
	return nil
}

// plainly reports whether the index is on columns that take no null, all of them: then it is to
// SQLite what it is to the system.
func plainly(t *catalog.Table, x *catalog.Index) bool {
	return x.Predicate == "" && t.NotNull(x.Columns())
}

func uniqueName(t *catalog.Table, x *catalog.Index) string {
	return unquoted(stored(t.Ref())) + "/" + x.Name
}

// unique: where the system takes nulls for alike, one stands for them all.
func (g *guards) unique(x *catalog.Index) string {
	if plainly(g.t, x) {
		return fmt.Sprintf("CREATE UNIQUE INDEX %s ON %s (%s)", Quote(uniqueName(g.t, x)), stored(g.t.Ref()), quotes(x.Columns()))
	}
	var parts []string
	for _, p := range x.Parts {
		part := Quote(p.Column)
		if p.Expression != "" {
			part = "(" + g.s.readable(p.Expression) + ")"
		}
		if g.s.m.NullsAlike || g.s.m.AllNullFree {
			part = "ifnull(" + part + ", x'006e756c6c')"
		} else {
			part = "(" + part + ")" // as an expression, so that the index is named when it refuses
			if p.Expression == "" {
				part = "(" + part + " || '')"
			}
		}
		parts = append(parts, part)
	}
	where := ""
	if x.Predicate != "" {
		where = " WHERE " + g.s.readable(x.Predicate)
	}
	if named := x.NamedColumns(); g.s.m.AllNullFree && len(named) == len(x.Parts) {
		where = " WHERE NOT (" + sqllex.Each(named, func(name string) string { return Quote(name) + " IS NULL" }, " AND ") + ")"
	}
	return fmt.Sprintf("CREATE UNIQUE INDEX %s ON %s (%s)%s", Quote(uniqueName(g.t, x)), stored(g.t.Ref()), strings.Join(parts, ", "), where)
}

func (g *guards) add(when, what, body string) {
	g.made = append(g.made, fmt.Sprintf("CREATE TRIGGER %s %s ON %s BEGIN %s; END", Quote(unquoted(stored(g.t.Ref()))+"/"+what), when, stored(g.t.Ref()), body))
}

// values: what the columns do not take. A column that is numbered is filled afterwards.
func (g *guards) values() {
	refused := map[string][]string{}
	for _, c := range g.t.Columns {
		if c.Generated != "" {
			continue
		}
		value := "NEW." + Quote(c.Name)
		refuse := func(kind, condition string) {
			for _, verb := range []string{"INSERT", "UPDATE"} {
				refused[verb] = append(refused[verb], g.refuse(kind, "", c.Name, verb)+" WHERE "+condition)
			}
		}
		if !c.Nullable && c.Identity == catalog.NoIdentity {
			refuse("null", value+" IS NULL")
		}
		if long := Long(c.Type, value); long != "" {
			refuse("long", long)
		}
		if outside := Outside(c.Type, value); outside != "" {
			refuse("range", outside)
		}
	}
	for verb, bodies := range refused {
		g.add("BEFORE "+verb, "values "+verb, strings.Join(bodies, "; "))
	}
}

// Long is the condition that a value, as SQLite has it, is longer than the type takes; or "".
func Long(t catalog.Type, value string) string {
	if t.Length > 0 && (t.Family == catalog.Text || t.Family == catalog.Binary) {
		return fmt.Sprintf("length(%s) > %d", value, t.Length)
	}
	return ""
}

// Outside is the condition that a value is no number that the type holds; or "".
func Outside(t catalog.Type, value string) string {
	if t.Family != catalog.Integer || t.Bits == 0 {
		return ""
	}
	high := t.Largest()
	low := -high - 1
	if t.Unsigned && t.Bits < 64 {
		low = 0
	}
	if t.Precision > 0 && low < 0 {
		low = -high // of digits
	}
	return fmt.Sprintf("%[1]s IS NOT NULL AND (typeof(%[1]s) <> 'integer' OR %[1]s NOT BETWEEN %[2]d AND %[3]d)", value, low, high)
}

func (g *guards) checks() {
	for _, k := range g.t.Checks {
		if k.NotEnforced {
			continue
		}
		// The expression names columns of the row, which is looked at where it will be.
		g.add("AFTER INSERT", "check "+k.Name+" INSERT", g.refuse("check", k.Name, k.Column, "INSERT")+g.broken(k))
		g.add("AFTER UPDATE", "check "+k.Name+" UPDATE", g.refuse("check", k.Name, k.Column, "UPDATE")+g.broken(k))
	}
}

func (g *guards) broken(k *catalog.Check) string {
	return fmt.Sprintf(" FROM %s WHERE rowid = NEW.rowid AND NOT (%s)", stored(g.t.Ref()), g.s.readable(k.Expression))
}

func pairs(columns, keys []string, left, right string) string {
	var list []string
	for i := range columns {
		list = append(list, left+Quote(columns[i])+" = "+right+Quote(keys[i]))
	}
	return strings.Join(list, " AND ")
}

// child refuses values without a parent; a row may be its own.
func (g *guards) child(f *catalog.ForeignKey) {
	var filled []string
	for _, c := range f.Columns {
		filled = append(filled, "NEW."+Quote(c)+" IS NOT NULL")
	}
	body := func(verb string) string {
		return fmt.Sprintf("%s WHERE %s AND NOT EXISTS (SELECT 1 FROM %s p WHERE %s)", g.refuse("foreign key", f.Name, strings.Join(f.Columns, ", "), verb), strings.Join(filled, " AND "), stored(f.Target), pairs(f.TargetColumns, f.Columns, "p.", "NEW."))
	}
	g.add("AFTER INSERT", "child "+f.Name+" INSERT", body("INSERT"))
	g.add("AFTER UPDATE OF "+quotes(f.Columns), "child "+f.Name+" UPDATE", body("UPDATE"))
}

// parent does to referring rows what the foreign key says.
func (g *guards) parent(of *catalog.Table, f *catalog.ForeignKey) {
	rows := pairs(f.Columns, f.TargetColumns, "", "OLD.")
	set := func(value func(i int) string) string {
		var list []string
		for i, c := range f.Columns {
			list = append(list, Quote(c)+" = "+value(i))
		}
		return fmt.Sprintf("UPDATE %s SET %s WHERE %s", stored(of.Ref()), strings.Join(list, ", "), rows)
	}
	null := func(int) string { return "NULL" }
	def := func(i int) string {
		if c := of.Column(f.Columns[i]); c != nil && c.Default != "" {
			return "(" + g.s.readable(c.Default) + ")"
		}
		return "NULL"
	}
	act := func(verb string, a catalog.Action, cascade string) string {
		switch a {
		case catalog.Cascade:
			return cascade
		case catalog.SetNull:
			return set(null)
		case catalog.SetDefault:
			return set(def)
		}
		return fmt.Sprintf("%s WHERE EXISTS (SELECT 1 FROM %s WHERE %s)", (&guards{s: g.s, t: of}).refuse("referred", f.Name, strings.Join(f.Columns, ", "), verb), stored(of.Ref()), rows)
	}
	name := of.Schema + "." + of.Name + " " + f.Name
	g.add("AFTER DELETE", "parent "+name+" DELETE", act("DELETE", f.OnDelete, fmt.Sprintf("DELETE FROM %s WHERE %s", stored(of.Ref()), rows)))
	changed := pairs(f.TargetColumns, f.TargetColumns, "NEW.", "OLD.")
	g.add("AFTER UPDATE OF "+quotes(f.TargetColumns), "parent "+name+" UPDATE",
		strings.Replace(act("UPDATE", f.OnUpdate, set(func(i int) string { return "NEW." + Quote(f.TargetColumns[i]) })), " WHERE ", " WHERE NOT ("+changed+") AND ", 1))
}

// numbers fills a column that the system numbers.
func (g *guards) numbers() {
	for _, c := range g.t.Columns {
		if c.Identity == catalog.NoIdentity {
			continue
		}
		number := fmt.Sprintf("nexdal_number(%d, %s, %s, NEW.%s)", g.s.m.id, literal(g.t.Schema), literal(g.t.Name), Quote(c.Name))
		g.add("AFTER INSERT", "number "+c.Name, fmt.Sprintf("UPDATE %s SET %s = %s WHERE rowid = NEW.rowid AND NEW.%[2]s IS NULL; SELECT %[3]s WHERE NEW.%[2]s IS NOT NULL", stored(g.t.Ref()), Quote(c.Name), number))
	}
}

// Relay makes the place of a table anew, as the catalog has it now.
func (s *Session) Relay(ctx context.Context, t *catalog.Table) error { return s.lay(ctx, t, same(t)) }

// Refers lists the tables that are tied to the table by foreign keys, either way.
func (m *Machine) Refers(ref catalog.Ref) []*catalog.Table {
	var tied []*catalog.Table
	t := m.Catalog.Table(ref)
	for _, o := range m.Catalog.Tables() {
		if slices.ContainsFunc(o.ForeignKeys, func(f *catalog.ForeignKey) bool { return f.Target == ref }) ||
			t != nil && slices.ContainsFunc(t.ForeignKeys, func(f *catalog.ForeignKey) bool { return f.Target == o.Ref() }) {
			tied = append(tied, o)
		}
	}
	return tied
}
