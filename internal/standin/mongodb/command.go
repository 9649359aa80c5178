package mongodb

import (
	"errors"
	"fmt"
	"maps"
	"slices"
	"strings"
	"time"

	"go.mongodb.org/mongo-driver/v2/bson"

	"nexdal/internal/engine/mongodb/filter"
)

func document(v any) bson.D { d, _ := v.(bson.D); return d }
func list(v any) bson.A     { a, _ := v.(bson.A); return a }
func text(v any) string     { s, _ := v.(string); return s }

func number(v any) int64 {
	switch v := v.(type) {
	case int32:
		return int64(v)
	case int64:
		return v
	case float64:
		return int64(v)
	case bool:
		if v {
			return 1
		}
	}
	return 0
}

func sortedNames(of map[string]*collection) []string { return slices.Sorted(maps.Keys(of)) }

var done = bson.D{{Key: "ok", Value: 1.0}}

// A fault is an error with its number and name
// (https://www.mongodb.com/docs/manual/reference/error-codes/).
type fault struct {
	code       int32
	name, says string
}

func (f *fault) Error() string { return f.says }

func refuse(code int32, name, format string, args ...any) error {
	return &fault{code, name, fmt.Sprintf(format, args...)}
}

func answerTo(err error) bson.D {
	var f *fault
	var unknown *filter.UnknownError
	switch {
	case errors.As(err, &f):
	case errors.As(err, &unknown):
		f = &fault{2, "BadValue", "the simulated server: " + err.Error()}
	default:
		f = &fault{2, "BadValue", err.Error()}
	}
	return bson.D{{Key: "ok", Value: 0.0}, {Key: "errmsg", Value: f.says}, {Key: "code", Value: f.code}, {Key: "codeName", Value: f.name}}
}

// carryOut answers a command.
func (s *Server) carryOut(command bson.D) bson.D {
	s.mutex.Lock()
	defer s.mutex.Unlock()
	if s.Turn != nil {
		if code, says := s.Turn(command[0].Key, command); code != 0 {
			return answerTo(&fault{code, "Refused", says})
		}
	}
	answer, err := s.command(command)
	if err != nil {
		return answerTo(err)
	}
	return answer
}

// changes are commands that name a collection which has to be there.
var changes = []string{"listIndexes", "collMod", "dropIndexes", "drop"}

func (s *Server) command(command bson.D) (bson.D, error) {
	verb, database, name := command[0].Key, text(filter.Get(command, "$db")), text(command[0].Value)
	c := s.databases[database][name]
	of := database + "." + name
	if c == nil && slices.Contains(changes, verb) {
		return nil, refuse(26, "NamespaceNotFound", "ns does not exist: %s", of)
	}
	switch verb {
	case "hello", "isMaster", "ismaster":
		return bson.D{{Key: "ismaster", Value: true}, {Key: "isWritablePrimary", Value: true}, {Key: "helloOk", Value: true}, {Key: "maxBsonObjectSize", Value: int32(16 << 20)}, {Key: "maxMessageSizeBytes", Value: int32(largest)}, {Key: "maxWriteBatchSize", Value: int32(100_000)},
			{Key: "logicalSessionTimeoutMinutes", Value: int32(30)}, {Key: "minWireVersion", Value: int32(0)}, {Key: "maxWireVersion", Value: int32(21)}, {Key: "readOnly", Value: false}, {Key: "ok", Value: 1.0}}, nil
	case "ping", "endSessions", "killCursors":
		return done, nil
	case "buildInfo", "buildinfo":
		return bson.D{{Key: "version", Value: Version}, {Key: "modules", Value: bson.A{"simulated"}}, {Key: "ok", Value: 1.0}}, nil
	case "listCollections":
		return s.listCollections(database, command)
	case "create":
		return s.create(database, name, c, command)
	case "insert":
		return s.insert(database, name, c, command)
	case "dropDatabase":
		delete(s.databases, database)
		return done, nil
	case "getMore":
		return s.more(command)
	case "listIndexes":
		return s.opened(of, c.indexes, 0), nil
	case "createIndexes":
		return s.createIndexes(database, name, c, command)
	case "dropIndexes":
		return c.dropIndexes(command)
	case "collMod":
		return c.modify(command)
	case "drop":
		delete(s.databases[database], name)
		return done, nil
	case "find":
		return s.find(database, of, c, command)
	case "aggregate":
		docs, err := s.pipeline(database, name, list(filter.Get(command, "pipeline")))
		if err != nil {
			return nil, err
		}
		return s.opened(of, docs, number(filter.Get(document(filter.Get(command, "cursor")), "batchSize"))), nil
	}
	return nil, refuse(59, "CommandNotFound", "no such command: '%s' (the simulated server knows few)", verb)
}

func (s *Server) make(database, name string) *collection {
	if s.databases[database] == nil {
		s.databases[database] = map[string]*collection{}
	}
	c := &collection{kind: "collection", options: bson.D{}, used: map[string]int64{}, since: map[string]time.Time{"_id_": time.Now()}, indexes: []bson.D{{{Key: "v", Value: int32(2)}, {Key: "key", Value: bson.D{{Key: "_id", Value: int32(1)}}}, {Key: "name", Value: "_id_"}}}}
	s.databases[database][name] = c
	return c
}

