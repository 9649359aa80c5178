package change

import (
	"fmt"

	"nexdal/internal/catalog"
)

// What a comment is on.
const (
	OnTable      = "table"
	OnColumn     = "column"
	OnIndex      = "index"
	OnConstraint = "constraint"
)

// SetComment writes another comment on a table, or on one of its columns, indexes or
// constraints; an empty one takes it away.
type SetComment struct {
	Table    catalog.Ref
	Kind     string // one of the above
	Name     string // empty for the table itself
	From, To string
}

func (c SetComment) On() catalog.Ref { return c.Table }
func (SetComment) rank() int         { return rankSetting }

func (c SetComment) Title() string {
	what := "the comment on"
	if c.To == "" {
		what = "no comment on"
	}
	if c.Kind == OnTable {
		return fmt.Sprintf("write %s %s", what, c.Table)
	}
	return fmt.Sprintf("write %s %s %s of %s", what, c.Kind, c.Name, c.Table)
}

// apply writes it.
func (c SetComment) apply(to *edit, _ catalog.Abilities) error {
	t, err := to.table(c.Table)
	if err != nil {
		return err
	}
	if at := c.place(t); at != nil {
		*at = c.To
		return nil
	}
	return fmt.Errorf("%s %s of %s does not exist", c.Kind, c.Name, c.Table)
}

// place is where the model keeps the comment.
func (c SetComment) place(t *catalog.Table) *string {
	switch c.Kind {
	case OnTable:
		return &t.Comment
	case OnColumn:
		if col := t.Column(c.Name); col != nil {
			return &col.Comment
		}
	case OnIndex:
		if x := t.Index(c.Name); x != nil {
			return &x.Comment
		}
	case OnConstraint:
		for _, k := range t.Keys() {
			if k.Name == c.Name {
				return &k.Comment
			}
		}
		for _, f := range t.ForeignKeys {
			if f.Name == c.Name {
				return &f.Comment
			}
		}
		for _, k := range t.Checks {
			if k.Name == c.Name {
				return &k.Comment
			}
		}
	}
	return nil
}

// inverse writes the comment that was there.
func (c SetComment) inverse(*catalog.Catalog) (Change, error) {
	return SetComment{c.Table, c.Kind, c.Name, c.To, c.From}, nil
}
