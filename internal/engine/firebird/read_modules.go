package firebird

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/capture"
	"nexdal/internal/engine/firebird/traits"
	"nexdal/internal/engine/sqllex"
)

// What RDB$TRIGGERS.RDB$TRIGGER_TYPE says of triggers that are of no table.
const (
	ofDatabase = 1 << 13 // ON CONNECT and the like
	ofDDL      = 1 << 14
)

// whenOfDatabase are the events of the database.
var whenOfDatabase = []string{"CONNECT", "DISCONNECT", "TRANSACTION START", "TRANSACTION COMMIT", "TRANSACTION ROLLBACK"}

// fires tells a trigger's kind by its number: three slots of two bits hold the events, and the
// lowest bit, counted from 1, whether it fires before or after
// (https://firebirdsql.org/file/documentation/html/en/refdocs/fblangref30/firebird-30-language-reference.html#fblangref-appx04-triggers).
func fires(kind int) (timing string, events []string) {
	timing = "before"
	if (kind+1)&1 == 1 {
		timing = "after"
	}
	for slot := (kind + 1) >> 1; slot > 0; slot >>= 2 {
		if n := slot & 3; n > 0 {
			events = append(events, []string{"insert", "update", "delete"}[n-1])
		}
	}
	return timing, events
}

func (r *reader) readTriggers() {
	r.ask(askTriggers, func(w *capture.Fields) {
		name, on, order := w.Text(), w.Text(), w.Number()
		kind, body, off, valid, by, comment := w.Number(), w.Next(), w.Is("1"), w.Next(), w.Text(), w.Text()
		t, v := r.tables[on], r.views[on]
		if t == nil && v == nil {
			r.triggerOfDatabase(name, order, kind, body, off, comment)
			return
		}
		g := &catalog.Trigger{Name: name, PerRow: true, Order: order, Comment: comment}
		g.Timing, g.Events = fires(kind)
		if off {
			g.Enabled = "disabled"
		}
		if body == nil {
			r.gap(on, "text of trigger "+name, textless(by))
		} else {
			g.Definition = traits.TriggerHead(g, on) + *body
		}
		if valid != nil && *valid == "0" {
			r.fault("trigger", on, name)
		}
		r.triggers[name] = g
		if v != nil {
			v.Triggers = append(v.Triggers, g)
			return
		}
		r.of[name] = t
		t.Triggers = append(t.Triggers, g)
		if body != nil {
			r.numbers(t, *body)
		}
	})
}

func textless(by string) string {
	if by != "" {
		return "it is of " + by + ", outside the database"
	}
	return "it was taken away"
}

func (r *reader) fault(kind, table, name string) {
	r.c.Faults = append(r.c.Faults, catalog.Fault{Kind: kind, Schema: traits.Schema, Table: table, Name: name, Reason: "it could not be compiled any more"})
}

// triggerOfDatabase fires when somebody connects, or alters the structure.
func (r *reader) triggerOfDatabase(name string, order, kind int, body *string, off bool, comment string) {
	if body == nil || kind&ofDDL != 0 {
		r.gap("", "trigger "+name, "its events are not read")
		return
	}
	n := kind &^ ofDatabase
	if kind&ofDatabase == 0 || n >= len(whenOfDatabase) {
		r.gap("", "trigger "+name, "its events are not read")
		return
	}
	state := map[bool]string{true: "INACTIVE", false: "ACTIVE"}[off]
	o := &catalog.Object{Kind: "trigger", Name: name, Comment: comment, Definition: fmt.Sprintf("CREATE TRIGGER %s\n%s ON %s POSITION %d\n%s", traits.Ident(name), state, whenOfDatabase[n], order, *body)}
	r.objects["trigger "+name] = o
	r.s.Objects = append(r.s.Objects, o)
}

