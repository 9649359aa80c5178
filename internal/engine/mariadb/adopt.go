package mariadb

import (
	"cmp"
	"fmt"
	"math"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/engine/translate"
)

// keyLength is how long a text may be that is part of a key
// (https://mariadb.com/kb/en/innodb-limitations/: 3072 bytes, four a letter).
const keyLength = 255

// Adopt takes over another engine's structure.
func (e Engine) Adopt(c *catalog.Catalog, source sqllex.Dialect) (*catalog.Catalog, []engine.Loss) {
	to, losses := translate.Catalog(c, translate.Target{
		Engine: catalog.Engine{Name: e.Name(), Version: e.family().Adopts}, Dialect: e.Dialect(), Source: source, Ident: ident, Type: adoptType,
		Numbered: catalog.IdentityCounter, NumberedTypes: translate.WholeNumber, Next: func(r catalog.Ref) string { return "nextval(" + ident(r.Table) + ")" },
		Schema: c.Database, SameTypes: true, Named: nameable, MaxName: e.Abilities("").MaxName,
		Sequences: e.family().Sequences, Comments: true, Descending: true,
		Now: "current_timestamp()", Today: "curdate()", True: "1", False: "0",
	})
	for _, s := range to.Schemas {
		for _, q := range s.Sequences { // https://mariadb.com/kb/en/create-sequence/
			q.Most, q.Least = min(q.Most, math.MaxInt64-1), max(q.Least, math.MinInt64+1)
		}
	}
	for _, t := range to.Tables() {
		losses = append(losses, e.ofNumbers(t)...)
		t.Collation = "utf8mb4_bin" // text differs where its letters do, as it did
		for _, col := range t.Columns {
			if len(col.Default) > 0 && (col.Type.Family == catalog.Text || col.Type.Family == catalog.JSON) && col.Type.Length == 0 && col.Default != "NULL" {
				col.Default = "(" + col.Default + ")"
			}
			if col.Default == "current_timestamp()" {
				col.Default = "current_timestamp(6)"
			}
		}
	}
	return to, losses
}

// adoptType picks the type that holds all values of the other
// (https://mariadb.com/kb/en/data-types/).
func adoptType(t catalog.Type, keyed bool) (catalog.Type, string) {
	is := func(native string, f catalog.Family, bits int) catalog.Type {
		return catalog.Type{Native: native, Family: f, Bits: bits, Length: t.Length, Padded: t.Padded, Precision: t.Precision, Scale: t.Scale}
	}
	text := func(why string) (catalog.Type, string) {
		if !keyed {
			return catalog.Type{Native: "longtext", Family: catalog.Text}, why
		}
		if why == "" {
			why = fmt.Sprintf("holds %d letters at most, as part of a key or index", keyLength)
		}
		return catalog.Type{Native: fmt.Sprintf("varchar(%d)", keyLength), Family: catalog.Text, Length: keyLength}, why
	}
	switch t.Family {
	case catalog.Integer:
		switch {
		case t.Bits <= 16:
			return is("smallint", catalog.Integer, 16), ""
		case t.Bits <= 32:
			return is("int", catalog.Integer, 32), ""
		}
		return is("bigint", catalog.Integer, 64), ""
	case catalog.Decimal:
		switch {
		case t.Precision > 65 || t.Scale > 38 || t.Scale < 0:
			return is("decimal(65,30)", catalog.Decimal, 0), "holds 35 digits before the point and 30 behind it at most"
		case t.Precision > 0:
			return is(fmt.Sprintf("decimal(%d,%d)", t.Precision, min(t.Scale, t.Precision)), catalog.Decimal, 0), ""
		}
		return is("decimal(65,30)", catalog.Decimal, 0), "holds 35 digits before the point and 30 behind it at most"
	case catalog.Float:
		if t.Bits == 32 {
			return is("float", catalog.Float, 32), ""
		}
		return is("double", catalog.Float, 64), ""
	case catalog.Text:
		lost := ""
		if t.Collation != "" {
			lost = "compares letter by letter, and no longer by " + t.Collation
		}
		switch {
		case t.Length > 0 && t.Length <= 255 && t.Padded:
			return is(fmt.Sprintf("char(%d)", t.Length), catalog.Text, 0), lost
		case t.Length > 0 && (t.Length <= 768 || !keyed && t.Length <= 16000):
			return is(fmt.Sprintf("varchar(%d)", t.Length), catalog.Text, 0), lost
		}
		return text(lost)
	case catalog.Enum:
		return catalog.Type{Native: "enum", Family: catalog.Enum}, ""
	case catalog.Binary:
		if keyed || t.Length > 0 && t.Length <= 16000 {
			n := t.Length
			if n == 0 || keyed && n > keyLength {
				return is(fmt.Sprintf("varbinary(%d)", keyLength), catalog.Binary, 0), fmt.Sprintf("holds %d bytes at most, as part of a key or index", keyLength)
			}
			return is(fmt.Sprintf("varbinary(%d)", n), catalog.Binary, 0), ""
		}
		return is("longblob", catalog.Binary, 0), ""
	case catalog.Boolean:
		return is("tinyint(1)", catalog.Boolean, 8), "holds 0 and 1, as numbers"
	case catalog.Date:
		return is("date", t.Family, 0), ""
	case catalog.Time:
		return is("time(6)", t.Family, 0), ""
	case catalog.Timestamp:
		if t.Zoned {
			return is("datetime(6)", t.Family, 0), "holds no time zone: what is written is to be in UTC"
		}
		return is("datetime(6)", t.Family, 0), ""
	case catalog.UUID:
		return is("uuid", t.Family, 0), ""
	case catalog.JSON:
		return is("json", t.Family, 0), ""
	case catalog.Untyped:
		return text("had no declared type, and holds text")
	}
	return text(fmt.Sprintf("holds text, since %s has no like", t.Native))
}

// nameable: a name does not end in blanks, and holds no letter beyond U+FFFF
// (https://mariadb.com/kb/en/identifier-names/).
func nameable(name string) string {
	name = strings.Map(func(r rune) rune {
		if r > 0xFFFF {
			return '_'
		}
		return r
	}, name)
	return cmp.Or(strings.TrimRight(name, " \t\r\n\v\f"), "_")
}

// ofNumbers leaves columns alone that are computed from one that the server numbers, which it
// refuses (its error 1901).
func (e Engine) ofNumbers(t *catalog.Table) []engine.Loss {
	var losses []engine.Loss
	for _, numbered := range t.Columns {
		if numbered.Identity != catalog.IdentityCounter {
			continue
		}
		for _, c := range t.Columns {
			if c.Generated != "" && expressions.Mentions(c.Generated, numbered.Name) {
				losses = append(losses, engine.Loss{What: catalog.ObjectRef{Kind: catalog.KindTable, Schema: t.Schema, Name: t.Name}, Why: fmt.Sprintf("%s: is no longer computed, as %s, since %s is numbered", c.Name, c.Generated, numbered.Name)})
				c.Generated, c.Stored = "", false
			}
		}
	}
	return losses
}
