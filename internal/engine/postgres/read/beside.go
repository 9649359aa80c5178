package read

import (
	"context"
	"errors"
	"fmt"
	"sync"
	"time"

	"github.com/jackc/pgx/v5"

	"nexdal/internal/engine/postgres/traits"
)

// largeCatalog is from how many tables on a survey asks over further connections: below
// that they cost more than they save. A variable for tests alone.
var largeCatalog = 1000

// beside puts questions over further connections, which see the same snapshot as the
// survey's own (https://www.postgresql.org/docs/current/functions-admin.html, pg_export_snapshot;
// https://www.postgresql.org/docs/current/sql-set-transaction.html, SNAPSHOT). It is a help
// and no more: where the server has no connection to spare, exports no snapshot, as a
// standby, or a pooler leads elsewhere, the survey asks everything itself.
type beside struct {
	cancel  context.CancelFunc
	work    sync.WaitGroup
	answers map[string]*answer // by question
}

// An answer is rows as they come.
type answer struct {
	mu   sync.Mutex
	more *sync.Cond
	rows []row
	done bool
	err  error
}

func newAnswer() *answer {
	a := &answer{}
	a.more = sync.NewCond(&a.mu)
	return a
}

// askBeside begins to ask groups of questions, each over a connection of its own. It has
// to be ended with end.
func (l *live) askBeside(config *pgx.ConnConfig, limits string, groups ...[]question) error {
	ctx, cancel := context.WithCancel(l.ctx)
	l.beside = &beside{cancel: cancel, answers: map[string]*answer{}}
	var standby bool
	var snapshot string
	if l.tx.QueryRow(ctx, "SELECT pg_is_in_recovery()").Scan(&standby) != nil || standby {
		return nil
	}
	if err := l.tx.QueryRow(ctx, "SELECT pg_export_snapshot()").Scan(&snapshot); err != nil {
		return fmt.Errorf("%w: %w", errBeside, err)
	}
	for _, questions := range groups {
		var queries []string
		for _, q := range questions {
			if q.of == nil || len(q.of.oids) > 0 {
				queries = append(queries, q.sent())
			}
		}
		for _, q := range queries {
			l.beside.answers[q] = newAnswer()
		}
		l.beside.work.Go(func() {
			var left []string
			err := l.beside.ask(ctx, config, limits, snapshot, queries, &left)
			for _, q := range left {
				l.beside.answers[q].end(err)
			}
		})
	}
	return nil
}

// ask puts the questions; left are those that were not answered to the end.
func (b *beside) ask(ctx context.Context, config *pgx.ConnConfig, limits, snapshot string, questions []string, left *[]string) error {
	*left = questions
	conn, err := pgx.ConnectConfig(ctx, config)
	if err != nil {
		return err
	}
	defer func() {
		ctx, cancel := context.WithTimeout(context.Background(), 2*time.Second)
		defer cancel()
		conn.Close(ctx)
	}()
	if _, err := conn.Exec(ctx, "BEGIN ISOLATION LEVEL REPEATABLE READ READ ONLY; SET TRANSACTION SNAPSHOT "+traits.Literal(snapshot)+"; "+limits, pgx.QueryExecModeSimpleProtocol); err != nil {
		return err
	}
	for i, q := range questions {
		*left = questions[i:]
		rows, err := conn.Query(ctx, q)
		if err != nil {
			return err
		}
		b.answers[q].take(rows)
		rows.Close()
		if err := rows.Err(); err != nil {
			return err
		}
		b.answers[q].end(nil)
	}
	*left = nil
	return nil
}

// batch is how many rows are handed on at once.
const batch = 512

// take keeps the rows, whose text the driver uses again.
func (a *answer) take(rows pgx.Rows) {
	var list []row
	for rows.Next() {
		if list = append(list, row(rows.RawValues()).kept()); len(list) == batch {
			a.put(list)
			list = list[:0]
		}
	}
	a.put(list)
}

func (a *answer) put(list []row) {
	a.mu.Lock()
	a.rows = append(a.rows, list...)
	a.mu.Unlock()
	a.more.Signal()
}

func (a *answer) end(err error) {
	a.mu.Lock()
	a.done, a.err = true, err
	a.mu.Unlock()
	a.more.Signal()
}

// each hands on every row as it comes, and says how many they were.
func (a *answer) each(take func(v row) error) (n int, err error) {
	for {
		a.mu.Lock()
		for len(a.rows) == 0 && !a.done {
			a.more.Wait()
		}
		rows := a.rows
		a.rows, err = nil, a.err
		a.mu.Unlock()
		if len(rows) == 0 {
			return n, err
		}
		for _, v := range rows {
			if err := take(v); err != nil {
				return n + 1, err
			}
		}
		n += len(rows)
	}
}

// answered hands on the rows of a question that was put beside; false: it has to be put.
// Where it broke off among the rows, the survey has to start over.
func (b *beside) answered(query string, take func(v row) error) (bool, error) {
	if b == nil || b.answers[query] == nil {
		return false, nil
	}
	n, err := b.answers[query].each(take)
	if err != nil && n > 0 {
		return true, fmt.Errorf("%w: %w", errBeside, err)
	}
	return err == nil, nil
}

// errBeside says that a survey over several connections broke.
var errBeside = errors.New("a further connection broke")

// end ends what is still being asked, and the connections.
func (b *beside) end() {
	if b != nil {
		b.cancel()
		b.work.Wait()
	}
}
