// Package ask puts the questions of the evidence to engines that speak SQL.
// What differs between them is in a [Dialect].
package ask

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqlexpr"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/evidence"
)

// A Dialect is how an engine writes what the questions need.
type Dialect struct {
	Quoting  sqllex.Quoting
	Lexis    sqllex.Dialect // how its expressions are cut
	Relation func(catalog.Ref) string
	// Own is what the table's own rows are asked from, where its name stands for those of
	// others too, as of those that inherit it. Nil: its name.
	Own    func(*catalog.Table) string
	Text   string // a cast to text, of %s
	Truth  string // the text of the boolean %s, where it cannot be cast; empty: it can
	Length string // the letters of the text %s
	// Number and Date are conditions: the text %[1]s reads as one.
	Number, Date string
	// Ordered reports whether the least of a column can be asked for as it is;
	// otherwise it is asked of its text.
	Ordered func(catalog.Type) bool
	// Unlike reports whether the engine does not compare values of the type, nor count those
	// that are not null. Nil: of none.
	Unlike func(catalog.Type) bool
	// Sample is what stands after FROM for about so many rows of a table, in
	// brackets or with the engine's own clause, and without a name.
	Sample func(t *catalog.Table, columns []string, rows int64) string
	// Next is the query that gives the number a column's counter gives next, or
	// "" where the engine always finds a free one or does not tell.
	Next func(t *catalog.Table, c *catalog.Column) string
	// Grouping stands after SELECT where many groups are to be expected; it may
	// be empty.
	Grouping string
	// NotIn: a number that is not in a list of keys is found with less work than
	// one for which no key exists.
	NotIn bool
	// Fraction is the condition that %s is neither a whole number nor null,
	// where an integer column may hold such; empty: it may not.
	Fraction string
	// Stray is the condition that %s is no number, where a column of numbers may hold others;
	// empty: it may not.
	Stray string
	// Fault tells a time-out and a lost connection by what the session says:
	// [evidence.ErrTimeout], [evidence.ErrLost], or nil.
	Fault func(error) error
	// Pass is how many columns are looked at in one pass; 0: 60.
	Pass int
	// Limit is how long a question may take where the session itself sets no
	// limit; 0: it does.
	Limit time.Duration
}

// Rows sends a query and gives at most so many rows as text.
type Rows func(ctx context.Context, sql string, max int) (names []string, rows []evidence.Row, err error)

// New makes an asker of a session's way to send queries.
func New(rows Rows, d Dialect) evidence.Asker { return &asker{rows: rows, d: d} }

type asker struct {
	rows  Rows
	d     Dialect
	asked int
}

func (a *asker) Asked() int { return a.asked }

// ask sends one question.
func (a *asker) ask(ctx context.Context, sql string, most int) ([]evidence.Row, error) {
	_, rows, err := a.named(ctx, sql, most)
	return rows, err
}

// named gives the names of the columns too.
func (a *asker) named(ctx context.Context, sql string, most int) ([]string, []evidence.Row, error) {
	a.asked++
	within := ctx
	if a.d.Limit > 0 {
		var cancel context.CancelFunc
		within, cancel = context.WithTimeout(ctx, a.d.Limit)
		defer cancel()
	}
	names, rows, err := a.rows(within, sql, most)
	switch {
	case err == nil || ctx.Err() != nil:
		return names, rows, err
	case within.Err() != nil:
		return nil, nil, evidence.ErrTimeout
	}
	if fault := a.d.Fault(err); fault != nil && !errors.Is(err, fault) {
		return nil, nil, fmt.Errorf("%w (%w)", fault, err)
	}
	return names, rows, err
}

// first sends a question whose answer has more rows than are shown.
func (a *asker) first(ctx context.Context, sql string) ([]evidence.Row, error) {
	return a.ask(ctx, a.d.Quoting.First(shown, sql), shown)
}

// from is what stands after FROM, under the given name.
func (a *asker) from(p evidence.Part, columns []string, name string) string {
	if p.Sample > 0 {
		return a.d.Sample(p.Table, columns, p.Sample) + " " + name
	}
	return a.own(p.Table) + " " + name
}

func names(columns []*catalog.Column) []string {
	all := make([]string, len(columns))
	for i, c := range columns {
		all[i] = c.Name
	}
	return all
}

