package sqlite

import (
	"context"
	"database/sql"
	"database/sql/driver"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"time"

	sqlite3 "modernc.org/sqlite/lib"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/sqlite/ddltext"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/pattern"
)

// reader gathers the catalog of one file.
type reader struct {
	ctx     context.Context
	conn    *sql.Conn
	catalog *catalog.Catalog
	schema  *catalog.Schema
	tables  map[string]*catalog.Table // by folded name
	bodies  map[string]*ddltext.Body  // understood definitions, by folded name
	indexes map[string]string         // text of CREATE INDEX by name
	// Names of indexes by folded table: those made by CREATE INDEX, and those that
	// the engine made for keys.
	byPerson, automatic map[string][]string
	stored              []object
	texts               []*understood
	parsed              int // how many of the texts are parsed, or being so
	parsing             sync.WaitGroup
	// unclear names the tables that the text does not tell all of.
	unclear []string
	// pragmas makes all of them so: for tests that hold the two ways together.
	pragmas bool
	// virtual asks for the columns of virtual tables, where another has to be asked than conn.
	virtual func(row func(scan func(...any) error) error) error
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
	r := newReader(ctx, s.conn, filepath.Base(s.place))
	r.pragmas = pragmas
	c, err := r.read(func() { r.listed(s.file) }, func() figures { return gather(ctx, s.conn, s.file, r.stored) })
	if err != nil {
		return nil, s.wrap(err)
	}
	return c, nil
}

func newReader(ctx context.Context, conn *sql.Conn, name string) *reader {
	r := &reader{ctx: ctx, conn: conn, tables: map[string]*catalog.Table{}, bodies: map[string]*ddltext.Body{}, indexes: map[string]string{},
		byPerson: map[string][]string{}, automatic: map[string][]string{}, schema: &catalog.Schema{Name: "main"}}
	r.catalog = &catalog.Catalog{Engine: catalog.Engine{Name: "sqlite"}, Database: name,
		Surveyed: time.Now().UTC(), Schemas: []*catalog.Schema{r.schema}}
	return r
}

// read understands the stored statements that list finds, and asks for what they leave to doubt;
// count gives rows and sizes.
func (r *reader) read(list func(), count func() figures) (*catalog.Catalog, error) {
	if list(); r.err != nil {
		return nil, r.err
	}
	r.objects()
	// The texts are understood on other cores while the engine counts.
	done := make(chan struct{})
	go func() {
		defer close(done)
		r.understand()
	}()
	figures := count()
	<-done
	r.kinds()
	r.views()
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
		return nil, r.err
	}
	r.take(figures)
	r.catalog.Sort()
	engine.Hints(r.catalog, Engine{}.Dialect())
	return r.catalog, nil
}

// ask sends one query and hands each row to scan, unless something failed
// before.
func (r *reader) ask(query string, row func(scan func(...any) error) error) {
	if r.err == nil {
		r.err = r.try(query, row)
	}
}

// try goes to the driver itself: the general interface would convert every
// value twice, which at ten thousand rows is most of the time.
func (r *reader) try(query string, row func(scan func(...any) error) error) error {
	return r.conn.Raw(func(c any) error {
		rows, err := c.(driver.QueryerContext).QueryContext(r.ctx, query, nil)
		if err != nil {
			return err
		}
		defer rows.Close()
		values := make([]driver.Value, len(rows.Columns()))
		scan := func(into ...any) error { return assign(values, into) }
		for {
			if err := r.ctx.Err(); err != nil {
				return err
			}
			if err := rows.Next(values); err == io.EOF {
				return nil
			} else if err != nil {
				return err
			}
			if err := row(scan); err != nil {
				return err
			}
		}
	})
}

