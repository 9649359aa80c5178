package change

import (
	"fmt"

	"nexdal/internal/catalog"
)

// Rename gives an index or constraint another name.
type Rename struct {
	Table    catalog.Ref
	Kind     RenameKind
	From, To string
}

// A RenameKind is what is renamed.
type RenameKind string

// What can be renamed.
const (
	RenameIndex      RenameKind = "index"
	RenamePrimaryKey RenameKind = "primary key"
	RenameUniqueKey  RenameKind = "unique key"
	RenameForeignKey RenameKind = "foreign key"
	RenameCheck      RenameKind = "check"
)

func (c Rename) On() catalog.Ref { return c.Table }
func (c Rename) Title() string {
	return fmt.Sprintf("rename %s %s of %s to %s", c.Kind, c.From, c.Table, c.To)
}
func (Rename) rank() int { return rankSetting }

// apply renames it, the index behind a key with it.
func (c Rename) apply(to *edit, _ catalog.Abilities) error {
	t, err := to.table(c.Table)
	if err != nil {
		return err
	}
	done := false
	if c.Kind == RenameForeignKey {
		for _, f := range t.ForeignKeys {
			if f.Name == c.From {
				f.Name, done = c.To, true
				break
			}
		}
	}
	if c.Kind == RenameCheck {
		for _, k := range t.Checks {
			if k.Name == c.From {
				k.Name, done = c.To, true
				break
			}
		}
	}
	if c.Kind == RenameIndex || c.Kind == RenamePrimaryKey || c.Kind == RenameUniqueKey {
		for _, k := range t.Keys() {
			if k.Name == c.From && c.Kind != RenameIndex {
				k.Name, done = c.To, true
			}
			if k.Index == c.From {
				k.Index = c.To
			}
		}
		if x := t.Index(c.From); x != nil {
			x.Name, x.Definition, done = c.To, "", true
		}
		for _, o := range to.Tables() {
			for _, f := range o.ForeignKeys {
				if f.Target == c.Table && f.TargetIndex == c.From {
					to.altered(o)
					f.TargetIndex = c.To
				}
			}
			if o.PartitionOf != nil && *o.PartitionOf == c.Table {
				for _, x := range o.Indexes {
					if x.PartOf == c.From {
						to.altered(o)
						x.PartOf = c.To
					}
				}
			}
		}
	}
	if !done {
		return fmt.Errorf("%s %s of %s does not exist", c.Kind, c.From, c.Table)
	}
	redefined(t)
	return nil
}

// inverse renames it back.
func (c Rename) inverse(*catalog.Catalog) (Change, error) {
	return Rename{c.Table, c.Kind, c.To, c.From}, nil
}
