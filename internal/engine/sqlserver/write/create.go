package write

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/sqlserver/traits"
)

// creator gathers the statements of one structure, phase by phase.
type creator struct {
	rights bool // grants as well
	losses []engine.Loss
	// In the order in which they run.
	first, objects, references, triggers, comments, grants []string
}

// Create writes the whole structure: what tables lie in, tables with their keys and indexes,
// modules, then foreign keys, then triggers.
func (e Writer) Create(c *catalog.Catalog) (*engine.Work, []engine.Loss) {
	w := &creator{}
	w.whole(c)
	return w.work(), w.losses
}

// Twin writes the structure without its grants: those that they are for are not in an empty
// database.
func (e Writer) Twin(c *catalog.Catalog) (*engine.Work, []engine.Loss) { return e.Create(c) }

func (w *creator) whole(c *catalog.Catalog) {
	for _, s := range c.Schemas {
		if s.Name != "dbo" {
			w.first = append(w.first, "CREATE SCHEMA "+traits.Ident(s.Name))
		}
		if s.Comment != "" {
			w.comments = append(w.comments, comment(noted{"SCHEMA", s.Name}, "", s.Comment))
		}
	}
	for _, m := range c.Members() {
		w.member(m)
	}
}

func (w *creator) work() *engine.Work {
	work := &engine.Work{Client: []string{":on error exit"}, Setup: setup()}
	for _, p := range []struct {
		title string
		sql   []string
	}{{"schemas and where tables lie", w.first}, {"tables, views and routines", w.objects}, {"foreign keys", w.references}, {"triggers", w.triggers}, {"comments", w.comments}} {
		if len(p.sql) > 0 {
			work.Steps = append(work.Steps, engine.Step{Title: "create " + p.title, Lock: "nothing that others use", Transaction: true,
				SQL: slices.Concat([]string{"BEGIN TRANSACTION"}, p.sql, []string{"COMMIT"})})
		}
	}
	return work
}

func (w *creator) lose(o catalog.ObjectRef, why string) {
	w.losses = append(w.losses, engine.Loss{What: o, Why: why})
}

// member writes one thing of a schema.
func (w *creator) member(m *catalog.Member) {
	switch {
	case m.Table != nil:
		w.table(m.Table)
	case m.View != nil:
		w.module(m.ObjectRef, "", m.View.Definition)
		for _, x := range m.View.Indexes {
			w.objects = append(w.objects, indexText(&catalog.Table{Schema: m.Schema, Name: m.View.Name}, x, ""))
		}
		for _, g := range m.View.Triggers {
			w.triggers = append(w.triggers, triggerText(catalog.Ref{Schema: m.Schema, Table: m.View.Name}, g)...)
		}
		w.granted(catalog.Ref{Schema: m.Schema, Table: m.View.Name}, m.View.Rights)
		w.note(m.View.Comment, "SCHEMA", m.Schema, "VIEW", m.View.Name)
	case m.Sequence != nil:
		w.objects = append(w.objects, "CREATE SEQUENCE "+traits.Qualified(m.Schema, m.Sequence.Name)+sequenceText(m.Sequence))
		w.granted(catalog.Ref{Schema: m.Schema, Table: m.Sequence.Name}, m.Sequence.Rights)
		w.note(m.Sequence.Comment, "SCHEMA", m.Schema, "SEQUENCE", m.Sequence.Name)
	case m.Routine != nil:
		w.module(m.ObjectRef, m.Routine.Mode, m.Routine.Definition)
		w.granted(catalog.Ref{Schema: m.Schema, Table: m.Routine.Name}, m.Routine.Rights)
	case m.Type != nil:
		if m.Type.Base == nil {
			w.lose(m.ObjectRef, "what it is made of was not read")
			return
		}
		null := "NULL"
		if m.Type.Required {
			null = "NOT NULL"
		}
		w.objects = append(w.objects, fmt.Sprintf("CREATE TYPE %s FROM %s %s", traits.Qualified(m.Schema, m.Type.Name), m.Type.Base.Native, null))
	case m.Object != nil && m.Object.Definition != "" && m.Schema == "": // what tables lie in
		w.first = append(w.first, m.Object.Definition)
	case m.Object != nil && m.Object.Definition != "":
		w.objects = append(w.objects, m.Object.Definition)
	default:
		w.lose(m.ObjectRef, "SQL Server has no such objects")
	}
}

