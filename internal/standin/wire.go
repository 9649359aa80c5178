package standin

import (
	"context"
	"errors"
	"fmt"
	"net"
	"slices"
	"strings"

	"github.com/jackc/pgx/v5/pgproto3"

	"nexdal/internal/engine/sqllex"
	"nexdal/internal/pattern"
)

func (c *Cluster) serve() {
	for {
		conn, err := c.listener.Accept()
		if err != nil {
			return
		}
		c.conns.Add(1)
		go func() {
			defer c.conns.Done()
			done := make(chan struct{})
			go func() {
				select {
				case <-c.closing:
					conn.Close()
				case <-done:
				}
			}()
			newSession(c, conn).talk()
			close(done)
			conn.Close()
		}()
	}
}

// session is one client's connection.
type session struct {
	c        *Cluster
	conn     net.Conn
	backend  *pgproto3.Backend
	path     string // first schema of the search path
	inside   bool   // a transaction is open
	started  bool   // and has reached the rows
	failed   bool   // and failed
	attached []string
	tables   []*table // as they were when it began
	views    []*view
}

func newSession(c *Cluster, conn net.Conn) *session {
	return &session{c: c, conn: conn, backend: pgproto3.NewBackend(conn, conn), path: "public"}
}

// dialect cuts a query into its statements.
var dialect = sqllex.Dialect{DollarStrings: true, NestedComments: true, Letters: "len"}

func (s *session) talk() {
	for started := false; !started; {
		m, err := s.backend.ReceiveStartupMessage()
		if err != nil {
			return
		}
		switch m.(type) {
		case *pgproto3.SSLRequest, *pgproto3.GSSEncRequest:
			if _, err := s.conn.Write([]byte("N")); err != nil {
				return
			}
		case *pgproto3.StartupMessage:
			started = true
		default:
			return
		}
	}
	s.backend.Send(&pgproto3.AuthenticationOk{})
	for _, p := range [][2]string{{"server_version", "8.0.2"}, {"server_encoding", "UTF8"}, {"client_encoding", "UTF8"}, {"standard_conforming_strings", "on"}, {"DateStyle", "ISO, MDY"}, {"integer_datetimes", "on"}} {
		s.backend.Send(&pgproto3.ParameterStatus{Name: p[0], Value: p[1]})
	}
	s.backend.Send(&pgproto3.BackendKeyData{ProcessID: 1, SecretKey: []byte{0, 0, 0, 1}})
	s.ready()
	defer s.leave()
	skipping := false // until the client says that it is done with what it could not have
	for {
		if s.backend.Flush() != nil {
			return
		}
		m, err := s.backend.Receive()
		if err != nil {
			return
		}
		switch m := m.(type) {
		case *pgproto3.Query:
			s.query(m.String)
			s.ready()
		case *pgproto3.Terminate:
			return
		case *pgproto3.Sync:
			skipping = false
			s.ready()
		case *pgproto3.Flush:
		default:
			if !skipping {
				skipping = true
				s.fail(beyond("prepared statements; send simple queries"))
			}
		}
	}
}

// leave ends what a client left open.
func (s *session) leave() {
	if s.inside {
		s.end(context.Background(), false)
	}
}

func (s *session) ready() {
	status := byte('I')
	switch {
	case s.failed:
		status = 'E'
	case s.inside:
		status = 'T'
	}
	s.backend.Send(&pgproto3.ReadyForQuery{TxStatus: status})
}

func (s *session) fail(err error) {
	code := "XX000"
	var f *fault
	if errors.As(err, &f) {
		code = f.code
	}
	s.backend.Send(&pgproto3.ErrorResponse{Severity: "ERROR", SeverityUnlocalized: "ERROR", Code: code, Message: err.Error()})
	s.failed = s.inside
}