// numbers notes from which sequences a trigger numbers which columns.
func (r *reader) numbers(t *catalog.Table, body string) {
	found, alone := numbering(meaning(body))
	for column, name := range found {
		c, q := t.Column(column), r.sequences[name]
		if c == nil || q == nil {
			continue
		}
		q.UsedBy = append(q.UsedBy, catalog.SequenceUse{ColumnRef: catalog.ColumnRef{Schema: traits.Schema, Table: t.Name, Column: column}, How: "trigger", Alone: alone && len(found) == 1})
		if c.Sequence == nil && c.Default == "" {
			c.Sequence = &catalog.Ref{Schema: traits.Schema, Table: name}
		}
	}
}

// meaning are the tokens of a text that mean something.
func meaning(text string) []sqllex.Token { return Engine{}.Dialect().Meaning(text) }

// fold is what a name in a text stands for.
func fold(t sqllex.Token) string {
	if t.Kind == sqllex.Word {
		return strings.ToUpper(t.Text)
	}
	return t.Name()
}

// isNew reads NEW.column, or :NEW.column.
func isNew(words []sqllex.Token) (column string, rest []sqllex.Token, ok bool) {
	if len(words) > 0 && words[0].Is(":") {
		words = words[1:]
	}
	if len(words) < 3 || !words[0].Is("new") || !words[1].Is(".") {
		return "", nil, false
	}
	return fold(words[2]), words[3:], true
}

// draws reads GEN_ID(sequence, 1) or NEXT VALUE FOR sequence.
func draws(words []sqllex.Token) (sequence string, rest []sqllex.Token, ok bool) {
	switch {
	case len(words) > 5 && words[0].Is("gen_id") && words[1].Is("(") && words[3].Is(",") && words[5].Is(")"):
		return fold(words[2]), words[6:], words[4].Text == "1"
	case len(words) > 3 && words[0].Is("next") && words[1].Is("value") && words[2].Is("for"):
		return fold(words[3]), words[4:], true
	}
	return "", nil, false
}

// numbering finds what a trigger's text draws from sequences for columns of the new row, in the
// forms that are in use; alone is whether it does nothing else.
//
//	NEW.ID = GEN_ID(Q, 1);
//	NEW.ID = NEXT VALUE FOR Q;
//	SELECT GEN_ID(Q, 1) FROM RDB$DATABASE INTO NEW.ID;
//	IF (NEW.ID IS NULL) THEN ...
func numbering(words []sqllex.Token) (found map[string]string, alone bool) {
	found = map[string]string{}
	at := slices.IndexFunc(words, func(t sqllex.Token) bool { return t.Is("begin") })
	if at < 0 {
		return found, false
	}
	alone = !slices.ContainsFunc(words[:at], func(t sqllex.Token) bool { return t.Is("declare") })
	var asked []string // columns that have to be null
	for rest := words[at+1:]; len(rest) > 0; {
		if rest[0].Is("begin") || rest[0].Is("end") || rest[0].Is(";") {
			rest = rest[1:]
			continue
		}
		if column, behind, ok := isNew(rest); ok && len(behind) > 1 && behind[0].Is("=") {
			if q, after, ok := draws(behind[1:]); ok {
				found[column], rest = q, after
				continue
			}
		}
		if rest[0].Is("select") {
			if q, after, ok := draws(rest[1:]); ok && len(after) > 3 && after[0].Is("from") && after[2].Is("into") {
				if column, tail, ok := isNew(after[3:]); ok {
					found[column], rest = q, tail
					continue
				}
			}
		}
		if column, after, ok := whenNull(rest); ok {
			asked, rest = append(asked, column), after
			continue
		}
		alone = false
		rest = rest[1:]
	}
	for _, column := range asked {
		_, numbered := found[column]
		alone = alone && numbered
	}
	return found, alone && len(found) > 0
}

