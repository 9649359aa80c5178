package compare

import (
	"reflect"
	"slices"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
)

// Wanted says which of the differences between two catalogs are to be made up for.
type Wanted struct {
	Tables []string // patterns of tables, views and the like; empty: all
	Kinds  []string // kinds of objects, as differences name them; empty: all
	Drops  bool     // take away what only the first catalog has
}

// Changes are what leads from one catalog towards another of the same engine, as
// far as there are typed changes for it. What they leave is what [Catalogs] finds
// between the model that they lead to and the second catalog.
func Changes(from, to *catalog.Catalog, can catalog.Abilities, w Wanted) []change.Item {
	g := &gathering{from: from, to: to, can: can, w: w}
	g.whole()
	g.texts()
	for _, t := range to.Tables() {
		if was := from.Table(t.Ref()); was != nil && w.table(t.Ref()) && was.Extension == "" && !g.another(t.Ref()) {
			g.table(was, t)
		}
	}
	return g.items
}

// another reports whether both have a table of that name, and one of another kind.
func (g *gathering) another(ref catalog.Ref) bool {
	a, b := g.from.Table(ref), g.to.Table(ref)
	return a != nil && b != nil && a.Kind != b.Kind
}

func (w Wanted) kind(kind string) bool { return len(w.Kinds) == 0 || slices.Contains(w.Kinds, kind) }

func (w Wanted) table(ref catalog.Ref) bool {
	return len(w.Tables) == 0 || slices.ContainsFunc(w.Tables, func(p string) bool { return catalog.FitsTable(p, ref.Schema, ref.Table) })
}

type gathering struct {
	from, to *catalog.Catalog
	can      catalog.Abilities
	w        Wanted
	items    []change.Item
	gone     *catalog.Catalog     // what is taken away whole
	late     map[catalog.Ref]bool // new views that read what is there already
}

func (g *gathering) add(kind string, changes ...change.Change) {
	if !g.w.kind(kind) {
		return
	}
	for _, ch := range changes {
		g.items = append(g.items, change.Item{Change: ch})
	}
}

// table gathers what differs of a table that both have.
func (g *gathering) table(a, b *catalog.Table) {
	on := a.Ref()
	for i, y := range b.Columns {
		x := a.Column(y.Name)
		switch {
		case y.Inherited && !y.Local && b.PartitionOf == nil, b.PartitionOf != nil && x == nil, y.Within != "":
			// its parent's, or its column's
		case x == nil:
			col := *y
			next := ""
			if j := slices.IndexFunc(b.Columns[i:], func(c *catalog.Column) bool { return a.Column(c.Name) != nil }); j >= 0 {
				next = b.Columns[i+j].Name
			}
			g.add("column", change.AddColumn{Table: on, Column: &col, Before: next})
		default:
			if x.Type != y.Type {
				g.add("column", change.AlterType{Table: on, Column: y.Name, From: x.Type, To: y.Type})
			}
			if (x.Nullable != y.Nullable || x.ForbidsNull() != y.ForbidsNull()) && x.Identity == y.Identity {
				g.add("column", change.SetNullable{Table: on, Column: y.Name, Nullable: y.Nullable, Constraint: y.Clone().NotNull})
			}
			if (x.Default != y.Default || x.DefaultName != y.DefaultName) && x.Generated == "" && y.Generated == "" && x.Identity == y.Identity {
				g.add("column", change.SetDefault{Table: on, Column: y.Name, From: x.Default, To: y.Default, Name: y.DefaultName})
			}
		}
	}
	if p, q := a.PartitionBy, b.PartitionBy; p != nil && q != nil && p.FilterRequired != q.FilterRequired {
		g.add("table", change.RequireFilter{Table: on, Required: q.FilterRequired})
	}
	if g.can.Clusters > 0 && !a.SortKey.Equal(b.SortKey) {
		g.add("table", change.SetSortKey{Table: on, From: a.SortKey, To: b.SortKey})
	}
	g.keys(a, b)
	g.foreignKeys(a, b)
	g.checks(a, b)
	g.indexes(a, b)
	g.triggers(a, b)
	g.comments(a, b)
	shared := slices.ContainsFunc(a.Columns, func(x *catalog.Column) bool { return b.Column(x.Name) != nil })
	for _, x := range a.Columns {
		if !shared {
			break // another table under its name, whose rows nothing would carry over
		}
		if b.Column(x.Name) == nil && g.w.Drops && x.Within == "" && !x.Inherited && a.PartitionOf == nil {
			g.add("column", change.DropColumn{Table: on, Column: x.Name})
		}
	}
}