var (
	begin    = pattern.New(`(?is)^\s*(BEGIN|START\s+TRANSACTION)\b[^;]*;?\s*$`)
	commit   = pattern.New(`(?is)^\s*(COMMIT|END)\b[^;]*;?\s*$`)
	rollback = pattern.New(`(?is)^\s*(ROLLBACK|ABORT)\b[^;]*;?\s*$`)
	reading  = pattern.New(`(?is)^\s*(SELECT|WITH|VALUES|\()`)
)

func (s *session) query(all string) {
	ctx := context.Background()
	if !strings.Contains(all, ";") && strings.TrimSpace(all) != "" {
		if err := s.one(ctx, all); err != nil {
			s.fail(err)
		}
		return
	}
	statements := dialect.Statements(all)
	if len(statements) == 0 {
		s.backend.Send(&pgproto3.EmptyQueryResponse{})
	}
	for _, st := range statements {
		if err := s.one(ctx, st.Text); err != nil {
			s.fail(err)
			return
		}
	}
}

// one carries out a statement. Whoever is within a transaction has the cluster alone.
func (s *session) one(ctx context.Context, sql string) error {
	tag := func(t string) { s.backend.Send(&pgproto3.CommandComplete{CommandTag: []byte(t)}) }
	switch {
	case begin.MatchString(sql):
		if !s.inside {
			s.c.mutex.Lock()
			s.inside = true
			s.tables, s.views = s.c.clone()
		}
		tag("BEGIN")
		return nil
	case rollback.MatchString(sql), commit.MatchString(sql):
		keep := commit.MatchString(sql) && !s.failed
		if s.inside {
			if err := s.end(ctx, keep); err != nil {
				return err
			}
		}
		tag(map[bool]string{true: "COMMIT", false: "ROLLBACK"}[keep])
		return nil
	case s.failed:
		return refuse("25P02", "current transaction is aborted, commands ignored until end of transaction block")
	}
	if m := setting.FindStringSubmatch(sql); m != nil {
		if strings.EqualFold(m[1], "search_path") {
			s.path = plain(list(m[2])[0])
		}
		tag("SET")
		return nil
	}
	if !s.inside {
		s.c.mutex.Lock()
		defer s.c.mutex.Unlock()
	}
	if reading.MatchString(sql) {
		return s.read(ctx, sql)
	}
	s.c.shown = false
	t, err := s.execute(ctx, sql)
	if err == nil {
		tag(t)
	}
	return err
}

// begun lets the transaction reach the rows.
func (s *session) begun(ctx context.Context) error {
	if !s.inside || s.started {
		return nil
	}
	s.started = true
	_, err := s.do(ctx, "BEGIN")
	return err
}

func (s *session) end(ctx context.Context, keep bool) error {
	var err error
	if s.started {
		_, err = s.do(ctx, map[bool]string{true: "COMMIT", false: "ROLLBACK"}[keep])
	}
	if !keep || err != nil {
		s.c.tables, s.c.views, s.c.shown = s.tables, s.views, false
		for _, schema := range s.attached {
			s.do(ctx, "DETACH "+quote(schema))
		}
	}
	s.inside, s.started, s.failed, s.attached, s.tables, s.views = false, false, false, nil, nil, nil
	s.c.mutex.Unlock()
	return err
}

// The words of the engine that the rows' keeper says otherwise.
var (
	cast     = pattern.New(`(?i)::\s*(?:character varying|double precision|timestamp with(?:out)? time zone|[a-z_][a-z0-9_]*)(?:\(\d+(?:,\s*\d+)?\))?`)
	instr    = pattern.New(`(?i)\bREGEXP_INSTR\(`)
	lenCall  = pattern.New(`(?i)\bLEN\(`)
	fixed    = pattern.New(`(?i)\b(version|current_database|current_schema)\(\)`)
	getdate  = pattern.New(`(?i)\b(getdate\(\)|sysdate)\b`)
	text     = pattern.New(`'(?:[^']|'')*'`)
	quoted   = pattern.New(`'(?:[^'\\]|''|\\.)*'|"(?:[^"]|"")*"|[^'"]+`)
	unlisted = pattern.New(`(?is)\b(information_schema|pg_internal|stl_\w+|sys_\w+|svl_\w+)\b`)
)

