package oracle

import (
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/capture"
	"nexdal/internal/engine/sqllex"
)

func (r *reader) readIndexes() {
	r.ask(askIndexes, func(w *capture.Fields) {
		owner, kind := "", ""
		owner = w.Text()
		x := &catalog.Index{Name: w.Text(), Origin: catalog.ByPerson, Method: "btree"}
		kind = w.Text()
		on := name{w.Text(), w.Text()}
		x.Unique = w.Is("UNIQUE")
		compressed, prefix, space := w.Text(), w.Text(), w.Text()
		status, parted := w.Text(), w.Is("YES")
		x.Ignored = w.Is("INVISIBLE")
		w.Text()
		_, domain, expression := w.Text(), w.Text(), w.Text()
		t := r.tables[on]
		if t == nil {
			if v := r.views[on]; v != nil && kind != "CLUSTER" {
				v.Indexes = append(v.Indexes, x)
				r.indexes[name{owner, x.Name}] = x
			}
			return
		}
		switch {
		case strings.HasPrefix(kind, "IOT"):
			x.Clustered = true
		case strings.HasSuffix(kind, "BITMAP"):
			x.Method = "bitmap"
		case kind == "NORMAL/REV", kind == "FUNCTION-BASED NORMAL/REV":
			x.Storage = "REVERSE"
		case kind == "DOMAIN", strings.HasPrefix(kind, "FUNCTION-BASED DOMAIN"):
			x.Method = strings.ToLower(domain)
		}
		x.Invalid = status == "UNUSABLE" || expression == "DISABLED"
		var storage []string
		if x.Storage != "" {
			storage = append(storage, x.Storage)
		}
		switch {
		case compressed == "ENABLED":
			storage = append(storage, strings.TrimSpace("COMPRESS "+prefix))
		case strings.HasPrefix(compressed, "ADVANCED"):
			storage = append(storage, "COMPRESS "+compressed)
		}
		x.Storage = strings.Join(storage, " ")
		if !parted && !t.Has("temporary, rows of a session") && !t.Has("temporary, rows of a transaction") {
			x.Tablespace = r.lies(on.owner, space)
		}
		t.Indexes = append(t.Indexes, x)
		at := name{owner, x.Name}
		r.indexes[at], r.indexed[at] = x, t
		if owner != on.owner {
			r.gap(t.Schema, t.Name, "index "+x.Name, "it belongs to schema "+owner)
		}
	})
	r.ask(askIndexColumns, func(w *capture.Fields) {
		if x := r.indexes[name{w.Text(), w.Text()}]; x != nil {
			column := w.Text()
			w.Text()
			x.Parts = append(x.Parts, catalog.IndexPart{Column: column, Descending: w.Is("DESC")})
		}
	})
	r.ask(askIndexExpressions, func(w *capture.Fields) {
		at := name{w.Text(), w.Text()}
		place, text := w.Number(), strings.TrimSpace(w.Text())
		x, t := r.indexes[at], r.indexed[at]
		if x == nil || t == nil || place < 1 || place > len(x.Parts) {
			return
		}
		p := &x.Parts[place-1]
		// A descending column is kept as an expression that is the column.
		if column, ok := plainColumn(text); ok && t.Column(column) != nil {
			p.Column = column
			return
		}
		p.Column, p.Expression = "", text
	})
	r.ask(askPartIndexes, func(w *capture.Fields) {
		x := r.indexes[name{w.Text(), w.Text()}]
		if x == nil {
			return
		}
		locality, by := w.Text(), w.Text()
		if locality == "LOCAL" {
			x.Storage = strings.TrimSpace(x.Storage + " LOCAL")
		} else {
			x.Pinned = "it is partitioned apart from its table, by " + strings.ToLower(by)
		}
	})
	r.ask(askUnusable, func(w *capture.Fields) {
		if x := r.indexes[name{w.Text(), w.Text()}]; x != nil {
			x.Invalid = true
		}
	})
}

// plainColumn is the column that an expression is: "NAME".
func plainColumn(text string) (string, bool) {
	tokens := Engine{}.Dialect().Tokens(text)
	if len(tokens) == 1 && tokens[0].Kind == sqllex.Quoted {
		return tokens[0].Name(), true
	}
	return "", false
}

