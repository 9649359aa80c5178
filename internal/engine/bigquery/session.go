package bigquery

import (
	"context"
	"errors"
	"net/http"
	"time"

	"nexdal/internal/engine"
	"nexdal/internal/engine/sqllex"
)

// statementTimeout is the time that a statement of a session that only reads may take.
const statementTimeout = 5 * time.Minute

// session asks one project.
type session struct {
	*client
	write bool
	limit time.Duration // of a statement; 0: as long as it takes
	watch engine.Watch
	meter *engine.Meter
}

// Open asks for a token and whether the service lets it in. There is no connection: each statement is
// a request.
func (Engine) Open(ctx context.Context, url string, o engine.Options) (engine.Session, error) {
	at, err := parse(url)
	if err != nil {
		return nil, err
	}
	s := &session{client: &client{http: &http.Client{}, at: at}, write: o.Write, limit: o.StatementTimeout, watch: o.Watch, meter: o.Meter}
	if s.limit == 0 && !o.Write {
		s.limit = statementTimeout
	}
	scope := forReading
	if o.Write {
		scope = forWriting
	}
	if s.tokens, s.from, err = tokens(ctx, scope); err != nil {
		if !errors.Is(err, errNoAccount) || at.endpoint == service {
			return nil, &engine.SourceError{Place: at.place(), Kind: engine.ErrRefused, Err: err, Hint: "gcloud auth application-default login makes one"}
		}
		s.tokens = nil // a service of one's own may ask for none
	}
	if at.dataset != "" {
		_, err = s.dataset(ctx, at.dataset)
	} else {
		_, err = s.datasets(ctx)
	}
	if err != nil {
		return nil, s.wrap(ctx, err)
	}
	return s, nil
}

// wrap turns what the service says into a sentence.
func (s *session) wrap(ctx context.Context, err error) error {
	if err == nil {
		return nil
	}
	if ctx.Err() != nil {
		return ctx.Err()
	}
	e := &engine.SourceError{Place: s.at.place(), Err: err}
	var f *fault
	switch {
	case errors.Is(err, errGone):
		e.Kind, e.Hint = engine.ErrUnreachable, "check the network and try again"
	case errors.As(err, &f):
		switch {
		case f.code == http.StatusUnauthorized:
			e.Kind, e.Hint = engine.ErrRefused, "the token has expired or is not valid; get a new one for "+s.from
			if s.tokens == nil {
				e.Hint = "it asks for a token, and none was given (GOOGLE_OAUTH_ACCESS_TOKEN)"
			}
		case f.reason == "quotaExceeded":
			e.Kind, e.Hint = engine.ErrBusy, "the quota is used up; try again when it is renewed, or have it raised"
		case f.forNow():
			e.Kind, e.Hint = engine.ErrBusy, "it was tried several times; try again later"
		case f.code == http.StatusForbidden:
			e.Kind, e.Hint = engine.ErrNoPrivilege, "ask for the roles BigQuery Metadata Viewer and BigQuery Job User"
		case f.code == http.StatusNotFound:
			e.Kind, e.Hint = engine.ErrUnreachable, "name a project and a dataset that exist, and the location with ?location= where it is neither US nor EU"
		}
	}
	return e
}

// reads reports whether the statement is a query. Sessions that only read send no other.
func reads(sql string) bool {
	for _, t := range (Engine{}).Dialect().Tokens(sql) {
		if !t.Blank() && !t.Is("(") {
			return t.Is("SELECT") || t.Is("WITH")
		}
	}
	return false
}

// errWrites says that a session that only reads was given a statement that does not.
var errWrites = errors.New("the session only reads")

// Rows sends a query and takes the answer as text.
func (s *session) Rows(ctx context.Context, sql string, max int) (names []string, all []engine.Row, err error) {
	if !s.write && !reads(sql) {
		return nil, nil, errWrites
	}
	at, cancel := engine.Within(ctx, s.limit)
	defer cancel()
	began := time.Now()
	var most int64
	if s.meter != nil {
		wants, err := s.estimate(at, sql)
		if err != nil {
			return nil, nil, s.said(ctx, err)
		}
		if err := s.meter.Take(wants); err != nil {
			return nil, nil, err
		}
		most = wants
	}
	columns, err := s.query(at, sql, most, max, func(columns []column, row []any) {
		values := make(engine.Row, len(row))
		for i, v := range row {
			values[i] = textOf(columns[i], v)
		}
		all = append(all, values)
	})
	if s.watch != nil {
		s.watch(sql, time.Since(began), err)
	}
	for _, c := range columns {
		names = append(names, c.Name)
	}
	return names, all, s.said(ctx, err)
}

// Exec carries out one statement.
func (s *session) Exec(ctx context.Context, sql string) error {
	if ended(sql) {
		return nil // there are no transactions around statements that alter the structure
	}
	_, _, err := s.Rows(ctx, sql, 1)
	return err
}

// ended reports whether the statement only ends a transaction.
func ended(sql string) bool {
	for _, t := range (Engine{}).Dialect().Tokens(sql) {
		if !t.Blank() {
			return t.Kind == sqllex.Word && t.Is("COMMIT")
		}
	}
	return true
}

// said tells an error of a statement.
func (s *session) said(ctx context.Context, err error) error {
	var f *fault
	switch {
	case err == nil || ctx.Err() != nil:
		return err
	case errors.Is(err, context.DeadlineExceeded):
		return engine.TookTooLong(s.at.place())
	case errors.As(err, &f) && f.code != http.StatusUnauthorized && f.reason != "quotaExceeded" && !f.forNow():
		return &engine.StatementError{Code: f.reason, Exists: f.reason == "duplicate", Missing: f.reason == "notFound", Err: errors.New(f.message)}
	case errors.As(err, &f) && f.forNow():
		return &engine.StatementError{Code: f.reason, Busy: true, Err: errors.New(f.message)}
	}
	return s.wrap(ctx, err)
}

// Rollback has nothing to take back: each statement stands by itself.
func (s *session) Rollback(ctx context.Context) error { return ctx.Err() }

// Place names the source for people.
func (s *session) Place() string { return s.at.place() }

// Close has nothing to end.
func (s *session) Close() error { return nil }
