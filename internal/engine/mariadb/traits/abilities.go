package traits

import (
	"cmp"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/pattern"
)

var (
	countedFloat = pattern.New(`^(float|double)\((\d+),(\d+)\)`)
	shortYear    = pattern.New(`^year\(2\)`)
)

// obsolete: what the manual advises against (https://mariadb.com/kb/en/float/,
// https://mariadb.com/kb/en/year-data-type/).
func obsolete(t catalog.Type) (string, catalog.Type) {
	switch m := countedFloat.FindStringSubmatch(t.Native); {
	case m != nil:
		digits, _ := strconv.Atoi(m[2])
		scale, _ := strconv.Atoi(m[3])
		return "an approximate number with so many digits is rounded twice", catalog.Type{Native: fmt.Sprintf("decimal(%d,%d)", digits, scale), Family: catalog.Decimal, Precision: digits, Scale: scale}
	case shortYear.MatchString(t.Native):
		return "two digits do not say which century", catalog.Type{Native: "year(4)", Family: catalog.Date}
	case strings.Contains(t.Native, "zerofill"):
		return "zeros before a number are for programs to show; they make the type unsigned besides", catalog.Type{}
	}
	return "", catalog.Type{}
}

// now: a fraction of seconds has to be asked for as the column has it
// (https://mariadb.com/kb/en/datetime/).
func now(t catalog.Type) string {
	if t.Family != catalog.Timestamp {
		return ""
	}
	return "current_timestamp(" + strings.Trim(strings.TrimLeft(t.Native, "abcdefghijklmnopqrstuvwxyz"), "()") + ")"
}

