package mongodb

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
)

// unwritten is the answer to what has no command.
const unwritten = "MongoDB has no command for it"

// keyStays is the answer to changes of the primary key.
const keyStays = "every collection has its key, _id"

// Refuses says why the change cannot be written, or "".
func (Engine) Refuses(c *catalog.Catalog, ch change.Change) string {
	t := c.Table(ch.On())
	switch ch := ch.(type) {
	case change.AddKey:
		if ch.Primary {
			return keyStays
		}
		return refusesIndexed(t, ch.Key.Columns)
	case change.DropKey:
		if ch.Primary {
			return keyStays
		}
		return ""
	case change.ReplaceKey:
		if ch.To.Primary || ch.From.Primary {
			return keyStays
		}
		return refusesIndexed(t, ch.To.Columns())
	case change.CreateIndex:
		if why := refusesMade(ch.Index); why != "" {
			return why
		}
		return refusesIndexed(t, ch.Index.NamedColumns())
	case change.DropIndex:
		x := t.Index(ch.Name)
		if x.Origin == catalog.ByPrimaryKey {
			return "the index of _id stays"
		}
		if x.Pinned == keepsShards {
			return x.Pinned + ", and by no other index"
		}
		return refusesMade(x)
	case change.AddCheck, change.DropCheck:
		k := checkOf(ch)
		if k.Name != validatorName {
			return "a collection has one validator"
		}
		if slices.Contains(t.Options, validation+"off") {
			return "its validation is switched off; set validationLevel first"
		}
		if _, err := document(k.Expression); err != nil {
			return "its condition is no document in extended JSON"
		}
		return ""
	case change.DropObjects:
		return refusesObjects(ch.What)
	case change.CreateObjects:
		return refusesObjects(ch.What)
	case change.NoReversal:
		return ""
	case change.AddForeignKey:
		return "MongoDB has no foreign keys"
	case change.SetComment:
		return "notes stand in the validator, and change with it"
	case change.AddColumn, change.DropColumn, change.SetNullable, change.AlterType, change.SetDefault:
		return "nothing declares what a collection holds: documents are altered by programs"
	}
	return unwritten
}

func checkOf(ch change.Change) *catalog.Check {
	if add, ok := ch.(change.AddCheck); ok {
		return add.Check
	}
	return ch.(change.DropCheck).Check
}

// refusesIndexed: a path names no field whose name has a dot in it
// (https://www.mongodb.com/docs/manual/core/dot-dollar-considerations/).
func refusesIndexed(t *catalog.Table, columns []string) string {
	lists := 0
	for _, name := range columns {
		if strings.Contains(name, `\`) || strings.HasSuffix(name, everyName) || name == `""` {
			return fmt.Sprintf("no path leads to %s", name)
		}
		if c := t.Column(name); c != nil && c.Many {
			lists++
		}
	}
	if lists > 1 { // https://www.mongodb.com/docs/manual/core/indexes/index-types/index-multikey/#compound-multikey-indexes
		return "an index goes over one list at most"
	}
	return ""
}

// refusesMade: what cannot be made again is not dropped either.
func refusesMade(x *catalog.Index) string {
	if x.Method == "text" || x.Method == "2dsphere" {
		return fmt.Sprintf("an index of the kind %s is left to you", x.Method)
	}
	if _, err := specOf(x); err != nil {
		return "its condition is no document in extended JSON"
	}
	return ""
}

// refusesObjects: a database holds collections and views, and nothing else that has a command.
func refusesObjects(c *catalog.Catalog) string {
	for _, m := range c.Members() {
		switch {
		case m.Table != nil:
			for _, x := range m.Table.Indexes {
				if why := refusesMade(x); why != "" {
					return why
				}
			}
		case m.View != nil:
			if _, err := document(m.View.Definition); err != nil {
				return "its definition is no document in extended JSON"
			}
		default:
			return unwritten
		}
	}
	return ""
}
