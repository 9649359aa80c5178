package sqllex

import (
	"regexp"
	"strings"
)

// Quoting writes names the way an engine wants them.
type Quoting struct {
	quote    string
	reserved map[string]bool
	always   bool
}

var bareName = regexp.MustCompile(`^[a-z_][a-z0-9_]*$`)

// NewQuoting makes a quoting that leaves plain lower-case names bare unless
// they are among the reserved words, which are given in one string.
func NewQuoting(quote, reserved string) Quoting {
	q := Quoting{quote: quote, reserved: map[string]bool{}}
	for word := range strings.FieldsSeq(reserved) {
		q.reserved[word] = true
	}
	return q
}

// AlwaysQuoting makes a quoting that leaves no name bare.
func AlwaysQuoting(quote string) Quoting { return Quoting{quote: quote, always: true} }

// Ident writes a name.
func (q Quoting) Ident(name string) string {
	if !q.always && bareName.MatchString(name) && !q.reserved[name] {
		return name
	}
	return q.quote + strings.ReplaceAll(name, q.quote, q.quote+q.quote) + q.quote
}

// Idents writes a list of names.
func (q Quoting) Idents(names []string) string {
	quoted := make([]string, len(names))
	for i, n := range names {
		quoted[i] = q.Ident(n)
	}
	return strings.Join(quoted, ", ")
}

// Reserved reports whether the word, in lower case, needs quotes as a name.
func (q Quoting) Reserved(word string) bool { return q.reserved[word] }
