package index

import (
	"fmt"
	"math"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var MostlyNull = &rule.Rule{
	ID:          "index/mostly-null",
	Title:       "index that holds mostly nulls",
	Severity:    rule.Notice,
	Consequence: rule.Slow,
	Fixes:       []string{"partial"},
	Needs:       []rule.Need{rule.Statistics},
	Uses:        []rule.Need{rule.Evidence},
	Applies:     func(can catalog.Abilities) bool { return !can.AllNullsLeftOut },
	GivesWay:    []string{"index/repeated", "index/prefix", "index/behind-key", "index/unused"},
	Options: []rule.Option{
		{Name: "nulls", Default: 0.9, Doc: "share of nulls from which it is reported"},
		{Name: "rows", Default: int64(10_000), Doc: "rows from which it matters"},
	},
	Doc: `More than nine of ten rows have a null in the column that the index is on. It is ten times as large as it need be, and every insert maintains it for rows that nobody looks for by it.

The engine's own estimate tells, or the evidence (nexdal probe, then --evidence).

Where the engine can, the fix builds an index that leaves the nulls out and then drops the old one; foreign keys find their rows by it as before. Elsewhere there is none.

Leave it alone where rows without a value are searched for.`,
	Check: func(p *rule.Pass) error {
		unknown := 0
		for _, t := range p.Owned {
			rows := t.Stats.Rows
			if rows != nil && *rows < p.Count(t, "rows") {
				continue
			}
			for _, x := range t.Indexes {
				c := single(t, x)
				if c == nil || !c.Nullable || x.Unique || !free(x) || x.Predicate != "" {
					continue
				}
				nulls, certainty, known := nullShare(p, t, c)
				switch {
				case !known || rows == nil:
					unknown++
				case nulls > p.Share(t, "nulls"):
					p.Report(mostlyNull(p, t, x, c, nulls, certainty))
				}
			}
		}
		p.NotJudged("how many nulls columns hold", p.Abilities.AnalyseAdvice, unknown)
		return nil
	},
}

func mostlyNull(p *rule.Pass, t *catalog.Table, x *catalog.Index, c *catalog.Column, nulls float64, certainty rule.Certainty) rule.Finding {
	found := rule.Finding{Table: t.Ref(), Object: x.Name, Columns: []string{c.Name}, Part: "nulls", Certainty: certainty,
		Message: fmt.Sprintf("\"%s\" is null in %.0f %% of %s: index \"%s\" stores them all", c.Name, math.Floor(100*nulls), text.Rows(t.Stats.Rows, t.Stats.Exact), x.Name)}
	if !p.Abilities.PartialIndexes || p.Abilities.Condition == nil || t.Kind == catalog.Partitioned {
		found.Advice = "an index that leaves the nulls out, where the engine had one"
		return found
	}
	part := &catalog.Index{Name: p.Names.Free(t.Schema, "idx", t.Name, c.Name, "filled"), Origin: catalog.ByPerson, Method: x.Method, Parts: x.Parts, Include: x.Include,
		Predicate: p.Abilities.Condition(t, catalog.Condition{Filled: c.Name})}
	found.Fixes = []rule.Fix{{ID: "partial", Title: "replace it by an index without the nulls, " + text.Name(part.Name), Changes: []change.Change{
		change.CreateIndex{Table: t.Ref(), Index: part}, change.DropIndex{Table: t.Ref(), Name: x.Name}}}}
	return found
}

func nullShare(p *rule.Pass, t *catalog.Table, c *catalog.Column) (float64, rule.Certainty, bool) {
	if p.Data != nil {
		if f := p.Data.Column(t, c.Name); f != nil && f.Rows > 0 {
			return float64(f.Nulls) / float64(f.Rows), rule.CertaintyOf(!f.Sampled), true
		}
	}
	if n := c.Stats.Nulls; n != nil {
		return *n, rule.ByStatistics, true
	}
	return 0, "", false
}
