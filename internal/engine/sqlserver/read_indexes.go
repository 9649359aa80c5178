package sqlserver

import (
	"fmt"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/capture"
	"nexdal/internal/engine/sqlserver/traits"
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
	r.ask(askIndexes, func(w *capture.Fields) {
		object, id := w.Text(), w.Text()
		x := &catalog.Index{Name: w.Text(), Origin: catalog.ByPerson, Method: "btree"}
		kind, says := w.Number(), w.Text()
		x.Unique = w.Is("1")
		primary, unique := w.Is("1"), w.Is("1")
		var storage []string
		option := func(on bool, text string) {
			if on {
				storage = append(storage, text)
			}
		}
		option(w.Is("1"), "IGNORE_DUP_KEY = ON")
		if fill := w.Number(); fill > 0 && fill < 100 {
			storage = append(storage, fmt.Sprintf("FILLFACTOR = %d", fill))
		}
		option(w.Is("1"), "PAD_INDEX = ON")
		x.Invalid = w.Is("1")
		hypothetical := w.Is("1")
		rowLocks, pageLocks := w.Is("1"), w.Is("1")
		option(!rowLocks, "ALLOW_ROW_LOCKS = OFF")
		option(!pageLocks, "ALLOW_PAGE_LOCKS = OFF")
		if w.Is("1") {
			x.Predicate = plain(w.Text())
		} else {
			w.Text()
		}
		key, keyID := w.Text(), w.Text()
		space, spaceKind, usual := w.Text(), w.Text(), w.Is("1")
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
		} else if spaceKind != "PS" && (!usual || t != nil && r.placed[t] != nil && r.placed[t].scheme != "") {
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
	r.ask(askIndexColumns, func(w *capture.Fields) {
		object, id, column := w.Text(), w.Text(), w.Text()
		order, partition := w.Number(), w.Number()
		descending, included := w.Is("1"), w.Is("1")
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
			x.Tablespace = traits.Ident(scheme) + "(" + traits.Ident(cut[at]) + ")"
		}
	}
	for _, p := range r.placed {
		if p.scheme != "" {
			p.scheme = traits.Ident(p.scheme) + "(" + traits.Ident(cut[[2]string{p.object, p.index}]) + ")"
		}
	}
	for _, t := range r.tables {
		for _, k := range t.Keys() {
			k.Columns = t.Index(k.Index).Columns()
		}
	}
}

func (r *reader) references() {
	r.ask(askForeignKeys, func(w *capture.Fields) {
		id := w.Text()
		f := &catalog.ForeignKey{Name: w.Text()}
		t, target := r.tables[w.Text()], w.Text()
		if x := r.indexes[[2]string{target, w.Text()}]; x != nil {
			f.TargetIndex = x.Name
		}
		f.Disabled = w.Is("1")
		f.NotValidated = w.Is("1")
		replication := w.Is("1")
		f.OnDelete, f.OnUpdate = actions[w.Number()&3], actions[w.Number()&3]
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
	r.ask(askForeignKeyColumns, func(w *capture.Fields) {
		f := r.keys[w.Text()]
		if f == nil {
			return
		}
		f.Columns = append(f.Columns, r.columns[w.Text()][w.Text()])
		f.TargetColumns = append(f.TargetColumns, r.columns[w.Text()][w.Text()])
	})
}

// actions by their numbers.
var actions = [4]catalog.Action{catalog.NoAction, catalog.Cascade, catalog.SetNull, catalog.SetDefault}

func (r *reader) readChecks() {
	r.ask(askChecks, func(w *capture.Fields) {
		id := w.Text()
		k := &catalog.Check{Name: w.Text()}
		object := w.Text()
		t := r.tables[object]
		w.Text() // the column that it was declared with; it is of the table all the same
		k.Expression = plain(w.Text())
		disabled, untrusted := w.Is("1"), w.Is("1")
		k.NotEnforced, k.NotValidated = disabled, disabled || untrusted
		if t == nil {
			return
		}
		t.Checks = append(t.Checks, k)
		r.checks[id], r.refs[id] = k, catalog.ObjectRef{Kind: "check", Schema: t.Schema, Name: k.Name}
		if w.Is("1") {
			r.gap(t.Schema, t.Name, "check "+k.Name, "it is not for replication, which is not read")
		}
	})
}
