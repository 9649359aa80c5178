package job

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/all"
	"nexdal/internal/evidence"
	"nexdal/internal/rule"
	"nexdal/internal/script"
)

// tries is how often a script is written again without what the data refuses.
const tries = 3

// Fix writes the script that answers the findings, puts its questions to the data where
// the source is live, and writes it without the fixes that the data would refuse: one of
// them would keep all others from being carried out. They are left out, with what was
// found. With proposals, fixes are taken too that nobody chose and nothing proves.
func (j *Job) Fix(ctx context.Context, s *Subject, findings []rule.Finding, proposals bool) (*script.Pair, error) {
	w, err := WriterOf(s.Catalog)
	if err != nil {
		return nil, err
	}
	checker := s.Checker
	checker.Proposals, checker.Before = proposals, &s.Result
	var pair *script.Pair
	for range tries {
		if pair, err = script.Fix(ctx, w, s.Catalog, checker, findings); err != nil {
			return nil, fmt.Errorf("the script cannot be written: %w", err)
		}
		refused, err := j.refused(ctx, s.Source, pair.Forth)
		if err != nil {
			return nil, err
		}
		if len(refused) == 0 {
			break
		}
		findings = slices.Clone(findings)
		for i := range findings {
			if why := refused[findings[i].ID()]; why != "" {
				findings[i].Fixes, findings[i].Advice = nil, "not scripted: the data stands in the way: "+why
			}
		}
	}
	return pair, nil
}

// refused puts a script's questions to the data of a live source. It says, by finding,
// what stands in the way; a question that cannot be answered stays for the run.
func (j *Job) refused(ctx context.Context, source string, fix *script.Script) (map[string]string, error) {
	if len(fix.Preflight) == 0 {
		return nil, nil
	}
	asker, done, err := j.Asker(ctx, source)
	if err != nil || asker == nil {
		return nil, err
	}
	defer done()
	refused := map[string]string{}
	for _, q := range fix.Preflight {
		o, err := asker.Rows(ctx, q.SQL)
		if ctx.Err() != nil {
			return nil, ctx.Err()
		}
		if err != nil || o.Rows == 0 {
			continue
		}
		for _, id := range q.Answers {
			refused[id] = fmt.Sprintf("%s, such as %s", q.Title, strings.Join(o.Samples[:min(3, len(o.Samples))], "; "))
		}
	}
	return refused, nil
}

// Asker asks the data of a live source, until done is called; nil: it is none.
func (j *Job) Asker(ctx context.Context, source string) (asker evidence.Asker, done func(), err error) {
	if j.IsFile(source) {
		return nil, func() {}, nil
	}
	s, err := j.Open(ctx, source, false)
	if err != nil {
		return nil, func() {}, err
	}
	done = func() { s.Close() }
	p, ok := s.(engine.Prober)
	if !ok {
		done()
		return nil, func() {}, nil
	}
	if asker, err = p.Asker(ctx); err != nil {
		done()
	}
	return asker, done, err
}

// Proposals are the questions that the fixes of the rules put before they run. A catalog
// that cannot be judged or fixed proposes nothing.
func (j *Job) Proposals(ctx context.Context, c *catalog.Catalog) []evidence.Proposal {
	w, ok := all.ByName(c.Engine.Name).(engine.Writer)
	if !ok {
		return nil
	}
	checker, err := j.Checker(c, nil)
	if err != nil {
		return nil
	}
	checker.Proposals = true
	pair, err := script.Fix(ctx, w, c, checker, checker.Run(ctx, c).Findings)
	if err != nil {
		return nil
	}
	var list []evidence.Proposal
	fix := pair.Forth
	for _, q := range fix.Preflight {
		if q.Step < 1 || q.Step > len(fix.Steps) || len(fix.Steps[q.Step-1].Tables) == 0 {
			continue
		}
		st := fix.Steps[q.Step-1]
		list = append(list, evidence.Proposal{Question: q.SQL, Promise: evidence.Promise{Origin: "proposed", Kind: "fix",
			Schema: st.Tables[0].Schema, Table: st.Tables[0].Table, Findings: q.Answers, Says: q.Title}})
	}
	return list
}
