package mongodb

import (
	"context"
	"errors"
	"net/url"
	"strings"

	"go.mongodb.org/mongo-driver/v2/bson"
	"go.mongodb.org/mongo-driver/v2/mongo"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
)

// session reads one database, or one folder.
type session struct {
	store
	live    *live // nil: of files
	o       engine.Options
	place   string
	read    *catalog.Catalog // what it surveyed
	fetched *fetched
}

// Open connects, or looks into the folder.
func (Engine) Open(ctx context.Context, address string, o engine.Options) (engine.Session, error) {
	if folder, ok := strings.CutPrefix(address, "docs:"); ok {
		if path, err := url.PathUnescape(folder); err == nil {
			folder = path
		}
		if o.Write {
			return nil, &engine.SourceError{Place: address, Kind: engine.ErrWrongAddress, Hint: "files are read, and nothing is run on them; give a server: mongodb://host/database"}
		}
		f, err := openFiles(folder)
		if err != nil {
			return nil, err
		}
		return &session{store: f, o: o, place: address}, nil
	}
	l, err := connect(ctx, address, o)
	if err != nil {
		return nil, err
	}
	return &session{store: l, live: l, o: o, place: l.at}, nil
}

// Place names the source for people.
func (s *session) Place() string { return s.place }

// Alone: a session answers questions from documents that it has fetched, which another beside it
// would fetch again.
func (s *session) Alone() {}

// Close ends the session, and does away with what it has fetched.
func (s *session) Close() error {
	if s.fetched != nil {
		s.fetched.close()
	}
	return s.close()
}

// Exec carries out a command, as a script has it.
func (s *session) Exec(ctx context.Context, text string) error {
	command, err := parse(text)
	if err != nil {
		return err
	}
	if command == nil { // nothing but the end of a transaction that there is none of
		return nil
	}
	return s.said(ctx, s.live.command(ctx, command, nil))
}

// Rows carries out a query, and takes the documents of its answer, each as a line of extended JSON.
func (s *session) Rows(ctx context.Context, text string, max int) (names []string, rows []engine.Row, err error) {
	command, err := parse(text)
	if err != nil {
		return nil, nil, err
	}
	at, cancel := engine.Within(ctx, s.live.limit)
	defer cancel()
	found, err := s.live.db.RunCommandCursor(at, command)
	if err != nil {
		return nil, nil, s.said(ctx, err)
	}
	defer found.Close(ctx)
	for len(rows) < max && found.Next(at) {
		line, err := bson.MarshalExtJSON(found.Current, false, false)
		if err != nil {
			return nil, nil, err
		}
		text := string(line)
		rows = append(rows, engine.Row{&text})
	}
	return []string{"document"}, rows, s.said(ctx, found.Err())
}

// said tells an error of a command
// (https://www.mongodb.com/docs/manual/reference/error-codes/).
func (s *session) said(ctx context.Context, err error) error {
	var said mongo.CommandError
	if err == nil || ctx.Err() != nil || !errors.As(err, &said) || said.HasErrorLabel("NetworkError") || said.Code == 18 {
		return s.live.wrap(ctx, err)
	}
	e := &engine.StatementError{Code: said.Name, Err: errors.New(said.Message)}
	switch said.Code {
	case 48, 68, 85, 86: // a collection, an index, or one of other options or keys
		e.Exists = true
	case 26, 27:
		e.Missing = true
	case 24, 46, 50, 112, 117: // a lock, time, a conflict
		e.Busy = true
	}
	return e
}

// Rollback has nothing to take back: each command stands by itself.
func (s *session) Rollback(ctx context.Context) error { return ctx.Err() }
