package mongodb

import (
	"context"
	"time"

	"go.mongodb.org/mongo-driver/v2/bson"
)

// A store is where documents are: a database, or files.
type store interface {
	// about says which server it is, and the database's name.
	about(ctx context.Context) (version, database string, err error)
	// collections lists them in order; views are among them.
	collections(ctx context.Context) ([]collection, error)
	// documents hands some of a collection's documents, drawn at random, to take; 0: all of them, in
	// their order. A document is taken's for the time of the call.
	documents(ctx context.Context, name string, some int64, take func(bson.Raw) error) error
	// indexes lists those of a collection, with how often each was used, where that is known.
	indexes(ctx context.Context, name string) ([]index, error)
	// figures are a collection's; nil: not known.
	figures(ctx context.Context, name string) (*figures, error)
	// sharding says how the collections are spread over a cluster; nil: they are not, or are by name
	// not among them.
	sharding(ctx context.Context) (map[string]*sharding, error)
	// breaks counts the documents that a condition, a filter, does not hold for, and shows a few of
	// them by their keys.
	breaks(ctx context.Context, name string, filter bson.D) (n int64, samples []string, err error)
	close() error
}

type collection struct {
	name    string
	view    bool
	kind    string // "collection", "timeseries"
	options bson.Raw
}

// An index as listIndexes tells of it
// (https://www.mongodb.com/docs/manual/reference/command/listIndexes/).
type index struct {
	spec bson.Raw
	used *int64
	// since is from when on that is counted.
	since time.Time
}

type figures struct {
	documents, bytes, indexBytes *int64
	exact                        bool
	indexes                      map[string]int64 // bytes
	shards                       []int64          // documents of each
}

type sharding struct {
	key    bson.D
	unique bool
}
