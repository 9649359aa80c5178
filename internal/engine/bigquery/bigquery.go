// Package bigquery reads and writes datasets of BigQuery, a warehouse that is asked over HTTP and
// bills the bytes that it reads. The structure is read from the INFORMATION_SCHEMA views that its
// manual documents (https://cloud.google.com/bigquery/docs/information-schema-intro).
package bigquery

import (
	"regexp"
	"strings"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/sqlexpr"
	"nexdal/internal/engine/sqllex"
)

// Engine is BigQuery.
type Engine struct{}

// Name is "bigquery".
func (Engine) Name() string { return "bigquery" }

// Title is the makers' spelling.
func (Engine) Title() string { return "BigQuery" }

// Serves says what this was tried on.
func (Engine) Serves() string {
	return "by its documented views and REST interface, tried on a simulated project alone"
}

// Schemes of its addresses.
func (Engine) Schemes() []string { return []string{"bigquery"} }

// Dialect of its lexer (https://cloud.google.com/bigquery/docs/reference/standard-sql/lexical).
func (Engine) Dialect() sqllex.Dialect {
	return sqllex.Dialect{Backquotes: true, TextQuotes: true, HashComments: true, Letters: "length"}
}

// mostClustered is how many columns a table is clustered by at most
// (https://cloud.google.com/bigquery/docs/clustered-tables#limitations).
const mostClustered = 4

// primaryKey is what every primary key is called
// (https://cloud.google.com/bigquery/docs/information-schema-table-constraints).
const primaryKey = "pk$"

// Abilities: keys are not enforced, and there is one a table
// (https://cloud.google.com/bigquery/docs/primary-foreign-keys); names of columns have at most 300
// letters (https://cloud.google.com/bigquery/docs/schemas#column_names).
func (Engine) Abilities(string) catalog.Abilities {
	return catalog.Abilities{
		KeysUnenforced: true, PrimaryKeysAlone: true, Indexless: true, NullableKeys: true, PrimaryKeyName: primaryKey,
		Clusters: mostClustered, PartitionEvery: partitionEvery, FiltersRequired: true, Metered: true, RequiredAtBirth: true,
		AnalyseAdvice: "let the account read TABLE_STORAGE, then survey the dataset",
		DateTypes:     true, ZonedMoments: true, Comments: true, ViewsBreak: true,
		ExactType:   catalog.Type{Native: "NUMERIC", Family: catalog.Decimal, Precision: 38, Scale: 9},
		Now:         now,
		InRange:     within,
		SystemNamed: func(_ *catalog.Table, _, name string, _ []string) bool { return systemNamed.MatchString(name) },
		Reserved:    func(word string) bool { return quoting.Reserved(word) },
		MaxName:     300,
		Expressions: sqlexpr.Reader{Dialect: Engine{}.Dialect()},
	}
}

var systemNamed = regexp.MustCompile(`^(pk\$|fk\$[0-9]+)$`)

func now(t catalog.Type) string {
	switch t.Native {
	case "TIMESTAMP":
		return "CURRENT_TIMESTAMP()"
	case "DATETIME":
		return "CURRENT_DATETIME()"
	case "DATE":
		return "CURRENT_DATE()"
	}
	return ""
}

// within is the condition that a column lies in a range.
func within(column string, from, to catalog.Bound) string {
	moment := func(b catalog.Bound) string {
		if b.At == nil {
			return b.Text
		}
		return "'" + b.At.Format(time.DateTime) + "'"
	}
	return ident(column) + " >= " + moment(from) + " AND " + ident(column) + " < " + moment(to)
}

// quoting knows the words that need quotes as names
// (https://cloud.google.com/bigquery/docs/reference/standard-sql/lexical#reserved_keywords).
var quoting = sqllex.NewQuoting("`", `all and any array as asc assert_rows_modified at between by case cast collate contains create cross cube current default define desc distinct else end enum escape except exclude exists extract false fetch following for from full group grouping groups hash having if ignore in inner intersect interval into is join lateral left like limit lookup merge natural new no not null nulls of on or order outer over partition preceding proto qualify range recursive respect right rollup rows select set some struct tablesample then to treat true unbounded union unnest using when where window with within`).WithPaths()

func ident(name string) string     { return quoting.Ident(name) }
func idents(names []string) string { return quoting.Idents(names) }

// relation leaves the project out: the job's own is meant.
func relation(r catalog.Ref) string { return whole(r.Schema) + "." + whole(r.Table) }

// whole is the name of a dataset or table, in which a dot is no path.
func whole(name string) string {
	if strings.Contains(name, ".") {
		return "`" + name + "`"
	}
	return ident(name)
}

var escapes = strings.NewReplacer(`\`, `\\`, `'`, `\'`, "\n", `\n`, "\r", `\r`)

// literal writes a text
// (https://cloud.google.com/bigquery/docs/reference/standard-sql/lexical#escape_sequences).
func literal(s string) string { return "'" + escapes.Replace(s) + "'" }

// Quoting writes names as the engine wants them.
func (Engine) Quoting() sqllex.Quoting { return quoting }

// Relation is the table's name with its dataset.
func (Engine) Relation(r catalog.Ref) string { return relation(r) }

// Holding begins a transaction that sees the tables as of one moment; another that alters the same
// ones fails (https://cloud.google.com/bigquery/docs/transactions).
func (Engine) Holding(...catalog.Ref) []string { return []string{"BEGIN TRANSACTION"} }

// ClientLine is a call of bq
// (https://cloud.google.com/bigquery/docs/reference/bq-cli-reference#bq_query).
func (Engine) ClientLine(address, file string) string {
	project := "PROJECT"
	if a, err := parse(address); err == nil {
		project = a.project
	}
	return "bq --project_id=" + project + " query --use_legacy_sql=false < " + file
}

var (
	_ engine.Writer  = Engine{}
	_ engine.Creator = Engine{}
	_ engine.Adopter = Engine{}
)
