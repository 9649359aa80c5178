package ask

import (
	"strconv"
	"strings"
)

// reader takes the values of a row one after the other.
type reader struct{ values []string }

func (r *reader) next() string {
	if len(r.values) == 0 {
		return "null"
	}
	s := r.values[0]
	r.values = r.values[1:]
	return s
}

// number is nil for a null, and for what is no whole number.
func (r *reader) number() *int64 {
	n, err := strconv.ParseInt(r.next(), 10, 64)
	if err != nil {
		return nil
	}
	return &n
}

// longest is how many letters of a value are kept.
const longest = 80

func (r *reader) text() *string {
	s := r.next()
	if s == "null" {
		return nil
	}
	s = short(s)
	return &s
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
func sample(values []string) string {
	all := make([]string, len(values))
	for i, v := range values {
		all[i] = short(v)
	}
	return strings.Join(all, ", ")
}
