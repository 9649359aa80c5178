package main

import (
	"context"
	"strings"
	"sync"

	"github.com/dolthub/vitess/go/mysql"
)

// errorCount lets statements end with the condition that @@error_count is 0, a variable that the
// library has not: the statement before did not fail.
type errorCount struct {
	mysql.Handler
	mutex  sync.Mutex
	failed map[uint32]bool // by connection
}

func (e *errorCount) put(c *mysql.Conn, query string, send func(query string) error) error {
	e.mutex.Lock()
	defer e.mutex.Unlock()
	if where, ok := strings.CutSuffix(query, "@@error_count = 0"); ok {
		if e.failed[c.ConnectionID] {
			return send(where + "1 = 0")
		}
		return send(where + "1 = 1")
	}
	e.mutex.Unlock()
	err := send(query)
	e.mutex.Lock()
	e.failed[c.ConnectionID] = err != nil
	return err
}

func (e *errorCount) ComQuery(ctx context.Context, c *mysql.Conn, query string, callback mysql.ResultSpoolFn) error {
	return e.put(c, query, func(query string) error { return e.Handler.ComQuery(ctx, c, query, callback) })
}

func (e *errorCount) ComMultiQuery(ctx context.Context, c *mysql.Conn, query string, callback mysql.ResultSpoolFn) (rest string, err error) {
	err = e.put(c, query, func(query string) (err error) {
		rest, err = e.Handler.ComMultiQuery(ctx, c, query, callback)
		return err
	})
	return rest, err
}
