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
	sp := &speller{d: d, Speller: standin.NewSpeller(tokens)}
	sp.c, _ = of.Of.(*client)
	sp.until("")
	return sp.Out
}

type speller struct {
	d *database
	c *client
	standin.Speller
}

func (sp *speller) word(text string) { sp.Put(sqllex.Word, text) }
func (sp *speller) sign(text string) { sp.Put(sqllex.Punct, text) }

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
	for !sp.Done() {
		t := sp.Peek(0)
		if closes != "" && t.Is(closes) {
			break
		}
		name := strings.ToLower(t.Text)
		call := t.Kind == sqllex.Word && sp.Peek(1).Is("(")
		switch {
		case t.Is("@") && sp.Peek(1).Is("@"):
			sp.global()
		case t.Is("@"):
			sp.variable()
		case t.Is("TOP") && sp.Peek(1).Is("("):
			sp.At += 2
			at := len(sp.Out)
			sp.until(")")
			limit = written(sp.Out[at:])
			sp.Out = sp.Out[:at]
			sp.At++
		case t.Is("WITH") && sp.Peek(1).Is("(") && len(sp.Out) > 0:
			sp.SkipBrackets()
		case t.Is("CAST") && call, t.Is("TRY_CAST") && call:
			sp.cast(t.Is("TRY_CAST"))
		case t.Is("CONVERT") && call, t.Is("TRY_CONVERT") && call:
			sp.convert(t.Is("TRY_CONVERT"))
		case t.Is("NEXT") && sp.Peek(1).Is("VALUE"):
			sp.draw()
		case t.Is("LIKE") && sp.Peek(1).Kind == sqllex.String && strings.Contains(sp.Peek(1).Text, "["):
			sp.word("GLOB")
			sp.Text(strings.NewReplacer("%", "*", "_", "?").Replace(sp.Peek(1).Name()))
			sp.At += 2
		case t.Is("COLLATE"): // texts are compared letter by letter
			sp.At += 2
		case call && name == "len" && sp.collated("_SC"):
			sp.word("length")
			sp.At++
		case call && name == "suser_sname" && sp.c != nil:
			sp.Text(sp.c.user)
			sp.At += 3
		case call && name == "error_number" && sp.c != nil:
			sp.Put(sqllex.Number, fmt.Sprint(sp.c.caught))
			sp.At += 3
		case call && moments[name] != "" && sp.Peek(2).Is(")"):
			sp.Put(sqllex.Word, "strftime('%Y-%m-%d %H:%M:%f', 'now')")
			sp.At += 3
		case call && name == "datediff":
			sp.word("nexdal_datediff")
			sp.sign("(")
			sp.Text(sp.Peek(2).Text)
			sp.At += 3
		case call && own[name] != "":
			sp.sign(own[name] + "(" + fmt.Sprint(sp.d.Number()))
			if sp.At += 2; !sp.Peek(0).Is(")") {
				sp.sign(",")
			}
		case call && renamed[name] != "":
			sp.word(renamed[name])
			sp.At++
		case t.Is("WITHIN") && sp.Peek(1).Is("GROUP"):
			sp.At += 2
			sp.SkipBrackets()
		case t.Is("+") && sp.textual():
			sp.sign("||")
			sp.At++
		case t.Kind == sqllex.String:
			sp.Put(t.Kind, canonical(t.Text))
			sp.At++
		case t.Kind == sqllex.Number && strings.HasPrefix(name, "0x"):
			sp.Put(sqllex.String, "x'"+t.Text[2:]+"'")
			sp.At++
		case t.Is("("):
			sp.sign("(")
			sp.At++
			sp.until(")")
			sp.sign(")")
			sp.At++
		default:
			sp.Put(t.Kind, t.Text)
			sp.At++
		}
	}
	if limit != "" {
		sp.word("LIMIT")
		sp.word(limit)
	}
}

