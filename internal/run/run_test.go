package run

import (
	"context"
	"errors"
	"fmt"
	"maps"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"testing/synctest"
	"time"

	"nexdal/internal/engine"
	"nexdal/internal/script"
)

// A store is what a database holds: things that are made and dropped by statements
// "make x" and "drop x". What a transaction did counts once it is committed.
type store map[string]bool

// A session is a scripted connection to a store.
type session struct {
	engine.Runner
	held   store
	open   store // within a transaction; nil outside
	sent   []string
	rolled int
	lost   bool // the connection is gone
	// fail is asked before each statement, n from 1; after it says whether the
	// statement took place all the same.
	fail   func(n int, sql string) (err error, after bool)
	noback bool // the engine refuses to roll back
	rows   map[string][]engine.Row
}

var errLost = errors.New("connection reset")

func said(code string, exists, missing, busy bool) *engine.StatementError {
	return &engine.StatementError{Code: code, Exists: exists, Missing: missing, Busy: busy, Err: errors.New("the engine says no")}
}

func (s *session) Place() string { return "saltmere" }

func (s *session) Exec(ctx context.Context, sql string) error {
	if s.lost {
		return errLost
	}
	s.sent = append(s.sent, sql)
	if s.fail != nil {
		if err, after := s.fail(len(s.sent), sql); err != nil {
			if after {
				s.do(sql)
			}
			var answered *engine.StatementError
			if !errors.As(err, &answered) {
				s.lost, s.open = true, nil // the server rolls back what is open
			}
			return err
		}
	}
	return s.do(sql)
}

func (s *session) do(sql string) error {
	verb, what, _ := strings.Cut(sql, " ")
	on := s.held
	if s.open != nil {
		on = s.open
	}
	switch verb {
	case "BEGIN":
		s.open = maps.Clone(s.held)
	case "COMMIT":
		clear(s.held)
		maps.Copy(s.held, s.open)
		s.open = nil
	case "make":
		if on[what] {
			return said("exists", true, false, false)
		}
		on[what] = true
	case "drop":
		if !on[what] {
			return said("missing", false, true, false)
		}
		delete(on, what)
	case "set":
	default:
		return fmt.Errorf("a statement that the store does not know: %s", sql)
	}
	return nil
}

func (s *session) Rollback(context.Context) error {
	if s.rolled++; s.lost || s.noback {
		return errLost
	}
	s.open = nil
	return nil
}

func (s *session) Rows(_ context.Context, sql string, max int) ([]string, []engine.Row, error) {
	s.sent = append(s.sent, "ask "+sql)
	if sql == "broken" {
		return nil, nil, said("syntax", false, false, false)
	}
	return []string{"id"}, s.rows[sql], nil
}

// steps of every sort: one statement, a transaction of several, one with a statement
// behind its COMMIT, one outside a transaction that can be cleared away, one that
// cannot, and one that drops.
func steps() *script.Script {
	return &script.Script{Work: engine.Work{Setup: []string{"set timeout"}, Steps: []engine.Step{
		{Title: "one", Transaction: true, SQL: []string{"make a"}},
		{Title: "several", Transaction: true, SQL: []string{"BEGIN", "make b", "make c", "COMMIT"}},
		{Title: "behind", Transaction: true, SQL: []string{"set off", "BEGIN", "make d", "COMMIT", "set on"}},
		{Title: "cleared", SQL: []string{"make e"}, CleanUp: "drop e"},
		{Title: "left", SQL: []string{"make f", "make g"}},
		{Title: "dropped", Transaction: true, SQL: []string{"BEGIN", "drop a", "make h", "COMMIT"}},
	}}}
}

// complete is what the store holds when all steps are done.
var complete = store{"b": true, "c": true, "d": true, "e": true, "f": true, "g": true, "h": true}

// carry carries the script out, as far as the journal says that it has to.
func carry(t *testing.T, s *session, journal string, tries int) error {
	t.Helper()
	j, err := OpenJournal(journal, "script", "saltmere")
	if err != nil {
		t.Fatal(err)
	}
	from, doubt, err := j.Next()
	if err != nil {
		t.Fatal(err)
	}
	return (&Run{Script: steps(), On: s, Journal: j, From: from, Doubt: doubt, Tries: tries}).All(t.Context())
}

