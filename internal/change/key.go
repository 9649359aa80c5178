package change

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
)

// AddKey adds a primary key or a unique constraint.
type AddKey struct {
	Table   catalog.Ref
	Key     *catalog.Key
	Primary bool
	// Behind is the index that is to stand behind it, with its storage, comment and the
	// like; nil: a plain one.
	Behind *catalog.Index
}

// DropKey removes a key and what stands behind it.
type DropKey struct {
	Table   catalog.Ref
	Name    string
	Columns []string
	Primary bool
	// Restores are indexes that the engine had made for foreign keys and that had
	// given way to the key's: they come back with its end.
	Restores []*catalog.Index
	Early    bool // another takes its place
}

// Uniqueness is whatever keeps columns unique: a primary key, a unique
// constraint, or an index alone. Exactly one of Key and Index is set.
type Uniqueness struct {
	Primary bool
	Key     *catalog.Key
	Index   *catalog.Index
	Behind  *catalog.Index // the index behind the key; nil: see [ReplaceKey.Index]
}

// Index is the index that the change makes, or makes of the one that is there: what that
// has besides its columns (storage, comment, what it is pinned for) is carried over.
func (c ReplaceKey) Index(old *catalog.Index) *catalog.Index {
	if c.To.Index != nil {
		return c.To.Index
	}
	x := c.To.Behind.Clone()
	if x == nil {
		x = behind(c.To.Key, c.To.Primary)
		if old != nil {
			x.Storage, x.Tablespace, x.Comment, x.Pinned, x.Include = old.Storage, old.Tablespace, old.Comment, old.Pinned, slices.Clone(old.Include)
		}
	}
	return x
}

// behind is the plain index behind a key.
func behind(k *catalog.Key, primary bool) *catalog.Index {
	x := &catalog.Index{Name: k.Name, Origin: catalog.ByUniqueKey, Method: "btree", Unique: true, NullsNotDistinct: k.NullsNotDistinct}
	if k.WithoutOverlaps {
		x.Method = "gist"
	}
	if primary {
		x.Origin = catalog.ByPrimaryKey
	}
	for _, name := range k.Columns {
		x.Parts = append(x.Parts, catalog.IndexPart{Column: name})
	}
	return x
}

// Index is the index behind the key.
func (c AddKey) Index() *catalog.Index {
	if c.Behind != nil {
		return c.Behind.Clone()
	}
	return behind(c.Key, c.Primary)
}

// Name of the key or index.
func (u Uniqueness) Name() string {
	if u.Key != nil {
		return u.Key.Name
	}
	return u.Index.Name
}

// Columns of the key or index.
func (u Uniqueness) Columns() []string {
	if u.Key != nil {
		return u.Key.Columns
	}
	return u.Index.Columns()
}

func (u Uniqueness) kind() string {
	switch {
	case u.Key != nil && u.Key.WithoutOverlaps:
		return map[bool]string{true: "primary key", false: "unique constraint"}[u.Primary] + " without overlaps"
	case u.Key != nil && u.Key.NullsNotDistinct:
		return "unique constraint without distinct nulls"
	case u.Primary:
		return "primary key"
	case u.Key != nil:
		return "unique constraint"
	}
	return "unique index"
}

// ReplaceKey lets one kind of uniqueness take the place of another on the
// same columns, which stay unique throughout.
type ReplaceKey struct {
	Table    catalog.Ref
	From, To Uniqueness
}

func (c AddKey) On() catalog.Ref     { return c.Table }
func (c DropKey) On() catalog.Ref    { return c.Table }
func (c ReplaceKey) On() catalog.Ref { return c.Table }

func (c AddKey) Title() string {
	return fmt.Sprintf("add %s (%s) to %s", Uniqueness{Primary: c.Primary, Key: &catalog.Key{WithoutOverlaps: c.Key.WithoutOverlaps}}.kind(), strings.Join(c.Key.Columns, ", "), c.Table)
}

func (c DropKey) Title() string {
	return fmt.Sprintf("drop %s (%s) of %s", kindOf(c.Primary), strings.Join(c.Columns, ", "), c.Table)
}

func (c ReplaceKey) Title() string {
	if x := c.To.Behind; x != nil && c.From.kind() == c.To.kind() {
		if x.Clustered {
			return fmt.Sprintf("keep the rows of %s in the order of its %s (%s)", c.Table, c.To.kind(), strings.Join(c.To.Columns(), ", "))
		}
		return fmt.Sprintf("keep the rows of %s in no order, and its %s (%s) beside", c.Table, c.To.kind(), strings.Join(c.To.Columns(), ", "))
	}
	if c.From.kind() == c.To.kind() {
		return fmt.Sprintf("declare the %s (%s) of %s again, as %s", c.To.kind(), strings.Join(c.To.Columns(), ", "), c.Table, c.To.Name())
	}
	return fmt.Sprintf("make the %s (%s) of %s its %s", c.From.kind(), strings.Join(c.From.Columns(), ", "), c.Table, c.To.kind())
}

