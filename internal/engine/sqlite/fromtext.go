package sqlite

import (
	"cmp"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"nexdal/internal/catalog"
)

// fromText makes a table's columns, keys, references and indexes from the
// stored statements alone, which is many times faster than asking the pragma
// functions for them. ok is false where the text leaves anything to doubt;
// then the pragma functions are asked, and the table is left as it was.
func (r *reader) fromText(t *catalog.Table, b *body) (ok bool) {
	made := *t
	defer func() {
		if !ok {
			made.Columns, made.PrimaryKey, made.UniqueKeys, made.ForeignKeys, made.Indexes = nil, nil, nil, nil, nil
		}
		*t = made
	}()
	for i := range b.columns {
		c, ok := b.columnFromText(&b.columns[i])
		if !ok {
			return false
		}
		made.Columns = append(made.Columns, c)
	}
	if !r.keysFromText(&made, b) {
		return false
	}
	for _, k := range b.references() {
		f := &catalog.ForeignKey{Name: k.name, Target: catalog.Ref{Schema: "main", Table: k.reference.target}, TargetColumns: k.reference.targetColumns,
			OnDelete: b.action(k.reference.onDelete), OnUpdate: b.action(k.reference.onUpdate),
			Deferrable: k.reference.deferrable, Deferred: k.reference.deferred}
		for _, name := range k.reference.columns {
			c := columnOf(&made, name)
			if c == nil {
				return false
			}
			f.Columns = append(f.Columns, c.Name)
		}
		if f.TargetColumns == nil {
			f.TargetColumns = make([]string, len(f.Columns)) // resolved once all tables are known
		}
		made.ForeignKeys = append(made.ForeignKeys, f)
	}
	for _, name := range r.byPerson[fold(t.Name)] {
		x, ok := parseIndex(r.indexes[name]).index(&made, name, r.indexes[name])
		if !ok {
			return false
		}
		made.Indexes = append(made.Indexes, x)
	}
	return true
}

// standardTypes are given back in capitals, however they were written.
var standardTypes = []string{"ANY", "BLOB", "INT", "INTEGER", "REAL", "TEXT"}

func (b *body) columnFromText(said *columnText) (*catalog.Column, bool) {
	c := &catalog.Column{Name: said.name, Nullable: said.clause("not null") == nil}
	native := b.text[said.start:said.stop]
	if strings.ContainsAny(native, "\"'`[") {
		return nil, false
	}
	if upper := strings.ToUpper(native); slices.Contains(standardTypes, upper) {
		native = upper
	}
	collation := ""
	for i := range said.clauses {
		k := &said.clauses[i]
		switch k.kind {
		case "collate":
			if collation != "" {
				return nil, false
			}
			if collation = strings.ToUpper(k.columns[0]); collation == "BINARY" {
				collation = ""
			}
		case "default":
			if c.Default != "" {
				return nil, false
			}
			c.Default = strings.TrimSpace(b.text[k.keyword[0]:k.keyword[1]])
		case "generated":
			c.Generated, c.Stored = strings.TrimSpace(b.text[k.keyword[0]:k.keyword[1]]), k.stored
		}
	}
	c.Type = typeOf(native, collation)
	return c, true
}

// keysFromText matches the declared keys with the indexes that the engine made
// for them, which it numbers as it meets the constraints. It gives up where
// the numbers do not come out.
func (r *reader) keysFromText(t *catalog.Table, b *body) bool {
	if t.Has(withoutRowid) {
		return false // the key is the table; its index has no entry of its own
	}
	names := r.automatic[fold(t.Name)]
	prefix := "sqlite_autoindex_" + t.Name + "_"
	slices.SortFunc(names, func(a, b string) int { return cmp.Compare(numberOf(a, prefix), numberOf(b, prefix)) })
	seen := map[string]bool{}
	for _, said := range b.keys() {
		k := &catalog.Key{Name: said.name}
		for _, name := range said.columns {
			c := columnOf(t, name)
			if c == nil {
				return false
			}
			if c.Generated != "" {
				return false
			}
			k.Columns = append(k.Columns, c.Name)
			if said.primary && t.Has(strict) {
				c.Nullable = false
			}
		}
		if said.ordered {
			return false
		}
		if said.primary {
			if t.PrimaryKey != nil {
				return false
			}
			t.PrimaryKey = k
			if ownOrder(t, k.Columns) {
				c := t.Column(k.Columns[0])
				c.Nullable, c.Identity = false, catalog.IdentityRowid
				if said.counter {
					c.Identity = catalog.IdentityCounter
				}
				continue
			}
		} else {
			t.UniqueKeys = append(t.UniqueKeys, k)
		}
		together := fmt.Sprintf("%q", k.Columns)
		if seen[together] || len(names) == 0 {
			return false // the engine makes one index of two keys alike
		}
		seen[together] = true
		k.Index, names = names[0], names[1:]
		x := &catalog.Index{Name: k.Index, SystemNamed: true, Origin: catalog.ByUniqueKey, Method: "btree", Unique: true}
		if said.primary {
			x.Origin = catalog.ByPrimaryKey
		}
		for _, c := range k.Columns {
			x.Parts = append(x.Parts, catalog.IndexPart{Column: c})
		}
		t.Indexes = append(t.Indexes, x)
	}
	// The engine lists unique keys by their index.
	slices.SortStableFunc(t.UniqueKeys, func(a, b *catalog.Key) int { return strings.Compare(a.Index, b.Index) })
	return len(names) == 0
}

func numberOf(name, prefix string) int {
	if len(name) < len(prefix) {
		return -1
	}
	n, err := strconv.Atoi(name[len(prefix):])
	if err != nil {
		return -1
	}
	return n
}

// action reads the words behind ON DELETE or ON UPDATE.
func (b *body) action(at [2]int) catalog.Action {
	words := (Engine{}).Dialect().Meaning(b.text[at[0]:at[1]])
	if len(words) < 3 {
		return catalog.NoAction
	}
	var said []string
	for _, w := range words[2:] {
		said = append(said, strings.ToLower(w.Text))
	}
	return catalog.Action(strings.Join(said, " "))
}
