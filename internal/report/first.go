package report

import (
	"cmp"
	"fmt"
	"slices"

	"nexdal/internal/rule"
	"nexdal/internal/text"
)

// Worth is how many findings are told first where nobody asks for another number.
const Worth = 10

// First picks what to do first, at most so many: findings come in that order, and of a story only
// the one that leads it, of a rule three at most. Notices wait.
func First(findings []rule.Finding, most int) []rule.Finding {
	var chosen []rule.Finding
	of := map[string]int{}
	for _, f := range findings {
		if f.Severity == rule.Notice || f.Story != "" && f.Story != f.ID() {
			continue
		}
		if of[f.Rule]++; of[f.Rule] <= 3 && len(chosen) < most {
			chosen = append(chosen, f)
		}
	}
	return chosen
}

// weigh says in a line what there is, for a chat, and what comes first.
func weigh(open, first []rule.Finding) string {
	now, hurt, notices := 0, 0, 0
	for _, f := range open {
		switch {
		case f.Severity == rule.Notice:
			notices++
		case f.Consequence.Before(rule.FailsByDate):
			now++
		default:
			hurt++
		}
	}
	says := fmt.Sprintf("%s now, %s will hurt, %s", failing(now), text.Amount(int64(hurt)), text.Plural(int64(notices), "notice"))
	if len(first) > 0 {
		says += fmt.Sprintf("; first: %s, %s", placeOf(first[0]), messageOf(first[0]))
	}
	return says
}

func failing(n int) string {
	switch n {
	case 0:
		return "nothing fails or is wrong"
	case 1:
		return "1 fails or is wrong"
	}
	return text.Amount(int64(n)) + " fail or are wrong"
}

// placeOf is the table of a finding, for people.
func placeOf(f rule.Finding) string {
	if f.Table.Table == "" {
		return "the database"
	}
	return text.Line(f.Table.String())
}

// first lists what to do first, each with what to type.
func (p *Page) first(chosen []rule.Finding, how Telling) {
	if len(chosen) == 0 {
		return
	}
	p.heading("What to do first")
	told := map[string]bool{}
	for i, f := range chosen {
		p.printf("%3d  %s   %s   %s\n", i+1, p.paint(colourOf(f.Severity), string(f.Consequence)), p.paint(bold, placeOf(f)), p.paint(dim, f.Rule))
		p.block("     ", messageOf(f))
		p.leads(f, how, "     ", told)
	}
}

// leads writes what leads on from a finding: its fixes by name, or the advice, each advice once,
// and the commands.
func (p *Page) leads(f rule.Finding, how Telling, under string, told map[string]bool) {
	for i, x := range f.Fixes {
		word := "fix "
		if i > 0 {
			word = " or "
		}
		p.block(under+p.paint(dim, word+x.ID+": "), text.Line(x.Title)+p.paint(dim, once(f, i)))
	}
	if f.Advice != "" && !told[f.Rule+f.Advice] {
		told[f.Rule+f.Advice] = true
		p.block(under, text.Line(f.Advice))
	}
	for _, line := range how.call.Next(f) { // not broken, so that it can be copied
		p.printf("%s%s\n", under, p.paint(cyan, line))
	}
}

// once says of a fix that a script holds it only once it was chosen, or "".
func once(f rule.Finding, i int) string {
	if f.Fixes[i].Ask && (f.Decision == nil || i > 0) {
		return " (once chosen)"
	}
	return ""
}

// chosenFix is the title of the first fix of a finding, or else its advice, in one line; cells of
// tables hold it.
func chosenFix(f rule.Finding) string {
	if len(f.Fixes) == 0 {
		return f.Advice
	}
	return f.Fixes[0].Title + once(f, 0)
}

// without leaves out the findings that were told.
func without(findings, told []rule.Finding) []rule.Finding {
	ids := map[string]bool{}
	for _, f := range told {
		ids[f.ID()] = true
	}
	return slices.DeleteFunc(slices.Clone(findings), func(f rule.Finding) bool { return ids[f.ID()] })
}

// byCount are the rules of findings, the most frequent first.
func byCount(findings []rule.Finding) (rules []string, count map[string]int) {
	count = map[string]int{}
	for _, f := range findings {
		if count[f.Rule]++; count[f.Rule] == 1 {
			rules = append(rules, f.Rule)
		}
	}
	slices.SortStableFunc(rules, func(a, b string) int { return cmp.Or(count[b]-count[a], cmp.Compare(a, b)) })
	return rules, count
}
