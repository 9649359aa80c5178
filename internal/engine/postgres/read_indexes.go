package postgres

import (
	"cmp"

	"nexdal/internal/catalog"
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

func (r *reader) readIndexes() {
	distinct := "false"
	if r.version >= 150000 {
		distinct = "i.indnullsnotdistinct"
	}
	// What only few indexes have is looked up here, not row by row over there.
	classes, collations := map[uint32]string{}, map[uint32]string{}
	r.ask(`SELECT oid, opcname::text FROM pg_opclass WHERE NOT opcdefault`, named(classes))
	r.ask(`SELECT oid, collname::text FROM pg_collation`, named(collations))
	r.ask(`SELECT i.indexrelid, i.indrelid, c.relname::text, m.amname::text, i.indisunique, i.indisvalid AND i.indisready, i.indisreplident, i.indisclustered,
			c.relispartition, i.indnkeyatts, i.indkey::int2[], i.indoption::int2[],
			CASE WHEN i.indexprs IS NOT NULL AND l.relation IS NULL THEN ARRAY(SELECT pg_get_indexdef(i.indexrelid, k, false) FROM generate_series(1, i.indnkeyatts) k) END,
			i.indclass::oid[], i.indcollation::oid[],
			CASE WHEN i.indpred IS NOT NULL THEN pg_get_expr(i.indpred, i.indrelid) ELSE '' END,
			CASE WHEN z.conindid IS NULL AND l.relation IS NULL THEN pg_get_indexdef(i.indexrelid) ELSE '' END, `+distinct+`,
			coalesce(array_to_string(c.reloptions, ', '), ''), coalesce(s.spcname::text, ''), coalesce(d.description, ''), CASE WHEN k.relation IS NULL AND l.relation IS NULL THEN pg_relation_size(c.oid) END
		FROM pg_index i
			JOIN pg_class c ON c.oid = i.indexrelid JOIN pg_class t ON t.oid = i.indrelid JOIN pg_namespace n ON n.oid = t.relnamespace
			JOIN pg_am m ON m.oid = c.relam
			LEFT JOIN pg_constraint z ON z.conindid = i.indexrelid AND z.contype IN ('p', 'u', 'x')
			LEFT JOIN `+locked+` k ON k.relation = c.oid
			LEFT JOIN `+locked+` l ON l.relation = t.oid
			LEFT JOIN pg_tablespace s ON s.oid = c.reltablespace
			LEFT JOIN pg_description d ON d.classoid = 'pg_class'::regclass AND d.objoid = c.oid AND d.objsubid = 0
		WHERE t.relkind IN ('r', 'p') AND t.relpersistence <> 't' AND `+ours,
		func(scan func(...any) error) error {
			var oid, table uint32
			var valid, replica, clustered bool
			var parts int16
			var numbers, options []int16
			var expressions []string
			var classOids, collationOids []uint32
			var size *int64
			x := &catalog.Index{Origin: catalog.ByPerson}
			if err := scan(&oid, &table, &x.Name, &x.Method, &x.Unique, &valid, &replica, &clustered, &x.Inherited, &parts, &numbers, &options,
				&expressions, &classOids, &collationOids, &x.Predicate, &x.Definition, &x.NullsNotDistinct, &x.Storage, &x.Tablespace, &x.Comment, &size); err != nil {
				return err
			}
			t := r.tables[table]
			if t == nil {
				return nil
			}
			x.Invalid, x.Bytes = !valid, size
			switch {
			case replica:
				x.Pinned = "replica identity"
			case clustered:
				x.Pinned = "clustering order"
			}
			for i, n := range numbers {
				if i >= int(parts) {
					x.Include = append(x.Include, r.names(table, []int16{n})...)
					continue
				}
				p := catalog.IndexPart{}
				if c := r.columns[table][n]; c != nil {
					p.Column = c.Name
				} else if i < len(expressions) {
					p.Expression = expressions[i]
				}
				if i < len(options) {
					p.Descending = options[i]&descending != 0
					if first := options[i]&nullsFirst != 0; first != p.Descending {
						p.Nulls = map[bool]string{true: "first", false: "last"}[first]
					}
				}
				if i < len(classOids) {
					p.OpClass = classes[classOids[i]]
				}
				// A collation counts where it is not the column's own, nor, for an
				// expression, the database's.
				if own := cmp.Or(r.collations[r.columns[table][n]], defaultCollation); i < len(collationOids) && collationOids[i] != 0 && collationOids[i] != own {
					p.Collation = collations[collationOids[i]]
				}
				x.Parts = append(x.Parts, p)
			}
			t.Indexes = append(t.Indexes, x)
			r.indexes[oid] = x
			var sum int64
			add(&sum, t.Stats.IndexBytes)
			add(&sum, size)
			t.Stats.IndexBytes = &sum
			return nil
		})
}
