package read

import (
	"fmt"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/postgres/traits"
)

// userTypes reads the types that somebody made
// (https://www.postgresql.org/docs/current/catalog-pg-type.html).
func (r *reader) userTypes() {
	found := map[uint32]*catalog.UserType{}
	r.made = found
	composites := map[uint32]*catalog.UserType{} // by the oid of their relation
	r.ask(`SELECT t.oid, t.typnamespace, t.typname::text, t.typtype::text, t.typrelid, t.typnotnull, coalesce(CASE WHEN t.typtype = 'd' THEN pg_get_expr(t.typdefaultbin, 0) END, ''),
			t.typcollation, b.oid, b.typname::text, b.typtype::text, b.typcategory::text, coalesce(b.typcollation, 0), t.typtypmod,
			CASE WHEN t.typtype = 'd' THEN format_type(t.typbasetype, t.typtypmod) END
		FROM pg_type t LEFT JOIN pg_class c ON c.oid = t.typrelid LEFT JOIN pg_type b ON b.oid = t.typbasetype
		WHERE t.oid >= `+own+` AND (t.typtype IN ('e', 'd', 'r') OR t.typtype = 'c' AND c.relkind = 'c' OR t.typtype = 'b' AND t.typelem = 0)`,
		func(scan func(...any) error) error {
			var oid, space, relation, collation uint32
			var kind string
			var base struct {
				oid, collation       *uint32
				name, kind, category *string
			}
			var native *string
			var mod int32
			y := &catalog.UserType{}
			if err := scan(&oid, &space, &y.Name, &kind, &relation, &y.Required, &y.Default, &collation,
				&base.oid, &base.name, &base.kind, &base.category, &base.collation, &mod, &native); err != nil {
				return err
			}
			schema, ok := r.names[space]
			if !ok {
				return nil
			}
			y.Kind = map[string]catalog.TypeKind{"e": catalog.EnumType, "d": catalog.DomainType, "r": catalog.RangeType, "c": catalog.CompositeType, "b": catalog.BaseType}[kind]
			o := object{class: classType, oid: oid}
			y.Comment, y.Extension = r.comments[o], r.members[o]
			if kind == "c" { // the comment may be on either of the two
				rel := object{class: classClass, oid: relation}
				if y.Extension == "" {
					y.Extension = r.members[rel]
				}
				composites[relation] = y
				r.things[rel] = catalog.ObjectRef{Kind: catalog.KindType, Schema: schema, Name: y.Name}
			}
			if kind == "d" && native != nil {
				base := pgType{oid: *base.oid, name: *base.name, kind: *base.kind, category: *base.category, collation: *base.collation}
				said := ""
				if collation != base.collation {
					said = r.collations[collation]
				}
				is := typeOf(*native, base, mod, said, r.domains)
				y.Base = &is
			}
			s := r.schemas[schema]
			s.Types = append(s.Types, y)
			found[oid] = y
			r.things[o] = catalog.ObjectRef{Kind: catalog.KindType, Schema: schema, Name: y.Name}
			return nil
		})
	r.ask(`SELECT enumtypid, enumlabel::text FROM pg_enum ORDER BY enumtypid, enumsortorder`, func(scan func(...any) error) error {
		var oid uint32
		var label string
		err := scan(&oid, &label)
		if y := found[oid]; y != nil {
			y.Labels = append(y.Labels, label)
		}
		return err
	})
	// Those that forbid null are here from version 17 on.
	r.ask(`SELECT k.contypid, k.conname::text, coalesce(pg_get_expr(k.conbin, 0), ''), k.convalidated, k.oid, k.contype = 'n' FROM pg_constraint k WHERE k.contypid <> 0 AND k.contype IN ('c', 'n')`,
		func(scan func(...any) error) error {
			var oid, id uint32
			var valid, notNull bool
			k := &catalog.Check{}
			err := scan(&oid, &k.Name, &k.Expression, &valid, &id, &notNull)
			k.NotValidated, k.Comment = !valid, r.comments[object{class: classConstraint, oid: id}]
			switch y := found[oid]; {
			case y == nil:
			case !notNull:
				y.Checks = append(y.Checks, k)
			case k.Name != traits.NotNullName(y.Name, "") || k.Comment != "":
				y.NotNull = &catalog.NotNull{Name: k.Name, Comment: k.Comment}
			}
			return err
		})
	r.ask(`SELECT a.attrelid, a.attname::text, format_type(a.atttypid, a.atttypmod), a.atttypmod, a.attnum, t.oid, t.typname::text, t.typtype::text, t.typcategory::text,
			CASE WHEN a.attcollation <> t.typcollation THEN a.attcollation ELSE 0 END
		FROM pg_attribute a JOIN pg_class c ON c.oid = a.attrelid JOIN pg_type t ON t.oid = a.atttypid
		WHERE c.relkind = 'c' AND a.attnum > 0 AND NOT a.attisdropped ORDER BY a.attrelid, a.attnum`, func(scan func(...any) error) error {
		var relation, collation uint32
		var native string
		var mod int32
		var number int16
		var t pgType
		c := &catalog.Column{Nullable: true}
		if err := scan(&relation, &c.Name, &native, &mod, &number, &t.oid, &t.name, &t.kind, &t.category, &collation); err != nil {
			return err
		}
		if y := composites[relation]; y != nil {
			c.Type = typeOf(native, t, mod, r.collations[collation], r.domains)
			c.Comment = r.comments[object{classClass, relation, int32(number)}]
			y.Attributes = append(y.Attributes, c)
		}
		return nil
	})
	multirange := "''"
	if r.version >= 140000 {
		multirange = "(SELECT quote_ident(n.nspname) || '.' || quote_ident(m.typname) FROM pg_type m JOIN pg_namespace n ON n.oid = m.typnamespace WHERE m.oid = g.rngmultitypid)"
	}
	r.ask(`SELECT g.rngtypid, format_type(g.rngsubtype, NULL), CASE WHEN o.opcdefault THEN '' ELSE quote_ident(on_.nspname) || '.' || quote_ident(o.opcname) END,
			CASE WHEN g.rngcollation <> s.typcollation THEN g.rngcollation ELSE 0 END, g.rngcanonical::oid::regproc::text, g.rngsubdiff::oid::regproc::text, coalesce(`+multirange+`, '')
		FROM pg_range g JOIN pg_opclass o ON o.oid = g.rngsubopc JOIN pg_namespace on_ ON on_.oid = o.opcnamespace JOIN pg_type s ON s.oid = g.rngsubtype
		WHERE g.rngtypid >= `+own, func(scan func(...any) error) error {
		var oid, collation uint32
		var subtype, class, canonical, difference, multi string
		if err := scan(&oid, &subtype, &class, &collation, &canonical, &difference, &multi); err != nil {
			return err
		}
		y := found[oid]
		if y == nil {
			return nil
		}
		parts := []string{"SUBTYPE = " + subtype}
		for _, p := range []struct{ name, value string }{{"SUBTYPE_OPCLASS", class}, {"COLLATION", traits.CollationName(r.collations[collation])},
			{"CANONICAL", canonical}, {"SUBTYPE_DIFF", difference}, {"MULTIRANGE_TYPE_NAME", multi}} {
			if p.value != "" && p.value != "-" {
				parts = append(parts, p.name+" = "+p.value)
			}
		}
		y.Definition = strings.Join(parts, ", ")
		return nil
	})
	for oid, y := range found {
		if y.Kind == catalog.BaseType && y.Extension == "" {
			r.gap(r.things[object{class: classType, oid: oid}].Schema, "", fmt.Sprintf("definition of type %s", y.Name), "it is made of routines in C, which a catalog does not hold")
		}
	}
}

