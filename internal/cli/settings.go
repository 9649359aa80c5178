package cli

import (
	"io"

	"github.com/spf13/cobra"

	"nexdal/internal/report"
	"nexdal/internal/rule"
	"nexdal/internal/rule/allrules"
	"nexdal/internal/settings"
)

func (a *app) settings() *cobra.Command {
	var form string
	c := &cobra.Command{
		Use:   "settings [RULE]",
		Short: "Say which settings are in force, and where each comes from",
		Long: `Settings reads nexdal.yaml (or the file that --settings names) and what --set adds,
says what is wrong with them, and shows what is in force: severities and options
of rules, for which tables, the house's own rules, the sources that have names,
and where each was set. With a RULE, or a pattern, all of its options are shown,
those that have their default too.

docs/settings.md says what the file may hold.`,
		Example: `  nexdal settings
  nexdal settings fk/not-indexed
  nexdal settings 'partition/*' --set partition/horizon.periods=3`,
		Args: cobra.MaximumNArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			if err := format(form, "text", "json", "schema"); err != nil {
				return err
			}
			if form == "schema" {
				return a.emit("", func(w io.Writer) error { return encodeJSON(w, settings.Schema(allrules.Rules())) })
			}
			s, err := a.Settings()
			if err != nil {
				return err
			}
			rules := append(allrules.Rules(), s.House...)
			var only []*rule.Rule
			if len(args) == 1 {
				for _, r := range rules {
					if r.Is(args[0]) {
						only = append(only, r)
					}
				}
				if len(only) == 0 {
					_, err := ruleByID(rules, args[0])
					return err
				}
			}
			return a.emit("", func(w io.Writer) error {
				if form == "json" {
					return encodeJSON(w, report.SettingsJSON(s, rules, only))
				}
				a.page(w).Settings(s, rules, only)
				return nil
			})
		},
	}
	c.Flags().StringVar(&form, "format", "text", "text, json, or schema: the JSON Schema of the file, for editors")
	return c
}
