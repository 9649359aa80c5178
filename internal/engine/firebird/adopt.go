package firebird

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/firebird/traits"
	"nexdal/internal/engine/firebird/write"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/engine/translate"
)

// keyLength is how long a text may be that is part of a key, in letters of four bytes.
const keyLength = 120

// Adopt takes over another engine's structure, for 3.0 with pages of 8 kilobytes and UTF8.
func (e Engine) Adopt(c *catalog.Catalog, source sqllex.Dialect) (*catalog.Catalog, []engine.Loss) {
	to, losses := translate.Catalog(c, translate.Target{
		Engine: catalog.Engine{Name: e.Name(), Version: "3.0"}, Dialect: e.Dialect(), Source: source, Ident: traits.Ident, Type: likes.Pick,
		Numbered: catalog.IdentityByDefault, NumberedTypes: translate.WholeNumber, Schema: traits.Schema,
		SharedNames: true, SharedConstraints: true, SameTypes: true, MaxName: 31, Named: nameable,
		Sequences: true, Comments: true, ExpressionIndexes: true, SetDefault: true, Descending: true, CaseOfNames: true, KeyedNulls: true,
		Now: "CURRENT_TIMESTAMP", Today: "CURRENT_DATE", True: "TRUE", False: "FALSE",
	})
	to.Settings = append(to.Settings, catalog.Setting{Name: "page size", Value: "8192"}, catalog.Setting{Name: "character set", Value: "UTF8"})
	a := &adopted{to: to, losses: losses}
	translate.Promote(to)
	for _, s := range to.Schemas {
		for _, q := range s.Sequences { // a sequence here has nothing else
			if q.Cycle || q.Least > 0 || q.Most < 1<<62 {
				a.losses = append(a.losses, engine.Loss{What: catalog.ObjectRef{Kind: catalog.KindSequence, Schema: s.Name, Name: q.Name}, Why: "has no bounds, and counts on"})
			}
			q.Type, q.Cycle, q.Cache, q.Least, q.Most = "BIGINT", false, 0, -1<<63, 1<<63-1
			q.Start -= q.Increment // 3.0 gives the number behind it first
		}
		s.Comment = ""
	}
	for _, t := range to.Tables() {
		a.once(t)
		a.numbers(t)
	}
	for _, t := range to.Tables() {
		a.references(t)
		a.indexes(t)
		a.fits(t)
	}
	return to, a.losses
}

// adopted is a structure that is being fitted to what only this engine asks for.
type adopted struct {
	to     *catalog.Catalog
	losses []engine.Loss
}

func (a *adopted) lose(kind string, t *catalog.Table, name, why string) {
	a.losses = append(a.losses, engine.Loss{What: catalog.ObjectRef{Kind: kind, Schema: t.Schema, Name: name + " of " + t.Name}, Why: why})
}

// nameable is the name with letters of three bytes at most, which names of 3.0 are kept in.
func nameable(name string) string {
	return strings.Map(func(r rune) rune {
		if r > 0xFFFF || r == 0 {
			return '_'
		}
		return r
	}, name)
}

// once leaves out keys on columns that another is on already.
func (a *adopted) once(t *catalog.Table) {
	var kept []*catalog.Key
	if t.PrimaryKey != nil {
		kept = append(kept, t.PrimaryKey)
	}
	t.UniqueKeys = slices.DeleteFunc(t.UniqueKeys, func(k *catalog.Key) bool {
		if !slices.ContainsFunc(kept, func(o *catalog.Key) bool { return catalog.SameColumns(o.Columns, k.Columns) }) {
			kept = append(kept, k)
			return false
		}
		a.lose("key", t, cmp.Or(k.Name, strings.Join(k.Columns, ", ")), "is left out: another key is on its columns")
		t.Indexes = slices.DeleteFunc(t.Indexes, func(x *catalog.Index) bool { return x.Name == k.Index })
		return true
	})
}

