// Package server starts throwaway database servers for tests, in temporary
// folders, and stops them when the tests are over.
package server

import (
	"bytes"
	_ "embed"
	"fmt"
	"os"
	"os/exec"
	"os/user"
	"path/filepath"
	"regexp"
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
	version sync.Once
	major   int
}

var postgres = shared[*Postgres]{title: "PostgreSQL", start: NewPostgres}

// StartPostgres returns the server of this test program, started at the first
// call. Where none is installed the test is skipped, but in CI it fails.
func StartPostgres(t testing.TB) *Postgres {
	t.Helper()
	return postgres.running(t)
}

// Programs is the environment variable with the folder of another server's programs than
// the installed one's; it has no client.
const Programs = "NEXDAL_POSTGRES"

// Tool finds one of the server's programs.
func Tool(name string) (string, error) {
	if folder := os.Getenv(Programs); folder != "" {
		if path := filepath.Join(folder, "bin", name); exists(path) {
			return path, nil
		}
	}
	found, err := filepath.Glob("/usr/lib/postgresql/*/bin/" + name)
	if err == nil && len(found) > 0 {
		slices.Sort(found)
		return found[len(found)-1], nil
	}
	return exec.LookPath(name)
}

func exists(path string) bool { _, err := os.Stat(path); return err == nil }

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
		return command(as, server, "-D", data, "-k", folder, "-c", "listen_addresses=", "-c", "fsync=off", "-c", "full_page_writes=off", "-c", "max_locks_per_transaction=1000", "-c", "autovacuum=off")
	}}
	if err := p.begin(); err != nil {
		p.Stop()
		return nil, err
	}
	_, err = p.psql("postgres", "SET password_encryption = 'scram-sha-256'; CREATE ROLE guarded LOGIN PASSWORD 'right'")
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

// newer is what a test's script has of newer versions: /*15 NULLS NOT DISTINCT*/ is there from
// version 15 on, /*-15 UNIQUE*/ before it.
var newer = regexp.MustCompile(`(?s)/\*(-?)(\d\d) (.*?)\*/`)

// Fit is the text of a test's script as it is for the version of the server.
func (p *Postgres) Fit(sql string) string {
	return newer.ReplaceAllStringFunc(sql, func(s string) string {
		m := newer.FindStringSubmatch(s)
		if from, _ := strconv.Atoi(m[2]); (p.Major() < from) != (m[1] == "-") {
			return ""
		}
		return m[3]
	})
}

// Query sends SQL to a database and returns what psql prints, unaligned.
func (p *Postgres) Query(t testing.TB, database, sql string) string {
	t.Helper()
	out, err := p.psql(database, p.Fit(sql))
	if err != nil {
		t.Fatal(err)
	}
	return out
}

// Try sends SQL to a database and says what the server has against it.
func (p *Postgres) Try(database, sql string) error {
	_, err := p.psql(database, sql)
	return err
}

// Database makes an empty database and returns its name.
func (p *Postgres) Database(t testing.TB) string {
	t.Helper()
	p.mu.Lock()
	p.made++
	name := fmt.Sprintf("t%d", p.made)
	p.mu.Unlock()
	create := "CREATE DATABASE " + name + " TEMPLATE template0"
	if p.Major() >= 15 { // as those before it do; to write all into the log first takes three times as long
		create += " STRATEGY FILE_COPY"
	}
	p.Query(t, "postgres", create)
	return name
}

//go:embed witness.sql
var systemTables string

// System is what the engine's own tables say of a database's structure, line by line: every
// column of theirs, those included that nobody here has heard of.
func (p *Postgres) System(t testing.TB, database string, rights bool) string {
	t.Helper()
	c := exec.Command(Psql(), "-X", "-q", "-A", "-t", "-v", "ON_ERROR_STOP=1", "-v", fmt.Sprintf("rights=%v", rights), "-h", p.Folder, "-U", "postgres", "-d", database)
	c.Stdin = strings.NewReader(systemTables)
	out, err := c.CombinedOutput()
	if err != nil {
		t.Fatalf("the system tables: %v: %s", err, out)
	}
	return string(out)
}

// Dump is what pg_dump makes of a database. Of a server that is newer than the installed
// one it is what the system tables say, and the rows.
func (p *Postgres) Dump(t testing.TB, database string, flags ...string) string {
	t.Helper()
	if p.Major() > 15 { // what pg_dump serves
		structure, bare := slices.Contains(flags, "--schema-only"), slices.Contains(flags, "--no-owner")
		dump := p.System(t, database, !bare)
		if structure {
			return dump
		}
		tables := p.Query(t, database, `SELECT format('SELECT %L; COPY (SELECT t::text FROM ONLY %s t ORDER BY t::text) TO STDOUT; SELECT %L;', 'COPY ' || c.oid::regclass || ' FROM stdin;', c.oid::regclass, '\.') FROM pg_class c
			WHERE c.oid >= 16384 AND c.relkind IN ('r', 'm') AND c.relispopulated AND c.relnamespace <> 'pg_toast'::regnamespace ORDER BY c.oid::regclass::text`)
		return dump + "\n" + p.Query(t, database, tables) + "\n"
	}
	tool, err := Tool("pg_dump")
	if err != nil {
		t.Fatal(err)
	}
	out, err := exec.Command(tool, slices.Concat(flags, []string{"-h", p.Folder, "-U", "postgres", database})...).CombinedOutput()
	if err != nil {
		t.Fatalf("pg_dump: %s", out)
	}
	return string(out)
}

// Major is the server's version.
func (p *Postgres) Major() int {
	p.version.Do(func() {
		if number, err := p.psql("postgres", "SHOW server_version_num"); err == nil {
			n, _ := strconv.Atoi(number)
			p.major = n / 10000
		}
	})
	return p.major
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
