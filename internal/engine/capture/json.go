package capture

import (
	"bytes"
	"strconv"
	"strings"
	"unicode/utf8"
)

// array reads a JSON array of texts and nulls into row; numbers and truths are taken as they are
// written.
func array(b []byte, row [][]byte) ([][]byte, bool) {
	i := 1
	skip := func() {
		for i < len(b) && (b[i] == ' ' || b[i] == '\t') {
			i++
		}
	}
	for skip(); i < len(b) && b[i] != ']'; skip() {
		switch {
		case b[i] == '"':
			value, n := unquoted(b[i:])
			if n == 0 {
				return nil, false
			}
			row, i = append(row, value), i+n
		default:
			n := bytes.IndexAny(b[i:], ",] ")
			if n < 1 {
				return nil, false
			}
			if word := b[i : i+n]; string(word) == "null" {
				row = append(row, nil)
			} else {
				row = append(row, word)
			}
			i += n
		}
		if skip(); i < len(b) && b[i] == ',' {
			i++
		} else if i < len(b) && b[i] != ']' {
			return nil, false
		}
	}
	return row, i == len(b)-1
}

// unquoted reads a JSON string; n is how long it is, 0 where it is none
// (https://www.rfc-editor.org/rfc/rfc8259#section-7).
func unquoted(b []byte) (value []byte, n int) {
	if b[0] != '"' {
		return nil, 0
	}
	end := 1
	for end < len(b) && b[end] != '"' && b[end] != '\\' {
		end++
	}
	if end < len(b) && b[end] == '"' {
		return b[1:end:end], end + 1
	}
	value = append(make([]byte, 0, len(b)), b[1:end]...)
	for i := end; i < len(b); {
		switch c := b[i]; {
		case c == '"':
			return value, i + 1
		case c != '\\':
			value, i = append(value, c), i+1
		case i+1 >= len(b):
			return nil, 0
		case b[i+1] == 'u':
			r, size := escaped(b[i:])
			if size == 0 {
				return nil, 0
			}
			value, i = utf8.AppendRune(value, r), i+size
		default:
			at := strings.IndexByte(`"\/bfnrt`, b[i+1])
			if at < 0 {
				return nil, 0
			}
			value, i = append(value, "\"\\/\b\f\n\r\t"[at]), i+2
		}
	}
	return nil, 0
}

// escaped reads \uXXXX, or two of them that are one character.
func escaped(b []byte) (rune, int) {
	unit := func(b []byte) (rune, bool) {
		if len(b) < 6 || b[0] != '\\' || b[1] != 'u' {
			return 0, false
		}
		n, err := strconv.ParseUint(string(b[2:6]), 16, 16)
		return rune(n), err == nil
	}
	first, ok := unit(b)
	if !ok {
		return 0, 0
	}
	if 0xD800 <= first && first < 0xDC00 {
		if second, ok := unit(b[6:]); ok && 0xDC00 <= second && second < 0xE000 {
			return (first-0xD800)<<10 + (second - 0xDC00) + 0x10000, 12
		}
	}
	return first, 6
}
