package report

import (
	"fmt"
	"slices"
	"strings"

	"github.com/jedib0t/go-pretty/v6/text"

	"nexdal/internal/catalog"
	"nexdal/internal/phrase"
	"nexdal/internal/rule"
)

// Findings writes what the rules said, table by table, the worst table first.
func (p *Page) Findings(c *catalog.Catalog, r rule.Result) {
	p.printf("%s\n", p.paint(bold, p.title(c)))
	p.printf("%s\n", p.summary(r))
	for _, group := range byTable(slices.DeleteFunc(slices.Clone(r.Findings), rule.Finding.SetAside)) {
		p.printf("\n%s\n", p.tableName(c, group[0].Table))
		for _, f := range group {
			p.finding(f)
		}
	}
	if len(r.Unjudged) > 0 {
		p.heading("Not judged")
		for _, u := range r.Unjudged {
			p.block("  "+pad(u.Rule, 26), fmt.Sprintf("%s: needs %s", phrase.Plural(int64(u.Objects), "object"), u.Needs))
		}
	}
}

// title names a catalog in a line.
func (p *Page) title(c *catalog.Catalog) string {
	return phrase.Line(fmt.Sprintf("%s   %s %s   surveyed %s", c.Database, p.EngineTitle(c.Engine.Name), c.Engine.Version, c.Surveyed.UTC().Format("2006-01-02 15:04 UTC")))
}

func (p *Page) tableName(c *catalog.Catalog, ref catalog.Ref) string {
	if ref.Table == "" {
		return p.paint(bold, "the database as a whole")
	}
	name := p.paint(bold, phrase.Line(ref.String()))
	if t := c.Table(ref); t != nil {
		if rows := phrase.RowsOf(t); rows != "" {
			return name + p.paint(dim, "   "+rows)
		}
	}
	return name
}

func (p *Page) summary(r rule.Result) string {
	if len(r.Findings) == 0 {
		return "no findings"
	}
	var parts []string
	open := len(r.Findings)
	for _, f := range r.Findings {
		if f.SetAside() {
			open--
		}
	}
	for _, s := range rule.Severities {
		if n := r.Count(s); n > 0 {
			parts = append(parts, p.paint(colourOf(s), phrase.Plural(int64(n), string(s))))
		}
	}
	says := phrase.Plural(int64(open), "finding")
	if len(parts) > 0 {
		says += ": " + strings.Join(parts, ", ")
	}
	if aside := len(r.Findings) - open; aside > 0 {
		says += p.paint(dim, fmt.Sprintf("   %s set aside", phrase.Amount(int64(aside))))
	}
	return says
}

func colourOf(s rule.Severity) text.Colors {
	switch s {
	case rule.Error:
		return red
	case rule.Warning:
		return yellow
	}
	return cyan
}

// byTable groups findings by table. They come worst first, so a group stands
// where its worst finding does.
func byTable(findings []rule.Finding) [][]rule.Finding {
	at := map[catalog.Ref]int{}
	var groups [][]rule.Finding
	for _, f := range findings {
		i, ok := at[f.Table]
		if !ok {
			i = len(groups)
			at[f.Table] = i
			groups = append(groups, nil)
		}
		groups[i] = append(groups[i], f)
	}
	return groups
}

const ruleWidth = 26

func (p *Page) finding(f rule.Finding) {
	lead := fmt.Sprintf("  %s  %s", p.paint(colourOf(f.Severity), pad(string(f.Severity), 7)), pad(f.Rule, ruleWidth))
	message := phrase.Line(f.Message)
	unnamed := strings.HasPrefix(f.Object, "(") // the message names its columns
	if f.Object != "" && f.Object != f.Table.Table && !unnamed && !strings.Contains(f.Message, f.Object) {
		message = phrase.Line(f.Object) + ": " + message
	}
	p.block(lead, message)
	under := strings.Repeat(" ", 11+ruleWidth)
	for i, x := range f.Fixes {
		word := "fix: "
		if i > 0 {
			word = " or: "
		}
		p.block(under+p.paint(dim, word), phrase.Line(x.Title))
	}
	if f.Advice != "" {
		p.block(under+"     ", phrase.Line(f.Advice))
	}
}

