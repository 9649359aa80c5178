package write

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/mariadb/traits"
)

// plainMode is the sql_mode that scripts run under: dates and defaults are
// taken as they are.
const plainMode = "NO_AUTO_VALUE_ON_ZERO"

// creator gathers the statements of one structure, phase by phase.
type creator struct {
	server
	c *catalog.Catalog
	// definers: what acts with somebody's rights keeps them.
	definers bool
	several  bool                 // more than one database: everything is named with its own
	mode     map[*[]string]string // the sql_mode that each phase has come to
	losses   []engine.Loss
	// In the order in which they run.
	databases, objects, references, triggers []string
}

// Create writes the whole structure: tables with their keys and indexes, then
// foreign keys, then what acts by itself. Where it is of one database, its
// name is left out, so that the script builds a database of any name.
func (e Writer) Create(c *catalog.Catalog) (*engine.Work, []engine.Loss) {
	return server{e.Family()}.create(c, false)
}

// Twin writes the structure with those who define what acts with their rights.
func (e Writer) Twin(c *catalog.Catalog) (*engine.Work, []engine.Loss) {
	return server{e.Family()}.create(c, true)
}

// create writes the structure; with definers, what acts with somebody's rights keeps them.
func (f server) create(c *catalog.Catalog, definers bool) (*engine.Work, []engine.Loss) {
	w := &creator{server: f, definers: definers, c: c, several: len(c.Schemas) > 1, mode: map[*[]string]string{}}
	for _, s := range c.Schemas {
		if w.several {
			w.databases = append(w.databases, "CREATE DATABASE IF NOT EXISTS "+traits.Ident(s.Name)+" "+strings.ToUpper(strings.Join(s.Options, " ")))
		}
	}
	for _, m := range c.Members() {
		switch {
		case m.Table != nil:
			w.table(m.Table)
		case m.View != nil:
			w.view(m.Schema, m.View)
		case m.Sequence != nil:
			w.sequence(m.Schema, m.Sequence)
		case m.Routine != nil:
			w.coded(m.ObjectRef, m.Routine.Mode, w.defined(m.Routine.Owner, m.Routine.Definition), &w.objects)
		case m.Object != nil:
			w.coded(m.ObjectRef, m.Object.Mode, w.defined(m.Object.Definer, m.Object.Definition), &w.triggers)
		default:
			w.lose(m.ObjectRef, f.Title+" has no such objects")
		}
	}
	work := &engine.Work{Setup: []string{"SET SESSION lock_wait_timeout = 5", "SET NAMES utf8mb4"}}
	for _, p := range []struct {
		title string
		sql   []string
	}{{"databases", w.databases}, {"sequences, routines, tables and views", w.objects}, {"foreign keys", w.references}, {"triggers and events", w.triggers}} {
		if len(p.sql) > 0 {
			p.sql = slices.Concat([]string{"SET SESSION sql_mode = '" + plainMode + "'"}, p.sql)
			work.Steps = append(work.Steps, engine.Step{Title: "create " + p.title, Lock: "nothing that others use", SQL: p.sql,
				Notes: []string{"each statement stands by itself: what was made before a failure stays"}})
		}
	}
	return work, w.losses
}

func (w *creator) lose(o catalog.ObjectRef, why string) {
	w.losses = append(w.losses, engine.Loss{What: o, Why: why})
}

func (w *creator) name(schema, name string) string {
	if w.several {
		return traits.Ident(schema) + "." + traits.Ident(name)
	}
	return traits.Ident(name)
}

// plain goes back to the mode that all but routines and the like are made in.
func (w *creator) plain(into *[]string) {
	if was, ok := w.mode[into]; ok && was != plainMode {
		*into = append(*into, "SET SESSION sql_mode = '"+plainMode+"'")
		w.mode[into] = plainMode
	}
}

// coded writes what has a body, under the mode that it was written under. The
// text names no database, so that one is chosen first where there are several.
func (w *creator) coded(o catalog.ObjectRef, mode, text string, into *[]string) {
	if text == "" {
		w.lose(o, "its text was not read")
		return
	}
	if w.several {
		*into = append(*into, "USE "+traits.Ident(o.Schema))
	}
	was, ok := w.mode[into]
	if !ok {
		was = plainMode
	}
	if mode != was {
		*into = append(*into, "SET SESSION sql_mode = '"+mode+"'")
	}
	w.mode[into] = mode
	*into = append(*into, text)
}

