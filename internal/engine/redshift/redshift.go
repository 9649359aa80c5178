// Package redshift reads and writes databases of Amazon Redshift, a column store on a
// cluster that speaks PostgreSQL's protocol. Everything is read from the system views
// that its Database Developer Guide documents.
package redshift

import (
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
	"nexdal/internal/engine/sqlexpr"
	"nexdal/internal/engine/sqllex"
)

// Engine is Redshift.
type Engine struct{}

// Name is "redshift".
func (Engine) Name() string { return "redshift" }

// Title is the makers' spelling.
func (Engine) Title() string { return "Redshift" }

// Schemes of its connection URLs.
func (Engine) Schemes() []string { return []string{"redshift"} }

// Dialect of its lexer, which is PostgreSQL's
// (https://docs.aws.amazon.com/redshift/latest/dg/c_Basic_elements.html).
func (Engine) Dialect() sqllex.Dialect {
	return sqllex.Dialect{DollarStrings: true, NestedComments: true, Small: true, Letters: "len", Directives: `\`}
}

// Abilities: keys and foreign keys are "informational only"
// (https://docs.aws.amazon.com/redshift/latest/dg/t_Defining_constraints.html); names
// have at most 127 bytes (https://docs.aws.amazon.com/redshift/latest/dg/r_names.html).
func (Engine) Abilities(string) catalog.Abilities {
	return catalog.Abilities{
		Spreads: true, CountsDeadRows: true, KeysUnenforced: true, Indexless: true,
		RawEncoding: "raw", Encoding: encoding,
		AnalyseAdvice: "ANALYZE on the database, then survey it",
		DateTypes:     true, ZonedMoments: true, FoldsCase: true, Comments: true, NullableKeys: true,
		ExactType:   catalog.Type{Native: "numeric(19,4)", Family: catalog.Decimal, Precision: 19, Scale: 4},
		Reserved:    func(word string) bool { return quoting.Reserved(word) },
		MaxName:     127,
		Expressions: sqlexpr.Reader{Dialect: Engine{}.Dialect()},
	}
}

// encoding is what the engine itself would choose
// (https://docs.aws.amazon.com/redshift/latest/dg/c_Compression_encodings.html: columns
// of BOOLEAN, REAL and DOUBLE PRECISION are RAW, numbers and moments AZ64, texts LZO).
func encoding(t catalog.Type) string {
	switch t.Family {
	case catalog.Integer, catalog.Decimal, catalog.Date, catalog.Timestamp:
		return "az64"
	case catalog.Text:
		return "lzo"
	}
	return "raw"
}

// quoting knows the words that need quotes as names
// (https://docs.aws.amazon.com/redshift/latest/dg/r_pg_keywords.html).
var quoting = sqllex.NewQuoting(`"`, `aes128 aes256 all allowoverwrite analyse analyze and any array as asc authorization az64 backup between binary blanksasnull both bytedict bzip2 case cast check collate column compression constraint create credentials cross current_date current_time current_timestamp current_user current_user_id default deferrable deflate defrag delta delta32k desc disable distinct do else emptyasnull enable encode encrypt encryption end except explicit false for foreign freeze from full globaldict256 globaldict64k grant group gzip having identity ignore ilike in initially inner intersect interval into is isnull join language leading left like limit localtime localtimestamp lun luns lzo lzop minus mostly16 mostly32 mostly8 natural new not notnull null nulls off offline offset oid old on only open or order outer overlaps parallel partition percent permissions pivot placing primary raw readratio recover references rejectlog resort respect restore right select session_user similar snapshot some sysdate system table tag tdes text255 text32k then timestamp to top trailing true truncatecolumns union unique unnest unpivot user using verbose wallet when where with without`)

func ident(name string) string     { return quoting.Ident(name) }
func idents(names []string) string { return quoting.Idents(names) }
func literal(s string) string {
	return "'" + strings.ReplaceAll(strings.ReplaceAll(s, `\`, `\\`), "'", "''") + "'"
}
func relation(r catalog.Ref) string { return ident(r.Schema) + "." + ident(r.Table) }

// Quoting writes names as the engine wants them.
func (Engine) Quoting() sqllex.Quoting { return quoting }

// Relation is the table's name with its schema.
func (Engine) Relation(r catalog.Ref) string { return relation(r) }

// Holding locks the tables against writers.
func (Engine) Holding(tables ...catalog.Ref) []string {
	names := make([]string, len(tables))
	for i, ref := range tables {
		names[i] = relation(ref)
	}
	return []string{"BEGIN", "LOCK " + strings.Join(names, ", ")}
}

// ClientLine is a call of psql, which Redshift's guide names as a client.
func (Engine) ClientLine(address, file string) string {
	if address == "" {
		address = "DATABASE"
	}
	return "psql -d '" + strings.Replace(address, "redshift://", "postgres://", 1) + "' -f " + file
}

var (
	_ engine.Writer  = Engine{}
	_ engine.Creator = Engine{}
	_ change.Change  = change.SetSpread{}
)

// Serves says what this was tried on.
func (Engine) Serves() string {
	return "by its documented system views, tried on a simulated cluster alone"
}
