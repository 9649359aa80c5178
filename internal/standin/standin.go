// Package standin is a simulated Redshift cluster for where there is none: a small
// server that speaks PostgreSQL's wire protocol, spreads rows over slices by key, evenly
// or as copies, keeps them in an order with a tail that is not, counts rows that are
// gone, and offers the documented system views by their documented columns. It is made
// for demonstrations and tests, and says of itself that it is simulated. What it does
// not know it refuses; it makes no answer up.
package standin

import (
	"context"
	"database/sql"
	"fmt"
	"hash/fnv"
	"net"
	"slices"
	"sync"

	_ "modernc.org/sqlite" // holds the rows, in memory
)

// Version is what the cluster answers when asked.
const Version = "PostgreSQL 8.0.2 on simulated-nexdal, compiled by nobody, Redshift 1.0.77467 (simulated by Nexdal)"

// A Cluster is one simulated cluster of one database.
type Cluster struct {
	nodes, slices int
	database      string

	mutex  sync.Mutex // held by a connection while it is within a transaction
	db     *sql.Conn
	pool   *sql.DB
	tables []*table
	views  []*view
	nextID int
	shown  bool // the system views tell what there is

	listener net.Listener
	closing  chan struct{}
	conns    sync.WaitGroup
}

// A table is what the cluster knows of one besides its rows.
type table struct {
	id           int
	schema, name string
	columns      []*column
	style        string // "key", "even", "all", "auto"
	distkey      string
	sortkey      []string
	interleaved  bool
	constraints  []*constraint
	comment      string
	// Rows that came since the last sort, that are gone and not reclaimed, and that
	// changed since the last ANALYZE.
	unsorted, dead, changed int64
	// counts are the rows on each slice and in all, once they were counted.
	counts []int64
	rows   int64
}

type column struct {
	name, kind, encoding, def, comment string
	notNull, identity                  bool
}

type constraint struct {
	id              int
	name, kind      string // "p", "u", "f"
	columns, target []string
	refers          *table
}

type view struct{ schema, name, definition string }

// Start makes a cluster of so many nodes and slices on each, and lets it listen on
// a free port of this machine alone.
func Start(nodes, slicesPerNode int) (*Cluster, error) {
	return StartOn("127.0.0.1:0", nodes, slicesPerNode)
}

// StartOn is the like at a given address.
func StartOn(address string, nodes, slicesPerNode int) (*Cluster, error) {
	if nodes < 1 || slicesPerNode < 1 {
		return nil, fmt.Errorf("a cluster has a node and a slice at least")
	}
	pool, err := sql.Open("sqlite", "file::memory:?_pragma=foreign_keys(0)")
	if err != nil {
		return nil, err
	}
	pool.SetMaxOpenConns(1) // each connection would have a memory of its own
	conn, err := pool.Conn(context.Background())
	if err != nil {
		return nil, err
	}
	c := &Cluster{nodes: nodes, slices: nodes * slicesPerNode, database: "dev", db: conn, pool: pool, nextID: 100_000, closing: make(chan struct{})}
	for _, sql := range append([]string{"ATTACH ':memory:' AS pg_catalog", "ATTACH ':memory:' AS public"}, systemViews...) {
		if _, err := conn.ExecContext(context.Background(), sql); err != nil {
			return nil, fmt.Errorf("%s: %w", sql, err)
		}
	}
	if c.listener, err = net.Listen("tcp", address); err != nil {
		return nil, err
	}
	go c.serve()
	return c, nil
}

// URL leads to it.
func (c *Cluster) URL() string {
	return fmt.Sprintf("redshift://demo@%s/%s?sslmode=disable", c.listener.Addr(), c.database)
}

// Close ends it; what it held is gone.
func (c *Cluster) Close() {
	close(c.closing)
	c.listener.Close()
	c.conns.Wait()
	c.db.Close()
	c.pool.Close()
}

func (c *Cluster) id() int { c.nextID++; return c.nextID }

func (c *Cluster) table(schema, name string) *table {
	i := slices.IndexFunc(c.tables, func(t *table) bool { return t.schema == schema && t.name == name })
	if i < 0 {
		return nil
	}
	return c.tables[i]
}

func (t *table) column(name string) *column {
	i := slices.IndexFunc(t.columns, func(c *column) bool { return c.name == name })
	if i < 0 {
		return nil
	}
	return t.columns[i]
}

// clone copies what a transaction may alter.
func (c *Cluster) clone() ([]*table, []*view) {
	again := map[*table]*table{}
	var all []*table
	for _, t := range c.tables {
		d := *t
		d.columns = nil
		for _, col := range t.columns {
			k := *col
			d.columns = append(d.columns, &k)
		}
		d.sortkey = slices.Clone(t.sortkey)
		again[t] = &d
		all = append(all, &d)
	}
	for _, d := range all {
		var mine []*constraint
		for _, k := range d.constraints {
			x := *k
			if x.refers != nil {
				x.refers = again[x.refers]
			}
			mine = append(mine, &x)
		}
		d.constraints = mine
	}
	return all, slices.Clone(c.views)
}

// sliceOf is where a value of a distribution column lies; nulls lie together.
func (c *Cluster) sliceOf(value string) int {
	h := fnv.New64a()
	h.Write([]byte(value))
	x := h.Sum64() // whose last bits say little of short texts, so that they are mixed
	x = (x ^ x>>30) * 0xbf58476d1ce4e5b9
	x = (x ^ x>>27) * 0x94d049bb133111eb
	return int((x ^ x>>31) % uint64(c.slices))
}

// bySlice is how many rows of the table each slice holds: by the hash of the key,
// in turns, or all of them on the first slice of every node.
func (c *Cluster) bySlice(ctx context.Context, t *table) ([]int64, int64, error) {
	if t.counts != nil {
		return t.counts, t.rows, nil
	}
	counts, rows, err := c.count(ctx, t)
	if err == nil {
		t.counts, t.rows = counts, rows
	}
	return counts, rows, err
}

func (c *Cluster) count(ctx context.Context, t *table) ([]int64, int64, error) {
	counts := make([]int64, c.slices)
	var rows int64
	if err := c.db.QueryRowContext(ctx, "SELECT count(*) FROM "+t.stored()).Scan(&rows); err != nil {
		return nil, 0, err
	}
	switch t.style {
	case "key":
		found, err := c.db.QueryContext(ctx, fmt.Sprintf("SELECT CAST(%s AS TEXT), count(*) FROM %s GROUP BY 1", quote(t.distkey), t.stored()))
		if err != nil {
			return nil, 0, err
		}
		defer found.Close()
		for found.Next() {
			var value sql.NullString
			var n int64
			if err := found.Scan(&value, &n); err != nil {
				return nil, 0, err
			}
			counts[c.sliceOf(value.String)] += n
		}
		return counts, rows, found.Err()
	case "all":
		for i := 0; i < c.slices; i += c.slices / c.nodes {
			counts[i] = rows
		}
	default:
		for i := range counts {
			counts[i] = rows / int64(c.slices)
			if int64(i) < rows%int64(c.slices) {
				counts[i]++
			}
		}
	}
	return counts, rows, nil
}

// stored is the table's name where its rows are.
func (t *table) stored() string { return quote(t.schema) + "." + quote(t.name) }
