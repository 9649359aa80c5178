package server

import (
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"sync"
	"syscall"
	"testing"
	"time"
)

// A MariaDB is a running throwaway server, reached through its socket alone;
// root needs no password, the user guarded has "right".
type MariaDB struct {
	disk    string // that lies under one of its databases
	Folder  string
	start   func() *exec.Cmd
	command *exec.Cmd
	made    int
	mu      sync.Mutex
}

var mariadb = shared[*MariaDB]{title: "MariaDB", start: NewMariaDB}

// StartMariaDB returns the server of this test program, started at the first
// call. Where none is installed the test is skipped, but in CI it fails.
func StartMariaDB(t testing.TB) *MariaDB {
	t.Helper()
	return mariadb.running(t)
}

// NewMariaDB starts a server of its own, for programs; Stop ends it.
func NewMariaDB() (*MariaDB, error) {
	server, err := exec.LookPath("mariadbd")
	if err != nil {
		return nil, err
	}
	folder, err := folder("nexdal-md")
	if err != nil {
		return nil, err
	}
	data := filepath.Join(folder, "data")
	// A server clears its folder for temporary tables when it starts: shared, it
	// would take away those of the servers that run already.
	scratch := filepath.Join(folder, "scratch")
	if err := os.Mkdir(scratch, 0o700); err != nil {
		return nil, err
	}
	as := []string{"--tmpdir=" + scratch}
	if os.Geteuid() == 0 {
		as = append(as, "--user=root")
	}
	// Several servers at once use up what the system has of asynchronous
	// input and output; a busy machine may still make the first attempt fail.
	as = append(as, "--innodb-use-native-aio=0")
	install := append([]string{"--no-defaults", "--auth-root-authentication-method=normal", "--skip-test-db", "--datadir=" + data}, as...)
	for attempt := 1; ; attempt++ {
		out, err := exec.Command("mariadb-install-db", install...).CombinedOutput()
		if err == nil {
			break
		}
		if attempt == 3 {
			return nil, fmt.Errorf("mariadb-install-db: %v: %s", err, out)
		}
		if err := os.RemoveAll(data); err != nil {
			return nil, err
		}
		time.Sleep(time.Second)
	}
	m := &MariaDB{Folder: folder}
	options := append([]string{"--no-defaults", "--datadir=" + data, "--socket=" + m.Socket(), "--pid-file=" + filepath.Join(folder, "pid"),
		"--skip-networking", "--skip-log-bin", "--skip-name-resolve", "--innodb-flush-log-at-trx-commit=2", "--innodb-doublewrite=0", "--innodb-buffer-pool-size=64M", "--character-set-server=utf8mb4"}, as...)
	m.start = func() *exec.Cmd { return exec.Command(server, options...) }
	if err := m.begin(); err != nil {
		m.Stop()
		return nil, err
	}
	_, err = m.client("", "CREATE USER guarded@localhost IDENTIFIED BY 'right'")
	return m, err
}

// begin starts the server and waits until it answers.
func (m *MariaDB) begin() error {
	m.command = m.start()
	return answers(m.command, 400, func() error { _, err := m.client("", "SELECT 1"); return err })
}

// Crash kills the server and starts it again.
func (m *MariaDB) Crash(t testing.TB) {
	t.Helper()
	m.command.Process.Kill()
	m.command.Wait()
	if err := m.begin(); err != nil {
		t.Fatal(err)
	}
}

// Disk puts a disk of its own under a database that has no tables yet, and leaves room
// for so many bytes on it, besides what is there. Where none can be mounted the test is
// skipped.
func (m *MariaDB) Disk(t testing.TB, database string, spare uint64) {
	t.Helper()
	at := filepath.Join(m.Folder, "data", database)
	how := fmt.Sprintf("size=%d", spare)
	if m.disk == at {
		var is syscall.Statfs_t
		if err := syscall.Statfs(at, &is); err != nil {
			t.Fatal(err)
		}
		how = fmt.Sprintf("remount,size=%d", (is.Blocks-is.Bfree)*uint64(is.Bsize)+spare)
	}
	if out, err := exec.Command("mount", "-t", "tmpfs", "-o", how, "tmpfs", at).CombinedOutput(); err != nil {
		t.Skipf("no disk of its own can be mounted here: %s", out)
	}
	m.disk = at
}

// Socket is where it listens.
func (m *MariaDB) Socket() string { return filepath.Join(m.Folder, "s.sock") }

// Stop ends the server and removes its folder.
func (m *MariaDB) Stop() {
	m.command.Process.Kill()
	m.command.Wait()
	if m.disk != "" {
		exec.Command("umount", m.disk).Run()
	}
	os.RemoveAll(m.Folder)
}

func (m *MariaDB) client(database, sql string) (string, error) {
	c := exec.Command("mariadb", "--no-defaults", "--socket="+m.Socket(), "-uroot", "--batch", "--skip-column-names", "--default-character-set=utf8mb4", database)
	c.Stdin = strings.NewReader(sql)
	out, err := c.CombinedOutput()
	if err != nil {
		return "", fmt.Errorf("mariadb: %v: %s", err, out)
	}
	return strings.TrimSpace(string(out)), nil
}

// Query sends SQL to a database and returns what the client prints.
func (m *MariaDB) Query(t testing.TB, database, sql string) string {
	t.Helper()
	out, err := m.client(database, sql)
	if err != nil {
		t.Fatal(err)
	}
	return out
}

// Kill ends a session that may have ended by itself.
func (m *MariaDB) Kill(id string) { m.client("", "KILL "+id) }

// Database makes an empty database and returns its name.
func (m *MariaDB) Database(t testing.TB) string {
	t.Helper()
	m.mu.Lock()
	m.made++
	name := fmt.Sprintf("t%d", m.made)
	m.mu.Unlock()
	m.Query(t, "", "CREATE DATABASE "+name)
	return name
}

// URL of a database, as the user root.
func (m *MariaDB) URL(database string) string {
	return fmt.Sprintf("mariadb://root@/%s?socket=%s", database, m.Socket())
}

// File runs a script file with the engine's own client.
func (m *MariaDB) File(database, path string) (string, error) {
	text, err := os.ReadFile(path)
	if err != nil {
		return "", err
	}
	return m.client(database, string(text))
}

// Dump is what the engine's own tool makes of a database's structure.
func (m *MariaDB) Dump(t testing.TB, database string) string {
	t.Helper()
	out, err := exec.Command("mariadb-dump", "--no-defaults", "-u", "root", "-S", m.Socket(), "--no-data", "--routines", "--events", "--triggers", "--skip-comments", database).CombinedOutput()
	if err != nil {
		t.Fatalf("mariadb-dump: %v: %s", err, out)
	}
	return string(out)
}
