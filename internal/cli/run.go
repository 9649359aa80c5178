package cli

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"github.com/spf13/cobra"

	"nexdal/internal/engine"
	"nexdal/internal/engine/all"
	"nexdal/internal/phrase"
	"nexdal/internal/report"
	"nexdal/internal/run"
	"nexdal/internal/script"
)

func (a *app) run() *cobra.Command {
	var on string
	var yes bool
	var from int
	c := &cobra.Command{
		Use:   "run SCRIPT --on SOURCE",
		Short: "Carry out a script",
		Long: `Run shows the steps of a script and asks. Then it puts the pre-flight queries,
and stops if one of them finds rows; then it carries out the steps one after
another and stops at the first that fails. A journal beside the script
(fix.journal.jsonl) records each step before it begins and after it ends; run
the script again, and it goes on where it stopped.

A script is refused where the tables that it alters are no longer as they were
when it was made. At the end the database is checked again.`,
		Example: `  nexdal run fix.sql --on saltmere.db
  nexdal run fix.sql --on postgres://dba@db1/saltmere --yes
  nexdal run fix.reversal.sql --on saltmere.db`,
		Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			if on == "" {
				return wrong("give the database to run it on: --on SOURCE")
			}
			if from < 0 {
				return wrong("--from takes the number of a step")
			}
			return a.runScript(cmd.Context(), args[0], on, yes, from)
		},
	}
	c.Flags().StringVar(&on, "on", "", "the database to run it on")
	c.Flags().BoolVar(&yes, "yes", false, "do not ask")
	c.Flags().IntVar(&from, "from", 0, "begin with this step, whatever the journal says")
	return c
}

// readScript reads a script file in the dialect that its head names.
func readScript(path string) (*script.Script, string, error) {
	text, err := os.ReadFile(path)
	if err != nil {
		return nil, "", wrong("%s cannot be read: %v", path, errors.Unwrap(err))
	}
	name, err := script.EngineName(string(text))
	if err != nil {
		return nil, "", wrong("%s is %v; write one with nexdal script", path, err)
	}
	e := all.ByName(name)
	if e == nil {
		return nil, "", wrong("%s was written for engine %q, which this program does not know", path, name)
	}
	s, err := script.Read(string(text), e.Dialect())
	if err != nil {
		return nil, "", wrong("%s cannot be run: %v; write it anew with nexdal script", path, err)
	}
	return s, string(text), nil
}

func journalOf(path string) string {
	return strings.TrimSuffix(path, filepath.Ext(path)) + ".journal.jsonl"
}

func (a *app) runScript(ctx context.Context, path, on string, yes bool, from int) error {
	s, text, err := readScript(path)
	if err != nil {
		return err
	}
	session, err := a.open(ctx, on, true)
	if err != nil {
		return err
	}
	defer session.Close()
	target, ok := session.(engine.Runner)
	if !ok {
		return wrong("scripts cannot be run on %s", engine.Redact(on))
	}
	before, err := target.Survey(ctx)
	if err != nil {
		return err
	}
	if before.Engine.Name != s.Engine.Name {
		return wrong("%s was written for %s, and %s is %s", path, s.Engine.Name, session.Place(), before.Engine.Name)
	}
	journal, err := run.OpenJournal(journalOf(path), text, session.Place())
	if err != nil {
		return wrong("%v", err)
	}
	fresh := from == 0
	if from == 0 {
		if from, err = journal.Next(); err != nil {
			return wrong("%v", err)
		}
	}
	if len(s.Steps) == 0 {
		fmt.Fprintf(a.out, "%s holds no step; there is nothing to do\n", path)
		return nil
	}
	if from > len(s.Steps) {
		return wrong("%s has only %s", path, phrase.Plural(int64(len(s.Steps)), "step"))
	}
	if fresh && from == 1 && !s.Fits(before) {
		return wrong("the tables that %s alters are no longer as they were when it was made; survey %s again and write the script anew", path, session.Place())
	}
	if err := a.accept(before, nil); err != nil {
		return err
	}
	was, err := a.judge(before, nil)
	if err != nil {
		return err
	}
	p := page(a.out)
	p.Steps(s, session.Place(), from)
	if !yes && !a.ask(fmt.Sprintf("Carry this out on %s?", session.Place())) {
		return shortError{"nothing was done"}
	}
	r := &run.Run{Script: s, On: target, Journal: journal, From: from, Step: func(n int, st *engine.Step, took time.Duration) {
		if took >= 0 {
			p.StepDone(n, len(s.Steps), st, took)
		}
	}}
	a.runningSteps = true
	if err := a.carryOut(ctx, r, p); err != nil {
		return err
	}
	after, err := target.Survey(ctx)
	if err != nil {
		return err
	}
	if err := a.accept(after, nil); err != nil {
		return err
	}
	is, err := a.judge(after, nil)
	if err != nil {
		return err
	}
	p.Outcome(answersOf(s), was, is)
	return nil
}

func (a *app) carryOut(ctx context.Context, r *run.Run, p *report.Page) error {
	if err := r.Preflight(ctx); err != nil {
		var blocked *run.Blocked
		if errors.As(err, &blocked) {
			p.Rows(blocked.Names, blocked.Rows)
			return shortError{blocked.Error() + "; nothing was done"}
		}
		if ctx.Err() != nil {
			return shortError{"interrupted before the first step; nothing was done"}
		}
		return shortError{err.Error() + "; nothing was done"}
	}
	if err := r.Steps(ctx); err != nil {
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

func answersOf(s *script.Script) []string {
	var ids []string
	for _, st := range s.Steps {
		for _, id := range st.Answers {
			if !slices.Contains(ids, id) {
				ids = append(ids, id)
			}
		}
	}
	return ids
}
