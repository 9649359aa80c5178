package sqlserver

import (
	"bufio"
	"encoding/binary"
	"fmt"
	"io"
	"math"
	"net"
	"strings"
	"time"
	"unicode/utf16"
)

var le = binary.LittleEndian

// wire is a connection by the Tabular Data Stream protocol, of which it speaks what is needed
// to log in, and to answer batches and calls of sp_executesql
// (https://learn.microsoft.com/en-us/openspecs/windows_protocols/ms-tds/).
type wire struct {
	in   *bufio.Reader
	to   io.Writer
	size int // of a packet
	out  []byte
}

func newWire(conn net.Conn) *wire {
	return &wire{in: bufio.NewReader(conn), to: conn, size: 4096}
}

// The kinds of packet.
const (
	packetBatch       = 0x01
	packetCall        = 0x03
	packetAnswer      = 0x04
	packetAttention   = 0x06
	packetTransaction = 0x0E
	packetLogin       = 0x10
	packetPrelogin    = 0x12
)

// The kinds of token in an answer.
const (
	tokenReturn     = 0x79
	tokenColumns    = 0x81
	tokenError      = 0xAA
	tokenInfo       = 0xAB
	tokenLoggedIn   = 0xAD
	tokenRow        = 0xD1
	tokenRowNulls   = 0xD2
	tokenChange     = 0xE3
	tokenDone       = 0xFD
	tokenDoneCall   = 0xFE
	tokenDoneInCall = 0xFF
)

// The bits of a done token.
const (
	doneMore  = 0x01
	doneError = 0x02
	doneCount = 0x10
	doneStop  = 0x20
)

// message reads packets up to the one that ends a message.
func (w *wire) message() (kind byte, body []byte, err error) {
	for {
		var head [8]byte
		if _, err = io.ReadFull(w.in, head[:]); err != nil {
			return 0, nil, err
		}
		length := int(binary.BigEndian.Uint16(head[2:])) - len(head)
		if length < 0 {
			return 0, nil, fmt.Errorf("a packet of %d bytes", length)
		}
		part := make([]byte, length)
		if _, err = io.ReadFull(w.in, part); err != nil {
			return 0, nil, err
		}
		kind, body = head[0], append(body, part...)
		if head[1]&1 != 0 {
			return kind, body, nil
		}
	}
}

// flush sends what was gathered, as one message.
func (w *wire) flush() error {
	for id := byte(1); ; id++ {
		n := min(len(w.out), w.size-8)
		last := byte(0)
		if n == len(w.out) {
			last = 1
		}
		packet := append([]byte{packetAnswer, last, 0, 0, 0, 51, id, 0}, w.out[:n]...)
		binary.BigEndian.PutUint16(packet[2:], uint16(n+8))
		if _, err := w.to.Write(packet); err != nil {
			return err
		}
		if w.out = w.out[n:]; last == 1 {
			w.out = nil
			return nil
		}
	}
}

func (w *wire) bytes(v ...byte) { w.out = append(w.out, v...) }
func (w *wire) u16(v int)       { w.out = le.AppendUint16(w.out, uint16(v)) }
func (w *wire) u32(v uint32)    { w.out = le.AppendUint32(w.out, v) }
func (w *wire) u64(v uint64)    { w.out = le.AppendUint64(w.out, v) }

// short and long are texts behind a length of one and of two bytes, in letters.
func (w *wire) short(s string) {
	u := utf16le(s)
	w.bytes(byte(len(u) / 2))
	w.bytes(u...)
}

func (w *wire) long(s string) {
	u := utf16le(s)
	w.u16(len(u) / 2)
	w.bytes(u...)
}

// token writes one whose length stands before what body writes.
func (w *wire) token(kind byte, body func()) {
	w.bytes(kind)
	at := len(w.out)
	w.u16(0)
	body()
	le.PutUint16(w.out[at:], uint16(len(w.out)-at-2))
}

