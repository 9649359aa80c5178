package job

import (
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
	"nexdal/internal/engine/all"
	"nexdal/internal/rule"
)

// Statements writes the DDL of one fix, without its pre-flight and its way back, for
// people to read and copy.
func Statements(c *catalog.Catalog, can catalog.Abilities) func(rule.Finding, rule.Fix) string {
	w, ok := all.ByName(c.Engine.Name).(engine.Writer)
	if !ok {
		return nil
	}
	lookup := c.Lookup()
	sequences := map[catalog.Ref]*catalog.Sequence{}
	for _, s := range c.Schemas {
		for _, q := range s.Sequences {
			sequences[catalog.Ref{Schema: s.Name, Table: q.Name}] = q
		}
	}
	return func(f rule.Finding, fix rule.Fix) string {
		refs := []catalog.Ref{}
		add := func(ref catalog.Ref) {
			if t := lookup.Table(ref); t != nil && !slices.Contains(refs, ref) {
				refs = append(refs, ref)
			}
		}
		var items []change.Item
		for _, ch := range fix.Changes {
			items = append(items, change.Item{Change: ch})
			add(ch.On())
			if k, ok := ch.(change.AddForeignKey); ok {
				add(k.ForeignKey.Target)
			}
		}
		for _, ref := range slices.Clone(refs) {
			for _, r := range lookup.Referrers(ref) {
				add(r.Table.Ref())
			}
			if of := lookup.Table(ref).PartitionOf; of != nil {
				add(*of)
			}
			for _, part := range lookup.Partitions(ref) {
				add(part.Ref())
			}
		}
		if len(refs) == 0 || len(refs) > 200 {
			return ""
		}
		part := some(c, lookup, sequences, refs)
		for _, it := range items {
			if engine.Refuses(w, part, it.Change) != "" {
				return ""
			}
		}
		plan, left := change.OrderAll(part, can, items)
		if len(left) > 0 {
			return ""
		}
		after, err := plan.Apply(part, can)
		if err != nil {
			return ""
		}
		work, err := w.Write(part, after, plan)
		if err != nil {
			return ""
		}
		var lines []string
		for _, st := range work.Steps {
			for _, sql := range st.SQL {
				lines = append(lines, w.Dialect().Ended(sql))
			}
		}
		return strings.Join(lines, "\n")
	}
}

// some is a catalog of these tables alone, with the sequences that number them. The
// tables are the same: whoever alters them clones them first.
func some(c *catalog.Catalog, lookup *catalog.Lookup, sequences map[catalog.Ref]*catalog.Sequence, refs []catalog.Ref) *catalog.Catalog {
	part := &catalog.Catalog{Engine: c.Engine, Database: c.Database, Surveyed: c.Surveyed, Settings: c.Settings}
	schema := func(name string) *catalog.Schema {
		s := part.Schema(name)
		if s == nil {
			s = &catalog.Schema{Name: name}
			part.Schemas = append(part.Schemas, s)
		}
		return s
	}
	slices.SortFunc(refs, catalog.Ref.Compare)
	for _, ref := range refs {
		t := lookup.Table(ref)
		schema(ref.Schema).Tables = append(schema(ref.Schema).Tables, t)
		for _, col := range t.Columns {
			if col.Sequence == nil {
				continue
			}
			if q := sequences[*col.Sequence]; q != nil && !slices.Contains(schema(col.Sequence.Schema).Sequences, q) {
				s := schema(col.Sequence.Schema)
				s.Sequences = append(s.Sequences, q)
			}
		}
	}
	return part
}
