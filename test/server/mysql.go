package server

import (
	"bytes"
	"fmt"
	"net"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"sync"
	"testing"
)

// A MySQL is the running stand-in for one, in memory: see test/mysqlserver. Its client is
// MariaDB's.
type MySQL struct {
	address string
	command *exec.Cmd
	made    int
	mu      sync.Mutex
}

var mysql = shared[*MySQL]{title: "the stand-in for MySQL", start: newMySQL}

// StartMySQL returns the stand-in of this test program, started at the first call. Where it
// cannot be built the test is skipped, but in CI it fails.
func StartMySQL(t testing.TB) *MySQL {
	t.Helper()
	return mysql.running(t)
}

// OwnMySQL starts a stand-in for one test alone: while some database has triggers, it fails to
// tell of those of any other.
func OwnMySQL(t testing.TB) *MySQL {
	t.Helper()
	StartMySQL(t) // or skips
	m, err := newMySQL()
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(m.Stop)
	return m
}

func newMySQL() (*MySQL, error) {
	module, err := exec.Command("go", "list", "-m", "-f", "{{.Dir}}").Output()
	if err != nil {
		return nil, err
	}
	out, err := exec.Command(filepath.Join(strings.TrimSpace(string(module)), "test", "mysqlserver", "build")).Output()
	if err != nil {
		return nil, err
	}
	free, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return nil, err
	}
	m := &MySQL{address: free.Addr().String()}
	free.Close()
	m.command = exec.Command(strings.TrimSpace(string(out)), m.address)
	if err := answers(m.command, 200, func() error { _, err := m.client("", "SELECT 1"); return err }); err != nil {
		m.Stop()
		return nil, err
	}
	return m, nil
}

// Stop ends it; what it held is gone.
func (m *MySQL) Stop() {
	m.command.Process.Kill()
	m.command.Wait()
}

func (m *MySQL) client(database, sql string) (string, error) {
	host, port, _ := net.SplitHostPort(m.address)
	c := exec.Command("mariadb", "--no-defaults", "--skip-ssl", "-h", host, "-P", port, "-uroot", "--batch", "--raw", "--skip-column-names", "--default-character-set=utf8mb4", database)
	c.Stdin = strings.NewReader(sql)
	out, err := c.CombinedOutput()
	if err != nil {
		return "", fmt.Errorf("mariadb: %v: %s", err, out)
	}
	return strings.TrimSpace(string(out)), nil
}

// Client is a call of the client, with a file for its input.
func (m *MySQL) Client(database, path string, flags ...string) *exec.Cmd {
	host, port, _ := net.SplitHostPort(m.address)
	c := exec.Command("mariadb", append([]string{"--no-defaults", "--skip-ssl", "-h", host, "-P", port, "-uroot", "--batch", "--default-character-set=utf8mb4", database}, flags...)...)
	if text, err := os.ReadFile(path); err == nil {
		c.Stdin = bytes.NewReader(text)
	}
	return c
}

// Query sends SQL to a database and returns what the client prints.
func (m *MySQL) Query(t testing.TB, database, sql string) string {
	t.Helper()
	out, err := m.client(database, sql)
	if err != nil {
		t.Fatal(err)
	}
	return out
}

// File runs a script file with the client.
func (m *MySQL) File(database, path string) (string, error) {
	text, err := os.ReadFile(path)
	if err != nil {
		return "", err
	}
	return m.client(database, string(text))
}

// Database makes an empty database and returns its name.
func (m *MySQL) Database(t testing.TB) string {
	t.Helper()
	m.mu.Lock()
	m.made++
	name := fmt.Sprintf("t%d", m.made)
	m.mu.Unlock()
	m.Query(t, "", "CREATE DATABASE "+name)
	return name
}

// Settle drops the indexes that the server made for a foreign key where another serves it: MySQL
// does so by itself, the stand-in does not
// (https://dev.mysql.com/doc/refman/8.4/en/create-table-foreign-keys.html).
func (m *MySQL) Settle(t testing.TB, database string) {
	t.Helper()
	type index struct{ table, name string }
	columns := map[index]string{}
	for line := range strings.Lines(m.Query(t, database, "SELECT TABLE_NAME, INDEX_NAME, COALESCE(COLUMN_NAME, '') FROM information_schema.STATISTICS WHERE TABLE_SCHEMA = DATABASE() ORDER BY TABLE_NAME, INDEX_NAME, SEQ_IN_INDEX")) {
		of := strings.Split(strings.TrimSuffix(line, "\n"), "\t")
		columns[index{of[0], of[1]}] += of[2] + "\x00"
	}
	for line := range strings.Lines(m.Query(t, database, "SELECT t.TABLE_NAME, t.CONSTRAINT_NAME, k.COLUMN_NAME FROM information_schema.TABLE_CONSTRAINTS t JOIN information_schema.KEY_COLUMN_USAGE k ON k.CONSTRAINT_SCHEMA = t.CONSTRAINT_SCHEMA AND k.TABLE_NAME = t.TABLE_NAME AND k.CONSTRAINT_NAME = t.CONSTRAINT_NAME WHERE t.TABLE_SCHEMA = DATABASE() AND t.CONSTRAINT_TYPE = 'FOREIGN KEY' AND k.ORDINAL_POSITION = 1")) {
		of := strings.Split(strings.TrimSuffix(line, "\n"), "\t")
		for _, name := range of[1:] { // it is called like the foreign key, or like its first column
			made := index{of[0], name}
			for x, list := range columns {
				if columns[made] != "" && x.table == of[0] && x != made && strings.HasPrefix(list, columns[made]) {
					m.Query(t, database, "ALTER TABLE `"+of[0]+"` DROP INDEX `"+name+"`")
					delete(columns, made)
				}
			}
		}
	}
}

// URL of a database, as the user root.
func (m *MySQL) URL(database string) string {
	return fmt.Sprintf("mysql://root@%s/%s", m.address, database)
}

// Dump is what the server says of each table and view.
func (m *MySQL) Dump(t testing.TB, database string) string {
	t.Helper()
	var all strings.Builder
	for _, name := range strings.Split(m.Query(t, database, "SHOW TABLES"), "\n") {
		all.WriteString(m.Query(t, database, "SHOW CREATE TABLE `"+name+"`") + "\n")
	}
	return all.String()
}
