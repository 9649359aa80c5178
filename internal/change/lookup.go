package change

import (
	"fmt"

	"nexdal/internal/catalog"
)

// AddLookup makes a table of the values that a column may hold, with the values in it.
type AddLookup struct {
	Table  *catalog.Table // of one column, without a key
	Key    *catalog.Key   // its primary key: the column
	Values []string
}

// Made is the table with its key and what stands behind that.
func (c AddLookup) Made(can catalog.Abilities) *catalog.Table {
	t := c.Table.Clone()
	if err := add(t, Uniqueness{Primary: true, Key: c.Key}, can); err != nil {
		panic(err) // a table without keys takes one
	}
	return t
}

// DropLookup takes the table away, unless somebody has added to it.
type DropLookup AddLookup

func (AddLookup) On() catalog.Ref  { return catalog.Ref{} }
func (DropLookup) On() catalog.Ref { return catalog.Ref{} }

// Tables names the table.
func (c AddLookup) Tables() []catalog.Ref { return []catalog.Ref{c.Table.Ref()} }

// Tables names the table.
func (c DropLookup) Tables() []catalog.Ref { return AddLookup(c).Tables() }

func (c AddLookup) Title() string {
	return fmt.Sprintf("add table %s of %d values", c.Table.Ref(), len(c.Values))
}
func (c DropLookup) Title() string { return fmt.Sprintf("drop table %s", c.Table.Ref()) }
func (AddLookup) rank() int        { return rankFirst }
func (DropLookup) rank() int       { return rankLast }

// Apply adds the table.
func (c AddLookup) Apply(to *catalog.Catalog, can catalog.Abilities) error {
	s := to.Schema(c.Table.Schema)
	if s == nil || to.Table(c.Table.Ref()) != nil {
		return fmt.Errorf("table %s exists, or its schema does not", c.Table.Ref())
	}
	s.Tables = ordered(append(s.Tables, c.Made(can)))
	return nil
}

// Apply removes it.
func (c DropLookup) Apply(to *catalog.Catalog, _ catalog.Abilities) error {
	t, err := table(to, c.Table.Ref())
	if err == nil {
		s := to.Schema(c.Table.Schema)
		s.Tables = without(s.Tables, t)
	}
	return err
}

// Reverse drops it again.
func (c AddLookup) Reverse(*catalog.Catalog) (Change, error) { return DropLookup(c), nil }

// Reverse adds it again.
func (c DropLookup) Reverse(*catalog.Catalog) (Change, error) { return AddLookup(c), nil }
