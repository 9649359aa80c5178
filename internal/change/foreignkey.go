package change

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
)

// AlterForeignKey re-creates a foreign key with other properties; the
// columns and the table referred to stay.
type AlterForeignKey struct {
	Table    catalog.Ref
	Old, New *catalog.ForeignKey
}

func (c AlterForeignKey) On() catalog.Ref { return c.Table }

func (c AlterForeignKey) Title() string {
	what := "re-create it"
	switch {
	case c.Old.NotEnforced != c.New.NotEnforced:
		what = map[bool]string{true: "no longer enforce it", false: "enforce it"}[c.New.NotEnforced]
	case c.Old.OnDelete != c.New.OnDelete && c.Old.OnUpdate != c.New.OnUpdate:
		what = fmt.Sprintf("on delete %s, on update %s", c.New.OnDelete, c.New.OnUpdate)
	case c.Old.OnDelete != c.New.OnDelete:
		what = fmt.Sprintf("on delete %s", c.New.OnDelete)
	case c.New.Deferrable != c.Old.Deferrable:
		what = map[bool]string{true: "check it at the end of the transaction", false: "check it at once"}[c.New.Deferrable]
	case c.New.Match != c.Old.Match:
		what = "match " + cmp.Or(c.New.Match, "simple")
	case c.Old.OnUpdate != c.New.OnUpdate:
		what = fmt.Sprintf("on update %s", c.New.OnUpdate)
	}
	return fmt.Sprintf("change foreign key %s of %s: %s", c.Old.Label(), c.Table, what)
}

func (AlterForeignKey) rank() int { return rankForeignKey }

// apply replaces the foreign key, here and on partitions that have it from
// their parent.
func (c AlterForeignKey) apply(to *edit, can catalog.Abilities) error {
	t, err := to.table(c.Table)
	if err != nil {
		return err
	}
	i := slices.IndexFunc(t.ForeignKeys, func(f *catalog.ForeignKey) bool { return same(f, c.Old) })
	if i < 0 {
		return fmt.Errorf("foreign key %s of %s does not exist", c.Old.Label(), c.Table)
	}
	t.ForeignKeys[i] = known(c.in(t.ForeignKeys[i]), can)
	redefined(t)
	for _, part := range to.Tables() {
		if part.PartitionOf == nil || *part.PartitionOf != c.Table {
			continue
		}
		for i, f := range to.altered(part).ForeignKeys {
			if f.Inherited && slices.Equal(f.Columns, c.Old.Columns) && f.Target == c.Old.Target {
				share := c.in(f)
				share.Name, share.Inherited = f.Name, true
				part.ForeignKeys[i] = share
			}
		}
	}
	return nil
}

