package script

import (
	"errors"
	"fmt"
	"strconv"
	"strings"
	"time"

	"nexdal/internal/engine"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/pattern"
)

// ErrNotScript says that a file was not written by nexdal, or no longer looks
// like it.
var ErrNotScript = errors.New("not a script of nexdal's")

var (
	stepMark      = pattern.New(`^-- ` + markStep + ` (\d+) of (\d+): ?(.*)$`)
	preflightMark = pattern.New(`^-- ` + markPreflight + ` (\d+) of (\d+), for step (\d+): ?(.*)$`)
	headField     = pattern.New(`^-- ([a-z]+): +(.*)$`)
	stepField     = pattern.New(`^--   ([a-z][a-z -]*): +(.*)$`)
)

// EngineName tells which engine a script was written for, without reading the
// rest of it.
func EngineName(text string) (string, error) {
	for line := range strings.Lines(text) {
		line = remarked(line, "//", "--")
		if m := headField.FindStringSubmatch(strings.TrimRight(line, "\r\n")); m != nil && m[1] == "engine" {
			name, _, _ := strings.Cut(m[2], " ")
			return name, nil
		}
		if line = strings.TrimSpace(line); strings.HasSuffix(line, ";") && !strings.HasPrefix(line, "--") && !strings.HasPrefix(line, "SET ") {
			break // settings of the client may stand before the head, but no statement
		}
	}
	return "", ErrNotScript
}

// Read reads a script back. What was changed by hand within a step is taken as it
// stands now; marks that are missing, doubled or out of order are refused.
func Read(text string, dialect sqllex.Dialect) (*Script, error) {
	r := &reading{s: &Script{}}
	for _, st := range dialect.Statements(text) {
		for _, comment := range st.Lead {
			if dialect.SlashComments {
				comment = remarked(comment, "//", "--")
			}
			if err := r.comment(strings.TrimRight(comment, "\r")); err != nil {
				return nil, err
			}
		}
		if st.Text != "" {
			r.statement(st.Text)
		}
	}
	return r.s, r.finish()
}

// reading is the state between two statements.
type reading struct {
	s       *Script
	steps   int // as the marks say
	into    func(sql string)
	field   *string // where a broken line goes on
	written string  // digest of the statements, as the head has it
	left    bool    // within the list of what is left to you
	ended   bool
}

func (r *reading) comment(line string) error {
	if m := stepMark.FindStringSubmatch(line); m != nil {
		n, of := number(m[1]), number(m[2])
		if n != len(r.s.Steps)+1 || of != r.steps {
			return fmt.Errorf("the mark %q is out of order", line)
		}
		r.s.Steps = append(r.s.Steps, engine.Step{Title: m[3]})
		st := &r.s.Steps[n-1]
		r.into = func(sql string) { st = &r.s.Steps[n-1]; st.SQL = append(st.SQL, sql) }
		r.field = &r.s.Steps[n-1].Title
		return nil
	}
	if m := preflightMark.FindStringSubmatch(line); m != nil {
		if n := number(m[1]); n != len(r.s.Preflight)+1 || len(r.s.Steps) > 0 {
			return fmt.Errorf("the mark %q is out of order", line)
		}
		r.s.Preflight = append(r.s.Preflight, engine.Question{Step: number(m[3]), Title: m[4]})
		r.into = func(sql string) { r.s.Preflight[len(r.s.Preflight)-1].SQL = sql }
		r.field = nil
		return nil
	}
	if line == "-- "+markEnd {
		r.ended = true
		r.into = nil
		return nil
	}
	if line == "-- "+markLeft+":" || line == "-- Left to a person:" || line == "-- "+markLost+":" {
		r.left = true
		return nil
	}
	if r.left {
		r.leftLine(line)
		return nil
	}
	if len(r.s.Steps) > 0 {
		r.stepLine(line)
		return nil
	}
	if m := headField.FindStringSubmatch(line); m != nil && len(r.s.Preflight) == 0 {
		return r.head(m[1], m[2])
	}
	return nil
}

