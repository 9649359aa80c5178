package engine

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine/sqllex"
)

// empties is a statement in a program of the catalog that takes the rows of tables away, all at once
// or to put others in their place.
type empties struct {
	catalog.Module
	does   string
	tables []sqllex.Token
}

func (e empties) of(tables []*catalog.Table) bool {
	return slices.ContainsFunc(e.tables, func(n sqllex.Token) bool { return isOne(n, tables) })
}

func emptiesOf(c *catalog.Catalog, d sqllex.Dialect) []empties {
	var all []empties
	for m := range c.Modules() {
		low := strings.ToLower(m.Text)
		if strings.Contains(low, "truncate") {
			for _, names := range sqllex.Truncated(d, m.Text) {
				all = append(all, empties{m, "truncates %s, which the engine refuses where a foreign key leads there, or goes on to what refers to it", names})
			}
		}
		if strings.Contains(low, "drop") || strings.Contains(low, "rename") {
			if names := sqllex.Removed(d, m.Text); len(names) > 0 {
				all = append(all, empties{m, "drops or renames %s, which the engine refuses where a foreign key leads there, or has it follow", names})
			}
		}
		if strings.Contains(low, "replace") {
			for _, in := range sqllex.Inserts(d, m.Text) {
				if in.Replace {
					all = append(all, empties{m, "replaces rows of %s, which deletes them first", []sqllex.Token{in.Table}})
				}
			}
		}
	}
	return all
}

// emptied says which program empties the table that is to be referred to.
func emptied(from, to []*catalog.Table, programs []empties) string {
	for _, by := range programs {
		if by.of(to) && !by.of(from) {
			return fmt.Sprintf("%s %s "+by.does, by.Kind, by.Name, to[0].Name)
		}
	}
	return ""
}

// gone is the name of the index or the constraint that the change takes away, or calls otherwise: a
// program may drop it, make it again or tell errors apart by it. Or "".
func gone(ch change.Change) string {
	switch ch := ch.(type) {
	case change.Rename:
		return ch.From
	case change.DropIndex:
		if !ch.Early {
			return ch.Name
		}
	case change.DropKey:
		if !ch.Early {
			return ch.Name
		}
	case change.DropForeignKey:
		if !ch.Early {
			return ch.ForeignKey.Name
		}
	case change.DropCheck:
		if !ch.Early {
			return ch.Check.Name
		}
	}
	return ""
}

// wordsOf are the words in the texts of all programs, in small letters, each with one that has it.
func wordsOf(c *catalog.Catalog, d sqllex.Dialect) map[string]catalog.Module {
	all := map[string]catalog.Module{}
	for m := range c.Modules() {
		for _, t := range sqllex.Inner(d, m.Text) {
			if t.Kind == sqllex.Word || t.Kind == sqllex.Quoted {
				all[strings.ToLower(t.Name())] = m
			}
		}
	}
	return all
}

// borne reports whether a table or a column is called so: a text that has the name may mean that.
func borne(c *catalog.Catalog, name string) bool {
	return slices.ContainsFunc(c.Tables(), func(t *catalog.Table) bool {
		return strings.EqualFold(t.Name, name) || slices.ContainsFunc(t.Columns, func(col *catalog.Column) bool { return strings.EqualFold(col.Name, name) })
	})
}

// spoken says which program has the name in its text, as one that tells errors apart by constraints has.
func spoken(name string, words map[string]catalog.Module) string {
	if m, ok := words[strings.ToLower(name)]; ok {
		return fmt.Sprintf("%s %s has the name in its text", m.Kind, m.Name)
	}
	return ""
}