// own is what the table's own rows are asked from.
func (a *asker) own(t *catalog.Table) string {
	if a.d.Own != nil {
		return a.d.Own(t)
	}
	return a.d.Relation(t.Ref())
}

func (a *asker) text(value string) string { return fmt.Sprintf(a.d.Text, value) }

// asText is the column's value as text.
func (a *asker) asText(t catalog.Type, value string) string {
	if a.d.Truth != "" && t.Family == catalog.Boolean {
		return fmt.Sprintf(a.d.Truth, value)
	}
	return a.text(value)
}

// filled is the condition that none of the columns is null.
func (a *asker) filled(prefix string, columns []string) string {
	return a.d.Quoting.Filled(prefix, columns)
}

// list names the columns.
func (a *asker) list(prefix string, columns []string) string {
	return sqllex.Each(columns, func(name string) string { return prefix + a.d.Quoting.Ident(name) }, ", ")
}

// texts are the values of the table's columns, each as text.
func (a *asker) texts(prefix string, t *catalog.Table, columns []string) string {
	return sqllex.Each(columns, func(name string) string {
		var of catalog.Type
		if c := t.Column(name); c != nil {
			of = c.Type
		}
		return a.asText(of, prefix+a.d.Quoting.Ident(name))
	}, ", ")
}

// Comparable leaves out what an engine may be unable to tell apart.
func (a *asker) Comparable(t catalog.Type) bool {
	if a.d.Unlike != nil && a.d.Unlike(t) {
		return false
	}
	switch t.Family {
	case catalog.JSON, catalog.Array, catalog.Other, catalog.Interval:
		return false
	case catalog.Binary:
		return t.Length > 0 && t.Length <= 64
	}
	return true
}

// inOne is how many columns are looked at in one pass, where the engine sets no limit.
const inOne = 60

func (a *asker) atOnce() int { return cmp.Or(a.d.Pass, inOne) }

// There asks for no row.
func (a *asker) There(ctx context.Context, t *catalog.Table) error {
	_, err := a.ask(ctx, "SELECT 1 FROM "+a.own(t)+" WHERE 1 = 0", 1)
	return err
}

// Profile asks for the counts and ends of up to so many columns at a time.
func (a *asker) Profile(ctx context.Context, p evidence.Part, columns []*catalog.Column) ([]evidence.Column, error) {
	var all []evidence.Column
	for len(columns) > 0 {
		n := min(a.atOnce(), len(columns))
		facts, err := a.pass(ctx, p, columns[:n])
		if err != nil {
			return nil, err
		}
		all, columns = append(all, facts...), columns[n:]
	}
	return all, nil
}

func (a *asker) pass(ctx context.Context, p evidence.Part, columns []*catalog.Column) ([]evidence.Column, error) {
	parts := a.looks(p.Table, columns)
	rows, err := a.ask(ctx, "SELECT "+strings.Join(parts, ",\n  ")+"\nFROM "+a.from(p, names(columns), "t"), 1)
	if err != nil {
		return nil, err
	}
	if len(rows) != 1 || len(rows[0]) != len(parts) {
		return nil, errShape
	}
	return a.facts(p.Table, columns, rows[0])
}

var errShape = errors.New("the answer has another shape than the question")

// Profiles looks at each table by a row of its own. What the rows of other tables have no column
// for is null.
func (a *asker) Profiles(ctx context.Context, parts []evidence.Part) ([][]evidence.Column, error) {
	lists, wide := make([][]string, len(parts)), 0
	for i, p := range parts {
		lists[i] = a.looks(p.Table, p.Table.Columns)
		wide = max(wide, len(lists[i]))
	}
	selects := make([]string, len(parts))
	for i, p := range parts {
		all := []string{strconv.Itoa(i)}
		for j := range wide {
			value := "NULL"
			if j < len(lists[i]) {
				value = lists[i][j]
			}
			all = append(all, a.text(value))
		}
		selects[i] = "SELECT " + strings.Join(all, ",\n  ") + "\nFROM " + a.from(p, names(p.Table.Columns), "t")
	}
	rows, err := a.ask(ctx, strings.Join(selects, "\nUNION ALL "), len(parts))
	if err != nil {
		return nil, err
	}
	if rows, err = inPlace(rows, len(parts)); err != nil {
		return nil, err
	}
	found := make([][]evidence.Column, len(parts))
	for i, p := range parts {
		if len(rows[i]) != 1+wide {
			return nil, errShape
		}
		if found[i], err = a.facts(p.Table, p.Table.Columns, rows[i][1:]); err != nil {
			return nil, err
		}
	}
	return found, nil
}

