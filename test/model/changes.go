package model

import (
	"fmt"
	"reflect"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
)

// Changes returns changes of every kind that fit the catalog, as far as it has what
// they are about. Each fits by itself; one may bar another.
func Changes(c *catalog.Catalog) []change.Change {
	g := &generator{c: c, names: catalog.NewNames(c, 63)}
	for _, s := range c.Settings {
		g.add(change.SetSetting{Name: s.Name, Scope: "database", From: s.Value, To: "on", Default: "on"},
			change.SetSetting{Name: s.Name, Scope: "database", From: s.Value, Default: "on"})
	}
	for _, t := range c.Tables() {
		g.columns(t)
		g.keys(t)
		g.foreignKeys(t)
		g.indexes(t)
		g.checks(t)
		g.triggers(t)
		g.table(t)
		g.partitions(t)
	}
	for _, s := range c.Schemas {
		g.schema(s)
	}
	return g.all
}

type generator struct {
	c     *catalog.Catalog
	names *catalog.Names
	all   []change.Change
}

func (g *generator) add(changes ...change.Change) { g.all = append(g.all, changes...) }

func (g *generator) columns(t *catalog.Table) {
	on := t.Ref()
	added := &catalog.Column{Name: "added", Type: words, Nullable: true, Comment: "what it is"}
	g.add(change.AddColumn{Table: on, Column: added, Before: t.Columns[0].Name}, change.AddColumn{Table: on, Column: added})
	for _, col := range t.Columns {
		to := large
		if col.Type.Family != catalog.Integer {
			to = catalog.Type{Native: "varchar(80)", Family: catalog.Text, Length: 80}
		}
		g.add(change.AlterType{Table: on, Column: col.Name, From: col.Type, To: to},
			change.SetNullable{Table: on, Column: col.Name, Nullable: !col.Nullable},
			change.SetDefault{Table: on, Column: col.Name, From: col.Default, To: "'0'"},
			change.SetDefault{Table: on, Column: col.Name, From: col.Default},
			change.DropColumn{Table: on, Column: col.Name},
			change.SetComment{Table: on, Kind: change.OnColumn, Name: col.Name, From: col.Comment, To: "a column"})
		g.numbering(t, col)
	}
	g.add(change.SetEncoding{Table: on, Columns: []string{t.Columns[0].Name}, From: []string{t.Columns[0].Encoding}, To: []string{"zstd"}})
}

// numbering: what concerns the sequence that a column draws from.
func (g *generator) numbering(t *catalog.Table, col *catalog.Column) {
	if col.Sequence == nil {
		return
	}
	s := g.c.Schema(col.Sequence.Schema)
	for _, q := range s.Sequences {
		if q.Name != col.Sequence.Table || q.Identity {
			continue
		}
		own := q.Clone()
		own.Name, own.OwnedBy, own.UsedBy, own.Last = g.names.Free(s.Name, "own", q.Name), nil, nil, nil
		g.add(change.SplitSequence{Table: t.Ref(), Column: col.Name, Shared: *col.Sequence, Own: own, From: col.Default, To: "nextval('own')"},
			change.AdvanceSequence{Schema: s.Name, Sequence: q.Name, Table: t.Ref(), Column: col.Name},
			change.Alter(s.Name, q, t.Ref(), func(q *catalog.Sequence) {
				q.OwnedBy = &catalog.ColumnRef{Schema: t.Schema, Table: t.Name, Column: t.Columns[1].Name}
			}),
			change.Alter(s.Name, q, t.Ref(), func(q *catalog.Sequence) { q.Cache += 10 }))
		if q.OwnedBy != nil {
			g.add(change.Alter(s.Name, q, t.Ref(), func(q *catalog.Sequence) { q.OwnedBy = nil }))
		}
		numbered := q.Clone()
		numbered.Identity = true
		g.add(change.SetNumbering{Table: t.Ref(), Column: col.Name, From: change.Numbering{Identity: col.Identity, Default: col.Default, Schema: s.Name, Sequence: q},
			To: change.Numbering{Identity: catalog.IdentityByDefault, Schema: s.Name, Sequence: numbered}})
		for _, trigger := range t.Triggers {
			g.add(change.MakeIdentity{Table: t.Ref(), Column: col.Name, Trigger: trigger, Schema: s.Name, Sequence: q})
			g.add(change.ReplaceByDefault{Table: t.Ref(), Column: col.Name, Trigger: trigger, Sequence: catalog.Ref{Schema: s.Name, Table: q.Name}, Default: "next"})
			g.add(change.ReplaceByDefault{Table: t.Ref(), Column: col.Name, Trigger: trigger, Default: "now"})
		}
	}
}

