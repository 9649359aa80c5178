package bigquery

import (
	"context"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/standin"
	"nexdal/internal/standin/grammar"
)

// Views are those that the manual documents, with their documented columns, as far as they are of use
// here. The first column of each, the stand-in's own, is the dataset that it is asked through.
func (p *Project) Views() []standin.View {
	return []standin.View{
		{Name: "information_schema.tables", Columns: `of_dataset text, table_catalog text, table_schema text, table_name text, table_type text, managed_table_type text, is_insertable_into text, is_typed text, creation_time text, ddl text, default_collation_name text`},
		{Name: "information_schema.columns", Columns: `of_dataset text, table_catalog text, table_schema text, table_name text, column_name text, ordinal_position int, is_nullable text, data_type text, is_generated text, generation_expression text, is_stored text, is_hidden text, is_updatable text, is_system_defined text, is_partitioning_column text, clustering_ordinal_position int, collation_name text, column_default text, rounding_mode text`},
		{Name: "information_schema.column_field_paths", Columns: `of_dataset text, table_catalog text, table_schema text, table_name text, column_name text, field_path text, data_type text, description text, collation_name text, rounding_mode text, policy_tags text`},
		{Name: "information_schema.table_options", Columns: `of_dataset text, table_catalog text, table_schema text, table_name text, option_name text, option_type text, option_value text`},
		{Name: "information_schema.table_constraints", Columns: `of_dataset text, constraint_catalog text, constraint_schema text, constraint_name text, table_catalog text, table_schema text, table_name text, constraint_type text, is_deferrable text, initially_deferred text, enforced text`},
		{Name: "information_schema.key_column_usage", Columns: `of_dataset text, constraint_catalog text, constraint_schema text, constraint_name text, table_catalog text, table_schema text, table_name text, column_name text, ordinal_position int, position_in_unique_constraint int`},
		{Name: "information_schema.constraint_column_usage", Columns: `of_dataset text, table_catalog text, table_schema text, table_name text, column_name text, constraint_catalog text, constraint_schema text, constraint_name text`},
		{Name: "information_schema.views", Columns: `of_dataset text, table_catalog text, table_schema text, table_name text, view_definition text, check_option text, use_standard_sql text`},
		{Name: "information_schema.routines", Columns: `of_dataset text, routine_catalog text, routine_schema text, routine_name text, routine_type text, data_type text, routine_body text, routine_definition text, ddl text`},
		{Name: "information_schema.partitions", Columns: `of_dataset text, table_catalog text, table_schema text, table_name text, partition_id text, total_rows int, total_logical_bytes int`},
		{Name: "information_schema.table_storage", Columns: `of_dataset text, table_catalog text, table_schema text, table_name text, deleted int, total_rows int, total_partitions int, total_logical_bytes int`},
	}
}

// Show fills them.
func (p *Project) Show(ctx context.Context, add func(view string, values ...any) error) error {
	sh := &shower{p: p, ctx: ctx, into: add}
	for _, s := range p.Catalog.Schemas {
		sh.of = s.Name
		for _, t := range s.Tables {
			sh.table(t)
		}
		for _, v := range s.Views {
			ddl := fmt.Sprintf("CREATE VIEW `%s.%s.%s`\nAS %s;", p.name, s.Name, v.Name, v.Definition)
			sh.add("tables", p.name, s.Name, v.Name, "VIEW", nil, "NO", "NO", nil, ddl, nil)
			sh.add("views", p.name, s.Name, v.Name, v.Definition, nil, "YES")
			if v.Comment != "" {
				sh.add("table_options", p.name, s.Name, v.Name, "description", "STRING", strconv.Quote(v.Comment))
			}
			names, err := p.session().Peek(ctx, catalog.Ref{Schema: s.Name, Table: v.Name})
			if err != nil && sh.err == nil {
				sh.err = err
			}
			for i, name := range names {
				sh.add("columns", p.name, s.Name, v.Name, name, i+1, "YES", "STRING", "NEVER", nil, nil, "NO", nil, "NO", "NO", nil, "NULL", "NULL", "NULL")
			}
		}
	}
	return sh.err
}

type shower struct {
	p    *Project
	ctx  context.Context
	of   string
	into func(view string, values ...any) error
	err  error
}

