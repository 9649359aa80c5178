// Package pattern has regular expressions that are compiled when they are first used: the program
// has some ninety, and a call needs few of them.
package pattern

import (
	"regexp"
	"sync"
)

// A Pattern is a regular expression that is compiled once, at its first use. Its methods are those
// of [regexp.Regexp]; it may be used by several goroutines.
type Pattern struct{ compiled func() *regexp.Regexp }

// New notes the expression. One that does not compile panics at its first use.
func New(expression string) *Pattern {
	return &Pattern{sync.OnceValue(func() *regexp.Regexp { return regexp.MustCompile(expression) })}
}

func (p *Pattern) MatchString(s string) bool { return p.compiled().MatchString(s) }

func (p *Pattern) FindString(s string) string { return p.compiled().FindString(s) }

func (p *Pattern) FindAllString(s string, n int) []string { return p.compiled().FindAllString(s, n) }

func (p *Pattern) FindStringSubmatchIndex(s string) []int {
	return p.compiled().FindStringSubmatchIndex(s)
}

func (p *Pattern) FindStringSubmatch(s string) []string { return p.compiled().FindStringSubmatch(s) }

func (p *Pattern) FindAllStringSubmatch(s string, n int) [][]string {
	return p.compiled().FindAllStringSubmatch(s, n)
}

func (p *Pattern) ReplaceAllString(s, by string) string { return p.compiled().ReplaceAllString(s, by) }

func (p *Pattern) ReplaceAllStringFunc(s string, by func(string) string) string {
	return p.compiled().ReplaceAllStringFunc(s, by)
}
