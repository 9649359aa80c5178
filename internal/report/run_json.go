package report

import (
	"math"
	"time"

	"nexdal/internal/compare"
	"nexdal/internal/engine"
	"nexdal/internal/rule"
)

// A Record is what a run or a rehearsal came to, for programs. It is filled as the work goes on,
// and says the same as the page.
type Record struct {
	Format int    `json:"format"`
	Kind   string `json:"kind"` // "run", "rehearsal"
	Script string `json:"script"`
	Place  string `json:"place"`             // the database, or the twin
	DryRun bool   `json:"dry_run,omitempty"` // nothing was to be done
	// Outcome is "complete", "stopped" after the step that was asked for, "not rehearsed", or
	// "failed": then Reason says why.
	Outcome string       `json:"outcome"`
	Reason  string       `json:"reason,omitempty"`
	Steps   []stepRecord `json:"steps"`
	// Findings that the script answers and that are gone, that are still there, and that are new;
	// of a rehearsal, those that the model foretells.
	Gone       []string `json:"gone"`
	StillThere []string `json:"still_there"`
	New        []string `json:"new"`
	// AsPlanned is whether the structure is the one that the script was to lead to; left out
	// where that is not known.
	AsPlanned   *bool          `json:"as_planned,omitempty"`
	Differences []differenceOf `json:"differences"`
	// WayBack is what the reversal did in the rehearsal: "leads back", "leads elsewhere",
	// "failed"; left out where there was none.
	WayBack string `json:"way_back,omitempty"`
}

type stepRecord struct {
	Step    int      `json:"step"`
	Title   string   `json:"title"`
	Lock    string   `json:"lock,omitempty"`
	Answers []string `json:"answers,omitempty"`
	State   string   `json:"state"` // "done", "done before", "not done"
	Seconds *float64 `json:"seconds,omitempty"`
}

// recordFormat numbers the form.
const recordFormat = 1

// NewRecord begins one.
func NewRecord(kind, script string) *Record {
	return &Record{Format: recordFormat, Kind: kind, Script: script, Outcome: "failed", Steps: []stepRecord{}, Gone: []string{}, StillThere: []string{}, New: []string{}, Differences: []differenceOf{}}
}

// Begin notes the steps, those before the given one as done.
func (r *Record) Begin(place string, steps []engine.Step, from int) {
	r.Place = place
	for i, st := range steps {
		state := "not done"
		if i+1 < from {
			state = "done before"
		}
		r.Steps = append(r.Steps, stepRecord{Step: i + 1, Title: st.Title, Lock: st.Lock, Answers: st.Answers, State: state})
	}
}

// Done notes that a step took place.
func (r *Record) Done(n int, took time.Duration) {
	if n < 1 || n > len(r.Steps) {
		return
	}
	seconds := math.Round(1000*took.Seconds()) / 1000
	r.Steps[n-1].State, r.Steps[n-1].Seconds = "done", &seconds
}

// Findings notes which of the findings that the script answers are gone, and which are new.
func (r *Record) Findings(answers []string, leaves func(finding string) bool, before, after rule.Result) {
	is, had, has := ids(after), set(ids(before)), set(ids(after))
	for _, id := range answers {
		if has[id] {
			r.StillThere = append(r.StillThere, id)
		} else {
			r.Gone = append(r.Gone, id)
		}
	}
	for _, id := range is {
		if !had[id] && !leaves(id) {
			r.New = append(r.New, id)
		}
	}
}

// Differ notes how the structure stands to the one that was planned.
func (r *Record) Differ(found []compare.Difference) {
	as := len(found) == 0
	r.AsPlanned, r.Differences = &as, append(r.Differences, differencesJSON(found)...)
}
