// Package change holds typed, engine-neutral alterations of a catalog: each
// can be applied to the model, reversed, and ordered into a plan. How an
// engine writes one as SQL is the engine's business.
package change

import (
	"fmt"
	"slices"

	"nexdal/internal/catalog"
)

// A Change is one alteration of a catalog.
type Change interface {
	// On names the table that is altered; empty for the whole database.
	On() catalog.Ref
	// Title says in a few words what is done: "create index a on b".
	Title() string
	// apply carries the change out on the model, through the edit alone. It fails
	// where the change does not fit the catalog any more; see [Apply].
	apply(e *edit, can catalog.Abilities) error
	// inverse returns the change that takes this one back, given the catalog
	// as it was before.
	inverse(before *catalog.Catalog) (Change, error)
	// rank orders changes of one plan: lower first.
	rank() int
}

// The order of work: types before the keys that use them, keys before the
// references that need them, and nothing dropped before what takes its place
// is there.
const (
	rankFirst = iota // what is not there yet
	rankEarly        // what is re-created under its name goes first
	rankType
	rankNull
	rankColumn
	rankKey
	rankForeignKey
	rankIndex
	rankReference // once the index that serves it is there
	rankText      // what reads tables by a text of its own, once they are as it reads them
	rankDrop
	rankSetting
	rankLast
)

// table finds the table of a change or says that it is gone.
func table(c *catalog.Catalog, ref catalog.Ref) (*catalog.Table, error) {
	if t := c.Table(ref); t != nil {
		return t, nil
	}
	return nil, fmt.Errorf("table %s does not exist", ref)
}

// redefined notes that the engine's own text of the table no longer holds.
func redefined(t *catalog.Table) { t.Definition = "" }

func without[T comparable](list []T, gone T) []T {
	i := slices.Index(list, gone)
	if i < 0 {
		return list
	}
	return append(slices.Clone(list[:i]), list[i+1:]...)
}

// Rewrites reports whether the change has an engine write every row of a table again, in
// general.
func Rewrites(ch Change) bool {
	switch ch.(type) {
	case AlterType, AddSurrogateKey:
		return true
	}
	return false
}
