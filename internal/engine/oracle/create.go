package oracle

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
)

// creator gathers the statements of one structure, phase by phase.
type creator struct {
	rights bool // grants as well
	losses []engine.Loss
	// In the order in which they run.
	objects, references, triggers, comments, grants []string
}

// Create writes the whole structure into the schemas of accounts that are there: tables with
// their keys and indexes, views and routines, then foreign keys, then triggers.
func (e Engine) Create(c *catalog.Catalog) (*engine.Work, []engine.Loss) {
	w := &creator{}
	for _, m := range c.Members() {
		w.member(m)
	}
	work := &engine.Work{Client: clientLines, Setup: setup()}
	for _, p := range []struct {
		title string
		sql   []string
	}{{"tables, views and routines", w.objects}, {"foreign keys", w.references}, {"triggers", w.triggers}, {"comments", w.comments}} {
		if len(p.sql) > 0 {
			work.Steps = append(work.Steps, engine.Step{Title: "create " + p.title, Lock: "nothing that others use", SQL: safely(p.sql)})
		}
	}
	return work, w.losses
}

// Twin writes the structure without its grants.
func (e Engine) Twin(c *catalog.Catalog) (*engine.Work, []engine.Loss) { return e.Create(c) }

func (w *creator) lose(o catalog.ObjectRef, why string) {
	w.losses = append(w.losses, engine.Loss{What: o, Why: why})
}

// member writes one thing of a schema.
func (w *creator) member(m *catalog.Member) {
	at := catalog.Ref{Schema: m.Schema, Table: m.Name}
	switch {
	case m.Table != nil:
		w.table(m.Table)
	case m.View != nil:
		w.view(m)
		w.granted(at, m.View.Rights)
	case m.Sequence != nil:
		w.objects = append(w.objects, "CREATE SEQUENCE "+relation(at)+sequenceText(m.Sequence))
		w.granted(at, m.Sequence.Rights)
	case m.Routine != nil && m.Routine.Definition == "":
		w.lose(m.ObjectRef, "its text was not read")
	case m.Routine != nil:
		w.objects = append(w.objects, inSchema(m.Schema, m.Routine.Definition)...)
		w.granted(catalog.Ref{Schema: m.Schema, Table: m.Routine.Name}, m.Routine.Rights)
	case m.Object != nil && strings.HasPrefix(m.Object.Kind, "type"):
		w.objects = append(w.objects, inSchema(m.Schema, m.Object.Definition)...)
	case m.Object != nil && m.Object.Definition != "":
		w.objects = append(w.objects, m.Object.Definition)
	default:
		w.lose(m.ObjectRef, "Oracle has no such objects")
	}
}

func (w *creator) view(m *catalog.Member) {
	v := m.View
	if v.Definition == "" {
		w.lose(m.ObjectRef, "its text was not read")
		return
	}
	w.objects = append(w.objects, inSchema(m.Schema, viewText(m.Schema, v, "CREATE "))...)
	for _, x := range v.Indexes {
		w.objects = append(w.objects, indexText(catalog.Ref{Schema: m.Schema, Table: v.Name}, x))
	}
	for _, g := range v.Triggers {
		w.triggers = append(w.triggers, triggerText(m.Schema, g)...)
	}
	on := catalog.Ref{Schema: m.Schema, Table: v.Name}
	if v.Comment != "" {
		w.comments = append(w.comments, commentText(on, "", v.Comment))
	}
	for _, c := range v.Columns {
		if c.Comment != "" {
			w.comments = append(w.comments, commentText(on, c.Name, c.Comment))
		}
	}
}

func viewText(schema string, v *catalog.View, create string) string {
	if v.Materialised {
		return fmt.Sprintf("CREATE MATERIALIZED VIEW %s %s AS %s", qualified(schema, v.Name), strings.ToUpper(strings.Join(v.Options, " ")), v.Definition)
	}
	var names []string
	for _, c := range v.Columns {
		names = append(names, c.Name)
	}
	list := ""
	if len(names) > 0 {
		list = " (" + idents(names) + ")"
	}
	text := fmt.Sprintf("%sVIEW %s%s AS %s", create, qualified(schema, v.Name), list, v.Definition)
	if slices.Contains(v.Options, "with read only") {
		text += " WITH READ ONLY"
	}
	return text
}

// granted writes what others may do with something.
func (w *creator) granted(on catalog.Ref, r catalog.Rights) {
	if !w.rights {
		return
	}
	for _, g := range r.Grants {
		with := ""
		if g.Grantable {
			with = " WITH GRANT OPTION"
		}
		what := g.What
		if g.Column != "" {
			what += " (" + ident(g.Column) + ")"
		}
		w.grants = append(w.grants, fmt.Sprintf("GRANT %s ON %s TO %s%s", what, relation(on), ident(g.To), with))
	}
}

func (w *creator) table(t *catalog.Table) {
	ref := catalog.ObjectRef{Kind: catalog.KindTable, Schema: t.Schema, Name: t.Name}
	if why := special(t); why != "" {
		w.lose(ref, why+", which is not written")
		return
	}
	plain := *t
	plain.Indexes = nil
	for _, x := range t.Indexes {
		if x.Method != "btree" && x.Method != "bitmap" || x.Pinned != "" {
			w.lose(catalog.ObjectRef{Kind: "index", Schema: t.Schema, Name: x.Name + " of " + t.Name}, "an index of kind "+x.Method+" is not written")
			if x.Pinned != "" {
				w.losses[len(w.losses)-1].Why = x.Pinned + ", and is not written"
			}
			continue
		}
		plain.Indexes = append(plain.Indexes, x)
	}
	w.objects = append(w.objects, tableText(&plain)...)
	for _, o := range t.Objects {
		w.references = append(w.references, o.Definition)
	}
	for _, f := range t.ForeignKeys {
		if by := t.PartitionBy; by == nil || by.Definition != "REFERENCE ("+ident(f.Name)+")" {
			w.references = append(w.references, dialect.Alter(t.Ref(), "ADD "+referenceText(f)+stateText(!f.Disabled, !f.NotValidated)))
		}
	}
	for _, g := range t.Triggers {
		if g.Definition == "" {
			w.lose(catalog.ObjectRef{Kind: "trigger", Schema: t.Schema, Name: g.Name}, "its text was not read")
			continue
		}
		w.triggers = append(w.triggers, triggerText(t.Schema, g)...)
	}
	w.granted(t.Ref(), t.Rights)
	if t.Comment != "" {
		w.comments = append(w.comments, commentText(t.Ref(), "", t.Comment))
	}
	for _, c := range t.Columns {
		if c.Comment != "" {
			w.comments = append(w.comments, commentText(t.Ref(), c.Name, c.Comment))
		}
	}
}

// special says what sets a table apart, so that scripts leave it alone; or "".
func special(t *catalog.Table) string {
	switch {
	case t.Kind == catalog.Foreign:
		return "it is external"
	}
	for _, o := range t.Options {
		if cluster, ok := strings.CutPrefix(o, "cluster "); ok {
			return "its rows lie in cluster " + cluster
		}
		if name, ok := strings.CutPrefix(o, "rely "); ok {
			return "constraint " + name + " is to be relied upon without being kept (RELY)"
		}
	}
	return ""
}