func (g *generator) keys(t *catalog.Table) {
	on, first := t.Ref(), t.Columns[0].Name
	unique := &catalog.Key{Name: g.names.Free(t.Schema, "key", t.Name, first), Columns: []string{first}, Comment: "a key"}
	unique.Index = unique.Name
	g.add(change.AddKey{Table: on, Key: unique})
	if t.PrimaryKey == nil {
		g.add(change.AddKey{Table: on, Key: unique, Primary: true})
	}
	for _, k := range t.Keys() {
		is := k == t.PrimaryKey
		other := &catalog.Key{Name: g.names.Free(t.Schema, "other", t.Name), Columns: k.Columns}
		other.Index = other.Name
		kind := change.RenameUniqueKey
		if is {
			kind = change.RenamePrimaryKey
		}
		g.add(change.DropKey{Table: on, Name: k.Name, Columns: k.Columns, Primary: is},
			change.ReplaceKey{Table: on, From: change.Uniqueness{Primary: is, Key: k}, To: change.Uniqueness{Primary: is || t.PrimaryKey == nil, Key: other}},
			change.Rename{Table: on, Kind: kind, From: k.Name, To: other.Name},
			change.SetComment{Table: on, Kind: change.OnConstraint, Name: k.Name, From: k.Comment, To: "a key"})
		if is {
			id := &catalog.Column{Name: "number", Type: large, Identity: catalog.IdentityByDefault}
			key := &catalog.Key{Name: g.names.Free(t.Schema, "pk", t.Name), Columns: []string{id.Name}}
			g.add(change.AddSurrogateKey{Table: on, Column: id, Key: key, From: k, Unique: other})
		}
	}
}

func (g *generator) foreignKeys(t *catalog.Table) {
	on := t.Ref()
	for _, f := range t.ForeignKeys {
		to := f.Clone()
		to.OnDelete, to.OnUpdate, to.Deferrable = catalog.SetNull, catalog.Cascade, !f.Deferrable
		again := f.Clone()
		again.Name, again.Comment = g.names.Free(t.Schema, "again", t.Name), "one more"
		again.Columns, again.TargetColumns = again.Columns[:1], again.TargetColumns[:1]
		g.add(change.DropForeignKey{Table: on, ForeignKey: f}, change.AlterForeignKey{Table: on, Old: f, New: to},
			change.AddForeignKey{Table: on, ForeignKey: again}, change.AddForeignKey{Table: on, ForeignKey: again, Unchecked: true},
			change.AddForeignKey{Table: on, ForeignKey: f, Again: true},
			change.Rename{Table: on, Kind: change.RenameForeignKey, From: f.Name, To: again.Name},
			change.SetComment{Table: on, Kind: change.OnConstraint, Name: f.Name, From: f.Comment, To: "a reference"},
			change.BackfillColumn{Table: on, Column: t.Columns[0].Name, Via: f, From: f.TargetColumns[0]})
		if f.NotValidated {
			g.add(change.ValidateForeignKey{Table: on, ForeignKey: f})
		}
	}
}

