package sqlite

import (
	"context"
	"database/sql"
	"fmt"
	"path/filepath"
	"runtime"
	"strings"
	"time"

	"golang.org/x/sync/errgroup"

	"nexdal/internal/catalog"
)

// reader gathers the catalog of one file.
type reader struct {
	ctx     context.Context
	conn    *sql.Conn
	catalog *catalog.Catalog
	schema  *catalog.Schema
	tables  map[string]*catalog.Table // by folded name
	bodies  map[string]*body          // understood definitions, by folded name
	indexes map[string]string         // text of CREATE INDEX by name
	// Names of indexes by folded table: those made by a person, and those that
	// the engine made for keys.
	byPerson, automatic map[string][]string
	// unclear names the tables that the text does not tell all of.
	unclear []string
	// pragmas makes all of them so: for tests that hold the two ways together.
	pragmas bool
	err     error // the first failure
}

// Survey reads the file within one read transaction: the stored statements,
// and for what they leave to doubt the pragma functions of
// https://www.sqlite.org/pragma.html#pragfunc, each joined to sqlite_schema and
// so asked once for all tables.
func (s *session) Survey(ctx context.Context) (*catalog.Catalog, error) {
	if _, err := s.conn.ExecContext(ctx, "BEGIN"); err != nil {
		return nil, s.wrap(err)
	}
	defer s.conn.ExecContext(context.WithoutCancel(ctx), "ROLLBACK")
	return s.read(ctx, false)
}

func (s *session) read(ctx context.Context, pragmas bool) (*catalog.Catalog, error) {
	r := &reader{ctx: ctx, conn: s.conn, tables: map[string]*catalog.Table{}, bodies: map[string]*body{}, indexes: map[string]string{},
		byPerson: map[string][]string{}, automatic: map[string][]string{}, pragmas: pragmas}
	r.schema = &catalog.Schema{Name: "main"}
	r.catalog = &catalog.Catalog{Engine: catalog.Engine{Name: "sqlite"}, Database: filepath.Base(s.place),
		Surveyed: time.Now().UTC(), Schemas: []*catalog.Schema{r.schema}}
	r.settings()
	r.objects()
	r.kinds()
	// The texts are understood on other cores while the engine counts.
	understood := make(chan struct{})
	go func() {
		defer close(understood)
		r.understand()
	}()
	figures := gather(ctx, s.conn, s.size)
	<-understood
	if len(r.unclear) > 0 {
		r.columns()
		r.pragmaKeys()
		r.pragmaReferences()
	}
	for _, t := range r.tables {
		for _, f := range t.ForeignKeys {
			r.resolve(f)
		}
	}
	if r.err == nil {
		r.err = figures.err
	}
	if r.err != nil {
		return nil, s.wrap(r.err)
	}
	r.take(figures)
	r.catalog.Sort()
	return r.catalog, nil
}

// ask sends one query and hands each row to scan, unless something failed
// before.
func (r *reader) ask(query string, row func(scan func(...any) error) error) {
	if r.err == nil {
		r.err = r.try(query, row)
	}
}

func (r *reader) try(query string, row func(scan func(...any) error) error) error {
	rows, err := r.conn.QueryContext(r.ctx, query)
	if err != nil {
		return err
	}
	defer rows.Close()
	for rows.Next() {
		if err := row(rows.Scan); err != nil {
			return err
		}
	}
	return rows.Err()
}

func (r *reader) gap(table, what string, err error) {
	r.catalog.Gaps = append(r.catalog.Gaps, catalog.Gap{Schema: "main", Table: table, What: what, Reason: err.Error()})
}

func (r *reader) settings() {
	r.ask(`SELECT sqlite_version(), encoding, user_version, application_id FROM pragma_encoding, pragma_user_version, pragma_application_id`,
		func(scan func(...any) error) error {
			var encoding, user, application string
			if err := scan(&r.catalog.Engine.Version, &encoding, &user, &application); err != nil {
				return err
			}
			r.catalog.Settings = []catalog.Setting{{Name: "encoding", Value: encoding}, {Name: "user_version", Value: user}, {Name: "application_id", Value: application}}
			return nil
		})
}

