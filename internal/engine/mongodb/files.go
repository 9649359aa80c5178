package mongodb

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"math/rand/v2"
	"os"
	"path/filepath"
	"slices"
	"strings"

	"go.mongodb.org/mongo-driver/v2/bson"

	"nexdal/internal/engine"
	"nexdal/internal/engine/mongodb/filter"
)

// files are exported documents: of each collection a file of JSON lines, or one list, in extended JSON
// (https://www.mongodb.com/docs/manual/reference/mongodb-extended-json/).
type files struct {
	folder string
	paths  map[string]string // by collection
}

// Endings of such files, the first that is there counts; and of the file beside it with what
// getIndexes() tells.
var (
	endings      = []string{".jsonl", ".ndjson", ".json"}
	ofIndexes    = ".indexes.json"
	errNoFiles   = errors.New("it holds no .jsonl, .ndjson or .json file")
	errNotObject = errors.New("it is no document")
)

func openFiles(folder string) (*files, error) {
	wrong := func(err error, hint string) error {
		return &engine.SourceError{Place: "docs:" + folder, Kind: engine.ErrUnreachable, Err: err, Hint: hint}
	}
	list, err := os.ReadDir(folder)
	if err != nil {
		var p *fs.PathError
		if errors.As(err, &p) {
			err = p.Err
		}
		return nil, wrong(err, "name a folder with a file of JSON lines for each collection")
	}
	f := &files{folder: folder, paths: map[string]string{}}
	for _, ending := range endings {
		for _, e := range list {
			name, is := strings.CutSuffix(e.Name(), ending)
			if !is || e.IsDir() || name == "" || strings.HasSuffix(e.Name(), ofIndexes) || f.paths[name] != "" {
				continue
			}
			f.paths[name] = filepath.Join(folder, e.Name())
		}
	}
	if len(f.paths) == 0 {
		return nil, wrong(errNoFiles, "export each collection into a file of JSON lines")
	}
	return f, nil
}

func (f *files) about(context.Context) (string, string, error) {
	path, err := filepath.Abs(f.folder)
	return "(from files)", filepath.Base(path), err
}

func (f *files) collections(context.Context) ([]collection, error) {
	var all []collection
	for name := range f.paths {
		all = append(all, collection{name: name, kind: "collection"})
	}
	slices.SortFunc(all, func(a, b collection) int { return strings.Compare(a.name, b.name) })
	return all, nil
}

// seed lets the same documents be drawn each time.
const seed = 1953

// documents draws by going over all of them once.
func (f *files) documents(ctx context.Context, name string, some int64, take func(bson.Raw) error) error {
	if some == 0 {
		return f.each(ctx, name, take)
	}
	type drawn struct {
		n   int64
		doc bson.Raw
	}
	var held []drawn
	r := rand.New(rand.NewPCG(seed, uint64(len(name))))
	n := int64(0)
	err := f.each(ctx, name, func(doc bson.Raw) error {
		n++
		if int64(len(held)) < some {
			held = append(held, drawn{n, slices.Clone(doc)})
		} else if at := r.Int64N(n); at < some {
			held[at] = drawn{n, slices.Clone(doc)}
		}
		return nil
	})
	if err != nil {
		return err
	}
	slices.SortFunc(held, func(a, b drawn) int { return int(a.n - b.n) })
	for _, d := range held {
		if err := take(d.doc); err != nil {
			return err
		}
	}
	return nil
}

// each goes over all documents of a file.
func (f *files) each(ctx context.Context, name string, take func(bson.Raw) error) error {
	path := f.paths[name]
	in, err := os.Open(path)
	if err != nil {
		return &engine.SourceError{Place: path, Kind: engine.ErrUnreachable, Err: errors.Unwrap(err)}
	}
	defer in.Close()
	r := bufio.NewReaderSize(in, 1<<20)
	if mark, err := r.Peek(3); err == nil && string(mark) == "\xef\xbb\xbf" {
		_, _ = r.Discard(3)
	}
	line := 1
	for {
		text, place, err := next(r, &line)
		if errors.Is(err, io.EOF) {
			return nil
		}
		if err == nil {
			err = ctx.Err()
		}
		if err != nil {
			return err
		}
		var doc bson.Raw
		if err := bson.UnmarshalExtJSON(text, false, &doc); err != nil {
			return &engine.SourceError{Place: fmt.Sprintf("%s, line %d", path, place), Kind: engine.ErrDamaged, Err: errNotObject, Hint: "each line has to be one document in extended JSON"}
		}
		if err := take(doc); err != nil {
			return err
		}
	}
}

