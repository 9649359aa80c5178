package report

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/text"
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
	Foreign     int    `json:"foreign_tables"`
	Virtual     int    `json:"virtual_tables"`
	Views       int    `json:"views"`
	Columns     int    `json:"columns"`
	ForeignKeys int    `json:"foreign_keys"`
	Indexes     int    `json:"indexes"`
	Triggers    int    `json:"triggers"`
	Sequences   int    `json:"sequences"`
	Types       int    `json:"types"`
	Routines    int    `json:"routines"`
	Others      int    `json:"other_objects"`
	Rows        *int64 `json:"rows"`
	Estimated   bool   `json:"rows_estimated,omitempty"` // not all of them were counted
	Bytes       *int64 `json:"bytes"`
}

// Totals counts the whole catalog, as every page that gives sums does.
func Totals(c *catalog.Catalog) SchemaCounts {
	total := noneYet("")
	for _, s := range c.Schemas {
		total.add(countsOf(s, Selection{}))
	}
	total.Others += len(c.Objects)
	return total
}

// Sums are the totals as cells: tables, columns, foreign keys, indexes, rows.
func Sums(c *catalog.Catalog) []string {
	t := Totals(c)
	return []string{text.Amount(int64(t.Tables)), text.Amount(int64(t.Columns)), text.Amount(int64(t.ForeignKeys)), text.Amount(int64(t.Indexes)), known(t.Rows, text.Amount)}
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
	Columns    int               `json:"columns"`
	Indexes    int               `json:"indexes"`
	Key        bool              `json:"has_primary_key"`
}

// A Selection narrows an outline. Empty lists leave everything in.
type Selection struct {
	Patterns []string            // of names, or of schema.name
	Kinds    []catalog.TableKind // of tables
}

func (s Selection) takes(t *catalog.Table) bool {
	return (len(s.Kinds) == 0 || slices.Contains(s.Kinds, t.Kind)) && s.named(t.Schema, t.Name)
}

func (s Selection) named(schema, name string) bool {
	return len(s.Patterns) == 0 || slices.ContainsFunc(s.Patterns, func(p string) bool { return catalog.FitsTable(p, schema, name) })
}

// all reports whether the selection leaves everything in.
func (s Selection) all() bool { return len(s.Patterns)+len(s.Kinds) == 0 }

// Sorts are the orders in which an outline can list its tables.
var Sorts = []string{"size", "rows", "name", "refers", "referred"}

// Sort brings the tables into one of the orders; the first is the default.
func (o *Outline) Sort(by string) {
	slices.SortStableFunc(o.Tables, func(a, b TableFigures) int {
		switch by {
		case "rows":
			return cmp.Compare(value(b.Rows), value(a.Rows))
		case "name":
			return cmp.Or(strings.Compare(a.Schema, b.Schema), strings.Compare(a.Table, b.Table))
		case "refers":
			return b.Refers - a.Refers
		case "referred":
			return b.Referred - a.Referred
		}
		return cmp.Or(cmp.Compare(size(b), size(a)), cmp.Compare(value(b.Rows), value(a.Rows)))
	})
}

// A Hub is a table that many refer to.
type Hub struct {
	Table string   `json:"table"`
	By    []string `json:"by"`
}

// NewOutline counts what the selection takes of the catalog. Partitions count
// with the table that they are parts of, unless they are asked for.
func NewOutline(c *catalog.Catalog, take Selection) *Outline {
	o := &Outline{Format: 1, Source: sourceJSON(c), Schemas: []SchemaCounts{}, Tables: []TableFigures{}, WithoutKey: []string{}, Islands: []string{}, Hubs: []Hub{}, NotReadable: c.Gaps}
	if o.NotReadable == nil {
		o.NotReadable = []catalog.Gap{}
	}
	lookup := c.Lookup()
	o.Total = noneYet("")
	for _, s := range c.Schemas {
		n := countsOf(s, take)
		for _, t := range s.Tables {
			if take.takes(t) && (t.PartitionOf == nil || len(take.Patterns) > 0) {
				o.table(lookup, t, len(c.Schemas) > 1)
			}
		}
		if !take.all() && n.empty() {
			continue
		}
		o.Schemas = append(o.Schemas, n)
		o.Total.add(n)
	}
	if len(take.Kinds) == 0 && len(take.Patterns) == 0 {
		o.Total.Others += len(c.Objects)
	}
	o.Sort(Sorts[0])
	slices.SortStableFunc(o.Hubs, func(a, b Hub) int { return len(b.By) - len(a.By) })
	return o
}

