package read

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/postgres/traits"
)

// viewTexts reads the queries of views.
func (r *reader) viewTexts() {
	r.texts(`SELECT oid, pg_get_viewdef(oid) FROM unnest(%s) oid`, among{`SELECT oid FROM pg_class WHERE relkind IN ('v', 'm') AND oid >= ` + own, sortedKeys(r.views)}, r.tableThing, func(oid uint32, text string) {
		r.views[oid].Definition = strings.TrimSuffix(strings.TrimSpace(text), ";")
	})
}

// readTriggers reads triggers and rewrite rules
// (https://www.postgresql.org/docs/current/catalog-pg-trigger.html).
func (r *reader) readTriggers() {
	// The bits of tgtype.
	const perRow, before, insert, remove, update, truncate, instead = 1, 2, 4, 8, 16, 32, 64
	parent := "0"
	if r.version >= 130000 {
		parent = "t.tgparentid"
	}
	found := map[uint32]*catalog.Trigger{}
	homes, calls := map[uint32]uint32{}, map[uint32]uint32{}
	r.ask(`SELECT t.oid, t.tgrelid, t.tgname::text, t.tgtype, t.tgenabled::text, `+parent+` <> 0, t.tgfoid FROM pg_trigger t
		WHERE NOT t.tgisinternal OR `+parent+` <> 0 AND t.tgconstraint = 0 ORDER BY t.tgrelid, t.tgname`,
		func(scan func(...any) error) error {
			var oid, table, routine uint32
			var bits int16
			var enabled string
			g := &catalog.Trigger{}
			if err := scan(&oid, &table, &g.Name, &bits, &enabled, &g.Inherited, &routine); err != nil {
				return err
			}
			g.PerRow = bits&perRow != 0
			switch {
			case bits&before != 0:
				g.Timing = "before"
			case bits&instead != 0:
				g.Timing = "instead of"
			default:
				g.Timing = "after"
			}
			for _, e := range []struct {
				bit  int16
				name string
			}{{insert, "insert"}, {update, "update"}, {remove, "delete"}, {truncate, "truncate"}} {
				if bits&e.bit != 0 {
					g.Events = append(g.Events, e.name)
				}
			}
			g.Enabled = map[string]string{"D": "disabled", "R": "replica", "A": "always"}[enabled]
			g.Comment = r.comments[object{class: classTrigger, oid: oid}]
			if o, ok := r.things[object{class: classProc, oid: routine}]; ok {
				g.Calls = o.Schema + "." + o.Name
			}
			switch t, v := r.tables[table], r.views[table]; {
			case t != nil:
				t.Triggers = append(t.Triggers, g)
			case v != nil:
				v.Triggers = append(v.Triggers, g)
			default:
				return nil
			}
			found[oid], homes[oid], calls[oid] = g, table, routine
			return nil
		})
	r.texts(`SELECT oid, pg_get_triggerdef(oid) FROM unnest(%s) oid`, among{`SELECT oid FROM pg_trigger WHERE NOT tgisinternal OR tgconstraint = 0`, sortedKeys(found)}, func(oid uint32) catalog.ObjectRef {
		return catalog.ObjectRef{Kind: "trigger", Schema: r.tableThing(homes[oid]).Schema, Name: found[oid].Name}
	}, func(oid uint32, text string) { found[oid].Definition = text })
	for _, oid := range sortedKeys(found) {
		r.drawsByTrigger(homes[oid], calls[oid], found[oid].Definition)
	}
	r.rules()
	r.policies()
	r.extendedStatistics()
}

// attached keeps an object with the table or view that it is on.
func (r *reader) attached(table uint32, o *catalog.Object) {
	if t := r.tables[table]; t != nil {
		t.Objects = append(t.Objects, o)
	} else if v := r.views[table]; v != nil {
		v.Objects = append(v.Objects, o)
	}
}

