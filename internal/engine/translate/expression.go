package translate

import (
	"cmp"
	"encoding/json"
	"slices"
	"strconv"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/pattern"
)

// The words and signs that mean the same everywhere. Division and LIKE do not:
// whole numbers are divided in two ways, and capitals matter to one LIKE only.
var common = strings.Fields("and or not is null in between + - * = <> != < > <= >= ( ) , case when then else end true false")

// The functions that do the same everywhere, on what columns usually hold.
var functions = strings.Fields("lower upper abs coalesce nullif round trim replace")

var plainDate = pattern.New(`^\d{4}-\d\d-\d\d( \d\d:\d\d:\d\d(\.\d+)?)?$`)

// Expression writes a condition or computation in the target's terms. ok is
// false where it holds anything that may mean something else there.
func (x *translation) Expression(t *catalog.Table, text string) (written string, ok bool) {
	tokens := x.plain(text)
	counts, computed := true, false // columns are numbers; something is reckoned
	var kinds []byte                // of each part: a number, a column of other values, a comparison, anything else
	var out []string
	for i, w := range tokens {
		lower, kind := strings.ToLower(w.Text), byte(' ')
		next := sqllex.Token{}
		if i+1 < len(tokens) {
			next = tokens[i+1]
		}
		switch {
		case w.Kind == sqllex.String:
			value, ok := x.textOf(w.Text)
			if !ok {
				return "", false
			}
			if !plainDate.MatchString(value) {
				kind = 's'
			}
			out = append(out, x.literal(value))
		case w.Kind == sqllex.Number:
			kind = 'n'
			out = append(out, w.Text)
		case w.Kind == sqllex.Word && next.Is("(") && x.source().Letters != "" && lower == x.source().Letters:
			out = append(out, x.Dialect.Letters)
		case w.Kind == sqllex.Word && slices.Contains(functions, lower) && next.Is("("):
			out = append(out, lower)
		case w.Kind == sqllex.Word && lower == "true":
			out = append(out, x.True)
		case w.Kind == sqllex.Word && lower == "false":
			out = append(out, x.False)
		case w.Kind != sqllex.Quoted && slices.Contains(common, lower):
			computed = computed || slices.Contains([]string{"+", "-", "*", "/"}, lower)
			if slices.Contains([]string{"=", "<", ">", "<>", "!=", "<=", ">="}, lower) {
				kind = '='
			}
			out = append(out, strings.ToUpper(w.Text))
		case w.Kind == sqllex.Word || w.Kind == sqllex.Quoted:
			c := t.Column(w.Name())
			for _, other := range t.Columns {
				if c == nil && strings.EqualFold(other.Name, w.Name()) && (w.Kind == sqllex.Word || other.Name == spelling(x.Source, x.Dialect)(w.Name())) {
					c = other
				}
			}
			if c == nil {
				return "", false
			}
			isNumber := (c.Type.Family == "" || slices.Contains([]catalog.Family{catalog.Integer, catalog.Decimal, catalog.Float}, c.Type.Family))
			if counts = counts && isNumber; !isNumber {
				kind = 'c'
			}
			if slices.Contains([]catalog.Family{catalog.Date, catalog.Time, catalog.Timestamp}, c.Type.Family) {
				kind = 't'
			}
			out = append(out, x.Ident(x.called(t.Ref(), c.Name)))
		default:
			return "", false
		}
		// Text that is compared with a number, or a moment with what is no plain
		// one, means one thing here and another there.
		if kinds = append(kinds, kind); len(kinds) > 2 {
			if last := string(kinds[len(kinds)-3:]); slices.Contains([]string{"c=n", "n=c", "t=n", "n=t", "t=s", "s=t"}, last) {
				return "", false
			}
		}
	}
	return x.joined(out), len(out) > 0 && (counts || !computed)
}