func (g *generator) indexes(t *catalog.Table) {
	on, first := t.Ref(), t.Columns[0].Name
	x := index(g.names.Free(t.Schema, "idx", t.Name, first), catalog.ByPerson, first)
	x.Comment = "for the report"
	g.add(change.CreateIndex{Table: on, Index: x})
	for _, f := range t.ForeignKeys { // one that the engine's own gives way to
		g.add(change.CreateIndex{Table: on, Index: index(g.names.Free(t.Schema, "wide", t.Name), catalog.ByPerson, append(f.Columns[:len(f.Columns):len(f.Columns)], first)...)})
	}
	for _, x := range t.Indexes {
		to := g.names.Free(t.Schema, "renamed", t.Name)
		if x.Origin == catalog.ByPerson {
			g.add(change.DropIndex{Table: on, Name: x.Name}, change.Rename{Table: on, Kind: change.RenameIndex, From: x.Name, To: to})
			if x.Unique && t.PrimaryKey == nil {
				key := &catalog.Key{Name: to, Columns: x.Columns(), Index: to}
				g.add(change.ReplaceKey{Table: on, From: change.Uniqueness{Index: x}, To: change.Uniqueness{Primary: true, Key: key}})
			}
		}
		complete := change.CompleteIndex{Table: on, Index: x}
		for _, part := range g.c.Tables() {
			if part.PartitionOf != nil && *part.PartitionOf == on {
				complete.Partitions = append(complete.Partitions, change.PartitionIndex{Table: part.Ref(), Name: g.names.Free(t.Schema, "share", part.Name), Parent: x.Name})
			}
		}
		if len(complete.Partitions) > 0 || x.Origin == catalog.ByPrimaryKey { // of a plain table it does not fit
			g.add(complete)
		}
		g.add(change.RebuildIndex{Table: on, Name: x.Name},
			change.SetComment{Table: on, Kind: change.OnIndex, Name: x.Name, From: x.Comment, To: "an index"})
	}
}

func (g *generator) checks(t *catalog.Table) {
	on := t.Ref()
	k := &catalog.Check{Name: g.names.Free(t.Schema, "check", t.Name), Expression: t.Columns[0].Name + " IS NOT NULL", Comment: "always"}
	g.add(change.AddCheck{Table: on, Check: k})
	for _, k := range t.Checks {
		g.add(change.DropCheck{Table: on, Check: k}, change.ValidateCheck{Table: on, Check: k},
			change.Rename{Table: on, Kind: change.RenameCheck, From: k.Name, To: g.names.Free(t.Schema, "k", t.Name)},
			change.SetComment{Table: on, Kind: change.OnConstraint, Name: k.Name, From: k.Comment, To: "a check"})
	}
}

func (g *generator) triggers(t *catalog.Table) {
	for _, x := range t.Triggers {
		other := x.Clone()
		other.Definition += " WHEN (true)"
		more := x.Clone()
		more.Name += "_too"
		g.add(change.SetTrigger{Table: t.Ref(), Trigger: x, Off: true}, change.ReplaceTrigger{Table: t.Ref(), Old: x, New: other},
			change.ReplaceTrigger{Table: t.Ref(), Old: x}, change.ReplaceTrigger{Table: t.Ref(), New: more})
	}
}

func (g *generator) table(t *catalog.Table) {
	on := t.Ref()
	from := catalog.Spread{}
	if t.Spread != nil {
		from = *t.Spread
	}
	g.add(change.SetComment{Table: on, Kind: change.OnTable, From: t.Comment, To: "a table"}, change.SetComment{Table: on, Kind: change.OnTable, From: t.Comment},
		change.SetSpread{Table: on, From: from, To: catalog.Spread{Style: "all"}}, change.SetSpread{Table: on, From: from, To: catalog.Spread{Style: "key", Column: t.Columns[0].Name}},
		change.SetSortKey{Table: on, From: t.SortKey, To: &catalog.SortKey{Columns: []string{t.Columns[0].Name}, Interleaved: true}}, change.SetSortKey{Table: on, From: t.SortKey},
		change.RequireFilter{Table: on, Required: t.PartitionBy == nil || !t.PartitionBy.FilterRequired},
		change.RenameTable{Table: on, To: g.names.Free(t.Schema, "renamed", t.Name)})
	for _, what := range []change.Maintenance{change.SortRows, change.ReclaimSpace, change.Analyze, change.RebuildIndexes} {
		g.add(change.Maintain{Table: on, What: what})
	}
	lookup := &catalog.Table{Schema: t.Schema, Name: g.names.Free(t.Schema, "values", t.Name), Kind: catalog.Ordinary, Columns: []*catalog.Column{{Name: "value", Type: words}}}
	g.add(change.AddLookupTable{Table: lookup, Key: &catalog.Key{Name: lookup.Name + "_pkey", Columns: []string{"value"}, Index: lookup.Name + "_pkey"}, Values: []string{"low", "it's high"}})
}

