package capture

import (
	"errors"
	"fmt"
	"io"
	"strconv"
	"strings"
	"time"
	"unicode/utf8"

	"nexdal/internal/pattern"
)

// Mark begins every capture.
const Mark = "@nexdal "

// Is reports whether a file that begins so may hold a capture: what the client says before the
// first answer stands in front of it.
func Is(head []byte) bool {
	text, _ := decoded(head)
	return strings.Contains(text, Mark)
}

// Read reads all captures of a file, whatever the client, a terminal or a shell has made of
// its lines.
func Read(from io.Reader) ([]*Capture, error) {
	raw, err := io.ReadAll(from)
	if err != nil {
		return nil, err
	}
	text, err := decoded(raw)
	if err != nil {
		return nil, err
	}
	text, doubled, err := repaired(text)
	if err != nil {
		return nil, err
	}
	r := &reading{lines: strings.Split(text, "\n"), doubled: doubled}
	return r.all()
}

// reading goes through the lines.
type reading struct {
	lines   []string
	at      int  // the line that comes next
	doubled bool // each line is as mariadb --batch writes it
	found   []*Capture
	open    *Capture // the one that has not ended
	asked   string   // the question whose rows come
	rows    [][][]byte
	width   int // how many values the last row had: the next is likely to have as many
	count   int // of questions of the open one
}

func (r *reading) all() ([]*Capture, error) {
	for r.at < len(r.lines) {
		number := r.at + 1
		line := record(r.lines[r.at])
		r.at++
		if line == "" {
			continue
		}
		if err := r.take(line); err != nil {
			return nil, fmt.Errorf("line %d: %w", number, err)
		}
	}
	if r.open != nil {
		return nil, r.cut()
	}
	if len(r.found) == 0 {
		return nil, errors.New("it holds no capture")
	}
	return r.found, nil
}

// record is what a line holds of a record, without what the client draws around it, or "".
func record(line string) string {
	line = strings.TrimLeft(line, " \t|")
	if !strings.HasPrefix(line, "@") {
		return ""
	}
	return line
}

func (r *reading) take(line string) error {
	word, rest, _ := strings.Cut(strings.TrimRight(line, " \t\r|"), " ")
	if word != "@nexdal" && r.open == nil {
		return nil // somebody else's line
	}
	switch word {
	case "@nexdal":
		return r.begin(rest)
	case "@probe":
		return probe(r.meant(rest))
	case "@show":
		return r.show(rest)
	case "@ask":
		return r.ask(rest)
	case "@row":
		return r.row(strings.TrimPrefix(line, "@row "))
	case "@end", "@failed":
		return r.end(word, rest)
	case "@done":
		return r.done(rest)
	}
	return nil
}

func (r *reading) begin(rest string) error {
	if r.open != nil {
		return r.cut()
	}
	number, engine, _ := strings.Cut(rest, " ")
	form, err := strconv.Atoi(number)
	switch {
	case err != nil:
		return nil // a line that only looks like it
	case form > Form:
		return fmt.Errorf("the capture has form %d, and this program reads form %d: it was asked for by a newer version of Nexdal", form, Form)
	}
	r.open, r.count, r.asked = &Capture{Engine: strings.TrimSpace(engine), answers: map[string]*Answer{}, shown: map[string][][][]byte{}}, 0, ""
	return nil
}

func (r *reading) ask(key string) error {
	r.unanswered()
	r.asked, r.rows = key, nil
	r.count++
	return nil
}

// unanswered notes a question whose end is missing, though the client went on: behind an error.
func (r *reading) unanswered() {
	if r.asked != "" {
		r.open.answers[r.asked], r.asked = &Answer{Failed: "its answer has no end"}, ""
	}
}

// row takes one row, and the lines that it goes on to.
func (r *reading) row(rest string) error {
	size, first, found := strings.Cut(rest, " ")
	want, err := strconv.Atoi(size)
	if err != nil || !found {
		return fmt.Errorf("no row: @row %s", short(rest))
	}
	piece := func(line string) string {
		if strings.HasPrefix(r.open.Engine, "firebird") { // whose client fills each line with blanks, and none ends in one
			return strings.TrimRight(line, " \r")
		}
		return strings.TrimSuffix(line, "\r")
	}
	pieces, before := []string{piece(first)}, len("@row ")+len(size)+1
	for {
		whole := r.meant(strings.Join(pieces, ""))
		row, ok := rowOf(whole, want, r.width)
		if !ok && len(pieces) > 1 { // a window cut the line in pieces, and lost the blanks at their ends
			row, ok = rowOf(padded(pieces, before, want), want, r.width)
		}
		switch {
		case ok:
			r.rows, r.width = append(r.rows, row), len(row)
			return nil
		case r.at >= len(r.lines):
			return r.cut()
		case utf8.RuneCountInString(strings.TrimRight(whole, " \t\r|")) >= want || len(pieces) > 1<<12:
			return fmt.Errorf("a row of question %s is not whole: it should have %d characters; let the client write into a file instead of copying from its window", r.asked, want)
		}
		pieces = append(pieces, piece(r.lines[r.at]))
		r.at++
	}
}

