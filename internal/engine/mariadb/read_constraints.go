package mariadb

import (
	"slices"
	"strings"

	"nexdal/internal/catalog"
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
	r.ask(`SELECT CONSTRAINT_SCHEMA, TABLE_NAME, CONSTRAINT_NAME, CHECK_CLAUSE FROM information_schema.CHECK_CONSTRAINTS WHERE %s`, "CONSTRAINT_SCHEMA",
		func(scan func(...any) error) error {
			var ref catalog.Ref
			k := &catalog.Check{}
			err := scan(&ref.Schema, &ref.Table, &k.Name, &k.Expression)
			if t := r.tables[ref]; t != nil {
				t.Checks = append(t.Checks, k)
			}
			return err
		})
}

func (r *reader) partitions() {
	r.ask(`SELECT DISTINCT TABLE_SCHEMA, TABLE_NAME, PARTITION_METHOD, COALESCE(PARTITION_EXPRESSION, ''), COALESCE(SUBPARTITION_METHOD, ''), COALESCE(SUBPARTITION_EXPRESSION, '')
		FROM information_schema.PARTITIONS WHERE PARTITION_METHOD IS NOT NULL AND %s`, "TABLE_SCHEMA", func(scan func(...any) error) error {
		var ref catalog.Ref
		var method, expression, subMethod, subExpression string
		if err := scan(&ref.Schema, &ref.Table, &method, &expression, &subMethod, &subExpression); err != nil {
			return err
		}
		t := r.tables[ref]
		if t == nil {
			return nil
		}
		method, _, _ = strings.Cut(strings.ToLower(method), " ")
		t.PartitionBy = &catalog.PartitionKey{Method: method, Definition: method + " (" + expression + ")"}
		if subMethod != "" {
			t.PartitionBy.Definition += ", " + strings.ToLower(subMethod) + " (" + subExpression + ")"
		}
		for _, name := range strings.Split(expression, ",") {
			if c := t.Column(strings.Trim(strings.TrimSpace(name), "`")); c != nil {
				t.PartitionBy.Columns = append(t.PartitionBy.Columns, c.Name)
			}
		}
		return nil
	})
}

func (r *reader) triggers() {
	r.ask(`SELECT EVENT_OBJECT_SCHEMA, EVENT_OBJECT_TABLE, TRIGGER_NAME, CONCAT(ACTION_TIMING, ' ', EVENT_MANIPULATION, ' ', ACTION_STATEMENT)
		FROM information_schema.TRIGGERS WHERE %s`, "EVENT_OBJECT_SCHEMA", func(scan func(...any) error) error {
		var ref catalog.Ref
		g := &catalog.Trigger{}
		err := scan(&ref.Schema, &ref.Table, &g.Name, &g.Definition)
		if t := r.tables[ref]; t != nil {
			t.Triggers = append(t.Triggers, g)
		}
		return err
	})
}

// nameOrigins tells the indexes that the engine made for foreign keys: they
// bear the foreign key's name or, where it was given none, that of its first
// column (https://mariadb.com/kb/en/foreign-keys/).
func nameOrigins(t *catalog.Table) {
	for _, x := range t.Indexes {
		if x.Origin == catalog.ByPerson && slices.ContainsFunc(t.ForeignKeys, func(f *catalog.ForeignKey) bool {
			return (f.Name == x.Name || f.Columns[0] == x.Name) && slices.Equal(f.Columns, x.Columns())
		}) {
			x.Origin = catalog.ByForeignKey
		}
	}
}
