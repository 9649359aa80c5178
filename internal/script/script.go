// Package script turns a plan into the text of a script and a script's text
// back into steps. The form is described in docs/script-format.md: plain SQL
// that the engine's own client runs, with comments that say what is what.
package script

import (
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"io"
	"slices"
	"strconv"
	"strings"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/text"
)

// A Script is a plan written out as SQL, with its head.
type Script struct {
	Kind      string // what it is, in a few words: "Corrective script"
	Program   string // what wrote it: "nexdal 0.1.0"
	Engine    catalog.Engine
	Database  string
	Surveyed  time.Time
	Tables    []catalog.Ref // what it alters
	Structure string        // fingerprint of those tables before the first step
	Findings  int           // how many it answers
	Stays     []string      // what the reversal does not take back, and why
	Before    string        // survey file of the structure that it was made for, beside it; or empty
	After     string        // survey file of what it leads to, by the model; or empty
	Edited    bool          // statements were changed since it was written
	Reversal  string        // the file that takes it back, or that it takes back
	Back      string        // which of the two: "reversal" or "undoes"
	Left      []Left        // what is left to you
	LeftAs    string        // what that is; empty: findings
	Unread    []catalog.Gap // what the survey lacks, and nobody has looked at
	Losses    []engine.Loss // what is left out, or made otherwise than it was
	Places    []string      // for each step, where in the other file it is taken back
	Dialect   sqllex.Dialect
	engine.Work

	said []string // what a script that was read says of what is left
}

// Leaves reports whether a script that was read says of the finding that it does not
// answer it.
func (s *Script) Leaves(finding string) bool {
	return slices.ContainsFunc(s.said, func(said string) bool {
		return strings.HasPrefix(text.OneLine(said), text.OneLine(text.Line(finding)+":"))
	})
}

// Lacks lists what the script needs and the version of the engine has not.
func (s *Script) Lacks(e engine.Engine, version string) []string {
	v, ok := e.(engine.Versioned)
	if !ok {
		return nil
	}
	sql := slices.Clone(s.Setup)
	for _, st := range s.Steps {
		sql = append(sql, st.SQL...)
	}
	return v.Lacks(version, sql)
}

// TakenBackBy are the numbers of the steps of the other script that take the step at the
// place back, or that it takes back.
func (s *Script) TakenBackBy(i int) []int {
	var steps []int
	if i < len(s.Places) {
		for _, word := range strings.FieldsFunc(s.Places[i], func(c rune) bool { return c < '0' || c > '9' }) {
			if n, err := strconv.Atoi(word); err == nil {
				steps = append(steps, n)
			}
		}
	}
	return steps
}

// Limit lets the script wait for locks, and statements take, as long as is said; zero: as
// the engine has it.
func (s *Script) Limit(e engine.Engine, lock, statement time.Duration) {
	l, ok := e.(engine.Limiter)
	if !ok || lock == 0 && statement == 0 {
		return
	}
	was, is := l.Limits(0, 0), l.Limits(lock, statement)
	replace := func(sql []string) {
		for i := range sql {
			if n := slices.Index(was, sql[i]); n >= 0 {
				sql[i] = is[n]
			}
		}
	}
	replace(s.Setup)
	for i := range s.Steps {
		replace(s.Steps[i].SQL)
	}
	if lock > 0 && s.Waits != "" {
		s.Waits = fmt.Sprintf("%s for a lock, then the step fails without trace; nexdal run tries it again", lock)
	}
}

// digest tells whether somebody has changed statements.
func (s *Script) digest() string {
	h := sha256.New()
	for _, st := range s.Steps {
		for _, sql := range st.SQL {
			io.WriteString(h, strings.TrimSpace(sql)+"\x00")
		}
	}
	return hex.EncodeToString(h.Sum(nil)[:8])
}

// Left is a finding that the script does not answer.
type Left struct{ Finding, Message, Why string }

// The words that the marks are made of, shared by writing and reading.
const (
	markStep      = "Step"
	markPreflight = "Pre-flight"
	markLeft      = "Not scripted"
	markLost      = "Not as it was"
	markEnd       = "End of script."
)