// padded joins the pieces of a line that was cut at one width, which their number tells; before
// the first there were so many bytes more. Where they do not fit it is empty.
func padded(pieces []string, before, want int) string {
	last := len(pieces) - 1
	width := (want + before - utf8.RuneCountInString(strings.TrimRight(pieces[last], " \t|"))) / last
	var b strings.Builder
	for i, p := range pieces {
		b.WriteString(p)
		if i == last {
			break
		}
		lost := width - utf8.RuneCountInString(p)
		if i == 0 {
			lost -= before
		}
		if lost < 0 {
			return ""
		}
		b.WriteString(strings.Repeat(" ", lost))
	}
	return b.String()
}

// meant is a line before the client wrote it.
func (r *reading) meant(line string) string {
	if r.doubled {
		return undoubled(line)
	}
	return line
}

// show takes what the client wrote of an answer that no query can put into JSON: the names of the
// columns, and rows, of texts with tabs between.
func (r *reading) show(what string) error {
	if r.at >= len(r.lines) || record(r.lines[r.at]) != "" || r.next() == heading {
		return nil // the server does not show it
	}
	if !r.doubled || !shownBy.MatchString(r.next()) {
		return errors.New("the client wrote a statement in a form that is not read: call it with --batch, and without --raw or --skip-column-names")
	}
	kind, names, _ := strings.Cut(r.meant(what), " ")
	named, ok := array([]byte(names), nil)
	if !ok {
		return fmt.Errorf("no names: @show %s", short(what))
	}
	key := kind
	for _, name := range named {
		key += "\x00" + string(name)
	}
	// The first row begins with a name, which may look like anything.
	for r.at++; r.at < len(r.lines) && (len(r.open.shown[key]) == 0 || record(r.lines[r.at]) == "" && r.next() != heading && r.next() != ""); r.at++ {
		var row [][]byte
		for field := range strings.SplitSeq(strings.TrimSuffix(r.lines[r.at], "\r"), "\t") {
			row = append(row, []byte(undoubled(field)))
		}
		r.open.shown[key] = append(r.open.shown[key], row)
	}
	return nil
}

// heading is the name of the column that records come in; shownBy fits those of other columns.
const heading = "answer"

var shownBy = pattern.New("^(Table|Function|Procedure|Trigger|Grants for)\\b")

// next is the line that comes.
func (r *reading) next() string { return strings.TrimRight(r.lines[r.at], " \t\r") }

func (r *reading) end(word, rest string) error {
	key, what, _ := strings.Cut(rest, " ")
	if key != r.asked {
		return fmt.Errorf("the end of question %s stands where question %s is answered", key, r.asked)
	}
	a := &Answer{Rows: r.rows}
	if word == "@failed" {
		a = &Answer{Failed: what}
	} else if n, err := strconv.Atoi(strings.TrimSpace(what)); err != nil || n != len(r.rows) {
		return fmt.Errorf("the answer to question %s has %d rows, and should have %s: something was cut out of it", key, len(r.rows), what)
	}
	r.open.answers[key], r.asked, r.rows = a, "", nil
	if r.count == 1 {
		return r.head(a)
	}
	return nil
}

// head reads the first answer.
func (r *reading) head(a *Answer) error {
	if len(a.Rows) != 1 || len(a.Rows[0]) != 4 {
		return errors.New("the capture does not say what database it is of")
	}
	v := a.Rows[0]
	at, err := time.Parse(time.RFC3339, string(v[2]))
	if err != nil {
		return fmt.Errorf("the capture was made at %q: %w", v[2], err)
	}
	r.open.Head = Head{Version: string(v[0]), Database: string(v[1]), Moment: at, User: string(v[3])}
	return nil
}

// probe tells whether characters were lost.
func probe(rest string) error {
	value, n := unquoted([]byte(strings.TrimSpace(rest) + " "))
	if n == 0 || string(value) != Probe {
		return fmt.Errorf("the client wrote %s for %q: it lost characters; let it write UTF-8", short(rest), Probe)
	}
	return nil
}

func (r *reading) done(rest string) error {
	r.unanswered()
	if n, err := strconv.Atoi(strings.TrimSpace(rest)); err != nil || n != r.count {
		return fmt.Errorf("%d of %s questions were answered: something was cut out of the file", r.count, rest)
	}
	r.found, r.open = append(r.found, r.open), nil
	return nil
}

// cut says where a capture breaks off.
func (r *reading) cut() error {
	of := r.open.Engine
	if r.open.Head.Database != "" {
		of += " " + r.open.Head.Database
	}
	if r.asked == "" {
		return fmt.Errorf("the capture of %s breaks off behind question %d: its end is missing", of, r.count)
	}
	return fmt.Errorf("the capture of %s breaks off in the answer to question %d (%s), behind %d rows", of, r.count, r.asked, len(r.rows))
}

func short(s string) string {
	if len(s) > 60 {
		return strings.ToValidUTF8(s[:60], "") + "..."
	}
	return s
}

// rowOf reads a JSON array of texts and nulls of so many characters; behind it there may be
// blanks and the frame of a table.
func rowOf(text string, want, width int) ([][]byte, bool) {
	text = strings.TrimRight(text, " \t\r|")
	if utf8.RuneCountInString(text) != want || !strings.HasPrefix(text, "[") {
		return nil, false
	}
	return array([]byte(text), make([][]byte, 0, width))
}
