package read

import (
	"fmt"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/postgres/traits"
)

// readObjects reads what is rare: its text is put together here, since the
// engine keeps none.
func (r *reader) readObjects() {
	r.extensions()
	r.readCollations()
	r.operators()
	r.casts()
	r.textSearch()
	r.foreignServers()
	r.eventTriggers()
	r.unwritten()
}

// keep puts the object into its schema, or the database where it has none. It
// is left out where its schema was.
func (r *reader) keep(id object, schema uint32, o *catalog.Object) {
	o.Comment, o.Extension = r.comments[id], r.members[id]
	name := ""
	if schema == 0 {
		r.catalog.Objects = append(r.catalog.Objects, o)
	} else {
		s := r.schemas[r.names[schema]]
		if s == nil {
			return
		}
		name = s.Name
		s.Objects = append(s.Objects, o)
	}
	r.things[id] = catalog.ObjectRef{Kind: o.Kind, Schema: name, Name: o.Name}
}

func (r *reader) extensions() {
	r.ask(`SELECT x.oid, x.extname::text, n.nspname::text, x.extrelocatable FROM pg_extension x JOIN pg_namespace n ON n.oid = x.extnamespace`, func(scan func(...any) error) error {
		id := object{class: classExtension}
		var schema string
		var movable bool
		o := &catalog.Object{Kind: "extension"}
		if err := scan(&id.oid, &o.Name, &schema, &movable); err != nil {
			return err
		}
		o.Definition = "CREATE EXTENSION IF NOT EXISTS " + traits.Ident(o.Name)
		if r.schemas[schema] != nil {
			o.Needs = append(o.Needs, catalog.ObjectRef{Kind: catalog.KindSchema, Name: schema})
			if r.schemas[schema].Extension != o.Name {
				o.Definition += " WITH SCHEMA " + traits.Ident(schema)
			}
		}
		r.keep(id, 0, o)
		return nil
	})
}

// readCollations: https://www.postgresql.org/docs/current/catalog-pg-collation.html.
func (r *reader) readCollations() {
	locale, deterministic, rules := "NULL", "l.collisdeterministic", "NULL"
	if r.version >= 160000 {
		rules = "l.collicurules"
	}
	switch {
	case r.version >= 170000:
		locale = "l.colllocale"
	case r.version >= 150000:
		locale = "l.colliculocale"
	}
	r.ask(`SELECT l.oid, l.collnamespace, l.collname::text, l.collprovider::text, coalesce(l.collcollate::text, ''), coalesce(l.collctype::text, ''), coalesce(`+locale+`, ''), `+deterministic+`, coalesce(`+rules+`, '')
		FROM pg_collation l WHERE l.oid >= `+own, func(scan func(...any) error) error {
		id := object{class: classCollation}
		var space uint32
		var provider, collate, ctype, locale, rules string
		var fixed bool
		o := &catalog.Object{Kind: "collation"}
		if err := scan(&id.oid, &space, &o.Name, &provider, &collate, &ctype, &locale, &fixed, &rules); err != nil {
			return err
		}
		var parts []string
		if name := map[string]string{"c": "libc", "i": "icu", "b": "builtin"}[provider]; name != "" {
			parts = append(parts, "PROVIDER = "+name)
		}
		switch {
		case locale != "":
			parts = append(parts, "LOCALE = "+traits.Literal(locale))
		case collate == ctype:
			parts = append(parts, "LOCALE = "+traits.Literal(collate))
		default:
			parts = append(parts, "LC_COLLATE = "+traits.Literal(collate), "LC_CTYPE = "+traits.Literal(ctype))
		}
		if !fixed {
			parts = append(parts, "DETERMINISTIC = false")
		}
		if rules != "" {
			parts = append(parts, "RULES = "+traits.Literal(rules))
		}
		if schema := r.names[space]; schema != "" {
			o.Definition = fmt.Sprintf("CREATE COLLATION %s (%s)", traits.Qualified(schema, o.Name), strings.Join(parts, ", "))
			r.keep(id, space, o)
		}
		return nil
	})
}

