package job

import (
	"context"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"maps"
	"os"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/all"
	"nexdal/internal/settings"
	"nexdal/internal/text"
)

// Open connects to a live source: a URL or a database file.
func (j *Job) Open(ctx context.Context, name string, write bool) (engine.Session, error) {
	source, err := j.Named(name)
	if err != nil {
		return nil, err
	}
	name = source.Address
	o := engine.Options{Write: write, StatementTimeout: j.Timeout, LockTimeout: j.LockTimeout, Watch: j.Watch, Meter: j.Meter, Full: j.Full, Rows: j.Rows, Fetched: j.Fetched}
	if e, ok := byScheme(name); ok {
		if e == nil {
			scheme, _, _ := strings.Cut(name, ":")
			if _, ok := all.ByName(scheme).(engine.Capturer); ok {
				return nil, Wrong("there is no way to connect to %[1]s; \"nexdal capture %[1]s\" writes what its own client has to ask", scheme)
			}
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

// Named is the source that has that name in the settings, with what belongs to it there; a
// file of that name goes first. Everything else is its own address, and nothing belongs to it.
func (j *Job) Named(name string) (settings.Source, error) {
	plain := settings.Source{Address: name}
	if _, isURL := byScheme(name); isURL || name == Input || name == "" {
		return plain, nil
	}
	if _, err := os.Stat(name); err == nil {
		return plain, nil
	}
	s, err := j.Settings()
	if err != nil {
		return plain, err
	}
	x, ok := s.Sources[name]
	if !ok {
		if near := nearestSource(s, name); near != "" {
			return plain, &engine.SourceError{Place: name, Kind: engine.ErrUnreachable, Err: fs.ErrNotExist, Hint: "the settings have a source " + near}
		}
		return plain, nil
	}
	x.Address, x.Evidence, x.Baseline = address(x), x.Beside(x.Evidence), x.Beside(x.Baseline)
	return x, nil
}

// nearestSource is the name in the settings that the one given may have been meant to be; "" where
// none is like it.
func nearestSource(s *settings.Settings, name string) string {
	near := text.Nearest(name, slices.Collect(maps.Keys(s.Sources)))
	if near == "" || strings.ContainsAny(name, "/.") || text.Distance(name, near) > 1+len(name)/3 {
		return ""
	}
	return near
}

// address is that of a source in the settings, whose files lie where the settings do.
func address(x settings.Source) string {
	e, isURL := byScheme(x.Address)
	scheme, path, _ := strings.Cut(x.Address, ":")
	switch _, file := e.(engine.FileOpener); {
	case !isURL:
		return x.Beside(x.Address)
	case file && !strings.HasPrefix(path, "//"):
		return scheme + ":" + x.Beside(path)
	}
	return x.Address
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
	head := make([]byte, 4096) // what a client says first may stand before a capture
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
	case isCapture(head):
		return "it is a capture, and this command needs the database itself"
	case isJSON(head):
		return "it is a survey file, and this command needs the database itself"
	}
	return "it does not begin like one"
}

func isJSON(head []byte) bool { return strings.HasPrefix(strings.TrimSpace(string(head)), "{") }

// Catalog reads a source of any kind, down to the scope asked for.
func (j *Job) Catalog(ctx context.Context, name string) (*catalog.Catalog, error) {
	c, err := j.Read(ctx, name)
	if err == nil {
		err = j.Accept(c, nil)
	}
	if err != nil {
		return nil, err
	}
	return c, nil
}

// Read is Catalog without the references that people accepted.
func (j *Job) Read(ctx context.Context, name string) (*catalog.Catalog, error) {
	c, err := j.whole(ctx, name)
	if err == nil {
		err = j.Narrow(c, name)
	}
	if err != nil {
		return nil, err
	}
	return c, nil
}

// Narrow leaves of a catalog what is in the scope: the call's, or that of the source in the
// settings.
func (j *Job) Narrow(c *catalog.Catalog, name string) error {
	source, err := j.Named(name)
	if err != nil {
		return err
	}
	scope := j.Scope
	if len(scope.Schemas) == 0 {
		scope.Schemas = source.Schemas
	}
	if len(scope.Without) == 0 {
		scope.Without = source.Without
	}
	if err := c.Only(scope); err != nil {
		return Wrong("%v in %s", err, engine.Redact(name))
	}
	return nil
}

// Input is the source that is a survey on the standard input.
const Input = "-"

func (j *Job) whole(ctx context.Context, name string) (*catalog.Catalog, error) {
	source, err := j.Named(name)
	if err != nil {
		return nil, err
	}
	if name = source.Address; name == Input {
		return surveyFrom(j.In, "the standard input")
	}
	if _, isURL := byScheme(name); !isURL {
		path, database := chosen(name)
		head, err := headOf(path)
		switch {
		case err != nil:
			return nil, err
		case isJSON(head):
			return ReadSurvey(name)
		case isCapture(head):
			return ReadCapture(path, database)
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
	return surveyFrom(f, path)
}

func surveyFrom(r io.Reader, path string) (*catalog.Catalog, error) {
	c, err := catalog.Read(r)
	switch {
	case errors.Is(err, catalog.ErrNotSurvey):
		return nil, &engine.SourceError{Place: path, Kind: err, Hint: "make one with nexdal survey"}
	case err != nil:
		return nil, &engine.SourceError{Place: path, Kind: errors.New("cannot be used"), Err: errors.New(text.Plain(err))}
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

// IsFile reports whether the source is a survey file or a capture: no database that could be
// asked.
func (j *Job) IsFile(source string) bool {
	x, err := j.Named(source)
	if err != nil {
		return false
	}
	if x.Address == Input {
		return true
	}
	if _, isURL := byScheme(x.Address); isURL {
		return false
	}
	path, _ := chosen(x.Address)
	head, err := headOf(path)
	return err == nil && (isJSON(head) || isCapture(head))
}

// WriterOf is the engine that scripts for the catalog are written by.
func WriterOf(c *catalog.Catalog) (engine.Writer, error) {
	if w, ok := all.ByName(c.Engine.Name).(engine.Writer); ok {
		return w, nil
	}
	return nil, Wrong("no scripts can be written for engine %q", c.Engine.Name)
}
