package firebird

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/firebird/traits"
	"nexdal/internal/engine/firebird/write"
)

// Scratch takes the database of the address, which has to be empty: there is no statement that
// drops a database, and so none is made. Discard empties it again.
func (e Engine) Scratch(ctx context.Context, address string, like *catalog.Catalog) (engine.Runner, func(context.Context) error, error) {
	opened, err := e.Open(ctx, address, engine.Options{Write: true})
	if err != nil {
		return nil, nil, err
	}
	s := opened.(*session)
	refuse := func(err error, hint string) error {
		s.Close()
		return &engine.SourceError{Place: s.place, Kind: engine.ErrWrongAddress, Err: err, Hint: hint}
	}
	is, err := s.Survey(ctx)
	if err != nil {
		return nil, nil, refuse(err, "")
	}
	page, _ := like.Setting("page size")
	if n := is.Schemas[0].Size(); n > 0 {
		return nil, nil, refuse(fmt.Errorf("it holds %d objects", n), "a rehearsal wants a database of its own, without anything: isql-fb, CREATE DATABASE 'rehearsal.fdb' PAGE_SIZE "+page.Value)
	}
	if of, _ := is.Setting("page size"); page.Value != "" && of.Value != page.Value {
		return nil, nil, refuse(fmt.Errorf("its pages are of %s bytes, and those of the database of %s", of.Value, page.Value), "make it with CREATE DATABASE ... PAGE_SIZE "+page.Value)
	}
	set, _ := like.Setting("character set")
	if of, _ := is.Setting("character set"); set.Value != "" && of.Value != set.Value {
		if err := s.Exec(ctx, "ALTER DATABASE SET DEFAULT CHARACTER SET "+set.Value); err != nil {
			return nil, nil, refuse(err, "make it with CREATE DATABASE ... DEFAULT CHARACTER SET "+set.Value)
		}
	}
	return s, func(ctx context.Context) error {
		defer s.Close()
		return errors.Join(s.Rollback(ctx), s.empty(ctx))
	}, nil
}

// empty drops all that the database holds, whatever needs what: what is refused is tried again as
// long as something else goes.
func (s *session) empty(ctx context.Context) error {
	c, err := s.Survey(ctx)
	if err != nil {
		return err
	}
	var drops []string
	for _, t := range c.Tables() {
		for _, f := range t.ForeignKeys {
			drops = append(drops, write.DropReference(t.Ref(), f))
		}
		for _, g := range t.Triggers {
			drops = append(drops, "DROP TRIGGER "+traits.Ident(g.Name))
		}
	}
	for _, f := range c.Schemas[0].Routines {
		if head, _, ok := strings.Cut(f.Definition, "\nAS\n"); ok {
			drops = append(drops, "ALTER"+strings.TrimPrefix(head, "CREATE")+"\nAS\nBEGIN END")
		}
	}
	members := c.Members()
	slices.Reverse(members)
	for _, m := range members {
		if m.Table != nil {
			drops = append(drops, "DROP TABLE "+traits.Relation(m.Table.Ref()))
		} else if drop := write.DropText(m); drop != "" {
			drops = append(drops, drop)
		}
	}
	for len(drops) > 0 {
		var left []string
		var first error
		for _, sql := range drops {
			if err := s.Exec(ctx, sql); err != nil {
				var said *engine.StatementError
				if !errors.As(err, &said) {
					return err
				}
				left = append(left, sql)
				if first == nil {
					first = fmt.Errorf("%w: %s", err, sql)
				}
			}
		}
		if len(left) == len(drops) {
			return first
		}
		drops = left
	}
	return s.Exec(ctx, "COMMENT ON DATABASE IS NULL")
}

// MayNotAlter lists those of other owners: a table is altered by its owner, and by the database's
// (https://firebirdsql.org/file/documentation/html/en/refdocs/fblangref30/firebird-30-language-reference.html#fblangref30-security).
func (s *session) MayNotAlter(ctx context.Context, tables []catalog.Ref) ([]catalog.Ref, error) {
	_, rows, err := s.Rows(ctx, `SELECT TRIM(TRAILING FROM r.rdb$relation_name) AS name FROM rdb$relations r CROSS JOIN rdb$database d JOIN rdb$relations o ON o.rdb$relation_name = 'RDB$DATABASE'
  WHERE COALESCE(r.rdb$system_flag, 0) = 0 AND CURRENT_USER <> 'SYSDBA' AND CURRENT_ROLE <> 'RDB$ADMIN' AND CURRENT_USER <> TRIM(TRAILING FROM r.rdb$owner_name) AND CURRENT_USER <> TRIM(TRAILING FROM o.rdb$owner_name)`, 1<<30)
	var not []catalog.Ref
	for _, row := range rows {
		if ref := (catalog.Ref{Schema: traits.Schema, Table: row.Or("")[0]}); slices.Contains(tables, ref) {
			not = append(not, ref)
		}
	}
	return not, err
}

