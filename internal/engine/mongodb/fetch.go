package mongodb

import (
	"context"
	"database/sql"
	"fmt"
	"os"
	"path/filepath"
	"strings"

	"go.mongodb.org/mongo-driver/v2/bson"
	_ "modernc.org/sqlite" // holds what was fetched

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/sqlite"
	"nexdal/internal/evidence"
)

// fetched are documents in a temporary file, a row each, of which SQLite answers questions: a store of
// documents would have to be read once for each. Values of lists have tables of their own.
type fetched struct {
	folder string
	file   engine.Session
	asker  evidence.Asker
	tables map[catalog.Ref]*laid
}

// laid is how a collection lies in the file. Names there are of letters and numbers alone, whatever
// the fields are called.
type laid struct {
	of      *catalog.Table
	table   *catalog.Table // of what a document has once
	columns map[string]*catalog.Column
	lists   map[string]*catalog.Table // by path, a table of one column each
	partial bool                      // not all documents are there
}

// mostColumns is how many fields of a collection are laid out at most
// (https://www.sqlite.org/limits.html).
const mostColumns = 1900

// fetch takes the documents, or of large collections so many, drawn at random.
func (s *session) fetch(ctx context.Context, c *catalog.Catalog, most int64) (*fetched, error) {
	folder, err := os.MkdirTemp("", "nexdal-")
	if err != nil {
		return nil, err
	}
	f := &fetched{folder: folder, tables: map[catalog.Ref]*laid{}}
	path := filepath.Join(folder, "documents.db")
	if err := f.fill(ctx, s, c, path, most); err != nil {
		f.close()
		return nil, err
	}
	if f.file, err = (sqlite.Engine{}).Open(ctx, sqlite.Engine{}.FileURL(path), engine.Options{StatementTimeout: s.o.StatementTimeout}); err == nil {
		f.asker, err = f.file.(engine.Prober).Asker(ctx)
	}
	if err != nil {
		f.close()
		return nil, err
	}
	return f, nil
}

func (f *fetched) close() {
	if f.file != nil {
		f.file.Close()
	}
	os.RemoveAll(f.folder)
}

func (f *fetched) fill(ctx context.Context, s *session, c *catalog.Catalog, path string, most int64) error {
	db, err := sql.Open("sqlite", "file:"+path+"?_pragma=journal_mode(off)&_pragma=synchronous(off)")
	if err != nil {
		return err
	}
	defer db.Close()
	db.SetMaxOpenConns(1)
	tables := c.Tables()
	for i, t := range tables {
		if s.o.Fetched != nil {
			s.o.Fetched(t.Name, int64(i), int64(len(tables)))
		}
		l := layOut(t, i)
		f.tables[t.Ref()] = l
		some := int64(0)
		if n := t.Stats.Rows; most > 0 && n != nil && *n > most {
			some, l.partial = most, true
		}
		if err := l.fill(ctx, s, db, some); err != nil {
			return err
		}
	}
	return nil
}

// layOut chooses the tables of a collection.
func layOut(t *catalog.Table, n int) *laid {
	l := &laid{of: t, columns: map[string]*catalog.Column{}, lists: map[string]*catalog.Table{}}
	l.table = &catalog.Table{Schema: "main", Name: fmt.Sprintf("t%d", n), Kind: catalog.Ordinary, Stats: t.Stats}
	for i, c := range t.Columns {
		if len(l.columns) == mostColumns {
			break
		}
		in := &catalog.Column{Name: fmt.Sprintf("c%d", i), Type: c.Type, Nullable: c.Nullable}
		if in.Type.Family == catalog.JSON { // that it is there
			in.Type = catalog.Type{Native: "integer", Family: catalog.Integer, Bits: 64}
		}
		l.columns[c.Name] = in
		if c.Many {
			l.lists[c.Name] = &catalog.Table{Schema: "main", Name: fmt.Sprintf("t%d_c%d", n, i), Kind: catalog.Ordinary, Columns: []*catalog.Column{in}}
			continue
		}
		l.table.Columns = append(l.table.Columns, in)
		if t.PrimaryKey != nil && c.Name == "_id" {
			in.Nullable = false
		}
	}
	return l
}

