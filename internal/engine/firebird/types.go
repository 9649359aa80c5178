package firebird

import (
	"fmt"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/capture"
	"nexdal/internal/engine/firebird/traits"
	"nexdal/internal/engine/sqllex"
)

// The types of RDB$FIELDS.RDB$FIELD_TYPE.
const (
	isSmall       = 7
	isInteger     = 8
	isFloat       = 10
	isDate        = 12
	isTime        = 13
	isChar        = 14
	isBigint      = 16
	isBoolean     = 23
	isDecfloat16  = 24
	isDecfloat34  = 25
	isInt128      = 26
	isDouble      = 27
	isTimeZone    = 28
	isMomentZone  = 29
	isMoment      = 35
	isVarchar     = 37
	isCString     = 40
	isBlob        = 261
	octets        = 1 // RDB$CHARACTER_SETS, of what is no text
	subText       = 1 // RDB$FIELD_SUB_TYPE of a blob
	usualSegment  = 80
	firstByPeople = "RDB$" // what the names of the engine's own domains begin with
)

// domain is a row of RDB$FIELDS: somebody's domain, or what the engine made for one column.
type domain struct {
	name                            string
	t                               catalog.Type
	charset                         int
	required                        bool
	def, check, computed, dimension string
	segment                         int
	comment, owner                  string
}

// own reports whether somebody made it.
func (d *domain) own() bool { return !strings.HasPrefix(d.name, firstByPeople) }

func (r *reader) readDomains() {
	bounds := map[string][]string{}
	r.ask(askDimensions, func(w *capture.Fields) {
		name := w.Text()
		w.Text()
		low, high := w.Text(), w.Text()
		if low == "1" {
			bounds[name] = append(bounds[name], high)
		} else {
			bounds[name] = append(bounds[name], low+":"+high)
		}
	})
	r.ask(askDomains, func(w *capture.Fields) {
		d := &domain{name: w.Text()}
		kind, sub := w.Number(), w.Number()
		bytes, letters, precision, scale := w.Number(), w.Next(), w.Number(), -w.Number()
		set, collation := w.Next(), w.Number()
		length := bytes
		if letters != nil {
			length = number(*letters)
		}
		d.charset = -1
		if set != nil {
			d.charset = number(*set)
		}
		d.t = r.typed(kind, sub, length, precision, scale, d.charset, collation)
		if n := w.Number(); n > 0 {
			d.dimension = " [" + strings.Join(bounds[d.name], ", ") + "]"
			d.t.Native, d.t.Family = d.t.Native+d.dimension, catalog.Array
		}
		d.required = w.Is("1")
		d.def, d.check, d.computed = source(w.Text(), "default"), source(w.Text(), "check"), w.Text()
		d.segment = w.Number()
		d.comment, d.owner = w.Text(), w.Text()
		if kind == isBlob && d.segment != usualSegment && d.segment != 0 {
			d.t.Native = strings.Replace(d.t.Native, "BLOB", "BLOB", 1) + fmt.Sprintf(" SEGMENT SIZE %d", d.segment)
		}
		r.domains[d.name] = d
		if !d.own() {
			return
		}
		under := d.t
		y := &catalog.UserType{Name: d.name, Kind: catalog.DomainType, Base: &under, Required: d.required, Default: d.def, Comment: d.comment}
		if d.check != "" {
			y.Checks = []*catalog.Check{{Expression: d.check}}
		}
		if d.owner != "" {
			y.Owner = d.owner
		}
		r.s.Types = append(r.s.Types, y)
	})
}

func number(text string) int {
	f := capture.Fields{Values: []*string{&text}}
	return f.Number()
}

// source is what stands behind the word that the engine keeps with a text: DEFAULT 0, CHECK (...).
func source(text, word string) string {
	text = strings.TrimSpace(text)
	rest := text
	var first string
	Engine{}.Dialect().Each(text, func(t sqllex.Token) bool {
		if t.Blank() {
			return true
		}
		first, rest = t.Text, text[t.End:]
		return false
	})
	switch {
	case !strings.EqualFold(first, word) && first != "=":
		return text
	case word == "check":
		return traits.Expressions.Plain(strings.TrimSpace(rest))
	}
	return strings.TrimSpace(rest)
}

