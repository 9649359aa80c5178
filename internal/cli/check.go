package cli

import (
	"io"

	"github.com/spf13/cobra"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
	"nexdal/internal/engine/all"
	"nexdal/internal/report"
	"nexdal/internal/rule"
	"nexdal/internal/rule/book"
)

func (a *app) check() *cobra.Command {
	var output, form, failOn string
	c := &cobra.Command{
		Use:   "check SOURCE",
		Short: "Judge a catalog by the design rules",
		Long: `Check judges a catalog by the design rules. Each finding says what is wrong, what
will come of it, and what would put it right; nexdal rules ID explains a rule,
and nexdal script fix writes the correction.

Severities: error (data can be or is wrong, or an operation will fail), warning
(it will hurt), notice (convention, tidiness). The exit status is 1 where there
are findings at or above --fail-on.`,
		Example: `  nexdal check saltmere.db
  nexdal check saltmere.json --format json -o findings.json
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
			result, err := judge(c)
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
				if failOn != "never" && f.Severity.AtLeast(limit) {
					return shortError{}
				}
			}
			return nil
		},
	}
	c.Flags().StringVarP(&output, "output", "o", "", "file to write (default: standard output)")
	c.Flags().StringVar(&form, "format", "text", "text or json")
	c.Flags().StringVar(&failOn, "fail-on", "error", "lowest severity that gives exit status 1: error, warning, notice or never")
	return c
}

// judge runs the rules and leaves the fixes that can be written.
func judge(c *catalog.Catalog) (rule.Result, error) {
	can, err := abilities(c)
	if err != nil {
		return rule.Result{}, err
	}
	result := rule.Run(c, can, book.Rules())
	e := all.ByName(c.Engine.Name)
	result.Findings = rule.Offer(result.Findings, func(ch change.Change) string {
		if w, ok := e.(engine.Writer); ok {
			return w.Refuses(c, ch)
		}
		return "scripts are not written for " + e.Title()
	})
	return result, nil
}

func known(s rule.Severity) bool {
	for _, k := range rule.Severities {
		if s == k {
			return true
		}
	}
	return false
}
