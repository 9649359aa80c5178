package main

import (
	"context"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/postgres"
	"nexdal/test/server"
)

// schemas are those that other people's programs come with, by the Debian package that holds them
// and their place in it. They are read, and never kept.
var schemas = []struct{ pack, place string }{
	{"pdns-backend-pgsql", "usr/share/pdns-backend-pgsql/schema/schema.pgsql.sql"},
	{"roundcube-core", "usr/share/roundcube/SQL/postgres.initial.sql"},
	{"freeradius-config", "etc/freeradius/3.0/mods-config/sql/main/postgresql/schema.sql"},
}

// practice fills these schemas with rows that are made up, drops their foreign keys, and looks which
// of them are found again.
func practice(show bool) error {
	p, err := server.NewPostgres()
	if err != nil {
		return err
	}
	defer p.Stop()
	folder, err := os.MkdirTemp("", "nexdal-practice")
	if err != nil {
		return err
	}
	defer os.RemoveAll(folder)
	psql := func(database string, sql ...string) error {
		c := exec.Command("psql", "-qX", "-v", "ON_ERROR_STOP=1", "-h", p.Folder, "-U", "postgres", database)
		c.Stdin = strings.NewReader("SET client_min_messages = warning;\n" + strings.Join(sql, ";\n") + ";\n")
		if out, err := c.CombinedOutput(); err != nil {
			return fmt.Errorf("psql: %v: %s", err, out)
		}
		return nil
	}
	fmt.Printf("%-32s %-12s %6s %6s %6s\n", "schema", "tables", "P", "R", "F1")
	for i, s := range schemas {
		get := exec.Command("sh", "-c", "apt-get download -q "+s.pack+" >/dev/null 2>&1 && dpkg -x "+s.pack+"_*.deb "+s.pack)
		get.Dir = folder
		if out, err := get.CombinedOutput(); err != nil {
			fmt.Printf("%-32s cannot be had: %v %s\n", s.pack, err, out)
			continue
		}
		text, err := os.ReadFile(filepath.Join(folder, s.pack, s.place))
		if err != nil {
			return err
		}
		database := fmt.Sprint("practice", i)
		if err := psql("postgres", "CREATE DATABASE "+database); err != nil {
			return err
		}
		if err := psql(database, string(text)); err != nil {
			return err
		}
		c, err := surveyed(p.URL(database))
		if err != nil {
			return err
		}
		for _, t := range inOrder(c) {
			if err := psql(database, rowsFor(c, t)); err != nil {
				return fmt.Errorf("%s: %w", t.Name, err)
			}
		}
		var tables []*table
		for _, t := range c.Tables() {
			x := &table{name: t.Name, beside: true} // whose keys are declared
			for _, f := range t.ForeignKeys {
				x.refs = append(x.refs, reference{t.Name, f.Columns, f.Target.Table, f.TargetColumns})
				if err := psql(database, fmt.Sprintf("ALTER TABLE %q DROP CONSTRAINT %q", t.Name, f.Name)); err != nil {
					return err
				}
			}
			tables = append(tables, x)
		}
		if err := psql(database, "ANALYZE"); err != nil {
			return err
		}
		e, err := probe(p.URL(database))
		if err != nil {
			return err
		}
		var told calibration
		one, several, _ := compare(tables, e, show, 0, &told)
		one.add(several)
		fmt.Printf("%-32s %-12d %s   %d of %d\n", s.pack, len(tables), one, one.right, one.right+one.missed)
	}
	return nil
}

func surveyed(url string) (*catalog.Catalog, error) {
	s, err := postgres.Engine{}.Open(context.Background(), url, engine.Options{})
	if err != nil {
		return nil, err
	}
	defer s.Close()
	return s.Survey(context.Background())
}

// inOrder lists the tables, those that are referred to first.
func inOrder(c *catalog.Catalog) []*catalog.Table {
	var all []*catalog.Table
	done := map[catalog.Ref]bool{}
	var visit func(t *catalog.Table)
	visit = func(t *catalog.Table) {
		if done[t.Ref()] {
			return
		}
		done[t.Ref()] = true
		for _, f := range t.ForeignKeys {
			if parent := c.Table(f.Target); parent != nil {
				visit(parent)
			}
		}
		all = append(all, t)
	}
	for _, t := range c.Tables() {
		visit(t)
	}
	return all
}

// rowsFor makes rows up, the same every time: what refers to a key draws from it, what has to be
// unique counts, and the rest is small numbers, few words and dates.
func rowsFor(c *catalog.Catalog, t *catalog.Table) string {
	var columns, values []string
	for _, col := range t.Columns {
		if v := valueFor(c, t, col); v != "" {
			columns, values = append(columns, fmt.Sprintf("%q", col.Name)), append(values, v)
		}
	}
	return fmt.Sprintf("INSERT INTO %q (%s) SELECT %s FROM generate_series(1, %d) g ON CONFLICT DO NOTHING", t.Name, strings.Join(columns, ", "), strings.Join(values, ", "), 40+hashed(t.Name, 9)*60)
}

func valueFor(c *catalog.Catalog, t *catalog.Table, col *catalog.Column) string {
	drawn := fmt.Sprintf("('x' || substr(md5(g || '%s.%s'), 1, 6))::bit(24)::int", t.Name, col.Name)
	for _, f := range t.ForeignKeys {
		for i, name := range f.Columns {
			if name == col.Name {
				return fmt.Sprintf("(ARRAY(SELECT %q FROM %q ORDER BY 1))[1 + %s %% (SELECT count(*) FROM %[2]q)::int]", f.TargetColumns[i], f.Target.Table, drawn)
			}
		}
	}
	alone := t.UniqueOn([]string{col.Name})
	switch {
	case col.Sequence != nil, strings.Contains(col.Default, "nextval"), col.Generated != "":
		return "" // the engine gives it
	case col.Type.Family == catalog.Integer && alone:
		return "g"
	case col.Type.Family == catalog.Integer:
		return fmt.Sprintf("%s %% %d", drawn, []int{2, 2, 5, 30, 200, 1_000_000}[hashed(col.Name, 6)])
	case col.Type.Family == catalog.Text:
		text := fmt.Sprintf("'w' || %s %% %d", drawn, []int{3, 12, 5000}[hashed(col.Name, 3)])
		if keyed := t.PrimaryKey != nil && len(t.PrimaryKey.Columns) > 0 && t.PrimaryKey.Columns[0] == col.Name; alone || keyed {
			text = "'w' || g"
		}
		if n := col.Type.Length; n > 0 {
			return fmt.Sprintf("left(%s, %d)", text, n)
		}
		return text
	case col.Type.Native == "inet":
		return "inet '192.0.2.1' + " + drawn + " % 200"
	case col.Type.Family == catalog.Boolean:
		return drawn + " % 2 = 0"
	case col.Type.Family == catalog.Date, col.Type.Family == catalog.Timestamp:
		return fmt.Sprintf("timestamp '2026-01-01' + %s %% 9000 * interval '1 hour'", drawn)
	}
	return ""
}
