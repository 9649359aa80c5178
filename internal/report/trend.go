package report

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

// A Moment is how many findings there were at one time.
type Moment struct {
	At       time.Time `json:"at"`
	Errors   int       `json:"errors"`
	Warnings int       `json:"warnings"`
	Notices  int       `json:"notices"`
}

// MomentOf is that of a judgement.
func MomentOf(c *catalog.Catalog, r rule.Result) Moment {
	return Moment{c.Surveyed.UTC(), r.Count(rule.Error), r.Count(rule.Warning), r.Count(rule.Notice)}
}

// ErrNotFindings says that a file is JSON, or something else, but does not hold the findings of
// one source.
var ErrNotFindings = errors.New("no findings of nexdal check --format json")

// ReadFindings reads a file of check --format json.
func ReadFindings(r io.Reader) (*Findings, error) {
	var f findingsFile
	if err := json.NewDecoder(r).Decode(&f); err != nil || f.Findings == nil || f.Source.Engine == "" {
		return nil, ErrNotFindings
	}
	if f.Format != findingsFormat {
		return nil, fmt.Errorf("findings of format %d, and this program reads format %d", f.Format, findingsFormat)
	}
	return &Findings{f}, nil
}

// Findings are those of a file.
type Findings struct{ file findingsFile }

// Engine is the name of the engine that they are of.
func (f *Findings) Engine() string { return f.file.Source.Engine }

// Moment is how many there were, and when.
func (f *Findings) Moment() (Moment, error) {
	at, err := time.Parse(time.RFC3339, f.file.Source.Surveyed)
	s := f.file.Summary
	return Moment{at, s[string(rule.Error)], s[string(rule.Warning)], s[string(rule.Notice)]}, err
}

// InOrder sorts moments by time, and keeps the last of those of one time.
func InOrder(list []Moment) []Moment {
	slices.SortStableFunc(list, func(a, b Moment) int { return a.At.Compare(b.At) })
	var kept []Moment
	for i, m := range list {
		if i+1 == len(list) || !list[i+1].At.Equal(m.At) {
			kept = append(kept, m)
		}
	}
	return kept
}
