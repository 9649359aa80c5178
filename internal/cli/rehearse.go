package cli

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"slices"
	"strings"

	"github.com/spf13/cobra"

	"nexdal/internal/catalog"
	"nexdal/internal/compare"
	"nexdal/internal/engine"
	"nexdal/internal/engine/all"
	"nexdal/internal/evidence"
	"nexdal/internal/job"
	"nexdal/internal/report"
	"nexdal/internal/rule"
	"nexdal/internal/run"
	"nexdal/internal/script"
	"nexdal/internal/text"
)

// rehearsing is one rehearsal, as its flags have it.
type rehearsing struct {
	*app
	on, scratch, data string
	rows              int
	form, output      string
	record            *report.Record
}

func (a *app) rehearse() *cobra.Command {
	r := &rehearsing{app: a}
	c := &cobra.Command{
		Use:   "rehearse SCRIPT",
		Short: "Carry a script out where it cannot hurt",
		Long: `Rehearse shows what a script will do, in two ways.

On the model: the structure that the script was made for and the one that it is to
lead to, which stand beside it as survey files, are both judged by the rules: which
findings go, which stay, and which are new.

On an empty twin: a database of the same structure and without rows is built, the
script is carried out there, and the reversal after it. What the engine then reports
has to be what the model says, and after the reversal what there was before. For
SQLite the twin is a file in a temporary folder. For a server give one where databases
may be made with --scratch; what the rehearsal makes there it takes away again. A
MariaDB twin has the very names of the databases, so that its server must not have
any of them.

For Oracle, where no outsider may make a database as a rule, the twin is a simulated
dictionary: it reads the script line by line as SQL*Plus does, and refuses what is
misspelt or what the structure does not bear. No server has seen the script then. With
-o the capture that it gives after the script is kept: a SOURCE to go on with.

With --on, the twin is built by a survey of that source in place of the file beside
the script, and with --sample it gets the first rows of each table from there, those
whose parents are among them; then their number is looked at after each script. The
source is only read.

The exit status is 1 where the script does not reach its end, or leads elsewhere.`,
		Example: `  nexdal rehearse fix.sql
  nexdal rehearse fix.sql --scratch postgres://dba@test1/postgres
  nexdal rehearse fix.sql --on postgres://dba@db1/saltmere --scratch postgres://dba@test1/postgres
  nexdal rehearse fix.sql --on saltmere.db --sample 1000
  nexdal rehearse fix.sql --scratch mariadb://dba@test1
  nexdal rehearse fix.sql --on result.txt -o after.txt`,
		Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			switch {
			case r.rows < 0:
				return wrong("--sample takes a number from 0 on")
			case r.rows > 0 && r.on == "":
				return wrong("--sample needs the database that the rows come from: --on SOURCE")
			}
			if err := format(r.form, "text", "json"); err != nil {
				return err
			}
			if err := r.scratchServer(); err != nil {
				return err
			}
			r.record = report.NewRecord("rehearsal", args[0])
			return r.recorded(r.form, r.record, func() error { return r.script(cmd.Context(), args[0]) })
		},
	}
	f := c.Flags()
	f.StringVar(&r.on, "on", "", "survey this source for the structure to build the twin by")
	f.StringVar(&r.scratch, "scratch", "", "URL of a server where the twin may be made")
	f.IntVar(&r.rows, "sample", 0, "with --on: give the twin the first rows of each table, at most so many")
	evidenceFlag(f, &r.data)
	f.StringVarP(&r.output, "output", "o", "", "where a simulated dictionary takes the place of a server: write the capture that it gives after the script")
	f.StringVar(&r.form, "format", "text", "text, or json: what came of it, at the end, for programs")
	return c
}

// scratchServer is where twins may be made: by the call, the settings for the source, or the
// environment.
func (r *rehearsing) scratchServer() error {
	x, err := r.Named(r.on)
	r.scratch = cmp.Or(r.scratch, x.Scratch, os.Getenv(job.ScratchVariable))
	return err
}

func (r *rehearsing) script(ctx context.Context, path string) error {
	s, _, err := job.ReadScript(path)
	if err != nil {
		return err
	}
	before, after, err := r.structures(ctx, path, s)
	if err != nil {
		return err
	}
	p := r.page(r.out)
	short := false
	if after != nil {
		if short, err = r.onModel(ctx, p, s, before, after); err != nil {
			return err
		}
	} else {
		p.Say("Nothing can be foretold: the survey file that stood beside the script is gone")
	}
	again, err := r.onTwin(ctx, p, path, s, before, after)
	if err != nil {
		return err
	}
	if short || again {
		return shortError{}
	}
	return nil
}

