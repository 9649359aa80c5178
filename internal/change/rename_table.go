package change

import (
	"fmt"
	"slices"

	"nexdal/internal/catalog"
)

// RenameTable gives a table that nothing else speaks of another name.
type RenameTable struct {
	Table catalog.Ref
	To    string
}

func (c RenameTable) On() catalog.Ref { return c.Table }
func (c RenameTable) Title() string   { return fmt.Sprintf("rename table %s to %s", c.Table, c.To) }
func (RenameTable) rank() int         { return rankLast }

// Tables names it by both names.
func (c RenameTable) Tables() []catalog.Ref {
	return []catalog.Ref{c.Table, {Schema: c.Table.Schema, Table: c.To}}
}

// apply renames it, where neither a foreign key nor a partition leads to it.
func (c RenameTable) apply(to *edit, can catalog.Abilities) error {
	t, err := to.table(c.Table)
	if err != nil {
		return err
	}
	if to.Table(catalog.Ref{Schema: c.Table.Schema, Table: c.To}) != nil {
		return fmt.Errorf("table %s.%s exists", c.Table.Schema, c.To)
	}
	for _, other := range to.Tables() {
		if other.PartitionOf != nil && *other.PartitionOf == c.Table {
			return fmt.Errorf("%s is a partition of it", other.Ref())
		}
		for _, f := range other.ForeignKeys {
			if f.Target == c.Table {
				return fmt.Errorf("foreign key %s of %s refers to it", f.Label(), other.Ref())
			}
		}
	}
	if len(t.Dependants) > 0 {
		return fmt.Errorf("%s %s leans on it", t.Dependants[0].Kind, t.Dependants[0].Name)
	}
	lookup := to.Lookup()
	names := lookup.NotNullNames(t, can)
	t.Name = c.To
	lookup.NameNotNull(t, names, can)
	s, err := to.schema(c.Table.Schema)
	if err == nil {
		slices.SortFunc(s.Tables, byName)
	}
	return err
}

// inverse gives it its old name.
func (c RenameTable) inverse(*catalog.Catalog) (Change, error) {
	return RenameTable{catalog.Ref{Schema: c.Table.Schema, Table: c.To}, c.Table.Table}, nil
}
