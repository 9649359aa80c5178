package read

import (
	"cmp"
	"fmt"
	"slices"

	"nexdal/internal/catalog"
)

// classPublished is where the tables of publications are.
const classPublished = 6106

// A dependence says that an object needs a relation, one of its columns, or a constraint.
type dependence struct {
	edge
	column int16  // 0: the whole
	on     string // the constraint or index, where it is one
}

// dependants notes what leans on tables, views and sequences, as the engine's own record
// tells (https://www.postgresql.org/docs/current/catalog-pg-depend.html). What it does not
// know by kind it notes in the engine's words: whatever leans on an object bars its being
// altered, unless the writer carries it over.
func (r *reader) dependants(all []dependence) {
	if r.err != nil {
		return
	}
	policies, triggers, rowTypes := map[uint32]string{}, map[uint32]string{}, map[uint32]uint32{}
	policyOn, constraints := map[uint32]uint32{}, map[uint32]uint32{}
	constraintNames := map[uint32]string{}
	indexes := map[uint32]uint32{}
	r.each(`SELECT oid, polname, polrelid FROM pg_policy`, func(v row) { policies[v.oid(0)], policyOn[v.oid(0)] = v.text(1), v.oid(2) })
	r.each(`SELECT oid, tgname FROM pg_trigger WHERE NOT tgisinternal`, func(v row) { triggers[v.oid(0)] = v.text(1) })
	typed, constrained, indexed := map[uint32]bool{}, map[uint32]bool{}, map[uint32]bool{}
	for _, l := range all {
		switch {
		case l.to.class == classType:
			typed[l.to.oid] = true
		case l.to.class == classConstraint:
			constrained[l.to.oid] = true
		case r.indexes[l.to.oid] != nil:
			indexed[l.to.oid] = true
		}
	}
	refers := func(to uint32) string {
		return fmt.Sprintf(`SELECT refobjid FROM pg_depend WHERE refclassid = %d AND refobjid >= %s`, to, own)
	}
	r.eachOf(`SELECT oid, typrelid FROM pg_type WHERE typrelid <> 0 AND oid = ANY(%s)
		UNION ALL SELECT a.oid, e.typrelid FROM pg_type a JOIN pg_type e ON e.oid = a.typelem WHERE e.typrelid <> 0 AND a.oid = ANY(%s)`, among{refers(classType), chosen(typed)}, func(v row) { rowTypes[v.oid(0)] = v.oid(1) })
	r.eachOf(`SELECT oid, conrelid, conname FROM pg_constraint WHERE oid = ANY(%s)`, among{refers(classConstraint), chosen(constrained)}, func(v row) {
		constraints[v.oid(0)], constraintNames[v.oid(0)] = v.oid(1), v.text(2)
	})
	r.eachOf(`SELECT indexrelid, indrelid FROM pg_index WHERE indexrelid = ANY(%s)`, among{refers(classClass), chosen(indexed)}, func(v row) { indexes[v.oid(0)] = v.oid(1) })
	var odd []dependence
	for _, l := range all {
		on, relation, column := "", l.to.oid, l.column
		switch {
		case l.to.class == classType:
			if relation = rowTypes[l.to.oid]; relation == 0 {
				continue
			}
		case l.to.class == classConstraint:
			relation, on = constraints[l.to.oid], constraintNames[l.to.oid]
		case r.indexes[l.to.oid] != nil:
			relation, on = indexes[l.to.oid], r.indexes[l.to.oid].Name
		}
		kind, name, ok := r.leaner(l, relation, policies, triggers, policyOn)
		if !ok {
			continue
		}
		if kind == "" {
			l.to, l.column = object{class: classClass, oid: relation}, column
			l.on = on
			odd = append(odd, l)
			continue
		}
		r.lean(relation, column, catalog.Dependant{Kind: kind, Name: name, On: on})
	}
	r.identify(odd)
	r.computed()
	r.published()
	for _, t := range r.tables {
		for _, d := range t.Dependants {
			slices.SortFunc(d.Columns, func(a, b string) int {
				return slices.IndexFunc(t.Columns, columnNamed(a)) - slices.IndexFunc(t.Columns, columnNamed(b))
			})
		}
	}
}

// leaner says what leans there; ok is false for what is part of the relation itself, or is
// known by other means. An empty kind: the engine has to be asked.
func (r *reader) leaner(l dependence, relation uint32, policies, triggers map[uint32]string, policyOn map[uint32]uint32) (kind, name string, ok bool) {
	whole := l.column == 0
	switch l.from.class {
	case classRewrite:
		at := r.standsFor[l.from]
		o, known := r.things[at]
		switch {
		case !known:
			return "", "", true
		case at.oid == relation && (whole || r.views[relation] != nil):
			return "", "", false // its own rule
		case o.Kind == catalog.KindView:
			return "view", o.Schema + "." + o.Name, true
		}
		return "rule on", o.Schema + "." + o.Name, true
	case classDefault:
		home := r.homes[l.from.oid]
		g := r.columns[home.oid][int16(home.part)]
		if g == nil || home.oid != relation || whole {
			return "", "", false // a default that draws from a sequence, which the model knows
		}
		if c := r.columns[relation][l.column]; g == c {
			return "", "", false
		}
		return "generated column", g.Name, true
	case classProc:
		if o, known := r.things[l.from]; known {
			return "routine", o.Schema + "." + o.Name, true
		}
		return "", "", true
	case classPolicy:
		if whole && policyOn[l.from.oid] == relation {
			return "", "", false
		}
		return "policy", policies[l.from.oid], true
	case classTrigger:
		if name := triggers[l.from.oid]; name != "" && !whole {
			return "trigger", name, true
		}
		return "", "", false // the table's own, or the engine's
	case classStatistics, classConstraint, classPublished:
		return "", "", false // of the table itself; foreign keys, which the model knows; see published
	case classClass:
		if r.tables[l.from.oid] == nil || l.to.class != classType {
			return "", "", false // heirs, indexes and sequences, which the model knows
		}
		o := r.things[l.from]
		return "column of", o.Schema + "." + o.Name, true
	}
	return "", "", true
}

