package settings

import (
	"errors"
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
)

// A Note is what somebody knows of a table or a column.
type Note struct {
	About string `yaml:"about"` // table, schema.table, table.column or schema.table.column
	Text  string `yaml:"text"`
	By    string `yaml:"by"`
	At    Day    `yaml:"at"`
}

// notePrefix begins the name of a note among other items.
const notePrefix = "note "

// check says what is wrong with a note.
func (x Note) check() error {
	switch {
	case strings.TrimSpace(x.About) == "":
		return errors.New("it does not say what it is about")
	case strings.TrimSpace(x.Text) == "":
		return fmt.Errorf("the note on %s says nothing", x.About)
	}
	return nil
}

// PutNote keeps a note in the place of the one about the same.
func (d *Decisions) PutNote(x Note) error {
	if err := x.check(); err != nil {
		return err
	}
	d.withdrawNote(x.About)
	d.Notes = append(d.Notes, x)
	return nil
}

func (d *Decisions) withdrawNote(about string) bool {
	n := len(d.Notes)
	d.Notes = slices.DeleteFunc(d.Notes, func(x Note) bool { return x.About == about })
	return len(d.Notes) < n
}

// NotesOn are the notes on what the catalog holds. A name that can mean a table means that;
// where several tables of a name are meant, the note is on each. Stray are those that are about
// nothing that is there.
func (d *Decisions) NotesOn(c *catalog.Catalog) (on catalog.Notes, stray []Note) {
	on = catalog.Notes{}
	for _, x := range d.Notes {
		found := false
		for _, t := range c.Tables() {
			if x.About == t.Name || x.About == t.Ref().String() {
				on.Put(t.Ref(), "", x.Text)
				found = true
			}
		}
		if found {
			continue
		}
		for _, t := range c.Tables() {
			for _, col := range t.Columns {
				if x.About == t.Name+"."+col.Name || x.About == t.Ref().String()+"."+col.Name {
					on.Put(t.Ref(), col.Name, x.Text)
					found = true
				}
			}
		}
		if !found {
			stray = append(stray, x)
		}
	}
	return on, stray
}
