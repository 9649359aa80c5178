package postgres

import (
	"strings"

	"nexdal/internal/catalog"
)

func (r *reader) readDomains() {
	r.ask(`SELECT d.oid, d.typtypmod, format_type(d.typbasetype, d.typtypmod), b.oid, b.typname::text, b.typtype::text, b.typcategory::text
		FROM pg_type d JOIN pg_type b ON b.oid = d.typbasetype WHERE d.typtype = 'd'`,
		func(scan func(...any) error) error {
			var oid uint32
			var d domain
			err := scan(&oid, &d.mod, &d.native, &d.base.oid, &d.base.name, &d.base.kind, &d.base.category)
			r.domains[oid] = d
			return err
		})
}

func (r *reader) readColumns() {
	r.ask(`SELECT a.attrelid, a.attnum, a.attname::text, format_type(a.atttypid, a.atttypmod), a.atttypmod, t.oid, t.typname::text, t.typtype::text, t.typcategory::text,
			a.attnotnull, coalesce(pg_get_expr(f.adbin, f.adrelid), ''), a.attidentity::text, a.attgenerated::text, a.attinhcount > 0,
			CASE WHEN a.attcollation <> t.typcollation THEN coalesce(CASE WHEN cn.nspname = 'pg_catalog' THEN l.collname::text ELSE cn.nspname || '.' || l.collname END, '') ELSE '' END,
			coalesce(d.description, ''), a.attcollation
		FROM pg_attribute a JOIN pg_class c ON c.oid = a.attrelid JOIN pg_namespace n ON n.oid = c.relnamespace
			JOIN pg_type t ON t.oid = a.atttypid
			LEFT JOIN pg_attrdef f ON f.adrelid = a.attrelid AND f.adnum = a.attnum
			LEFT JOIN pg_collation l ON l.oid = a.attcollation AND a.attcollation <> t.typcollation
			LEFT JOIN pg_namespace cn ON cn.oid = l.collnamespace
			LEFT JOIN pg_description d ON d.classoid = 'pg_class'::regclass AND d.objoid = a.attrelid AND d.objsubid = a.attnum
		WHERE a.attnum > 0 AND NOT a.attisdropped AND c.relkind IN ('r', 'p', 'f') AND c.relpersistence <> 't' AND `+ours+`
		ORDER BY a.attrelid, a.attnum`,
		func(scan func(...any) error) error {
			var table, collationOid uint32
			var number int16
			var mod int32
			var t pgType
			var native, value, identity, generated, collation string
			var required bool
			c := &catalog.Column{}
			if err := scan(&table, &number, &c.Name, &native, &mod, &t.oid, &t.name, &t.kind, &t.category,
				&required, &value, &identity, &generated, &c.Inherited, &collation, &c.Comment, &collationOid); err != nil {
				return err
			}
			on := r.tables[table]
			if on == nil {
				return nil
			}
			c.Nullable = !required
			c.Type = typeOf(native, t, mod, collation, r.domains)
			switch {
			case generated != "":
				c.Generated, c.Stored = value, generated == "s"
			case identity == "a":
				c.Identity = catalog.IdentityAlways
			case identity == "d":
				c.Identity = catalog.IdentityByDefault
			default:
				if c.Default = value; strings.HasPrefix(value, "nextval(") {
					c.Identity = catalog.IdentitySequence
				}
			}
			on.Columns = append(on.Columns, c)
			if r.columns[table] == nil {
				r.columns[table] = map[int16]*catalog.Column{}
			}
			r.columns[table][number] = c
			r.collations[c] = collationOid
			return nil
		})
	r.partitionKeys()
}

// names turns column numbers into names.
func (r *reader) names(table uint32, numbers []int16) []string {
	var names []string
	for _, n := range numbers {
		if c := r.columns[table][n]; c != nil {
			names = append(names, c.Name)
		}
	}
	return names
}