// typed is a type as RDB$FIELDS describes it.
func (r *reader) typed(kind, sub, length, precision, scale, set, collation int) catalog.Type {
	t := plainType(kind, sub, length, precision, scale)
	if kind != isChar && kind != isVarchar && !(kind == isBlob && sub == subText) || set < 0 {
		return t
	}
	if set == octets && kind != isBlob {
		t.Native, t.Family = t.Native+" CHARACTER SET OCTETS", catalog.Binary
		return t
	}
	at := r.charsets[set]
	if at.name != r.charset && at.name != "" {
		t.Native += " CHARACTER SET " + at.name
	}
	// Each set has a collation of its name, which goes without saying as long as nobody gave the set
	// another one.
	if name := r.collations[[2]int{set, collation}]; name != at.name || at.usual != at.name {
		t.Collation = name
	}
	return t
}

// plainType is the type without what its letters are.
func plainType(kind, sub, length, precision, scale int) catalog.Type {
	t := catalog.Type{Family: catalog.Integer}
	exact := func(bits int, native string, digits int) {
		t.Bits, t.Native = bits, native
		if sub != 1 && sub != 2 && scale == 0 {
			return
		}
		name := map[bool]string{true: "DECIMAL", false: "NUMERIC"}[sub == 2]
		if precision == 0 {
			precision = digits
		}
		t = catalog.Type{Family: catalog.Decimal, Native: fmt.Sprintf("%s(%d,%d)", name, precision, scale), Precision: precision, Scale: scale}
	}
	switch kind {
	case isSmall:
		exact(16, "SMALLINT", 4)
	case isInteger:
		exact(32, "INTEGER", 9)
	case isBigint:
		exact(64, "BIGINT", 18)
	case isInt128:
		exact(128, "INT128", 38)
	case isFloat:
		t = catalog.Type{Family: catalog.Float, Native: "FLOAT", Bits: 32}
	case isDouble:
		t = catalog.Type{Family: catalog.Float, Native: "DOUBLE PRECISION", Bits: 64}
	case isDecfloat16:
		t = catalog.Type{Family: catalog.Float, Native: "DECFLOAT(16)", Bits: 64}
	case isDecfloat34:
		t = catalog.Type{Family: catalog.Float, Native: "DECFLOAT(34)", Bits: 128}
	case isDate:
		t = catalog.Type{Family: catalog.Date, Native: "DATE"}
	case isTime:
		t = catalog.Type{Family: catalog.Time, Native: "TIME"}
	case isMoment:
		t = catalog.Type{Family: catalog.Timestamp, Native: "TIMESTAMP"}
	case isTimeZone:
		t = catalog.Type{Family: catalog.Time, Native: "TIME WITH TIME ZONE", Zoned: true}
	case isMomentZone:
		t = catalog.Type{Family: catalog.Timestamp, Native: "TIMESTAMP WITH TIME ZONE", Zoned: true}
	case isBoolean:
		t = catalog.Type{Family: catalog.Boolean, Native: "BOOLEAN"}
	case isChar:
		t = catalog.Type{Family: catalog.Text, Native: fmt.Sprintf("CHAR(%d)", length), Length: length, Padded: true}
	case isVarchar:
		t = catalog.Type{Family: catalog.Text, Native: fmt.Sprintf("VARCHAR(%d)", length), Length: length}
	case isCString:
		t = catalog.Type{Family: catalog.Text, Native: fmt.Sprintf("CSTRING(%d)", length), Length: length}
	case isBlob:
		switch sub {
		case subText:
			t = catalog.Type{Family: catalog.Text, Native: "BLOB SUB_TYPE TEXT"}
		case 0:
			t = catalog.Type{Family: catalog.Binary, Native: "BLOB SUB_TYPE BINARY"}
		default:
			t = catalog.Type{Family: catalog.Binary, Native: fmt.Sprintf("BLOB SUB_TYPE %d", sub)}
		}
	default:
		t = catalog.Type{Family: catalog.Other, Native: fmt.Sprintf("type %d", kind)}
	}
	return t
}
