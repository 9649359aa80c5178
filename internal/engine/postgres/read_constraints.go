package postgres

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
)

var actions = map[string]catalog.Action{"a": catalog.NoAction, "r": catalog.Restrict, "c": catalog.Cascade, "n": catalog.SetNull, "d": catalog.SetDefault}

func (r *reader) readConstraints() {
	set := "NULL::int2[]"
	if r.version >= 150000 {
		set = "k.confdelsetcols"
	}
	r.ask(`SELECT k.conrelid, k.conname::text, k.contype::text, k.conkey, k.condeferrable, k.condeferred, k.convalidated, k.conindid,
			k.confrelid, k.confkey, k.confupdtype::text, k.confdeltype::text, k.confmatchtype::text, `+set+`,
			k.conparentid <> 0, coalesce(p.conrelid = k.conrelid, false), k.coninhcount > 0,
			CASE WHEN k.contype = 'c' THEN pg_get_expr(k.conbin, k.conrelid) ELSE '' END, coalesce(d.description, '')
		FROM pg_constraint k JOIN pg_class c ON c.oid = k.conrelid JOIN pg_namespace n ON n.oid = c.relnamespace
			LEFT JOIN pg_constraint p ON p.oid = k.conparentid
			LEFT JOIN pg_description d ON d.classoid = 'pg_constraint'::regclass AND d.objoid = k.oid AND d.objsubid = 0
		WHERE k.contype IN ('p', 'u', 'f', 'c', 'x') AND c.relpersistence <> 't' AND `+ours+` ORDER BY k.conrelid, k.conname`,
		func(scan func(...any) error) error {
			var table, index, target uint32
			var name, kind, onUpdate, onDelete, match, expression, comment string
			var columns, targetColumns, setColumns []int16
			var deferrable, deferred, validated, child, shadow, inherited bool
			if err := scan(&table, &name, &kind, &columns, &deferrable, &deferred, &validated, &index, &target, &targetColumns,
				&onUpdate, &onDelete, &match, &setColumns, &child, &shadow, &inherited, &expression, &comment); err != nil {
				return err
			}
			t := r.tables[table]
			if t == nil || shadow {
				return nil // a shadow repeats a reference for each partition referred to
			}
			x := r.indexes[index]
			switch kind {
			case "p", "u":
				k := &catalog.Key{Name: name, Columns: r.names(table, columns), Deferrable: deferrable, Deferred: deferred, Comment: comment}
				origin := catalog.ByUniqueKey
				if kind == "p" {
					t.PrimaryKey, origin = k, catalog.ByPrimaryKey
				} else {
					t.UniqueKeys = append(t.UniqueKeys, k)
				}
				if x != nil {
					k.Index, k.NullsNotDistinct, x.Origin = x.Name, x.NullsNotDistinct, origin
				}
			case "x":
				if x != nil {
					x.Origin = catalog.ByExclusion
				}
			case "c":
				t.Checks = append(t.Checks, &catalog.Check{Name: name, Expression: expression, NotValidated: !validated, Inherited: inherited, Comment: comment})
			case "f":
				f := &catalog.ForeignKey{Name: name, Columns: r.names(table, columns), OnDelete: actions[onDelete], OnUpdate: actions[onUpdate],
					SetColumns: r.names(table, setColumns), Match: map[string]string{"f": "full", "p": "partial"}[match],
					Deferrable: deferrable, Deferred: deferred, NotValidated: !validated, Inherited: child, Comment: comment}
				if to := r.tables[target]; to != nil {
					f.Target, f.TargetColumns = to.Ref(), r.names(target, targetColumns)
				} else {
					r.catalog.Gaps = append(r.catalog.Gaps, catalog.Gap{Schema: t.Schema, Table: t.Name, What: "foreign key " + name,
						Reason: "it refers to a table in a schema that was not read"})
					return nil
				}
				if x != nil {
					f.TargetIndex = x.Name
				}
				t.ForeignKeys = append(t.ForeignKeys, f)
			}
			return nil
		})
}

