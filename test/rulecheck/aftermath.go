package rulecheck

import (
	"regexp"
	"slices"
	"testing"

	"nexdal/internal/rule"
)

// aftermath is a line "-- the fix brings RULE: why" or "-- the fix ends RULE: why", with
// "on ENGINE" before the colon where it is so on one engine alone.
var aftermath = regexp.MustCompile(`(?m)^-- the fix (brings|ends) (\S+?)(?: on (\w+))?: .+$`)

// comeAndGo checks the findings after a fix, those of near misses, notices and of the whole
// database too: every one with a fix is gone, every other is still there, and none came, but
// for what the script says of it.
func comeAndGo(t *testing.T, script, engine string, before, after []rule.Finding) {
	t.Helper()
	said := map[string]bool{} // whether it came true
	for _, m := range aftermath.FindAllStringSubmatch(script, -1) {
		if m[3] == "" || m[3] == engine {
			said[m[1]+" "+m[2]] = false
		}
	}
	expected := func(what string) bool {
		_, is := said[what]
		if is {
			said[what] = true
		}
		return is
	}
	in := func(all []rule.Finding, id string) bool {
		return slices.ContainsFunc(all, func(f rule.Finding) bool { return f.ID() == id })
	}
	for _, f := range after {
		if !in(before, f.ID()) && !expected("brings "+f.Rule) {
			t.Errorf("the fix brings %s: %s", f.ID(), f.Message)
		}
	}
	for _, f := range before {
		switch still := in(after, f.ID()); {
		case still && len(f.Fixes) > 0:
			t.Errorf("the fix left %s: %s", f.ID(), f.Message)
		case !still && len(f.Fixes) == 0 && !expected("ends "+f.Rule):
			t.Errorf("the fix ends %s, which it does not speak of: %s", f.ID(), f.Message)
		}
	}
	for what, came := range said {
		if !came {
			t.Errorf("the script says that the fix %s, and it does not", what)
		}
	}
}
