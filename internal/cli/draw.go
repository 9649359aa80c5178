package cli

import (
	"context"
	"fmt"
	"io"
	"maps"
	"path/filepath"
	"slices"
	"strings"

	"github.com/spf13/cobra"

	"nexdal/internal/catalog"
	"nexdal/internal/draw"
	"nexdal/internal/evidence"
	"nexdal/internal/job"
	"nexdal/internal/rule"
	"nexdal/internal/rule/house"
	"nexdal/internal/text"
)

// drawing is what a diagram was asked to show.
type drawing struct {
	output, data, content, notation, colour, where, theme, around, scope, title string
	steps, sheet, rows                                                          int
	scale                                                                       float64
}

func (a *app) draw() *cobra.Command {
	var d drawing
	c := &cobra.Command{
		Use:   "draw SOURCE [PATTERN...] -o FILE",
		Short: "Draw the tables and how they refer to one another",
		Long: `Draw makes a diagram of the tables that are named, of a neighbourhood (--around TABLE
--steps 2), of a scope from the settings, or of all of them. References that are
declared are drawn solid; those that were accepted, or that the evidence shows, dashed.
The end of a line tells how many rows meet: crow's feet for many, a bar for one, a ring
for none. Partitions are part of their table, schemas are frames.

The name of FILE tells the form: .svg, .png, .dot (for Graphviz) or .mmd (Mermaid).
More tables than one sheet holds (--sheet) are split by how tightly they hang together;
FILE is then the index, and the sheets come beside it.

Colour means what --shade says: the worst finding of each table, its size, its schema,
or whether a condition of your own holds (--where, as in house rules).`,
		Example: `  nexdal draw saltmere.db -o saltmere.svg
  nexdal draw saltmere.json --around visit --steps 1 --content keys -o visit.png
  nexdal draw saltmere.json --evidence evidence.json --theme dark -o saltmere.svg
  nexdal draw saltmere.json --where 'table.rows > 1000' -o large.svg`,
		Args: cobra.MinimumNArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			for _, x := range []struct {
				flag, value string
				of          []string
			}{{"content", d.content, []string{"columns", "keys", "names"}}, {"notation", d.notation, []string{"feet", "arrows"}}, {"shade", d.colour, []string{"findings", "size", "schema", "none"}}, {"theme", d.theme, []string{"light", "dark"}}} {
				if !slices.Contains(x.of, x.value) {
					return wrong("--%s takes %s, not %q", x.flag, strings.Join(x.of, ", "), x.value)
				}
			}
			form := strings.TrimPrefix(filepath.Ext(d.output), ".")
			if !slices.Contains([]string{"svg", "png", "dot", "mmd"}, form) {
				return wrong("the name of the file tells the form: give -o with a name that ends in .svg, .png, .dot or .mmd")
			}
			if d.steps < 0 || d.sheet < 1 || d.scale <= 0 || d.scale > 8 {
				return wrong("--steps and --sheet take numbers of their own, and --scale one up to 8")
			}
			c, err := a.read(cmd.Context(), args[0], d.output)
			if err != nil {
				return err
			}
			e, err := a.Evidence(d.data, args[0], c)
			if err != nil {
				return err
			}
			return a.drawn(cmd.Context(), c, e, args[1:], d, form)
		},
	}
	f := c.Flags()
	f.StringVarP(&d.output, "output", "o", "", "file to write: .svg, .png, .dot or .mmd")
	evidenceFlag(f, &d.data)
	f.StringVar(&d.content, "content", "columns", "what stands in a box: columns, keys or names")
	f.StringVar(&d.notation, "notation", "feet", "how the ends of lines tell how many: feet, or arrows that only point to the table referred to")
	f.StringVar(&d.colour, "shade", "findings", "what colour means: findings, size, schema or none")
	f.StringVar(&d.where, "where", "", "a condition on table, as in house rules: what meets it stands out")
	f.StringVar(&d.theme, "theme", "light", "light or dark")
	f.StringVar(&d.around, "around", "", "only this table and its neighbourhood")
	f.IntVar(&d.steps, "steps", 1, "how many references from --around the neighbourhood reaches")
	f.StringVar(&d.scope, "scope", "", "only the tables of this scope of the settings")
	f.IntVar(&d.sheet, "sheet", 60, "tables that one sheet holds")
	f.IntVar(&d.rows, "columns", 40, "columns of one table that are shown; 0: all")
	f.Float64Var(&d.scale, "scale", 1, "how many pixels of a PNG for one of the drawing")
	f.StringVar(&d.title, "title", "", "what stands above (default: the database and when it was surveyed)")
	return c
}

// sceneOf lays a sheet out. Of thousands of tables that takes minutes: where the context
// ends before, it is not waited for, and ends with the program.
func sceneOf(ctx context.Context, c *catalog.Catalog, tables []catalog.Ref, o draw.Options) (*draw.Scene, error) {
	var s *draw.Scene
	done := make(chan error, 1)
	go func() {
		done <- guarded(func() error {
			s = draw.New(c, tables, o)
			return ctx.Err()
		})
	}()
	select {
	case err := <-done:
		return s, err
	case <-ctx.Done():
		return nil, ctx.Err()
	}
}

