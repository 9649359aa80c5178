// Package sqlserver is a simulated SQL Server: it speaks TDS, keeps what its tables promise,
// offers the documented catalog views by their documented columns, and refuses with the numbers
// of its errors. Its database compares texts letter by letter, names included.
package sqlserver

import (
	"fmt"
	"maps"
	"net"
	"slices"
	"strconv"
	"strings"
	"sync"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqlexpr"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/standin"
)

// Version is what the server answers when asked.
const Version = "Microsoft SQL Server 2022 (simulated by Nexdal) - 16.0.4105.2 (X64)"

const (
	productVersion = "16.0.4105.2"
	collation      = "Latin1_General_100_CS_AS"
)

// A Server has databases.
type Server struct {
	edition   Edition
	up        time.Time // since when it has counted what is read
	mutex     sync.Mutex
	databases map[string]*database
	locks     map[string]*client // that sessions hold, by their names
	server    *standin.Server
}

// An Edition is what a server is sold as.
type Edition struct {
	Name string
	Code int // SERVERPROPERTY('EngineEdition')
}

// The editions, which differ in what is done while others write.
var (
	Developer = Edition{"Developer Edition (64-bit)", 3}
	Standard  = Edition{"Standard Edition (64-bit)", 2}
)

// Start lets a server with one database listen on a free port of this machine alone.
func Start(name string, e Edition) (*Server, error) { return StartOn("127.0.0.1:0", name, e, 0) }

// StartOn is the like at a given address, of a server that says it has been up for so long.
func StartOn(address, name string, e Edition, up time.Duration) (*Server, error) {
	s := &Server{edition: e, up: time.Now().Add(-up), databases: map[string]*database{}, locks: map[string]*client{}}
	var err error
	for _, n := range []string{"master", name} {
		if err := s.create(n); err != nil {
			return nil, err
		}
	}
	s.server, err = standin.Serve(address, s.talk)
	return s, err
}

// URL leads to the database.
func (s *Server) URL(database string) string {
	return fmt.Sprintf("sqlserver://sa@%s?database=%s", s.server.Addr(), database)
}

// Close ends it; what it held is gone.
func (s *Server) Close() {
	s.server.Close()
	for _, d := range s.databases {
		d.Close()
	}
}

func (s *Server) talk(conn net.Conn) {
	c := &client{server: s, wire: newWire(conn)}
	defer c.leave()
	c.talk()
}

func (s *Server) create(name string) error {
	s.mutex.Lock()
	defer s.mutex.Unlock()
	if s.databases[name] != nil {
		return refuse(1801, "Database '%s' already exists. Choose a different database name.", name)
	}
	d := &database{server: s, ids: map[string]int{}, more: &more{functions: map[string]*partitionFunction{}, schemes: map[string]*partitionScheme{}, statistics: map[catalog.Ref]map[string][]string{},
		leaning: leaning{words: map[catalog.Ref]words{}, tracked: map[catalog.Ref]bool{}}}}
	m, err := standin.New(d, "dbo")
	if err != nil {
		return err
	}
	m.Keeps, m.NullsAlike, m.Step = true, true, func(t *catalog.Table) int64 { _, step := counts(t); return step }
	m.Catalog.Database = name
	d.Machine = m
	s.databases[name] = d
	return nil
}

func (s *Server) drop(name string) error {
	s.mutex.Lock()
	defer s.mutex.Unlock()
	d := s.databases[name]
	if d == nil {
		return refuse(3701, "Cannot drop the database '%s', because it does not exist or you do not have permission.", name)
	}
	delete(s.databases, name)
	d.Close()
	return nil
}

func (s *Server) database(name string) *database {
	s.mutex.Lock()
	defer s.mutex.Unlock()
	return s.databases[name]
}

// database is one, with what it has besides the catalog.
type database struct {
	*standin.Machine
	server *Server
	ids    map[string]int // of objects, which are given once
	more   *more
}

type more struct {
	functions  map[string]*partitionFunction
	schemes    map[string]*partitionScheme
	statistics map[catalog.Ref]map[string][]string // that a person made, and their columns
	grants     []grant
	leaning
}

type partitionFunction struct {
	kind   catalog.Type
	right  bool
	values []string // as SQLite reads them
}

type partitionScheme struct {
	function string
	next     bool // a filegroup for the next part is named
}

type grant struct {
	on                      catalog.Ref
	column, to, what, state string
}

// Wear is a copy of what there is besides the catalog.
func (d *database) Wear() any {
	m := *d.more
	m.functions, m.schemes, m.grants = maps.Clone(m.functions), maps.Clone(m.schemes), slices.Clone(m.grants)
	m.statistics = maps.Clone(m.statistics)
	m.words, m.tracked, m.policies = maps.Clone(m.words), maps.Clone(m.tracked), slices.Clone(m.policies)
	return &m
}

// Rewear puts it back.
func (d *database) Rewear(was any) { d.more = was.(*more) }

// Lexis is Transact-SQL's.
func (d *database) Lexis() sqllex.Dialect {
	return sqllex.Dialect{Brackets: true, DoubledBracket: true, National: true, NestedComments: true, Letters: "len"}
}

// kept is an expression as the server keeps it: in one pair of brackets, a number in one more.
// Names and the like it would write anew as well.
func (d *database) kept(expression string) string {
	plain := sqlexpr.Reader{Dialect: d.Lexis()}.Plain(expression)
	if _, err := strconv.ParseFloat(plain, 64); err == nil {
		plain = "(" + plain + ")"
	}
	return "(" + plain + ")"
}

// id is the number of an object, which stays what it is.
func (d *database) id(kind string, parts ...string) int {
	key := kind + "\x00" + strings.Join(parts, "\x00")
	if d.ids[key] == 0 {
		d.ids[key] = 901578250 + 16*len(d.ids)
	}
	return d.ids[key]
}

// counts are where the numbers of a table begin, and by what they grow.
func counts(t *catalog.Table) (seed, step int64) {
	seed, step = 1, 1
	for _, c := range t.Columns {
		for _, o := range c.Options {
			fmt.Sscanf(o, "identity(%d,%d)", &seed, &step)
		}
	}
	return seed, step
}
