package script

import (
	"cmp"
	"encoding/json"
	"fmt"
	"strings"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/pattern"
	"nexdal/internal/text"
)

// width is how long a line of comment gets before it is broken.
const width = 100

// mostUnread is how many gaps of the survey a head names.
const mostUnread = 15

// Text writes the script.
func (s *Script) Text(runWith []string) string {
	p := &printer{}
	for _, line := range s.Client {
		p.raw(line)
	}
	p.line("%s, written by %s", s.Kind, s.Program)
	p.line("")
	p.field("engine", s.Engine.Name+" "+s.Engine.Version)
	p.field("database", quoted(s.Database))
	p.field("surveyed", s.Surveyed.UTC().Format(time.RFC3339))
	p.field("structure", s.Structure)
	for _, t := range s.Tables {
		p.raw("-- table:      " + quoted(t.Schema) + "." + quoted(t.Table))
	}
	if s.Findings > 0 {
		p.field("answers", text.Plural(int64(s.Findings), "finding"))
	}
	if n := len(s.Left); n > 0 {
		p.field("leaves", fmt.Sprintf("%s not scripted; see the end", text.Plural(int64(n), cmp.Or(s.LeftAs, "finding"))))
	}
	if n := len(s.Losses); n > 0 {
		p.field("losses", fmt.Sprintf("%s left out or made otherwise; see the end", text.Plural(int64(n), "thing")))
	}
	p.field("steps", fmt.Sprintf("%d, of which %d can be undone whole if they fail", len(s.Steps), s.transactions()))
	p.field("locks", s.locks())
	if s.Waits != "" {
		p.field("waits", s.Waits)
	}
	for _, what := range s.Stays {
		p.wrapped("stays:      ", what)
	}
	for i, g := range s.Unread {
		if i == mostUnread {
			p.field("unread", fmt.Sprintf("and %s more; nexdal survey lists all", text.Amount(int64(len(s.Unread)-i))))
			break
		}
		p.wrapped("unread:     ", strings.TrimLeft(g.Place()+" ", " ")+g.What+": "+g.Reason)
	}
	if s.Back != "" {
		p.field(s.Back, s.Reversal)
	}
	if s.Before != "" {
		p.field("before", s.Before)
	}
	if s.After != "" {
		p.field("after", s.After)
	}
	p.field("written", s.digest())
	p.line("")
	for i, line := range runWith {
		p.line("%s  %s", []string{"Run it with:", "or with:    "}[min(i, 1)], line)
	}
	if len(s.Setup) > 0 {
		p.gap()
	}
	for _, sql := range s.Setup {
		p.raw(s.Dialect.Ended(sql))
	}
	for i, q := range s.Preflight {
		p.gap()
		p.line("%s %d of %d, for step %d: %s", markPreflight, i+1, len(s.Preflight), q.Step, q.Title)
		p.wrapped("  ", fmt.Sprintf("A row in the answer stands in the way of step %d.", q.Step))
		p.raw(s.Dialect.Ended(q.SQL))
	}
	for i, st := range s.Steps {
		p.gap()
		p.wrapped("", fmt.Sprintf("%s %d of %d: %s", markStep, i+1, len(s.Steps), st.Title))
		for _, a := range st.Answers {
			p.step("answers", a)
		}
		p.step("locks", st.Lock)
		p.step("transaction", map[bool]string{true: "yes, it happens whole or not at all", false: "no, it cannot run inside one"}[st.Transaction])
		for _, n := range st.Notes {
			p.step("note", n)
		}
		if st.CleanUp != "" {
			p.raw(fmt.Sprintf("--   %-12s %s%s", "if it fails:", clearedBy, statement(st.CleanUp)))
		}
		if i < len(s.Places) && s.Places[i] != "" {
			p.step("reversal", s.Places[i]+s.Reversal)
		}
		for i, sql := range st.SQL {
			text := s.Dialect.Ended(sql)
			if long := strings.Contains(text, "\n"); i > 0 && (long || strings.Contains(st.SQL[i-1], "\n")) {
				p.gap()
			}
			p.raw(text)
		}
	}
	if len(s.Left) > 0 {
		p.gap()
		p.line("%s:", markLeft)
		for _, l := range s.Left {
			p.wrapped("  ", l.Finding+": "+l.Message)
			if l.Why != "" {
				p.wrapped("    ", l.Why)
			}
		}
	}
	if len(s.Losses) > 0 {
		p.gap()
		p.line("%s:", markLost)
		for _, l := range s.Losses {
			p.wrapped("  ", l.What.String()+": "+l.Why)
		}
	}
	p.gap()
	p.line(markEnd)
	if s.Dialect.SlashComments {
		return remarked(p.String(), "--", "//")
	}
	return p.String()
}

