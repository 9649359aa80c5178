package read

import (
	"maps"
	"slices"

	"nexdal/internal/catalog"
)

var actions = map[byte]catalog.Action{'a': catalog.NoAction, 'r': catalog.Restrict, 'c': catalog.Cascade, 'n': catalog.SetNull, 'd': catalog.SetDefault}

func (r *reader) constraintsQuery() string {
	set, enforced, period := "NULL", "true", "false"
	if r.version >= 150000 {
		set = "k.confdelsetcols"
	}
	if r.version >= 180000 {
		enforced, period = "k.conenforced", "k.conperiod"
	}
	return `SELECT k.oid, k.conrelid, k.conname, k.contype, k.conkey, k.condeferrable, k.condeferred, k.convalidated, k.conindid,
			k.confrelid, k.confkey, k.confupdtype, k.confdeltype, k.confmatchtype, ` + set + `,
			k.conparentid <> 0, coalesce(p.conrelid = k.conrelid, false), k.coninhcount > 0, k.conislocal, k.connoinherit, ` + enforced + `, ` + period + `
		FROM pg_constraint k LEFT JOIN pg_constraint p ON p.oid = k.conparentid AND k.conparentid <> 0
		WHERE k.contype IN ('p', 'u', 'f', 'c', 'x') AND k.conrelid >= ` + own
}

func (r *reader) readConstraints() {
	checks, exclusions := map[uint32]*catalog.Check{}, map[uint32]*catalog.Exclusion{}
	homes := map[uint32]uint32{}
	// A foreign key is enforced by triggers, and off where they are.
	off := map[uint32]bool{}
	r.each(`SELECT DISTINCT tgconstraint FROM pg_trigger WHERE tgisinternal AND tgconstraint <> 0 AND tgenabled IN ('D', 'R')`, func(v row) { off[v.oid(0)] = true })
	r.each(r.constraintsQuery(), func(v row) {
		oid, table := v.oid(0), v.oid(1)
		t := r.tables[table]
		if t == nil || v.is(16) {
			return // a shadow repeats a reference for each partition referred to
		}
		name, deferrable, deferred, validated, inherited := v.text(2), v.is(5), v.is(6), v.is(7), v.is(17)
		comment := r.comments[object{class: classConstraint, oid: oid}]
		x := r.indexes[v.oid(8)]
		switch v.one(3) {
		case 'p', 'u':
			k := &catalog.Key{Name: name, Columns: r.columnNames(table, v.numbers(4)), Deferrable: deferrable, Deferred: deferred, WithoutOverlaps: v.is(21), Comment: comment}
			origin := catalog.ByUniqueKey
			if v.one(3) == 'p' {
				t.PrimaryKey, origin = k, catalog.ByPrimaryKey
			} else {
				t.UniqueKeys = append(t.UniqueKeys, k)
			}
			if x != nil {
				k.Index, k.NullsNotDistinct, x.Origin = x.Name, x.NullsNotDistinct, origin
			}
		case 'x':
			e := &catalog.Exclusion{Name: name, Deferrable: deferrable, Deferred: deferred, Comment: comment}
			if x != nil {
				e.Index, x.Origin = x.Name, catalog.ByExclusion
			}
			t.Exclusions = append(t.Exclusions, e)
			exclusions[oid], homes[oid] = e, table
		case 'c':
			k := &catalog.Check{Name: name, NotValidated: !validated, NotEnforced: !v.is(20), Inherited: inherited, Local: inherited && v.is(18), NoInherit: v.is(19), Comment: comment}
			t.Checks = append(t.Checks, k)
			checks[oid], homes[oid] = k, table
			r.standsFor[object{class: classConstraint, oid: oid}] = object{class: classClass, oid: table}
		case 'f':
			f := &catalog.ForeignKey{Name: name, Columns: r.columnNames(table, v.numbers(4)), OnDelete: actions[v.one(12)], OnUpdate: actions[v.one(11)],
				SetColumns: r.columnNames(table, v.numbers(14)), Match: map[byte]string{'f': "full", 'p': "partial"}[v.one(13)],
				Deferrable: deferrable, Deferred: deferred, NotValidated: !validated, NotEnforced: !v.is(20), Period: v.is(21), Disabled: off[oid], Inherited: v.is(15), Comment: comment}
			target := v.oid(9)
			to := r.tables[target]
			if to == nil {
				r.gap(t.Schema, t.Name, "foreign key "+name, "it refers to a table in a schema that was not read")
				return
			}
			if f.Target, f.TargetColumns = to.Ref(), r.columnNames(target, v.numbers(10)); x != nil {
				f.TargetIndex = x.Name
			}
			t.ForeignKeys = append(t.ForeignKeys, f)
		}
	})
	onTable := func(what string) func(uint32) catalog.ObjectRef {
		return func(oid uint32) catalog.ObjectRef {
			o := r.tableThing(homes[oid])
			return catalog.ObjectRef{Kind: what, Schema: o.Schema, Name: "on " + o.Name}
		}
	}
	r.texts(`SELECT oid, pg_get_expr(conbin, conrelid) FROM pg_constraint WHERE oid = ANY(%s)`, among{`SELECT oid FROM pg_constraint WHERE contype = 'c' AND conrelid >= ` + own, sortedKeys(checks)}, onTable("check"),
		func(oid uint32, text string) { checks[oid].Expression = text })
	exclusive := among{`SELECT oid FROM pg_constraint WHERE contype = 'x' AND oid >= ` + own, sortedKeys(exclusions)}
	r.askOf(`SELECT k.oid, array(SELECT o.oprname::text FROM unnest(k.conexclop) WITH ORDINALITY x(op, n) JOIN pg_operator o ON o.oid = x.op ORDER BY x.n)
		FROM pg_constraint k WHERE k.oid = ANY(%s)`, exclusive, func(scan func(...any) error) error {
		var oid uint32
		var operators []string
		err := scan(&oid, &operators)
		exclusions[oid].Operators = operators
		return err
	})
	r.texts(`SELECT oid, pg_get_constraintdef(oid) FROM pg_constraint WHERE oid = ANY(%s)`, exclusive, onTable("exclusion"),
		func(oid uint32, text string) { exclusions[oid].Definition = text })
}

