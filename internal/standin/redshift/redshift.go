// Package redshift is a simulated Redshift cluster: it speaks PostgreSQL's wire protocol,
// spreads rows over slices by key, evenly or as copies, keeps them in an order with a tail that
// is not, counts rows that are gone, and offers the documented system views by their documented
// columns.
package redshift

import (
	"context"
	"fmt"
	"hash/fnv"
	"maps"
	"net"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/standin"
)

// Version is what the cluster answers when asked.
const Version = "PostgreSQL 8.0.2 on simulated-nexdal, compiled by nobody, Redshift 1.0.77467 (simulated by Nexdal)"

// A Cluster is one simulated cluster of one database.
type Cluster struct {
	*standin.Machine
	nodes, slices int
	wear          map[catalog.Ref]wear
	counted       map[catalog.Ref]count
	ids           map[catalog.Ref]int
	server        *standin.Server
}

// wear are rows that came since the last sort, that are gone and not reclaimed, and that changed
// since the last ANALYZE.
type wear struct{ unsorted, dead, changed int64 }

type count struct {
	slices []int64
	rows   int64
}

// Start makes a cluster of so many nodes and slices on each, and lets it listen on a free port
// of this machine alone.
func Start(nodes, slicesPerNode int) (*Cluster, error) {
	return StartOn("127.0.0.1:0", nodes, slicesPerNode)
}

// StartOn is the like at a given address.
func StartOn(address string, nodes, slicesPerNode int) (*Cluster, error) {
	if nodes < 1 || slicesPerNode < 1 {
		return nil, fmt.Errorf("a cluster has a node and a slice at least")
	}
	c := &Cluster{nodes: nodes, slices: nodes * slicesPerNode, wear: map[catalog.Ref]wear{}, counted: map[catalog.Ref]count{}, ids: map[catalog.Ref]int{}}
	var err error
	if c.Machine, err = standin.New(c, "public"); err != nil {
		return nil, err
	}
	c.Catalog.Database = "dev"
	c.server, err = standin.Serve(address, func(conn net.Conn) { newClient(c, conn).talk() })
	return c, err
}

// URL leads to it.
func (c *Cluster) URL() string {
	return fmt.Sprintf("redshift://demo@%s/%s?sslmode=disable", c.server.Addr(), c.Catalog.Database)
}

// Close ends it; what it held is gone.
func (c *Cluster) Close() {
	c.server.Close()
	c.Machine.Close()
}

// Wear is a copy of what the tables have besides their structure.
func (c *Cluster) Wear() any { return maps.Clone(c.wear) }

// Rewear puts it back.
func (c *Cluster) Rewear(was any) {
	c.wear = was.(map[catalog.Ref]wear)
	clear(c.counted)
}

// Lexis is PostgreSQL's.
func (c *Cluster) Lexis() sqllex.Dialect {
	return sqllex.Dialect{DollarStrings: true, NestedComments: true, Letters: "len"}
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

// bySlice is how many rows of the table each slice holds: by the hash of the key, in turns, or
// all of them on the first slice of every node.
func (c *Cluster) bySlice(ctx context.Context, t *catalog.Table) (count, error) {
	if n, ok := c.counted[t.Ref()]; ok {
		return n, nil
	}
	n := count{slices: make([]int64, c.slices)}
	var err error
	if n.rows, err = c.Count(ctx, "SELECT count(*) FROM "+c.Stored(t.Ref())); err != nil {
		return n, err
	}
	switch t.Spread.Style {
	case "key":
		err = c.Each(ctx, fmt.Sprintf("SELECT CAST(%s AS TEXT), count(*) FROM %s GROUP BY 1", standin.Quote(t.Spread.Column), c.Stored(t.Ref())), func(row []any) {
			value, _ := row[0].(string)
			n.slices[c.sliceOf(value)] += row[1].(int64)
		})
	case "all":
		for i := 0; i < c.slices; i += c.slices / c.nodes {
			n.slices[i] = n.rows
		}
	default:
		for i := range n.slices {
			n.slices[i] = n.rows / int64(c.slices)
			if int64(i) < n.rows%int64(c.slices) {
				n.slices[i]++
			}
		}
	}
	if err == nil {
		c.counted[t.Ref()] = n
	}
	return n, err
}
