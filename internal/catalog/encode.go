package catalog

import (
	"bytes"
	"encoding/json"
	"io"
	"runtime"
	"strconv"
	"strings"

	"nexdal/internal/text"
)

// encoder writes the survey file's JSON by hand: at ten thousand tables the
// general encoder would take as long as reading the catalog. The members are
// those of the struct tags, in their order; a test holds the two together.
type encoder struct {
	to    io.Writer
	err   error // of to
	buf   []byte
	depth int
	empty bool // nothing stands yet within the innermost bracket
	flat  int  // above 0: all on one line
	keep  bool // never flush: somebody else puts the bytes down
}

// flushAt is how much is gathered before it is written.
const flushAt = 1 << 16

// inParallel writes an array's members on every core: many at a go, each go
// into a buffer of its own, put down in their order.
func inParallel[T any](e *encoder, name string, values []T, members func(*encoder, T)) {
	const many = 100
	if len(values) <= many || e.flat > 0 {
		objects(e, name, values, func(v T) { members(e, v) })
		return
	}
	e.key(name)
	e.open('[')
	parts := make([]chan []byte, (len(values)+many-1)/many)
	room := make(chan struct{}, runtime.GOMAXPROCS(0))
	for i := range parts {
		parts[i] = make(chan []byte, 1)
	}
	go func() {
		for i := range parts {
			room <- struct{}{}
			go func() {
				part := &encoder{to: io.Discard, buf: make([]byte, 0, 4*flushAt), depth: e.depth, empty: i == 0, keep: true}
				for _, v := range values[i*many : min((i+1)*many, len(values))] {
					part.line()
					part.object(func() { members(part, v) })
				}
				<-room
				parts[i] <- part.buf
			}()
		}
	}()
	for _, part := range parts {
		e.buf = append(e.buf, <-part...)
		e.flush()
	}
	e.empty = false
	e.close(']')
}

func (e *encoder) flush() {
	if e.err == nil {
		_, e.err = e.to.Write(e.buf)
	}
	e.buf = e.buf[:0]
}

func (e *encoder) line() {
	if len(e.buf) > flushAt && !e.keep {
		e.flush()
	}
	if e.flat > 0 {
		if !e.empty {
			e.buf = append(e.buf, ',', ' ')
		}
		e.empty = false
		return
	}
	if !e.empty {
		e.buf = append(e.buf, ',')
	}
	e.newline()
	e.empty = false
}

func (e *encoder) newline() {
	const blanks = "                                "
	e.buf = append(e.buf, '\n')
	e.buf = append(e.buf, blanks[:min(2*e.depth, len(blanks))]...)
}

func (e *encoder) open(bracket byte) {
	e.buf = append(e.buf, bracket)
	e.depth++
	e.empty = true
}

func (e *encoder) close(bracket byte) {
	e.depth--
	if !e.empty && e.flat == 0 {
		e.newline()
	}
	e.buf = append(e.buf, bracket)
	e.empty = false
}

func (e *encoder) key(name string) {
	e.line()
	e.buf = append(e.buf, '"')
	e.buf = append(e.buf, name...)
	e.buf = append(e.buf, '"', ':', ' ')
}

func (e *encoder) string(s string) {
	mark := len(e.buf)
	e.buf = append(e.buf, '"')
	from := 0
	for i := range len(s) {
		c := s[i]
		if c >= ' ' && c != '"' && c != '\\' && c < 0x7f {
			continue
		}
		e.buf = append(e.buf, s[from:i]...)
		from = i + 1
		switch c {
		case '"', '\\':
			e.buf = append(e.buf, '\\', c)
		case '\n':
			e.buf = append(e.buf, '\\', 'n')
		case '\t':
			e.buf = append(e.buf, '\\', 't')
		default: // rare: leave it to the general encoder
			e.buf = e.buf[:mark]
			e.escaped(s)
			return
		}
	}
	e.buf = append(e.buf, s[from:]...)
	e.buf = append(e.buf, '"')
}

func (e *encoder) escaped(s string) {
	var b bytes.Buffer
	j := json.NewEncoder(&b)
	j.SetEscapeHTML(false)
	if err := j.Encode(s); err != nil {
		panic(err) // a string is always JSON
	}
	e.buf = append(e.buf, text.JSON(bytes.TrimSuffix(b.Bytes(), []byte("\n")))...)
}

// The members: text and flags are left out when empty, need writes them all
// the same.
func (e *encoder) need(name, value string) { e.key(name); e.string(value) }

func (e *encoder) text(name, value string) {
	if value != "" {
		e.need(name, value)
	}
}

func (e *encoder) flag(name string, value bool) {
	if value {
		e.key(name)
		e.buf = append(e.buf, "true"...)
	}
}

func (e *encoder) count(name string, value int) {
	if value != 0 {
		e.key(name)
		e.buf = strconv.AppendInt(e.buf, int64(value), 10)
	}
}

func (e *encoder) figure(name string, value *int64) {
	if value != nil {
		e.key(name)
		e.buf = strconv.AppendInt(e.buf, *value, 10)
	}
}

// texts writes a list of strings on one line, unless it is empty.
func (e *encoder) texts(name string, values []string) {
	if len(values) > 0 {
		e.needTexts(name, values)
	}
}

func (e *encoder) needTexts(name string, values []string) {
	e.key(name)
	e.flat++
	array(e, values, e.string)
	e.flat--
}

// rest writes what few catalogs hold much of, through the general encoder,
// unless the list is empty.
func rest[T any](e *encoder, name string, values []T) {
	list(e, name, values, func(v T) { e.rest(v) })
}

func (e *encoder) rest(value any) {
	var b bytes.Buffer
	j := json.NewEncoder(&b)
	j.SetEscapeHTML(false)
	if e.flat == 0 {
		j.SetIndent(strings.Repeat("  ", e.depth), "  ")
	}
	if err := j.Encode(value); err != nil {
		panic(err) // the model holds nothing that JSON cannot
	}
	e.buf = append(e.buf, text.JSON(bytes.TrimSuffix(b.Bytes(), []byte("\n")))...)
}

func (e *encoder) object(write func()) {
	e.open('{')
	write()
	e.close('}')
}

// small writes an object on one line.
func (e *encoder) small(write func()) {
	e.flat++
	e.object(write)
	e.flat--
}

func (e *encoder) ref(r Ref) {
	e.small(func() {
		e.need("schema", r.Schema)
		e.need("table", r.Table)
	})
}

// list writes an array, unless it is empty.
func list[T any](e *encoder, name string, values []T, write func(T)) {
	if len(values) > 0 {
		e.key(name)
		array(e, values, write)
	}
}

// array writes an array, or null for a nil one, as the general encoder does.
func array[T any](e *encoder, values []T, write func(T)) {
	if values == nil {
		e.buf = append(e.buf, "null"...)
		return
	}
	e.open('[')
	for _, v := range values {
		e.line()
		write(v)
	}
	e.close(']')
}

// objects writes an array of objects, unless it is empty.
func objects[T any](e *encoder, name string, values []T, members func(T)) {
	list(e, name, values, func(v T) { e.object(func() { members(v) }) })
}
