package bigquery

import (
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"time"

	"nexdal/internal/catalog"
)

// A job is what came of a query.
type job struct {
	id     string
	fields []field
	rows   [][]any
	bytes  int64
	polls  int
	kind   string // of statement
	tables []catalog.Ref
}

type field struct {
	Name string `json:"name"`
	Type string `json:"type"`
	Mode string `json:"mode"`
}

type object = map[string]any

// respond writes an answer.
func respond(w http.ResponseWriter, v any) {
	w.Header().Set("Content-Type", "application/json; charset=UTF-8")
	_ = json.NewEncoder(w).Encode(v) // who asked may be gone
}

// turnAway writes an error as the service does
// (https://cloud.google.com/bigquery/docs/error-messages).
func turnAway(w http.ResponseWriter, code int, reason, message string) {
	w.Header().Set("Content-Type", "application/json; charset=UTF-8")
	w.WriteHeader(code)
	_ = json.NewEncoder(w).Encode(object{"error": object{"code": code, "message": message, "errors": []object{{"message": message, "domain": "global", "reason": reason}}}})
}

// ServeHTTP answers a request (https://cloud.google.com/bigquery/docs/reference/rest).
func (p *Project) ServeHTTP(w http.ResponseWriter, r *http.Request) {
	if p.Turn != nil {
		if code, reason := p.Turn(r); code != 0 {
			turnAway(w, code, reason, "turned away: "+reason)
			return
		}
	}
	if p.Token != "" && r.Header.Get("Authorization") != "Bearer "+p.Token {
		turnAway(w, http.StatusUnauthorized, "authError", "Request had invalid authentication credentials.")
		return
	}
	path := strings.Split(strings.Trim(strings.TrimPrefix(r.URL.Path, "/bigquery/v2"), "/"), "/")
	if len(path) < 3 || path[0] != "projects" || path[1] != p.name {
		turnAway(w, http.StatusNotFound, "notFound", "Not found: "+r.URL.Path)
		return
	}
	p.mutex.Lock()
	defer p.mutex.Unlock()
	switch rest := path[2:]; {
	case r.Method == http.MethodPost && rest[0] == "queries" && len(rest) == 1:
		p.query(w, r)
	case r.Method == http.MethodPost && rest[0] == "jobs" && len(rest) == 1:
		p.dryRun(w, r)
	case r.Method == http.MethodGet && rest[0] == "queries" && len(rest) == 2:
		p.results(w, r, p.jobs[rest[1]])
	case r.Method == http.MethodPost && rest[0] == "jobs" && len(rest) == 3 && rest[2] == "cancel":
		respond(w, object{"kind": "bigquery#jobCancelResponse"})
	case r.Method == http.MethodGet && rest[0] == "datasets":
		p.datasets(w, r, rest[1:])
	default:
		turnAway(w, http.StatusNotFound, "notFound", "the simulated service does not know "+r.Method+" "+r.URL.Path)
	}
}

// fail tells why a statement was not carried out.
func fail(w http.ResponseWriter, err error) {
	var f *fault
	if errors.As(err, &f) {
		turnAway(w, f.code, f.reason, f.message)
		return
	}
	turnAway(w, http.StatusBadRequest, "invalidQuery", err.Error())
}

// query carries out a statement (https://cloud.google.com/bigquery/docs/reference/rest/v2/jobs/query).
func (p *Project) query(w http.ResponseWriter, r *http.Request) {
	var in struct {
		Query              string
		UseLegacySQL       *bool
		MaximumBytesBilled string
		RequestID          string
	}
	if err := json.NewDecoder(r.Body).Decode(&in); err != nil {
		turnAway(w, http.StatusBadRequest, "invalid", err.Error())
		return
	}
	if in.UseLegacySQL == nil || *in.UseLegacySQL {
		turnAway(w, http.StatusBadRequest, "invalid", "the simulated service knows GoogleSQL alone (useLegacySql: false)")
		return
	}
	if j := p.known[in.RequestID]; j != nil && in.RequestID != "" { // asked again, since the answer was lost
		p.results(w, r, j)
		return
	}
	most, _ := strconv.ParseInt(in.MaximumBytesBilled, 10, 64)
	j, err := p.asked(r.Context(), in.Query, most)
	if err != nil {
		fail(w, err)
		return
	}
	j.id = fmt.Sprintf("job_%d", len(p.jobs)+1)
	p.jobs[j.id], p.known[in.RequestID] = j, j
	if p.Slow {
		respond(w, object{"kind": "bigquery#queryResponse", "jobReference": p.reference(j), "jobComplete": false})
		return
	}
	p.results(w, r, j)
}

func (p *Project) reference(j *job) object {
	return object{"projectId": p.name, "jobId": j.id, "location": p.location}
}

