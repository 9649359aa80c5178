package firebird

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/capture"
	"nexdal/internal/engine/firebird/traits"
)

// The kinds of RDB$RELATIONS.RDB$RELATION_TYPE.
const (
	isView      = 1
	isExternal  = 2
	keepsRows   = 4
	deletesRows = 5
)

func (r *reader) readRelations() {
	r.ask(askRelations, func(w *capture.Fields) {
		name, kind, query, file := w.Text(), w.Number(), w.Next(), w.Text()
		comment, owner := w.Text(), w.Text()
		if kind == isView || query != nil {
			v := &catalog.View{Name: name, Comment: comment, Rights: catalog.Rights{Owner: owner}}
			if query != nil {
				v.Definition = strings.TrimSpace(*query)
			} else {
				r.gap("", "text of view "+name, textless(""))
			}
			r.views[name] = v
			r.s.Views = append(r.s.Views, v)
			return
		}
		t := &catalog.Table{Schema: traits.Schema, Name: name, Kind: catalog.Ordinary, Comment: comment, Rights: catalog.Rights{Owner: owner}}
		switch kind {
		case keepsRows:
			t.Options = append(t.Options, traits.RowsOfSession)
		case deletesRows:
			t.Options = append(t.Options, traits.RowsOfTransaction)
		case isExternal:
			t.Kind, t.Server = catalog.Foreign, file
		}
		r.tables[name] = t
		r.s.Tables = append(r.s.Tables, t)
	})
}

func (r *reader) readColumns() {
	r.ask(askColumns, func(w *capture.Fields) {
		on, name := w.Text(), w.Text()
		d := r.domains[w.Text()]
		w.Number()
		required, def := w.Is("1"), source(w.Text(), "default")
		collation, identity, generator, comment := w.Next(), w.Next(), w.Text(), w.Text()
		r.order[on] = append(r.order[on], name)
		if v := r.views[on]; v != nil {
			c := &catalog.ViewColumn{Name: name, Comment: comment}
			if d != nil {
				c.Type = d.t.Native
			}
			v.Columns = append(v.Columns, c)
			return
		}
		t := r.tables[on]
		if t == nil {
			return
		}
		if d == nil { // of the engine's own, such as RDB$USER
			r.gap(on, "type of "+name, "its domain is the engine's")
			d = &domain{name: firstByPeople, t: catalog.Type{Family: catalog.Other, Native: "?"}}
		}
		c := &catalog.Column{Name: name, Type: d.t, Nullable: !required && !d.required, Default: def, Comment: comment}
		if d.own() {
			c.Type.Underlying, c.Type.Native = d.t.Native, traits.Ident(d.name)
			if needs := (catalog.ObjectRef{Kind: catalog.KindType, Schema: traits.Schema, Name: d.name}); !slices.Contains(t.Needs, needs) {
				t.Needs = append(t.Needs, needs)
			}
			if d.required && required {
				c.Options = append(c.Options, "not null of its own")
			}
		}
		if collation != nil && d.charset >= 0 {
			has := cmp.Or(c.Type.Collation, r.charsets[d.charset].name)
			if other := r.collations[[2]int{d.charset, number(*collation)}]; other != "" && other != has && d.charset != octets {
				c.Type.Collation = other
			}
		}
		if d.computed != "" {
			c.Generated = traits.Expressions.Plain(d.computed)
			r.computed[d.name] = numbered{t, c}
		}
		if generator != "" {
			c.Identity = catalog.IdentityByDefault
			if identity != nil && *identity == "0" {
				c.Identity = catalog.IdentityAlways
			}
			r.identities[generator] = numbered{t, c}
		}
		t.Columns = append(t.Columns, c)
	})
}