// SampleOf writes the values of rows out as statements.
func (Engine) SampleOf(t *catalog.Table, most int) string {
	var names, values []string
	for _, c := range t.Columns {
		if c.Generated != "" || c.Type.Family == catalog.Array {
			continue
		}
		name := traits.Ident(c.Name)
		value := fmt.Sprintf("COALESCE('''' || REPLACE(%s, '''', '''''') || '''', 'NULL')", name)
		switch c.Type.Family {
		case catalog.Integer, catalog.Decimal, catalog.Float:
			value = fmt.Sprintf("COALESCE(CAST(%s AS VARCHAR(60)), 'NULL')", name)
		case catalog.Boolean:
			value = fmt.Sprintf("CASE %s WHEN TRUE THEN 'TRUE' WHEN FALSE THEN 'FALSE' ELSE 'NULL' END", name)
		case catalog.Date, catalog.Time, catalog.Timestamp:
			value = fmt.Sprintf("COALESCE('''' || CAST(%s AS VARCHAR(60)) || '''', 'NULL')", name)
		case catalog.Binary:
			value = "'NULL'"
			if !c.Nullable {
				value = "''''''"
			}
		case catalog.Text:
			if traits.IsBlobType(c.Type) {
				value = fmt.Sprintf("COALESCE('''' || REPLACE(CAST(SUBSTRING(%s FROM 1 FOR 200) AS VARCHAR(200)), '''', '''''') || '''', 'NULL')", name)
			}
		}
		names, values = append(names, name), append(values, value)
	}
	if len(names) == 0 {
		return traits.Quoting.First(int64(most), "SELECT "+traits.Literal("INSERT INTO "+traits.Relation(t.Ref())+" DEFAULT VALUES")+" AS made FROM "+traits.Relation(t.Ref()))
	}
	order := ""
	if t.PrimaryKey != nil {
		order = " ORDER BY " + traits.Idents(t.PrimaryKey.Columns)
	}
	return traits.Quoting.First(int64(most), fmt.Sprintf("SELECT %s || %s || ')' AS made FROM %s%s", traits.Literal(fmt.Sprintf("INSERT INTO %s (%s) VALUES (", traits.Relation(t.Ref()), strings.Join(names, ", "))), strings.Join(values, " || ', ' || "), traits.Relation(t.Ref()), order))
}

// CountOf counts.
func (Engine) CountOf(t catalog.Ref) string {
	return "SELECT COUNT(*) AS many FROM " + traits.Relation(t)
}

// Kept is nothing: no session goes without foreign keys.
func (Engine) Kept() []string { return nil }

// Holding locks the tables against others
// (https://firebirdsql.org/file/documentation/html/en/refdocs/fblangref30/firebird-30-language-reference.html#fblangref30-transacs-settransac, RESERVING).
func (Engine) Holding(tables ...catalog.Ref) []string {
	names := make([]string, len(tables))
	for i, ref := range tables {
		names[i] = traits.Relation(ref)
	}
	return []string{write.Begin + " RESERVING " + strings.Join(names, ", ") + " FOR PROTECTED WRITE"}
}

// EmptyCopy names the columns: the engine makes no table of a query. The table has to be committed
// before rows can be put into it.
func (Engine) EmptyCopy(as catalog.Ref, of *catalog.Table) string {
	columns := make([]string, len(of.Columns))
	for i, c := range of.Columns {
		columns[i] = traits.Ident(c.Name) + " " + traits.TypeText(c.Type)
	}
	return fmt.Sprintf("CREATE TABLE %s (%s);\nCOMMIT", traits.Relation(as), strings.Join(columns, ", "))
}

// Given is nothing: a number is given to a column that is numbered as to others.
func (Engine) Given(*catalog.Table) (before, after string) { return "", "" }
