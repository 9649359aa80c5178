package sqlexpr

import (
	"slices"
	"strconv"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/pattern"
)

var (
	nullValue = pattern.New(`(?i)^\(*null(::.*)?\)*$`)
	textValue = pattern.New(`(?s)^\(*'((?:[^']|'')*)'\)*(?:::[a-z" ]+(?:\([\d, ]+\))?)?\)*$`)
	numValue  = pattern.New(`^\(*'?(-?\d+(?:\.\d+)?)'?(?:::[a-z ]+(?:\([\d, ]+\))?)?\)*$`)
)

// Constant takes a literal, in brackets and cast as the engines write defaults.
func (r Reader) Constant(expression string) (catalog.Constant, bool) {
	number, text := numValue.FindStringSubmatch(expression), textValue.FindStringSubmatch(expression)
	switch {
	case nullValue.MatchString(expression):
		return catalog.Constant{Null: true}, true
	case text != nil:
		return catalog.Constant{Text: strings.ReplaceAll(text[1], "''", "'"), Number: number != nil, Quoted: true}, true
	case number != nil:
		return catalog.Constant{Text: number[1], Number: true}, true
	}
	return catalog.Constant{}, false
}

const (
	someColumn = `\(*["\x60\[]?([^"\x60\[\]()\s=<>!:]+)["\x60\]]?\)*(?:::[a-z ]+)?\)*`
	oneNumber  = `\(*'?(-?\d+(?:\.\d+)?)'?\)*(?:::[a-z ]+(?:\([\d, ]+\))?)?\)*`
)

// The checks that are understood, as the engines write them; each begins with
// the column.
var (
	listedCheck   = pattern.New(`(?is)^\(*` + someColumn + `\s*(?:in\s*|=\s*any\s*\(+array)\s*[(\[]+(.*?)[)\]]+(?:::[a-z ]+\[\])?\)*$`)
	betweenCheck  = pattern.New(`(?i)^\(*` + someColumn + `\s+between\s+` + oneNumber + `\s+and\s+` + oneNumber + `$`)
	comparedCheck = pattern.New(`(?i)^\(*` + someColumn + `\s*(>=|<=|<>|!=|>|<|=)\s*` + oneNumber + `$`)
	unlikeCheck   = pattern.New(`(?is)^\(*` + someColumn + `\s*(<>|!=|=)\s*\(*'((?:[^']|'')*)'\)*(?:::[a-z ]+)?\)*$`)
	boundedCheck  = pattern.New(`(?i)^\(*` + someColumn + `\s*(>=|<=|>|<)\s*` + oneNumber + `\s*\)*\s+and\s+\(*` + someColumn + `\s*(>=|<=|>|<)\s*` + oneNumber + `$`)
)

// Refuses understands lists of values, and comparisons with numbers.
func (r Reader) Refuses(check, column string, value catalog.Constant) bool {
	if value.Null {
		return false // unknown is no refusal
	}
	e := strings.TrimSpace(check)
	is := func(name string) bool { return strings.EqualFold(name, column) }
	if m := listedCheck.FindStringSubmatch(e); m != nil && is(m[1]) {
		listed := listOf(m[2])
		return listed != nil && !slices.Contains(listed, value.Text)
	}
	if m := unlikeCheck.FindStringSubmatch(e); m != nil && is(m[1]) && value.Quoted && !value.Number {
		return (strings.ReplaceAll(m[3], "''", "'") == value.Text) != (m[2] == "=")
	}
	x, err := strconv.ParseFloat(value.Text, 64)
	if err != nil || !value.Number {
		return false
	}
	if m := betweenCheck.FindStringSubmatch(e); m != nil && is(m[1]) {
		return !compares(x, ">=", m[2]) || !compares(x, "<=", m[3])
	}
	if m := comparedCheck.FindStringSubmatch(e); m != nil && is(m[1]) {
		return !compares(x, m[2], m[3])
	}
	if m := boundedCheck.FindStringSubmatch(e); m != nil && is(m[1]) && is(m[4]) {
		return !compares(x, m[2], m[3]) || !compares(x, m[5], m[6])
	}
	return false
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

var listItem = pattern.New(`(?s)^\s*(?:'((?:[^']|'')*)'|(-?\d+(?:\.\d+)?))(?:::[a-z ]+)?\s*(?:,|$)`)

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
