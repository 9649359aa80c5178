// Package bigquery is a simulated project of BigQuery: it answers the REST interface with jobs, pages
// and dry runs, keeps datasets with nested columns, partitions, clustering and keys that nothing
// enforces, and offers the documented INFORMATION_SCHEMA views by their documented columns. What a
// question would be billed for it reckons by the columns that the question names.
package bigquery

import (
	"context"
	"fmt"
	"maps"
	"net"
	"net/http"
	"sync"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/standin"
)

// A Project is one simulated project.
type Project struct {
	*standin.Machine
	// Token is what requests have to carry; "": none.
	Token string
	// Page is how many rows an answer has at most; 0: as many as are asked for.
	Page int
	// Slow has jobs take longer than the first request waits.
	Slow bool
	// Turn turns a request away, with the code and the reason that it gives; 0: it does not. It may be
	// nil.
	Turn func(r *http.Request) (code int, reason string)

	name     string
	location string
	server   *http.Server
	at       net.Addr
	mutex    sync.Mutex // over what follows; a project carries out one statement at a time
	jobs     map[string]*job
	known    map[string]*job // by the identifier of the request
	policies map[catalog.Ref][]string
	billed   int64
}

// Start makes a project and lets it listen on a free port of this machine alone.
func Start(name string) (*Project, error) { return StartOn("127.0.0.1:0", name) }

// StartOn is the like at a given address.
func StartOn(address, name string) (*Project, error) {
	p := &Project{name: name, location: "EU", jobs: map[string]*job{}, known: map[string]*job{}, policies: map[catalog.Ref][]string{}}
	var err error
	if p.Machine, err = standin.New(p); err != nil {
		return nil, err
	}
	p.Catalog.Database = name
	listener, err := net.Listen("tcp", address)
	if err != nil {
		return nil, err
	}
	p.at, p.server = listener.Addr(), &http.Server{Handler: p}
	go p.server.Serve(listener)
	return p, nil
}

// URL leads to a dataset of it, or to all ("").
func (p *Project) URL(dataset string) string {
	if dataset != "" {
		dataset = "/" + dataset
	}
	return fmt.Sprintf("bigquery://%s%s?endpoint=http://%s", p.name, dataset, p.at)
}

// Billed is how many bytes were billed so far.
func (p *Project) Billed() int64 {
	p.mutex.Lock()
	defer p.mutex.Unlock()
	return p.billed
}

// Close ends it; what it held is gone.
func (p *Project) Close() {
	p.server.Close()
	p.mutex.Lock()
	defer p.mutex.Unlock()
	p.Machine.Close()
}

// Run carries out the statements of a script one after another, as bq does, up to the first that
// fails.
func (p *Project) Run(script string) error {
	p.mutex.Lock()
	defer p.mutex.Unlock()
	_, err := p.script(context.Background(), script)
	return err
}

// Rows answers a query, values as the service hands them on.
func (p *Project) Rows(query string) ([][]any, error) {
	p.mutex.Lock()
	defer p.mutex.Unlock()
	j, err := p.script(context.Background(), query)
	if err != nil {
		return nil, err
	}
	return j.rows, nil
}

// Wear is what is kept besides the structure.
func (p *Project) Wear() any { return maps.Clone(p.policies) }

// Rewear puts it back.
func (p *Project) Rewear(was any) { p.policies = was.(map[catalog.Ref][]string) }

// Lexis cuts GoogleSQL.
func (p *Project) Lexis() sqllex.Dialect {
	return sqllex.Dialect{Backquotes: true, TextQuotes: true, HashComments: true, Letters: "length"}
}