// TestFailsAnywhere: whichever statement fails, in whichever way, what the run says of it
// is true, and running it again carries out what is left, once.
func TestFailsAnywhere(t *testing.T) {
	clean := &session{held: store{}}
	if err := carry(t, clean, filepath.Join(t.TempDir(), "j"), 1); err != nil || !maps.Equal(clean.held, complete) {
		t.Fatalf("without a failure: %v, %v", err, clean.held)
	}
	ways := map[string]func() (error, bool){
		"refused":     func() (error, bool) { return said("refused", false, false, false), false },
		"lost before": func() (error, bool) { return errLost, false },
		"lost behind": func() (error, bool) { return errLost, true },
	}
	for at := 1; at <= len(clean.sent); at++ {
		for way, how := range ways {
			journal := filepath.Join(t.TempDir(), "j")
			s := &session{held: store{}, fail: func(n int, sql string) (error, bool) {
				if n == at {
					return how()
				}
				return nil, false
			}}
			name := fmt.Sprintf("%s at statement %d, %q", way, at, clean.sent[at-1])
			err := carry(t, s, journal, 1)
			var failed *FailedError
			if !errors.As(err, &failed) {
				t.Fatalf("%s: %v", name, err)
			}
			// What the steps before hold is there; of the failed one what was said.
			before := store{}
			undisturbed := &session{held: before}
			if failed.Step > 1 {
				r := &Run{Script: steps(), On: undisturbed, From: 1, Upto: failed.Step - 1}
				if err := r.Steps(t.Context()); err != nil {
					t.Fatal(err)
				}
			}
			switch failed.State {
			case Untouched, Undone:
				if !maps.Equal(s.held, before) {
					t.Errorf("%s: it is said to be %s, and the database holds %v, not %v", name, failed.State, s.held, before)
				}
			case Unknown:
				if !s.lost && at != len(clean.sent) && maps.Equal(s.held, before) && !strings.HasPrefix(clean.sent[at-1], "set") {
					t.Errorf("%s: it left no trace, and is said to be in doubt", name)
				}
			default:
				t.Errorf("%s: state %s", name, failed.State)
			}
			if at > 1 && failed.Hint == "" || !strings.Contains(failed.Error(), fmt.Sprintf("step %d failed", failed.Step)) {
				t.Errorf("%s: says %q", name, failed.Error())
			}
			if strings.Contains(failed.Hint, "no trace") && !maps.Equal(s.held, before) {
				t.Errorf("%s: says %q, and the database holds %v", name, failed.Hint, s.held)
			}
			again := &session{held: s.held}
			if err := carry(t, again, journal, 1); err != nil {
				t.Errorf("%s, again: %v", name, err)
			}
			if !maps.Equal(again.held, complete) {
				t.Errorf("%s, again: the database holds %v", name, again.held)
			}
			j, err := OpenJournal(journal, "script", "saltmere")
			if err != nil {
				t.Fatal(err)
			}
			if last, ok := j.Last(); !ok || last.State != Finished {
				t.Errorf("%s: the journal ends with %+v", name, last)
			}
		}
	}
}

// TestKilledAnywhere: the program ends between any two statements, and nobody writes what
// became of the step; running it again carries out what is left, once.
func TestKilledAnywhere(t *testing.T) {
	n := len((func() []string {
		s := &session{held: store{}}
		carry(t, s, filepath.Join(t.TempDir(), "j"), 1)
		return s.sent
	})())
	for at := 1; at <= n; at++ {
		for _, after := range []bool{false, true} {
			journal := filepath.Join(t.TempDir(), "j")
			s := &session{held: store{}, fail: func(n int, _ string) (error, bool) {
				if n == at {
					panic("killed")
				}
				return nil, false
			}}
			func() {
				defer func() { recover() }()
				carry(t, s, journal, 1)
			}()
			if after {
				s.fail = nil
				s.do(s.sent[at-1])
			}
			again := &session{held: s.held}
			if err := carry(t, again, journal, 1); err != nil || !maps.Equal(again.held, complete) {
				t.Errorf("killed at %q (it took place: %v): %v, %v", s.sent[at-1], after, err, again.held)
			}
		}
	}
}

