package report

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"nexdal/internal/engine"
	"nexdal/internal/phrase"
	"nexdal/internal/rule"
	"nexdal/internal/script"
)

// Steps shows what a run is about to do.
func (p *Page) Steps(s *script.Script, place string, from int) {
	p.printf("%s\n", p.paint(bold, phrase.Line(fmt.Sprintf("%s on %s", phrase.Plural(int64(len(s.Steps)-from+1), "step"), place))))
	if from > 1 {
		p.printf("  steps before %d are done\n", from)
	}
	lock := ""
	for i, st := range s.Steps[from-1:] {
		p.block(fmt.Sprintf("  %3d  ", from+i), phrase.Line(st.Title))
		if st.Lock != lock { // said once for a run of steps alike
			p.block("       "+p.paint(dim, "locks: "), phrase.Line(st.Lock))
			lock = st.Lock
		}
	}
	if n := len(s.Preflight); n > 0 {
		p.printf("  before the first: %s of the data\n", phrase.Plural(int64(n), "question"))
	}
}

// StepDone reports a step that took place.
func (p *Page) StepDone(n, of int, st *engine.Step, took time.Duration) {
	p.block(fmt.Sprintf("  done  %*d of %d  ", len(fmt.Sprint(of)), n, of), fmt.Sprintf("%s %s", phrase.Line(st.Title), p.paint(dim, fmt.Sprintf("(%.2f s)", took.Seconds()))))
}

// Rows shows the answer to a query.
func (p *Page) Rows(names []string, rows [][]string) {
	var safe [][]string
	for _, r := range rows {
		cells := make([]string, len(r))
		for i, c := range r {
			cells[i] = phrase.Line(c)
		}
		safe = append(safe, cells)
	}
	heads := make([]string, len(names))
	for i, n := range names {
		heads[i] = phrase.Line(n)
	}
	p.rows(heads, nil, safe)
}

// Outcome says which of the findings that a script answers are gone, and
// whether others came.
func (p *Page) Outcome(answers []string, before, after rule.Result) {
	was, is := ids(before), ids(after)
	var stay, came []string
	gone := 0
	for _, id := range answers {
		if slices.Contains(is, id) {
			stay = append(stay, id)
		} else {
			gone++
		}
	}
	for _, id := range is {
		if !slices.Contains(was, id) {
			came = append(came, id)
		}
	}
	if len(answers) > 0 {
		p.printf("%s\n", p.paint(bold, fmt.Sprintf("%d of %s gone", gone, phrase.Plural(int64(len(answers)), "finding"))))
	} else {
		p.printf("%s\n", p.paint(bold, fmt.Sprintf("%s before, %s now", phrase.Plural(int64(len(was)), "finding"), phrase.Amount(int64(len(is))))))
	}
	for _, list := range []struct {
		title string
		ids   []string
	}{{"still there", stay}, {"new", came}} {
		if len(list.ids) > 0 {
			p.printf("  %s: %s\n", list.title, phrase.Line(strings.Join(list.ids, "; ")))
		}
	}
}

func ids(r rule.Result) []string {
	var all []string
	for _, f := range r.Findings {
		all = append(all, f.ID())
	}
	return all
}
