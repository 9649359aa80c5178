// Package rule judges a catalog by design rules. A rule is a value; the
// driver knows no rule and no rule knows the driver or an engine.
package rule

import (
	"slices"
	"strings"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
)

// Severity says how much a finding matters.
type Severity string

// The severities, worst first.
const (
	Error   Severity = "error"   // data can be or is wrong, or an operation will fail
	Warning Severity = "warning" // it will hurt: locks, scans, growth
	Notice  Severity = "notice"  // convention, tidiness
)

// Off is the severity of a rule that is not judged by unless a house says so.
const Off Severity = "off"

// Severities lists them, worst first.
var Severities = []Severity{Error, Warning, Notice}

// AtLeast reports whether s is as bad as o or worse.
func (s Severity) AtLeast(o Severity) bool {
	return slices.Index(Severities, s) <= slices.Index(Severities, o)
}

// Certainty says what a finding rests on.
type Certainty string

// The certainties.
const (
	ByStructure  Certainty = "structure"  // the catalog alone
	ByStatistics Certainty = "statistics" // the engine's own figures
	Sampled      Certainty = "sampled"    // some of the rows
	Verified     Certainty = "verified"   // all rows
)

// Need is something besides the structure that a rule judges by.
type Need string

// The needs.
const (
	Statistics Need = "statistics"
	Settings   Need = "settings"
	Evidence   Need = "evidence"
)

// A Rule is one design rule.
type Rule struct {
	ID       string   // area/slug
	Title    string   // the fault, in a few words
	Severity Severity // of a plain case; a finding may be better or worse
	// Consequence is what comes of a plain case; that of a finding may be another.
	Consequence Consequence
	// Needs is what the rule cannot judge all without, besides the structure: where it
	// is lacking the driver says so. Uses is what it takes into account where it is there.
	Needs, Uses []Need
	// Applies reports whether an engine can have the fault. Nil: any can.
	Applies func(catalog.Abilities) bool
	Options []Option // what a house may set
	Fixes   []string // identifiers of the fixes that it may offer
	// GivesWay names the rules that say it already where they have a finding
	// about the same columns or the same object.
	GivesWay []string
	// Doc is the user's documentation: what, why it hurts, when to leave it
	// alone, what the fix does. Paragraphs are set apart by blank lines.
	Doc string
	// Check reports the findings of one catalog. An error says why it could not come to
	// its end; what it has reported stands.
	Check func(*Pass) error
	// Suspects says that Check asks for [Pass.Suspects], which are gathered beside the
	// other rules.
	Suspects bool
}

// Is reports whether the rule is the one of that identifier, or one that the
// pattern fits.
func (r *Rule) Is(pattern string) bool { return r.ID == pattern || catalog.Fits(pattern, r.ID) }

// Offers reports whether the rule may offer a fix of that identifier; of several of a kind
// the later ones are numbered: "promote2".
func (r *Rule) Offers(fix string) bool {
	return slices.Contains(r.Fixes, fix) || slices.Contains(r.Fixes, strings.TrimRight(fix, "0123456789"))
}

// Area is the part of the identifier before the slash.
func (r *Rule) Area() string { area, _, _ := strings.Cut(r.ID, "/"); return area }

// A Finding is one breach of a rule at one object.
type Finding struct {
	Rule     string
	Severity Severity
	// Consequence is what comes of it.
	Consequence Consequence
	By          time.Time   // the day on which it begins to fail, as far as that can be reckoned; zero: not known
	Table       catalog.Ref // empty for the database as a whole
	Object      string      // the key, foreign key or index; the table's name where the table itself is at fault
	Columns     []string
	Part        string // tells findings at the same object apart: one column of several
	Message     string
	Certainty   Certainty
	Fixes       []Fix  // alternatives, the proposed one first; empty: nothing can be scripted
	Advice      string // what to do where there is no fix, or besides it
	Command     Command
	Decision    *Decision
	// Story is the identifier of the finding that leads the story which this one
	// is part of; empty: it stands alone.
	Story string
}

// Area is that of its rule.
func (f Finding) Area() string { area, _, _ := strings.Cut(f.Rule, "/"); return area }

// A Decision is what somebody said of a finding.
type Decision struct {
	Verdict string // "accept", "set aside", "choose"
	Fix     string // the one chosen
	By, At  string
	Because string
	Until   string
}

// SetAside reports whether somebody decided to leave it as it is.
func (f Finding) SetAside() bool { return f.Decision != nil && f.Decision.Verdict == "set aside" }

// ID names the finding in decisions and scripts; it stays the same from
// survey to survey for as long as the object keeps its name.
func (f Finding) ID() string {
	id := f.Rule
	if f.Table.Table != "" {
		id += " " + f.Table.String()
	}
	if f.Object != "" && f.Object != f.Table.Table {
		id += " " + f.Object
	}
	if f.Part != "" {
		id += " " + f.Part
	}
	return id
}

// A Command is the call of the program that leads on where a fix does not, word by word. The
// words below stand for what only the caller knows.
type Command []string

// What commands leave to the caller.
const (
	TheSource   = "{source}"   // that was judged
	TheEvidence = "{evidence}" // the file of evidence, with the flag for it
)

// Commands that several rules lead on by.
var (
	// Probe asks the data.
	Probe = Command{"probe", TheSource, "-o", "nexdal.evidence.json"}
	// Repair writes what can become of rows that break a promise.
	Repair = Command{"script", "repair", TheSource, TheEvidence, "-o", "repair.sql"}
)

// Of is the rule of the finding that the identifier names.
func Of(id string) string {
	of, _, _ := strings.Cut(id, " ")
	return of
}

// A Fix is one way to put a finding right.
type Fix struct {
	ID      string // short, the same for all findings of the rule: "index", "promote"
	Title   string
	Changes []change.Change
	// Ask: nothing in the catalog or the data proves that it is meant, so that a
	// script takes it only where somebody chose it, or asked for all of these.
	Ask bool
}

// An Unjudged entry says what a rule could not judge, and what it lacked.
type Unjudged struct {
	Rule    string
	Needs   string // empty: the rule itself failed
	Command string // that supplies it; empty: none does
	Objects int
	Failed  string // why the rule did not come to its end
}

// RestsOnData reports whether the finding is one of the data, which a change of
// the structure alone says nothing of.
func (f Finding) RestsOnData() bool { return f.Certainty == Verified || f.Certainty == Sampled }

// A Result is what the rules said of a catalog.
type Result struct {
	Findings []Finding
	Unjudged []Unjudged
}

// Count returns how many findings have the severity, without those set aside.
func (r Result) Count(s Severity) int {
	n := 0
	for _, f := range r.Findings {
		if f.Severity == s && !f.SetAside() {
			n++
		}
	}
	return n
}
