package cli

import (
	"context"
	"errors"
	"fmt"
	"io"
	"path/filepath"
	"runtime"
	"slices"
	"strings"

	"github.com/spf13/cobra"
	"golang.org/x/sync/errgroup"

	"nexdal/internal/catalog"
	"nexdal/internal/draw"
	"nexdal/internal/evidence"
	"nexdal/internal/job"
	"nexdal/internal/report"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

func (a *app) report() *cobra.Command {
	var output, data, form, baseline, history string
	c := &cobra.Command{
		Use:   "report SOURCE... -o FILE",
		Short: "Write one page to hand to the team that owns the database",
		Long: `Report writes all that is known on one page that needs nothing else: what was surveyed,
what to do first and why, every finding with its story, its evidence and its fix to
copy, a page for each table, the diagram with search and zoom, and what indexes take.
It opens from a mail attachment and asks for nothing over a network.

The name of FILE tells the form: .html, or .md for a wiki. Of several sources each gets
a page of its own, in the folder that -o names and in the form that --format names.`,
		Example: `  nexdal report saltmere.db -o saltmere.html
  nexdal report saltmere.json --evidence evidence.json -o saltmere.html
  nexdal report saltmere.json -o saltmere.md
  nexdal report live test -o pages`,
		Args: cobra.MinimumNArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			ending := filepath.Ext(output)
			if len(args) > 1 {
				ending = "." + form
			}
			if ending != ".html" && ending != ".md" {
				return wrong("the name of the file tells the form: give -o with a name that ends in .html or .md")
			}
			return a.several(cmd.Context(), args, output, ending, []string{"tables", "errors", "warnings", "notices"}, func(source, output string) ([]string, error) {
				return a.reported(cmd.Context(), source, data, output, ending, baseline, history)
			})
		},
	}
	c.Flags().StringVarP(&output, "output", "o", "", "file to write: .html or .md; of several sources, a folder")
	c.Flags().StringVar(&form, "format", "html", "html or md, of several sources")
	evidenceFlag(c.Flags(), &data)
	c.Flags().StringVar(&baseline, "baseline", "", "mark the findings that this file, of check --write-baseline, holds as known")
	c.Flags().StringVar(&history, "history", "", "folder of earlier surveys, or of findings of check --format json, to show how the numbers went")
	return c
}

// reported writes the page of one source.
func (a *app) reported(ctx context.Context, source, data, output, form, baseline, history string) ([]string, error) {
	of, err := a.judged(ctx, source, data, output)
	if err != nil {
		return nil, err
	}
	c, can, result := of.Catalog, of.Checker.Abilities, of.Result
	since, err := a.Since(baseline, of)
	if err != nil {
		return nil, err
	}
	moments, err := a.moments(ctx, history, of)
	if err != nil {
		return nil, err
	}
	notes, err := a.Notes(c)
	if err != nil {
		return nil, err
	}
	known := map[string]bool{}
	for _, f := range since.Known {
		known[f.ID()] = true
	}
	s := &report.Sheet{Catalog: c, Abilities: can, Result: result, Rules: of.Checker.Rules, Program: "nexdal " + version(), Engine: engineTitle(c.Engine.Name), Notes: notes, Call: a.again(of, data), Known: known, Moments: moments}
	if form == ".md" {
		err = a.emit(output, func(w io.Writer) error { s.Wiki(w); return nil })
	} else {
		s.SQL = job.Statements(c, can)
		if err := a.picture(ctx, s, c, of.Evidence, result); err != nil {
			return nil, err
		}
		err = a.emit(output, func(w io.Writer) error { return s.HTML(ctx, w) })
	}
	if err == nil {
		a.note("%s: %s, %s", output, text.Plural(int64(len(c.Tables())), "table"), text.Plural(int64(len(result.Findings)), "finding"))
	}
	row := []string{text.Amount(int64(len(c.Tables())))}
	for _, s := range rule.Severities {
		row = append(row, text.Amount(int64(result.Count(s))))
	}
	return row, err
}

