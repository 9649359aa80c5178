package sqllex

import "strings"

// A Statement is one statement of a text, without its semicolon.
type Statement struct {
	Lead []string // the comments before it, each as it stands
	Text string   // with the comments within and behind it; empty where comments end the text
}

// Statements cuts a text at the semicolons that end statements; client
// directives are left out. A trigger's body, from BEGIN to END, belongs to its
// statement, and so do the comments within it.
func (d Dialect) Statements(text string) []Statement {
	var all []Statement
	var lead []string
	var words []Token // the statement's meaningful tokens
	end, tail := 0, 0 // of the last token, and of a comment behind it
	begun := 0        // where a comment begins that may be a module's: it opens a batch
	slashes := d.Backslashes
	flush := func() {
		if len(words) > 0 || len(lead) > 0 {
			s := Statement{Lead: lead}
			if len(words) > 0 {
				s.Text = text[words[0].Start:max(end, tail)]
				if begun > 0 && isModule(words) { // the server keeps what stands before it
					s.Text, s.Lead = text[begun-1:max(end, tail)], nil
				}
				if slashes {
					d.Backslashes = backslashes(words, d.Backslashes)
				}
			}
			all = append(all, s)
		}
		words, lead, tail, begun = nil, nil, 0, 0
	}
	fresh := false // right behind the end of a batch
	ends, skip, code := ";", 0, false
	d.each(text, func(t Token) bool {
		if t.Kind == Mark {
			code = t.Text != "*/"
		}
		switch {
		case t.Start < skip:
		case t.Kind == Directive && d.Delimiters:
			ends = strings.TrimSpace(t.Text[len("delimiter "):])
		case t.Kind == Directive && d.Terms:
			ends = term(t.Text, ends)
		case ends != ";" && t.Kind == Word && strings.HasSuffix(t.Text, ends):
			if t.Text != ends {
				words = append(words, t)
				end = t.End - len(ends)
			}
			flush()
		case ends != ";" && t.Kind == Punct && strings.HasPrefix(text[t.Start:], ends):
			skip = t.Start + len(ends)
			flush()
		case t.Kind == Directive && d.Batches && isBatchEnd(t.Text, 0):
			flush()
			fresh = true
		case t.Kind == Directive && d.Slashes && isSlash(t.Text, 0):
			flush()
		case t.Kind == Comment && len(words) == 0:
			if fresh && begun == 0 {
				begun = t.Start + 1
			}
			lead = append(lead, t.Text)
		case t.Kind == Comment:
			tail = t.End
		case t.Kind == Space && fresh && strings.Count(t.Text, "\n") > 1: // what follows is not of the batch's first statement alone
			fresh = false
		case t.Blank() || t.Kind == Directive:
		case ends == ";" && t.Is(";") && !code && !(!d.Slashes && !d.Terms && insideBody(words)) && !(d.Batches && isModule(words)) && !(d.Slashes && isBlock(words)):
			if len(words) > 0 {
				flush()
			}
		default:
			words = append(words, t)
			end, tail, fresh = t.End, 0, false
		}
		return true
	})
	tail = 0 // comments at the end of the text are no statement's
	flush()
	return all
}

// term is what ends statements behind the line, which may say so: SET TERM ^ ;
// (https://firebirdsql.org/file/documentation/html/en/firebirddocs/isql/firebird-isql.html#isql-set-term).
func term(line, ends string) string {
	words := strings.Fields(line)
	if !strings.EqualFold(words[1], "term") {
		return ends
	}
	next := strings.TrimSpace(strings.TrimSuffix(strings.TrimSpace(strings.Join(words[2:], " ")), ends))
	if next == "" {
		return ends
	}
	return next
}

// backslashes reports whether a backslash escapes behind the statement, which may set the
// mode that strings are read in (https://mariadb.com/kb/en/sql-mode/#no_backslash_escapes).
func backslashes(words []Token, so bool) bool {
	if !words[0].Is("set") {
		return so
	}
	for i, w := range words[1:] {
		if w.Is("sql_mode") && i+3 < len(words) && words[i+2].Is("=") {
			so = !strings.Contains(strings.ToUpper(words[i+3].Text), "NO_BACKSLASH_ESCAPES")
		}
	}
	return so
}

