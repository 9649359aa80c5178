package change

import (
	"fmt"
	"slices"

	"nexdal/internal/catalog"
)

// Apply carries the change out on the model, whole or not at all. It fails where the
// change does not fit the catalog any more.
func Apply(ch Change, c *catalog.Catalog, can catalog.Abilities) error {
	return Item{Change: ch}.Apply(c, can)
}

// An edit is one change being carried out. It reads the catalog as it pleases; what
// it is about to alter it asks for by the methods below, which keep how that was.
type edit struct {
	*catalog.Catalog
	tables    []kept[catalog.Table]
	sequences []kept[catalog.Sequence]
	views     []kept[catalog.View]
	routines  []kept[catalog.Routine]
	schemas   []kept[catalog.Schema] // the lists of their members alone
	top       []kept[catalog.Catalog]
}

// kept is a value of the model, and how it was before it was altered.
type kept[T any] struct {
	schema string
	is     *T
	was    T
}

// keep notes how the value is, unless that is noted already.
func keep[T any](list *[]kept[T], schema string, p *T, clone func(*T) *T) *T {
	if !slices.ContainsFunc(*list, func(k kept[T]) bool { return k.is == p }) {
		*list = append(*list, kept[T]{schema, p, *clone(p)})
	}
	return p
}

// undo takes back what was altered.
func (e *edit) undo() {
	putBack(e.tables)
	putBack(e.sequences)
	putBack(e.views)
	putBack(e.routines)
	putBack(e.schemas)
	putBack(e.top)
}

func putBack[T any](list []kept[T]) {
	for _, k := range list {
		*k.is = k.was
	}
}

// altered is a table of the catalog that is about to be altered.
func (e *edit) altered(t *catalog.Table) *catalog.Table {
	return keep(&e.tables, t.Schema, t, (*catalog.Table).Clone)
}

// table finds the table, which is about to be altered, or says that it is gone.
func (e *edit) table(ref catalog.Ref) (*catalog.Table, error) {
	t, err := table(e.Catalog, ref)
	if err != nil {
		return nil, err
	}
	return e.altered(t), nil
}

// column finds a column, which is about to be altered, and its table.
func (e *edit) column(ref catalog.Ref, name string) (*catalog.Table, *catalog.Column, error) {
	t, col, err := column(e.Catalog, ref, name)
	if err != nil {
		return nil, nil, err
	}
	return e.altered(t), col, nil
}

// sequence finds a sequence, which is about to be altered, or says that it is gone.
func (e *edit) sequence(schema, name string) (*catalog.Sequence, error) {
	q, err := sequence(e.Catalog, schema, name)
	if err != nil {
		return nil, err
	}
	return keep(&e.sequences, schema, q, (*catalog.Sequence).Clone), nil
}

// schema finds a schema that is about to get or lose members, or says that it is gone.
func (e *edit) schema(name string) (*catalog.Schema, error) {
	s := e.Schema(name)
	if s == nil {
		return nil, fmt.Errorf("schema %s does not exist", name)
	}
	return keep(&e.schemas, "", s, func(s *catalog.Schema) *catalog.Schema {
		d := *s
		d.Tables, d.Views, d.Sequences = slices.Clone(s.Tables), slices.Clone(s.Views), slices.Clone(s.Sequences)
		d.Types, d.Routines, d.Objects = slices.Clone(s.Types), slices.Clone(s.Routines), slices.Clone(s.Objects)
		return &d
	}), nil
}

// whole is the catalog itself, whose settings or lists of schemas and objects are about to be altered.
func (e *edit) whole() *catalog.Catalog {
	return keep(&e.top, "", e.Catalog, func(c *catalog.Catalog) *catalog.Catalog {
		d := *c
		d.Settings, d.Schemas, d.Objects = slices.Clone(c.Settings), slices.Clone(c.Schemas), slices.Clone(c.Objects)
		return &d
	})
}

// addTable puts a table into its schema, in the order in which tables are found.
func (e *edit) addTable(t *catalog.Table) error {
	if e.Table(t.Ref()) != nil {
		return fmt.Errorf("table %s exists", t.Ref())
	}
	s, err := e.schema(t.Schema)
	if err != nil {
		return err
	}
	at, _ := slices.BinarySearchFunc(s.Tables, t, byName)
	s.Tables = slices.Insert(s.Tables, at, t)
	return nil
}

// addSequence puts a sequence into the schema.
func (e *edit) addSequence(schema string, q *catalog.Sequence) error {
	if _, err := sequence(e.Catalog, schema, q.Name); err == nil {
		return fmt.Errorf("sequence %s.%s exists", schema, q.Name)
	}
	s, err := e.schema(schema)
	if err == nil {
		s.Sequences = append(s.Sequences, q.Clone())
	}
	return err
}

// dropSequence takes a sequence out of the schema.
func (e *edit) dropSequence(schema, name string) error {
	q, err := sequence(e.Catalog, schema, name)
	if err != nil {
		return err
	}
	s, err := e.schema(schema)
	if err == nil {
		s.Sequences = without(s.Sequences, q)
	}
	return err
}
