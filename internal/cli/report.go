package cli

import (
	"context"
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
	var output, data string
	c := &cobra.Command{
		Use:   "report SOURCE -o FILE",
		Short: "Write one page to hand to the team that owns the database",
		Long: `Report writes all that is known on one page that needs nothing else: what was surveyed,
what to do first and why, every finding with its story, its evidence and its fix to
copy, a page for each table, the diagram with search and zoom, and what indexes take.
It opens from a mail attachment and asks for nothing over a network.

The name of FILE tells the form: .html, or .md for a wiki.`,
		Example: `  nexdal report saltmere.db -o saltmere.html
  nexdal report saltmere.json --evidence evidence.json -o saltmere.html
  nexdal report saltmere.json -o saltmere.md`,
		Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			form := filepath.Ext(output)
			if form != ".html" && form != ".md" {
				return wrong("the name of the file tells the form: give -o with a name that ends in .html or .md")
			}
			of, err := a.judged(cmd.Context(), args[0], data, output)
			if err != nil {
				return err
			}
			c, can, result := of.Catalog, of.Checker.Abilities, of.Result
			if form == ".md" {
				err = a.emit(output, func(w io.Writer) error {
					report.Wiki(w, c, can, result, of.Checker.Rules, engineTitle(c.Engine.Name))
					return nil
				})
			} else {
				s := &report.Sheet{Catalog: c, Abilities: can, Result: result, Rules: of.Checker.Rules, Program: "nexdal " + version(), Engine: engineTitle(c.Engine.Name), SQL: job.Statements(c, can)}
				if err := a.picture(cmd.Context(), s, c, of.Evidence, result); err != nil {
					return err
				}
				err = a.emit(output, func(w io.Writer) error { return s.HTML(cmd.Context(), w) })
			}
			if err == nil {
				fmt.Fprintf(a.err, "%s: %s, %s\n", output, text.Plural(int64(len(c.Tables())), "table"), text.Plural(int64(len(result.Findings)), "finding"))
			}
			return err
		},
	}
	c.Flags().StringVarP(&output, "output", "o", "", "file to write: .html or .md")
	c.Flags().StringVar(&data, "evidence", "", "evidence file from nexdal probe, for the rules that need it")
	return c
}

// perSheet is how many tables a sheet of the report's diagram holds.
const perSheet = 60

// mostPieces bounds the neighbourhood that is shown with a table.
const mostPieces = 12

// picture lays the diagram out, and for each table its neighbourhood.
func (a *app) picture(ctx context.Context, s *report.Sheet, c *catalog.Catalog, e *evidence.Evidence, result rule.Result) error {
	o := draw.Options{Content: draw.Columns, MostRows: 40, Lookup: c.Lookup()}
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
