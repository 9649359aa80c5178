package change

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
)

// A snapshot is all that a change has touched, as it was before: what the model knows
// of it, whole. It leads from the catalog with the change back to the one without.
type snapshot struct {
	tables    []object[catalog.Table]
	sequences []object[catalog.Sequence]
	views     []object[catalog.View]
	routines  []object[catalog.Routine]
	members   []members
	schemas   moves[catalog.Schema]
	objects   moves[catalog.Object]
	settings  *[]catalog.Setting // nil: they were left alone
}

// object is one thing as it was, and what it is called now.
type object[T any] struct {
	schema, name string
	was          *T
}

// members says which members a schema has got and lost.
type members struct {
	schema    string
	tables    moves[catalog.Table]
	views     moves[catalog.View]
	sequences moves[catalog.Sequence]
	types     moves[catalog.UserType]
	routines  moves[catalog.Routine]
	objects   moves[catalog.Object]
}

// moves of a list: the names that are new in it, and what is there no more.
type moves[T any] struct {
	added   []string
	removed []*T
}

func schemaName(s *catalog.Schema) string     { return s.Name }
func tableName(t *catalog.Table) string       { return t.Name }
func viewName(v *catalog.View) string         { return v.Name }
func sequenceName(q *catalog.Sequence) string { return q.Name }
func typeName(y *catalog.UserType) string     { return y.Name }
func objectName(o *catalog.Object) string     { return o.Kind + " " + o.Name }

// snapshot is what the edit has touched.
func (e *edit) snapshot() *snapshot {
	s := &snapshot{}
	s.tables = touched(e.tables, tableName, func(k kept[catalog.Table]) bool { return e.Table(k.is.Ref()) == k.is })
	s.sequences = touched(e.sequences, sequenceName, func(k kept[catalog.Sequence]) bool {
		q, _ := sequence(e.Catalog, k.schema, k.is.Name)
		return q == k.is
	})
	s.views = touched(e.views, viewName, func(kept[catalog.View]) bool { return true })
	s.routines = touched(e.routines, (*catalog.Routine).Signature, func(kept[catalog.Routine]) bool { return true })
	for _, k := range e.schemas {
		if len(e.top) > 0 && !slices.Contains(e.top[0].was.Schemas, k.is) {
			continue // it came with all that it holds
		}
		s.members = append(s.members, members{k.was.Name,
			moved(k.was.Tables, k.is.Tables, tableName, e.tables),
			moved(k.was.Views, k.is.Views, viewName, e.views),
			moved(k.was.Sequences, k.is.Sequences, sequenceName, e.sequences),
			moved(k.was.Types, k.is.Types, typeName, nil),
			moved(k.was.Routines, k.is.Routines, (*catalog.Routine).Signature, e.routines),
			moved(k.was.Objects, k.is.Objects, objectName, nil)})
	}
	for _, k := range e.top {
		s.schemas = moved(k.was.Schemas, k.is.Schemas, schemaName, nil)
		s.objects = moved(k.was.Objects, k.is.Objects, objectName, nil)
		s.settings = &k.was.Settings
	}
	return s
}

// touched lists what was altered and is there still.
func touched[T any](list []kept[T], name func(*T) string, there func(kept[T]) bool) []object[T] {
	var all []object[T]
	for _, k := range list {
		if there(k) {
			was := k.was
			all = append(all, object[T]{k.schema, name(k.is), &was})
		}
	}
	return all
}

// moved compares two states of a list that mostly hold the same.
func moved[T any](was, is []*T, name func(*T) string, altered []kept[T]) moves[T] {
	for len(was) > 0 && len(is) > 0 && was[0] == is[0] {
		was, is = was[1:], is[1:]
	}
	for len(was) > 0 && len(is) > 0 && was[len(was)-1] == is[len(is)-1] {
		was, is = was[:len(was)-1], is[:len(is)-1]
	}
	before, after := map[*T]bool{}, map[*T]bool{}
	for _, p := range was {
		before[p] = true
	}
	var m moves[T]
	for _, p := range is {
		if after[p] = true; !before[p] {
			m.added = append(m.added, name(p))
		}
	}
	for _, p := range was {
		if after[p] {
			continue
		}
		gone := *p
		if i := slices.IndexFunc(altered, func(k kept[T]) bool { return k.is == p }); i >= 0 {
			gone = altered[i].was
		}
		m.removed = append(m.removed, &gone)
	}
	return m
}

