package sqlserver

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/engine/translate"
)

// keyLength is how long a text may be that is part of a key: 900 bytes of a clustered one, two a
// letter.
const keyLength = 200

// Adopt takes over another engine's structure.
func (e Engine) Adopt(c *catalog.Catalog, source sqllex.Dialect) (*catalog.Catalog, []engine.Loss) {
	to, losses := translate.Catalog(c, translate.Target{
		Engine: catalog.Engine{Name: e.Name(), Version: "16.0"}, Dialect: e.Dialect(), Source: source, Ident: ident, Type: adoptType,
		Numbered: catalog.IdentityAlways, NumberedTypes: translate.WholeNumber, Next: func(r catalog.Ref) string { return "NEXT VALUE FOR " + relation(r) },
		SharedNames: true, SharedConstraints: true, SameTypes: true, MaxName: e.Abilities("").MaxName,
		Sequences: true, Comments: true, PartialIndexes: true, IncludedColumns: true, SetDefault: true, Descending: true,
		Now: "sysdatetimeoffset()", Today: "CONVERT([date],getdate())", True: "1", False: "0",
	})
	a := &adopted{to: to, losses: losses}
	a.home()
	for _, t := range to.Tables() {
		for _, col := range t.Columns {
			if col.Default != "" {
				col.DefaultName = defaultName(t.Name, col.Name)
			}
		}
		for i, k := range t.Checks {
			if k.Name == "" {
				k.Name = cutName(fmt.Sprintf("CK_%s_%d", t.Name, i+1))
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
					col.Default = "NEXT VALUE FOR " + relation(*col.Sequence)
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
				open = append(open, bracket(name)+" IS NOT NULL")
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
		if why := refusesCascade(a.to, t.Ref(), f, false); why != "" {
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

// adoptType picks the type that holds all values of the other
// (https://learn.microsoft.com/en-us/sql/t-sql/data-types/data-types-transact-sql).
func adoptType(t catalog.Type, keyed bool) (catalog.Type, string) {
	is := func(base string, length, precision, scale int) catalog.Type {
		return typeOf(base, length, precision, scale, "")
	}
	text := func(why string) (catalog.Type, string) {
		if !keyed {
			return is("nvarchar", -1, 0, 0), why
		}
		if why == "" {
			why = fmt.Sprintf("holds %d letters at most, as part of a key or index", keyLength)
		}
		return is("nvarchar", 2*keyLength, 0, 0), why
	}
	switch t.Family {
	case catalog.Integer:
		bits := t.Bits
		if t.Unsigned && bits > 8 { // there are none: the next wider holds them
			bits++
		}
		switch {
		case t.Unsigned && bits <= 8:
			return is("tinyint", 1, 0, 0), ""
		case bits <= 16:
			return is("smallint", 2, 0, 0), ""
		case bits <= 32:
			return is("int", 4, 0, 0), ""
		case bits <= 64:
			return is("bigint", 8, 0, 0), ""
		}
		return is("decimal", 0, 20, 0), "holds an unsigned number of 64 bits as decimal(20,0)"
	case catalog.Decimal:
		switch {
		case t.Precision > 38 || t.Scale > 38 || t.Scale < 0:
			return is("decimal", 0, 38, min(max(t.Scale, 0), 19)), "holds 38 digits at most"
		case t.Precision > 0:
			return is("decimal", 0, t.Precision, min(t.Scale, t.Precision)), ""
		}
		return is("decimal", 0, 38, 10), "holds 28 digits before the point and 10 behind it at most"
	case catalog.Float:
		if t.Bits == 32 {
			return is("real", 4, 0, 0), ""
		}
		return is("float", 8, 0, 0), ""
	case catalog.Text:
		lost := ""
		if t.Collation != "" {
			lost = "compares as the database does, and no longer by " + t.Collation
		}
		switch {
		case t.Length > 0 && t.Length <= 4000 && t.Padded && !(keyed && t.Length > keyLength):
			return is("nchar", 2*t.Length, 0, 0), lost
		case t.Length > 0 && t.Length <= 4000 && !(keyed && t.Length > keyLength):
			return is("nvarchar", 2*t.Length, 0, 0), lost
		}
		return text(lost)
	case catalog.Enum:
		return is("nvarchar", 2*100, 0, 0), ""
	case catalog.Binary:
		switch {
		case keyed && (t.Length == 0 || t.Length > keyLength):
			return is("varbinary", keyLength, 0, 0), fmt.Sprintf("holds %d bytes at most, as part of a key or index", keyLength)
		case t.Length > 0 && t.Length <= 8000:
			return is("varbinary", t.Length, 0, 0), ""
		}
		return is("varbinary", -1, 0, 0), ""
	case catalog.Boolean:
		return is("bit", 1, 0, 0), ""
	case catalog.Date:
		return is("date", 3, 0, 0), ""
	case catalog.Time:
		return is("time", 5, 0, 6), ""
	case catalog.Timestamp:
		if t.Zoned {
			return is("datetimeoffset", 10, 0, 6), ""
		}
		return is("datetime2", 8, 0, 6), ""
	case catalog.UUID:
		return is("uniqueidentifier", 16, 0, 0), ""
	case catalog.JSON:
		return text("holds text: nothing keeps it JSON")
	case catalog.Untyped:
		return text("had no declared type, and holds text")
	}
	return text(fmt.Sprintf("holds text, since %s has no like", t.Native))
}
