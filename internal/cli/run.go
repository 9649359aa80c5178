package cli

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"io"
	"os/signal"
	"slices"
	"strings"
	"syscall"
	"time"

	"github.com/spf13/cobra"

	"nexdal/internal/catalog"
	"nexdal/internal/compare"
	"nexdal/internal/engine"
	"nexdal/internal/engine/all"
	"nexdal/internal/job"
	"nexdal/internal/report"
	"nexdal/internal/rule"
	"nexdal/internal/run"
	"nexdal/internal/script"
	"nexdal/internal/text"
)

// running is one run, as its flags have it.
type running struct {
	*app
	on         string
	yes, dry   bool
	from, upto int
	tries      int
	form       string
	record     *report.Record
}

func (a *app) run() *cobra.Command {
	r := &running{app: a}
	c := &cobra.Command{
		Use:   "run SCRIPT --on SOURCE",
		Short: "Carry out a script",
		Long: `Run shows the steps of a script and asks. Then it puts the pre-flight queries,
and stops if one of them finds rows; then it carries out the steps one after
another and stops at the first that fails. A step that others keep from its lock
is tried again a few times. A journal beside the script (fix.journal.jsonl)
records each step before it begins and after it ends; run the script again, and it
goes on where it stopped. A step of which a crash leaves open whether it took place
is seen to first.

A script is refused where the tables that it alters are no longer as they were
when it was made, with what differs, and where the user may not alter them. At the
end the database is surveyed and checked again: which findings are gone, and
whether the structure is the one that the script was to lead to.`,
		Example: `  nexdal run fix.sql --on saltmere.db
  nexdal run fix.sql --on saltmere.db --dry-run
  nexdal run fix.sql --on postgres://dba@db1/saltmere --yes --stop-after 3
  nexdal run fix.reversal.sql --on saltmere.db`,
		Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			switch {
			case r.on == "":
				return wrong("give the database to run it on: --on SOURCE")
			case r.from < 0:
				return wrong("--first-step takes the number of a step")
			case r.upto < 0:
				return wrong("--stop-after takes the number of a step")
			case r.tries < 1:
				return wrong("--tries takes a number from 1 on")
			}
			if err := format(r.form, "text", "json"); err != nil {
				return err
			}
			r.record = report.NewRecord("run", args[0])
			r.record.DryRun = r.dry
			return r.recorded(r.form, r.record, func() error { return r.script(cmd.Context(), args[0]) })
		},
	}
	f := c.Flags()
	f.StringVar(&r.on, "on", "", "the database to run it on")
	f.BoolVar(&r.yes, "yes", false, "do not ask")
	f.BoolVar(&r.dry, "dry-run", false, "show the steps and put the pre-flight queries, and change nothing")
	f.IntVar(&r.from, "first-step", 0, "begin with this step, whatever the journal says")
	f.IntVar(&r.upto, "stop-after", 0, "end with this step; the next run goes on behind it")
	f.StringVar(&r.form, "format", "text", "text, or json: what came of it, at the end, for programs")
	f.IntVar(&r.tries, "tries", 5, "how often a step is tried whose lock others hold")
	return c
}

// recorded does the work. Where JSON is asked for, the page is left out and the record is written at
// the end, however the work ended.
func (a *app) recorded(form string, record *report.Record, work func() error) error {
	if form != "json" {
		return work()
	}
	out := a.out
	a.out = io.Discard
	err := work()
	a.out = out
	if err != nil && err.Error() != "" {
		record.Outcome, record.Reason = "failed", err.Error()
	}
	if wrote := a.emit("", func(w io.Writer) error { return encodeJSON(w, record) }); wrote != nil {
		return wrote
	}
	return err
}