// numbers: a table has one identity column.
func (a *adopted) numbers(t *catalog.Table) {
	seen := false
	for _, c := range t.Columns {
		if !write.NumberedBySelf(c) {
			continue
		}
		c.Nullable = false
		if seen {
			c.Identity = catalog.NoIdentity
			a.lose("column", t, c.Name, "is no longer numbered: a table has one such column")
		}
		seen = true
	}
}

// references: what a foreign key builds stands for the index that was made for it.
func (a *adopted) references(t *catalog.Table) {
	for _, f := range t.ForeignKeys {
		for _, at := range []*catalog.Action{&f.OnDelete, &f.OnUpdate} {
			if *at == "" {
				*at = catalog.Restrict
			}
		}
		if f.Match != "" {
			f.Match = ""
			a.lose("foreign key", t, f.Label(), "takes half-filled references: there is no MATCH")
		}
		t.Indexes = slices.DeleteFunc(t.Indexes, func(x *catalog.Index) bool {
			plain := x.Origin == catalog.ByPerson && !x.Unique && x.Predicate == "" && slices.Equal(x.Columns(), f.Columns) && !write.Descends(x)
			if plain {
				a.lose("index", t, x.Name, "is left out: the foreign key on its columns builds one")
			}
			return plain
		})
		t.Indexes = append(t.Indexes, catalog.BuiltFor(f))
		if to := a.to.Table(f.Target); to != nil {
			f.TargetIndex, _ = to.KeyOn(f.TargetColumns)
		}
	}
}

// indexes: one is in one order, on columns or on one expression, and of so many bytes.
func (a *adopted) indexes(t *catalog.Table) {
	t.Indexes = slices.DeleteFunc(t.Indexes, func(x *catalog.Index) bool {
		if x.Origin != catalog.ByPerson {
			return false
		}
		if slices.ContainsFunc(x.Parts, func(p catalog.IndexPart) bool { return p.Descending != x.Parts[0].Descending }) {
			for i := range x.Parts {
				x.Parts[i].Descending = false
			}
			a.lose("index", t, x.Name, "is in one order in all its columns")
		}
		for i := range x.Parts {
			x.Parts[i].Nulls = ""
		}
		if why := write.RefusesIndex(a.to, t, x); why != "" {
			a.lose("index", t, x.Name, "is left out: "+why)
			return true
		}
		return false
	})
}

// rowBytes is what a row may take (https://firebirdsql.org/en/firebird-technical-specifications/).
const rowBytes = 65000

// fits keeps long texts apart from their rows until the others fit.
func (a *adopted) fits(t *catalog.Table) {
	size := 0
	var long []*catalog.Column
	for _, c := range t.Columns {
		if traits.IsBlobType(c.Type) {
			size += 8
			continue
		}
		size += write.BytesOf(a.to, c.Type) + 4
		if c.Type.Family == catalog.Text && !keyedColumn(t, c.Name) {
			long = append(long, c)
		}
	}
	slices.SortStableFunc(long, func(a, b *catalog.Column) int { return cmp.Compare(b.Type.Length, a.Type.Length) })
	for _, c := range long {
		if size <= rowBytes {
			return
		}
		size -= write.BytesOf(a.to, c.Type)
		a.lose("column", t, c.Name, fmt.Sprintf("holds a text of any length: %s would make the row too long", c.Type.Native))
		c.Type = declared("BLOB SUB_TYPE TEXT")
	}
}

func keyedColumn(t *catalog.Table, name string) bool {
	return slices.ContainsFunc(t.Indexes, func(x *catalog.Index) bool { return slices.Contains(x.Columns(), name) })
}

