package cli

import (
	"slices"
	"strings"

	"nexdal/internal/catalog"
)

// patterns is a flag that takes names or patterns, with commas between them, and may be given
// several times. A comma within double quotes belongs to the name, and so does one within
// brackets, as identifiers of findings have them.
type patterns []string

func (p *patterns) String() string { return strings.Join(*p, ",") }

// fit reports whether one of them is the name or fits it; none fit everything.
func (p patterns) fit(name string) bool {
	return len(p) == 0 || slices.ContainsFunc(p, func(x string) bool { return x == name || catalog.Fits(x, name) })
}

// Type names the value in help texts.
func (p *patterns) Type() string { return "patterns" }

func (p *patterns) Set(given string) error {
	quoted, depth, from := false, 0, 0
	add := func(s string) {
		s = strings.TrimSpace(s)
		if parts := quotedParts(s); len(parts) > 0 {
			s = strings.Join(parts, ".")
		}
		if s != "" {
			*p = append(*p, s)
		}
	}
	for i, r := range given {
		switch {
		case r == '"':
			quoted = !quoted
		case quoted:
		case r == '(':
			depth++
		case r == ')':
			depth = max(0, depth-1)
		case r == ',' && depth == 0:
			add(given[from:i])
			from = i + 1
		}
	}
	add(given[from:])
	return nil
}
