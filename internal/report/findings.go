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
	All     bool         // notices one by one, and not as counts
	Top     int          // how many are told first
	rules   []*rule.Rule // for what they explain, and their titles
	call    Call
}

// findings writes what the rules said of a source: a summary, what to do first, then the rest
// group by group. Findings that are parts of one story stand together.
func (p *Page) findings(j Judgement, how Telling) {
	c, r := j.Catalog, j.Result
	how.rules, how.call = j.Rules, j.Call
	p.printf("%s\n", p.paint(bold, p.title(c)))
	open := openOnly(r.Findings)
	if len(open) > 0 {
		p.block("", weigh(open, First(open, 1)))
	}
	p.printf("%s", p.summary(c, r))
	if j.Known > 0 {
		p.printf("%s", p.paint(dim, fmt.Sprintf("   %s known from the baseline", text.Amount(int64(j.Known)))))
	}
	p.printf("\n")
	if says := j.Files.says(); says != "" {
		p.block("", p.paint(dim, says))
	}
	if len(open) > 0 {
		first := First(open, how.Top)
		p.first(first, how)
		p.rest(c, without(open, first), how)
		if j.Call.Source != "" {
			p.printf("\n")
			p.block("", p.paint(dim, "To keep a choice for all scripts: nexdal decide choose IDENTIFIER FIX. To leave a finding as it is: nexdal decide set-aside IDENTIFIER --because REASON."))
		}
	}
	if len(j.Gone) > 0 {
		p.heading("Gone since the baseline" + p.paint(dim, "   --write-baseline to the same file takes them out"))
		for _, id := range j.Gone {
			p.block("  ", text.Line(id))
		}
	}
	if len(r.Unjudged) > 0 {
		p.heading("Not judged")
		p.unjudged(r.Unjudged, how.call)
	}
	p.unread(c.Unread())
}

// rest writes what does not come first: notices as counts by rule, unless all are asked for.
func (p *Page) rest(c *catalog.Catalog, rest []rule.Finding, how Telling) {
	folded := slices.DeleteFunc(slices.Clone(rest), func(f rule.Finding) bool { return how.All || f.Severity != rule.Notice })
	rest = without(rest, folded)
	switch {
	case len(rest) == 0:
	case how.ByRule:
		p.byRule(rest, how)
	default:
		p.byTable(c, rest, how)
	}
	if len(folded) == 0 {
		return
	}
	p.heading("Notices" + p.paint(dim, "   by rule; --all shows each"))
	rules, count := byCount(folded)
	var rows [][]string
	for _, id := range rules {
		rows = append(rows, []string{text.Amount(int64(count[id])), id, how.title(id)})
	}
	p.rows(nil, []int{1}, rows)
}

// title is that of a rule.
func (how Telling) title(id string) string {
	for _, x := range how.rules {
		if x.ID == id {
			return x.Title
		}
	}
	return ""
}

