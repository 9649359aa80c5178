package report

import (
	"strings"

	"nexdal/internal/rule"
)

// Rules lists rules, a line each.
func (p *Page) Rules(rules []*rule.Rule) {
	var rows [][]string
	for _, r := range rules {
		rows = append(rows, []string{r.ID, p.paint(colourOf(r.Severity), string(r.Severity)), r.Title})
	}
	p.rows(nil, nil, rows)
}

// Rule explains one rule.
func (p *Page) Rule(r *rule.Rule) {
	p.printf("%s   %s\n%s\n", p.paint(bold, r.ID), p.paint(colourOf(r.Severity), string(r.Severity)), r.Title)
	for paragraph := range strings.SplitSeq(r.Doc, "\n\n") {
		p.printf("\n")
		p.block("", paragraph)
	}
}

type ruleOf struct {
	ID       string   `json:"id"`
	Severity string   `json:"severity"`
	Title    string   `json:"title"`
	Needs    []string `json:"needs"`
	Doc      string   `json:"doc"`
}

// RulesJSON gives the rules as a value to encode.
func RulesJSON(rules []*rule.Rule) any {
	out := struct {
		Format int      `json:"format"`
		Rules  []ruleOf `json:"rules"`
	}{Format: 1}
	for _, r := range rules {
		j := ruleOf{r.ID, string(r.Severity), r.Title, []string{"structure"}, r.Doc}
		for _, n := range r.Needs {
			j.Needs = append(j.Needs, string(n))
		}
		out.Rules = append(out.Rules, j)
	}
	return out
}