// generators: those of identity columns are told by their columns. A number of 3.0 is drawn by one
// step from where it begins, so that START WITH 1 gives 2 first; from 4.0 on it gives 1
// (https://firebirdsql.org/file/documentation/release_notes/html/en/4_0/rlsnotes40.html#rnfb40-compat-sql-sequence-start-value).
func (r *reader) generators() {
	r.ask(askGenerators, func(w *capture.Fields) {
		name, start, step := w.Text(), w.Big(), w.Big()
		w.Number()
		q := &catalog.Sequence{Name: name, Type: "BIGINT", Increment: 1, Least: -1 << 63, Most: 1<<63 - 1}
		q.Owner = w.Text()
		q.Comment = w.Text()
		if step != nil && *step != 0 {
			q.Increment = *step
		}
		if start != nil {
			q.Start = *start
		}
		if of, ok := r.identities[name]; ok {
			if q.Start != traits.UsualStart(r.c.Engine.Version) {
				of.c.Options = append(of.c.Options, fmt.Sprintf("start with %d", q.Start))
			}
			if q.Increment != 1 {
				of.c.Options = append(of.c.Options, fmt.Sprintf("increment by %d", q.Increment))
			}
		} else {
			r.s.Sequences = append(r.s.Sequences, q)
		}
		r.sequences[name] = q
	})
	r.ask(askNumbers, func(w *capture.Fields) {
		q, stands := r.sequences[w.Text()], w.Big()
		if q == nil {
			return
		}
		if stands == nil {
			r.c.Gaps = append(r.c.Gaps, catalog.Gap{Schema: traits.Schema, What: "where sequence " + q.Name + " stands", Reason: "the engine did not say; it asks for USAGE", Figures: true})
			return
		}
		if of, ok := r.identities[q.Name]; ok {
			next := *stands + q.Increment
			of.t.Stats.Counter = &next
			return
		}
		if before := r.before(q); *stands != before {
			q.Last = stands
		}
	})
}

// before is where a sequence stands that has given no number.
func (r *reader) before(q *catalog.Sequence) int64 {
	if traits.Major(r.c.Engine.Version) < 4 {
		return q.Start
	}
	return q.Start - q.Increment
}

func (r *reader) readIndexes() {
	r.ask(askIndexes, func(w *capture.Fields) {
		t := r.tables[w.Text()]
		x := &catalog.Index{Name: w.Text(), Origin: catalog.ByPerson, Method: "btree"}
		x.Unique = w.Is("1")
		x.Invalid = w.Is("1")
		descending := w.Is("1")
		refers, expression := w.Text(), w.Text()
		selectivity := w.Next()
		x.Comment = w.Text()
		x.SystemNamed = strings.HasPrefix(x.Name, "RDB$")
		if t == nil {
			return
		}
		if expression != "" {
			x.Parts = []catalog.IndexPart{{Expression: traits.Expressions.Plain(expression), Descending: descending}}
		}
		if descending {
			x.Storage = "DESCENDING"
		}
		r.indexes[x.Name], r.on[x.Name] = x, t
		if refers != "" {
			x.Origin, x.Pinned = catalog.ByForeignKey, catalog.PinnedByReference
			r.refers[x.Name] = refers
		}
		t.Indexes = append(t.Indexes, x)
		r.counted(t, x, selectivity)
	})
	r.ask(askIndexColumns, func(w *capture.Fields) {
		if x := r.indexes[w.Text()]; x != nil {
			x.Parts = append(x.Parts, catalog.IndexPart{Column: w.Text(), Descending: x.Storage == "DESCENDING"})
		}
	})
	for _, x := range r.indexes {
		x.Storage = ""
	}
}

// counted takes the rows from the selectivity of a unique index, one in so many, as it was when
// the statistics were last computed.
func (r *reader) counted(t *catalog.Table, x *catalog.Index, selectivity *string) {
	if !x.Unique || x.Invalid || selectivity == nil {
		return
	}
	var share float64
	if _, err := fmt.Sscan(*selectivity, &share); err != nil || share <= 0 {
		return
	}
	if rows := int64(1/share + 0.5); t.Stats.Rows == nil || rows > *t.Stats.Rows {
		t.Stats.Rows = &rows
	}
}

// chosen is the name of a constraint, "" where the engine numbered it: another database would give
// it another number.
func chosen(name string) string {
	if traits.SystemNamed(name) {
		return ""
	}
	return name
}

// rules are the actions by their names. What a foreign key was declared without is kept as
// RESTRICT, which refuses just as NO ACTION does.
var rules = map[string]catalog.Action{"RESTRICT": catalog.Restrict, "NO ACTION": catalog.NoAction, "CASCADE": catalog.Cascade, "SET NULL": catalog.SetNull, "SET DEFAULT": catalog.SetDefault}

