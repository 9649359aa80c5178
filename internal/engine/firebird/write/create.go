package write

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/firebird/traits"
)

// creator gathers the statements of one structure, phase by phase.
type creator struct {
	version string
	rights  bool // owners' grants as well
	domains domains
	losses  []engine.Loss
	// In the order in which they run.
	objects, references, bodies, triggers, comments, grants []string
}

// Create writes the whole structure: what tables need, tables with their keys and indexes, views
// and routines, then foreign keys, then triggers, comments and grants.
func (e Writer) Create(c *catalog.Catalog) (*engine.Work, []engine.Loss) {
	w := newCreator(c)
	w.rights = true
	w.whole(c)
	return w.work(), w.losses
}

// Twin writes the structure without its grants: those that they are for may not be there.
func (e Writer) Twin(c *catalog.Catalog) (*engine.Work, []engine.Loss) {
	w := newCreator(c)
	w.whole(c)
	return w.work(), w.losses
}

func newCreator(c *catalog.Catalog) *creator {
	return &creator{version: c.Engine.Version, domains: domainsOf(c)}
}

func (w *creator) whole(c *catalog.Catalog) {
	if s, ok := c.Setting("comment"); ok {
		w.comments = append(w.comments, "COMMENT ON DATABASE IS "+traits.Literal(s.Value))
	}
	for _, m := range c.Members() {
		w.member(m)
	}
}

func (w *creator) work() *engine.Work {
	work := &engine.Work{Client: client()}
	for _, p := range []struct {
		title string
		sql   []string
	}{{"tables, views and routines", slices.Concat(w.objects, w.bodies)}, {"foreign keys", w.references}, {"triggers", w.triggers}, {"comments", w.comments}, {"grants", w.grants}} {
		if len(p.sql) > 0 {
			work.Steps = append(work.Steps, engine.Step{Title: "create " + p.title, Lock: "nothing that others use", Transaction: true, SQL: slices.Concat([]string{Begin}, p.sql, []string{"COMMIT"})})
		}
	}
	return work
}

func (w *creator) lose(o catalog.ObjectRef, why string) {
	w.losses = append(w.losses, engine.Loss{What: o, Why: why})
}

func (w *creator) note(says, kind, name string) {
	if says != "" {
		w.comments = append(w.comments, commentText(kind, name, says))
	}
}

// member writes one thing.
func (w *creator) member(m *catalog.Member) {
	switch {
	case m.Table != nil:
		w.table(m.Table)
	case m.View != nil:
		v := m.View
		if v.Definition == "" {
			w.lose(m.ObjectRef, "its query was not read")
			return
		}
		w.objects = append(w.objects, viewText(v, "CREATE"))
		for _, g := range v.Triggers {
			w.trigger(v.Name, g)
		}
		w.note(v.Comment, "VIEW", traits.Ident(v.Name))
		for _, c := range v.Columns {
			w.note(c.Comment, "COLUMN", traits.Ident(v.Name)+"."+traits.Ident(c.Name))
		}
		w.granted("", v.Name, v.Rights)
	case m.Sequence != nil:
		w.objects = append(w.objects, sequenceText(m.Sequence, w.version))
		w.note(m.Sequence.Comment, "SEQUENCE", traits.Ident(m.Sequence.Name))
		w.granted("SEQUENCE ", m.Sequence.Name, m.Sequence.Rights)
	case m.Routine != nil:
		w.routine(m)
	case m.Type != nil:
		if m.Type.Base == nil {
			w.lose(m.ObjectRef, "what it is made of was not read")
			return
		}
		w.objects = append(w.objects, domainText(m.Type))
		w.note(m.Type.Comment, "DOMAIN", traits.Ident(m.Type.Name))
	case m.Object != nil && m.Object.Definition != "":
		w.object(m)
	default:
		w.lose(m.ObjectRef, "Firebird has no such objects")
	}
}

