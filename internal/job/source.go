package job

import (
	"context"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/all"
)

// Open connects to a live source: a URL or a database file.
func (j *Job) Open(ctx context.Context, name string, write bool) (engine.Session, error) {
	name, err := j.named(name)
	if err != nil {
		return nil, err
	}
	o := engine.Options{Write: write, StatementTimeout: j.Timeout, LockTimeout: j.LockTimeout}
	if e, ok := byScheme(name); ok {
		if e == nil {
			scheme, _, _ := strings.Cut(name, ":")
			return nil, Wrong("no engine answers to %s://; there are %s", scheme, strings.Join(all.Schemes(), ", "))
		}
		return e.Open(ctx, name, o)
	}
	head, err := headOf(name)
	if err != nil {
		return nil, err
	}
	e := all.ByFile(head)
	if e == nil {
		return nil, &engine.SourceError{Place: name, Kind: engine.ErrNotDatabase, Err: errors.New(looksLike(head)), Hint: "name a database file, or a URL"}
	}
	return e.Open(ctx, e.FileURL(name), o)
}

// named is the address of a source that has a name in the settings; a file of
// that name goes first. Everything else is its own address.
func (j *Job) named(name string) (string, error) {
	if _, isURL := byScheme(name); isURL {
		return name, nil
	}
	if _, err := os.Stat(name); err == nil {
		return name, nil
	}
	s, err := j.Settings()
	if err != nil {
		return "", err
	}
	if x, ok := s.Sources[name]; ok {
		return x.Address, nil
	}
	return name, nil
}

// byScheme finds the engine that a URL leads to; ok says whether name is a URL
// at all.
func byScheme(name string) (e engine.Opener, ok bool) {
	scheme, rest, found := strings.Cut(name, ":")
	if !found || scheme == "" || strings.ContainsAny(scheme, `/\. `) {
		return nil, false
	}
	if e := all.ByScheme(scheme); e != nil {
		return e, true
	}
	return nil, strings.HasPrefix(rest, "//")
}

func headOf(path string) ([]byte, error) {
	f, err := os.Open(path)
	if err != nil {
		hint := "check the path and your rights on it"
		if errors.Is(err, fs.ErrNotExist) {
			hint = "name a database file, a survey file, or a URL such as postgres://user@host/database"
		}
		return nil, &engine.SourceError{Place: path, Kind: engine.ErrUnreachable, Err: errors.Unwrap(err), Hint: hint}
	}
	defer f.Close()
	if info, err := f.Stat(); err == nil && info.IsDir() {
		return nil, &engine.SourceError{Place: path, Kind: engine.ErrNotDatabase, Err: errors.New("it is a folder"), Hint: "name the file in it"}
	}
	head := make([]byte, 512)
	n, err := io.ReadFull(f, head)
	if err != nil && !errors.Is(err, io.ErrUnexpectedEOF) && !errors.Is(err, io.EOF) {
		return nil, &engine.SourceError{Place: path, Kind: engine.ErrUnreachable, Err: err}
	}
	return head[:n], nil
}

func looksLike(head []byte) string {
	switch {
	case len(head) == 0:
		return "it is empty"
	case isJSON(head):
		return "it is a survey file, and this command needs the database itself"
	}
	return "it does not begin like one"
}

func isJSON(head []byte) bool { return strings.HasPrefix(strings.TrimSpace(string(head)), "{") }

// Catalog reads a source of any kind, down to the schemas asked for.
func (j *Job) Catalog(ctx context.Context, name string) (*catalog.Catalog, error) {
	c, err := j.whole(ctx, name)
	if err == nil && len(j.Schemas) > 0 {
		if missing := c.Only(j.Schemas); missing != nil {
			return nil, Wrong("%v in %s", missing, engine.Redact(name))
		}
	}
	if err == nil {
		err = j.Accept(c, nil)
	}
	if err != nil {
		return nil, err
	}
	return c, nil
}

func (j *Job) whole(ctx context.Context, name string) (*catalog.Catalog, error) {
	name, err := j.named(name)
	if err != nil {
		return nil, err
	}
	if _, isURL := byScheme(name); !isURL {
		head, err := headOf(name)
		if err != nil {
			return nil, err
		}
		if isJSON(head) {
			return ReadSurvey(name)
		}
	}
	s, err := j.Open(ctx, name, false)
	if err != nil {
		return nil, err
	}
	defer s.Close()
	return s.Survey(ctx)
}

// ReadSurvey reads a survey file.
func ReadSurvey(path string) (*catalog.Catalog, error) {
	f, err := os.Open(path)
	if err != nil {
		return nil, &engine.SourceError{Place: path, Kind: engine.ErrUnreachable, Err: err}
	}
	defer f.Close()
	c, err := catalog.Read(f)
	switch {
	case errors.Is(err, catalog.ErrNotSurvey):
		return nil, &engine.SourceError{Place: path, Kind: err, Hint: "make one with nexdal survey"}
	case err != nil:
		return nil, &engine.SourceError{Place: path, Kind: errors.New("cannot be used"), Err: err}
	}
	return c, nil
}

// Abilities of the engine that a catalog came from.
func Abilities(c *catalog.Catalog) (catalog.Abilities, error) {
	e := all.ByName(c.Engine.Name)
	if e == nil {
		return catalog.Abilities{}, fmt.Errorf("the survey is of engine %q, which this program does not know", c.Engine.Name)
	}
	return e.Abilities(c.Engine.Version), nil
}

// Expressions reads those of the catalog; of an engine that is not known nothing is.
func Expressions(c *catalog.Catalog) catalog.Expressions {
	can, _ := Abilities(c)
	return can.Reads()
}

// IsFile reports whether the source is a survey file.
func (j *Job) IsFile(source string) bool {
	if _, isURL := byScheme(source); isURL {
		return false
	}
	head, err := headOf(source)
	return err == nil && isJSON(head)
}

// WriterOf is the engine that scripts for the catalog are written by.
func WriterOf(c *catalog.Catalog) (engine.Writer, error) {
	if w, ok := all.ByName(c.Engine.Name).(engine.Writer); ok {
		return w, nil
	}
	return nil, Wrong("no scripts can be written for engine %q", c.Engine.Name)
}
