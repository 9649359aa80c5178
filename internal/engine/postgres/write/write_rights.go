package write

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/postgres/traits"
)

// giveRights are the statements that give an object its owner, its grants and its security
// labels; kind is the engine's word for it, as "SEQUENCE". What it was given when it was
// made, by the default privileges of whoever runs the script, is taken back. One that
// belongs to a column has the owner of its table. The database is the one that it is made in.
func giveRights(in *catalog.Catalog, kind, name string, r catalog.Rights, belongs bool) []string {
	var sql []string
	if r.Owner != "" && !belongs {
		sql = append(sql, fmt.Sprintf("ALTER %s %s OWNER TO %s", kind, name, traits.Ident(r.Owner)))
	}
	altered := slices.ContainsFunc(in.Settings, func(s catalog.Setting) bool { return s.Name == traits.DefaultPrivileges })
	if altered && !noRelation(kind) || r.Granted {
		sql = append(sql, revoked(kind, name, r))
	}
	return append(sql, granted(kind, name, r)...)
}

// asOwned gives one relation the owner and the grants that another has when the script
// runs, those on the columns of both and those that other roles handed on included. What
// it was given when it was made is taken back.
func asOwned(from, to string) string {
	return fmt.Sprintf(`DO $nexdal$ DECLARE g record; was pg_catalog.pg_class; made oid := %s::regclass; BEGIN
  SELECT * INTO was FROM pg_catalog.pg_class WHERE oid = %s::regclass::oid;
  EXECUTE pg_catalog.format('ALTER TABLE %%s OWNER TO %%s', made::regclass, was.relowner::regrole);
  FOR g IN SELECT a.grantee FROM pg_catalog.pg_class c, pg_catalog.aclexplode(c.relacl) a WHERE c.oid = made AND a.grantee <> c.relowner
      UNION SELECT was.relowner WHERE was.relacl IS NOT NULL LOOP
    EXECUTE pg_catalog.format('REVOKE ALL ON %%s FROM %%s', made::regclass, CASE g.grantee WHEN 0 THEN 'PUBLIC' ELSE g.grantee::regrole::text END);
  END LOOP;
  FOR g IN SELECT a.grantor, a.grantee, a.privilege_type AS what, a.is_grantable AS again, '' AS on_column, a.grantor <> was.relowner AS later, a.ordinality AS place FROM pg_catalog.aclexplode(was.relacl) WITH ORDINALITY a
      UNION ALL SELECT a.grantor, a.grantee, a.privilege_type, a.is_grantable, ' (' || pg_catalog.quote_ident(t.attname) || ')', a.grantor <> was.relowner, a.ordinality
      FROM pg_catalog.pg_attribute t, pg_catalog.pg_attribute n, pg_catalog.aclexplode(t.attacl) WITH ORDINALITY a WHERE t.attrelid = was.oid AND n.attrelid = made AND n.attname = t.attname
      ORDER BY on_column, place LOOP
    IF g.later THEN EXECUTE 'SET LOCAL ROLE ' || g.grantor::regrole; END IF;
    EXECUTE pg_catalog.format('GRANT %%s%%s ON %%s TO %%s', g.what, g.on_column, made::regclass, CASE g.grantee WHEN 0 THEN 'PUBLIC' ELSE g.grantee::regrole::text END) || CASE WHEN g.again THEN ' WITH GRANT OPTION' ELSE '' END;
    IF g.later THEN RESET ROLE; END IF;
  END LOOP;
END $nexdal$`, traits.Literal(to), traits.Literal(from))
}

