package report

import (
	"fmt"
	"maps"
	"slices"
	"strings"
	"time"

	"nexdal/internal/compare"
	"nexdal/internal/engine"
	"nexdal/internal/evidence"
	"nexdal/internal/rule"
	"nexdal/internal/script"
	"nexdal/internal/text"
)

// Steps shows what a run is about to do: in short, where each step is told again when it is done.
func (p *Page) Steps(s *script.Script, place string, from int, short bool) {
	p.printf("%s\n", p.paint(bold, text.Line(fmt.Sprintf("%s on %s", text.Plural(int64(len(s.Steps)-from+1), "step"), place))))
	if from > 1 {
		p.printf("  steps before %d are done\n", from)
	}
	if short {
		return
	}
	lock := ""
	for i, st := range s.Steps[from-1:] {
		p.block(fmt.Sprintf("  %3d  ", from+i), text.Line(st.Title))
		if st.Lock != lock { // said once for a run of steps alike
			p.block("       "+p.paint(dim, "locks: "), text.Line(st.Lock))
			lock = st.Lock
		}
	}
	if n := len(s.Preflight); n > 0 {
		p.printf("  before the first: %s of the data\n", text.Plural(int64(n), "question"))
	}
}

// StepDone reports a step that took place; one that was shown before is told by its number.
func (p *Page) StepDone(n, of int, st *engine.Step, took time.Duration, shown bool) {
	says := p.paint(dim, fmt.Sprintf("(%.2f s)", took.Seconds()))
	if !shown {
		says = text.Line(st.Title) + " " + says
	}
	p.block(fmt.Sprintf("  done  %*d of %d  ", len(fmt.Sprint(of)), n, of), says)
}

// Rows shows the answer to a query.
func (p *Page) Rows(names []string, rows []evidence.Row) {
	var safe [][]string
	for _, r := range rows {
		cells := make([]string, len(r))
		for i, c := range r.Texts() {
			cells[i] = text.Line(shortened(c))
		}
		safe = append(safe, cells)
	}
	heads := make([]string, len(names))
	for i, n := range names {
		heads[i] = text.Line(n)
	}
	p.rows(heads, nil, safe)
}

// longestValue is how many letters of a value of a row are shown: who has to find the row needs no more
// of it, and a table is read at all.
const longestValue = 80

func shortened(value string) string {
	if r := []rune(value); len(r) > longestValue {
		return fmt.Sprintf("%s… (%s letters)", string(r[:longestValue]), text.Amount(int64(len(r))))
	}
	return value
}

// Outcome says which of the findings that a script answers are gone, and
// whether others came. One that the script leaves to you was there before: the data showed
// it then, and the structure alone shows it now.
func (p *Page) Outcome(r *Record, before, after rule.Result) {
	if n := len(r.Gone) + len(r.StillThere); n > 0 {
		p.printf("%s\n", p.paint(bold, fmt.Sprintf("%d of %s gone", len(r.Gone), text.Plural(int64(n), "finding"))))
	} else {
		p.printf("%s\n", p.paint(bold, fmt.Sprintf("%s before, %s now", text.Plural(int64(len(before.Findings)), "finding"), text.Amount(int64(len(after.Findings))))))
	}
	for _, list := range []struct {
		title string
		ids   []string
	}{{"still there", r.StillThere}, {"new", r.New}} {
		if len(list.ids) > 0 {
			p.printf("  %s: %s\n", list.title, text.Line(strings.Join(list.ids, "; ")))
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

// Head begins a part of what is told.
func (p *Page) Head(title string) { p.printf("%s\n", p.paint(bold, text.Line(title))) }

// Table adds rows of cells to a part; right aligns columns by number from 1.
func (p *Page) Table(head []string, right []int, rows [][]string) {
	if len(rows) > 0 {
		p.rows(head, right, rows)
	}
}

// Gap leaves a line free between parts.
func (p *Page) Gap() { p.printf("\n") }

// Say adds a sentence to a part.
func (p *Page) Say(sentence string) { p.block("  ", text.Line(sentence)) }

// Moves sums up what changes between two structures.
func (p *Page) Moves(found []compare.Difference) {
	if len(found) == 0 {
		p.Say("nothing of the structure changes")
		return
	}
	var parts []string
	for _, kind := range []compare.Kind{compare.Added, compare.Removed, compare.Altered} {
		counts := map[string]int64{}
		for _, d := range found {
			if d.Kind == kind {
				counts[d.Object]++
			}
		}
		for _, object := range slices.Sorted(maps.Keys(counts)) {
			parts = append(parts, fmt.Sprintf("%s %s", text.Plural(counts[object], object), kind))
		}
	}
	p.Say("in the structure: " + strings.Join(parts, ", "))
}

// Foretold says which findings a script makes go, which stay and which are new, by
// rule. It returns how many of those that are there then the script was to answer.
func (p *Page) Foretold(answers []string, before, after rule.Result) (short int64) {
	was, is, meant := set(ids(before)), set(ids(after)), set(answers)
	var gone, stay, came []rule.Finding
	data := int64(0)
	for _, f := range before.Findings {
		if is[f.ID()] {
			stay = append(stay, f)
			switch {
			case !meant[f.ID()]:
			case f.RestsOnData():
				data++
			default:
				short++
			}
		} else {
			gone = append(gone, f)
		}
	}
	for _, f := range after.Findings {
		if !was[f.ID()] {
			if came = append(came, f); meant[f.ID()] && !f.RestsOnData() {
				short++
			}
		}
	}
	p.tallied("gone", gone)
	along := 0
	for _, f := range gone {
		if !meant[f.ID()] {
			along++
		}
	}
	if along > 0 && len(answers) > 0 {
		p.Say(fmt.Sprintf("%s that the script answers, and %s that %s with them", text.Plural(int64(len(gone)-along), "finding"), text.Amount(int64(along)), map[bool]string{true: "goes", false: "go"}[along == 1]))
	}
	p.tallied("stay", stay)
	p.tallied("new", came)
	if short > 0 {
		p.Say(fmt.Sprintf("%s of those that are there then the script was to answer", text.Amount(short)))
	}
	if data > 0 {
		p.Say(fmt.Sprintf("%s of those that stay are answered in the data; the evidence is from before", text.Amount(data)))
	}
	return short
}

func set(list []string) map[string]bool {
	held := make(map[string]bool, len(list))
	for _, s := range list {
		held[s] = true
	}
	return held
}

func (p *Page) tallied(word string, list []rule.Finding) {
	counts := map[string]int64{}
	for _, f := range list {
		counts[f.Rule]++
	}
	var parts []string
	for _, id := range slices.Sorted(maps.Keys(counts)) {
		if n := counts[id]; n > 1 {
			id = fmt.Sprintf("%s (%s)", id, text.Amount(n))
		}
		parts = append(parts, id)
	}
	line := text.Amount(int64(len(list)))
	if len(parts) > 0 {
		line += ": " + strings.Join(parts, ", ")
	}
	p.block(fmt.Sprintf("  %s  ", pad(word, 5)), text.Line(line))
}
