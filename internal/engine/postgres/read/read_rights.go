package read

import (
	"fmt"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/postgres/traits"
)

// readRights reads who owns what, and what was granted
// (https://www.postgresql.org/docs/current/ddl-priv.html).
func (r *reader) readRights() {
	roles := map[uint32]string{}
	r.ask(`SELECT oid, rolname::text FROM pg_roles`, named(roles))
	owners := map[object]uint32{}
	of := map[object]*catalog.Rights{}
	for oid, t := range r.tables {
		of[object{class: classClass, oid: oid}] = &t.Rights
	}
	for oid, v := range r.views {
		of[object{class: classClass, oid: oid}] = &v.Rights
	}
	for oid, q := range r.sequences {
		of[object{class: classClass, oid: oid}] = &q.Rights
	}
	for oid, f := range r.routines {
		of[object{class: classProc, oid: oid}] = &f.Rights
	}
	for oid, y := range r.made {
		of[object{class: classType, oid: oid}] = &y.Rights
	}
	for oid, name := range r.names {
		if s := r.schemas[name]; s != nil {
			of[object{class: classNamespace, oid: oid}] = &s.Rights
		}
	}
	for _, k := range []struct {
		class                     uint32
		catalog, owner, acl, also string
	}{
		{classClass, "pg_class", "relowner", "relacl", " AND relkind IN ('r', 'p', 'f', 'v', 'm', 'S')"}, {classProc, "pg_proc", "proowner", "proacl", ""},
		{classType, "pg_type", "typowner", "typacl", " AND typtype <> 'p'"}, {classNamespace, "pg_namespace", "nspowner", "nspacl", ""},
	} {
		from := own
		if k.class == classNamespace {
			from = "2200" // public is the first of those that are not the system's alone
		}
		r.each(fmt.Sprintf(`SELECT oid, %s, %s IS NOT NULL FROM %s WHERE oid >= %s%s`, k.owner, k.acl, k.catalog, from, k.also), func(v row) {
			o := object{class: k.class, oid: v.oid(0)}
			if rights := of[o]; rights != nil {
				rights.Owner, rights.Granted = roles[v.oid(1)], v.is(2)
				owners[o] = v.oid(1)
			}
		})
		r.each(fmt.Sprintf(`SELECT c.oid, a.grantor, a.grantee, a.privilege_type, a.is_grantable FROM %s c, aclexplode(c.%s) a WHERE c.%[2]s IS NOT NULL AND c.oid >= %s`, k.catalog, k.acl, from), func(v row) {
			r.grant(of, owners, roles, object{class: k.class, oid: v.oid(0)}, "", v[1:])
		})
	}
	r.each(`SELECT t.attrelid, t.attname, a.grantor, a.grantee, a.privilege_type, a.is_grantable FROM pg_attribute t, aclexplode(t.attacl) a
		WHERE t.attacl IS NOT NULL AND t.attrelid >= `+own+` AND NOT t.attisdropped`, func(v row) {
		r.grant(of, owners, roles, object{class: classClass, oid: v.oid(0)}, v.text(1), v[2:])
	})
	r.each(`SELECT l.classoid, l.objoid, coalesce(a.attname, ''), l.provider, l.label FROM pg_seclabel l
		LEFT JOIN pg_attribute a ON l.classoid = 1259 AND a.attrelid = l.objoid AND a.attnum = l.objsubid AND l.objsubid > 0`, func(v row) {
		if rights := of[object{class: v.oid(0), oid: v.oid(1)}]; rights != nil {
			rights.SecurityLabels = append(rights.SecurityLabels, catalog.SecurityLabel{Provider: v.text(3), Label: v.text(4), Column: v.text(2)})
		}
	})
	// What is made gets these, wherever it is made again.
	r.each(`SELECT count(*) FROM pg_default_acl`, func(v row) {
		if v.int(0) > 0 {
			r.catalog.Settings = append(r.catalog.Settings, catalog.Setting{Name: traits.DefaultPrivileges, Value: "altered"})
		}
	})
}

// shadows asks whether somebody's functions, operators or tables are called as the engine's own and
// take what those take: a bare name may mean either, by the search path of the session.
func (r *reader) shadows() {
	const foreign = `pg_depend d WHERE d.deptype = 'e' AND d.objid = p.oid AND d.classid = `
	r.each(`SELECT (SELECT count(*) FROM pg_proc p WHERE p.oid >= `+own+` AND p.proname IN (SELECT b.proname FROM pg_proc b WHERE b.pronamespace = 11)
			AND NOT EXISTS (SELECT FROM unnest(p.proargtypes) a WHERE a >= `+own+`) AND NOT EXISTS (SELECT FROM `+foreign+`1255))
		+ (SELECT count(*) FROM pg_operator p WHERE p.oid >= `+own+` AND p.oprname IN (SELECT b.oprname FROM pg_operator b WHERE b.oprnamespace = 11)
			AND p.oprleft < `+own+` AND p.oprright < `+own+` AND NOT EXISTS (SELECT FROM `+foreign+`2617))
		+ (SELECT count(*) FROM pg_class p WHERE p.oid >= `+own+` AND p.relname IN (SELECT b.relname FROM pg_class b WHERE b.relnamespace = 11))`, func(v row) {
		if v.int(0) > 0 {
			r.catalog.Settings = append(r.catalog.Settings, catalog.Setting{Name: traits.ShadowedNames, Value: "some"})
		}
	})
}

// grant notes one privilege: grantor, grantee, what, and whether it may be handed on.
func (r *reader) grant(of map[object]*catalog.Rights, owners map[object]uint32, roles map[uint32]string, o object, column string, v row) {
	rights := of[o]
	if rights == nil {
		return
	}
	g := catalog.Grant{Column: column, What: v.text(2), Grantable: v.is(3)}
	if grantee := v.oid(1); grantee != 0 {
		g.To = roles[grantee]
	}
	if v.oid(0) != owners[o] {
		g.By = roles[v.oid(0)]
	}
	rights.Grants = append(rights.Grants, g)
}