// whenNull reads IF (NEW.column IS NULL) THEN; that a number is 0, or less than 1, says the like.
func whenNull(words []sqllex.Token) (column string, rest []sqllex.Token, ok bool) {
	if len(words) < 3 || !words[0].Is("if") || !words[1].Is("(") {
		return "", nil, false
	}
	rest = words[2:]
	for len(rest) > 0 && rest[0].Is("(") {
		rest = rest[1:]
	}
	column, rest, ok = isNew(rest)
	if !ok || len(rest) < 3 || !rest[0].Is("is") || !rest[1].Is("null") {
		return "", nil, false
	}
	rest = rest[2:]
	for len(rest) > 0 && rest[0].Is(")") {
		rest = rest[1:]
	}
	if len(rest) == 0 || !rest[0].Is("then") {
		return "", nil, false
	}
	return column, rest[1:], true
}

func (r *reader) exceptions() {
	r.ask(askExceptions, func(w *capture.Fields) {
		name, says := w.Text(), w.Text()
		r.owners["exception "+name] = w.Text()
		r.object(&catalog.Object{Kind: "exception", Name: name, Definition: "CREATE EXCEPTION " + traits.Ident(name) + " " + traits.Literal(says), Comment: w.Text()})
	})
}

// signature is the head of a routine, from its parameters.
type signature struct {
	in, out, types []string
	inFull         map[int]string
}

// parameter writes one as it was declared.
func (r *reader) parameter(name, source, def string, collation *string, required bool, mechanism int, relation, field string) (whole, native string) {
	d := r.domains[source]
	text := ""
	switch {
	case relation != "":
		text = "TYPE OF COLUMN " + traits.Ident(relation) + "." + traits.Ident(field)
	case d == nil:
		text = "?"
	case d.own() && mechanism == 1:
		text = "TYPE OF " + traits.Ident(d.name)
	case d.own():
		text = traits.Ident(d.name)
	default:
		text = traits.TypeText(d.t)
	}
	native = text
	if required && (d == nil || !d.own() || !d.required) {
		text += " NOT NULL"
	}
	if collation != nil && d != nil && d.own() && d.charset >= 0 {
		if other := r.collations[[2]int{d.charset, number(*collation)}]; other != "" && other != cmp.Or(d.t.Collation, r.charsets[d.charset].name) {
			text += " COLLATE " + traits.Ident(other)
		}
	}
	if name != "" {
		text = traits.Ident(name) + " " + text
	}
	if def != "" {
		text += " = " + assigned(def)
	}
	return text, native
}

// noted tells that the comment of a parameter is not kept.
func (r *reader) noted(comment, parameter, routine string) {
	if comment != "" {
		r.gap("", "comment of parameter "+parameter+" of "+routine, "those of parameters are not read")
	}
}

// assigned is the value of a parameter's default: = 0, or DEFAULT 0.
func assigned(def string) string {
	return strings.TrimSpace(strings.TrimPrefix(source(def, "default"), "="))
}

// procedures: their heads are put together from their parameters.
func (r *reader) procedures() {
	r.ask(askParameters, func(w *capture.Fields) {
		key := "procedure " + w.Text()
		if r.arguments[key] == nil {
			r.arguments[key] = &signature{}
		}
		of := r.arguments[key]
		name, out := w.Text(), w.Is("1")
		w.Number()
		text, native := r.parameter(name, w.Text(), w.Text(), w.Next(), w.Is("1"), w.Number(), w.Text(), w.Text())
		r.noted(w.Text(), name, key)
		if out {
			of.out = append(of.out, text)
			return
		}
		of.in, of.types = append(of.in, text), append(of.types, native)
	})
	r.ask(askProcedures, func(w *capture.Fields) {
		name, body, valid, by := w.Text(), w.Next(), w.Next(), w.Text()
		f := &catalog.Routine{Name: name, Kind: "procedure", Language: "PSQL", Rights: catalog.Rights{Owner: w.Text()}}
		f.Comment = w.Text()
		head := "CREATE PROCEDURE " + traits.Ident(name)
		if of := r.arguments["procedure "+name]; of != nil {
			f.Arguments = strings.Join(of.types, ", ")
			if len(of.in) > 0 {
				head += " (\n  " + strings.Join(of.in, ",\n  ") + ")"
			}
			if len(of.out) > 0 {
				head += "\nRETURNS (\n  " + strings.Join(of.out, ",\n  ") + ")"
			}
		}
		r.routine(f, "procedure", head, body, valid, by)
	})
}

