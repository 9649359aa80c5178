package rule

import "slices"

// A Consequence is what comes of a fault that is left as it is.
type Consequence string

// The consequences, in the order in which faults are put right.
const (
	FailsNow    Consequence = "fails now"       // statements that users send fail today
	WrongNow    Consequence = "wrong now"       // rows break a promise
	FailsByDate Consequence = "fails by a date" // numbers or partitions run out
	Unprotected Consequence = "unprotected"     // nothing keeps rows from being wrong
	Slow        Consequence = "slow"            // it takes time or room
	Untidy      Consequence = "untidy"
)

// Consequences are all of them, the gravest first.
var Consequences = []Consequence{FailsNow, WrongNow, FailsByDate, Unprotected, Slow, Untidy}

// Before reports whether faults of the one are put right before those of the other.
func (c Consequence) Before(o Consequence) bool {
	return slices.Index(Consequences, c) < slices.Index(Consequences, o)
}
