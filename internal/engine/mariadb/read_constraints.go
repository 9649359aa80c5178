package mariadb

import (
	"cmp"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/mariadb/traits"
)

func (r *reader) references() {
	type name struct{ schema, table, constraint string }
	keys := map[name]*catalog.ForeignKey{}
	r.ask(`SELECT CONSTRAINT_SCHEMA, TABLE_NAME, CONSTRAINT_NAME, COALESCE(UNIQUE_CONSTRAINT_NAME, ''), UPDATE_RULE, DELETE_RULE
		FROM information_schema.REFERENTIAL_CONSTRAINTS WHERE %s`, "CONSTRAINT_SCHEMA", func(scan func(...any) error) error {
		var n name
		var onUpdate, onDelete string
		f := &catalog.ForeignKey{}
		if err := scan(&n.schema, &n.table, &n.constraint, &f.TargetIndex, &onUpdate, &onDelete); err != nil {
			return err
		}
		f.Name, f.OnUpdate, f.OnDelete = n.constraint, action(onUpdate), action(onDelete)
		keys[n] = f
		if t := r.tables[catalog.Ref{Schema: n.schema, Table: n.table}]; t != nil {
			t.ForeignKeys = append(t.ForeignKeys, f)
		}
		return nil
	})
	r.ask(`SELECT TABLE_SCHEMA, TABLE_NAME, CONSTRAINT_NAME, COLUMN_NAME, REFERENCED_TABLE_SCHEMA, REFERENCED_TABLE_NAME, REFERENCED_COLUMN_NAME
		FROM information_schema.KEY_COLUMN_USAGE WHERE REFERENCED_TABLE_NAME IS NOT NULL AND %s
		ORDER BY TABLE_SCHEMA, TABLE_NAME, CONSTRAINT_NAME, ORDINAL_POSITION`, "TABLE_SCHEMA", func(scan func(...any) error) error {
		var n name
		var target catalog.Ref
		var column, to string
		if err := scan(&n.schema, &n.table, &n.constraint, &column, &target.Schema, &target.Table, &to); err != nil {
			return err
		}
		if f := keys[n]; f != nil {
			f.Target = target
			f.Columns, f.TargetColumns = append(f.Columns, column), append(f.TargetColumns, to)
		}
		return nil
	})
}

// action: RESTRICT and NO ACTION are one here, and checked at once
// (https://mariadb.com/kb/en/foreign-keys/).
func action(rule string) catalog.Action { return catalog.Action(strings.ToLower(rule)) }

func (r *reader) checks() {
	r.ask(r.Checks, "CONSTRAINT_SCHEMA",
		func(scan func(...any) error) error {
			var ref catalog.Ref
			k := &catalog.Check{}
			var ofColumn, enforced bool
			err := scan(&ref.Schema, &ref.Table, &k.Name, &k.Expression, &ofColumn, &enforced)
			k.NotEnforced, k.NotValidated = !enforced, !enforced
			if k.Expression = r.unqualified(ref.Schema, r.Family.Generated(k.Expression)); ofColumn {
				k.Column = k.Name // the only name that it has
			}
			if t := r.tables[ref]; t != nil {
				t.Checks = append(t.Checks, k)
				if lossy(k.Expression) {
					r.gap(ref.Schema, ref.Table, "check "+k.Name, traits.FourBytes)
				}
			}
			return err
		})
}