// shownText writes a text as the engine shows it in an expression.
var shownText = strings.NewReplacer(`\`, `\\`, "'", `\'`, "\n", `\n`, "\r", `\r`, "\x00", `\0`)

// condition writes it as information_schema gives it back.
func condition(t *catalog.Table, c catalog.Condition) string {
	switch {
	case c.Filled != "":
		return Ident(c.Filled) + " is not null"
	case c.Among != nil:
		values := c.Among.Written(t, func(v string) string { return "'" + shownText.Replace(v) + "'" })
		return fmt.Sprintf("%s in (%s)", Ident(c.Among.Column), strings.Join(values, ","))
	}
	var pairs []string
	for i := 1; i < len(c.Together); i++ {
		pairs = append(pairs, fmt.Sprintf("%s is null = (%s is null)", Ident(c.Together[i-1]), Ident(c.Together[i])))
	}
	return strings.Join(pairs, " and ")
}

var (
	lessThan = pattern.New(`(?is)^VALUES LESS THAN (?:\((.*)\)|MAXVALUE)$`)
	valuesIn = pattern.New(`(?is)^VALUES IN \((.*)\)$`)
)

// boundsOf reads the bounds of a partition. A range begins where the one before
// it ends (https://mariadb.com/kb/en/range-partitioning-type/).
func boundsOf(t *catalog.Table, text string) (catalog.Bounds, bool) {
	if strings.EqualFold(strings.TrimSpace(text), "DEFAULT") {
		return catalog.Bounds{Default: true}, true
	}
	if m := valuesIn.FindStringSubmatch(text); m != nil {
		return catalog.Bounds{Values: boundList(t, m[1])}, true
	}
	if !lessThan.MatchString(text) {
		return catalog.Bounds{}, false
	}
	return t.UpTo(text, func(bounds string) ([]catalog.Bound, bool) {
		m := lessThan.FindStringSubmatch(bounds)
		if m == nil {
			return nil, false
		}
		return boundList(t, cmp.Or(m[1], "MAXVALUE")), true
	})
}

func boundList(t *catalog.Table, text string) []catalog.Bound {
	return sqllex.Bounds(text, func(value string, _ bool) *time.Time { return moment(t.PartitionBy, value) })
}

// moment is what the value stands for, by the function that the table is partitioned
// by.
func moment(by *catalog.PartitionKey, text string) *time.Time {
	key := strings.ToLower(by.Definition)
	n, err := strconv.ParseInt(text, 10, 64)
	if err != nil {
		for _, layout := range []string{time.DateOnly, time.DateTime} {
			if at, err := time.Parse(layout, text); err == nil {
				return &at
			}
		}
		return nil
	}
	var at time.Time
	switch {
	case strings.Contains(key, "to_days("):
		at = time.Date(1970, 1, 1, 0, 0, 0, 0, time.UTC).AddDate(0, 0, int(n-719528)) // TO_DAYS('1970-01-01')
	case strings.Contains(key, "unix_timestamp("):
		at = time.Unix(n, 0).UTC()
	case strings.Contains(key, "yearweek("):
		return nil
	case strings.Contains(key, "year("):
		at = time.Date(int(n), 1, 1, 0, 0, 0, 0, time.UTC)
	default:
		return nil
	}
	return &at
}

var madeUp = pattern.New(`^CONSTRAINT_\d+$`)

// systemNamed: https://mariadb.com/kb/en/foreign-keys/ (table_ibfk_n),
// https://mariadb.com/kb/en/constraint/ (CONSTRAINT_n); an index without a name
// is called after its first column.
func systemNamed(t *catalog.Table, kind, name string, columns []string) bool {
	switch kind {
	case "foreign key":
		rest, ok := strings.CutPrefix(name, t.Name+"_ibfk_")
		return ok && strings.Trim(rest, "0123456789") == ""
	case "check":
		return madeUp.MatchString(name)
	case "index", "unique":
		if len(columns) == 0 {
			return false
		}
		rest, ok := strings.CutPrefix(name, columns[0])
		return ok && (rest == "" || rest[0] == '_' && len(rest) > 1 && strings.Trim(rest[1:], "0123456789") == "") && !slices.Contains(columns[1:], name)
	}
	return false
}

// reserved are the words that MariaDB takes as names in quotes alone
// (https://mariadb.com/kb/en/reserved-words/).
var reserved = func() map[string]bool {
	words := map[string]bool{}
	for _, w := range strings.Fields(`accessible add all alter analyze and as asc asensitive before between bigint binary blob both by call cascade case change char character check
		collate column condition constraint continue convert create cross current_date current_role current_time current_timestamp current_user cursor database databases
		day_hour day_microsecond day_minute day_second dec decimal declare default delayed delete delete_domain_id desc describe deterministic distinct distinctrow div double drop dual
		each else elseif enclosed escaped except exists exit explain false fetch float float4 float8 for force foreign from fulltext general grant group having high_priority
		hour_microsecond hour_minute hour_second if ignore in index infile inner inout insensitive insert int int1 int2 int3 int4 int8 integer intersect interval into is iterate
		join key keys kill leading leave left like limit linear lines load localtime localtimestamp lock long longblob longtext loop low_priority match maxvalue mediumblob
		mediumint mediumtext middleint minute_microsecond minute_second mod modifies natural not no_write_to_binlog null numeric offset on optimize option optionally or order out
		outer outfile over partition precision primary procedure purge range read reads read_write real recursive references regexp release rename repeat replace require
		resignal restrict return returning revoke right rlike row_number rows schema schemas second_microsecond select sensitive separator set show signal slow smallint spatial
		specific sql sqlexception sqlstate sqlwarning sql_big_result sql_calc_found_rows sql_small_result ssl starting straight_join table terminated then tinyblob tinyint
		tinytext to trailing trigger true undo union unique unlock unsigned update usage use using utc_date utc_time utc_timestamp values varbinary varchar varcharacter varying
		when where while window with write xor year_month zerofill`) {
		words[w] = true
	}
	return words
}()

// rangeBounds: a range begins where the one before it ends.
func rangeBounds(_ *catalog.Table, _, to catalog.Bound) string {
	return "VALUES LESS THAN (" + to.Text + ")"
}

// oneValue: https://mariadb.com/kb/en/list-partitioning-type/. A plain list takes whole
// numbers alone.
func oneValue(t *catalog.Table, value string) (bounds, condition string) {
	c, text := t.Column(t.PartitionBy.Columns[0]), Literal(value)
	if c.Type.Family == catalog.Integer {
		text = value
	}
	return "VALUES IN (" + text + ")", Ident(c.Name) + " = " + text
}

// rangeKey: https://mariadb.com/kb/en/range-columns-and-list-columns-partitioning-types/,
// which takes days and moments, but no TIMESTAMP: that one goes by its number.
func rangeKey(t *catalog.Table, column string) (*catalog.PartitionKey, catalog.Bound) {
	k := &catalog.PartitionKey{Method: "range", Columns: []string{column}, Definition: "range columns (`" + strings.ReplaceAll(column, "`", "``") + "`)"}
	switch c := t.Column(column); {
	case c.Type.Family == catalog.Date:
		return k, catalog.Bound{Text: "1970-01-01"}
	case c.Type.Family != catalog.Timestamp:
		return nil, catalog.Bound{}
	case c.Type.Zoned:
		k.Columns, k.Definition = nil, "range (unix_timestamp(`"+strings.ReplaceAll(column, "`", "``")+"`))"
	}
	return k, catalog.Bound{Text: "1970-01-01 00:00:00"}
}

// within is the condition that a column lies in a range, by the moments of its ends or, where
// they are none, by their values.
func within(column string, from, to catalog.Bound) string {
	value := func(b catalog.Bound) string {
		if b.At == nil {
			return b.Text
		}
		return Literal(b.At.Format(time.DateTime))
	}
	return fmt.Sprintf("%s >= %s AND %s < %s", Ident(column), value(from), Ident(column), value(to))
}

// boundAt writes a moment as the function that the table is partitioned by gives it.
func boundAt(t *catalog.Table, at time.Time, like catalog.Bound) catalog.Bound {
	b := catalog.Bound{At: &at}
	key := strings.ToLower(t.PartitionBy.Definition)
	switch {
	case strings.Contains(key, "to_days("):
		b.Text = fmt.Sprint(719528 + int(at.Sub(time.Date(1970, 1, 1, 0, 0, 0, 0, time.UTC))/(24*time.Hour)))
	case strings.Contains(key, "unix_timestamp("):
		b.Text = fmt.Sprint(at.Unix())
	case strings.Contains(key, "year("):
		b.Text = fmt.Sprint(at.Year())
	case len(like.Text) == len(time.DateOnly):
		b.Text = Literal(at.Format(time.DateOnly))
	default:
		b.Text = Literal(at.Format(time.DateTime))
	}
	return b
}

// restBounds: https://mariadb.com/kb/en/partitioning-types-overview/.
func restBounds(t *catalog.Table) string {
	switch by := t.PartitionBy; {
	case by.Method == "list":
		return "DEFAULT"
	case by.Method != "range":
		return ""
	case strings.Contains(strings.ToUpper(by.Definition), "COLUMNS"):
		return "VALUES LESS THAN (" + strings.TrimSuffix(strings.Repeat("MAXVALUE,", max(1, len(by.Columns))), ",") + ")"
	}
	return "VALUES LESS THAN MAXVALUE"
}

// withoutTransactions: https://mariadb.com/kb/en/choosing-the-right-storage-engine/.
func withoutTransactions(t *catalog.Table) (storage, better string) {
	for _, o := range t.Options {
		switch name, _ := strings.CutPrefix(o, "engine "); strings.ToLower(name) {
		case "myisam", "aria", "csv", "archive":
			return name, "InnoDB"
		case "memory":
			return name, ""
		}
	}
	return "", ""
}
