package bigquery

import (
	"bytes"
	"context"
	"crypto/rand"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"time"

	"golang.org/x/oauth2"
)

// client speaks the REST interface (https://cloud.google.com/bigquery/docs/reference/rest).
type client struct {
	http   *http.Client
	tokens oauth2.TokenSource // nil: none is asked for
	from   string             // where tokens come from, for messages
	at     address
}

// A fault is what the service says against a request.
type fault struct {
	code    int
	reason  string // https://cloud.google.com/bigquery/docs/error-messages
	message string
}

func (f *fault) Error() string { return f.message }

// errGone says that the service did not answer.
var errGone = errors.New("the service does not answer")

// Waits between tries of a request that was turned away for the time being
// (https://cloud.google.com/bigquery/docs/error-messages: retry with exponential back-off).
var pauses = []time.Duration{250 * time.Millisecond, 500 * time.Millisecond, time.Second, 2 * time.Second, 4 * time.Second}

// forNow reports whether the same request may be let in later. A quota of a day may not.
func (f *fault) forNow() bool {
	switch f.reason {
	case "rateLimitExceeded", "jobRateLimitExceeded", "backendError", "jobBackendError", "internalError", "jobInternalError", "tableUnavailable":
		return true
	case "quotaExceeded":
		return false
	}
	return f.code == http.StatusTooManyRequests || f.code >= 500
}

// call sends a request, again where it is turned away for the time being, and reads the answer
// into out. Requests that alter something carry an identifier by which the service knows them.
func (c *client) call(ctx context.Context, method, path string, query url.Values, in, out any) error {
	var body []byte
	if in != nil {
		var err error
		if body, err = json.Marshal(in); err != nil {
			return err
		}
	}
	address := c.at.endpoint + "/bigquery/v2/projects/" + url.PathEscape(c.at.project) + path
	if len(query) > 0 {
		address += "?" + query.Encode()
	}
	for try := 0; ; try++ {
		err := c.once(ctx, method, address, body, out)
		var f *fault
		again := errors.As(err, &f) && f.forNow() || errors.Is(err, errGone) && try < 2
		if err == nil || !again || try >= len(pauses) || ctx.Err() != nil {
			return err
		}
		select {
		case <-time.After(pauses[try]):
		case <-ctx.Done():
			return ctx.Err()
		}
	}
}

func (c *client) once(ctx context.Context, method, address string, body []byte, out any) error {
	r, err := http.NewRequestWithContext(ctx, method, address, bytes.NewReader(body))
	if err != nil {
		return err
	}
	r.Header.Set("Content-Type", "application/json")
	r.Header.Set("User-Agent", "nexdal")
	if c.tokens != nil {
		token, err := c.tokens.Token()
		if err != nil {
			return &fault{http.StatusUnauthorized, "authError", "no token is had by " + c.from}
		}
		token.SetAuthHeader(r)
	}
	answer, err := c.http.Do(r)
	if err != nil {
		return unanswered(ctx, err)
	}
	defer answer.Body.Close()
	text, err := io.ReadAll(answer.Body)
	if err != nil {
		return unanswered(ctx, err)
	}
	if answer.StatusCode >= 300 {
		return saidIn(answer.StatusCode, text)
	}
	if out == nil {
		return nil
	}
	if err := json.Unmarshal(text, out); err != nil {
		return fmt.Errorf("the answer of the service is not understood: %w", err)
	}
	return nil
}

// unanswered leaves the address out, which an error of the package net/http names.
func unanswered(ctx context.Context, err error) error {
	if ctx.Err() != nil {
		return ctx.Err()
	}
	var op *net.OpError
	var dns *net.DNSError
	switch {
	case errors.As(err, &dns):
		return fmt.Errorf("%w: no such host", errGone)
	case errors.As(err, &op):
		return fmt.Errorf("%w: %v", errGone, op.Err)
	}
	return errGone
}

// said is an error as the service writes it.
type said struct {
	Reason  string `json:"reason"`
	Message string `json:"message"`
}