// revoked takes back what an object was granted when it was made; its owner's own rights
// stay, unless they were granted explicitly.
func revoked(kind, name string, r catalog.Rights) string {
	if noRelation(kind) {
		return fmt.Sprintf("REVOKE ALL ON %s%s FROM PUBLIC, %s", onKind(kind), name, traits.Ident(r.Owner))
	}
	but := ""
	if !r.Granted {
		but = " AND a.grantee <> c.relowner"
	}
	return fmt.Sprintf(`DO $nexdal$ DECLARE g record; BEGIN
  FOR g IN SELECT DISTINCT CASE a.grantee WHEN 0 THEN 'PUBLIC' ELSE pg_catalog.quote_ident(r.rolname) END AS who
      FROM pg_catalog.pg_class c, pg_catalog.aclexplode(coalesce(c.relacl, pg_catalog.acldefault(CASE c.relkind WHEN 'S' THEN 's'::"char" ELSE 'r' END, c.relowner))) a LEFT JOIN pg_catalog.pg_roles r ON r.oid = a.grantee WHERE c.oid = %s::regclass::oid%s LOOP
    EXECUTE pg_catalog.format('REVOKE ALL ON %%s FROM %%s', %s, g.who);
  END LOOP;
END $nexdal$`, traits.Literal(name), but, traits.Literal(onKind(kind)+name))
}

// noRelation reports whether the kind is none of those that pg_class holds.
func noRelation(kind string) bool {
	return kind == "SCHEMA" || kind == "ROUTINE" || kind == "TYPE"
}

// onKind is the word that GRANT and REVOKE take; they take views for tables.
func onKind(kind string) string {
	switch kind {
	case "SEQUENCE", "SCHEMA", "ROUTINE", "TYPE":
		return kind + " "
	}
	return ""
}

// granted are the grants, those of one grantor to one role in one statement, and the
// security labels.
func granted(kind, name string, r catalog.Rights) []string {
	var sql []string
	for i := 0; i < len(r.Grants); {
		g := r.Grants[i]
		var what []string
		n := i
		for ; n < len(r.Grants) && r.Grants[n].By == g.By && r.Grants[n].Column == g.Column && r.Grants[n].To == g.To; n++ {
		}
		for _, again := range []bool{false, true} {
			what = nil
			for _, x := range r.Grants[i:n] {
				if x.Grantable == again {
					one := x.What
					if g.Column != "" {
						one += " (" + traits.Ident(g.Column) + ")"
					}
					what = append(what, one)
				}
			}
			if what == nil {
				continue
			}
			to := "PUBLIC"
			if g.To != "" {
				to = traits.Ident(g.To)
			}
			one := fmt.Sprintf("GRANT %s ON %s%s TO %s", strings.Join(what, ", "), onKind(kind), name, to)
			if again {
				one += " WITH GRANT OPTION"
			}
			if g.By != "" {
				sql = append(sql, "SET LOCAL ROLE "+traits.Ident(g.By), one, "RESET ROLE")
			} else {
				sql = append(sql, one)
			}
		}
		i = n
	}
	for _, l := range r.SecurityLabels {
		on := kind + " " + name
		if l.Column != "" {
			on = "COLUMN " + name + "." + traits.Ident(l.Column)
		}
		sql = append(sql, fmt.Sprintf("SECURITY LABEL FOR %s ON %s IS %s", traits.Ident(l.Provider), on, traits.Literal(l.Label)))
	}
	return sql
}

// pinned are the statements that give an index what it was altered to have, and let a table stand on
// it again, where it did: CLUSTER's order and the identity that rows are published by.
func pinned(table catalog.Ref, x *catalog.Index) []string {
	sql := noted(table.Schema, x)
	if strings.Contains(x.Pinned, traits.PinnedReplica) {
		sql = append(sql, fmt.Sprintf("ALTER TABLE %s REPLICA IDENTITY USING INDEX %s", traits.Relation(table), traits.Ident(x.Name)))
	}
	if strings.Contains(x.Pinned, traits.PinnedCluster) {
		sql = append(sql, fmt.Sprintf("ALTER TABLE %s CLUSTER ON %s", traits.Relation(table), traits.Ident(x.Name)))
	}
	return sql
}

// noted are the statements that say how many values of an index's expressions are noted.
func noted(schema string, x *catalog.Index) []string {
	var sql []string
	for i, p := range x.Parts {
		if p.Statistics != "" {
			sql = append(sql, fmt.Sprintf("ALTER INDEX %s ALTER COLUMN %d SET STATISTICS %s", traits.Qualified(schema, x.Name), i+1, p.Statistics))
		}
	}
	return sql
}