// operators: https://www.postgresql.org/docs/current/catalog-pg-operator.html.
func (r *reader) operators() {
	named := func(column string) string {
		return `coalesce((SELECT 'OPERATOR(' || quote_ident(m.nspname) || '.' || x.oprname || ')' FROM pg_operator x JOIN pg_namespace m ON m.oid = x.oprnamespace WHERE x.oid = ` + column + `), '')`
	}
	r.ask(`SELECT o.oid, o.oprnamespace, o.oprname::text, coalesce(format_type(nullif(o.oprleft, 0), NULL), ''), coalesce(format_type(nullif(o.oprright, 0), NULL), ''),
			o.oprcode::text, `+named("o.oprcom")+`, `+named("o.oprnegate")+`, o.oprrest::text, o.oprjoin::text, o.oprcanhash, o.oprcanmerge
		FROM pg_operator o WHERE o.oid >= `+own+` AND o.oprcode <> 0`, func(scan func(...any) error) error {
		id := object{class: classOperator}
		var space uint32
		var name, left, right, code, commutator, negator, restrict, join string
		var hashes, merges bool
		if err := scan(&id.oid, &space, &name, &left, &right, &code, &commutator, &negator, &restrict, &join, &hashes, &merges); err != nil {
			return err
		}
		parts := []string{"FUNCTION = " + code}
		for _, p := range []struct{ name, value string }{{"LEFTARG", left}, {"RIGHTARG", right}, {"COMMUTATOR", commutator}, {"NEGATOR", negator}, {"RESTRICT", restrict}, {"JOIN", join}} {
			if p.value != "" && p.value != "-" {
				parts = append(parts, p.name+" = "+p.value)
			}
		}
		if hashes {
			parts = append(parts, "HASHES")
		}
		if merges {
			parts = append(parts, "MERGES")
		}
		if schema := r.names[space]; schema != "" {
			or := func(s string) string {
				if s == "" {
					return "NONE"
				}
				return s
			}
			r.keep(id, space, &catalog.Object{Kind: "operator", Name: fmt.Sprintf("%s (%s, %s)", name, or(left), or(right)),
				Definition: fmt.Sprintf("CREATE OPERATOR %s.%s (%s)", traits.Ident(schema), name, strings.Join(parts, ", "))})
		}
		return nil
	})
}

// casts: https://www.postgresql.org/docs/current/catalog-pg-cast.html.
func (r *reader) casts() {
	r.ask(`SELECT k.oid, format_type(k.castsource, NULL), format_type(k.casttarget, NULL), k.castcontext::text, k.castmethod::text, CASE WHEN k.castfunc <> 0 THEN k.castfunc::regprocedure::text ELSE '' END
		FROM pg_cast k WHERE k.oid >= `+own+`
			AND NOT EXISTS (SELECT FROM pg_depend d WHERE d.classid = 2605 AND d.objid = k.oid AND d.deptype = 'i')`, func(scan func(...any) error) error {
		id := object{class: classCast}
		var from, to, context, method, routine string
		if err := scan(&id.oid, &from, &to, &context, &method, &routine); err != nil {
			return err
		}
		text := fmt.Sprintf("CREATE CAST (%s AS %s) ", from, to)
		switch method {
		case "f":
			text += "WITH FUNCTION " + routine
		case "i":
			text += "WITH INOUT"
		default:
			text += "WITHOUT FUNCTION"
		}
		text += map[string]string{"a": " AS ASSIGNMENT", "i": " AS IMPLICIT"}[context]
		r.keep(id, 0, &catalog.Object{Kind: "cast", Name: fmt.Sprintf("(%s AS %s)", from, to), Definition: text})
		return nil
	})
}

