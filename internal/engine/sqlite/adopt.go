package sqlite

import (
	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/sqlite/ddltext"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/engine/translate"
)

// Adopt takes over another engine's structure. SQLite keeps declared lengths
// but asks for none of them (https://www.sqlite.org/datatype3.html), which is
// said once.
func (e Engine) Adopt(c *catalog.Catalog, source sqllex.Dialect) (*catalog.Catalog, []engine.Loss) {
	to, losses := translate.Catalog(c, translate.Target{
		Engine: catalog.Engine{Name: e.Name(), Version: "3"}, Dialect: e.Dialect(), Source: source, Ident: ddltext.Ident, Type: likes.Pick,
		Numbered: catalog.IdentityRowid, NumberedTypes: func(catalog.Type) catalog.Type { return ddltext.TypeOf("INTEGER", "") }, Schema: "main", SharedNames: true, LooseTypes: true,
		PartialIndexes: true, ExpressionIndexes: true, Deferrable: true, SetDefault: true, Descending: true,
		Now: "CURRENT_TIMESTAMP", Today: "CURRENT_DATE", True: "1", False: "0",
	})
	for _, t := range to.Tables() {
		if k := t.PrimaryKey; k != nil && len(k.Columns) == 1 { // https://www.sqlite.org/rowidtable.html
			if col := t.Column(k.Columns[0]); col.Type.Native == "INTEGER" && col.Identity == catalog.NoIdentity {
				losses = append(losses, engine.Loss{What: catalog.ObjectRef{Kind: catalog.KindTable, Schema: t.Schema, Name: t.Name}, Why: col.Name + ": is numbered where no value is given, as every INTEGER PRIMARY KEY"})
			}
		}
		for _, k := range t.Keys() { // these have names of the engine's own
			if x := t.Index(k.Index); x != nil {
				x.SystemNamed = true
			}
		}
	}
	return to, append([]engine.Loss{{What: catalog.ObjectRef{Kind: "every column", Name: "with a length or digits"}, Why: "SQLite keeps these as declared, and holds no value to them"}}, losses...)
}

// likes are declared as the others' types are, where the engine makes the same of them
// (https://www.sqlite.org/datatype3.html).
var likes = translate.Types{Collation: "compares byte by byte", Make: func(native string) catalog.Type { return ddltext.TypeOf(native, "") }, Likes: []translate.Like{
	{Family: catalog.Integer, Native: "INTEGER"},
	{Family: catalog.Decimal, Sized: true, Native: "DECIMAL({precision},{scale})", Why: "is exact to 15 digits only"},
	{Family: catalog.Decimal, Native: "DECIMAL", Why: "is exact to 15 digits only"},
	{Family: catalog.Float, Native: "REAL"},
	{Family: catalog.Text, Padded: true, Sized: true, Native: "CHARACTER({length})"},
	{Family: catalog.Text, Sized: true, Native: "VARCHAR({length})"},
	{Family: catalog.Text, Native: "TEXT"},
	{Family: catalog.Enum},
	{Family: catalog.Binary, Native: "BLOB"},
	{Family: catalog.Boolean, Native: "BOOLEAN"},
	{Family: catalog.Date, Native: "DATE"},
	{Family: catalog.Time, Native: "TIME"},
	{Family: catalog.Timestamp, Zoned: true, Native: "TIMESTAMP", Why: "holds no time zone: what is written is to be in UTC"},
	{Family: catalog.Timestamp, Native: "TIMESTAMP"},
	{Family: catalog.UUID, Native: "UUID"},
	{Family: catalog.JSON, Native: "JSON"},
	{Family: catalog.Untyped, Native: "BLOB"},
}}
