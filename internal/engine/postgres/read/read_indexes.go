package read

import (
	"cmp"
	"encoding/json"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/postgres/traits"
)

// defaultCollation is the collation "default", the database's own.
const defaultCollation = 100

// named fills a map of names by oid.
func named(into map[uint32]string) func(scan func(...any) error) error {
	return func(scan func(...any) error) error {
		var oid uint32
		var name string
		err := scan(&oid, &name)
		into[oid] = name
		return err
	}
}

// The bits of pg_index.indoption.
const (
	descending = 1
	nullsFirst = 2
)

func (r *reader) indexesQuery() string {
	distinct := "false"
	if r.version >= 150000 {
		distinct = "i.indnullsnotdistinct"
	}
	return `SELECT i.indexrelid, i.indrelid, c.relname, c.relam, i.indisunique, i.indisvalid AND i.indisready, i.indisreplident, i.indisclustered,
			c.relispartition, i.indnkeyatts, i.indkey, i.indoption, i.indclass, i.indcollation, i.indexprs IS NOT NULL, i.indpred IS NOT NULL, ` + distinct + `,
			array_to_string(c.reloptions, ', '), c.reltablespace, c.relkind = 'i', c.relpages, pg_stat_get_numscans(i.indexrelid)
		FROM pg_index i JOIN pg_class c ON c.oid = i.indexrelid
		WHERE i.indexrelid >= ` + own
}

