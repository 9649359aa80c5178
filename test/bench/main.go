// Bench measures what the design promises of speed and size, and prints each
// figure beside its limit. Two things that are compared run in turn, so that a
// machine that slows down slows both. Nothing here fails: the figures are for
// people.
//
//	make bench
package main

import (
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"nexdal/test/sample"
)

const program = "bin/nexdal"

func main() {
	folder, err := os.MkdirTemp("", "nexdal-bench")
	if err == nil {
		defer os.RemoveAll(folder)
		err = bench(folder)
	}
	if err != nil {
		fmt.Fprintln(os.Stderr, "bench:", err)
		os.Exit(1)
	}
}

func bench(folder string) error {
	if len(os.Args) > 1 && os.Args[1] == "large" {
		return large(folder)
	}
	if len(os.Args) > 1 && os.Args[1] == "draw" { // with surveys of further structures
		return drawings(folder, os.Args[2:]...)
	}
	info, err := os.Stat(program)
	if err != nil {
		return err
	}
	row("size of the program", "%.1f MB", "under 45 MB", float64(info.Size())/1e6)
	help, _, err := inTurn(21, []string{program, "--help"}, nil)
	if err != nil {
		return err
	}
	row("start, until --help is out", "%.1f ms", "under 30 ms", ms(help))
	if err := thousandTables(folder, "ten columns", sample.ThousandTables); err != nil {
		return err
	}
	if err := thousandTables(folder, "five columns", sample.ThousandNarrow); err != nil {
		return err
	}
	if err := postgres(folder); err != nil {
		return err
	}
	if err := mariadb(folder); err != nil {
		return err
	}
	if err := probing(folder); err != nil {
		return err
	}
	if err := large(folder); err != nil {
		return err
	}
	return drawings(folder)
}

// large times what large tables need: partitions judged and made, and the spread of a
// whole cluster.
func large(folder string) error {
	fmt.Println("partitions and clusters")
	survey := filepath.Join(folder, "large.json")
	if err := save(sample.Days(5000), survey); err != nil {
		return err
	}
	judged, _, err := inTurn(5, []string{program, "check", survey, "--fail-on", "never", "-o", filepath.Join(folder, "large.txt")}, nil)
	if err != nil {
		return err
	}
	made, _, err := inTurn(5, []string{program, "script", "partitions", survey, "reading", "--until", "2029-09-05", "-o", filepath.Join(folder, "large.sql")}, nil)
	if err != nil {
		return err
	}
	row("  5,000 partitions judged", "%.0f ms", "", ms(judged))
	row("  1,000 more in a script", "%.0f ms", "both under 2000 ms", ms(made))
	if err := save(sample.Cluster(9, 2000, 5000), survey); err != nil {
		return err
	}
	spread, _, err := inTurn(3, []string{program, "script", "spread", survey, "-o", filepath.Join(folder, "spread.sql")}, nil)
	if err != nil {
		return err
	}
	row("  spread of 2,000 tables", "%.1f s", "under 10 s", spread.Seconds())
	return nil
}

// thousandTables compares a survey, printed and put into a file, with what the
// engine's own shell takes to print the same schema.
func thousandTables(folder, kind string, build func(path string) error) error {
	path := filepath.Join(folder, kind+".db")
	if err := build(path); err != nil {
		return err
	}
	fmt.Printf("1,000 tables of %s, SQLite\n", kind)
	for _, c := range []struct {
		what string
		more []string
	}{{"survey", nil}, {"survey -o FILE", []string{"-o", filepath.Join(folder, "s.json")}}} {
		survey, schema, err := inTurn(15, append([]string{program, "survey", path}, c.more...), []string{"sqlite3", path, ".schema"})
		if err != nil {
			return err
		}
		row("  "+c.what, "%.0f ms", "", ms(survey))
		row("  sqlite3 FILE .schema", "%.0f ms", "", ms(schema))
		row("  "+c.what+" / .schema", "%.1f", "at most 3", float64(survey)/float64(schema))
	}
	return nil
}

// inTurn runs a and b, where b is given, so many times in turn after one run
// of each that does not count, and returns the medians.
func inTurn(n int, a, b []string) (ma, mb time.Duration, err error) {
	var as, bs []time.Duration
	for i := range n + 1 {
		for _, c := range []struct {
			args []string
			into *[]time.Duration
		}{{a, &as}, {b, &bs}} {
			if c.args == nil {
				continue
			}
			began := time.Now()
			if out, err := exec.Command(c.args[0], c.args[1:]...).CombinedOutput(); err != nil {
				return 0, 0, fmt.Errorf("%s: %v: %s", strings.Join(c.args, " "), err, out)
			}
			if i > 0 {
				*c.into = append(*c.into, time.Since(began))
			}
		}
	}
	return median(as), median(bs), nil
}

func median(d []time.Duration) time.Duration {
	if len(d) == 0 {
		return 0
	}
	slices.Sort(d)
	return d[len(d)/2]
}

func ms(d time.Duration) float64 { return float64(d.Microseconds()) / 1000 }

func row(what, format, limit string, value float64) {
	fmt.Printf("%-34s %12s  %s\n", what, fmt.Sprintf(format, value), limit)
}
