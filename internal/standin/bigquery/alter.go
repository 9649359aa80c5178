package bigquery

import (
	"context"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/standin/grammar"
)

// alterTable carries out one action
// (https://cloud.google.com/bigquery/docs/reference/standard-sql/data-definition-language#alter_table_set_options_statement and the like).
func (s *session) alterTable(ctx context.Context, c *grammar.Cursor) error {
	c.Take("IF", "EXISTS")
	ref := s.ref(c)
	t, err := s.p.Table(ref)
	if err != nil {
		return err
	}
	switch {
	case c.Take("ADD", "COLUMN"):
		col := s.column(c)
		c.End()
		switch {
		case !col.Nullable:
			return refuse("Cannot add required fields to an existing schema: %s", col.Name)
		case col.Default != "":
			return refuse("Column %s cannot be added with a default value to an existing table", col.Name)
		}
		return s.AddColumn(ctx, ref, col, false)
	case c.Is("ADD"):
		c.Need("ADD")
		add := s.constraint(c, ref, 1)
		c.End()
		return add()
	case c.Take("DROP", "PRIMARY", "KEY"):
		c.End()
		if t.PrimaryKey == nil {
			return &fault{404, "notFound", "Not found: primary key of table " + t.Name}
		}
		for _, o := range s.p.Catalog.Tables() {
			for _, f := range o.ForeignKeys {
				if f.Target == ref {
					return refuse("Primary key of table %s is referenced by foreign key %s of table %s", t.Name, f.Name, o.Name)
				}
			}
		}
		t.PrimaryKey = nil
		return nil
	case c.Take("DROP", "CONSTRAINT"):
		name := c.Name()
		c.End()
		before := len(t.ForeignKeys)
		t.ForeignKeys = slices.DeleteFunc(t.ForeignKeys, func(f *catalog.ForeignKey) bool { return f.Name == name })
		if len(t.ForeignKeys) == before {
			return &fault{404, "notFound", "Not found: Constraint " + name + " of table " + t.Name}
		}
		return nil
	case c.Take("DROP", "COLUMN"):
		name := c.Name()
		c.End()
		if laidOut(t, name) || t.Refers(name) || t.PrimaryKey != nil && slices.Contains(t.PrimaryKey.Columns, name) {
			return refuse("Column %s is part of a key, or the table is partitioned or clustered by it", name)
		}
		return s.DropColumn(ctx, ref, name)
	case c.Take("RENAME", "TO"):
		name := c.Name()
		c.End()
		return s.rename(ctx, t, name)
	case c.Take("SET", "OPTIONS"):
		list := optionsOf(c)
		c.End()
		return set(t, list)
	}
	c.Need("ALTER", "COLUMN")
	return s.alterColumn(ctx, c, t)
}

func laidOut(t *catalog.Table, column string) bool {
	return t.SortKey != nil && slices.Contains(t.SortKey.Columns, column) || t.PartitionBy != nil && slices.Contains(t.PartitionBy.Columns, column)
}

// rename is refused where keys hold the table in place.
func (s *session) rename(ctx context.Context, t *catalog.Table, name string) error {
	if t.PrimaryKey != nil || len(t.ForeignKeys) > 0 {
		return refuse("Table %s has key constraints and cannot be renamed", t.Name)
	}
	ref := t.Ref()
	if len(s.p.policies[ref]) > 0 {
		return refuse("Table %s has row access policies and cannot be renamed", t.Name)
	}
	return s.RenameTable(ctx, ref, name)
}

func (s *session) alterColumn(ctx context.Context, c *grammar.Cursor, t *catalog.Table) error {
	name := c.Name()
	col := t.Column(name)
	if col == nil {
		return refuse("Column not found: %s", name)
	}
	switch {
	case c.Take("DROP", "NOT", "NULL"):
		c.End()
		if col.Nullable {
			return refuse("ALTER TABLE ALTER COLUMN DROP NOT NULL requires a required column: %s", name)
		}
		col.Nullable = true
		return s.Guard(ctx, t)
	case c.Take("DROP", "DEFAULT"):
		c.End()
		return s.Reshape(ctx, t.Ref(), nil, func(t *catalog.Table) error { t.Column(name).Default = ""; return nil })
	case c.Take("SET", "DEFAULT"):
		to := strings.TrimSuffix(strings.TrimSpace(c.Rest()), ";")
		return s.Reshape(ctx, t.Ref(), nil, func(t *catalog.Table) error { t.Column(name).Default = to; return nil })
	case c.Take("SET", "OPTIONS"):
		list := optionsOf(c)
		c.End()
		for _, o := range list {
			if o.name != "description" {
				return refuse("Unknown option: %s", o.name)
			}
			if col.Comment = ""; !strings.EqualFold(o.value, "NULL") {
				col.Comment = o.text()
			}
		}
		return nil
	}
	c.Need("SET", "DATA", "TYPE")
	to := nodeOf(c)
	c.End()
	if !wider(s.p.read(col.Type), to) || laidOut(t, name) {
		return refuse("ALTER TABLE ALTER COLUMN SET DATA TYPE requires that the existing column type (%s) is assignable to the new type (%s)", col.Type.Native, to.native())
	}
	return s.Reshape(ctx, t.Ref(), nil, func(t *catalog.Table) error { t.Column(name).Type = to.typ(); return nil })
}

// wider: https://cloud.google.com/bigquery/docs/reference/standard-sql/data-definition-language#alter_column_set_data_type_statement.
func wider(from, to *node) bool {
	switch from.kind {
	case "INT64":
		return to.sizes == "" && slices.Contains([]string{"NUMERIC", "BIGNUMERIC", "FLOAT64"}, to.kind)
	case "NUMERIC":
		return to.sizes == "" && slices.Contains([]string{"NUMERIC", "BIGNUMERIC", "FLOAT64"}, to.kind)
	case "STRING", "BYTES":
		return to.kind == from.kind && (to.sizes == "" || from.sizes != "" && to.typ().Length >= from.typ().Length)
	}
	return false
}
