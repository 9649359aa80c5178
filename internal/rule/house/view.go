package house

import (
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/rule"
)

// What expressions see of the catalog. Each kind of thing is a variable of its
// own name; the parts of a table have table besides. Names in the tags are those
// of the documentation (docs/house-rules.md).
type (
	// Table is a table with its parts.
	Table struct {
		Schema       string      `cel:"schema"`
		Name         string      `cel:"name"`
		Kind         string      `cel:"kind"` // "table", "partitioned"
		Comment      string      `cel:"comment"`
		Rows         int64       `cel:"rows"`
		Bytes        int64       `cel:"bytes"`
		Options      []string    `cel:"options"`
		Tablespace   string      `cel:"tablespace"`
		Columns      []Column    `cel:"columns"`
		Keys         []Key       `cel:"keys"`
		References   []Reference `cel:"references"`
		ReferredBy   []Reference `cel:"referred_by"`
		Indexes      []Index     `cel:"indexes"`
		Checks       []Check     `cel:"checks"`
		Triggers     []Trigger   `cel:"triggers"`
		Partitioned  bool        `cel:"partitioned"`
		PartitionsBy []string    `cel:"partitioned_by"`
		Partitions   int64       `cel:"partitions"`
	}
	// Column of a table.
	Column struct {
		Name       string `cel:"name"`
		Type       string `cel:"type"`
		Family     string `cel:"family"`
		Nullable   bool   `cel:"nullable"`
		Default    string `cel:"default"`
		Identity   string `cel:"identity"`
		Computed   string `cel:"computed"`
		Length     int64  `cel:"length"`
		Precision  int64  `cel:"precision"`
		Scale      int64  `cel:"scale"`
		Unsigned   bool   `cel:"unsigned"`
		Zoned      bool   `cel:"zoned"`
		Collation  string `cel:"collation"`
		Comment    string `cel:"comment"`
		Position   int64  `cel:"position"` // from 1
		InKey      bool   `cel:"in_primary_key"`
		Unique     bool   `cel:"unique"`
		Indexed    bool   `cel:"indexed"` // some index begins with it
		References bool   `cel:"references"`
	}
	// Key is a primary or unique key.
	Key struct {
		Name    string   `cel:"name"`
		Primary bool     `cel:"primary"`
		Columns []string `cel:"columns"`
	}
	// Reference is a foreign key.
	Reference struct {
		Name          string   `cel:"name"`
		Schema        string   `cel:"schema"` // of the referring table
		Table         string   `cel:"table"`
		Columns       []string `cel:"columns"`
		TargetSchema  string   `cel:"target_schema"`
		Target        string   `cel:"target"`
		TargetColumns []string `cel:"target_columns"`
		OnDelete      string   `cel:"on_delete"`
		OnUpdate      string   `cel:"on_update"`
		Deferrable    bool     `cel:"deferrable"`
		Validated     bool     `cel:"validated"`
		Indexed       bool     `cel:"indexed"`
		Required      bool     `cel:"required"` // none of its columns may be null
	}
	// Index of a table.
	Index struct {
		Name      string   `cel:"name"`
		Columns   []string `cel:"columns"` // an expression is ""
		Unique    bool     `cel:"unique"`
		Method    string   `cel:"method"`
		Predicate string   `cel:"predicate"`
		Include   []string `cel:"include"`
		MadeBy    string   `cel:"made_by"` // "person", "primary key", "unique key", "foreign key"
		Valid     bool     `cel:"valid"`
		Bytes     int64    `cel:"bytes"`
		Scans     int64    `cel:"scans"`
	}
	// Check is a condition.
	Check struct {
		Name       string `cel:"name"`
		Expression string `cel:"expression"`
		Validated  bool   `cel:"validated"`
	}
	// Trigger of a table.
	Trigger struct {
		Name   string   `cel:"name"`
		Timing string   `cel:"timing"`
		Events []string `cel:"events"`
		PerRow bool     `cel:"per_row"`
		Calls  string   `cel:"calls"`
	}
	// Sequence hands out numbers.
	Sequence struct {
		Schema    string `cel:"schema"`
		Name      string `cel:"name"`
		Type      string `cel:"type"`
		Increment int64  `cel:"increment"`
		Start     int64  `cel:"start"`
		Most      int64  `cel:"most"`
		Cycle     bool   `cel:"cycle"`
		Comment   string `cel:"comment"`
		Feeds     int64  `cel:"feeds"` // how many columns
	}
	// View is a stored query.
	View struct {
		Schema       string `cel:"schema"`
		Name         string `cel:"name"`
		Materialised bool   `cel:"materialised"`
		Comment      string `cel:"comment"`
		Columns      int64  `cel:"columns"`
	}
	// Database is what all of it is in.
	Database struct {
		Name    string `cel:"name"`
		Engine  string `cel:"engine"`
		Version string `cel:"version"`
	}
)

