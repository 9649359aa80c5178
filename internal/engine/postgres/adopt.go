package postgres

import (
	"fmt"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/engine/translate"
)

// Adopt takes over another engine's structure.
func (e Engine) Adopt(c *catalog.Catalog, source sqllex.Dialect) (*catalog.Catalog, []engine.Loss) {
	to, losses := translate.Catalog(c, translate.Target{
		Engine: catalog.Engine{Name: e.Name(), Version: "15"}, Dialect: e.Dialect(), Source: source, Ident: ident, Type: adoptType,
		Numbered: catalog.IdentityByDefault, NumberedTypes: translate.WholeNumber, Next: func(r catalog.Ref) string { return "nextval(" + literal(relation(r)) + "::regclass)" },
		SharedNames: true, CaseOfNames: true, Columnless: true, MaxName: e.Abilities("").MaxName,
		Sequences: true, Comments: true, PartialIndexes: true, ExpressionIndexes: true, IncludedColumns: true, Deferrable: true, SetDefault: true, Descending: true,
		Now: "CURRENT_TIMESTAMP", Today: "CURRENT_DATE", True: "true", False: "false",
	})
	for _, s := range to.Schemas {
		if s.Name == "main" { // what an engine without schemas calls its only one
			s.Name = "public"
		}
		for _, t := range s.Tables {
			t.Schema = s.Name
			for _, f := range t.ForeignKeys {
				if f.Target.Schema == "main" {
					f.Target.Schema = "public"
				}
			}
		}
	}
	return to, losses
}

// adoptType picks the type that holds all values of the other
// (https://www.postgresql.org/docs/current/datatype.html).
func adoptType(t catalog.Type, _ bool) (catalog.Type, string) {
	is := func(native string, f catalog.Family, bits int) catalog.Type {
		return catalog.Type{Native: native, Family: f, Bits: bits, Length: t.Length, Padded: t.Padded, Precision: t.Precision, Scale: t.Scale, Zoned: t.Zoned}
	}
	switch t.Family {
	case catalog.Integer:
		bits := t.Bits
		if t.Unsigned { // there are none: the next wider holds them
			bits++
		}
		switch {
		case bits <= 16:
			return is("smallint", catalog.Integer, 16), ""
		case bits <= 32:
			return is("integer", catalog.Integer, 32), ""
		case bits <= 64:
			return is("bigint", catalog.Integer, 64), ""
		}
		return is("numeric(20)", catalog.Decimal, 0), "holds an unsigned number of 64 bits as numeric(20)"
	case catalog.Decimal:
		if t.Precision > 0 {
			return is(fmt.Sprintf("numeric(%d,%d)", t.Precision, t.Scale), catalog.Decimal, 0), ""
		}
		return is("numeric", catalog.Decimal, 0), ""
	case catalog.Float:
		if t.Bits == 32 {
			return is("real", catalog.Float, 32), ""
		}
		return is("double precision", catalog.Float, 64), ""
	case catalog.Text, catalog.Enum:
		lost := ""
		if t.Collation != "" {
			lost = "compares by the database's collation, and no longer by " + t.Collation
		}
		switch {
		case t.Family == catalog.Enum:
			return is("text", catalog.Text, 0), ""
		case t.Length > 0 && t.Padded:
			return is(fmt.Sprintf("character(%d)", t.Length), catalog.Text, 0), lost
		case t.Length > 0 && t.Length <= 65535:
			return is(fmt.Sprintf("character varying(%d)", t.Length), catalog.Text, 0), lost
		}
		return is("text", catalog.Text, 0), lost
	case catalog.Binary:
		if t.Length > 0 {
			return is("bytea", catalog.Binary, 0), "has no greatest length"
		}
		return is("bytea", catalog.Binary, 0), ""
	case catalog.Boolean:
		return is("boolean", t.Family, 0), ""
	case catalog.Date:
		return is("date", t.Family, 0), ""
	case catalog.Time:
		return is("time", t.Family, 0), ""
	case catalog.Timestamp:
		if t.Zoned {
			return is("timestamp with time zone", t.Family, 0), ""
		}
		return is("timestamp without time zone", t.Family, 0), ""
	case catalog.Interval:
		return is("interval", t.Family, 0), ""
	case catalog.UUID:
		return is("uuid", t.Family, 0), ""
	case catalog.JSON:
		return is("json", t.Family, 0), ""
	case catalog.Untyped:
		return is("text", catalog.Text, 0), "had no declared type, and holds text"
	}
	return is("text", catalog.Text, 0), fmt.Sprintf("holds text, since %s has no like", t.Native)
}