// textSearch: https://www.postgresql.org/docs/current/catalog-pg-ts-config.html.
func (r *reader) textSearch() {
	r.ask(`SELECT d.oid, d.dictnamespace, d.dictname::text, quote_ident(n.nspname) || '.' || quote_ident(t.tmplname), coalesce(d.dictinitoption, '')
		FROM pg_ts_dict d JOIN pg_ts_template t ON t.oid = d.dicttemplate JOIN pg_namespace n ON n.oid = t.tmplnamespace WHERE d.oid >= `+own, func(scan func(...any) error) error {
		id := object{class: classDictionary}
		var space uint32
		var template, options string
		o := &catalog.Object{Kind: "text search dictionary"}
		if err := scan(&id.oid, &space, &o.Name, &template, &options); err != nil {
			return err
		}
		if options != "" {
			options = ", " + options
		}
		o.Definition = fmt.Sprintf("CREATE TEXT SEARCH DICTIONARY %s (TEMPLATE = %s%s)", traits.Qualified(r.names[space], o.Name), template, options)
		r.keep(id, space, o)
		return nil
	})
	r.ask(`SELECT c.oid, c.cfgnamespace, c.cfgname::text, quote_ident(n.nspname) || '.' || quote_ident(p.prsname),
			array(SELECT t.alias || ' WITH ' || string_agg(quote_ident(dn.nspname) || '.' || quote_ident(d.dictname), ', ' ORDER BY m.mapseqno)
				FROM pg_ts_config_map m JOIN ts_token_type(c.cfgparser) t ON t.tokid = m.maptokentype JOIN pg_ts_dict d ON d.oid = m.mapdict JOIN pg_namespace dn ON dn.oid = d.dictnamespace
				WHERE m.mapcfg = c.oid GROUP BY t.alias, m.maptokentype ORDER BY m.maptokentype)
		FROM pg_ts_config c JOIN pg_ts_parser p ON p.oid = c.cfgparser JOIN pg_namespace n ON n.oid = p.prsnamespace WHERE c.oid >= `+own, func(scan func(...any) error) error {
		id := object{class: classSearch}
		var space uint32
		var parser string
		var mappings []string
		o := &catalog.Object{Kind: "text search configuration"}
		if err := scan(&id.oid, &space, &o.Name, &parser, &mappings); err != nil {
			return err
		}
		name := traits.Qualified(r.names[space], o.Name)
		o.Definition = fmt.Sprintf("CREATE TEXT SEARCH CONFIGURATION %s (PARSER = %s)", name, parser)
		for _, m := range mappings {
			o.Definition += fmt.Sprintf(";\nALTER TEXT SEARCH CONFIGURATION %s ADD MAPPING FOR %s", name, m)
		}
		r.keep(id, space, o)
		return nil
	})
}

// openOptions are the options in a column of %s that hold no secret. Any wrapper
// may take a password, also at a table.
const openOptions = `array(SELECT quote_ident(option_name) || ' ' || quote_literal(option_value) FROM pg_options_to_table(%s) WHERE option_name !~* 'passw|secret|token')`

// foreignServers reads wrappers and servers, without user mappings, which hold
// passwords. The same goes for options of that name.
func (r *reader) foreignServers() {
	routine := func(column string) string {
		return "CASE WHEN " + column + " <> 0 THEN " + column + "::regproc::text ELSE '' END"
	}
	r.ask(`SELECT w.oid, w.fdwname::text, `+routine("w.fdwhandler")+`, `+routine("w.fdwvalidator")+`, `+fmt.Sprintf(openOptions, "w.fdwoptions")+` FROM pg_foreign_data_wrapper w`, func(scan func(...any) error) error {
		id := object{class: classWrapper}
		var handler, validator string
		var with []string
		o := &catalog.Object{Kind: "foreign-data wrapper"}
		if err := scan(&id.oid, &o.Name, &handler, &validator, &with); err != nil {
			return err
		}
		o.Definition = "CREATE FOREIGN DATA WRAPPER " + traits.Ident(o.Name)
		if handler != "" {
			o.Definition += " HANDLER " + handler
		}
		if validator != "" {
			o.Definition += " VALIDATOR " + validator
		}
		o.Definition += foreignOptions(with)
		r.keep(id, 0, o)
		return nil
	})
	r.ask(`SELECT s.oid, s.srvname::text, w.fdwname::text, coalesce(s.srvtype, ''), coalesce(s.srvversion, ''), `+fmt.Sprintf(openOptions, "s.srvoptions")+`
		FROM pg_foreign_server s JOIN pg_foreign_data_wrapper w ON w.oid = s.srvfdw`, func(scan func(...any) error) error {
		id := object{class: classServer}
		var wrapper, kind, version string
		var with []string
		o := &catalog.Object{Kind: "server"}
		if err := scan(&id.oid, &o.Name, &wrapper, &kind, &version, &with); err != nil {
			return err
		}
		o.Definition = "CREATE SERVER " + traits.Ident(o.Name)
		if kind != "" {
			o.Definition += " TYPE " + traits.Literal(kind)
		}
		if version != "" {
			o.Definition += " VERSION " + traits.Literal(version)
		}
		o.Definition += " FOREIGN DATA WRAPPER " + traits.Ident(wrapper) + foreignOptions(with)
		r.keep(id, 0, o)
		return nil
	})
}

