package report

import (
	"fmt"
	"io"
	"strings"

	"nexdal/internal/rule"
	"nexdal/internal/text"
)

// Wiki writes the page as Markdown: the summary, what to do first, every finding, and
// every table with what it holds and refers to.
func (s *Sheet) Wiki(w io.Writer) {
	c, r, rules := s.Catalog, s.Result, s.Rules
	open := openOnly(r.Findings)
	fmt.Fprintf(w, "# %s\n\n%s\n\n", markdown(s.title()), markdown(s.says()))
	fmt.Fprintf(w, "| errors | warnings | notices | set aside |\n|---|---|---|---|\n| %d | %d | %d | %d |\n", r.Count(rule.Error), r.Count(rule.Warning), r.Count(rule.Notice), len(r.Findings)-len(open))
	if first := First(open, Worth); len(first) > 0 {
		fmt.Fprint(w, "\n## What to do first\n\n")
		for i, f := range first {
			fmt.Fprintf(w, "%d. **%s** %s: %s  \n   %s\n", i+1, f.Severity, markdown(text.Line(f.Table.String())), markdown(text.Line(f.Message)), markdown(why(c, f)))
		}
	}
	fmt.Fprint(w, "\n## Findings\n\n")
	titles := map[string]string{}
	for _, x := range rules {
		titles[x.ID] = x.Title
	}
	for _, group := range byTable(open) {
		name := "the database as a whole"
		if group[0].Table.Table != "" {
			name = text.Line(group[0].Table.String())
		}
		fmt.Fprintf(w, "### %s\n\n", markdown(name))
		for _, f := range rule.Stories(group) {
			fmt.Fprintf(w, "- **%s** `%s` %s", f.Severity, f.Rule, markdown(text.Line(f.Message)))
			if len(f.Fixes) > 0 {
				fmt.Fprintf(w, "  \n  fix: %s", markdown(text.Line(chosenFix(f))))
			} else if f.Advice != "" {
				fmt.Fprintf(w, "  \n  %s", markdown(text.Line(f.Advice)))
			}
			fmt.Fprintln(w)
		}
		fmt.Fprintln(w)
	}
	if len(r.Unjudged) > 0 {
		fmt.Fprint(w, "## Not judged\n\n")
		for _, u := range r.Unjudged {
			fmt.Fprintf(w, "- `%s` %s\n", u.Rule, markdown(unjudgedText(u)))
		}
	}
	fmt.Fprint(w, "\n## Tables\n")
	for _, t := range c.Tables() {
		if t.PartitionOf != nil {
			continue
		}
		x := s.table(t)
		fmt.Fprintf(w, "\n### %s\n\n%s\n\n| column | type | null | key | notes |\n|---|---|---|---|---|\n", markdown(x.ID), markdown(strings.TrimSpace(x.Says+" "+x.Comment+" "+x.Note)))
		for _, col := range x.Columns {
			fmt.Fprintf(w, "| %s | %s | %s | %s | %s |\n", markdown(col.Name), markdown(col.Type), map[bool]string{true: "may be null"}[col.Null], markdown(col.Mark), markdown(col.Notes))
		}
		for _, row := range x.To {
			fmt.Fprintf(w, "\n- %s refers to %s (%s), %s", markdown(row[0]), markdown(row[1]), markdown(row[2]), row[3])
		}
		for _, row := range x.By {
			fmt.Fprintf(w, "\n- referred to by %s (%s), %s", markdown(row[0]), markdown(row[1]), row[2])
		}
		fmt.Fprintln(w)
	}
}
