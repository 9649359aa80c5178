package translate

import (
	"fmt"
	"strconv"
	"strings"

	"nexdal/internal/catalog"
)

// A Like is a type that an engine has for others' values of a family.
type Like struct {
	Family catalog.Family
	// What it takes: numbers of so many bits and digits, texts and bytes of such a length, also
	// where they are part of a key. 0 takes any.
	Bits, Precision, Scale, Length, KeyLength int
	// What it is for: values without a sign, texts that are filled up, moments with a zone, columns
	// in keys, values whose digits or length are declared.
	Unsigned, Padded, Zoned, Keyed, Sized bool
	// Native is how it is declared, with {length}, {precision} and {scale} for the other's. Where it
	// is empty a text holds the values.
	Native string
	As     catalog.Family // what its values are; empty: the same
	Why    string         // what is lost
}

// Types are those that an engine has for others' values: the first that takes them is taken, and a
// text holds what none does.
type Types struct {
	Likes []Like
	// Collation is how texts compare, whatever they compared by, as in "compares byte by byte".
	Collation string
	// Points: a decimal has from none to all of its digits behind the point. Elsewhere 0.00123 may be
	// of three digits, and 12300 too.
	Points bool
	// Make completes a type of the engine from its declaration; nil: its details are the other's.
	Make func(native string) catalog.Type
}

// Pick is the type for the values of another, and what is lost.
func (y Types) Pick(t catalog.Type, keyed bool) (catalog.Type, string) {
	family := t.Family
	if y.Points && t.Precision > 0 {
		t.Precision, t.Scale = max(t.Precision-min(t.Scale, 0), t.Scale), max(t.Scale, 0)
	}
	var lost []string
	if family == catalog.Text && t.Collation != "" {
		lost = append(lost, y.Collation+", and no longer by "+t.Collation)
	}
	l, ok := y.like(family, t, keyed)
	if !ok {
		l = Like{Why: fmt.Sprintf("holds text, since %s has no like", t.Native)}
	}
	if l.Native == "" {
		lost = append(lost, l.Why)
		t.Length, t.Padded = 0, false
		l, _ = y.like(catalog.Text, t, keyed)
		l.As = catalog.Text
	}
	if l.Why != "" {
		lost = append(lost, l.Why)
	}
	native := strings.NewReplacer("{length}", strconv.Itoa(t.Length), "{precision}", strconv.Itoa(t.Precision), "{scale}", strconv.Itoa(t.Scale)).Replace(l.Native)
	why := strings.Join(lost, "; ")
	if y.Make != nil {
		return y.Make(native), why
	}
	made := catalog.Type{Native: native, Family: l.As, Bits: l.Bits, Padded: l.Padded, Unsigned: l.Unsigned, Zoned: l.Zoned}
	if made.Family == "" {
		made.Family = family
	}
	var a, b int
	_, sizes, _ := strings.Cut(native, "(")
	fmt.Sscanf(sizes, "%d,%d", &a, &b)
	switch made.Family {
	case catalog.Text, catalog.Binary:
		made.Length = a
	case catalog.Decimal:
		made.Precision, made.Scale = a, b
	}
	return made, why
}

func (y Types) like(family catalog.Family, t catalog.Type, keyed bool) (Like, bool) {
	for _, l := range y.Likes {
		if l.Family == family && l.takes(t, keyed) {
			return l, true
		}
	}
	return Like{}, false
}

func (l Like) takes(t catalog.Type, keyed bool) bool {
	bits, length := t.Bits, l.Length
	if t.Unsigned && !l.Unsigned {
		bits++ // the next wider holds them
	}
	if keyed && l.KeyLength > 0 {
		length = l.KeyLength
	}
	switch {
	case l.Unsigned && !t.Unsigned, l.Padded && !t.Padded, l.Zoned && !t.Zoned, l.Keyed && !keyed, l.Sized && t.Length == 0 && t.Precision == 0:
		return false
	case l.Bits > 0 && bits > l.Bits, length > 0 && (t.Length == 0 || t.Length > length):
		return false
	case l.Precision > 0 && t.Precision > l.Precision, l.Scale > 0 && t.Scale > l.Scale:
		return false
	}
	return true
}
