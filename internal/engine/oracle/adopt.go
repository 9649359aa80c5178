package oracle

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/engine/translate"
)

// keyLength is how long a text may be that is part of a key, in characters of up to four bytes.
const keyLength = 400

// Adopt takes over another engine's structure.
func (e Engine) Adopt(c *catalog.Catalog, source sqllex.Dialect) (*catalog.Catalog, []engine.Loss) {
	to, losses := translate.Catalog(c, translate.Target{
		Engine: catalog.Engine{Name: e.Name(), Version: "19.0.0.0.0"}, Dialect: e.Dialect(), Source: source, Ident: ident, Type: likes.Pick,
		Numbered: catalog.IdentityByDefault, NumberedTypes: translate.WholeNumber, Next: nextValue,
		SharedNames: true, SharedConstraints: true, SameTypes: true, MaxName: e.Abilities("").MaxName, Named: nameable,
		Sequences: true, Comments: true, ExpressionIndexes: true, Deferrable: true, Descending: true, CaseOfNames: true,
		Now: "SYSTIMESTAMP", Today: "TRUNC(SYSDATE)", NowText: "TO_CHAR(SYS_EXTRACT_UTC(SYSTIMESTAMP), 'YYYY-MM-DD HH24:MI:SS')", True: "1", False: "0",
	})
	lose := func(kind string, t *catalog.Table, name, why string) {
		losses = append(losses, engine.Loss{What: catalog.ObjectRef{Kind: kind, Schema: t.Schema, Name: name + " of " + t.Name}, Why: why})
	}
	translate.Promote(to) // https://docs.oracle.com/en/error-help/db/ora-02270/
	restricts := false
	for _, t := range to.Tables() {
		emptied(t, func(column, why string) {
			losses = append(losses, engine.Loss{What: catalog.ObjectRef{Kind: catalog.KindTable, Schema: t.Schema, Name: t.Name}, Why: column + ": " + why})
		})
		once(t, func(kind, name, why string) { lose(kind, t, name, why) })
		for i, k := range t.Checks {
			if k.Name == "" {
				k.Name = fmt.Sprintf("%s_CK%d", t.Name, i+1)
			}
		}
		for _, f := range t.ForeignKeys {
			restricts = restricts || f.OnDelete == catalog.Restrict || f.OnUpdate == catalog.Restrict
			if f.OnDelete == catalog.Restrict {
				f.OnDelete = catalog.NoAction
			}
			if f.OnDelete == catalog.SetDefault {
				f.OnDelete = catalog.NoAction
				lose("foreign key", t, f.Name, "refuses where it set the default: there is no SET DEFAULT")
			}
			if f.OnUpdate != catalog.NoAction && f.OnUpdate != catalog.Restrict {
				lose("foreign key", t, f.Name, "does nothing when the key is updated: there is no ON UPDATE")
			}
			f.OnUpdate = catalog.NoAction
			if f.Match != "" {
				f.Match = ""
				lose("foreign key", t, f.Name, "takes half-filled references: there is no MATCH")
			}
		}
	}
	for _, s := range to.Schemas {
		losses = append(losses, engine.Loss{What: catalog.ObjectRef{Kind: catalog.KindSchema, Name: s.Name}, Why: "is an account, and has to be there: no script makes one"})
	}
	if restricts {
		losses = append([]engine.Loss{{What: catalog.ObjectRef{Kind: "every foreign key", Name: "with RESTRICT"}, Why: "says NO ACTION, which refuses at once here"}}, losses...)
	}
	return to, losses
}

// emptied lets columns be null that began with the empty text, which is a null here: rows that
// have it, and inserts that leave the column out, would be refused
// (https://docs.oracle.com/en/database/oracle/oracle-database/19/sqlrf/Nulls.html).
func emptied(t *catalog.Table, lose func(column, why string)) {
	for _, c := range t.Columns {
		if c.Default != "''" {
			continue
		}
		c.Default = ""
		switch {
		case c.Nullable:
		case t.PrimaryKey != nil && slices.Contains(t.PrimaryKey.Columns, c.Name):
			lose(c.Name, "has lost its default, the empty text: it is a null, which the primary key does not take")
		default:
			c.Nullable = true
			lose(c.Name, "may be null, since the empty text, its default, is one")
		}
	}
}