// figures are members that may be unknown: a rule that speaks of one is not
// judged where it is.
var figures = map[string]func(*catalog.Table, *catalog.Index) bool{
	"rows": func(t *catalog.Table, _ *catalog.Index) bool { return t != nil && t.Stats.Rows != nil },
	"bytes": func(t *catalog.Table, x *catalog.Index) bool {
		return x != nil && x.Bytes != nil || x == nil && t != nil && t.Stats.Bytes != nil
	},
	"scans": func(_ *catalog.Table, x *catalog.Index) bool { return x != nil && x.Scans != nil },
}

func figure(n *int64) int64 {
	if n == nil {
		return 0
	}
	return *n
}

func tableView(p *rule.Pass, t *catalog.Table) Table {
	v := Table{Schema: t.Schema, Name: t.Name, Kind: string(t.Kind), Comment: t.Comment, Rows: figure(t.Stats.Rows), Bytes: figure(t.Stats.Bytes),
		Options: t.Options, Tablespace: t.Tablespace, Partitioned: t.PartitionBy != nil, Partitions: int64(len(t.Partitions) + len(p.Lookup.Partitions(t.Ref())))}
	if t.PartitionBy != nil {
		v.PartitionsBy = t.PartitionBy.Columns
	}
	for i, c := range t.Columns {
		v.Columns = append(v.Columns, columnView(t, c, i))
	}
	for _, k := range t.Keys() {
		v.Keys = append(v.Keys, keyView(t, k))
	}
	for _, f := range t.ForeignKeys {
		v.References = append(v.References, referenceView(p, t, f))
	}
	for _, r := range p.Lookup.Referrers(t.Ref()) {
		v.ReferredBy = append(v.ReferredBy, referenceView(p, r.Table, r.ForeignKey))
	}
	for _, x := range t.Indexes {
		v.Indexes = append(v.Indexes, indexView(x))
	}
	for _, k := range t.Checks {
		v.Checks = append(v.Checks, Check{k.Name, k.Expression, !k.NotValidated})
	}
	for _, g := range t.Triggers {
		v.Triggers = append(v.Triggers, triggerView(g))
	}
	return v
}

func columnView(t *catalog.Table, c *catalog.Column, i int) Column {
	indexed := slices.ContainsFunc(t.Indexes, func(x *catalog.Index) bool { return x.Columns()[0] == c.Name }) || t.PrimaryKey != nil && t.PrimaryKey.Columns[0] == c.Name
	return Column{Name: c.Name, Type: c.Type.Native, Family: string(c.Type.Family), Nullable: c.Nullable, Default: c.Default, Identity: string(c.Identity), Computed: c.Generated,
		Length: int64(c.Type.Length), Precision: int64(c.Type.Precision), Scale: int64(c.Type.Scale), Unsigned: c.Type.Unsigned, Zoned: c.Type.Zoned, Collation: c.Type.Collation,
		Comment: c.Comment, Position: int64(i + 1), InKey: t.PrimaryKey != nil && slices.Contains(t.PrimaryKey.Columns, c.Name), Unique: t.UniqueOn([]string{c.Name}), Indexed: indexed,
		References: slices.ContainsFunc(t.ForeignKeys, func(f *catalog.ForeignKey) bool { return slices.Contains(f.Columns, c.Name) })}
}