// looks is what is asked of columns in one pass, the rows first.
func (a *asker) looks(t *catalog.Table, columns []*catalog.Column) []string {
	parts := []string{"count(*)"}
	for _, c := range columns {
		name := a.d.Quoting.Ident(c.Name)
		if a.d.Unlike != nil && a.d.Unlike(c.Type) {
			parts = append(parts, "count(CASE WHEN "+name+" IS NOT NULL THEN 1 END)")
			continue
		}
		parts = append(parts, "count("+name+")")
		if !a.Comparable(c.Type) {
			continue
		}
		value := name
		if !a.d.Ordered(c.Type) {
			value = a.asText(c.Type, name)
		}
		parts = append(parts, a.text("min("+value+")"), a.text("max("+value+")"))
		if a.strays(t, c) {
			parts = append(parts, "sum(CASE WHEN "+fmt.Sprintf(a.d.Stray, name)+" THEN 1 ELSE 0 END)")
		}
		if c.Type.Family == catalog.Text {
			length := fmt.Sprintf(a.d.Length, name)
			parts = append(parts, "min("+length+")", "max("+length+")", "sum(CASE WHEN "+length+" = 0 THEN 1 ELSE 0 END)")
		}
	}
	return parts
}

// facts reads the answer to that.
func (a *asker) facts(t *catalog.Table, columns []*catalog.Column, row evidence.Row) ([]evidence.Column, error) {
	r := reader{row}
	total := r.number()
	if total == nil {
		return nil, fmt.Errorf("%q is no count", row.Texts()[0])
	}
	var all []evidence.Column
	for _, c := range columns {
		f := evidence.Column{Schema: t.Schema, Table: t.Name, Column: c.Name, Rows: *total}
		if n := r.number(); n != nil {
			f.Nulls = *total - *n
		}
		if a.Comparable(c.Type) {
			f.Least, f.Greatest = r.text(), r.text()
			if a.strays(t, c) {
				f.Strays = r.number()
			}
			if c.Type.Family == catalog.Text {
				f.Shortest, f.Longest, f.Empty = r.number(), r.number(), r.number()
			}
		}
		all = append(all, f)
	}
	return all, nil
}

// strays reports whether the column may hold values that are no numbers, though it is one of
// numbers.
func (a *asker) strays(t *catalog.Table, c *catalog.Column) bool {
	switch c.Type.Family {
	case catalog.Integer, catalog.Decimal, catalog.Float:
		return a.d.Stray != "" && !t.Has("strict")
	}
	return false
}

// each asks the same of several columns in one statement, and gives the answers
// in their order.
func each[T any](ctx context.Context, a *asker, columns []*catalog.Column, query func(c *catalog.Column) string, read func(r *reader) (T, bool)) ([]T, error) {
	queries := make([]string, len(columns))
	for i, c := range columns {
		queries[i] = query(c)
	}
	return inOneStatement(ctx, a, queries, read)
}

// inPlace puts the answers to so many questions into the order of these: each begins with the
// number of its own. Having the engine sort them would ask more of it.
func inPlace(rows []evidence.Row, questions int) ([]evidence.Row, error) {
	if len(rows) != questions {
		return nil, fmt.Errorf("%d answers to %d questions", len(rows), questions)
	}
	all := make([]evidence.Row, questions)
	for _, row := range rows {
		n := (&reader{row}).number()
		if n == nil || *n < 0 || *n >= int64(questions) || all[*n] != nil {
			return nil, fmt.Errorf("%q answers no question", row.Texts())
		}
		all[*n] = row
	}
	return all, nil
}

// inOneStatement puts several queries of one row each as one.
func inOneStatement[T any](ctx context.Context, a *asker, queries []string, read func(r *reader) (T, bool)) ([]T, error) {
	parts := make([]string, len(queries))
	for i, q := range queries {
		parts[i] = fmt.Sprintf("SELECT %d AS n, ", i) + q
	}
	rows, err := a.ask(ctx, strings.Join(parts, "\nUNION ALL "), len(queries))
	if err != nil {
		return nil, err
	}
	if rows, err = inPlace(rows, len(queries)); err != nil {
		return nil, err
	}
	all := make([]T, len(queries))
	for i, row := range rows {
		r := reader{row[1:]}
		var ok bool
		if all[i], ok = read(&r); !ok {
			return nil, fmt.Errorf("%q are no counts", row.Texts())
		}
	}
	return all, nil
}

