// Package trace tells of each statement that is sent over a connection of database/sql, and how
// long it took until the answer began.
package trace

import (
	"context"
	"database/sql"
	"database/sql/driver"
	"errors"
	"time"

	"nexdal/internal/engine"
)

// Open is sql.OpenDB. Where watch is nil, the connections are the driver's own.
func Open(c driver.Connector, watch engine.Watch) *sql.DB {
	if watch == nil {
		return sql.OpenDB(c)
	}
	return sql.OpenDB(connector{c, watch})
}

type connector struct {
	driver.Connector
	watch engine.Watch
}

func (c connector) Connect(ctx context.Context) (driver.Conn, error) {
	inner, err := c.Connector.Connect(ctx)
	if err != nil {
		return nil, err
	}
	return conn{inner, c.watch}, nil
}

// conn is a connection whose statements are told. The interfaces that database/sql asks for are
// handed on; where the driver lacks one, it is told to do without, as the package documents.
type conn struct {
	driver.Conn
	watch engine.Watch
}

func (c conn) told(query string, began time.Time, err error) {
	if !errors.Is(err, driver.ErrSkip) {
		c.watch(query, time.Since(began), err)
	}
}

func (c conn) QueryContext(ctx context.Context, query string, args []driver.NamedValue) (rows driver.Rows, err error) {
	q, ok := c.Conn.(driver.QueryerContext)
	if !ok {
		return nil, driver.ErrSkip
	}
	defer func(began time.Time) { c.told(query, began, err) }(time.Now())
	return q.QueryContext(ctx, query, args)
}

func (c conn) ExecContext(ctx context.Context, query string, args []driver.NamedValue) (result driver.Result, err error) {
	x, ok := c.Conn.(driver.ExecerContext)
	if !ok {
		return nil, driver.ErrSkip
	}
	defer func(began time.Time) { c.told(query, began, err) }(time.Now())
	return x.ExecContext(ctx, query, args)
}

func (c conn) PrepareContext(ctx context.Context, query string) (driver.Stmt, error) {
	if p, ok := c.Conn.(driver.ConnPrepareContext); ok {
		return p.PrepareContext(ctx, query)
	}
	return c.Conn.Prepare(query)
}

func (c conn) BeginTx(ctx context.Context, o driver.TxOptions) (driver.Tx, error) {
	if b, ok := c.Conn.(driver.ConnBeginTx); ok {
		return b.BeginTx(ctx, o)
	}
	return nil, errors.New("the driver begins no transaction with options")
}

func (c conn) Ping(ctx context.Context) error {
	if p, ok := c.Conn.(driver.Pinger); ok {
		return p.Ping(ctx)
	}
	return nil
}

func (c conn) ResetSession(ctx context.Context) error {
	if r, ok := c.Conn.(driver.SessionResetter); ok {
		return r.ResetSession(ctx)
	}
	return nil
}

func (c conn) IsValid() bool {
	v, ok := c.Conn.(driver.Validator)
	return !ok || v.IsValid()
}

func (c conn) CheckNamedValue(v *driver.NamedValue) error {
	if n, ok := c.Conn.(driver.NamedValueChecker); ok {
		return n.CheckNamedValue(v)
	}
	return driver.ErrSkip
}