func (sh *shower) add(view string, values ...any) {
	if sh.err == nil {
		sh.err = sh.into("information_schema."+view, append([]any{sh.of}, values...)...)
	}
}

func yes(is bool) string { return map[bool]string{true: "YES", false: "NO"}[is] }

// or is the text, or NULL as the views write it.
func or(s string) string {
	if s == "" {
		return "NULL"
	}
	return s
}

func (sh *shower) table(t *catalog.Table) {
	p := sh.p
	sh.add("tables", p.name, t.Schema, t.Name, "BASE TABLE", "NATIVE", "YES", "NO", nil, p.ddl(t), nil)
	var every int64
	for i, c := range t.Columns {
		partition := t.PartitionBy != nil && slices.Contains(t.PartitionBy.Columns, c.Name)
		var cluster any
		if t.SortKey != nil {
			if at := slices.Index(t.SortKey.Columns, c.Name); at >= 0 {
				cluster = at + 1
			}
		}
		sh.add("columns", p.name, t.Schema, t.Name, c.Name, i+1, yes(c.Nullable && c.Type.Family != catalog.Array), c.Type.Native, "NEVER", nil, nil, "NO", nil, "NO", yes(partition), cluster, or(c.Type.Collation), or(c.Default), "NULL")
		field := func(path string, n *node, description string) {
			var told any
			if description != "" {
				told = description
			}
			sh.add("column_field_paths", p.name, t.Schema, t.Name, c.Name, path, n.native(), told, "NULL", "NULL", "[]")
		}
		n := p.read(c.Type)
		field(c.Name, n, c.Comment)
		n.fields(c.Name, func(path string, f *node) { field(path, f, f.description) })
		every += width(c.Type)
	}
	option := func(name, kind, value string) {
		sh.add("table_options", p.name, t.Schema, t.Name, name, kind, value)
	}
	if t.Comment != "" {
		option("description", "STRING", strconv.Quote(t.Comment))
	}
	if t.PartitionBy != nil && t.PartitionBy.FilterRequired {
		option("require_partition_filter", "BOOL", "true")
	}
	for _, o := range t.Options {
		name, value, _ := strings.Cut(o, "=")
		option(name, "STRING", value)
	}
	sh.keys(t)
	rows, err := p.Count(sh.ctx, "SELECT count(*) FROM "+p.Stored(t.Ref()))
	if err != nil && sh.err == nil {
		sh.err = err
	}
	var parts any
	if t.PartitionBy != nil {
		n := 0
		err := p.Each(sh.ctx, fmt.Sprintf("SELECT %s AS part, count(*) FROM %s GROUP BY 1 ORDER BY 1", partOf(t), p.Stored(t.Ref())), func(row []any) {
			n++
			id := "__NULL__"
			if row[0] != nil {
				id = fmt.Sprint(row[0])
			}
			sh.add("partitions", p.name, t.Schema, t.Name, id, row[1], row[1].(int64)*every)
		})
		if err != nil && sh.err == nil {
			sh.err = err
		}
		parts = n
	}
	sh.add("table_storage", p.name, t.Schema, t.Name, 0, rows, parts, rows*every)
}

// partOf is the expression that names the partition of a row.
func partOf(t *catalog.Table) string {
	column := "_PARTITIONTIME"
	if len(t.PartitionBy.Columns) > 0 {
		column = standin.Quote(t.PartitionBy.Columns[0])
	}
	upper := strings.ToUpper(t.PartitionBy.Definition)
	for unit, layout := range map[string]string{"HOUR": "%Y%m%d%H", "MONTH": "%Y%m", "YEAR": "%Y"} {
		if strings.Contains(upper, ", "+unit+")") {
			return fmt.Sprintf("strftime('%s', %s)", layout, column)
		}
	}
	if strings.Contains(upper, "RANGE_BUCKET") {
		var from, to, step int64
		if _, list, ok := strings.Cut(upper, "GENERATE_ARRAY("); ok {
			fmt.Sscanf(strings.ReplaceAll(list, " ", ""), "%d,%d,%d", &from, &to, &step)
		}
		return fmt.Sprintf("%[2]d + (%[1]s - %[2]d) / %[3]d * %[3]d", column, from, max(1, step))
	}
	return fmt.Sprintf("strftime('%%Y%%m%%d', %s)", column)
}

