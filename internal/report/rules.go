package report

import (
	"fmt"
	"io"
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

// An Example is a script that breaks a rule, and what its fix does there.
type Example struct {
	Engine, Broken, Fixed string
	Language              string   // "sql" or "js", as Markdown names it
	Probed                bool     // the data has to be asked
	Set                   []string // settings that it is judged by
}

// Rule explains one rule.
func (p *Page) Rule(r *rule.Rule, x *Example) {
	p.printf("%s   %s\n%s\n", p.paint(bold, r.ID), p.paint(colourOf(r.Severity), string(r.Severity)), r.Title)
	for paragraph := range strings.SplitSeq(r.Doc, "\n\n") {
		p.printf("\n")
		p.block("", paragraph)
	}
	if len(r.Fixes) > 0 {
		p.heading("Fixes, as decide choose takes them")
		p.block("  ", strings.Join(r.Fixes, ", "))
	}
	if len(r.Options) > 0 {
		p.heading("Options")
		for _, o := range r.Options {
			p.block("  "+pad(o.Name, 18), fmt.Sprintf("%s (%s)", o.Doc, shownValue(o.Default)))
		}
	}
	if x == nil {
		return
	}
	p.heading("An example, " + x.Engine + x.how())
	p.printf("%s\n", indented(x.Broken))
	if x.Fixed != "" {
		p.heading("What the fix does there")
		p.printf("%s\n", indented(x.Fixed))
	}
}

// how says what an example is judged with.
func (x *Example) how() string {
	says := ""
	if len(x.Set) > 0 {
		says = ", with " + strings.Join(x.Set, "; ") + " set"
	}
	if x.Probed {
		says += ", with evidence from its data"
	}
	return says
}

func indented(text string) string { return "  " + strings.ReplaceAll(text, "\n", "\n  ") }

// RulesMarkdown writes the reference of rules.
func RulesMarkdown(w io.Writer, rules []*rule.Rule, example func(*rule.Rule) *Example) {
	fmt.Fprintf(w, "<!-- Made by nexdal rules --format markdown; make docs writes it again. -->\n\n| rule | severity | finds |\n|---|---|---|\n")
	for _, r := range rules {
		fmt.Fprintf(w, "| [%s](#%s) | %s | %s |\n", r.ID, strings.ReplaceAll(r.ID, "/", ""), r.Severity, r.Title)
	}
	for _, r := range rules {
		needs := "the structure"
		for _, n := range r.Needs {
			needs += ", " + string(n)
		}
		fmt.Fprintf(w, "\n## %s\n\n%s: %s. Judged by %s.\n\n%s\n", r.ID, strings.ToUpper(string(r.Severity[:1]))+string(r.Severity[1:]), r.Title, needs, r.Doc)
		if len(r.Fixes) > 0 {
			fmt.Fprintf(w, "\nFixes, as `decide choose` takes them: `%s`.\n", strings.Join(r.Fixes, "`, `"))
		}
		if len(r.Options) > 0 {
			fmt.Fprintf(w, "\n| option | default | meaning |\n|---|---|---|\n")
			for _, o := range r.Options {
				fmt.Fprintf(w, "| `%s` | %s | %s |\n", o.Name, markdown(shownValue(o.Default)), markdown(o.Doc))
			}
		}
		x := example(r)
		if x == nil {
			continue
		}
		fmt.Fprintf(w, "\nAn example, %s%s:\n\n```%s\n%s\n```\n", x.Engine, x.how(), x.Language, x.Broken)
		if x.Fixed != "" {
			fmt.Fprintf(w, "\nWhat the fix does there:\n\n```%s\n%s\n```\n", x.Language, x.Fixed)
		}
	}
}

type ruleOf struct {
	ID       string     `json:"id"`
	Severity string     `json:"severity"`
	Title    string     `json:"title"`
	Needs    []string   `json:"needs"`
	Doc      string     `json:"doc"`
	Options  []optionOf `json:"options"`
	Fixes    []string   `json:"fixes,omitempty"`
}

type optionOf struct {
	Name    string   `json:"name"`
	Default any      `json:"default"`
	Doc     string   `json:"doc"`
	Choices []string `json:"choices,omitempty"`
}

// RulesJSON gives the rules as a value to encode.
func RulesJSON(rules []*rule.Rule) any {
	out := struct {
		Format int      `json:"format"`
		Rules  []ruleOf `json:"rules"`
	}{Format: 1}
	for _, r := range rules {
		j := ruleOf{r.ID, string(r.Severity), r.Title, []string{"structure"}, r.Doc, []optionOf{}, r.Fixes}
		for _, o := range r.Options {
			j.Options = append(j.Options, optionOf{o.Name, o.Default, o.Doc, o.Choices})
		}
		for _, n := range r.Needs {
			j.Needs = append(j.Needs, string(n))
		}
		out.Rules = append(out.Rules, j)
	}
	return out
}