// dryRun says what a statement would be billed for
// (https://cloud.google.com/bigquery/docs/reference/rest/v2/jobs/insert).
func (p *Project) dryRun(w http.ResponseWriter, r *http.Request) {
	var in struct {
		Configuration struct {
			DryRun bool
			Query  struct{ Query string }
		}
	}
	if err := json.NewDecoder(r.Body).Decode(&in); err != nil || !in.Configuration.DryRun {
		turnAway(w, http.StatusBadRequest, "invalid", "the simulated service takes jobs as dry runs alone; others are queries")
		return
	}
	j, err := p.estimate(r.Context(), in.Configuration.Query.Query)
	if err != nil {
		fail(w, err)
		return
	}
	tables := []object{}
	for _, ref := range j.tables {
		tables = append(tables, object{"projectId": p.name, "datasetId": ref.Schema, "tableId": ref.Table})
	}
	respond(w, object{"kind": "bigquery#job", "status": object{"state": "DONE"}, "statistics": object{"totalBytesProcessed": strconv.FormatInt(j.bytes, 10),
		"query": object{"statementType": j.kind, "totalBytesProcessed": strconv.FormatInt(j.bytes, 10), "referencedTables": tables}}})
}

// results gives a page of a job's rows
// (https://cloud.google.com/bigquery/docs/reference/rest/v2/jobs/getQueryResults).
func (p *Project) results(w http.ResponseWriter, r *http.Request, j *job) {
	if j == nil {
		turnAway(w, http.StatusNotFound, "notFound", "Not found: Job")
		return
	}
	if j.polls++; p.Slow && j.polls < 2 {
		respond(w, object{"kind": "bigquery#queryResponse", "jobReference": p.reference(j), "jobComplete": false})
		return
	}
	start, _ := strconv.Atoi(r.URL.Query().Get("pageToken"))
	end := len(j.rows)
	if most, err := strconv.Atoi(r.URL.Query().Get("maxResults")); err == nil && most > 0 {
		end = min(end, start+most)
	}
	if p.Page > 0 {
		end = min(end, start+p.Page)
	}
	rows := []object{}
	for _, row := range j.rows[min(start, len(j.rows)):end] {
		values := make([]object, len(row))
		for i, v := range row {
			values[i] = object{"v": v}
		}
		rows = append(rows, object{"f": values})
	}
	out := object{"kind": "bigquery#queryResponse", "jobReference": p.reference(j), "jobComplete": true, "schema": object{"fields": j.fields}, "totalRows": strconv.Itoa(len(j.rows)), "rows": rows, "totalBytesProcessed": strconv.FormatInt(j.bytes, 10)}
	if end < len(j.rows) {
		out["pageToken"] = strconv.Itoa(end)
	}
	respond(w, out)
}

// datasets lists them, or tells of one, or of the policies of a table in one.
func (p *Project) datasets(w http.ResponseWriter, _ *http.Request, rest []string) {
	if len(rest) == 0 {
		list := []object{}
		for _, s := range p.Catalog.Schemas {
			list = append(list, object{"datasetReference": object{"projectId": p.name, "datasetId": s.Name}, "location": p.location})
		}
		respond(w, object{"kind": "bigquery#datasetList", "datasets": list})
		return
	}
	s := p.Catalog.Schema(rest[0])
	if s == nil {
		turnAway(w, http.StatusNotFound, "notFound", fmt.Sprintf("Not found: Dataset %s:%s", p.name, rest[0]))
		return
	}
	if len(rest) == 1 {
		respond(w, object{"kind": "bigquery#dataset", "datasetReference": object{"projectId": p.name, "datasetId": s.Name}, "location": p.location, "description": s.Comment, "simulated": true})
		return
	}
	if len(rest) != 4 || rest[1] != "tables" || rest[3] != "rowAccessPolicies" {
		turnAway(w, http.StatusNotFound, "notFound", "the simulated service does not know this path")
		return
	}
	ref := catalog.Ref{Schema: s.Name, Table: rest[2]}
	if p.Catalog.Table(ref) == nil {
		turnAway(w, http.StatusNotFound, "notFound", fmt.Sprintf("Not found: Table %s:%s.%s", p.name, ref.Schema, ref.Table))
		return
	}
	list := []object{}
	for _, name := range slices.Sorted(slices.Values(p.policies[ref])) {
		list = append(list, object{"rowAccessPolicyReference": object{"projectId": p.name, "datasetId": ref.Schema, "tableId": ref.Table, "policyId": name}})
	}
	respond(w, object{"rowAccessPolicies": list})
}

// handed is a value as the service hands it on: as text, moments in microseconds.
func handed(kind string, v any) any {
	switch v := v.(type) {
	case nil:
		return nil
	case int64:
		if kind == "BOOLEAN" {
			return strconv.FormatBool(v != 0)
		}
		return strconv.FormatInt(v, 10)
	case float64:
		return strconv.FormatFloat(v, 'g', -1, 64)
	case []byte:
		return string(v)
	case string:
		if kind != "TIMESTAMP" {
			return v
		}
		for _, layout := range []string{"2006-01-02 15:04:05.999999-07", "2006-01-02 15:04:05.999999", time.DateOnly} {
			if at, err := time.Parse(layout, v); err == nil {
				return strconv.FormatInt(at.UnixMicro(), 10)
			}
		}
		return v
	}
	return fmt.Sprint(v)
}
