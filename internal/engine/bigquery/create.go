package bigquery

import (
	"fmt"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/engine/translate"
)

// Create writes datasets and tables, then keys, foreign keys, views and routines. Each statement
// stands by itself (https://cloud.google.com/bigquery/docs/transactions: of statements that alter the
// structure, those on temporary tables alone are part of a transaction).
func (Engine) Create(c *catalog.Catalog) (*engine.Work, []engine.Loss) {
	work := &engine.Work{}
	var losses []engine.Loss
	lose := func(kind, schema, name, why string) {
		losses = append(losses, engine.Loss{What: catalog.ObjectRef{Kind: kind, Schema: schema, Name: name}, Why: why})
	}
	var schemas, tables, keys, references, views, routines []string
	location, _ := c.Setting("location")
	for _, s := range c.Schemas {
		list := described(s.Comment, s.Options)
		if location.Value != "" {
			list = append(list, "location="+literal(location.Value))
		}
		schemas = append(schemas, "CREATE SCHEMA IF NOT EXISTS "+whole(s.Name)+options(list))
		for _, t := range s.Tables {
			if t.Kind != catalog.Ordinary {
				lose(catalog.KindTable, t.Schema, t.Name, "its rows lie elsewhere: it has to be declared with where they do")
				continue
			}
			for _, col := range t.Columns {
				for _, o := range col.Options {
					if strings.HasPrefix(o, policyTags) {
						lose("column", t.Schema, t.Name+"."+col.Name, "its policy tags are not carried over: anybody who may read the table may read it")
					}
				}
			}
			tables = append(tables, tableText(t))
			if t.PrimaryKey != nil {
				keys = append(keys, addPrimaryKey(t.Ref(), t.PrimaryKey))
			}
			for _, f := range t.ForeignKeys {
				references = append(references, addReference(t.Ref(), f))
			}
		}
		for _, v := range s.Views {
			if v.Definition == "" {
				lose(catalog.KindView, s.Name, v.Name, "its query was not read")
				continue
			}
			kind := "VIEW"
			if v.Materialised {
				kind = "MATERIALIZED VIEW"
			}
			views = append(views, fmt.Sprintf("CREATE %s %s%s AS %s", kind, relation(catalog.Ref{Schema: s.Name, Table: v.Name}), options(described(v.Comment, v.Options)), strings.TrimSuffix(strings.TrimSpace(v.Definition), ";")))
		}
		for _, r := range s.Routines {
			if r.Definition == "" {
				lose(catalog.KindRoutine, s.Name, r.Name, "its text was not read")
				continue
			}
			routines = append(routines, strings.TrimSuffix(strings.TrimSpace(r.Definition), ";"))
		}
		for _, o := range s.Objects {
			lose(o.Kind, s.Name, o.Name, "it is a copy of another table's rows at a moment")
		}
	}
	for _, p := range []struct {
		title string
		sql   []string
	}{{"datasets", schemas}, {"tables", tables}, {"keys", keys}, {"foreign keys", references}, {"views", views}, {"routines", routines}} {
		if len(p.sql) > 0 {
			work.Steps = append(work.Steps, engine.Step{Title: "create " + p.title, Lock: "nothing that others use", SQL: p.sql})
		}
	}
	return work, losses
}

