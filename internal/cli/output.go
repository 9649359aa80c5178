package cli

import (
	"bufio"
	"bytes"
	"context"
	"encoding/json"
	"io"
	"os"
	"path/filepath"
	"strconv"
	"strings"

	"github.com/spf13/pflag"
	"golang.org/x/term"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/all"
	"nexdal/internal/job"
	"nexdal/internal/report"
	"nexdal/internal/text"
)

// page makes a page of w: coloured and as wide as the window on a terminal, plain and as wide as
// COLUMNS says, or 100, elsewhere.
func (a *app) page(w io.Writer) *report.Page {
	p := &report.Page{Writer: w, Width: 100, Colour: a.colour == "always", EngineTitle: engineTitle}
	if n, err := strconv.Atoi(os.Getenv("COLUMNS")); err == nil && n > 40 {
		p.Width = min(n, 160)
	}
	f, ok := w.(*os.File)
	if !ok || !term.IsTerminal(int(f.Fd())) {
		return p
	}
	p.Colour = a.colour == "always" || a.colour != "never" && os.Getenv("NO_COLOR") == "" && os.Getenv("TERM") != "dumb"
	if width, _, err := term.GetSize(int(f.Fd())); err == nil && width > 40 {
		p.Width = min(width, 160)
	}
	return p
}

func engineTitle(name string) string {
	if e := all.ByName(name); e != nil {
		return e.Title()
	}
	return name
}

// emitText is emit of a text.
func (a *app) emitText(path, text string) error {
	return a.emit(path, func(w io.Writer) error {
		_, err := io.WriteString(w, text)
		return err
	})
}

// emit hands a writer to write and puts the result where -o says, whole or not
// at all: the file changes only once everything has been written.
func (a *app) emit(path string, write func(io.Writer) error) error {
	if path == "" || path == "-" {
		if f, ok := a.out.(*os.File); ok && term.IsTerminal(int(f.Fd())) {
			return write(f)
		}
		// What is written is known whole by now: nothing can come to fail but
		// the reader.
		out := bufio.NewWriterSize(a.out, 1<<16)
		if err := write(out); err != nil {
			return err
		}
		return out.Flush()
	}
	return writeFile(path, write)
}

func writeFile(path string, write func(io.Writer) error) error {
	if special(path) {
		return writeThrough(path, write)
	}
	if target, err := filepath.EvalSymlinks(path); err == nil {
		path = target // the link stays one
	}
	f, err := os.CreateTemp(filepath.Dir(path), "."+filepath.Base(path)+".*")
	if err != nil {
		return wrong("%s cannot be written: %v; name another place with -o", path, job.Cause(err))
	}
	defer os.Remove(f.Name()) // of no effect once renamed
	defer f.Close()
	if err := write(f); err != nil {
		return err
	}
	if err := f.Sync(); err != nil {
		return wrong("%s cannot be written: %v", path, job.Cause(err))
	}
	if err := f.Chmod(0o644); err != nil {
		return wrong("%s cannot be written: %v", path, job.Cause(err))
	}
	if err := f.Close(); err != nil {
		return wrong("%s cannot be written: %v", path, job.Cause(err))
	}
	if info, err := os.Stat(path); err == nil && info.IsDir() {
		return wrong("%s is a folder; name a file with -o", path)
	}
	if err := replaceable(path, f.Name()); err != nil {
		return err
	}
	if err := os.Rename(f.Name(), path); err != nil {
		return wrong("%s cannot be written: %v", path, job.Cause(err))
	}
	return nil
}

// special reports whether something other than a file or folder is there, a
// device or a pipe, which must not be put a file in place of.
func special(path string) bool {
	info, err := os.Stat(path)
	return err == nil && !info.Mode().IsRegular() && !info.IsDir()
}

func writeThrough(path string, write func(io.Writer) error) error {
	f, err := os.OpenFile(path, os.O_WRONLY, 0)
	if err != nil {
		return wrong("%s cannot be written: %v", path, job.Cause(err))
	}
	defer f.Close()
	out := bufio.NewWriterSize(f, 1<<16)
	if err := write(out); err != nil {
		return err
	}
	if err := out.Flush(); err != nil {
		return wrong("%s cannot be written: %v", path, job.Cause(err))
	}
	return nil
}

// writable finds out before the work begins whether its results can be put down.
func writable(paths ...string) error {
	for _, path := range paths {
		if path == "" || path == "-" {
			continue
		}
		if err := writeProbe(path); err != nil {
			return err
		}
	}
	return nil
}

// read reads a source, once it is known that the result can be put down.
func (a *app) read(ctx context.Context, source string, outputs ...string) (*catalog.Catalog, error) {
	if err := writable(outputs...); err != nil {
		return nil, err
	}
	if err := apart(source, outputs...); err != nil {
		return nil, err
	}
	return a.Catalog(ctx, source)
}

// judged reads and judges a source, once it is known that the results can be put down.
func (a *app) judged(ctx context.Context, source, data string, outputs ...string) (*job.Subject, error) {
	if err := writable(outputs...); err != nil {
		return nil, err
	}
	if err := apart(source, outputs...); err != nil {
		return nil, err
	}
	return a.Judged(ctx, source, data)
}

func writeProbe(path string) error {
	if special(path) {
		return nil // opening a pipe would wait for its reader
	}
	if info, err := os.Stat(path); err == nil && info.IsDir() {
		return wrong("%s is a folder; name a file with -o", path)
	}
	if head, err := beginning(path); err == nil && all.ByFile(head) != nil {
		return wrong("%s is a database, and is not overwritten; name another file with -o", path)
	}
	f, err := os.CreateTemp(filepath.Dir(path), "."+filepath.Base(path)+".*")
	if err != nil {
		return wrong("%s cannot be written: %v; name another place with -o", path, job.Cause(err))
	}
	f.Close()
	return os.Remove(f.Name())
}

// evidenceFlag is the flag by which evidence is named, the same for all commands.
func evidenceFlag(f *pflag.FlagSet, path *string) {
	f.StringVar(path, "evidence", "", "evidence file of nexdal probe (default: "+job.EvidenceFile+", here or in a folder above, where it is of this database)")
}

// format checks --format against what a command knows.
func format(given string, known ...string) error {
	for _, k := range known {
		if given == k {
			return nil
		}
	}
	return wrong("there is no format %q here; there are %s", given, strings.Join(known, ", "))
}

func encodeJSON(w io.Writer, v any) error {
	var b bytes.Buffer
	e := json.NewEncoder(&b)
	e.SetIndent("", "  ")
	e.SetEscapeHTML(false)
	if err := e.Encode(v); err != nil {
		return err
	}
	_, err := w.Write(text.JSON(b.Bytes()))
	return err
}
