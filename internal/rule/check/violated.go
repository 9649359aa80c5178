package check

import (
	"fmt"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/evidence"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var Violated = &rule.Rule{
	ID:          "check/violated",
	Title:       "check that rows violate",
	Severity:    rule.Error,
	Consequence: rule.WrongNow,
	Needs:       []rule.Need{rule.Evidence},
	Doc: `Rows break a check that was declared without looking at them. Any update of such a row fails, whatever it changes; the check cannot be validated, nor the table restored from a dump that holds it.

It needs the data (nexdal probe, then --evidence). The finding says how many rows and shows a few.

There is no fix: what is right for the rows is up to you.`,
	Check: func(p *rule.Pass) error {
		unasked := 0
		for _, t := range p.Owned {
			for _, c := range t.Columns {
				switch n := c.NotNull; {
				case n == nil || !n.NotValidated || c.Inherited:
				case p.Data == nil:
					unasked++
				case nulls(p, t, c) > 0:
					p.Report(rule.Finding{Table: t.Ref(), Object: name(n.Name, c.Name), Columns: []string{c.Name}, Part: c.Name, Certainty: rule.CertaintyOf(!p.Data.Column(t, c.Name).Sampled),
						Message: fmt.Sprintf("%s null in \"%s\", where it is forbidden", text.Clause(nulls(p, t, c), "row", "holds", "hold"), c.Name),
						Advice:  "give them a value, or allow null"})
				}
			}
			for _, k := range t.Checks {
				if !k.NotValidated && !p.Abilities.ChecksNewRows || k.Inherited {
					continue
				}
				if p.Data == nil {
					unasked++
					continue
				}
				for _, x := range broken(p, t, k) {
					rows := ""
					if len(x.Samples) > 0 {
						rows = ": " + strings.Join(x.Samples, "; ")
					}
					p.Report(rule.Finding{Table: t.Ref(), Object: k.Name, Certainty: rule.CertaintyOf(x.Verified),
						Message: fmt.Sprintf("%s \"%s\"%s", text.Clause(x.Offenders, "row", "breaks", "break"), k.Name, rows),
						Advice:  "put the rows right, or the check"})
				}
			}
		}
		p.Unasked(unasked)
		return nil
	},
}

// nulls is how many rows hold null in the column, as far as the data was asked.
func nulls(p *rule.Pass, t *catalog.Table, c *catalog.Column) int64 {
	if p.Data == nil {
		return 0
	}
	if f := p.Data.Column(t, c.Name); f != nil {
		return f.Nulls
	}
	return 0
}

// broken is what the data says of rows that break the check.
func broken(p *rule.Pass, t *catalog.Table, k *catalog.Check) (list []*evidence.Promise) {
	if p.Data == nil {
		return nil
	}
	for _, x := range p.Data.Promises(t) {
		if x.Origin == "declared" && x.Kind == "check" && x.Object == k.Name && x.Offenders > 0 {
			list = append(list, x)
		}
	}
	return list
}
