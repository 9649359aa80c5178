package change

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
)

// Bar says what leans on an object that the change alters, drops or makes again, and would
// be broken or lost with it; "" where nothing does. Whatever the engine says leans there
// bars the change, whether we know its kind or not.
func Bar(c *catalog.Catalog, ch Change) string {
	on := func(list []catalog.Dependant, fits func(catalog.Dependant) bool) string {
		if i := slices.IndexFunc(list, fits); i >= 0 {
			return fmt.Sprintf("%s %s leans on it", list[i].Kind, list[i].Name)
		}
		return ""
	}
	any := func(catalog.Dependant) bool { return true }
	if seq, ok := replaced(c, ch); ok {
		if why := on(seq.Dependants, any); why != "" {
			return why
		}
	}
	if v, ok := ch.(ReplaceView); ok {
		if s := c.Schema(v.Schema); s != nil {
			if i := slices.IndexFunc(s.Views, func(is *catalog.View) bool { return is.Name == v.Old.Name }); i >= 0 && !v.New.Extends(v.Old) {
				return on(s.Views[i].Dependants, any)
			}
		}
		return ""
	}
	if d, ok := ch.(DropObjects); ok {
		for _, ref := range d.Tables() {
			if t := c.Table(ref); t != nil {
				if why := on(t.Dependants, sent); why != "" {
					return why
				}
			}
		}
		return ""
	}
	t := c.Table(ch.On())
	if t == nil {
		return ""
	}
	column := func(name string) string {
		return on(t.Dependants, func(d catalog.Dependant) bool {
			return d.On == "" && !countsColumns(d) && (len(d.Columns) == 0 || slices.Contains(d.Columns, name))
		})
	}
	key := func(k *catalog.Key, primary bool) string {
		return on(t.Dependants, func(d catalog.Dependant) bool {
			return k != nil && d.On != "" && (d.On == k.Name || d.On == k.Index) || primary && sent(d)
		})
	}
	switch ch := ch.(type) {
	case AlterType:
		return column(ch.Column)
	case DropColumn:
		return column(ch.Column)
	case AddColumn:
		return on(t.Dependants, widened)
	case AddSurrogateKey:
		if why := on(t.Dependants, widened); why != "" {
			return why
		}
		return key(t.PrimaryKey, true)
	case DropKey:
		return key(keyNamed(t, ch.Name, ch.Primary), ch.Primary)
	case ReplaceKey:
		// ON CONFLICT (columns) finds whatever else keeps them unique; a name finds an index of that name.
		kept := ch.To.Index == nil || ch.To.Index.Predicate == ""
		return on(t.Dependants, func(d catalog.Dependant) bool {
			k, x := ch.From.Key, ch.From.Index
			switch {
			case ch.From.Primary && sent(d):
				return true
			case d.On == "" || kept && strings.HasPrefix(d.Kind, catalog.TextOf) && len(d.Columns) > 0 && catalog.SameColumns(d.Columns, ch.To.Columns()):
				return false
			case k != nil:
				return d.On == k.Name || d.On == k.Index
			}
			return x != nil && d.On == x.Name && d.On != ch.To.Name() && strings.Contains(d.Kind, catalog.TextOf)
		})
	case DropIndex:
		return on(t.DependantsOf(ch.Name), any)
	case Rename:
		return on(t.Dependants, func(d catalog.Dependant) bool {
			return d.On == ch.From && len(d.Columns) == 0 && strings.Contains(d.Kind, catalog.TextOf)
		})
	case PartitionTable, RenameTable:
		return on(t.Dependants, func(d catalog.Dependant) bool {
			// Its own, and what rests on the types of columns, which stay.
			return d.Kind != "generated column" && (d.On != "" || !strings.HasPrefix(d.Kind, catalog.TextOf))
		})
	}
	return ""
}

// sent reports whether it hands the rows of the table on, or fills it.
func sent(d catalog.Dependant) bool { return d.Kind == "publication" || d.Kind == "subscription" }

// widened reports whether it suffers from a further column: who receives the table has none
// of that name, values of its row type are kept without it, and texts count its columns.
func widened(d catalog.Dependant) bool {
	return len(d.Columns) == 0 && (sent(d) || d.Kind == "column of" || countsColumns(d))
}

// countsColumns reports whether it is a text that handles whole rows, of as many columns as there are.
func countsColumns(d catalog.Dependant) bool { return strings.HasPrefix(d.Kind, "whole rows") }

// replaced is the sequence that goes with the change, if one does.
func replaced(c *catalog.Catalog, ch Change) (*catalog.Sequence, bool) {
	schema, name := "", ""
	switch ch := ch.(type) {
	case DropSequence:
		schema, name = ch.Schema, ch.Sequence.Name
	case SetNumbering:
		schema, name = ch.From.Schema, ch.From.Sequence.Name
	case MakeIdentity:
		schema, name = ch.Schema, ch.Sequence.Name
	default:
		return nil, false
	}
	q, err := sequence(c, schema, name)
	return q, err == nil
}

func keyNamed(t *catalog.Table, name string, primary bool) *catalog.Key {
	if primary {
		return t.PrimaryKey
	}
	if i := slices.IndexFunc(t.UniqueKeys, func(k *catalog.Key) bool { return k.Name == name }); i >= 0 {
		return t.UniqueKeys[i]
	}
	return nil
}