// objects reads the stored statements.
func (r *reader) objects() {
	triggers := map[string][]*catalog.Trigger{}
	r.ask(`SELECT type, name, tbl_name, coalesce(sql, '') FROM sqlite_schema WHERE type = 'index' OR name NOT LIKE 'sqlite\_%' ESCAPE '\' ORDER BY rowid`,
		func(scan func(...any) error) error {
			var kind, name, on, text string
			if err := scan(&kind, &name, &on, &text); err != nil {
				return err
			}
			switch kind {
			case "table":
				r.table(name, text)
			case "index":
				list := r.byPerson
				if text == "" {
					list = r.automatic
				}
				list[fold(on)] = append(list[fold(on)], name)
				r.indexes[name] = text
			case "view":
				r.schema.Views = append(r.schema.Views, &catalog.View{Name: name, Definition: text})
			case "trigger":
				triggers[fold(on)] = append(triggers[fold(on)], &catalog.Trigger{Name: name, Definition: text})
			}
			return nil
		})
	for name, t := range r.tables {
		t.Triggers = triggers[name]
	}
}

// understand makes the tables from their text, on every core, and notes those
// that it leaves in doubt.
func (r *reader) understand() {
	type understood struct {
		body  *body
		err   error
		clear bool
	}
	tables := r.schema.Tables
	all := make([]understood, len(tables))
	var work errgroup.Group
	work.SetLimit(runtime.GOMAXPROCS(0))
	const at = 64 // tables a go
	for from := 0; from < len(tables); from += at {
		work.Go(func() error {
			for i := from; i < min(from+at, len(tables)); i++ {
				t, u := tables[i], &all[i]
				if t.Kind == catalog.Virtual {
					continue
				}
				if u.body, u.err = parseBody(t.Definition); u.err != nil {
					continue
				}
				t.Options, t.Checks = u.body.options, u.body.checks()
				u.clear = !r.pragmas && r.fromText(t, u.body)
			}
			return nil
		})
	}
	work.Wait() // none of them fails
	for i, u := range all {
		t := tables[i]
		if u.err != nil {
			r.gap(t.Name, "names of constraints, checks and options", fmt.Errorf("the stored statement was not understood: %w", u.err))
			t.Definition = ""
		} else if u.body != nil {
			r.bodies[fold(t.Name)] = u.body
		}
		if !u.clear {
			r.unclear = append(r.unclear, t.Name)
		}
	}
}

// asked writes the list of the unclear tables as SQL.
func (r *reader) asked() string {
	names := make([]string, len(r.unclear))
	for i, name := range r.unclear {
		names[i] = literal(name)
	}
	return "(" + strings.Join(names, ", ") + ")"
}

func (r *reader) table(name, text string) {
	t := &catalog.Table{Schema: "main", Name: name, Kind: catalog.Ordinary}
	r.schema.Tables = append(r.schema.Tables, t)
	r.tables[fold(name)] = t
	if fields := strings.Fields(text); len(fields) > 1 && strings.EqualFold(fields[1], "virtual") {
		t.Kind, t.Definition = catalog.Virtual, text
		return
	}
	t.Definition, _ = splitCreate(text)
}

// kinds tells virtual tables' own tables from the owner's.
func (r *reader) kinds() {
	r.ask(`SELECT name FROM pragma_table_list WHERE schema = 'main' AND type = 'shadow'`, func(scan func(...any) error) error {
		var name string
		err := scan(&name)
		if t := r.tables[fold(name)]; err == nil && t != nil {
			t.Kind = catalog.Shadow
		}
		return err
	})
}

const columnsOf = `SELECT m.name, x.name, x.type, x."notnull", coalesce(x.dflt_value, ''), x.pk, x.hidden
	FROM sqlite_schema m JOIN pragma_table_xinfo(m.name) x
	WHERE m.type = 'table' AND m.name IN %s AND m.sql `