func saidIn(code int, text []byte) error {
	var wrapped struct {
		Error struct {
			Message string
			Errors  []said
		}
	}
	f := &fault{code: code, message: http.StatusText(code)}
	if json.Unmarshal(text, &wrapped) == nil && wrapped.Error.Message != "" {
		f.message = wrapped.Error.Message
		if len(wrapped.Error.Errors) > 0 {
			f.reason = wrapped.Error.Errors[0].Reason
		}
	}
	return f
}

// A request to query, and what of its answer is of use
// (https://cloud.google.com/bigquery/docs/reference/rest/v2/jobs/query).
type request struct {
	Query         string            `json:"query"`
	Legacy        bool              `json:"useLegacySql"`
	Location      string            `json:"location,omitempty"`
	MaxResults    int               `json:"maxResults,omitempty"`
	TimeoutMs     int64             `json:"timeoutMs"`
	MaximumBytes  string            `json:"maximumBytesBilled,omitempty"`
	RequestID     string            `json:"requestId"`
	FormatOptions map[string]bool   `json:"formatOptions"`
	Labels        map[string]string `json:"labels,omitempty"`
}

type column struct {
	Name   string
	Type   string
	Mode   string
	Fields []column
}

type answer struct {
	JobReference struct{ JobID, Location string }
	JobComplete  bool
	Schema       struct{ Fields []column }
	Rows         []struct{ F []struct{ V any } }
	PageToken    string
	Errors       []said
}

const (
	inPage  = 10_000           // rows
	waitFor = 10 * time.Second // of one request for a job that goes on
)

// query carries out a statement, and hands on the rows, at most so many. Most is how many bytes may
// be billed; 0: any number.
func (c *client) query(ctx context.Context, sql string, most int64, max int, take func(columns []column, row []any)) ([]column, error) {
	in := request{Query: sql, Location: c.at.location, MaxResults: min(inPage, max), TimeoutMs: waitFor.Milliseconds(), RequestID: rand.Text(), FormatOptions: map[string]bool{"useInt64Timestamp": true}}
	if most > 0 {
		in.MaximumBytes = strconv.FormatInt(most, 10)
	}
	var a answer
	if err := c.call(ctx, http.MethodPost, "/queries", nil, in, &a); err != nil {
		return nil, err
	}
	job, location := a.JobReference.JobID, a.JobReference.Location
	taken := 0
	for {
		if a.JobComplete {
			for _, row := range a.Rows {
				if taken++; taken > max {
					return a.Schema.Fields, nil
				}
				values := make([]any, len(row.F))
				for i, v := range row.F {
					values[i] = v.V
				}
				take(a.Schema.Fields, values)
			}
			if a.PageToken == "" || taken >= max {
				return a.Schema.Fields, nil
			}
		}
		q := url.Values{"location": {location}, "maxResults": {strconv.Itoa(min(inPage, max))}, "timeoutMs": {strconv.FormatInt(waitFor.Milliseconds(), 10)}, "formatOptions.useInt64Timestamp": {"true"}}
		if a.PageToken != "" {
			q.Set("pageToken", a.PageToken)
		}
		a = answer{}
		if err := c.call(ctx, http.MethodGet, "/queries/"+url.PathEscape(job), q, nil, &a); err != nil {
			if ctx.Err() != nil {
				c.cancel(ctx, job, location)
			}
			return nil, err
		}
	}
}

// cancel ends a job whose answer nobody waits for
// (https://cloud.google.com/bigquery/docs/reference/rest/v2/jobs/cancel).
func (c *client) cancel(ctx context.Context, job, location string) {
	ctx, end := context.WithTimeout(context.WithoutCancel(ctx), 2*time.Second)
	defer end()
	_ = c.once(ctx, http.MethodPost, c.at.endpoint+"/bigquery/v2/projects/"+url.PathEscape(c.at.project)+"/jobs/"+url.PathEscape(job)+"/cancel?location="+url.QueryEscape(location), nil, nil)
}

// The least that a query is billed for, in all and for each table that it names
// (https://cloud.google.com/bigquery/pricing#on_demand_pricing).
const leastBilled = 10 << 20