// isModule reports whether the tokens begin a module, which takes the rest of its batch, its
// semicolons included (https://learn.microsoft.com/en-us/sql/t-sql/statements/create-trigger-transact-sql).
func isModule(words []Token) bool {
	if len(words) < 2 || !words[0].Is("create") && !words[0].Is("alter") {
		return false
	}
	kind := words[1]
	if kind.Is("or") && len(words) > 3 {
		kind = words[3]
	}
	return kind.Is("view") || kind.Is("trigger") || kind.Is("function") || kind.Is("procedure") || kind.Is("proc")
}

// isBlock reports whether the tokens begin a block, or what is kept with one, whose semicolons
// are its own (https://docs.oracle.com/en/database/oracle/oracle-database/19/sqpug/RUN.html).
func isBlock(words []Token) bool {
	if words == nil {
		return false
	}
	if words[0].Is("declare") || words[0].Is("begin") {
		return true
	}
	if !words[0].Is("create") {
		return false
	}
	for _, w := range words[1:min(len(words), 7)] {
		switch {
		case w.Is("or"), w.Is("replace"), w.Is("editionable"), w.Is("noneditionable"), w.Is("and"):
		case w.Is("trigger"), w.Is("function"), w.Is("procedure"), w.Is("package"), w.Is("type"), w.Is("library"):
			return true
		default:
			return false
		}
	}
	return false
}

// insideBody reports whether a semicolon behind the tokens lies within the
// body of a trigger, or of a routine in standard SQL: it ends the statement
// only behind "; END".
func insideBody(words []Token) bool {
	if len(words) < 3 || !words[0].Is("create") {
		return false
	}
	at := 1
	for at < 4 && at < len(words)-1 && (words[at].Is("temp") || words[at].Is("temporary") || words[at].Is("or") || words[at].Is("replace")) {
		at++
	}
	routine := words[at].Is("function") || words[at].Is("procedure")
	if !words[at].Is("trigger") && !routine {
		return false
	}
	begun := false
	for i, w := range words {
		begun = begun || w.Is("begin") && (!routine || i+1 < len(words) && words[i+1].Is("atomic"))
	}
	n := len(words)
	return begun && !(words[n-1].Is("end") && (words[n-2].Is(";") || words[n-2].Is("atomic")))
}

// Ended writes the statement with what ends it, so that Statements and the
// engine's client take it for one, whatever stands in it.
func (d Dialect) Ended(sql string) string {
	if d.Batches {
		return d.batch(sql)
	}
	if d.Slashes && isBlock(d.first(sql, 7)) {
		return sql + "\n/"
	}
	inner := false
	if d.Delimiters || d.Terms {
		d.Each(sql, func(t Token) bool { inner = t.Is(";"); return !inner })
		inner = inner || d.Delimiters && strings.Contains(sql, `\`) && strings.Contains(sql, ";") // what it escapes depends on the mode
	}
	if !inner {
		ended := false // not where the statement ends in a comment, which would swallow it
		d.Each(sql+";", func(t Token) bool { ended = t.Is(";") && t.Start == len(sql); return true })
		if !ended {
			sql += "\n"
		}
		return sql + ";"
	}
	if d.Terms {
		for _, ends := range []string{"^", "!!", "@@", "##"} {
			if !strings.Contains(sql, ends) {
				return "SET TERM " + ends + " ;\n" + sql + "\n" + ends + "\nSET TERM ; " + ends
			}
		}
	}
	for _, ends := range []string{"$$", "//", "~~", "||"} {
		if !strings.Contains(sql, ends) {
			return "DELIMITER " + ends + "\n" + sql + "\n" + ends + "\nDELIMITER ;"
		}
	}
	return sql + ";"
}

// batch writes the statement as a batch of its own, which the server compiles when those before
// it have run. A module takes all of it.
func (d Dialect) batch(sql string) string {
	if isModule(d.first(sql, 4)) {
		if strings.HasPrefix(sql, "--") || strings.HasPrefix(sql, "/*") {
			sql = "GO\n" + sql // apart from comments that are the script's
		}
		return sql + "\nGO"
	}
	commented := false
	d.Each(sql, func(t Token) bool { commented = t.Kind == Comment; return true })
	if commented {
		sql += "\n"
	}
	return sql + ";\nGO"
}
