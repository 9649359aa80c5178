package report

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/evidence"
	"nexdal/internal/text"
)

// A Description is one table in full, with what refers to it.
type Description struct {
	Format       int            `json:"format"`
	Source       sourceOf       `json:"source"`
	Schema       string         `json:"schema"`
	Table        *catalog.Table `json:"table"`
	Rows         *int64         `json:"rows"`
	Bytes        *int64         `json:"bytes"`
	IndexBytes   *int64         `json:"index_bytes"`
	RefersTo     []Reference    `json:"refers_to"`
	ReferredToBy []Reference    `json:"referred_to_by"`
	Partitions   []string       `json:"partitions,omitempty"`
	ReadBy       []string       `json:"read_by,omitempty"` // views, and routines whose text names the table
	// Storage says, of a store that keeps columns apart, what each takes.
	Storage []ColumnStorage `json:"storage,omitempty"`
	// Notes are what people said of the table (under "") and its columns.
	Notes map[string]string `json:"notes,omitempty"`
	// Held is what the data was found to hold, where there is evidence: see [evidence.Column].
	Held []evidence.Column `json:"held,omitempty"`

	can    catalog.Abilities
	probed time.Time
}

// A Reference is a foreign key seen from one of its ends. Each and Per say how
// many rows meet: a row of the referring table has Each rows of the other, and
// is one of Per rows that refer to it; "how" is "declared", or "accepted" for one
// that was accepted and nothing declares.
type Reference struct {
	Name          string         `json:"name"`
	From          catalog.Ref    `json:"from"`
	Columns       []string       `json:"columns"`
	To            catalog.Ref    `json:"to"`
	TargetColumns []string       `json:"target_columns"`
	OnDelete      catalog.Action `json:"on_delete"`
	OnUpdate      catalog.Action `json:"on_update"`
	Each          string         `json:"each"` // "one" or "zero or one"
	Per           string         `json:"per"`  // "many" or "zero or one"
	How           string         `json:"how"`
	Indexed       bool           `json:"indexed"`
	Lacks         []string       `json:"lacks,omitempty"` // in what it is less than a foreign key: "not enforced", "not validated", "switched off"
	Period        bool           `json:"period,omitempty"`
}

// Describe gathers what is known of a table.
func Describe(c *catalog.Catalog, can catalog.Abilities, t *catalog.Table) *Description {
	return describe(c, c.Lookup(), can, t)
}

func describe(c *catalog.Catalog, l *catalog.Lookup, can catalog.Abilities, t *catalog.Table) *Description {
	e := can.Reads()
	d := &Description{Format: 1, Source: sourceJSON(c), Schema: t.Schema, Table: t, Rows: t.Stats.Rows, Bytes: t.Stats.Bytes, IndexBytes: t.Stats.IndexBytes,
		RefersTo: []Reference{}, ReferredToBy: []Reference{}, can: can}
	for _, f := range t.ForeignKeys {
		d.RefersTo = append(d.RefersTo, reference(e, t, f, "declared"))
	}
	for _, f := range t.Accepted {
		d.RefersTo = append(d.RefersTo, reference(e, t, f, "accepted"))
	}
	for _, r := range l.Referrers(t.Ref()) {
		if !r.ForeignKey.Inherited {
			d.ReferredToBy = append(d.ReferredToBy, reference(e, r.Table, r.ForeignKey, "declared"))
		}
	}
	for _, r := range l.Accepted(t.Ref()) {
		d.ReferredToBy = append(d.ReferredToBy, reference(e, r.Table, r.ForeignKey, "accepted"))
	}
	for _, p := range l.Partitions(t.Ref()) {
		d.Partitions = append(d.Partitions, p.Name+" "+p.Bounds)
	}
	for _, p := range t.Partitions {
		d.Partitions = append(d.Partitions, strings.TrimSpace(p.Name+" "+p.Bounds))
	}
	if n := t.Stats.Parts; n != nil {
		d.Partitions = append(d.Partitions, text.Plural(*n, "partition")+", which the engine makes as rows come")
	}
	if t.PartitionBy != nil && t.PartitionBy.FilterRequired {
		d.Partitions = append(d.Partitions, "queries have to filter on them, or are refused")
	}
	self := catalog.ObjectRef{Kind: catalog.KindTable, Schema: t.Schema, Name: t.Name}
	for _, s := range c.Schemas {
		for _, v := range s.Views {
			if slices.Contains(v.Reads, self) {
				d.ReadBy = append(d.ReadBy, "view "+s.Name+"."+v.Name)
			}
		}
		for _, f := range s.Routines {
			if slices.Contains(f.Touches, self) || slices.Contains(f.Needs, self) {
				d.ReadBy = append(d.ReadBy, f.Kind+" "+s.Name+"."+f.Signature())
			}
		}
	}
	d.Storage = columnStorage(can, t)
	return d
}

