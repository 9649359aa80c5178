package write

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/postgres/traits"
)

// creator gathers the statements of one structure, phase by phase.
type creator struct {
	c         *catalog.Catalog // in which it is made
	can       catalog.Abilities
	sequences map[catalog.Ref]*catalog.Sequence
	found     *catalog.Lookup // of c; nil: not asked for yet
	named     bool            // what could be called otherwise by itself is given its name
	losses    []engine.Loss
	// In the order in which they run.
	schemas, objects, later, indexes, attached, onKeys, references, triggers, comments, watchers []string
	switches                                                                                     []triggerSwitch // behind the triggers
}

// A triggerSwitch is a statement that switches a trigger of a table so far below the whole: one of the
// whole may switch those of its parts as well, depending on the version.
type triggerSwitch struct {
	depth int
	sql   string
}

func newCreator(c *catalog.Catalog) *creator {
	return &creator{c: c, can: Writer{}.Abilities(c.Engine.Version), sequences: map[catalog.Ref]*catalog.Sequence{}}
}

func (w *creator) lookup() *catalog.Lookup {
	if w.found == nil {
		w.found = w.c.Lookup()
	}
	return w.found
}

// restingOnKeys are the views that the engine takes only once a key of a table is there, as
// where columns are left out of GROUP BY, and what needs them
// (https://www.postgresql.org/docs/current/sql-select.html#SQL-GROUPBY).
func restingOnKeys(c *catalog.Catalog) map[catalog.ObjectRef]bool {
	first := map[string]bool{}
	for _, t := range c.Tables() {
		for _, d := range t.Dependants {
			first[d.Name] = first[d.Name] || d.Kind == catalog.KindView && d.On != ""
		}
	}
	resting := map[catalog.ObjectRef]bool{}
	for _, m := range c.Members() {
		resting[m.ObjectRef] = m.View != nil && first[m.Schema+"."+m.Name] || slices.ContainsFunc(m.Needs(), func(o catalog.ObjectRef) bool { return resting[o] })
	}
	return resting
}

// behindKeys writes a member with all that belongs to it behind the keys and indexes of
// tables.
func (w *creator) behindKeys(m *catalog.Member) {
	phases := []*[]string{&w.objects, &w.later, &w.indexes}
	at := make([]int, len(phases))
	for i, p := range phases {
		at[i] = len(*p)
	}
	w.member(m)
	for i, p := range phases {
		w.onKeys = append(w.onKeys, (*p)[at[i]:]...)
		*p = (*p)[:at[i]]
	}
}

// Create writes the whole structure in the order that the engine's own dumps
// follow: what others need first; partitions attached to their parents before
// either has an index; keys and indexes, then foreign keys, then what acts by
// itself; last the event triggers, which would act on all of it.
func (Writer) Create(c *catalog.Catalog) (*engine.Work, []engine.Loss) {
	return create(newCreator(c), c, nil)
}

// Twin writes the structure with its owners and grants: what a script may do rests on them.
// What was set for that is reset: triggers find their tables as they do for users.
func (Writer) Twin(c *catalog.Catalog) (*engine.Work, []engine.Loss) {
	work, losses := create(newCreator(c), c, rightsOf(c, c, nil))
	work.Steps = append(work.Steps, engine.Step{Title: "let users in", SQL: []string{"RESET search_path", "RESET check_function_bodies"}})
	return work, losses
}