func (s *Server) listCollections(database string, command bson.D) (bson.D, error) {
	var all []bson.D
	for _, name := range sortedNames(s.databases[database]) {
		c := s.databases[database][name]
		d := bson.D{{Key: "name", Value: name}, {Key: "type", Value: c.kind}, {Key: "options", Value: c.options}, {Key: "info", Value: bson.D{{Key: "readOnly", Value: c.kind == "view"}}}}
		is, err := filter.Holds(d, document(filter.Get(command, "filter")))
		if err != nil {
			return nil, err
		}
		if is {
			all = append(all, d)
		}
	}
	return s.opened(database+".$cmd.listCollections", all, 0), nil
}

// kept are what create and collMod keep of their options.
var kept = []string{"viewOn", "pipeline", "validator", "validationLevel", "validationAction", "capped", "size", "max", "collation", "timeseries", "expireAfterSeconds"}

func (s *Server) create(database, name string, c *collection, command bson.D) (bson.D, error) {
	if c != nil {
		return nil, refuse(48, "NamespaceExists", "Collection %s.%s already exists.", database, name)
	}
	c = s.make(database, name)
	for _, e := range command[1:] {
		switch {
		case strings.HasPrefix(e.Key, "$"), e.Key == "lsid":
		case !slices.Contains(kept, e.Key):
			delete(s.databases[database], name)
			return nil, refuse(40415, "Location40415", "BSON field 'create.%s' is an unknown field.", e.Key)
		default:
			c.options = append(c.options, e)
		}
	}
	switch {
	case filter.Get(c.options, "viewOn") != nil:
		c.kind, c.indexes = "view", nil
	case filter.Get(c.options, "timeseries") != nil:
		c.kind = "timeseries"
	}
	return done, nil
}

// opened begins an answer of many documents.
func (s *Server) opened(of string, docs []bson.D, batch int64) bson.D {
	if batch == 0 {
		batch = 101
	}
	first, id := docs, int64(0)
	if int64(len(docs)) > batch {
		first = docs[:batch]
		s.last++
		id = s.last
		s.cursors[id] = &cursor{of, docs[batch:]}
	}
	return bson.D{{Key: "cursor", Value: bson.D{{Key: "firstBatch", Value: array(first)}, {Key: "id", Value: id}, {Key: "ns", Value: of}}}, {Key: "ok", Value: 1.0}}
}

func array(docs []bson.D) bson.A {
	a := make(bson.A, len(docs))
	for i, d := range docs {
		a[i] = d
	}
	return a
}

// more goes on with one.
func (s *Server) more(command bson.D) (bson.D, error) {
	id := number(command[0].Value)
	c := s.cursors[id]
	if c == nil {
		return nil, refuse(43, "CursorNotFound", "cursor id %d not found", id)
	}
	batch := number(filter.Get(command, "batchSize"))
	if batch == 0 {
		batch = 1000
	}
	n := min(batch, int64(len(c.docs)))
	next := c.docs[:n]
	if c.docs = c.docs[n:]; len(c.docs) == 0 {
		delete(s.cursors, id)
		id = 0
	}
	return bson.D{{Key: "cursor", Value: bson.D{{Key: "nextBatch", Value: array(next)}, {Key: "id", Value: id}, {Key: "ns", Value: c.of}}}, {Key: "ok", Value: 1.0}}, nil
}

func (s *Server) find(database, of string, c *collection, command bson.D) (bson.D, error) {
	var docs []bson.D
	switch {
	case database == "config" && of == "config.collections":
		docs = s.spread()
	case c != nil && c.kind == "view":
		var err error
		if docs, err = s.pipeline(database, strings.TrimPrefix(of, database+"."), nil); err != nil {
			return nil, err
		}
	case c != nil:
		docs = c.docs
	}
	condition := document(filter.Get(command, "filter"))
	if c != nil {
		c.searched(condition)
	}
	docs, err := matching(docs, condition)
	if err != nil {
		return nil, err
	}
	if n := number(filter.Get(command, "limit")); n > 0 {
		docs = docs[:min(n, int64(len(docs)))]
	}
	if p := document(filter.Get(command, "projection")); len(p) > 0 {
		for i, d := range docs {
			if docs[i], err = projected(d, p); err != nil {
				return nil, err
			}
		}
	}
	return s.opened(of, docs, number(filter.Get(command, "batchSize"))), nil
}

func matching(docs []bson.D, condition bson.D) ([]bson.D, error) {
	all := []bson.D{}
	for _, d := range docs {
		is, err := filter.Holds(d, condition)
		if err != nil {
			return nil, err
		}
		if is {
			all = append(all, d)
		}
	}
	return all, nil
}

// searched counts the use of the index that begins with a field that is searched by.
func (c *collection) searched(condition bson.D) {
	for _, e := range condition {
		for _, x := range c.indexes {
			if key := document(filter.Get(x, "key")); len(key) > 0 && key[0].Key == e.Key {
				c.used[text(filter.Get(x, "name"))]++
				return
			}
		}
	}
}

// spread is what a cluster keeps of its sharded collections: those with the option shardKey, which the
// stand-in keeps apart.
func (s *Server) spread() []bson.D {
	var all []bson.D
	for database, of := range s.databases {
		for _, name := range sortedNames(of) {
			if key := document(filter.Get(of[name].options, "shardKey")); key != nil {
				all = append(all, bson.D{{Key: "_id", Value: database + "." + name}, {Key: "key", Value: key}, {Key: "unique", Value: false}})
			}
		}
	}
	return all
}

// Shard spreads a collection over the machines by a key.
func (s *Server) Shard(database, name string, key bson.D) {
	s.mutex.Lock()
	defer s.mutex.Unlock()
	if c := s.databases[database][name]; c != nil {
		c.options = append(c.options, bson.E{Key: "shardKey", Value: key})
	}
}
