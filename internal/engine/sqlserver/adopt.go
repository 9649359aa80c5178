package sqlserver

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/engine/sqlserver/traits"
	"nexdal/internal/engine/sqlserver/write"
	"nexdal/internal/engine/translate"
)

// keyLength is how long a text may be that is part of a key: 900 bytes of a clustered one, two a
// letter.
const keyLength = 200

// Adopt takes over another engine's structure.
func (e Engine) Adopt(c *catalog.Catalog, source sqllex.Dialect) (*catalog.Catalog, []engine.Loss) {
	to, losses := translate.Catalog(c, translate.Target{
		Engine: catalog.Engine{Name: e.Name(), Version: "16.0"}, Dialect: e.Dialect(), Source: source, Ident: traits.Ident, Type: likes.Pick,
		Numbered: catalog.IdentityAlways, NumberedTypes: translate.WholeNumber, Next: func(r catalog.Ref) string { return "NEXT VALUE FOR " + traits.Relation(r) },
		SharedNames: true, SharedConstraints: true, SameTypes: true, MaxName: e.Abilities("").MaxName,
		Sequences: true, Comments: true, PartialIndexes: true, IncludedColumns: true, SetDefault: true, Descending: true,
		Now: "sysdatetimeoffset()", Today: "CONVERT([date],getdate())", True: "1", False: "0",
	})
	a := &adopted{to: to, losses: losses}
	a.home()
	for _, t := range to.Tables() {
		for _, col := range t.Columns {
			if col.Default != "" {
				col.DefaultName = traits.DefaultName(t.Name, col.Name)
			}
		}
		for i, k := range t.Checks {
			if k.Name == "" {
				k.Name = traits.CutName(fmt.Sprintf("CK_%s_%d", t.Name, i+1))
			}
		}
		a.nulls(t)
		a.actions(t)
		a.clustered(t)
	}
	if a.restricts {
		a.losses = append([]engine.Loss{{What: catalog.ObjectRef{Kind: "every foreign key", Name: "with RESTRICT"}, Why: "says NO ACTION, which refuses at once here"}}, a.losses...)
	}
	return to, a.losses
}

// adopted is a structure that is being fitted to what only this engine asks for.
type adopted struct {
	to        *catalog.Catalog
	losses    []engine.Loss
	restricts bool // a foreign key said so
}

func (a *adopted) lose(kind string, t *catalog.Table, name, why string) {
	a.losses = append(a.losses, engine.Loss{What: catalog.ObjectRef{Kind: kind, Schema: t.Schema, Name: name + " of " + t.Name}, Why: why})
}

// home names the only schema of an engine without schemas, or PostgreSQL's first, as this one does.
func (a *adopted) home() {
	name := func(s string) string {
		if s == "main" || s == "public" {
			return "dbo"
		}
		return s
	}
	if a.to.Schema("dbo") != nil {
		return
	}
	for _, s := range a.to.Schemas {
		s.Name = name(s.Name)
		for _, t := range s.Tables {
			t.Schema = s.Name
			for _, f := range t.ForeignKeys {
				f.Target.Schema = name(f.Target.Schema)
			}
			for _, col := range t.Columns {
				if col.Sequence != nil {
					col.Sequence.Schema = name(col.Sequence.Schema)
					col.Default = "NEXT VALUE FOR " + traits.Relation(*col.Sequence)
				}
			}
		}
	}
}

// nulls: what let many rows without a value through is kept by an index that leaves them out,
// since nulls are alike here; a key that is referred to stays one.
func (a *adopted) nulls(t *catalog.Table) {
	for _, x := range t.Indexes {
		var open []string
		for _, name := range x.NamedColumns() {
			if c := t.Column(name); c != nil && c.Nullable {
				open = append(open, traits.Bracket(name)+" IS NOT NULL")
			}
		}
		if !x.Unique || len(open) == 0 || x.NullsNotDistinct {
			continue
		}
		referred := slices.ContainsFunc(a.to.Lookup().Referrers(t.Ref()), func(r catalog.Referrer) bool { return catalog.SameColumns(r.ForeignKey.TargetColumns, x.Columns()) })
		if referred {
			a.lose("key", t, x.Name, "takes a single row without a value: nulls are alike here, and a foreign key refers to it")
			continue
		}
		where := strings.Join(open, " AND ")
		if x.Predicate != "" {
			where = "(" + x.Predicate + ") AND " + where
		}
		x.Predicate = where
		if x.Origin != catalog.ByPerson {
			x.Origin = catalog.ByPerson
			t.UniqueKeys = slices.DeleteFunc(t.UniqueKeys, func(k *catalog.Key) bool { return k.Index == x.Name })
			a.lose("key", t, x.Name, "is a unique index that leaves out rows without a value: in a key nulls are alike here")
		}
	}
}