func (w *creator) sequence(schema string, q *catalog.Sequence) {
	if q.Increment == 0 {
		w.lose(catalog.ObjectRef{Kind: catalog.KindSequence, Schema: schema, Name: q.Name}, "its numbers were not read")
		return
	}
	w.objects = append(w.objects, "CREATE SEQUENCE "+w.name(schema, q.Name)+sequenceText(q))
}

func sequenceText(q *catalog.Sequence) string {
	text := fmt.Sprintf(" START WITH %d MINVALUE %d MAXVALUE %d INCREMENT BY %d", q.Start, q.Least, q.Most, q.Increment)
	if q.Cache > 0 {
		text += fmt.Sprintf(" CACHE %d", q.Cache)
	} else {
		text += " NOCACHE"
	}
	if q.Cycle {
		text += " CYCLE"
	}
	if q.Comment != "" {
		text += " COMMENT=" + traits.Literal(q.Comment)
	}
	return text
}

func (w *creator) defined(by, sql string) string {
	if !w.definers {
		return sql
	}
	return defined(sql, by)
}

func (w *creator) view(schema string, v *catalog.View) {
	if v.Definition == "" {
		w.lose(catalog.ObjectRef{Kind: catalog.KindView, Schema: schema, Name: v.Name}, "its query was not read")
		return
	}
	how, check := "", ""
	for _, o := range v.Options {
		switch {
		case strings.HasPrefix(o, "algorithm "):
			how += " ALGORITHM=" + strings.ToUpper(strings.TrimPrefix(o, "algorithm "))
		case strings.HasPrefix(o, "with check option "):
			check = " WITH " + strings.ToUpper(strings.TrimPrefix(o, "with check option ")) + " CHECK OPTION"
		}
	}
	if slices.Contains(v.Options, "sql security invoker") {
		how += " SQL SECURITY INVOKER"
	}
	w.plain(&w.objects)
	if w.several {
		w.objects = append(w.objects, "USE "+traits.Ident(schema))
	}
	w.objects = append(w.objects, w.defined(v.Owner, fmt.Sprintf("CREATE%s VIEW %s AS %s%s", how, w.name(schema, v.Name), v.Definition, check)))
}

// table writes a table (https://mariadb.com/kb/en/create-table/).
func (w *creator) table(t *catalog.Table) {
	var parts []string
	for _, c := range t.Columns {
		text := traits.Ident(c.Name) + " " + columnText(t, c)
		for _, k := range t.Checks {
			if k.Column == c.Name {
				text += " CHECK (" + k.Expression + ")"
			}
		}
		parts = append(parts, text)
	}
	if k := t.PrimaryKey; k != nil {
		parts = append(parts, "PRIMARY KEY "+w.indexParts(t, k.Index, k.Columns))
	}
	indexes := slices.Clone(t.Indexes)
	slices.SortStableFunc(indexes, func(a, b *catalog.Index) int {
		return slices.Index(t.Stats.IndexOrder, a.Name) - slices.Index(t.Stats.IndexOrder, b.Name)
	})
	for _, x := range indexes {
		if x.Origin != catalog.ByPrimaryKey {
			parts = append(parts, w.indexText(x))
		}
	}
	if start, end := traits.PeriodOf(t); start != "" && end != "" {
		parts = append(parts, fmt.Sprintf("PERIOD FOR SYSTEM_TIME (%s, %s)", traits.Ident(start), traits.Ident(end)))
	}
	for _, k := range t.Checks {
		if k.Column == "" {
			parts = append(parts, checkText(k))
		}
	}
	text := "CREATE TABLE " + w.name(t.Schema, t.Name) + " (\n  " + strings.Join(parts, ",\n  ") + "\n)"
	store := "InnoDB"
	for _, o := range t.Options {
		if name, ok := strings.CutPrefix(o, "engine "); ok {
			store = name
		}
	}
	text += " ENGINE=" + store
	if t.Collation != "" {
		charset, _, _ := strings.Cut(t.Collation, "_")
		text += " DEFAULT CHARSET=" + charset + " COLLATE=" + t.Collation
	}
	if t.Storage != "" {
		text += " " + t.Storage
	}
	if t.Comment != "" {
		text += " COMMENT=" + traits.Literal(t.Comment)
	}
	if t.Has("system versioned") {
		text += " WITH SYSTEM VERSIONING"
	}
	if t.PartitionBy != nil {
		text += "\n" + partitionText(t)
	}
	w.plain(&w.objects)
	w.objects = append(w.objects, text)
	for _, f := range t.ForeignKeys {
		target := w.name(f.Target.Schema, f.Target.Table)
		if f.Target.Schema != t.Schema && !w.several {
			target = traits.Relation(f.Target)
		}
		clause := fmt.Sprintf("ALTER TABLE %s ADD %sFOREIGN KEY (%s) REFERENCES %s (%s)", w.name(t.Schema, t.Name), constraint(f.Name), traits.Idents(f.Columns), target, traits.Idents(f.TargetColumns))
		clause += onEvents(f, cmp.Or(w.traits().Abilities(w.c.Engine.Version).PlainAction, catalog.NoAction))
		w.references = append(w.references, clause)
	}
	triggers := slices.Clone(t.Triggers)
	slices.SortStableFunc(triggers, func(a, b *catalog.Trigger) int { return a.Order - b.Order })
	for _, g := range triggers {
		w.coded(catalog.ObjectRef{Kind: "trigger", Schema: t.Schema, Name: g.Name}, g.Mode, w.defined(g.Definer, g.Definition), &w.triggers)
	}
}

