package cli

import (
	"context"
	"io"
	"strings"

	"github.com/spf13/cobra"

	"nexdal/internal/catalog"
	"nexdal/internal/job"
	"nexdal/internal/report"
	"nexdal/internal/rule"
	"nexdal/internal/settings"
)

// checking is one check, as its flags have it.
type checking struct {
	*app
	output, form, failOn, data string
	group                      string
	explain                    bool
	baseline, writeBaseline    string
}

var findingForms = []string{"text", "json", "sarif", "junit", "csv", "markdown", "lines"}

func (a *app) check() *cobra.Command {
	k := &checking{app: a}
	c := &cobra.Command{
		Use:   "check SOURCE",
		Short: "Judge a catalog by the design rules",
		Long: `Check judges a catalog by the design rules. Each finding says what is wrong, what
will come of it, and what would put it right; nexdal rules ID explains a rule,
and nexdal script fix writes the correction.

Severities: error (data can be or is wrong, or an operation will fail), warning
(it will hurt), notice (convention, tidiness). The exit status is 1 where there
are findings at or above --fail-on. Findings that were set aside (nexdal decide)
are counted and do not fail a check.

With --evidence, rules that need the data are judged too; findings that lean on it
say when it was asked. What could not be judged is listed, with what it lacks.
Severities, thresholds and rules of your own come from nexdal.yaml (nexdal settings)
and --set.

With --write-baseline, the findings of today are kept in a file; with --baseline,
only those that the file does not hold are reported. With both, the new file holds
those of the old one that are still there: what is new is reported, and not kept.`,
		Example: `  nexdal check saltmere.db
  nexdal check saltmere.db --evidence evidence.json --group rule
  nexdal check saltmere.json --format sarif -o findings.sarif
  nexdal check saltmere.db --write-baseline known.json
  nexdal check saltmere.db --baseline known.json --fail-on warning
  nexdal check postgres://dba@db1/saltmere --set 'name/*=off' --set fk/not-indexed.large=100000`,
		Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error { return k.run(cmd.Context(), args[0]) },
	}
	f := c.Flags()
	f.StringVarP(&k.output, "output", "o", "", "file to write (default: standard output)")
	f.StringVar(&k.form, "format", "text", strings.Join(findingForms, ", "))
	f.StringVar(&k.data, "evidence", "", "evidence file from nexdal probe, for the rules that need it")
	f.StringVar(&k.failOn, "fail-on", "error", "lowest severity that gives exit status 1: error, warning, notice or never")
	f.StringVar(&k.group, "group", "table", "how the text is ordered: by table or by rule")
	f.BoolVar(&k.explain, "explain", false, "with the text of each rule that is broken")
	f.StringVar(&k.baseline, "baseline", "", "report only what this file does not hold")
	f.StringVar(&k.writeBaseline, "write-baseline", "", "file to keep the findings of today in")
	return c
}

func (k *checking) run(ctx context.Context, source string) error {
	if err := format(k.form, findingForms...); err != nil {
		return err
	}
	limit := rule.Severity(k.failOn)
	switch {
	case k.failOn != "never" && !known(limit):
		return wrong("--fail-on takes error, warning, notice or never, not %q", k.failOn)
	case k.group != "table" && k.group != "rule":
		return wrong("--group takes table or rule, not %q", k.group)
	}
	of, err := k.judged(ctx, source, k.data, k.output, k.writeBaseline)
	if err != nil {
		return err
	}
	c, result := of.Catalog, of.Result
	old, kept := 0, result
	if k.baseline != "" {
		b, err := job.ReadBaseline(k.baseline, c)
		if err != nil {
			return err
		}
		kept = b.Known(result)
		result, old = b.New(result)
	}
	if k.writeBaseline != "" {
		b := settings.BaselineOf(c, kept)
		if err := k.emit(k.writeBaseline, func(w io.Writer) error { return encodeJSON(w, b) }); err != nil {
			return err
		}
	}
	if err := k.emit(k.output, func(w io.Writer) error { return k.tell(w, c, result, of.Checker.Rules, old) }); err != nil {
		return err
	}
	for _, f := range result.Findings {
		if k.failOn != "never" && f.Severity.AtLeast(limit) && !f.SetAside() {
			return shortError{}
		}
	}
	return nil
}

func (k *checking) tell(w io.Writer, c *catalog.Catalog, result rule.Result, rules []*rule.Rule, old int) error {
	switch k.form {
	case "json":
		return encodeJSON(w, report.FindingsJSON(c, result))
	case "sarif":
		return encodeJSON(w, report.FindingsSARIF(c, result, rules, version()))
	case "junit":
		return report.FindingsJUnit(w, c, result, rules)
	case "csv":
		return report.FindingsCSV(w, result)
	case "markdown":
		report.FindingsMarkdown(w, c, result)
	case "lines":
		report.FindingsLines(w, result)
	default:
		page(w).Findings(c, result, report.Telling{ByRule: k.group == "rule", Explain: k.explain, Rules: rules, Known: old})
	}
	return nil
}

func known(s rule.Severity) bool {
	for _, k := range rule.Severities {
		if s == k {
			return true
		}
	}
	return false
}
