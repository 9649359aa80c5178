package write

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
	"nexdal/internal/engine/ddl"
	"nexdal/internal/engine/sqlserver/traits"
)

// setBoundaries splits parts and merges them. A part that is split while it holds rows beyond the
// new value has them moved, while everybody waits
// (https://learn.microsoft.com/en-us/sql/t-sql/statements/alter-partition-function-transact-sql).
func (w *writer) setBoundaries(ch change.SetBoundaries) {
	var sql []string
	name := traits.Ident(ch.Object)
	for _, v := range ch.From.Without(ch.To) {
		sql = append(sql, fmt.Sprintf("ALTER PARTITION FUNCTION %s() MERGE RANGE (%s)", name, v))
	}
	for _, v := range ch.To.Without(ch.From) {
		for _, s := range schemesOf(w.Now, ch.Object) {
			_, groups, _ := strings.Cut(s.Definition, " ALL TO (")
			sql = append(sql, fmt.Sprintf("ALTER PARTITION SCHEME %s NEXT USED %s", traits.Ident(s.Name), strings.TrimSuffix(groups, ")")))
		}
		sql = append(sql, fmt.Sprintf("ALTER PARTITION FUNCTION %s() SPLIT RANGE (%s)", name, v))
	}
	l := ddl.Takes(forMoment, engine.BlocksBriefly)
	if of := w.moved(ch); len(of) > 0 {
		l = ddl.Takes("schema modification lock: readers and writers wait while rows of "+strings.Join(of, ", ")+" are moved", engine.BlocksAtWork)
	}
	w.Step(ch.Title(), l, sql...)
}

// moved are the tables whose rows may have to be moved: of parts that come or go, one holds some, or
// it is not known how many.
func (w *writer) moved(ch change.SetBoundaries) (all []string) {
	goes := func(bounds string) bool {
		return !slices.ContainsFunc(ch.To.Parts, func(p *catalog.Partition) bool { return p.Bounds == bounds })
	}
	for _, ref := range ch.Of {
		if slices.ContainsFunc(w.Now.Table(ref).Partitions, func(p *catalog.Partition) bool { return goes(p.Bounds) && (p.Rows == nil || *p.Rows > 0) }) {
			all = append(all, ref.String())
		}
	}
	return all
}

// passing is the index that puts the rows of a heap where they are to lie, and goes then
// (https://learn.microsoft.com/en-us/sql/relational-databases/partitions/create-partitioned-tables-and-indexes).
const passing = "nexdal_passing"

// lay moves a table, as it is now, to where the other lies: its rows, by the index that keeps them in
// order, and its other indexes. Key is the primary key where that comes to be another one.
func (w *writer) lay(title string, now, to *catalog.Table, key *catalog.Key) {
	rows := *to
	rows.PrimaryKey, rows.Indexes = now.PrimaryKey, now.Indexes
	if rows.PartitionBy == nil && rows.Tablespace == "" {
		rows.Tablespace = "PRIMARY" // else it would stay on the scheme
	}
	var keyed *catalog.Index
	if key != nil {
		keyed = to.Index(key.Index)
		w.Step(title, w.Sized(ddl.Takes(forLong, engine.BlocksAtWork), now.Ref()), w.Alter(now.Ref(), "DROP CONSTRAINT "+traits.Ident(now.PrimaryKey.Name)), w.Alter(now.Ref(), w.keyClause(&rows, key.Name, true, lies(keyed), "")))
		if key.Comment != "" {
			w.brief("write the comment on its key", comment(onTable(now.Ref(), "CONSTRAINT", key.Name), "", key.Comment))
		}
	}
	switch x := now.Clustering(); {
	case key != nil && keyed.Clustered:
	case x != nil:
		w.again(title, &rows, x)
	default:
		w.heap(title, now, &rows)
	}
	for _, x := range now.Indexes {
		if moved := to.Index(x.Name); !x.Clustered && moved != nil && moved != keyed && moved.Tablespace != x.Tablespace {
			w.again(fmt.Sprintf("move index %s of %s", x.Name, now.Ref()), &rows, lies(moved))
		}
	}
}

// lies is the index with where it lies, where that goes without saying but for what it was before.
func lies(x *catalog.Index) *catalog.Index {
	if x.Clustered || x.Tablespace != "" {
		return x
	}
	x = x.Clone()
	x.Tablespace = "default"
	return x
}

// again builds an index where the table lies now, in one statement.
func (w *writer) again(title string, t *catalog.Table, x *catalog.Index) {
	more := "DROP_EXISTING = ON"
	if !ready(w.From, t, x) {
		w.blocks(title, x, indexText(t, x, more))
		return
	}
	w.Step(title, w.Sized(ddl.Takes("readers and writers wait for a moment at the beginning and the end", engine.BlocksBriefly), t.Ref()), indexText(t, x, more+", ONLINE = ON"))
}

// heap moves rows that are kept in no order.
func (w *writer) heap(title string, now, to *catalog.Table) {
	by := now.PartitionBy
	if by == nil {
		by = to.PartitionBy
	}
	x := &catalog.Index{Name: passing, Origin: catalog.ByPerson, Method: "btree", Clustered: true, Storage: now.Storage, Parts: []catalog.IndexPart{{Column: by.Columns[0]}}}
	s := w.Step(title, w.Sized(ddl.Takes(forLong, engine.BlocksAtWork), now.Ref()), indexText(to, x, ""), fmt.Sprintf("DROP INDEX %s ON %s", passing, traits.Relation(now.Ref())))
	s.Notes = append(s.Notes, "an index puts the rows there, and goes: all others are built twice")
}

// partitionTable lays the table on a scheme, which is there.
func (w *writer) partitionTable(ch change.PartitionTable) {
	now := w.Now.Table(ch.Table)
	w.lay(ch.Title(), now, ch.Divided(now), ch.Key)
}

// unpartitionTable lays it where it was.
func (w *writer) unpartitionTable(undo change.Undo[change.PartitionTable]) {
	var key *catalog.Key
	if undo.Of.Key != nil {
		key = undo.Before.PrimaryKey
	}
	w.lay(undo.Title(), w.Now.Table(undo.Of.Table), undo.Before, key)
}

// refusesPartitioning bars what the table could not take with it, or not get back.
func refusesPartitioning(c *catalog.Catalog, t *catalog.Table, ch change.PartitionTable) string {
	for _, x := range t.Indexes {
		switch {
		case x.Method != "btree":
			return fmt.Sprintf("index %s is of kind %s", x.Name, x.Method)
		case x.Invalid:
			return fmt.Sprintf("index %s is disabled, and would be built", x.Name)
		case x.Name == passing:
			return fmt.Sprintf("an index is called %s, as one that passes", x.Name)
		}
	}
	if i := slices.IndexFunc(c.Gaps, func(g catalog.Gap) bool { return g.Schema == t.Schema && g.Table == t.Name && !g.Figures }); i >= 0 {
		return fmt.Sprintf("not everything of %s could be read: %s: %s", t.Name, c.Gaps[i].What, c.Gaps[i].Reason)
	}
	if ch.Key != nil {
		for _, r := range c.Lookup().Referrers(t.Ref()) {
			if r.ForeignKey.TargetIndex == t.PrimaryKey.Index {
				return fmt.Sprintf("foreign key %s of %s leans on the primary key", r.ForeignKey.Name, r.Table.Ref())
			}
		}
		if x := t.Index(t.PrimaryKey.Index); x == nil {
			return "the index of the primary key was not read"
		}
		return leansOnIndex(t, t.PrimaryKey.Index)
	}
	return ""
}
