package sqlite

import (
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqlite/ddltext"
)

// pragmaKeys reads the indexes of the tables that the text does not tell all
// of, and finds out what made them; the names of keys stand in the text alone.
func (r *reader) pragmaKeys() {
	r.ask(`SELECT m.name, l.name, l."unique", l.origin, x.cid, coalesce(x.name, ''), x.desc, x.coll
		FROM sqlite_schema m JOIN pragma_index_list(m.name) l JOIN pragma_index_xinfo(l.name) x
		WHERE m.type = 'table' AND m.name IN `+r.asked()+` AND m.sql NOT LIKE 'create virtual%' AND x.key ORDER BY m.rowid, l.name, x.seqno`,
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
	for _, name := range r.unclear {
		t := r.tables[fold(name)]
		for _, x := range t.Indexes {
			if x.Origin == catalog.ByPerson {
				ddltext.AddText(x, ddltext.ParseIndex(x.Definition))
			}
		}
		r.nameKeys(t, r.bodies[fold(name)])
	}
}

// nameKeys makes the keys of a table from its indexes and its text.
func (r *reader) nameKeys(t *catalog.Table, b *ddltext.Body) {
	var said []ddltext.KeyText
	if b != nil {
		said = b.Keys()
	}
	named := func(columns []string, primary bool) *ddltext.KeyText {
		for i := range said {
			if said[i].Primary == primary && len(said[i].Columns) == len(columns) && strings.EqualFold(strings.Join(said[i].Columns, "\x00"), strings.Join(columns, "\x00")) {
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
			k.Name = text.Name
		}
		t.UniqueKeys = append(t.UniqueKeys, k)
	}
	k := t.PrimaryKey
	if k == nil {
		return
	}
	text := named(k.Columns, true)
	if text != nil {
		k.Name = text.Name
	}
	i := slices.IndexFunc(t.Indexes, func(x *catalog.Index) bool { return x.Origin == catalog.ByPrimaryKey })
	if i >= 0 {
		k.Index = t.Indexes[i].Name
		return
	}
	if c := t.Column(k.Columns[0]); len(k.Columns) == 1 && t.Kind != catalog.Virtual && ownOrder(t, k.Columns) {
		c.Nullable = false
		c.Identity = catalog.IdentityRowid
		if text != nil && text.Counter {
			c.Identity = catalog.IdentityCounter
		}
	}
}
