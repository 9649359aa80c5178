package sqlite

import (
	"fmt"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqlite/ddltext"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/pattern"
)

// triggerFromText reads when a trigger fires from its statement
// (https://www.sqlite.org/lang_createtrigger.html).
func triggerFromText(name, text string) *catalog.Trigger {
	g := &catalog.Trigger{Name: name, Definition: text, Timing: "before", PerRow: true}
	words := 0
	Engine{}.Dialect().Each(text, func(t sqllex.Token) bool {
		if t.Blank() {
			return true
		}
		words++
		switch word := strings.ToLower(t.Text); {
		case t.Kind != sqllex.Word || words < 3: // the name may be any word, quoted or not
		case word == "before" || word == "after":
			g.Timing = word
		case word == "instead":
			g.Timing = "instead of"
		case word == "insert" || word == "update" || word == "delete":
			g.Events = []string{word}
			return false
		}
		return words < 12
	})
	return g
}

// added fits the errors about what a program may have added to the engine, and this one lacks
// (https://www.sqlite.org/loadext.html).
var added = pattern.New(`no such (function|module|collation sequence)`)

// views reads the columns of views, and what they and the triggers read by the
// names that stand in their texts.
func (r *reader) views() {
	if len(r.schema.Views) == 0 {
		return
	}
	names := sqllex.NewNames(fold, fold)
	for _, t := range r.schema.Tables {
		names.Add(catalog.ObjectRef{Kind: catalog.KindTable, Schema: "main", Name: t.Name}, fold(t.Name))
	}
	byName := map[string]*catalog.View{}
	for _, v := range r.schema.Views {
		names.Add(catalog.ObjectRef{Kind: catalog.KindView, Schema: "main", Name: v.Name}, fold(v.Name))
		byName[v.Name] = v
	}
	for _, v := range r.schema.Views {
		for _, o := range names.In(Engine{}.Dialect(), v.Definition, "main") {
			if o.Kind != catalog.KindView || o.Name != v.Name {
				v.Reads = append(v.Reads, o)
			}
		}
	}
	if r.err != nil {
		return
	}
	row := func(scan func(...any) error) error {
		var view string
		c := &catalog.ViewColumn{}
		err := scan(&view, &c.Name, &c.Type)
		if v := byName[view]; v != nil {
			v.Columns = append(v.Columns, c)
		}
		return err
	}
	const query = `SELECT m.name, x.name, x.type FROM sqlite_schema m JOIN pragma_table_xinfo(m.name) x WHERE m.type = 'view' %s ORDER BY m.rowid, x.cid`
	if r.try(fmt.Sprintf(query, ""), row) == nil || r.ctx.Err() != nil {
		return
	}
	// One of them is broken: each by itself, so that the others are known.
	for _, v := range r.schema.Views {
		v.Columns = nil
		if err := r.try(fmt.Sprintf(query, "AND m.name = "+ddltext.Literal(v.Name)), row); err != nil && r.ctx.Err() == nil {
			r.gap("", "columns of view "+v.Name, err)
			if !added.MatchString(err.Error()) {
				r.catalog.Faults = append(r.catalog.Faults, catalog.Fault{Kind: catalog.KindView, Schema: "main", Name: v.Name, Reason: plainly(err)})
			}
		}
	}
}
