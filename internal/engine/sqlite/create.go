package sqlite

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/sqlite/ddltext"
)

// Create writes the whole structure: what was read from a file by its own
// texts, what comes from elsewhere by the model.
func (e Engine) Create(c *catalog.Catalog) (*engine.Work, []engine.Loss) {
	var before, tables, indexes, views, triggers []string
	var losses []engine.Loss
	lose := func(kind, name, why string) {
		losses = append(losses, engine.Loss{What: catalog.ObjectRef{Kind: kind, Schema: "main", Name: name}, Why: why})
	}
	if s, ok := c.Setting("encoding"); ok && s.Value != "UTF-8" {
		before = append(before, "PRAGMA encoding = "+ddltext.Literal(s.Value))
	}
	for _, name := range []string{"user_version", "application_id"} {
		if s, ok := c.Setting(name); ok && s.Value != "0" {
			before = append(before, fmt.Sprintf("PRAGMA %s = %s", name, s.Value))
		}
	}
	for _, s := range c.Schemas {
		for _, t := range s.Tables {
			switch {
			case t.Kind == catalog.Shadow: // made by the module
			case t.Kind == catalog.Virtual:
				tables = append(tables, t.Definition)
			case t.Definition != "":
				tables = append(tables, "CREATE TABLE "+ddltext.Ident(t.Name)+" "+strings.TrimSpace(t.Definition))
			case len(t.Columns) == 0:
				lose(catalog.KindTable, t.Name, "it has no columns, or they were not read")
				continue
			default:
				tables = append(tables, tableText(t))
			}
			for _, x := range t.Indexes {
				if x.Origin == catalog.ByPerson && t.Kind != catalog.Shadow {
					indexes = append(indexes, createIndex(x, t.Name))
				}
			}
			for _, g := range t.Triggers {
				triggers = append(triggers, g.Definition)
			}
		}
	}
	for _, m := range c.Members() {
		if m.View == nil {
			continue
		}
		if m.View.Definition == "" {
			lose(catalog.KindView, m.Name, "its query was not read")
			continue
		}
		views = append(views, m.View.Definition)
		for _, g := range m.View.Triggers {
			triggers = append(triggers, g.Definition)
		}
	}
	work := &engine.Work{Client: []string{".bail on"}, Setup: before}
	for _, p := range []struct {
		title string
		sql   []string
	}{{"tables", tables}, {"indexes", indexes}, {"views", views}, {"triggers", triggers}} {
		if len(p.sql) > 0 {
			work.Steps = append(work.Steps, engine.Step{Title: "create " + p.title, Lock: "writers of the database wait for a moment", Blocks: engine.BlocksBriefly,
				Transaction: true, SQL: slices.Concat([]string{"BEGIN"}, p.sql, []string{"COMMIT"})})
		}
	}
	return work, losses
}

// tableText writes a table by the model
// (https://www.sqlite.org/lang_createtable.html).
func tableText(t *catalog.Table) string {
	named := func(name string) string {
		if name == "" {
			return ""
		}
		return "CONSTRAINT " + ddltext.Ident(name) + " "
	}
	var parts []string
	numbered := ""
	for _, c := range t.Columns {
		text := ddltext.ColumnLine(c)
		if k := t.PrimaryKey; k != nil && len(k.Columns) == 1 && k.Columns[0] == c.Name && ownOrder(t, k.Columns) {
			numbered = c.Name
			bare := *c
			bare.Nullable, bare.Identity = true, catalog.NoIdentity
			text = ddltext.ColumnLine(&bare) + " " + named(k.Name) + "PRIMARY KEY"
			if c.Identity == catalog.IdentityCounter {
				text += " AUTOINCREMENT"
			}
		}
		parts = append(parts, text)
	}
	for _, k := range t.Keys() {
		switch {
		case k != t.PrimaryKey:
			parts = append(parts, named(k.Name)+"UNIQUE ("+ddltext.Idents(k.Columns)+")")
		case numbered == "":
			parts = append(parts, named(k.Name)+"PRIMARY KEY ("+ddltext.Idents(k.Columns)+")")
		}
	}
	for _, k := range t.Checks {
		parts = append(parts, named(k.Name)+"CHECK ("+k.Expression+")")
	}
	for _, f := range t.ForeignKeys {
		text := fmt.Sprintf("%sFOREIGN KEY (%s) REFERENCES %s (%s)", named(f.Name), ddltext.Idents(f.Columns), ddltext.Ident(f.Target.Table), ddltext.Idents(f.TargetColumns))
		if f.OnUpdate != catalog.NoAction {
			text += " ON UPDATE " + strings.ToUpper(string(f.OnUpdate))
		}
		if f.OnDelete != catalog.NoAction {
			text += " ON DELETE " + strings.ToUpper(string(f.OnDelete))
		}
		switch {
		case f.Deferred:
			text += " DEFERRABLE INITIALLY DEFERRED"
		case f.Deferrable:
			text += " DEFERRABLE"
		}
		parts = append(parts, text)
	}
	text := "CREATE TABLE " + ddltext.Ident(t.Name) + " (\n  " + strings.Join(parts, ",\n  ") + "\n)"
	var options []string
	for _, o := range []string{ddltext.WithoutRowid, ddltext.Strict} {
		if t.Has(o) {
			options = append(options, strings.ToUpper(o))
		}
	}
	if len(options) > 0 {
		text += " " + strings.Join(options, ", ")
	}
	return text
}
