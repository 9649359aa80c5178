package sqlserver

import (
	"context"
	"errors"
	"fmt"
	"strconv"
	"strings"
	"time"
	"unicode/utf16"

	"nexdal/internal/engine"
	"nexdal/internal/engine/capture"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/engine/sqlserver/traits"
	"nexdal/internal/evidence"
	"nexdal/internal/pattern"
)

// captureVersions are those whose questions differ: each stands for the ones up to the next.
var captureVersions = []int{13, 14, 16}

// newest is the version that Azure's editions count as.
const newest = 17

// listing notes the questions, and says which version is asked.
type listing struct {
	engine.Listing
	version int
}

// Put notes it.
func (l *listing) Put(ctx context.Context, question string) ([]evidence.Row, error) {
	if _, err := l.Listing.Put(ctx, question); question != askServer {
		return nil, err
	}
	row := make(evidence.Row, 9) // as many as it selects
	version := strconv.Itoa(l.version) + ".0"
	row[0] = &version
	return []evidence.Row{row}, nil
}

// CaptureClient is the maker's.
func (Engine) CaptureClient() string { return "sqlcmd" }

// CaptureScript is a script of sqlcmd
// (https://learn.microsoft.com/en-us/sql/tools/sqlcmd/sqlcmd-utility).
func (Engine) CaptureScript() (string, error) {
	count := 0
	asked, err := capture.Versions(len(captureVersions), func(i int) ([]string, error) {
		l := &listing{version: captureVersions[i]}
		_, err := read(context.Background(), l, time.Time{})
		if i > 0 && len(l.Asked) != count && err == nil {
			err = errors.New("versions are asked differently often")
		}
		count = len(l.Asked)
		return l.Asked, err
	}, func(q string) string { return q })
	if err != nil {
		return "", err
	}
	var b strings.Builder
	b.WriteString(captureBegins("what a database is made of; reads the server's views alone", "", 16))
	for _, q := range asked {
		text := posed(capture.Key(q.Question), traits.Literal(ofSurvey(q.Question)))
		if !q.Always(len(captureVersions)) {
			last := newest
			if q.Last+1 < len(captureVersions) {
				last = captureVersions[q.Last+1] - 1
			}
			text = fmt.Sprintf("\nIF @major BETWEEN %d AND %d\nBEGIN%sEND;\n", captureVersions[q.First], last, text)
		}
		b.WriteString(text)
	}
	b.WriteString(captureEnds(1 + count))
	return b.String(), nil
}

// DataScript puts questions about the data.
func (Engine) DataScript(asked []capture.Question) string {
	var b strings.Builder
	b.WriteString(captureBegins("about the data of a database", capture.OfData, 1))
	for _, q := range asked {
		b.WriteString(posed(capture.Key(q.SQL), "CAST(N'' AS nvarchar(max)) + "+ascii(ofData(q.SQL))))
	}
	b.WriteString(captureEnds(1 + len(asked)))
	return b.String()
}

// Questions are those that a session would put.
func (Engine) Questions(rows func(context.Context, string, int) ([]string, []evidence.Row, error)) evidence.Asker {
	return asker(rows)
}

const captureHead = `-- Asks a SQL Server %[1]s,
-- and alters nothing. Written by Nexdal, which reads the result. Run it with the maker's client;
-- elsewhere than on Windows without -f:
--
--   sqlcmd -S SERVER -d DATABASE -x -y 0 -f 65001 -i FILE %[2]s
SET NOCOUNT ON;
SET QUOTED_IDENTIFIER ON;
SET LOCK_TIMEOUT %[3]d;
IF (SELECT CAST(d.snapshot_isolation_state AS int) FROM sys.databases d WHERE d.name = DB_NAME()) = 1 SET TRANSACTION ISOLATION LEVEL SNAPSHOT;
SELECT '@nexdal %[4]d sqlserver%[5]s' AS answer;
SELECT N'@probe "' + %[6]s + N'"' AS answer;
DECLARE @major int = CASE WHEN CAST(SERVERPROPERTY('EngineEdition') AS int) IN (%[7]s, %[8]s) THEN %[9]d ELSE CAST(SERVERPROPERTY('ProductMajorVersion') AS int) END;

-- What makes lines of the rows j of a question: each row, which may take several lines, behind its
-- length, and in the end how many rows there were.
DECLARE @asks nvarchar(max);
DECLARE @lines nvarchar(max) = N', x (i, total, line) AS (
  SELECT i, total, CONCAT(''@row '', LEN(j%[10]s), '' '', j) FROM r
), p (n) AS (
  %[11]s
)
SELECT CASE WHEN p.n = %[12]d THEN CONCAT(''@end ';
DECLARE @ends nvarchar(max) = N' '', COALESCE(x.total, 0)) ELSE SUBSTRING(x.line%[10]s, p.n * %[13]d + 1, %[13]d) END AS answer
FROM (SELECT 0 AS n) o LEFT JOIN x ON o.n < x.i JOIN p ON p.n < %[12]d AND p.n * %[13]d < LEN(x.line%[10]s) OR p.n = %[12]d AND COALESCE(x.i, 0) = COALESCE(x.total, 0)
ORDER BY COALESCE(x.i, 0), p.n';
`

