package report

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/phrase"
)

// An Outline is the whole catalog on a page, as figures.
type Outline struct {
	Format      int            `json:"format"`
	Source      sourceOf       `json:"source"`
	Schemas     []SchemaCounts `json:"schemas"`
	Total       SchemaCounts   `json:"total"`
	Tables      []TableFigures `json:"tables"` // largest first
	WithoutKey  []string       `json:"without_primary_key"`
	Islands     []string       `json:"without_references"`
	Hubs        []Hub          `json:"most_referred_to"`
	NotReadable []catalog.Gap  `json:"not_read"`
}

// SchemaCounts counts what a schema holds. Rows and bytes are nil where not
// all of them are known.
type SchemaCounts struct {
	Schema      string `json:"schema,omitempty"`
	Tables      int    `json:"tables"`
	Partitions  int    `json:"partitions"`
	Views       int    `json:"views"`
	Columns     int    `json:"columns"`
	ForeignKeys int    `json:"foreign_keys"`
	Indexes     int    `json:"indexes"`
	Triggers    int    `json:"triggers"`
	Rows        *int64 `json:"rows"`
	Bytes       *int64 `json:"bytes"`
}

// TableFigures are one table's.
type TableFigures struct {
	Schema     string            `json:"schema"`
	Table      string            `json:"table"`
	Kind       catalog.TableKind `json:"kind"`
	Rows       *int64            `json:"rows"`
	Bytes      *int64            `json:"bytes"`
	IndexBytes *int64            `json:"index_bytes"`
	Refers     int               `json:"refers_to"`
	Referred   int               `json:"referred_to_by"`
}

// A Hub is a table that many refer to.
type Hub struct {
	Table string   `json:"table"`
	By    []string `json:"by"`
}

// NewOutline counts the catalog. Partitions count with the table that they
// are parts of.
func NewOutline(c *catalog.Catalog) *Outline {
	o := &Outline{Format: 1, Source: sourceJSON(c), Schemas: []SchemaCounts{}, Tables: []TableFigures{}, WithoutKey: []string{}, Islands: []string{}, Hubs: []Hub{}, NotReadable: c.Gaps}
	if o.NotReadable == nil {
		o.NotReadable = []catalog.Gap{}
	}
	lookup := c.Lookup()
	zero, none := int64(0), int64(0)
	o.Total.Rows, o.Total.Bytes = &zero, &none
	for _, s := range c.Schemas {
		rows, bytes := int64(0), int64(0)
		n := SchemaCounts{Schema: s.Name, Views: len(s.Views), Rows: &rows, Bytes: &bytes}
		for _, t := range s.Tables {
			n.count(t)
			if t.PartitionOf == nil {
				o.table(lookup, t, len(c.Schemas) > 1)
			}
		}
		o.Schemas = append(o.Schemas, n)
		o.Total.add(n)
	}
	slices.SortStableFunc(o.Tables, func(a, b TableFigures) int {
		return cmp.Or(cmp.Compare(size(b), size(a)), cmp.Compare(value(b.Rows), value(a.Rows)))
	})
	slices.SortStableFunc(o.Hubs, func(a, b Hub) int { return len(b.By) - len(a.By) })
	return o
}

func (n *SchemaCounts) count(t *catalog.Table) {
	if t.PartitionOf != nil {
		n.Partitions++
		return
	}
	n.Tables++
	n.Columns += len(t.Columns)
	n.ForeignKeys += len(t.ForeignKeys)
	n.Indexes += len(t.Indexes)
	n.Triggers += len(t.Triggers)
	n.Rows = sum(n.Rows, t.Stats.Rows)
	n.Bytes = sum(n.Bytes, t.Stats.Bytes)
	if t.Stats.IndexBytes != nil {
		n.Bytes = sum(n.Bytes, t.Stats.IndexBytes)
	}
}

func (n *SchemaCounts) add(m SchemaCounts) {
	n.Tables += m.Tables
	n.Partitions += m.Partitions
	n.Views += m.Views
	n.Columns += m.Columns
	n.ForeignKeys += m.ForeignKeys
	n.Indexes += m.Indexes
	n.Triggers += m.Triggers
	n.Rows, n.Bytes = sum(n.Rows, m.Rows), sum(n.Bytes, m.Bytes)
}

// sum adds two figures; one that is not known makes the sum unknown.
func sum(a, b *int64) *int64 {
	if a == nil || b == nil {
		return nil
	}
	n := *a + *b
	return &n
}

func (o *Outline) table(l *catalog.Lookup, t *catalog.Table, qualify bool) {
	name := t.Name
	if qualify {
		name = t.Ref().String()
	}
	by := referrers(l, t)
	o.Tables = append(o.Tables, TableFigures{t.Schema, t.Name, t.Kind, t.Stats.Rows, t.Stats.Bytes, t.Stats.IndexBytes, len(t.ForeignKeys), len(by)})
	if t.PrimaryKey == nil && t.IsOwn() {
		o.WithoutKey = append(o.WithoutKey, name)
	}
	if len(t.ForeignKeys) == 0 && len(by) == 0 && t.IsOwn() {
		o.Islands = append(o.Islands, name)
	}
	if len(by) > 0 {
		o.Hubs = append(o.Hubs, Hub{name, by})
	}
}

