package read

import (
	"slices"
	"strings"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqllex"
)

// edge says that one object needs another.
type edge struct{ from, to object }

const dependQuery = `SELECT classid, objid, refclassid, refobjid, refobjsubid, deptype FROM pg_depend
		WHERE objid >= ` + own + ` AND refobjid >= ` + own + ` AND refclassid <> 2615 AND (deptype = 'n' OR deptype = 'a' AND classid NOT IN (1259, 2606))`

// needs reads what must be there before what, from the engine's own record
// (https://www.postgresql.org/docs/current/catalog-pg-depend.html).
func (r *reader) needs() {
	var edges []edge
	var dependences []dependence
	r.each(dependQuery, func(v row) {
		e := edge{object{class: v.oid(0), oid: v.oid(1)}, object{class: v.oid(2), oid: v.oid(3)}}
		switch {
		case e.from.class == classConstraint: // foreign keys and checks, which the model knows
		case e.from.class == classClass && e.to.class != classType: // heirs, indexes and sequences, which it knows too
		case e.to.class == classClass, e.to.class == classConstraint, e.to.class == classType && e.from.class != classType:
			dependences = append(dependences, dependence{edge: e, column: int16(v.int(4))})
		}
		switch e.from.class {
		case classTrigger, classPolicy, classStatistics:
		default:
			if v.one(5) == 'n' {
				edges = append(edges, e)
			}
		}
	})
	// What has no name of its own stands for what it is part of: a default or a
	// check for its table, a rule for its view, a row's or an array's type for
	// the table or type behind it.
	alias := func(query string, from, to uint32) {
		r.each(query, func(v row) { r.standsFor[object{class: from, oid: v.oid(0)}] = object{class: to, oid: v.oid(1)} })
	}
	alias(`SELECT oid, ev_class FROM pg_rewrite WHERE oid >= `+own, classRewrite, classClass)
	r.dependants(dependences)
	alias(`SELECT oid, contypid FROM pg_constraint WHERE contype = 'c' AND contypid <> 0`, classConstraint, classType)
	unknown := map[uint32]bool{}
	for _, e := range edges {
		if _, ok := r.things[e.to]; !ok && e.to.class == classType {
			unknown[e.to.oid] = true
		}
	}
	types := among{`SELECT DISTINCT refobjid FROM pg_depend WHERE refclassid = 1247 AND refobjid >= ` + own, chosen(unknown)}
	r.eachOf(`SELECT oid, typelem FROM pg_type WHERE typelem >= `+own+` AND oid = ANY(%s)`, types, func(v row) {
		r.standsFor[object{class: classType, oid: v.oid(0)}] = object{class: classType, oid: v.oid(1)}
	})
	r.eachOf(`SELECT x, t.oid, t.typrelid FROM unnest(%s) x JOIN pg_type e ON e.oid = x
		JOIN pg_type t ON t.oid = CASE WHEN e.typcategory = 'A' THEN e.typelem ELSE e.oid END JOIN pg_class c ON c.oid = t.typrelid WHERE t.typtype = 'c' AND c.relkind <> 'c'`, types, func(v row) {
		r.standsFor[object{class: classType, oid: v.oid(1)}] = object{class: classClass, oid: v.oid(2)}
	})
	if r.version >= 140000 {
		alias(`SELECT rngmultitypid, rngtypid FROM pg_range WHERE rngtypid >= `+own, classType, classType)
	}
	thing := func(o object) (catalog.ObjectRef, bool) {
		for range 3 {
			if t, ok := r.things[o]; ok {
				return t, true
			}
			next, ok := r.standsFor[o]
			if !ok {
				break
			}
			o = next
		}
		return catalog.ObjectRef{}, false
	}
	all := map[catalog.ObjectRef][]catalog.ObjectRef{}
	for _, e := range edges {
		a, knownA := thing(e.from)
		b, knownB := thing(e.to)
		if knownA && knownB && a != b && b.Kind != catalog.KindSchema {
			all[a] = append(all[a], b)
		}
	}
	if r.err != nil {
		return
	}
	take := func(kind, schema, name string, into *[]catalog.ObjectRef) {
		list := append(*into, all[catalog.ObjectRef{Kind: kind, Schema: schema, Name: name}]...)
		slices.SortFunc(list, catalog.ObjectRef.Compare)
		*into = slices.Compact(list)
	}
	for _, s := range r.catalog.Schemas {
		for _, t := range s.Tables {
			take(catalog.KindTable, s.Name, t.Name, &t.Needs)
		}
		for _, v := range s.Views {
			take(catalog.KindView, s.Name, v.Name, &v.Reads)
		}
		for _, y := range s.Types {
			take(catalog.KindType, s.Name, y.Name, &y.Needs)
		}
		for _, f := range s.Routines {
			take(catalog.KindRoutine, s.Name, f.Signature(), &f.Needs)
		}
		for _, o := range s.Objects {
			take(o.Kind, s.Name, o.Name, &o.Needs)
		}
	}
	for _, o := range r.catalog.Objects {
		take(o.Kind, "", o.Name, &o.Needs)
	}
	r.touches()
}