// headQuery says what database it is, and when and as whom it is asked.
const headQuery = "SELECT CAST(SERVERPROPERTY('ProductVersion') AS nvarchar(128)), DB_NAME(), CONCAT(CONVERT(nvarchar(19), SYSUTCDATETIME(), 126), 'Z'), SUSER_SNAME()"

// captureBegins is the head of a script that asks about something; a row comes on at most so many
// lines.
func captureBegins(what, kind string, pieces int) string {
	numbers := make([]string, pieces+1)
	for i := range numbers {
		numbers[i] = fmt.Sprintf("SELECT %d", i)
	}
	return fmt.Sprintf(captureHead, what, capture.Into(kind), traits.LockTimeout.Milliseconds(), capture.Form, kind, ascii(strings.NewReplacer(`\`, `\\`, `"`, `\"`).Replace(capture.Probe)),
		traits.EditionDatabase, traits.EditionInstance, newest, byCharacter, strings.Join(numbers, " UNION ALL "), pieces, pieceLength) + posed("head", traits.Literal(ofSurvey(headQuery)))
}

func captureEnds(questions int) string {
	return fmt.Sprintf("\nSELECT '@done %d' AS answer;\nGO\n", questions)
}

// posed is one question. What it asks is a text, so that an error in it is caught, whatever it is
// (https://learn.microsoft.com/en-us/sql/t-sql/language-elements/try-catch-transact-sql).
func posed(key, query string) string {
	return fmt.Sprintf(`
SET @asks = %[2]s;
SELECT '@ask %[1]s' AS answer;
BEGIN TRY
EXEC (@asks + @lines + N'%[1]s' + @ends);
END TRY
BEGIN CATCH
SELECT CONCAT('@failed %[1]s ', ERROR_NUMBER()) AS answer;
END CATCH;
`, key, query)
}

// ofSurvey is the rows that answer a question of a survey, in the order that it gives them.
func ofSurvey(question string) string {
	d := Engine{}.Dialect()
	list, rest := sqllex.Selected(d, question)
	for i, value := range list {
		list[i], _ = d.CutLast(value, "AS")
	}
	from, order := d.CutLast(rest, "ORDER BY")
	return "WITH " + numbered(list, from, order)
}

// ofData is the like of a question about the data, which orders by the numbers of its columns.
func ofData(question string) string {
	d := Engine{}.Dialect()
	names, query := sqllex.Columns(d, question)
	_, order := d.CutLast(query, "ORDER BY")
	return fmt.Sprintf("WITH q (%s) AS (\n%s\n), ", strings.Join(names, ", "), query) + numbered(names, "FROM q", ordinal.ReplaceAllString(order, "c$0"))
}

// numbered is r: each row with its number, how many there are, and its values in JSON.
func numbered(list []string, from, order string) string {
	if order == "" {
		order = "(SELECT NULL)"
	}
	row := sqllex.Each(list, func(value string) string {
		return `COALESCE('"' + STRING_ESCAPE(CONVERT(nvarchar(max), ` + value + `, 121)` + byCharacter + `, 'json') + '"', 'null')`
	}, ", ',',\n    ")
	return fmt.Sprintf("r (i, total, j) AS (\n  SELECT ROW_NUMBER() OVER (ORDER BY %s), COUNT(*) OVER (),\n    CONCAT('[', %s, ']')\n  %s\n)", order, row, from)
}

var ordinal = pattern.New(`\b[0-9]+\b`)

// What counts and cuts characters takes one beyond U+FFFF for two, but by such a collation; and the
// server puts no texts of different collations together, which its own views have
// (https://learn.microsoft.com/en-us/sql/relational-databases/collations/collation-and-unicode-support#Supplementary_Characters).
const byCharacter = " COLLATE Latin1_General_100_CI_AS_SC"

// pieceLength is how many characters of a row come on one line: the client cuts what takes more
// than a megabyte.
const pieceLength = 250000

// ascii writes a text as an expression that is one line of ASCII, in which the client finds no
// line, no batch and no variable of its own.
func ascii(text string) string {
	var b strings.Builder
	open := false
	within := func(literal bool) {
		switch {
		case literal && !open:
			b.WriteString("N'")
		case !literal && open:
			b.WriteString("' + ")
		}
		open = literal
	}
	for _, r := range text {
		switch {
		case r > 0xFFFF: // by its bytes, since NCHAR takes it only where the database's collation does
			within(false)
			high, low := utf16.EncodeRune(r)
			fmt.Fprintf(&b, "CAST(0x%02X%02X%02X%02X AS nvarchar(2)) + ", high&0xFF, high>>8, low&0xFF, low>>8)
		case r < ' ' || r > '~' || r == '$':
			within(false)
			fmt.Fprintf(&b, "NCHAR(%d) + ", r)
		case r == '\'':
			within(true)
			b.WriteString("''")
		default:
			within(true)
			b.WriteRune(r)
		}
	}
	within(false)
	return b.String() + "N''"
}
