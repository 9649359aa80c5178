package text

import (
	"bytes"
	"encoding/json"
	"fmt"
	"strings"
	"testing"
	"unicode"
	"unicode/utf8"
)

// TestHostile holds the rule to Unicode's own tables, rune by rune.
func TestHostile(t *testing.T) {
	for r := rune(0); r <= unicode.MaxRune; r++ {
		want := unicode.Is(unicode.Cc, r) || unicode.Is(unicode.Zl, r) || unicode.Is(unicode.Zp, r) || unicode.Is(unicode.Bidi_Control, r)
		if Hostile(r) != want {
			t.Errorf("%U: hostile %v", r, !want)
		}
		if !utf8.ValidRune(r) {
			continue
		}
		text := "a" + string(r) + "b"
		switch got := Line(text); {
		case r == '\n' && got != `a\nb`, want && r != '\n' && got != "a\ufffdb", !want && got != text:
			t.Errorf("%U in a line: %q", r, got)
		}
	}
}

// TestLineIsUTF8: a byte that is no UTF-8 is an escape sequence to some terminals.
func TestLineIsUTF8(t *testing.T) {
	for b := range 256 {
		for _, text := range []string{string([]byte{byte(b)}), "é" + string([]byte{byte(b), '3', '1', 'm'}), string([]byte{0xc3, byte(b)}), string([]byte{byte(b), '\n', byte(b)})} {
			got := Line(text)
			if !utf8.ValidString(got) || strings.ContainsFunc(got, Hostile) {
				t.Errorf("%q: %q", text, got)
			}
			if utf8.ValidString(text) && !strings.ContainsFunc(text, Hostile) && got != text {
				t.Errorf("%q became %q", text, got)
			}
		}
	}
}

func TestAmounts(t *testing.T) {
	for n, want := range map[int64]string{-1: "-1", -999: "-999", -1000000: "-1,000,000", 12: "12", 1001: "1,001", 100000: "100,000", 1 << 62: "4,611,686,018,427,387,904"} {
		if got := Amount(n); got != want {
			t.Errorf("%d: %s, want %s", n, got, want)
		}
	}
	for noun, want := range map[string]string{"day": "0 days", "key": "0 keys", "box": "0 boxes", "query": "0 queries", "match": "0 matches"} {
		if got := Plural(0, noun); got != want {
			t.Errorf("%s: %s, want %s", noun, got, want)
		}
	}
	if got := Plural(1, "index"); got != "1 index" {
		t.Error(got)
	}
	for n, want := range map[int64]string{1: "1 B", 1001: "1.0 kB", 9949: "9.9 kB", 9951: "10 kB", 999_500: "1.0 MB", 999_499_999: "999 MB", 1_500_000_000_000: "1.5 TB"} {
		if got := Size(n); got != want {
			t.Errorf("%d bytes: %s, want %s", n, got, want)
		}
	}
}

func TestSome(t *testing.T) {
	for n, want := range map[int]string{0: "", 1: "a0", 2: "a0 and a1", 3: "a0, a1 and a2", 4: "a0, a1 and 2 more", 9: "a0, a1 and 7 more"} {
		var names []string
		for i := range n {
			names = append(names, fmt.Sprintf("a%d", i))
		}
		if got := Some(names, 2); got != want {
			t.Errorf("%d: %s, want %s", n, got, want)
		}
		if len(names) > 2 && names[2] != "a2" {
			t.Error("the list itself is altered")
		}
	}
}

func TestRows(t *testing.T) {
	one, many := int64(1), int64(24000)
	for _, c := range []struct {
		want  string
		n     *int64
		exact bool
	}{{"", nil, true}, {"1 row", &one, true}, {"about 1 row", &one, false}, {"24,000 rows", &many, true}, {"about 24,000 rows", &many, false}} {
		if got := Rows(c.n, c.exact); got != c.want {
			t.Errorf("%q, want %q", got, c.want)
		}
	}
}

// TestJSON: every character, as it is written by the general encoder, comes back, and
// nothing hostile stands in between.
func TestJSON(t *testing.T) {
	for r := rune(0); r <= unicode.MaxRune; r++ {
		if !utf8.ValidRune(r) {
			continue
		}
		written, err := json.Marshal("a" + string(r) + "b")
		if err != nil {
			t.Fatal(err)
		}
		got := JSON(written)
		var back string
		if err := json.Unmarshal(got, &back); err != nil || back != "a"+string(r)+"b" {
			t.Errorf("%U: %s, %v", r, got, err)
		}
		if bytes.ContainsFunc(got, Hostile) {
			t.Errorf("%U stands raw in %q", r, got)
		}
	}
	if got := JSON([]byte("{\n\t\"a\": \"\x7f\"\n}")); string(got) != "{\n\t\"a\": \"\\u007f\"\n}" {
		t.Errorf("%q", got)
	}
}

func TestNearest(t *testing.T) {
	for _, c := range []struct {
		a, b string
		want int
	}{{"", "", 0}, {"", "abc", 3}, {"abc", "", 3}, {"gauge", "gauge", 0}, {"gauge", "guage", 2}, {"kitten", "sitting", 3}, {"größe", "grosse", 3}, {"ab", "ba", 2}} {
		if got := Distance(c.a, c.b); got != c.want {
			t.Errorf("%s, %s: %d, want %d", c.a, c.b, got, c.want)
		}
		if Distance(c.a, c.b) != Distance(c.b, c.a) {
			t.Errorf("%s, %s: not the same both ways", c.a, c.b)
		}
	}
	words := []string{"fk/not-indexed", "fk/missing", "key/none"}
	for word, want := range map[string]string{"fk/mising": "fk/missing", "KEY/NONE": "key/none", "fk/not-index": "fk/not-indexed"} {
		if got := Nearest(word, words); got != want {
			t.Errorf("%s: %s", word, got)
		}
	}
	if Nearest("x", nil) != "" {
		t.Error("the nearest of nothing")
	}
	if Nearest("zz", []string{"aa", "bb"}) != "aa" {
		t.Error("of two as near, the first")
	}
}