func kindOf(primary bool) string { return Uniqueness{Primary: primary, Key: &catalog.Key{}}.kind() }

func (AddKey) rank() int     { return rankKey }
func (c DropKey) rank() int  { return dropRank(c.Early) }
func (ReplaceKey) rank() int { return rankKey }

// apply adds the key and what stands behind it, and their shares to the partitions.
func (c AddKey) apply(to *edit, can catalog.Abilities) error {
	t, err := to.table(c.Table)
	if err != nil {
		return err
	}
	if err := add(t, Uniqueness{Primary: c.Primary, Key: c.Key, Behind: c.Behind}, can); err != nil {
		return err
	}
	return c.share(to, t, c.Index().Name, can)
}

// share adds to each partition its share of the key, named as the engine names it
// (https://www.postgresql.org/docs/current/ddl-partitioning.html). A key of the partition's
// own would become the share, and go with the whole's on the way back.
func (c AddKey) share(to *edit, whole *catalog.Table, index string, can catalog.Abilities) error {
	var names *catalog.Names
	for _, part := range to.Tables() {
		if part.PartitionOf == nil || *part.PartitionOf != whole.Ref() {
			continue
		}
		for _, k := range part.Keys() {
			if catalog.SameColumns(k.Columns, c.Key.Columns) {
				return fmt.Errorf("partition %s has the key %s on the same columns already, which would become its share", part.Ref(), k.Name)
			}
		}
		if names == nil {
			names = catalog.NewNames(to.Catalog, 63)
		}
		k := c.Key.Clone()
		if k.Comment = ""; c.Primary {
			k.Name = names.Free(part.Schema, "pkey", part.Name)
		} else {
			k.Name = names.Free(part.Schema, "key", append([]string{part.Name}, k.Columns...)...)
		}
		k.Index = k.Name
		x := c.Index()
		x.Name, x.PartOf, x.Inherited, x.Definition, x.Comment = k.Name, index, true, "", ""
		part = to.altered(part)
		if err := add(part, Uniqueness{Primary: c.Primary, Key: k, Behind: x}, can); err != nil {
			return err
		}
		if err := c.share(to, part, k.Index, can); err != nil {
			return err
		}
	}
	return nil
}

// apply removes the key and its index.
func (c DropKey) apply(to *edit, _ catalog.Abilities) error {
	t, err := to.table(c.Table)
	if err != nil {
		return err
	}
	for _, k := range t.Keys() {
		if k.Name == c.Name && slices.Equal(k.Columns, c.Columns) && (k == t.PrimaryKey) == c.Primary {
			for _, s := range Shares(to.Catalog, c.Table, k.Index) {
				part := to.altered(to.Table(s.Table))
				for _, share := range part.Keys() {
					if share.Index == s.Name {
						remove(part, Uniqueness{Primary: c.Primary, Key: share})
					}
				}
			}
			remove(t, Uniqueness{Primary: c.Primary, Key: k})
			restore(t, c.Restores)
			return nil
		}
	}
	return fmt.Errorf("the %s (%s) of %s does not exist", kindOf(c.Primary), strings.Join(c.Columns, ", "), c.Table)
}

// apply swaps one for the other, and lets the foreign keys that lean on the
// old one lean on the new.
func (c ReplaceKey) apply(to *edit, can catalog.Abilities) error {
	t, err := to.table(c.Table)
	if err != nil {
		return err
	}
	old, ok := find(t, c.From)
	if !ok {
		return fmt.Errorf("the %s (%s) of %s does not exist", c.From.kind(), strings.Join(c.From.Columns(), ", "), c.Table)
	}
	if c.To.Primary && !c.From.Primary && t.PrimaryKey != nil {
		return fmt.Errorf("%s has a primary key", c.Table)
	}
	was := old.Index
	if old.Key != nil {
		was = t.Index(old.Key.Index)
	}
	then := c.To
	if then.Key != nil {
		then.Behind = c.Index(was)
	}
	remove(t, old)
	if err := add(t, then, can); err != nil {
		return err
	}
	for _, other := range to.Tables() {
		for _, f := range other.ForeignKeys {
			if f.Target == c.Table && f.TargetIndex != "" && f.TargetIndex == c.From.indexName() {
				to.altered(other)
				f.TargetIndex = c.To.indexName()
			}
		}
	}
	return nil
}

func (u Uniqueness) indexName() string {
	if u.Key != nil {
		return u.Key.Index
	}
	return u.Index.Name
}