func (a *app) drawn(ctx context.Context, c *catalog.Catalog, e *evidence.Evidence, patterns []string, d drawing, form string) error {
	tables, err := a.shown(c, patterns, d)
	if err != nil {
		return err
	}
	o, err := a.drawOptions(ctx, c, e, d)
	if err != nil {
		return err
	}
	theme := draw.Light
	if d.theme == "dark" {
		theme = draw.Dark
	}
	sheets := draw.Split(c, tables, d.sheet)
	if form == "dot" || form == "mmd" {
		sheets = [][]catalog.Ref{tables}
	}
	lacking := 0
	put := func(path string, s *draw.Scene) error {
		lacking += s.Lacking
		return a.emit(path, func(w io.Writer) error {
			switch form {
			case "png":
				took, err := s.PNG(w, theme, d.scale)
				if took < d.scale {
					fmt.Fprintf(a.err, "%s: painted at a scale of %.2f: it would be too large otherwise\n", path, took)
				}
				return err
			case "dot":
				return s.DOT(w)
			case "mmd":
				return draw.Mermaid(w, c, s)
			}
			return s.SVG(w, theme)
		})
	}
	if len(sheets) == 1 {
		s, err := sceneOf(ctx, c, sheets[0], o)
		if err != nil {
			return err
		}
		if err := put(d.output, s); err != nil {
			return err
		}
	} else {
		name := func(i int) string { return job.Beside(d.output, fmt.Sprint(i+1)) }
		if err := put(d.output, draw.Index(c, sheets, o.Title, func(i int) string { return filepath.Base(name(i)) })); err != nil {
			return err
		}
		for i, refs := range sheets {
			sheet := o
			sheet.Title = fmt.Sprintf("%s, sheet %d of %d", o.Title, i+1, len(sheets))
			s, err := sceneOf(ctx, c, refs, sheet)
			if err != nil {
				return err
			}
			if err := put(name(i), s); err != nil {
				return err
			}
		}
	}
	fmt.Fprintf(a.err, "%s: %s", d.output, text.Plural(int64(len(tables)), "table"))
	if len(sheets) > 1 {
		fmt.Fprintf(a.err, " on %s, and an index of them", text.Plural(int64(len(sheets)), "sheet"))
	}
	fmt.Fprintln(a.err)
	if lacking > 0 && form == "png" {
		fmt.Fprintf(a.err, "%s names with letters that the picture's font lacks; an SVG shows them\n", text.Clause(int64(lacking), "table", "has", "have"))
	}
	return nil
}

// shown lists the tables that are to be drawn.
func (a *app) shown(c *catalog.Catalog, patterns []string, d drawing) ([]catalog.Ref, error) {
	if d.scope != "" {
		s, err := a.Settings()
		if err != nil {
			return nil, err
		}
		if s.Scopes[d.scope] == nil {
			names := slices.Sorted(maps.Keys(s.Scopes))
			if near := text.Nearest(d.scope, names); near != "" {
				return nil, wrong("the settings name no scope %q; nearest is %s", d.scope, near)
			}
			return nil, wrong("the settings name no scope %q", d.scope)
		}
		for _, p := range s.Scopes[d.scope] {
			if _, err := matching(c, p); err != nil {
				a.note("scope %s: %v", d.scope, err)
				continue
			}
			patterns = append(patterns, p)
		}
		if len(patterns) == 0 {
			return nil, wrong("scope %s: no table is among those named; nothing to draw", d.scope)
		}
	}
	var refs []catalog.Ref
	named, err := among(c, patterns)
	if err != nil {
		return nil, err
	}
	for _, ref := range named {
		if t := c.Table(ref); t.PartitionOf == nil {
			refs = append(refs, ref)
		}
	}
	if d.around != "" {
		if refs, err = around(c, d.around, d.steps); err != nil {
			return nil, err
		}
	}
	switch {
	case len(c.Tables()) == 0:
		return nil, wrong("there are no tables, or the account may see none; nothing to draw")
	case len(refs) == 0:
		return nil, wrong("no table is among those named; nothing to draw")
	}
	return refs, nil
}

// around are the tables that so many references lead to from those of a name.
func around(c *catalog.Catalog, name string, steps int) ([]catalog.Ref, error) {
	lookup := c.Lookup()
	reached, err := among(c, []string{name})
	if err != nil {
		return nil, err
	}
	seen := map[catalog.Ref]bool{}
	for _, ref := range reached {
		seen[ref] = true
	}
	for range steps {
		var next []catalog.Ref
		add := func(ref catalog.Ref) {
			if t := lookup.Table(ref); t != nil && t.PartitionOf == nil && !seen[ref] {
				seen[ref] = true
				next = append(next, ref)
			}
		}
		for _, ref := range reached {
			t := lookup.Table(ref)
			for _, f := range append(slices.Clone(t.ForeignKeys), t.Accepted...) {
				add(f.Target)
			}
			for _, r := range append(slices.Clone(lookup.Referrers(ref)), lookup.Accepted(ref)...) {
				add(r.Table.Ref())
			}
		}
		reached = next
	}
	var all []catalog.Ref
	for ref := range seen {
		all = append(all, ref)
	}
	slices.SortFunc(all, catalog.Ref.Compare)
	return all, nil
}