func reference(e catalog.Expressions, t *catalog.Table, f *catalog.ForeignKey, how string) Reference {
	r := Reference{Lacks: lacking(f.NotValidated, f.NotEnforced, f.Disabled), Period: f.Period, Name: f.Name, From: t.Ref(), Columns: f.Columns, To: f.Target, TargetColumns: f.TargetColumns, OnDelete: f.OnDelete, OnUpdate: f.OnUpdate,
		Each: "one", Per: "many", How: how, Indexed: t.FindsRows(f.Columns, e)}
	if !t.NotNull(f.Columns) {
		r.Each = "zero or one"
	}
	if t.UniqueOn(f.Columns) {
		r.Per = "zero or one"
	}
	return r
}

// Describe writes a table for people.
func (p *Page) Describe(d *Description) {
	t := d.Table
	parts := []string{string(t.Kind)}
	if t.Kind == catalog.Ordinary {
		parts = nil
	}
	if t.PartitionOf != nil {
		parts = append(parts, fmt.Sprintf("partition of %s %s", t.PartitionOf, t.Bounds))
	}
	parts = append(parts, t.Options...)
	for _, s := range []string{text.Rows(t.Stats.Rows, t.Stats.Exact), known(d.Bytes, text.Size), known(d.IndexBytes, func(n int64) string { return text.Size(n) + " of indexes" })} {
		if s != "" {
			parts = append(parts, s)
		}
	}
	p.printf("%s   %s\n", p.paint(bold, text.Line(t.Ref().String())), text.Line(strings.Join(parts, ", ")))
	if t.Comment != "" {
		p.block("  ", text.Line(t.Comment))
	}
	if note := d.Notes[""]; note != "" {
		p.block("  "+p.paint(dim, "note: "), text.Line(note))
	}
	p.columns(t, d.Notes)
	p.held(d)
	p.keys(d)
	p.spread(d)
	p.references(d, "Refers to", d.RefersTo, true)
	p.references(d, "Referred to by", d.ReferredToBy, false)
	p.indexes(t)
	if len(t.Checks) > 0 {
		p.heading("Checks")
		for _, k := range t.Checks {
			p.block("  "+pad(text.Line(k.Name), 24)+"  ", checkSays(k))
		}
	}
	if len(t.Exclusions) > 0 {
		p.heading("No two rows alike")
		for _, e := range t.Exclusions {
			p.block("  "+pad(text.Line(e.Name), 24)+"  ", text.Line(e.Definition))
		}
	}
	if t.PartitionBy != nil {
		p.heading(fmt.Sprintf("Partitioned by %s", text.Line(t.PartitionBy.Definition)))
		for _, part := range d.Partitions {
			p.block("  ", text.Line(part))
		}
	}
	if len(t.Triggers) > 0 {
		p.heading("Triggers")
		for _, g := range t.Triggers {
			p.block("  "+pad(text.Line(g.Name), 24)+"  ", text.Line(fires(g)))
		}
	}
	if len(t.Objects) > 0 {
		p.heading("Rules, policies, statistics")
		for _, o := range t.Objects {
			p.block("  "+pad(text.Line(o.Kind+" "+o.Name), 24)+"  ", text.Line(text.OneLine(o.Definition)))
		}
	}
	if len(d.ReadBy) > 0 {
		p.heading("Read by")
		p.block("  ", some(d.ReadBy, 40))
	}
	if len(t.Dependants) > 0 {
		p.heading("What leans on it")
		for _, x := range t.Dependants {
			p.block("  ", text.Line(fmt.Sprintf("%s %s: %s", x.Kind, x.Name, strings.Join(x.Columns, ", "))))
		}
	}
}

