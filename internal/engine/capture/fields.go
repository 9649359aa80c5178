package capture

import (
	"strconv"
	"strings"

	"nexdal/internal/evidence"
)

// Fields takes the values of a row one after the other.
type Fields struct {
	Values evidence.Row
	at     int
}

// Next is nil for a null.
func (f *Fields) Next() *string {
	v := f.Values[f.at]
	f.at++
	return v
}

// Text is "" for null.
func (f *Fields) Text() string {
	if v := f.Next(); v != nil {
		return *v
	}
	return ""
}

// Is reports whether the value is the text.
func (f *Fields) Is(text string) bool { return f.Text() == text }

// Number is 0 for null, and for what is no whole number.
func (f *Fields) Number() int {
	n, _ := strconv.Atoi(f.Text())
	return n
}

// Big is nil for null, and for what is no whole number of 64 bits.
func (f *Fields) Big() *int64 {
	n, err := strconv.ParseInt(strings.TrimSuffix(f.Text(), ".0"), 10, 64)
	if err != nil {
		return nil
	}
	return &n
}
