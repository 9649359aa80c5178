package mariadb

import (
	"nexdal/internal/catalog"
	"nexdal/internal/engine/capture"
)

// Captured reads the catalog from a capture.
func (e Engine) Captured(c *capture.Capture) (*catalog.Catalog, error) {
	r := newReader(e.Family(), captured{c}, c.Head.Database)
	r.catalog.Surveyed = c.Head.Moment
	return r.read()
}

// captured are the answers in a file.
type captured struct{ *capture.Capture }

func (captured) over() bool { return false }

func (c captured) rows(q question, row func(scan func(...any) error) error) error {
	if q.text == grantsQuery {
		for _, line := range c.Shown("GRANTS") {
			if err := row(capture.Scanner(line)); err != nil {
				return err
			}
		}
		return nil
	}
	return c.Rows(q.text, func(v [][]byte) error { return row(capture.Scanner(v)) })
}

func (c captured) show(kind, schema string, names []string, shown map[string]string) error {
	for _, name := range names {
		if rows := c.Shown(kind, schema, name); len(rows) > 0 && textAt(kind) < len(rows[0]) {
			shown[name] = string(rows[0][textAt(kind)])
		}
	}
	return nil
}