// noneYet is where counting begins.
func noneYet(schema string) SchemaCounts {
	rows, bytes := int64(0), int64(0)
	return SchemaCounts{Schema: schema, Rows: &rows, Bytes: &bytes}
}

// countsOf counts what the selection takes of a schema.
func countsOf(s *catalog.Schema, take Selection) SchemaCounts {
	n := noneYet(s.Name)
	if len(take.Kinds) == 0 {
		n.others(s, take)
	}
	for _, t := range s.Tables {
		if take.takes(t) {
			n.count(t)
		}
	}
	return n
}

// others counts what is no table.
func (n *SchemaCounts) others(s *catalog.Schema, take Selection) {
	for _, v := range s.Views {
		if take.named(s.Name, v.Name) {
			n.Views++
		}
	}
	for _, q := range s.Sequences {
		if take.named(s.Name, q.Name) {
			n.Sequences++
		}
	}
	for _, y := range s.Types {
		if take.named(s.Name, y.Name) && y.Extension == "" {
			n.Types++
		}
	}
	for _, f := range s.Routines {
		if take.named(s.Name, f.Name) && f.Extension == "" {
			n.Routines++
		}
	}
	for _, o := range s.Objects {
		if take.named(s.Name, o.Name) && o.Extension == "" {
			n.Others++
		}
	}
}

// empty reports whether nothing was counted.
func (n *SchemaCounts) empty() bool {
	return n.Tables+n.Partitions+n.Views+n.Sequences+n.Types+n.Routines+n.Others == 0
}

