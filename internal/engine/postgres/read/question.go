package read

import (
	"cmp"
	"context"
	"errors"
	"strconv"
	"strings"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgconn"

	"nexdal/internal/catalog"
)

// A question is a query of the system tables. %s in it stands for an array of oids that it is
// about: its rows begin with one of them.
type question struct {
	text string
	of   *among // nil: it is about none
	vain bool   // nothing is there that a row of the answer could be about
}

// among are oids: those that are known to be wanted, and, for who asks before anything is known, a
// query of at least these.
type among struct {
	all  string
	oids []uint32
}

// Answers come from a connection, or from a file with what some client has shown.
type answers interface {
	// put hands on each row of the answer, which holds only until the next, until take fails.
	put(q question, take func(v row) error) error
	// texts is put for texts that the engine writes of objects. One that it cannot write,
	// because what it leans on is gone or somebody holds its table, does not stop the others:
	// lost is told of it.
	texts(q question, take func(v row) error, lost func(oid uint32, reason string)) error
}

// ask puts a question and hands each row to scan, unless something failed before.
func (r *reader) ask(query string, take func(scan func(...any) error) error) {
	r.rows(question{text: query}, func(v row) error { return take(v.scan) })
}

func (r *reader) askOf(query string, of among, take func(scan func(...any) error) error) {
	r.rows(question{text: query, of: &of}, func(v row) error { return take(v.scan) })
}

// each puts a question and hands on each row, unless something failed before.
func (r *reader) each(query string, take func(v row)) { r.put(question{text: query}, take) }

func (r *reader) eachOf(query string, of among, take func(v row)) {
	r.put(question{text: query, of: &of}, take)
}

func (r *reader) put(q question, take func(v row)) {
	r.rows(q, func(v row) error { take(v); return nil })
}

func (r *reader) rows(q question, take func(v row) error) {
	if r.err == nil {
		r.err = r.source.put(q, take)
	}
}

// texts asks for the engine's own texts of the objects, by a query that gives oid and text.
func (r *reader) texts(query string, of among, name func(uint32) catalog.ObjectRef, into func(oid uint32, text string)) {
	if r.err != nil {
		return
	}
	r.err = r.source.texts(question{text: query, of: &of}, func(v row) error {
		if v[1] != nil {
			into(v.oid(0), v.text(1))
		}
		return nil
	}, func(oid uint32, reason string) {
		o := name(oid)
		r.gap(o.Schema, "", "definition of "+o.Kind+" "+o.Name, reason)
	})
}

// live is a transaction that answers.
type live struct {
	ctx    context.Context
	tx     pgx.Tx
	beside *beside // what is asked over further connections; nil: nothing
}

// sent is the query that is sent.
func (q question) sent() string {
	if q.of == nil {
		return q.text
	}
	return strings.ReplaceAll(q.text, "%s", oidList(q.of.oids))
}

func (l *live) put(q question, take func(v row) error) error {
	if q.vain || q.of != nil && len(q.of.oids) == 0 {
		return nil
	}
	query := q.sent()
	if done, err := l.beside.answered(query, take); done {
		return err
	}
	rows, err := l.tx.Query(l.ctx, query)
	if err != nil {
		return err
	}
	defer rows.Close()
	for rows.Next() {
		if err := take(rows.RawValues()); err != nil {
			return err
		}
	}
	return rows.Err()
}

// loose asks, and lets go what the answer locked, which would stay so until the end of the
// transaction: whoever alters two of these might be the one that a deadlock ends
// (https://www.postgresql.org/docs/15/explicit-locking.html#LOCKING-TABLES).
func (l *live) loose(ask func() error) error {
	if _, err := l.tx.Exec(l.ctx, "SAVEPOINT nexdal_loose"); err != nil {
		return err
	}
	err := ask()
	_, back := l.tx.Exec(l.ctx, "ROLLBACK TO SAVEPOINT nexdal_loose")
	return cmp.Or(err, back)
}

// texts halves the objects until the one is found that cannot be written.
func (l *live) texts(q question, take func(v row) error, lost func(oid uint32, reason string)) error {
	if len(q.of.oids) == 0 {
		return nil
	}
	var got []row
	err := l.loose(func() error {
		return l.put(q, func(v row) error {
			got = append(got, v.kept())
			return nil
		})
	})
	var said *pgconn.PgError
	if errors.As(err, &said) && said.Code != "57014" && said.Severity == "ERROR" {
		reason := said.Message
		if said.Code == "55P03" { // somebody holds one of the tables: it was waited for once
			if _, err := l.tx.Exec(l.ctx, "SET LOCAL lock_timeout = 50"); err != nil {
				return err
			}
			reason = heldByOthers
		}
		if len(q.of.oids) == 1 {
			lost(q.of.oids[0], reason)
			return nil
		}
		half := len(q.of.oids) / 2
		for _, oids := range [][]uint32{q.of.oids[:half], q.of.oids[half:]} {
			if err := l.texts(question{text: q.text, of: &among{oids: oids}}, take, lost); err != nil {
				return err
			}
		}
		return nil
	}
	if err != nil {
		return err
	}
	for _, v := range got {
		if err := take(v); err != nil {
			return err
		}
	}
	return nil
}

// oidList writes oids as an array.
func oidList(oids []uint32) string {
	b := []byte("'{")
	for i, oid := range oids {
		if i > 0 {
			b = append(b, ',')
		}
		b = strconv.AppendUint(b, uint64(oid), 10)
	}
	return string(append(b, "}'::oid[]"...))
}
