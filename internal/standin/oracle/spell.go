package oracle

import (
	"fmt"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/standin"
)

// Spell writes Oracle's SQL as SQLite has it: its functions, FETCH FIRST, sequences, moments and
// the empty text, which is a null. Variables are replaced by what they hold.
func (d *Dictionary) Spell(of *standin.Session, tokens []sqllex.Token) []sqllex.Token {
	sp := &speller{d: d, Speller: standin.NewSpeller(tokens)}
	sp.s, _ = of.Of.(*Session)
	sp.until("")
	return sp.Out
}

type speller struct {
	d *Dictionary
	s *Session
	standin.Speller
}

// renamed are functions that SQLite calls otherwise.
var renamed = map[string]string{"nvl": "ifnull", "to_char": "nexdal_ora_to_char", "to_date": "nexdal_ora_moment", "to_timestamp": "nexdal_ora_moment", "unistr": "nexdal_ora_unistr", "asciistr": "nexdal_ora_asciistr", "chr": "char",
	"lpad": "nexdal_ora_lpad", "to_number": "nexdal_ora_to_number", "trunc": "nexdal_ora_trunc", "regexp_like": "nexdal_ora_regexp", "listagg": "group_concat", "greatest": "max"}

const present = "strftime('%Y-%m-%d %H:%M:%f', 'now')"

func (sp *speller) until(closes string) {
	for !sp.Done() {
		t := sp.Peek(0)
		if closes != "" && t.Is(closes) {
			return
		}
		name := strings.ToLower(t.Text)
		call := t.Kind == sqllex.Word && sp.Peek(1).Is("(")
		behindDot := sp.Peek(-1).Is(".")
		switch {
		case t.Kind == sqllex.String:
			if text := t.Name(); text == "" {
				sp.Put(sqllex.Word, "NULL")
			} else {
				sp.Text(text)
			}
			sp.At++
		case sp.draws():
		case t.Is(":") && sp.Peek(1).Kind == sqllex.Word:
			sp.variable(":" + strings.ToLower(sp.Peek(1).Text))
			sp.At += 2
		case t.Kind == sqllex.Word && !call && !behindDot && !sp.Peek(1).Is(".") && sp.known(name):
			sp.variable(name)
			sp.At++
		case (t.Is("DATE") || t.Is("TIMESTAMP")) && sp.Peek(1).Kind == sqllex.String:
			sp.Put(sqllex.Word, "nexdal_ora_moment")
			sp.Put(sqllex.Punct, "(")
			sp.Text(sp.Peek(1).Name())
			sp.Put(sqllex.Punct, ")")
			sp.At += 2
		case !call && !behindDot && (name == "sysdate" || name == "systimestamp" || name == "current_timestamp" || name == "current_date"):
			sp.Put(sqllex.Word, present)
			sp.At++
		case t.Is("SET") && len(sp.Tokens) > 0 && sp.Tokens[0].Is("UPDATE") && sp.At > 2 && sp.At < 6 && !sp.Peek(-2).Is(".") && !sp.Peek(-2).Is("UPDATE"):
			alias := sp.Out[len(sp.Out)-2:] // UPDATE t alias SET, which SQLite has with AS
			sp.Out = append(sp.Out[:len(sp.Out)-2:len(sp.Out)-2], sqllex.Token{Kind: sqllex.Word, Text: "AS"}, sqllex.Token{Kind: sqllex.Space, Text: " "})
			sp.Out = append(sp.Out, alias...)
			sp.Put(sqllex.Word, "SET")
			sp.At++
		case name == "rownum" && sp.Peek(1).Is("=") && sp.Peek(2).Text == "0":
			sp.Put(sqllex.Number, "1")
			sp.At++
		case t.Is("FETCH") && sp.Peek(1).Is("FIRST"):
			sp.Put(sqllex.Word, "LIMIT")
			sp.Put(sqllex.Number, sp.Peek(2).Text)
			sp.At += 5 // FETCH FIRST n ROWS ONLY
		case t.Is("MINUS") && sp.Peek(1).Is("SELECT"):
			sp.Put(sqllex.Word, "EXCEPT")
			sp.At++
		case t.Is("PARTITION") && call && sp.Peek(3).Is(")") && !behindDot && !sp.Peek(2).Is("BY"):
			sp.rows(sp.Peek(2))
			sp.At += 4
		case call && name == "sys_context":
			sp.context()
		case call && name == "sys_extract_utc":
			sp.At++ // what it is given is in UTC
		case call && name == "to_clob":
			sp.At++
		case call && name == "validate_conversion":
			sp.valid()
		case call && renamed[name] != "":
			sp.Put(sqllex.Word, renamed[name])
			sp.At++
		case t.Kind == sqllex.Word && behindDot && !call: // which SQLite may reserve
			sp.Put(sqllex.Quoted, standin.Quote(t.Text))
			sp.At++
		case t.Is("("):
			sp.Put(sqllex.Punct, "(")
			sp.At++
			sp.until(")")
			sp.Put(sqllex.Punct, ")")
			sp.At++
		default:
			sp.Put(t.Kind, t.Text)
			sp.At++
		}
	}
}