// known is the foreign key as the engine has it: where there is no RESTRICT, NO ACTION refuses at
// once.
func known(f *catalog.ForeignKey, can catalog.Abilities) *catalog.ForeignKey {
	for _, a := range []*catalog.Action{&f.OnDelete, &f.OnUpdate} {
		if *a == catalog.Restrict && can.NoRestrict {
			*a = catalog.NoAction
		}
	}
	return f
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

// inverse declares it as it was.
func (c AlterForeignKey) inverse(*catalog.Catalog) (Change, error) {
	return AlterForeignKey{c.Table, c.New, c.Old}, nil
}

// AddForeignKey declares a reference; the rows that are there are checked.
type AddForeignKey struct {
	Table      catalog.Ref
	ForeignKey *catalog.ForeignKey
	Again      bool // put back as it was, be it one too many, or refer to no key
	Unchecked  bool // without a look at the rows that are there
}

// DropForeignKey takes a foreign key away. The index that the engine made for it
// stays, and is yours from then on, unless it goes with the foreign key alone.
type DropForeignKey struct {
	Table      catalog.Ref
	ForeignKey *catalog.ForeignKey
	Early      bool // before all else, since what it leans on changes, or goes
}

func (c AddForeignKey) On() catalog.Ref  { return c.Table }
func (c DropForeignKey) On() catalog.Ref { return c.Table }

func (c AddForeignKey) Title() string {
	return fmt.Sprintf("add foreign key %s to %s", c.ForeignKey.Label(), c.Table)
}

func (c DropForeignKey) Title() string {
	return fmt.Sprintf("drop foreign key %s of %s", c.ForeignKey.Label(), c.Table)
}

func (AddForeignKey) rank() int    { return rankReference }
func (c DropForeignKey) rank() int { return dropRank(c.Early) }

// Beside reports whether it is put back to a table in which another says the
// same: then it is what it was, whatever rows there are.
func (c AddForeignKey) Beside(t *catalog.Table) bool {
	return c.Again && slices.ContainsFunc(t.ForeignKeys, func(o *catalog.ForeignKey) bool {
		return o.Target == c.ForeignKey.Target && slices.Equal(o.Columns, c.ForeignKey.Columns) && slices.Equal(o.TargetColumns, c.ForeignKey.TargetColumns)
	})
}

// apply adds the foreign key. Where the engine says which index it leans on,
// that is the one behind the key referred to.
func (c AddForeignKey) apply(to *edit, can catalog.Abilities) error {
	t, err := to.table(c.Table)
	if err != nil {
		return err
	}
	target, err := table(to.Catalog, c.ForeignKey.Target)
	if err != nil {
		return err
	}
	if !c.Again && slices.ContainsFunc(t.ForeignKeys, func(f *catalog.ForeignKey) bool { return same(f, c.ForeignKey) }) {
		return fmt.Errorf("foreign key %s of %s exists", c.ForeignKey.Label(), c.Table)
	}
	if !c.Again && !target.UniqueOn(c.ForeignKey.TargetColumns) {
		return fmt.Errorf("no key of %s is (%s)", c.ForeignKey.Target, strings.Join(c.ForeignKey.TargetColumns, ", "))
	}
	f := known(c.ForeignKey.Clone(), can)
	f.NotValidated = f.NotValidated || c.Unchecked && can.UncheckedReferences
	if can.ForeignKeysNameIndex {
		f.TargetIndex, _ = target.KeyOn(f.TargetColumns)
	}
	t.ForeignKeys = append(t.ForeignKeys, f)
	if can.ReferencesBuild && t.Behind(f) == nil {
		t.Indexes = append(t.Indexes, catalog.BuiltFor(f))
	}
	for _, part := range parts(to.Catalog, c.Table) {
		if part.PartitionOf != nil { // each has its share
			share := f.Clone()
			share.Inherited = true
			to.altered(part).ForeignKeys = append(part.ForeignKeys, share)
		}
	}
	for _, x := range t.Indexes {
		if can.ForeignKeyIndexYields && x.Origin == catalog.ByPerson && serves(x, f) {
			x.Origin = catalog.ByForeignKey
		}
	}
	redefined(t)
	return nil
}

// serves reports whether the index is one that the engine makes for the foreign
// key: on its columns, and of its name or that of its first column.
func serves(x *catalog.Index, f *catalog.ForeignKey) bool {
	return (x.Name == f.Name || x.Name == f.Columns[0]) && slices.Equal(x.Columns(), f.Columns)
}

func (c AddForeignKey) inverse(*catalog.Catalog) (Change, error) {
	return DropForeignKey{c.Table, c.ForeignKey, false}, nil
}

func (c DropForeignKey) apply(to *edit, can catalog.Abilities) error {
	t, err := to.table(c.Table)
	if err != nil {
		return err
	}
	i := slices.IndexFunc(t.ForeignKeys, func(f *catalog.ForeignKey) bool { return same(f, c.ForeignKey) })
	if i < 0 {
		return fmt.Errorf("foreign key %s of %s does not exist", c.ForeignKey.Label(), c.Table)
	}
	if x := t.Behind(t.ForeignKeys[i]); x != nil && can.ReferencesBuild {
		t.Indexes = without(t.Indexes, x)
	}
	t.ForeignKeys = slices.Delete(t.ForeignKeys, i, i+1)
	for _, part := range parts(to.Catalog, c.Table) {
		to.altered(part).ForeignKeys = slices.DeleteFunc(part.ForeignKeys, func(f *catalog.ForeignKey) bool {
			return f.Inherited && slices.Equal(f.Columns, c.ForeignKey.Columns) && f.Target == c.ForeignKey.Target
		})
	}
	for _, x := range t.Indexes {
		if x.Origin == catalog.ByForeignKey && !slices.ContainsFunc(t.ForeignKeys, func(f *catalog.ForeignKey) bool { return serves(x, f) }) {
			x.Origin = catalog.ByPerson
		}
	}
	redefined(t)
	return nil
}

func (c DropForeignKey) inverse(*catalog.Catalog) (Change, error) {
	return AddForeignKey{c.Table, c.ForeignKey, true, false}, nil
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

// apply notes that the rows were checked.
func (c ValidateForeignKey) apply(to *edit, _ catalog.Abilities) error {
	if _, err := to.table(c.Table); err != nil {
		return err
	}
	f, err := c.there(to.Catalog)
	if err == nil {
		f.NotValidated = false
	}
	return err
}

// inverse re-creates it without a check.
func (c ValidateForeignKey) inverse(before *catalog.Catalog) (Change, error) {
	f, err := c.there(before)
	if err != nil {
		return nil, err
	}
	valid := f.Clone()
	valid.NotValidated = false
	return AlterForeignKey{c.Table, valid, f.Clone()}, nil
}