// actions leaves out those that the engine refuses (error 1785), and says RESTRICT as it does.
func (a *adopted) actions(t *catalog.Table) {
	all := t.ForeignKeys
	t.ForeignKeys = nil
	for _, f := range all {
		for _, at := range []*catalog.Action{&f.OnDelete, &f.OnUpdate} {
			if *at == catalog.Restrict || *at == "" {
				a.restricts = a.restricts || *at == catalog.Restrict
				*at = catalog.NoAction
			}
		}
		if why := write.RefusesCascade(a.to, t.Ref(), f, false); why != "" {
			f.OnDelete, f.OnUpdate = catalog.NoAction, catalog.NoAction
			a.lose("foreign key", t, f.Name, "refuses where it acted: "+why)
		}
		t.ForeignKeys = append(t.ForeignKeys, f)
	}
}

// clustered keeps the rows in the order of the primary key, as the engine would.
func (a *adopted) clustered(t *catalog.Table) {
	if k := t.PrimaryKey; k != nil && t.Clustering() == nil {
		if x := t.Index(k.Index); x != nil {
			x.Clustered = true
		}
	}
}

// likes hold all values of the others' types
// (https://learn.microsoft.com/en-us/sql/t-sql/data-types/data-types-transact-sql).
var likes = translate.Types{Collation: "compares as the database does", Points: true, Make: declared, Likes: []translate.Like{
	{Family: catalog.Integer, Unsigned: true, Bits: 8, Native: "tinyint"},
	{Family: catalog.Integer, Bits: 16, Native: "smallint"},
	{Family: catalog.Integer, Bits: 32, Native: "int"},
	{Family: catalog.Integer, Bits: 64, Native: "bigint"},
	{Family: catalog.Integer, Native: "decimal(20,0)", Why: "holds an unsigned number of 64 bits as decimal(20,0)"},
	{Family: catalog.Decimal, Sized: true, Precision: 38, Scale: 38, Native: "decimal({precision},{scale})"},
	{Family: catalog.Decimal, Sized: true, Scale: 19, Native: "decimal(38,{scale})", Why: "holds 38 digits at most"},
	{Family: catalog.Decimal, Sized: true, Native: "decimal(38,19)", Why: "holds 38 digits at most"},
	{Family: catalog.Decimal, Native: "decimal(38,10)", Why: "holds 28 digits before the point and 10 behind it at most"},
	{Family: catalog.Float, Bits: 32, Native: "real"},
	{Family: catalog.Float, Native: "float"},
	{Family: catalog.Text, Padded: true, Length: 4000, KeyLength: keyLength, Native: "nchar({length})"},
	{Family: catalog.Text, Length: 4000, KeyLength: keyLength, Native: "nvarchar({length})"},
	{Family: catalog.Text, Keyed: true, Native: fmt.Sprintf("nvarchar(%d)", keyLength), Why: fmt.Sprintf("holds %d letters at most, as part of a key or index", keyLength)},
	{Family: catalog.Text, Native: "nvarchar(max)"},
	{Family: catalog.Enum, Native: "nvarchar(100)"},
	{Family: catalog.Binary, Length: 8000, KeyLength: keyLength, Native: "varbinary({length})"},
	{Family: catalog.Binary, Keyed: true, Native: fmt.Sprintf("varbinary(%d)", keyLength), Why: fmt.Sprintf("holds %d bytes at most, as part of a key or index", keyLength)},
	{Family: catalog.Binary, Native: "varbinary(max)"},
	{Family: catalog.Boolean, Native: "bit"},
	{Family: catalog.Date, Native: "date"},
	{Family: catalog.Time, Zoned: true, Native: "time(6)", Why: "holds no time zone: what is written is to be in UTC"},
	{Family: catalog.Time, Native: "time(6)"},
	{Family: catalog.Timestamp, Zoned: true, Native: "datetimeoffset(6)"},
	{Family: catalog.Timestamp, Native: "datetime2(6)"},
	{Family: catalog.UUID, Native: "uniqueidentifier"},
	{Family: catalog.JSON, Why: "holds text: nothing keeps it JSON"},
	{Family: catalog.Untyped, Why: "had no declared type, and holds text"},
}}

// declared is the type of a declaration: base(length), base(precision,scale) or base(digits).
func declared(native string) catalog.Type {
	base, sizes, sized := strings.Cut(strings.TrimSuffix(native, ")"), "(")
	length, precision, scale := 0, 0, 0
	switch n, _ := fmt.Sscanf(sizes, "%d,%d", &precision, &scale); {
	case sized && n == 0: // max
		length = -1
	case n == 1:
		length, scale = precision, precision
		if base[0] == 'n' {
			length *= 2
		}
	}
	return traits.TypeOf(base, length, precision, scale, "")
}