// collated reports whether the call that comes says a collation whose name ends so.
func (sp *speller) collated(by string) bool {
	for i, depth := 1, 0; sp.At+i < len(sp.Tokens); i++ {
		switch t := sp.Peek(i); {
		case t.Is("("):
			depth++
		case t.Is(")"):
			if depth--; depth == 0 {
				return false
			}
		case t.Is("COLLATE"):
			return strings.HasSuffix(sp.Peek(i+1).Text, by)
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

// global is @@VERSION and its like.
func (sp *speller) global() {
	name := strings.ToUpper(sp.Peek(2).Text)
	sp.At += 3
	switch name {
	case "VERSION":
		sp.Text(Version)
	case "TRANCOUNT":
		depth := 0
		if sp.c != nil {
			depth = sp.c.depth
		}
		sp.Put(sqllex.Number, fmt.Sprint(depth))
	default:
		sp.word("[@@" + name + "]")
	}
}

func (sp *speller) variable() {
	name := strings.ToLower(sp.Peek(1).Text)
	sp.At += 2
	if sp.c == nil {
		return
	}
	switch v := sp.c.variables[name].(type) {
	case nil:
		sp.word("NULL")
	case string:
		sp.Text(v)
	default:
		sp.Put(sqllex.Number, fmt.Sprint(v))
	}
}

// typeAt reads the name of a type with its sizes, up to what follows it.
func (sp *speller) typeAt() string {
	name := strings.ToLower(sp.Peek(0).Name())
	sp.At++
	var sizes []string
	if sp.Peek(0).Is("(") {
		for sp.At++; !sp.Peek(0).Is(")") && !sp.Done(); sp.At++ {
			if !sp.Peek(0).Is(",") {
				sizes = append(sizes, sp.Peek(0).Text)
			}
		}
		sp.At++
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
	sp.At += 2
	from := len(sp.Out)
	depth := 0
	end := sp.At
	for ; end < len(sp.Tokens); end++ {
		if sp.Tokens[end].Is("(") {
			depth++
		} else if sp.Tokens[end].Is(")") {
			depth--
		} else if depth == 0 && sp.Tokens[end].Is("AS") {
			break
		}
	}
	inner := &speller{d: sp.d, c: sp.c, Speller: standin.Speller{Cursor: sqllex.Cursor{Tokens: sp.Tokens[sp.At:end]}}}
	inner.until("")
	sp.At = end + 1
	kind := sp.typeAt()
	sp.At++ // the bracket
	sp.Out = sp.Out[:from]
	sp.converted(try, kind, inner.Out, "0")
}

// convert is CONVERT(type, x [, style]).
func (sp *speller) convert(try bool) {
	sp.At += 2
	kind := sp.typeAt()
	sp.At++ // the comma
	style, depth, end, comma := "0", 0, sp.At, -1
	for ; end < len(sp.Tokens); end++ {
		if sp.Tokens[end].Is("(") {
			depth++
		} else if sp.Tokens[end].Is(")") {
			if depth == 0 {
				break
			}
			depth--
		} else if depth == 0 && sp.Tokens[end].Is(",") {
			comma = end
		}
	}
	stop := end
	if comma >= 0 {
		style, stop = sp.Tokens[comma+1].Text, comma
	}
	inner := &speller{d: sp.d, c: sp.c, Speller: standin.Speller{Cursor: sqllex.Cursor{Tokens: sp.Tokens[sp.At:stop]}}}
	inner.until("")
	sp.At = end + 1
	sp.converted(try, kind, inner.Out, style)
}

func (sp *speller) converted(try bool, kind string, value []sqllex.Token, style string) {
	sp.sign(fmt.Sprintf("nexdal_convert(%d", map[bool]int{true: 1}[try]))
	sp.sign(",")
	sp.Text(kind)
	sp.sign(",")
	sp.Out = append(sp.Out, value...)
	sp.sign(",")
	sp.Put(sqllex.Number, style)
	sp.sign(")")
}

// draw is NEXT VALUE FOR sequence.
func (sp *speller) draw() {
	sp.At += 3
	ref := catalog.Ref{Schema: "dbo", Table: sp.Peek(0).Name()}
	sp.At++
	if sp.Peek(0).Is(".") {
		ref.Schema, ref.Table = ref.Table, sp.Peek(1).Name()
		sp.At += 2
	}
	sp.sign(fmt.Sprintf("nexdal_next(%d", sp.d.Number()))
	sp.sign(",")
	sp.Text(ref.Schema)
	sp.sign(",")
	sp.Text(ref.Table)
	sp.sign(")")
}

// textual reports whether a text stands on one of the sides of a sign.
func (sp *speller) textual() bool {
	for i := len(sp.Out) - 1; i >= 0; i-- {
		if sp.Out[i].Blank() {
			continue
		}
		if sp.Out[i].Kind == sqllex.String || sp.Out[i].Is(")") && sp.textCall(i) {
			return true
		}
		break
	}
	next := sp.Peek(1)
	return next.Kind == sqllex.String || next.Is("QUOTENAME") || (next.Is("coalesce") || next.Is("replace")) && sp.Peek(3).Kind == sqllex.String
}

// textCall reports whether what the bracket closes is a call that gives a text.
func (sp *speller) textCall(i int) bool {
	depth := 0
	for ; i >= 0; i-- {
		switch {
		case sp.Out[i].Is(")"):
			depth++
		case strings.HasSuffix(sp.Out[i].Text, "("):
			depth--
		case strings.HasPrefix(sp.Out[i].Text, "nexdal_convert("):
			depth--
		}
		if depth == 0 {
			break
		}
	}
	for ; i >= 0; i-- {
		t := sp.Out[i]
		if t.Blank() || t.Is("(") {
			continue
		}
		return strings.HasPrefix(t.Text, "nexdal_quotename") || strings.EqualFold(t.Text, "replace")
	}
	return false
}
