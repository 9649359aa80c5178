// Package column holds the rules on columns: their types, nulls and defaults.
package column

import (
	"fmt"
	"slices"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/pattern"
	"nexdal/internal/rule"
)

var MoneyApproximate = &rule.Rule{
	ID:          "column/money-approximate",
	Title:       "money in floating point",
	Severity:    rule.Warning,
	Consequence: rule.Unprotected,
	Fixes:       []string{"exact"},
	Doc: `A column that by its name holds money is of a floating-point type. Most amounts cannot be held exactly in one: sums differ in the last digit with the order of the rows, and comparisons for equality fail.

A name alone is a hint: where neither a currency, an exact number or another amount stands beside the column, nor the table is named after paying, it is a notice.

A column called amount, total or value is taken for money only where it or its table speaks of paying, or a currency stands beside it.

On an engine that has no exact type for fractions, it is a notice: whole numbers of the smallest coin are exact there.

The fix alters the column to an exact type of four decimals, after a question to the data for values that would not come back the same. Programs get another type to read then. Where the engine has none there is no fix.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Roots {
			for _, c := range t.Columns {
				if c.Type.Family != catalog.Float || !(p.Matches(money, c.Name) || p.Matches(sum, c.Name) && pays(t, c)) || p.Matches(measure, c.Name) {
					continue
				}
				found := rule.Finding{Table: t.Ref(), Object: t.Name, Columns: []string{c.Name}, Part: c.Name,
					Message: fmt.Sprintf("\"%s\" holds money in %s, which cannot hold most amounts exactly: sums and comparisons go wrong in the last digit", c.Name, c.Type.Native),
					Advice:  "an exact decimal type, or whole numbers of the smallest coin"}
				if c.Type.Class != "" || !inCompany(t, c) {
					found.Severity = rule.Notice
				}
				if exact := p.Abilities.ExactType; exact.Native != "" && c.Generated == "" {
					found.Advice = ""
					found.Fixes = []rule.Fix{{ID: "exact", Title: fmt.Sprintf("make \"%s\" %s", c.Name, exact.Native), Changes: []change.Change{
						change.AlterType{Table: t.Ref(), Column: c.Name, From: c.Type, To: exact}}}}
				}
				p.Report(found)
			}
		}
		return nil
	},
}

// inCompany reports whether something besides its name says that the column holds money: its
// own currency, the table's name, or a column beside it that is a currency, is exact, or is
// named after paying.
func inCompany(t *catalog.Table, c *catalog.Column) bool {
	return inCurrency.MatchString(c.Name) || paying.MatchString(t.Name) || slices.ContainsFunc(t.Columns, func(o *catalog.Column) bool {
		return o != c && (currency.MatchString(o.Name) || o.Type.Family == catalog.Decimal && o.Type.Scale > 0 || money.MatchString(o.Name) && !measure.MatchString(o.Name))
	})
}

// pays reports whether the column, its table or one beside it speaks of paying.
func pays(t *catalog.Table, c *catalog.Column) bool {
	return paying.MatchString(t.Name+" "+c.Name) || slices.ContainsFunc(t.Columns, func(o *catalog.Column) bool { return currency.MatchString(o.Name) })
}

var (
	inCurrency = pattern.New(`(?i)_(eur|euros?|usd|gbp|chf|dkk|sek|nok)$`)

	currency = pattern.New(`(?i)(^|_)currency`)
	money    = pattern.New(`(?i)(^|_)(price|cost|salary|wage|fee|balance|tax|discount_amount|revenue|budget|payment|refund|deposit|pay|rent|bonus|income|premium|earning|fare|toll|debt|loan|tariff|expense|turnover|profit|commission|stipend|penalty)s?(_|$)|(^|_)(salaries|bonuses|taxes|penalties|subsid(y|ies))(_|$)|_(eur|euros?|usd|gbp|chf|dkk|sek|nok)$|(?-i:Price|Cost|Salary|Balance|Fee$)`)
	sum      = pattern.New(`(?i)(^|_)(amount|total|subtotal|sum|value)s?(_|$)|(?-i:Amount|Total)`)
	paying   = pattern.New(`(?i)pay|invoice|order|purchase|expense|charge|credit|debit|money|currency|account|(^|_)sale|bill|price|cost|(^|_)(fee|fine|due|toll|fare|tax|rent|loan|debt|grant|fund)s?(_|$)|salar|wage|refund|deposit|budget|tariff|donat|voucher|ticket|contract|subscri|booking|insur|claim|penalt|ledger|cash|bank|wallet|subsid|prize`)
	measure  = pattern.New(`(?i)(rate|ratio|factor|percent|share|pct|index|_km|_mm|_ms|_kg|hours?|count|score|height|width|length|depth|weight|area|volume|level|angle|speed|temperature)$`)
)
