// Package sqllex cuts SQL text into tokens and statements, so that whoever
// reads or alters SQL never trips over strings, comments or quoted names.
package sqllex

import "strings"

// Kind is the kind of a token.
type Kind byte

// The kinds.
const (
	Space     Kind = iota // white space
	Comment               // -- to the end of line, or /* */
	Word                  // bare identifier or keyword
	Quoted                // quoted identifier: "x", `x`, [x]
	String                // 'x', and what else a dialect has: $$x$$, E'x', x'00'
	Number                //
	Punct                 // one operator or punctuation character
	Directive             // a line for the client: .bail on, \set x
	Mark                  // /*!80023, and the */ that ends it: some servers read what stands between
)

// A Token is a stretch of the text; Start and End are byte offsets.
type Token struct {
	Kind       Kind
	Text       string
	Start, End int
}

// Is reports whether the token is this bare word, in any case, or this sign.
func (t Token) Is(text string) bool {
	return t.Kind == Word && strings.EqualFold(t.Text, text) || t.Kind == Punct && t.Text == text
}

// Names reports whether the token is the name, bare in any case or quoted as it is.
func (t Token) Names(name string) bool {
	return t.Kind == Quoted && t.Name() == name || t.Kind == Word && strings.EqualFold(t.Text, name)
}

// Blank reports whether the token means nothing.
func (t Token) Blank() bool { return t.Kind == Space || t.Kind == Comment }

// InDollars is the text of a string between dollar signs, such as a routine's; false: it is no such.
func (t Token) InDollars() (string, bool) {
	if t.Kind != String || !strings.HasPrefix(t.Text, "$") {
		return "", false
	}
	tag, rest, ok := strings.Cut(t.Text[1:], "$")
	return strings.TrimSuffix(rest, "$"+tag+"$"), ok
}

// Name returns the identifier that a word or quoted token stands for, quotes
// taken off; SQLite lets a string stand for a name too.
func (t Token) Name() string {
	switch t.Kind {
	case Quoted, String:
		if len(t.Text) < 2 {
			return t.Text
		}
		quote := t.Text[len(t.Text)-1:]
		text := t.Text
		if text[0]|0x20 == 'n' { // N'x'
			text = text[1:]
		}
		if t.Kind == String && text[0]|0x20 == 'q' && len(text) >= 5 { // q'[x]'
			return text[3 : len(text)-2]
		}
		return strings.ReplaceAll(text[1:len(text)-1], quote+quote, quote)
	}
	return t.Text
}

// A Dialect says how a text is to be cut.
type Dialect struct {
	Backquotes     bool // `x` is a quoted name
	Brackets       bool // [x] is a quoted name
	DoubledBracket bool // and ]] in it is one ]
	National       bool // N'x' is a string
	Batches        bool // a line GO is for the client: it ends the statements before it
	Slashes        bool // a line / is for the client: it ends a block, which takes the semicolons in it
	ChosenQuotes   bool // q'[x]' is a string, whose quotes are chosen
	DollarStrings  bool // $tag$x$tag$ is a string
	EscapeStrings  bool // E'x' is a string with backslashes
	Backslashes    bool // a backslash in any string escapes what follows
	HashComments   bool // # begins a comment too
	Delimiters     bool // a line DELIMITER x is for the client: x ends statements from there on
	Terms          bool // a line SET TERM x is for the client: x ends statements from there on
	Capitals       bool // a bare name stands for its capitals
	Small          bool // a bare name stands for its small letters
	NestedComments bool
	CodeComments   bool   // what stands in /*! */ and /*M! */ is code
	SlashComments  bool   // // to the end of line is a comment, and -- is none
	TextQuotes     bool   // "x" is a string, as are 'x' and """x""", with r, b or both in front
	Letters        string // the function that counts the letters of a text, not its bytes
	Hints          string // how a statement calls for an index: [IndexedBy], [UseIndex], ...; "": in no way that has to be found
	CountsInto     bool   // a query INTO variables, or a cursor's, has as many columns as there are variables
	Infers         bool   // ON CONFLICT (columns) calls for a unique index on them
	Directives     string // what begins a line for the client, at the beginning of a statement
}

// Ending is that of the names of files with such texts.
func (d Dialect) Ending() string {
	if d.SlashComments {
		return ".js"
	}
	return ".sql"
}

// Each hands the tokens of the text to visit, one after another, until visit
// returns false; the tokens together are the text. An unfinished string or
// comment ends with the text.
func (d Dialect) Each(text string, visit func(Token) bool) { d.each(text, visit) }

