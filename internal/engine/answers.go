package engine

import (
	"context"
	"errors"
	"math"
	"slices"

	"nexdal/internal/engine/capture"
)

// Answers to the questions of a survey come from a connection, or from what an engine's own
// client has written.
type Answers interface {
	// Put puts a question. What the server has against it is a [StatementError].
	Put(ctx context.Context, question string) ([]Row, error)
}

// Live are the answers of a session.
type Live struct {
	Session interface {
		Rows(ctx context.Context, sql string, max int) ([]string, []Row, error)
	}
}

// Put sends it.
func (l Live) Put(ctx context.Context, question string) ([]Row, error) {
	_, rows, err := l.Session.Rows(ctx, question, math.MaxInt)
	return rows, err
}

// Captured are the answers in a capture.
type Captured struct{ *capture.Capture }

// Put looks the answer up.
func (c Captured) Put(_ context.Context, question string) (rows []Row, err error) {
	err = c.Rows(question, func(values [][]byte) error {
		rows = append(rows, capture.Texts(values))
		return nil
	})
	if errors.Is(err, capture.ErrRefused) {
		a, _ := c.Answer(question)
		err = &StatementError{Code: a.Failed, Err: err}
	}
	return rows, err
}

// A Listing answers nothing, and notes each question once: what a client has to be asked.
type Listing struct{ Asked []string }

// Put notes it.
func (l *Listing) Put(_ context.Context, question string) ([]Row, error) {
	if !slices.Contains(l.Asked, question) {
		l.Asked = append(l.Asked, question)
	}
	return nil, nil
}

// Each hands the values of each row that answers a question to take.
func Each(ctx context.Context, from Answers, question string, take func(w *capture.Fields)) error {
	rows, err := from.Put(ctx, question)
	for _, values := range rows {
		take(&capture.Fields{Values: values})
	}
	return err
}
