package server

import (
	"fmt"
	"io"
	"io/fs"
	"net"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"sync"
	"testing"
)

// A Firebird is a running throwaway server on a port of this machine alone. SYSDBA has the password
// "masterkey", the user GUARDED "right".
type Firebird struct {
	Folder  string
	says    string // where its messages are
	port    int
	command *exec.Cmd
	made    int
	mu      sync.Mutex
}

var firebird = shared[*Firebird]{title: "Firebird", start: NewFirebird}

// StartFirebird returns the server of this test program, started at the first call. Where none is
// installed the test is skipped, but in CI it fails.
func StartFirebird(t testing.TB) *Firebird {
	t.Helper()
	return firebird.running(t)
}

// find is the file of that name among the engine's own, or "".
func find(name string) string {
	for _, pattern := range []string{"/usr/lib/*/firebird/*/", "/usr/lib/firebird/*/", "/usr/share/firebird/*/", "/usr/lib/*/firebird/*/intl/"} {
		if found, _ := filepath.Glob(pattern + name); len(found) > 0 {
			return found[0]
		}
	}
	return ""
}

// NewFirebird starts a server of its own, for programs; Stop ends it. It has a configuration, users
// and character sets of its own: those of the system are another user's.
func NewFirebird() (*Firebird, error) {
	const program = "/usr/sbin/firebird"
	if _, err := os.Stat(program); err != nil {
		return nil, err
	}
	if _, err := exec.LookPath("isql-fb"); err != nil {
		return nil, err
	}
	folder, err := folder("nexdal-fb")
	if err != nil {
		return nil, err
	}
	f := &Firebird{Folder: folder, says: filepath.Dir(find("firebird.msg"))}
	for _, name := range []string{"lock", "data", "tmp", "intl"} {
		if err := os.Mkdir(filepath.Join(folder, name), 0o700); err != nil {
			return nil, err
		}
	}
	letters := find("libfbintl.so")
	if letters == "" {
		return nil, fmt.Errorf("libfbintl.so: %w", fs.ErrNotExist)
	}
	for _, name := range []string{"libfbintl.so", "fbintl.conf"} { // a link would not do
		if err := copied(filepath.Join(folder, "intl", name), filepath.Join(filepath.Dir(letters), name)); err != nil {
			return nil, err
		}
	}
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return nil, err
	}
	f.port = l.Addr().(*net.TCPAddr).Port
	l.Close()
	config := fmt.Sprintf("SecurityDatabase = %[1]s/security.fdb\nDatabaseAccess = Restrict %[1]s/data\nAuthServer = Srp\nUserManager = Srp\nWireCrypt = Enabled\nRemoteServicePort = %[2]d\nRemoteBindAddress = 127.0.0.1\nTempDirectories = %[1]s/tmp\nIpcName = FB%[2]d\nMaxUnflushedWrites = -1\nDefaultDbCachePages = 256\n", folder, f.port)
	for name, text := range map[string]string{"firebird.conf": config, "databases.conf": "", "plugins.conf": ""} {
		if err := os.WriteFile(filepath.Join(folder, name), []byte(text), 0o600); err != nil {
			return nil, err
		}
	}
	users := fmt.Sprintf("CREATE DATABASE '%s/security.fdb';\nCOMMIT;\nCREATE USER SYSDBA PASSWORD 'masterkey' USING PLUGIN Srp;\nCREATE USER GUARDED PASSWORD 'right' USING PLUGIN Srp;\nCOMMIT;\n", folder)
	if out, err := f.isql(users, "-user", "SYSDBA"); err != nil {
		return nil, fmt.Errorf("isql-fb: %w: %s", err, out)
	}
	f.command = exec.Command(program, "-p", fmt.Sprint(f.port))
	f.command.Env = f.env()
	if err := answers(f.command, 400, func() error {
		c, err := net.Dial("tcp", fmt.Sprintf("127.0.0.1:%d", f.port))
		if err == nil {
			c.Close()
		}
		return err
	}); err != nil {
		f.Stop()
		return nil, err
	}
	// Databases are copies of an empty one: to make one takes the server longer.
	if out, err := f.isql(fmt.Sprintf("CREATE DATABASE '%s' PAGE_SIZE 8192 DEFAULT CHARACTER SET UTF8;\nCOMMIT;\nALTER DATABASE SET LINGER TO 0;\nCOMMIT;\n", f.At("empty"))); err != nil {
		f.Stop()
		return nil, fmt.Errorf("isql-fb: %w: %s", err, out)
	}
	return f, nil
}