func pad(s string, width int) string {
	return s + strings.Repeat(" ", max(0, width-len([]rune(s))))
}

// The JSON form of a judgement: a contract, numbered by format.
type (
	findingsFile struct {
		Format   int            `json:"format"`
		Source   sourceOf       `json:"source"`
		Summary  map[string]int `json:"summary"`
		Findings []findingOf    `json:"findings"`
		Unjudged []unjudgedOf   `json:"unjudged"`
	}
	sourceOf struct {
		Engine   string `json:"engine"`
		Version  string `json:"version"`
		Database string `json:"database"`
		Surveyed string `json:"surveyed"`
	}
	findingOf struct {
		Rule      string      `json:"rule"`
		Severity  string      `json:"severity"`
		Schema    string      `json:"schema"`
		Table     string      `json:"table"`
		Object    string      `json:"object"`
		Columns   []string    `json:"columns"`
		Message   string      `json:"message"`
		Certainty string      `json:"certainty"`
		Fixes     []fixOf     `json:"fixes"`
		Advice    string      `json:"advice,omitempty"`
		Decision  *decisionOf `json:"decision"`
	}
	decisionOf struct {
		Verdict string `json:"verdict"`
		Fix     string `json:"fix,omitempty"`
		By      string `json:"by"`
		At      string `json:"at"`
		Because string `json:"because,omitempty"`
		Until   string `json:"until,omitempty"`
	}
	fixOf struct {
		ID    string `json:"id"`
		Title string `json:"title"`
	}
	unjudgedOf struct {
		Rule    string `json:"rule"`
		Needs   string `json:"needs"`
		Command string `json:"command,omitempty"`
		Objects int    `json:"objects"`
	}
)

// FindingsJSON gives the judgement as a value to encode.
func FindingsJSON(c *catalog.Catalog, r rule.Result) any {
	out := findingsFile{Format: 1, Source: sourceJSON(c), Summary: map[string]int{}, Findings: []findingOf{}, Unjudged: []unjudgedOf{}}
	for _, s := range rule.Severities {
		out.Summary[string(s)] = r.Count(s)
	}
	for _, f := range r.Findings {
		if f.SetAside() {
			out.Summary["set_aside"]++
		}
	}
	for _, f := range r.Findings {
		j := findingOf{Rule: f.Rule, Severity: string(f.Severity), Schema: f.Table.Schema, Table: f.Table.Table, Object: f.Object,
			Columns: slices.Clone(f.Columns), Message: f.Message, Certainty: string(f.Certainty), Fixes: []fixOf{}, Advice: f.Advice}
		if j.Columns == nil {
			j.Columns = []string{}
		}
		if f.Decision != nil {
			j.Decision = (*decisionOf)(f.Decision)
		}
		for _, x := range f.Fixes {
			j.Fixes = append(j.Fixes, fixOf{x.ID, x.Title})
		}
		out.Findings = append(out.Findings, j)
	}
	for _, u := range r.Unjudged {
		out.Unjudged = append(out.Unjudged, unjudgedOf(u))
	}
	return out
}

func sourceJSON(c *catalog.Catalog) sourceOf {
	return sourceOf{c.Engine.Name, c.Engine.Version, c.Database, c.Surveyed.UTC().Format("2006-01-02T15:04:05Z")}
}

// Choice writes one finding on a screen of its own, with its fixes to choose
// from.
func (p *Page) Choice(f rule.Finding, i, n int) {
	p.printf("%s\n\n", p.paint(dim, fmt.Sprintf("%d of %d: a finding with several fixes", i, n)))
	p.printf("  %s  %s\n", p.paint(colourOf(f.Severity), string(f.Severity)), p.paint(bold, phrase.Line(f.ID())))
	p.block("  ", phrase.Line(f.Message))
	p.printf("\n")
	for i, x := range f.Fixes {
		p.block(fmt.Sprintf("  %d  ", i+1), phrase.Line(x.Title))
	}
}
