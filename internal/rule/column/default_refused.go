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

// DefaultRefused: see its Doc.
var DefaultRefused = &rule.Rule{
	ID:       "column/default-refused",
	Title:    "default that the column itself refuses",
	Severity: rule.Error,
	Doc: `The column's default is not a value that the column takes: it is null where null is forbidden, longer than its type, or outside what a check of the column allows. An insert that leaves the column out fails, and says nothing of a default.

Only defaults that are plain texts or numbers are weighed, and checks that list values, or compare the column with numbers.

There is no fix: which of the two is wrong is for a person to say.`,
	Check: func(p *rule.Pass) {
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
		if !k.NotValidated && !allows(k.Expression, c.Name, value, number != nil) {
			return "it breaks the check " + k.Expression
		}
	}
	return ""
}

const (
	columnRef = `[("\x60\[]*%s[)"\x60\]]*(?:::[a-z ]+)?\)*`
	oneNumber = `\(*'?(-?\d+(?:\.\d+)?)'?(?:::[a-z ]+)?\)*`
)

// allows reports whether a check lets the value in; one that is not understood
// does.
func allows(expression, column, value string, number bool) bool {
	e := strings.TrimSpace(expression)
	name := fmt.Sprintf(columnRef, regexp.QuoteMeta(column))
	if !number {
		number = regexp.MustCompile(`^-?\d+(\.\d+)?$`).MatchString(value)
	}
	if m := regexp.MustCompile(`(?is)^\(*` + name + `\s*(?:in\s*|=\s*any\s*\(+array)\s*[(\[]+(.*?)[)\]]+(?:::[a-z ]+\[\])?\)*$`).FindStringSubmatch(e); m != nil {
		listed := listOf(m[1])
		return listed == nil || slices.Contains(listed, value)
	}
	if !number {
		return true
	}
	x, err := strconv.ParseFloat(value, 64)
	if err != nil {
		return true
	}
	if m := regexp.MustCompile(`(?i)^\(*` + name + `\s+between\s+` + oneNumber + `\s+and\s+` + oneNumber + `$`).FindStringSubmatch(e); m != nil {
		return compares(x, ">=", m[1]) && compares(x, "<=", m[2])
	}
	if m := regexp.MustCompile(`(?i)^\(*` + name + `\s*(>=|<=|<>|!=|>|<|=)\s*` + oneNumber + `$`).FindStringSubmatch(e); m != nil {
		return compares(x, m[1], m[2])
	}
	if m := regexp.MustCompile(`(?i)^\(*` + name + `\s*(>=|<=|>|<)\s*` + oneNumber + `\s*\)*\s+and\s+\(*` + name + `\s*(>=|<=|>|<)\s*` + oneNumber + `$`).FindStringSubmatch(e); m != nil {
		return compares(x, m[1], m[2]) && compares(x, m[3], m[4])
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