// granted writes what others may do with something, and what they may not
// (https://learn.microsoft.com/en-us/sql/t-sql/statements/grant-object-permissions-transact-sql).
func (w *creator) granted(on catalog.Ref, r catalog.Rights) {
	if !w.rights {
		return
	}
	for _, g := range r.Grants {
		what, denied := strings.CutPrefix(g.What, "DENY ")
		verb, column, with := "GRANT", "", ""
		if denied {
			verb = "DENY"
		}
		if g.Column != "" {
			column = " (" + traits.Ident(g.Column) + ")"
		}
		if g.Grantable {
			with = " WITH GRANT OPTION"
		}
		w.grants = append(w.grants, fmt.Sprintf("%s %s ON OBJECT::%s%s TO %s%s", verb, what, traits.Relation(on), column, traits.Ident(g.To), with))
	}
}

func (w *creator) note(text string, on ...string) {
	if text != "" {
		w.comments = append(w.comments, comment(on, "", text))
	}
}

func (w *creator) module(o catalog.ObjectRef, mode, text string) {
	if text == "" {
		w.lose(o, "its text was not read")
		return
	}
	w.objects = append(w.objects, moded(mode, text)...)
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
		if unread(x) {
			w.lose(catalog.ObjectRef{Kind: "index", Schema: t.Schema, Name: x.Name + " of " + t.Name}, "an index of kind "+x.Method+" is not written")
			continue
		}
		plain.Indexes = append(plain.Indexes, x)
	}
	for _, c := range t.Columns {
		for _, o := range c.Options {
			if traits.UnwrittenOption(o) {
				w.lose(catalog.ObjectRef{Kind: "column", Schema: t.Schema, Name: c.Name + " of " + t.Name}, "it is "+o+", which is not written")
			}
		}
	}
	w.objects = append(w.objects, tableText(&plain)...)
	for _, o := range t.Objects {
		if o.Definition == "" {
			w.lose(catalog.ObjectRef{Kind: o.Kind, Schema: t.Schema, Name: o.Name}, "it is not read whole, and not written")
			continue
		}
		w.objects = append(w.objects, o.Definition)
	}
	if t.Has(traits.ChangeTracking) {
		w.lose(ref, "its changes are tracked, which is not written: the database has to be set for it first")
	}
	for _, f := range t.ForeignKeys {
		w.references = append(w.references, addReference(t.Ref(), f)...)
	}
	for _, g := range t.Triggers {
		if g.Definition == "" {
			w.lose(catalog.ObjectRef{Kind: "trigger", Schema: t.Schema, Name: g.Name}, "its text was not read")
			continue
		}
		w.triggers = append(w.triggers, triggerText(t.Ref(), g)...)
	}
	w.granted(t.Ref(), t.Rights)
	w.comments = append(w.comments, comments(&plain)...)
}

// unread reports whether not all that makes the index is read.
func unread(x *catalog.Index) bool {
	return !slices.Contains([]string{"btree", "columnstore", "xml", "spatial"}, x.Method)
}

// special says what sets a table apart, so that scripts leave it alone; or "".
func special(t *catalog.Table) string {
	if t.Kind == catalog.Foreign {
		return "it is external"
	}
	for _, o := range []struct{ option, says string }{{"memory optimized", "it is memory-optimized"}, {"system versioned", "it is system-versioned"}, {"history table", "it holds the history of another"},
		{"file table", "it is a file table"}, {"graph", "it is part of a graph"}, {"ledger", "it is part of a ledger"}} {
		if t.Has(o.option) {
			return o.says
		}
	}
	return ""
}