// each is Each with a dialect that visit may alter on the way.
func (d *Dialect) each(text string, visit func(Token) bool) {
	fresh := true // at the beginning of a statement and of a line
	code := false // in a comment that is code
	for i := 0; i < len(text); {
		var kind Kind
		end := 0
		if d.CodeComments {
			end = mark(text[i:], &code)
		}
		if end > 0 {
			kind, end = Mark, i+end
		} else {
			kind, end = d.next(text, i, fresh)
		}
		if !visit(Token{kind, text[i:end], i, end}) {
			return
		}
		switch kind {
		case Space, Comment, Directive:
		default:
			fresh = end == i+1 && text[i] == ';'
		}
		i = end
	}
}

// mark is the length of the mark that the text begins with, or 0: /*! or /*M! with a version,
// and the */ that ends its code (https://mariadb.com/kb/en/comment-syntax/#executable-comment-syntax).
func mark(s string, code *bool) int {
	switch {
	case s[0] == '*' && *code && strings.HasPrefix(s, "*/"):
		*code = false
		return 2
	case s[0] == '/' && !*code && (strings.HasPrefix(s, "/*!") || strings.HasPrefix(s, "/*M!")):
		*code = true
		n := strings.IndexByte(s, '!') + 1
		for n < len(s) && '0' <= s[n] && s[n] <= '9' {
			n++
		}
		return n
	}
	return 0
}

// Tokens cuts the whole text.
func (d Dialect) Tokens(text string) []Token {
	var tokens []Token
	d.Each(text, func(t Token) bool {
		tokens = append(tokens, t)
		return true
	})
	return tokens
}

// classes of bytes, for the common cases.
const (
	classOther = iota
	classSpace
	classWord // letters, digits and the like
	classSign // a sign that begins nothing longer
)

var class = func() (of [256]byte) {
	for c := range 256 {
		switch {
		case isSpace(byte(c)):
			of[c] = classSpace
		case isWord(byte(c)):
			of[c] = classWord
		}
	}
	for _, c := range "(),;=<>+*.%&|~!?:@" {
		of[c] = classSign
	}
	return of
}()

func (d Dialect) next(s string, i int, fresh bool) (Kind, int) {
	c := s[i]
	switch class[c] {
	case classSpace:
		j := i + 1
		for j < len(s) && class[s[j]] == classSpace {
			j++
		}
		return Space, j
	case classSign:
		if !fresh && (c != '.' || !startsFraction(s, i)) {
			return Punct, i + 1
		}
	case classWord:
		if c > '9' { // a letter, or _
			j := i + 1
			for j < len(s) && class[s[j]] == classWord {
				j++
			}
			if j < len(s) && s[j] == '\'' && j == i+1 || (d.Delimiters || d.Batches || d.Terms || d.Slashes && fresh) && (i == 0 || s[i-1] == '\n') {
				break // may be the mark of a string: x'00', or a line for the client
			}
			if d.TextQuotes && j <= i+2 && j < len(s) && (s[j] == '\'' || s[j] == '"') {
				break // r"x", rb'x'
			}
			if d.ChosenQuotes && j == i+2 && j < len(s) && s[j] == '\'' && strings.EqualFold(s[i:j], "nq") {
				break
			}
			return Word, j
		}
	}
	switch {
	case d.Batches && isBatchEnd(s, i), d.Slashes && isSlash(s, i), d.Slashes && fresh && isCommand(s, i):
		return Directive, lineEnd(s, i)
	case d.Delimiters && (c == 'd' || c == 'D') && (i == 0 || s[i-1] == '\n') && len(s) > i+10 && strings.EqualFold(s[i:i+10], "delimiter "):
		return Directive, lineEnd(s, i)
	case d.Terms && isOfClient(s, i):
		return Directive, lineEnd(s, i)
	case d.HashComments && c == '#':
		return Comment, lineEnd(s, i)
	case fresh && d.Directives != "" && strings.IndexByte(d.Directives, c) >= 0 && (i == 0 || s[i-1] == '\n'):
		return Directive, lineEnd(s, i)
	case d.SlashComments && strings.HasPrefix(s[i:], "//"), !d.SlashComments && strings.HasPrefix(s[i:], "--"):
		return Comment, lineEnd(s, i)
	case strings.HasPrefix(s[i:], "/*"):
		return Comment, d.blockEnd(s, i)
	case d.TextQuotes && textStart(s, i) >= 0:
		return String, textEnd(s, textStart(s, i))
	case c == '\'':
		return String, quoteEnd(s, i, '\'', d.Backslashes)
	case c == '"':
		return Quoted, quoteEnd(s, i, '"', d.Backslashes)
	case c == '`' && d.Backquotes:
		return Quoted, quoteEnd(s, i, '`', false)
	case c == '[' && d.Brackets:
		if d.DoubledBracket {
			return Quoted, quoteEnd(s, i, ']', false)
		}
		if j := strings.IndexByte(s[i:], ']'); j >= 0 {
			return Quoted, i + j + 1
		}
		return Quoted, len(s)
	case c == '$' && d.DollarStrings:
		if j := dollarEnd(s, i); j > 0 {
			return String, j
		}
	case c >= '0' && c <= '9', c == '.' && startsFraction(s, i):
		j := i + 1
		for j < len(s) && (isWord(s[j]) || s[j] == '.' || inExponent(s, i, j)) {
			j++
		}
		return Number, j
	case isWord(c) && c != '$':
		if i+1 < len(s) && s[i+1] == '\'' {
			switch c {
			case 'e', 'E':
				if d.EscapeStrings {
					return String, quoteEnd(s, i+1, '\'', true)
				}
			case 'n', 'N':
				if d.National {
					return String, quoteEnd(s, i+1, '\'', false)
				}
			case 'q', 'Q':
				if d.ChosenQuotes {
					return String, chosenEnd(s, i+1)
				}
			case 'x', 'X', 'b', 'B':
				return String, quoteEnd(s, i+1, '\'', false)
			}
		}
		if d.ChosenQuotes && i+2 < len(s) && c|0x20 == 'n' && s[i+1]|0x20 == 'q' && s[i+2] == '\'' {
			return String, chosenEnd(s, i+2)
		}
		j := i + 1
		for j < len(s) && isWord(s[j]) {
			j++
		}
		return Word, j
	}
	return Punct, i + 1
}