// touches looks for names of relations in the routines' texts: for what is
// written in a language of its own the engine keeps no record.
func (r *reader) touches() {
	scanned := map[uint32]*catalog.Routine{}
	for oid, f := range r.routines {
		if f.Definition != "" && f.Language != "c" && f.Language != "internal" {
			scanned[oid] = f
		}
	}
	if len(scanned) == 0 {
		return
	}
	names, tables := sqllex.NewNames(strings.ToLower, sqllex.AsIs), map[catalog.ObjectRef]uint32{}
	for o, t := range r.things {
		if o.class == classClass && t.Kind != catalog.KindType {
			names.Add(t, t.Name)
			tables[t] = o.oid
		}
	}
	typist := r.typist()
	for oid, f := range scanned {
		f.Touches = names.In(Reader{}.Dialect(), f.Definition, "")
		r.mentions(oid, f, tables, typist)
	}
}

// readStatistics reads what the engine has noted of rows and values
// (https://www.postgresql.org/docs/current/monitoring-stats.html).
func (r *reader) readStatistics() {
	// Where they were never reset, they are at least as old as the server's run.
	r.ask(`SELECT coalesce(stats_reset, pg_postmaster_start_time()) FROM pg_stat_database WHERE datname = current_database()`, func(scan func(...any) error) error {
		var at time.Time
		err := scan(&at)
		r.catalog.Settings = append(r.catalog.Settings, catalog.Setting{Name: "statistics_since", Value: at.UTC().Format(time.RFC3339)})
		return err
	})
	// The view asks of each column whether it may be read: of the server's own too, unless the schemas
	// are known before.
	r.rows(question{text: `SELECT schemaname::text, tablename::text, attname::text, null_frac::float8, n_distinct::float8, coalesce(most_common_freqs[1], 0)::float8 FROM pg_stats
		WHERE schemaname = ANY (ARRAY(SELECT nspname FROM pg_namespace WHERE nspname NOT IN ('pg_catalog', 'information_schema', 'pg_toast'))) AND NOT inherited`,
		vain: len(r.analysed) == 0}, func(v row) error {
		var schema, table, column string
		var nulls, distinct, common float64
		if err := v.scan(&schema, &table, &column, &nulls, &distinct, &common); err != nil {
			return err
		}
		r.valueStatistics(catalog.Ref{Schema: schema, Table: table}, column, nulls, distinct, common)
		return nil
	})
}

// valueStatistics: a negative number of distinct values is a share of the rows.
func (r *reader) valueStatistics(ref catalog.Ref, column string, nulls, distinct, common float64) {
	if r.lookup == nil {
		r.lookup = r.catalog.Lookup()
	}
	t := r.lookup.Table(ref)
	if t == nil {
		return
	}
	c := t.Column(column)
	if c == nil {
		return
	}
	c.Stats.Nulls, c.Stats.Common = &nulls, &common
	if distinct < 0 && t.Stats.Rows != nil {
		distinct *= -float64(*t.Stats.Rows)
	}
	if distinct > 0 {
		c.Stats.Distinct = &distinct
	}
}
