package change

import (
	"fmt"

	"nexdal/internal/catalog"
)

// AddLookupTable makes a table of the values that a column may hold, with the values in it.
type AddLookupTable struct {
	Table  *catalog.Table // of one column, without a key
	Key    *catalog.Key   // its primary key: the column
	Values []string
}

// Made is the table with its key and what stands behind that.
func (c AddLookupTable) Made(can catalog.Abilities) *catalog.Table {
	t := c.Table.Clone()
	if err := add(t, Uniqueness{Primary: true, Key: c.Key}, can); err != nil {
		panic(err) // a table without keys takes one
	}
	return t
}

func (AddLookupTable) On() catalog.Ref { return catalog.Ref{} }

// Tables names the table.
func (c AddLookupTable) Tables() []catalog.Ref { return []catalog.Ref{c.Table.Ref()} }

func (c AddLookupTable) Title() string {
	return fmt.Sprintf("add table %s of %d values", c.Table.Ref(), len(c.Values))
}
func (AddLookupTable) rank() int { return rankFirst }

// apply adds the table.
func (c AddLookupTable) apply(to *edit, can catalog.Abilities) error {
	return to.addTable(c.Made(can))
}

// inverse drops it again.
func (c AddLookupTable) inverse(before *catalog.Catalog) (Change, error) { return undo(c, before) }

func (c AddLookupTable) undone() string { return fmt.Sprintf("drop table %s", c.Table.Ref()) }
