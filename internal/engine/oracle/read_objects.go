package oracle

import (
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/capture"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/text"
)

// sequences: those of identity columns are told by their columns.
func (r *reader) sequences() {
	r.ask(askSequences, func(w *capture.Fields) {
		at := name{w.Text(), w.Text()}
		q := &catalog.Sequence{Name: at.name, Type: "NUMBER"}
		least, most := w.Text(), w.Text()
		q.Increment = or(w.Big(), 1)
		q.Cycle = w.Is("Y")
		ordered := w.Is("Y")
		if q.Cache = or(w.Big(), 0); q.Cache == 0 {
			q.Cache = 1
		}
		next := w.Big()
		if c := r.counter[at]; c != nil {
			for _, t := range r.schemas[at.owner].Tables {
				if slices.Contains(t.Columns, c) {
					t.Stats.Counter = next
				}
			}
			return
		}
		if strings.HasPrefix(at.name, "ISEQ$$_") {
			return
		}
		q.Least, q.Most = bounded(least), bounded(most)
		if q.Start = q.Least; q.Increment < 0 {
			q.Start = q.Most
		}
		if next != nil && *next != q.Start {
			last := *next - q.Increment // with those that are kept in memory
			q.Last = &last
		}
		if ordered {
			q.Type = inOrder
		}
		if s := r.schemas[at.owner]; s != nil {
			s.Sequences = append(s.Sequences, q)
		}
	})
	for _, t := range r.c.Tables() {
		for _, c := range t.Columns {
			if at, ok := drawn(c.Default, t.Schema); ok {
				if q := r.sequence(at); q != nil {
					c.Identity, c.Sequence = catalog.IdentitySequence, &catalog.Ref{Schema: at.owner, Table: at.name}
					q.UsedBy = append(q.UsedBy, catalog.SequenceUse{ColumnRef: catalog.ColumnRef{Schema: t.Schema, Table: t.Name, Column: c.Name}, How: "default"})
				}
			}
		}
	}
}

func or(n *int64, otherwise int64) int64 {
	if n == nil {
		return otherwise
	}
	return *n
}

// bounded is a number of up to 28 digits within what 64 bits hold: no key lives to see the
// difference.
func bounded(digits string) int64 {
	negative := strings.HasPrefix(digits, "-")
	f := capture.Fields{Values: []*string{&digits}}
	if n := f.Big(); n != nil {
		return *n
	}
	if negative {
		return -sequenceMost
	}
	return sequenceMost
}

func (r *reader) sequence(at name) *catalog.Sequence {
	if s := r.schemas[at.owner]; s != nil {
		for _, q := range s.Sequences {
			if q.Name == at.name {
				return q
			}
		}
	}
	return nil
}

// fold is what a name in a text stands for.
func fold(t sqllex.Token) string {
	if t.Kind == sqllex.Word {
		return strings.ToUpper(t.Text)
	}
	return t.Name()
}

// meaning are the tokens of a text that mean something.
func meaning(text string) []sqllex.Token { return Engine{}.Dialect().Meaning(text) }

// drawn is the sequence that an expression draws from, and nothing else: S.Q.NEXTVAL.
func drawn(expression, home string) (name, bool) {
	at, rest, ok := draws(meaning(expression), home)
	return at, ok && len(rest) == 0
}

// draws reads the name of a sequence and NEXTVAL.
func draws(words []sqllex.Token, home string) (at name, rest []sqllex.Token, ok bool) {
	var names []string
	for len(words) > 0 && (words[0].Kind == sqllex.Word || words[0].Kind == sqllex.Quoted) {
		names, words = append(names, fold(words[0])), words[1:]
		if len(words) == 0 || !words[0].Is(".") {
			break
		}
		words = words[1:]
	}
	n := len(names)
	if n < 2 || n > 3 || names[n-1] != "NEXTVAL" {
		return name{}, nil, false
	}
	at = name{home, names[n-2]}
	if n == 3 {
		at.owner = names[0]
	}
	return at, words, true
}

// Kinds of routine by DBA_SOURCE.TYPE; a body is one by itself.
var routineKinds = map[string]string{"PROCEDURE": "procedure", "FUNCTION": "function", "PACKAGE": "package", "PACKAGE BODY": "package body"}