// Varieties groups by each column.
func (a *asker) Varieties(ctx context.Context, p evidence.Part, columns []*catalog.Column) ([]evidence.Variety, error) {
	return each(ctx, a, columns, func(c *catalog.Column) string { return a.variety(p, c) }, readVariety)
}

// variety is the query of how the values of a column repeat, behind its SELECT.
func (a *asker) variety(p evidence.Part, c *catalog.Column) string {
	name := a.d.Quoting.Ident(c.Name)
	return fmt.Sprintf("count(*) AS kinds, coalesce(min(x.n), 0) AS fewest, coalesce(max(x.n), 0) AS most FROM (SELECT %scount(*) AS n FROM %s WHERE %s IS NOT NULL GROUP BY %s) x",
		a.d.Grouping, a.from(p, []string{c.Name}, "t"), name, name)
}

// VarietiesOf puts those of several tables in one statement.
func (a *asker) VarietiesOf(ctx context.Context, parts []evidence.Part, columns [][]*catalog.Column) ([][]evidence.Variety, error) {
	var queries []string
	for i, p := range parts {
		for _, c := range columns[i] {
			queries = append(queries, a.variety(p, c))
		}
	}
	answers, err := inOneStatement(ctx, a, queries, readVariety)
	if err != nil {
		return nil, err
	}
	found := make([][]evidence.Variety, len(parts))
	for i := range parts {
		found[i], answers = answers[:len(columns[i])], answers[len(columns[i]):]
	}
	return found, nil
}

func readVariety(r *reader) (evidence.Variety, bool) {
	distinct, fewest, most := r.number(), r.number(), r.number()
	if distinct == nil || fewest == nil || most == nil {
		return evidence.Variety{}, false
	}
	return evidence.Variety{Distinct: *distinct, Fewest: *fewest, Most: *most}, true
}

// Parses counts by conditions; an empty text reads as nothing.
func (a *asker) Parses(ctx context.Context, p evidence.Part, columns []*catalog.Column) ([]evidence.Parsed, error) {
	return each(ctx, a, columns, func(c *catalog.Column) string {
		name := "t." + a.d.Quoting.Ident(c.Name)
		return fmt.Sprintf("coalesce(sum(CASE WHEN %s THEN 1 ELSE 0 END), 0), coalesce(sum(CASE WHEN %s THEN 1 ELSE 0 END), 0) FROM %s",
			fmt.Sprintf(a.d.Date, name), fmt.Sprintf(a.d.Number, name), a.from(p, []string{c.Name}, "t"))
	}, func(r *reader) (evidence.Parsed, bool) {
		dates, numbers := r.number(), r.number()
		if dates == nil || numbers == nil {
			return evidence.Parsed{}, false
		}
		return evidence.Parsed{Dates: *dates, Numbers: *numbers}, true
	})
}

// Values asks for the groups of each column in one statement.
func (a *asker) Values(ctx context.Context, t *catalog.Table, columns []*catalog.Column, most int) ([][]string, error) {
	parts := make([]string, len(columns))
	for i, c := range columns {
		name := a.d.Quoting.Ident(c.Name)
		parts[i] = fmt.Sprintf("SELECT %d AS i, %s AS v FROM (SELECT DISTINCT %s AS w FROM %s WHERE %s IS NOT NULL) x%d", i, a.asText(c.Type, "w"), name, a.own(t), name, i)
	}
	rows, err := a.ask(ctx, strings.Join(parts, "\nUNION ALL "), most*len(columns)+1)
	if err != nil {
		return nil, err
	}
	all := make([][]string, len(columns))
	for _, row := range rows {
		r := reader{row}
		i, value := r.number(), r.next()
		if i == nil || *i < 0 || *i >= int64(len(all)) || value == nil {
			return nil, fmt.Errorf("%q is no value", row.Texts())
		}
		all[*i] = append(all[*i], *value)
	}
	for _, values := range all {
		slices.Sort(values) // alike on every engine, whatever its collation
	}
	return all, nil
}

