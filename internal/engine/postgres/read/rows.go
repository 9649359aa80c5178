package read

import (
	"reflect"
	"strconv"
	"strings"
	"time"

	"nexdal/internal/engine/capture"
)

// A row is what the server sent, in its text form. Reading numbers from it
// directly is several times faster than the driver's general way, which at a
// hundred thousand columns is most of a survey.
type row [][]byte

func (v row) oid(i int) uint32 {
	var n uint32
	for _, c := range v[i] {
		n = n*10 + uint32(c-'0')
	}
	return n
}

func (v row) int(i int) int64 {
	n, err := strconv.ParseInt(string(v[i]), 10, 64)
	if err != nil {
		return 0 // null, or no whole number: nothing that is asked for as one
	}
	return n
}

func (v row) text(i int) string { return string(v[i]) }

// is reads t, or true as a cast writes it.
func (v row) is(i int) bool { return len(v[i]) > 0 && v[i][0] == 't' }

// one is a text of a single letter, without making a string of it.
func (v row) one(i int) byte {
	if len(v[i]) == 0 {
		return 0
	}
	return v[i][0]
}

// numbers reads an array of whole numbers: {1,2} or 1 2.
func (v row) numbers(i int) []int64 {
	var list []int64
	n, sign, some := int64(0), int64(1), false
	for _, c := range v[i] {
		switch {
		case c >= '0' && c <= '9':
			n, some = n*10+int64(c-'0'), true
			continue
		case c == '-':
			sign = -1
			continue
		}
		if some {
			list = append(list, sign*n)
		}
		n, sign, some = 0, 1, false
	}
	if some {
		list = append(list, sign*n)
	}
	return list
}

// kept is a copy, for a row whose text is used again.
func (v row) kept() row {
	size := 0
	for _, x := range v {
		size += len(x)
	}
	text, kept := make([]byte, 0, size), make(row, len(v))
	for i, x := range v {
		if x != nil {
			text = append(text, x...)
			kept[i] = text[len(text)-len(x):]
		}
	}
	return kept
}

// scan puts the values where they are wanted; a null only into a pointer or a list.
func (v row) scan(into ...any) error { return capture.Scan(v, v.put, into...) }

func (v row) put(i int, p any) (err error) {
	switch p := p.(type) {
	case *string:
		*p = v.text(i)
	case *uint32:
		*p = v.oid(i)
	case *bool:
		*p = v.is(i)
	case *time.Time:
		*p, err = timeOf(v.text(i))
	case *[]string:
		*p = v.texts(i)
	case *[]int64:
		*p = v.numbers(i)
	default:
		if to := reflect.ValueOf(p).Elem(); to.Kind() == reflect.Pointer {
			to.Set(reflect.New(to.Type().Elem()))
			return v.put(i, to.Interface())
		}
		return capture.Put(v[i], p)
	}
	return err
}

// timeOf reads a time as DateStyle ISO writes it, in the session's zone, which is UTC.
func timeOf(s string) (time.Time, error) {
	return time.Parse("2006-01-02 15:04:05.999999999-07", s)
}

// texts reads an array of texts: {a,"b c",NULL}
// (https://www.postgresql.org/docs/current/arrays.html#ARRAYS-IO).
func (v row) texts(i int) []string {
	s := strings.TrimSuffix(strings.TrimPrefix(string(v[i]), "{"), "}")
	list := []string{}
	for s != "" {
		var one strings.Builder
		quoted := s[0] == '"'
		at := 0
		if quoted {
			at = 1
		}
		for ; at < len(s) && (quoted && s[at] != '"' || !quoted && s[at] != ','); at++ {
			if s[at] == '\\' && at+1 < len(s) {
				at++
			}
			one.WriteByte(s[at])
		}
		if quoted {
			at++
		}
		list = append(list, one.String())
		s = strings.TrimPrefix(s[min(at, len(s)):], ",")
	}
	return list
}
