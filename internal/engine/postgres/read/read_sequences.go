package read

import (
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/postgres/traits"
	"nexdal/internal/pattern"
)

// readLastValues asks the sequences themselves, which needs the right to them, would wait for somebody
// who holds one exclusively, and locks them as an INSERT does to the end of the transaction: last of all.
func (r *reader) readLastValues() {
	r.ask(`SELECT s.seqrelid, CASE WHEN has_sequence_privilege(s.seqrelid, 'SELECT, USAGE') AND s.seqrelid <> ALL(`+heldQuery+`) THEN pg_sequence_last_value(s.seqrelid) END
		FROM pg_sequence s JOIN pg_class c ON c.oid = s.seqrelid WHERE c.relpersistence <> 't'`, func(scan func(...any) error) error {
		var oid uint32
		var last *int64
		err := scan(&oid, &last)
		if q := r.sequences[oid]; q != nil {
			q.Last = last
		}
		return err
	})
}

// readSequences reads what sequences are made of, whom they belong to and who
// draws from them (https://www.postgresql.org/docs/current/catalog-pg-sequence.html).
func (r *reader) readSequences() {
	r.ask(`SELECT s.seqrelid, format_type(s.seqtypid, NULL), s.seqstart, s.seqincrement, s.seqmin, s.seqmax, s.seqcache, s.seqcycle
		FROM pg_sequence s JOIN pg_class c ON c.oid = s.seqrelid WHERE c.relpersistence <> 't'`, func(scan func(...any) error) error {
		var oid uint32
		var q catalog.Sequence
		if err := scan(&oid, &q.Type, &q.Start, &q.Increment, &q.Least, &q.Most, &q.Cache, &q.Cycle); err != nil {
			return err
		}
		if known := r.sequences[oid]; known != nil {
			q.Name, q.Unlogged, q.Comment, q.Extension = known.Name, known.Unlogged, known.Comment, known.Extension
			*known = q
		}
		return nil
	})
	r.ask(`SELECT d.objid, d.refobjid, d.refobjsubid::int2, d.deptype = 'i' FROM pg_depend d
		WHERE d.classid = 1259 AND d.refclassid = 1259 AND d.refobjsubid > 0 AND d.deptype IN ('a', 'i') AND d.objid IN (SELECT seqrelid FROM pg_sequence)`,
		func(scan func(...any) error) error {
			var oid, table uint32
			var number int16
			var identity bool
			if err := scan(&oid, &table, &number, &identity); err != nil {
				return err
			}
			q, t, c := r.sequences[oid], r.tables[table], r.columns[table][number]
			if q == nil || t == nil || c == nil {
				return nil
			}
			at := catalog.ColumnRef{Schema: t.Schema, Table: t.Name, Column: c.Name}
			q.OwnedBy, q.Identity = &at, identity
			if identity {
				r.draws(oid, at, c, "identity")
			}
			return nil
		})
	r.ask(`SELECT d.refobjid, a.adrelid, a.adnum FROM pg_depend d JOIN pg_attrdef a ON a.oid = d.objid
		WHERE d.classid = 2604 AND d.refclassid = 1259 AND d.refobjid IN (SELECT seqrelid FROM pg_sequence)`, func(scan func(...any) error) error {
		var oid, table uint32
		var number int16
		if err := scan(&oid, &table, &number); err != nil {
			return err
		}
		if t, c := r.tables[table], r.columns[table][number]; t != nil && c != nil {
			r.draws(oid, catalog.ColumnRef{Schema: t.Schema, Table: t.Name, Column: c.Name}, c, "default")
		}
		return nil
	})
}

// draws notes that a column takes its numbers from a sequence.
func (r *reader) draws(sequence uint32, at catalog.ColumnRef, c *catalog.Column, how string) {
	o, ok := r.things[object{class: classClass, oid: sequence}]
	if q := r.sequences[sequence]; ok && q != nil {
		q.UsedBy = append(q.UsedBy, catalog.SequenceUse{ColumnRef: at, How: how})
		c.Sequence = &catalog.Ref{Schema: o.Schema, Table: o.Name}
	}
}

var (
	newFromNext = pattern.New(`(?i)new\.("[^"]+"|\w+)\s*:?=\s*(?:coalesce\s*\([^()]*,\s*)?nextval\s*\(\s*'([^']+)'`)
	nextIntoNew = pattern.New(`(?i)select\s+nextval\s*\(\s*'([^']+)'[^;]*?\binto\s+new\.("[^"]+"|\w+)`)
)

// onlyNumbers fits a routine that does nothing but give a new row its number, or one
// that it has not been given; the group is the column that has to be null for it.
var onlyNumbers = pattern.New(`(?is)\$(\w*)\$\s*begin\s+(?:if\s+new\.("[^"]+"|\w+)\s+is\s+null\s+then\s+)?(?:new\.(?:"[^"]+"|\w+)\s*:?=\s*nextval\s*\(\s*'[^']+'\s*(?:::\s*regclass\s*)?\)\s*;|select\s+nextval\s*\(\s*'[^']+'\s*(?:::\s*regclass\s*)?\)\s+into\s+new\.(?:"[^"]+"|\w+)\s*;)\s*(?:end\s+if\s*;\s*)?return\s+new\s*;\s*end\s*;?\s*\$\w*\$\s*$`)

// The condition of a trigger, as the server writes it, and the one that waits for a null.
var (
	triggerWhen = pattern.New(`(?s) FOR EACH ROW WHEN \((.*)\) EXECUTE `)
	whenNull    = pattern.New(`^\(*new\.("[^"]+"|\w+) IS NULL\)*$`)
)

// numbersAlone reports whether the trigger does nothing but number the column, in every row in
// which it is null.
func numbersAlone(trigger, routine, column string) bool {
	m := onlyNumbers.FindStringSubmatch(routine)
	if m == nil || m[2] != "" && unquote(m[2]) != column {
		return false
	}
	when := triggerWhen.FindStringSubmatch(trigger)
	if when == nil {
		return true
	}
	of := whenNull.FindStringSubmatch(when[1])
	return of != nil && unquote(of[1]) == column
}

// drawsByTrigger looks for numbers that a trigger's routine takes from a
// sequence: the engine keeps no record of these, the text alone tells.
func (r *reader) drawsByTrigger(table, routine uint32, trigger string) {
	t, f := r.tables[table], r.routines[routine]
	if t == nil || f == nil {
		return
	}
	found := func(column, sequence string) {
		c := t.Column(unquote(column))
		for oid, q := range r.sequences {
			o := r.things[object{class: classClass, oid: oid}]
			if c != nil && (sequence == q.Name || sequence == traits.Ident(q.Name) || sequence == o.Schema+"."+q.Name || sequence == traits.Qualified(o.Schema, q.Name)) && c.Sequence == nil {
				r.draws(oid, catalog.ColumnRef{Schema: t.Schema, Table: t.Name, Column: c.Name}, c, "trigger")
				q.UsedBy[len(q.UsedBy)-1].Alone = numbersAlone(trigger, f.Definition, c.Name)
			}
		}
	}
	for _, m := range newFromNext.FindAllStringSubmatch(f.Definition, -1) {
		found(m[1], m[2])
	}
	for _, m := range nextIntoNew.FindAllStringSubmatch(f.Definition, -1) {
		found(m[2], m[1])
	}
}

// unquote gives a name as the catalog has it.
func unquote(name string) string {
	if strings.HasPrefix(name, `"`) {
		return strings.ReplaceAll(strings.Trim(name, `"`), `""`, `"`)
	}
	return strings.ToLower(name)
}