func (r *reader) triggers() {
	r.ask(`SELECT t.tgrelid, t.tgname::text, pg_get_triggerdef(t.oid) FROM pg_trigger t WHERE NOT t.tgisinternal ORDER BY t.tgrelid, t.tgname`,
		func(scan func(...any) error) error {
			var table uint32
			g := &catalog.Trigger{}
			err := scan(&table, &g.Name, &g.Definition)
			if t := r.tables[table]; t != nil {
				t.Triggers = append(t.Triggers, g)
			}
			return err
		})
}

// dependants reads what keeps a column from being altered: the engine's own
// record of what leans on what
// (https://www.postgresql.org/docs/current/catalog-pg-depend.html).
func (r *reader) dependants() {
	r.ask(`SELECT d.refobjid, d.refobjsubid::int2, d.classid::regclass::text, 
			coalesce(w.nspname || '.' || v.relname, p.polname::text, g.tgname::text, f.oid::regprocedure::text, ''),
			coalesce(a.adrelid = d.refobjid AND a.adnum = d.refobjsubid, false), coalesce(a.adnum, 0)::int2, coalesce(a.adrelid, 0), coalesce(v.relkind::text, '')
		FROM pg_depend d
			LEFT JOIN pg_rewrite u ON d.classid = 'pg_rewrite'::regclass AND u.oid = d.objid
			LEFT JOIN pg_class v ON v.oid = u.ev_class LEFT JOIN pg_namespace w ON w.oid = v.relnamespace
			LEFT JOIN pg_policy p ON d.classid = 'pg_policy'::regclass AND p.oid = d.objid
			LEFT JOIN pg_trigger g ON d.classid = 'pg_trigger'::regclass AND g.oid = d.objid
			LEFT JOIN pg_proc f ON d.classid = 'pg_proc'::regclass AND f.oid = d.objid
			LEFT JOIN pg_attrdef a ON d.classid = 'pg_attrdef'::regclass AND a.oid = d.objid
		WHERE d.refclassid = 'pg_class'::regclass AND d.refobjsubid > 0 AND d.refobjid >= 16384
			AND d.classid IN ('pg_rewrite'::regclass, 'pg_policy'::regclass, 'pg_trigger'::regclass, 'pg_proc'::regclass, 'pg_attrdef'::regclass, 'pg_publication_rel'::regclass)
			AND coalesce(NOT g.tgisinternal, true)
		ORDER BY d.refobjid, d.classid, d.objid, d.refobjsubid`,
		func(scan func(...any) error) error {
			var table, home uint32
			var column, defaultOf int16
			var class, name, relkind string
			var own bool
			if err := scan(&table, &column, &class, &name, &own, &defaultOf, &home, &relkind); err != nil {
				return err
			}
			t, c := r.tables[table], r.columns[table][column]
			if t == nil || c == nil || own {
				return nil
			}
			kind := strings.TrimPrefix(class, "pg_")
			switch class {
			case "pg_rewrite":
				if kind = "view"; relkind != "v" && relkind != "m" {
					kind = "rule on"
				}
			case "pg_attrdef":
				g := r.columns[home][defaultOf]
				if g == nil {
					return nil
				}
				kind, name = "generated column", g.Name
			case "pg_proc":
				kind = "routine"
			case "pg_publication_rel":
				kind, name = "publication", fmt.Sprintf("of %s", t.Name)
			}
			i := slices.IndexFunc(t.Dependants, func(d catalog.Dependant) bool { return d.Kind == kind && d.Name == name })
			if i < 0 {
				t.Dependants = append(t.Dependants, catalog.Dependant{Kind: kind, Name: name})
				i = len(t.Dependants) - 1
			}
			if !slices.Contains(t.Dependants[i].Columns, c.Name) {
				t.Dependants[i].Columns = append(t.Dependants[i].Columns, c.Name)
			}
			return nil
		})
}
