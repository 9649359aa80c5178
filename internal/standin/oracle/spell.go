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
	sp := &speller{d: d}
	sp.s, _ = of.Of.(*Session)
	for _, t := range tokens {
		if !t.Blank() {
			sp.in = append(sp.in, t)
		}
	}
	sp.until("")
	return sp.out
}

type speller struct {
	d   *Dictionary
	s   *Session
	in  []sqllex.Token
	at  int
	out []sqllex.Token
}

func (sp *speller) peek(n int) sqllex.Token {
	if sp.at+n >= 0 && sp.at+n < len(sp.in) {
		return sp.in[sp.at+n]
	}
	return sqllex.Token{Kind: sqllex.Space}
}

// put adds a token, with a blank behind it where the next would run into it.
func (sp *speller) put(kind sqllex.Kind, text string) {
	sp.out = append(sp.out, sqllex.Token{Kind: kind, Text: text})
	if kind != sqllex.Punct || text == ")" || text == "," {
		sp.out = append(sp.out, sqllex.Token{Kind: sqllex.Space, Text: " "})
	}
}

func (sp *speller) text(text string) {
	sp.put(sqllex.String, "'"+strings.ReplaceAll(text, "'", "''")+"'")
}

// renamed are functions that SQLite calls otherwise.
var renamed = map[string]string{"nvl": "ifnull", "to_char": "nexdal_ora_to_char", "to_date": "nexdal_ora_moment", "to_timestamp": "nexdal_ora_moment", "unistr": "nexdal_ora_unistr", "asciistr": "nexdal_ora_asciistr", "chr": "char",
	"lpad": "nexdal_ora_lpad", "to_number": "nexdal_ora_to_number", "trunc": "nexdal_ora_trunc", "regexp_like": "nexdal_ora_regexp", "listagg": "group_concat", "greatest": "max"}

const present = "strftime('%Y-%m-%d %H:%M:%f', 'now')"

