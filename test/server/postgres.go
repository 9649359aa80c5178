// Package server starts throwaway database servers for tests, in temporary
// folders, and stops them when the tests are over.
package server

import (
	"bytes"
	"fmt"
	"os"
	"os/exec"
	"os/user"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"sync"
	"syscall"
	"testing"
	"time"
)

// A Postgres is a running throwaway server. Everybody may log in as postgres
// without a password; the role guarded has the password "right".
type Postgres struct {
	Folder  string
	start   func() *exec.Cmd
	command *exec.Cmd
	made    int
	mu      sync.Mutex
}

var (
	postgres     *Postgres
	postgresOnce sync.Once
	postgresErr  error
)

// Main runs a package's tests and stops what they started; call it from
// TestMain.
func Main(m *testing.M) {
	status := m.Run()
	if postgres != nil {
		postgres.Stop()
	}
	if mariadb != nil {
		mariadb.Stop()
	}
	os.Exit(status)
}

// StartPostgres returns the server of this test program, started at the first
// call. Where none is installed the test is skipped, but in CI it fails.
func StartPostgres(t testing.TB) *Postgres {
	t.Helper()
	postgresOnce.Do(func() { postgres, postgresErr = NewPostgres() })
	if postgresErr != nil {
		if os.Getenv("CI") == "true" {
			t.Fatalf("PostgreSQL: %v", postgresErr)
		}
		t.Skipf("PostgreSQL: %v", postgresErr)
	}
	return postgres
}

// Tool finds one of the server's programs.
func Tool(name string) (string, error) {
	found, err := filepath.Glob("/usr/lib/postgresql/*/bin/" + name)
	if err == nil && len(found) > 0 {
		slices.Sort(found)
		return found[len(found)-1], nil
	}
	return exec.LookPath(name)
}

// Psql is the client itself: what Debian has on the path is a script before it, which
// costs more than most tests.
var Psql = sync.OnceValue(func() string {
	path, err := Tool("psql")
	if err != nil {
		return "psql"
	}
	return path
})

// NewPostgres starts a server of its own, for programs; Stop ends it.
func NewPostgres() (*Postgres, error) {
	initdb, err := Tool("initdb")
	if err != nil {
		return nil, err
	}
	server, err := Tool("postgres")
	if err != nil {
		return nil, err
	}
	folder, err := folder("nexdal-pg")
	if err != nil {
		return nil, err
	}
	as, err := unprivileged(folder)
	if err != nil {
		return nil, err
	}
	data := filepath.Join(folder, "data")
	if out, err := command(as, initdb, "-A", "trust", "-U", "postgres", "-E", "UTF8", "--locale=C", "--no-sync", "-D", data).CombinedOutput(); err != nil {
		return nil, fmt.Errorf("initdb: %v: %s", err, out)
	}
	hba := "local all guarded scram-sha-256\nlocal all all trust\n"
	if err := os.WriteFile(filepath.Join(data, "pg_hba.conf"), []byte(hba), 0o644); err != nil {
		return nil, err
	}
	p := &Postgres{Folder: folder, start: func() *exec.Cmd {
		return command(as, server, "-D", data, "-k", folder, "-c", "listen_addresses=", "-c", "fsync=off", "-c", "full_page_writes=off", "-c", "max_locks_per_transaction=5000", "-c", "autovacuum=off")
	}}
	if err := p.begin(); err != nil {
		p.Stop()
		return nil, err
	}
	_, err = p.psql("postgres", "CREATE ROLE guarded LOGIN PASSWORD 'right'")
	return p, err
}

// begin starts the server and waits until it answers.
func (p *Postgres) begin() error {
	p.command = p.start()
	return answers(p.command, 200, func() error { _, err := p.psql("postgres", "SELECT 1"); return err })
}

