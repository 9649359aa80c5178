package bigquery

import (
	"fmt"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/standin"
)

// Spell writes GoogleSQL as SQLite has it: paths to tables, views and fields, strings, functions,
// samples; and notes which tables are read.
func (p *Project) Spell(of *standin.Session, tokens []sqllex.Token) []sqllex.Token {
	sp := &speller{p: p, Speller: standin.NewSpeller(tokens)}
	if sp.s, _ = of.Of.(*session); sp.s == nil {
		sp.s = p.session()
	}
	for !sp.Done() {
		sp.next()
	}
	return sp.Out
}

type speller struct {
	p *Project
	s *session
	standin.Speller
}

// renamed are functions that SQLite calls otherwise.
var renamed = map[string]string{"regexp_contains": "nexdal_regexp", "char_length": "length", "byte_length": "length", "safe_cast": "cast"}

// moments are functions that give the present.
var moments = map[string]string{"current_timestamp": "%Y-%m-%d %H:%M:%S+00", "current_datetime": "%Y-%m-%d %H:%M:%S", "current_date": "%Y-%m-%d"}

// castTo are the types that SQLite casts to.
var castTo = map[string]string{"STRING": "TEXT", "INT64": "INTEGER", "FLOAT64": "REAL", "NUMERIC": "NUMERIC", "BIGNUMERIC": "NUMERIC", "BOOL": "INTEGER", "DATE": "TEXT", "TIMESTAMP": "TEXT", "DATETIME": "TEXT", "BYTES": "BLOB"}

func (sp *speller) next() {
	t := sp.Peek(0)
	name := strings.ToLower(t.Text)
	switch {
	case t.Kind == sqllex.String:
		sp.Text(unescaped(t.Text))
		sp.At++
	case t.Is("["):
		sp.Put(sqllex.Word, "json_array")
		sp.Put(sqllex.Punct, "(")
		sp.At++
	case t.Is("]"):
		sp.Put(sqllex.Punct, ")")
		sp.At++
	case t.Is("STRUCT") && sp.Peek(1).Is("("):
		sp.structured()
	case t.Is("TABLESAMPLE"):
		sp.sampled()
	case t.Is("AS") && castTo[strings.ToUpper(sp.Peek(1).Text)] != "" && sp.Peek(1).Kind == sqllex.Word && (sp.Peek(2).Is(")") || sp.Peek(2).Is("(") && !sp.Peek(-1).Is(")")):
		sp.Put(sqllex.Word, "AS")
		sp.Put(sqllex.Word, castTo[strings.ToUpper(sp.Peek(1).Text)])
		if sp.At += 2; sp.Peek(0).Is("(") {
			sp.SkipBrackets()
		}
	case t.Kind == sqllex.Word && sp.Peek(1).Is("(") && sp.Peek(2).Is(")") && moments[name] != "":
		sp.Put(sqllex.Word, "strftime('"+moments[name]+"', 'now')")
		sp.At += 3
	case t.Kind == sqllex.Word && sp.Peek(1).Is("(") && renamed[name] != "":
		sp.Put(sqllex.Word, renamed[name])
		sp.At++
	case (t.Kind == sqllex.Word || t.Kind == sqllex.Quoted) && !sp.Peek(-1).Is("."):
		sp.path()
	default:
		sp.Put(t.Kind, t.Text)
		sp.At++
	}
}

// steps are the names of the path that comes, and how many tokens it has.
func (sp *speller) steps() (names []string, n int) {
	for {
		t := sp.Peek(n)
		if t.Kind != sqllex.Word && t.Kind != sqllex.Quoted {
			return names, n - 1
		}
		if t.Kind == sqllex.Quoted {
			names = append(names, strings.Split(t.Name(), ".")...)
		} else {
			names = append(names, t.Text)
		}
		if n++; !sp.Peek(n).Is(".") {
			return names, n
		}
		n++
	}
}