// estimate is what the service says that a statement would be billed for, in bytes: it carries
// nothing out (https://cloud.google.com/bigquery/docs/running-queries#dry-run).
func (c *client) estimate(ctx context.Context, sql string) (int64, error) {
	type query struct {
		Query  string `json:"query"`
		Legacy bool   `json:"useLegacySql"`
	}
	type configuration struct {
		DryRun bool  `json:"dryRun"`
		Query  query `json:"query"`
	}
	type reference struct {
		Location string `json:"location,omitempty"`
	}
	in := struct {
		Configuration configuration `json:"configuration"`
		JobReference  reference     `json:"jobReference"`
	}{configuration{true, query{Query: sql}}, reference{c.at.location}}
	var out struct {
		Statistics struct {
			TotalBytesProcessed string
			Query               struct{ ReferencedTables []struct{ TableID string } }
		}
	}
	if err := c.call(ctx, http.MethodPost, "/jobs", nil, in, &out); err != nil {
		return 0, err
	}
	bytes, _ := strconv.ParseInt(out.Statistics.TotalBytesProcessed, 10, 64)
	tables := int64(len(out.Statistics.Query.ReferencedTables))
	if bytes == 0 && tables == 0 {
		return 0, nil
	}
	const mebi = 1 << 20 // what is billed is rounded up to
	return max((bytes+mebi-1)/mebi*mebi, leastBilled*max(1, tables)), nil
}

// A dataset is what the service keeps of one besides its tables
// (https://cloud.google.com/bigquery/docs/reference/rest/v2/datasets#Dataset).
type dataset struct {
	Location    string
	Description string
	Labels      map[string]string
	Collation   string `json:"defaultCollation"`
	// Simulated is the stand-in's own word.
	Simulated bool
}

func (c *client) dataset(ctx context.Context, name string) (d dataset, err error) {
	return d, c.call(ctx, http.MethodGet, "/datasets/"+url.PathEscape(name), nil, nil, &d)
}

// datasets lists those of the project, in order. The request costs nothing.
func (c *client) datasets(ctx context.Context) ([]string, error) {
	var names []string
	q := url.Values{"maxResults": {"1000"}}
	for {
		var page struct {
			Datasets []struct {
				DatasetReference struct{ DatasetID string }
			}
			NextPageToken string
		}
		if err := c.call(ctx, http.MethodGet, "/datasets", q, nil, &page); err != nil {
			return nil, err
		}
		for _, d := range page.Datasets {
			names = append(names, d.DatasetReference.DatasetID)
		}
		if page.NextPageToken == "" {
			slices.Sort(names)
			return names, nil
		}
		q.Set("pageToken", page.NextPageToken)
	}
}

// policies lists the row access policies of a table
// (https://cloud.google.com/bigquery/docs/reference/rest/v2/rowAccessPolicies/list).
func (c *client) policies(ctx context.Context, dataset, table string) ([]string, error) {
	var page struct {
		RowAccessPolicies []struct {
			RowAccessPolicyReference struct{ PolicyID string }
		}
	}
	err := c.call(ctx, http.MethodGet, "/datasets/"+url.PathEscape(dataset)+"/tables/"+url.PathEscape(table)+"/rowAccessPolicies", nil, nil, &page)
	var names []string
	for _, p := range page.RowAccessPolicies {
		names = append(names, p.RowAccessPolicyReference.PolicyID)
	}
	return names, err
}

// textOf is a value as the interface hands it on
// (https://cloud.google.com/bigquery/docs/reference/rest/v2/jobs/getQueryResults): every plain one as
// text; moments as microseconds.
func textOf(c column, v any) *string {
	s, ok := v.(string)
	switch {
	case v == nil:
		return nil
	case !ok: // lists and STRUCTs
		data, err := json.Marshal(v)
		if err != nil {
			return nil
		}
		s = string(data)
	case c.Type == "TIMESTAMP":
		if micros, err := strconv.ParseInt(s, 10, 64); err == nil {
			s = time.UnixMicro(micros).UTC().Format("2006-01-02 15:04:05.999999+00")
		}
	case c.Type == "DATETIME":
		s = strings.Replace(s, "T", " ", 1)
	}
	return &s
}
