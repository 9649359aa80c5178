package evidence

import (
	"context"
	"encoding/json"
	"fmt"
	"strings"
	"sync"

	"nexdal/internal/catalog"
)

// Answers are what a database answered, by question. They let a probe that was
// ended go on where it was.
type Answers map[string]json.RawMessage

// memory is shared by all askers of one probe.
type memory struct {
	mutex  sync.Mutex
	known  Answers
	hidden map[catalog.Ref]string // what may hide rows of a table
}

// hides is the error where rows of the table may be hidden.
func (m *memory) hides(t *catalog.Table) error {
	m.mutex.Lock()
	defer m.mutex.Unlock()
	if by := m.hidden[t.Ref()]; by != "" {
		return fmt.Errorf("%s may hide rows of %s from who asks", by, t.Ref())
	}
	return nil
}

// remembering is an asker that puts no question twice.
type remembering struct {
	Asker
	m *memory
}

// recall gives the answer that is known, or asks. A table of which rows may be hidden without a word
// is not asked about: what is said of some rows would be taken for what holds of all.
func recall[T any](m *memory, ask func() (T, error), question ...any) (T, error) {
	key := questionKey(question...)
	var answer T
	for _, q := range question {
		if t := asked(q); t != nil {
			if err := m.hides(t); err != nil {
				return answer, err
			}
		}
	}
	m.mutex.Lock()
	raw, ok := m.known[key]
	m.mutex.Unlock()
	if ok && json.Unmarshal(raw, &answer) == nil {
		return answer, nil
	}
	answer, err := ask()
	if err == nil {
		m.note(key, answer)
	}
	return answer, err
}

// questionKey is what a question is known by.
func questionKey(question ...any) string {
	texts := make([]string, len(question))
	for i, q := range question {
		texts[i] = fmt.Sprintf("%q", fmt.Sprint(q))
	}
	return strings.Join(texts, " ")
}

// note keeps an answer.
func (m *memory) note(key string, answer any) {
	raw, err := json.Marshal(answer)
	if err != nil {
		return
	}
	m.mutex.Lock()
	defer m.mutex.Unlock()
	m.known[key] = raw
}

// knows reports whether the question was answered.
func (m *memory) knows(key string) bool {
	m.mutex.Lock()
	defer m.mutex.Unlock()
	_, ok := m.known[key]
	return ok
}

// asked is the table that a piece of a question is about, or nil.
func asked(piece any) *catalog.Table {
	switch q := piece.(type) {
	case Part:
		return q.Table
	case of:
		return q.Table
	}
	return nil
}

// of is a table in a question.
type of struct{ *catalog.Table }

func (o of) String() string { return fmt.Sprint(o.Ref()) }

func (p Part) String() string { return fmt.Sprintf("%q %d %v", p.Table.Ref(), p.Sample, p.Once) }

func columnNames(columns []*catalog.Column) []string {
	names := make([]string, len(columns))
	for i, c := range columns {
		names[i] = fmt.Sprintf("%q %s", c.Name, c.Type.Native)
	}
	return names
}

func profileOf(p Part, columns []*catalog.Column) []any {
	return []any{"profile", p, columnNames(columns)}
}

func varietiesOf(p Part, columns []*catalog.Column) []any {
	return []any{"varieties", p, columnNames(columns)}
}

func (r remembering) There(ctx context.Context, t *catalog.Table) error {
	if err := r.m.hides(t); err != nil {
		return err
	}
	return r.Asker.There(ctx, t)
}

func (r remembering) Profile(ctx context.Context, p Part, columns []*catalog.Column) ([]Column, error) {
	return recall(r.m, func() ([]Column, error) { return r.Asker.Profile(ctx, p, columns) }, profileOf(p, columns)...)
}

func (r remembering) Varieties(ctx context.Context, p Part, columns []*catalog.Column) ([]Variety, error) {
	return recall(r.m, func() ([]Variety, error) { return r.Asker.Varieties(ctx, p, columns) }, varietiesOf(p, columns)...)
}

func (r remembering) Parses(ctx context.Context, p Part, columns []*catalog.Column) ([]Parsed, error) {
	return recall(r.m, func() ([]Parsed, error) { return r.Asker.Parses(ctx, p, columns) }, "parses", p, columnNames(columns))
}

func (r remembering) Values(ctx context.Context, t *catalog.Table, columns []*catalog.Column, most int) ([][]string, error) {
	return recall(r.m, func() ([][]string, error) { return r.Asker.Values(ctx, t, columns, most) }, "values", of{t}, columnNames(columns), most)
}

func (r remembering) Together(ctx context.Context, p Part, columns []string) (Variety, int64, error) {
	type both struct {
		Variety
		Rows int64
	}
	b, err := recall(r.m, func() (both, error) {
		v, rows, err := r.Asker.Together(ctx, p, columns)
		return both{v, rows}, err
	}, "together", p, fmt.Sprintf("%q", columns))
	return b.Variety, b.Rows, err
}

func (r remembering) Orphans(ctx context.Context, p Part, columns []string, parent *catalog.Table, target []string) (Orphans, error) {
	return recall(r.m, func() (Orphans, error) { return r.Asker.Orphans(ctx, p, columns, parent, target) },
		"orphans", p, fmt.Sprintf("%q", columns), of{parent}, fmt.Sprintf("%q", target))
}

func (r remembering) Whole(ctx context.Context, t *catalog.Table, column string) (bool, error) {
	return recall(r.m, func() (bool, error) { return r.Asker.Whole(ctx, t, column) }, "whole", of{t}, column)
}

func (r remembering) Repeated(ctx context.Context, t *catalog.Table, columns []string) (Offenders, error) {
	return recall(r.m, func() (Offenders, error) { return r.Asker.Repeated(ctx, t, columns) }, "repeated", of{t}, fmt.Sprintf("%q", columns))
}

func (r remembering) Breaks(ctx context.Context, t *catalog.Table, condition string, columns []string) (Offenders, error) {
	return recall(r.m, func() (Offenders, error) { return r.Asker.Breaks(ctx, t, condition, columns) }, "breaks", of{t}, condition)
}

func (r remembering) Rows(ctx context.Context, query string) (Offenders, error) {
	return recall(r.m, func() (Offenders, error) { return r.Asker.Rows(ctx, query) }, "rows", query)
}