// find looks up the table's own value of u.
func find(t *catalog.Table, u Uniqueness) (Uniqueness, bool) {
	if u.Index != nil {
		x := t.Index(u.Index.Name)
		return Uniqueness{Index: x}, x != nil
	}
	for _, k := range t.Keys() {
		if k.Name == u.Key.Name && slices.Equal(k.Columns, u.Key.Columns) && (k == t.PrimaryKey) == u.Primary {
			return Uniqueness{Primary: u.Primary, Key: k}, true
		}
	}
	return u, false
}

func remove(t *catalog.Table, u Uniqueness) {
	switch {
	case u.Index != nil:
		t.Indexes = without(t.Indexes, u.Index)
		return
	case u.Primary:
		t.PrimaryKey = nil
		if len(u.Key.Columns) == 1 {
			if col := t.Column(u.Key.Columns[0]); col != nil && col.Identity == catalog.IdentityRowid {
				col.Identity = catalog.NoIdentity
			}
		}
	default:
		t.UniqueKeys = without(t.UniqueKeys, u.Key)
	}
	if x := t.Index(u.Key.Index); x != nil {
		t.Indexes = without(t.Indexes, x)
	}
	redefined(t)
}

func add(t *catalog.Table, u Uniqueness, can catalog.Abilities) error {
	if u.Index != nil {
		if t.Index(u.Index.Name) != nil {
			return fmt.Errorf("index %s exists", u.Index.Name)
		}
		t.Indexes = append(t.Indexes, u.Index.Clone())
		return nil
	}
	if u.Primary && t.PrimaryKey != nil {
		return fmt.Errorf("%s has a primary key", t.Ref())
	}
	for _, name := range u.Key.Columns {
		if t.Column(name) == nil {
			return fmt.Errorf("column %s of %s does not exist", name, t.Ref())
		}
	}
	k := u.Key.Clone()
	redefined(t)
	if can.Indexless {
		if k.Index = ""; u.Primary {
			t.PrimaryKey = k
		} else {
			t.UniqueKeys = append(t.UniqueKeys, k)
		}
		return nil
	}
	if u.Primary && can.OwnOrder != nil && can.OwnOrder(t, k.Columns) {
		k.Index = ""
		t.PrimaryKey = k
		col := t.Column(k.Columns[0])
		col.Nullable = false
		if col.Identity == catalog.NoIdentity {
			col.Identity = catalog.IdentityRowid
		}
		return nil
	}
	x := u.Behind.Clone()
	if x == nil {
		x = behind(k, u.Primary)
		x.Clustered = u.Primary && can.ClustersKeys && t.Clustering() == nil
	}
	if x.SystemNamed = can.SystemNamedKeys; x.SystemNamed {
		x.Name = "(" + strings.Join(k.Columns, ", ") + ")"
	}
	k.Index = x.Name
	yield(t, x, can)
	t.Indexes = append(t.Indexes, x)
	if u.Primary {
		t.PrimaryKey = k
		for _, name := range k.Columns {
			if !can.NullableKeys {
				t.Column(name).Nullable = false
			}
		}
	} else {
		t.UniqueKeys = append(t.UniqueKeys, k)
	}
	return nil
}

// inverse drops the key.
func (c AddKey) inverse(before *catalog.Catalog) (Change, error) {
	x := &catalog.Index{Name: c.Key.Name}
	for _, name := range c.Key.Columns {
		x.Parts = append(x.Parts, catalog.IndexPart{Column: name})
	}
	return DropKey{c.Table, c.Key.Name, c.Key.Columns, c.Primary, yielded(before, c.Table, x), false}, nil
}

// inverse adds the key as it was.
func (c DropKey) inverse(before *catalog.Catalog) (Change, error) {
	t, err := table(before, c.Table)
	if err != nil {
		return nil, err
	}
	u, ok := find(t, Uniqueness{Primary: c.Primary, Key: &catalog.Key{Name: c.Name, Columns: c.Columns}})
	if !ok {
		return nil, fmt.Errorf("the %s of %s does not exist", kindOf(c.Primary), c.Table)
	}
	return AddKey{c.Table, u.Key, c.Primary, t.Index(u.Key.Index).Clone()}, nil
}

// inverse swaps back.
func (c ReplaceKey) inverse(before *catalog.Catalog) (Change, error) {
	t, err := table(before, c.Table)
	if err != nil {
		return nil, err
	}
	was, ok := find(t, c.From)
	if !ok {
		return nil, fmt.Errorf("the %s of %s does not exist", c.From.kind(), c.Table)
	}
	if was.Key != nil {
		was.Behind = t.Index(was.Key.Index).Clone()
	}
	return ReplaceKey{c.Table, c.To, was}, nil
}