// create writes the structure, and gives it the rights.
func create(w *creator, c *catalog.Catalog, rights []string) (*engine.Work, []engine.Loss) {
	for _, s := range c.Schemas {
		for _, q := range s.Sequences {
			w.sequences[catalog.Ref{Schema: s.Name, Table: q.Name}] = q
		}
		if s.Extension != "" {
			continue
		}
		create := "CREATE SCHEMA "
		if s.Name == "public" { // every new database has one
			create += "IF NOT EXISTS "
		}
		w.schemas = append(w.schemas, create+traits.Ident(s.Name))
		w.comment("SCHEMA "+traits.Ident(s.Name), s.Comment)
	}
	onKeys := restingOnKeys(c)
	for _, m := range c.Members() {
		switch {
		case m.Extension() != "":
		case onKeys[m.ObjectRef]:
			w.behindKeys(m)
		default:
			w.member(m)
		}
	}
	work := &engine.Work{Client: []string{`\set ON_ERROR_STOP on`},
		Setup: []string{"SET lock_timeout = '5s'", "SET statement_timeout = 0", "SET check_function_bodies = off", "SET search_path = ''"}}
	for _, p := range []struct {
		title string
		sql   []string
	}{{"create schemas", w.schemas}, {"create types, routines, sequences, tables and views", w.objects}, {"create what ties them together", w.later},
		{"create keys and indexes", slices.Concat(w.indexes, w.attached)}, {"create views that rest on keys", w.onKeys}, {"create foreign keys", w.references},
		{"create triggers, rules and policies", append(w.triggers, w.switchesInOrder()...)}, {"write the comments", w.comments}, {"give owners and grants", rights}, {"create event triggers", w.watchers}} {
		if len(p.sql) > 0 {
			work.Steps = append(work.Steps, engine.Step{Title: p.title, Lock: "nothing that others use", Transaction: true,
				SQL: slices.Concat([]string{"BEGIN"}, p.sql, []string{"COMMIT"})})
		}
	}
	return work, w.losses
}

func (w *creator) lose(o catalog.ObjectRef, why string) {
	w.losses = append(w.losses, engine.Loss{What: o, Why: why})
}

func (w *creator) comment(on, text string) {
	if text != "" {
		w.comments = append(w.comments, "COMMENT ON "+on+" IS "+traits.Literal(text))
	}
}

func (w *creator) add(format string, args ...any) {
	w.objects = append(w.objects, fmt.Sprintf(format, args...))
}

func (w *creator) member(m *catalog.Member) {
	switch {
	case m.Table != nil:
		w.table(m.Table, m.Broken)
	case m.View != nil:
		w.view(m.Schema, m.View)
	case m.Sequence != nil:
		w.sequence(m.Schema, m.Sequence)
	case m.Type != nil:
		w.userType(m.Schema, m.Type)
	case m.Routine != nil:
		w.routine(m.Schema, m.Routine)
	default:
		w.object(m)
	}
}

func (w *creator) object(m *catalog.Member) {
	o := m.Object
	text := statements(o.Definition)
	switch {
	case o.Definition == "":
		w.lose(m.ObjectRef, "its text was not read")
		return
	case o.Kind == "event trigger":
		w.watchers = append(w.watchers, text...)
		if o.Comment != "" {
			w.watchers = append(w.watchers, "COMMENT ON EVENT TRIGGER "+traits.Ident(o.Name)+" IS "+traits.Literal(o.Comment))
		}
		return
	case o.Kind == "extension" && o.Name == "plpgsql": // every database has it
		return
	default:
		w.objects = append(w.objects, text...)
	}
	name := traits.Ident(o.Name)
	if m.Schema != "" {
		name = traits.Qualified(m.Schema, o.Name)
	}
	switch o.Kind {
	case "operator":
		name = traits.Ident(m.Schema) + "." + o.Name
	case "cast":
		name = o.Name
	}
	w.comment(strings.ToUpper(strings.ReplaceAll(o.Kind, "-", " "))+" "+name, o.Comment)
}

// statements cuts a text that may hold several.
func statements(text string) []string {
	var all []string
	for _, st := range (Writer{}).Dialect().Statements(text) {
		if st.Text != "" {
			all = append(all, st.Text)
		}
	}
	return all
}

func (w *creator) routine(schema string, f *catalog.Routine) {
	if f.Definition == "" {
		w.lose(catalog.ObjectRef{Kind: f.Kind, Schema: schema, Name: f.Signature()}, "its text was not read")
		return
	}
	w.add("%s", strings.Replace(f.Definition, "CREATE OR REPLACE ", "CREATE ", 1))
	kind := strings.ToUpper(f.Kind)
	if kind == "WINDOW FUNCTION" {
		kind = "FUNCTION"
	}
	arguments := f.Arguments
	if f.Kind == "aggregate" && arguments == "" {
		arguments = "*"
	}
	w.comment(fmt.Sprintf("%s %s(%s)", kind, traits.Qualified(schema, f.Name), arguments), f.Comment)
}

