package cli

import (
	"context"
	"slices"
	"strings"

	"github.com/spf13/cobra"
	"github.com/spf13/pflag"

	"nexdal/internal/engine/all"
	"nexdal/internal/rule"
	"nexdal/internal/rule/allrules"
)

// complete tells the shell which values flags and arguments may have: words, rules, engines, the
// sources in the settings, and the tables of a survey file. Databases are not opened for it.
func (a *app) complete(c *cobra.Command) {
	c.LocalFlags().VisitAll(func(f *pflag.Flag) {
		if values := a.values(c, f); values != nil {
			// Only a flag that has one already is refused, and none has.
			_ = c.RegisterFlagCompletionFunc(f.Name, values)
		}
	})
	if strings.Contains(c.Use, "SOURCE") || strings.Contains(c.Use, "FROM TO") || strings.HasPrefix(c.Use, "compare") {
		c.ValidArgsFunction = a.arguments(c)
	}
	if strings.Contains(c.Use, "[ID]") || strings.Contains(c.Use, "[RULE]") {
		c.ValidArgsFunction = func(*cobra.Command, []string, string) ([]string, cobra.ShellCompDirective) {
			return ruleIDs(), cobra.ShellCompDirectiveNoFileComp
		}
	}
	for _, sub := range c.Commands() {
		a.complete(sub)
	}
}

// values are those of a flag; nil: they are no list of words.
func (a *app) values(c *cobra.Command, f *pflag.Flag) cobra.CompletionFunc {
	later := func(list func() []string) cobra.CompletionFunc { // most calls ask for none
		return func(_ *cobra.Command, _ []string, begun string) ([]string, cobra.ShellCompDirective) {
			return continued(begun, list()), cobra.ShellCompDirectiveNoFileComp | cobra.ShellCompDirectiveNoSpace
		}
	}
	words := func(list ...string) cobra.CompletionFunc { return later(func() []string { return list }) }
	severities := []string{string(rule.Error), string(rule.Warning), string(rule.Notice)}
	switch f.Name {
	case "format":
		if c.Name() == "check" {
			return words(findingForms...)
		}
		said, _, _ := strings.Cut(f.Usage, ":")
		return words(strings.FieldsFunc(strings.ReplaceAll(said, " or ", ","), func(r rune) bool { return r == ',' || r == ' ' })...)
	case "color":
		return words("auto", "always", "never")
	case "severity":
		return words(severities...)
	case "fail-on":
		return words(append(severities, "never")...)
	case "group":
		return words("table", "rule")
	case "engine", "for":
		return later(all.Names)
	case "rule":
		return later(ruleIDs)
	case "area":
		return later(areas)
	case "consequence":
		return words(consequences()...)
	case "shade":
		return words("findings", "size", "schema", "none")
	case "content":
		return words("columns", "keys", "names")
	case "theme":
		return words("light", "dark")
	case "notation":
		return words("feet", "arrows")
	case "sort":
		return words("size", "rows", "name", "refers", "referred")
	case "split":
		return words("table", "phase")
	case "every":
		return words("day", "week", "month", "quarter", "year")
	case "table", "around":
		return func(_ *cobra.Command, args []string, begun string) ([]string, cobra.ShellCompDirective) {
			if len(args) == 0 {
				return nil, cobra.ShellCompDirectiveNoFileComp
			}
			return continued(begun, a.tablesOf(args[0])), cobra.ShellCompDirectiveNoFileComp | cobra.ShellCompDirectiveNoSpace
		}
	}
	return nil
}

// continued puts the words behind what was typed up to the last comma.
func continued(begun string, words []string) []string {
	i := strings.LastIndex(begun, ",")
	if i < 0 {
		return words
	}
	var list []string
	for _, w := range words {
		list = append(list, begun[:i+1]+w)
	}
	return list
}

// arguments are sources first, files or those of the settings, and then tables of the first.
func (a *app) arguments(c *cobra.Command) cobra.CompletionFunc {
	several := strings.Contains(c.Use, "SOURCE...") || !strings.Contains(c.Use, "SOURCE")
	return func(_ *cobra.Command, args []string, _ string) ([]string, cobra.ShellCompDirective) {
		if len(args) > 0 && !several {
			return a.tablesOf(args[0]), cobra.ShellCompDirectiveNoFileComp
		}
		var names []string
		if s, err := a.Settings(); err == nil {
			for name := range s.Sources {
				names = append(names, name)
			}
		}
		slices.Sort(names)
		return names, cobra.ShellCompDirectiveDefault
	}
}

// tablesOf are the tables of a survey file; of a database that would have to be opened, none.
func (a *app) tablesOf(source string) []string {
	if !a.IsFile(source) {
		return nil
	}
	c, err := a.Catalog(context.Background(), source)
	if err != nil {
		return nil
	}
	var names []string
	for _, t := range c.Tables() {
		if len(c.Schemas) > 1 {
			names = append(names, t.Ref().String())
		} else {
			names = append(names, t.Name)
		}
	}
	return names
}

func ruleIDs() []string {
	var ids []string
	for _, r := range allrules.Rules() {
		ids = append(ids, r.ID)
	}
	return ids
}

func areas() []string {
	var list []string
	for _, r := range allrules.Rules() {
		if !slices.Contains(list, r.Area()) {
			list = append(list, r.Area())
		}
	}
	return list
}
