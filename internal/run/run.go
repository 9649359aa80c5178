// Package run carries out a script: pre-flight, steps, journal.
package run

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"nexdal/internal/engine"
	"nexdal/internal/script"
)

// A Run carries out one script on one database.
type Run struct {
	Script  *script.Script
	On      engine.Runner
	Journal *Journal
	From    int  // the first step to carry out, from 1
	Doubt   bool // nobody knows whether that step took place already
	Upto    int  // the last step to carry out; 0: all
	// Instead are the steps that are not carried out, with the statements that are in
	// their place: a reversal takes back what was done.
	Instead map[int][]string
	Tries   int // how often a step is tried for a lock that others hold; at least once
	// Step is told of each step as it begins, and again as it ends: took is
	// negative at the beginning.
	Step func(n int, st *engine.Step, took time.Duration)
	// Waits is told that a step could not have its lock, and when it is tried
	// again.
	Waits func(n int, err error, pause time.Duration)
}

// A BlockedError says that a pre-flight query found rows.
type BlockedError struct {
	Question engine.Question
	Names    []string
	Rows     []engine.Row // the first few
}

// Error names the question.
func (b *BlockedError) Error() string {
	return fmt.Sprintf("the data stands in the way of step %d: %s", b.Question.Step, b.Question.Title)
}

// A FailedError says at which step a run stopped and what became of it.
type FailedError struct {
	Step  int
	State State
	Err   error
	Hint  string
}

// Error gives one sentence.
func (f *FailedError) Error() string {
	said := fmt.Sprintf("step %d failed: %v", f.Step, f.Err)
	if errors.Is(f.Err, context.Canceled) {
		said = fmt.Sprintf("step %d was cut short", f.Step)
	}
	if f.Hint != "" {
		said += "; " + f.Hint
	}
	return said
}

// Unwrap gives the cause.
func (f *FailedError) Unwrap() error { return f.Err }

// Preflight asks the questions of the steps that are still to come, all of
// them before the first step, and returns a *BlockedError for the first that the
// data answers with rows.
func (r *Run) Preflight(ctx context.Context) error {
	if len(r.Script.Preflight) > 0 { // a question waits no longer than a step
		if err := r.setUp(ctx); err != nil {
			return fmt.Errorf("before the pre-flight: %w", err)
		}
	}
	for _, q := range r.Script.Preflight {
		if _, skipped := r.Instead[q.Step]; skipped || q.Step < r.From || r.Upto > 0 && q.Step > r.Upto || q.Step == r.From && r.Doubt {
			continue // done, not asked for, or perhaps done
		}
		names, rows, err := r.On.Rows(ctx, q.SQL, 20)
		if err != nil {
			return fmt.Errorf("pre-flight for step %d: %w", q.Step, err)
		}
		if len(rows) > 0 {
			return &BlockedError{q, names, rows}
		}
	}
	return nil
}

// setUp prepares the session as the script asks.
func (r *Run) setUp(ctx context.Context) error {
	for _, sql := range r.Script.Setup {
		if err := r.On.Exec(ctx, sql); err != nil {
			return err
		}
	}
	return nil
}

// Steps carries the steps out, one after another, and stops at the first that
// fails. Each is written to the journal before it begins and after it ends.
func (r *Run) Steps(ctx context.Context) error {
	if err := r.setUp(ctx); err != nil {
		return &FailedError{Step: r.From, State: Untouched, Err: err}
	}
	last := len(r.Script.Steps)
	if r.Upto > 0 {
		last = min(last, r.Upto)
	}
	for n := r.From; n <= last; n++ {
		st := &r.Script.Steps[n-1]
		if err := r.Journal.Write(Entry{Step: n, State: Begun, Title: st.Title, Edited: r.Script.Edited}); err != nil {
			return &FailedError{Step: n, State: Untouched, Err: fmt.Errorf("the journal cannot be written: %w", err)}
		}
		if r.Step != nil {
			r.Step(n, st, -1)
		}
		began := time.Now()
		note, err := "", error(nil)
		if instead, ok := r.Instead[n]; ok {
			note, err = r.instead(ctx, n, instead)
		} else {
			note, err = r.step(ctx, n, st, r.Doubt && n == r.From)
		}
		if err != nil {
			return err
		}
		took := time.Since(began)
		if err := r.Journal.Write(Entry{Step: n, State: Done, Seconds: took.Seconds(), Note: note}); err != nil {
			return &FailedError{Step: n, State: Done, Err: fmt.Errorf("the step is done, but the journal cannot be written: %w", err), Hint: fmt.Sprintf("go on with --from %d", n+1)}
		}
		if r.Step != nil {
			r.Step(n, st, took)
		}
	}
	if last < len(r.Script.Steps) {
		return nil
	}
	return r.Journal.Write(Entry{State: Finished})
}

// instead sends the statements in a step's place; that there is nothing for them to do is
// as well.
func (r *Run) instead(ctx context.Context, n int, statements []string) (note string, err error) {
	for _, sql := range statements {
		if err := r.clear(ctx, &engine.Step{CleanUp: sql}); err != nil {
			return "", r.failed(context.WithoutCancel(ctx), n, &engine.Step{}, 0, err)
		}
	}
	return "not carried out: what it takes back was not done", nil
}