// readRoutines reads functions, procedures and aggregates
// (https://www.postgresql.org/docs/current/catalog-pg-proc.html).
func (r *reader) readRoutines() {
	kinds := map[string]string{"f": "function", "p": "procedure", "a": "aggregate", "w": "window function"}
	var plain []uint32
	r.ask(`SELECT p.oid, p.pronamespace, p.proname::text, p.prokind::text, l.lanname::text, pg_get_function_identity_arguments(p.oid), coalesce(pg_get_function_result(p.oid), '')
		FROM pg_proc p JOIN pg_language l ON l.oid = p.prolang WHERE p.oid >= `+own+`
			AND NOT EXISTS (SELECT FROM pg_depend d WHERE d.classid = 1255 AND d.objid = p.oid AND d.deptype = 'i')`, func(scan func(...any) error) error {
		var oid, space uint32
		var kind string
		var arguments *string // null: it was dropped meanwhile
		f := &catalog.Routine{}
		if err := scan(&oid, &space, &f.Name, &kind, &f.Language, &arguments, &f.Returns); err != nil {
			return err
		}
		schema, ok := r.names[space]
		if !ok || arguments == nil {
			return nil
		}
		f.Arguments = *arguments
		o := object{class: classProc, oid: oid}
		f.Kind, f.Comment, f.Extension = kinds[kind], r.comments[o], r.members[o]
		if kind == "a" {
			f.Language = ""
		}
		s := r.schemas[schema]
		s.Routines = append(s.Routines, f)
		r.routines[oid] = f
		r.things[o] = catalog.ObjectRef{Kind: catalog.KindRoutine, Schema: schema, Name: f.Signature()}
		if kind != "a" && f.Extension == "" {
			plain = append(plain, oid)
		}
		return nil
	})
	r.texts(`SELECT oid, pg_get_functiondef(oid) FROM unnest(%s) oid`, among{`SELECT oid FROM pg_proc WHERE prokind <> 'a' AND oid >= ` + own, plain}, func(oid uint32) catalog.ObjectRef { return r.things[object{class: classProc, oid: oid}] },
		func(oid uint32, text string) { r.routines[oid].Definition = strings.TrimSpace(text) })
	r.aggregates()
}

