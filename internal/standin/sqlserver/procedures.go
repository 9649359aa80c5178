package sqlserver

import (
	"context"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/standin/grammar"
)

// call carries out EXEC: a text, or one of the procedures that are known.
func (s *client) call(ctx context.Context, c *grammar.Cursor) error {
	if c.Is("(") {
		a, err := s.Query(ctx, "SELECT "+c.Bracketed())
		if err != nil {
			return err
		}
		text, _ := a.Rows[0][0].(string) // null says nothing to do
		return s.asked(ctx, text)
	}
	into := ""
	if c.Take("@") {
		into = strings.ToLower(c.Name())
		c.Need("=")
	}
	ref := c.Ref("sys")
	var values []any // by place
	named := map[string]any{}
	for !c.Done() && !c.Is(";") && !c.Is("SELECT") {
		name := ""
		if c.Is("@") && c.Ahead("=") {
			c.Skip()
			name = strings.ToLower(c.Name())
			c.Need("=")
		}
		v := s.argument(c)
		if name != "" {
			named[name] = v
		} else {
			values = append(values, v)
		}
		if !c.Take(",") {
			break
		}
	}
	arguments := func(names ...string) []string {
		out := make([]string, len(names))
		for i, n := range names {
			v := named[n]
			if i < len(values) {
				v = values[i]
			}
			out[i], _ = v.(string)
		}
		return out
	}
	switch strings.ToLower(ref.Table) {
	case "sp_rename":
		return s.Alter(ctx, func() error { return s.rename(ctx, arguments("objname", "newname", "objtype")) })
	case "sp_addextendedproperty", "sp_updateextendedproperty", "sp_dropextendedproperty":
		a := arguments("name", "value", "level0type", "level0name", "level1type", "level1name", "level2type", "level2name")
		return s.Alter(ctx, func() error { return s.describes(strings.ToLower(ref.Table), a) })
	case "sp_settriggerorder":
		a := arguments("triggername", "order", "stmttype")
		return s.Alter(ctx, func() error { return s.orders(a) })
	case "sp_getapplock":
		s.variables[into] = s.take(arguments("resource")[0])
		return nil
	case "sp_updatestats":
		return nil
	case "sp_executesql":
		return s.asked(ctx, arguments("stmt")[0])
	}
	return refuse(2812, "Could not find stored procedure '%s' of the simulated server.", ref.Table)
}

// asked carries out the statements of a text.
func (s *client) asked(ctx context.Context, text string) error {
	inner := grammar.New(s.db.Lexis(), text, func(n string) string { return n })
	return s.statements(ctx, inner, inner.Done)
}

// argument is a literal, NULL or a variable.
func (s *client) argument(c *grammar.Cursor) any {
	switch {
	case c.Take("NULL"):
		return nil
	case c.Take("@"):
		return s.variables[strings.ToLower(c.Name())]
	case c.Is("-"), c.Peek(0).Kind == sqllex.Number:
		return c.Number()
	}
	return c.Literal()
}

// take gives the lock of that name to the session: 0, or -1 where another has it.
func (s *client) take(name string) int64 {
	s.server.mutex.Lock()
	defer s.server.mutex.Unlock()
	if by := s.server.locks[name]; by != nil && by != s {
		return -1
	}
	s.server.locks[name] = s
	return 0
}

// rename: https://learn.microsoft.com/en-us/sql/relational-databases/system-stored-procedures/sp-rename-transact-sql.
func (s *client) rename(ctx context.Context, a []string) error {
	c := grammar.New(s.db.Lexis(), a[0], func(n string) string { return n })
	parts := []string{c.Name()}
	for c.Take(".") {
		parts = append(parts, c.Name())
	}
	missing := refuse(15225, "No item by the name of '%s' could be found in the current database, given that @itemtype was input as '%s'.", a[0], a[2])
	switch strings.ToUpper(a[2]) {
	case "INDEX":
		if len(parts) != 3 {
			return missing
		}
		t := s.db.Catalog.Table(catalog.Ref{Schema: parts[0], Table: parts[1]})
		if t == nil || t.Index(parts[2]) == nil {
			return missing
		}
		if t.Index(a[1]) != nil {
			return refuse(15335, "Error: The new name '%s' is already in use as a index name and would cause a duplicate that is not permitted.", a[1])
		}
		return s.renameIndex(ctx, t, parts[2], a[1])
	case "COLUMN":
		if len(parts) != 3 {
			return missing
		}
		return s.Reshape(ctx, catalog.Ref{Schema: parts[0], Table: parts[1]}, map[string]string{a[1]: `"` + parts[2] + `"`}, func(t *catalog.Table) error {
			col := t.Column(parts[2])
			if col == nil {
				return missing
			}
			col.Name = a[1]
			return nil
		})
	}
	ref := catalog.Ref{Schema: "dbo", Table: parts[len(parts)-1]}
	if len(parts) == 2 {
		ref.Schema = parts[0]
	}
	if s.db.Catalog.Table(ref) != nil {
		return s.RenameTable(ctx, ref, a[1])
	}
	for _, t := range s.db.Catalog.Tables() {
		if t.Schema != ref.Schema {
			continue
		}
		for _, k := range t.Keys() {
			if k.Name == ref.Table {
				k.Name = a[1]
				return s.renameIndex(ctx, t, k.Index, a[1])
			}
		}
		for _, f := range t.ForeignKeys {
			if f.Name == ref.Table {
				f.Name = a[1]
				return s.Guard(ctx, t)
			}
		}
		for _, k := range t.Checks {
			if k.Name == ref.Table {
				k.Name = a[1]
				return s.Guard(ctx, t)
			}
		}
		for _, col := range t.Columns {
			if col.DefaultName == ref.Table {
				col.DefaultName = a[1]
				return nil
			}
		}
	}
	return missing
}