// plain cuts the text, and takes out what the engine that wrote it added: casts
// behind a value, and the way it writes IN.
func (x *translation) plain(text string) []sqllex.Token {
	d := x.source()
	var tokens []sqllex.Token
	for _, t := range d.Meaning(text) {
		// Signs of two characters come one by one.
		if n := len(tokens); n > 0 && t.Kind == sqllex.Punct && tokens[n-1].Kind == sqllex.Punct && tokens[n-1].End == t.Start && slices.Contains([]string{"<>", "!=", "<=", ">=", "::"}, tokens[n-1].Text+t.Text) {
			tokens[n-1].Text += t.Text
			tokens[n-1].End = t.End
			continue
		}
		tokens = append(tokens, t)
	}
	var out []sqllex.Token
	for i := 0; i < len(tokens); i++ {
		t := tokens[i]
		switch {
		case t.Text == "::":
			end := castEnd(tokens, i+1)
			if n := len(out); n > 0 && out[n-1].Kind == sqllex.String && i+1 < end && slices.Contains(numeric, strings.ToLower(tokens[i+1].Text)) {
				// '-90'::integer is a number
				if text := strings.Trim(out[n-1].Text, "'"); isNumber(text) {
					out[n-1] = sqllex.Token{Kind: sqllex.Number, Text: text}
				}
			}
			i = end - 1
		case t.Text == "=" && isAny(tokens, i):
			list, end := anyList(tokens, i)
			if end < 0 {
				return nil
			}
			out = append(append(append(out, word("IN"), sign("(")), list...), sign(")"))
			i = end
		default:
			out = append(out, t)
		}
	}
	return out
}

var numeric = strings.Fields("smallint integer bigint numeric real double")

func isNumber(s string) bool {
	_, err := strconv.ParseFloat(s, 64)
	return err == nil
}

func word(s string) sqllex.Token { return sqllex.Token{Kind: sqllex.Word, Text: s} }
func sign(s string) sqllex.Token { return sqllex.Token{Kind: sqllex.Punct, Text: s} }

// castEnd skips a type's name: words, dots, (40,2), [].
func castEnd(tokens []sqllex.Token, i int) int {
	for ; i < len(tokens); i++ {
		t := tokens[i]
		switch {
		case t.Kind == sqllex.Quoted, t.Is("."), t.Is("["), t.Is("]"):
		case t.Kind == sqllex.Word && !slices.Contains(common, strings.ToLower(t.Text)):
		case t.Is("(") && i+1 < len(tokens) && tokens[i+1].Kind == sqllex.Number:
			for i < len(tokens) && !tokens[i].Is(")") {
				i++
			}
		default:
			return i
		}
	}
	return i
}

// isAny reports whether = ANY (ARRAY[ begins at i, perhaps in more brackets.
func isAny(tokens []sqllex.Token, i int) bool { return i+1 < len(tokens) && tokens[i+1].Is("any") }

func anyList(tokens []sqllex.Token, i int) (list []sqllex.Token, end int) {
	i += 2
	depth := 0
	for ; i < len(tokens) && tokens[i].Is("("); i++ {
		depth++
	}
	if i+1 >= len(tokens) || !tokens[i].Is("array") || !tokens[i+1].Is("[") {
		return nil, -1
	}
	for i += 2; i < len(tokens) && !tokens[i].Is("]"); i++ {
		if tokens[i].Text == "::" {
			i = castEnd(tokens, i+1) - 1
			// castEnd takes the closing bracket for part of a type
			for i >= 0 && tokens[i].Is("]") {
				i--
			}
			continue
		}
		list = append(list, tokens[i])
	}
	for i++; i < len(tokens) && depth > 0; i++ {
		switch {
		case tokens[i].Is(")"):
			if depth--; depth == 0 {
				return list, i
			}
		case tokens[i].Text == "::":
			i = castEnd(tokens, i+1) - 1
		default:
			return nil, -1
		}
	}
	return nil, -1
}

// joined writes the parts with blanks where they belong.
func (x *translation) joined(parts []string) string {
	var b strings.Builder
	for i, p := range parts {
		if i > 0 && parts[i-1] != "(" && p != ")" && p != "," && !(p == "(" && x.isFunction(parts[i-1])) {
			b.WriteByte(' ')
		}
		b.WriteString(p)
	}
	return b.String()
}

