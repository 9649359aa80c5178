package mariadb

import (
	"cmp"
	"fmt"
	"math"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/mariadb/traits"
	"nexdal/internal/engine/mariadb/write"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/engine/translate"
)

// keyLength is how long a text may be that is part of a key
// (https://mariadb.com/kb/en/innodb-limitations/: 3072 bytes, four a letter).
const keyLength = 255

// Adopt takes over another engine's structure.
func (e Engine) Adopt(c *catalog.Catalog, source sqllex.Dialect) (*catalog.Catalog, []engine.Loss) {
	to, losses := translate.Catalog(c, translate.Target{
		Engine: catalog.Engine{Name: e.Name(), Version: e.Family().Adopts}, Dialect: e.Dialect(), Source: source, Ident: traits.Ident, Type: likes(e.Family()).Pick,
		Numbered: catalog.IdentityCounter, NumberedTypes: translate.WholeNumber, Next: func(r catalog.Ref) string { return "nextval(" + traits.Ident(r.Table) + ")" },
		Schema: c.Database, SameTypes: true, Named: nameable, MaxName: e.Abilities("").MaxName,
		Sequences: e.Family().Sequences, Comments: true, Descending: true,
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

// likes hold all values of the others' types (https://mariadb.com/kb/en/data-types/).
func likes(f *traits.Family) translate.Types {
	keyed := func(what string) string {
		return fmt.Sprintf("holds %d %s at most, as part of a key or index", keyLength, what)
	}
	const digits = "holds 35 digits before the point and 30 behind it at most"
	uuid := translate.Like{Family: catalog.UUID, Native: "uuid"}
	if !f.UUIDs {
		uuid = translate.Like{Family: catalog.UUID, Native: "char(36)", As: catalog.Text, Why: "holds text: nothing keeps it a UUID"}
	}
	return translate.Types{Collation: "compares letter by letter", Points: true, Likes: []translate.Like{
		{Family: catalog.Integer, Unsigned: true, Bits: 16, Native: "smallint unsigned"},
		{Family: catalog.Integer, Unsigned: true, Bits: 32, Native: "int unsigned"},
		{Family: catalog.Integer, Unsigned: true, Bits: 64, Native: "bigint unsigned"},
		{Family: catalog.Integer, Bits: 16, Native: "smallint"},
		{Family: catalog.Integer, Bits: 32, Native: "int"},
		{Family: catalog.Integer, Bits: 64, Native: "bigint"},
		{Family: catalog.Decimal, Sized: true, Precision: 65, Scale: 38, Native: "decimal({precision},{scale})"},
		{Family: catalog.Decimal, Native: "decimal(65,30)", Why: digits},
		{Family: catalog.Float, Bits: 32, Native: "float"},
		{Family: catalog.Float, Bits: 64, Native: "double"},
		{Family: catalog.Text, Padded: true, Length: 255, Native: "char({length})"},
		{Family: catalog.Text, Length: 16000, KeyLength: 768, Native: "varchar({length})"},
		{Family: catalog.Text, Keyed: true, Native: fmt.Sprintf("varchar(%d)", keyLength), Why: keyed("letters")},
		{Family: catalog.Text, Native: "longtext"},
		{Family: catalog.Enum, Native: "enum"},
		{Family: catalog.Binary, Length: 16000, KeyLength: keyLength, Native: "varbinary({length})"},
		{Family: catalog.Binary, Keyed: true, Native: fmt.Sprintf("varbinary(%d)", keyLength), Why: keyed("bytes")},
		{Family: catalog.Binary, Native: "longblob"},
		{Family: catalog.Boolean, Bits: 8, Native: "tinyint(1)", Why: "holds 0 and 1, as numbers"},
		{Family: catalog.Date, Native: "date"},
		{Family: catalog.Time, Zoned: true, Native: "time(6)", Why: "holds no time zone: what is written is to be in UTC"},
		{Family: catalog.Time, Native: "time(6)"},
		{Family: catalog.Timestamp, Zoned: true, Native: "datetime(6)", Why: "holds no time zone: what is written is to be in UTC"},
		{Family: catalog.Timestamp, Native: "datetime(6)"},
		uuid,
		{Family: catalog.JSON, Native: "json"},
		{Family: catalog.Untyped, Why: "had no declared type, and holds text"},
	}}
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
			if c.Generated != "" && write.Expressions.Mentions(c.Generated, numbered.Name) {
				losses = append(losses, engine.Loss{What: catalog.ObjectRef{Kind: catalog.KindTable, Schema: t.Schema, Name: t.Name}, Why: fmt.Sprintf("%s: is no longer computed, as %s, since %s is numbered", c.Name, c.Generated, numbered.Name)})
				c.Generated, c.Stored = "", false
			}
		}
	}
	return losses
}