// assign puts a row's values where they are wanted.
func assign(values []driver.Value, into []any) error {
	for i, p := range into {
		switch p := p.(type) {
		case *string:
			switch v := values[i].(type) {
			case string:
				*p = v
			case nil:
				*p = ""
			default:
				*p = fmt.Sprint(v)
			}
		case *int64:
			n, ok := values[i].(int64)
			if !ok {
				return fmt.Errorf("column %d holds %T, not a number", i+1, values[i])
			}
			*p = n
		case *int:
			n, ok := values[i].(int64)
			if !ok {
				return fmt.Errorf("column %d holds %T, not a number", i+1, values[i])
			}
			*p = int(n)
		case *bool:
			*p = values[i] == int64(1)
		}
	}
	return nil
}

func (r *reader) gap(table, what string, err error) {
	r.catalog.Gaps = append(r.catalog.Gaps, catalog.Gap{Schema: "main", Table: table, What: what, Reason: plainly(err)})
}

// coded is the number of an error behind its text.
var coded = pattern.New(` \(\d+\)$`)

// plainly is what the engine says, without what the driver adds.
func plainly(err error) string {
	return coded.ReplaceAllString(strings.TrimPrefix(err.Error(), "SQL logic error: "), "")
}

// listed reads the stored statements, from the file itself where that can be done, else through
// the engine.
func (r *reader) listed(file *os.File) {
	// Opens the transaction, rolls back what a crash left, and keeps writers
	// out until its end, all without understanding the schema.
	r.ask("PRAGMA schema_version", func(func(...any) error) error { return nil })
	if r.err != nil {
		return
	}
	t, err := openTrees(file)
	if err == nil {
		err = t.objects(func(o object) error { r.stored = append(r.stored, o); return r.ctx.Err() })
	}
	if err == nil {
		r.settings(sqlite3.SQLITE_VERSION, "UTF-8", fmt.Sprint(int32(t.userVersion)), fmt.Sprint(int32(t.applicationID)))
	} else {
		r.stored = nil
		r.askObjects(r.ask)
	}
}

// objects sorts the stored statements.
func (r *reader) objects() {
	triggers := map[string][]*catalog.Trigger{}
	for _, o := range r.stored {
		if o.kind != "index" && strings.HasPrefix(fold(o.name), "sqlite_") {
			continue
		}
		switch on := fold(o.on); o.kind {
		case "table":
			r.table(o.name, o.text)
		case "index":
			if o.text == "" {
				r.automatic[on] = append(r.automatic[on], o.name)
			} else {
				r.byPerson[on] = append(r.byPerson[on], o.name)
			}
			r.indexes[o.name] = o.text
		case "view":
			r.schema.Views = append(r.schema.Views, &catalog.View{Name: o.name, Definition: o.text, Follows: sqllex.Stars(Engine{}.Dialect(), o.text)})
		case "trigger":
			triggers[on] = append(triggers[on], triggerFromText(o.name, o.text))
		}
	}
	r.parse()
	for name, t := range r.tables {
		t.Triggers = triggers[name]
	}
	for _, v := range r.schema.Views {
		v.Triggers = triggers[fold(v.Name)]
	}
}

// The questions for what the file alone does not tell.
const (
	settingsQuery = `SELECT sqlite_version(), encoding, user_version, application_id FROM pragma_encoding, pragma_user_version, pragma_application_id`
	objectsQuery  = `SELECT type, name, tbl_name, coalesce(sql, ''), coalesce(rootpage, 0) FROM sqlite_schema ORDER BY rowid`
)

// An asker puts a query and hands each row to scan.
type asker func(query string, row func(scan func(...any) error) error)

// askObjects asks for the stored statements.
func (r *reader) askObjects(ask asker) {
	ask(settingsQuery, func(scan func(...any) error) error {
		var version, encoding, user, application string
		err := scan(&version, &encoding, &user, &application)
		r.settings(version, encoding, user, application)
		return err
	})
	ask(objectsQuery, func(scan func(...any) error) error {
		var o object
		err := scan(&o.kind, &o.name, &o.on, &o.text, &o.root)
		r.stored = append(r.stored, o)
		return err
	})
}

func (r *reader) settings(version, encoding, user, application string) {
	r.catalog.Engine.Version = version
	r.catalog.Settings = []catalog.Setting{{Name: "encoding", Value: encoding}, {Name: "user_version", Value: user}, {Name: "application_id", Value: application}}
}

