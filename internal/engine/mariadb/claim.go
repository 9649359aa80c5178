package mariadb

import (
	"context"
	"fmt"
	"slices"
	"time"

	"nexdal/internal/engine/mariadb/traits"
)

// Claim takes one lock for each database, in their order, so that two runs that want the
// same do not wait for one another (https://mariadb.com/kb/en/get_lock/).
func (s *session) Claim(ctx context.Context, schemas []string) (holder string, err error) {
	schemas = slices.Clone(schemas)
	slices.Sort(schemas)
	for _, name := range slices.Compact(schemas) {
		lock := traits.Literal("nexdal " + name)
		_, rows, err := s.Rows(ctx, fmt.Sprintf(`SELECT GET_LOCK(%s, 0), (SELECT CONCAT(p.user, ' from ', p.host, ', connection ', p.id) FROM information_schema.processlist p WHERE p.id = IS_USED_LOCK(%[1]s))`, lock), 1)
		switch {
		case err != nil:
			return "", err
		case len(rows) == 1 && rows[0][0] != nil && *rows[0][0] == "1":
			s.claimed = append(s.claimed, lock)
		case len(rows) == 1 && rows[0][1] != nil:
			return *rows[0][1], nil
		default:
			return "somebody else", nil
		}
	}
	return "", nil
}

// release gives the claims back before the connection ends: the server goes on holding the locks of
// one that has ended for a moment, and the next run would be refused.
func (s *session) release() {
	ctx, cancel := context.WithTimeout(context.Background(), 2*time.Second)
	defer cancel()
	for _, lock := range s.claimed {
		s.conn.ExecContext(ctx, "DO RELEASE_LOCK("+lock+")") // where it fails, the end of the connection does it
	}
	s.claimed = nil
}