// referrers names the tables that refer to t, partitions left out.
func referrers(l *catalog.Lookup, t *catalog.Table) []string {
	var by []string
	for _, r := range l.Referrers(t.Ref()) {
		if !r.ForeignKey.Inherited && !slices.Contains(by, r.Table.Name) {
			by = append(by, r.Table.Name)
		}
	}
	slices.Sort(by)
	return by
}

func value(n *int64) int64 {
	if n == nil {
		return -1
	}
	return *n
}

func size(t TableFigures) int64 { return value(t.Bytes) + max(0, value(t.IndexBytes)) }

// shownTables is how many of the largest tables the text names.
const shownTables = 12

// Outline writes the page.
func (p *Page) Outline(c *catalog.Catalog, o *Outline) {
	p.printf("%s\n\n", p.paint(bold, p.title(c)))
	t := o.Total
	parts := []string{phrase.Plural(int64(t.Tables), "table")}
	if t.Partitions > 0 {
		parts = append(parts, phrase.Plural(int64(t.Partitions), "partition"))
	}
	for _, n := range []struct {
		n    int
		noun string
	}{{t.Views, "view"}, {t.Columns, "column"}, {t.ForeignKeys, "foreign key"}, {t.Indexes, "index"}, {t.Triggers, "trigger"}} {
		if n.n > 0 {
			parts = append(parts, phrase.Plural(int64(n.n), n.noun))
		}
	}
	parts = append(parts, known(t.Rows, func(n int64) string { return phrase.Plural(n, "row") }), known(t.Bytes, phrase.Size))
	p.block("  ", strings.Join(slices.DeleteFunc(parts, func(s string) bool { return s == "" }), ", "))
	if len(o.Schemas) > 1 {
		p.heading("Schemas")
		var rows [][]string
		for _, s := range o.Schemas {
			rows = append(rows, []string{phrase.Line(s.Schema), fmt.Sprint(s.Tables), fmt.Sprint(s.Views), fmt.Sprint(s.ForeignKeys), known(s.Rows, phrase.Amount), known(s.Bytes, phrase.Size)})
		}
		p.rows([]string{"", "tables", "views", "foreign keys", "rows", "size"}, []int{2, 3, 4, 5, 6}, rows)
	}
	p.largest(o)
	if len(o.Hubs) > 0 {
		p.heading("Most referred to")
		var rows [][]string
		for _, h := range o.Hubs[:min(6, len(o.Hubs))] {
			rows = append(rows, []string{phrase.Line(h.Table), fmt.Sprint(len(h.By)), p.paint(dim, "by ") + some(h.By, 12)})
		}
		p.rows(nil, []int{2}, rows)
	}
	p.names("Without a primary key", o.WithoutKey)
	p.names("Without any reference, in or out", o.Islands)
	if len(o.NotReadable) > 0 {
		p.heading("Not read")
		for _, g := range o.NotReadable {
			where := catalog.Ref{Schema: g.Schema, Table: g.Table}.String()
			if g.Table == "" {
				where = g.Schema
			}
			p.block("  "+phrase.Line(where)+"  ", phrase.Line(g.What+": "+g.Reason))
		}
	}
}

func (p *Page) largest(o *Outline) {
	if len(o.Tables) == 0 {
		return
	}
	title := "Tables, the largest first"
	if len(o.Tables) > shownTables {
		title = fmt.Sprintf("The %d largest of %s", shownTables, phrase.Plural(int64(len(o.Tables)), "table"))
	}
	p.heading(title)
	var rows [][]string
	for _, t := range o.Tables[:min(shownTables, len(o.Tables))] {
		name := t.Table
		if len(o.Schemas) > 1 {
			name = t.Schema + "." + t.Table
		}
		if t.Kind != catalog.Ordinary {
			name += " (" + string(t.Kind) + ")"
		}
		rows = append(rows, []string{phrase.Line(name), known(t.Rows, phrase.Amount), known(t.Bytes, phrase.Size), known(t.IndexBytes, phrase.Size), count(t.Refers), count(t.Referred)})
	}
	p.rows([]string{"", "rows", "size", "indexes", "refers to", "referred to by"}, []int{2, 3, 4, 5, 6}, rows)
}

func count(n int) string {
	if n == 0 {
		return ""
	}
	return fmt.Sprint(n)
}

func known(n *int64, write func(int64) string) string {
	if n == nil {
		return ""
	}
	return write(*n)
}

func (p *Page) names(title string, names []string) {
	if len(names) > 0 {
		p.heading(title)
		p.block("  ", some(names, 60))
	}
}
