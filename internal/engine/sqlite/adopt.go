package sqlite

import (
	"fmt"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/engine/translate"
)

// Adopt takes over another engine's structure. SQLite keeps declared lengths
// but asks for none of them (https://www.sqlite.org/datatype3.html), which is
// said once.
func (e Engine) Adopt(c *catalog.Catalog, source sqllex.Dialect) (*catalog.Catalog, []engine.Loss) {
	to, losses := translate.Catalog(c, translate.Target{
		Engine: catalog.Engine{Name: e.Name(), Version: "3"}, Dialect: e.Dialect(), Source: source, Ident: ident, Type: adoptType,
		Numbered: catalog.IdentityRowid, NumberedTypes: func(catalog.Type) catalog.Type { return typeOf("INTEGER", "") }, Schema: "main", SharedNames: true, LooseTypes: true,
		PartialIndexes: true, ExpressionIndexes: true, Deferrable: true, SetDefault: true, Descending: true,
		Now: "CURRENT_TIMESTAMP", Today: "CURRENT_DATE", True: "1", False: "0",
	})
	for _, t := range to.Tables() {
		for _, k := range t.Keys() { // these have names of the engine's own
			if x := t.Index(k.Index); x != nil {
				x.SystemNamed = true
			}
		}
	}
	return to, append([]engine.Loss{{What: catalog.ObjectRef{Kind: "every column", Name: "with a length or digits"}, Why: "SQLite keeps these as declared, and holds no value to them"}}, losses...)
}

func adoptType(t catalog.Type, _ bool) (catalog.Type, string) {
	is := func(format string, args ...any) catalog.Type { return typeOf(fmt.Sprintf(format, args...), "") }
	switch t.Family {
	case catalog.Integer:
		return is("INTEGER"), ""
	case catalog.Decimal:
		if t.Precision > 0 {
			return is("DECIMAL(%d,%d)", t.Precision, t.Scale), "is exact to 15 digits only"
		}
		return is("DECIMAL"), "is exact to 15 digits only"
	case catalog.Float:
		return is("REAL"), ""
	case catalog.Text:
		lost := ""
		if t.Collation != "" {
			lost = "compares byte by byte, and no longer by " + t.Collation
		}
		switch {
		case t.Length > 0 && t.Padded:
			return is("CHARACTER(%d)", t.Length), lost
		case t.Length > 0:
			return is("VARCHAR(%d)", t.Length), lost
		}
		return is("TEXT"), lost
	case catalog.Enum:
		return is("TEXT"), ""
	case catalog.Binary:
		return is("BLOB"), ""
	case catalog.Boolean:
		return is("BOOLEAN"), ""
	case catalog.Date:
		return is("DATE"), ""
	case catalog.Time:
		return is("TIME"), ""
	case catalog.Timestamp:
		if t.Zoned {
			return is("TIMESTAMP"), "holds no time zone: what is written is to be in UTC"
		}
		return is("TIMESTAMP"), ""
	case catalog.JSON:
		return is("JSON"), ""
	case catalog.UUID:
		return is("UUID"), ""
	case catalog.Untyped:
		return is("BLOB"), ""
	}
	return is("TEXT"), fmt.Sprintf("holds text, since %s has no like", t.Native)
}
