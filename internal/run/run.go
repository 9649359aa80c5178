// Package run carries out a script: pre-flight, steps, journal.
package run

import (
	"context"
	"errors"
	"fmt"
	"time"

	"nexdal/internal/engine"
	"nexdal/internal/script"
)

// A Run carries out one script on one database.
type Run struct {
	Script  *script.Script
	On      engine.Runner
	Journal *Journal
	From    int // the first step to carry out, from 1
	// Step is told of each step as it begins, and again as it ends: took is
	// negative at the beginning.
	Step func(n int, st *engine.Step, took time.Duration)
}

// A Blocked error says that a pre-flight query found rows.
type Blocked struct {
	Question engine.Question
	Names    []string
	Rows     [][]string // the first few
}

// Error names the question.
func (b *Blocked) Error() string {
	return fmt.Sprintf("the data stands in the way of step %d: %s", b.Question.Step, b.Question.Title)
}

// A Failed error says at which step a run stopped and what became of it.
type Failed struct {
	Step  int
	State State
	Err   error
	Hint  string
}

// Error gives one sentence.
func (f *Failed) Error() string {
	said := fmt.Sprintf("step %d failed: %v", f.Step, f.Err)
	if f.Hint != "" {
		said += "; " + f.Hint
	}
	return said
}

// Unwrap gives the cause.
func (f *Failed) Unwrap() error { return f.Err }

// Preflight asks the questions of the steps that are still to come, all of
// them before the first step, and returns a *Blocked for the first that the
// data answers with rows.
func (r *Run) Preflight(ctx context.Context) error {
	for _, q := range r.Script.Preflight {
		if q.Step < r.From {
			continue
		}
		names, rows, err := r.On.Rows(ctx, q.SQL, 20)
		if err != nil {
			return fmt.Errorf("pre-flight for step %d: %w", q.Step, err)
		}
		if len(rows) > 0 {
			return &Blocked{q, names, rows}
		}
	}
	return nil
}

// Steps carries the steps out, one after another, and stops at the first that
// fails. Each is written to the journal before it begins and after it ends.
func (r *Run) Steps(ctx context.Context) error {
	for _, sql := range r.Script.Setup {
		if err := r.On.Exec(ctx, sql); err != nil {
			return &Failed{Step: r.From, State: Untouched, Err: err}
		}
	}
	for n := r.From; n <= len(r.Script.Steps); n++ {
		st := &r.Script.Steps[n-1]
		if err := r.Journal.Write(Entry{Step: n, State: Begun, Title: st.Title}); err != nil {
			return &Failed{Step: n, State: Untouched, Err: fmt.Errorf("the journal cannot be written: %w", err)}
		}
		r.Step(n, st, -1)
		began := time.Now()
		if err := r.step(ctx, n, st); err != nil {
			return err
		}
		took := time.Since(began)
		if err := r.Journal.Write(Entry{Step: n, State: Done, Seconds: took.Seconds()}); err != nil {
			return &Failed{Step: n, State: Done, Err: fmt.Errorf("the step is done, but the journal cannot be written: %w", err), Hint: fmt.Sprintf("go on with --from %d", n+1)}
		}
		r.Step(n, st, took)
	}
	return r.Journal.Write(Entry{State: Finished})
}

func (r *Run) step(ctx context.Context, n int, st *engine.Step) error {
	for i, sql := range st.SQL {
		err := ctx.Err()
		if err == nil {
			err = r.On.Exec(ctx, sql)
		}
		if err != nil {
			return r.failed(context.WithoutCancel(ctx), n, st, i, err)
		}
	}
	return nil
}

// failed brings a failed step to an end: what is open is rolled back, what a
// step outside a transaction may have left is cleared away; the journal says
// what can be relied on.
func (r *Run) failed(ctx context.Context, n int, st *engine.Step, at int, err error) error {
	ctx, cancel := context.WithTimeout(ctx, time.Minute)
	defer cancel()
	f := &Failed{Step: n, State: Undone, Err: err}
	var said *engine.StatementError
	answered := errors.As(err, &said)
	switch back := r.On.Rollback(ctx); {
	case back != nil:
		f.State, f.Hint = Unknown, fmt.Sprintf("the connection is gone: see whether step %d took place, then go on with --from %d or --from %d", n, n, n+1)
	case st.Transaction:
		f.Hint = fmt.Sprintf("steps before it are done, this one left no trace; run it again to go on from step %d", n)
	case answered && said.Exists && at == 0:
		f.Hint = "what the step makes is there already; nothing was cleared away"
	case st.CleanUp != "":
		if clean := r.On.Exec(ctx, st.CleanUp); clean != nil {
			f.State, f.Hint = Unknown, fmt.Sprintf("clearing away failed too (%v); do it by hand: %s", clean, st.CleanUp)
		} else {
			f.Hint = fmt.Sprintf("what it left was cleared away; run it again to go on from step %d", n)
		}
	default:
		f.Hint = fmt.Sprintf("steps before it are done; run it again to go on from step %d", n)
	}
	if werr := r.Journal.Write(Entry{Step: n, State: f.State, Error: err.Error()}); werr != nil {
		f.Hint += fmt.Sprintf("; the journal cannot be written either (%v)", werr)
	}
	return f
}
