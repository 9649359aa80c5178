package rulecheck

import (
	"fmt"
	"regexp"
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"nexdal/internal/catalog"
	"nexdal/internal/rule"
)

// A want is one annotation: a finding that is expected at the object declared
// on its line.
type want struct {
	line    int
	text    string // the line without the annotation
	table   string // whose statement the line belongs to; empty: the database
	rule    string
	message *regexp.Regexp
	noFix   bool
	severe  string // the severity; empty: any
	anyCase bool   // capitals and small letters are not told apart
}

var (
	annotation = regexp.MustCompile(`-- want(-database)?: (.*)$`)
	each       = regexp.MustCompile(`^\s*([a-z]+/[a-z-]+)(?: "([^"]*)")?( \(no fix\))?(?: \((error|warning|notice)\))?\s*(?:,|$)`)
	inCommand  = regexp.MustCompile(`"(?:create|insert|createIndexes|collMod)": *"([^"]+)"`)
	onTable    = regexp.MustCompile(`(?i)^\s*(?:create (?:unlogged )?table|alter table(?: only)?|create (?:unique )?index .* on(?: only)?|create (?:definer = \S+ )?(?:view|function|procedure|event)|create (?:definer = \S+ )?trigger .* on)\s+(?:(?:"(?:[^"]|"")*"|[\w$]+)\.)?("(?:[^"]|"")*"|\x60(?:[^\x60]|\x60\x60)*\x60|[\w$]+)`)
)

// parse reads the annotations of a script. Where names without quotes stand for their capitals,
// capitals and small letters are not told apart.
func parse(text string, capitals bool) ([]want, error) {
	var wants []want
	table := ""
	for i, line := range strings.Split(text, "\n") {
		if m := inCommand.FindStringSubmatch(line); m != nil {
			table = m[1]
		}
		if m := onTable.FindStringSubmatch(line); m != nil {
			if table = m[1]; table[0] == '"' || table[0] == '`' {
				table = strings.ReplaceAll(table[1:len(table)-1], table[:1]+table[:1], table[:1])
			} else if capitals {
				table = strings.ToUpper(table)
			}
		}
		m := annotation.FindStringSubmatch(line)
		if m == nil {
			continue
		}
		for rest := m[2]; rest != ""; {
			one := each.FindStringSubmatch(rest)
			if one == nil {
				return nil, fmt.Errorf("line %d: %q is no annotation", i+1, rest)
			}
			rest = rest[len(one[0]):]
			w := want{line: i + 1, text: strings.NewReplacer(`""`, `"`, "``", "`").Replace(line[:strings.Index(line, "-- want")]), table: table, rule: one[1], noFix: one[3] != "", severe: one[4]}
			if m[1] != "" {
				w.table = ""
			}
			expression := one[2]
			if capitals {
				w.text, expression, w.anyCase = strings.ToUpper(w.text), "(?i)"+one[2], true
			}
			if one[2] != "" {
				w.message = regexp.MustCompile(expression)
			}
			wants = append(wants, w)
		}
	}
	return wants, nil
}

// meets reports whether the finding is the one expected.
func (w want) meets(f rule.Finding) bool {
	if f.Rule != w.rule || f.Table.Table != w.table || (len(f.Fixes) == 0) != w.noFix && f.Table != (catalog.Ref{}) {
		return false
	}
	if w.severe != "" && string(f.Severity) != w.severe {
		return false
	}
	// A comment has no place for the quotes about names.
	if w.message != nil && !w.message.MatchString(strings.ReplaceAll(f.Message, `"`, "")) {
		return false
	}
	if w.table == "" || w.names(f.Object) {
		return true
	}
	return len(f.Columns) > 0 && !slices.ContainsFunc(f.Columns, func(c string) bool { return !w.names(c) })
}

// names reports whether the line speaks of the object, by its whole name: "level" is no
// "level_at".
func (w want) names(object string) bool {
	if w.anyCase {
		object = strings.ToUpper(object)
	}
	part := func(r rune) bool { return unicode.IsLetter(r) || unicode.IsDigit(r) || r == '_' || r == '$' }
	for rest, at := w.text, 0; object != ""; rest = rest[at+len(object):] {
		if at = strings.Index(rest, object); at < 0 {
			return false
		}
		before, _ := utf8.DecodeLastRuneInString(rest[:at])
		after, _ := utf8.DecodeRuneInString(rest[at+len(object):])
		if !part(before) && !part(after) {
			return true
		}
	}
	return false
}

// judge compares what was found with what is expected. Findings of the whole
// database are left aside unless the script expects one, and so are notices of
// rules that the script does not speak of, and names: a schema of three tables for
// one rule is not tidy by all others, and may be named to try the quoting.
func judge(own string, wants []want, found []rule.Finding) []string {
	var wrong []string
	whole := false
	for _, w := range wants {
		whole = whole || w.table == ""
	}
	met := make([]bool, len(wants))
	spoken := func(id string) bool {
		return slices.ContainsFunc(wants, func(w want) bool { return w.rule == id })
	}
	for _, f := range found {
		if (f.Severity == rule.Notice || strings.HasPrefix(f.Rule, "name/")) && f.Rule != own && !spoken(f.Rule) {
			continue
		}
		if f.Table == (catalog.Ref{}) && !whole {
			continue
		}
		ok := false
		for i, w := range wants {
			if !met[i] && w.meets(f) {
				met[i], ok = true, true
				break
			}
		}
		if !ok {
			wrong = append(wrong, fmt.Sprintf("not expected: %s: %s (fixes: %d; %s)", f.ID(), f.Message, len(f.Fixes), f.Advice))
		}
	}
	for i, w := range wants {
		if !met[i] {
			wrong = append(wrong, fmt.Sprintf("line %d: not found: %s at %s", w.line, w.rule, strings.TrimSpace(w.text)))
		}
	}
	return wrong
}