func (r *running) script(ctx context.Context, path string) error {
	s, written, err := job.ReadScript(path)
	if err != nil {
		return err
	}
	session, err := r.Open(ctx, r.on, !r.dry)
	if err != nil {
		return err
	}
	defer session.Close()
	target, ok := session.(engine.Runner)
	if !ok {
		return wrong("scripts cannot be run on %s", engine.Redact(r.on))
	}
	if x, ok := target.(engine.Exclusive); ok && !r.dry {
		holder, err := x.Claim(ctx, schemasOf(s))
		if err != nil {
			return err
		}
		if holder != "" {
			return shortError{fmt.Sprintf("another run is at work on %s: %s; nothing was done", session.Place(), holder)}
		}
	}
	before, err := target.Survey(ctx)
	if err != nil {
		return err
	}
	if before.Engine.Name != s.Engine.Name {
		return wrong("%s was written for %s, and %s is %s", path, s.Engine.Name, session.Place(), before.Engine.Name)
	}
	if lacks := s.Lacks(all.ByName(s.Engine.Name), before.Engine.Version); len(lacks) > 0 {
		return wrong("%s needs what %s %s on %s has not: %s; write it again for this server", path, s.Engine.Name, before.Engine.Version, session.Place(), strings.Join(lacks, ", "))
	}
	journal, err := run.OpenJournal(job.JournalOf(path), written, session.Place())
	if err != nil {
		return wrong("%v", err)
	}
	s.Limit(all.ByName(s.Engine.Name), r.LockTimeout, r.Timeout)
	c := &run.Run{Script: s, On: target, Journal: journal, From: r.from, Upto: r.upto, Tries: r.tries}
	if r.from == 0 {
		if c.From, c.Doubt, err = journal.Next(); err != nil {
			return wrong("%v", err)
		}
	}
	switch {
	case len(s.Steps) == 0:
		fmt.Fprintf(r.out, "%s holds no step; there is nothing to do\n", path)
		r.record.Outcome = "complete"
		return nil
	case max(c.From, r.upto) > len(s.Steps):
		return wrong("%s has only %s", path, text.Plural(int64(len(s.Steps)), "step"))
	case r.upto > 0 && r.upto < c.From:
		return wrong("step %d is behind the run already; it goes on with step %d", r.upto, c.From)
	}
	p := r.page(r.out)
	back, err := r.wayBack(path, s, session.Place(), before)
	if err != nil {
		return err
	}
	if _, left, _ := journal.Done(); r.from == 0 && c.From > 1 && !c.Doubt && left != "" && before.Fingerprint(s.Tables) != left {
		return wrong("the tables that %s alters are no longer as its last run left them; see what became of them, then give --first-step %d, or take it back by hand", path, c.From)
	}
	c.Instead = back.instead
	if fits := back.recorded && back.fits || !back.recorded && s.Fits(before); r.from == 0 && c.From == 1 && !c.Doubt && !fits {
		return r.unfit(p, path, s, session.Place(), before)
	}
	if says := back.told(len(s.Steps)); says != "" {
		fmt.Fprintln(r.err, says)
	}
	if err := permitted(ctx, target, s); err != nil {
		return err
	}
	if err := r.Accept(before, nil); err != nil {
		return err
	}
	was, err := r.Judge(ctx, before, nil)
	if err != nil {
		return err
	}
	p.Steps(s, session.Place(), c.From, r.yes && !r.dry)
	r.record.Begin(session.Place(), s.Steps, c.From)
	if c.Doubt {
		fmt.Fprintf(r.err, "whether step %d took place is not known; it is tried again, and found out\n", c.From)
	}
	if s.Edited {
		fmt.Fprintf(r.err, "statements of %s were changed since it was written; they are run as they stand, and the journal says so\n", path)
	}
	if r.dry {
		if err := r.preflight(ctx, c, p); err != nil {
			return err
		}
		fmt.Fprintf(r.out, "nothing was done: a dry run; nothing stands in the way\n")
		r.record.Outcome = "complete"
		return nil
	}
	if !r.yes && !r.ask(fmt.Sprintf("Carry this out on %s?", session.Place())) {
		return shortError{"nothing was done"}
	}
	// Who reads the output may go, and the terminal with it: neither ends a step.
	signal.Ignore(syscall.SIGPIPE, syscall.SIGHUP)
	c.Step = func(n int, st *engine.Step, took time.Duration) {
		if took >= 0 {
			p.StepDone(n, len(s.Steps), st, took, !r.yes)
			r.record.Done(n, took)
		}
	}
	c.Waits = func(n int, err error, pause time.Duration) {
		fmt.Fprintf(r.err, "step %d: %s; tried again in %s\n", n, text.Line(err.Error()), pause)
	}
	if err := r.carryOut(ctx, c, p); err != nil {
		r.recordEnd(ctx, journal, target, s, nil)
		return err
	}
	if r.upto > 0 && r.upto < len(s.Steps) {
		r.recordEnd(ctx, journal, target, s, nil)
		r.record.Outcome = "stopped"
		fmt.Fprintf(r.out, "stopped after step %d, as asked; run it again to go on with step %d\n", r.upto, r.upto+1)
		return nil
	}
	return r.outcome(ctx, p, path, s, target, before, was, journal)
}

