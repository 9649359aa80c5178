// Profile makes cmd/nexdal/default.pgo, by which the compiler learns what the
// program spends its time on (https://go.dev/doc/pgo): surveys, judgements and
// outlines of the demo database and of a large schema, over and over.
//
//	make profile
package main

import (
	"bytes"
	"fmt"
	"os"
	"path/filepath"
	"runtime/pprof"
	"strings"

	"nexdal/internal/cli"
	"nexdal/test/sample"
)

// rounds is how often everything is done: some seconds in all.
const rounds = 60

func main() {
	if err := profile(os.Args[1]); err != nil {
		fmt.Fprintln(os.Stderr, "profile:", err)
		os.Exit(1)
	}
}

func profile(into string) error {
	folder, err := os.MkdirTemp("", "nexdal-profile")
	if err != nil {
		return err
	}
	defer os.RemoveAll(folder)
	large := filepath.Join(folder, "thousand.db")
	if err := sample.ThousandTables(large); err != nil {
		return err
	}
	if err := call("demo", "--folder", folder); err != nil {
		return err
	}
	f, err := os.Create(into)
	if err != nil {
		return err
	}
	defer f.Close()
	if err := pprof.StartCPUProfile(f); err != nil {
		return err
	}
	defer pprof.StopCPUProfile()
	survey := filepath.Join(folder, "s.json")
	for i := range rounds {
		for _, db := range []string{large, filepath.Join(folder, "saltmere.db")} {
			if err := call("survey", db, "-o", survey); err != nil {
				return err
			}
			if i%6 != 0 {
				continue
			}
			if err := call("check", db, "--fail-on", "never"); err != nil {
				return err
			}
			if err := call("outline", survey); err != nil {
				return err
			}
		}
	}
	return nil
}

func call(args ...string) error {
	var out bytes.Buffer
	if status := cli.Main(args, strings.NewReader(""), &out, &out); status != 0 {
		return fmt.Errorf("nexdal %s: %s", strings.Join(args, " "), out.String())
	}
	return nil
}