func (g *gathering) keys(a, b *catalog.Table) {
	on := a.Ref()
	drop := func(k *catalog.Key, primary, again bool) {
		if g.w.Drops || again {
			g.add(keyKind(primary), change.DropKey{Table: on, Name: k.Name, Columns: k.Columns, Primary: primary, Early: again})
		}
	}
	if x, y := a.PrimaryKey, b.PrimaryKey; a.PartitionOf == nil && !sameKey(x, y) {
		if x != nil {
			drop(x, true, y != nil)
		}
		if y != nil {
			g.add("primary key", change.AddKey{Table: on, Key: y, Primary: true, Behind: b.Index(y.Index).Clone()})
		}
	} else if x != nil && y != nil && x.Name != y.Name && g.can.PrimaryKeyName == "" {
		g.add("primary key", change.Rename{Table: on, Kind: change.RenamePrimaryKey, From: x.Name, To: y.Name})
	}
	inherited := func(t *catalog.Table, k *catalog.Key) bool {
		x := t.Index(k.Index)
		return x != nil && x.Inherited
	}
	was, stays := couples(a.UniqueKeys, b.UniqueKeys, func(k *catalog.Key) string { return k.Name }, sameKey)
	for _, y := range b.UniqueKeys {
		x := was[y]
		switch {
		case inherited(b, y):
		case x == nil:
			for _, old := range a.UniqueKeys {
				if old.Name != "" && old.Name == y.Name {
					drop(old, false, true)
				}
			}
			if old := a.Index(y.Name); old != nil && old.Origin == catalog.ByPerson { // only one can have the name
				g.add("unique key", change.DropIndex{Table: on, Name: old.Name, Early: true})
			}
			g.add("unique key", change.AddKey{Table: on, Key: y, Behind: b.Index(y.Index).Clone()})
		case x.Name != y.Name && x.Name != "" && y.Name != "":
			g.add("unique key", change.Rename{Table: on, Kind: change.RenameUniqueKey, From: x.Name, To: y.Name})
		}
	}
	for _, x := range a.UniqueKeys {
		if !inherited(a, x) && !stays[x] && !slices.ContainsFunc(b.UniqueKeys, func(y *catalog.Key) bool { return y.Name != "" && y.Name == x.Name }) {
			index := b.Index(x.Name)
			drop(x, false, x.Name != "" && index != nil && index.Origin == catalog.ByPerson) // which takes its name
		}
	}
}

// couples finds, for each of the second list, the one of the first that is made alike: the
// one of its name, else one that no other is taken for. The second result holds those taken.
func couples[T any](a, b []*T, name func(*T) string, alike func(a, b *T) bool) (of map[*T]*T, taken map[*T]bool) {
	of, taken = map[*T]*T{}, map[*T]bool{}
	for _, byName := range []bool{true, false} {
		for _, y := range b {
			if of[y] != nil {
				continue
			}
			x := partner(a, taken, func(x *T) bool { return alike(x, y) && (!byName || name(x) == name(y)) })
			if x != nil {
				of[y], taken[x] = x, true
			}
		}
	}
	return of, taken
}

func keyKind(primary bool) string {
	if primary {
		return "primary key"
	}
	return "unique key"
}

func sameKey(a, b *catalog.Key) bool {
	if a == nil || b == nil {
		return a == b
	}
	return slices.Equal(a.Columns, b.Columns) && a.Deferrable == b.Deferrable && a.Deferred == b.Deferred && a.NullsNotDistinct == b.NullsNotDistinct && a.WithoutOverlaps == b.WithoutOverlaps
}

