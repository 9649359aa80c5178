package job

import (
	"context"
	"fmt"
	"strings"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/evidence"
	"nexdal/internal/text"
	"nexdal/internal/upkeep"
)

// A Share is the rows that a partition would get.
type Share struct {
	From  time.Time // where its period begins
	Value string    // or the value of a list that it takes
	Rows  int64
}

// restAsker is an asker of what the default partition holds, which a survey does not tell.
func (j *Job) restAsker(ctx context.Context, source string) (evidence.Asker, func(), error) {
	asker, done, err := j.Asker(ctx, source)
	if err == nil && asker == nil {
		err = Wrong("--empty-rest asks the data; give a database as the source")
	}
	return asker, done, err
}

// Gathered are the periods of which the default partition holds rows.
func (j *Job) Gathered(ctx context.Context, source string, t upkeep.Table, whole *catalog.Table) ([]Share, error) {
	rest := t.Default()
	if rest == nil && t.HasRest() {
		rest = whole // a part of it, which no range covers
	}
	if rest == nil || t.Refused != "" {
		return nil, nil
	}
	asker, done, err := j.restAsker(ctx, source)
	if err != nil {
		return nil, err
	}
	defer done()
	first, last, err := span(ctx, asker, rest, whole.PartitionBy.Columns[0])
	if err != nil || first.IsZero() {
		return nil, err
	}
	periods := t.Periods(first, last)
	if len(periods) > mostPeriods {
		return nil, Wrong("%s holds rows as far as %s, and no partition takes %s up to there: move those that are far away first", rest.Ref(), last.Format(time.DateOnly), text.Plural(int64(len(periods)), "period"))
	}
	all, err := shares(ctx, asker, rest, periods, t.Condition)
	var found []Share
	for _, s := range all {
		if s.Rows > 0 {
			found = append(found, s)
		}
	}
	return found, err
}

// shares counts the rows of each period.
func shares(ctx context.Context, asker evidence.Asker, t *catalog.Table, periods []time.Time, condition func(time.Time) string) ([]Share, error) {
	all, conditions := make([]Share, len(periods)), make([]string, len(periods))
	for i, at := range periods {
		all[i].From, conditions[i] = at, condition(at)
	}
	counts, err := asker.Counts(ctx, t, conditions)
	for i, n := range counts {
		all[i].Rows = n
	}
	return all, err
}

// mostValues is how many values of a list may become partitions of their own.
const mostValues = 1000

// OtherValues are those that no list names, and so the default partition holds. One
// without rows is written otherwise than it is shown, and cannot be named.
func (j *Job) OtherValues(ctx context.Context, source string, t upkeep.Table, whole *catalog.Table) ([]Share, error) {
	if !t.HasRest() {
		return nil, nil
	}
	asker, done, err := j.restAsker(ctx, source)
	if err != nil {
		return nil, err
	}
	defer done()
	from := whole
	if d := t.Default(); d != nil {
		from = d
	}
	lists, err := asker.Values(ctx, from, []*catalog.Column{t.Column()}, mostValues)
	if err != nil {
		return nil, err
	}
	if len(lists[0]) >= mostValues {
		return nil, Wrong("%s: %s holds %d values and more: too many for a partition each", whole.Ref(), t.Column().Name, mostValues)
	}
	values := t.Untaken(lists[0])
	if len(values) == 0 {
		return nil, nil
	}
	all, conditions := make([]Share, len(values)), make([]string, len(values))
	for i, v := range values {
		all[i].Value, conditions[i] = v, t.Holds(v)
	}
	counts, err := asker.Counts(ctx, from, conditions)
	for i, n := range counts {
		all[i].Rows = n
	}
	return all, err
}

// mostPeriods is up to how many periods the rows are counted in each.
const mostPeriods = 600

// RowsByPeriod counts the rows that each partition of a table would get, where the data can
// be asked; of too many periods only how many there are, and the first and the last
// moment, are told.
func (j *Job) RowsByPeriod(ctx context.Context, source string, t *catalog.Table, cut upkeep.Partitioning, can catalog.Abilities) (all []Share, periods int, first, last time.Time, err error) {
	asker, done, err := j.Asker(ctx, source)
	if err != nil || asker == nil {
		return nil, 0, first, last, err
	}
	defer done()
	if first, last, err = span(ctx, asker, t, cut.Column); err != nil || first.IsZero() {
		return nil, 0, first, last, err
	}
	list := cut.Periods(first, last)
	if len(list) <= mostPeriods {
		all, err = shares(ctx, asker, t, list, func(at time.Time) string { return cut.Condition(t, can, at) })
	}
	return all, len(list), first, last, err
}

// span is the time from the first to the last moment in a column; zero: it holds none.
func span(ctx context.Context, asker evidence.Asker, t *catalog.Table, column string) (first, last time.Time, err error) {
	facts, err := asker.Profile(ctx, evidence.Part{Table: t}, []*catalog.Column{t.Column(column)})
	if err != nil || len(facts) != 1 || facts[0].Least == nil || facts[0].Greatest == nil {
		return first, last, err
	}
	for _, x := range []struct {
		text string
		at   *time.Time
	}{{*facts[0].Least, &first}, {*facts[0].Greatest, &last}} {
		text := x.text[:min(len(x.text), len(time.DateTime))]
		if *x.at, err = time.Parse(time.DateTime, strings.Replace(text, "T", " ", 1)); err != nil {
			if *x.at, err = time.Parse(time.DateOnly, text[:min(len(text), len(time.DateOnly))]); err != nil {
				return first, last, fmt.Errorf("%s of %s holds %q, which is no moment of ours", column, t.Ref(), x.text)
			}
		}
	}
	return first, last, nil
}
