package sqllex

import (
	"strings"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/pattern"
)

var oneBound = pattern.New(`(?s)^\s*('(?:[^']|'')*'|[^,']+)\s*(?:,|$)`)

// Bounds reads the values between the parentheses of a partition's bounds; at tells what
// moment a value stands for, if any.
func Bounds(text string, at func(value string, quoted bool) *time.Time) []catalog.Bound {
	var all []catalog.Bound
	for text != "" {
		m := oneBound.FindStringSubmatch(text)
		if m == nil {
			return all
		}
		text = text[len(m[0]):]
		value := strings.TrimSpace(m[1])
		b := catalog.Bound{Text: value, Least: strings.EqualFold(value, "MINVALUE"), Greatest: strings.EqualFold(value, "MAXVALUE")}
		quoted := strings.HasPrefix(value, "'")
		if quoted {
			b.Text = strings.ReplaceAll(value[1:len(value)-1], "''", "'")
		}
		b.At = at(b.Text, quoted)
		all = append(all, b)
	}
	return all
}
