package fk

import (
	"fmt"
	"strings"

	"nexdal/internal/change"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var EnforcementOff = &rule.Rule{
	ID:          "fk/enforcement-off",
	Title:       "foreign keys that a setting switches off",
	Severity:    rule.Error,
	Consequence: rule.Unprotected,
	Fixes:       []string{"setting"},
	Needs:       []rule.Need{rule.Settings},
	Doc: `Foreign keys are declared, but a setting keeps the engine from enforcing them. Rows without a parent get in, and nobody is told.

Where each connection switches enforcement on for itself, the database cannot tell whether its users do. Then this is a notice that every connection must ask for it, and an error as soon as rows without a parent are there.

The fix takes the setting back to its default where it is kept in the database. Where it stands in a configuration file, or is each connection's own, the finding quotes what to set. Setting it right does not check the rows that came meanwhile.`,
	Check: checkEnforcementOff,
}

func checkEnforcementOff(p *rule.Pass) error {
	declared, orphans, in := int64(0), int64(0), []string(nil)
	for _, t := range p.Catalog.Tables() {
		for _, f := range t.ForeignKeys {
			if !f.Inherited {
				declared++
			}
		}
		if n := t.Stats.Orphans; n != nil && *n > 0 {
			orphans += *n
			in = append(in, t.Name)
		}
	}
	if declared == 0 {
		return nil
	}
	keys := text.Plural(declared, "foreign key")
	if p.Abilities.ForeignKeysPerConnection {
		found := rule.Finding{Severity: rule.Notice, Advice: "send on every connection, first thing: " + p.Abilities.EnforcementAdvice,
			Message: fmt.Sprintf("each connection must ask for the %s to be enforced; the database cannot tell whether its users do", keys)}
		if orphans > 0 {
			found.Severity, found.Consequence, found.Certainty = rule.Error, rule.WrongNow, rule.ByStatistics
			found.Message = fmt.Sprintf("somebody writes without asking for the %s to be enforced: there is no parent for %s of %s",
				keys, text.Plural(orphans, "row"), text.List(in))
		}
		p.Report(found)
		return nil
	}
	if p.Abilities.EnforcementSetting == "" {
		return nil
	}
	s, known := p.Catalog.Setting(p.Abilities.EnforcementSetting)
	if !known {
		p.NotJudged("the setting "+p.Abilities.EnforcementSetting, "survey the database itself", 1)
		return nil
	}
	if !strings.EqualFold(s.Value, p.Abilities.EnforcementOff) {
		return nil
	}
	found := rule.Finding{Object: s.Name, Message: fmt.Sprintf("%s is %s (set by: %s), so that none of the %s is enforced", s.Name, s.Value, s.Source, keys)}
	if s.Source == "database" {
		found.Fixes = []rule.Fix{{ID: "setting", Title: "reset " + text.Name(s.Name) + " to its default",
			Changes: []change.Change{change.SetSetting{Name: s.Name, Scope: s.Source, From: s.Value, Default: p.Abilities.EnforcementDefault}}}}
	} else {
		found.Advice = fmt.Sprintf("take %s out of where it is set (%s): %s", s.Name, s.Source, p.Abilities.EnforcementAdvice)
	}
	p.Report(found)
	return nil
}
