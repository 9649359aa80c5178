// Package traits says what Firebird is like: how it writes names and texts, and what its versions
// can do.
package traits

import (
	"strconv"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqlexpr"
	"nexdal/internal/engine/sqllex"
)

// Traits are those of Firebird.
type Traits struct{}

// Name is "firebird".
func (Traits) Name() string { return "firebird" }

// Title is the makers' spelling.
func (Traits) Title() string { return "Firebird" }

// Schemes of its connection URLs.
func (Traits) Schemes() []string { return []string{"firebird"} }

// Serves says what this was tried on.
func (Traits) Serves() string { return "3.0 and later, tried on 3.0" }

// Schema is what the only one is called: there are none here.
const Schema = "main"

// Dialect of its lexer, which is that of isql as well.
func (Traits) Dialect() sqllex.Dialect {
	return sqllex.Dialect{ChosenQuotes: true, Terms: true, Capitals: true, CountsInto: true, Letters: "char_length"}
}

// Expressions reads those of the engine.
var Expressions = sqlexpr.Reader{Dialect: Traits{}.Dialect()}

// Quoting knows the words that need quotes as names, those of 4.0 and 5.0 among them
// (https://firebirdsql.org/file/documentation/html/en/refdocs/fblangref50/firebird-50-language-reference.html#fblangref50-appx03-reskeywords).
var Quoting = sqllex.NewQuoting(`"`, `add admin all alter and any as at avg begin between bigint binary bit_length blob boolean both by case cast char char_length character character_length check close collate column comment commit connect constraint corr count covar_pop covar_samp create cross current current_connection current_date current_role current_time current_timestamp current_transaction current_user cursor date day dec decfloat decimal declare default delete deleting deterministic disconnect distinct double drop else end escape execute exists external extract false fetch filter float for foreign from full function gdscode global grant group having hour in index inner input_type insensitive insert inserting int int128 integer into is join lateral leading left like local localtime localtimestamp long lower max merge min minute month national natural nchar no not null numeric octet_length of offset on only open or order outer output_type over parameter plan position post_event precision primary procedure publication rdb$db_key rdb$error rdb$get_context rdb$get_transaction_cn rdb$record_version rdb$role_in_use rdb$set_context rdb$system_privilege real record_version recreate recursive references regr_avgx regr_avgy regr_count regr_intercept regr_r2 regr_slope regr_sxx regr_sxy regr_syy release resetting return returning_values returns revoke right rollback row row_count rows savepoint scroll second select sensitive set similar smallint some sqlcode sqlstate start stddev_pop stddev_samp sum table then time timestamp timezone_hour timezone_minute to trailing trigger trim true unbounded union unique unknown update updating upper user using value values var_pop var_samp varbinary varchar variable varying view when where while window with without year`).WithCapitals()

// Ident writes a name.
func Ident(name string) string { return Quoting.Ident(name) }

// Idents writes names, with commas between them.
func Idents(names []string) string { return Quoting.Idents(names) }

// Literal writes a text.
func Literal(s string) string { return "'" + strings.ReplaceAll(s, "'", "''") + "'" }

// Relation writes the name of a table or a view.
func Relation(r catalog.Ref) string { return Ident(r.Table) }

// Quoting writes names as the engine wants them.
func (Traits) Quoting() sqllex.Quoting { return Quoting }

// Relation is the table's name.
func (Traits) Relation(r catalog.Ref) string { return Relation(r) }

// Major is the first number of a version.
func Major(version string) int {
	first, _, _ := strings.Cut(version, ".")
	n, _ := strconv.Atoi(first)
	return n
}

// Alter is one action on a table.
func Alter(on catalog.Ref, action string) string { return "ALTER TABLE " + Relation(on) + " " + action }
