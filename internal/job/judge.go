package job

import (
	"context"
	"slices"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
	"nexdal/internal/engine/all"
	"nexdal/internal/evidence"
	"nexdal/internal/rule"
	"nexdal/internal/rule/allrules"
	"nexdal/internal/settings"
)

// A Subject is a source as it was read, and what is known of it.
type Subject struct {
	Source   string // as the call named it
	Catalog  *catalog.Catalog
	Evidence *evidence.Evidence // nil: none was given
	Checker  rule.Checker
	Result   rule.Result
	Files    Files
}

// Files are those that a judgement rests on, by their paths; "" where there was none.
type Files struct{ Settings, Decisions, Evidence, Baseline string }

// Judged reads a source of any kind and the evidence, if a file is named, and judges it.
func (j *Job) Judged(ctx context.Context, source, data string) (*Subject, error) {
	c, err := j.Catalog(ctx, source)
	if err != nil {
		return nil, err
	}
	e, path, err := j.evidence(data, source, c)
	if err != nil {
		return nil, err
	}
	s := &Subject{Source: source, Catalog: c, Evidence: e, Files: Files{Evidence: path}}
	s.Files.Settings = j.SettingsIn()
	if d, err := j.Decisions(false); err == nil && len(d.List) > 0 {
		s.Files.Decisions = j.DecisionsIn()
	}
	if s.Checker, err = j.Checker(c, e); err != nil {
		return nil, err
	}
	s.Result, err = j.judge(ctx, c, s.Checker)
	return s, err
}

// rulesOf are the rules of the program and of the house.
func rulesOf(s *settings.Settings) []*rule.Rule { return append(allrules.Rules(), s.House...) }

// Rules are those that a decision may be about.
func (j *Job) Rules() ([]*rule.Rule, error) {
	s, err := j.Settings()
	if err != nil {
		return nil, err
	}
	return rulesOf(s), nil
}

// Checker is what the catalog is judged by.
func (j *Job) Checker(c *catalog.Catalog, e *evidence.Evidence) (rule.Checker, error) {
	can, err := Abilities(c)
	if err != nil {
		return rule.Checker{}, err
	}
	s, err := j.Settings()
	if err != nil {
		return rule.Checker{}, err
	}
	return rule.Checker{Abilities: can, Rules: rulesOf(s), Evidence: e, Settings: s.Of(), LongestName: s.LongestName()}, nil
}

// Judge runs the rules, leaves the fixes that can be written, and notes what was decided:
// the fix chosen comes first.
func (j *Job) Judge(ctx context.Context, c *catalog.Catalog, e *evidence.Evidence) (rule.Result, error) {
	checker, err := j.Checker(c, e)
	if err != nil {
		return rule.Result{}, err
	}
	return j.judge(ctx, c, checker)
}

func (j *Job) judge(ctx context.Context, c *catalog.Catalog, checker rule.Checker) (rule.Result, error) {
	result := checker.Run(ctx, c)
	if ctx.Err() != nil {
		return rule.Result{}, context.Cause(ctx)
	}
	eng := all.ByName(c.Engine.Name)
	refuse := func(change.Change) string { return "scripts are not written for " + eng.Title() }
	if w, ok := eng.(engine.Writer); ok {
		refuse = engine.Offers(w, c)
	}
	result.Findings = rule.Offer(result.Findings, refuse)
	d, err := j.Decisions(false)
	if err != nil {
		return rule.Result{}, err
	}
	for i := range result.Findings {
		f := &result.Findings[i]
		x := d.Of(f.ID(), Today())
		if x == nil {
			continue
		}
		f.Decision = &rule.Decision{Verdict: string(x.Verdict), Fix: x.Fix, By: x.By, At: x.At.String(), Because: x.Because}
		if !x.Until.IsZero() {
			f.Decision.Until = x.Until.String()
		}
		if n := slices.IndexFunc(f.Fixes, func(fix rule.Fix) bool { return fix.ID == x.Fix }); n > 0 {
			chosen := f.Fixes[n]
			f.Fixes = slices.Insert(slices.Delete(f.Fixes, n, n+1), 0, chosen)
		}
	}
	return result, nil
}