// step carries one out. A step in doubt is tried again: what it may have left
// half done is cleared away before. Where it turns out to have been done already,
// that is its end, if it is one transaction; of any other it goes on with the
// statements that have not been.
func (r *Run) step(ctx context.Context, n int, st *engine.Step, doubt bool) (note string, err error) {
	if doubt {
		if err := r.clear(ctx, st); err != nil {
			return "", r.failed(context.WithoutCancel(ctx), n, st, 0, err)
		}
	}
	from := 0
	for try := 1; ; try++ {
		at, err := r.once(ctx, st, from)
		if err == nil {
			return note, nil
		}
		var said *engine.StatementError
		answered := errors.As(err, &said) && ctx.Err() == nil
		if answered && doubt && (said.Exists || said.Missing) {
			note = "it was in doubt, and found done: " + said.Error()
			if !st.Transaction {
				from, try = at+1, 0
				continue
			}
			if r.On.Rollback(ctx) == nil {
				return note, nil
			}
		}
		from = 0
		failed := r.failed(context.WithoutCancel(ctx), n, st, at, err)
		if !answered || !said.Busy || try >= r.Tries || failed.State != Undone {
			return "", failed
		}
		pause := time.Second << min(try-1, 5)
		if r.Waits != nil {
			r.Waits(n, err, pause)
		}
		select {
		case <-ctx.Done():
		case <-time.After(pause):
		}
		if ctx.Err() != nil {
			return "", failed
		}
		if err := r.Journal.Write(Entry{Step: n, State: Begun, Title: st.Title, Note: fmt.Sprintf("try %d", try+1)}); err != nil {
			return "", &FailedError{Step: n, State: Undone, Err: fmt.Errorf("the journal cannot be written: %w", err)}
		}
	}
}

// clear takes away what a step outside a transaction may have left half done. That there
// is nothing to take away is as well.
func (r *Run) clear(ctx context.Context, st *engine.Step) error {
	if st.CleanUp == "" {
		return nil
	}
	err := r.On.Exec(ctx, st.CleanUp)
	var said *engine.StatementError
	if errors.As(err, &said) && said.Missing {
		return nil
	}
	return err
}

// once sends the statements of a step from a place on; at is that of the one that
// failed.
func (r *Run) once(ctx context.Context, st *engine.Step, from int) (at int, err error) {
	for i, sql := range st.SQL {
		if i < from {
			continue
		}
		err := ctx.Err()
		if err == nil {
			err = r.On.Exec(ctx, sql)
		}
		if err != nil {
			return i, err
		}
	}
	return 0, nil
}

// alters reports whether a statement does more than to set the session.
func alters(sql string) bool {
	word, _, _ := strings.Cut(strings.TrimSpace(sql), " ")
	return !strings.EqualFold(word, "SET") && !strings.EqualFold(word, "RESET")
}

// failed brings a failed step to an end: what is open is rolled back, what a
// step outside a transaction may have left is cleared away; the journal says
// what can be relied on.
func (r *Run) failed(ctx context.Context, n int, st *engine.Step, at int, err error) *FailedError {
	ctx, cancel := context.WithTimeout(ctx, time.Minute)
	defer cancel()
	f := &FailedError{Step: n, State: Undone, Err: err}
	if !slices.ContainsFunc(st.SQL[:min(at, len(st.SQL))], alters) {
		at = 0
	}
	var said *engine.StatementError
	answered := errors.As(err, &said)
	switch back := r.On.Rollback(ctx); {
	case back != nil:
		f.State, f.Hint = Unknown, fmt.Sprintf("the connection is gone, and step %d in doubt: run the script again to find out whether it took place", n)
	case st.Transaction && slices.ContainsFunc(st.SQL[:at], func(sql string) bool { return strings.EqualFold(strings.TrimSpace(sql), "COMMIT") }):
		f.State, f.Hint = Unknown, fmt.Sprintf("what failed stands behind the COMMIT of step %d; run the script again to find out what is left to do", n)
	case st.Transaction:
		f.Hint = fmt.Sprintf("steps before it are done, this one left no trace; run it again to go on from step %d", n)
	case answered && said.Exists && at == 0:
		f.Hint = "what the step makes is there already; nothing was cleared away"
	case st.CleanUp != "":
		if clean := r.clear(ctx, st); clean != nil {
			f.State, f.Hint = Unknown, fmt.Sprintf("clearing away failed too (%v); do it by hand: %s", clean, st.CleanUp)
		} else {
			f.Hint = fmt.Sprintf("what it left was cleared away; run it again to go on from step %d", n)
		}
		if clean := f.State == Undone; at > 0 && clean { // it need not be all that the statements before did
			f.State, f.Hint = Unknown, fmt.Sprintf("what its first %d statements did was cleared away as far as that goes (%s); run the script again to carry out step %d", at, st.CleanUp, n)
		}
	case at > 0:
		f.State, f.Hint = Unknown, fmt.Sprintf("its first %d statements stand; run the script again to carry out the rest of step %d", at, n)
	default:
		f.Hint = fmt.Sprintf("steps before it are done; run it again to go on from step %d", n)
	}
	if werr := r.Journal.Write(Entry{Step: n, State: f.State, Error: err.Error()}); werr != nil {
		f.Hint += fmt.Sprintf("; the journal cannot be written either (%v)", werr)
	}
	return f
}