// spread tells how a table lies in a cluster, with a bar for the rows on each slice.
func (p *Page) spread(d *Description) {
	t := d.Table
	if t.Spread == nil {
		if t.SortKey != nil {
			p.heading("Clustered " + text.Line(t.SortKey.String()))
		}
		return
	}
	p.heading("In the cluster")
	rows := [][]string{{"spread", text.Line(t.Spread.String())}, {"sorted", text.Line(t.SortKey.String())}}
	if u := t.Stats.Unsorted; u != nil {
		rows = append(rows, []string{"out of order", fmt.Sprintf("%.0f %% of the rows", 100**u)})
	}
	if n := t.Stats.DeadRows; n != nil && *n > 0 {
		rows = append(rows, []string{"gone, not reclaimed", text.Plural(*n, "row")})
	}
	if s := t.Stats.Stale; s != nil {
		rows = append(rows, []string{"figures off by", fmt.Sprintf("%.0f %%", 100**s)})
	}
	most := int64(1)
	for _, n := range t.Stats.Slices {
		most = max(most, n)
	}
	if len(t.Stats.Slices) <= 32 {
		for i, n := range t.Stats.Slices {
			rows = append(rows, []string{fmt.Sprintf("slice %d", i), fmt.Sprintf("%-20s %s", bar(n, most), text.Plural(n, "row"))})
		}
	}
	if skew := t.Skew(); skew > 0 && t.Spread.Style != "all" {
		rows = append(rows, []string{"fullest slice", fmt.Sprintf("%.2f times the mean", skew)})
	}
	p.rows(nil, nil, rows)
	p.storage(d.Storage)
}

// bar is a bar of up to twenty cells.
func bar(n, most int64) string { return strings.Repeat("▇", int(20*n/max(1, most))) }

// fires says when a trigger fires and what it does.
func fires(g *catalog.Trigger) string {
	if g.Timing == "" {
		return text.OneLine(g.Definition)
	}
	says := g.Timing + " " + strings.Join(g.Events, " or ")
	if g.PerRow {
		says += " of each row"
	}
	if g.Calls != "" {
		says += ", calls " + g.Calls
	} else {
		says += ": " + text.OneLine(g.Definition)
	}
	if g.Enabled != "" {
		says += " (" + g.Enabled + ")"
	}
	return says
}

func (p *Page) columns(t *catalog.Table, said map[string]string) {
	heading := "Columns"
	if t.Observed && t.Stats.Looked != nil {
		heading += "   as seen in " + text.Plural(*t.Stats.Looked, "row")
	}
	p.heading(heading)
	var rows [][]string
	for i, c := range t.Columns {
		null := ""
		if c.Nullable {
			null = "may be null"
		}
		notes := notesOf(c)
		if note := said[c.Name]; note != "" {
			notes = append(notes, "note: "+note)
		}
		rows = append(rows, []string{p.paint(dim, fmt.Sprint(i+1)), text.Line(c.Name), text.Line(c.Type.Native), p.paint(dim, null), p.marks(t, c.Name), text.Line(strings.Join(notes, "; "))})
	}
	p.rows(nil, []int{1}, rows)
}

