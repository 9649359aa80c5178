package mariadb

import (
	"context"
	"errors"
	"fmt"
	"math"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/mariadb/traits"
)

// Scratch makes databases of the very names that the structure has, since
// scripts name them; a server that has one of them is refused.
func (e Engine) Scratch(ctx context.Context, address string, like *catalog.Catalog) (engine.Runner, func(context.Context) error, error) {
	opened, err := e.Open(ctx, address, engine.Options{Write: true})
	if err != nil {
		return nil, nil, err
	}
	s := opened.(*session)
	if s.database != "" {
		s.Close()
		return nil, nil, &engine.SourceError{Place: s.place, Kind: engine.ErrWrongAddress, Err: errors.New("the rehearsal makes databases of its own"), Hint: "leave the database out of the URL"}
	}
	var made []string
	discard := func(ctx context.Context) error {
		defer s.Close()
		all := s.Exec(ctx, "SET SESSION foreign_key_checks = 0") // tables of one may refer to another's
		for _, name := range made {
			all = errors.Join(all, s.Exec(ctx, "DROP DATABASE "+traits.Ident(name)))
		}
		return all
	}
	for _, x := range like.Schemas {
		create := "CREATE DATABASE " + traits.Ident(x.Name) + " " + strings.ToUpper(strings.Join(x.Options, " "))
		if x.Comment != "" && e.Family().SchemaComment != "''" {
			create += " COMMENT " + traits.Literal(x.Comment)
		}
		if err := s.Exec(ctx, create); err != nil {
			return nil, nil, errors.Join(&engine.SourceError{Place: s.place, Err: err, Hint: "the rehearsal needs a server that has no database of that name, and the right to make one"}, discard(context.WithoutCancel(ctx)))
		}
		made = append(made, x.Name)
		s.among = append(s.among, x.Name)
	}
	if len(like.Schemas) == 1 {
		if err := s.Exec(ctx, "USE "+traits.Ident(like.Schemas[0].Name)); err != nil {
			return nil, nil, errors.Join(err, discard(ctx))
		}
		s.database = like.Schemas[0].Name
	}
	return s, discard, nil
}

// grantee is the user as the views of privileges write it.
const grantee = `CONCAT('''', REPLACE(CURRENT_USER(), '@', '''@'''), '''')`

// MayNotAlter reads the privileges that the engine shows of the user
// (https://mariadb.com/kb/en/information-schema-user_privileges-table/ and its
// kin). Those of a role are not told apart, and nothing is said then.
func (s *session) MayNotAlter(ctx context.Context, tables []catalog.Ref) ([]catalog.Ref, error) {
	_, rows, err := s.Rows(ctx, `SELECT '', '' FROM DUAL WHERE NULLIF(CURRENT_ROLE(), 'NONE') IS NOT NULL
		UNION ALL SELECT '', '' FROM information_schema.USER_PRIVILEGES WHERE PRIVILEGE_TYPE = 'ALTER' AND GRANTEE = `+grantee+`
		UNION ALL SELECT TABLE_SCHEMA, '' FROM information_schema.SCHEMA_PRIVILEGES WHERE PRIVILEGE_TYPE = 'ALTER' AND GRANTEE = `+grantee+`
		UNION ALL SELECT TABLE_SCHEMA, TABLE_NAME FROM information_schema.TABLE_PRIVILEGES WHERE PRIVILEGE_TYPE = 'ALTER' AND GRANTEE = `+grantee, math.MaxInt)
	if err != nil {
		return nil, err
	}
	var not []catalog.Ref
	for _, ref := range tables {
		if !slices.ContainsFunc(rows, func(row engine.Row) bool {
			r := row.Or("")
			return r[0] == "" || like(r[0], ref.Schema) && (r[1] == "" || r[1] == ref.Table)
		}) {
			not = append(not, ref)
		}
	}
	return not, nil
}

// like reports whether the pattern of a granted database fits the name
// (https://mariadb.com/kb/en/grant/, "Database Privileges").
func like(pattern, name string) bool {
	if pattern == "" {
		return name == ""
	}
	c, rest := pattern[0], pattern[1:]
	switch {
	case c == '%':
		return like(rest, name) || name != "" && like(pattern, name[1:])
	case c == '_':
		return name != "" && like(rest, name[1:])
	case c == '\\' && rest != "":
		return name != "" && name[0] == rest[0] && like(rest[1:], name[1:])
	}
	return name != "" && name[0] == c && like(rest, name[1:])
}

// SampleOf lets the engine write its values out as literals.
func (Engine) SampleOf(t *catalog.Table, most int) string {
	var names, values []string
	for _, c := range t.Columns {
		if c.Generated != "" {
			continue
		}
		name, value := traits.Ident(c.Name), "QUOTE("+traits.Ident(c.Name)+")"
		if c.Type.Family == catalog.Binary || c.Type.Family == catalog.Other {
			value = fmt.Sprintf("IF(%s IS NULL, 'NULL', CONCAT('x''', HEX(%s), ''''))", name, name)
		}
		names, values = append(names, name), append(values, value)
	}
	head := fmt.Sprintf("INSERT INTO %s (%s) VALUES (", traits.Relation(t.Ref()), strings.Join(names, ", "))
	order := ""
	if t.PrimaryKey != nil {
		order = " ORDER BY " + traits.Idents(t.PrimaryKey.Columns)
	}
	return fmt.Sprintf("SELECT CONCAT(%s, CONCAT_WS(', ', %s), ')') FROM %s%s LIMIT %d", traits.Literal(head), strings.Join(values, ", "), traits.Relation(t.Ref()), order, most)
}

// CountOf counts.
func (Engine) CountOf(t catalog.Ref) string { return "SELECT count(*) FROM " + traits.Relation(t) }

// Kept has the session keep foreign keys.
func (Engine) Kept() []string { return []string{"SET SESSION foreign_key_checks = 1"} }