// schemasOf lists the schemas that the script alters something in.
func schemasOf(s *script.Script) []string {
	var names []string
	for _, t := range s.Tables {
		if !slices.Contains(names, t.Schema) {
			names = append(names, t.Schema)
		}
	}
	return names
}

// recordEnd notes what the engine reports at the end of a run, to which the way back is held:
// an engine that spells something otherwise than the model does not bar it. What cannot be
// read, as after a lost connection, is not recorded.
func (r *running) recordEnd(ctx context.Context, journal *run.Journal, target engine.Runner, s *script.Script, is *catalog.Catalog) {
	if is == nil {
		ctx, cancel := context.WithTimeout(context.WithoutCancel(ctx), time.Minute)
		defer cancel()
		var err error
		if is, err = target.Survey(ctx); err != nil {
			return
		}
	}
	if err := journal.Write(run.Entry{State: run.Ended, Left: is.Fingerprint(s.Tables)}); err != nil {
		fmt.Fprintf(r.err, "the journal cannot be written: %v\n", err)
	}
}

// outcome surveys again and says what became of the findings, whether the structure is the
// one that the script was to lead to, and whether rights are those that were.
func (r *running) outcome(ctx context.Context, p *report.Page, path string, s *script.Script, target engine.Runner, before *catalog.Catalog, was rule.Result, journal *run.Journal) error {
	after, err := target.Survey(ctx)
	if err != nil {
		return err
	}
	r.recordEnd(ctx, journal, target, s, after)
	if err := r.Accept(after, nil); err != nil {
		return err
	}
	is, err := r.Judge(ctx, after, nil)
	if err != nil {
		return err
	}
	r.record.Findings(answersOf(s), s.Leaves, was, is)
	r.record.Outcome = "complete"
	p.Outcome(r.record, was, is)
	planned, err := job.Companion(path, s.After)
	if planned == nil {
		return err
	}
	rights := compare.Rights(before, after)
	if began, err := job.Companion(path, s.Before); err == nil && began != nil {
		// What an earlier run of the script left half made has the rights that the script gives it.
		there := map[catalog.ObjectRef]bool{}
		for _, m := range began.Members() {
			there[m.ObjectRef] = true
		}
		rights = slices.DeleteFunc(rights, func(d compare.Difference) bool {
			return d.Object != catalog.KindSchema && !there[catalog.ObjectRef{Kind: d.Object, Schema: d.Schema, Name: d.Name}]
		})
	}
	moved := append(job.Differ(planned, after), rights...)
	r.record.Differ(moved)
	if len(moved) == 0 {
		fmt.Fprintf(r.out, "the structure is the one that was planned; nothing else has moved\n")
		return nil
	}
	fmt.Fprintf(r.out, "the structure is not quite the one that was planned:\n")
	p.Differences(planned, after, moved)
	return nil
}

