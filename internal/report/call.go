package report

import (
	"strings"

	"nexdal/internal/rule"
	"nexdal/internal/text"
)

// A Call is what people typed to be told findings: what they may type next is told with the same
// names, ready to be copied.
type Call struct {
	Source   string   // as it was named, without secrets; "": nothing is told
	Evidence string   // the file, where it has to be named again
	Flags    []string // others that have to be given again
	Ending   string   // of scripts' names; "": ".sql"
}

// Next are the commands that lead on from a finding: the one that writes the first of its fixes,
// or what goes before any fix.
func (c Call) Next(f rule.Finding) []string {
	var all []string
	if c.Source == "" {
		return nil
	}
	if len(f.Fixes) > 0 {
		words := rule.Command{"script", "fix", rule.TheSource, rule.TheEvidence, "--finding", fitting(f.ID())}
		if len(f.Fixes) > 1 || once(f, 0) != "" {
			words = append(words, "--choose", f.Fixes[0].ID)
		}
		all = append(all, c.Line(append(words, "-o", "fix.sql")...))
	}
	if len(f.Command) > 0 {
		all = append(all, c.Line(f.Command...))
	}
	return all
}

// Line is a command as a shell takes it (POSIX quoting).
func (c Call) Line(command ...string) string {
	words := []string{"nexdal"}
	for _, w := range command {
		switch w {
		case rule.TheSource:
			words = append(words, text.Shell(c.Source))
		case rule.TheEvidence:
			if c.Evidence != "" {
				words = append(words, "--evidence", text.Shell(c.Evidence))
			}
		default:
			if stem, ok := strings.CutSuffix(w, ".sql"); ok && c.Ending != "" {
				w = stem + c.Ending
			}
			words = append(words, text.Shell(w))
		}
	}
	for _, w := range c.Flags {
		words = append(words, text.Shell(w))
	}
	return strings.Join(words, " ")
}

// named is a command line with the source in the place of SOURCE.
func (c Call) named(line string) string {
	if c.Source == "" {
		return line
	}
	return strings.Replace(line, " SOURCE ", " "+text.Shell(c.Source)+" ", 1)
}

// fitting is a pattern that fits the identifier and can stand in a line: names may hold what cannot.
func fitting(id string) string {
	return strings.Map(func(r rune) rune {
		if text.Hostile(r) {
			return '?'
		}
		return r
	}, id)
}
