package text

import "strings"

// PanicPlace is the line of this program's code that the stack of a panic leads through
// first: "rule/fk/missing.go:61".
func PanicPlace(stack []byte) string {
	_, after, _ := strings.Cut(string(stack), "panic(")
	for line := range strings.Lines(after) {
		if _, place, ok := strings.Cut(line, "/internal/"); ok && !strings.Contains(line, "(") {
			place, _, _ = strings.Cut(strings.TrimSpace(place), " ")
			return place
		}
	}
	return "a place not known"
}