func (w *creator) sequence(schema string, q *catalog.Sequence) {
	name := traits.Qualified(schema, q.Name)
	if !q.Identity {
		unlogged := ""
		if q.Unlogged {
			unlogged = "UNLOGGED "
		}
		w.add("CREATE %sSEQUENCE %s %s", unlogged, name, typed(q))
		if at := q.OwnedBy; at != nil {
			w.later = append(w.later, fmt.Sprintf("ALTER SEQUENCE %s OWNED BY %s.%s", name, traits.Relation(at.Ref()), traits.Ident(at.Column)))
		}
	}
	w.comment("SEQUENCE "+name, q.Comment)
}

// typed is how a sequence counts, and in which type; what goes without saying
// is not said (https://www.postgresql.org/docs/current/sql-createsequence.html).
func typed(q *catalog.Sequence) string {
	most := map[string]int64{"smallint": math.MaxInt16, "integer": math.MaxInt32}
	return "AS " + q.Type + counting(q, most[q.Type])
}

// counting is how a sequence counts: nothing where it does so as any does. Up to
// most goes without saying.
func counting(q *catalog.Sequence, most int64) (text string) {
	up := q.Increment > 0
	if q.Increment != 1 {
		text += fmt.Sprintf(" INCREMENT BY %d", q.Increment)
	}
	if !up || q.Least != 1 {
		text += fmt.Sprintf(" MINVALUE %d", q.Least)
	}
	if !up || q.Most != math.MaxInt64 && q.Most != most {
		text += fmt.Sprintf(" MAXVALUE %d", q.Most)
	}
	if !up || q.Start != q.Least {
		text += fmt.Sprintf(" START WITH %d", q.Start)
	}
	if q.Cache > 1 {
		text += fmt.Sprintf(" CACHE %d", q.Cache)
	}
	if q.Cycle {
		text += " CYCLE"
	}
	return text
}

func (w *creator) userType(schema string, y *catalog.UserType) {
	name := traits.Qualified(schema, y.Name)
	kind := "TYPE "
	switch y.Kind {
	case catalog.EnumType:
		labels := make([]string, len(y.Labels))
		for i, l := range y.Labels {
			labels[i] = traits.Literal(l)
		}
		w.add("CREATE TYPE %s AS ENUM (%s)", name, strings.Join(labels, ", "))
	case catalog.DomainType:
		kind = "DOMAIN "
		w.domain(name, y)
	case catalog.CompositeType:
		parts := make([]string, len(y.Attributes))
		for i, a := range y.Attributes {
			parts[i] = "\n  " + traits.Ident(a.Name) + " " + a.Type.Native + collate(a.Type)
			w.comment("COLUMN "+name+"."+traits.Ident(a.Name), a.Comment)
		}
		w.add("CREATE TYPE %s AS (%s\n)", name, strings.Join(parts, ","))
	case catalog.RangeType:
		w.add("CREATE TYPE %s AS RANGE (%s)", name, y.Definition)
	default:
		w.lose(catalog.ObjectRef{Kind: catalog.KindType, Schema: schema, Name: y.Name}, "it is made of routines in C, which a catalog does not hold")
		return
	}
	w.comment(kind+name, y.Comment)
}

func (w *creator) domain(name string, y *catalog.UserType) {
	text := fmt.Sprintf("CREATE DOMAIN %s AS %s%s", name, y.Base.Native, collate(*y.Base))
	if y.Default != "" {
		text += " DEFAULT " + y.Default
	}
	if y.Required {
		if n := y.NotNull; n != nil {
			text += " CONSTRAINT " + traits.Ident(n.Name)
			w.comment(fmt.Sprintf("CONSTRAINT %s ON DOMAIN %s", traits.Ident(n.Name), name), n.Comment)
		}
		text += " NOT NULL"
	}
	var late []string
	for _, k := range y.Checks {
		check := "CONSTRAINT " + traits.Ident(k.Name) + " CHECK (" + stable(k.Expression) + ")"
		if k.NotValidated {
			late = append(late, fmt.Sprintf("ALTER DOMAIN %s ADD %s NOT VALID", name, check))
		} else {
			text += "\n  " + check
		}
		w.comment(fmt.Sprintf("CONSTRAINT %s ON DOMAIN %s", traits.Ident(k.Name), name), k.Comment)
	}
	w.objects = append(append(w.objects, text), late...)
}

