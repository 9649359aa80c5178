package settings

import (
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"slices"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/rule"
)

// A Baseline is the findings that a database had at some time: what is there
// besides is new.
type Baseline struct {
	Format   int       `json:"format"`
	Kind     string    `json:"kind"` // always "baseline"
	Engine   string    `json:"engine"`
	Database string    `json:"database"`
	Surveyed time.Time `json:"surveyed"`
	Findings []string  `json:"findings"` // identifiers, in order
}

// baselineFormat numbers the file's form.
const baselineFormat = 1

// BaselineOf is that of a judgement.
func BaselineOf(c *catalog.Catalog, r rule.Result) *Baseline {
	b := &Baseline{Format: baselineFormat, Kind: "baseline", Engine: c.Engine.Name, Database: c.Database, Surveyed: c.Surveyed, Findings: []string{}}
	for _, f := range r.Findings {
		b.Findings = append(b.Findings, f.ID())
	}
	slices.Sort(b.Findings)
	b.Findings = slices.Compact(b.Findings)
	return b
}

// ReadBaseline reads one.
func ReadBaseline(r io.Reader) (*Baseline, error) {
	var b Baseline
	switch err := json.NewDecoder(r).Decode(&b); {
	case err != nil:
		return nil, err
	case b.Kind != "baseline":
		return nil, errors.New("it is no baseline; check --write-baseline makes one")
	case b.Format != baselineFormat:
		return nil, fmt.Errorf("it is of format %d, and this program reads format %d", b.Format, baselineFormat)
	}
	return &b, nil
}

// Known leaves the findings that the baseline holds.
func (b *Baseline) Known(r rule.Result) rule.Result {
	held := map[string]bool{}
	for _, id := range b.Findings {
		held[id] = true
	}
	r.Findings = slices.DeleteFunc(slices.Clone(r.Findings), func(f rule.Finding) bool { return !held[f.ID()] })
	return r
}

// New leaves the findings that the baseline does not hold, and says how many it
// holds.
func (b *Baseline) New(r rule.Result) (rule.Result, int) {
	old := map[string]bool{}
	for _, id := range b.Findings {
		old[id] = true
	}
	n := len(r.Findings)
	r.Findings = slices.DeleteFunc(slices.Clone(r.Findings), func(f rule.Finding) bool { return old[f.ID()] })
	return r, n - len(r.Findings)
}