func (sh *shower) keys(t *catalog.Table) {
	p := sh.p
	constraint := func(name, kind string, columns []string, to catalog.Ref, keys []string) {
		full := t.Name + "." + name
		sh.add("table_constraints", p.name, t.Schema, full, p.name, t.Schema, t.Name, kind, "NO", "NO", "NO")
		for i, c := range columns {
			var place any
			if target := p.Catalog.Table(to); kind == "FOREIGN KEY" && target != nil && target.PrimaryKey != nil {
				place = slices.Index(target.PrimaryKey.Columns, keys[i]) + 1
			}
			sh.add("key_column_usage", p.name, t.Schema, full, p.name, t.Schema, t.Name, c, i+1, place)
			sh.add("constraint_column_usage", p.name, to.Schema, to.Table, keys[i], p.name, t.Schema, full)
		}
	}
	if k := t.PrimaryKey; k != nil {
		constraint(k.Name, "PRIMARY KEY", k.Columns, t.Ref(), k.Columns)
	}
	for _, f := range t.ForeignKeys {
		constraint(f.Name, "FOREIGN KEY", f.Columns, f.Target, f.TargetColumns)
	}
}

// ddl is the statement of a table, as the view has it.
func (p *Project) ddl(t *catalog.Table) string {
	var parts []string
	for _, c := range t.Columns {
		text := c.Name + " " + c.Type.Underlying
		if c.Default != "" {
			text += " DEFAULT " + c.Default
		}
		if !c.Nullable {
			text += " NOT NULL"
		}
		if c.Comment != "" {
			text += " OPTIONS(description=" + strconv.Quote(c.Comment) + ")"
		}
		parts = append(parts, text)
	}
	if k := t.PrimaryKey; k != nil {
		parts = append(parts, "PRIMARY KEY ("+strings.Join(k.Columns, ", ")+") NOT ENFORCED")
	}
	for _, f := range t.ForeignKeys {
		parts = append(parts, fmt.Sprintf("CONSTRAINT `%s` FOREIGN KEY (%s) REFERENCES `%s.%s`(%s) NOT ENFORCED", f.Name, strings.Join(f.Columns, ", "), f.Target.Schema, f.Target.Table, strings.Join(f.TargetColumns, ", ")))
	}
	text := fmt.Sprintf("CREATE TABLE `%s.%s.%s`\n(\n  %s\n)", p.name, t.Schema, t.Name, strings.Join(parts, ",\n  "))
	if t.PartitionBy != nil {
		text += "\nPARTITION BY " + t.PartitionBy.Definition
	}
	if t.SortKey != nil {
		text += "\nCLUSTER BY " + strings.Join(t.SortKey.Columns, ", ")
	}
	var list []string
	if t.Comment != "" {
		list = append(list, "description="+strconv.Quote(t.Comment))
	}
	if t.PartitionBy != nil && t.PartitionBy.FilterRequired {
		list = append(list, "require_partition_filter=true")
	}
	if list = append(list, t.Options...); len(list) > 0 {
		text += "\nOPTIONS(\n  " + strings.Join(list, ",\n  ") + "\n)"
	}
	return text + ";"
}

// partitionColumn is the column that an expression is partitioned by, as far as it may be one
// (https://cloud.google.com/bigquery/docs/reference/standard-sql/data-definition-language#partition_expression).
func partitionColumn(p *Project, t *catalog.Table, expression string) (string, error) {
	c := grammar.New(p.Lexis(), expression, asIs)
	column := ""
	err := grammar.Read(func() {
		switch {
		case c.Take("DATE_TRUNC"), c.Take("DATETIME_TRUNC"), c.Take("TIMESTAMP_TRUNC"):
			c.Need("(")
			column = c.Name()
			c.Need(",")
			c.OneOf("HOUR", "DAY", "MONTH", "YEAR")
			c.Need(")")
		case c.Take("DATE", "("):
			column = c.Name()
			c.Need(")")
		case c.Take("RANGE_BUCKET", "("):
			column = c.Name()
			c.Need(",", "GENERATE_ARRAY", "(")
			c.Number()
			c.Need(",")
			c.Number()
			c.Need(",")
			c.Number()
			c.Need(")", ")")
		default:
			column = c.Name()
		}
		c.End()
	})
	if err != nil {
		return "", err
	}
	if t.Column(column) == nil {
		return "", refuse("Unrecognized name: %s", column)
	}
	return column, nil
}
