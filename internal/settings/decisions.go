// Package settings holds what people set down in files: so far what they said
// of findings and undeclared references.
package settings

import (
	"bytes"
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"
	"time"

	"go.yaml.in/yaml/v3"

	"nexdal/internal/catalog"
	"nexdal/internal/evidence"
	"nexdal/internal/text"
)

// A Verdict is what was said.
type Verdict string

// The verdicts.
const (
	Accept   Verdict = "accept"    // an undeclared reference: it counts from then on; a finding: its first fix is agreed
	Refuse   Verdict = "refuse"    // an undeclared reference is none
	SetAside Verdict = "set aside" // a finding is left as it is
	Choose   Verdict = "choose"    // one of a finding's fixes
)

// A Decision is what somebody said of one thing, or of all that a pattern fits.
type Decision struct {
	About   string  `yaml:"about"` // identifier, or a pattern with * and ?
	Verdict Verdict `yaml:"decision"`
	Fix     string  `yaml:"fix,omitempty"` // of Choose: the fix's identifier
	By      string  `yaml:"by"`
	At      Day     `yaml:"at"`
	Because string  `yaml:"because,omitempty"`
	Until   Day     `yaml:"until,omitempty"` // the last day on which it holds
}

// Decisions is the decisions file.
type Decisions struct {
	Format int        `yaml:"format"`
	List   []Decision `yaml:"decisions"`
	Notes  []Note     `yaml:"notes,omitempty"`
}

// decisionsFormat numbers the file's form.
const decisionsFormat = 1

// A Day is a date without time; the zero day is none.
type Day struct{ time.Time }

// MarshalYAML writes year-month-day.
func (d Day) MarshalYAML() (any, error) {
	return &yaml.Node{Kind: yaml.ScalarNode, Tag: "!!timestamp", Value: d.String()}, nil
}

// String gives year-month-day.
func (d Day) String() string { return d.Format(time.DateOnly) }

// IsZero lets a day that is none be left out.
func (d Day) IsZero() bool { return d.Time.IsZero() }

// UnmarshalYAML reads year-month-day.
func (d *Day) UnmarshalYAML(n *yaml.Node) (err error) {
	if *d, err = ParseDay(n.Value); err != nil {
		return fmt.Errorf("line %d: %w", n.Line, err)
	}
	return nil
}

// ParseDay reads year-month-day.
func ParseDay(s string) (Day, error) {
	t, err := time.Parse(time.DateOnly, strings.TrimSpace(s))
	if err != nil {
		return Day{}, fmt.Errorf("%q is no date; write it as 2026-12-31", s)
	}
	return Day{t}, nil
}

// ReadDecisions reads a decisions file. Errors say where in the file.
func ReadDecisions(r io.Reader) (*Decisions, error) {
	written, err := io.ReadAll(r)
	if err != nil {
		return nil, err
	}
	in := yaml.NewDecoder(bytes.NewReader(written))
	in.KnownFields(true)
	d := &Decisions{}
	if err := in.Decode(d); err != nil && !errors.Is(err, io.EOF) {
		return nil, errors.New(text.Plain(err))
	}
	if d.Format == 0 && len(d.List)+len(d.Notes) == 0 {
		d.Format = decisionsFormat // an empty file decides nothing
	}
	if d.Format != decisionsFormat {
		return nil, fmt.Errorf("it is of format %d, and this program reads format %d", d.Format, decisionsFormat)
	}
	for _, x := range d.Notes {
		if err := x.check(); err != nil {
			return nil, err
		}
	}
	for i, x := range d.List {
		if err := x.Check(); err != nil {
			return nil, fmt.Errorf("decision %d: %w", i+1, err)
		}
	}
	return d, nil
}

// Check says what is wrong with a decision.
func (x Decision) Check() error {
	reference := strings.HasPrefix(x.About, referencePrefix)
	area, slug, ok := strings.Cut(strings.SplitN(x.About, " ", 2)[0], "/")
	finding := ok && area != "" && slug != "" || strings.HasPrefix(x.About, "*")
	switch {
	case strings.TrimSpace(x.About) == "":
		return errors.New("it does not say what it is about")
	case !reference && !finding:
		return fmt.Errorf("%q is neither a reference nor a finding; nexdal decide list shows their identifiers", x.About)
	case x.Verdict == Refuse && !reference:
		return errors.New("a finding is set aside, not refused")
	case x.Verdict == SetAside && reference:
		return errors.New("a reference is refused, not set aside")
	case x.Verdict == Choose && x.Fix == "":
		return errors.New("it chooses no fix")
	case x.Verdict == Choose && reference:
		return errors.New("a reference is accepted or refused; fixes are chosen of findings")
	case x.Verdict != Accept && x.Verdict != Refuse && x.Verdict != SetAside && x.Verdict != Choose:
		return fmt.Errorf("%q is no decision; there are accept, refuse, set aside and choose", x.Verdict)
	case x.Verdict == SetAside && strings.TrimSpace(x.Because) == "":
		return errors.New("a finding is set aside for a reason; say because")
	case !x.Until.IsZero() && x.Until.Before(x.At.Time):
		return fmt.Errorf("it ends on %s, before it was made on %s", x.Until, x.At)
	}
	return nil
}

// preamble stands at the head of a decisions file.
const preamble = `# What people decided about findings and references, kept by nexdal decide.
# Belongs in version control; may be edited by hand.
`

// Write writes the file, in the order in which decisions were made.
func (d *Decisions) Write(w io.Writer) error {
	if _, err := io.WriteString(w, preamble); err != nil {
		return err
	}
	out := yaml.NewEncoder(w)
	out.SetIndent(2)
	d.Format = decisionsFormat
	if err := out.Encode(d); err != nil {
		return err
	}
	return out.Close()
}

// Put adds a decision in the place of one about the same.
func (d *Decisions) Put(x Decision) {
	d.Withdraw(x.About)
	d.List = append(d.List, x)
}

// Withdraw takes out what was said about it, and reports whether there was
// anything.
func (d *Decisions) Withdraw(about string) bool {
	if on, ok := strings.CutPrefix(about, notePrefix); ok {
		return d.withdrawNote(on)
	}
	n := len(d.List)
	d.List = slices.DeleteFunc(d.List, func(x Decision) bool { return x.About == about })
	return len(d.List) < n
}

// Holds reports whether the decision has not come to its end.
func (x Decision) Holds(today time.Time) bool {
	return x.Until.IsZero() || !today.Truncate(24*time.Hour).After(x.Until.Time)
}

// Fits reports whether the decision is about what the identifier names.
func (x Decision) Fits(id string) bool { return x.About == id || catalog.Fits(x.About, id) }

// Of returns what holds of the identifier today: the last that was said of it by
// its own name, or else by a pattern; nil where nothing was.
func (d *Decisions) Of(id string, today time.Time) *Decision {
	var found *Decision
	for i := range d.List {
		x := &d.List[i]
		if x.Holds(today) && x.Fits(id) && (found == nil || x.About == id || found.About != id) {
			found = x
		}
	}
	return found
}

const referencePrefix = "reference "

// ReferenceID names a reference in decisions.
func ReferenceID(r *evidence.Reference) string {
	return referenceID(r.From(), r.Columns, r.To(), r.TargetColumns)
}

func referenceID(from catalog.Ref, columns []string, to catalog.Ref, target []string) string {
	return fmt.Sprintf("%s%s (%s) to %s (%s)", referencePrefix, from, strings.Join(columns, ", "), to, strings.Join(target, ", "))
}
