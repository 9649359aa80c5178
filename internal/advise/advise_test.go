package advise

import (
	"testing"
	"time"

	"nexdal/internal/catalog"
	"nexdal/test/sample"
)

// problemOf is the problem that Choose solves.
func problemOf(c *catalog.Catalog) *problem {
	p := &problem{c: c, o: Options{Copies: 0.5, Waits: 1}, at: map[catalog.Ref]int{}}
	for _, t := range c.Tables() {
		p.at[t.Ref()] = len(p.tables)
		p.tables, p.bytes = append(p.tables, t), append(p.bytes, bytesOf(t))
	}
	p.joins = p.joinsOf(nil)
	p.byTable = make([][]int, len(p.tables))
	for i, j := range p.joins {
		p.ends = append(p.ends, [2]int{p.at[j.From], p.at[j.To]})
		p.byTable[p.at[j.From]] = append(p.byTable[p.at[j.From]], i)
		p.byTable[p.at[j.To]] = append(p.byTable[p.at[j.To]], i)
	}
	for i := range p.tables {
		p.options = append(p.options, p.optionsOf(i, facts{}))
	}
	return p
}

// TestNearBest: where all assignments can be tried, the one that is chosen costs at most
// a twentieth more than the best.
func TestNearBest(t *testing.T) {
	for seed := range uint64(60) {
		p := problemOf(sample.Cluster(seed, 5, 7))
		found := p.total(p.solve())
		best := found
		chosen := make([]int, len(p.tables))
		var try func(i int)
		try = func(i int) {
			if i == len(chosen) {
				best = min(best, p.total(chosen))
				return
			}
			for n := range p.options[i] {
				chosen[i] = n
				try(i + 1)
			}
		}
		try(0)
		if found > 1.05*best {
			t.Errorf("seed %d: %.0f was found, and %.0f is best", seed, found, best)
		}
	}
}

// TestSame: the same input gives the same advice.
func TestSame(t *testing.T) {
	a, b := Choose(sample.Cluster(3, 40, 90), nil, Options{}), Choose(sample.Cluster(3, 40, 90), nil, Options{})
	for i := range a.Choices {
		if a.Choices[i].Spread != b.Choices[i].Spread || a.Choices[i].RunnerUp != b.Choices[i].RunnerUp {
			t.Errorf("%s: %s and %s", a.Choices[i].Table.Name, &a.Choices[i].Spread, &b.Choices[i].Spread)
		}
	}
	if a.After > a.Before {
		t.Errorf("what is advised costs %.0f, and what there is %.0f", a.After, a.Before)
	}
}

// TestQueries reads joins and filters, and how often a query is put.
func TestQueries(t *testing.T) {
	c := sample.Cluster(1, 3, 0)
	c.Schemas[0].Tables[0].Columns = append(c.Schemas[0].Tables[0].Columns, &catalog.Column{Name: "taken_at", Type: catalog.Type{Family: catalog.Timestamp}})
	joins, filters := Queries(c, `SELECT * FROM t0 a JOIN public.t1 AS b ON a.id = b.id WHERE a.taken_at >= '2026-01-01' -- times 200
		; SELECT 1 FROM t2, t1 WHERE t2.id = t1.id; SELECT nonsense`)
	if len(joins) != 2 || joins[0].Weight != 200 || joins[0].From.Table != "t0" || joins[1].To.Table != "t1" {
		t.Errorf("joins: %+v", joins)
	}
	if len(filters) != 1 || filters[0].Column != "taken_at" || filters[0].Weight != 200 {
		t.Errorf("filters: %+v", filters)
	}
}

// BenchmarkChoose: 2,000 tables and 5,000 references.
func BenchmarkChoose(b *testing.B) {
	c := sample.Cluster(9, 2000, 5000)
	for b.Loop() {
		began := time.Now()
		Choose(c, nil, Options{})
		b.ReportMetric(time.Since(began).Seconds(), "s")
	}
}
