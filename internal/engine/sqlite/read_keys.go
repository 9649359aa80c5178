package sqlite

import (
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqllex"
)

// keys reads the indexes and finds out what made them; the names of keys
// stand in the tables' text alone.
func (r *reader) keys() {
	r.ask(`SELECT m.name, l.name, l."unique", l.origin, x.cid, coalesce(x.name, ''), x.desc, x.coll
		FROM sqlite_schema m JOIN pragma_index_list(m.name) l JOIN pragma_index_xinfo(l.name) x
		WHERE m.type = 'table' AND m.sql NOT LIKE 'create virtual%' AND x.key ORDER BY m.rowid, l.name, x.seqno`,
		func(scan func(...any) error) error {
			var table, name, origin, column, collation string
			var unique, desc bool
			var cid int
			if err := scan(&table, &name, &unique, &origin, &cid, &column, &desc, &collation); err != nil {
				return err
			}
			t := r.tables[fold(table)]
			if t == nil {
				return nil
			}
			n := len(t.Indexes)
			if n == 0 || t.Indexes[n-1].Name != name {
				x := &catalog.Index{Name: name, Origin: catalog.ByPerson, Method: "btree", Unique: unique, Definition: r.indexes[name]}
				switch origin {
				case "u":
					x.Origin, x.SystemNamed = catalog.ByUniqueKey, true
				case "pk":
					x.Origin, x.SystemNamed = catalog.ByPrimaryKey, true
				}
				t.Indexes = append(t.Indexes, x)
				n++
			}
			part := catalog.IndexPart{Column: column, Descending: desc}
			own := "BINARY"
			if c := t.Column(column); c != nil && c.Type.Collation != "" {
				own = c.Type.Collation
			}
			if !strings.EqualFold(collation, own) {
				part.Collation = strings.ToUpper(collation)
			}
			t.Indexes[n-1].Parts = append(t.Indexes[n-1].Parts, part)
			return nil
		})
	for name, t := range r.tables {
		for _, x := range t.Indexes {
			if x.Origin == catalog.ByPerson {
				describe(x)
			}
		}
		r.nameKeys(t, r.bodies[name])
	}
}

// nameKeys makes the keys of a table from its indexes and its text.
func (r *reader) nameKeys(t *catalog.Table, b *body) {
	var said []keyText
	if b != nil {
		said = b.keys()
	}
	named := func(columns []string, primary bool) *keyText {
		for i := range said {
			if said[i].primary == primary && len(said[i].columns) == len(columns) && strings.EqualFold(strings.Join(said[i].columns, "\x00"), strings.Join(columns, "\x00")) {
				return &said[i]
			}
		}
		return nil
	}
	for _, x := range t.Indexes {
		if x.Origin != catalog.ByUniqueKey {
			continue
		}
		k := &catalog.Key{Columns: x.Columns(), Index: x.Name}
		if text := named(k.Columns, false); text != nil {
			k.Name = text.name
		}
		t.UniqueKeys = append(t.UniqueKeys, k)
	}
	k := t.PrimaryKey
	if k == nil {
		return
	}
	text := named(k.Columns, true)
	if text != nil {
		k.Name = text.name
	}
	i := slices.IndexFunc(t.Indexes, func(x *catalog.Index) bool { return x.Origin == catalog.ByPrimaryKey })
	if i >= 0 {
		k.Index = t.Indexes[i].Name
		return
	}
	if c := t.Column(k.Columns[0]); len(k.Columns) == 1 && t.Kind == catalog.Ordinary && ownOrder(t, k.Columns) {
		c.Nullable = false
		c.Identity = catalog.IdentityRowid
		if text != nil && text.counter {
			c.Identity = catalog.IdentityCounter
		}
	}
}

// describe adds what only the text of CREATE INDEX says: expressions and the
// predicate (https://www.sqlite.org/lang_createindex.html).
func describe(x *catalog.Index) {
	var tokens []sqllex.Token
	for _, t := range (Engine{}).Dialect().Tokens(x.Definition) {
		if !t.Blank() {
			tokens = append(tokens, t)
		}
	}
	on := slices.IndexFunc(tokens, func(t sqllex.Token) bool { return t.Is("on") })
	if on < 0 {
		return
	}
	depth, part, from := 0, 0, 0
	for i := on + 2; i < len(tokens); i++ {
		t := tokens[i]
		switch {
		case t.Is("("):
			if depth++; depth == 1 {
				from = i + 1
			}
		case depth == 1 && (t.Is(",") || t.Is(")")):
			if part < len(x.Parts) && x.Parts[part].Column == "" {
				x.Parts[part].Expression = expression(x.Definition, tokens[from:i])
			}
			part, from = part+1, i+1
			if t.Is(")") {
				depth--
			}
		case t.Is(")"):
			depth--
		case depth == 0 && t.Is("where"):
			x.Predicate = x.Definition[tokens[i+1].Start:tokens[len(tokens)-1].End]
			return
		}
	}
}

// expression is the text of an index part without its order and collation.
func expression(text string, tokens []sqllex.Token) string {
	n := len(tokens)
	if n > 1 && (tokens[n-1].Is("asc") || tokens[n-1].Is("desc")) {
		n--
	}
	if n > 2 && tokens[n-2].Is("collate") {
		n -= 2
	}
	return text[tokens[0].Start:tokens[n-1].End]
}
