package report

import (
	"fmt"
	"io"
	"strings"

	"nexdal/internal/engine"
	"nexdal/internal/rule"
	"nexdal/internal/script"
	"nexdal/internal/text"
)

// Review writes a corrective script as prose, for people who are to agree to it: what
// is wrong, what is done about it, who has to wait, and what it asks of the data.
func Review(w io.Writer, s *script.Script, findings []rule.Finding) {
	p := func(format string, args ...any) { fmt.Fprintf(w, format+"\n", args...) }
	p("# %s: %s\n", s.Kind, markdown(s.Database))
	p("%s %s, surveyed %s. %s answered in %s; %s not scripted.\n", s.Engine.Name, s.Engine.Version, s.Surveyed.UTC().Format("2006-01-02 15:04 UTC"),
		text.Plural(int64(s.Findings), "finding"), text.Plural(int64(len(s.Steps)), "step"), text.Plural(int64(len(s.Left)), "finding")+" left")
	by := map[string]rule.Finding{}
	for _, f := range findings {
		by[f.ID()] = f
	}
	p("## What is done\n")
	for i, st := range s.Steps {
		p("### Step %d: %s\n", i+1, markdown(st.Title))
		for _, id := range st.Answers {
			if f, ok := by[id]; ok {
				p("- **%s** (%s) at %s: %s", f.Rule, f.Severity, markdown(f.Table.String()), markdown(f.Message))
			} else {
				p("- %s", markdown(id))
			}
		}
		p("- Who waits: %s", markdown(st.Lock))
		if st.Transaction {
			p("- It happens whole or not at all.")
		} else {
			p("- It cannot run inside a transaction.")
		}
		for _, n := range st.Notes {
			p("- %s", markdown(n))
		}
		if st.CleanUp != "" {
			p("- What a failure leaves is cleared away by `%s`", markdown(st.CleanUp))
		}
		for _, q := range s.Preflight {
			if q.Step == i+1 {
				p("- Asked before: %s. A row in the answer stands in the way.", markdown(q.Title))
			}
		}
		p("")
		fence(w, st, s)
	}
	if len(s.Left) > 0 {
		p("## What is not scripted\n")
		for _, l := range s.Left {
			p("- **%s**: %s %s", markdown(l.Finding), markdown(l.Message), markdown(l.Why))
		}
	}
}

// fence writes the statements between marks that none of them holds.
func fence(w io.Writer, st engine.Step, s *script.Script) {
	text := ""
	for _, sql := range st.SQL {
		text += s.Dialect.Ended(sql) + "\n"
	}
	mark := "```"
	for strings.Contains(text, mark) {
		mark += "`"
	}
	fmt.Fprintf(w, "%ssql\n%s%s\n\n", mark, text, mark)
}
