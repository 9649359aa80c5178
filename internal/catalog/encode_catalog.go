package catalog

import (
	"io"
	"maps"
	"slices"
	"strconv"
	"time"
)

// encode writes the survey file.
func (s *survey) encode(w io.Writer) error {
	e := &encoder{to: w, buf: make([]byte, 0, 2*flushAt)}
	e.object(func() {
		e.count("format", s.Format)
		e.need("kind", s.Kind)
		e.need("surveyed", s.Surveyed.Format(time.RFC3339Nano))
		e.key("engine")
		e.small(func() {
			e.need("name", s.Engine.Name)
			e.need("version", s.Engine.Version)
		})
		e.texts("features", s.Features)
		e.need("database", s.Database)
		list(e, "settings", s.Settings, func(v Setting) {
			e.small(func() {
				e.need("name", v.Name)
				e.need("value", v.Value)
				e.text("source", v.Source)
			})
		})
		objects(e, "gaps", s.Gaps, func(g Gap) {
			e.text("schema", g.Schema)
			e.text("table", g.Table)
			e.need("what", g.What)
			e.need("reason", g.Reason)
			e.flag("figures", g.Figures)
		})
		objects(e, "faults", s.Faults, func(f Fault) {
			e.need("kind", f.Kind)
			e.need("schema", f.Schema)
			e.text("table", f.Table)
			e.need("name", f.Name)
			e.text("definer", f.Definer)
			e.text("reason", f.Reason)
		})
		rest(e, "objects", s.Objects)
		e.key("schemas")
		array(e, s.Schemas, func(sc *Schema) { e.object(func() { e.schema(sc) }) })
		if s.Statistics != nil {
			e.key("statistics")
			e.object(func() {
				e.key("tables")
				array(e, s.Statistics.Tables, func(f tableFigures) { e.small(func() { e.figures(f) }) })
				list(e, "sequences", s.Statistics.Sequences, func(f sequenceFigures) { e.flat++; e.rest(f); e.flat-- })
			})
		}
	})
	e.buf = append(e.buf, '\n')
	e.flush()
	return e.err
}

func (e *encoder) schema(s *Schema) {
	e.need("name", s.Name)
	e.text("extension", s.Extension)
	e.texts("options", s.Options)
	e.text("comment", s.Comment)
	inParallel(e, "tables", s.Tables, (*encoder).table)
	rest(e, "views", s.Views)
	list(e, "sequences", s.Sequences, func(q *Sequence) { e.flat++; e.rest(q); e.flat-- })
	rest(e, "types", s.Types)
	rest(e, "routines", s.Routines)
	rest(e, "objects", s.Objects)
	e.rights(s.Rights)
}

func (e *encoder) rights(r Rights) {
	e.text("owner", r.Owner)
	e.flag("granted", r.Granted)
	list(e, "grants", r.Grants, func(g Grant) { e.flat++; e.rest(g); e.flat-- })
	rest(e, "security_labels", r.SecurityLabels)
}

func (e *encoder) table(t *Table) {
	e.need("name", t.Name)
	e.need("kind", string(t.Kind))
	e.text("comment", t.Comment)
	e.text("extension", t.Extension)
	e.texts("options", t.Options)
	e.text("of_type", t.OfType)
	e.text("collation", t.Collation)
	e.text("storage", t.Storage)
	e.text("tablespace", t.Tablespace)
	e.text("server", t.Server)
	e.flag("observed", t.Observed)
	e.key("columns")
	array(e, t.Columns, func(c *Column) { e.small(func() { e.column(c) }) })
	if t.PrimaryKey != nil {
		e.key("primary_key")
		e.object(func() { e.keyOf(t.PrimaryKey) })
	}
	objects(e, "unique_keys", t.UniqueKeys, e.keyOf)
	objects(e, "foreign_keys", t.ForeignKeys, e.foreignKey)
	objects(e, "checks", t.Checks, func(c *Check) {
		e.text("name", c.Name)
		e.need("expression", c.Expression)
		e.flag("not_validated", c.NotValidated)
		e.flag("not_enforced", c.NotEnforced)
		e.flag("inherited", c.Inherited)
		e.flag("local", c.Local)
		e.flag("no_inherit", c.NoInherit)
		e.text("column", c.Column)
		e.text("comment", c.Comment)
	})
	rest(e, "exclusions", t.Exclusions)
	objects(e, "indexes", t.Indexes, e.index)
	rest(e, "triggers", t.Triggers)
	list(e, "inherits", t.Inherits, e.ref)
	if t.PartitionOf != nil {
		e.key("partition_of")
		e.ref(*t.PartitionOf)
	}
	if p := t.PartitionBy; p != nil {
		e.key("partition_by")
		e.rest(p)
	}
	e.text("bounds", t.Bounds)
	if t.Spread != nil {
		e.key("spread")
		e.rest(t.Spread)
	}
	if t.SortKey != nil {
		e.key("sort_key")
		e.rest(t.SortKey)
	}
	rest(e, "partitions", t.Partitions)
	rest(e, "objects", t.Objects)
	list(e, "dependants", t.Dependants, func(d Dependant) {
		e.small(func() {
			e.need("kind", d.Kind)
			e.need("name", d.Name)
			e.texts("columns", d.Columns)
			e.text("on", d.On)
		})
	})
	list(e, "needs", t.Needs, func(o ObjectRef) {
		e.small(func() {
			e.need("kind", o.Kind)
			e.text("schema", o.Schema)
			e.need("name", o.Name)
		})
	})
	e.text("definition", t.Definition)
	e.text("name_text", t.NameText)
	e.rights(t.Rights)
}

