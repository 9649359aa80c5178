package postgres

import (
	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/postgres/traits"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/engine/translate"
)

// Adopt takes over another engine's structure.
func (e Engine) Adopt(c *catalog.Catalog, source sqllex.Dialect) (*catalog.Catalog, []engine.Loss) {
	to, losses := translate.Catalog(c, translate.Target{
		Engine: catalog.Engine{Name: e.Name(), Version: "15"}, Dialect: e.Dialect(), Source: source, Ident: traits.Ident, Type: likes.Pick,
		Numbered: catalog.IdentityByDefault, NumberedTypes: translate.WholeNumber, Next: func(r catalog.Ref) string { return "nextval(" + traits.Literal(traits.Relation(r)) + "::regclass)" },
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

// likes hold all values of the others' types
// (https://www.postgresql.org/docs/current/datatype.html). What a family has none for, as
// enumerations, a text holds.
var likes = translate.Types{Collation: "compares by the database's collation", Likes: []translate.Like{
	{Family: catalog.Integer, Bits: 16, Native: "smallint"},
	{Family: catalog.Integer, Bits: 32, Native: "integer"},
	{Family: catalog.Integer, Bits: 64, Native: "bigint"},
	{Family: catalog.Integer, Native: "numeric(20)", As: catalog.Decimal, Why: "holds an unsigned number of 64 bits as numeric(20)"},
	{Family: catalog.Decimal, Sized: true, Native: "numeric({precision},{scale})"},
	{Family: catalog.Decimal, Native: "numeric"},
	{Family: catalog.Float, Bits: 32, Native: "real"},
	{Family: catalog.Float, Bits: 64, Native: "double precision"},
	{Family: catalog.Text, Padded: true, Sized: true, Native: "character({length})"},
	{Family: catalog.Text, Length: 65535, Native: "character varying({length})"},
	{Family: catalog.Text, Native: "text"},
	{Family: catalog.Enum},
	{Family: catalog.Binary, Sized: true, Native: "bytea", Why: "has no greatest length"},
	{Family: catalog.Binary, Native: "bytea"},
	{Family: catalog.Boolean, Native: "boolean"},
	{Family: catalog.Date, Native: "date"},
	{Family: catalog.Time, Zoned: true, Native: "time with time zone"},
	{Family: catalog.Time, Native: "time"},
	{Family: catalog.Timestamp, Zoned: true, Native: "timestamp with time zone"},
	{Family: catalog.Timestamp, Native: "timestamp without time zone"},
	{Family: catalog.Interval, Native: "interval"},
	{Family: catalog.UUID, Native: "uuid"},
	{Family: catalog.JSON, Native: "json"},
	{Family: catalog.Untyped, Why: "had no declared type, and holds text"},
}}
