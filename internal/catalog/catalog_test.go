package catalog

import (
	"bytes"
	"fmt"
	"strings"
	"testing"
	"unicode/utf8"
)

// TestGapTo: how a referring column's type falls short of the key's.
func TestGapTo(t *testing.T) {
	number := func(bits int) Type { return Type{Native: strings.Repeat("i", bits/8), Family: Integer, Bits: bits} }
	text := func(n int) Type {
		return Type{Native: "varchar(" + strings.Repeat("9", n) + ")", Family: Text, Length: n}
	}
	decimal := func(p, s int) Type {
		return Type{Native: string(rune('a'+p)) + string(rune('a'+s)), Family: Decimal, Precision: p, Scale: s}
	}
	padded, unsigned, plain := text(5), number(32), Type{Native: "text", Family: Text}
	padded.Padded, padded.Native = true, "char(5)"
	unsigned.Unsigned, unsigned.Native = true, "unsigned"
	collated := plain
	collated.Collation = "C"
	domain := Type{Native: "code", Underlying: "text", Family: Text}
	for _, c := range []struct {
		name          string
		child, target Type
		want          TypeGap
	}{
		{"alike", number(64), number(64), TypesAgree},
		{"too small", number(32), number(64), TypeTooSmall},
		{"larger", number(64), number(32), TypeLooser},
		{"sign", unsigned, number(32), TypeTooSmall},
		{"another family", text(5), number(32), TypeUnlike},
		{"shorter", text(4), text(5), TypeTooSmall},
		{"longer", text(6), text(5), TypeLooser},
		{"unlimited", plain, text(5), TypeLooser},
		{"limited", text(5), plain, TypeTooSmall},
		{"padded", padded, text(5), TypeUnlike},
		{"a domain over it", domain, plain, TypesAgree},
		{"collation", collated, plain, TypeUnlike},
		{"fewer digits", decimal(6, 2), decimal(8, 2), TypeTooSmall},
		{"fewer decimals", decimal(8, 1), decimal(8, 2), TypeTooSmall},
		{"more digits", decimal(9, 2), decimal(8, 2), TypeLooser},
		{"any digits", decimal(0, 0), decimal(8, 2), TypeLooser},
		{"no limit to hold", decimal(8, 2), decimal(0, 0), TypeTooSmall},
		{"one class", Type{Native: "INT", Class: "number"}, Type{Native: "BIGINT", Class: "number"}, TypesAgree},
		{"two classes", Type{Native: "TEXT", Class: "text"}, Type{Native: "INT", Class: "number"}, TypeUnlike},
		{"zone", Type{Native: "timestamp", Family: Timestamp}, Type{Native: "timestamptz", Family: Timestamp, Zoned: true}, TypeUnlike},
	} {
		got, words := c.child.GapTo(c.target)
		if got != c.want || (words == "") != (got == TypesAgree) {
			t.Errorf("%s: %d %q, want %d", c.name, got, words, c.want)
		}
	}
}

// TestFree: names are new, short enough and whole.
func TestFree(t *testing.T) {
	c := &Catalog{Schemas: []*Schema{{Name: "s", Tables: []*Table{{Schema: "s", Name: "t_a_idx"}}}}}
	n := NewNames(c, 20)
	seen := map[string]bool{"t_a_idx": true}
	for range 12 {
		for _, parts := range [][]string{{"t", "a"}, {"T", "A"}, {"station", "a_long_column_name"}, {"station", "a_long_column_nome"}, {"ürümçi", "ürümçi_ürümçi"}} {
			name := n.Free("s", "idx", parts...)
			if seen[strings.ToLower(name)] || len(name) > 20 || !utf8.ValidString(name) {
				t.Errorf("%v: %q", parts, name)
			}
			seen[strings.ToLower(name)] = true
		}
	}
	if name := n.Free("other", "idx", "t", "a"); name != "t_a_idx" {
		t.Errorf("another schema: %s", name)
	}
}

// TestRead: what is no survey of ours is refused, and why.
func TestRead(t *testing.T) {
	var whole bytes.Buffer
	if err := (&Catalog{Engine: Engine{"sqlite", "3"}, Schemas: []*Schema{{Name: "main", Tables: []*Table{{Name: "a", Kind: Ordinary}}}}}).Write(&whole, true); err != nil {
		t.Fatal(err)
	}
	c, err := Read(bytes.NewReader(whole.Bytes()))
	if err != nil || c.Tables()[0].Schema != "main" {
		t.Fatalf("%v", err)
	}
	for name, text := range map[string]string{
		"empty": "", "cut": whole.String()[:whole.Len()/2], "a list": "[]", "another kind": `{"format":1,"kind":"findings"}`,
		"newer": strings.Replace(whole.String(), fmt.Sprintf(`"format": %d`, Format), fmt.Sprintf(`"format": %d`, Format+1), 1), "unknown member": strings.Replace(whole.String(), `"engine"`, `"motor"`, 1),
	} {
		if _, err := Read(strings.NewReader(text)); err == nil {
			t.Errorf("%s: taken", name)
		}
	}
}
