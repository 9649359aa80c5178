package sqlite

import (
	"database/sql"
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqlite/ddltext"
	"nexdal/internal/engine/sqllex"
)

// Views are kept as texts: SELECT * means the columns that there are when the view is read
// (https://www.sqlite.org/lang_createview.html).

// naturally reports whether a text joins by all columns that are called alike.
func naturally(text string) bool {
	found := false
	Engine{}.Dialect().Each(text, func(t sqllex.Token) bool {
		found = t.Is("natural")
		return !found
	})
	return found
}

// widens says what breaks once the table is made by the text, with one column more: a view whose
// columns are counted, or joined by their names.
func widens(c *catalog.Catalog, t *catalog.Table, text string) string {
	var over []*catalog.View // that read it, through others too
	read := map[catalog.ObjectRef]bool{{Kind: catalog.KindTable, Schema: t.Schema, Name: t.Name}: true}
	for more := true; more; {
		more = false
		for _, v := range c.Schemas[0].Views {
			self := catalog.ObjectRef{Kind: catalog.KindView, Schema: t.Schema, Name: v.Name}
			if !read[self] && slices.ContainsFunc(v.Reads, func(o catalog.ObjectRef) bool { return read[o] }) {
				read[self], more = true, true
				over = append(over, v)
			}
		}
	}
	for _, v := range over {
		if naturally(v.Definition) {
			return fmt.Sprintf("view %s joins by all columns that are called alike, and one more might be among them", v.Name)
		}
	}
	if !slices.ContainsFunc(over, func(v *catalog.View) bool { return v.Follows }) {
		return ""
	}
	return tried(c, t, text, over)
}

// tried makes the tables and the views over them in memory, and says which view can be read no more
// once the table is made by the text.
func tried(c *catalog.Catalog, t *catalog.Table, text string, over []*catalog.View) string {
	db, err := sql.Open("sqlite", ":memory:")
	if err != nil {
		return err.Error()
	}
	defer db.Close()
	db.SetMaxOpenConns(1)
	made := map[string]bool{}
	var make func(o catalog.ObjectRef)
	make = func(o catalog.ObjectRef) {
		if made[o.Name] {
			return
		}
		made[o.Name] = true
		if o.Kind == catalog.KindTable {
			if is := c.Table(catalog.Ref{Schema: o.Schema, Table: o.Name}); is != nil {
				db.Exec("CREATE TABLE " + ddltext.Ident(is.Name) + " " + is.Definition) // what this engine cannot make, no view can be told from
			}
			return
		}
		for _, v := range c.Schemas[0].Views {
			if v.Name == o.Name {
				for _, below := range v.Reads {
					make(below)
				}
				db.Exec(v.Definition)
			}
		}
	}
	readable := func(v *catalog.View) error {
		rows, err := db.Query("SELECT * FROM " + ddltext.Ident(v.Name) + " LIMIT 0")
		if err == nil {
			err = rows.Close()
		}
		return err
	}
	var read []*catalog.View
	for _, v := range over {
		if make(catalog.ObjectRef{Kind: catalog.KindView, Schema: t.Schema, Name: v.Name}); readable(v) == nil {
			read = append(read, v)
		}
	}
	if _, err := db.Exec("DROP TABLE " + ddltext.Ident(t.Name)); err != nil {
		return fmt.Sprintf("the views over %s could not be tried: %v", t.Name, plainly(err))
	}
	if _, err := db.Exec("CREATE TABLE " + ddltext.Ident(t.Name) + " " + text); err != nil {
		return fmt.Sprintf("the views over %s could not be tried: %v", t.Name, plainly(err))
	}
	for _, v := range read {
		if err := readable(v); err != nil {
			return fmt.Sprintf("view %s counts its columns, and would break: %s", v.Name, strings.TrimSpace(plainly(err)))
		}
	}
	return ""
}