// once leaves out keys and indexes on columns that another is on already: a list of columns has
// one key and one index that is in use
// (https://docs.oracle.com/en/error-help/db/ora-02261/, https://docs.oracle.com/en/error-help/db/ora-01408/).
func once(t *catalog.Table, lose func(kind, name, why string)) {
	var keys []*catalog.Key
	has := func(columns []string) bool {
		return slices.ContainsFunc(keys, func(k *catalog.Key) bool { return slices.Equal(k.Columns, columns) })
	}
	if t.PrimaryKey != nil {
		keys = append(keys, t.PrimaryKey)
	}
	var gone []string
	t.UniqueKeys = slices.DeleteFunc(t.UniqueKeys, func(k *catalog.Key) bool {
		if has(k.Columns) {
			lose("key", k.Name, "is left out: another key is on its columns")
			gone = append(gone, k.Index)
			return true
		}
		keys = append(keys, k)
		return false
	})
	t.Indexes = slices.DeleteFunc(t.Indexes, func(x *catalog.Index) bool { return slices.Contains(gone, x.Name) })
	kept := map[string]*catalog.Index{}
	parts := func(x *catalog.Index) string { return fmt.Sprint(x.Parts) }
	rank := func(x *catalog.Index) int { // what stays where several are on the same columns
		switch {
		case x.Origin != catalog.ByPerson:
			return 2
		case x.Unique:
			return 1
		}
		return 0
	}
	for _, x := range t.Indexes {
		if other := kept[parts(x)]; other == nil || rank(x) > rank(other) {
			kept[parts(x)] = x
		}
	}
	t.Indexes = slices.DeleteFunc(t.Indexes, func(x *catalog.Index) bool {
		if kept[parts(x)] == x {
			return false
		}
		lose("index", x.Name, "is left out: index "+kept[parts(x)].Name+" is on the same columns")
		return true
	})
}

// nameable is the name without what no name may hold, quoted or not
// (https://docs.oracle.com/en/database/oracle/oracle-database/19/sqlrf/Database-Object-Names-and-Qualifiers.html).
func nameable(name string) string { return strings.NewReplacer(`"`, "'", "\x00", "").Replace(name) }

// likes hold all values of the others' types
// (https://docs.oracle.com/en/database/oracle/oracle-database/19/sqlrf/Data-Types.html).
var likes = translate.Types{Collation: "compares letter by letter, by its bytes", Points: true, Make: declared, Likes: []translate.Like{
	{Family: catalog.Integer, Bits: 16, Native: "NUMBER(5)"},
	{Family: catalog.Integer, Bits: 32, Native: "NUMBER(10)"},
	{Family: catalog.Integer, Bits: 64, Native: "NUMBER(19)"},
	{Family: catalog.Integer, Native: "NUMBER(20)"},
	{Family: catalog.Decimal, Sized: true, Precision: 38, Scale: 38, Native: "NUMBER({precision},{scale})"},
	{Family: catalog.Decimal, Sized: true, Scale: 127, Native: "NUMBER", Why: "holds 38 digits at most"},
	{Family: catalog.Decimal, Native: "NUMBER", Why: "holds 38 digits at most"},
	{Family: catalog.Float, Bits: 32, Native: "BINARY_FLOAT"},
	{Family: catalog.Float, Native: "BINARY_DOUBLE"},
	{Family: catalog.Text, Padded: true, Length: 500, KeyLength: keyLength, Native: "CHAR({length} CHAR)", Why: "holds no empty text: it is a null"},
	{Family: catalog.Text, Length: 1000, KeyLength: keyLength, Native: "VARCHAR2({length} CHAR)", Why: "holds no empty text: it is a null"},
	{Family: catalog.Text, Keyed: true, Native: fmt.Sprintf("VARCHAR2(%d CHAR)", keyLength), Why: fmt.Sprintf("holds %d letters at most, as part of a key or index, and no empty text: it is a null", keyLength)},
	{Family: catalog.Text, Native: "CLOB"},
	{Family: catalog.Enum, Native: "VARCHAR2(100 CHAR)"},
	{Family: catalog.Binary, Length: 2000, KeyLength: 2000, Native: "RAW({length})"},
	{Family: catalog.Binary, Keyed: true, Native: "RAW(2000)", Why: "holds 2000 bytes at most, as part of a key or index"},
	{Family: catalog.Binary, Native: "BLOB"},
	{Family: catalog.Boolean, Native: "NUMBER(1)", Why: "holds 0 and 1: nothing keeps other numbers out"},
	{Family: catalog.Date, Native: "DATE", Why: "holds a time of day as well"},
	{Family: catalog.Time, Native: "INTERVAL DAY(0) TO SECOND(6)", Why: "holds the time since midnight"},
	{Family: catalog.Timestamp, Zoned: true, Native: "TIMESTAMP(6) WITH TIME ZONE"},
	{Family: catalog.Timestamp, Native: "TIMESTAMP(6)"},
	{Family: catalog.UUID, Native: "CHAR(36 BYTE)", As: catalog.Text, Why: "holds text: nothing keeps it a UUID"},
	{Family: catalog.JSON, Native: "CLOB", Why: "holds text: nothing keeps it JSON"},
	{Family: catalog.Untyped, Why: "had no declared type, and holds text"},
}}
