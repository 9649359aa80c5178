// Package text writes numbers and lists as people do.
package text

import (
	"bytes"
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"
	"unicode"
	"unicode/utf8"
)

// List writes names as people do: "a", "a and b", "a, b and c".
func List(names []string) string {
	switch n := len(names); n {
	case 0:
		return ""
	case 1:
		return names[0]
	default:
		return strings.Join(names[:n-1], ", ") + " and " + names[n-1]
	}
}

// Some is the list of the names, or of the first so many and how many more.
func Some(names []string, most int) string {
	if len(names) > most+1 {
		return List(append(slices.Clone(names[:most]), fmt.Sprintf("%d more", len(names)-most)))
	}
	return List(names)
}

// Amount writes a whole number with separators: 2,100,000.
func Amount(n int64) string {
	s := strconv.FormatInt(n, 10)
	for i := len(s) - 3; i > 0 && s[i-1] != '-'; i -= 3 {
		s = s[:i] + "," + s[i:]
	}
	return s
}

// Clause is Plural with its verb: "1 row breaks", "2 rows break".
func Clause(n int64, noun, of1, ofMany string) string {
	if n == 1 {
		return Plural(n, noun) + " " + of1
	}
	return Plural(n, noun) + " " + ofMany
}

// Plural writes a count with its noun: "1 row", "3,000 rows".
func Plural(n int64, noun string) string {
	if n == 1 {
		return "1 " + noun
	}
	if strings.HasSuffix(noun, "x") || strings.HasSuffix(noun, "ch") {
		return Amount(n) + " " + noun + "es"
	}
	if rest, ok := strings.CutSuffix(noun, "y"); ok && !strings.ContainsAny(rest[len(rest)-1:], "aeou") {
		return Amount(n) + " " + rest + "ies"
	}
	return Amount(n) + " " + noun + "s"
}

// Rows says how many rows there are: "24,000 rows", "about 24,000 rows" where they were
// not counted, or "" for nil, where it is not known.
func Rows(n *int64, exact bool) string {
	switch {
	case n == nil:
		return ""
	case exact:
		return Plural(*n, "row")
	}
	return "about " + Plural(*n, "row")
}

// Bytes reads a number of bytes as Size writes it: 500, 10MB, 1.5 TB.
func Bytes(said string) (int64, error) {
	number := strings.TrimRight(strings.ToUpper(strings.TrimSpace(said)), "KMGTPB ")
	unit := strings.TrimSpace(strings.ToUpper(strings.TrimSpace(said))[len(number):])
	factor, ok := map[string]float64{"": 1, "B": 1, "KB": 1e3, "MB": 1e6, "GB": 1e9, "TB": 1e12, "PB": 1e15}[unit]
	v, err := strconv.ParseFloat(strings.TrimSpace(number), 64)
	if err != nil || !ok || v < 0 || v*factor >= math.MaxInt64 {
		return 0, fmt.Errorf("%q is no number of bytes", said)
	}
	return int64(v * factor), nil
}

// Size writes bytes for people: "812 kB", "2.1 GB" (powers of 1000).
func Size(bytes int64) string {
	if bytes < 1000 {
		return fmt.Sprintf("%d B", bytes)
	}
	v, unit := float64(bytes), ""
	for _, u := range []string{"kB", "MB", "GB", "TB", "PB"} {
		if v /= 1000; v < 999.5 {
			unit = u
			break
		}
		unit = u
	}
	if v < 9.95 {
		return fmt.Sprintf("%.1f %s", v, unit)
	}
	return fmt.Sprintf("%.0f %s", v, unit)
}

// Line makes any text fit for one line on a terminal or in a comment. Names
// may hold line feeds, escape sequences and marks that turn the direction of
// writing: none of them gets through.
func Line(text string) string {
	if utf8.ValidString(text) && !strings.ContainsFunc(text, Hostile) {
		return text
	}
	var b strings.Builder // bytes that are no UTF-8 come as U+FFFD
	for _, r := range text {
		switch {
		case r == '\n':
			b.WriteString(`\n`)
		case Hostile(r):
			b.WriteRune('\ufffd')
		default:
			b.WriteRune(r)
		}
	}
	return b.String()
}

// Hostile reports whether a rune would do something to a terminal or a line
// other than stand in it: the control characters, the separators of lines and
// paragraphs, and what turns the direction of writing.
func Hostile(r rune) bool {
	return unicode.IsControl(r) || r == '\u2028' || r == '\u2029' || unicode.Is(unicode.Bidi_Control, r)
}

// JSON escapes in written JSON what is hostile to a terminal or a line and that JSON
// itself lets stand: the delete character, the second set of control characters, marks of
// direction. It says the same to every reader.
func JSON(written []byte) []byte {
	if !bytes.ContainsFunc(written, inString) {
		return written
	}
	b := make([]byte, 0, len(written)+16)
	for _, r := range string(written) {
		if inString(r) {
			b = fmt.Appendf(b, `\u%04x`, r)
		} else {
			b = utf8.AppendRune(b, r)
		}
	}
	return b
}

// inString reports what is hostile and can stand only within a string of JSON: a line
// feed or a tab between its tokens is none of them.
func inString(r rune) bool { return r >= 0x7f && Hostile(r) }

// OneLine is the text with every run of white space as one space, and none at its ends.
func OneLine(s string) string { return strings.Join(strings.Fields(s), " ") }

// Name quotes a name in a sentence, so that one that is a word of the language is not read as one.
func Name(name string) string { return `"` + name + `"` }

// Names writes names as [List] does, each quoted.
func Names(names []string) string {
	quoted := make([]string, len(names))
	for i, n := range names {
		quoted[i] = Name(n)
	}
	return List(quoted)
}
