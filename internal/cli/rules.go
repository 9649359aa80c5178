package cli

import (
	"io"

	"github.com/spf13/cobra"

	"nexdal/internal/phrase"
	"nexdal/internal/report"
	"nexdal/internal/rule"
	"nexdal/internal/rule/book"
)

func (a *app) rules() *cobra.Command {
	var form string
	c := &cobra.Command{
		Use:   "rules [ID]",
		Short: "List the design rules, or explain one",
		Example: `  nexdal rules
  nexdal rules fk/not-indexed`,
		Args: cobra.MaximumNArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			if err := format(form, "text", "json"); err != nil {
				return err
			}
			h, err := a.house()
			if err != nil {
				return err
			}
			list := append(book.Rules(), h.House...)
			if len(args) == 1 {
				r, err := ruleByID(list, args[0])
				if err != nil {
					return err
				}
				list = []*rule.Rule{r}
			}
			return a.emit("", func(w io.Writer) error {
				switch {
				case form == "json":
					return encodeJSON(w, report.RulesJSON(list))
				case len(args) == 1:
					page(w).Rule(list[0])
				default:
					page(w).Rules(list)
				}
				return nil
			})
		},
	}
	c.Flags().StringVar(&form, "format", "text", "text or json")
	c.ValidArgsFunction = func(*cobra.Command, []string, string) ([]string, cobra.ShellCompDirective) {
		var ids []string
		for _, r := range book.Rules() {
			ids = append(ids, r.ID)
		}
		return ids, cobra.ShellCompDirectiveNoFileComp
	}
	return c
}

func ruleByID(list []*rule.Rule, id string) (*rule.Rule, error) {
	var ids []string
	for _, r := range list {
		if r.ID == id {
			return r, nil
		}
		ids = append(ids, r.ID)
	}
	return nil, wrong("there is no rule %s; nearest is %s", id, phrase.Nearest(id, ids))
}
