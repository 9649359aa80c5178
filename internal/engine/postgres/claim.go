package postgres

import (
	"context"
	"fmt"
	"time"
)

// claimed is the number of the advisory lock that a run holds: "nexdal" in ASCII.
const claimed = 0x6e657864616c

// Claim takes an advisory lock, which is the database's
// (https://www.postgresql.org/docs/current/explicit-locking.html#ADVISORY-LOCKS).
func (s *session) Claim(ctx context.Context, _ []string) (holder string, err error) {
	if err := s.Exec(ctx, "SET search_path = pg_catalog"); err != nil {
		return "", s.Wrap(ctx, err)
	}
	defer s.Exec(ctx, "RESET search_path")
	_, rows, err := s.Rows(ctx, fmt.Sprintf(`SELECT pg_try_advisory_lock(%d)::text, (SELECT concat_ws(' ', a.usename, 'from ' || coalesce(host(a.client_addr), 'this machine'), 'process ' || a.pid, 'since ' || to_char(a.backend_start AT TIME ZONE 'UTC', 'YYYY-MM-DD HH24:MI'))
		FROM pg_locks l JOIN pg_stat_activity a USING (pid) WHERE l.locktype = 'advisory' AND l.granted AND l.objsubid = 1 AND (l.classid::int8 << 32) + l.objid::int8 = %[1]d
			AND l.database = (SELECT oid FROM pg_database WHERE datname = current_database()) LIMIT 1)`, claimed), 1)
	switch {
	case err != nil:
		return "", err
	case len(rows) == 1 && rows[0][0] != nil && *rows[0][0] == "true":
		s.claimed = true
		return "", nil
	case len(rows) == 1 && rows[0][1] != nil:
		return *rows[0][1], nil
	}
	return "somebody else", nil
}

// Close gives the claim back before it ends the connection: the server goes on holding the locks of
// one that has ended for a moment, and the next run would be refused.
func (s *session) Close() error {
	if s.claimed {
		s.claimed = false
		ctx, cancel := context.WithTimeout(context.Background(), 2*time.Second)
		defer cancel()
		s.Conn.PgConn().Exec(ctx, "ROLLBACK; SELECT pg_catalog.pg_advisory_unlock_all()").ReadAll() // where it fails, the end of the connection does it
	}
	return s.Session.Close()
}
