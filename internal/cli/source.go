package cli

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

// open connects to a live source: a URL or a database file.
func (a *app) open(ctx context.Context, name string, write bool) (engine.Session, error) {
	name, err := a.named(name)
	if err != nil {
		return nil, err
	}
	o := engine.Options{Write: write, StatementTimeout: a.timeout, LockTimeout: a.lockTimeout}
	if e, ok := byScheme(name); ok {
		if e == nil {
			scheme, _, _ := strings.Cut(name, ":")
			return nil, wrong("no engine answers to %s://; there are %s", scheme, strings.Join(all.Schemes(), ", "))
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
func (a *app) named(name string) (string, error) {
	if _, isURL := byScheme(name); isURL {
		return name, nil
	}
	if _, err := os.Stat(name); err == nil {
		return name, nil
	}
	s, err := a.house()
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

// catalog reads a source of any kind, down to the schemas asked for.
func (a *app) catalog(ctx context.Context, name string) (*catalog.Catalog, error) {
	c, err := a.whole(ctx, name)
	if err == nil && len(a.schemas) > 0 {
		if missing := c.Only(a.schemas); missing != nil {
			return nil, wrong("%v in %s", missing, engine.Redact(name))
		}
	}
	if err == nil {
		err = a.accept(c, nil)
	}
	if err != nil {
		return nil, err
	}
	return c, nil
}

func (a *app) whole(ctx context.Context, name string) (*catalog.Catalog, error) {
	name, err := a.named(name)
	if err != nil {
		return nil, err
	}
	if _, isURL := byScheme(name); !isURL {
		head, err := headOf(name)
		if err != nil {
			return nil, err
		}
		if isJSON(head) {
			return readSurvey(name)
		}
	}
	s, err := a.open(ctx, name, false)
	if err != nil {
		return nil, err
	}
	defer s.Close()
	return s.Survey(ctx)
}

func readSurvey(path string) (*catalog.Catalog, error) {
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

// abilities of the engine that a catalog came from.
func abilities(c *catalog.Catalog) (catalog.Abilities, error) {
	e := all.ByName(c.Engine.Name)
	if e == nil {
		return catalog.Abilities{}, fmt.Errorf("the survey is of engine %q, which this program does not know", c.Engine.Name)
	}
	return e.Abilities(c.Engine.Version), nil
}

// expressions reads those of the catalog; of an engine that is not known nothing is.
func expressions(c *catalog.Catalog) catalog.Expressions {
	can, _ := abilities(c)
	return can.Reads()
}

// table finds the table that a person named, with or without its schema; in
// doubt it says what there is.
func table(c *catalog.Catalog, name string) (*catalog.Table, error) {
	var same, folded []*catalog.Table
	for _, t := range c.Tables() {
		switch {
		case t.Name == name || t.Ref().String() == name:
			same = append(same, t)
		case strings.EqualFold(t.Name, name) || strings.EqualFold(t.Ref().String(), name):
			folded = append(folded, t)
		}
	}
	if len(same) == 0 {
		same = folded
	}
	switch len(same) {
	case 1:
		return same[0], nil
	case 0:
		if near := nearest(c, name); len(near) > 0 {
			return nil, wrong("there is no table %s; near it are %s", name, strings.Join(near, ", "))
		}
		return nil, wrong("there is no table %s; nexdal outline lists what there is", name)
	}
	var refs []string
	for _, t := range same {
		refs = append(refs, t.Ref().String())
	}
	return nil, wrong("%s is the name of several tables: %s; give one with its schema", name, strings.Join(refs, ", "))
}
