package sqlserver

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/capture"
	"nexdal/internal/engine/sqlserver/traits"
)

// Kinds of module, by the types of sys.objects.
var moduleKinds = map[string]string{"P": "procedure", "FN": "function", "IF": "function", "TF": "function"}

// modules reads views, routines and triggers by their texts. One that is encrypted has none.
func (r *reader) modules() {
	r.ask(askModules, func(w *capture.Fields) {
		id, schema, name, kind, parent := w.Text(), r.schema(w.Text()), w.Text(), strings.TrimSpace(w.Text()), w.Text()
		text := w.Next()
		mode := mode(w.Is("1"), w.Is("1"))
		bound := w.Is("1")
		owner := w.Text()
		if schema == nil {
			return
		}
		definition := ""
		if text != nil {
			definition = strings.TrimSpace(*text)
		}
		if text == nil {
			r.gap(schema.Name, "", "text of "+name, "it is encrypted, or not shown to this user")
		}
		switch kind {
		case "V":
			v := &catalog.View{Name: name, Definition: definition, Rights: catalog.Rights{Owner: owner}}
			if bound {
				v.Options = append(v.Options, "schemabinding")
			}
			schema.Views = append(schema.Views, v)
			r.views[id], r.refs[id] = v, catalog.ObjectRef{Kind: catalog.KindView, Schema: schema.Name, Name: name}
		case "TR":
			r.triggers[id] = &catalog.Trigger{Name: name, Definition: definition, Mode: mode}
			if t := r.tables[parent]; t != nil {
				t.Triggers = append(t.Triggers, r.triggers[id])
			} else if v := r.views[parent]; v != nil {
				v.Triggers = append(v.Triggers, r.triggers[id])
			}
		default:
			f := &catalog.Routine{Name: name, Kind: moduleKinds[kind], Language: "SQL", Definition: definition, Mode: mode, Rights: catalog.Rights{Owner: owner}}
			schema.Routines = append(schema.Routines, f)
			r.routines[id], r.refs[id] = f, catalog.ObjectRef{Kind: catalog.KindRoutine, Schema: schema.Name, Name: name}
		}
	})
}

// mode is how a text was read when it was made, where that is not as it is by default
// (https://learn.microsoft.com/en-us/sql/t-sql/statements/set-quoted-identifier-transact-sql).
func mode(ansiNulls, quotedIdentifier bool) string {
	var parts []string
	if !ansiNulls {
		parts = append(parts, "ANSI_NULLS OFF")
	}
	if !quotedIdentifier {
		parts = append(parts, "QUOTED_IDENTIFIER OFF")
	}
	return strings.Join(parts, ", ")
}

func (r *reader) readTriggers() {
	r.ask(askTriggers, func(w *capture.Fields) {
		id, parent, name := w.Text(), w.Text(), w.Text()
		g := r.triggers[id]
		if g == nil { // of an assembly
			t := r.tables[parent]
			if t == nil {
				return
			}
			r.gap(t.Schema, t.Name, "trigger "+name, "it is of an assembly")
			return
		}
		if w.Is("1") {
			g.Enabled = "disabled"
		}
		if g.Timing = "after"; w.Is("1") {
			g.Timing = "instead of"
		}
		w.Is("1")
		w.Text()
		event := strings.ToLower(w.Text())
		if event != "" && !slices.Contains(g.Events, event) {
			g.Events = append(g.Events, event)
		}
		if w.Is("1") {
			g.Order = traits.FiresFirst
		}
		if w.Is("1") {
			g.Order = traits.FiresLast
		}
	})
}

// reads are what views, routines and checks name.
func (r *reader) reads() {
	r.ask(askReads, func(w *capture.Fields) {
		id := w.Text()
		schema, name := w.Text(), w.Text()
		bound := w.Is("1")
		column := w.Text()
		gone := w.Is("1")
		if schema == "" {
			schema = "dbo" // of the user who calls, as a rule
		}
		to := catalog.ObjectRef{Kind: r.kindOf(schema, name), Schema: schema, Name: name}
		if v := r.views[id]; v != nil {
			if gone {
				by := r.refs[id]
				r.c.Faults = append(r.c.Faults, catalog.Fault{Kind: catalog.KindView, Schema: by.Schema, Name: by.Name, Reason: fmt.Sprintf("%s.%s does not exist", schema, name)})
			}
			if !slices.Contains(v.Reads, to) && to.Kind != "" {
				v.Reads = append(v.Reads, to)
			}
		}
		if f := r.routines[id]; f != nil && to.Kind != "" && !slices.Contains(f.Touches, to) {
			f.Touches = append(f.Touches, to)
		}
		by := r.refs[id]
		if by.Kind != catalog.KindView && by.Kind != catalog.KindRoutine || !bound {
			return
		}
		// What is bound to the schema keeps the columns from being altered.
		if t := r.c.Table(catalog.Ref{Schema: schema, Table: name}); t != nil {
			lean(&t.Dependants, by.Kind, by.Schema+"."+by.Name, column)
		}
	})
}

