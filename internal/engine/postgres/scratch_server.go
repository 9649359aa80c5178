package postgres

import (
	"context"
	"errors"
	"fmt"
	"maps"
	"math"
	"slices"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/postgres/traits"
)

// foundations makes on the server what a twin of the structure rests on and the server
// lacks: roles, which may not log in, and tablespaces, within the server's own folder. Gone
// takes them away again.
func foundations(ctx context.Context, server engine.Runner, like *catalog.Catalog) (gone func(context.Context) error, err error) {
	var drops []string
	gone = func(ctx context.Context) error {
		var all error
		for _, sql := range slices.Backward(drops) {
			all = errors.Join(all, server.Exec(ctx, sql))
		}
		return all
	}
	lacks := func(names map[string]bool, there, title string, make func(name string) []string, drop string) error {
		_, rows, err := server.Rows(ctx, there, math.MaxInt)
		if err != nil {
			return err
		}
		for _, row := range rows {
			delete(names, row.Or("")[0])
		}
		for _, name := range slices.Sorted(maps.Keys(names)) {
			for _, sql := range make(name) {
				if err := server.Exec(ctx, sql); err != nil {
					return &engine.SourceError{Place: server.Place(), Err: fmt.Errorf("the twin needs %s %s: %w", title, name, err), Hint: fmt.Sprintf("make a %s of that name there", title)}
				}
			}
			drops = append(drops, drop+traits.Ident(name))
		}
		return nil
	}
	err = lacks(rolesOf(like), "SELECT rolname FROM pg_catalog.pg_roles", "role",
		func(name string) []string { return []string{"CREATE ROLE " + traits.Ident(name) + " NOLOGIN"} }, "DROP ROLE ")
	if err == nil {
		// https://www.postgresql.org/docs/current/runtime-config-developer.html, allow_in_place_tablespaces
		err = lacks(tablespacesOf(like), "SELECT spcname FROM pg_catalog.pg_tablespace", "tablespace",
			func(name string) []string {
				return []string{"SET allow_in_place_tablespaces = on", "CREATE TABLESPACE " + traits.Ident(name) + " LOCATION ''"}
			}, "DROP TABLESPACE ")
	}
	if err != nil {
		return nil, errors.Join(err, gone(context.WithoutCancel(ctx)))
	}
	return gone, nil
}

// rolesOf are the owners, those to whom something is granted, and those who granted it.
func rolesOf(c *catalog.Catalog) map[string]bool {
	roles := map[string]bool{}
	add := func(r catalog.Rights) {
		roles[r.Owner] = true
		for _, g := range r.Grants {
			roles[g.To], roles[g.By] = true, true
		}
	}
	for _, s := range c.Schemas {
		add(s.Rights)
	}
	for _, m := range c.Members() {
		switch {
		case m.Table != nil:
			add(m.Table.Rights)
		case m.View != nil:
			add(m.View.Rights)
		case m.Sequence != nil:
			add(m.Sequence.Rights)
		case m.Type != nil:
			add(m.Type.Rights)
		case m.Routine != nil:
			add(m.Routine.Rights)
		}
	}
	delete(roles, "")
	return roles
}

func tablespacesOf(c *catalog.Catalog) map[string]bool {
	spaces := map[string]bool{}
	for _, m := range c.Members() {
		switch {
		case m.Table != nil:
			spaces[m.Table.Tablespace] = true
			for _, x := range m.Table.Indexes {
				spaces[x.Tablespace] = true
			}
		case m.View != nil:
			spaces[m.View.Tablespace] = true
			for _, x := range m.View.Indexes {
				spaces[x.Tablespace] = true
			}
		}
	}
	delete(spaces, "")
	return spaces
}