func (w *creator) object(m *catalog.Member) {
	o := m.Object
	switch m.Kind {
	case "trigger": // of the database
		w.triggers = append(w.triggers, o.Definition)
	case "package body":
		w.bodies = append(w.bodies, o.Definition)
	case traits.GrantToMake:
		if w.rights {
			w.grants = append(w.grants, o.Definition)
		}
	case "role", "exception":
		for i, st := range (Writer{}).Dialect().Statements(o.Definition) {
			if i == 0 {
				w.objects = append(w.objects, st.Text)
			} else if w.rights { // who has it
				w.grants = append(w.grants, st.Text)
			}
		}
	default:
		w.objects = append(w.objects, o.Definition)
	}
	w.note(o.Comment, strings.ToUpper(m.Kind), traits.Ident(m.Name))
}

// routine is made empty first where others need it that it needs itself.
func (w *creator) routine(m *catalog.Member) {
	f := m.Routine
	if f.Definition == "" {
		w.lose(m.ObjectRef, "its text was not read")
		return
	}
	if head, _, cut := strings.Cut(f.Definition, "\nAS\n"); m.Broken && cut {
		w.objects = append(w.objects, head+"\nAS\nBEGIN END")
		w.bodies = append(w.bodies, "ALTER"+strings.TrimPrefix(f.Definition, "CREATE"))
	} else {
		w.objects = append(w.objects, f.Definition)
	}
	kind := strings.ToUpper(f.Kind)
	w.note(f.Comment, kind, traits.Ident(f.Name))
	w.granted(kind+" ", f.Name, f.Rights)
}

// table writes one; its foreign keys come when all tables are there.
func (w *creator) table(t *catalog.Table) {
	for _, c := range t.Columns {
		if c.Type.Family == catalog.Other {
			w.lose(catalog.ObjectRef{Kind: catalog.KindTable, Schema: t.Schema, Name: t.Name}, "the type of "+c.Name+" was not read")
			return
		}
	}
	w.objects = append(w.objects, tableText(t, w.domains)...)
	for _, f := range t.ForeignKeys {
		w.references = append(w.references, traits.Alter(t.Ref(), "ADD "+referenceText(t, f)))
	}
	for _, x := range t.Indexes {
		w.note(x.Comment, "INDEX", traits.Ident(x.Name))
	}
	for _, g := range t.Triggers {
		w.trigger(t.Name, g)
	}
	w.note(t.Comment, "TABLE", traits.Ident(t.Name))
	for _, c := range t.Columns {
		w.note(c.Comment, "COLUMN", traits.Ident(t.Name)+"."+traits.Ident(c.Name))
	}
	w.granted("", t.Name, t.Rights)
}

func (w *creator) trigger(on string, g *catalog.Trigger) {
	if g.Definition == "" {
		w.lose(catalog.ObjectRef{Kind: "trigger", Schema: traits.Schema, Name: g.Name + " of " + on}, "its text was not read")
		return
	}
	w.triggers = append(w.triggers, g.Definition)
	if g.Enabled == "disabled" {
		w.triggers = append(w.triggers, "ALTER TRIGGER "+traits.Ident(g.Name)+" INACTIVE")
	}
	w.note(g.Comment, "TRIGGER", traits.Ident(g.Name))
}

// granted writes what others may do with something
// (https://firebirdsql.org/file/documentation/html/en/refdocs/fblangref30/firebird-30-language-reference.html#fblangref30-security-granting).
func (w *creator) granted(kind, on string, r catalog.Rights) {
	if !w.rights {
		return
	}
	for _, g := range r.Grants {
		column, by := "", ""
		if g.Column != "" {
			column = " (" + traits.Ident(g.Column) + ")"
		}
		if g.By != "" {
			by = " GRANTED BY " + traits.Ident(g.By)
		}
		w.grants = append(w.grants, fmt.Sprintf("GRANT %s%s ON %s%s TO %s%s%s", g.What, column, kind, traits.Ident(on), g.To, traits.Grantable(g.Grantable), by))
	}
}
