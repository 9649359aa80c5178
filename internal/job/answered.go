package job

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"maps"
	"os"
	"slices"
	"sync"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/all"
	"nexdal/internal/engine/capture"
	"nexdal/internal/evidence"
)

// ErrLeft says of a question about the data that nobody has answered it.
var ErrLeft = errors.New("not answered yet")

// Answered puts the questions of a probe to captures, and notes those that they leave. It may be
// asked by several goroutines.
type Answered struct {
	engine engine.Questioner
	files  []*capture.Capture
	mu     sync.Mutex
	left   map[string]int // how many rows are wanted, by question
}

// NewAnswered reads what a client has answered about the data of the database.
func NewAnswered(c *catalog.Catalog, files []string) (*Answered, error) {
	e, ok := all.ByName(c.Engine.Name).(engine.Questioner)
	if !ok || e.CaptureClient() == "" {
		return nil, Wrong("no client of %s can be asked about data", c.Engine.Name)
	}
	a := &Answered{engine: e, left: map[string]int{}}
	for _, file := range files {
		f, err := os.Open(file)
		if err != nil {
			return nil, Wrong("the answers in %s cannot be read: %v", file, Cause(err))
		}
		found, err := capture.Read(f)
		f.Close()
		if err != nil {
			return nil, Wrong("the answers in %s cannot be used: %v", file, err)
		}
		for _, of := range found {
			if of.Engine != c.Engine.Name+capture.OfData || of.Head.Database != c.Database {
				return nil, Wrong("%s holds answers of %s %s, and the source is %s %s", file, of.Engine, of.Head.Database, c.Engine.Name, c.Database)
			}
			a.files = append(a.files, of)
		}
	}
	return a, nil
}

// Asker asks the answers.
func (a *Answered) Asker() evidence.Asker { return a.engine.Questions(a.rows) }

// rows looks the question up; the latest answer counts.
func (a *Answered) rows(_ context.Context, sql string, most int) ([]string, []evidence.Row, error) {
	for _, c := range slices.Backward(a.files) {
		found, err := c.Answer(sql)
		switch {
		case err != nil:
			continue
		case found.Failed != "":
			return nil, nil, &engine.StatementError{Code: found.Failed, Err: errors.New("the server refused the question")}
		}
		rows := make([]evidence.Row, len(found.Rows))
		for i, values := range found.Rows {
			rows[i] = capture.Texts(values)
		}
		var names []string
		if len(rows) > 0 { // a capture does not tell what columns are called
			names = make([]string, len(rows[0]))
		}
		return names, rows, nil
	}
	a.mu.Lock()
	defer a.mu.Unlock()
	a.left[sql] = max(a.left[sql], most)
	return nil, nil, ErrLeft
}

// Left are the questions that nobody has answered, in a stable order.
func (a *Answered) Left() []capture.Question {
	var list []capture.Question
	for _, sql := range slices.Sorted(maps.Keys(a.left)) {
		list = append(list, capture.Question{SQL: sql, Most: cmp.Or(a.left[sql], 1)})
	}
	return list
}

// Script puts them, for the engine's own client.
func (a *Answered) Script() string { return a.engine.DataScript(a.Left()) }

// Ended says how much is left.
func (a *Answered) Ended() string {
	return fmt.Sprintf("%d of the questions are not answered yet", len(a.left))
}
