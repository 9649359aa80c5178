package change

import (
	"fmt"
	"strings"

	"nexdal/internal/catalog"
)

// AddSurrogateKey gives a table a generated number as its primary key; the columns that
// were its key stay unique throughout, and what refers to them goes on doing so.
type AddSurrogateKey struct {
	Table  catalog.Ref
	Column *catalog.Column // the number
	Key    *catalog.Key    // the primary key on it
	From   *catalog.Key    // the primary key that gives way
	Unique *catalog.Key    // the unique key on its columns
}

// BackfillColumn gives a column the value that another column has in the row that is
// referred to, wherever it is null. Data alone changes, no structure.
type BackfillColumn struct {
	Table  catalog.Ref
	Column string
	Via    *catalog.ForeignKey // of the table
	From   string              // the column of the table referred to
}

func (c AddSurrogateKey) On() catalog.Ref { return c.Table }
func (c BackfillColumn) On() catalog.Ref  { return c.Table }
func (AddSurrogateKey) rank() int         { return rankKey }
func (BackfillColumn) rank() int          { return rankForeignKey } // behind the keys, before the references

func (c AddSurrogateKey) Title() string {
	return fmt.Sprintf("make a number, %s, the primary key of %s, and (%s) a unique constraint", c.Column.Name, c.Table, strings.Join(c.From.Columns, ", "))
}

func (c BackfillColumn) Title() string {
	return fmt.Sprintf("fill %s.%s with %s of the row of %s that (%s) refers to", c.Table, c.Column, c.From, c.Via.Target, strings.Join(c.Via.Columns, ", "))
}

// replaced is the part of the change that the old key takes.
func (c AddSurrogateKey) replaced() ReplaceKey {
	return ReplaceKey{c.Table, Uniqueness{Primary: true, Key: c.From}, Uniqueness{Key: c.Unique}}
}

// apply lets the columns stay unique, adds the number and makes it the key.
func (c AddSurrogateKey) apply(to *edit, can catalog.Abilities) error {
	t, err := to.table(c.Table)
	if err != nil {
		return err
	}
	if t.Column(c.Column.Name) != nil {
		return fmt.Errorf("column %s of %s exists", c.Column.Name, c.Table)
	}
	if err := c.replaced().apply(to, can); err != nil {
		return err
	}
	if err := (AddColumn{Table: c.Table, Column: c.Column}).apply(to, can); err != nil {
		return err
	}
	return AddKey{Table: c.Table, Key: c.Key, Primary: true}.apply(to, can)
}

// apply changes nothing of the structure; it fails where the columns are not there.
func (c BackfillColumn) apply(to *edit, _ catalog.Abilities) error {
	for _, name := range append([]string{c.Column}, c.Via.Columns...) {
		if _, _, err := column(to.Catalog, c.Table, name); err != nil {
			return err
		}
	}
	for _, name := range append([]string{c.From}, c.Via.TargetColumns...) {
		if _, _, err := column(to.Catalog, c.Via.Target, name); err != nil {
			return err
		}
	}
	return nil
}

// inverse takes the number away.
func (c AddSurrogateKey) inverse(before *catalog.Catalog) (Change, error) {
	t, err := table(before, c.Table)
	if err != nil {
		return nil, err
	}
	if _, ok := find(t, Uniqueness{Primary: true, Key: c.From}); !ok {
		return nil, fmt.Errorf("the primary key of %s is another", c.Table)
	}
	return undo(c, before)
}

func (c AddSurrogateKey) undone() string {
	return fmt.Sprintf("make (%s) the primary key of %s again, and drop column %s", strings.Join(c.From.Columns, ", "), c.Table, c.Column.Name)
}

// inverse leaves the values, which go with their column.
func (c BackfillColumn) inverse(before *catalog.Catalog) (Change, error) { return undo(c, before) }

func (c BackfillColumn) undone() string {
	return fmt.Sprintf("give up the values of %s.%s", c.Table, c.Column)
}