// path writes a name of one or several steps.
func (sp *speller) path() {
	first := sp.Peek(0)
	names, n := sp.steps()
	for k, name := range names {
		if strings.EqualFold(name, "INFORMATION_SCHEMA") && k > 0 && k+1 < len(names) {
			sp.At += n
			sp.system(names[k-1], strings.ToLower(names[k+1]))
			return
		}
	}
	if len(names) > 2 && names[0] == sp.p.name {
		names = names[1:]
	}
	if len(names) > 1 {
		ref := catalog.Ref{Schema: names[0], Table: names[1]}
		if sp.p.Catalog.Table(ref) != nil || sp.p.View(ref) != nil {
			if sp.p.Catalog.Table(ref) != nil && !sp.Peek(-1).Is("INTO") && !sp.Peek(-1).Is("UPDATE") {
				sp.s.tables = append(sp.s.tables, ref)
			}
			sp.At += n
			sp.Put(sqllex.Quoted, standin.Quote(ref.Schema))
			sp.Put(sqllex.Punct, ".")
			sp.Put(sqllex.Quoted, standin.Quote(ref.Table))
			return
		}
	}
	for k := range min(2, len(names)-1) { // alias.column.field, column.field
		if sp.structColumn(names[k]) {
			sp.At += n
			column := standin.Quote(names[k])
			if k == 1 {
				column = standin.Quote(names[0]) + "." + column
			}
			sp.Put(sqllex.Word, "json_extract("+column+", '$."+strings.Join(names[k+1:], ".")+"')")
			return
		}
	}
	if n == 1 && first.Kind == sqllex.Word {
		sp.Put(first.Kind, first.Text)
		sp.At++
		return
	}
	for k, name := range names {
		if k > 0 {
			sp.Put(sqllex.Punct, ".")
		}
		sp.Put(sqllex.Quoted, standin.Quote(name))
	}
	if sp.At += n; sp.Peek(0).Is(".") { // of alias.*
		sp.Put(sqllex.Punct, ".")
		sp.At++
	}
}

// structColumn reports whether some table has a STRUCT of that name.
func (sp *speller) structColumn(name string) bool {
	for _, t := range sp.p.Catalog.Tables() {
		if c := t.Column(name); c != nil && strings.HasPrefix(c.Type.Native, "STRUCT<") {
			return true
		}
	}
	return false
}

// system reads from one of the service's own views, of one dataset or of all in the region.
func (sp *speller) system(of, view string) {
	if strings.HasPrefix(of, "region-") {
		sp.Put(sqllex.Word, "information_schema")
		sp.Put(sqllex.Punct, ".")
		sp.Put(sqllex.Word, view)
		return
	}
	sp.Put(sqllex.Punct, "(")
	for _, word := range []string{"SELECT", "*", "FROM", "information_schema", ".", view, "WHERE", "of_dataset", "="} {
		kind := sqllex.Word
		if len(word) == 1 {
			kind = sqllex.Punct
		}
		sp.Put(kind, word)
		sp.Out = append(sp.Out, sqllex.Token{Kind: sqllex.Space, Text: " "})
	}
	sp.Text(of)
	sp.Put(sqllex.Punct, ")")
}

// sampled reads a share of a table's blocks: TABLESAMPLE SYSTEM (10 PERCENT).
func (sp *speller) sampled() {
	var share int64
	fmt.Sscan(sp.Peek(3).Text, &share)
	sp.At++
	sp.SkipBrackets()
	ref := sp.s.tables[len(sp.s.tables)-1]
	sp.s.percent[ref] = share
	for range 3 { // the name, which becomes a part of it
		for sp.Out[len(sp.Out)-1].Blank() {
			sp.Out = sp.Out[:len(sp.Out)-1]
		}
		sp.Out = sp.Out[:len(sp.Out)-1]
	}
	sp.Put(sqllex.Word, fmt.Sprintf("(SELECT * FROM %s WHERE rowid / 100 * 7919 %% 100 < %d)", sp.p.Stored(ref), share))
}

// structured writes STRUCT(1 AS lat, 2 AS lon) as JSON.
func (sp *speller) structured() {
	sp.At += 2
	sp.Put(sqllex.Word, "json_object(")
	for first := true; !sp.Done() && !sp.Peek(0).Is(")"); first = false {
		if !first {
			sp.Put(sqllex.Punct, ",")
		}
		at := len(sp.Out)
		name := ""
		for depth := 0; !sp.Done(); {
			t := sp.Peek(0)
			if depth == 0 && (t.Is(",") || t.Is(")")) {
				break
			}
			if depth == 0 && t.Is("AS") {
				name = sp.Peek(1).Name()
				sp.At += 2
				continue
			}
			if t.Is("(") {
				depth++
			} else if t.Is(")") {
				depth--
			}
			sp.next()
		}
		value := append([]sqllex.Token{}, sp.Out[at:]...)
		sp.Out = sp.Out[:at]
		sp.Text(name)
		sp.Put(sqllex.Punct, ",")
		sp.Out = append(sp.Out, value...)
		if sp.Peek(0).Is(",") {
			sp.At++
		}
	}
	sp.At++
	sp.Put(sqllex.Punct, ")")
}