// A constraint is one as the dictionary has it.
type constraint struct {
	owner, name, kind, table, condition string
	target                              name
	onDelete                            string
	on, deferrable, deferred, validated bool
	bySystem, rely                      bool
	index                               name
	columns                             []string
}

// constraints reads keys, references, checks and what forbids nulls.
func (r *reader) constraints() {
	var all []*constraint
	by := map[name]*constraint{}
	r.ask(askConstraints, func(w *capture.Fields) {
		k := &constraint{owner: w.Text(), name: w.Text(), kind: w.Text(), table: w.Text(), condition: strings.TrimSpace(w.Text())}
		k.target = name{w.Text(), w.Text()}
		k.onDelete = w.Text()
		k.on = w.Is("ENABLED")
		k.deferrable, k.deferred, k.validated = w.Is("DEFERRABLE"), w.Is("DEFERRED"), w.Is("VALIDATED")
		k.bySystem, k.rely = w.Is("GENERATED NAME"), w.Is("RELY")
		k.index = name{w.Text(), w.Text()}
		if strings.HasPrefix(k.name, "BIN$") || strings.HasPrefix(k.table, "BIN$") {
			return
		}
		all = append(all, k)
		by[name{k.owner, k.name}] = k
	})
	r.ask(askConstraintColumns, func(w *capture.Fields) {
		if k := by[name{w.Text(), w.Text()}]; k != nil {
			k.columns = append(k.columns, w.Text())
		}
	})
	for _, k := range all {
		t := r.tables[name{k.owner, k.table}]
		if t == nil {
			continue
		}
		if k.rely {
			t.Options = append(t.Options, "rely "+k.name)
		}
		switch k.kind {
		case "P", "U":
			r.key(t, k)
		case "R":
			r.reference(t, k, by[k.target])
		default:
			r.check(t, k)
		}
	}
}

func (r *reader) key(t *catalog.Table, k *constraint) {
	key := &catalog.Key{Name: k.name, Columns: k.columns, Index: k.index.name, Deferrable: k.deferrable, Deferred: k.deferred}
	if !k.on || !k.validated || r.indexes[k.index] == nil {
		// Nothing keeps it, or nobody has looked at the rows: it is no key that one could build on.
		o := &catalog.Object{Kind: catalog.KindDisabledKey, Name: k.name, Definition: "ALTER TABLE " + relation(t.Ref()) + " ADD " + keyText(t, key, k.kind == "P", nil) + stateText(k.on, k.validated)}
		t.Objects = append(t.Objects, o)
		return
	}
	x := r.indexes[k.index]
	if x.Origin = catalog.ByUniqueKey; k.kind == "P" {
		x.Origin = catalog.ByPrimaryKey
		t.PrimaryKey = key
		return
	}
	t.UniqueKeys = append(t.UniqueKeys, key)
}

func (r *reader) reference(t *catalog.Table, k, target *constraint) {
	if target == nil {
		r.gap(t.Schema, t.Name, "foreign key "+k.name, "the key that it refers to, "+k.target.owner+"."+k.target.name+", could not be read")
		return
	}
	f := &catalog.ForeignKey{Name: k.name, Columns: k.columns, Target: catalog.Ref{Schema: target.owner, Table: target.table}, TargetColumns: target.columns, TargetIndex: target.index.name,
		OnDelete: catalog.NoAction, OnUpdate: catalog.NoAction, Deferrable: k.deferrable, Deferred: k.deferred, NotValidated: !k.validated || !k.on, Disabled: !k.on}
	switch k.onDelete {
	case "CASCADE":
		f.OnDelete = catalog.Cascade
	case "SET NULL":
		f.OnDelete = catalog.SetNull
	}
	t.ForeignKeys = append(t.ForeignKeys, f)
}

func (r *reader) check(t *catalog.Table, k *constraint) {
	column, ok := forbidsNull(k.condition)
	if c := t.Column(column); ok && c != nil && k.on && k.validated && !c.Nullable {
		if !k.bySystem {
			c.NotNull = &catalog.NotNull{Name: k.name}
		}
		return // the column says so
	}
	t.Checks = append(t.Checks, &catalog.Check{Name: k.name, Expression: k.condition, NotValidated: !k.validated || !k.on, NotEnforced: !k.on})
	if k.deferrable {
		t.Options = append(t.Options, "deferrable "+k.name)
	}
}