// draws is [schema.]sequence.NEXTVAL.
func (sp *speller) draws() bool {
	isName := func(t sqllex.Token) bool { return t.Kind == sqllex.Word || t.Kind == sqllex.Quoted }
	fold := func(t sqllex.Token) string {
		if t.Kind == sqllex.Word {
			return strings.ToUpper(t.Text)
		}
		return t.Name()
	}
	n := 0
	for isName(sp.Peek(n)) && sp.Peek(n+1).Is(".") {
		n += 2
	}
	if n == 0 || !isName(sp.Peek(n)) || fold(sp.Peek(n)) != "NEXTVAL" {
		return false
	}
	at := catalog.Ref{Table: fold(sp.Peek(n - 2))}
	if n == 4 {
		at.Schema = fold(sp.Peek(0))
	} else if sp.s != nil {
		at.Schema = sp.s.current
	}
	sp.Put(sqllex.Word, fmt.Sprintf("nexdal_next(%d", sp.d.Number()))
	sp.Put(sqllex.Punct, ",")
	sp.Text(at.Schema)
	sp.Put(sqllex.Punct, ",")
	sp.Text(at.Table)
	sp.Put(sqllex.Punct, ")")
	sp.At += n + 1
	return true
}

func (sp *speller) known(name string) bool {
	if sp.s == nil {
		return false
	}
	_, known := sp.s.variables[name]
	return known
}

func (sp *speller) variable(name string) {
	if sp.s == nil {
		sp.Put(sqllex.Word, "NULL")
		return
	}
	switch v := sp.s.variables[name].(type) {
	case nil:
		sp.Put(sqllex.Word, "NULL")
	case string:
		sp.Text(v)
	default:
		sp.Put(sqllex.Number, fmt.Sprint(v))
	}
}

// context is SYS_CONTEXT('USERENV', 'NAME').
func (sp *speller) context() {
	what := strings.ToUpper(sp.Peek(4).Name())
	sp.At += 6
	switch {
	case what == "DB_NAME", what == "CON_NAME":
		sp.Text(sp.d.Catalog.Database)
	case sp.s != nil && what == "SESSION_USER":
		sp.Text(sp.s.account)
	case sp.s != nil && what == "CURRENT_SCHEMA":
		sp.Text(sp.s.current)
	default:
		sp.Put(sqllex.Word, "NULL")
	}
}

// valid is VALIDATE_CONVERSION(x AS DATE, format).
func (sp *speller) valid() {
	sp.Put(sqllex.Word, "nexdal_ora_valid")
	sp.Put(sqllex.Punct, "(")
	sp.At += 2
	depth, end := 0, sp.At
	for ; end < len(sp.Tokens); end++ {
		if sp.Tokens[end].Is("(") {
			depth++
		} else if sp.Tokens[end].Is(")") {
			if depth == 0 {
				break
			}
			depth--
		}
	}
	as := sp.At
	for as < end && !sp.Tokens[as].Is("AS") {
		as++
	}
	inner := &speller{d: sp.d, s: sp.s, Speller: standin.Speller{Cursor: sqllex.Cursor{Tokens: sp.Tokens[sp.At:as]}}}
	inner.until("")
	sp.Out = append(sp.Out, inner.Out...)
	sp.Put(sqllex.Punct, ")")
	sp.At = end + 1
}

// rows leaves of a table the rows of one partition: t PARTITION (p), which stands behind the
// table's name.
func (sp *speller) rows(part sqllex.Token) {
	name := part.Name()
	if part.Kind == sqllex.Word {
		name = strings.ToUpper(name)
	}
	ref := catalog.Ref{}
	if n := len(sp.Tokens[:sp.At]); n >= 3 && sp.Tokens[n-2].Is(".") {
		fold := func(t sqllex.Token) string {
			if t.Kind == sqllex.Word {
				return strings.ToUpper(t.Text)
			}
			return t.Name()
		}
		ref = catalog.Ref{Schema: fold(sp.Tokens[n-3]), Table: fold(sp.Tokens[n-1])}
	}
	t := sp.d.Catalog.Table(ref)
	if t == nil {
		return
	}
	sp.Put(sqllex.Word, "WHERE")
	sp.Put(sqllex.Word, sp.d.condition(t, name))
}
