package cli

import (
	"io"
	"slices"
	"strings"

	"github.com/spf13/cobra"

	"nexdal/internal/engine/all"
	"nexdal/internal/report"
	"nexdal/internal/rule"
	"nexdal/internal/rule/allrules"
	"nexdal/internal/text"
)

func (a *app) rules() *cobra.Command {
	var form, engineName string
	c := &cobra.Command{
		Use:   "rules [ID]",
		Short: "List the design rules, or explain one",
		Long: `Rules lists the design rules with what they find; with an ID it explains one: what
is wrong, why it hurts, when to leave it alone, what the fix does, what may be set,
and an example of what is found and what the fix does there, in the SQL of
--engine. A pattern with * explains all that it fits. The rules of your own in
nexdal.yaml are among them.`,
		Example: `  nexdal rules
  nexdal rules fk/not-indexed --engine postgres
  nexdal rules 'key/*' --format markdown`,
		Args: cobra.MaximumNArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			if err := format(form, "text", "json", "markdown"); err != nil {
				return err
			}
			if engineName != "" && !slices.Contains(all.Names(), engineName) {
				return wrong("--engine takes one of %s, not %q", strings.Join(all.Names(), ", "), engineName)
			}
			h, err := a.Settings()
			if err != nil {
				return err
			}
			list := append(allrules.Rules(), h.House...)
			if len(args) == 1 {
				if list, err = rulesLike(list, args[0]); err != nil {
					return err
				}
			}
			example := func(r *rule.Rule) *report.Example {
				x, ok := allrules.ExampleOf(r, engineName, all.Names())
				if !ok {
					return nil
				}
				language := strings.TrimPrefix(all.ByName(x.Engine).Dialect().Ending(), ".")
				return &report.Example{Engine: engineTitle(x.Engine), Language: language, Broken: x.Broken, Fixed: x.Fixed, Probed: x.Probed, Set: x.Set}
			}
			return a.emit("", func(w io.Writer) error {
				switch {
				case form == "json":
					return encodeJSON(w, report.RulesJSON(list))
				case form == "markdown":
					report.RulesMarkdown(w, list, example)
				case len(args) == 1:
					for _, r := range list {
						a.page(w).Rule(r, example(r))
					}
				default:
					a.page(w).Rules(list)
				}
				return nil
			})
		},
	}
	c.Flags().StringVar(&form, "format", "text", "text, json or markdown")
	c.Flags().StringVar(&engineName, "engine", "", "whose SQL the example is in: "+strings.Join(all.Names(), ", ")+" (default: the first that has the fault)")
	c.ValidArgsFunction = func(*cobra.Command, []string, string) ([]string, cobra.ShellCompDirective) {
		var ids []string
		for _, r := range allrules.Rules() {
			ids = append(ids, r.ID)
		}
		return ids, cobra.ShellCompDirectiveNoFileComp
	}
	return c
}

// rulesLike are the rule of an identifier, or all that a pattern fits.
func rulesLike(list []*rule.Rule, id string) ([]*rule.Rule, error) {
	if !strings.ContainsAny(id, "*?") {
		r, err := ruleByID(list, id)
		if err != nil {
			return nil, err
		}
		return []*rule.Rule{r}, nil
	}
	list = slices.DeleteFunc(list, func(r *rule.Rule) bool { return !r.Is(id) })
	if len(list) == 0 {
		return nil, wrong("no rule fits %s", id)
	}
	return list, nil
}

func ruleByID(list []*rule.Rule, id string) (*rule.Rule, error) {
	var ids []string
	for _, r := range list {
		if r.ID == id {
			return r, nil
		}
		ids = append(ids, r.ID)
	}
	return nil, wrong("there is no rule %s; nearest is %s", id, text.Nearest(id, ids))
}