// unjudged lists the rules by what they lack: it is said once, with what supplies it.
func (p *Page) unjudged(list []rule.Unjudged, call Call) {
	lacks := func(u rule.Unjudged) string {
		if u.Failed != "" {
			return unjudgedText(u)
		}
		if u.Command != "" {
			return "for want of " + u.Needs + " (" + call.named(u.Command) + ")"
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

// byTable writes the findings table by table. What is said of many tables in the same words stands
// once, at the end.
func (p *Page) byTable(c *catalog.Catalog, findings []rule.Finding, how Telling) {
	explained, told := map[string]bool{}, map[string]bool{}
	single, same := alike(findings)
	for _, group := range byTable(single) {
		p.printf("\n%s\n", p.tableName(c, group[0].Table))
		for _, f := range rule.Stories(group) {
			p.finding(f, f.Story != "" && f.Story != f.ID(), how, told)
			p.explain(how, f.Rule, explained)
		}
	}
	for _, group := range same {
		var places []string
		for _, f := range group {
			places = append(places, placeOf(f))
		}
		p.printf("\n%s\n", p.paint(bold, text.Plural(int64(len(group)), "table")))
		p.block(p.lead(group[0], false), messageOf(group[0])+": "+strings.Join(places, ", "))
		p.leads(group[0], how, under, told)
		p.explain(how, group[0].Rule, explained)
	}
}

// manyAlike is how many tables of which the same is said stand in one line.
const manyAlike = 3

// alike sets apart the findings about whole tables that say the same of many, and that no fix is
// offered for.
func alike(findings []rule.Finding) (single []rule.Finding, same [][]rule.Finding) {
	key := func(f rule.Finding) string {
		if f.Table.Table == "" || len(f.Fixes) > 0 || len(f.Columns) > 0 || f.Story != "" {
			return ""
		}
		return f.Rule + "\x00" + f.Message
	}
	at := map[string][]rule.Finding{}
	for _, f := range findings {
		at[key(f)] = append(at[key(f)], f)
	}
	for _, f := range findings {
		k := key(f)
		switch {
		case k == "" || len(at[k]) > 0 && len(at[k]) < manyAlike:
			single = append(single, f)
		case len(at[k]) >= manyAlike:
			same = append(same, at[k])
			at[k] = nil
		}
	}
	return single, same
}

// explain writes the text of a rule the first time that it is met.
func (p *Page) explain(how Telling, id string, explained map[string]bool) {
	if !how.Explain || explained[id] {
		return
	}
	explained[id] = true
	for _, x := range how.rules {
		if x.ID == id {
			for paragraph := range strings.SplitSeq(x.Doc, "\n\n") {
				p.block(strings.Repeat(" ", 11), p.paint(dim, paragraph))
			}
		}
	}
}

// byRule writes each rule once, with the places where it is broken.
func (p *Page) byRule(findings []rule.Finding, how Telling) {
	groups, order := map[string][]rule.Finding{}, []string{}
	for _, f := range findings {
		if groups[f.Rule] == nil {
			order = append(order, f.Rule)
		}
		groups[f.Rule] = append(groups[f.Rule], f)
	}
	explained, told := map[string]bool{}, map[string]bool{}
	for _, id := range order {
		group := groups[id]
		p.printf("\n%s   %s   %s\n", p.paint(bold, id), how.title(id), p.paint(dim, text.Plural(int64(len(group)), "finding")))
		p.explain(how, id, explained)
		for _, f := range group {
			p.block(fmt.Sprintf("  %s  ", p.paint(colourOf(f.Severity), pad(string(f.Severity), 7))), placeOf(f)+": "+messageOf(f))
			p.leads(f, how, under, told)
		}
	}
}

// title names a catalog in a line.
func (p *Page) title(c *catalog.Catalog) string {
	return text.Line(fmt.Sprintf("%s   %s %s   surveyed %s", c.Database, p.EngineTitle(c.Engine.Name), c.Release(), c.Surveyed.UTC().Format("2006-01-02 15:04 UTC")))
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

// nothing says that nothing was found, and where there was nothing to look at that as well.
func nothing(c *catalog.Catalog) string {
	if len(c.Tables()) == 0 {
		return "no findings: there are no tables, or the account may see none"
	}
	return "no findings"
}

func (p *Page) summary(c *catalog.Catalog, r rule.Result) string {
	if len(r.Findings) == 0 {
		return nothing(c)
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
func (p *Page) finding(f rule.Finding, part bool, how Telling, told map[string]bool) {
	p.block(p.lead(f, part), messageOf(f))
	p.leads(f, how, under, told)
}

// under is where what belongs to a finding stands.
const under = "           "

// lead is what stands before the message of a finding: its severity and rule.
func (p *Page) lead(f rule.Finding, part bool) string {
	id := f.Rule
	if part {
		id = "+ " + id
	}
	return fmt.Sprintf("  %s  %s", p.paint(colourOf(f.Severity), pad(string(f.Severity), 7)), pad(id, max(ruleWidth, len(id)+1)))
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

func pad(s string, width int) string {
	return s + strings.Repeat(" ", max(0, width-len([]rune(s))))
}

// Choice writes one finding on a screen of its own, with its fixes to choose
// from.
func (p *Page) Choice(f rule.Finding, i, n int) {
	p.printf("%s\n\n", p.paint(dim, fmt.Sprintf("%d of %d: a finding whose fix is to be chosen", i, n)))
	p.printf("  %s  %s\n", p.paint(colourOf(f.Severity), string(f.Severity)), p.paint(bold, text.Line(f.ID())))
	p.block("  ", text.Line(f.Message))
	p.printf("\n")
	for i, x := range f.Fixes {
		p.block(fmt.Sprintf("  %d  ", i+1), text.Line(x.Title))
	}
}
