//go:build unix

package sqlite

import (
	"context"
	"fmt"
	"io"
	"os"
	"strings"
	"syscall"
	"time"

	"nexdal/internal/engine"
)

// Claim locks a file beside the database, which says who holds it. The system gives the
// lock up with the process, however that ends.
func (s *session) Claim(_ context.Context, _ []string) (holder string, err error) {
	f, err := os.OpenFile(s.place+"-nexdal-run", os.O_CREATE|os.O_RDWR, 0o644)
	if err != nil {
		return "", &engine.SourceError{Place: s.place, Err: fmt.Errorf("the file that keeps other runs away cannot be made beside it: %w", err)}
	}
	if err := syscall.Flock(int(f.Fd()), syscall.LOCK_EX|syscall.LOCK_NB); err != nil {
		defer f.Close()
		said, _ := io.ReadAll(io.LimitReader(f, 200))
		if holder = strings.TrimSpace(string(said)); holder == "" {
			holder = "somebody else"
		}
		return holder, nil
	}
	host, _ := os.Hostname()
	f.Truncate(0)
	fmt.Fprintf(f, "process %d on %s since %s\n", os.Getpid(), host, time.Now().UTC().Format("2006-01-02 15:04"))
	s.claim = f
	return "", nil
}

// release gives the lock up; the file goes first, while nobody else can have it.
func (s *session) release() {
	if s.claim != nil {
		os.Remove(s.claim.Name())
		s.claim.Close()
		s.claim = nil
	}
}