func (r *reader) constraints() {
	type reference struct {
		t      *catalog.Table
		f      *catalog.ForeignKey
		target string
	}
	var references []reference
	r.ask(askConstraints, func(w *capture.Fields) {
		t := r.tables[w.Text()]
		name, kind, index := w.Text(), w.Text(), w.Text()
		target, onUpdate, onDelete := w.Text(), w.Text(), w.Text()
		if t == nil {
			return
		}
		x := r.indexes[index]
		switch kind {
		case "PRIMARY KEY", "UNIQUE":
			k := &catalog.Key{Name: chosen(name), Index: index}
			r.keys[name] = index
			if x != nil {
				k.Columns = x.Columns()
			}
			if kind == "UNIQUE" {
				t.UniqueKeys = append(t.UniqueKeys, k)
				if x != nil {
					x.Origin = catalog.ByUniqueKey
				}
				return
			}
			t.PrimaryKey = k
			if x != nil {
				x.Origin = catalog.ByPrimaryKey
			}
		case "FOREIGN KEY":
			f := &catalog.ForeignKey{Name: chosen(name), OnUpdate: rules[onUpdate], OnDelete: rules[onDelete]}
			if x != nil {
				f.Columns, f.Disabled = x.Columns(), x.Invalid
			}
			t.ForeignKeys = append(t.ForeignKeys, f)
			references = append(references, reference{t, f, target})
		}
	})
	for _, of := range references {
		of.f.TargetIndex = r.keys[of.target]
		if to := r.on[of.f.TargetIndex]; to != nil {
			of.f.Target = to.Ref()
			of.f.TargetColumns = r.indexes[of.f.TargetIndex].Columns()
		}
	}
	for _, t := range r.c.Tables() { // those without a name of their own stay in one order, whatever their numbers
		slices.SortStableFunc(t.UniqueKeys, func(a, b *catalog.Key) int { return slices.Compare(a.Columns, b.Columns) })
		slices.SortStableFunc(t.ForeignKeys, func(a, b *catalog.ForeignKey) int {
			return cmp.Or(slices.Compare(a.Columns, b.Columns), a.Target.Compare(b.Target))
		})
	}
}

func (r *reader) readChecks() {
	tables := map[string]*catalog.Table{}
	kinds := map[string]string{}
	r.ask(askConstraints, func(w *capture.Fields) {
		t := r.tables[w.Text()]
		name := w.Text()
		tables[name], kinds[name] = t, w.Text()
	})
	seen := map[string]bool{}
	r.ask(askChecks, func(w *capture.Fields) {
		name, trigger, text := w.Text(), w.Text(), w.Text()
		t := tables[name]
		if t == nil {
			return
		}
		if kinds[name] == "NOT NULL" {
			if c := t.Column(trigger); c != nil && chosen(name) != "" {
				c.NotNull = &catalog.NotNull{Name: name}
			}
			return
		}
		r.checks[trigger], r.checkNames[trigger] = t, name
		r.hidden[trigger] = text == ""
		if seen[name] {
			return
		}
		if seen[name] = true; r.hidden[trigger] {
			r.gap(t.Name, "text of check "+name, textless(""))
		} else {
			t.Checks = append(t.Checks, &catalog.Check{Name: chosen(name), Expression: source(text, "check")})
		}
	})
	for _, t := range r.c.Tables() {
		slices.SortStableFunc(t.Checks, func(a, b *catalog.Check) int { return strings.Compare(a.Expression, b.Expression) })
	}
}

// dependencies are what leans on tables, and what routines and views use.
func (r *reader) dependencies() {
	r.ask(askDependencies, func(w *capture.Fields) {
		by, kind := w.Text(), w.Number()
		on, what, column := w.Text(), w.Number(), w.Text()
		needs := r.named(on, what)
		r.madeOf(by, kind, needs)
		if f := r.routines[routineKind(kind)+" "+by]; f != nil && needs.Kind != "" && !(kind == ofBody && what == ofHeader) {
			switch needs.Kind {
			case catalog.KindTable, catalog.KindView:
				if !slices.Contains(f.Touches, needs) {
					f.Touches = append(f.Touches, needs)
				}
			}
			if !slices.Contains(f.Needs, needs) && !(needs.Kind == catalog.KindRoutine && needs.Name == f.Signature()) { // the engine compiles it at once
				f.Needs = append(f.Needs, needs)
			}
		}
		if v := r.views[by]; v != nil && kind == ofView && needs.Kind != "" && !slices.Contains(v.Reads, needs) {
			v.Reads = append(v.Reads, needs)
		}
		if q := r.sequences[on]; q != nil && what == ofGenerator {
			if _, identity := r.identities[on]; !identity {
				lean(&q.Dependants, dependant(kind), by, "")
			}
		}
		if t := r.on[on]; t != nil && what == ofIndex && dependant(kind) != "" { // a plan names it
			t.Dependants = append(t.Dependants, catalog.Dependant{Kind: dependant(kind), Name: by, On: on})
		}
		t := r.tables[on]
		if t == nil || what != ofTable {
			return
		}
		switch kind {
		case ofTrigger:
			if r.checks[by] == t && !r.hidden[by] {
				return // a check of its own
			}
			if other := r.checks[by]; other != nil {
				lean(&t.Dependants, "check", other.Name+"."+r.checkNames[by], column)
				return
			}
			// A trigger of somebody's is compiled anew by itself; it keeps a column from being dropped
			// alone, which is looked for in its text.
		case ofComputed:
			if of, ok := r.computed[by]; ok && of.t == t {
				lean(&t.Dependants, "generated column", of.c.Name, column)
			}
		case ofView, ofValidation:
			lean(&t.Dependants, dependant(kind), by, column)
		}
	})
}