// lacking says what a constraint lacks that not all rows are known to keep.
func lacking(notValidated, notEnforced, off bool) []string {
	var all []string
	switch {
	case notEnforced:
		all = append(all, "not enforced")
	case notValidated:
		all = append(all, "not validated")
	}
	if off {
		all = append(all, "switched off")
	}
	return all
}

// checkSays is the condition, and what it lacks.
func checkSays(k *catalog.Check) string {
	return text.Line(strings.Join(append([]string{k.Expression}, lacking(k.NotValidated, k.NotEnforced, false)...), ", "))
}

// notesOf is what else there is to say of a column.
func notesOf(c *catalog.Column) []string {
	var notes []string
	if says := numbered(c); says != "" {
		notes = append(notes, says)
	}
	if c.NotNull != nil && c.NotNull.NotValidated {
		notes = append(notes, "null forbidden, rows not checked")
	}
	if c.Invisible {
		notes = append(notes, "left out of SELECT *")
	}
	if c.OnUpdate != "" {
		notes = append(notes, "set to "+c.OnUpdate+" by every change")
	}
	if c.Default != "" && c.Identity == catalog.NoIdentity && c.Sequence == nil {
		notes = append(notes, "default "+c.Default)
	}
	if c.Generated != "" {
		notes = append(notes, map[bool]string{true: "stored as ", false: "computed as "}[c.Stored]+c.Generated)
	}
	if c.Encoding != "" {
		notes = append(notes, "encoded "+c.Encoding)
	}
	if c.Type.Collation != "" {
		notes = append(notes, "collate "+c.Type.Collation)
	}
	notes = append(notes, seen(c)...)
	if c.Comment != "" {
		notes = append(notes, c.Comment)
	}
	return notes
}

// seen says what rows were seen to hold of a column that nothing declares.
func seen(c *catalog.Column) []string {
	var notes []string
	if a := c.Stats.Absent; a != nil && *a > 0 {
		of := ""
		if c.Within != "" {
			of = " of those with " + c.Within
		}
		notes = append(notes, "in "+text.Portion(1-*a)+of)
	}
	if c.Stats.Types != nil && len(*c.Stats.Types) > 1 {
		var parts []string
		for _, s := range *c.Stats.Types {
			parts = append(parts, s.Of+" "+text.Portion(s.Part))
		}
		notes = append(notes, strings.Join(parts, ", "))
	}
	if c.Stats.Items != nil {
		notes = append(notes, "up to "+text.Plural(*c.Stats.Items, "value")+" in a row")
	}
	return notes
}

// numbered says where a column's numbers come from.
func numbered(c *catalog.Column) string {
	switch c.Identity {
	case catalog.IdentityAlways:
		return "numbered, always"
	case catalog.IdentityByDefault:
		return "numbered by default"
	case catalog.IdentityRowid:
		return "numbered (rowid)"
	case catalog.IdentityCounter:
		return "numbered, never reused"
	}
	switch {
	case c.Sequence != nil && c.Default == "":
		return "numbered by a trigger from " + c.Sequence.Table
	case c.Sequence != nil:
		return "numbered from " + c.Sequence.Table
	case c.Identity == catalog.IdentitySequence:
		return "numbered by a sequence"
	}
	return ""
}

// marks says what keys a column is part of.
func (p *Page) marks(t *catalog.Table, name string) string {
	var marks []string
	if t.PrimaryKey != nil && slices.Contains(t.PrimaryKey.Columns, name) {
		marks = append(marks, p.paint(bold, "primary key"))
	}
	for _, k := range t.UniqueKeys {
		if slices.Contains(k.Columns, name) {
			marks = append(marks, "unique")
			break
		}
	}
	for _, f := range t.ForeignKeys {
		if i := slices.Index(f.Columns, name); i >= 0 && i < len(f.TargetColumns) {
			marks = append(marks, text.Line("→ "+f.Target.Table+"."+f.TargetColumns[i]))
		}
	}
	for _, f := range t.Accepted {
		if i := slices.Index(f.Columns, name); i >= 0 {
			marks = append(marks, text.Line("⇢ "+f.Target.Table+"."+f.TargetColumns[i]))
		}
	}
	return strings.Join(marks, ", ")
}

