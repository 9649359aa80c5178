package script

import (
	"fmt"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
)

// Carry makes the script that carries out the changes, all of them or none: what the
// engine cannot do, and what does not fit the catalog, is an error. Of is what it is a
// script of: "partitions".
func Carry(w engine.Writer, c *catalog.Catalog, can catalog.Abilities, changes []change.Change, of string) (*Pair, error) {
	var items []change.Item
	for _, ch := range changes {
		if why := engine.Refuses(w, without(c, changes, ch), ch); why != "" {
			return nil, fmt.Errorf("%s: %s", ch.Title(), why)
		}
		items = append(items, change.Item{Change: ch})
	}
	plan, left := change.OrderAll(c, can, items)
	for _, l := range left {
		return nil, fmt.Errorf("%s: %s", l.Change.Title(), l.Reason)
	}
	after, err := plan.Apply(c, can)
	if err != nil {
		return nil, err
	}
	p, err := pair(w, c, after, plan, can, nil)
	if err == nil {
		p.Forth.Kind, p.Back.Kind = "Script of "+of, "Reversal of a script of "+of
	}
	return p, err
}

// without is the catalog without the foreign keys that the changes drop before.
func without(c *catalog.Catalog, changes []change.Change, of change.Change) *catalog.Catalog {
	if _, cut := of.(change.PartitionTable); !cut {
		return c
	}
	c = c.Clone()
	for _, ch := range changes {
		if d, ok := ch.(change.DropForeignKey); ok {
			change.Apply(d, c, catalog.Abilities{}) // one that is not there is told of when it is to be dropped
		}
	}
	return c
}