// Together groups by all the columns.
func (a *asker) Together(ctx context.Context, p evidence.Part, columns []string) (evidence.Variety, int64, error) {
	rows, err := a.ask(ctx, fmt.Sprintf("SELECT count(*), coalesce(min(x.n), 0), coalesce(max(x.n), 0), coalesce(sum(x.n), 0) FROM (SELECT %scount(*) AS n FROM %s WHERE %s GROUP BY %s) x",
		a.d.Grouping, a.from(p, columns, "t"), a.filled("", columns), a.list("", columns)), 1)
	if err != nil {
		return evidence.Variety{}, 0, err
	}
	if len(rows) == 1 {
		r := reader{rows[0]}
		if v, ok := readVariety(&r); ok {
			if n := r.number(); n != nil {
				return v, *n, nil
			}
		}
	}
	return evidence.Variety{}, 0, errShape
}

// shown is how many values are shown of what breaks a promise.
const shown = 5

// Orphans is an anti-join. Where the engine has no index to find a parent by,
// the parents are gathered first, which lets it make one of its own.
func (a *asker) Orphans(ctx context.Context, p evidence.Part, columns []string, parent *catalog.Table, target []string) (evidence.Orphans, error) {
	var o evidence.Orphans
	child, filled := a.from(p, columns, "c"), a.filled("c.", columns)
	if alike := a.d.Quoting.Comparable(child, p.Table, columns, parent, target); alike != child {
		child = alike + " c"
	}
	if p.Once && !fields(p.Table, columns) {
		child = fmt.Sprintf("(SELECT DISTINCT %s FROM %s WHERE %s) c", a.list("c.", columns), child, filled)
	}
	without := fmt.Sprintf("FROM %s WHERE %s", child, a.d.Quoting.Without(columns, a.own(parent), target))
	if p.Period {
		without = fmt.Sprintf("FROM %s WHERE %s", child, a.d.Quoting.Beyond(columns, a.own(parent), target))
	} else if a.d.NotIn && len(columns) == 1 && numbers(p.Table.Column(columns[0]), parent.Column(target[0])) {
		without = fmt.Sprintf("FROM %s WHERE c.%s NOT IN (SELECT %s FROM %s)", child, a.d.Quoting.Ident(columns[0]), a.d.Quoting.Ident(target[0]), a.own(parent))
	} else if !parent.FindsRows(target, sqlexpr.Reader{Dialect: a.d.Lexis}) && !(parent.PrimaryKey != nil && catalog.Within(parent.PrimaryKey.Columns, target)) {
		without = fmt.Sprintf("FROM %s LEFT JOIN (SELECT DISTINCT %s FROM %s p WHERE %s) p ON %s WHERE %s AND p.%s IS NULL", child,
			a.list("p.", target), a.own(parent), a.filled("p.", target), a.d.Quoting.Refers(columns, target), filled, a.d.Quoting.Ident(target[0]))
	}
	rows, err := a.first(ctx, fmt.Sprintf("SELECT %s, sum(count(*)) OVER (), count(*) OVER () %s GROUP BY %s ORDER BY 1",
		a.texts("c.", p.Table, columns), without, a.list("c.", columns)))
	if err != nil {
		return o, err
	}
	for _, row := range rows {
		r := reader{row[len(columns):]}
		n, values := r.number(), r.number()
		if n == nil || values == nil {
			return o, fmt.Errorf("%q are no counts", row.Texts())
		}
		o.Rows, o.Values = *n, *values
		o.Samples = append(o.Samples, sample(row[:len(columns)]))
	}
	if p.Sample == 0 && len(columns) == 1 {
		o.Checked = -1 // known from the column's profile
		return o, nil
	}
	checked, err := a.ask(ctx, fmt.Sprintf("SELECT count(*) FROM %s WHERE %s", child, filled), 1)
	if err == nil {
		o.Checked, err = one(checked)
	}
	return o, err
}

// fields reports whether one of the columns is a field of another, which has no name of its own in
// an answer.
func fields(t *catalog.Table, columns []string) bool {
	return slices.ContainsFunc(columns, func(name string) bool { c := t.Column(name); return c != nil && c.Within != "" })
}

// numbers reports whether both columns hold whole numbers, and the key no null.
func numbers(column, key *catalog.Column) bool {
	return column != nil && key != nil && column.Type.Family == catalog.Integer && key.Type.Family == catalog.Integer && !key.Nullable
}