func (sp *speller) until(closes string) {
	for sp.at < len(sp.in) {
		t := sp.peek(0)
		if closes != "" && t.Is(closes) {
			return
		}
		name := strings.ToLower(t.Text)
		call := t.Kind == sqllex.Word && sp.peek(1).Is("(")
		behindDot := sp.peek(-1).Is(".")
		switch {
		case t.Kind == sqllex.String:
			if text := t.Name(); text == "" {
				sp.put(sqllex.Word, "NULL")
			} else {
				sp.text(text)
			}
			sp.at++
		case sp.draws():
		case t.Is(":") && sp.peek(1).Kind == sqllex.Word:
			sp.variable(":" + strings.ToLower(sp.peek(1).Text))
			sp.at += 2
		case t.Kind == sqllex.Word && !call && !behindDot && !sp.peek(1).Is(".") && sp.known(name):
			sp.variable(name)
			sp.at++
		case (t.Is("DATE") || t.Is("TIMESTAMP")) && sp.peek(1).Kind == sqllex.String:
			sp.put(sqllex.Word, "nexdal_ora_moment")
			sp.put(sqllex.Punct, "(")
			sp.text(sp.peek(1).Name())
			sp.put(sqllex.Punct, ")")
			sp.at += 2
		case !call && !behindDot && (name == "sysdate" || name == "systimestamp" || name == "current_timestamp" || name == "current_date"):
			sp.put(sqllex.Word, present)
			sp.at++
		case t.Is("SET") && len(sp.in) > 0 && sp.in[0].Is("UPDATE") && sp.at > 2 && sp.at < 6 && !sp.peek(-2).Is(".") && !sp.peek(-2).Is("UPDATE"):
			alias := sp.out[len(sp.out)-2:] // UPDATE t alias SET, which SQLite has with AS
			sp.out = append(sp.out[:len(sp.out)-2:len(sp.out)-2], sqllex.Token{Kind: sqllex.Word, Text: "AS"}, sqllex.Token{Kind: sqllex.Space, Text: " "})
			sp.out = append(sp.out, alias...)
			sp.put(sqllex.Word, "SET")
			sp.at++
		case name == "rownum" && sp.peek(1).Is("=") && sp.peek(2).Text == "0":
			sp.put(sqllex.Number, "1")
			sp.at++
		case t.Is("FETCH") && sp.peek(1).Is("FIRST"):
			sp.put(sqllex.Word, "LIMIT")
			sp.put(sqllex.Number, sp.peek(2).Text)
			sp.at += 5 // FETCH FIRST n ROWS ONLY
		case t.Is("MINUS") && sp.peek(1).Is("SELECT"):
			sp.put(sqllex.Word, "EXCEPT")
			sp.at++
		case t.Is("PARTITION") && call && sp.peek(3).Is(")") && !behindDot && !sp.peek(2).Is("BY"):
			sp.rows(sp.peek(2))
			sp.at += 4
		case call && name == "sys_context":
			sp.context()
		case call && name == "sys_extract_utc":
			sp.at++ // what it is given is in UTC
		case call && name == "to_clob":
			sp.at++
		case call && name == "validate_conversion":
			sp.valid()
		case call && renamed[name] != "":
			sp.put(sqllex.Word, renamed[name])
			sp.at++
		case t.Kind == sqllex.Word && behindDot && !call: // which SQLite may reserve
			sp.put(sqllex.Quoted, standin.Quote(t.Text))
			sp.at++
		case t.Is("("):
			sp.put(sqllex.Punct, "(")
			sp.at++
			sp.until(")")
			sp.put(sqllex.Punct, ")")
			sp.at++
		default:
			sp.put(t.Kind, t.Text)
			sp.at++
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
	for isName(sp.peek(n)) && sp.peek(n+1).Is(".") {
		n += 2
	}
	if n == 0 || !isName(sp.peek(n)) || fold(sp.peek(n)) != "NEXTVAL" {
		return false
	}
	at := catalog.Ref{Table: fold(sp.peek(n - 2))}
	if n == 4 {
		at.Schema = fold(sp.peek(0))
	} else if sp.s != nil {
		at.Schema = sp.s.current
	}
	sp.put(sqllex.Word, fmt.Sprintf("nexdal_next(%d", sp.d.Number()))
	sp.put(sqllex.Punct, ",")
	sp.text(at.Schema)
	sp.put(sqllex.Punct, ",")
	sp.text(at.Table)
	sp.put(sqllex.Punct, ")")
	sp.at += n + 1
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
		sp.put(sqllex.Word, "NULL")
		return
	}
	switch v := sp.s.variables[name].(type) {
	case nil:
		sp.put(sqllex.Word, "NULL")
	case string:
		sp.text(v)
	default:
		sp.put(sqllex.Number, fmt.Sprint(v))
	}
}

// context is SYS_CONTEXT('USERENV', 'NAME').
func (sp *speller) context() {
	what := strings.ToUpper(sp.peek(4).Name())
	sp.at += 6
	switch {
	case what == "DB_NAME", what == "CON_NAME":
		sp.text(sp.d.Catalog.Database)
	case sp.s != nil && what == "SESSION_USER":
		sp.text(sp.s.account)
	case sp.s != nil && what == "CURRENT_SCHEMA":
		sp.text(sp.s.current)
	default:
		sp.put(sqllex.Word, "NULL")
	}
}

// valid is VALIDATE_CONVERSION(x AS DATE, format).
func (sp *speller) valid() {
	sp.put(sqllex.Word, "nexdal_ora_valid")
	sp.put(sqllex.Punct, "(")
	sp.at += 2
	depth, end := 0, sp.at
	for ; end < len(sp.in); end++ {
		if sp.in[end].Is("(") {
			depth++
		} else if sp.in[end].Is(")") {
			if depth == 0 {
				break
			}
			depth--
		}
	}
	as := sp.at
	for as < end && !sp.in[as].Is("AS") {
		as++
	}
	inner := &speller{d: sp.d, s: sp.s, in: sp.in[sp.at:as]}
	inner.until("")
	sp.out = append(sp.out, inner.out...)
	sp.put(sqllex.Punct, ")")
	sp.at = end + 1
}

// rows leaves of a table the rows of one partition: t PARTITION (p), which stands behind the
// table's name.
func (sp *speller) rows(part sqllex.Token) {
	name := part.Name()
	if part.Kind == sqllex.Word {
		name = strings.ToUpper(name)
	}
	ref := catalog.Ref{}
	if n := len(sp.in[:sp.at]); n >= 3 && sp.in[n-2].Is(".") {
		fold := func(t sqllex.Token) string {
			if t.Kind == sqllex.Word {
				return strings.ToUpper(t.Text)
			}
			return t.Name()
		}
		ref = catalog.Ref{Schema: fold(sp.in[n-3]), Table: fold(sp.in[n-1])}
	}
	t := sp.d.Catalog.Table(ref)
	if t == nil {
		return
	}
	sp.put(sqllex.Word, "WHERE")
	sp.put(sqllex.Word, sp.d.condition(t, name))
}