func (g *generator) partitions(t *catalog.Table) {
	on := t.Ref()
	switch {
	case t.Kind == catalog.Partitioned:
		g.add(change.AddPartition{Of: on, Name: t.Name + "_2027", Bounds: "FOR VALUES FROM ('2027-01-01') TO ('2028-01-01')", Table: true}.Named(g.names, t))
		for _, part := range g.c.Tables() {
			if part.PartitionOf != nil && *part.PartitionOf == on {
				g.add(change.DetachPartition{Of: on, Part: part.Ref()})
			}
		}
	case len(t.Partitions) > 0:
		g.add(change.AddPartition{Of: on, Name: "y2027", Bounds: "VALUES LESS THAN ('2028-01-01')", Like: t.Partitions[0].Name},
			change.AddPartition{Of: on, Name: "y2020", Bounds: "VALUES LESS THAN ('2021-01-01')", Before: t.Partitions[0].Name},
			change.ExtractPartition{Of: on, Part: t.Partitions[1].Name, To: t.Name + "_alone"})
		if len(g.c.Objects) > 0 {
			function := g.c.Objects[0]
			values := func(from int) (all []string, parts []*catalog.Partition) {
				for i := range t.Partitions {
					all = append(all, fmt.Sprintf("'%d-01-01'", from+i))
					parts = append(parts, &catalog.Partition{Name: fmt.Sprint(i + 1), Bounds: ">= " + all[i]})
				}
				return all, parts
			}
			b := change.SetBoundaries{Object: function.Name, Of: []catalog.Ref{on}, From: change.Boundaries{Definition: function.Definition, Parts: t.Partitions}}
			b.From.Values, _ = values(2025)
			b.To.Values, b.To.Parts = values(2026)
			b.To.Definition = "CREATE PARTITION FUNCTION " + function.Name + " (date) AS RANGE RIGHT FOR VALUES (" + strings.Join(b.To.Values, ", ") + ")"
			g.add(b)
		}
	case t.PartitionOf == nil && t.Kind == catalog.Ordinary:
		day := t.Columns[len(t.Columns)-1].Name
		d := change.PartitionTable{Table: on, By: &catalog.PartitionKey{Method: "range", Columns: []string{day}, Definition: fmt.Sprintf("range (%s)", day)},
			Parts: []change.Part{{Name: t.Name + "_old", Bounds: "VALUES LESS THAN ('2026-01-01')"}, {Name: t.Name + "_new", Bounds: "VALUES LESS THAN ('2027-01-01')"}}}
		if k := t.PrimaryKey; k != nil {
			key := k.Clone()
			key.Columns = append(key.Columns, day)
			d.Key = key
			for _, other := range g.c.Tables() {
				for _, f := range other.ForeignKeys {
					if f.Target == on && other != t && !f.Inherited {
						moved := f.Clone()
						moved.Columns, moved.TargetColumns = append(moved.Columns, other.Columns[0].Name), append(moved.TargetColumns, day)
						d.Moved = append(d.Moved, change.Repointed{Table: other.Ref(), Old: f, New: moved})
					}
				}
			}
		}
		tables := d
		tables.AsTables = true
		tables.Parts = []change.Part{{Name: t.Name + "_old", Bounds: "FOR VALUES FROM (MINVALUE) TO ('2026-01-01')"}, {Name: t.Name + "_new", Bounds: "FOR VALUES FROM ('2026-01-01') TO ('2027-01-01')"}}
		g.add(d, tables)
	}
}

