package sqlserver

import (
	"fmt"
	"strings"

	"nexdal/internal/catalog"
)

// The types of sys.indexes.
const (
	heap = iota
	clustered
	nonclustered
	xmlIndex
	spatialIndex
	clusteredColumnstore
	columnstore
	hashIndex
)

func (r *reader) readIndexes() {
	r.ask(askIndexes, func(w *row) {
		object, id := w.text(), w.text()
		x := &catalog.Index{Name: w.text(), Origin: catalog.ByPerson, Method: "btree"}
		kind, says := w.number(), w.text()
		x.Unique = w.flag()
		primary, unique := w.flag(), w.flag()
		var storage []string
		option := func(on bool, text string) {
			if on {
				storage = append(storage, text)
			}
		}
		option(w.flag(), "IGNORE_DUP_KEY = ON")
		if fill := w.number(); fill > 0 && fill < 100 {
			storage = append(storage, fmt.Sprintf("FILLFACTOR = %d", fill))
		}
		option(w.flag(), "PAD_INDEX = ON")
		x.Invalid = w.flag()
		hypothetical := w.flag()
		rowLocks, pageLocks := w.flag(), w.flag()
		option(!rowLocks, "ALLOW_ROW_LOCKS = OFF")
		option(!pageLocks, "ALLOW_PAGE_LOCKS = OFF")
		if w.flag() {
			x.Predicate = plain(w.text())
		} else {
			w.text()
		}
		key, keyID := w.text(), w.text()
		space, spaceKind, usual := w.text(), w.text(), w.flag()
		t := r.tables[object]
		switch kind {
		case heap:
			if t != nil {
				r.place(t, object, id, space, spaceKind)
			}
			return
		case clustered:
			x.Clustered = true
		case clusteredColumnstore:
			x.Clustered, x.Method = true, "columnstore"
		case nonclustered:
		case columnstore:
			x.Method = "columnstore"
		case hashIndex:
			x.Method = "hash"
		default:
			x.Method = strings.ToLower(says)
		}
		if hypothetical {
			return // a tool's, with no entries
		}
		if x.Clustered && t != nil {
			r.place(t, object, id, space, spaceKind)
		} else if spaceKind != "PS" && !usual {
			x.Tablespace = space
		} else if spaceKind == "PS" {
			r.spaces[[2]string{object, id}] = space
		}
		x.Storage = strings.Join(storage, ", ")
		switch {
		case primary:
			x.Origin = catalog.ByPrimaryKey
		case unique:
			x.Origin = catalog.ByUniqueKey
		}
		r.indexes[[2]string{object, id}] = x
		if v := r.views[object]; v != nil {
			v.Indexes = append(v.Indexes, x)
			return
		}
		if t == nil {
			return
		}
		t.Indexes = append(t.Indexes, x)
		if primary || unique {
			k := &catalog.Key{Name: key, Index: x.Name}
			r.uniques[keyID] = k
			if primary {
				t.PrimaryKey = k
			} else {
				t.UniqueKeys = append(t.UniqueKeys, k)
			}
		}
		if kind == xmlIndex || kind == spatialIndex {
			r.gap(t.Schema, t.Name, "index "+x.Name, "what makes an "+x.Method+" index is not read")
		}
	})
}

// place notes where the rows of a table lie.
func (r *reader) place(t *catalog.Table, object, index, space, kind string) {
	p := &placedIndex{object: object, index: index}
	if kind == "PS" {
		p.scheme = space
	}
	r.placed[t] = p
}

func (r *reader) indexColumns() {
	cut := map[[2]string]string{} // the column that an index is partitioned by
	r.ask(askIndexColumns, func(w *row) {
		object, id, column := w.text(), w.text(), w.text()
		order, partition := w.number(), w.number()
		descending, included := w.flag(), w.flag()
		at := [2]string{object, id}
		name := r.columns[object][column]
		if partition > 0 {
			cut[at] = name
		}
		x := r.indexes[at]
		switch {
		case x == nil:
		case x.Method == "columnstore" && !included && order == 0, included:
			if x.Method == "columnstore" {
				if !x.Clustered {
					x.Parts = append(x.Parts, catalog.IndexPart{Column: name})
				}
			} else {
				x.Include = append(x.Include, name)
			}
		case order > 0:
			x.Parts = append(x.Parts, catalog.IndexPart{Column: name, Descending: descending})
		}
	})
	for at, scheme := range r.spaces {
		if x := r.indexes[at]; x != nil {
			x.Tablespace = ident(scheme) + "(" + ident(cut[at]) + ")"
		}
	}
	for _, p := range r.placed {
		if p.scheme != "" {
			p.scheme = ident(p.scheme) + "(" + ident(cut[[2]string{p.object, p.index}]) + ")"
		}
	}
	for _, t := range r.tables {
		for _, k := range t.Keys() {
			k.Columns = t.Index(k.Index).Columns()
		}
	}
}

func (r *reader) references() {
	r.ask(askForeignKeys, func(w *row) {
		id := w.text()
		f := &catalog.ForeignKey{Name: w.text()}
		t, target := r.tables[w.text()], w.text()
		if x := r.indexes[[2]string{target, w.text()}]; x != nil {
			f.TargetIndex = x.Name
		}
		f.Disabled = w.flag()
		f.NotValidated = w.flag()
		replication := w.flag()
		f.OnDelete, f.OnUpdate = actions[w.number()&3], actions[w.number()&3]
		if to := r.tables[target]; to != nil {
			f.Target = to.Ref()
		}
		if t == nil {
			return
		}
		t.ForeignKeys = append(t.ForeignKeys, f)
		r.keys[id], r.refs[id] = f, catalog.ObjectRef{Kind: "foreign key", Schema: t.Schema, Name: f.Name}
		if replication {
			r.gap(t.Schema, t.Name, "foreign key "+f.Name, "it is not for replication, which is not read")
		}
	})
	r.ask(askForeignKeyColumns, func(w *row) {
		f := r.keys[w.text()]
		if f == nil {
			return
		}
		f.Columns = append(f.Columns, r.columns[w.text()][w.text()])
		f.TargetColumns = append(f.TargetColumns, r.columns[w.text()][w.text()])
	})
}

// actions by their numbers.
var actions = [4]catalog.Action{catalog.NoAction, catalog.Cascade, catalog.SetNull, catalog.SetDefault}

func (r *reader) readChecks() {
	r.ask(askChecks, func(w *row) {
		id := w.text()
		k := &catalog.Check{Name: w.text()}
		object := w.text()
		t := r.tables[object]
		w.text() // the column that it was declared with; it is of the table all the same
		k.Expression = plain(w.text())
		disabled, untrusted := w.flag(), w.flag()
		k.NotEnforced, k.NotValidated = disabled, disabled || untrusted
		if t == nil {
			return
		}
		t.Checks = append(t.Checks, k)
		r.checks[id], r.refs[id] = k, catalog.ObjectRef{Kind: "check", Schema: t.Schema, Name: k.Name}
		if w.flag() {
			r.gap(t.Schema, t.Name, "check "+k.Name, "it is not for replication, which is not read")
		}
	})
}
