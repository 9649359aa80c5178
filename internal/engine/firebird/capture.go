package firebird

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
	return read(context.Background(), captured{c}, c.Head.Database, c.Head.Moment)
}

// captured are the answers in a file.
type captured struct{ *capture.Capture }

func (c captured) rows(_ context.Context, question string) (list []evidence.Row, err error) {
	err = c.Rows(question, func(values [][]byte) error {
		list = append(list, capture.Texts(values))
		return nil
	})
	if errors.Is(err, capture.ErrRefused) {
		a, _ := c.Answer(question)
		err = &engine.StatementError{Code: a.Failed, Err: err}
	}
	return list, err
}