// routine keeps one with its text.
func (r *reader) routine(f *catalog.Routine, kind, head string, body, valid *string, by string) {
	if body == nil {
		r.gap("", "text of "+kind+" "+f.Name, textless(by))
	} else {
		f.Definition = head + "\nAS\n" + strings.TrimLeft(*body, " \t\r\n")
	}
	if valid != nil && *valid == "0" {
		r.fault(kind, "", f.Name)
	}
	r.s.Routines = append(r.s.Routines, f)
	r.routines[kind+" "+f.Name] = f
}

func (r *reader) functions() {
	r.ask(askArguments, func(w *capture.Fields) {
		key := "function " + w.Text()
		if r.arguments[key] == nil {
			r.arguments[key] = &signature{inFull: map[int]string{}}
		}
		of := r.arguments[key]
		name, at := w.Text(), w.Number()
		text, native := r.parameter(name, w.Text(), w.Text(), w.Next(), w.Is("1"), w.Number(), w.Text(), w.Text())
		r.noted(w.Text(), name, key)
		of.inFull[at] = text
		if name != "" {
			of.types = append(of.types, native)
		}
	})
	r.ask(askFunctions, func(w *capture.Fields) {
		name, body, valid, by := w.Text(), w.Next(), w.Next(), w.Text()
		legacy, deterministic, returns := w.Is("1"), w.Is("1"), w.Number()
		f := &catalog.Routine{Name: name, Kind: "function", Language: "PSQL", Rights: catalog.Rights{Owner: w.Text()}}
		f.Comment = w.Text()
		if legacy {
			r.gap("", "function "+name, "it is of a library outside the database")
			return
		}
		head := "CREATE FUNCTION " + traits.Ident(name)
		if of := r.arguments["function "+name]; of != nil {
			f.Arguments = strings.Join(of.types, ", ")
			var in []string
			for at := 0; at <= len(of.inFull); at++ {
				if text, ok := of.inFull[at]; ok && at != returns {
					in = append(in, text)
				}
			}
			if len(in) > 0 {
				head += " (\n  " + strings.Join(in, ",\n  ") + ")"
			}
			f.Returns = of.inFull[returns]
			head += "\nRETURNS " + f.Returns
		}
		if deterministic {
			head += " DETERMINISTIC"
		}
		r.routine(f, "function", head, body, valid, by)
	})
}

// packages are two texts each: what it offers, and how that is done.
func (r *reader) packages() {
	r.ask(askPackages, func(w *capture.Fields) {
		name, header, body, valid := w.Text(), w.Next(), w.Next(), w.Next()
		w.Text()
		comment := w.Text()
		if header == nil {
			r.gap("", "text of package "+name, textless(""))
			return
		}
		r.object(&catalog.Object{Kind: "package", Name: name, Comment: comment, Definition: "CREATE PACKAGE " + traits.Ident(name) + "\nAS\n" + strings.TrimLeft(*header, " \t\r\n")})
		if body == nil {
			return
		}
		r.object(&catalog.Object{Kind: "package body", Name: name, Definition: "CREATE PACKAGE BODY " + traits.Ident(name) + "\nAS\n" + strings.TrimLeft(*body, " \t\r\n"),
			Needs: []catalog.ObjectRef{{Kind: "package", Schema: traits.Schema, Name: name}}})
		if valid != nil && *valid == "0" {
			r.fault("package body", "", name)
		}
	})
}