// next is the next document's text: a line, or, of a list that is broken over several, as far as its
// brackets go.
func next(r *bufio.Reader, line *int) (text []byte, place int, err error) {
	depth, quoted, escaped := 0, false, false
	for {
		c, err := r.ReadByte()
		if err != nil {
			if depth > 0 && errors.Is(err, io.EOF) {
				return text, place, nil // cut off: it will not be understood
			}
			return nil, *line, err
		}
		if c == '\n' {
			*line++
		}
		if depth == 0 {
			switch c {
			case ' ', '\t', '\r', '\n', ',', '[', ']':
				continue
			case '{':
				place = *line
			default: // no document: the line is shown to be none
				rest, err := r.ReadBytes('\n')
				if err != nil && !errors.Is(err, io.EOF) {
					return nil, *line, err
				}
				return append([]byte{c}, rest...), *line, nil
			}
		}
		text = append(text, c)
		switch {
		case escaped:
			escaped = false
		case quoted && c == '\\':
			escaped = true
		case c == '"':
			quoted = !quoted
		case quoted:
		case c == '{':
			depth++
		case c == '}':
			if depth--; depth == 0 {
				return text, place, nil
			}
		}
	}
}

// indexes are told by a file beside: what getIndexes() shows.
func (f *files) indexes(_ context.Context, name string) ([]index, error) {
	text, err := os.ReadFile(filepath.Join(f.folder, name+ofIndexes))
	if errors.Is(err, fs.ErrNotExist) {
		return nil, errNotTold
	}
	if err != nil {
		return nil, err
	}
	var list struct{ Indexes []bson.Raw }
	if err := bson.UnmarshalExtJSON(append(append([]byte(`{"indexes":`), text...), '}'), false, &list); err != nil {
		return nil, &engine.SourceError{Place: name + ofIndexes, Kind: engine.ErrDamaged, Err: errors.New("it is no list of indexes"), Hint: "write what getIndexes() shows"}
	}
	var all []index
	for _, spec := range list.Indexes {
		all = append(all, index{spec: spec})
	}
	return all, nil
}

// errNotTold says that a store knows nothing of it.
var errNotTold = errors.New("files say nothing of it")

func (f *files) figures(ctx context.Context, name string) (*figures, error) {
	var n, bytes int64
	err := f.each(ctx, name, func(doc bson.Raw) error {
		n++
		bytes += int64(len(doc))
		return nil
	})
	return &figures{documents: &n, bytes: &bytes, exact: true}, err
}

func (f *files) sharding(context.Context) (map[string]*sharding, error) { return nil, nil }

func (f *files) breaks(ctx context.Context, name string, condition bson.D) (n int64, samples []string, err error) {
	err = f.each(ctx, name, func(doc bson.Raw) error {
		var d bson.D
		if err := bson.Unmarshal(doc, &d); err != nil {
			return err
		}
		is, err := filter.Holds(d, condition)
		if err != nil {
			return err
		}
		if !is {
			if n++; len(samples) < 5 {
				samples = append(samples, keyOf(doc))
			}
		}
		return nil
	})
	return n, samples, err
}

// keyOf shows a document by its key.
func keyOf(doc bson.Raw) string {
	v, err := doc.LookupErr("_id")
	if err != nil {
		return "without _id"
	}
	if text, ok := plain(v); ok {
		return "_id " + text
	}
	return "_id " + v.String()
}

func (f *files) close() error { return nil }