// remarked gives the lines of a text that begin with one mark of a comment another: a script's own
// comments are lines of their own.
func remarked(text, from, to string) string {
	var b strings.Builder
	for line := range strings.Lines(text) {
		if rest, ok := strings.CutPrefix(line, from); ok {
			line = to + rest
		}
		b.WriteString(line)
	}
	return b.String()
}

func (s *Script) transactions() int {
	n := 0
	for _, st := range s.Steps {
		if st.Transaction {
			n++
		}
	}
	return n
}

// locks sums up who will have to wait.
func (s *Script) locks() string {
	var n [engine.BlocksAtWork + 1]int64
	for _, st := range s.Steps {
		n[st.Blocks]++
	}
	var parts []string
	for _, b := range []struct {
		level engine.Blocking
		says  string
	}{{engine.BlocksAtWork, "block others while they work"}, {engine.BlocksBriefly, "block others for a moment"}, {engine.BlocksNobody, "block nobody"}} {
		if n[b.level] > 0 {
			parts = append(parts, text.Plural(n[b.level], "step")+" "+b.says)
		}
	}
	return strings.ReplaceAll(strings.Join(parts, ", "), "1 step block", "1 step blocks")
}

// printer writes comment lines and SQL.
type printer struct{ strings.Builder }

func (p *printer) raw(line string) { p.WriteString(line + "\n") }

func (p *printer) gap() { p.WriteString("\n") }

func (p *printer) line(format string, args ...any) {
	p.raw(strings.TrimRight("-- "+text.Line(fmt.Sprintf(format, args...)), " "))
}

func (p *printer) field(name, value string) { p.line("%-11s %s", name+":", value) }

func (p *printer) step(name, value string) { p.wrapped(fmt.Sprintf("  %-12s ", name+":"), value) }

// wrapped breaks a long comment at blanks; what follows is indented under the
// first line.
func (p *printer) wrapped(lead, comment string) {
	words := strings.Split(text.Line(comment), " ")
	line := "-- " + lead
	indent := "-- " + strings.Repeat(" ", max(len(lead), 4))
	for i, w := range words {
		if i > 0 && len(line)+1+len(w) > width {
			p.raw(strings.TrimRight(line, " "))
			line = indent + w
			continue
		}
		if i > 0 {
			line += " "
		}
		line += w
	}
	p.raw(strings.TrimRight(line, " "))
}

// clearedBy stands before the statement that clears away what a failed step leaves.
const clearedBy = "what is left of it is cleared away by: "

// statement writes one on a line of comment so that it can be read back: as it is, or as
// a JSON string, with which no statement begins.
func statement(sql string) string {
	if text.Line(sql) == sql && strings.TrimSpace(sql) == sql {
		return sql
	}
	return jsonString(sql)
}

var plain = pattern.New(`^[A-Za-z0-9_][A-Za-z0-9_-]*$`)

// quoted writes a name so that a line can be read back: as it is, or as a JSON
// string.
func quoted(name string) string {
	if plain.MatchString(name) {
		return name
	}
	return jsonString(name)
}

// jsonString writes a JSON string without what would do something to a line.
func jsonString(s string) string {
	written, err := json.Marshal(s)
	if err != nil {
		panic(err) // a string is always JSON
	}
	return string(text.JSON(written))
}

// unquoted reads a name that quoted wrote, and returns what stands behind it.
func unquoted(text string) (name, rest string, err error) {
	if !strings.HasPrefix(text, `"`) {
		name, rest, found := strings.Cut(text, ".")
		if found {
			rest = "." + rest
		}
		return name, rest, nil
	}
	d := json.NewDecoder(strings.NewReader(text))
	if err := d.Decode(&name); err != nil {
		return "", "", err
	}
	return name, text[d.InputOffset():], nil
}

func parseRef(text string) (catalog.Ref, error) {
	schema, rest, err := unquoted(text)
	if err != nil || !strings.HasPrefix(rest, ".") {
		return catalog.Ref{}, fmt.Errorf("%q names no table", text)
	}
	table, rest, err := unquoted(rest[1:])
	if err != nil || rest != "" {
		return catalog.Ref{}, fmt.Errorf("%q names no table", text)
	}
	return catalog.Ref{Schema: schema, Table: table}, nil
}