// constraint begins a constraint's clause; one without a name gets the engine's.
func constraint(name string) string {
	if name == "" {
		return ""
	}
	return "CONSTRAINT " + traits.Ident(name) + " "
}

func columnText(t *catalog.Table, c *catalog.Column) string {
	text := c.Type.Native
	if c.Type.Collation != "" && c.Type.Collation != t.Collation {
		charset, _, _ := strings.Cut(c.Type.Collation, "_")
		text += " CHARACTER SET " + charset + " COLLATE " + c.Type.Collation
	}
	switch {
	case c.Generated == "ROW START" || c.Generated == "ROW END":
		text += " GENERATED ALWAYS AS " + c.Generated
	case c.Generated != "":
		text += " GENERATED ALWAYS AS (" + c.Generated + ")" + map[bool]string{true: " STORED", false: " VIRTUAL"}[c.Stored]
	case c.Nullable:
		text += " NULL"
	default:
		text += " NOT NULL"
	}
	if c.Default != "" {
		text += " DEFAULT " + c.Default
	}
	if c.OnUpdate != "" {
		text += " ON UPDATE " + c.OnUpdate
	}
	if c.Identity == catalog.IdentityCounter {
		text += " AUTO_INCREMENT"
	}
	if c.Invisible {
		text += " INVISIBLE"
	}
	for _, o := range c.Options {
		text += " " + strings.ToUpper(o)
	}
	if c.Comment != "" {
		text += " COMMENT " + traits.Literal(c.Comment)
	}
	return text
}

// indexParts writes the columns of a key as its index has them.
func (f server) indexParts(t *catalog.Table, index string, columns []string) string {
	if x := t.Index(index); x != nil {
		text := f.indexText(x)
		return text[strings.Index(text, "("):]
	}
	return "(" + traits.Idents(columns) + ")"
}

func partitionText(t *catalog.Table) string {
	k := t.PartitionBy
	text := "PARTITION BY " + k.Definition
	if k.Sub != nil {
		text += " SUBPARTITION BY " + k.Sub.Definition
	}
	if n := len(t.Partitions); numberedParts(t) {
		return fmt.Sprintf("%s PARTITIONS %d", text, n)
	}
	var parts []string
	for _, p := range t.Partitions {
		parts = append(parts, "\n  "+partText(p))
	}
	return text + " (" + strings.Join(parts, ",") + "\n)"
}

// partText is the whole definition of a partition.
func partText(p *catalog.Partition) string {
	text := "PARTITION " + traits.Ident(p.Name)
	if p.Bounds != "" {
		text += " " + p.Bounds
	}
	text += commented(p)
	if len(p.Parts) > 0 {
		subs := make([]string, len(p.Parts))
		for i, s := range p.Parts {
			subs[i] = "SUBPARTITION " + traits.Ident(s.Name) + commented(s)
		}
		text += " (" + strings.Join(subs, ", ") + ")"
	}
	return text
}

// numberedParts reports whether the partitions are just so many, named by the
// engine.
func numberedParts(t *catalog.Table) bool {
	for i, p := range t.Partitions {
		if p.Name != fmt.Sprintf("p%d", i) || p.Bounds != "" || p.Comment != "" || len(p.Parts) > 0 {
			return false
		}
	}
	return true
}

func commented(p *catalog.Partition) string {
	if p.Comment == "" {
		return ""
	}
	return " COMMENT = " + traits.Literal(p.Comment)
}