func copied(to, from string) error {
	in, err := os.Open(from)
	if err != nil {
		return err
	}
	defer in.Close()
	out, err := os.Create(to)
	if err != nil {
		return err
	}
	if _, err := io.Copy(out, in); err != nil {
		return err
	}
	return out.Close()
}

func (f *Firebird) env() []string {
	return append(os.Environ(), "FIREBIRD="+f.Folder, "FIREBIRD_LOCK="+filepath.Join(f.Folder, "lock"), "FIREBIRD_TMP="+filepath.Join(f.Folder, "tmp"),
		"FIREBIRD_MSG="+f.says, "ISC_USER=SYSDBA", "ISC_PASSWORD=masterkey")
}

// isql sends a text to the engine's own client.
func (f *Firebird) isql(text string, more ...string) (string, error) {
	c := exec.Command("isql-fb", append([]string{"-q", "-bail", "-ch", "UTF8"}, more...)...)
	c.Env = f.env()
	c.Stdin = strings.NewReader(text)
	out, err := c.CombinedOutput()
	return string(out), err
}

// Stop ends the server and removes its folder.
func (f *Firebird) Stop() {
	if f.command != nil && f.command.Process != nil {
		f.command.Process.Kill()
		f.command.Wait()
	}
	os.RemoveAll(f.Folder)
}

func (f *Firebird) path(database string) string {
	return filepath.Join(f.Folder, "data", database+".fdb")
}

// At is how the client names a database.
func (f *Firebird) At(database string) string {
	return fmt.Sprintf("localhost/%d:%s", f.port, f.path(database))
}

// Database makes an empty database and returns its name.
func (f *Firebird) Database(t testing.TB) string {
	t.Helper()
	f.mu.Lock()
	f.made++
	name := fmt.Sprintf("t%d", f.made)
	f.mu.Unlock()
	if err := copied(f.path(name), f.path("empty")); err != nil {
		t.Fatal(err)
	}
	return name
}

// Copy copies a database's file, which nobody is to be connected to, and returns the copy's name.
func (f *Firebird) Copy(t testing.TB, database string) string {
	t.Helper()
	name := f.Database(t)
	if err := copied(f.path(name), f.path(database)); err != nil {
		t.Fatal(err)
	}
	return name
}

// URL of a database, as SYSDBA.
func (f *Firebird) URL(database string) string { return f.As("SYSDBA", "masterkey", database) }

// As is the URL of a database as somebody.
func (f *Firebird) As(user, password, database string) string {
	return fmt.Sprintf("firebird://%s:%s@127.0.0.1:%d/%s", user, password, f.port, f.path(database))
}

// Query sends SQL to a database and returns what the client prints.
func (f *Firebird) Query(t testing.TB, database, sql string) string {
	t.Helper()
	out, err := f.Try(database, sql)
	if err != nil {
		t.Fatalf("isql-fb: %v: %s\n%s", err, out, sql)
	}
	return out
}

// Try is the like for what may fail.
func (f *Firebird) Try(database, sql string) (string, error) {
	out, err := f.isql("SET HEADING OFF;\n"+sql+"\nCOMMIT;\n", f.At(database))
	return strings.TrimSpace(out), err
}

// TryAs is the like as somebody.
func (f *Firebird) TryAs(user, password, database, sql string) (string, error) {
	out, err := f.isql("SET AUTODDL OFF;\n"+sql, "-u", user, "-p", password, f.At(database))
	return strings.TrimSpace(out), err
}

// File runs a script file with the engine's own client.
func (f *Firebird) File(database, path string) (string, error) {
	return f.isql("", "-i", path, f.At(database))
}

// FileAs is the like for somebody else; what the client says of itself is left out.
func (f *Firebird) FileAs(user, password, database, path string) (string, error) {
	c := exec.Command("isql-fb", "-q", "-ch", "UTF8", "-u", user, "-p", password, "-i", path, f.At(database))
	c.Env = f.env()
	out, err := c.Output()
	return string(out), err
}

var named = regexp.MustCompile(`(?m)^/\* CREATE DATABASE .*$`)

// Dump is what the engine's own tool makes of a database's structure, in the order of the texts: it
// writes what was made first first, and goes by the numbers that it gave.
func (f *Firebird) Dump(t testing.TB, database string) string {
	t.Helper()
	c := exec.Command("isql-fb", "-q", "-ch", "UTF8", "-x", f.At(database))
	c.Env = f.env()
	out, err := c.CombinedOutput()
	if err != nil {
		t.Fatalf("isql-fb -x: %v: %s", err, out)
	}
	parts := strings.Split(named.ReplaceAllString(string(out), ""), "\n\n")
	for i, p := range parts {
		parts[i] = strings.TrimSpace(p)
	}
	slices.Sort(parts)
	return strings.Join(parts, "\n\n")
}