// moments are how many findings there were at the times of the files in a folder, and are now.
// Files of other engines, and what is neither survey nor findings, are left out.
func (a *app) moments(ctx context.Context, folder string, of *job.Subject) ([]report.Moment, error) {
	if folder == "" {
		return nil, nil
	}
	paths, err := filepath.Glob(filepath.Join(folder, "*.json"))
	if err != nil || len(paths) == 0 {
		return nil, wrong("--history: there is no survey and no file of findings in %s", folder)
	}
	list := []report.Moment{report.MomentOf(of.Catalog, of.Result)}
	for _, path := range paths {
		if found, err := readFindings(path); err != nil {
			return nil, err
		} else if found != nil {
			if m, err := found.Moment(); err == nil && found.Engine() == of.Catalog.Engine.Name {
				list = append(list, m)
			}
			continue
		}
		c, err := job.ReadSurvey(path)
		if err != nil || c.Engine.Name != of.Catalog.Engine.Name {
			continue
		}
		if err := errors.Join(a.Narrow(c, ""), a.Accept(c, nil)); err != nil {
			continue // it holds none of the schemas that were asked for
		}
		result, err := a.Judge(ctx, c, nil)
		if err != nil {
			return nil, err
		}
		list = append(list, report.MomentOf(c, result))
	}
	return report.InOrder(list), nil
}

// perSheet is how many tables a sheet of the report's diagram holds.
const perSheet = 60

// mostPieces bounds the neighbourhood that is shown with a table.
const mostPieces = 12

// picture lays the diagram out, and for each table its neighbourhood.
func (a *app) picture(ctx context.Context, s *report.Sheet, c *catalog.Catalog, e *evidence.Evidence, result rule.Result) error {
	o := draw.Options{Content: draw.Columns, MostRows: 40, Lookup: c.Lookup(), Notes: s.Notes}
	if e != nil {
		o.Undeclared = undeclaredOf(e)
	}
	byFindings(result, &o)
	s.Legend = o.Legend
	var tables []catalog.Ref
	for _, t := range c.Tables() {
		if t.PartitionOf == nil {
			tables = append(tables, t.Ref())
		}
	}
	sheets := draw.Split(c, tables, perSheet)
	s.Scenes, s.Names = make([]*draw.Scene, len(sheets)), make([]string, len(sheets))
	piece := o
	piece.Content, piece.Legend, piece.Undeclared = draw.Keys, nil, nil
	pieces := make([]*draw.Scene, len(tables))
	g, ctx := errgroup.WithContext(ctx)
	g.SetLimit(runtime.GOMAXPROCS(0))
	lay := func(work func()) {
		g.Go(func() error {
			return guarded(func() error {
				if err := ctx.Err(); err != nil {
					return err
				}
				work()
				return nil
			})
		})
	}
	for i, refs := range sheets {
		lay(func() {
			s.Scenes[i] = draw.New(c, refs, o)
			s.Names[i] = fmt.Sprintf("%d: %s", i+1, text.Line(namesOf(refs)))
		})
	}
	for i, ref := range tables {
		lay(func() {
			near := neighbours(o.Lookup, ref)
			if len(near) > 1 && len(near) <= mostPieces {
				pieces[i] = draw.New(c, near, piece)
			}
		})
	}
	if err := g.Wait(); err != nil {
		return err
	}
	s.Pieces = map[catalog.Ref]*draw.Scene{}
	for i, ref := range tables {
		s.Pieces[ref] = pieces[i]
	}
	return nil
}

func namesOf(refs []catalog.Ref) string {
	var names []string
	for _, r := range refs[:min(3, len(refs))] {
		names = append(names, r.Table)
	}
	if len(refs) > 3 {
		names = append(names, "...")
	}
	return strings.Join(names, ", ")
}

// neighbours are a table and what it refers to and is referred to by.
func neighbours(lookup *catalog.Lookup, ref catalog.Ref) []catalog.Ref {
	t := lookup.Table(ref)
	all := []catalog.Ref{ref}
	add := func(r catalog.Ref) {
		if o := lookup.Table(r); o != nil && o.PartitionOf == nil && !slices.Contains(all, r) {
			all = append(all, r)
		}
	}
	for _, f := range append(slices.Clone(t.ForeignKeys), t.Accepted...) {
		add(f.Target)
	}
	for _, r := range append(slices.Clone(lookup.Referrers(ref)), lookup.Accepted(ref)...) {
		add(r.Table.Ref())
	}
	return all
}

func undeclaredOf(e *evidence.Evidence) []draw.Reference {
	var all []draw.Reference
	for _, r := range e.References {
		if !r.Declared && r.RowsChecked > 0 {
			all = append(all, draw.Reference{From: r.From(), To: r.To(), Columns: r.Columns, TargetNames: r.TargetColumns, Coverage: r.Coverage})
		}
	}
	return all
}