func keyView(t *catalog.Table, k *catalog.Key) Key { return Key{k.Name, k == t.PrimaryKey, k.Columns} }

func referenceView(p *rule.Pass, t *catalog.Table, f *catalog.ForeignKey) Reference {
	return Reference{f.Name, t.Schema, t.Name, f.Columns, f.Target.Schema, f.Target.Table, f.TargetColumns, string(f.OnDelete), string(f.OnUpdate), f.Deferrable, !f.NotValidated,
		t.FindsRows(f.Columns, p.Abilities.Reads()), t.NotNull(f.Columns)}
}

func indexView(x *catalog.Index) Index {
	return Index{x.Name, x.Columns(), x.Unique, x.Method, x.Predicate, x.Include, string(x.Origin), !x.Invalid, figure(x.Bytes), figure(x.Scans)}
}

func triggerView(g *catalog.Trigger) Trigger {
	return Trigger{g.Name, g.Timing, g.Events, g.PerRow, g.Calls}
}

// A subject is one thing that a rule looks at.
type subject struct {
	table   *catalog.Table
	schema  string
	name    string
	columns []string
	value   any
	key     *catalog.Key
	foreign *catalog.ForeignKey
	index   *catalog.Index
	column  *catalog.Column
}

// subjects calls for all things of a kind.
func subjects(p *rule.Pass, kind string, do func(subject)) {
	switch kind {
	case "sequence":
		for _, s := range p.Catalog.Schemas {
			for _, q := range s.Sequences {
				if q.Extension == "" && !q.Identity {
					do(subject{schema: s.Name, name: q.Name, value: Sequence{s.Name, q.Name, q.Type, q.Increment, q.Start, q.Most, q.Cycle, q.Comment, int64(len(q.UsedBy))}})
				}
			}
		}
		return
	case "view":
		for _, s := range p.Catalog.Schemas {
			for _, v := range s.Views {
				if v.Extension == "" {
					do(subject{schema: s.Name, name: v.Name, value: View{s.Name, v.Name, v.Materialised, v.Comment, int64(len(v.Columns))}})
				}
			}
		}
		return
	}
	for _, t := range p.Roots {
		at := subject{table: t, schema: t.Schema, name: t.Name}
		switch kind {
		case "table":
			at.value = tableView(p, t)
			do(at)
		case "column":
			for i, c := range t.Columns {
				one := at
				one.name, one.column, one.columns, one.value = c.Name, c, []string{c.Name}, columnView(t, c, i)
				do(one)
			}
		case "key":
			for _, k := range t.Keys() {
				one := at
				one.name, one.key, one.columns, one.value = k.Name, k, k.Columns, keyView(t, k)
				do(one)
			}
		case "reference":
			for _, f := range t.ForeignKeys {
				if !f.Inherited {
					one := at
					one.name, one.foreign, one.columns, one.value = f.Label(), f, f.Columns, referenceView(p, t, f)
					do(one)
				}
			}
		case "index":
			for _, x := range t.Indexes {
				if !x.Inherited {
					one := at
					one.name, one.index, one.columns, one.value = x.Name, x, x.NamedColumns(), indexView(x)
					do(one)
				}
			}
		case "check":
			for _, k := range t.Checks {
				one := at
				one.name, one.value = k.Name, Check{k.Name, k.Expression, !k.NotValidated}
				do(one)
			}
		case "trigger":
			for _, g := range t.Triggers {
				one := at
				one.name, one.value = g.Name, triggerView(g)
				do(one)
			}
		}
	}
}

// Kinds of things that a rule can be for.
func Kinds() []string { return slices.Clone(kinds) }

// kinds of things that a rule can be for.
var kinds = strings.Fields("table column key reference index check trigger sequence view")
