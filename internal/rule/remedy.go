package rule

import (
	"context"
	"slices"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
)

// A FixPlan is a plan that answers findings, rehearsed on the model.
type FixPlan struct {
	Plan  change.Plan
	After *catalog.Catalog // the model with the plan applied
	// Open are the findings that the plan leaves to you; where a fix had
	// to be left out, Advice says why.
	Open []Finding
	// Added are findings that the plan would have brought about; it answers
	// them too.
	Added []Finding
}

// rounds is how often a plan is extended to answer what it brings about
// itself, such as an index that a new key makes needless.
const rounds = 3

// PlanFixes plans the proposed fix of every finding, applies the plan to the model
// and judges the model again: what is new there is answered too. A finding is
// answered by all of its changes or by none. refuse says why a change cannot
// be written for the engine, or "".
func (j Checker) PlanFixes(ctx context.Context, c *catalog.Catalog, findings []Finding, refuse func(change.Change) string) (*FixPlan, error) {
	r := &FixPlan{}
	known := map[string]bool{}
	if j.Before == nil {
		result := j.Run(ctx, c)
		j.Before = &result
	}
	for _, f := range j.Before.Findings {
		known[f.ID()] = true
	}
	h := fixPlanning{can: j.Abilities, proposals: j.Proposals, reasons: map[string]string{}}
	findings = Offer(findings, refuse)
	h.take(findings)
	for round := 0; ; round++ {
		plan := h.order(c)
		after, err := plan.Apply(c, j.Abilities)
		if err != nil {
			return nil, err
		}
		r.Plan, r.After = plan, after
		if ctx.Err() != nil {
			return nil, context.Cause(ctx)
		}
		if len(plan) == 0 {
			break
		}
		var more []Finding
		spoilt := false
		for _, f := range Offer(j.Run(ctx, after).Findings, refuse) {
			switch {
			case known[f.ID()] || round >= rounds:
			case len(f.Fixes) > 0 && (f.chosen() || j.Proposals):
				known[f.ID()] = true
				more = append(more, f)
			default:
				spoilt = h.spoil(f) || spoilt
			}
		}
		if len(more) == 0 && !spoilt {
			break
		}
		more = slices.DeleteFunc(more, h.withdraw)
		r.Added = append(r.Added, more...)
		h.take(more)
	}
	for _, f := range findings {
		if reason := h.reasons[f.ID()]; reason != "" {
			f.Advice = "not scripted: " + reason
		} else if len(f.Fixes) > 0 && (f.chosen() || j.Proposals) {
			continue
		} else if len(f.Fixes) > 0 {
			f.Advice = "once chosen: " + f.Fixes[0].Title
		}
		r.Open = append(r.Open, f)
	}
	return r, nil
}

// Offer takes out the fixes that cannot be written for the engine. Where none
// is left, the finding's advice says why.
func Offer(findings []Finding, refuse func(change.Change) string) []Finding {
	offered := slices.Clone(findings)
	for i, f := range offered {
		why := ""
		offered[i].Fixes = slices.DeleteFunc(slices.Clone(f.Fixes), func(x Fix) bool {
			for _, ch := range x.Changes {
				if no := refuse(ch); no != "" {
					why = no
					return true
				}
			}
			return false
		})
		if len(f.Fixes) > 0 && len(offered[i].Fixes) == 0 {
			offered[i].Advice = "not scripted: " + why
		}
	}
	return offered
}

// chosen reports whether the first fix may be taken without asking anybody.
func (f Finding) chosen() bool {
	return !f.Fixes[0].Ask || f.Decision != nil && (f.Decision.Verdict == "choose" || f.Decision.Verdict == "accept")
}

// fixPlanning gathers the changes that answer findings.
type fixPlanning struct {
	can       catalog.Abilities
	proposals bool
	items     []change.Item
	reasons   map[string]string // why a finding cannot be answered
}

// take adds the proposed changes of findings.
func (h *fixPlanning) take(findings []Finding) {
	for _, f := range findings {
		if len(f.Fixes) == 0 || !f.chosen() && !h.proposals {
			continue
		}
		for _, ch := range f.Fixes[0].Changes {
			h.add(change.Item{Change: ch, Answers: []string{f.ID()}})
		}
	}
}

// add adds one change. Of two keys on the same columns one is enough: a primary key keeps
// them unique as well.
func (h *fixPlanning) add(it change.Item) {
	k, ok := it.Change.(change.AddKey)
	i := slices.IndexFunc(h.items, func(o change.Item) bool {
		other, is := o.Change.(change.AddKey)
		return ok && is && other.Table == k.Table && catalog.SameColumns(other.Key.Columns, k.Key.Columns)
	})
	if i < 0 {
		h.items = append(h.items, it)
		return
	}
	if k.Primary {
		h.items[i].Change = k
	}
	h.items[i].Answers = change.Union(h.items[i].Answers, it.Answers)
}

// withdraw takes out what was gathered and would be dropped again to answer the finding,
// which is then answered; false: it drops nothing of the sort. What one fix makes and
// another would drop is not made at all.
func (h *fixPlanning) withdraw(f Finding) bool {
	if len(f.Fixes) == 0 {
		return false
	}
	return h.takeOut("with the other changes it would be needless: "+f.Message, func(it change.Item) bool {
		return slices.ContainsFunc(f.Fixes[0].Changes, func(ch change.Change) bool { return change.Drops(ch, it.Change) })
	})
}

// spoil takes out what makes the very object that the new finding is about, for which there is
// no fix: a script brings about no fault that it leaves. A notice is none.
func (h *fixPlanning) spoil(f Finding) bool {
	if f.Severity == Notice {
		return false
	}
	return h.takeOut("it would bring about "+f.Rule+": "+f.Message, func(it change.Item) bool {
		return it.Change.On() == f.Table && change.Made(it.Change) == f.Object && f.Object != ""
	})
}

// takeOut leaves out changes; findings that nothing answers any more are left open, with the
// reason.
func (h *fixPlanning) takeOut(reason string, made func(change.Item) bool) bool {
	var answers []string
	for _, it := range h.items {
		if made(it) {
			answers = change.Union(answers, it.Answers)
		}
	}
	if answers == nil {
		return false
	}
	h.items = slices.DeleteFunc(h.items, made)
	for _, id := range answers {
		if !slices.ContainsFunc(h.items, func(it change.Item) bool { return slices.Contains(it.Answers, id) }) {
			h.reasons[id] = reason
		}
	}
	return true
}

// order plans what was gathered. A finding one of whose changes does not fit
// is taken out with all its changes, and the rest is planned again.
func (h *fixPlanning) order(c *catalog.Catalog) change.Plan {
	for {
		plan, left := change.Order(c, h.can, h.items)
		if len(left) == 0 {
			return plan
		}
		for _, l := range left {
			for _, id := range l.Answers {
				h.reasons[id] = "its change does not fit the others: " + l.Reason
			}
		}
		h.items = slices.DeleteFunc(h.items, func(it change.Item) bool { return h.reasons[it.Answers[0]] != "" })
	}
}