func (w *wire) done(kind byte, status int, rows uint64) {
	w.bytes(kind)
	w.u16(status)
	w.u16(0xC1)
	w.u64(rows)
}

func (w *wire) says(kind byte, number uint32, class byte, text string) {
	w.token(kind, func() {
		w.u32(number)
		w.bytes(1, class)
		w.long(text)
		w.short("SIMULATED")
		w.short("")
		w.u32(1)
	})
}

func (w *wire) changed(what byte, body func()) {
	w.token(tokenChange, func() { w.bytes(what); body() })
}

func utf16le(s string) []byte {
	var b []byte
	for _, u := range utf16.Encode([]rune(s)) {
		b = le.AppendUint16(b, u)
	}
	return b
}

func fromUTF16(b []byte) string {
	u := make([]uint16, len(b)/2)
	for i := range u {
		u[i] = le.Uint16(b[2*i:])
	}
	return string(utf16.Decode(u))
}

// textCollation is that of texts in answers: none of them is compared.
var textCollation = []byte{0x09, 0x04, 0xD0, 0x00, 0x34}

// prelogin says that nothing is encrypted.
func (w *wire) prelogin() {
	options := []struct {
		id    byte
		value []byte
	}{{0, []byte{16, 0, 0x10, 0x09, 0, 0}}, {1, []byte{2}}, {2, []byte{0}}, {3, nil}, {4, []byte{0}}}
	at := len(options)*5 + 1
	for _, o := range options {
		w.bytes(o.id, byte(at>>8), byte(at), 0, byte(len(o.value)))
		at += len(o.value)
	}
	w.bytes(0xFF)
	for _, o := range options {
		w.bytes(o.value...)
	}
}

// welcome ends a login.
func (w *wire) welcome(database string) {
	w.changed(1, func() { w.short(database); w.short("master") })
	w.says(tokenInfo, 5701, 0, "Changed database context to '"+database+"'.")
	w.changed(7, func() { w.bytes(5); w.bytes(textCollation...); w.bytes(0) })
	w.changed(2, func() { w.short("us_english"); w.short("") })
	w.token(tokenLoggedIn, func() { w.bytes(1, 0x74, 0, 0, 4); w.short("Microsoft SQL Server"); w.bytes(16, 0, 0x10, 0x09) })
	w.changed(4, func() { w.short(fmt.Sprint(w.size)); w.short("4096") })
	w.done(tokenDone, 0, 0)
}

// login reads who wants to come in, to which database.
func (w *wire) login(b []byte) (user, database string) {
	field := func(at int) string {
		from, letters := int(le.Uint16(b[at:])), int(le.Uint16(b[at+2:]))
		return fromUTF16(b[from : from+2*letters])
	}
	if size := int(le.Uint32(b[8:])); size >= 512 && size <= 32767 {
		w.size = size
	}
	return field(40), field(68)
}

// A column of an answer.
type column struct{ token, size byte }

// The types of an answer's columns.
const (
	typeInteger  = 0x26
	typeDate     = 0x28
	typeMoment   = 0x2A
	typeBit      = 0x68
	typeFloat    = 0x6D
	typeBinary   = 0xA5
	typeText     = 0xE7
	lengthNoEnd  = 0xFFFF
	momentDigits = 7
)

// columnOf is how a column is sent: by the name of its type, or by a value.
func columnOf(declared string, sample any) column {
	name, _, _ := strings.Cut(strings.ToLower(declared), " ")
	switch name {
	case "bit":
		return column{typeBit, 1}
	case "tinyint":
		return column{typeInteger, 1}
	case "smallint":
		return column{typeInteger, 2}
	case "int":
		return column{typeInteger, 4}
	case "bigint":
		return column{typeInteger, 8}
	case "float", "real":
		return column{typeFloat, 8}
	case "varbinary", "binary", "timestamp", "image":
		return column{typeBinary, 0}
	case "date":
		return column{typeDate, 0}
	case "datetime2", "datetime", "smalldatetime":
		return column{typeMoment, momentDigits}
	case "":
		switch sample.(type) {
		case int64:
			return column{typeInteger, 8}
		case float64:
			return column{typeFloat, 8}
		case []byte:
			return column{typeBinary, 0}
		}
	}
	return column{typeText, 0}
}

