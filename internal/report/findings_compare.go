package report

import (
	"fmt"
	"slices"

	"nexdal/internal/rule"
	"nexdal/internal/text"
)

// A Turn is how the findings of one check stand to those of an earlier one.
type Turn struct {
	Format int         `json:"format"`
	Kind   string      `json:"kind"` // always "findings-compared"
	From   sourceOf    `json:"from"`
	To     sourceOf    `json:"to"`
	New    []findingOf `json:"new"`
	Gone   []findingOf `json:"gone"`
	Worse  []turned    `json:"worse"`
	Better []turned    `json:"better"`
	Same   int         `json:"same"`
}

// turned is a finding of both, which matters more, or less, than it did.
type turned struct {
	findingOf
	Was string `json:"was"` // its severity before, and consequence where that is another
}

// CompareFindings tells what is new, gone, worse and better.
func CompareFindings(from, to *Findings) *Turn {
	t := &Turn{Format: 1, Kind: "findings-compared", From: from.file.Source, To: to.file.Source, New: []findingOf{}, Gone: []findingOf{}, Worse: []turned{}, Better: []turned{}}
	was := map[string]findingOf{}
	for _, f := range from.file.Findings {
		was[f.ID] = f
	}
	is := map[string]bool{}
	for _, f := range to.file.Findings {
		is[f.ID] = true
		before, ok := was[f.ID]
		if !ok {
			t.New = append(t.New, f)
			continue
		}
		switch turn := grade(before) - grade(f); {
		case turn > 0:
			t.Worse = append(t.Worse, turned{f, wasOf(before)})
		case turn < 0:
			t.Better = append(t.Better, turned{f, wasOf(before)})
		default:
			t.Same++
		}
	}
	for _, f := range from.file.Findings {
		if !is[f.ID] {
			t.Gone = append(t.Gone, f)
		}
	}
	return t
}

// Differs reports whether anything but the same is in it.
func (t *Turn) Differs() bool { return len(t.New)+len(t.Gone)+len(t.Worse)+len(t.Better) > 0 }

// grade is the place of a finding by severity, and of one severity by consequence; less is graver.
func grade(f findingOf) int {
	return slices.Index(rule.Severities, rule.Severity(f.Severity))*len(rule.Consequences) + slices.Index(rule.Consequences, rule.Consequence(f.Consequence))
}

func wasOf(f findingOf) string { return f.Severity + ", " + f.Consequence }

// Turn writes it for people.
func (p *Page) Turn(t *Turn) {
	p.printf("%s\n", p.paint(bold, text.Line(fmt.Sprintf("%s, %s, to %s, %s", t.From.Database, t.From.Surveyed, t.To.Database, t.To.Surveyed))))
	p.printf("%s new, %s gone, %s worse, %s better, %s the same\n", text.Amount(int64(len(t.New))), text.Amount(int64(len(t.Gone))), text.Amount(int64(len(t.Worse))), text.Amount(int64(len(t.Better))), text.Amount(int64(t.Same)))
	part := func(title string, list []findingOf, was func(i int) string) {
		if len(list) == 0 {
			return
		}
		p.heading(title)
		for i, f := range list {
			lead := fmt.Sprintf("  %s  %s", p.paint(colourOf(rule.Severity(f.Severity)), pad(f.Severity, 7)), pad(f.Rule, ruleWidth))
			place := "the database"
			if f.Table != "" {
				place = f.Schema + "." + f.Table
			}
			p.block(lead, text.Line(place+": "+f.Message+was(i)))
		}
	}
	none := func(int) string { return "" }
	part("New", t.New, none)
	turnedPart := func(title string, list []turned) {
		var of []findingOf
		for _, x := range list {
			of = append(of, x.findingOf)
		}
		part(title, of, func(i int) string { return " (was: " + list[i].Was + ")" })
	}
	turnedPart("Worse", t.Worse)
	turnedPart("Better", t.Better)
	part("Gone", t.Gone, none)
}