// leftLine takes what stands in the list of what is left to you.
func (r *reading) leftLine(line string) {
	rest, more := strings.CutPrefix(line, "--     ")
	switch n := len(r.s.said); {
	case more && n > 0:
		r.s.said[n-1] += " " + rest
	case !more && strings.HasPrefix(line, "--   "):
		r.s.said = append(r.s.said, line[len("--   "):])
	}
}

// stepLine takes what stands below a step's mark.
func (r *reading) stepLine(line string) {
	st := &r.s.Steps[len(r.s.Steps)-1]
	m := stepField.FindStringSubmatch(line)
	if m == nil {
		if rest, ok := strings.CutPrefix(line, "--     "); ok && r.field != nil {
			*r.field += " " + strings.TrimLeft(rest, " ")
		}
		return
	}
	r.field = nil
	switch m[1] {
	case "answers":
		st.Answers = append(st.Answers, m[2])
		r.field = &st.Answers[len(st.Answers)-1]
	case "locks":
		st.Lock = m[2]
		r.field = &st.Lock
	case "transaction":
		st.Transaction = strings.HasPrefix(m[2], "yes")
	case "note":
		st.Notes = append(st.Notes, m[2])
		r.field = &st.Notes[len(st.Notes)-1]
	case "if it fails":
		st.CleanUp = m[2]
		r.field = &st.CleanUp
	case "reversal":
		for len(r.s.Places) < len(r.s.Steps) {
			r.s.Places = append(r.s.Places, "")
		}
		r.s.Places[len(r.s.Steps)-1] = m[2]
		r.field = &r.s.Places[len(r.s.Steps)-1]
	}
}

func (r *reading) head(name, value string) error {
	var err error
	switch name {
	case "engine":
		r.s.Engine.Name, r.s.Engine.Version, _ = strings.Cut(value, " ")
	case "database":
		r.s.Database, _, err = unquoted(value)
	case "surveyed":
		r.s.Surveyed, err = time.Parse(time.RFC3339, value)
	case "structure":
		r.s.Structure = value
	case "reversal", "undoes":
		r.s.Reversal, r.s.Back = value, name
	case "before":
		r.s.Before = value
	case "after":
		r.s.After = value
	case "written":
		r.written = value
	case "steps":
		_, err = fmt.Sscanf(value, "%d", &r.steps)
	case "table":
		ref, bad := parseRef(value)
		err = bad
		r.s.Tables = append(r.s.Tables, ref)
	}
	if err != nil {
		return fmt.Errorf("the head's line %q is damaged", name)
	}
	return nil
}

func (r *reading) statement(sql string) {
	if r.into != nil {
		r.into(sql)
		return
	}
	r.s.Setup = append(r.s.Setup, sql)
}

// finish checks that nothing is missing.
func (r *reading) finish() error {
	s := r.s
	switch {
	case s.Engine.Name == "" || s.Structure == "":
		return ErrNotScript
	case len(s.Steps) != r.steps:
		return fmt.Errorf("%d of its %d steps are there", len(s.Steps), r.steps)
	case !r.ended:
		return fmt.Errorf("its end is missing")
	}
	for i := range s.Steps {
		if len(s.Steps[i].SQL) == 0 {
			return fmt.Errorf("step %d holds no statement", i+1)
		}
		if cleanUp, ok := strings.CutPrefix(s.Steps[i].CleanUp, clearedBy); ok {
			if strings.HasPrefix(cleanUp, `"`) {
				sql, rest, err := unquoted(cleanUp)
				if err != nil || rest != "" {
					return fmt.Errorf("step %d: the statement that clears it away is damaged", i+1)
				}
				cleanUp = sql
			}
			s.Steps[i].CleanUp = cleanUp
		}
	}
	for i := range s.Places {
		s.Places[i] = strings.TrimSuffix(s.Places[i], s.Reversal)
	}
	s.Edited = r.written != "" && r.written != s.digest()
	for i, q := range s.Preflight {
		if q.SQL == "" {
			return fmt.Errorf("pre-flight %d holds no query", i+1)
		}
	}
	return nil
}

func number(digits string) int {
	n, err := strconv.Atoi(digits)
	if err != nil {
		return -1
	}
	return n
}