// unfit refuses a script that was made for another structure, and shows what
// differs where the survey that it was made from is at hand.
func (r *running) unfit(p *report.Page, path string, s *script.Script, place string, is *catalog.Catalog) error {
	was, err := job.Companion(path, s.Before)
	if err != nil {
		return err
	}
	if was != nil {
		if found := job.Differ(was.Subset(s.Tables), is.Subset(s.Tables)); len(found) > 0 {
			p.Differences(was, is, found)
		}
	}
	return wrong("the tables that %s alters are no longer as they were when it was made; survey %s again and write the script again", path, place)
}

// permitted finds out before the first step what the user may not do.
func permitted(ctx context.Context, target engine.Runner, s *script.Script) error {
	if g, ok := target.(engine.Sheltered); ok {
		switch lost, err := g.GuardsLost(ctx, s.Tables, statementsOf(s)); {
		case err != nil:
			return fmt.Errorf("what keeps rows of the script's tables from some users cannot be found out: %w", err)
		case len(lost) > 0:
			return shortError{fmt.Sprintf("the script copies tables, and would leave behind %s; nothing was done", strings.Join(lost, ", "))}
		}
	}
	g, ok := target.(engine.Guarded)
	if !ok {
		return nil
	}
	not, err := g.MayNotAlter(ctx, s.Tables)
	if err != nil || len(not) == 0 {
		return mayCreate(ctx, target, s) // where it cannot be asked, the steps will tell
	}
	var names []string
	for _, ref := range not[:min(5, len(not))] {
		names = append(names, ref.String())
	}
	return shortError{fmt.Sprintf("the user may not alter %s of the script's tables, such as %s; nothing was done", text.Amount(int64(len(not))), strings.Join(names, ", "))}
}

// statementsOf lists those of all steps.
func statementsOf(s *script.Script) []string {
	var all []string
	for _, st := range s.Steps {
		all = append(all, st.SQL...)
	}
	return all
}

// mayCreate finds out where the script would make something and the user may not.
func mayCreate(ctx context.Context, target engine.Runner, s *script.Script) error {
	g, ok := target.(engine.CreateGuarded)
	if !ok {
		return nil
	}
	var schemas []string
	for _, t := range s.Tables {
		if !slices.Contains(schemas, t.Schema) {
			schemas = append(schemas, t.Schema)
		}
	}
	not, err := g.MayNotCreate(ctx, schemas, statementsOf(s))
	if err != nil || len(not) == 0 {
		return nil
	}
	return shortError{fmt.Sprintf("the user may make nothing in schema %s (GRANT CREATE ON SCHEMA), and the script would; nothing was done", strings.Join(not, ", "))}
}

func (r *running) preflight(ctx context.Context, c *run.Run, p *report.Page) error {
	err := c.Preflight(ctx)
	var blocked *run.BlockedError
	switch {
	case err == nil:
		return nil
	case errors.As(err, &blocked):
		p.Rows(blocked.Names, blocked.Rows)
		return shortError{blocked.Error() + "; nothing was done"}
	case ctx.Err() != nil:
		return shortError{"interrupted before the first step; nothing was done"}
	}
	return shortError{err.Error() + "; nothing was done"}
}

func (r *running) carryOut(ctx context.Context, c *run.Run, p *report.Page) error {
	if err := r.preflight(ctx, c, p); err != nil {
		return err
	}
	if err := c.Steps(ctx); err != nil {
		if ctx.Err() != nil {
			err = fmt.Errorf("interrupted: %w", err)
		}
		return shortError{err.Error()}
	}
	return nil
}

// ask puts a question; only a plain yes is one.
func (a *app) ask(question string) bool {
	fmt.Fprintf(a.err, "%s [y/N] ", question)
	line, err := bufio.NewReader(a.in).ReadString('\n')
	if err != nil && !errors.Is(err, io.EOF) {
		return false
	}
	answer := strings.ToLower(strings.TrimSpace(line))
	return answer == "y" || answer == "yes"
}

// answersOf lists the findings that a script answers, each once.
func answersOf(s *script.Script) []string {
	var ids []string
	seen := map[string]bool{}
	for _, st := range s.Steps {
		for _, id := range st.Answers {
			if !seen[id] {
				seen[id] = true
				ids = append(ids, id)
			}
		}
	}
	return ids
}