func (r *reader) columns() {
	row := func(scan func(...any) error) error {
		var table, name, native, value string
		var required bool
		var pk, hidden int
		if err := scan(&table, &name, &native, &required, &value, &pk, &hidden); err != nil {
			return err
		}
		t := r.tables[fold(table)]
		if t == nil || hidden == 1 {
			return nil
		}
		c := &catalog.Column{Name: name, Nullable: !required, Default: value}
		collation := ""
		if said := r.said(table, name); said != nil {
			if k := said.clause("collate"); k != nil && !strings.EqualFold(k.columns[0], "binary") {
				collation = strings.ToUpper(k.columns[0])
			}
			if k := said.clause("generated"); k != nil {
				c.Generated = strings.TrimSpace(r.bodies[fold(table)].text[k.keyword[0]:k.keyword[1]])
				c.Stored = hidden == 3
			}
		}
		c.Type = typeOf(native, collation)
		t.Columns = append(t.Columns, c)
		if pk > 0 {
			if t.PrimaryKey == nil {
				t.PrimaryKey = &catalog.Key{}
			}
			for len(t.PrimaryKey.Columns) < pk {
				t.PrimaryKey.Columns = append(t.PrimaryKey.Columns, "")
			}
			t.PrimaryKey.Columns[pk-1] = name
		}
		return nil
	}
	query := fmt.Sprintf(columnsOf, r.asked())
	r.ask(query+`NOT LIKE 'create virtual%' ORDER BY m.rowid, x.cid`, row)
	if r.err != nil {
		return
	}
	// A virtual table whose module is missing must not stop the rest.
	if err := r.try(query+`LIKE 'create virtual%' ORDER BY m.rowid, x.cid`, row); err != nil {
		r.gap("", "columns of virtual tables", err)
	}
}

// said returns what the text says of a column, or nil.
func (r *reader) said(table, column string) *columnText {
	if b := r.bodies[fold(table)]; b != nil {
		return b.column(column)
	}
	return nil
}

func (r *reader) pragmaReferences() {
	type declared struct {
		key *catalog.ForeignKey
		id  int
	}
	byTable := map[string][]declared{}
	r.ask(`SELECT m.name, x.id, x."table", x."from", coalesce(x."to", ''), x.on_update, x.on_delete
		FROM sqlite_schema m JOIN pragma_foreign_key_list(m.name) x
		WHERE m.type = 'table' AND m.name IN `+r.asked()+` AND m.sql NOT LIKE 'create virtual%' ORDER BY m.rowid, x.id DESC, x.seq`,
		func(scan func(...any) error) error {
			var table, target, from, to, onUpdate, onDelete string
			var id int
			if err := scan(&table, &id, &target, &from, &to, &onUpdate, &onDelete); err != nil {
				return err
			}
			name := fold(table)
			list := byTable[name]
			if len(list) == 0 || list[len(list)-1].id != id {
				list = append(list, declared{&catalog.ForeignKey{Target: catalog.Ref{Schema: "main", Table: target},
					OnDelete: action(onDelete), OnUpdate: action(onUpdate)}, id})
			}
			f := list[len(list)-1].key
			f.Columns = append(f.Columns, from)
			f.TargetColumns = append(f.TargetColumns, to)
			byTable[name] = list
			return nil
		})
	for name, list := range byTable {
		t := r.tables[name]
		if t == nil {
			continue
		}
		var said []*clause
		if b := r.bodies[name]; b != nil {
			said = b.references()
		}
		for i, d := range list {
			if len(said) == len(list) {
				d.key.Name = said[i].name
				d.key.Deferrable, d.key.Deferred = said[i].reference.deferrable, said[i].reference.deferred
			}
			t.ForeignKeys = append(t.ForeignKeys, d.key)
		}
	}
}

// resolve gives the names as the target spells them, and its primary key
// where the reference names no columns.
func (r *reader) resolve(f *catalog.ForeignKey) {
	target := r.tables[fold(f.Target.Table)]
	if target == nil {
		return
	}
	f.Target.Table = target.Name
	if len(f.TargetColumns) > 0 && f.TargetColumns[0] == "" {
		f.TargetColumns = nil
		if k := target.PrimaryKey; k != nil {
			f.TargetColumns = append(f.TargetColumns, k.Columns...)
		}
		return
	}
	for i, name := range f.TargetColumns {
		for _, c := range target.Columns {
			if strings.EqualFold(c.Name, name) {
				f.TargetColumns[i] = c.Name
			}
		}
	}
}

func action(pragma string) catalog.Action { return catalog.Action(strings.ToLower(pragma)) }

func fold(name string) string { return strings.ToLower(name) }