// aggregates writes what the engine has no text for
// (https://www.postgresql.org/docs/current/catalog-pg-aggregate.html).
func (r *reader) aggregates() {
	routine := func(column string) string {
		return "CASE WHEN " + column + " <> 0 THEN " + column + "::oid::regproc::text ELSE '' END"
	}
	modify := map[string]string{"r": "READ_ONLY", "s": "SHAREABLE", "w": "READ_WRITE"}
	r.ask(`SELECT a.aggfnoid::oid, a.aggkind::text, pg_get_function_arguments(a.aggfnoid), p.proparallel::text, format_type(a.aggtranstype, NULL), a.aggtransspace,
			coalesce(format_type(nullif(a.aggmtranstype, 0), NULL), ''), a.aggmtransspace, a.agginitval, a.aggminitval, a.aggfinalextra, a.aggmfinalextra, a.aggfinalmodify::text, a.aggmfinalmodify::text,
			coalesce((SELECT quote_ident(n.nspname) || '.' || o.oprname FROM pg_operator o JOIN pg_namespace n ON n.oid = o.oprnamespace WHERE o.oid = a.aggsortop), ''),
			ARRAY[`+routine("a.aggtransfn")+`, `+routine("a.aggfinalfn")+`, `+routine("a.aggcombinefn")+`, `+routine("a.aggserialfn")+`, `+routine("a.aggdeserialfn")+`, `+
		routine("a.aggmtransfn")+`, `+routine("a.aggminvtransfn")+`, `+routine("a.aggmfinalfn")+`]
		FROM pg_aggregate a JOIN pg_proc p ON p.oid = a.aggfnoid WHERE a.aggfnoid::oid >= `+own, func(scan func(...any) error) error {
		var oid uint32
		var kind, arguments, parallel, state, movingState, modifies, movingModifies, sort string
		var space, movingSpace int64
		var initial, movingInitial *string
		var extra, movingExtra bool
		var routines []string
		if err := scan(&oid, &kind, &arguments, &parallel, &state, &space, &movingState, &movingSpace, &initial, &movingInitial, &extra, &movingExtra, &modifies, &movingModifies, &sort, &routines); err != nil {
			return err
		}
		f := r.routines[oid]
		if f == nil {
			return nil
		}
		if arguments == "" {
			arguments = "*"
		}
		parts := []string{"SFUNC = " + routines[0], "STYPE = " + state}
		more := func(is bool, text string) {
			if is {
				parts = append(parts, text)
			}
		}
		text := func(name string, value *string) {
			if value != nil {
				parts = append(parts, name+" = "+traits.Literal(*value))
			}
		}
		more(space != 0, fmt.Sprintf("SSPACE = %d", space))
		more(routines[1] != "", "FINALFUNC = "+routines[1])
		more(extra, "FINALFUNC_EXTRA")
		more(routines[1] != "" && (kind == "n") != (modifies == "r"), "FINALFUNC_MODIFY = "+modify[modifies])
		more(routines[2] != "", "COMBINEFUNC = "+routines[2])
		more(routines[3] != "", "SERIALFUNC = "+routines[3])
		more(routines[4] != "", "DESERIALFUNC = "+routines[4])
		text("INITCOND", initial)
		more(routines[5] != "", "MSFUNC = "+routines[5])
		more(routines[6] != "", "MINVFUNC = "+routines[6])
		more(movingState != "", "MSTYPE = "+movingState)
		more(movingSpace != 0, fmt.Sprintf("MSSPACE = %d", movingSpace))
		more(routines[7] != "", "MFINALFUNC = "+routines[7])
		more(movingExtra, "MFINALFUNC_EXTRA")
		more(routines[7] != "" && (kind == "n") != (movingModifies == "r"), "MFINALFUNC_MODIFY = "+modify[movingModifies])
		text("MINITCOND", movingInitial)
		more(sort != "", "SORTOP = OPERATOR("+sort+")")
		more(kind == "h", "HYPOTHETICAL")
		more(parallel != "u", "PARALLEL = "+map[string]string{"s": "SAFE", "r": "RESTRICTED"}[parallel])
		o := r.things[object{class: classProc, oid: oid}]
		f.Definition = fmt.Sprintf("CREATE AGGREGATE %s(%s) (%s)", traits.Qualified(o.Schema, f.Name), arguments, strings.Join(parts, ", "))
		return nil
	})
}
