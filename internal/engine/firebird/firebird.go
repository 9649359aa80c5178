// Package firebird reads and writes databases of Firebird, 3.0 and later, by the system tables
// that its language reference documents
// (https://firebirdsql.org/file/documentation/html/en/refdocs/fblangref30/firebird-30-language-reference.html#fblangref-appx04-systables).
// Statements are those of the same book.
package firebird

import (
	"net"
	"strconv"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/sqlexpr"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/text"
)

// Engine is Firebird.
type Engine struct{}

// Name is "firebird".
func (Engine) Name() string { return "firebird" }

// Title is the makers' spelling.
func (Engine) Title() string { return "Firebird" }

// Schemes of its connection URLs.
func (Engine) Schemes() []string { return []string{"firebird"} }

// Serves says what this was tried on.
func (Engine) Serves() string { return "3.0 and later, tried on 3.0" }

// schema is what the only one is called: there are none here.
const schema = "main"

// Dialect of its lexer, which is that of isql as well.
func (Engine) Dialect() sqllex.Dialect {
	return sqllex.Dialect{ChosenQuotes: true, Terms: true, Capitals: true, CountsInto: true, Letters: "char_length"}
}

// expressions reads those of the engine.
var expressions = sqlexpr.Reader{Dialect: Engine{}.Dialect()}

// quoting knows the words that need quotes as names, those of 4.0 and 5.0 among them
// (https://firebirdsql.org/file/documentation/html/en/refdocs/fblangref50/firebird-50-language-reference.html#fblangref50-appx03-reskeywords).
var quoting = sqllex.NewQuoting(`"`, `add admin all alter and any as at avg begin between bigint binary bit_length blob boolean both by case cast char char_length character character_length check close collate column comment commit connect constraint corr count covar_pop covar_samp create cross current current_connection current_date current_role current_time current_timestamp current_transaction current_user cursor date day dec decfloat decimal declare default delete deleting deterministic disconnect distinct double drop else end escape execute exists external extract false fetch filter float for foreign from full function gdscode global grant group having hour in index inner input_type insensitive insert inserting int int128 integer into is join lateral leading left like local localtime localtimestamp long lower max merge min minute month national natural nchar no not null numeric octet_length of offset on only open or order outer output_type over parameter plan position post_event precision primary procedure publication rdb$db_key rdb$error rdb$get_context rdb$get_transaction_cn rdb$record_version rdb$role_in_use rdb$set_context rdb$system_privilege real record_version recreate recursive references regr_avgx regr_avgy regr_count regr_intercept regr_r2 regr_slope regr_sxx regr_sxy regr_syy release resetting return returning_values returns revoke right rollback row row_count rows savepoint scroll second select sensitive set similar smallint some sqlcode sqlstate start stddev_pop stddev_samp sum table then time timestamp timezone_hour timezone_minute to trailing trigger trim true unbounded union unique unknown update updating upper user using value values var_pop var_samp varbinary varchar variable varying view when where while window with without year`).WithCapitals()

func ident(name string) string     { return quoting.Ident(name) }
func idents(names []string) string { return quoting.Idents(names) }

// literal writes a text.
func literal(s string) string { return "'" + strings.ReplaceAll(s, "'", "''") + "'" }

func relation(r catalog.Ref) string { return ident(r.Table) }

// Quoting writes names as the engine wants them.
func (Engine) Quoting() sqllex.Quoting { return quoting }

// Relation is the table's name.
func (Engine) Relation(r catalog.Ref) string { return relation(r) }

// ClientLine is a call of isql, which stops at the first error. The password it takes from
// ISC_PASSWORD
// (https://firebirdsql.org/file/documentation/html/en/firebirddocs/isql/firebird-isql.html).
func (Engine) ClientLine(address, file string) string {
	c, err := parse(address)
	if address == "" || err != nil {
		return "isql-fb -q -bail -i " + text.Shell(file) + " DATABASE"
	}
	host, port, _ := net.SplitHostPort(c.host)
	return "isql-fb " + text.Shells([]string{"-q", "-bail", "-ch", "UTF8", "-u", c.user, "-i", file, host + "/" + port + ":" + c.database})
}

var (
	_ engine.Opener = Engine{}
	_ engine.Client = Engine{}
)

// major is the first number of a version.
func major(version string) int {
	first, _, _ := strings.Cut(version, ".")
	n, _ := strconv.Atoi(first)
	return n
}

// alter is one action on a table.
func alter(on catalog.Ref, action string) string { return "ALTER TABLE " + relation(on) + " " + action }
