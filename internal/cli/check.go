package cli

import (
	"io"
	"slices"

	"github.com/spf13/cobra"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
	"nexdal/internal/engine/all"
	"nexdal/internal/evidence"
	"nexdal/internal/report"
	"nexdal/internal/rule"
	"nexdal/internal/rule/book"
)

func (a *app) check() *cobra.Command {
	var output, form, failOn, data string
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
say when it was asked.`,
		Example: `  nexdal check saltmere.db
  nexdal check saltmere.json --format json -o findings.json
  nexdal check saltmere.db --evidence evidence.json
  nexdal check postgres://dba@db1/saltmere --fail-on warning`,
		Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			if err := format(form, "text", "json"); err != nil {
				return err
			}
			limit := rule.Severity(failOn)
			if failOn != "never" && !known(limit) {
				return wrong("--fail-on takes error, warning, notice or never, not %q", failOn)
			}
			if err := writable(output); err != nil {
				return err
			}
			c, err := a.catalog(cmd.Context(), args[0])
			if err != nil {
				return err
			}
			e, err := a.weighed(data, c)
			if err != nil {
				return err
			}
			result, err := a.judge(c, e)
			if err != nil {
				return err
			}
			if err := a.emit(output, func(w io.Writer) error {
				if form == "json" {
					return encodeJSON(w, report.FindingsJSON(c, result))
				}
				page(w).Findings(c, result)
				return nil
			}); err != nil {
				return err
			}
			for _, f := range result.Findings {
				if failOn != "never" && f.Severity.AtLeast(limit) && !f.SetAside() {
					return shortError{}
				}
			}
			return nil
		},
	}
	c.Flags().StringVarP(&output, "output", "o", "", "file to write (default: standard output)")
	c.Flags().StringVar(&form, "format", "text", "text or json")
	c.Flags().StringVar(&data, "evidence", "", "evidence file from nexdal probe, for the rules that need it")
	c.Flags().StringVar(&failOn, "fail-on", "error", "lowest severity that gives exit status 1: error, warning, notice or never")
	return c
}

// judging is what the engine's catalogs are judged by.
func judging(c *catalog.Catalog, e *evidence.Evidence) (rule.Judge, error) {
	can, err := abilities(c)
	return rule.Judge{Can: can, Rules: book.Rules(), Evidence: e}, err
}

// judge runs the rules, leaves the fixes that can be written, and notes what
// was decided: the fix chosen comes first.
func (a *app) judge(c *catalog.Catalog, e *evidence.Evidence) (rule.Result, error) {
	j, err := judging(c, e)
	if err != nil {
		return rule.Result{}, err
	}
	result := j.Run(c)
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