func (n *SchemaCounts) count(t *catalog.Table) {
	if t.PartitionOf != nil {
		n.Partitions++
		return
	}
	n.Partitions += len(t.Partitions)
	switch t.Kind {
	case catalog.Foreign:
		n.Foreign++
	case catalog.Virtual:
		n.Virtual++
	}
	n.Tables++
	n.Columns += len(t.Columns)
	n.ForeignKeys += len(t.ForeignKeys)
	n.Indexes += len(t.Indexes)
	n.Triggers += len(t.Triggers)
	n.Rows = sum(n.Rows, t.Stats.Rows)
	n.Estimated = n.Estimated || t.Stats.Rows != nil && !t.Stats.Exact
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
	n.Foreign += m.Foreign
	n.Virtual += m.Virtual
	n.Sequences += m.Sequences
	n.Types += m.Types
	n.Routines += m.Routines
	n.Others += m.Others
	n.Estimated = n.Estimated || m.Estimated
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
	o.Tables = append(o.Tables, TableFigures{t.Schema, t.Name, t.Kind, t.Stats.Rows, t.Stats.Bytes, t.Stats.IndexBytes, len(t.ForeignKeys), len(by), len(t.Columns), len(t.Indexes), t.PrimaryKey != nil})
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

// Outline writes the page, with at most so many of the tables.
func (p *Page) Outline(c *catalog.Catalog, o *Outline, by string, most int) {
	p.printf("%s\n\n", p.paint(bold, p.title(c)))
	t := o.Total
	parts := []string{text.Plural(int64(t.Tables), "table")}
	if t.Foreign > 0 {
		parts[0] += fmt.Sprintf(" (%d on other servers)", t.Foreign)
	}
	if t.Virtual > 0 {
		parts[0] += fmt.Sprintf(" (%d virtual)", t.Virtual)
	}
	if t.Partitions > 0 {
		parts = append(parts, text.Plural(int64(t.Partitions), "partition"))
	}
	for _, n := range []struct {
		n    int
		noun string
	}{{t.Views, "view"}, {t.Columns, "column"}, {t.ForeignKeys, "foreign key"}, {t.Indexes, "index"}, {t.Triggers, "trigger"},
		{t.Sequences, "sequence"}, {t.Types, "type"}, {t.Routines, "routine"}, {t.Others, "other object"}} {
		if n.n > 0 {
			parts = append(parts, text.Plural(int64(n.n), n.noun))
		}
	}
	parts = append(parts, known(t.Rows, func(n int64) string { return text.Rows(&n, !t.Estimated) }), known(t.Bytes, text.Size))
	p.block("  ", strings.Join(slices.DeleteFunc(parts, func(s string) bool { return s == "" }), ", "))
	if len(o.Schemas) > 1 {
		p.heading("Schemas")
		var rows [][]string
		for _, s := range o.Schemas {
			rows = append(rows, []string{text.Line(s.Schema), fmt.Sprint(s.Tables), fmt.Sprint(s.Views), fmt.Sprint(s.ForeignKeys), known(s.Rows, text.Amount), known(s.Bytes, text.Size)})
		}
		p.figures([]string{"", "tables", "views", "foreign keys", "rows", "size"}, rows)
	}
	p.tables(o, by, most)
	if len(o.Hubs) > 0 {
		p.heading("Most referred to")
		var rows [][]string
		for _, h := range o.Hubs[:min(6, len(o.Hubs))] {
			rows = append(rows, []string{text.Line(h.Table), fmt.Sprint(len(h.By)), p.paint(dim, "by ") + some(h.By, 12)})
		}
		p.rows(nil, []int{2}, rows)
	}
	p.names("Without a primary key", o.WithoutKey)
	p.names("Without any reference, in or out", o.Islands)
	p.unread(o.NotReadable)
}

// unread lists what the survey lacks.
func (p *Page) unread(gaps []catalog.Gap) {
	if len(gaps) == 0 {
		return
	}
	p.heading("Not read")
	for i, g := range gaps {
		if i == mostGaps {
			p.printf("  and %s more; nexdal survey lists all\n", text.Amount(int64(len(gaps)-i)))
			return
		}
		p.block("  "+text.Line(g.Place())+"  ", text.Line(g.What+": "+g.Reason))
	}
}

func (p *Page) tables(o *Outline, by string, most int) {
	if len(o.Tables) == 0 {
		return
	}
	title := "Tables, " + map[string]string{"size": "the largest first", "rows": "those of most rows first", "name": "by name", "refers": "those that refer most first", "referred": "the most referred to first"}[by]
	if most > 0 && len(o.Tables) > most {
		title = fmt.Sprintf("%s (%d of %s)", title, most, text.Amount(int64(len(o.Tables))))
	} else {
		most = len(o.Tables)
	}
	p.heading(title)
	var rows [][]string
	for _, t := range o.Tables[:most] {
		name := t.Table
		if len(o.Schemas) > 1 {
			name = t.Schema + "." + t.Table
		}
		if t.Kind != catalog.Ordinary {
			name += " (" + string(t.Kind) + ")"
		}
		rows = append(rows, []string{text.Line(name), known(t.Rows, text.Amount), known(t.Bytes, text.Size), known(t.IndexBytes, text.Size), count(t.Refers), count(t.Referred)})
	}
	p.figures([]string{"", "rows", "size", "indexes", "refers to", "referred to by"}, rows)
}

// figures is a table of a name and numbers. What an engine tells of nothing has no column.
func (p *Page) figures(head []string, rows [][]string) {
	var right []int
	for i := len(head) - 1; i > 0; i-- {
		if slices.ContainsFunc(rows, func(row []string) bool { return row[i] != "" }) {
			continue
		}
		head = slices.Delete(head, i, i+1)
		for at, row := range rows {
			rows[at] = slices.Delete(row, i, i+1)
		}
	}
	for i := range head[1:] {
		right = append(right, i+2)
	}
	p.rows(head, right, rows)
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
