package sqllex

import (
	"fmt"
	"nexdal/internal/catalog"
	"strconv"
	"strings"

	"nexdal/internal/pattern"
)

// Quoting writes names the way an engine wants them.
type Quoting struct {
	quote    string // that opens
	closes   string // that closes
	reserved map[string]bool
	always   bool
	top      bool
	capitals bool
	paths    bool
	collates func(q Quoting, value string, as catalog.Type) string
}

var (
	bareName     = pattern.New(`^[a-z_][a-z0-9_]*$`)
	bareCapitals = pattern.New(`^[A-Z][A-Z0-9_$#]*$`)
)

// NewQuoting makes a quoting that leaves plain lower-case names bare unless
// they are among the reserved words, which are given in one string.
func NewQuoting(quote, reserved string) Quoting {
	q := Quoting{quote: quote, closes: closing(quote), reserved: map[string]bool{}}
	for word := range strings.FieldsSeq(reserved) {
		q.reserved[word] = true
	}
	return q
}

// AlwaysQuoting makes a quoting that leaves no name bare.
func AlwaysQuoting(quote string) Quoting {
	return Quoting{quote: quote, closes: closing(quote), always: true}
}

func closing(quote string) string {
	if quote == "[" {
		return "]"
	}
	return quote
}

// WithTop returns a quoting whose queries say how many rows they want by TOP, behind SELECT,
// where others do by LIMIT
// (https://learn.microsoft.com/en-us/sql/t-sql/queries/top-transact-sql).
func (q Quoting) WithTop() Quoting {
	q.top = true
	return q
}

// WithCapitals returns a quoting that leaves plain names in capitals bare, and whose queries say
// how many rows they want by FETCH FIRST, as the standard does
// (https://docs.oracle.com/en/database/oracle/oracle-database/19/sqlrf/Database-Object-Names-and-Qualifiers.html).
func (q Quoting) WithCapitals() Quoting {
	q.capitals = true
	return q
}

// WithPaths returns a quoting to which a name with dots is the path to a field of a column, whose
// steps are quoted one by one
// (https://cloud.google.com/bigquery/docs/reference/standard-sql/lexical#path_expressions).
func (q Quoting) WithPaths() Quoting {
	q.paths = true
	return q
}

// WithCollations returns a quoting for an engine that compares no texts of two collations: collates
// writes a value so that it is compared as one of the type.
func (q Quoting) WithCollations(collates func(q Quoting, value string, as catalog.Type) string) Quoting {
	q.collates = collates
	return q
}

// Alike writes the value of the column so that it can be compared with one of the key's.
func (q Quoting) Alike(value string, column, key *catalog.Column) string {
	if q.collates == nil || column == nil || key == nil || column.Type.Family != catalog.Text || key.Type.Family != catalog.Text || column.Type.Collation == key.Type.Collation {
		return value
	}
	return q.collates(q, value, key.Type)
}

const fetched = " FETCH FIRST "

// First is the query, which begins with SELECT, for so many rows at most.
func (q Quoting) First(most int64, query string) string {
	switch {
	case q.capitals:
		return fmt.Sprintf("%s%s%d ROWS ONLY", query, fetched, most)
	case !q.top:
		return fmt.Sprintf("%s LIMIT %d", query, most)
	}
	head := "SELECT"
	if strings.HasPrefix(query, "SELECT DISTINCT ") {
		head = "SELECT DISTINCT"
	}
	return fmt.Sprintf("%s TOP (%d)%s", head, most, query[len(head):])
}

// Most is how many rows a query of [Quoting.First] wants at most.
func (q Quoting) Most(query string) (most int, ok bool) {
	if q.top {
		n, _ := fmt.Sscanf(strings.Replace(query, "DISTINCT ", "", 1), "SELECT TOP (%d)", &most)
		return most, n == 1
	}
	if q.capitals {
		i := strings.LastIndex(query, fetched)
		if i < 0 {
			return 0, false
		}
		n, _ := fmt.Sscanf(query[i+len(fetched):], "%d ROWS ONLY", &most)
		return most, n == 1
	}
	i := strings.LastIndex(query, " LIMIT ")
	if i < 0 {
		return 0, false
	}
	most, err := strconv.Atoi(strings.TrimSpace(query[i+len(" LIMIT "):]))
	return most, err == nil
}

// Ident writes a name.
func (q Quoting) Ident(name string) string {
	if q.paths && strings.Contains(name, ".") {
		steps := q
		steps.paths = false
		return Each(strings.Split(name, "."), steps.Ident, ".")
	}
	bare := !q.always && bareName.MatchString(name)
	if q.capitals {
		bare = bareCapitals.MatchString(name)
	}
	if bare && !q.reserved[strings.ToLower(name)] {
		return name
	}
	return q.quote + strings.ReplaceAll(name, q.closes, q.closes+q.closes) + q.closes
}