func (r *reader) readIndexes() {
	// What only few indexes have is looked up here, not row by row over there.
	classes, methods := map[uint32]string{}, map[uint32]string{}
	r.ask(`SELECT o.oid, CASE WHEN n.nspname <> 'pg_catalog' THEN n.nspname || '.' ELSE '' END || o.opcname FROM pg_opclass o JOIN pg_namespace n ON n.oid = o.opcnamespace WHERE NOT o.opcdefault`, named(classes))
	r.ask(`SELECT oid, amname::text FROM pg_am WHERE amtype = 'i'`, named(methods))
	var expressions, predicates, unsized []uint32
	keys := map[uint32][]int64{}
	var others []uint32 // of methods whose operator classes may take parameters
	r.each(r.indexesQuery(), func(v row) {
		oid, table := v.oid(0), v.oid(1)
		t, view := r.tables[table], r.views[table]
		if t == nil && view == nil {
			return
		}
		x := &catalog.Index{Name: v.text(2), Origin: catalog.ByPerson, Method: methods[v.oid(3)], Unique: v.is(4), Invalid: !v.is(5), Inherited: v.is(8),
			NullsNotDistinct: v.is(16), Storage: v.text(17), Tablespace: r.spaces[v.oid(18)], Comment: r.comments[object{class: classClass, oid: oid}]}
		switch {
		case v.is(6) && v.is(7):
			x.Pinned = traits.PinnedReplica + ", " + traits.PinnedCluster
		case v.is(6):
			x.Pinned = traits.PinnedReplica
		case v.is(7):
			x.Pinned = traits.PinnedCluster
		}
		if v.is(19) {
			n := v.int(21)
			x.Scans = &n
		}
		r.indexes[oid] = x
		numbers, options, classOids, collationOids := v.numbers(10), v.numbers(11), v.numbers(12), v.numbers(13)
		parts := min(int(v.int(9)), len(numbers))
		if x.Parts = make([]catalog.IndexPart, 0, parts); v.is(14) {
			keys[oid] = numbers[:parts]
		}
		for i, n := range numbers {
			var c *catalog.Column
			name := ""
			if t != nil {
				if c = r.columns[table][int16(n)]; c != nil {
					name = c.Name
				}
			} else if n > 0 && int(n) <= len(view.Columns) { // views lose no columns
				name = view.Columns[n-1].Name
			}
			if i >= parts {
				x.Include = append(x.Include, name)
				continue
			}
			p := catalog.IndexPart{Column: name}
			if i < len(options) {
				p.Descending = options[i]&descending != 0
				if first := options[i]&nullsFirst != 0; first != p.Descending {
					p.Nulls = map[bool]string{true: "first", false: "last"}[first]
				}
			}
			if i < len(classOids) {
				p.OpClass = classes[uint32(classOids[i])]
			}
			// A collation counts where it is not the column's own, nor, for an
			// expression, the database's.
			if i < len(collationOids) && collationOids[i] != 0 && t != nil {
				if own := cmp.Or(r.collatedBy[c], defaultCollation); uint32(collationOids[i]) != own {
					p.Collation = r.collations[uint32(collationOids[i])]
				}
			}
			x.Parts = append(x.Parts, p)
		}
		held := r.held[oid] || r.held[table]
		if v.is(14) && !held {
			expressions = append(expressions, oid)
		}
		if v.is(15) {
			predicates = append(predicates, oid)
		}
		if x.Method != "btree" && x.Method != "hash" && !held {
			others = append(others, oid)
		}
		if view != nil {
			view.Indexes = append(view.Indexes, x)
			return
		}
		t.Indexes = append(t.Indexes, x)
		if !v.is(19) || held {
			return
		}
		// As with tables: asked for only where no size was noted, and the table
		// holds enough for it to matter.
		if size := v.int(20) * r.block; r.analysed[table] || t.Stats.Bytes != nil && *t.Stats.Bytes <= r.block {
			x.Bytes = &size
		} else {
			unsized = append(unsized, oid)
		}
	})
	name := func(oid uint32) catalog.ObjectRef { return catalog.ObjectRef{Kind: "index", Name: r.indexes[oid].Name} }
	r.texts(`SELECT indexrelid, array_to_json(array(SELECT pg_get_indexdef(indexrelid, k, false) FROM generate_series(1, indnkeyatts) k))::text FROM pg_index WHERE indexrelid = ANY(%s)`,
		among{`SELECT indexrelid FROM pg_index WHERE indexprs IS NOT NULL AND indexrelid >= ` + own, expressions}, name, func(oid uint32, text string) {
			var parts []string
			if json.Unmarshal([]byte(text), &parts) != nil {
				return
			}
			for i, n := range keys[oid] {
				if n == 0 && i < len(parts) && i < len(r.indexes[oid].Parts) {
					r.indexes[oid].Parts[i].Expression = parts[i]
				}
			}
		})
	r.texts(`SELECT indexrelid, pg_get_expr(indpred, indrelid) FROM pg_index WHERE indexrelid = ANY(%s)`, among{`SELECT indexrelid FROM pg_index WHERE indpred IS NOT NULL AND indexrelid >= ` + own, predicates}, name,
		func(oid uint32, text string) { r.indexes[oid].Predicate = text })
	// https://www.postgresql.org/docs/current/sql-alterindex.html, SET STATISTICS
	r.eachOf(`SELECT attrelid, attnum, attstattarget::text FROM pg_attribute WHERE attstattarget >= 0 AND attrelid = ANY(%s)`, among{`SELECT indexrelid FROM pg_index WHERE indexprs IS NOT NULL AND indexrelid >= ` + own, expressions}, func(v row) {
		if x, at := r.indexes[v.oid(0)], int(v.int(1)); x != nil && at > 0 && at <= len(x.Parts) && x.Parts[at-1].Expression != "" {
			x.Parts[at-1].Statistics = v.text(2)
		}
	})
	// What the parts do not tell, the parameters of operator classes, only the
	// engine's own text does.
	var odd []uint32
	withOptions := `SELECT DISTINCT a.attrelid FROM pg_attribute a JOIN pg_index i ON i.indexrelid = a.attrelid WHERE a.attoptions IS NOT NULL`
	r.eachOf(`SELECT DISTINCT attrelid FROM pg_attribute WHERE attoptions IS NOT NULL AND attrelid = ANY(%s)`, among{withOptions, others}, func(v row) { odd = append(odd, v.oid(0)) })
	r.texts(`SELECT oid, pg_get_indexdef(oid) FROM unnest(%s) oid`, among{withOptions, odd}, name, func(oid uint32, text string) { r.indexes[oid].Definition = text })
	r.askOf(`SELECT oid, pg_relation_size(oid) FROM unnest(%s) oid`, among{`SELECT i.indexrelid FROM pg_index i JOIN pg_class t ON t.oid = i.indrelid WHERE t.reltuples <= 0 AND i.indexrelid >= ` + own, unsized}, func(scan func(...any) error) error {
		var oid uint32
		var size *int64
		err := scan(&oid, &size)
		r.indexes[oid].Bytes = size
		return err
	})
	r.ask(`SELECT inhrelid, inhparent FROM pg_inherits JOIN pg_class c ON c.oid = inhrelid WHERE c.relkind IN ('i', 'I')`, func(scan func(...any) error) error {
		var oid, parent uint32
		err := scan(&oid, &parent)
		if x, p := r.indexes[oid], r.indexes[parent]; x != nil && p != nil {
			x.PartOf = p.Name
		}
		return err
	})
	for _, t := range r.tables {
		var sum int64
		for _, x := range t.Indexes {
			add(&sum, x.Bytes)
		}
		if len(t.Indexes) > 0 {
			t.Stats.IndexBytes = &sum
		}
	}
}