// Whole asks where the engine would take anything else.
func (a *asker) Whole(ctx context.Context, t *catalog.Table, column string) (bool, error) {
	if a.d.Fraction == "" || t.Has("strict") {
		return true, nil
	}
	rows, err := a.ask(ctx, a.d.Quoting.First(1, fmt.Sprintf("SELECT 1 FROM %s WHERE %s", a.own(t), fmt.Sprintf(a.d.Fraction, a.d.Quoting.Ident(column)))), 1)
	return len(rows) == 0, err
}

// Repeated lists values by how often they occur.
func (a *asker) Repeated(ctx context.Context, t *catalog.Table, columns []string) (evidence.Offenders, error) {
	rows, err := a.first(ctx, fmt.Sprintf("SELECT %s, count(*), count(*) OVER () FROM %s WHERE %s GROUP BY %s HAVING count(*) > 1 ORDER BY %d DESC, 1",
		a.texts("", t, columns), a.own(t), a.filled("", columns), a.list("", columns), len(columns)+1))
	var o evidence.Offenders
	for _, row := range rows {
		r := reader{row[len(columns):]}
		times, values := r.number(), r.number()
		if times == nil || values == nil {
			return o, fmt.Errorf("%q are no counts", row.Texts())
		}
		o.Rows = *values
		o.Samples = append(o.Samples, fmt.Sprintf("%s (%d times)", sample(row[:len(columns)]), *times))
	}
	return o, err
}

// Breaks lists the rows for which a condition is false.
func (a *asker) Breaks(ctx context.Context, t *catalog.Table, condition string, columns []string) (evidence.Offenders, error) {
	show := ""
	if len(columns) > 0 {
		show = a.texts("", t, columns) + ", "
	}
	rows, err := a.first(ctx, fmt.Sprintf("SELECT %scount(*) OVER () FROM %s WHERE NOT (%s)", show, a.own(t), condition))
	var o evidence.Offenders
	for _, row := range rows {
		r := reader{row[len(columns):]}
		if n := r.number(); n != nil {
			o.Rows = *n
		}
		if len(columns) > 0 {
			o.Samples = append(o.Samples, shownRow(columns, row[:len(columns)]))
		}
	}
	return o, err
}

// Counts asks for all conditions of a pass in one row.
func (a *asker) Counts(ctx context.Context, t *catalog.Table, conditions []string) ([]int64, error) {
	var all []int64
	for some := range slices.Chunk(conditions, a.atOnce()) {
		parts := make([]string, len(some))
		for i, c := range some {
			parts[i] = "count(CASE WHEN " + c + " THEN 1 END)"
		}
		rows, err := a.ask(ctx, fmt.Sprintf("SELECT %s FROM %s", strings.Join(parts, ", "), a.own(t)), 1)
		if err != nil || len(rows) != 1 {
			return nil, err
		}
		r := reader{rows[0]}
		for range some {
			n := r.number()
			if n == nil {
				return nil, fmt.Errorf("the engine does not count the rows of %s", t.Ref())
			}
			all = append(all, *n)
		}
	}
	return all, nil
}

// Rows takes the answer's own limit for the count's.
func (a *asker) Rows(ctx context.Context, query string) (evidence.Offenders, error) {
	const most = 1000
	names, rows, err := a.named(ctx, query, most)
	o := evidence.Offenders{Rows: int64(len(rows))}
	if limit, ok := a.d.Quoting.Most(query); ok {
		o.AtLeast = len(rows) == limit
	}
	for _, row := range rows[:min(len(rows), shown)] {
		of := names
		if len(of) > 6 {
			of, row = of[:6], row[:6]
		}
		o.Samples = append(o.Samples, shownRow(of, row))
	}
	return o, err
}

// Next is nil where the engine tells nothing.
func (a *asker) Next(ctx context.Context, t *catalog.Table, c *catalog.Column) (*int64, error) {
	sql := a.d.Next(t, c)
	if sql == "" {
		return nil, nil
	}
	rows, err := a.ask(ctx, sql, 1)
	if err != nil || len(rows) != 1 {
		return nil, err
	}
	r := reader{rows[0]}
	return r.number(), nil
}

func one(rows []evidence.Row) (int64, error) {
	if len(rows) == 1 {
		r := reader{rows[0]}
		if n := r.number(); n != nil {
			return *n, nil
		}
	}
	return 0, fmt.Errorf("there is no answer")
}