func (p *Page) keys(d *Description) {
	t := d.Table
	p.heading("Keys")
	if len(t.Keys()) == 0 {
		p.block("  ", "none")
		return
	}
	var rows [][]string
	for _, k := range t.Keys() {
		kind, behind := "unique", "index "+k.Index
		if k == t.PrimaryKey {
			kind = "primary"
		}
		if k.Index == "" {
			behind = "the table's own order"
		}
		if d.can.KeysUnenforced {
			behind = "not enforced"
		}
		columns := "(" + strings.Join(k.Columns, ", ") + ")"
		if k.WithoutOverlaps {
			columns += " without overlaps"
		}
		rows = append(rows, []string{kind, text.Line(columns), text.Line(k.Name), p.paint(dim, text.Line(behind))})
	}
	p.rows(nil, nil, rows)
}

func (p *Page) references(d *Description, title string, list []Reference, out bool) {
	if len(list) == 0 {
		return
	}
	p.heading(title)
	var rows [][]string
	for _, r := range list {
		other, meets := r.To, fmt.Sprintf("each row has %s, %s", r.Each, map[string]string{"many": "many share it", "zero or one": "none shares it"}[r.Per])
		if !out {
			other, meets = r.From, map[string]string{"many": "any number for each row", "zero or one": "at most one for each row"}[r.Per]
		}
		rest := slices.Clone(r.Lacks)
		if r.How == "accepted" {
			rest = append(rest, "accepted: nothing declares it")
		}
		if r.Period {
			rest = append(rest, "by periods")
		}
		if r.OnDelete != catalog.NoAction {
			rest = append(rest, "on delete "+string(r.OnDelete))
		}
		if r.OnUpdate != catalog.NoAction {
			rest = append(rest, "on update "+string(r.OnUpdate))
		}
		if !r.Indexed && !d.can.Indexless {
			rest = append(rest, "no index")
		}
		rows = append(rows, []string{text.Line(other.Table), text.Line("(" + strings.Join(r.Columns, ", ") + ")"), meets, text.Line(strings.Join(rest, ", ")), p.paint(dim, text.Line(r.Name))})
	}
	p.rows(nil, nil, rows)
}

func (p *Page) indexes(t *catalog.Table) {
	if len(t.Indexes) == 0 {
		return
	}
	p.heading("Indexes")
	var rows [][]string
	for _, x := range t.Indexes {
		var parts []string
		for _, part := range x.Parts {
			s := part.Column
			if s == "" {
				s = part.Expression
			}
			if part.Length > 0 {
				s += fmt.Sprintf("(%d)", part.Length)
			}
			if part.Descending {
				s += " desc"
			}
			parts = append(parts, s)
		}
		what := "(" + strings.Join(parts, ", ") + ")"
		if len(x.Include) > 0 {
			what += " include (" + strings.Join(x.Include, ", ") + ")"
		}
		if x.Predicate != "" {
			what += " where " + x.Predicate
		}
		kind := x.Method
		if x.Unique {
			kind = "unique"
		}
		if x.Invalid {
			kind += ", not valid"
		}
		if x.Ignored {
			kind += ", not used"
		}
		made := "made by CREATE INDEX"
		if x.Origin != catalog.ByPerson {
			made = "behind the " + string(x.Origin)
		}
		rows = append(rows, []string{text.Line(x.Name), kind, p.paint(dim, made), known(x.Bytes, text.Size), text.Line(what)})
	}
	p.rows(nil, []int{4}, rows)
}
