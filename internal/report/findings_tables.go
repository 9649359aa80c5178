package report

import (
	"encoding/csv"
	"encoding/xml"
	"fmt"
	"io"
	"strings"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

// FindingsCSV writes a line for each finding
// (https://www.rfc-editor.org/rfc/rfc4180).
func FindingsCSV(w io.Writer, list []Judgement) error {
	out := csv.NewWriter(w)
	out.UseCRLF = true
	if err := out.Write([]string{"severity", "rule", "schema", "table", "object", "columns", "message", "certainty", "fix", "advice", "decision", "id", "consequence", "by", "choose", "database"}); err != nil {
		return err
	}
	for _, j := range Judged(list) {
		if err := csvOf(out, j); err != nil {
			return err
		}
	}
	out.Flush()
	return out.Error()
}

func csvOf(out *csv.Writer, j Judgement) error {
	for _, f := range j.Result.Findings {
		fix, decision, by, choice := "", "", "", ""
		if len(f.Fixes) > 0 {
			fix = f.Fixes[0].Title
			if once(f, 0) != "" {
				choice = f.Fixes[0].ID
			}
		}
		if f.Decision != nil {
			decision = f.Decision.Verdict
		}
		if !f.By.IsZero() {
			by = f.By.Format(time.DateOnly)
		}
		cells := []string{string(f.Severity), f.Rule, f.Table.Schema, f.Table.Table, f.Object, strings.Join(f.Columns, ", "), f.Message, string(f.Certainty), fix, f.Advice, decision, f.ID(), string(f.Consequence), by, choice, j.Catalog.Database}
		for i := range cells {
			cells[i] = cell(cells[i])
		}
		if err := out.Write(cells); err != nil {
			return err
		}
	}
	return nil
}

// FindingsLines writes one line for each finding that was not set aside, for
// grep and the like: where, how bad, which rule, what. Of several sources the name comes first.
func FindingsLines(w io.Writer, list []Judgement) {
	for _, j := range Judged(list) {
		lead := ""
		if len(list) > 1 {
			lead = text.Line(j.Name) + ": "
		}
		linesOf(w, lead, j.Result)
	}
}

func linesOf(w io.Writer, lead string, r rule.Result) {
	for _, f := range r.Findings {
		if f.SetAside() {
			continue
		}
		where := f.Table.String()
		switch {
		case f.Table.Table == "" && f.Object == "":
			where = "database"
		case f.Table.Table == "":
			where = f.Table.Schema + "." + f.Object
		case f.Object != "" && f.Object != f.Table.Table:
			where += "." + f.Object
		}
		fmt.Fprintf(w, "%s%s: %s: %s: %s\n", lead, text.Line(where), f.Severity, f.Rule, text.Line(f.Message))
	}
}

// FindingsMarkdown writes the judgement for a wiki, table by table.
func FindingsMarkdown(w io.Writer, list []Judgement) {
	for i, j := range Judged(list) {
		if i > 0 {
			fmt.Fprintln(w)
		}
		markdownOf(w, j.Catalog, j.Result)
	}
}

func markdownOf(w io.Writer, c *catalog.Catalog, r rule.Result) {
	fmt.Fprintf(w, "# %s\n\n%s %s, surveyed %s.\n\n", markdown(c.Database), markdown(c.Engine.Name), markdown(c.Release()), c.Surveyed.UTC().Format("2006-01-02 15:04 UTC"))
	fmt.Fprintf(w, "%s\n", markdown((&Page{Writer: w}).summary(c, r)))
	for _, group := range byTable(openOnly(r.Findings)) {
		name := group[0].Table.String()
		if group[0].Table.Table == "" {
			name = "the database as a whole"
		}
		fmt.Fprintf(w, "\n## %s\n\n| severity | rule | what is wrong | what puts it right |\n|---|---|---|---|\n", markdown(name))
		for _, f := range group {
			fix := chosenFix(f)
			fmt.Fprintf(w, "| %s | %s | %s | %s |\n", f.Severity, f.Rule, markdown(f.Message), markdown(fix))
		}
	}
	if len(r.Unjudged) > 0 {
		fmt.Fprintf(w, "\n## Not judged\n\n")
		for _, u := range r.Unjudged {
			fmt.Fprintf(w, "- %s: %s\n", u.Rule, markdown(unjudgedText(u)))
		}
	}
}

// The JUnit form, as test runners read it: a suite for each area, a case for
// each rule, and a failure for each finding.
type (
	junitSuites struct {
		XMLName  xml.Name     `xml:"testsuites"`
		Name     string       `xml:"name,attr"`
		Tests    int          `xml:"tests,attr"`
		Failures int          `xml:"failures,attr"`
		Errors   int          `xml:"errors,attr"`
		Suites   []junitSuite `xml:"testsuite"`
	}
	junitSuite struct {
		Name      string      `xml:"name,attr"`
		Tests     int         `xml:"tests,attr"`
		Failures  int         `xml:"failures,attr"`
		Skipped   int         `xml:"skipped,attr"`
		Errors    int         `xml:"errors,attr"`
		Timestamp string      `xml:"timestamp,attr"`
		Cases     []junitCase `xml:"testcase"`
	}
	junitCase struct {
		Class   string        `xml:"classname,attr"`
		Name    string        `xml:"name,attr"`
		Failure *junitFailure `xml:"failure"`
		Skipped *junitSkipped `xml:"skipped"`
		Error   *junitSkipped `xml:"error"`
	}
	junitFailure struct {
		Type    string `xml:"type,attr"`
		Message string `xml:"message,attr"`
		Text    string `xml:",chardata"`
	}
	junitSkipped struct {
		Message string `xml:"message,attr"`
	}
)

// FindingsJUnit writes the judgements as JUnit XML. A finding that fails the check, by the
// function given, is a failure; one that does not, and one that was set aside, is a skipped case,
// and so is a rule that could not be judged.
func FindingsJUnit(w io.Writer, list []Judgement, fails func(rule.Finding) bool) error {
	all := junitSuites{Name: "nexdal"}
	for _, j := range list {
		if len(list) == 1 {
			all.Name += " " + text.Line(j.Catalog.Database)
		}
		lead := ""
		if len(list) > 1 {
			lead = text.Line(j.Name) + " "
		}
		if j.Failed != "" {
			all.Suites = append(all.Suites, junitSuite{Name: text.Line(j.Name), Tests: 1, Errors: 1, Cases: []junitCase{{Class: "survey", Name: text.Line(j.Name), Error: &junitSkipped{text.Line(j.Failed)}}}})
			continue
		}
		junitOf(&all, lead, j, fails)
	}
	for _, s := range all.Suites {
		all.Tests += s.Tests
		all.Failures += s.Failures
		all.Errors += s.Errors
	}
	if _, err := io.WriteString(w, xml.Header); err != nil {
		return err
	}
	out := xml.NewEncoder(w)
	out.Indent("", "  ")
	if err := out.Encode(all); err != nil {
		return err
	}
	_, err := io.WriteString(w, "\n")
	return err
}

// junitOf adds the suites of one judgement.
func junitOf(all *junitSuites, lead string, j Judgement, fails func(rule.Finding) bool) {
	c, r, rules := j.Catalog, j.Result, j.Rules
	found := map[string][]rule.Finding{}
	for _, f := range r.Findings {
		found[f.Rule] = append(found[f.Rule], f)
	}
	unjudged := map[string]rule.Unjudged{}
	for _, u := range r.Unjudged {
		unjudged[u.Rule] = u
	}
	var suite *junitSuite
	for _, x := range rules {
		if suite == nil || suite.Name != lead+x.Area() {
			all.Suites = append(all.Suites, junitSuite{Name: lead + x.Area(), Timestamp: c.Surveyed.UTC().Format("2006-01-02T15:04:05")})
			suite = &all.Suites[len(all.Suites)-1]
		}
		if len(found[x.ID]) == 0 {
			one := junitCase{Class: x.ID, Name: text.Line(x.Title)}
			if u, ok := unjudged[x.ID]; ok {
				one.Skipped = &junitSkipped{text.Line(unjudgedText(u))}
				suite.Skipped++
			}
			suite.Cases, suite.Tests = append(suite.Cases, one), suite.Tests+1
			continue
		}
		for _, f := range found[x.ID] {
			one := junitCase{Class: x.ID, Name: text.Line(f.ID())}
			switch {
			case f.SetAside():
				one.Skipped = &junitSkipped{"set aside: " + text.Line(f.Decision.Because)}
				suite.Skipped++
			case !fails(f):
				one.Skipped = &junitSkipped{text.Line(fmt.Sprintf("%s, which does not fail the check: %s", f.Severity, f.Message))}
				suite.Skipped++
			default:
				hint := strings.Join(append([]string{chosenFix(f)}, j.Call.Next(f)...), "\n")
				one.Failure = &junitFailure{string(f.Severity), text.Line(f.Message), hint}
				suite.Failures++
			}
			suite.Cases, suite.Tests = append(suite.Cases, one), suite.Tests+1
		}
	}
}