func (r *reader) eventTriggers() {
	r.ask(`SELECT e.oid, e.evtname::text, e.evtevent::text, e.evtfoid::regproc::text, e.evtenabled::text, coalesce(e.evttags, '{}') FROM pg_event_trigger e`, func(scan func(...any) error) error {
		id := object{class: classEvent}
		var event, routine, enabled string
		var tags []string
		o := &catalog.Object{Kind: "event trigger"}
		if err := scan(&id.oid, &o.Name, &event, &routine, &enabled, &tags); err != nil {
			return err
		}
		o.Definition = "CREATE EVENT TRIGGER " + traits.Ident(o.Name) + " ON " + event
		for i, tag := range tags {
			tags[i] = traits.Literal(tag)
		}
		if len(tags) > 0 {
			o.Definition += " WHEN TAG IN (" + strings.Join(tags, ", ") + ")"
		}
		o.Definition += " EXECUTE FUNCTION " + routine + "()"
		if how := map[string]string{"D": "DISABLE", "R": "ENABLE REPLICA", "A": "ENABLE ALWAYS"}[enabled]; how != "" {
			o.Definition += ";\nALTER EVENT TRIGGER " + traits.Ident(o.Name) + " " + how
		}
		r.keep(id, 0, o)
		return nil
	})
}

// unwritten notes what there is and is not read, so that nobody takes it for
// absent.
func (r *reader) unwritten() {
	const not = "objects of this kind are not read"
	r.ask(`SELECT k, n, o FROM (
			SELECT 'operator class' AS k, n.nspname || '.' || c.opcname AS n, c.oid AS o, 2616 AS class FROM pg_opclass c JOIN pg_namespace n ON n.oid = c.opcnamespace
			UNION ALL SELECT 'operator family', n.nspname || '.' || c.opfname, c.oid, 2753 FROM pg_opfamily c JOIN pg_namespace n ON n.oid = c.opfnamespace
			UNION ALL SELECT 'conversion', n.nspname || '.' || c.conname, c.oid, 2607 FROM pg_conversion c JOIN pg_namespace n ON n.oid = c.connamespace
			UNION ALL SELECT 'text search parser', n.nspname || '.' || c.prsname, c.oid, 3601 FROM pg_ts_parser c JOIN pg_namespace n ON n.oid = c.prsnamespace
			UNION ALL SELECT 'text search template', n.nspname || '.' || c.tmplname, c.oid, 3764 FROM pg_ts_template c JOIN pg_namespace n ON n.oid = c.tmplnamespace
			UNION ALL SELECT 'access method', c.amname, c.oid, 2601 FROM pg_am c
			UNION ALL SELECT 'language', c.lanname, c.oid, 2612 FROM pg_language c
			UNION ALL SELECT 'publication', c.pubname, c.oid, 6104 FROM pg_publication c
			UNION ALL SELECT 'user mapping', 'of ' || u.usename || ' on ' || u.srvname, u.umid, 1418 FROM pg_user_mappings u
			UNION ALL SELECT 'transform', 'of ' || format_type(c.trftype, NULL), c.oid, 3576 FROM pg_transform c) x
		WHERE o >= `+own+` AND NOT EXISTS (SELECT FROM pg_depend d WHERE d.classid = x.class AND d.objid = x.o AND d.deptype = 'e')`, func(scan func(...any) error) error {
		var kind, name string
		var oid uint32
		err := scan(&kind, &name, &oid)
		why := not
		if kind == "user mapping" {
			why = "it may hold a password"
		}
		r.gap("", "", kind+" "+name, why)
		return err
	})
}