// likes hold all values of the others' types
// (https://firebirdsql.org/file/documentation/html/en/refdocs/fblangref30/firebird-30-language-reference.html#fblangref30-datatypes).
var likes = translate.Types{Collation: "compares letter by letter", Points: true, Make: declared, Likes: []translate.Like{
	{Family: catalog.Integer, Bits: 16, Native: "SMALLINT"},
	{Family: catalog.Integer, Bits: 32, Native: "INTEGER"},
	{Family: catalog.Integer, Bits: 64, Native: "BIGINT"},
	{Family: catalog.Integer, Native: "BIGINT", Why: "holds 19 digits at most, with a sign"},
	{Family: catalog.Decimal, Sized: true, Precision: 18, Scale: 18, Native: "NUMERIC({precision},{scale})"},
	{Family: catalog.Decimal, Sized: true, Scale: 18, Native: "NUMERIC(18,{scale})", Why: "holds 18 digits at most"},
	{Family: catalog.Decimal, Native: "NUMERIC(18,6)", Why: "holds 18 digits at most, 6 of them behind the point"},
	{Family: catalog.Float, Bits: 32, Native: "FLOAT"},
	{Family: catalog.Float, Native: "DOUBLE PRECISION"},
	{Family: catalog.Text, Padded: true, Length: 500, KeyLength: keyLength, Native: "CHAR({length})"},
	{Family: catalog.Text, Length: 2000, KeyLength: keyLength, Native: "VARCHAR({length})"},
	{Family: catalog.Text, Keyed: true, Native: fmt.Sprintf("VARCHAR(%d)", keyLength), Why: fmt.Sprintf("holds %d letters at most, as part of a key or index", keyLength)},
	{Family: catalog.Text, Native: "BLOB SUB_TYPE TEXT"},
	{Family: catalog.Enum, Native: "VARCHAR(100)"},
	{Family: catalog.Binary, Length: 2000, KeyLength: 4 * keyLength, Native: "VARCHAR({length}) CHARACTER SET OCTETS"},
	{Family: catalog.Binary, Keyed: true, Native: fmt.Sprintf("VARCHAR(%d) CHARACTER SET OCTETS", 4*keyLength), Why: fmt.Sprintf("holds %d bytes at most, as part of a key or index", 4*keyLength)},
	{Family: catalog.Binary, Native: "BLOB SUB_TYPE BINARY"},
	{Family: catalog.Boolean, Native: "BOOLEAN"},
	{Family: catalog.Date, Native: "DATE"},
	{Family: catalog.Time, Native: "TIME", Why: "holds four digits of a second, and no time zone"},
	{Family: catalog.Timestamp, Native: "TIMESTAMP", Why: "holds four digits of a second, and no time zone"},
	{Family: catalog.UUID, Native: "CHAR(36)", As: catalog.Text, Why: "holds text: nothing keeps it a UUID"},
	{Family: catalog.JSON, Native: "BLOB SUB_TYPE TEXT", Why: "holds text: nothing keeps it JSON"},
	{Family: catalog.Untyped, Why: "had no declared type, and holds text"},
}}

// declared is the type of a declaration.
func declared(native string) catalog.Type {
	var length, precision, scale int
	kinds := map[string]int{"SMALLINT": isSmall, "INTEGER": isInteger, "BIGINT": isBigint, "FLOAT": isFloat, "DOUBLE PRECISION": isDouble, "BOOLEAN": isBoolean, "DATE": isDate, "TIME": isTime, "TIMESTAMP": isMoment, "BLOB SUB_TYPE BINARY": isBlob}
	switch {
	case native == "BLOB SUB_TYPE TEXT":
		return plainType(isBlob, subText, 0, 0, 0)
	case kinds[native] != 0:
		return plainType(kinds[native], 0, 0, 0, 0)
	}
	if n, _ := fmt.Sscanf(native, "NUMERIC(%d,%d)", &precision, &scale); n == 2 {
		kind := isBigint
		if precision <= 4 {
			kind = isSmall
		} else if precision <= 9 {
			kind = isInteger
		}
		return plainType(kind, 1, 0, precision, scale)
	}
	kind := isVarchar
	if n, _ := fmt.Sscanf(native, "CHAR(%d)", &length); n == 1 {
		kind = isChar
	} else {
		fmt.Sscanf(native, "VARCHAR(%d)", &length)
	}
	t := plainType(kind, 0, length, 0, 0)
	if t.Native != native {
		t.Native, t.Family = native, catalog.Binary
	}
	return t
}
