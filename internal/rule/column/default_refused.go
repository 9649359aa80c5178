package column

import (
	"fmt"
	"strings"
	"unicode/utf8"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var DefaultRefused = &rule.Rule{
	ID:          "column/default-refused",
	Title:       "default that the column itself refuses",
	Severity:    rule.Error,
	Consequence: rule.FailsNow,
	Fixes:       []string{"no-default"},
	Doc: `The column's default is not a value that the column takes: it is null where null is forbidden, longer than its type, or outside what a check of the column allows. An insert that leaves the column out fails, and says nothing of a default.

Only defaults that are plain texts or numbers are weighed, and checks that list values, or compare the column with numbers.

Which of the two is wrong is up to you. The fix, once chosen, drops the default: where the column may be null, an insert that leaves it out is taken again; where it may not, the engine asks for a value. Leave it alone where the check is what is wrong.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Roots {
			for _, c := range t.Columns {
				if c.Default == "" || c.Identity != catalog.NoIdentity {
					continue
				}
				if why := refused(p, t, c); why != "" {
					p.Report(rule.Finding{Table: t.Ref(), Object: t.Name, Columns: []string{c.Name}, Part: c.Name,
						Message: fmt.Sprintf("the default %s of \"%s\" is refused: %s", c.Default, c.Name, why), Advice: "or give it a default that it takes",
						Fixes: []rule.Fix{{ID: "no-default", Title: "drop the default of " + text.Name(c.Name), Ask: true, Changes: []change.Change{change.SetDefault{Table: t.Ref(), Column: c.Name, From: c.Default}}}}})
				}
			}
		}
		return nil
	},
}

// refused says why the column does not take its default, or "".
func refused(p *rule.Pass, t *catalog.Table, c *catalog.Column) string {
	value, ok := p.Abilities.Reads().Constant(c.Default)
	number := c.Type.Family == catalog.Integer || c.Type.Family == catalog.Decimal
	switch {
	case !ok || number && !value.Null && !value.Number:
		return ""
	case value.Null && !c.Nullable:
		return "null is forbidden"
	case value.Null:
		return ""
	case value.Quoted && !number:
		if n := c.Type.Length; c.Type.Family == catalog.Text && n > 0 && c.Type.Class == "" && utf8.RuneCountInString(strings.TrimRight(value.Text, " ")) > n {
			return fmt.Sprintf("it has %d letters, and %s takes %d", utf8.RuneCountInString(value.Text), c.Type.Native, n)
		}
	}
	for _, k := range t.Checks {
		if !k.NotValidated && p.Abilities.Reads().Refuses(k.Expression, c.Name, value) {
			return "it breaks the check " + k.Expression
		}
	}
	return ""
}