func (x *translation) isFunction(s string) bool {
	return slices.Contains(functions, s) || s == x.Dialect.Letters
}

// value writes a default in the target's terms.
func (x *translation) value(text string, t catalog.Type) (string, bool) {
	tokens := x.plain(text)
	for len(tokens) > 2 && tokens[0].Is("(") && tokens[len(tokens)-1].Is(")") {
		tokens = tokens[1 : len(tokens)-1]
	}
	negative := ""
	if len(tokens) == 2 && tokens[0].Is("-") && tokens[1].Kind == sqllex.Number {
		negative, tokens = "-", tokens[1:]
	}
	var words []string
	for _, w := range tokens {
		words = append(words, strings.ToLower(w.Text))
	}
	switch strings.Join(words, "") {
	case "now()", "current_timestamp", "current_timestamp()", "current_timestamp(3)", "current_timestamp(6)", "datetime('now')", "localtimestamp",
		"systimestamp", "sysdate", "sysdatetime()", "sysdatetimeoffset()", "getdate()":
		switch t.Family {
		case catalog.Date:
			return x.Today, true
		case catalog.Text:
			return cmp.Or(x.NowText, x.Now), true
		case catalog.Timestamp:
			return x.Now, true
		}
		return "", false
	case "current_date", "curdate()", "date('now')", "trunc(sysdate)", "convert([date],getdate())":
		return x.Today, t.Family == catalog.Date || t.Family == catalog.Timestamp || t.Family == catalog.Text
	case "null":
		return "NULL", true
	case "true":
		return x.True, true
	case "false":
		return x.False, true
	}
	if len(tokens) != 1 {
		return "", false
	}
	switch w := tokens[0]; w.Kind {
	case sqllex.Number:
		if t.Family == catalog.Boolean && (w.Text == "0" || w.Text == "1") {
			return map[string]string{"0": x.False, "1": x.True}[w.Text], true
		}
		return negative + w.Text, slices.Contains([]catalog.Family{catalog.Integer, catalog.Decimal, catalog.Float, catalog.Text}, t.Family)
	case sqllex.String, sqllex.Quoted:
		value, ok := x.textOf(w.Text)
		if t.Family == catalog.Boolean && ok {
			switch strings.ToLower(value) {
			case "t", "true", "1":
				return x.True, true
			case "f", "false", "0":
				return x.False, true
			}
		}
		return x.literal(value), ok && holds(t, value)
	}
	return "", false
}

// holds reports whether a column of the type takes the text for a value.
func holds(t catalog.Type, value string) bool {
	switch t.Family {
	case catalog.Text, catalog.Enum:
		return true
	case catalog.Integer, catalog.Decimal, catalog.Float:
		return isNumber(value)
	case catalog.Date, catalog.Timestamp:
		return plainDate.MatchString(value) && !strings.Contains(value, "00-00") && !strings.HasPrefix(value, "0000")
	case catalog.JSON:
		return json.Valid([]byte(value))
	}
	return false
}

// source is how the other engine's texts are cut.
func (x *translation) source() sqllex.Dialect { return x.Source }

// textOf reads a string of the source.
func (x *translation) textOf(s string) (string, bool) {
	if x.source().National && len(s) > 2 && s[0]|0x20 == 'n' {
		s = s[1:]
	}
	if len(s) < 2 || s[0] != '\'' && s[0] != '"' || s[len(s)-1] != s[0] {
		return "", false // E'', x'', $$
	}
	quote := s[:1]
	s = strings.ReplaceAll(s[1:len(s)-1], quote+quote, quote)
	if x.source().Backslashes && strings.Contains(s, `\`) {
		s = strings.NewReplacer(`\\`, `\`, `\'`, `'`, `\"`, `"`, `\n`, "\n", `\t`, "\t", `\r`, "\r", `\0`, "\x00").Replace(s)
	}
	return s, true
}

// literal writes a string for the target.
func (x *translation) literal(s string) string {
	s = strings.ReplaceAll(s, "'", "''")
	if x.Dialect.Backslashes {
		s = strings.ReplaceAll(s, `\`, `\\`)
	}
	return "'" + s + "'"
}