// readNotNull reads the constraints that forbid null, which have names from version 18 on
// (https://www.postgresql.org/docs/current/catalog-pg-constraint.html).
func (r *reader) readNotNull() {
	if r.version < 180000 {
		return
	}
	can := Reader{}.Abilities(r.catalog.Engine.Version)
	names := map[*catalog.Table]map[string]string{}
	r.each(`SELECT k.oid, k.conrelid, k.conname, k.conkey, k.convalidated, k.conislocal, k.coninhcount > 0, k.connoinherit
		FROM pg_constraint k WHERE k.contype = 'n' AND k.conrelid >= `+own, func(v row) {
		oid, table, key := v.oid(0), v.oid(1), v.numbers(3)
		r.standsFor[object{class: classConstraint, oid: oid}] = object{class: classClass, oid: table}
		t := r.tables[table]
		if t == nil || len(key) != 1 {
			return
		}
		c := r.columns[table][int16(key[0])]
		if c == nil {
			return
		}
		n := catalog.NotNull{NotValidated: !v.is(4), NoInherit: v.is(7), Comment: r.comments[object{class: classConstraint, oid: oid}]}
		// Whoever defines the column defines this with it; a part has it of the whole.
		if v.is(6) && t.PartitionOf == nil {
			n.Local, n.Inherited = v.is(5) && !c.Local, !v.is(5) && c.Local
		}
		c.NotNull = n.Plain()
		if c.Nullable = n.NotValidated; names[t] == nil {
			names[t] = map[string]string{}
		}
		names[t][c.Name] = v.text(2)
	})
	lookup := r.catalog.Lookup()
	var name func(t *catalog.Table)
	name = func(t *catalog.Table) {
		own := names[t]
		if own == nil {
			return
		}
		delete(names, t)
		for _, parent := range t.Parents() {
			if p := lookup.Table(parent); p != nil {
				name(p)
			}
		}
		lookup.NameNotNull(t, own, can)
	}
	for _, t := range r.tables {
		name(t)
	}
}

// sortedKeys lists the oids of a map in order.
func sortedKeys[T any](of map[uint32]T) []uint32 { return slices.Sorted(maps.Keys(of)) }