// likes are the types that take another engine's values.
func likes(t catalog.Type, _ bool) (catalog.Type, string) {
	native, why := "STRING", ""
	switch t.Family {
	case catalog.Integer:
		native = "INT64"
		if t.Unsigned && t.Bits >= 64 {
			native = "BIGNUMERIC(38)"
		}
	case catalog.Decimal:
		switch {
		case t.Precision == 0:
			native, why = "BIGNUMERIC", "takes 38 digits behind the point at most"
		case t.Scale <= 9 && t.Precision-t.Scale <= 29:
			native = fmt.Sprintf("NUMERIC(%d, %d)", t.Precision, t.Scale)
		case t.Scale <= 38 && t.Precision-t.Scale <= 38:
			native = fmt.Sprintf("BIGNUMERIC(%d, %d)", t.Precision, t.Scale)
		default:
			native, why = "BIGNUMERIC", "takes 38 digits before and behind the point at most"
		}
	case catalog.Float:
		native = "FLOAT64"
	case catalog.Boolean:
		native = "BOOL"
	case catalog.Text, catalog.Enum, catalog.UUID:
		if t.Length > 0 {
			native = fmt.Sprintf("STRING(%d)", t.Length)
		}
	case catalog.Binary:
		if native = "BYTES"; t.Length > 0 {
			native = fmt.Sprintf("BYTES(%d)", t.Length)
		}
	case catalog.Date:
		native = "DATE"
	case catalog.Time:
		native = "TIME"
	case catalog.Timestamp:
		if native = "DATETIME"; t.Zoned {
			native = "TIMESTAMP"
		}
	case catalog.Interval:
		native = "INTERVAL"
	case catalog.JSON:
		native = "JSON"
	default:
		why = "holds text, since there is no such type"
	}
	return typeOf(native), why
}

// nameable is the name without the signs that none may hold
// (https://cloud.google.com/bigquery/docs/schemas#flexible-column-names).
func nameable(name string) string {
	return strings.Map(func(r rune) rune {
		if r < ' ' || strings.ContainsRune("!\"$()*,./;?@[\\]^`{}~", r) {
			return '_'
		}
		return r
	}, name)
}

// Adopt takes over another engine's structure: its tables, primary keys and references to them.
func (e Engine) Adopt(c *catalog.Catalog, source sqllex.Dialect) (*catalog.Catalog, []engine.Loss) {
	to, losses := translate.Catalog(c, translate.Target{
		Engine: catalog.Engine{Name: e.Name(), Version: "v2"}, Dialect: e.Dialect(), Source: source, Ident: ident, Type: likes,
		MaxName: 300, Comments: true, Named: nameable, Now: "CURRENT_TIMESTAMP()", Today: "CURRENT_DATE()", True: "TRUE", False: "FALSE",
	})
	lose := func(kind string, t *catalog.Table, name, why string) {
		losses = append(losses, engine.Loss{What: catalog.ObjectRef{Kind: kind, Schema: t.Schema, Name: name + " of " + t.Name}, Why: why})
	}
	for _, t := range to.Tables() {
		for _, k := range t.UniqueKeys {
			lose("key", t, k.Name, "there are no unique keys besides the primary one")
		}
		for _, x := range t.Indexes {
			if x.Origin == catalog.ByPerson {
				lose("index", t, x.Name, "there are no indexes")
			}
		}
		for _, k := range t.Checks {
			lose("check", t, k.Name, "there are no checks")
		}
		t.UniqueKeys, t.Indexes, t.Checks = nil, nil, nil
		for _, col := range t.Columns {
			if col.Identity != catalog.NoIdentity {
				lose("column", t, col.Name, "no column is numbered: who adds a row gives the number")
				col.Identity = catalog.NoIdentity
			}
		}
		if k := t.PrimaryKey; k != nil {
			if k.Name, k.Index = primaryKey, ""; len(k.Columns) > mostKeyed {
				lose("key", t, k.Name, fmt.Sprintf("a key has %d columns at most", mostKeyed))
				t.PrimaryKey = nil
			}
		}
	}
	for _, t := range to.Tables() {
		var kept []*catalog.ForeignKey
		for _, f := range t.ForeignKeys {
			if why := refusesReference(to, t, f); why != "" {
				lose("foreign key", t, f.Name, why)
				continue
			}
			f.OnDelete, f.OnUpdate, f.TargetIndex = catalog.NoAction, catalog.NoAction, ""
			kept = append(kept, f)
		}
		t.ForeignKeys = kept
	}
	return to, losses
}