// isBatchEnd reports whether the line that begins at i is GO, alone or with a count
// (https://learn.microsoft.com/en-us/sql/t-sql/language-elements/sql-server-utilities-statements-go).
func isBatchEnd(s string, i int) bool {
	if i > 0 && s[i-1] != '\n' {
		return false
	}
	line := strings.TrimSpace(s[i:lineEnd(s, i)])
	return len(line) >= 2 && strings.EqualFold(line[:2], "go") && strings.Trim(line[2:], " \t0123456789;") == "" && (len(line) == 2 || line[2] == ' ' || line[2] == '\t' || line[2] == ';')
}

// isSlash reports whether the line that begins at i is a slash alone
// (https://docs.oracle.com/en/database/oracle/oracle-database/19/sqpug/slash.html).
func isSlash(s string, i int) bool {
	return s[i] == '/' && (i == 0 || s[i-1] == '\n') && strings.TrimSpace(s[i:lineEnd(s, i)]) == "/"
}

// isCommand reports whether the line that begins at i is a command for SQL*Plus
// (https://docs.oracle.com/en/database/oracle/oracle-database/19/sqpug/SQL-Plus-command-reference.html).
func isCommand(s string, i int) bool {
	if i > 0 && s[i-1] != '\n' {
		return false
	}
	words := strings.Fields(strings.ToUpper(s[i:min(lineEnd(s, i), i+80)]))
	if len(words) == 0 {
		return false
	}
	switch words[0] {
	case "WHENEVER", "PROMPT", "VARIABLE", "EXIT", "REM", "REMARK", "SPOOL":
		return true
	case "SET":
		return len(words) > 1 && !strings.HasPrefix(words[1], "TRANSACTION") && !strings.HasPrefix(words[1], "CONSTRAINT") && !strings.HasPrefix(words[1], "ROLE")
	}
	return false
}

// isOfClient reports whether the line that begins at i is a command for isql
// (https://firebirdsql.org/file/documentation/html/en/firebirddocs/isql/firebird-isql.html#isql-set).
func isOfClient(s string, i int) bool {
	if s[i]|0x20 != 's' || i > 0 && s[i-1] != '\n' {
		return false
	}
	words := strings.Fields(strings.ToUpper(strings.ReplaceAll(s[i:min(lineEnd(s, i), i+80)], ";", " ;")))
	if len(words) < 2 || words[0] != "SET" || len(words) > 2 && words[2] == "=" {
		return false
	}
	switch words[1] {
	case "TERM", "AUTODDL", "AUTO", "BAIL", "BLOBDISPLAY", "BLOB", "COUNT", "ECHO", "HEADING", "KEEP_TRAN_PARAMS", "LIST", "MAXROWS", "NAMES", "PLAN", "PLANONLY", "EXPLAIN", "PER_TABLE_STATS", "ROWCOUNT", "SQL", "SQLDA_DISPLAY", "STATS", "TIME", "WARNINGS", "WIDTH":
		return true
	}
	return false
}