// TestBusy: a lock that others hold is waited for, longer each time, as often as is said
// and no oftener, and only where the step left no trace.
func TestBusy(t *testing.T) {
	for _, c := range []struct {
		name        string
		tries, busy int // how often it is tried; how often the lock is held by others
		at          string
		waits       int
		fails       bool
	}{
		{"had at once", 3, 0, "make b", 0, false},
		{"had the second time", 3, 1, "make b", 1, false},
		{"had the last time", 3, 2, "make b", 2, false},
		{"not had", 3, 3, "make b", 2, true},
		{"not tried again", 1, 1, "make b", 0, true},
		{"never less than once", 0, 1, "make b", 0, true},
		{"many times", 9, 8, "make a", 8, false},
		{"what stands bars another try", 3, 1, "make g", 0, true},
		{"what was cleared away does not", 3, 2, "make e", 2, false},
	} {
		synctest.Test(t, func(t *testing.T) {
			left := c.busy
			s := &session{held: store{}, fail: func(_ int, sql string) (error, bool) {
				if sql == c.at && left > 0 {
					left--
					return said("busy", false, false, true), false
				}
				return nil, false
			}}
			path := filepath.Join(t.TempDir(), "j")
			j, err := OpenJournal(path, "s", "db")
			if err != nil {
				t.Fatal(err)
			}
			var pauses []time.Duration
			began := time.Now()
			r := &Run{Script: steps(), On: s, Journal: j, From: 1, Tries: c.tries, Waits: func(n int, err error, pause time.Duration) {
				pauses = append(pauses, pause)
				var held *engine.StatementError
				if !errors.As(err, &held) || !held.Busy || titleOf(n) == "" {
					t.Errorf("%s: waits for %v", c.name, err)
				}
			}}
			if err := r.Steps(t.Context()); (err != nil) != c.fails {
				t.Errorf("%s: %v", c.name, err)
			}
			var sum time.Duration
			for i, p := range pauses {
				if want := time.Second << min(i, 5); p != want {
					t.Errorf("%s: pause %d is %v, not %v", c.name, i+1, p, want)
				}
				sum += p
			}
			if len(pauses) != c.waits || time.Since(began) != sum {
				t.Errorf("%s: %d pauses, %v in all", c.name, len(pauses), time.Since(began))
			}
			tries := 0
			for _, e := range j.past {
				if strings.HasPrefix(e.Note, "try ") {
					if tries++; e.Note != fmt.Sprintf("try %d", tries+1) {
						t.Errorf("%s: the journal notes %q", c.name, e.Note)
					}
				}
			}
			if tries != c.waits {
				t.Errorf("%s: the journal notes %d tries", c.name, tries)
			}
		})
	}
}

func titleOf(n int) string { return steps().Steps[n-1].Title }

// TestBroughtToAnEnd: a run whose context ends stops before the next statement, and one
// that waits for a lock stops waiting; what is open is rolled back all the same.
func TestBroughtToAnEnd(t *testing.T) {
	ctx, cancel := context.WithCancel(t.Context())
	s := &session{held: store{}, fail: func(_ int, sql string) (error, bool) {
		if sql == "make b" {
			cancel()
		}
		return nil, false
	}}
	err := (&Run{Script: steps(), On: s, From: 1, Tries: 5}).Steps(ctx)
	if !errors.Is(err, context.Canceled) || s.held["b"] || !s.held["a"] || s.open != nil || slices.Contains(s.sent, "make c") {
		t.Errorf("%v, %v", err, s.held)
	}
	synctest.Test(t, func(t *testing.T) {
		ctx, cancel := context.WithCancel(t.Context())
		s := &session{held: store{}, fail: func(int, string) (error, bool) { return said("busy", false, false, true), false }}
		sc := &script.Script{Work: engine.Work{Steps: steps().Steps}}
		began := time.Now()
		r := &Run{Script: sc, On: s, From: 1, Tries: 5, Waits: func(int, error, time.Duration) { cancel() }}
		var failed *FailedError
		if err := r.Steps(ctx); !errors.As(err, &failed) || failed.State != Undone || time.Since(began) > 0 || len(s.sent) != 1 {
			t.Errorf("%v after %v", err, time.Since(began))
		}
	})
}

