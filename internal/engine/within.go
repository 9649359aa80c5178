package engine

import (
	"context"
	"errors"
	"time"
)

// Within is the context of one statement, for a server that has no time-out of statements of its
// own; 0: as long as it takes.
func Within(ctx context.Context, limit time.Duration) (context.Context, context.CancelFunc) {
	if limit == 0 {
		return ctx, func() {}
	}
	return context.WithTimeout(ctx, limit)
}

// ErrTime says that a statement took longer than it may.
var ErrTime = errors.New("the statement time-out was reached")

// TookTooLong is [ErrTime] with what to do.
func TookTooLong(place string) error {
	return &SourceError{Place: place, Err: ErrTime, Hint: "give a longer one with --timeout"}
}