// otherwise are beginnings of what has to be said otherwise.
var otherwise = []string{"::", `\`, "len(", "regexp_instr", "version(", "current_", "getdate", "sysdate"}

// readable is the query as the rows' keeper reads it; what stands in quotes stays.
func (s *session) readable(sql string) string {
	low := strings.ToLower(sql)
	if !slices.ContainsFunc(otherwise, func(w string) bool { return strings.Contains(low, w) }) {
		return sql
	}
	var out strings.Builder
	for _, part := range quoted.FindAllString(sql, -1) {
		switch part[0] {
		case '\'':
			out.WriteString(strings.ReplaceAll(part, `\\`, `\`))
		case '"':
			out.WriteString(part)
		default:
			part = cast.ReplaceAllString(part, "")
			part = lenCall.ReplaceAllString(part, "length(")
			part = instr.ReplaceAllString(part, "nexdal_regexp_instr(")
			part = getdate.ReplaceAllString(part, "CURRENT_TIMESTAMP")
			part = fixed.ReplaceAllStringFunc(part, func(f string) string {
				switch strings.ToLower(f) {
				case "version()":
					return "'" + Version + "'"
				case "current_database()":
					return "'" + s.c.database + "'"
				}
				return "'" + s.path + "'"
			})
			out.WriteString(part)
		}
	}
	return out.String()
}

// read answers a query, every value as text.
func (s *session) read(ctx context.Context, sql string) error {
	if m := unlisted.FindString(text.ReplaceAllString(sql, "")); m != "" {
		return refuse("42P01", `relation "%s" does not exist: the simulated cluster has none`, strings.ToLower(m))
	}
	if slices.ContainsFunc(systemNames, func(n string) bool { return strings.Contains(strings.ToLower(sql), n) }) {
		if !s.c.shown {
			if err := s.c.refresh(ctx); err != nil {
				return understood(err)
			}
			s.c.shown = true
		}
	}
	rows, err := s.c.db.QueryContext(ctx, strings.TrimSuffix(strings.TrimSpace(s.readable(sql)), ";"))
	if err != nil {
		return understood(err)
	}
	defer rows.Close()
	names, err := rows.Columns()
	if err != nil {
		return understood(err)
	}
	fields := make([]pgproto3.FieldDescription, len(names))
	for i, n := range names {
		fields[i] = pgproto3.FieldDescription{Name: []byte(n), DataTypeOID: 25, DataTypeSize: -1, TypeModifier: -1}
	}
	s.backend.Send(&pgproto3.RowDescription{Fields: fields})
	count := 0
	values, into := make([]any, len(names)), make([]any, len(names))
	for i := range values {
		into[i] = &values[i]
	}
	for rows.Next() {
		if err := rows.Scan(into...); err != nil {
			return understood(err)
		}
		texts := make([][]byte, len(names))
		for i, v := range values {
			texts[i] = shown(v)
		}
		s.backend.Send(&pgproto3.DataRow{Values: texts})
		if count++; count%1000 == 0 {
			if err := s.backend.Flush(); err != nil {
				return err
			}
		}
	}
	if err := rows.Err(); err != nil {
		return understood(err)
	}
	s.backend.Send(&pgproto3.CommandComplete{CommandTag: []byte(fmt.Sprintf("SELECT %d", count))})
	return nil
}

func shown(v any) []byte {
	switch v := v.(type) {
	case nil:
		return nil
	case []byte:
		return v
	case string:
		return []byte(v)
	case bool:
		return []byte(map[bool]string{true: "t", false: "f"}[v])
	case float64:
		return []byte(strings.TrimSuffix(strings.TrimRight(fmt.Sprintf("%.6f", v), "0"), "."))
	case interface{ Format(string) string }:
		return []byte(v.Format("2006-01-02 15:04:05"))
	}
	return []byte(fmt.Sprint(v))
}