// TestPreflight: which questions are asked, and what a row in an answer does.
func TestPreflight(t *testing.T) {
	questions := []engine.Question{{Title: "rows without a parent", Step: 1, SQL: "q1"}, {Title: "repeats", Step: 2, SQL: "q2"}, {Title: "nulls", Step: 3, SQL: "q3"}}
	for _, c := range []struct {
		name       string
		from, upto int
		doubt      bool
		rows       string // the question that the data answers
		asked      string
		blocked    int
	}{
		{"all", 1, 0, false, "", "q1 q2 q3", 0},
		{"from the second on", 2, 0, false, "q1", "q2 q3", 0},
		{"up to the second", 1, 2, false, "q3", "q1 q2", 0},
		{"in doubt", 2, 0, true, "q2", "q3", 0},
		{"in the way", 1, 0, false, "q2", "q1 q2", 2},
		{"in the way of the last", 3, 3, false, "q3", "q3", 3},
		{"in the way of the one behind that in doubt", 1, 0, true, "q2", "q2", 2},
	} {
		s := &session{held: store{}, rows: map[string][]engine.Row{c.rows: {{nil}, {nil}}}}
		r := &Run{Script: &script.Script{Work: engine.Work{Preflight: questions, Steps: steps().Steps[:3]}}, On: s, From: c.from, Upto: c.upto, Doubt: c.doubt}
		err := r.All(t.Context())
		var blocked *BlockedError
		if errors.As(err, &blocked) != (c.blocked > 0) || c.blocked > 0 && (blocked.Question.Step != c.blocked || len(blocked.Rows) != 2 || blocked.Names[0] != "id" || !strings.Contains(err.Error(), blocked.Question.Title)) {
			t.Errorf("%s: %v", c.name, err)
		}
		var asked []string
		for _, sql := range s.sent {
			if q, ok := strings.CutPrefix(sql, "ask "); ok {
				asked = append(asked, q)
			} else if c.blocked > 0 {
				t.Errorf("%s: %s was sent", c.name, sql)
			}
		}
		if strings.Join(asked, " ") != c.asked {
			t.Errorf("%s: asked %v", c.name, asked)
		}
	}
	s := &session{held: store{}}
	r := &Run{Script: &script.Script{Work: engine.Work{Preflight: []engine.Question{{Step: 4, SQL: "broken"}}}}, On: s, From: 1}
	if err := r.Preflight(t.Context()); err == nil || !strings.Contains(err.Error(), "step 4") {
		t.Errorf("a question that the engine refuses: %v", err)
	}
}

// TestUpto: a run that is to end early does so, and is not finished.
func TestUpto(t *testing.T) {
	journal := filepath.Join(t.TempDir(), "j")
	j, err := OpenJournal(journal, "script", "saltmere")
	if err != nil {
		t.Fatal(err)
	}
	s := &session{held: store{}}
	var told []string
	r := &Run{Script: steps(), On: s, Journal: j, From: 1, Upto: 2, Step: func(n int, st *engine.Step, took time.Duration) {
		told = append(told, fmt.Sprintf("%d %s %v", n, st.Title, took < 0))
	}}
	if err := r.Steps(t.Context()); err != nil || !maps.Equal(s.held, store{"a": true, "b": true, "c": true}) {
		t.Fatalf("%v, %v", err, s.held)
	}
	if got := strings.Join(told, ", "); got != "1 one true, 1 one false, 2 several true, 2 several false" {
		t.Errorf("told: %s", got)
	}
	if last, _ := j.Last(); last.State != Done || last.Step != 2 {
		t.Errorf("the journal ends with %+v", last)
	}
	if err := carry(t, s, journal, 1); err != nil || !maps.Equal(s.held, complete) {
		t.Errorf("the rest: %v, %v", err, s.held)
	}
	r = &Run{Script: steps(), On: &session{held: store{}}, From: 1, Upto: 99}
	if err := r.Steps(t.Context()); err != nil {
		t.Errorf("up to a step that is not there: %v", err)
	}
}

