package capture

import (
	"bytes"
	"errors"
	"strings"
	"unicode/utf8"

	"golang.org/x/text/encoding/charmap"
	"golang.org/x/text/encoding/unicode"
)

// decoded is the text of a file: UTF-8, or UTF-16 as some shells write what they redirect.
func decoded(raw []byte) (string, error) {
	utf16 := func(order unicode.Endianness, bom unicode.BOMPolicy) (string, error) {
		text, err := unicode.UTF16(order, bom).NewDecoder().Bytes(raw)
		return string(text), err
	}
	switch {
	case bytes.HasPrefix(raw, []byte("\xff\xfe")):
		return utf16(unicode.LittleEndian, unicode.UseBOM)
	case bytes.HasPrefix(raw, []byte("\xfe\xff")):
		return utf16(unicode.BigEndian, unicode.UseBOM)
	case bytes.Contains(raw[:min(len(raw), 4096)], []byte("@\x00n\x00")):
		return utf16(unicode.LittleEndian, unicode.IgnoreBOM)
	}
	return string(bytes.TrimPrefix(raw, []byte("\xef\xbb\xbf"))), nil
}

// pages are the code pages that a shell takes UTF-8 for.
var pages = []*charmap.Charmap{charmap.Windows1252, charmap.CodePage850, charmap.CodePage437, charmap.ISO8859_1}

// repaired undoes that a shell took UTF-8 for another code page, and says whether the client
// doubled backslashes. What became of the probe tells.
func repaired(text string) (whole string, doubled bool, err error) {
	first, _, _ := strings.Cut(afterMark(text), "\n")
	switch {
	case first == "" || has(first, Probe):
		return text, false, nil
	case has(undoubled(first), Probe):
		return text, true, nil
	}
	for _, page := range pages {
		if s, ok := mistaken(first, page); ok && (has(s, Probe) || has(undoubled(s), Probe)) {
			whole, ok := mistaken(text, page)
			if !ok {
				return "", false, errors.New("it was written in two code pages")
			}
			return repaired(whole)
		}
	}
	if !utf8.ValidString(text) {
		return "", false, errors.New("it is not UTF-8: let the client write UTF-8")
	}
	return text, false, nil // and the probe says what is wrong
}

// afterMark is the text from the first probe on.
func afterMark(text string) string {
	if at := strings.Index(text, Mark); at >= 0 {
		if probe := strings.Index(text[at:], "@probe "); probe >= 0 {
			return text[at+probe:]
		}
	}
	return ""
}

// has reports whether a row of JSON holds the text.
func has(row, text string) bool {
	return strings.Contains(row, strings.NewReplacer(`\`, `\\`, `"`, `\"`).Replace(text))
}

// undoubled is what mariadb and mysql write with --batch, without --raw, as it was
// (https://mariadb.com/kb/en/mariadb-command-line-client/#-r-raw).
func undoubled(text string) string { return single.Replace(text) }

var single = strings.NewReplacer(`\\`, `\`, `\n`, "\n", `\t`, "\t", `\0`, "\x00")

// mistaken is the UTF-8 that somebody took for the code page.
func mistaken(text string, page *charmap.Charmap) (string, bool) {
	b := make([]byte, 0, len(text))
	for _, r := range text {
		c, ok := page.EncodeRune(r)
		if !ok && r < 256 {
			c, ok = byte(r), true // which the page has no character for
		}
		if !ok {
			return "", false
		}
		b = append(b, c)
	}
	return string(b), utf8.Valid(b)
}