// structures are those that the script was made for and is to lead to; the
// second is nil where nothing tells.
func (r *rehearsing) structures(ctx context.Context, path string, s *script.Script) (before, after *catalog.Catalog, err error) {
	if r.on != "" {
		if before, err = r.Catalog(ctx, r.on); err != nil {
			return nil, nil, err
		}
	} else if before, err = job.Companion(path, s.Before); err != nil {
		return nil, nil, err
	}
	switch {
	case before == nil && s.Before == "" && s.Creates():
		before = &catalog.Catalog{Engine: s.Engine, Database: s.Database}
	case before == nil:
		return nil, nil, wrong("the survey file that stood beside %s is gone; name the source that it was made for with --on", path)
	case before.Engine.Name != s.Engine.Name:
		return nil, nil, wrong("%s was written for %s, and the source is %s", path, s.Engine.Name, before.Engine.Name)
	case !s.Fits(before):
		return nil, nil, wrong("the tables that %s alters are not as they were when it was made; write the script again", path)
	}
	after, err = job.Companion(path, s.After)
	return before, after, err
}

// onModel judges both structures; short: a finding that the script answers is
// still there, or a new one came.
func (r *rehearsing) onModel(ctx context.Context, p *report.Page, s *script.Script, before, after *catalog.Catalog) (short bool, err error) {
	e, err := r.Evidence(r.data, r.on, before)
	if err != nil {
		return false, err
	}
	was, err := r.judged(ctx, before, e)
	if err != nil {
		return false, err
	}
	is, err := r.judged(ctx, after, e)
	if err != nil {
		return false, err
	}
	p.Head("On the model")
	short = p.Foretold(answersOf(s), was, is) > 0
	r.record.Findings(answersOf(s), func(string) bool { return false }, was, is)
	r.record.Begin("the model", s.Steps, 1)
	r.record.Outcome = "not rehearsed"
	p.Moves(compare.Catalogs(before.Comparable(), after.Comparable(), compare.Options{}))
	return short, nil
}

func (r *rehearsing) judged(ctx context.Context, c *catalog.Catalog, e *evidence.Evidence) (rule.Result, error) {
	if err := r.Accept(c, e); err != nil {
		return rule.Result{}, err
	}
	return r.Judge(ctx, c, e)
}

