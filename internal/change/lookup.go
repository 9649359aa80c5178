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

func (AddLookup) On() catalog.Ref { return catalog.Ref{} }

// Tables names the table.
func (c AddLookup) Tables() []catalog.Ref { return []catalog.Ref{c.Table.Ref()} }

func (c AddLookup) Title() string {
	return fmt.Sprintf("add table %s of %d values", c.Table.Ref(), len(c.Values))
}
func (AddLookup) rank() int { return rankFirst }

// apply adds the table.
func (c AddLookup) apply(to *edit, can catalog.Abilities) error {
	return to.addTable(c.Made(can))
}

// inverse drops it again.
func (c AddLookup) inverse(before *catalog.Catalog) (Change, error) { return undo(c, before) }

func (c AddLookup) undone() string { return fmt.Sprintf("drop table %s", c.Table.Ref()) }
