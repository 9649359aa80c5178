package write

import (
	"fmt"
	"reflect"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
	"nexdal/internal/engine/ddl"
	"nexdal/internal/engine/postgres/traits"
)

// lockText is what giving a view another query takes: who reads it waits.
var lockText = ddl.Takes("ACCESS EXCLUSIVE on the view for a moment: its readers wait", engine.BlocksBriefly)

// refusesView says why a view cannot be given another text, or "".
func refusesView(c *catalog.Catalog, ch change.ReplaceView) string {
	name := ch.Schema + "." + ch.New.Name
	switch {
	case ch.Old.Materialised || ch.New.Materialised:
		return fmt.Sprintf("%s is kept as rows, and would have to be filled again", name)
	case ch.New.Definition == "":
		return fmt.Sprintf("the query of %s was not read", name)
	case !reflect.DeepEqual(ch.Old.Triggers, ch.New.Triggers) || !reflect.DeepEqual(ch.Old.Objects, ch.New.Objects):
		return fmt.Sprintf("triggers or rules of %s differ too", name)
	case ch.New.Extends(ch.Old) && ch.Old.Extends(ch.New):
		return "" // there and back
	}
	// Columns go or change, on the way there or back: it is re-created with all views that
	// read it.
	for _, r := range append(readersOf(c, catalog.Ref{Schema: ch.Schema, Table: ch.New.Name}), viewIn{ch.Schema, ch.Old}) {
		if r.view.Materialised {
			return fmt.Sprintf("columns of %s go or change, and %s.%s, which is kept as rows, reads it", name, r.schema, r.view.Name)
		}
		for _, s := range c.Schemas {
			for _, f := range s.Routines {
				if slices.ContainsFunc(slices.Concat(f.Needs, f.Touches), func(x catalog.ObjectRef) bool { return x.Schema == r.schema && x.Name == r.view.Name }) {
					return fmt.Sprintf("columns of %s go or change, and %s.%s uses %s.%s", name, s.Name, f.Signature(), r.schema, r.view.Name)
				}
			}
		}
	}
	return ""
}

// A viewIn is a view with its schema.
type viewIn struct {
	schema string
	view   *catalog.View
}

// readersOf are the views that read a relation, or one another that does: each behind those
// that it reads.
func readersOf(c *catalog.Catalog, of catalog.Ref) []viewIn {
	read := map[catalog.Ref]bool{of: true}
	var all []viewIn
	for _, m := range c.Members() {
		if m.View != nil && slices.ContainsFunc(m.View.Reads, func(r catalog.ObjectRef) bool { return read[catalog.Ref{Schema: r.Schema, Table: r.Name}] }) {
			if ref := (catalog.Ref{Schema: m.Schema, Table: m.Name}); !read[ref] {
				read[ref] = true
				all = append(all, viewIn{m.Schema, m.View})
			}
		}
	}
	return all
}

// refusesRoutine: what CREATE OR REPLACE does not take
// (https://www.postgresql.org/docs/current/sql-createfunction.html).
func refusesRoutine(ch change.ReplaceRoutine) string {
	switch {
	case ch.New.Definition == "":
		return "its text was not read"
	case ch.Old.Returns != ch.New.Returns || ch.Old.Kind != ch.New.Kind:
		return fmt.Sprintf("%s comes to return something else, and would have to be dropped with all that uses it", ch.New.Signature())
	case ch.New.Kind == "aggregate":
		return "an aggregate would have to be dropped with all that uses it"
	}
	return ""
}

// refusesTrigger: partitions have shares in the triggers of the whole.
func refusesTrigger(t *catalog.Table, ch change.ReplaceTrigger) string {
	if t.Kind == catalog.Partitioned || t.PartitionOf != nil {
		return "the triggers of a partitioned table come and go with those of its partitions, which is left to you"
	}
	if ch.New != nil && ch.New.Definition == "" {
		return "its text was not read"
	}
	return ""
}

// replaceView replaces the view, whose grants stay; where columns go or change, it is
// re-created, with all views that read it, and the owners and grants of the old ones.
func (w *writer) replaceView(ch change.ReplaceView) {
	if !ch.New.Extends(ch.Old) { // CREATE OR REPLACE takes no less (https://www.postgresql.org/docs/current/sql-createview.html)
		w.remakeView(ch)
		return
	}
	c := newCreator(w.Now)
	c.view(ch.Schema, ch.New)
	name := traits.Qualified(ch.Schema, ch.New.Name)
	sql := []string{strings.Replace(c.objects[0], "CREATE VIEW", "CREATE OR REPLACE VIEW", 1)}
	for i, col := range ch.Old.Columns {
		if col.Default != "" && ch.New.Columns[i].Default == "" {
			sql = append(sql, fmt.Sprintf("ALTER VIEW %s ALTER COLUMN %s DROP DEFAULT", name, traits.Ident(col.Name)))
		}
		if col.Comment != "" && ch.New.Columns[i].Comment == "" {
			sql = append(sql, fmt.Sprintf("COMMENT ON COLUMN %s.%s IS NULL", name, traits.Ident(col.Name)))
		}
	}
	if ch.Old.Comment != "" && ch.New.Comment == "" {
		sql = append(sql, "COMMENT ON VIEW "+name+" IS NULL")
	}
	w.Step(ch.Title(), lockText, slices.Concat(sql, c.later, c.comments, columnGrants(ch))...)
}

