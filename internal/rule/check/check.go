// Package check holds the rules on conditions that rows must meet.
package check

import (
	"strings"
)

// plain is an expression without the brackets around the whole and with single
// blanks.
func plain(s string) string {
	s = strings.Join(strings.Fields(s), " ")
	for len(s) > 1 && s[0] == '(' && s[len(s)-1] == ')' && whole(s[1:len(s)-1]) {
		s = strings.TrimSpace(s[1 : len(s)-1])
	}
	return s
}

// whole reports whether the brackets inside close each other.
func whole(s string) bool {
	depth := 0
	for _, r := range s {
		switch r {
		case '(':
			depth++
		case ')':
			if depth--; depth < 0 {
				return false
			}
		}
	}
	return depth == 0
}

func name(s, without string) string {
	if s == "" {
		return without
	}
	return s
}