func (a *app) drawOptions(ctx context.Context, c *catalog.Catalog, e *evidence.Evidence, d drawing) (draw.Options, error) {
	o := draw.Options{Title: d.title, Content: draw.Content(d.content), Arrows: d.notation == "arrows", MostRows: d.rows}
	if o.Title == "" {
		o.Title = text.Line(fmt.Sprintf("%s, %s %s, surveyed %s", c.Database, engineTitle(c.Engine.Name), c.Release(), c.Surveyed.Format("2006-01-02")))
	}
	if e != nil {
		o.Undeclared = undeclaredOf(e)
	}
	var err error
	if o.Notes, err = a.Notes(c); err != nil {
		return o, err
	}
	if d.where != "" {
		return o, a.meeting(ctx, c, d.where, &o)
	}
	switch d.colour {
	case "findings":
		result, err := a.Judge(ctx, c, e)
		if err != nil {
			return o, err
		}
		byFindings(result, &o)
	case "size":
		bySize(c, &o)
	case "schema":
		bySchema(c, &o)
	}
	return o, nil
}

// byFindings colours by the worst finding of each table.
func byFindings(result rule.Result, o *draw.Options) {
	worst := map[catalog.Ref]rule.Severity{}
	count := map[catalog.Ref]int64{}
	for _, f := range result.Findings {
		if f.SetAside() {
			continue
		}
		count[f.Table]++
		if s, ok := worst[f.Table]; !ok || f.Severity.AtLeast(s) {
			worst[f.Table] = f.Severity
		}
	}
	o.Fill = func(t *catalog.Table) string {
		if s, ok := worst[t.Ref()]; ok {
			return string(s)
		}
		return "sound"
	}
	o.Says = func(t *catalog.Table) string {
		if n := count[t.Ref()]; n > 0 {
			return text.Plural(n, "finding") + ", the worst " + map[rule.Severity]string{rule.Error: "an error", rule.Warning: "a warning", rule.Notice: "a notice"}[worst[t.Ref()]]
		}
		return "nothing found"
	}
	o.Legend = []draw.Mark{{Fill: "error", Says: "worst finding: error"}, {Fill: "warning", Says: "warning"}, {Fill: "notice", Says: "notice"}, {Fill: "sound", Says: "nothing found"}}
}

// bySize colours by bytes, or by rows where bytes are not known, in powers of a hundred.
func bySize(c *catalog.Catalog, o *draw.Options) {
	step := func(n int64) int {
		k := 1
		for limit := int64(1_000); k < 5 && n >= limit; limit *= 100 {
			k++
		}
		return k
	}
	o.Fill = func(t *catalog.Table) string {
		if t.Stats.Rows == nil {
			return "plain"
		}
		return fmt.Sprintf("size%d", step(*t.Stats.Rows))
	}
	o.Legend = []draw.Mark{{Fill: "size1", Says: "up to 1,000 rows"}, {Fill: "size2", Says: "100,000"}, {Fill: "size3", Says: "10,000,000"}, {Fill: "size4", Says: "1,000,000,000"}, {Fill: "size5", Says: "more"}}
}

func bySchema(c *catalog.Catalog, o *draw.Options) {
	fill := map[string]string{}
	for i, s := range c.Schemas {
		fill[s.Name] = fmt.Sprint(i%8 + 1)
		if i < 8 && len(s.Tables) > 0 {
			o.Legend = append(o.Legend, draw.Mark{Fill: fill[s.Name], Says: text.Line(s.Name)})
		}
	}
	o.Fill = func(t *catalog.Table) string { return fill[t.Schema] }
}

// meeting colours the tables that meet a condition.
func (a *app) meeting(ctx context.Context, c *catalog.Catalog, condition string, o *draw.Options) error {
	definition := &house.Definition{ID: "house/where", For: "table", When: condition, Message: "meets it"}
	r, _, err := definition.Compile()
	if err != nil {
		return wrong("--where: %v", err)
	}
	can, err := job.Abilities(c)
	if err != nil {
		return err
	}
	meets := map[catalog.Ref]bool{}
	for _, f := range (rule.Checker{Abilities: can, Rules: []*rule.Rule{r}}).Run(ctx, c).Findings {
		meets[f.Table] = true
	}
	o.Fill = func(t *catalog.Table) string { return map[bool]string{true: "yes", false: "no"}[meets[t.Ref()]] }
	o.Legend = []draw.Mark{{Fill: "yes", Says: text.Line(condition)}, {Fill: "no", Says: "does not hold"}}
	return nil
}
