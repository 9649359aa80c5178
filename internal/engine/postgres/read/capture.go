package read

import (
	"fmt"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/capture"
)

// Captured reads the catalog from a capture.
func (Reader) Captured(c *capture.Capture) (*catalog.Catalog, error) {
	r := newReader(captured{c})
	r.catalog.Surveyed = c.Head.Moment
	return r.read(func() error { return nil })
}

// captured are the answers in a file.
type captured struct{ *capture.Capture }

// put hands on the rows that the question is about.
func (c captured) put(q question, take func(v row) error) error {
	wanted := map[uint32]bool{}
	if q.of != nil {
		for _, oid := range q.of.oids {
			wanted[oid] = true
		}
	}
	return c.Rows(q.whole(), func(values [][]byte) error {
		if v := row(values); q.of == nil || wanted[v.oid(0)] {
			return take(v)
		}
		return nil
	})
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
	return c.put(q, take)
}
