package postgres

import (
	"fmt"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/capture"
)

// Captured reads the catalog from a capture.
func (Engine) Captured(c *capture.Capture) (*catalog.Catalog, error) {
	r := newReader(captured{c})
	at, err := time.Parse(time.RFC3339, c.Head.Moment)
	if err != nil {
		return nil, fmt.Errorf("the capture was made at %q: %w", c.Head.Moment, err)
	}
	r.catalog.Surveyed = at
	return r.read(func() error { return nil })
}

// captured are the answers in a file.
type captured struct{ *capture.Capture }

func (c captured) put(q question, take func(v row) error) error {
	a, err := c.Answer(q.whole())
	if err != nil {
		return err
	}
	if a.Failed != "" {
		return fmt.Errorf("the server refused question %s (%s)", capture.Key(q.whole()), a.Failed)
	}
	return hand(q, a, take)
}

// hand hands on the rows that the question is about.
func hand(q question, a *capture.Answer, take func(v row) error) error {
	wanted := map[uint32]bool{}
	if q.of != nil {
		for _, oid := range q.of.oids {
			wanted[oid] = true
		}
	}
	for _, values := range a.Rows {
		v := row(values)
		if q.of != nil && !wanted[v.oid(0)] {
			continue
		}
		if err := take(v); err != nil {
			return err
		}
	}
	return nil
}

func (c captured) texts(q question, take func(v row) error, lost func(oid uint32, reason string)) error {
	a, err := c.Answer(q.whole())
	if err != nil {
		return err
	}
	if a.Failed != "" { // one of them cannot be written, and no other was then
		for _, oid := range q.of.oids {
			lost(oid, fmt.Sprintf("the server refused the question for texts like it (%s)", a.Failed))
		}
		return nil
	}
	return hand(q, a, take)
}
