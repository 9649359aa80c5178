package mariadb

import (
	"fmt"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/capture"
)

// Captured reads the catalog from a capture.
func (e Engine) Captured(c *capture.Capture) (*catalog.Catalog, error) {
	at, err := time.Parse(time.RFC3339, c.Head.Moment)
	if err != nil {
		return nil, fmt.Errorf("the capture was made at %q: %w", c.Head.Moment, err)
	}
	r := newReader(e.family(), captured{c}, c.Head.Database)
	r.catalog.Surveyed = at
	return r.read()
}

// captured are the answers in a file.
type captured struct{ *capture.Capture }

func (captured) over() bool { return false }

func (captured) scan(row [][]byte) func(...any) error {
	return func(into ...any) error {
		return capture.Scan(row, func(i int, p any) error { return capture.Put(row[i], p) }, into...)
	}
}

func (c captured) rows(q question, row func(scan func(...any) error) error) error {
	if q.text == grantsQuery {
		for _, line := range c.Shown("GRANTS") {
			if err := row(c.scan(line)); err != nil {
				return err
			}
		}
		return nil
	}
	a, err := c.Answer(q.text)
	switch {
	case err != nil:
		return err
	case a.Failed != "":
		return fmt.Errorf("the server refused question %s (%s)", capture.Key(q.text), a.Failed)
	}
	for _, v := range a.Rows {
		if err := row(c.scan(v)); err != nil {
			return err
		}
	}
	return nil
}

func (c captured) show(kind, schema string, names []string, shown map[string]string) error {
	for _, name := range names {
		if rows := c.Shown(kind, schema, name); len(rows) > 0 && textAt(kind) < len(rows[0]) {
			shown[name] = string(rows[0][textAt(kind)])
		}
	}
	return nil
}