// answers starts a server and asks, so many times, until it answers.
func answers(c *exec.Cmd, times int, ask func() error) error {
	var log bytes.Buffer
	c.Stderr = &log
	if err := c.Start(); err != nil {
		return err
	}
	for range times {
		if ask() == nil {
			return nil
		}
		time.Sleep(50 * time.Millisecond)
	}
	return fmt.Errorf("the server did not start: %s", log.String())
}

// Crash ends the server as a failure of the machine would, without writing anything
// back, and starts it again.
func (p *Postgres) Crash(t testing.TB) {
	t.Helper()
	p.command.Process.Signal(syscall.SIGQUIT)
	p.command.Wait()
	if err := p.begin(); err != nil {
		t.Fatal(err)
	}
}

// Room lets no file of the server grow past so many bytes, as a full disk would; 0: any.
// It holds for sessions that begin then.
func (p *Postgres) Room(t testing.TB, bytes int64) {
	t.Helper()
	limit := fmt.Sprintf("--fsize=%d:", bytes)
	if bytes == 0 {
		limit = "--fsize=unlimited:"
	}
	if out, err := command(p.command.SysProcAttr.Credential, "prlimit", "--pid", strconv.Itoa(p.command.Process.Pid), limit).CombinedOutput(); err != nil {
		t.Fatalf("prlimit: %v: %s", err, out)
	}
}

// unprivileged gives the folder to the user postgres when the tests run as
// root, since the server refuses to.
func unprivileged(folder string) (*syscall.Credential, error) {
	if os.Geteuid() != 0 {
		return nil, nil
	}
	u, err := user.Lookup("postgres")
	if err != nil {
		return nil, err
	}
	uid, err := strconv.Atoi(u.Uid)
	if err != nil {
		return nil, err
	}
	gid, err := strconv.Atoi(u.Gid)
	if err != nil {
		return nil, err
	}
	return &syscall.Credential{Uid: uint32(uid), Gid: uint32(gid)}, os.Chown(folder, uid, gid)
}

func command(as *syscall.Credential, name string, args ...string) *exec.Cmd {
	c := exec.Command(name, args...)
	c.Dir = "/"
	c.SysProcAttr = &syscall.SysProcAttr{Credential: as}
	return c
}

// Stop ends the server and removes its folder.
func (p *Postgres) Stop() {
	p.command.Process.Signal(syscall.SIGINT)
	p.command.Wait()
	os.RemoveAll(p.Folder)
}

func (p *Postgres) psql(database, sql string) (string, error) {
	c := exec.Command(Psql(), "-X", "-q", "-A", "-t", "-v", "ON_ERROR_STOP=1", "-h", p.Folder, "-U", "postgres", "-d", database)
	c.Stdin = strings.NewReader(sql)
	out, err := c.CombinedOutput()
	if err != nil {
		return "", fmt.Errorf("psql: %v: %s", err, out)
	}
	return strings.TrimSpace(string(out)), nil
}

// Query sends SQL to a database and returns what psql prints, unaligned.
func (p *Postgres) Query(t testing.TB, database, sql string) string {
	t.Helper()
	out, err := p.psql(database, sql)
	if err != nil {
		t.Fatal(err)
	}
	return out
}

// Database makes an empty database and returns its name.
func (p *Postgres) Database(t testing.TB) string {
	t.Helper()
	p.mu.Lock()
	p.made++
	name := fmt.Sprintf("t%d", p.made)
	p.mu.Unlock()
	p.Query(t, "postgres", "CREATE DATABASE "+name+" TEMPLATE template0")
	return name
}

// URL of a database, as the user postgres.
func (p *Postgres) URL(database string) string {
	return fmt.Sprintf("postgres://postgres@/%s?host=%s", database, p.Folder)
}

// File runs a script file with the engine's own client.
func (p *Postgres) File(database, path string) (string, error) {
	out, err := exec.Command(Psql(), "-X", "-q", "-h", p.Folder, "-U", "postgres", "-d", database, "-f", path).CombinedOutput()
	return string(out), err
}
