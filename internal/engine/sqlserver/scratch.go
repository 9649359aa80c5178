package sqlserver

import (
	"context"
	"errors"
	"fmt"
	"math"
	"net/url"
	"slices"
	"strings"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/engine/sqlserver/traits"
)

// Scratch makes a database of a name that nobody has, beside the one of the address.
func (e Engine) Scratch(ctx context.Context, address string, like *catalog.Catalog) (engine.Runner, func(context.Context) error, error) {
	opened, err := e.Open(ctx, address, engine.Options{Write: true})
	if err != nil {
		return nil, nil, err
	}
	server := opened.(*session)
	name := fmt.Sprintf("nexdal_rehearsal_%x", time.Now().UnixNano())
	create := "CREATE DATABASE " + traits.Ident(name)
	if c, ok := like.Setting("collation"); ok {
		create += " COLLATE " + c.Value
	}
	if err := server.Exec(ctx, create); err != nil {
		server.Close()
		return nil, nil, &engine.SourceError{Place: server.place, Err: err, Hint: "the user needs the right to create databases"}
	}
	drop := func(ctx context.Context) error {
		defer server.Close()
		return server.Exec(ctx, "DROP DATABASE "+traits.Ident(name))
	}
	at, err := url.Parse(address)
	if err != nil {
		return nil, nil, errors.Join(err, drop(context.WithoutCancel(ctx)))
	}
	q := at.Query()
	q.Set("database", name)
	at.Path, at.RawQuery = "", q.Encode()
	twin, err := e.Open(ctx, at.String(), engine.Options{Write: true})
	if err != nil {
		return nil, nil, errors.Join(err, drop(context.WithoutCancel(ctx)))
	}
	return twin.(*session), func(ctx context.Context) error {
		twin.Close()
		return drop(ctx)
	}, nil
}

// MayNotAlter asks for the permission ALTER
// (https://learn.microsoft.com/en-us/sql/t-sql/functions/has-perms-by-name-transact-sql).
func (s *session) MayNotAlter(ctx context.Context, tables []catalog.Ref) ([]catalog.Ref, error) {
	_, rows, err := s.Rows(ctx, `SELECT s.name AS [schema], t.name FROM sys.tables t JOIN sys.schemas s ON s.schema_id = t.schema_id
  WHERE HAS_PERMS_BY_NAME(QUOTENAME(s.name) + '.' + QUOTENAME(t.name), 'OBJECT', 'ALTER') = 0`, math.MaxInt)
	var not []catalog.Ref
	for _, row := range rows {
		r := row.Or("")
		if ref := (catalog.Ref{Schema: r[0], Table: r[1]}); slices.Contains(tables, ref) {
			not = append(not, ref)
		}
	}
	return not, err
}

// Claim takes one lock for each schema, in their order, so that two runs that want the same do
// not wait for one another. They end with the session
// (https://learn.microsoft.com/en-us/sql/relational-databases/system-stored-procedures/sp-getapplock-transact-sql).
func (s *session) Claim(ctx context.Context, schemas []string) (holder string, err error) {
	schemas = slices.Clone(schemas)
	slices.Sort(schemas)
	for _, name := range slices.Compact(schemas) {
		_, rows, err := s.Rows(ctx, "DECLARE @taken int; EXEC @taken = sys.sp_getapplock @Resource = "+traits.Literal("nexdal "+name)+", @LockMode = 'Exclusive', @LockOwner = 'Session', @LockTimeout = 0; SELECT @taken AS taken", 1)
		if err != nil {
			return "", err
		}
		if len(rows) != 1 || rows[0][0] == nil || strings.HasPrefix(*rows[0][0], "-") {
			return "somebody else", nil
		}
	}
	return "", nil
}

// SampleOf writes the values of rows out as literals.
func (Engine) SampleOf(t *catalog.Table, most int) string {
	var names, values []string
	before, after := "", ""
	for _, c := range t.Columns {
		if c.Generated != "" || c.Type.Native == "rowversion" {
			continue
		}
		if c.Identity == catalog.IdentityAlways {
			before, after = "SET IDENTITY_INSERT "+traits.Relation(t.Ref())+" ON; ", "; SET IDENTITY_INSERT "+traits.Relation(t.Ref())+" OFF"
		}
		name := traits.Ident(c.Name)
		value := fmt.Sprintf("coalesce('N''' + replace(CONVERT(nvarchar(max), %s, 121), '''', '''''') + '''', 'NULL')", name)
		switch {
		case c.Type.Family == catalog.Timestamp && !c.Type.Zoned: // read alike in every language of the session
			value = strings.Replace(value, ", 121)", ", 126)", 1)
		case c.Type.Family == catalog.Binary:
			value = fmt.Sprintf("coalesce(CONVERT(nvarchar(max), %s, 1), 'NULL')", name)
		case c.Type.Family == catalog.Integer || c.Type.Family == catalog.Decimal || c.Type.Family == catalog.Boolean || c.Type.Family == catalog.Float:
			value = fmt.Sprintf("coalesce(CONVERT(nvarchar(max), %s), 'NULL')", name)
		}
		names, values = append(names, name), append(values, value)
	}
	if len(names) == 0 {
		return traits.Quoting.First(int64(most), "SELECT "+traits.Literal("INSERT INTO "+traits.Relation(t.Ref())+" DEFAULT VALUES")+" AS made FROM "+traits.Relation(t.Ref()))
	}
	head := before + fmt.Sprintf("INSERT INTO %s (%s) VALUES (", traits.Relation(t.Ref()), strings.Join(names, ", "))
	order := ""
	if t.PrimaryKey != nil {
		order = " ORDER BY " + traits.Idents(t.PrimaryKey.Columns)
	}
	return traits.Quoting.First(int64(most), fmt.Sprintf("SELECT %s + %s AS made FROM %s%s", traits.Literal(head), strings.Join(values, " + ', ' + ")+" + "+traits.Literal(")"+after), traits.Relation(t.Ref()), order))
}

// CountOf counts.
func (Engine) CountOf(t catalog.Ref) string {
	return "SELECT count_big(*) AS rows FROM " + traits.Relation(t)
}

// Kept is nothing: no session goes without foreign keys.
func (Engine) Kept() []string { return nil }

// Holding locks the tables against others.
func (Engine) Holding(tables ...catalog.Ref) []string {
	sql := []string{"BEGIN TRANSACTION"}
	for _, ref := range tables {
		sql = append(sql, fmt.Sprintf("SELECT count(*) AS rows FROM %s WITH (TABLOCKX, HOLDLOCK)", traits.Relation(ref)))
	}
	return sql
}

// EmptyCopy makes a table of the same columns; the UNION keeps the numbering from being copied
// (https://learn.microsoft.com/en-us/sql/t-sql/queries/select-into-clause-transact-sql).
func (Engine) EmptyCopy(as catalog.Ref, of *catalog.Table) string {
	return fmt.Sprintf("SELECT TOP (0) * INTO %s FROM %s UNION ALL SELECT TOP (0) * FROM %[2]s", traits.Relation(as), traits.Relation(of.Ref()))
}

// Given lets numbers be given to a column that is numbered
// (https://learn.microsoft.com/en-us/sql/t-sql/statements/set-identity-insert-transact-sql).
func (Engine) Given(t *catalog.Table) (before, after string) {
	return "SET IDENTITY_INSERT " + traits.Relation(t.Ref()) + " ON", "SET IDENTITY_INSERT " + traits.Relation(t.Ref()) + " OFF"
}

// idList writes texts as a list in brackets.
func idList(names []string) string { return "(" + sqllex.Each(names, traits.Literal, ", ") + ")" }