// Idents writes a list of names.
func (q Quoting) Idents(names []string) string {
	quoted := make([]string, len(names))
	for i, n := range names {
		quoted[i] = q.Ident(n)
	}
	return strings.Join(quoted, ", ")
}

// Reserved reports whether the word, in lower case, needs quotes as a name.
func (q Quoting) Reserved(word string) bool { return q.reserved[word] }

// Filled is the condition that none of the columns is null; the prefix stands
// before each: "c.".
func (q Quoting) Filled(prefix string, columns []string) string {
	parts := make([]string, len(columns))
	for i, name := range columns {
		parts[i] = prefix + q.Ident(name) + " IS NOT NULL"
	}
	return strings.Join(parts, " AND ")
}

// Refers is the condition that the row called c refers to the one called p.
func (q Quoting) Refers(columns, keys []string) string {
	parts := make([]string, len(columns))
	for i, name := range columns {
		parts[i] = "p." + q.Ident(keys[i]) + " = c." + q.Ident(name)
	}
	return strings.Join(parts, " AND ")
}

// Without is the condition that the row called c refers to no row of the
// target: no column is null, and no parent is there. Relations come quoted.
func (q Quoting) Without(columns []string, target string, keys []string) string {
	return q.Filled("c.", columns) + " AND NOT EXISTS (SELECT 1 FROM " + target + " p WHERE " + q.Refers(columns, keys) + ")"
}

// Beyond is the condition that the row called c, whose last column is a range, lies not
// within the ranges of the rows of the target that are alike in the rest. The engine takes an
// empty range to lie in none, whatever <@ says of it. Ranges and range_agg are PostgreSQL's (https://www.postgresql.org/docs/current/functions-range.html).
func (q Quoting) Beyond(columns []string, target string, keys []string) string {
	n := len(columns) - 1
	alike := "true"
	if n > 0 {
		alike = q.Refers(columns[:n], keys[:n])
	}
	return fmt.Sprintf("%[1]s AND NOT coalesce(NOT isempty(c.%[2]s) AND c.%[2]s <@ (SELECT range_agg(p.%[3]s) FROM %[4]s p WHERE %[5]s), false)", q.Filled("c.", columns), q.Ident(columns[n]), q.Ident(keys[n]), target, alike)
}

// Repeats is the query for values that occur more than once, at most so many.
func (q Quoting) Repeats(relation string, columns []string, most int) string {
	return q.RepeatsBy(relation, q.Idents(columns), q.Filled("", columns), most)
}

// RepeatsBy is the like for a list of expressions, among the rows for which the condition
// holds, or all ("").
func (q Quoting) RepeatsBy(relation, list, where string, most int) string {
	if where != "" {
		where = "\n  WHERE " + where
	}
	return q.First(int64(most), fmt.Sprintf("SELECT %[1]s, count(*) AS times\n  FROM %[2]s%[3]s\n  GROUP BY %[1]s HAVING count(*) > 1", list, relation, where))
}

// Comparable is the relation, which holds rows of the table, with the columns so that they can be
// compared with the keys of the other. Further columns are left out where one is written otherwise.
func (q Quoting) Comparable(relation string, t *catalog.Table, columns []string, other *catalog.Table, keys []string) string {
	if t == nil || other == nil {
		return relation
	}
	list, differs := make([]string, len(columns)), false
	for i, name := range columns {
		list[i] = q.Ident(name)
		if says := q.Alike(list[i], t.Column(name), other.Column(keys[i])); says != list[i] {
			list[i], differs = says+" AS "+list[i], true
		}
	}
	if !differs {
		return relation
	}
	return "(SELECT " + strings.Join(list, ", ") + " FROM " + relation + ")"
}

// Orphans is the query for values without a parent, at most so many.
func (q Quoting) Orphans(relation string, columns []string, target string, keys []string, most int) string {
	return q.lacking(relation, columns, q.Without(columns, target, keys), most)
}

// OrphansBeyond is the like where the last columns are ranges.
func (q Quoting) OrphansBeyond(relation string, columns []string, target string, keys []string, most int) string {
	return q.lacking(relation, columns, q.Beyond(columns, target, keys), most)
}

func (q Quoting) lacking(relation string, columns []string, where string, most int) string {
	names := Each(columns, func(name string) string { return "c." + q.Ident(name) }, ", ")
	return q.First(int64(most), fmt.Sprintf("SELECT DISTINCT %s FROM %s c\n  WHERE %s", names, relation, where))
}

// Each writes every value the way that write does, with something between them.
func Each(values []string, write func(string) string, between string) string {
	written := make([]string, len(values))
	for i, v := range values {
		written[i] = write(v)
	}
	return strings.Join(written, between)
}
