package sqlite

import (
	"cmp"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqlite/ddltext"
)

// fromText makes a table's columns, keys, references and indexes from the
// stored statements alone, which is many times faster than asking the pragma
// functions for them. ok is false where the text leaves anything to doubt;
// then the pragma functions are asked, and the table is left as it was.
func (r *reader) fromText(t *catalog.Table, b *ddltext.Body) (ok bool) {
	made := *t
	defer func() {
		if !ok {
			made.Columns, made.PrimaryKey, made.UniqueKeys, made.ForeignKeys, made.Indexes = nil, nil, nil, nil, nil
		}
		*t = made
	}()
	for i := range b.Columns {
		c, ok := columnFromText(b, &b.Columns[i])
		if !ok {
			return false
		}
		made.Columns = append(made.Columns, c)
	}
	if !r.keysFromText(&made, b) {
		return false
	}
	for _, k := range b.References() {
		f := &catalog.ForeignKey{Name: k.Name, Target: catalog.Ref{Schema: "main", Table: k.Reference.Target}, TargetColumns: k.Reference.TargetColumns,
			OnDelete: actionIn(b, k.Reference.OnDelete), OnUpdate: actionIn(b, k.Reference.OnUpdate),
			Deferrable: k.Reference.Deferrable, Deferred: k.Reference.Deferred}
		for _, name := range k.Reference.Columns {
			c := ddltext.ColumnOf(&made, name)
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
		x, ok := ddltext.ParseIndex(r.indexes[name]).Index(&made, name, r.indexes[name])
		if !ok {
			return false
		}
		made.Indexes = append(made.Indexes, x)
	}
	return true
}

// standardTypes are given back in capitals, however they were written.
var standardTypes = []string{"ANY", "BLOB", "INT", "INTEGER", "REAL", "TEXT"}

func columnFromText(b *ddltext.Body, said *ddltext.ColumnText) (*catalog.Column, bool) {
	c := &catalog.Column{Name: said.Name, Nullable: said.Clause("not null") == nil}
	native := b.Text[said.Start:said.Stop]
	if strings.ContainsAny(native, "\"'`[") {
		return nil, false
	}
	if upper := strings.ToUpper(native); slices.Contains(standardTypes, upper) {
		native = upper
	}
	collation := ""
	for i := range said.Clauses {
		k := &said.Clauses[i]
		switch k.Kind {
		case "collate":
			if collation != "" {
				return nil, false
			}
			if collation = strings.ToUpper(k.Columns[0]); collation == "BINARY" {
				collation = ""
			}
		case "default":
			if c.Default != "" {
				return nil, false
			}
			c.Default = strings.TrimSpace(b.Text[k.Keyword[0]:k.Keyword[1]])
		case "generated":
			c.Generated, c.Stored = strings.TrimSpace(b.Text[k.Keyword[0]:k.Keyword[1]]), k.Stored
		}
	}
	c.Type = ddltext.TypeOf(native, collation)
	return c, true
}

// keysFromText matches the declared keys with the indexes that the engine made
// for them, which it numbers as it meets the constraints. It gives up where
// the numbers do not come out.
func (r *reader) keysFromText(t *catalog.Table, b *ddltext.Body) bool {
	if t.Has(ddltext.WithoutRowid) {
		return false // the key is the table; its index has no entry of its own
	}
	names := r.automatic[fold(t.Name)]
	prefix := "sqlite_autoindex_" + t.Name + "_"
	slices.SortFunc(names, func(a, b string) int { return cmp.Compare(numberOf(a, prefix), numberOf(b, prefix)) })
	seen := map[string]bool{}
	for _, said := range b.Keys() {
		k := &catalog.Key{Name: said.Name}
		for _, name := range said.Columns {
			c := ddltext.ColumnOf(t, name)
			if c == nil {
				return false
			}
			if c.Generated != "" {
				return false
			}
			k.Columns = append(k.Columns, c.Name)
			if said.Primary && t.Has(ddltext.Strict) {
				c.Nullable = false
			}
		}
		if said.Ordered {
			return false
		}
		if said.Primary {
			if t.PrimaryKey != nil {
				return false
			}
			t.PrimaryKey = k
			if ownOrder(t, k.Columns) {
				c := t.Column(k.Columns[0])
				c.Nullable, c.Identity = false, catalog.IdentityRowid
				if said.Counter {
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
		if said.Primary {
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

// actionIn reads the words behind ON DELETE or ON UPDATE.
func actionIn(b *ddltext.Body, at [2]int) catalog.Action {
	words := (Engine{}).Dialect().Meaning(b.Text[at[0]:at[1]])
	if len(words) < 3 {
		return catalog.NoAction
	}
	var said []string
	for _, w := range words[2:] {
		said = append(said, strings.ToLower(w.Text))
	}
	return catalog.Action(strings.Join(said, " "))
}