// sources reads the texts of what is compiled.
func (r *reader) sources() {
	var order [][3]string
	r.ask(askSource, func(w *capture.Fields) {
		key := [3]string{w.Text(), w.Text(), w.Text()}
		if r.source[key] == nil {
			r.source[key] = &strings.Builder{}
			order = append(order, key)
		}
		r.source[key].WriteString(w.Text())
	})
	for _, key := range order {
		s, text := r.schemas[key[0]], strings.TrimRight(r.source[key].String(), " \t\r\n\x00")
		if s == nil {
			continue
		}
		text = "CREATE OR REPLACE " + text
		switch kind := routineKinds[key[2]]; {
		case strings.Contains(text, " wrapped"):
			r.gap(s.Name, "", "text of "+key[1], "it is wrapped")
		case kind != "":
			f := &catalog.Routine{Name: key[1], Kind: kind, Language: "PL/SQL", Definition: text}
			s.Routines = append(s.Routines, f)
			r.routine[[3]string{key[0], key[1], key[2]}] = f
		case strings.HasPrefix(key[2], "TYPE"):
			s.Objects = append(s.Objects, &catalog.Object{Kind: strings.ToLower(key[2]), Name: key[1], Definition: text})
		}
	}
}

func (r *reader) triggers() {
	r.ask(askTriggers, func(w *capture.Fields) {
		at := name{w.Text(), w.Text()}
		kind, events := strings.ToLower(w.Text()), strings.ToLower(w.Text())
		on := w.Text()
		object := w.Text()
		of := name{on, w.Text()}
		status := w.Text()
		g := &catalog.Trigger{Name: at.name, PerRow: strings.HasSuffix(kind, "each row"), Events: strings.Split(strings.TrimSpace(events), " or ")}
		for i, e := range g.Events {
			g.Events[i] = strings.TrimSpace(e)
		}
		g.Timing = strings.TrimSuffix(strings.TrimSuffix(kind, " each row"), " statement")
		if status == "DISABLED" {
			g.Enabled = "disabled"
		}
		if text := r.source[[3]string{at.owner, at.name, "TRIGGER"}]; text != nil {
			g.Definition = "CREATE OR REPLACE " + strings.TrimRight(text.String(), " \t\r\n\x00")
		}
		t, v := r.tables[of], r.views[of]
		switch {
		case t != nil && at.owner != t.Schema:
			r.gap(t.Schema, t.Name, "trigger "+at.name, "it belongs to schema "+at.owner)
		case t != nil:
			t.Triggers = append(t.Triggers, g)
			r.numbers(t, g)
		case v != nil && object == "VIEW":
			v.Triggers = append(v.Triggers, g)
		default:
			r.gap(at.owner, "", "trigger "+at.name, "it is of "+strings.ToLower(object)+", and not read")
			return
		}
		r.trigger[at] = g
		if g.Definition == "" {
			r.gap(of.owner, of.name, "text of trigger "+at.name, "it is not shown to this account")
		}
	})
}

// numbers notes from which sequences a trigger numbers which columns.
func (r *reader) numbers(t *catalog.Table, g *catalog.Trigger) {
	words := meaning(g.Definition)
	found, alone := numbering(words, t.Schema)
	for column, at := range found {
		c, q := t.Column(column), r.sequence(at)
		if c == nil || q == nil {
			continue
		}
		q.UsedBy = append(q.UsedBy, catalog.SequenceUse{ColumnRef: catalog.ColumnRef{Schema: t.Schema, Table: t.Name, Column: column}, How: "trigger", Alone: alone && len(found) == 1})
		if c.Sequence == nil && c.Default == "" {
			c.Sequence = &catalog.Ref{Schema: at.owner, Table: at.name}
		}
	}
}

// isNew reads :NEW.column, which may be called otherwise behind REFERENCING, and is then not
// known.
func isNew(words []sqllex.Token) (column string, rest []sqllex.Token, ok bool) {
	if len(words) < 4 || !words[0].Is(":") || !words[1].Is("new") || !words[2].Is(".") {
		return "", nil, false
	}
	return fold(words[3]), words[4:], true
}

