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
		})
		e.key("schemas")
		array(e, s.Schemas, func(sc *Schema) { e.object(func() { e.schema(sc) }) })
		if s.Statistics != nil {
			e.key("statistics")
			e.object(func() {
				e.key("tables")
				array(e, s.Statistics.Tables, func(f tableFigures) { e.small(func() { e.figures(f) }) })
			})
		}
	})
	e.buf = append(e.buf, '\n')
	e.flush()
	return e.err
}

func (e *encoder) schema(s *Schema) {
	e.need("name", s.Name)
	inParallel(e, "tables", s.Tables, (*encoder).table)
	objects(e, "views", s.Views, func(v *View) {
		e.need("name", v.Name)
		e.flag("materialised", v.Materialised)
		e.text("comment", v.Comment)
		e.text("definition", v.Definition)
	})
}

func (e *encoder) table(t *Table) {
	e.need("name", t.Name)
	e.need("kind", string(t.Kind))
	e.text("comment", t.Comment)
	e.text("extension", t.Extension)
	e.texts("options", t.Options)
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
		e.flag("inherited", c.Inherited)
		e.text("comment", c.Comment)
	})
	objects(e, "indexes", t.Indexes, e.index)
	objects(e, "triggers", t.Triggers, func(g *Trigger) {
		e.need("name", g.Name)
		e.text("definition", g.Definition)
	})
	list(e, "inherits", t.Inherits, e.ref)
	if t.PartitionOf != nil {
		e.key("partition_of")
		e.ref(*t.PartitionOf)
	}
	if p := t.PartitionBy; p != nil {
		e.key("partition_by")
		e.object(func() {
			e.need("method", p.Method)
			e.texts("columns", p.Columns)
			e.need("definition", p.Definition)
		})
	}
	e.text("bounds", t.Bounds)
	objects(e, "dependants", t.Dependants, func(d Dependant) {
		e.need("kind", d.Kind)
		e.need("name", d.Name)
		e.texts("columns", d.Columns)
	})
	e.text("definition", t.Definition)
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
	e.text("identity", string(c.Identity))
	e.text("generated", c.Generated)
	e.flag("stored", c.Stored)
	e.flag("inherited", c.Inherited)
	e.text("comment", c.Comment)
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
	e.flag("inherited", f.Inherited)
	e.text("comment", f.Comment)
}

func (e *encoder) index(x *Index) {
	e.need("name", x.Name)
	e.flag("system_named", x.SystemNamed)
	e.need("origin", string(x.Origin))
	e.text("method", x.Method)
	e.flag("unique", x.Unique)
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
		})
	})
	e.texts("include", x.Include)
	e.text("predicate", x.Predicate)
	e.flag("invalid", x.Invalid)
	e.flag("inherited", x.Inherited)
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
	e.figure("bytes", f.Bytes)
	e.figure("index_bytes", f.IndexBytes)
	e.figure("orphans", f.Orphans)
	if len(f.Indexes) > 0 {
		e.key("indexes")
		e.object(func() {
			for _, name := range slices.Sorted(maps.Keys(f.Indexes)) {
				e.line()
				e.string(name)
				n := f.Indexes[name]
				e.buf = append(e.buf, ':', ' ')
				e.buf = strconv.AppendInt(e.buf, n, 10)
			}
		})
	}
}
