// Package mongodb is a simulated MongoDB server: it speaks OP_MSG to the real driver, keeps documents,
// unique indexes and validators in memory, draws samples, groups and joins, counts how often its indexes
// were asked for, and refuses what it does not know. It has no users, transactions or replicas.
package mongodb

import (
	"fmt"
	"net"
	"slices"
	"sync"
	"time"

	"go.mongodb.org/mongo-driver/v2/bson"

	"nexdal/internal/engine/mongodb/filter"
	"nexdal/internal/standin"
)

// Version is what the server says of itself.
const Version = "7.0.12"

// A Server is one simulated server.
type Server struct {
	// Turn may refuse a command, with the number and the words of an error; 0: it does not. It may be
	// nil.
	Turn func(command string, of bson.D) (code int32, says string)
	// Shards has collections spread over so many machines, as sharding of the database config says.
	Shards int

	mutex     sync.Mutex
	databases map[string]map[string]*collection
	cursors   map[int64]*cursor
	last      int64
	server    *standin.Server
}

type collection struct {
	kind    string // "collection", "view", "timeseries"
	options bson.D
	indexes []bson.D
	used    map[string]int64
	since   map[string]time.Time // from when on that is counted
	docs    []bson.D
	held    map[string]map[string]bool // entries of unique indexes, by name
}

type cursor struct {
	of   string
	docs []bson.D
}

// Start makes a server and lets it listen on a free port of this machine alone.
func Start() (*Server, error) { return StartOn("127.0.0.1:0") }

// StartOn is the like at a given address.
func StartOn(address string) (*Server, error) {
	s := &Server{databases: map[string]map[string]*collection{}, cursors: map[int64]*cursor{}}
	var err error
	s.server, err = standin.Serve(address, func(conn net.Conn) { s.talk(conn) })
	return s, err
}

// URL leads to a database of it.
func (s *Server) URL(database string) string {
	return fmt.Sprintf("mongodb://%s/%s?directConnection=true", s.server.Addr(), database)
}

// Close ends it; what it held is gone.
func (s *Server) Close() { s.server.Close() }

// Run carries out a command on a database, as a client would send it.
func (s *Server) Run(database string, command bson.D) (bson.D, error) {
	sent, err := bson.Marshal(append(slices.Clone(command), bson.E{Key: "$db", Value: database}))
	if err != nil {
		return nil, err
	}
	var received bson.D
	if err := bson.Unmarshal(sent, &received); err != nil {
		return nil, err
	}
	answer := s.carryOut(received)
	if number(filter.Get(answer, "ok")) != 1 {
		return nil, fmt.Errorf("%v: %v", filter.Get(answer, "codeName"), filter.Get(answer, "errmsg"))
	}
	if failed, ok := filter.Get(answer, "writeErrors").(bson.A); ok && len(failed) > 0 {
		return nil, fmt.Errorf("%v", filter.Get(document(failed[0]), "errmsg"))
	}
	return answer, nil
}

// Documents are those of a collection, in their order.
func (s *Server) Documents(database, name string) []bson.D {
	s.mutex.Lock()
	defer s.mutex.Unlock()
	if c := s.databases[database][name]; c != nil {
		return slices.Clone(c.docs)
	}
	return nil
}

// Collections names those of a database.
func (s *Server) Collections(database string) []string {
	s.mutex.Lock()
	defer s.mutex.Unlock()
	return sortedNames(s.databases[database])
}