// numbering finds what a trigger's text draws from sequences for columns of the new row, in the
// three forms that are in use; alone is whether it does nothing else.
//
//	SELECT q.NEXTVAL INTO :NEW.id FROM dual;
//	:NEW.id := q.NEXTVAL;
//	IF :NEW.id IS NULL THEN ... END IF;
func numbering(words []sqllex.Token, home string) (found map[string]name, alone bool) {
	found = map[string]name{}
	at := slices.IndexFunc(words, func(t sqllex.Token) bool { return t.Is("begin") })
	if at < 0 {
		return found, false
	}
	alone = !slices.ContainsFunc(words[:at], func(t sqllex.Token) bool { return t.Is("declare") || t.Is("compound") })
	var asked []string // columns that have to be null
	if i := slices.IndexFunc(words[:at], func(t sqllex.Token) bool { return t.Is("when") }); i >= 0 {
		column, ok := whenNull(words[i+1 : at])
		asked, alone = append(asked, column), alone && ok
	}
	for rest := words[at+1:]; len(rest) > 0; {
		column, behind, ok := isNew(rest)
		switch {
		case ok && len(behind) > 2 && behind[0].Is(":") && behind[1].Is("="):
			if q, after, ok := draws(behind[2:], home); ok && len(after) > 0 && after[0].Is(";") {
				found[column], rest = q, after[1:]
				continue
			}
		case rest[0].Is("select"):
			if q, after, ok := draws(rest[1:], home); ok && len(after) > 0 && after[0].Is("into") {
				if column, tail, ok := isNew(after[1:]); ok && len(tail) > 2 && tail[0].Is("from") && tail[2].Is(";") {
					found[column], rest = q, tail[3:]
					continue
				}
			}
		case rest[0].Is("if"):
			if column, after, ok := isNew(rest[1:]); ok && len(after) > 3 && after[0].Is("is") && after[1].Is("null") && after[2].Is("then") {
				asked, rest = append(asked, column), after[3:]
				continue
			}
		case rest[0].Is("end"): // IF; or the trigger's own, which may say its name
			rest = rest[1:]
			for len(rest) > 0 && !rest[0].Is(";") {
				rest = rest[1:]
			}
			if len(rest) > 0 {
				rest = rest[1:]
			}
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

// whenNull reads what follows WHEN where the trigger waits for a null in a column alone:
// (NEW.column IS NULL).
func whenNull(words []sqllex.Token) (column string, ok bool) {
	words = slices.DeleteFunc(slices.Clone(words), func(t sqllex.Token) bool { return t.Is("(") || t.Is(")") })
	if len(words) != 5 || !words[0].Is("new") || !words[1].Is(".") || !words[3].Is("is") || !words[4].Is("null") {
		return "", false
	}
	return fold(words[2]), true
}

func (r *reader) synonyms() {
	r.ask(askSynonyms, func(w *capture.Fields) {
		s := r.schemas[w.Text()]
		o := &catalog.Object{Kind: "synonym", Name: w.Text()}
		owner, of, link := w.Text(), w.Text(), w.Text()
		if s == nil {
			return
		}
		target := ident(of)
		if owner != "" {
			target = qualified(owner, of)
		}
		if link != "" {
			target += "@" + link
		}
		o.Definition = "CREATE SYNONYM " + qualified(s.Name, o.Name) + " FOR " + target
		s.Objects = append(s.Objects, o)
	})
}

func (r *reader) comments() {
	r.ask(askTableComments, func(w *capture.Fields) {
		at, text := name{w.Text(), w.Text()}, w.Text()
		if t := r.tables[at]; t != nil {
			t.Comment = text
		} else if v := r.views[at]; v != nil {
			v.Comment = text
		}
	})
	r.ask(askColumnComments, func(w *capture.Fields) {
		at, column, text := name{w.Text(), w.Text()}, w.Text(), w.Text()
		if t := r.tables[at]; t != nil {
			if c := t.Column(column); c != nil {
				c.Comment = text
			}
		} else if v := r.views[at]; v != nil {
			for _, c := range v.Columns {
				if c.Name == column {
					c.Comment = text
				}
			}
		}
	})
}

// kindOf is what the name stands for in the model, or "".
func (r *reader) kindOf(at name, says string) catalog.ObjectRef {
	o := catalog.ObjectRef{Schema: at.owner, Name: at.name}
	switch {
	case r.views[at] != nil:
		o.Kind = catalog.KindView
	case r.tables[at] != nil:
		o.Kind = catalog.KindTable
	case r.sequence(at) != nil:
		o.Kind = catalog.KindSequence
	case r.routine[[3]string{at.owner, at.name, says}] != nil:
		o.Kind = catalog.KindRoutine
	}
	return o
}

func (r *reader) dependencies() {
	r.ask(askDependencies, func(w *capture.Fields) {
		from, kind := name{w.Text(), w.Text()}, w.Text()
		to, says := name{w.Text(), w.Text()}, w.Text()
		of := r.kindOf(to, says)
		if of.Kind == "" || from == to {
			return
		}
		v, f := r.views[from], r.routine[[3]string{from.owner, from.name, kind}]
		switch {
		case v != nil && !slices.Contains(v.Reads, of):
			v.Reads = append(v.Reads, of)
		case f != nil && of.Kind == catalog.KindRoutine:
			f.Needs = append(f.Needs, of)
		case f != nil && !slices.Contains(f.Touches, of):
			f.Touches = append(f.Touches, of)
		}
	})
}

// invalid are objects that the engine could not compile any more: each use of them tries it
// again, and fails.
func (r *reader) invalid() {
	r.ask(askInvalid, func(w *capture.Fields) {
		at, kind := name{w.Text(), w.Text()}, strings.ToLower(w.Text())
		f := catalog.Fault{Kind: kind, Schema: at.owner, Name: at.name, Reason: "it could not be compiled"}
		switch {
		case kind == "view" && r.views[at] != nil:
		case kind == "trigger" && r.trigger[at] != nil:
			for _, t := range r.c.Tables() {
				if slices.Contains(t.Triggers, r.trigger[at]) {
					f.Table = t.Name
				}
			}
		case routineKinds[strings.ToUpper(kind)] != "":
		default:
			return
		}
		r.c.Faults = append(r.c.Faults, f)
	})
}

func (r *reader) grants() {
	column := false
	take := func(w *capture.Fields) {
		at := name{w.Text(), w.Text()}
		g := catalog.Grant{To: w.Text()}
		by := w.Text()
		g.What = w.Text()
		g.Grantable = w.Is("YES")
		if column {
			g.Column = w.Text()
		}
		if by != at.owner {
			g.By = by
		}
		var to *catalog.Rights
		if t := r.tables[at]; t != nil {
			to = &t.Rights
		} else if v := r.views[at]; v != nil {
			to = &v.Rights
		} else if q := r.sequence(at); q != nil {
			to = &q.Rights
		} else {
			for key, f := range r.routine {
				if key[0] == at.owner && key[1] == at.name && key[2] != "PACKAGE BODY" {
					to = &f.Rights
				}
			}
		}
		if to != nil {
			to.Granted = true
			to.Grants = append(to.Grants, g)
		}
	}
	told := r.or(askGrants, askGrantsAll, take)
	column = true
	told = r.or(askColumnGrants, askColumnGrantsAll, take) && told
	if !told && r.err == nil {
		r.c.Gaps = append(r.c.Gaps, catalog.Gap{What: "grants", Reason: "the account may not read them"})
	}
}

func (r *reader) segments() {
	told := r.or(askSegments, askSegmentsOwn, func(w *capture.Fields) {
		at, kind, bytes := name{w.Text(), w.Text()}, w.Text(), w.Big()
		if bytes == nil {
			return
		}
		if t := r.tables[at]; t != nil && strings.HasPrefix(kind, "TABLE") {
			n := *bytes
			t.Stats.Bytes = &n
		}
		if x := r.indexes[at]; x != nil && strings.HasPrefix(kind, "INDEX") {
			n := *bytes
			x.Bytes = &n
			if t := r.indexed[at]; t != nil {
				sum := or(t.Stats.IndexBytes, 0) + n
				t.Stats.IndexBytes = &sum
			}
		}
	})
	if !told && r.err == nil {
		r.c.Gaps = append(r.c.Gaps, catalog.Gap{What: "sizes", Reason: "the account may read no segments", Figures: true})
	}
}

// unread says what is there and not read.
func (r *reader) unread() {
	r.ask(askOddTables, func(w *capture.Fields) {
		r.gap(w.Text(), "", "table "+w.Text(), "it holds objects, XML or the nested rows of another")
	})
	r.ask(askLogs, func(w *capture.Fields) {
		owner, master, log := w.Text(), w.Text(), w.Text()
		r.gap(owner, master, "materialized view log", "no question asks what it keeps")
		delete(r.tables, name{owner, log}) // which the engine keeps for itself
		if s := r.schemas[owner]; s != nil {
			s.Tables = slices.DeleteFunc(s.Tables, func(t *catalog.Table) bool { return t.Name == log })
		}
	})
	r.ask(askPolicies, func(w *capture.Fields) {
		owner, on, policy := w.Text(), w.Text(), w.Text()
		r.gap(owner, on, "policy "+policy, "no question asks for its text, and it may hide rows from who asks the data")
		if t := r.tables[name{owner, on}]; t != nil && w.Is("YES") {
			t.Options = append(t.Options, catalog.RowFilter+"policy "+policy)
		}
	})
	r.ask(askUnread, func(w *capture.Fields) {
		owner, kind, many := w.Text(), strings.ToLower(w.Text()), w.Big()
		r.gap(owner, "", text.Plural(or(many, 0), kind), "no question asks for objects of this kind")
	})
}