// affinity is the type that SQLite keeps the values by.
func affinity(c *catalog.Column) string {
	switch c.Type.Family {
	case catalog.Integer, catalog.Boolean:
		return "INTEGER"
	case catalog.Float, catalog.Decimal:
		return "REAL"
	}
	return "TEXT"
}

// fill takes the documents of a collection into its tables.
func (l *laid) fill(ctx context.Context, s *session, db *sql.DB, some int64) error {
	tx, err := db.BeginTx(ctx, nil)
	if err != nil {
		return err
	}
	defer func() { _ = tx.Rollback() }()
	lay := func(t *catalog.Table) error {
		var parts []string
		for _, c := range t.Columns {
			parts = append(parts, c.Name+" "+affinity(c))
		}
		if len(parts) == 0 {
			parts = []string{"c"}
		}
		_, err := tx.ExecContext(ctx, fmt.Sprintf("CREATE TABLE %s (%s)", t.Name, strings.Join(parts, ", ")))
		return err
	}
	if err := lay(l.table); err != nil {
		return err
	}
	into := map[string]*sql.Stmt{}
	defer func() {
		for _, st := range into {
			st.Close()
		}
	}()
	for path, t := range l.lists {
		if err := lay(t); err != nil {
			return err
		}
		if into[path], err = tx.PrepareContext(ctx, "INSERT INTO "+t.Name+" VALUES (?)"); err != nil {
			return err
		}
	}
	row, err := tx.PrepareContext(ctx, fmt.Sprintf("INSERT INTO %s VALUES (%s)", l.table.Name, strings.TrimSuffix(strings.Repeat("?, ", max(1, len(l.table.Columns))), ", ")))
	if err != nil {
		return err
	}
	defer row.Close()
	place := map[string]int{}
	for i, c := range l.table.Columns {
		place[c.Name] = i
	}
	err = s.documents(ctx, l.of.Name, some, func(doc bson.Raw) error {
		values := make([]any, max(1, len(l.table.Columns)))
		var failed error
		l.walk(doc, "", false, func(path string, v any) {
			in := l.columns[path]
			if in == nil || failed != nil {
				return
			}
			if st := into[path]; st != nil {
				if v != nil {
					_, failed = st.ExecContext(ctx, v)
				}
				return
			}
			values[place[in.Name]] = v
		})
		if failed != nil {
			return failed
		}
		_, err := row.ExecContext(ctx, values...)
		return err
	})
	if err != nil {
		return err
	}
	return tx.Commit()
}

// walk visits the values of a document by their paths.
func (l *laid) walk(doc bson.Raw, prefix string, many bool, visit func(path string, v any)) {
	elements, err := doc.Elements()
	if err != nil {
		return
	}
	for _, e := range elements {
		path := join(prefix, e.Key())
		if l.columns[path] == nil {
			path = strings.TrimPrefix(prefix+"."+everyName, ".")
		}
		l.value(e.Value(), path, many, visit)
	}
}

func (l *laid) value(v bson.RawValue, path string, many bool, visit func(path string, v any)) {
	switch v.Type {
	case bson.TypeEmbeddedDocument:
		visit(path, int64(1))
		l.walk(v.Document(), path, many, visit)
	case bson.TypeArray:
		values, err := v.Array().Values()
		if err != nil {
			return
		}
		for _, e := range values {
			l.value(e, path, true, visit)
		}
	default:
		visit(path, sqlValue(v))
	}
}

// sqlValue is a value as SQLite keeps it; identifiers and moments are texts.
func sqlValue(v bson.RawValue) any {
	switch v.Type {
	case bson.TypeInt32:
		return int64(v.Int32())
	case bson.TypeInt64:
		return v.Int64()
	case bson.TypeDouble:
		return v.Double()
	case bson.TypeBoolean:
		return map[bool]int64{true: 1}[v.Boolean()]
	}
	if text, ok := plain(v); ok {
		return text
	}
	return nil
}
