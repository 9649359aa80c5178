package change

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
)

// NumberKey gives a table a generated number as its primary key; the columns that
// were its key stay unique throughout, and what refers to them goes on doing so.
type NumberKey struct {
	Table  catalog.Ref
	Column *catalog.Column // the number
	Key    *catalog.Key    // the primary key on it
	From   *catalog.Key    // the primary key that gives way
	Unique *catalog.Key    // the unique key on its columns
}

// UnnumberKey takes the number away, and makes the columns the primary key again.
type UnnumberKey struct {
	NumberKey
	// Restores are indexes that the engine had made for foreign keys and that had
	// given way to the unique key's.
	Restores []*catalog.Index
}

// FillColumn gives a column the value that another column has in the row that is
// referred to, wherever it is null. Data alone changes, no structure.
type FillColumn struct {
	Table  catalog.Ref
	Column string
	Via    *catalog.ForeignKey // of the table
	From   string              // the column of the table referred to
}

// EmptyColumn takes the values away again: with the column, which is dropped then. No
// statement does it.
type EmptyColumn FillColumn

func (c EmptyColumn) On() catalog.Ref { return c.Table }
func (EmptyColumn) rank() int         { return rankForeignKey }
func (c EmptyColumn) Title() string {
	return fmt.Sprintf("give up the values of %s.%s", c.Table, c.Column)
}

// Apply changes nothing.
func (c EmptyColumn) Apply(to *catalog.Catalog, can catalog.Abilities) error {
	return FillColumn(c).Apply(to, can)
}

func (c NumberKey) On() catalog.Ref  { return c.Table }
func (c FillColumn) On() catalog.Ref { return c.Table }
func (NumberKey) rank() int          { return rankKey }
func (FillColumn) rank() int         { return rankForeignKey } // behind the keys, before the references

func (c NumberKey) Title() string {
	return fmt.Sprintf("make a number, %s, the primary key of %s, and (%s) a unique constraint", c.Column.Name, c.Table, strings.Join(c.From.Columns, ", "))
}

func (c UnnumberKey) Title() string {
	return fmt.Sprintf("make (%s) the primary key of %s again, and drop column %s", strings.Join(c.From.Columns, ", "), c.Table, c.Column.Name)
}

func (c FillColumn) Title() string {
	return fmt.Sprintf("fill %s.%s with %s of the row of %s that (%s) refers to", c.Table, c.Column, c.From, c.Via.Target, strings.Join(c.Via.Columns, ", "))
}

// replaced is the part of the change that the old key takes.
func (c NumberKey) replaced() ReplaceKey {
	return ReplaceKey{c.Table, Uniqueness{Primary: true, Key: c.From}, Uniqueness{Key: c.Unique}}
}

// Apply lets the columns stay unique, adds the number and makes it the key.
func (c NumberKey) Apply(to *catalog.Catalog, can catalog.Abilities) error {
	t, err := table(to, c.Table)
	if err != nil {
		return err
	}
	if t.Column(c.Column.Name) != nil {
		return fmt.Errorf("column %s of %s exists", c.Column.Name, c.Table)
	}
	if err := c.replaced().Apply(to, can); err != nil {
		return err
	}
	if err := (AddColumn{Table: c.Table, Column: c.Column}).Apply(to, can); err != nil {
		return err
	}
	return AddKey{c.Table, c.Key, true}.Apply(to, can)
}

// Apply drops the number and makes the columns the key again.
func (c UnnumberKey) Apply(to *catalog.Catalog, can catalog.Abilities) error {
	t, err := table(to, c.Table)
	if err != nil {
		return err
	}
	if k := t.PrimaryKey; k == nil || !slices.Equal(k.Columns, c.Key.Columns) {
		return fmt.Errorf("%s is not the primary key of %s", c.Column.Name, c.Table)
	}
	for _, r := range to.Lookup().Referrers(c.Table) {
		if slices.Equal(r.ForeignKey.TargetColumns, c.Key.Columns) {
			return fmt.Errorf("foreign key %s of %s refers to %s", r.ForeignKey.Label(), r.Table.Ref(), c.Column.Name)
		}
	}
	remove(t, Uniqueness{Primary: true, Key: t.PrimaryKey})
	if err := (DropColumn{c.Table, c.Column.Name}).Apply(to, can); err != nil {
		return err
	}
	r := c.replaced()
	if err := (ReplaceKey{c.Table, r.To, r.From}).Apply(to, can); err != nil {
		return err
	}
	restore(t, c.Restores)
	return nil
}

// Apply changes nothing of the structure; it fails where the columns are not there.
func (c FillColumn) Apply(to *catalog.Catalog, _ catalog.Abilities) error {
	for _, name := range append([]string{c.Column}, c.Via.Columns...) {
		if _, _, err := column(to, c.Table, name); err != nil {
			return err
		}
	}
	for _, name := range append([]string{c.From}, c.Via.TargetColumns...) {
		if _, _, err := column(to, c.Via.Target, name); err != nil {
			return err
		}
	}
	return nil
}

// Reverse takes the number away.
func (c NumberKey) Reverse(before *catalog.Catalog) (Change, error) {
	t, err := table(before, c.Table)
	if err != nil {
		return nil, err
	}
	was, ok := find(t, Uniqueness{Primary: true, Key: c.From})
	if !ok {
		return nil, fmt.Errorf("the primary key of %s is another", c.Table)
	}
	c.From = was.Key
	x := &catalog.Index{Name: c.Unique.Name}
	for _, name := range c.Unique.Columns {
		x.Parts = append(x.Parts, catalog.IndexPart{Column: name})
	}
	return UnnumberKey{c, yielded(before, c.Table, x)}, nil
}

// Reverse numbers it anew.
func (c UnnumberKey) Reverse(*catalog.Catalog) (Change, error) { return c.NumberKey, nil }

// Reverse leaves the values, which go with their column.
func (c FillColumn) Reverse(*catalog.Catalog) (Change, error) { return EmptyColumn(c), nil }

// Reverse fills it again.
func (c EmptyColumn) Reverse(*catalog.Catalog) (Change, error) { return FillColumn(c), nil }