// restore puts back, in a catalog that the change was applied to, what it has touched.
func (s *snapshot) restore(e *edit) error {
	if s.settings != nil {
		c := e.whole()
		c.Settings = slices.Clone(*s.settings)
		c.Schemas = back(c.Schemas, s.schemas, schemaName, (*catalog.Schema).Clone)
		c.Objects = back(c.Objects, s.objects, objectName, (*catalog.Object).Clone)
	}
	for _, o := range s.tables {
		t, err := e.table(catalog.Ref{Schema: o.schema, Table: o.name})
		if err != nil {
			return err
		}
		*t = *o.was.Clone()
	}
	for _, o := range s.sequences {
		q, err := e.sequence(o.schema, o.name)
		if err != nil {
			return err
		}
		*q = *o.was.Clone()
	}
	for _, o := range s.views {
		v, err := e.view(o.schema, o.name)
		if err != nil {
			return err
		}
		*v = *o.was.Clone()
	}
	for _, o := range s.routines {
		r, err := e.routine(o.schema, o.name)
		if err != nil {
			return err
		}
		*r = *o.was.Clone()
	}
	for _, m := range s.members {
		in, err := e.schema(m.schema)
		if err != nil {
			return err
		}
		in.Tables = back(in.Tables, m.tables, tableName, (*catalog.Table).Clone)
		in.Views = back(in.Views, m.views, viewName, (*catalog.View).Clone)
		in.Sequences = back(in.Sequences, m.sequences, sequenceName, (*catalog.Sequence).Clone)
		in.Types = back(in.Types, m.types, typeName, (*catalog.UserType).Clone)
		in.Routines = back(in.Routines, m.routines, (*catalog.Routine).Signature, (*catalog.Routine).Clone)
		in.Objects = back(in.Objects, m.objects, objectName, (*catalog.Object).Clone)
		slices.SortFunc(in.Tables, byName) // one of them may have got its old name back
	}
	return nil
}

// back takes out of a list what was added to it, and puts in what was removed: where there is one of
// its name, in its place.
func back[T any](list []*T, m moves[T], name func(*T) string, clone func(*T) *T) []*T {
	removed := slices.Clone(m.removed)
	var all []*T
	for _, p := range list {
		i := slices.IndexFunc(removed, func(r *T) bool { return name(r) == name(p) })
		switch {
		case !slices.Contains(m.added, name(p)):
			all = append(all, p)
		case i >= 0:
			all = append(all, clone(removed[i]))
			removed = slices.Delete(removed, i, i+1)
		}
	}
	for _, p := range removed {
		all = append(all, clone(p))
	}
	return all
}

func byName(a, b *catalog.Table) int { return strings.Compare(a.Name, b.Name) }

// view finds a view, which is about to be altered, or says that it is gone.
func (e *edit) view(schema, name string) (*catalog.View, error) {
	if s := e.Schema(schema); s != nil {
		if i := slices.IndexFunc(s.Views, func(v *catalog.View) bool { return v.Name == name }); i >= 0 {
			return keep(&e.views, schema, s.Views[i], (*catalog.View).Clone), nil
		}
	}
	return nil, fmt.Errorf("view %s.%s does not exist", schema, name)
}

// routine finds a routine, which is about to be altered, or says that it is gone.
func (e *edit) routine(schema, signature string) (*catalog.Routine, error) {
	if s := e.Schema(schema); s != nil {
		if i := slices.IndexFunc(s.Routines, func(r *catalog.Routine) bool { return r.Signature() == signature }); i >= 0 {
			return keep(&e.routines, schema, s.Routines[i], (*catalog.Routine).Clone), nil
		}
	}
	return nil, fmt.Errorf("routine %s.%s does not exist", schema, signature)
}
