package bigquery

import (
	"net"
	"net/url"
	"regexp"
	"strings"

	"nexdal/internal/engine"
)

// service is where the interface is found
// (https://cloud.google.com/bigquery/docs/reference/rest).
const service = "https://bigquery.googleapis.com"

// An address is what a URL says: bigquery://project/dataset?location=EU&endpoint=http://127.0.0.1:9050
type address struct {
	project, dataset string // dataset "": all of the project
	location         string // where jobs run; "": where their tables are
	endpoint         string
}

var (
	projectName = regexp.MustCompile(`^[A-Za-z0-9.:_-]+$`)
	datasetName = regexp.MustCompile(`^[A-Za-z0-9_]+$`)
)

func parse(text string) (address, error) {
	wrong := func(hint string) (address, error) {
		return address{}, &engine.SourceError{Place: engine.Redact(text), Kind: engine.ErrWrongAddress, Hint: hint}
	}
	u, err := url.Parse(text)
	if err != nil || u.Scheme != "bigquery" || u.User != nil {
		return wrong("write bigquery://project/dataset; the account comes from the environment or the credentials file")
	}
	a := address{project: u.Host, dataset: strings.Trim(u.Path, "/"), endpoint: service}
	if !projectName.MatchString(a.project) || a.dataset != "" && !datasetName.MatchString(a.dataset) {
		return wrong("write bigquery://project/dataset")
	}
	for name, values := range u.Query() {
		switch name {
		case "location":
			a.location = values[0]
		case "endpoint":
			a.endpoint = strings.TrimSuffix(values[0], "/")
		default:
			return wrong("after the question mark stand location and endpoint, not " + name)
		}
	}
	e, err := url.Parse(a.endpoint)
	if err != nil || e.Host == "" || e.Scheme != "https" && !(e.Scheme == "http" && local(e.Hostname())) {
		return wrong("the endpoint has to begin with https://, or be on this machine: a token would be sent in the clear")
	}
	return a, nil
}

// local reports whether the host is this machine.
func local(host string) bool {
	ip := net.ParseIP(host)
	return host == "localhost" || ip != nil && ip.IsLoopback()
}

// String is the URL that leads there.
func (a address) String() string {
	u := url.URL{Scheme: "bigquery", Host: a.project}
	if a.dataset != "" {
		u.Path = "/" + a.dataset
	}
	q := url.Values{}
	if a.location != "" {
		q.Set("location", a.location)
	}
	if a.endpoint != service {
		q.Set("endpoint", a.endpoint)
	}
	u.RawQuery = q.Encode()
	return u.String()
}

// place names the source for people.
func (a address) place() string {
	if a.dataset == "" {
		return "project " + a.project
	}
	return a.dataset + " in project " + a.project
}
