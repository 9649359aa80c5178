package report

import (
	"fmt"
	"slices"
	"strings"

	style "github.com/jedib0t/go-pretty/v6/text"

	"nexdal/internal/catalog"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

// A Telling is how findings are told to people.
type Telling struct {
	ByRule  bool         // in groups by rule; otherwise by table
	Explain bool         // with the text of each rule
	Rules   []*rule.Rule // for what they explain, and their titles
	Known   int          // findings that a baseline holds already
}

// Findings writes what the rules said: a summary, then group by group, the worst
// first. Findings that are parts of one story stand together.
func (p *Page) Findings(c *catalog.Catalog, r rule.Result, how Telling) {
	p.printf("%s\n", p.paint(bold, p.title(c)))
	p.printf("%s", p.summary(r))
	if how.Known > 0 {
		p.printf("%s", p.paint(dim, fmt.Sprintf("   %s known from the baseline", text.Amount(int64(how.Known)))))
	}
	p.printf("\n")
	p.first(c, openOnly(r.Findings))
	p.areas(r)
	if how.ByRule {
		p.byRule(openOnly(r.Findings), how)
	} else {
		p.byTable(c, openOnly(r.Findings), how)
	}
	if len(r.Unjudged) > 0 {
		p.heading("Not judged")
		p.unjudged(r.Unjudged)
	}
	p.unread(c.Unread())
}

// unjudged lists the rules by what they lack: it is said once, with what supplies it.
func (p *Page) unjudged(list []rule.Unjudged) {
	lacks := func(u rule.Unjudged) string {
		if u.Failed != "" {
			return unjudgedText(u)
		}
		if u.Command != "" {
			return "for want of " + u.Needs + " (" + u.Command + ")"
		}
		return "for want of " + u.Needs
	}
	var order []string
	rules := map[string][]string{}
	for _, u := range list {
		why := lacks(u)
		if rules[why] == nil {
			order = append(order, why)
		}
		says := u.Rule
		if u.Objects > 0 {
			says += fmt.Sprintf(" (%s)", text.Amount(int64(u.Objects)))
		}
		rules[why] = append(rules[why], says)
	}
	for _, why := range order {
		p.block("  ", why+":")
		p.block("    ", strings.Join(rules[why], ", "))
	}
}

func unjudgedText(u rule.Unjudged) string {
	if u.Failed != "" {
		return "the rule failed, which is a fault of this program: " + u.Failed
	}
	text := fmt.Sprintf("%s: needs %s", text.Plural(int64(u.Objects), "object"), u.Needs)
	if u.Command != "" {
		text += " (" + u.Command + ")"
	}
	return text
}

// openOnly are those that were not set aside.
func openOnly(findings []rule.Finding) []rule.Finding {
	return slices.DeleteFunc(slices.Clone(findings), rule.Finding.SetAside)
}

// areas counts by area, in one line.
func (p *Page) areas(r rule.Result) {
	counts := map[string]int64{}
	for _, f := range openOnly(r.Findings) {
		counts[f.Area()]++
	}
	if len(counts) < 2 {
		return
	}
	var parts []string
	for _, name := range sortedNames(counts) {
		parts = append(parts, fmt.Sprintf("%s %s", name, text.Amount(counts[name])))
	}
	p.block("", p.paint(dim, strings.Join(parts, ", ")))
}

func (p *Page) byTable(c *catalog.Catalog, findings []rule.Finding, how Telling) {
	told := map[string]bool{}
	for _, group := range byTable(findings) {
		p.printf("\n%s\n", p.tableName(c, group[0].Table))
		for _, f := range rule.Stories(group) {
			p.finding(f, f.Story != "" && f.Story != f.ID())
			p.explain(how, f.Rule, told)
		}
	}
}

// explain writes the text of a rule the first time that it is met.
func (p *Page) explain(how Telling, id string, told map[string]bool) {
	if !how.Explain || told[id] {
		return
	}
	told[id] = true
	for _, x := range how.Rules {
		if x.ID == id {
			for paragraph := range strings.SplitSeq(x.Doc, "\n\n") {
				p.block(strings.Repeat(" ", 11), p.paint(dim, paragraph))
			}
		}
	}
}

// byRule writes each rule once, with the places where it is broken.
func (p *Page) byRule(findings []rule.Finding, how Telling) {
	titles := map[string]string{}
	for _, x := range how.Rules {
		titles[x.ID] = x.Title
	}
	groups, order := map[string][]rule.Finding{}, []string{}
	for _, f := range findings {
		if groups[f.Rule] == nil {
			order = append(order, f.Rule)
		}
		groups[f.Rule] = append(groups[f.Rule], f)
	}
	told := map[string]bool{}
	for _, id := range order {
		group := groups[id]
		p.printf("\n%s   %s   %s\n", p.paint(bold, id), titles[id], p.paint(dim, text.Plural(int64(len(group)), "finding")))
		p.explain(how, id, told)
		for _, f := range group {
			where := text.Line(f.Table.String())
			if f.Table.Table == "" {
				where = "the database as a whole"
			}
			p.block(fmt.Sprintf("  %s  ", p.paint(colourOf(f.Severity), pad(string(f.Severity), 7))), where+": "+messageOf(f))
			p.fixes(f, strings.Repeat(" ", 11))
		}
	}
}

// title names a catalog in a line.
func (p *Page) title(c *catalog.Catalog) string {
	return text.Line(fmt.Sprintf("%s   %s %s   surveyed %s", c.Database, p.EngineTitle(c.Engine.Name), c.Engine.Version, c.Surveyed.UTC().Format("2006-01-02 15:04 UTC")))
}

func (p *Page) tableName(c *catalog.Catalog, ref catalog.Ref) string {
	if ref.Table == "" {
		return p.paint(bold, "the database as a whole")
	}
	name := p.paint(bold, text.Line(ref.String()))
	if t := c.Table(ref); t != nil {
		if rows := text.Rows(t.Stats.Rows, t.Stats.Exact); rows != "" {
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
			parts = append(parts, p.paint(colourOf(s), text.Plural(int64(n), string(s))))
		}
	}
	says := text.Plural(int64(open), "finding")
	if len(parts) > 0 {
		says += ": " + strings.Join(parts, ", ")
	}
	if aside := len(r.Findings) - open; aside > 0 {
		says += p.paint(dim, fmt.Sprintf("   %s set aside", text.Amount(int64(aside))))
	}
	return says
}

func colourOf(s rule.Severity) style.Colors {
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

// finding writes one; a part of the story of the one before it is set in.
func (p *Page) finding(f rule.Finding, part bool) {
	id := f.Rule
	if part {
		id = "+ " + id
	}
	lead := fmt.Sprintf("  %s  %s", p.paint(colourOf(f.Severity), pad(string(f.Severity), 7)), pad(id, ruleWidth))
	p.block(lead, messageOf(f))
	p.fixes(f, strings.Repeat(" ", 11+ruleWidth))
}

// messageOf is the message, with the object's name where it does not say it.
func messageOf(f rule.Finding) string {
	message := text.Line(f.Message)
	unnamed := strings.HasPrefix(f.Object, "(") // the message names its columns
	if f.Object != "" && f.Object != f.Table.Table && !unnamed && !strings.Contains(f.Message, f.Object) {
		message = text.Line(f.Object) + ": " + message
	}
	return message
}

func (p *Page) fixes(f rule.Finding, under string) {
	for i, x := range f.Fixes {
		word := "fix: "
		if i > 0 {
			word = " or: "
		}
		title := text.Line(x.Title)
		if x.Ask && (f.Decision == nil || i > 0) {
			title += p.paint(dim, " (once chosen)")
		}
		p.block(under+p.paint(dim, word), title)
	}
	if f.Advice != "" {
		p.block(under+"     ", text.Line(f.Advice))
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
		NotRead  []catalog.Gap  `json:"not_read,omitempty"`
	}
	sourceOf struct {
		Engine   string `json:"engine"`
		Version  string `json:"version"`
		Database string `json:"database"`
		Surveyed string `json:"surveyed"`
	}
	findingOf struct {
		Rule     string `json:"rule"`
		Severity string `json:"severity"`
		// Consequence is what comes of it: "fails now", "wrong now", "fails by a date",
		// "unprotected", "slow", "untidy".
		Consequence string      `json:"consequence"`
		Schema      string      `json:"schema"`
		Table       string      `json:"table"`
		Object      string      `json:"object"`
		Columns     []string    `json:"columns"`
		Message     string      `json:"message"`
		Certainty   string      `json:"certainty"`
		Fixes       []fixOf     `json:"fixes"`
		Advice      string      `json:"advice,omitempty"`
		Decision    *decisionOf `json:"decision"`
		Story       string      `json:"story,omitempty"`
		ID          string      `json:"id"`
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
		// Ask: a script holds it only once it was chosen.
		Ask bool `json:"ask,omitempty"`
	}
	unjudgedOf struct {
		Rule    string `json:"rule"`
		Needs   string `json:"needs"`
		Command string `json:"command,omitempty"`
		Objects int    `json:"objects"`
		Failed  string `json:"failed,omitempty"`
	}
)

// FindingsJSON gives the judgement as a value to encode.
func FindingsJSON(c *catalog.Catalog, r rule.Result) any {
	out := findingsFile{Format: 1, Source: sourceJSON(c), Summary: map[string]int{}, Findings: []findingOf{}, Unjudged: []unjudgedOf{}, NotRead: c.Unread()}
	for _, s := range rule.Severities {
		out.Summary[string(s)] = r.Count(s)
	}
	for _, f := range r.Findings {
		if f.SetAside() {
			out.Summary["set_aside"]++
		}
	}
	for _, f := range r.Findings {
		j := findingOf{Rule: f.Rule, Severity: string(f.Severity), Consequence: string(f.Consequence), Schema: f.Table.Schema, Table: f.Table.Table, Object: f.Object,
			Columns: slices.Clone(f.Columns), Message: f.Message, Certainty: string(f.Certainty), Fixes: fixesJSON(f), Advice: f.Advice, Story: f.Story, ID: f.ID()}
		if j.Columns == nil {
			j.Columns = []string{}
		}
		if f.Decision != nil {
			j.Decision = (*decisionOf)(f.Decision)
		}
		out.Findings = append(out.Findings, j)
	}
	for _, u := range r.Unjudged {
		out.Unjudged = append(out.Unjudged, unjudgedOf(u))
	}
	return out
}

func fixesJSON(f rule.Finding) []fixOf {
	list := []fixOf{}
	for _, x := range f.Fixes {
		list = append(list, fixOf{x.ID, x.Title, x.Ask})
	}
	return list
}

func sourceJSON(c *catalog.Catalog) sourceOf {
	return sourceOf{c.Engine.Name, c.Engine.Version, c.Database, c.Surveyed.UTC().Format("2006-01-02T15:04:05Z")}
}

// Choice writes one finding on a screen of its own, with its fixes to choose
// from.
func (p *Page) Choice(f rule.Finding, i, n int) {
	p.printf("%s\n\n", p.paint(dim, fmt.Sprintf("%d of %d: a finding with several fixes", i, n)))
	p.printf("  %s  %s\n", p.paint(colourOf(f.Severity), string(f.Severity)), p.paint(bold, text.Line(f.ID())))
	p.block("  ", text.Line(f.Message))
	p.printf("\n")
	for i, x := range f.Fixes {
		p.block(fmt.Sprintf("  %d  ", i+1), text.Line(x.Title))
	}
}