// answer sends rows.
func (w *wire) answer(names, declared []string, rows [][]any) error {
	columns := make([]column, len(names))
	w.bytes(tokenColumns)
	w.u16(len(names))
	for i, name := range names {
		var sample any
		for _, r := range rows {
			if sample = r[i]; sample != nil {
				break
			}
		}
		c := columnOf(declared[i], sample)
		columns[i] = c
		w.u32(0)
		w.u16(9) // may be null
		switch c.token {
		case typeText:
			w.bytes(c.token)
			w.u16(lengthNoEnd)
			w.bytes(textCollation...)
		case typeBinary:
			w.bytes(c.token)
			w.u16(lengthNoEnd)
		case typeDate:
			w.bytes(c.token)
		default:
			w.bytes(c.token, c.size)
		}
		w.short(name)
	}
	for _, r := range rows {
		nulls := make([]byte, (len(r)+7)/8)
		for i, v := range r {
			if v == nil {
				nulls[i/8] |= 1 << (i % 8)
			}
		}
		w.bytes(tokenRowNulls)
		w.bytes(nulls...)
		for i, v := range r {
			if v == nil {
				continue
			}
			if err := w.value(columns[i], v); err != nil {
				return fmt.Errorf("column %s: %w", names[i], err)
			}
		}
	}
	return nil
}

func (w *wire) value(c column, v any) error {
	switch c.token {
	case typeInteger, typeBit:
		n, ok := v.(int64)
		if !ok {
			return refuse(245, "Conversion failed when converting the value '%v' to a whole number.", v)
		}
		w.bytes(c.size)
		w.out = append(w.out, le.AppendUint64(nil, uint64(n))[:c.size]...)
	case typeFloat:
		f, ok := v.(float64)
		if n, whole := v.(int64); whole {
			f, ok = float64(n), true
		}
		if !ok {
			return refuse(245, "Conversion failed when converting the value '%v' to a number.", v)
		}
		w.bytes(8)
		w.u64(math.Float64bits(f))
	case typeDate, typeMoment:
		at, err := momentOf(fmt.Sprint(v))
		if err != nil {
			return err
		}
		midnight := time.Date(at.Year(), at.Month(), at.Day(), 0, 0, 0, 0, time.UTC)
		days := (midnight.Unix() - time.Date(1, 1, 1, 0, 0, 0, 0, time.UTC).Unix()) / 86400
		if c.token == typeDate {
			w.bytes(3)
		} else {
			w.bytes(8)
			w.out = append(w.out, le.AppendUint64(nil, uint64(at.Sub(midnight)/100))[:5]...)
		}
		w.bytes(byte(days), byte(days>>8), byte(days>>16))
	case typeBinary:
		b, ok := v.([]byte)
		if !ok {
			b = []byte(fmt.Sprint(v))
		}
		w.chunk(b)
	default:
		w.chunk(utf16le(fmt.Sprint(v)))
	}
	return nil
}

// chunk is a value without an end to its length.
func (w *wire) chunk(b []byte) {
	w.u64(uint64(len(b)))
	if len(b) > 0 {
		w.u32(uint32(len(b)))
		w.bytes(b...)
	}
	w.u32(0)
}

func momentOf(text string) (time.Time, error) {
	for _, layout := range []string{"2006-01-02 15:04:05.999999999", time.DateOnly} {
		if at, err := time.Parse(layout, text); err == nil {
			return at, nil
		}
	}
	return time.Time{}, refuse(241, "Conversion failed when converting date and/or time from character string '%s'.", text)
}