// madeOf notes what a table needs that is no table: what its computed columns, checks and indexes
// call, and the domains of its columns.
func (r *reader) madeOf(by string, kind int, needs catalog.ObjectRef) {
	if needs.Kind == "" || needs.Kind == catalog.KindTable {
		return
	}
	var t *catalog.Table
	switch kind {
	case ofComputed:
		t = r.computed[by].t
	case ofTrigger:
		t = r.checks[by]
	case ofIndex, ofExpressionIndex:
		t = r.on[by]
	case ofValidation, ofField:
		if d := r.domains[by]; d != nil && d.own() && needs.Name != by {
			for _, y := range r.s.Types {
				if y.Name == by && !slices.Contains(y.Needs, needs) {
					y.Needs = append(y.Needs, needs)
				}
			}
		}
	}
	if t != nil && !slices.Contains(t.Needs, needs) {
		t.Needs = append(t.Needs, needs)
	}
}

func lean(list *[]catalog.Dependant, kind, name, column string) {
	if kind == "" {
		return
	}
	i := slices.IndexFunc(*list, func(d catalog.Dependant) bool { return d.Kind == kind && d.Name == name })
	if i < 0 {
		*list = append(*list, catalog.Dependant{Kind: kind, Name: name})
		i = len(*list) - 1
	}
	if column != "" && !slices.Contains((*list)[i].Columns, column) {
		(*list)[i].Columns = append((*list)[i].Columns, column)
	}
}

// The kinds of RDB$DEPENDENCIES.
const (
	ofTable           = 0
	ofView            = 1
	ofTrigger         = 2
	ofComputed        = 3
	ofValidation      = 4
	ofProcedure       = 5
	ofExpressionIndex = 6
	ofException       = 7
	ofField           = 9
	ofIndex           = 10
	ofGenerator       = 14
	ofFunction        = 15
	ofCollation       = 17
	ofHeader          = 18
	ofBody            = 19
)

// dependant is what the kind is called, or "".
func dependant(kind int) string {
	return map[int]string{ofView: "view", ofTrigger: "trigger", ofValidation: "domain", ofProcedure: "procedure", ofFunction: "function", ofHeader: "package", ofBody: "package body"}[kind]
}

func routineKind(kind int) string {
	return map[int]string{ofProcedure: "procedure", ofFunction: "function", ofHeader: "package", ofBody: "package body"}[kind]
}

// named is what a name of RDB$DEPENDENCIES stands for.
func (r *reader) named(name string, kind int) catalog.ObjectRef {
	o := catalog.ObjectRef{Schema: traits.Schema, Name: name}
	switch kind {
	case ofTable, ofView:
		if o.Kind = catalog.KindTable; r.views[name] != nil {
			o.Kind = catalog.KindView
		} else if r.tables[name] == nil {
			return catalog.ObjectRef{}
		}
	case ofProcedure, ofFunction, ofHeader:
		f := r.routines[routineKind(kind)+" "+name]
		if f == nil {
			return catalog.ObjectRef{}
		}
		o.Kind, o.Name = catalog.KindRoutine, f.Signature()
	case ofGenerator:
		if _, identity := r.identities[name]; identity || r.sequences[name] == nil {
			return catalog.ObjectRef{}
		}
		o.Kind = catalog.KindSequence
	case ofException:
		o.Kind = "exception"
	case ofField:
		if d := r.domains[name]; d == nil || !d.own() {
			return catalog.ObjectRef{}
		}
		o.Kind = catalog.KindType
	default:
		return catalog.ObjectRef{}
	}
	return o
}
