package cli

import (
	"slices"
	"strings"

	"github.com/spf13/pflag"

	"nexdal/internal/catalog"
	"nexdal/internal/rule"
)

// selection is which findings a script answers, and how.
type selection struct {
	rules, tables, findings []string
	severity                string
	alternatives            []string
	decided                 bool
}

func (s *selection) flags(f *pflag.FlagSet) {
	f.StringSliceVar(&s.rules, "rule", nil, "answer findings of this rule alone, or of all that a pattern fits (may be given several times)")
	f.StringArrayVar(&s.tables, "table", nil, "answer findings at this table alone, or at all that a pattern fits (may be given several times)")
	f.StringArrayVar(&s.findings, "finding", nil, "answer this finding alone, by its identifier, or all that a pattern fits (may be given several times)")
	f.StringVar(&s.severity, "severity", "", "answer findings of this severity and worse: error, warning or notice")
	f.BoolVar(&s.decided, "decided", false, "answer those findings alone for which somebody has chosen a fix (nexdal decide)")
	f.StringArrayVar(&s.alternatives, "alternative", nil, "take this fix where a rule offers several: RULE=FIX (may be given several times)")
}

// pick leaves the findings that were asked for, each with the fix that was asked
// for in the first place.
func (s *selection) pick(list []rule.Finding, rules []*rule.Rule) ([]rule.Finding, error) {
	if s.severity != "" && !known(rule.Severity(s.severity)) {
		return nil, wrong("--severity takes error, warning or notice, not %q", s.severity)
	}
	for _, id := range s.rules {
		if _, err := rulesLike(slices.Clone(rules), id); err != nil {
			return nil, err
		}
	}
	any := func(patterns []string, fits func(string) bool) bool {
		return len(patterns) == 0 || slices.ContainsFunc(patterns, fits)
	}
	picked := slices.DeleteFunc(slices.Clone(list), func(f rule.Finding) bool {
		return s.decided && (f.Decision == nil || f.Decision.Verdict != "choose" && f.Decision.Verdict != "accept") || s.severity != "" && !f.Severity.AtLeast(rule.Severity(s.severity)) ||
			!any(s.rules, func(p string) bool { return f.Rule == p || catalog.Fits(p, f.Rule) }) ||
			!any(s.tables, func(p string) bool { return catalog.FitsTable(p, f.Table.Schema, f.Table.Table) }) ||
			!any(s.findings, func(p string) bool { return f.ID() == p || catalog.Fits(p, f.ID()) })
	})
	if len(picked) == 0 && len(list) > 0 && len(s.rules)+len(s.tables)+len(s.findings) > 0 {
		return nil, wrong("no finding is among those that were asked for; nexdal check shows what there is")
	}
	for i, a := range s.alternatives {
		id, fix, _ := strings.Cut(a, "=")
		for _, other := range s.alternatives[:i] {
			if same, wants, _ := strings.Cut(other, "="); same == id && wants != fix {
				return nil, wrong("--alternative asks for both %s and %s of %s; give one, or decide finding by finding (nexdal decide)", wants, fix, id)
			}
		}
		if err := choose(picked, a); err != nil {
			return nil, err
		}
	}
	return picked, nil
}

// choose puts the fix of "RULE=FIX" first, as if somebody had chosen it.
func choose(findings []rule.Finding, alternative string) error {
	id, fix, ok := strings.Cut(alternative, "=")
	if !ok {
		return wrong("--alternative takes RULE=FIX, not %q", alternative)
	}
	found := false
	var offered []string
	for i := range findings {
		f := &findings[i]
		if f.Rule != id && !catalog.Fits(id, f.Rule) {
			continue
		}
		for n, x := range f.Fixes {
			if !slices.Contains(offered, x.ID) {
				offered = append(offered, x.ID)
			}
			if x.ID == fix {
				x.Ask, found = false, true
				f.Fixes = slices.Insert(slices.Delete(slices.Clone(f.Fixes), n, n+1), 0, x)
				break
			}
		}
	}
	switch {
	case found:
		return nil
	case len(offered) == 0:
		return wrong("no finding of %s has a fix here", id)
	}
	return wrong("%s offers no fix %s here; it offers %s", id, fix, strings.Join(offered, ", "))
}
