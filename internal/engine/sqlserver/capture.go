package sqlserver

import (
	"context"
	"errors"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/capture"
	"nexdal/internal/evidence"
)

// Captured reads the catalog from a capture.
func (Engine) Captured(c *capture.Capture) (*catalog.Catalog, error) {
	return read(context.Background(), captured{c}, c.Head.Moment)
}

// captured are the answers in a file.
type captured struct{ *capture.Capture }

func (c captured) rows(_ context.Context, question string) (list []evidence.Row, err error) {
	err = c.Rows(question, func(values [][]byte) error {
		row := make(evidence.Row, len(values))
		for i, v := range values {
			if v != nil {
				text := string(v)
				row[i] = &text
			}
		}
		list = append(list, row)
		return nil
	})
	if errors.Is(err, capture.ErrRefused) {
		a, _ := c.Answer(question)
		err = &engine.StatementError{Code: a.Failed, Err: err}
	}
	return list, err
}