// onTwin carries the script out on an empty database.
func (r *rehearsing) onTwin(ctx context.Context, p *report.Page, path string, s *script.Script, before, after *catalog.Catalog) (short bool, err error) {
	stage, ok := all.ByName(s.Engine.Name).(engine.Rehearser)
	paper := papers[s.Engine.Name]
	if !ok && paper != nil {
		stage, ok = paper, true
	}
	if r.output != "" && paper == nil {
		return false, wrong("-o is for rehearsals on a simulated dictionary, and %s is rehearsed on a database of its own", s.Engine.Name)
	}
	if !ok {
		p.Head("On an empty twin")
		p.Say(fmt.Sprintf("not rehearsed: no twin can be made of engine %q", s.Engine.Name))
		return false, nil
	}
	if _, isFile := stage.(engine.FileOpener); !isFile && paper == nil && r.scratch == "" {
		p.Head("On an empty twin")
		p.Say("not rehearsed: give a server where a database may be made, with --scratch")
		return false, nil
	}
	var back *script.Script
	if s.Reversal != "" && s.Back == "reversal" {
		if back, _, err = job.ReadScript(filepath.Join(filepath.Dir(path), filepath.Base(s.Reversal))); err != nil {
			back = nil // there may be none, as for a script that builds a structure
		}
	}
	var sample *run.Sample
	if r.rows > 0 {
		of, err := r.Open(ctx, r.on, false)
		if err != nil {
			return false, err
		}
		defer of.Close()
		reader, ok := of.(engine.Runner)
		if !ok {
			return false, wrong("no rows can be read from %s", engine.Redact(r.on))
		}
		sample = &run.Sample{Of: reader, Most: r.rows}
	}
	x, err := run.Rehearse(ctx, stage, r.scratch, before, s, back, sample)
	if err != nil {
		if ctx.Err() != nil || !errors.As(err, new(*engine.SourceError)) {
			return false, shortError{err.Error()}
		}
		return false, err
	}
	p.Head("On an empty twin, " + x.Place)
	r.record.Place, r.record.Outcome = x.Place, "complete"
	if paper != nil {
		p.Say("simulated: no " + paper.Title() + " has seen the script")
	}
	for _, l := range x.Losses {
		p.Say(fmt.Sprintf("without %s: %s", l.What, l.Why))
	}
	for _, u := range x.Unbuilt {
		statement, _, _ := strings.Cut(u.SQL, "\n")
		p.Say(fmt.Sprintf("could not be built: %s: %s", statement, u.Err))
	}
	for _, m := range x.Mended {
		p.Say(fmt.Sprintf("%s is broken there, and whole in the twin", m))
	}
	missing := job.Differ(before, x.Built)
	missing = slices.DeleteFunc(missing, func(d compare.Difference) bool {
		return slices.Contains(x.Mended, catalog.ObjectRef{Kind: d.Object, Schema: d.Schema, Name: d.Name})
	})
	if len(missing) > 0 {
		p.Say("the twin is not quite what it was to be:")
		p.Differences(before, x.Built, missing)
	}
	if x.Rows != nil {
		says := fmt.Sprintf("%s of %s carried over", text.Plural(x.Rows.Loaded, "row"), text.Plural(x.Rows.Tables, "table"))
		if x.Rows.Without > 0 {
			says += fmt.Sprintf("; %s refused there, mostly since their parents are not among them", text.Plural(x.Rows.Without, "row"))
		}
		p.Say(says)
	}
	if len(x.Capture) > 0 && r.output != "" {
		if err := writeFile(r.output, func(w io.Writer) error { _, err := w.Write(x.Capture); return err }); err != nil {
			return false, err
		}
		p.Say("the simulated capture after the script is in " + r.output)
	}
	if x.Failed != nil {
		p.Say("the script failed: " + x.Failed.Error())
		r.record.Outcome, r.record.Reason = "failed", x.Failed.Error()
		return true, nil
	}
	p.Say(text.Plural(int64(len(s.Steps)), "step") + " done")
	if x.Rows != nil && len(x.Rows.Fewer)+len(x.Rows.More) > 0 {
		if len(x.Rows.Fewer) > 0 {
			p.Say("rows went: " + strings.Join(x.Rows.Fewer, "; "))
		}
		if len(x.Rows.More) > 0 {
			p.Say("rows came: " + strings.Join(x.Rows.More, "; "))
		}
		short = true
	} else if x.Rows != nil {
		p.Say("every table holds as many rows as before")
	}
	if after != nil {
		var other bool
		other, err = r.alike(ctx, p, "what the engine reports is what the model says", after, x.After, missing)
		short = short || other
	}
	switch {
	case err != nil || back == nil:
	case x.BackFailed != nil:
		p.Say("the way back failed: " + x.BackFailed.Error())
		r.record.WayBack = "failed"
		short = true
	default:
		began, says := x.Built, "leads to where it began"
		if promised, err := job.Companion(path, back.After); err == nil && promised != nil && back.After != s.Before {
			began, says = promised, "leads to where it began, except for what is not taken back"
		}
		if moved := unlike(job.Differ(began, x.Back), missing); len(moved) > 0 {
			p.Say("the way back leads elsewhere:")
			r.record.WayBack = "leads elsewhere"
			p.Differences(began, x.Back, moved)
			short = true
		} else {
			r.record.WayBack = "leads back"
			p.Say(fmt.Sprintf("the way back, %s, %s", text.Plural(int64(len(back.Steps)), "step"), says))
		}
	}
	return short, err
}

// alike compares what the model says with what the twin is, and what the rules
// say of both, figures aside: an empty twin has none. What the twin never had does not count.
func (r *rehearsing) alike(ctx context.Context, p *report.Page, says string, model, twin *catalog.Catalog, unbuilt []compare.Difference) (short bool, err error) {
	moved := unlike(job.Differ(model, twin), unbuilt)
	r.record.Differ(moved)
	if len(moved) > 0 {
		p.Say("what the engine reports is not what the model says:")
		p.Differences(model, twin, moved)
		return true, nil
	}
	var found [2][]string
	for i, c := range []*catalog.Catalog{model, twin} {
		bare := c.Comparable()
		bare.Surveyed, bare.Settings = model.Surveyed, model.Settings
		result, err := r.judged(ctx, bare, nil)
		if err != nil {
			return false, err
		}
		for _, f := range result.Findings {
			found[i] = append(found[i], f.ID())
		}
	}
	for i, side := range []string{"the model", "the twin"} {
		for _, id := range found[i] {
			if !slices.Contains(found[1-i], id) {
				p.Say(fmt.Sprintf("of %s alone the rules say: %s", side, id))
				short = true
			}
		}
	}
	if !short {
		p.Say(says + ", and so is what the rules say of it")
	}
	return short, nil
}

// unlike leaves out of the differences those that were there from the beginning.
func unlike(moved, before []compare.Difference) []compare.Difference {
	return slices.DeleteFunc(moved, func(d compare.Difference) bool {
		return slices.ContainsFunc(before, func(u compare.Difference) bool {
			return d.Kind == u.Kind && d.Object == u.Object && d.Schema == u.Schema && d.Table == u.Table && d.Name == u.Name
		})
	})
}
