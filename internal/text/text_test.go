package text

import "testing"

func TestNumbers(t *testing.T) {
	for n, want := range map[int64]string{0: "0 rows", 1: "1 row", 999: "999 rows", 1000: "1,000 rows", 1234567: "1,234,567 rows", -1000: "-1,000 rows"} {
		if got := Plural(n, "row"); got != want {
			t.Errorf("%d: %s, want %s", n, got, want)
		}
	}
	for noun, want := range map[string]string{"index": "2 indexes", "foreign key": "2 foreign keys", "entry": "2 entries", "branch": "2 branches"} {
		if got := Plural(2, noun); got != want {
			t.Errorf("%s: %s", noun, got)
		}
	}
	for n, want := range map[int64]string{0: "0 B", 999: "999 B", 1000: "1.0 kB", 8192: "8.2 kB", 9960: "10 kB", 999499: "999 kB", 999999: "1.0 MB", 2100000000: "2.1 GB", 5e15: "5.0 PB", 5e18: "5000 PB"} {
		if got := Size(n); got != want {
			t.Errorf("%d: %s, want %s", n, got, want)
		}
	}
}

func TestList(t *testing.T) {
	for want, names := range map[string][]string{"": nil, "a": {"a"}, "a and b": {"a", "b"}, "a, b and c": {"a", "b", "c"}} {
		if got := List(names); got != want {
			t.Errorf("%v: %s", names, got)
		}
	}
}

func TestLine(t *testing.T) {
	for text, want := range map[string]string{"plain é 表": "plain é 表", "a\nb": `a\nb`, "a\x1b[31m": "a\ufffd[31m", "\u202eevil": "\ufffdevil", "a\tb\rc": "a\ufffdb\ufffdc", "a\x00\x7f\u0085": "a\ufffd\ufffd\ufffd"} {
		if got := Line(text); got != want {
			t.Errorf("%q: %q, want %q", text, got, want)
		}
	}
}
