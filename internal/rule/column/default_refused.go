package column

import (
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"nexdal/internal/catalog"
	"nexdal/internal/rule"
)

var DefaultRefused = &rule.Rule{
	ID:       "column/default-refused",
	Title:    "default that the column itself refuses",
	Severity: rule.Error,
	Doc: `The column's default is not a value that the column takes: it is null where null is forbidden, longer than its type, or outside what a check of the column allows. An insert that leaves the column out fails, and says nothing of a default.

Only defaults that are plain texts or numbers are weighed, and checks that list values, or compare the column with numbers.

There is no fix: which of the two is wrong is for a person to say.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Whole {
			for _, c := range t.Columns {
				if c.Default == "" || c.Identity != catalog.NoIdentity {
					continue
				}
				if why := refused(t, c); why != "" {
					p.Report(rule.Finding{Table: t.Ref(), Object: t.Name, Columns: []string{c.Name}, Part: c.Name,
						Message: fmt.Sprintf("the default %s of %s is refused: %s", c.Default, c.Name, why), Advice: "give it a default that it takes, or none"})
				}
			}
		}
		return nil
	},
}

var (
	nullValue = regexp.MustCompile(`(?i)^\(*null(::.*)?\)*$`)
	textValue = regexp.MustCompile(`(?s)^\(*'((?:[^']|'')*)'\)*(?:::[a-z" ]+(?:\([\d, ]+\))?)?\)*$`)
	numValue  = regexp.MustCompile(`^\(*'?(-?\d+(?:\.\d+)?)'?(?:::[a-z ]+(?:\([\d, ]+\))?)?\)*$`)
)

// refused says why the column does not take its default, or "".
func refused(t *catalog.Table, c *catalog.Column) string {
	if nullValue.MatchString(c.Default) {
		if !c.Nullable {
			return "null is forbidden"
		}
		return ""
	}
	var value string
	number := numValue.FindStringSubmatch(c.Default)
	if text := textValue.FindStringSubmatch(c.Default); text != nil && c.Type.Family != catalog.Integer && c.Type.Family != catalog.Decimal {
		value = strings.ReplaceAll(text[1], "''", "'")
		if n := c.Type.Length; c.Type.Family == catalog.Text && n > 0 && c.Type.Class == "" && utf8.RuneCountInString(strings.TrimRight(value, " ")) > n {
			return fmt.Sprintf("it has %d letters, and %s takes %d", utf8.RuneCountInString(value), c.Type.Native, n)
		}
	} else if number != nil {
		value = number[1]
	} else {
		return ""
	}
	for _, k := range t.Checks {
		if !k.NotValidated && (k.Column == c.Name || catalog.SpeaksOf(k.Expression, c.Name)) && !allows(k.Expression, c.Name, value, number != nil) {
			return "it breaks the check " + k.Expression
		}
	}
	return ""
}

const (
	someColumn = `\(*["\x60\[]?([^"\x60\[\]()\s=<>!:]+)["\x60\]]?\)*(?:::[a-z ]+)?\)*`
	oneNumber  = `\(*'?(-?\d+(?:\.\d+)?)'?(?:::[a-z ]+)?\)*`
)

// The checks that are understood, as the engines write them; each begins with
// the column.
var (
	listedCheck   = regexp.MustCompile(`(?is)^\(*` + someColumn + `\s*(?:in\s*|=\s*any\s*\(+array)\s*[(\[]+(.*?)[)\]]+(?:::[a-z ]+\[\])?\)*$`)
	betweenCheck  = regexp.MustCompile(`(?i)^\(*` + someColumn + `\s+between\s+` + oneNumber + `\s+and\s+` + oneNumber + `$`)
	comparedCheck = regexp.MustCompile(`(?i)^\(*` + someColumn + `\s*(>=|<=|<>|!=|>|<|=)\s*` + oneNumber + `$`)
	boundedCheck  = regexp.MustCompile(`(?i)^\(*` + someColumn + `\s*(>=|<=|>|<)\s*` + oneNumber + `\s*\)*\s+and\s+\(*` + someColumn + `\s*(>=|<=|>|<)\s*` + oneNumber + `$`)
	wholeNumber   = regexp.MustCompile(`^-?\d+(\.\d+)?$`)
)

// allows reports whether a check lets the value in; one that is not understood
// does.
func allows(expression, column, value string, number bool) bool {
	e := strings.TrimSpace(expression)
	is := func(name string) bool { return strings.EqualFold(name, column) }
	if m := listedCheck.FindStringSubmatch(e); m != nil && is(m[1]) {
		listed := listOf(m[2])
		return listed == nil || slices.Contains(listed, value)
	}
	if !number && !wholeNumber.MatchString(value) {
		return true
	}
	x, err := strconv.ParseFloat(value, 64)
	if err != nil {
		return true
	}
	if m := betweenCheck.FindStringSubmatch(e); m != nil && is(m[1]) {
		return compares(x, ">=", m[2]) && compares(x, "<=", m[3])
	}
	if m := comparedCheck.FindStringSubmatch(e); m != nil && is(m[1]) {
		return compares(x, m[2], m[3])
	}
	if m := boundedCheck.FindStringSubmatch(e); m != nil && is(m[1]) && is(m[4]) {
		return compares(x, m[2], m[3]) && compares(x, m[5], m[6])
	}
	return true
}

func compares(x float64, how, with string) bool {
	y, err := strconv.ParseFloat(with, 64)
	if err != nil {
		return true
	}
	switch how {
	case ">=":
		return x >= y
	case "<=":
		return x <= y
	case ">":
		return x > y
	case "<":
		return x < y
	case "=":
		return x == y
	}
	return x != y
}

var listItem = regexp.MustCompile(`(?s)^\s*(?:'((?:[^']|'')*)'|(-?\d+(?:\.\d+)?))(?:::[a-z ]+)?\s*(?:,|$)`)

// listOf cuts a list of texts and numbers; nil where there is anything else.
func listOf(text string) []string {
	var all []string
	for text != "" {
		m := listItem.FindStringSubmatch(text)
		if m == nil {
			return nil
		}
		text = text[len(m[0]):]
		if m[2] != "" {
			all = append(all, m[2])
		} else {
			all = append(all, strings.ReplaceAll(m[1], "''", "'"))
		}
	}
	return all
}