// understood is a table's text as far as it was understood.
type understood struct {
	table *catalog.Table
	body  *ddltext.Body
	err   error
	clear bool // it tells all there is to know
}

// atOnce is how many tables are worked on in one go.
const atOnce = 64

// parse understands the texts gathered since the last call, on another core,
// while the rest is still being read.
func (r *reader) parse() {
	batch := r.texts[r.parsed:]
	r.parsed = len(r.texts)
	r.parsing.Go(func() {
		for _, u := range batch {
			if u.table.Kind == catalog.Virtual {
				continue
			}
			if u.body, u.err = ddltext.ParseBody(u.table.Definition); u.err == nil {
				u.table.Options, u.table.Checks = u.body.Options, u.body.Checks()
			}
		}
	})
}

// understand makes the tables from their texts, and notes those that the text
// leaves in doubt.
func (r *reader) understand() {
	r.parsing.Wait()
	var work sync.WaitGroup
	for batch := range slices.Chunk(r.texts, atOnce) {
		work.Go(func() {
			for _, u := range batch {
				u.clear = !r.pragmas && u.body != nil && u.err == nil && r.fromText(u.table, u.body)
			}
		})
	}
	work.Wait()
	for _, u := range r.texts {
		t := u.table
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
		names[i] = ddltext.Literal(name)
	}
	return "(" + strings.Join(names, ", ") + ")"
}

func (r *reader) table(name, text string) {
	t := &catalog.Table{Schema: "main", Name: name, Kind: catalog.Ordinary}
	r.schema.Tables = append(r.schema.Tables, t)
	r.tables[fold(name)] = t
	if isVirtual(text) {
		t.Kind, t.Definition = catalog.Virtual, text
	} else {
		t.Definition, _ = ddltext.SplitCreate(text)
		if head, ok := strings.CutPrefix(strings.TrimSuffix(text, t.Definition), "CREATE TABLE "); ok && head != ddltext.Ident(name)+" " {
			t.NameText = head
		}
	}
	if r.texts = append(r.texts, &understood{table: t}); len(r.texts)-r.parsed == atOnce {
		r.parse()
	}
}

// isVirtual tells a virtual table by its statement, which the engine stores
// with these words first.
func isVirtual(text string) bool {
	const virtual = "create virtual"
	return len(text) > len(virtual) && strings.EqualFold(text[:len(virtual)], virtual)
}

// kinds tells virtual tables' own tables from the owner's.
func (r *reader) kinds() {
	if !slices.ContainsFunc(r.schema.Tables, func(t *catalog.Table) bool { return t.Kind == catalog.Virtual }) {
		return
	}
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

const virtualOnly = `LIKE 'create virtual%' ORDER BY m.rowid, x.cid`

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
			if k := said.Clause("collate"); k != nil && !strings.EqualFold(k.Columns[0], "binary") {
				collation = strings.ToUpper(k.Columns[0])
			}
			if k := said.Clause("generated"); k != nil {
				c.Generated = strings.TrimSpace(r.bodies[fold(table)].Text[k.Keyword[0]:k.Keyword[1]])
				c.Stored = hidden == 3
			}
		}
		c.Type = ddltext.TypeOf(native, collation)
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
	virtual := func() error { return r.try(query+virtualOnly, row) }
	if r.virtual != nil {
		virtual = func() error { return r.virtual(row) }
	}
	if err := virtual(); err != nil {
		r.gap("", "columns of virtual tables", err)
	}
}

// said returns what the text says of a column, or nil.
func (r *reader) said(table, column string) *ddltext.ColumnText {
	if b := r.bodies[fold(table)]; b != nil {
		return b.Column(column)
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
		var said []*ddltext.Clause
		if b := r.bodies[name]; b != nil {
			said = b.References()
		}
		for i, d := range list {
			if len(said) == len(list) {
				d.key.Name = said[i].Name
				d.key.Deferrable, d.key.Deferred = said[i].Reference.Deferrable, said[i].Reference.Deferred
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