// renameIndex renames an index, and the key with it that it stands behind.
func (s *client) renameIndex(ctx context.Context, t *catalog.Table, from, to string) error {
	t.Index(from).Name = to
	for _, k := range t.Keys() {
		if k.Index == from {
			k.Index, k.Name = to, to
		}
	}
	for _, o := range s.db.Catalog.Tables() {
		for _, f := range o.ForeignKeys {
			if f.Target == t.Ref() && f.TargetIndex == from {
				f.TargetIndex = to
			}
		}
	}
	return s.Guard(ctx, t)
}

// describes keeps MS_Description of what has a comment in the catalog.
func (s *client) describes(procedure string, a []string) error {
	if a[0] != "MS_Description" {
		return beyond("extended property " + a[0])
	}
	at := s.noted(a)
	if at == nil {
		return refuse(15135, "Object is invalid. Extended properties are not permitted on '%s', or the object does not exist.", strings.Join(a[2:], "."))
	}
	switch there := *at != ""; {
	case procedure == "sp_addextendedproperty" && there:
		return refuse(15233, "Property cannot be added. Property 'MS_Description' already exists.")
	case procedure != "sp_addextendedproperty" && !there:
		return refuse(15217, "Property cannot be updated or deleted. Property 'MS_Description' does not exist.")
	}
	if *at = a[1]; procedure == "sp_dropextendedproperty" {
		*at = ""
	}
	return nil
}

// noted is where the catalog keeps the comment on what the levels name, or nil.
func (s *client) noted(a []string) *string {
	schema := s.db.Catalog.Schema(a[3])
	if schema == nil || strings.ToUpper(a[2]) != "SCHEMA" {
		return nil
	}
	switch strings.ToUpper(a[4]) {
	case "":
		return &schema.Comment
	case "VIEW":
		if v := s.db.View(catalog.Ref{Schema: a[3], Table: a[5]}); v != nil {
			return &v.Comment
		}
	case "SEQUENCE":
		for _, q := range schema.Sequences {
			if q.Name == a[5] {
				return &q.Comment
			}
		}
	case "PROCEDURE", "FUNCTION":
		for _, f := range schema.Routines {
			if f.Name == a[5] {
				return &f.Comment
			}
		}
	case "TABLE":
		if t := s.db.Catalog.Table(catalog.Ref{Schema: a[3], Table: a[5]}); t != nil {
			return notedOf(t, strings.ToUpper(a[6]), a[7])
		}
	}
	return nil
}

func notedOf(t *catalog.Table, kind, name string) *string {
	switch kind {
	case "":
		return &t.Comment
	case "COLUMN":
		if c := t.Column(name); c != nil {
			return &c.Comment
		}
	case "INDEX":
		if x := t.Index(name); x != nil {
			return &x.Comment
		}
	case "TRIGGER":
		for _, g := range t.Triggers {
			if g.Name == name {
				return &g.Comment
			}
		}
	case "CONSTRAINT":
		for _, k := range t.Keys() {
			if k.Name == name {
				return &k.Comment
			}
		}
		for _, f := range t.ForeignKeys {
			if f.Name == name {
				return &f.Comment
			}
		}
		for _, k := range t.Checks {
			if k.Name == name {
				return &k.Comment
			}
		}
	}
	return nil
}

// orders says which trigger fires first and last.
func (s *client) orders(a []string) error {
	ref := grammar.New(s.db.Lexis(), a[0], func(n string) string { return n }).Ref("dbo")
	t := s.triggered(ref)
	if t == nil {
		return refuse(15151, "Cannot alter the trigger '%s', because it does not exist or you do not have permission.", ref)
	}
	i := slices.IndexFunc(t.Triggers, func(g *catalog.Trigger) bool { return g.Name == ref.Table })
	t.Triggers[i].Order = map[string]int{"FIRST": 1, "LAST": -1}[strings.ToUpper(a[1])]
	return nil
}
