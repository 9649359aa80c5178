package sqlexpr

import (
	"slices"
	"strings"

	"nexdal/internal/engine/sqllex"
)

// present are the words for the moment that is now, of all dialects; behind some stand brackets.
var present = map[string]bool{"sysdate": true, "systimestamp": true, "current_timestamp": true, "current_date": true, "localtimestamp": true, "localtime": true,
	"now": true, "clock_timestamp": true, "statement_timestamp": true, "transaction_timestamp": true, "utc_timestamp": true, "utc_date": true, "curdate": true}

// instead are functions that take the second value where the first is null.
var instead = map[string]bool{"coalesce": true, "nvl": true, "ifnull": true}

// Stamps reads assignments to the columns of the new row, as triggers write them before an insert:
//
//	NEW.made := now();
//	SET NEW.made = NOW(), NEW.seen = CURRENT_TIMESTAMP(3);
//	IF :NEW.made IS NULL THEN :NEW.made := SYSDATE; END IF;
//	:new.made := NVL(:new.made, SYSTIMESTAMP);
//	IF (NEW.made IS NULL) THEN NEW.made = CURRENT_TIMESTAMP;
func (r Reader) Stamps(trigger, routine string) (columns []string, alone bool) {
	s := &stamps{alone: true}
	words := r.tokens(trigger)
	from := slices.IndexFunc(words, func(t sqllex.Token) bool { return t.Is("row") })
	if from < 0 { // where every trigger is for each row, none says so
		from = slices.IndexFunc(words, func(t sqllex.Token) bool { return t.Is("as") })
	}
	if from < 0 {
		return nil, false
	}
	head := words[from+1:]
	if at := slices.IndexFunc(head, func(t sqllex.Token) bool { return t.Is("begin") || t.Is("execute") }); at >= 0 {
		head = head[:at]
	}
	if at := slices.IndexFunc(head, func(t sqllex.Token) bool { return t.Is("when") }); at >= 0 {
		s.condition(head[at+1:])
	}
	if routine != "" {
		body, ok := r.body(routine)
		if !ok {
			return nil, false
		}
		words, from = r.tokens(body), -1
	}
	if at := slices.IndexFunc(words, func(t sqllex.Token) bool { return t.Is("begin") }); at >= 0 {
		if s.alone = s.alone && !slices.ContainsFunc(words[max(0, from):at], func(t sqllex.Token) bool { return t.Is("declare") || t.Is("compound") }); at > from {
			from = at
		}
	}
	s.words = words[from+1:]
	for len(s.words) > 0 {
		s.statement()
	}
	for _, column := range s.asked {
		s.alone = s.alone && slices.Contains(s.found, column)
	}
	return s.found, s.alone && len(s.found) > 0
}

// body is the text of a routine that stands in a string of its own.
func (r Reader) body(routine string) (text string, ok bool) {
	r.Dialect.Each(routine, func(t sqllex.Token) bool {
		text, ok = t.InDollars()
		return !ok
	})
	return text, ok
}

// stamps goes through the statements of a trigger.
type stamps struct {
	words []sqllex.Token
	found []string // columns that are given the present moment
	asked []string // columns that have to be null for it
	alone bool
}

// strip leaves out the signs in front.
func strip(words []sqllex.Token, sign string) []sqllex.Token {
	for len(words) > 0 && words[0].Is(sign) {
		words = words[1:]
	}
	return words
}

// condition is what stands behind WHEN: that a column is null, or anything else.
func (s *stamps) condition(words []sqllex.Token) {
	var bare []sqllex.Token
	for depth, i := 0, 0; i < len(words); i++ {
		switch {
		case words[i].Is("("):
			depth++
		case words[i].Is(")"):
			depth--
		default:
			bare = append(bare, words[i])
		}
		if depth == 0 {
			break
		}
	}
	column, rest, ok := newColumn(bare)
	if !ok || len(rest) != 2 || !rest[0].Is("is") || !rest[1].Is("null") {
		s.alone = false
		return
	}
	s.asked = append(s.asked, column)
}

// newColumn reads NEW.column, with a colon in front or not.
func newColumn(words []sqllex.Token) (column string, rest []sqllex.Token, ok bool) {
	if len(words) > 0 && words[0].Is(":") {
		words = words[1:]
	}
	if len(words) < 3 || !words[0].Is("new") || !words[1].Is(".") {
		return "", nil, false
	}
	return words[2].Name(), words[3:], true
}

// now reads the present moment, with brackets and digits behind it or not.
func now(words []sqllex.Token) (rest []sqllex.Token, ok bool) {
	if len(words) == 0 || !present[strings.ToLower(words[0].Text)] {
		return nil, false
	}
	words = words[1:]
	if len(words) > 0 && words[0].Is("(") {
		end := slices.IndexFunc(words, func(t sqllex.Token) bool { return t.Is(")") })
		if end < 0 || end > 2 {
			return nil, false
		}
		words = words[end+1:]
	}
	return words, true
}

// value reads what a column is given: the present moment, or that where it is null.
func value(words []sqllex.Token, column string) (rest []sqllex.Token, ok bool) {
	if len(words) < 2 || !instead[strings.ToLower(words[0].Text)] || !words[1].Is("(") {
		return now(words)
	}
	of, rest, ok := newColumn(words[2:])
	if !ok || of != column || len(rest) == 0 || !rest[0].Is(",") {
		return nil, false
	}
	if rest, ok = now(rest[1:]); !ok || len(rest) == 0 || !rest[0].Is(")") {
		return nil, false
	}
	return rest[1:], true
}

// statement takes one off the front, and whatever it does not know a word at a time.
func (s *stamps) statement() {
	words := s.words
	if words[0].Is("set") {
		words = words[1:]
	}
	if column, rest, ok := newColumn(words); ok && len(rest) > 1 {
		if rest[0].Is(":") {
			rest = rest[1:]
		}
		if rest[0].Is("=") {
			if rest, ok := value(rest[1:], column); ok && (len(rest) == 0 || rest[0].Is(";") || rest[0].Is(",")) {
				s.found, s.words = append(s.found, column), rest[min(1, len(rest)):]
				return
			}
		}
	}
	switch rest := s.words[1:]; {
	case s.words[0].Is("if"):
		bare := strip(rest, "(")
		if column, rest, ok := newColumn(bare); ok && len(rest) > 2 && rest[0].Is("is") && rest[1].Is("null") {
			if rest = strip(rest[2:], ")"); len(rest) > 0 && rest[0].Is("then") {
				s.asked, s.words = append(s.asked, column), rest[1:]
				return
			}
		}
	case s.words[0].Is("return") && len(rest) > 1 && rest[0].Is("new") && rest[1].Is(";"):
		s.words = rest[2:]
		return
	case s.words[0].Is("end"): // of the condition, or the trigger's own, which may say its name
		end := slices.IndexFunc(rest, func(t sqllex.Token) bool { return t.Is(";") })
		s.words = rest[end+1:]
		if end < 0 {
			s.words = nil
		}
		return
	case s.words[0].Is(";"):
		s.words = rest
		return
	}
	s.alone, s.words = false, s.words[1:]
}