// forbidsNull is the column that the condition forbids null in, as the dictionary writes it.
func forbidsNull(condition string) (string, bool) {
	rest, ok := strings.CutSuffix(condition, " IS NOT NULL")
	if !ok {
		return "", false
	}
	return plainColumn(rest)
}

// stateText is how a constraint is kept, where it is not simply on
// (https://docs.oracle.com/en/database/oracle/oracle-database/19/sqlrf/constraint.html, constraint_state).
func stateText(on, validated bool) string {
	switch {
	case !on:
		return " DISABLE"
	case !validated:
		return " ENABLE NOVALIDATE"
	}
	return ""
}

// partitions reads how tables are cut up.
func (r *reader) partitions() {
	type by struct {
		columns, sub []string
	}
	keys := map[name]*by{}
	r.ask(askPartTables, func(w *capture.Fields) {
		at := name{w.Text(), w.Text()}
		method, sub, interval, reference, auto := w.Text(), w.Text(), w.Text(), w.Text(), w.Is("YES")
		t := r.tables[at]
		if t == nil {
			return
		}
		keys[at] = &by{}
		t.PartitionBy = &catalog.PartitionKey{Method: strings.ToLower(method)}
		switch {
		case interval != "":
			t.PartitionBy.Definition = "INTERVAL (" + interval + ")"
		case reference != "":
			t.PartitionBy.Definition = reference
		case auto:
			t.PartitionBy.Definition = "AUTOMATIC"
		}
		if sub != "" && sub != "NONE" {
			t.PartitionBy.Sub = &catalog.PartitionKey{Method: strings.ToLower(sub)}
		}
	})
	take := func(sub bool) func(w *capture.Fields) {
		return func(w *capture.Fields) {
			if k := keys[name{w.Text(), w.Text()}]; k != nil && sub {
				k.sub = append(k.sub, w.Text())
			} else if k != nil {
				k.columns = append(k.columns, w.Text())
			}
		}
	}
	r.ask(askPartKeys, take(false))
	r.ask(askSubpartKeys, take(true))
	for at, k := range keys {
		p := r.tables[at].PartitionBy
		p.Columns = k.columns
		p.Definition = strings.TrimSpace(strings.ToUpper(p.Method) + " (" + idents(k.columns) + ") " + p.Definition)
		if p.Method == "reference" {
			p.Columns, p.Definition = nil, "REFERENCE ("+ident(strings.TrimPrefix(p.Definition, "REFERENCE () "))+")"
		}
		if p.Sub != nil {
			p.Sub.Columns = k.sub
			p.Sub.Definition = strings.ToUpper(p.Sub.Method) + " (" + idents(k.sub) + ")"
		}
	}
	r.ask(askParts, func(w *capture.Fields) {
		at := name{w.Text(), w.Text()}
		p := &catalog.Partition{Name: w.Text()}
		high, rows, space := strings.TrimSpace(w.Text()), w.Big(), w.Text()
		t := r.tables[at]
		if t == nil || t.PartitionBy == nil {
			return
		}
		p.Bounds, p.Rows = partBounds(t.PartitionBy.Method, high), rows
		if other := r.lies(at.owner, space); other != "" {
			p.Options = append(p.Options, "tablespace "+other)
		}
		t.Partitions = append(t.Partitions, p)
	})
	r.ask(askSubparts, func(w *capture.Fields) {
		t, of := r.tables[name{w.Text(), w.Text()}], w.Text()
		p := &catalog.Partition{Name: w.Text()}
		high, rows := strings.TrimSpace(w.Text()), w.Big()
		if t == nil || t.PartitionBy == nil || t.PartitionBy.Sub == nil {
			return
		}
		p.Bounds, p.Rows = partBounds(t.PartitionBy.Sub.Method, high), rows
		if i := slices.IndexFunc(t.Partitions, func(o *catalog.Partition) bool { return o.Name == of }); i >= 0 {
			t.Partitions[i].Parts = append(t.Partitions[i].Parts, p)
		}
	})
}

func partBounds(method, high string) string {
	switch {
	case high == "":
		return ""
	case method == "list":
		return "VALUES (" + high + ")"
	}
	return "VALUES LESS THAN (" + high + ")"
}