// chosenEnd finds the end of the string whose first quote stands at i: behind it the sign that
// opens, whose counterpart closes before the last quote
// (https://docs.oracle.com/en/database/oracle/oracle-database/19/sqlrf/Literals.html).
func chosenEnd(s string, i int) int {
	if i+1 >= len(s) {
		return len(s)
	}
	closes := s[i+1 : i+2]
	if at := strings.IndexByte("[{(<", s[i+1]); at >= 0 {
		closes = "]})>"[at : at+1]
	}
	if j := strings.Index(s[min(i+2, len(s)):], closes+"'"); j >= 0 {
		return i + 2 + j + 2
	}
	return len(s)
}

func isSpace(c byte) bool { return c == ' ' || c >= '\t' && c <= '\r' }

// startsFraction reports whether the dot at i begins a number: .5, not t.5 or 1.5.
func startsFraction(s string, i int) bool {
	return i+1 < len(s) && s[i+1] >= '0' && s[i+1] <= '9' && (i == 0 || !isWord(s[i-1]) && strings.IndexByte("\"`])", s[i-1]) < 0)
}

// inExponent reports whether the sign at j belongs to the number that begins at i: 1e-3, not 0x1e-3.
func inExponent(s string, i, j int) bool {
	return (s[j] == '-' || s[j] == '+') && s[j-1]|0x20 == 'e' && j+1 < len(s) && s[j+1] >= '0' && s[j+1] <= '9' && !(s[i] == '0' && i+1 < len(s) && s[i+1]|0x20 == 'x')
}

func isWord(c byte) bool {
	return c == '_' || c == '$' || c >= 0x80 || c >= '0' && c <= '9' || c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z'
}

func lineEnd(s string, i int) int {
	if j := strings.IndexByte(s[i:], '\n'); j >= 0 {
		return i + j
	}
	return len(s)
}

// quoteEnd finds the end of what the quote at i opens; a doubled quote is one
// inside.
func quoteEnd(s string, i int, quote byte, backslashes bool) int {
	for j := i + 1; j < len(s); j++ {
		switch {
		case backslashes && s[j] == '\\':
			j++
		case s[j] == quote:
			if j+1 < len(s) && s[j+1] == quote {
				j++
				continue
			}
			return j + 1
		}
	}
	return len(s)
}

// textStart is where the quote of the string that begins at i stands, behind a prefix that says how
// it is read, or -1
// (https://cloud.google.com/bigquery/docs/reference/standard-sql/lexical#string_and_bytes_literals).
func textStart(s string, i int) int {
	for j := i; j < len(s) && j <= i+2; j++ {
		switch s[j] {
		case '\'', '"':
			return j
		case 'r', 'R', 'b', 'B':
		default:
			return -1
		}
	}
	return -1
}

// textEnd finds the end of the string whose quote, one or three, stands at i. A backslash keeps the
// next sign from ending it, in raw strings too.
func textEnd(s string, i int) int {
	closes := s[i : i+1]
	if three := strings.Repeat(closes, 3); strings.HasPrefix(s[i:], three) {
		closes = three
	}
	for j := i + len(closes); j < len(s); j++ {
		switch {
		case s[j] == '\\':
			j++
		case strings.HasPrefix(s[j:], closes):
			return j + len(closes)
		}
	}
	return len(s)
}

func (d Dialect) blockEnd(s string, i int) int {
	depth := 0
	for j := i; j+1 < len(s); j++ {
		switch s[j : j+2] {
		case "/*":
			if depth == 0 || d.NestedComments {
				depth++
			}
			j++
		case "*/":
			if depth--; depth == 0 {
				return j + 2
			}
			j++
		}
	}
	return len(s)
}

// dollarEnd finds the end of a dollar-quoted string, or 0 where there is none.
func dollarEnd(s string, i int) int {
	j := i + 1
	for j < len(s) && s[j] != '$' && isWord(s[j]) {
		j++
	}
	if j >= len(s) || s[j] != '$' || j > i+1 && s[i+1] >= '0' && s[i+1] <= '9' {
		return 0
	}
	tag := s[i : j+1]
	if k := strings.Index(s[j+1:], tag); k >= 0 {
		return j + 1 + k + len(tag)
	}
	return len(s)
}