func (r *reader) rules() {
	found := map[uint32]*catalog.Object{}
	enabled := map[uint32]string{}
	r.ask(`SELECT u.oid, u.ev_class, u.rulename::text, u.ev_enabled::text FROM pg_rewrite u WHERE u.rulename <> '_RETURN' AND u.oid >= `+own,
		func(scan func(...any) error) error {
			var oid, table uint32
			var state string
			o := &catalog.Object{Kind: "rule"}
			if err := scan(&oid, &table, &o.Name, &state); err != nil {
				return err
			}
			o.Comment = r.comments[object{class: classRewrite, oid: oid}]
			r.attached(table, o)
			found[oid] = o
			if how := map[string]string{"D": "DISABLE", "R": "ENABLE REPLICA", "A": "ENABLE ALWAYS"}[state]; how != "" {
				if on, ok := r.things[object{class: classClass, oid: table}]; ok {
					enabled[oid] = ";\nALTER TABLE " + traits.Qualified(on.Schema, on.Name) + " " + how + " RULE " + traits.Ident(o.Name)
				}
			}
			return nil
		})
	r.texts(`SELECT oid, pg_get_ruledef(oid) FROM unnest(%s) oid`, among{`SELECT oid FROM pg_rewrite WHERE rulename <> '_RETURN' AND oid >= ` + own, sortedKeys(found)}, func(oid uint32) catalog.ObjectRef {
		return catalog.ObjectRef{Kind: "rule", Name: found[oid].Name}
	}, func(oid uint32, text string) { found[oid].Definition = strings.TrimSuffix(text, ";") + enabled[oid] })
}

// policies: https://www.postgresql.org/docs/current/catalog-pg-policy.html.
func (r *reader) policies() {
	r.ask(`SELECT p.oid, p.polrelid, p.polname::text, p.polcmd::text, p.polpermissive, coalesce(pg_get_expr(p.polqual, p.polrelid), ''), coalesce(pg_get_expr(p.polwithcheck, p.polrelid), ''),
			array(SELECT CASE WHEN x = 0 THEN 'PUBLIC' ELSE quote_ident(pg_get_userbyid(x)) END FROM unnest(p.polroles) x)
		FROM pg_policy p WHERE p.polrelid <> ALL(`+heldQuery+`)`, func(scan func(...any) error) error {
		var oid, table uint32
		var command, using, check string
		var permissive bool
		var roles []string
		o := &catalog.Object{Kind: "policy"}
		if err := scan(&oid, &table, &o.Name, &command, &permissive, &using, &check, &roles); err != nil {
			return err
		}
		on, ok := r.things[object{class: classClass, oid: table}]
		if !ok {
			return nil
		}
		o.Comment = r.comments[object{class: classPolicy, oid: oid}]
		text := "CREATE POLICY " + traits.Ident(o.Name) + " ON " + traits.Qualified(on.Schema, on.Name)
		if !permissive {
			text += " AS RESTRICTIVE"
		}
		text += map[string]string{"r": " FOR SELECT", "a": " FOR INSERT", "w": " FOR UPDATE", "d": " FOR DELETE"}[command]
		slices.Sort(roles)
		if len(roles) > 0 && !(len(roles) == 1 && roles[0] == "PUBLIC") {
			text += " TO " + strings.Join(roles, ", ")
		}
		if using != "" {
			text += " USING (" + using + ")"
		}
		if check != "" {
			text += " WITH CHECK (" + check + ")"
		}
		o.Definition = text
		r.attached(table, o)
		return nil
	})
}

func (r *reader) extendedStatistics() {
	found, more := map[uint32]*catalog.Object{}, map[uint32]string{}
	target := "NULL"
	if r.version >= 130000 {
		target = "nullif(stxstattarget, -1)"
	}
	r.ask(`SELECT oid, stxrelid, stxname::text, stxnamespace, `+target+`::int FROM pg_statistic_ext`, func(scan func(...any) error) error {
		var oid, table, space uint32
		var target *int
		o := &catalog.Object{Kind: "statistics"}
		if err := scan(&oid, &table, &o.Name, &space, &target); err != nil {
			return err
		}
		if target != nil { // which the engine's text does not say
			more[oid] = fmt.Sprintf(";\nALTER STATISTICS %s SET STATISTICS %d", traits.Qualified(r.names[space], o.Name), *target)
		}
		o.Comment = r.comments[object{class: classStatistics, oid: oid}]
		if schema, ok := r.names[space]; ok {
			r.attached(table, o)
			found[oid] = o
			o.Name = schema + "." + o.Name
		}
		return nil
	})
	r.texts(`SELECT oid, pg_get_statisticsobjdef(oid) FROM unnest(%s) oid`, among{`SELECT oid FROM pg_statistic_ext`, sortedKeys(found)}, func(oid uint32) catalog.ObjectRef {
		return catalog.ObjectRef{Kind: "statistics", Name: found[oid].Name}
	}, func(oid uint32, text string) { found[oid].Definition = text + more[oid] })
}