func collate(t catalog.Type) string {
	if t.Collation == "" {
		return ""
	}
	return " COLLATE " + traits.CollationName(t.Collation)
}

func (w *creator) view(schema string, v *catalog.View) {
	name := traits.Qualified(schema, v.Name)
	o := catalog.ObjectRef{Kind: catalog.KindView, Schema: schema, Name: v.Name}
	if v.Definition == "" {
		w.lose(o, "its query was not read")
		return
	}
	with := ""
	if len(v.Options) > 0 {
		with = " WITH (" + strings.Join(v.Options, ", ") + ")"
	}
	if !v.Materialised {
		w.add("CREATE VIEW %s%s AS\n%s", name, with, stable(v.Definition))
		w.comment("VIEW "+name, v.Comment)
	} else {
		if v.Tablespace != "" {
			with += " TABLESPACE " + traits.Ident(v.Tablespace)
		}
		w.add("CREATE MATERIALIZED VIEW %s%s AS\n%s\n  WITH NO DATA", name, with, stable(v.Definition))
		w.comment("MATERIALIZED VIEW "+name, v.Comment)
	}
	for _, c := range v.Columns {
		if c.Default != "" {
			w.later = append(w.later, fmt.Sprintf("ALTER VIEW %s ALTER COLUMN %s SET DEFAULT %s", name, traits.Ident(c.Name), c.Default))
		}
		w.comment("COLUMN "+name+"."+traits.Ident(c.Name), c.Comment)
	}
	for _, x := range v.Indexes {
		w.index(catalog.Ref{Schema: schema, Table: v.Name}, x, "")
		w.indexes = append(w.indexes, noted(schema, x)...)
	}
	w.acts(catalog.Ref{Schema: schema, Table: v.Name}, v.Triggers, v.Objects)
}

// switchesInOrder are the statements that switch triggers, the wholes' first.
func (w *creator) switchesInOrder() []string {
	slices.SortStableFunc(w.switches, func(a, b triggerSwitch) int { return a.depth - b.depth })
	var all []string
	for _, s := range w.switches {
		all = append(all, s.sql)
	}
	return all
}

// switchTo brings a trigger into its state, where that is not what it comes with: one of a part
// may be switched otherwise than that of the whole
// (https://www.postgresql.org/docs/current/sql-altertable.html#SQL-ALTERTABLE-DESC-DISABLE-ENABLE-TRIGGER).
func (w *creator) switchTo(on catalog.Ref, g *catalog.Trigger) {
	depth, plain := 0, g.Enabled == ""
	for t := w.lookup().Table(on); t != nil && t.PartitionOf != nil && depth < 100; depth++ {
		t = w.lookup().Table(*t.PartitionOf)
		plain = plain && (t == nil || !slices.ContainsFunc(t.Triggers, func(o *catalog.Trigger) bool { return o.Name == g.Name && o.Enabled != "" }))
	}
	if !plain {
		w.switches = append(w.switches, triggerSwitch{depth, switched(on, g, g.Enabled == "disabled")})
	}
}

// acts writes triggers and what else acts by itself.
func (w *creator) acts(on catalog.Ref, triggers []*catalog.Trigger, objects []*catalog.Object) {
	for _, g := range triggers {
		if g.Inherited { // comes with the one of the whole
			w.switchTo(on, g)
			continue
		}
		if g.Definition == "" {
			w.lose(catalog.ObjectRef{Kind: "trigger", Schema: on.Schema, Name: g.Name + " on " + on.Table}, "its text was not read")
			continue
		}
		w.triggers = append(w.triggers, stable(strings.TrimSuffix(g.Definition, ";")))
		if g.Enabled != "" {
			w.switchTo(on, g)
		}
		w.comment(fmt.Sprintf("TRIGGER %s ON %s", traits.Ident(g.Name), traits.Relation(on)), g.Comment)
	}
	for _, o := range objects {
		w.triggers = append(w.triggers, statements(stable(o.Definition))...)
		if o.Kind == "statistics" {
			schema, name, _ := strings.Cut(o.Name, ".")
			w.comment("STATISTICS "+traits.Qualified(schema, name), o.Comment)
		} else {
			w.comment(fmt.Sprintf("%s %s ON %s", strings.ToUpper(o.Kind), traits.Ident(o.Name), traits.Relation(on)), o.Comment)
		}
	}
}
