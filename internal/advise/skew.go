package advise

import (
	"math"
	"slices"

	"nexdal/internal/catalog"
	"nexdal/internal/evidence"
)

// Skew predicts how many times the mean the fullest slice holds if the table lies by the
// column: the most common value, and the rest of them alike, each on the slice that it
// hashes to; nulls are one value. Which values meet on a slice is chance, so the mean of
// several throws is taken. Known may be nil; what the cluster measures goes before all.
func Skew(t *catalog.Table, column string, slicesN int, known *evidence.Column) float64 {
	if t.Spread != nil && t.Spread.Style == "key" && t.Spread.Column == column && t.Skew() > 0 {
		return t.Skew() // measured
	}
	if t.Stats.Rows == nil || *t.Stats.Rows == 0 || slicesN <= 1 {
		return 1
	}
	rows := float64(*t.Stats.Rows)
	distinct, most, nulls := rows, 0.0, 0.0
	switch stats := t.Column(column).Stats; {
	case known != nil && known.Distinct != nil && known.Rows > 0:
		scale := rows / float64(known.Rows)
		distinct, nulls = float64(*known.Distinct), float64(known.Nulls)*scale
		if known.Most != nil {
			most = float64(*known.Most) * scale
		}
	case stats.Distinct != nil:
		distinct = *stats.Distinct
		if stats.Common != nil {
			most = *stats.Common * rows
		}
	}
	if distinct < 1 {
		return float64(slicesN)
	}
	others, each := distinct, (rows-nulls)/distinct
	if most <= 1.5*each {
		most = 0 // no more than the others
	} else {
		others = max(1, distinct-1)
		each = (rows - nulls - most) / others
	}
	total := each*others + most + nulls
	if others > simulated {
		// So many values lie nearly evenly: the fullest of s slices is about
		// 1 + sqrt(2 ln s * s / values) times the mean (balls into bins). A heavy value
		// lies on any of them.
		mean := each * others / float64(slicesN)
		fullest := mean * (1 + math.Sqrt(2*math.Log(float64(slicesN))*float64(slicesN)/others))
		return max(fullest, mean+max(most, nulls)) * float64(slicesN) / total
	}
	sum := 0.0
	throws := min(16, max(1, simulated*4/int(others)))
	fill := make([]float64, slicesN)
	for throw := range throws {
		clear(fill)
		put := func(value uint64, rows float64) {
			fill[hash(value<<8+uint64(throw))%uint64(slicesN)] += rows
		}
		put(0, most)
		put(1, nulls)
		for v := range uint64(others) {
			put(v+2, each)
		}
		sum += slices.Max(fill)
	}
	return sum / float64(throws) * float64(slicesN) / total
}

// simulated is up to how many values each is put on a slice of its own.
const simulated = 2000

// hash spreads numbers well (the finaliser of splitmix64).
func hash(x uint64) uint64 {
	x += 0x9e3779b97f4a7c15
	x = (x ^ x>>30) * 0xbf58476d1ce4e5b9
	x = (x ^ x>>27) * 0x94d049bb133111eb
	return x ^ x>>31
}