// partitions reads how tables are cut up; their parts are no tables of their
// own (https://mariadb.com/kb/en/information-schema-partitions-table/).
func (r *reader) partitions() {
	r.ask(`SELECT TABLE_SCHEMA, TABLE_NAME, PARTITION_NAME, COALESCE(SUBPARTITION_NAME, ''), PARTITION_METHOD, COALESCE(PARTITION_EXPRESSION, ''),
			COALESCE(SUBPARTITION_METHOD, ''), COALESCE(SUBPARTITION_EXPRESSION, ''), COALESCE(PARTITION_DESCRIPTION, ''), TABLE_ROWS, COALESCE(PARTITION_COMMENT, '')
		FROM information_schema.PARTITIONS WHERE PARTITION_METHOD IS NOT NULL AND %s
		ORDER BY TABLE_SCHEMA, TABLE_NAME, PARTITION_ORDINAL_POSITION, SUBPARTITION_ORDINAL_POSITION`, "TABLE_SCHEMA", func(scan func(...any) error) error {
		var ref catalog.Ref
		var name, sub, method, expression, subMethod, subExpression, bounds, comment string
		var rows *int64
		if err := scan(&ref.Schema, &ref.Table, &name, &sub, &method, &expression, &subMethod, &subExpression, &bounds, &rows, &comment); err != nil {
			return err
		}
		t := r.tables[ref]
		if t == nil {
			return nil
		}
		if t.PartitionBy == nil {
			t.PartitionBy = partitionKey(t, method, expression)
			if subMethod != "" {
				t.PartitionBy.Sub = partitionKey(t, subMethod, subExpression)
			}
		}
		p := &catalog.Partition{Name: name, Comment: comment}
		switch t.PartitionBy.Method {
		case "range":
			p.Bounds = "VALUES LESS THAN (" + bounds + ")"
			if bounds == "MAXVALUE" && len(t.PartitionBy.Columns) < 2 && !strings.Contains(t.PartitionBy.Definition, "columns") {
				p.Bounds = "VALUES LESS THAN MAXVALUE"
			}
		case "list":
			// Of a default it says MAXVALUE or 0; the text of the table tells.
			if p.Bounds = "VALUES IN (" + bounds + ")"; bounds == "MAXVALUE" {
				p.Bounds = "DEFAULT"
			}
		case "system_time":
			p.Bounds = cmp.Or(bounds, "HISTORY") // of which the view says nothing
		}
		if sub == "" {
			p.Rows = rows
			t.Partitions = append(t.Partitions, p)
			return nil
		}
		if n := len(t.Partitions); n == 0 || t.Partitions[n-1].Name != name {
			t.Partitions = append(t.Partitions, p)
		}
		whole := t.Partitions[len(t.Partitions)-1]
		whole.Comment = "" // belongs to the parts
		whole.Parts = append(whole.Parts, &catalog.Partition{Name: sub, Rows: rows, Comment: comment})
		return nil
	})
}

func partitionKey(t *catalog.Table, method, expression string) *catalog.PartitionKey {
	method = strings.ToLower(method)
	k := &catalog.PartitionKey{Definition: method + " (" + expression + ")"}
	words := strings.Fields(method)
	k.Method = words[0]
	if k.Method == "linear" {
		k.Method = words[1]
	}
	if k.Method == "system_time" {
		k.Definition = strings.TrimSpace(method + " " + expression)
	}
	for _, name := range strings.Split(expression, ",") {
		if c := t.Column(strings.Trim(strings.TrimSpace(name), "`")); c != nil {
			k.Columns = append(k.Columns, c.Name)
		}
	}
	return k
}

// nameOrigins tells the indexes that the engine made for foreign keys: they
// bear the foreign key's name or, where it was given none, that of its first
// column (https://mariadb.com/kb/en/foreign-keys/). It makes none beside another that serves, and
// drops its own when such a one comes.
func nameOrigins(t *catalog.Table) {
	for _, x := range t.Indexes {
		served := slices.ContainsFunc(t.Indexes, func(o *catalog.Index) bool { return o != x && o.LeadsWith(x.Columns()) })
		if x.Origin == catalog.ByPerson && !served && slices.ContainsFunc(t.ForeignKeys, func(f *catalog.ForeignKey) bool {
			return (f.Name == x.Name || f.Columns[0] == x.Name) && slices.Equal(f.Columns, x.Columns())
		}) {
			x.Origin = catalog.ByForeignKey
		}
	}
}