// lean notes what leans on a relation.
func (r *reader) lean(relation uint32, column int16, d catalog.Dependant) {
	var list *[]catalog.Dependant
	name := ""
	switch {
	case r.tables[relation] != nil:
		list = &r.tables[relation].Dependants
		if c := r.columns[relation][column]; c != nil {
			name = c.Name
		}
	case r.views[relation] != nil:
		if list = &r.views[relation].Dependants; d.Kind == "view" {
			return // which is made again with it
		}
	case r.sequences[relation] != nil:
		list = &r.sequences[relation].Dependants
	default:
		return
	}
	i := slices.IndexFunc(*list, func(o catalog.Dependant) bool { return o.Kind == d.Kind && o.Name == d.Name && o.On == d.On })
	if i < 0 {
		if name != "" {
			d.Columns = []string{name}
		}
		*list = append(*list, d)
		return
	}
	known := &(*list)[i]
	switch {
	case name == "" && d.On == "":
		known.Columns = nil // the whole of it
	case name != "" && known.Columns != nil && !slices.Contains(known.Columns, name):
		known.Columns = append(known.Columns, name)
	}
}

// computed notes the columns that are computed from others as the engine did before version
// 15: column from column, and not by the expression.
func (r *reader) computed() {
	if r.version >= 150000 {
		return
	}
	r.each(`SELECT objid, objsubid, refobjsubid FROM pg_depend WHERE classid = 1259 AND refclassid = 1259 AND objid = refobjid AND objsubid > 0 AND refobjsubid > 0 AND objid >= `+own, func(v row) {
		if g := r.columns[v.oid(0)][int16(v.int(1))]; g != nil {
			r.lean(v.oid(0), int16(v.int(2)), catalog.Dependant{Kind: "generated column", Name: g.Name})
		}
	})
}

// identify asks the engine what it calls what we do not know
// (https://www.postgresql.org/docs/current/functions-info.html, pg_identify_object).
func (r *reader) identify(odd []dependence) {
	oids := map[uint32]bool{}
	for _, l := range odd {
		oids[l.from.oid] = true
	}
	names := map[object][2]string{}
	r.eachOf(`SELECT o.objid, o.classid, i.type, i.identity FROM (SELECT DISTINCT classid, objid FROM pg_depend WHERE objid = ANY(%s) AND refobjid >= `+own+`) o, pg_identify_object(o.classid, o.objid, 0) i`,
		among{`SELECT objid FROM pg_depend WHERE objid >= ` + own + ` AND refobjid >= ` + own + ` AND classid NOT IN (1259, 2604, 2606, 3256, 2620, 3381, 6106)`, chosen(oids)}, func(v row) {
			names[object{class: v.oid(1), oid: v.oid(0)}] = [2]string{v.text(2), v.text(3)}
		})
	for _, l := range odd {
		n := names[l.from]
		r.lean(l.to.oid, l.column, catalog.Dependant{Kind: cmp.Or(n[0], "something"), Name: n[1], On: l.on})
	}
}

// published notes the publications that send a table, and the subscriptions that fill it
// (https://www.postgresql.org/docs/current/logical-replication-publication.html).
func (r *reader) published() {
	columns, schemas := "NULL::int2[]", ""
	if r.version >= 150000 {
		columns = "r.prattrs::int2[]"
		schemas = ` UNION ALL SELECT c.oid, p.pubname, NULL FROM pg_publication_namespace n JOIN pg_publication p ON p.oid = n.pnpubid JOIN pg_class c ON c.relnamespace = n.pnnspid AND c.relkind IN ('r', 'p')`
	}
	r.each(`SELECT r.prrelid, p.pubname, `+columns+` FROM pg_publication_rel r JOIN pg_publication p ON p.oid = r.prpubid
		UNION ALL SELECT c.oid, p.pubname, NULL FROM pg_publication p, pg_class c WHERE p.puballtables AND c.relkind IN ('r', 'p') AND c.relpersistence = 'p' AND c.oid >= `+own+schemas, func(v row) {
		numbers := v.numbers(2)
		if len(numbers) == 0 {
			r.lean(v.oid(0), 0, catalog.Dependant{Kind: "publication", Name: v.text(1)})
		}
		for _, n := range numbers {
			r.lean(v.oid(0), int16(n), catalog.Dependant{Kind: "publication", Name: v.text(1)})
		}
	})
	// Before version 15 nobody but a superuser may read pg_subscription; the view shows the names to all.
	r.each(`SELECT DISTINCT s.srrelid, p.subname FROM pg_subscription_rel s JOIN pg_stat_subscription p ON p.subid = s.srsubid`, func(v row) {
		r.lean(v.oid(0), 0, catalog.Dependant{Kind: "subscription", Name: v.text(1)})
	})
}

func columnNamed(name string) func(*catalog.Column) bool {
	return func(c *catalog.Column) bool { return c.Name == name }
}
