package server

import (
	"os"
	"sync"
	"testing"
)

// shared is the one server of its kind that the tests of a program use.
type shared[S interface{ Stop() }] struct {
	title  string
	start  func() (S, error)
	once   sync.Once
	server S
	err    error
	runs   bool
}

// running starts the server at the first call. Where there is none to be started the test is
// skipped, but in CI it fails.
func (s *shared[S]) running(t testing.TB) S {
	t.Helper()
	s.once.Do(func() {
		s.server, s.err = s.start()
		s.runs = s.err == nil
	})
	if s.err != nil {
		if os.Getenv("CI") == "true" {
			t.Fatalf("%s: %v", s.title, s.err)
		}
		t.Skipf("%s: %v", s.title, s.err)
	}
	return s.server
}

func (s *shared[S]) stop() {
	if s.runs {
		s.server.Stop()
	}
}

// Main runs a package's tests and stops what they started; call it from
// TestMain.
func Main(m *testing.M) {
	status := m.Run()
	postgres.stop()
	mariadb.stop()
	mysql.stop()
	firebird.stop()
	os.Exit(status)
}
