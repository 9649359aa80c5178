package report

import (
	"context"
	_ "embed"
	"encoding/json"
	"fmt"
	"html/template"
	"io"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/draw"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

//go:embed sheet/report.html
var sheetHTML string

//go:embed sheet/report.css
var sheetCSS string

//go:embed sheet/report.js
var sheetJS string

// A Sheet is all that the page to hand on is made of.
type Sheet struct {
	Catalog   *catalog.Catalog
	Result    rule.Result
	Rules     []*rule.Rule
	Abilities catalog.Abilities
	Program   string // "nexdal 0.1.0"
	Engine    string // as its makers write it
	// SQL is the statements of a finding's fix, for people to copy; "" where there are
	// none to show.
	SQL func(f rule.Finding, fix rule.Fix) string
	// Scenes are the sheets of the diagram with their names, Pieces the neighbourhood of
	// each table.
	Scenes []*draw.Scene
	Names  []string
	Pieces map[catalog.Ref]*draw.Scene
	Legend []draw.Mark
	Notes  catalog.Notes // of people
	Call   Call          // that findings say what to type by
	// Known are the findings that a baseline holds, by identifier.
	Known map[string]bool
	// Moments are how many findings there were at earlier times, and are now; none: they are not
	// shown.
	Moments []Moment

	lookup *catalog.Lookup
}

// HTML writes one page that needs nothing else: data, script and style are in it, and it
// asks for nothing over a network. It ends early with the error of the context.
func (s *Sheet) HTML(ctx context.Context, w io.Writer) error {
	all, err := s.data(ctx)
	if err != nil {
		return err
	}
	data, err := json.Marshal(all) // < and & are written so that no tag can end the script
	if err != nil {
		return err
	}
	if err := ctx.Err(); err != nil {
		return err
	}
	t, err := template.New("report").Parse(sheetHTML)
	if err != nil {
		return err
	}
	return t.Execute(w, map[string]any{"Title": s.title(), "Style": template.CSS(sheetCSS), "Script": template.JS(sheetJS), "Data": template.JS(text.JSON(data)), "Program": s.Program})
}

func (s *Sheet) title() string {
	return text.Line(fmt.Sprintf("%s, %s %s, surveyed %s", s.Catalog.Database, s.Engine, s.Catalog.Release(), s.Catalog.Surveyed.UTC().Format("2006-01-02")))
}

type sheetFinding struct {
	Rule      string     `json:"rule"`
	Severity  string     `json:"severity"`
	Comes     string     `json:"comes"` // the consequence
	Known     bool       `json:"known,omitempty"`
	Commands  []string   `json:"commands,omitempty"`
	Table     string     `json:"table,omitempty"`
	Object    string     `json:"object,omitempty"`
	Message   string     `json:"message"`
	Certainty string     `json:"certainty"`
	Advice    string     `json:"advice,omitempty"`
	Decision  string     `json:"decision,omitempty"`
	Part      bool       `json:"part,omitempty"`
	Fixes     []sheetFix `json:"fixes,omitempty"`
	Why       string     `json:"why,omitempty"`
}

type sheetFix struct {
	Title string `json:"title"`
	Ask   bool   `json:"ask,omitempty"`
	SQL   string `json:"sql,omitempty"`
}

type sheetTable struct {
	ID         string        `json:"id"`
	Says       string        `json:"says"`
	Comment    string        `json:"comment,omitempty"`
	Note       string        `json:"note,omitempty"`
	Rows       *int64        `json:"rows"`
	Bytes      *int64        `json:"bytes"`
	IndexBytes *int64        `json:"index_bytes"`
	Columns    []sheetColumn `json:"columns"`
	Keys       [][]string    `json:"keys,omitempty"`
	To         [][]string    `json:"to"`
	By         [][]string    `json:"by"`
	Indexes    [][]any       `json:"indexes"`
	Checks     [][]string    `json:"checks,omitempty"`
	Partitions [][]string    `json:"partitions,omitempty"`
	Triggers   [][]string    `json:"triggers,omitempty"`
	Cluster    [][]string    `json:"cluster,omitempty"`
	Worst      string        `json:"worst,omitempty"`
	Findings   int           `json:"findings,omitempty"`
	Scene      *sheetScene   `json:"scene,omitempty"`
}

type sheetColumn struct {
	Name  string `json:"name"`
	Type  string `json:"type"`
	Null  bool   `json:"null,omitempty"`
	Mark  string `json:"mark,omitempty"`
	Notes string `json:"notes,omitempty"`
}

func (s *Sheet) data(ctx context.Context) (map[string]any, error) {
	rules := map[string]map[string]string{}
	for _, r := range s.Rules {
		if slices.ContainsFunc(s.Result.Findings, func(f rule.Finding) bool { return f.Rule == r.ID }) {
			rules[r.ID] = map[string]string{"title": r.Title, "doc": r.Doc}
		}
	}
	open := openOnly(s.Result.Findings)
	findings := []sheetFinding{}
	worst, count := map[catalog.Ref]rule.Severity{}, map[catalog.Ref]int{}
	for _, f := range rule.Stories(open) {
		if err := ctx.Err(); err != nil {
			return nil, err
		}
		findings = append(findings, s.finding(f))
		if w, ok := worst[f.Table]; !ok || f.Severity.AtLeast(w) {
			worst[f.Table] = f.Severity
		}
		count[f.Table]++
	}
	first := []sheetFinding{}
	for _, f := range First(open, Worth) {
		x := s.finding(f)
		x.Why = why(s.Catalog, f)
		x.Fixes = nil
		first = append(first, x)
	}
	summary := map[string]int{"set_aside": len(s.Result.Findings) - len(open)}
	for _, v := range rule.Severities {
		summary[string(v)] = s.Result.Count(v)
	}
	aside := []sheetFinding{}
	for _, f := range s.Result.Findings {
		if f.SetAside() {
			aside = append(aside, s.finding(f))
		}
	}
	for _, f := range open {
		if s.Known[f.ID()] {
			summary["known"]++
		}
	}
	unjudged := []map[string]any{}
	for _, u := range s.Result.Unjudged {
		unjudged = append(unjudged, map[string]any{"rule": u.Rule, "objects": u.Objects, "needs": u.Needs, "command": u.Command})
	}
	gaps := []map[string]string{}
	for _, g := range s.Catalog.Gaps {
		where := g.Schema
		if g.Table != "" {
			where += "." + g.Table
		}
		gaps = append(gaps, map[string]string{"where": where, "what": g.What, "why": g.Reason})
	}
	tables := []*sheetTable{}
	for _, t := range s.Catalog.Tables() {
		if err := ctx.Err(); err != nil {
			return nil, err
		}
		if t.PartitionOf == nil {
			x := s.table(t)
			x.Worst, x.Findings = string(worst[t.Ref()]), count[t.Ref()]
			tables = append(tables, x)
		}
	}
	sheets := []*sheetScene{}
	for i, sc := range s.Scenes {
		x := sceneOf(sc)
		x.Name = s.Names[i]
		sheets = append(sheets, x)
	}
	legend := [][]string{}
	for _, m := range s.Legend {
		legend = append(legend, []string{m.Fill, m.Says})
	}
	return map[string]any{"source": map[string]string{"says": s.says()}, "summary": summary, "rules": rules, "findings": findings, "first": first, "unjudged": unjudged, "chat": weigh(open, First(open, 1)), "moments": s.Moments, "aside": aside, "gaps": gaps,
		"tables": tables, "sheets": sheets, "legend": legend, "indexes": s.indexes(open),
		"palette": map[string]any{"light": paletteOf(draw.Light), "dark": paletteOf(draw.Dark)}}, nil
}

func paletteOf(t draw.Theme) map[string]any {
	return map[string]any{"paper": t.Paper, "body": t.Body, "line": t.Line, "edge": t.Edge, "fills": t.Fills, "ink": t.HeadInk}
}

func (s *Sheet) says() string {
	c, t := s.Catalog, Totals(s.Catalog)
	parts := []string{text.Plural(int64(t.Tables), "table"), text.Plural(int64(t.Columns), "column"), text.Plural(int64(t.ForeignKeys), "foreign key"), text.Rows(t.Rows, !t.Estimated), known(t.Bytes, text.Size)}
	parts = slices.DeleteFunc(parts, func(s string) bool { return s == "" })
	return text.Line(fmt.Sprintf("%s on %s %s, surveyed %s: %s.", c.Database, s.Engine, c.Release(), c.Surveyed.UTC().Format("2006-01-02 15:04 UTC"), strings.Join(parts, ", ")))
}

func (s *Sheet) finding(f rule.Finding) sheetFinding {
	x := sheetFinding{Rule: f.Rule, Severity: string(f.Severity), Comes: string(f.Consequence), Known: s.Known[f.ID()], Commands: s.Call.Next(f), Object: text.Line(f.Object), Message: text.Line(f.Message), Certainty: string(f.Certainty), Advice: text.Line(f.Advice), Part: f.Story != "" && f.Story != f.ID()}
	if f.Table.Table != "" {
		x.Table = text.Line(f.Table.String())
	}
	if d := f.Decision; d != nil {
		x.Decision = text.Line(strings.TrimSpace(fmt.Sprintf("decided: %s %s", d.Verdict, d.Fix)) + fmt.Sprintf(" by %s on %s", d.By, d.At))
		if d.Because != "" {
			x.Decision += text.Line(": " + d.Because)
		}
	}
	for i, fix := range f.Fixes {
		y := sheetFix{Title: text.Line(fix.Title), Ask: once(f, i) != ""}
		if s.SQL != nil {
			y.SQL = s.SQL(f, fix)
		}
		x.Fixes = append(x.Fixes, y)
	}
	return x
}

// why says why it is among the first, and what to do.
func why(c *catalog.Catalog, f rule.Finding) string {
	parts := []string{string(f.Consequence)}
	if t := c.Table(f.Table); t != nil && t.Stats.Rows != nil && *t.Stats.Rows > 0 {
		parts = append(parts, "at stake: "+text.Rows(t.Stats.Rows, t.Stats.Exact))
	}
	switch {
	case len(f.Fixes) > 0:
		parts = append(parts, "the fix: "+f.Fixes[0].Title)
	case f.Advice != "":
		parts = append(parts, f.Advice)
	}
	return text.Line(strings.Join(parts, "; "))
}

func (s *Sheet) table(t *catalog.Table) *sheetTable {
	if s.lookup == nil {
		s.lookup = s.Catalog.Lookup()
	}
	d := describe(s.Catalog, s.lookup, s.Abilities, t)
	x := &sheetTable{ID: text.Line(t.Ref().String()), Says: string(t.Kind), Comment: text.Line(t.Comment), Note: text.Line(s.Notes.Of(t.Ref(), "")), Rows: t.Stats.Rows, Bytes: t.Stats.Bytes, IndexBytes: t.Stats.IndexBytes, To: [][]string{}, By: [][]string{}, Indexes: [][]any{}}
	if t.Stats.Rows != nil {
		x.Says += ", " + text.Rows(t.Stats.Rows, t.Stats.Exact)
	}
	p := &Page{}
	for _, c := range t.Columns {
		notes := notesOf(c)
		if note := s.Notes.Of(t.Ref(), c.Name); note != "" {
			notes = append(notes, "note: "+note)
		}
		x.Columns = append(x.Columns, sheetColumn{text.Line(c.Name), text.Line(c.Type.Native), c.Nullable, p.marks(t, c.Name), text.Line(strings.Join(notes, "; "))})
	}
	for _, k := range t.Keys() {
		kind := "unique"
		if k == t.PrimaryKey {
			kind = "primary"
		}
		x.Keys = append(x.Keys, []string{kind, text.Line(strings.Join(k.Columns, ", ")), text.Line(k.Name)})
	}
	more := func(r Reference) string {
		var m []string
		if r.How == "accepted" {
			m = append(m, "accepted, and nothing declares it")
		}
		if r.OnDelete != catalog.NoAction {
			m = append(m, "on delete "+string(r.OnDelete))
		}
		if !r.Indexed && !d.can.Indexless {
			m = append(m, "no index")
		}
		return strings.Join(m, ", ")
	}
	for _, r := range d.RefersTo {
		x.To = append(x.To, []string{text.Line(strings.Join(r.Columns, ", ")), text.Line(r.To.String()), text.Line(strings.Join(r.TargetColumns, ", ")), "each has " + r.Each, more(r)})
	}
	for _, r := range d.ReferredToBy {
		x.By = append(x.By, []string{text.Line(r.From.String()), text.Line(strings.Join(r.Columns, ", ")), map[string]string{"many": "any number", "zero or one": "at most one"}[r.Per], more(r)})
	}
	for _, i := range t.Indexes {
		made := "CREATE INDEX"
		if i.Origin != catalog.ByPerson {
			made = "the " + string(i.Origin)
		}
		x.Indexes = append(x.Indexes, []any{text.Line(i.Name), text.Line(strings.Join(i.Columns(), ", ")), made, i.Bytes})
	}
	for _, k := range t.Checks {
		x.Checks = append(x.Checks, []string{text.Line(k.Name), checkSays(k)})
	}
	for _, part := range d.Partitions {
		name, bounds, _ := strings.Cut(part, " ")
		x.Partitions = append(x.Partitions, []string{text.Line(name), text.Line(bounds)})
	}
	for _, g := range t.Triggers {
		x.Triggers = append(x.Triggers, []string{text.Line(g.Name), text.Line(fires(g))})
	}
	if t.Spread != nil {
		x.Cluster = [][]string{{"spread", t.Spread.String()}, {"sorted", t.SortKey.String()}}
		if skew := t.Skew(); skew > 0 {
			x.Cluster = append(x.Cluster, []string{"fullest slice", fmt.Sprintf("%.2f times the mean", skew)})
		}
	}
	if t.Spread == nil && t.SortKey != nil {
		x.Cluster = [][]string{{"clustered", t.SortKey.String()}}
	}
	if piece := s.Pieces[t.Ref()]; piece != nil {
		x.Scene = sceneOf(piece)
	}
	return x
}

// indexes are the figures of the charts.
func (s *Sheet) indexes(findings []rule.Finding) map[string]any {
	type bar = []any
	sized := map[[2]string]int64{}
	var all, spare int64
	var largest []bar
	for _, t := range s.Catalog.Tables() {
		for _, x := range t.Indexes {
			if x.Bytes != nil {
				all += *x.Bytes
				sized[[2]string{t.Ref().String(), x.Name}] = *x.Bytes
				largest = append(largest, bar{text.Line(x.Name), *x.Bytes, text.Line(t.Ref().String())})
			}
		}
	}
	of := func(rules ...string) []bar {
		list := []bar{}
		for _, f := range findings {
			if n, ok := sized[[2]string{f.Table.String(), f.Object}]; ok && slices.Contains(rules, f.Rule) {
				list = append(list, bar{text.Line(f.Object), n, text.Line(f.Table.String())})
			}
		}
		return top(list)
	}
	redundant, unused := of("index/repeated", "index/prefix", "index/behind-key"), of("index/unused")
	for _, b := range redundant {
		spare += b[1].(int64)
	}
	says := fmt.Sprintf("All indexes together take %s", text.Size(all))
	if spare > 0 {
		says += fmt.Sprintf("; %s of them serve nothing that others do not", text.Size(spare))
	}
	if all == 0 {
		says = "The sizes of indexes were not read."
	}
	return map[string]any{"says": says, "largest": top(largest), "redundant": redundant, "unused": unused}
}

func top(list [][]any) [][]any {
	slices.SortStableFunc(list, func(a, b []any) int {
		x, y := a[1].(int64), b[1].(int64)
		switch {
		case x > y:
			return -1
		case x < y:
			return 1
		}
		return strings.Compare(a[0].(string), b[0].(string))
	})
	if len(list) > 30 {
		list = list[:30]
	}
	if list == nil {
		return [][]any{}
	}
	return list
}
