package cli

import (
	"context"
	"io"
	"os"
	"slices"
	"strings"

	"github.com/spf13/cobra"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
	"nexdal/internal/engine/all"
	"nexdal/internal/evidence"
	"nexdal/internal/report"
	"nexdal/internal/rule"
	"nexdal/internal/rule/book"
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
only those that the file does not hold are reported.`,
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
	for _, path := range []string{k.output, k.writeBaseline} {
		if err := writable(path); err != nil {
			return err
		}
	}
	c, err := k.catalog(ctx, source)
	if err != nil {
		return err
	}
	e, err := k.weighed(k.data, c)
	if err != nil {
		return err
	}
	j, err := k.judging(c, e)
	if err != nil {
		return err
	}
	result, err := k.judge(ctx, c, e)
	if err != nil {
		return err
	}
	if k.writeBaseline != "" {
		b := settings.BaselineOf(c, result)
		if err := k.emit(k.writeBaseline, func(w io.Writer) error { return encodeJSON(w, b) }); err != nil {
			return err
		}
	}
	old := 0
	if k.baseline != "" {
		b, err := k.readBaseline(c)
		if err != nil {
			return err
		}
		result, old = b.New(result)
	}
	if err := k.emit(k.output, func(w io.Writer) error { return k.tell(w, c, result, j.Rules, old) }); err != nil {
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

// readBaseline reads what --baseline names, which has to be of this database.
func (k *checking) readBaseline(c *catalog.Catalog) (*settings.Baseline, error) {
	f, err := os.Open(k.baseline)
	if err != nil {
		return nil, wrong("the baseline in %s cannot be read: %v", k.baseline, cause(err))
	}
	defer f.Close()
	b, err := settings.ReadBaseline(f)
	switch {
	case err != nil:
		return nil, wrong("the baseline in %s cannot be used: %v", k.baseline, err)
	case b.Engine != c.Engine.Name || b.Database != c.Database:
		return nil, wrong("%s is a baseline of %s %s, and the source is %s %s", k.baseline, b.Engine, b.Database, c.Engine.Name, c.Database)
	}
	return b, nil
}

// judging is what the engine's catalogs are judged by.
func (a *app) judging(c *catalog.Catalog, e *evidence.Evidence) (rule.Checker, error) {
	can, err := abilities(c)
	if err != nil {
		return rule.Checker{}, err
	}
	s, err := a.house()
	if err != nil {
		return rule.Checker{}, err
	}
	return rule.Checker{Abilities: can, Rules: append(book.Rules(), s.House...), Evidence: e, Settings: s.Of(), LongestName: s.LongestName()}, nil
}

// judge runs the rules, leaves the fixes that can be written, and notes what
// was decided: the fix chosen comes first.
func (a *app) judge(ctx context.Context, c *catalog.Catalog, e *evidence.Evidence) (rule.Result, error) {
	j, err := a.judging(c, e)
	if err != nil {
		return rule.Result{}, err
	}
	result := j.Run(ctx, c)
	if ctx.Err() != nil {
		return rule.Result{}, context.Cause(ctx)
	}
	eng := all.ByName(c.Engine.Name)
	result.Findings = rule.Offer(result.Findings, func(ch change.Change) string {
		if w, ok := eng.(engine.Writer); ok {
			return w.Refuses(c, ch)
		}
		return "scripts are not written for " + eng.Title()
	})
	d, err := a.decided(false)
	if err != nil {
		return rule.Result{}, err
	}
	for i := range result.Findings {
		f := &result.Findings[i]
		x := d.Of(f.ID(), today())
		if x == nil {
			continue
		}
		f.Decision = &rule.Decision{Verdict: string(x.Verdict), Fix: x.Fix, By: x.By, At: x.At.String(), Because: x.Because}
		if !x.Until.IsZero() {
			f.Decision.Until = x.Until.String()
		}
		if n := slices.IndexFunc(f.Fixes, func(fix rule.Fix) bool { return fix.ID == x.Fix }); n > 0 {
			chosen := f.Fixes[n]
			f.Fixes = slices.Insert(slices.Delete(f.Fixes, n, n+1), 0, chosen)
		}
	}
	return result, nil
}

// weighed reads the evidence for a catalog, without what was refused, and gives
// the catalog the references that were accepted by a pattern.
func (a *app) weighed(path string, c *catalog.Catalog) (*evidence.Evidence, error) {
	e, err := evidenceOf(path, c)
	if err != nil || e == nil {
		return e, err
	}
	d, err := a.decided(false)
	if err != nil {
		return nil, err
	}
	d.Strike(e, today())
	return e, a.accept(c, e)
}

func known(s rule.Severity) bool {
	for _, k := range rule.Severities {
		if s == k {
			return true
		}
	}
	return false
}