// columnGrants are those on the columns that come back: they went with them.
func columnGrants(ch change.ReplaceView) []string {
	back := ch.New.Rights
	back.Grants = slices.DeleteFunc(slices.Clone(back.Grants), func(g catalog.Grant) bool {
		return g.Column == "" || slices.ContainsFunc(ch.Old.Columns, func(c *catalog.ViewColumn) bool { return c.Name == g.Column })
	})
	back.SecurityLabels = nil
	return granted("VIEW", traits.Qualified(ch.Schema, ch.New.Name), back)
}

// remakeView puts the view and its readers aside under other names, makes them again, and
// drops those that were: one transaction, so that nobody misses them.
func (w *writer) remakeView(ch change.ReplaceView) {
	names := catalog.NewNames(w.Now, 63)
	all := append([]viewIn{{ch.Schema, ch.New}}, readersOf(w.Now, catalog.Ref{Schema: ch.Schema, Table: ch.New.Name})...)
	var aside, made, owned, drops []string
	c := newCreator(w.Now)
	for _, r := range all {
		name, old := traits.Qualified(r.schema, r.view.Name), names.Free(r.schema, "old", r.view.Name)
		aside = append(aside, fmt.Sprintf("ALTER VIEW %s RENAME TO %s", name, traits.Ident(old)))
		c.view(r.schema, r.view)
		owned = append(owned, asOwned(traits.Qualified(r.schema, old), name))
		drops = append(drops, "DROP VIEW "+traits.Qualified(r.schema, old))
	}
	owned = append(owned, columnGrants(ch)...)
	slices.Reverse(drops)
	made = slices.Concat(c.objects, c.later, c.triggers, c.comments)
	s := w.Step(ch.Title(), lockText, slices.Concat(aside, made, owned, drops)...)
	note := "columns go or change: the view is another one under its name, with the owner and the grants of the old"
	if n := len(all) - 1; n > 0 {
		note += ", and so are the views that read it"
	}
	s.Notes = append(s.Notes, note)
}

// replaceRoutine replaces it; owner and grants stay.
func (w *writer) replaceRoutine(ch change.ReplaceRoutine) {
	c := newCreator(w.Now)
	c.routine(ch.Schema, ch.New)
	text := c.objects[0]
	if !strings.HasPrefix(text, "CREATE OR REPLACE ") {
		text = strings.Replace(text, "CREATE ", "CREATE OR REPLACE ", 1)
	}
	sql := append([]string{text}, c.comments...)
	if ch.Old.Comment != "" && ch.New.Comment == "" {
		old := newCreator(w.Now)
		old.routine(ch.Schema, ch.Old)
		on, _, _ := strings.Cut(old.comments[0], " IS ")
		sql = append(sql, on+" IS NULL")
	}
	w.Step(ch.Title(), ddl.Takes("nobody waits: calls under way end as they began", engine.BlocksNobody), sql...)
}

// replaceTrigger makes, drops or replaces a trigger in one transaction.
func (w *writer) replaceTrigger(ch change.ReplaceTrigger) {
	var sql []string
	if ch.Old != nil {
		sql = append(sql, fmt.Sprintf("DROP TRIGGER %s ON %s", traits.Ident(ch.Old.Name), traits.Relation(ch.Table)))
	}
	if ch.New != nil {
		c := newCreator(w.Now)
		c.acts(ch.Table, []*catalog.Trigger{ch.New}, nil)
		sql = append(append(sql, c.triggers...), c.comments...)
	}
	w.Step(ch.Title(), lockSwitch, sql...)
}

// setComment: https://www.postgresql.org/docs/current/sql-comment.html.
func (w *writer) setComment(ch change.SetComment) {
	on := "TABLE " + traits.Relation(ch.Table)
	switch t := w.Now.Table(ch.Table); ch.Kind {
	case change.OnTable:
		if t != nil && t.Kind == catalog.Foreign {
			on = "FOREIGN TABLE " + traits.Relation(ch.Table)
		}
	case change.OnColumn:
		on = "COLUMN " + traits.Relation(ch.Table) + "." + traits.Ident(ch.Name)
	case change.OnIndex:
		on = "INDEX " + traits.Qualified(ch.Table.Schema, ch.Name)
	case change.OnConstraint:
		on = fmt.Sprintf("CONSTRAINT %s ON %s", traits.Ident(ch.Name), traits.Relation(ch.Table))
	}
	w.Step(ch.Title(), ddl.Takes("nobody waits", engine.BlocksNobody), "COMMENT ON "+on+" IS "+orNull(ch.To))
}

func orNull(text string) string {
	if text == "" {
		return "NULL"
	}
	return traits.Literal(text)
}
