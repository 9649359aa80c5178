package ask

import (
	"fmt"
	"strconv"
	"strings"

	"nexdal/internal/evidence"
)

// reader takes the values of a row one after the other.
type reader struct{ values evidence.Row }

// next is nil for a NULL, and behind the last.
func (r *reader) next() *string {
	if len(r.values) == 0 {
		return nil
	}
	s := r.values[0]
	r.values = r.values[1:]
	return s
}

// number is nil for a NULL, and for what is no whole number.
func (r *reader) number() *int64 {
	s := r.next()
	if s == nil {
		return nil
	}
	n, err := strconv.ParseInt(*s, 10, 64)
	if err != nil {
		return nil
	}
	return &n
}

// longest is how many letters of a value are kept.
const longest = 80

func (r *reader) text() *string {
	s := r.next()
	if s == nil {
		return nil
	}
	kept := short(*s)
	return &kept
}

// short cuts a value, and puts a mark for what is no text.
func short(s string) string {
	s = strings.ToValidUTF8(s, "\uFFFD")
	if runes := []rune(s); len(runes) > longest {
		s = string(runes[:longest]) + "…"
	}
	return s
}

// sample is a row's values as they are shown.
// shownRow shows some of the values of a row, each with its column; one alone needs none. A last column
// called times is how often the row is there.
func shownRow(names []string, values evidence.Row) string {
	again := ""
	if n := len(names) - 1; n > 0 && names[n] == "times" && values[n] != nil {
		again = fmt.Sprintf(" (%s times)", *values[n])
		names, values = names[:n], values[:n]
	}
	if len(names) == 1 {
		return sample(values) + again
	}
	parts := make([]string, len(names))
	for i, v := range values.Texts() {
		parts[i] = names[i] + " " + short(v)
	}
	return strings.Join(parts, ", ") + again
}

func sample(values evidence.Row) string {
	all := values.Texts()
	for i, v := range all {
		all[i] = short(v)
	}
	return strings.Join(all, ", ")
}