// TestInDoubt: what a step in doubt may have left half done is cleared away before it is
// tried again, and what cannot be cleared away is said.
func TestInDoubt(t *testing.T) {
	run := func(held store, from int, fail func(int, string) (error, bool)) (*session, error) {
		s := &session{held: held, fail: fail}
		return s, (&Run{Script: steps(), On: s, From: from, Doubt: true, Upto: from, Tries: 1}).Steps(t.Context())
	}
	if s, err := run(store{"e": true}, 4, nil); err != nil || !slices.Equal(s.sent, []string{"set timeout", "drop e", "make e"}) {
		t.Errorf("half done: %v, %v", err, s.sent)
	}
	if s, err := run(store{}, 4, nil); err != nil || !s.held["e"] {
		t.Errorf("not begun: %v, %v", err, s.held)
	}
	refused := func(_ int, sql string) (error, bool) {
		if sql == "drop e" {
			return said("refused", false, false, false), false
		}
		return nil, false
	}
	var failed *FailedError
	if _, err := run(store{"e": true}, 4, refused); !errors.As(err, &failed) || failed.State != Unknown || !strings.Contains(failed.Hint, "drop e") {
		t.Errorf("cannot be cleared away: %v", err)
	}
	if s, err := run(store{"f": true}, 5, nil); err != nil || !s.held["g"] {
		t.Errorf("half of two statements: %v, %v", err, s.held)
	}
	if s, err := run(store{"f": true, "g": true}, 5, nil); err != nil || s.open != nil {
		t.Errorf("both statements: %v, %v", err, s.held)
	}
	if s, err := run(store{"a": true, "b": true, "c": true}, 2, nil); err != nil || s.open != nil || s.rolled != 1 {
		t.Errorf("a whole transaction: %v, rolled back %d times", err, s.rolled)
	}
	// Where nothing is in doubt, what is there already is a failure.
	s := &session{held: store{"b": true}}
	if err := (&Run{Script: steps(), On: s, From: 2, Upto: 2, Tries: 1}).Steps(t.Context()); err == nil {
		t.Error("what is there already is taken for done, though nothing is in doubt")
	}
	s = &session{held: store{"e": true}}
	if err := (&Run{Script: steps(), On: s, From: 4, Upto: 4, Tries: 1}).Steps(t.Context()); !errors.As(err, &failed) || failed.State != Undone || !s.held["e"] {
		t.Errorf("what somebody else made is cleared away: %v, %v", err, s.held)
	}
}

// TestNoJournal: nothing is done that the journal cannot keep, and what is done when the
// journal fails is said.
func TestNoJournal(t *testing.T) {
	gone := &Journal{path: filepath.Join(t.TempDir(), "not", "there")}
	s := &session{held: store{}}
	err := (&Run{Script: steps(), On: s, Journal: gone, From: 1}).Steps(t.Context())
	var failed *FailedError
	if !errors.As(err, &failed) || failed.State != Untouched || len(s.held) > 0 || !strings.Contains(err.Error(), "journal") {
		t.Errorf("%v, %v", err, s.held)
	}
	folder := t.TempDir()
	j, err := OpenJournal(filepath.Join(folder, "j"), "s", "db")
	if err != nil {
		t.Fatal(err)
	}
	s = &session{held: store{}, fail: func(_ int, sql string) (error, bool) {
		if sql == "make a" {
			j.path = filepath.Join(folder, "not", "there")
		}
		return nil, false
	}}
	err = (&Run{Script: steps(), On: s, Journal: j, From: 1}).Steps(t.Context())
	if !errors.As(err, &failed) || failed.State != Done || !s.held["a"] || s.held["b"] || !strings.Contains(failed.Hint, "--from 2") {
		t.Errorf("%v, %v", err, s.held)
	}
}