func lean(list *[]catalog.Dependant, kind, name, column string) {
	i := slices.IndexFunc(*list, func(d catalog.Dependant) bool { return d.Kind == kind && d.Name == name })
	if i < 0 {
		*list = append(*list, catalog.Dependant{Kind: kind, Name: name})
		i = len(*list) - 1
	}
	if column != "" && !slices.Contains((*list)[i].Columns, column) {
		(*list)[i].Columns = append((*list)[i].Columns, column)
	}
}

// kindOf is what the name stands for, or "".
func (r *reader) kindOf(schema, name string) string {
	s := r.c.Schema(schema)
	switch {
	case s == nil:
	case r.c.Table(catalog.Ref{Schema: schema, Table: name}) != nil:
		return catalog.KindTable
	case slices.ContainsFunc(s.Views, func(v *catalog.View) bool { return v.Name == name }):
		return catalog.KindView
	case slices.ContainsFunc(s.Sequences, func(q *catalog.Sequence) bool { return q.Name == name }):
		return catalog.KindSequence
	case slices.ContainsFunc(s.Routines, func(f *catalog.Routine) bool { return f.Name == name }):
		return catalog.KindRoutine
	}
	return ""
}

func (r *reader) readSequences() {
	last := "CAST(NULL AS nvarchar(40))"
	if r.major >= 14 {
		last = "CAST(q.last_used_value AS nvarchar(40))"
	}
	r.ask(fmt.Sprintf(askSequences, last), func(w *capture.Fields) {
		id, s := w.Text(), r.schema(w.Text())
		q := &catalog.Sequence{Name: w.Text(), Type: w.Text()}
		w.Text()
		or := func(n *int64) int64 {
			if n == nil {
				return 0
			}
			return *n
		}
		q.Start, q.Increment, q.Least, q.Most = or(w.Big()), or(w.Big()), or(w.Big()), or(w.Big())
		q.Cycle = w.Is("1")
		cached, size := w.Is("1"), w.Big()
		if q.Cache = or(size); !cached {
			q.Cache = 1
		}
		current, used := w.Big(), w.Big()
		if q.Last = used; used == nil && current != nil && *current != q.Start {
			q.Last = current
		}
		if s == nil {
			return
		}
		s.Sequences = append(s.Sequences, q)
		r.sequences[id], r.refs[id] = q, catalog.ObjectRef{Kind: catalog.KindSequence, Schema: s.Name, Name: q.Name}
	})
	for _, t := range r.c.Tables() {
		for _, c := range t.Columns {
			ref, ok := drawn(c.Default)
			if !ok {
				continue
			}
			if s := r.c.Schema(ref.Schema); s != nil {
				for _, q := range s.Sequences {
					if q.Name == ref.Table {
						c.Identity, c.Sequence = catalog.IdentitySequence, &ref
						q.UsedBy = append(q.UsedBy, catalog.SequenceUse{ColumnRef: catalog.ColumnRef{Schema: t.Schema, Table: t.Name, Column: c.Name}, How: "default"})
					}
				}
			}
		}
	}
}

// drawn is the sequence that a default draws from: NEXT VALUE FOR [schema].[name].
func drawn(def string) (catalog.Ref, bool) {
	words := Engine{}.Dialect().Meaning(def)
	if len(words) < 4 || !words[0].Is("next") || !words[1].Is("value") || !words[2].Is("for") {
		return catalog.Ref{}, false
	}
	switch len(words) {
	case 4:
		return catalog.Ref{Schema: "dbo", Table: words[3].Name()}, true
	case 6:
		return catalog.Ref{Schema: words[3].Name(), Table: words[5].Name()}, words[4].Is(".")
	}
	return catalog.Ref{}, false
}

func (r *reader) synonyms() {
	r.ask(askSynonyms, func(w *capture.Fields) {
		if s := r.schema(w.Text()); s != nil {
			name := w.Text()
			s.Objects = append(s.Objects, &catalog.Object{Kind: "synonym", Name: name, Definition: "CREATE SYNONYM " + traits.Qualified(s.Name, name) + " FOR " + w.Text()})
		}
	})
}
