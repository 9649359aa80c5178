package change

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
)

// AlterForeignKey declares a foreign key anew with other properties; the
// columns and the table referred to stay.
type AlterForeignKey struct {
	Table    catalog.Ref
	Old, New *catalog.ForeignKey
}

func (c AlterForeignKey) On() catalog.Ref { return c.Table }

func (c AlterForeignKey) Title() string {
	what := "declare it anew"
	switch {
	case c.Old.OnDelete != c.New.OnDelete && c.Old.OnUpdate != c.New.OnUpdate:
		what = fmt.Sprintf("on delete %s, on update %s", c.New.OnDelete, c.New.OnUpdate)
	case c.Old.OnDelete != c.New.OnDelete:
		what = fmt.Sprintf("on delete %s", c.New.OnDelete)
	case c.Old.OnUpdate != c.New.OnUpdate:
		what = fmt.Sprintf("on update %s", c.New.OnUpdate)
	}
	return fmt.Sprintf("change foreign key %s of %s: %s", c.Old.Label(), c.Table, what)
}

func (AlterForeignKey) rank() int { return rankForeignKey }

// Apply replaces the foreign key, here and on partitions that have it from
// their parent.
func (c AlterForeignKey) Apply(to *catalog.Catalog, _ catalog.Abilities) error {
	t, err := table(to, c.Table)
	if err != nil {
		return err
	}
	i := slices.IndexFunc(t.ForeignKeys, func(f *catalog.ForeignKey) bool { return same(f, c.Old) })
	if i < 0 {
		return fmt.Errorf("foreign key %s of %s does not exist", c.Old.Label(), c.Table)
	}
	t.ForeignKeys[i] = c.in(t.ForeignKeys[i])
	redefined(t)
	for _, part := range to.Tables() {
		if part.PartitionOf == nil || *part.PartitionOf != c.Table {
			continue
		}
		for i, f := range part.ForeignKeys {
			if f.Inherited && slices.Equal(f.Columns, c.Old.Columns) && f.Target == c.Old.Target {
				share := c.in(f)
				share.Name, share.Inherited = f.Name, true
				part.ForeignKeys[i] = share
			}
		}
	}
	return nil
}

// in is the new declaration in place of one that is there. The index behind
// the key referred to is the engine's choice, and may have changed since the
// change was made up.
func (c AlterForeignKey) in(place *catalog.ForeignKey) *catalog.ForeignKey {
	f := c.New.Clone()
	f.TargetIndex = place.TargetIndex
	return f
}

func same(a, b *catalog.ForeignKey) bool {
	return a.Name == b.Name && slices.Equal(a.Columns, b.Columns) && a.Target == b.Target &&
		slices.Equal(a.TargetColumns, b.TargetColumns) && a.OnDelete == b.OnDelete && a.OnUpdate == b.OnUpdate
}

// Reverse declares it as it was.
func (c AlterForeignKey) Reverse(*catalog.Catalog) (Change, error) {
	return AlterForeignKey{c.Table, c.New, c.Old}, nil
}

// AddForeignKey declares a reference; the rows that are there are checked.
type AddForeignKey struct {
	Table      catalog.Ref
	ForeignKey *catalog.ForeignKey
}

// DropForeignKey takes away one that an AddForeignKey added. It is made by
// reversing alone.
type DropForeignKey struct {
	Table      catalog.Ref
	ForeignKey *catalog.ForeignKey
}

func (c AddForeignKey) On() catalog.Ref  { return c.Table }
func (c DropForeignKey) On() catalog.Ref { return c.Table }

func (c AddForeignKey) Title() string {
	return fmt.Sprintf("add foreign key %s to %s", c.ForeignKey.Label(), c.Table)
}

func (c DropForeignKey) Title() string {
	return fmt.Sprintf("drop foreign key %s of %s", c.ForeignKey.Label(), c.Table)
}

func (AddForeignKey) rank() int  { return rankReference }
func (DropForeignKey) rank() int { return rankType }

// Apply adds the foreign key. Where the engine says which index it leans on,
// that is the one behind the key referred to.
func (c AddForeignKey) Apply(to *catalog.Catalog, can catalog.Abilities) error {
	t, err := table(to, c.Table)
	if err != nil {
		return err
	}
	target, err := table(to, c.ForeignKey.Target)
	if err != nil {
		return err
	}
	if slices.ContainsFunc(t.ForeignKeys, func(f *catalog.ForeignKey) bool { return same(f, c.ForeignKey) }) {
		return fmt.Errorf("foreign key %s of %s exists", c.ForeignKey.Label(), c.Table)
	}
	if !target.UniqueOn(c.ForeignKey.TargetColumns) {
		return fmt.Errorf("no key of %s is (%s)", c.ForeignKey.Target, strings.Join(c.ForeignKey.TargetColumns, ", "))
	}
	f := c.ForeignKey.Clone()
	if can.ForeignKeysNameIndex {
		f.TargetIndex, _ = target.KeyOn(f.TargetColumns)
	}
	t.ForeignKeys = append(t.ForeignKeys, f)
	redefined(t)
	return nil
}

func (c AddForeignKey) Reverse(*catalog.Catalog) (Change, error) {
	return DropForeignKey(c), nil
}

func (c DropForeignKey) Apply(to *catalog.Catalog, _ catalog.Abilities) error {
	t, err := table(to, c.Table)
	if err != nil {
		return err
	}
	i := slices.IndexFunc(t.ForeignKeys, func(f *catalog.ForeignKey) bool { return same(f, c.ForeignKey) })
	if i < 0 {
		return fmt.Errorf("foreign key %s of %s does not exist", c.ForeignKey.Label(), c.Table)
	}
	t.ForeignKeys = slices.Delete(t.ForeignKeys, i, i+1)
	redefined(t)
	return nil
}

func (c DropForeignKey) Reverse(*catalog.Catalog) (Change, error) {
	return AddForeignKey(c), nil
}

// ValidateForeignKey has the engine check the rows that were there when the
// foreign key was declared.
type ValidateForeignKey struct {
	Table      catalog.Ref
	ForeignKey *catalog.ForeignKey // as it is: not validated
}

func (c ValidateForeignKey) On() catalog.Ref { return c.Table }

func (c ValidateForeignKey) Title() string {
	return fmt.Sprintf("validate foreign key %s of %s", c.ForeignKey.Label(), c.Table)
}

func (ValidateForeignKey) rank() int { return rankReference }

// there finds it by name and columns: its actions may have been altered before.
func (c ValidateForeignKey) there(in *catalog.Catalog) (*catalog.ForeignKey, error) {
	t, err := table(in, c.Table)
	if err != nil {
		return nil, err
	}
	for _, f := range t.ForeignKeys {
		if f.Name == c.ForeignKey.Name && slices.Equal(f.Columns, c.ForeignKey.Columns) && f.Target == c.ForeignKey.Target {
			return f, nil
		}
	}
	return nil, fmt.Errorf("foreign key %s of %s does not exist", c.ForeignKey.Label(), c.Table)
}

// Apply notes that the rows were checked.
func (c ValidateForeignKey) Apply(to *catalog.Catalog, _ catalog.Abilities) error {
	f, err := c.there(to)
	if err == nil {
		f.NotValidated = false
	}
	return err
}

// Reverse declares it anew without a check.
func (c ValidateForeignKey) Reverse(before *catalog.Catalog) (Change, error) {
	f, err := c.there(before)
	if err != nil {
		return nil, err
	}
	valid := f.Clone()
	valid.NotValidated = false
	return AlterForeignKey{c.Table, valid, f.Clone()}, nil
}
