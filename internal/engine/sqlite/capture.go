package sqlite

import (
	"context"
	"database/sql"
	"errors"
	"fmt"

	"modernc.org/sqlite"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/capture"
)

// Captured reads the catalog from a capture.
func (Engine) Captured(c *capture.Capture) (*catalog.Catalog, error) {
	a := &captured{Capture: c}
	ctx := context.Background()
	r := newReader(ctx, nil, c.Head.Database)
	r.catalog.Surveyed = c.Head.Moment
	if r.askObjects(a.ask); a.err != nil {
		return nil, a.err
	}
	db, conn, err := emptied(ctx, r.stored)
	if err != nil {
		return nil, fmt.Errorf("its statements cannot be understood: %w", err)
	}
	defer db.Close()
	defer conn.Close()
	r.conn = conn
	r.virtual = func(row func(scan func(...any) error) error) error { return a.try(virtualColumns, row) }
	return r.read(func() {}, a.figures)
}

// emptied is a database in memory that has the statements and no rows. They are written into
// its table of statements, so that none is carried out
// (https://www.sqlite.org/pragma.html#pragma_writable_schema).
func emptied(ctx context.Context, objects []object) (*sql.DB, *sql.Conn, error) {
	connector, err := sqlite.NewConnector(":memory:")
	if err != nil {
		return nil, nil, err
	}
	db := sql.OpenDB(connector)
	conn, err := db.Conn(ctx)
	if err == nil {
		// Each tree has to be within the file, and nobody else's; nobody looks into it.
		_, err = conn.ExecContext(ctx, "PRAGMA page_size = 512; CREATE TABLE place (x); INSERT INTO place VALUES (zeroblob(?)); PRAGMA writable_schema = 1; BEGIN; DELETE FROM sqlite_schema", (len(objects)+1)*512)
	}
	for i, o := range objects {
		if err != nil {
			break
		}
		root, text := 0, any(o.text)
		if o.root != 0 {
			root = 2 + i
		}
		if o.text == "" {
			text = nil
		}
		_, err = conn.ExecContext(ctx, "INSERT INTO sqlite_schema (type, name, tbl_name, rootpage, sql) VALUES (?, ?, ?, ?, ?)", o.kind, o.name, o.on, root, text)
	}
	if err == nil {
		_, err = conn.ExecContext(ctx, "COMMIT; PRAGMA writable_schema = RESET")
	}
	if err != nil {
		db.Close()
		return nil, nil, err
	}
	return db, conn, nil
}

// captured are the answers in a file.
type captured struct {
	*capture.Capture
	err error
}

func (c *captured) ask(query string, row func(scan func(...any) error) error) {
	if c.err == nil {
		c.err = c.try(query, row)
	}
}

func (c *captured) try(query string, row func(scan func(...any) error) error) error {
	return c.Rows(query, func(v [][]byte) error { return row(capture.Scanner(v)) })
}

// figures are what the file counted; what it could not count is a gap.
func (c *captured) figures() figures {
	f := newFigures()
	gap := func(what, why string) {
		f.gaps = append(f.gaps, catalog.Gap{Schema: "main", What: what, Reason: why, Figures: true})
	}
	may := func(ask func(asker)) bool {
		was := c.err
		ask(c.ask)
		if errors.Is(c.err, capture.ErrRefused) {
			c.err = was
			return false
		}
		return true
	}
	may(f.analysed) // never analysed: there is no such table
	may(f.counters)
	if !may(f.count) {
		f.pages = map[string]pages{}
		gap("sizes and exact rows", "the client was built without the table dbstat")
	}
	f.orphans = map[string]int64{}
	if !may(func(ask asker) { ask(allOrphans, f.orphan) }) {
		f.orphans = nil
		gap("rows without a parent", "a reference leads to no key, and the client could follow none")
	}
	f.err = c.err
	return f
}
