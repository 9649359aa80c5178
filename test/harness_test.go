package test

import (
	"bytes"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"sync"
	"testing"

	"nexdal/test/server"
)

var program string

// builtAlready is the environment variable with the path of the program, where it was built from these
// sources just before.
const builtAlready = "NEXDAL_PROGRAM"

func TestMain(m *testing.M) {
	if program = os.Getenv(builtAlready); program != "" {
		server.Main(m)
	}
	folder, err := os.MkdirTemp("", "nexdal-test")
	if err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
	program = filepath.Join(folder, "nexdal")
	build := exec.Command("go", "build", "-o", program, "../cmd/nexdal")
	build.Env = append(os.Environ(), "CGO_ENABLED=0")
	if out, err := build.CombinedOutput(); err != nil {
		fmt.Fprintf(os.Stderr, "the program does not build: %v\n%s", err, out)
		os.Exit(1)
	}
	server.Main(m) // exits; the folder is the system's to clear
}

// walked and built are folders in which the demo was walked through, and only built, once for all
// tests that ask for what it leaves, with what it said.
var (
	walked = onceDemo()
	built  = onceDemo("--build-only")
)

func onceDemo(flags ...string) func() (folder, said string) {
	return sync.OnceValues(func() (string, string) {
		folder, err := os.MkdirTemp("", "nexdal-test")
		if err != nil {
			panic(err)
		}
		out, err := command(folder, append([]string{"demo", "--folder", "."}, flags...)...).Output()
		if err != nil {
			panic(err)
		}
		return folder, string(out)
	})
}

// demoFolder is a folder of the test's own with what the demo leaves.
func demoFolder(t testing.TB) string { return copied(t, walked) }

// builtFolder is one with the demo's database, faults and all.
func builtFolder(t testing.TB) string { return copied(t, built) }

func copied(t testing.TB, demo func() (string, string)) string {
	t.Helper()
	from, _ := demo()
	folder := t.TempDir()
	if err := os.CopyFS(folder, os.DirFS(from)); err != nil {
		t.Fatal(err)
	}
	return folder
}

// A result is what a call of the program came to.
type result struct {
	status   int
	out, err string
}

// nexdal calls the program in a folder.
func nexdal(t testing.TB, folder string, args ...string) result {
	t.Helper()
	return call(t, command(folder, args...))
}

func command(folder string, args ...string) *exec.Cmd {
	c := exec.Command(program, args...)
	c.Dir = folder
	for _, v := range os.Environ() {
		if !strings.HasPrefix(v, "PG") && !strings.HasPrefix(v, "NEXDAL_") { // the tester's own servers and files are not the tests'
			c.Env = append(c.Env, v)
		}
	}
	c.Env = append(c.Env, "PGPASSFILE=/nonexistent")
	return c
}

func call(t testing.TB, c *exec.Cmd) result {
	t.Helper()
	var out, errOut bytes.Buffer
	c.Stdout, c.Stderr = &out, &errOut
	err := c.Run()
	var exit *exec.ExitError
	if err != nil && !errors.As(err, &exit) {
		t.Fatal(err)
	}
	return result{c.ProcessState.ExitCode(), out.String(), errOut.String()}
}

// must calls the program and expects it to succeed.
func must(t testing.TB, folder string, args ...string) string {
	t.Helper()
	r := nexdal(t, folder, args...)
	if r.status != 0 {
		t.Fatalf("nexdal %s: status %d\n%s%s", strings.Join(args, " "), r.status, r.out, r.err)
	}
	return r.out
}

// sqlite makes a database file with the engine's own shell.
func sqlite(t testing.TB, path, sql string) string {
	t.Helper()
	c := exec.Command("sqlite3", "-bail", path)
	c.Stdin = strings.NewReader(sql)
	out, err := c.CombinedOutput()
	if err != nil {
		t.Fatalf("sqlite3: %v: %s", err, out)
	}
	return strings.TrimSpace(string(out))
}

func write(t testing.TB, path, text string) {
	t.Helper()
	if err := os.WriteFile(path, []byte(text), 0o644); err != nil {
		t.Fatal(err)
	}
}

func read(t testing.TB, path string) string {
	t.Helper()
	text, err := os.ReadFile(path)
	if err != nil {
		t.Fatal(err)
	}
	return string(text)
}

// dated are a survey's moments, which pass by themselves or with a crash of the server.
var dated = regexp.MustCompile(`(?m)^ *"surveyed": .*$|^ *\{"name": "statistics_since", .*$`)

// structure surveys a source without figures and date.
func structure(t testing.TB, folder, source string, more ...string) string {
	t.Helper()
	return dated.ReplaceAllString(must(t, folder, append([]string{"survey", source, "--structure-only"}, more...)...), "")
}

// files lists a folder, hidden files too.
func files(t testing.TB, folder string) string {
	t.Helper()
	entries, err := os.ReadDir(folder)
	if err != nil {
		t.Fatal(err)
	}
	var names []string
	for _, e := range entries {
		names = append(names, e.Name())
	}
	return strings.Join(names, " ")
}

func match(t testing.TB, what, text, pattern string) {
	t.Helper()
	if !regexp.MustCompile(pattern).MatchString(text) {
		t.Errorf("%s: %q does not match %q", what, text, pattern)
	}
}
