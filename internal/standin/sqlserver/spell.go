package sqlserver

import (
	"fmt"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/pattern"
	"nexdal/internal/standin"
)

// Spell writes Transact-SQL as SQLite has it: its functions, TOP, casts, hints, + between texts,
// and variables, which are replaced by what they hold.
func (d *database) Spell(of *standin.Session, tokens []sqllex.Token) []sqllex.Token {
	meaning := make([]sqllex.Token, 0, len(tokens))
	for _, t := range tokens {
		if !t.Blank() {
			meaning = append(meaning, t)
		}
	}
	sp := &speller{d: d, in: meaning, out: make([]sqllex.Token, 0, 2*len(meaning))}
	sp.c, _ = of.Of.(*client)
	sp.until("")
	return sp.out
}

type speller struct {
	d   *database
	c   *client
	in  []sqllex.Token
	at  int
	out []sqllex.Token
}

func (sp *speller) peek(n int) sqllex.Token {
	if sp.at+n < len(sp.in) {
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

func (sp *speller) word(text string) { sp.put(sqllex.Word, text) }
func (sp *speller) sign(text string) { sp.put(sqllex.Punct, text) }
func (sp *speller) text(text string) { sp.put(sqllex.String, quoted(text)) }

// renamed are functions that SQLite calls otherwise.
var renamed = map[string]string{"isnull": "ifnull", "len": "nexdal_len", "string_agg": "group_concat", "count_big": "count", "charindex": "nexdal_charindex", "left": "nexdal_left", "right": "nexdal_right", "datalength": "length",
	"quotename": "nexdal_quotename", "abs": "abs", "nchar": "char", "string_escape": "nexdal_string_escape", "datediff": "nexdal_datediff"}

// own are functions that need to know the database.
var own = map[string]string{"db_name": "nexdal_db_name", "db_id": "nexdal_db_id", "object_id": "nexdal_object_id", "serverproperty": "nexdal_serverproperty", "stats_date": "nexdal_stats_date", "has_perms_by_name": "nexdal_has_perms"}

// moments are functions without arguments that give the present.
var moments = map[string]string{"getdate": "'now'", "sysdatetime": "'now'", "sysutcdatetime": "'now'", "getutcdate": "'now'", "sysdatetimeoffset": "'now'"}

// until goes on to the sign that closes, or to the end.
func (sp *speller) until(closes string) {
	limit := ""
	for sp.at < len(sp.in) {
		t := sp.peek(0)
		if closes != "" && t.Is(closes) {
			break
		}
		name := strings.ToLower(t.Text)
		call := t.Kind == sqllex.Word && sp.peek(1).Is("(")
		switch {
		case t.Is("@") && sp.peek(1).Is("@"):
			sp.global()
		case t.Is("@"):
			sp.variable()
		case t.Is("TOP") && sp.peek(1).Is("("):
			sp.at += 2
			at := len(sp.out)
			sp.until(")")
			limit = written(sp.out[at:])
			sp.out = sp.out[:at]
			sp.at++
		case t.Is("WITH") && sp.peek(1).Is("(") && len(sp.out) > 0:
			sp.skipBrackets()
		case t.Is("CAST") && call, t.Is("TRY_CAST") && call:
			sp.cast(t.Is("TRY_CAST"))
		case t.Is("CONVERT") && call, t.Is("TRY_CONVERT") && call:
			sp.convert(t.Is("TRY_CONVERT"))
		case t.Is("NEXT") && sp.peek(1).Is("VALUE"):
			sp.draw()
		case t.Is("LIKE") && sp.peek(1).Kind == sqllex.String && strings.Contains(sp.peek(1).Text, "["):
			sp.word("GLOB")
			sp.text(strings.NewReplacer("%", "*", "_", "?").Replace(sp.peek(1).Name()))
			sp.at += 2
		case t.Is("COLLATE"): // texts are compared letter by letter
			sp.at += 2
		case call && name == "len" && sp.collated("_SC"):
			sp.word("length")
			sp.at++
		case call && name == "suser_sname" && sp.c != nil:
			sp.text(sp.c.user)
			sp.at += 3
		case call && name == "error_number" && sp.c != nil:
			sp.put(sqllex.Number, fmt.Sprint(sp.c.caught))
			sp.at += 3
		case call && moments[name] != "" && sp.peek(2).Is(")"):
			sp.put(sqllex.Word, "strftime('%Y-%m-%d %H:%M:%f', 'now')")
			sp.at += 3
		case call && name == "datediff":
			sp.word("nexdal_datediff")
			sp.sign("(")
			sp.text(sp.peek(2).Text)
			sp.at += 3
		case call && own[name] != "":
			sp.sign(own[name] + "(" + fmt.Sprint(sp.d.Number()))
			if sp.at += 2; !sp.peek(0).Is(")") {
				sp.sign(",")
			}
		case call && renamed[name] != "":
			sp.word(renamed[name])
			sp.at++
		case t.Is("WITHIN") && sp.peek(1).Is("GROUP"):
			sp.at += 2
			sp.skipBrackets()
		case t.Is("+") && sp.textual():
			sp.sign("||")
			sp.at++
		case t.Kind == sqllex.String:
			sp.put(t.Kind, canonical(t.Text))
			sp.at++
		case t.Kind == sqllex.Number && strings.HasPrefix(name, "0x"):
			sp.put(sqllex.String, "x'"+t.Text[2:]+"'")
			sp.at++
		case t.Is("("):
			sp.sign("(")
			sp.at++
			sp.until(")")
			sp.sign(")")
			sp.at++
		default:
			sp.put(t.Kind, t.Text)
			sp.at++
		}
	}
	if limit != "" {
		sp.word("LIMIT")
		sp.word(limit)
	}
}

// collated reports whether the call that comes says a collation whose name ends so.
func (sp *speller) collated(by string) bool {
	for i, depth := 1, 0; sp.at+i < len(sp.in); i++ {
		switch t := sp.peek(i); {
		case t.Is("("):
			depth++
		case t.Is(")"):
			if depth--; depth == 0 {
				return false
			}
		case t.Is("COLLATE"):
			return strings.HasSuffix(sp.peek(i+1).Text, by)
		}
	}
	return false
}

func written(tokens []sqllex.Token) string {
	var b strings.Builder
	for _, t := range tokens {
		b.WriteString(t.Text)
	}
	return strings.TrimSpace(b.String())
}

var isoMoment = pattern.New(`^'(\d{4}-\d\d-\d\d)T(\d\d:\d\d:\d\d(?:\.\d+)?)'$`)

// canonical writes a moment as the stand-in keeps it.
func canonical(text string) string {
	if m := isoMoment.FindStringSubmatch(text); m != nil {
		return "'" + m[1] + " " + m[2] + "'"
	}
	return text
}

func (sp *speller) skipBrackets() {
	for !sp.peek(0).Is("(") && sp.at < len(sp.in) {
		sp.at++
	}
	depth := 0
	for sp.at < len(sp.in) {
		if sp.peek(0).Is("(") {
			depth++
		} else if sp.peek(0).Is(")") {
			if depth--; depth == 0 {
				sp.at++
				return
			}
		}
		sp.at++
	}
}

// global is @@VERSION and its like.
func (sp *speller) global() {
	name := strings.ToUpper(sp.peek(2).Text)
	sp.at += 3
	switch name {
	case "VERSION":
		sp.text(Version)
	case "TRANCOUNT":
		depth := 0
		if sp.c != nil {
			depth = sp.c.depth
		}
		sp.put(sqllex.Number, fmt.Sprint(depth))
	default:
		sp.word("[@@" + name + "]")
	}
}

func (sp *speller) variable() {
	name := strings.ToLower(sp.peek(1).Text)
	sp.at += 2
	if sp.c == nil {
		return
	}
	switch v := sp.c.variables[name].(type) {
	case nil:
		sp.word("NULL")
	case string:
		sp.text(v)
	default:
		sp.put(sqllex.Number, fmt.Sprint(v))
	}
}

// typeAt reads the name of a type with its sizes, up to what follows it.
func (sp *speller) typeAt() string {
	name := strings.ToLower(sp.peek(0).Name())
	sp.at++
	var sizes []string
	if sp.peek(0).Is("(") {
		for sp.at++; !sp.peek(0).Is(")") && sp.at < len(sp.in); sp.at++ {
			if !sp.peek(0).Is(",") {
				sizes = append(sizes, sp.peek(0).Text)
			}
		}
		sp.at++
	}
	if full := synonyms[name]; full != "" {
		name = full
	}
	if kindOf(name) == nil {
		return name
	}
	if len(sizes) == 0 && (name == "varchar" || name == "nvarchar" || name == "char" || name == "nchar") {
		sizes = []string{"30"} // https://learn.microsoft.com/en-us/sql/t-sql/functions/cast-and-convert-transact-sql
	}
	return typed(name, sizes).Native
}

// cast is CAST(x AS type).
func (sp *speller) cast(try bool) {
	sp.at += 2
	from := len(sp.out)
	depth := 0
	end := sp.at
	for ; end < len(sp.in); end++ {
		if sp.in[end].Is("(") {
			depth++
		} else if sp.in[end].Is(")") {
			depth--
		} else if depth == 0 && sp.in[end].Is("AS") {
			break
		}
	}
	inner := &speller{d: sp.d, c: sp.c, in: sp.in[sp.at:end]}
	inner.until("")
	sp.at = end + 1
	kind := sp.typeAt()
	sp.at++ // the bracket
	sp.out = sp.out[:from]
	sp.converted(try, kind, inner.out, "0")
}

// convert is CONVERT(type, x [, style]).
func (sp *speller) convert(try bool) {
	sp.at += 2
	kind := sp.typeAt()
	sp.at++ // the comma
	style, depth, end, comma := "0", 0, sp.at, -1
	for ; end < len(sp.in); end++ {
		if sp.in[end].Is("(") {
			depth++
		} else if sp.in[end].Is(")") {
			if depth == 0 {
				break
			}
			depth--
		} else if depth == 0 && sp.in[end].Is(",") {
			comma = end
		}
	}
	stop := end
	if comma >= 0 {
		style, stop = sp.in[comma+1].Text, comma
	}
	inner := &speller{d: sp.d, c: sp.c, in: sp.in[sp.at:stop]}
	inner.until("")
	sp.at = end + 1
	sp.converted(try, kind, inner.out, style)
}

func (sp *speller) converted(try bool, kind string, value []sqllex.Token, style string) {
	sp.sign(fmt.Sprintf("nexdal_convert(%d", map[bool]int{true: 1}[try]))
	sp.sign(",")
	sp.text(kind)
	sp.sign(",")
	sp.out = append(sp.out, value...)
	sp.sign(",")
	sp.put(sqllex.Number, style)
	sp.sign(")")
}

// draw is NEXT VALUE FOR sequence.
func (sp *speller) draw() {
	sp.at += 3
	ref := catalog.Ref{Schema: "dbo", Table: sp.peek(0).Name()}
	sp.at++
	if sp.peek(0).Is(".") {
		ref.Schema, ref.Table = ref.Table, sp.peek(1).Name()
		sp.at += 2
	}
	sp.sign(fmt.Sprintf("nexdal_next(%d", sp.d.Number()))
	sp.sign(",")
	sp.text(ref.Schema)
	sp.sign(",")
	sp.text(ref.Table)
	sp.sign(")")
}

// textual reports whether a text stands on one of the sides of a sign.
func (sp *speller) textual() bool {
	for i := len(sp.out) - 1; i >= 0; i-- {
		if sp.out[i].Blank() {
			continue
		}
		if sp.out[i].Kind == sqllex.String || sp.out[i].Is(")") && sp.textCall(i) {
			return true
		}
		break
	}
	next := sp.peek(1)
	return next.Kind == sqllex.String || next.Is("QUOTENAME") || (next.Is("coalesce") || next.Is("replace")) && sp.peek(3).Kind == sqllex.String
}

// textCall reports whether what the bracket closes is a call that gives a text.
func (sp *speller) textCall(i int) bool {
	depth := 0
	for ; i >= 0; i-- {
		switch {
		case sp.out[i].Is(")"):
			depth++
		case strings.HasSuffix(sp.out[i].Text, "("):
			depth--
		case strings.HasPrefix(sp.out[i].Text, "nexdal_convert("):
			depth--
		}
		if depth == 0 {
			break
		}
	}
	for ; i >= 0; i-- {
		t := sp.out[i]
		if t.Blank() || t.Is("(") {
			continue
		}
		return strings.HasPrefix(t.Text, "nexdal_quotename") || strings.EqualFold(t.Text, "replace")
	}
	return false
}
