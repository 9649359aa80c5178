package main

import (
	"bytes"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"syscall"
	"time"

	"nexdal/test/sample"
	"nexdal/test/server"
)

// fourQueries are what a person would ask for a catalog's bare bones: tables,
// columns, indexes, constraints.
const fourQueries = `
SELECT n.nspname, c.relname, c.relkind, c.reltuples FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace WHERE c.relkind IN ('r', 'p') AND n.nspname = 'public';
SELECT a.attrelid::regclass, a.attnum, a.attname, format_type(a.atttypid, a.atttypmod), a.attnotnull, pg_get_expr(d.adbin, d.adrelid) FROM pg_attribute a JOIN pg_class c ON c.oid = a.attrelid
  LEFT JOIN pg_attrdef d ON d.adrelid = a.attrelid AND d.adnum = a.attnum WHERE a.attnum > 0 AND c.relkind = 'r' AND c.relnamespace = 'public'::regnamespace;
SELECT i.indexrelid::regclass, i.indrelid::regclass, pg_get_indexdef(i.indexrelid) FROM pg_index i JOIN pg_class c ON c.oid = i.indrelid WHERE c.relnamespace = 'public'::regnamespace;
SELECT conrelid::regclass, conname, pg_get_constraintdef(oid) FROM pg_constraint WHERE connamespace = 'public'::regnamespace;
`

func load(c *exec.Cmd, sql string) error {
	c.Stdin = strings.NewReader(sql)
	if out, err := c.CombinedOutput(); err != nil {
		return fmt.Errorf("%v: %s", err, bytes.TrimSpace(out))
	}
	return nil
}

// postgres measures catalogs of 1,000 and of 10,000 tables.
func postgres(folder string) error {
	p, err := server.NewPostgres()
	if err != nil {
		return err
	}
	defer p.Stop()
	dump, err := server.Tool("pg_dump")
	if err != nil {
		return err
	}
	queries, file := filepath.Join(folder, "four.sql"), filepath.Join(folder, "p.json")
	if err := os.WriteFile(queries, []byte(fourQueries), 0o644); err != nil {
		return err
	}
	var small time.Duration
	for _, n := range []int{1000, 10000} {
		name := fmt.Sprintf("b%d", n)
		if err := load(exec.Command("psql", "-qX", "-h", p.Folder, "-U", "postgres", "postgres"), "CREATE DATABASE "+name); err != nil {
			return err
		}
		if err := load(exec.Command("psql", "-qX", "-h", p.Folder, "-U", "postgres", name), sample.Postgres(n)); err != nil {
			return err
		}
		survey := []string{program, "survey", p.URL(name), "--timeout", "5m", "-o", file}
		times, dumps, err := inTurn(5, survey, []string{dump, "-s", "-h", p.Folder, "-U", "postgres", "-f", os.DevNull, name})
		if err != nil {
			return err
		}
		again, asked, err := inTurn(5, survey, []string{"psql", "-qX", "-h", p.Folder, "-U", "postgres", "-f", queries, "-o", os.DevNull, name})
		if err != nil {
			return err
		}
		fmt.Printf("%d tables, PostgreSQL\n", n)
		row("  survey -o FILE", "%.0f ms", "", ms(times))
		row("  pg_dump --schema-only", "%.0f ms", "", ms(dumps))
		row("  four queries through psql", "%.0f ms", "", ms(asked))
		if n == 1000 {
			small = times
			continue
		}
		row("  survey / pg_dump", "%.2f", "at most 0.35", float64(times)/float64(dumps))
		row("  survey / four queries", "%.2f", "at most 1.3", float64(again)/float64(asked))
		row("  survey, 10,000 / 1,000 tables", "%.1f", "about 10", float64(times)/float64(small))
		c := exec.Command(survey[0], survey[1:]...)
		if err := c.Run(); err != nil {
			return err
		}
		if used, ok := c.ProcessState.SysUsage().(*syscall.Rusage); ok {
			row("  memory of the survey", "%.0f MB", "under 400 MB", float64(used.Maxrss)/1024)
		}
		outline, _, err := inTurn(5, []string{program, "outline", file}, nil)
		if err != nil {
			return err
		}
		row("  outline of that file", "%.0f ms", "under 1000 ms", ms(outline))
		if err := captured(folder, p, name); err != nil {
			return err
		}
		if err := planning(filepath.Dir(file)); err != nil {
			return err
		}
		if err := judgement(file); err != nil {
			return err
		}
	}
	return nil
}

// captured measures a capture of the same catalog: how long psql takes to answer, and the program
// to read the answers.
func captured(folder string, p *server.Postgres, name string) error {
	ask, result := filepath.Join(folder, "ask.sql"), filepath.Join(folder, "result.txt")
	if out, err := exec.Command(program, "capture", "postgres", "-o", ask).CombinedOutput(); err != nil {
		return fmt.Errorf("%v: %s", err, out)
	}
	client := []string{"psql", "-qX", "-h", p.Folder, "-U", "postgres", "-f", ask, name}
	read := []string{program, "survey", result, "-o", filepath.Join(folder, "captured.json")}
	answers, err := exec.Command(client[0], client[1:]...).Output()
	if err != nil {
		return err
	}
	if err := os.WriteFile(result, answers, 0o644); err != nil {
		return err
	}
	times, asked, err := inTurn(3, read, client)
	if err != nil {
		return err
	}
	row("  capture, read", "%.0f ms", "under 2000 ms", ms(times))
	row("  capture, asked by psql", "%.0f ms", "", ms(asked))
	return nil
}

// mariadb measures a catalog of 2,000 tables.
func mariadb(folder string) error {
	m, err := server.NewMariaDB()
	if err != nil {
		return err
	}
	defer m.Stop()
	if err := load(exec.Command("mariadb", "--no-defaults", "-uroot", "-S", m.Socket()), "CREATE DATABASE big; USE big; "+sample.MariaDB(2000)); err != nil {
		return err
	}
	survey, dump, err := inTurn(5, []string{program, "survey", m.URL("big"), "-o", filepath.Join(folder, "m.json")},
		[]string{"mariadb-dump", "--no-defaults", "-uroot", "-S", m.Socket(), "--no-data", "--result-file=" + os.DevNull, "big"})
	if err != nil {
		return err
	}
	fmt.Println("2,000 tables, MariaDB")
	row("  survey -o FILE", "%.0f ms", "", ms(survey))
	row("  mariadb-dump --no-data", "%.0f ms", "", ms(dump))
	row("  survey / mariadb-dump", "%.2f", "at most 0.5", float64(survey)/float64(dump))
	return nil
}