func (g *generator) schema(s *catalog.Schema) {
	for _, q := range s.Sequences {
		other := q.Clone()
		other.Increment, other.Cache, other.Comment = 10, 20, "by tens"
		fresh := q.Clone()
		fresh.Name, fresh.Identity, fresh.OwnedBy, fresh.UsedBy = g.names.Free(s.Name, "seq", q.Name), false, nil, nil
		g.add(change.AlterSequence{Schema: s.Name, Old: q, New: other}, change.CreateSequence{Schema: s.Name, Sequence: fresh})
		if len(q.UsedBy) > 0 {
			of := q.UsedBy[0].Ref()
			g.add(change.Alter(s.Name, q, of, func(q *catalog.Sequence) { q.Cycle = !q.Cycle }),
				change.Alter(s.Name, q, of, func(q *catalog.Sequence) { q.Type, q.Most = "bigint", 1<<63-1 }))
		}
		if !q.Identity {
			g.add(change.DropSequence{Schema: s.Name, Sequence: q})
		}
	}
	for _, v := range s.Views {
		other := v.Clone()
		other.Definition += " WHERE true"
		g.add(change.ReplaceView{Schema: s.Name, Old: v, New: other})
	}
	for _, r := range s.Routines {
		other := r.Clone()
		other.Definition += " -- again"
		g.add(change.ReplaceRoutine{Schema: s.Name, Old: r, New: other})
	}
	made := &catalog.Schema{Name: s.Name, Tables: []*catalog.Table{{Schema: s.Name, Name: g.names.Free(s.Name, "made", "by"), Kind: catalog.Ordinary, Columns: []*catalog.Column{column("a", number, true)}}},
		Views: []*catalog.View{{Name: g.names.Free(s.Name, "made", "view"), Definition: "SELECT 1 AS a"}}}
	elsewhere := made.Clone()
	elsewhere.Name, elsewhere.Tables[0].Schema = "elsewhere", "elsewhere"
	g.add(change.CreateObjects{What: &catalog.Catalog{Schemas: []*catalog.Schema{made}}}, change.CreateObjects{What: &catalog.Catalog{Schemas: []*catalog.Schema{elsewhere}}})
	if s.Size() == 0 {
		g.add(change.DropObjects{What: &catalog.Catalog{}, Schemas: []string{s.Name}})
		return
	}
	gone := s.Clone()
	g.add(change.DropObjects{What: &catalog.Catalog{Schemas: []*catalog.Schema{gone}}, Schemas: []string{s.Name}})
	for _, t := range s.Tables {
		g.add(change.DropObjects{What: &catalog.Catalog{Schemas: []*catalog.Schema{{Name: s.Name, Tables: []*catalog.Table{t}}}}})
	}
	g.add(change.DropObjects{What: &catalog.Catalog{Schemas: []*catalog.Schema{{Name: s.Name, Views: s.Views, Types: s.Types, Objects: s.Objects}}}})
}

// Kind is the name of a change's type; that of an undo names what it takes back.
func Kind(ch change.Change) string {
	name := reflect.TypeOf(ch).Name()
	if i := strings.LastIndexByte(name, '.'); i >= 0 {
		return "Undo of " + strings.TrimSuffix(name[i+1:], "]")
	}
	return name
}

// Shape is the kind of a change, with what it alters where that is one of several things.
func Shape(ch change.Change) string {
	alter, ok := ch.(change.AlterSequence)
	if !ok {
		return Kind(ch)
	}
	var what []string
	for _, d := range Differences(alter.Old, alter.New) {
		field, _, _ := strings.Cut(strings.TrimPrefix(d, "."), ":")
		field, _, _ = strings.Cut(field, ".")
		what = append(what, field)
	}
	return Kind(ch) + " of " + strings.Join(what, ", ")
}