func (g *gathering) foreignKeys(a, b *catalog.Table) {
	on := a.Ref()
	same := func(x, y *catalog.ForeignKey) bool {
		return slices.Equal(x.Columns, y.Columns) && x.Target == y.Target && slices.Equal(x.TargetColumns, y.TargetColumns) && x.Period == y.Period
	}
	old, stays := couples(a.ForeignKeys, b.ForeignKeys, func(f *catalog.ForeignKey) string { return f.Name }, same)
	for _, y := range b.ForeignKeys {
		if y.Inherited || g.another(y.Target) {
			continue
		}
		x := old[y]
		if x == nil {
			g.add("foreign key", change.AddForeignKey{Table: on, ForeignKey: y})
			continue
		}
		if g.retyped(a, x) {
			g.add("foreign key", change.DropForeignKey{Table: on, ForeignKey: x, Early: true}, change.AddForeignKey{Table: on, ForeignKey: y})
			continue
		}
		is, was := y.Clone(), x.Clone()
		is.TargetIndex, is.Comment, is.NotValidated = was.TargetIndex, was.Comment, was.NotValidated
		switch {
		case reflect.DeepEqual(is, was):
			if x.NotValidated && !y.NotValidated {
				g.add("foreign key", change.ValidateForeignKey{Table: on, ForeignKey: x})
			}
		case is.Name != was.Name && was.Name != "" && is.Name != "" && onlyName(is, was):
			g.add("foreign key", change.Rename{Table: on, Kind: change.RenameForeignKey, From: was.Name, To: is.Name})
		case is.Name == was.Name:
			g.add("foreign key", change.AlterForeignKey{Table: on, Old: x, New: y})
		}
	}
	for _, x := range a.ForeignKeys {
		if g.w.Drops && !x.Inherited && !stays[x] && !g.another(x.Target) && g.gone.Table(x.Target) == nil {
			g.add("foreign key", change.DropForeignKey{Table: on, ForeignKey: x, Early: true})
		}
	}
}

// retyped reports whether a column on either side of a foreign key comes to hold
// another kind of values: the other side would not do in between.
func (g *gathering) retyped(a *catalog.Table, f *catalog.ForeignKey) bool {
	other := func(ref catalog.Ref, names []string) bool {
		was, is := g.from.Table(ref), g.to.Table(ref)
		return was != nil && is != nil && slices.ContainsFunc(names, func(name string) bool {
			x, y := was.Column(name), is.Column(name)
			return x != nil && y != nil && x.Type.Family != y.Type.Family
		})
	}
	return other(a.Ref(), f.Columns) || other(f.Target, f.TargetColumns)
}

func onlyName(a, b *catalog.ForeignKey) bool {
	c := a.Clone()
	c.Name = b.Name
	return reflect.DeepEqual(c, b)
}

func (g *gathering) checks(a, b *catalog.Table) {
	on := a.Ref()
	find := func(list []*catalog.Check, k *catalog.Check) *catalog.Check {
		for _, x := range list {
			if x.Name == k.Name && (k.Name != "" || x.Expression == k.Expression) {
				return x
			}
		}
		return nil
	}
	for _, y := range b.Checks {
		x := find(a.Checks, y)
		switch {
		case y.Inherited && !y.Local:
		case x == nil:
			g.add("check", change.AddCheck{Table: on, Check: y})
		case x.Expression != y.Expression || x.NotEnforced != y.NotEnforced:
			g.add("check", change.DropCheck{Table: on, Check: x, Early: true}, change.AddCheck{Table: on, Check: y})
		case x.NotValidated && !y.NotValidated:
			g.add("check", change.ValidateCheck{Table: on, Check: x})
		}
	}
	for _, x := range a.Checks {
		if g.w.Drops && !(x.Inherited && !x.Local) && find(b.Checks, x) == nil {
			g.add("check", change.DropCheck{Table: on, Check: x})
		}
	}
}

func (g *gathering) indexes(a, b *catalog.Table) {
	on := a.Ref()
	for _, y := range byPerson(b) {
		x := a.Index(y.Name)
		switch {
		case y.Inherited || y.Invalid:
		case x == nil, x.Origin == catalog.ByUniqueKey && a.Index(y.Name) == x && !slices.ContainsFunc(b.UniqueKeys, func(k *catalog.Key) bool { return k.Index == x.Name }):
			g.add("index", change.CreateIndex{Table: on, Index: y, Partitions: change.Shares(g.to, on, y.Name)})
		case x.Origin == catalog.ByPerson && !sameIndex(x, y):
			g.add("index", change.DropIndex{Table: on, Name: x.Name, Early: true}, change.CreateIndex{Table: on, Index: y})
		}
	}
	for _, x := range byPerson(a) {
		if g.w.Drops && !x.Inherited && b.Index(x.Name) == nil {
			g.add("index", change.DropIndex{Table: on, Name: x.Name})
		}
	}
}

func sameIndex(a, b *catalog.Index) bool {
	bare := func(x *catalog.Index) catalog.Index {
		c := *x
		c.Definition, c.Comment, c.Bytes, c.Scans, c.Invalid, c.Pinned, c.PartOf = "", "", nil, nil, false, "", ""
		c.Parts = slices.Clone(c.Parts)
		for i := range c.Parts {
			c.Parts[i].Statistics = "" // no reason to build it again
		}
		return c
	}
	return reflect.DeepEqual(bare(a), bare(b))
}