func (e *encoder) column(c *Column) {
	e.need("name", c.Name)
	e.key("type")
	e.small(func() { e.typeOf(&c.Type) })
	e.key("nullable")
	if c.Nullable {
		e.buf = append(e.buf, "true"...)
	} else {
		e.buf = append(e.buf, "false"...)
	}
	e.text("default", c.Default)
	e.text("default_name", c.DefaultName)
	e.text("identity", string(c.Identity))
	e.text("generated", c.Generated)
	e.flag("stored", c.Stored)
	e.text("within", c.Within)
	e.flag("many", c.Many)
	e.flag("inherited", c.Inherited)
	e.flag("local", c.Local)
	if c.Sequence != nil {
		e.key("sequence")
		e.ref(*c.Sequence)
	}
	e.text("on_update", c.OnUpdate)
	e.flag("invisible", c.Invisible)
	e.texts("options", c.Options)
	e.text("comment", c.Comment)
	if c.NotNull != nil {
		e.key("not_null")
		e.rest(c.NotNull)
	}
	e.text("encoding", c.Encoding)
}

func (e *encoder) typeOf(t *Type) {
	e.need("native", t.Native)
	e.text("underlying", t.Underlying)
	e.need("family", string(t.Family))
	e.text("class", t.Class)
	e.count("bits", t.Bits)
	e.flag("unsigned", t.Unsigned)
	e.count("length", t.Length)
	e.flag("padded", t.Padded)
	e.count("precision", t.Precision)
	e.count("scale", t.Scale)
	e.flag("zoned", t.Zoned)
	e.text("collation", t.Collation)
}

func (e *encoder) keyOf(k *Key) {
	e.text("name", k.Name)
	e.needTexts("columns", k.Columns)
	e.text("index", k.Index)
	e.flag("deferrable", k.Deferrable)
	e.flag("deferred", k.Deferred)
	e.flag("nulls_not_distinct", k.NullsNotDistinct)
	e.flag("without_overlaps", k.WithoutOverlaps)
	e.text("comment", k.Comment)
}

func (e *encoder) foreignKey(f *ForeignKey) {
	e.text("name", f.Name)
	e.needTexts("columns", f.Columns)
	e.key("target")
	e.ref(f.Target)
	e.needTexts("target_columns", f.TargetColumns)
	e.text("target_index", f.TargetIndex)
	e.need("on_delete", string(f.OnDelete))
	e.need("on_update", string(f.OnUpdate))
	e.texts("set_columns", f.SetColumns)
	e.text("match", f.Match)
	e.flag("deferrable", f.Deferrable)
	e.flag("deferred", f.Deferred)
	e.flag("not_validated", f.NotValidated)
	e.flag("not_enforced", f.NotEnforced)
	e.flag("period", f.Period)
	e.flag("disabled", f.Disabled)
	e.flag("inherited", f.Inherited)
	e.text("comment", f.Comment)
}

func (e *encoder) index(x *Index) {
	e.need("name", x.Name)
	e.flag("system_named", x.SystemNamed)
	e.need("origin", string(x.Origin))
	e.text("method", x.Method)
	e.flag("unique", x.Unique)
	e.flag("clustered", x.Clustered)
	e.flag("nulls_not_distinct", x.NullsNotDistinct)
	e.key("parts")
	array(e, x.Parts, func(p IndexPart) {
		e.small(func() {
			e.text("column", p.Column)
			e.text("expression", p.Expression)
			e.flag("descending", p.Descending)
			e.text("nulls", p.Nulls)
			e.text("collation", p.Collation)
			e.text("operator_class", p.OpClass)
			e.count("length", p.Length)
			e.text("statistics", p.Statistics)
		})
	})
	e.texts("include", x.Include)
	e.text("predicate", x.Predicate)
	e.flag("invalid", x.Invalid)
	e.flag("ignored", x.Ignored)
	e.flag("inherited", x.Inherited)
	e.text("part_of", x.PartOf)
	e.text("pinned", x.Pinned)
	e.text("storage", x.Storage)
	e.text("tablespace", x.Tablespace)
	e.text("comment", x.Comment)
	e.text("definition", x.Definition)
}

func (e *encoder) figures(f tableFigures) {
	e.need("schema", f.Schema)
	e.need("table", f.Table)
	e.figure("rows", f.Rows)
	e.flag("exact", f.Exact)
	e.figure("dead_rows", f.DeadRows)
	e.figure("bytes", f.Bytes)
	e.figure("index_bytes", f.IndexBytes)
	e.figure("orphans", f.Orphans)
	e.figure("counter", f.Counter)
	if f.Analysed != nil {
		e.need("analysed", f.Analysed.Format(time.RFC3339Nano))
	}
	e.texts("index_order", f.IndexOrder)
	e.byName("indexes", f.Indexes)
	e.byName("scans", f.Scans)
	e.byName("partitions", f.Partitions)
	if len(f.Slices) > 0 {
		e.key("slices")
		e.rest(f.Slices)
	}
	e.share("unsorted", f.Unsorted)
	e.share("stale", f.Stale)
	e.figure("parts", f.Parts)
	e.figure("looked", f.Looked)
	e.figure("largest_row", f.LargestRow)
	if len(f.Columns) > 0 {
		e.key("columns")
		e.rest(f.Columns)
	}
}

func (e *encoder) share(name string, value *float64) {
	if value != nil {
		e.key(name)
		e.rest(*value)
	}
}

func (e *encoder) byName(key string, figures map[string]int64) {
	if len(figures) == 0 {
		return
	}
	e.key(key)
	e.object(func() {
		for _, name := range slices.Sorted(maps.Keys(figures)) {
			e.line()
			e.string(name)
			e.buf = append(e.buf, ':', ' ')
			e.buf = strconv.AppendInt(e.buf, figures[name], 10)
		}
	})
}
