// Package oracle reads structures of Oracle Database, 12.2 and later, from captures of its data
// dictionary, and writes scripts for SQL*Plus. It connects to nothing.
// The views are those of https://docs.oracle.com/en/database/oracle/oracle-database/19/refrn/,
// each with a page of its own under its name; statements are those of
// https://docs.oracle.com/en/database/oracle/oracle-database/19/sqlrf/.
package oracle

import (
	"strconv"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/sqlexpr"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/text"
)

// Engine is Oracle Database.
type Engine struct{}

// Name is "oracle".
func (Engine) Name() string { return "oracle" }

// Title is the makers' spelling.
func (Engine) Title() string { return "Oracle" }

// Serves says what this was tried on.
func (Engine) Serves() string {
	return "12.2 and later, by captures of its data dictionary, tried on a simulated dictionary alone"
}

// Dialect of its lexer, which is that of SQL*Plus as well
// (https://docs.oracle.com/en/database/oracle/oracle-database/19/sqlrf/Literals.html).
func (Engine) Dialect() sqllex.Dialect {
	return sqllex.Dialect{National: true, ChosenQuotes: true, Slashes: true, Capitals: true, CountsInto: true, Letters: "length"}
}

// expressions reads those of the engine.
var expressions = sqlexpr.Reader{Dialect: Engine{}.Dialect()}

// quoting knows the words that need quotes as names
// (https://docs.oracle.com/en/database/oracle/oracle-database/19/sqlrf/Oracle-SQL-Reserved-Words.html).
var quoting = sqllex.NewQuoting(`"`, `access add all alter and any as asc audit between by char check cluster column column_value comment compress connect create current date decimal default delete desc distinct drop else exclusive exists file float for from grant group having identified immediate in increment index initial insert integer intersect into is level like lock long maxextents minus mlslabel mode modify nested_table_id noaudit nocompress not nowait null number of offline on online option or order pctfree prior public raw rename resource revoke row rowid rownum rows select session set share size smallint start successful synonym sysdate table then to trigger uid union unique update user validate values varchar varchar2 view whenever where with`).WithCapitals()

func ident(name string) string     { return quoting.Ident(name) }
func idents(names []string) string { return quoting.Idents(names) }

// quoted writes a name in quotes, as the dictionary does in its texts.
func quoted(name string) string { return `"` + name + `"` }

// literal writes a text.
func literal(s string) string { return "'" + strings.ReplaceAll(s, "'", "''") + "'" }

// qualified writes a name with its schema.
func qualified(schema, name string) string { return ident(schema) + "." + ident(name) }

func relation(r catalog.Ref) string { return qualified(r.Schema, r.Table) }

// Quoting writes names as the engine wants them.
func (Engine) Quoting() sqllex.Quoting { return quoting }

// Relation is the table's name with its schema.
func (Engine) Relation(r catalog.Ref) string { return relation(r) }

// ClientLine is a call of SQL*Plus, which leaves when the script is done
// (https://docs.oracle.com/en/database/oracle/oracle-database/19/sqpug/starting-SQL-Plus.html).
func (Engine) ClientLine(_, file string) string {
	return "sqlplus -S -L USER@DATABASE @" + text.Shell(file)
}

var (
	_ engine.Writer     = Engine{}
	_ engine.Questioner = Engine{}
	_ engine.Adopter    = Engine{}
)

// release is the first number of a version, and the second: 12.2, 19.0.
func release(version string) (major, minor int) {
	parts := strings.Split(version, ".")
	major, _ = strconv.Atoi(parts[0])
	if len(parts) > 1 {
		minor, _ = strconv.Atoi(parts[1])
	}
	return major, minor
}

// enterprise reports whether the edition can build and validate while others write
// (https://docs.oracle.com/en/database/oracle/oracle-database/19/dblic/Licensing-Information.html).
func enterprise(c *catalog.Catalog) bool {
	s, _ := c.Setting("product")
	return strings.Contains(s.Value, "Enterprise") || strings.Contains(s.Value, "Free") || strings.Contains(s.Value, "Express") && !strings.Contains(s.Value, "11")
}
