package script

import (
	"fmt"
	"io"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/text"
)

// A Quoter writes names as an engine wants them.
type Quoter interface {
	Quoting() sqllex.Quoting
	// Relation is the table's name, with its schema where there is one.
	Relation(catalog.Ref) string
	// Holding begins a transaction in which nobody else changes the tables.
	Holding(tables ...catalog.Ref) []string
}

// A Copier has a statement of its own that makes a table of the columns of another, empty.
type Copier interface {
	EmptyCopy(as catalog.Ref, of *catalog.Table) string
}

// A Numberer takes numbers for a column that it numbers itself only between two statements.
type Numberer interface {
	Given(t *catalog.Table) (before, after string)
}

// A Wrong is something in the data that keeps a constraint from holding: rows without
// a parent, or rows that are the same in columns which tell rows apart.
type Wrong struct {
	Table   catalog.Ref
	Columns []string
	Target  catalog.Ref // of rows without a parent; empty: of rows that repeat
	Keys    []string    // the columns of the target
	Rows    int64       // how many, where that is known
	Samples []string    // some of the values
}

// Repair writes what could be done about what is wrong: queries that list the rows, and
// choices of statements. All choices are comments: nothing is carried out but the
// queries, until somebody takes the marks away. longest is how many bytes a name may have.
func Repair(out io.Writer, q Quoter, c *catalog.Catalog, wrongs []Wrong, longest int, program string) {
	r := &repair{w: out, q: q, c: c, lookup: c.Lookup(), names: catalog.NewNames(c, longest)}
	r.line("-- Repair of data, written by %s", program)
	r.line("--")
	r.line("-- database:   %s", quoted(c.Database))
	r.line("-- Only the queries run as they stand. Each choice is a comment: take \"-- | \" away from the")
	r.line("-- lines of the one that is meant, in a copy of this file, and run that. A choice is one")
	r.line("-- transaction. See the rows first, and have a backup.")
	for i, x := range wrongs {
		r.line("")
		if x.Target == (catalog.Ref{}) {
			r.repeats(i+1, x)
		} else {
			r.orphans(i+1, x)
		}
	}
	if len(wrongs) == 0 {
		r.line("")
		r.line("-- The evidence knows of nothing that is wrong.")
	}
}

type repair struct {
	w      io.Writer
	q      Quoter
	c      *catalog.Catalog
	lookup *catalog.Lookup
	names  *catalog.Names
}

func (r *repair) line(format string, args ...any) { fmt.Fprintf(r.w, format+"\n", args...) }

func (r *repair) head(n int, says string, x Wrong) {
	if len(x.Samples) > 0 {
		says += ", such as " + strings.Join(x.Samples[:min(3, len(x.Samples))], "; ")
	}
	r.line("-- %d. %s", n, text.Line(says))
}

// choice writes statements as a comment; first is what stands before the transaction.
func (r *repair) choice(letter, says string, tables []catalog.Ref, first string, sql ...string) {
	r.line("--")
	r.line("-- Choice %s: %s", letter, text.Line(says))
	all := slices.Concat(r.q.Holding(tables...), sql, []string{"COMMIT"})
	if first != "" {
		all = slices.Insert(all, 0, first)
	}
	for _, s := range all {
		for line := range strings.Lines(s + ";") {
			r.line("-- | %s", strings.TrimRight(line, "\n"))
		}
	}
}

func (r *repair) aside(t catalog.Ref) catalog.Ref {
	return catalog.Ref{Schema: t.Schema, Table: r.names.Free(t.Schema, "aside", t.Table)}
}

// own is what a statement on a table calls it, behind its whole name.
func own(q Quoter, of catalog.Ref) string { return q.Quoting().Ident(of.Table) }

// withoutParent is the condition on rows whose parent is not there.
func withoutParent(q Quoter, c *catalog.Catalog, x Wrong, parent string) string {
	quote, table := q.Quoting(), own(q, x.Table)
	t, target := c.Table(x.Table), c.Table(x.Target)
	var filled, match []string
	for i, name := range x.Columns {
		value := table + "." + quote.Ident(name)
		filled = append(filled, value+" IS NOT NULL")
		if t != nil && target != nil {
			value = quote.Alike(value, t.Column(name), target.Column(x.Keys[i]))
		}
		match = append(match, fmt.Sprintf("p.%s = %s", quote.Ident(x.Keys[i]), value))
	}
	return fmt.Sprintf("WHERE %s\n    AND NOT EXISTS (SELECT 1 FROM %s p WHERE %s)", strings.Join(filled, " AND "), parent, strings.Join(match, " AND "))
}

// Look is the query that shows rows of a table: some columns of so many, of those without a parent
// where x says that there are some.
func Look(q Quoter, c *catalog.Catalog, x Wrong, columns []string, most int) string {
	query := fmt.Sprintf("SELECT %s FROM %s", q.Quoting().Idents(columns), q.Relation(x.Table))
	if x.Rows > 0 && len(x.Keys) > 0 {
		query += " " + withoutParent(q, c, x, q.Relation(x.Target))
	}
	return q.Quoting().First(int64(most), query)
}

// orphans is about rows without a parent.
func (r *repair) orphans(n int, x Wrong) {
	quote := r.q.Quoting()
	table, target, its := r.q.Relation(x.Table), r.q.Relation(x.Target), own(r.q, x.Table)
	r.head(n, fmt.Sprintf("%s (%s) refers to %s (%s): %s without a parent", x.Table, strings.Join(x.Columns, ", "), x.Target, strings.Join(x.Keys, ", "), rowsOf(x.Rows)), x)
	parent := target
	if x.Table == x.Target { // the engine may not read what it is changing
		parent = fmt.Sprintf("(SELECT %s FROM %s)", quote.Idents(x.Keys), target)
	}
	where := withoutParent(r.q, r.c, x, parent)
	r.line("SELECT %s.* FROM %s\n  %s;", its, table, where)
	aside := r.aside(x.Table)
	r.careful(x.Table)
	both := []catalog.Ref{x.Table, x.Target}
	if x.Table == x.Target {
		both = both[:1]
	}
	t := r.c.Table(x.Table)
	if t != nil {
		r.choice("a", "put the rows aside in a table of their own, "+aside.Table+", and take them out", both, r.empty(aside, t),
			fmt.Sprintf("INSERT INTO %s SELECT %s.* FROM %s\n  %s", r.q.Relation(aside), its, table, where),
			fmt.Sprintf("DELETE FROM %s\n  %s", table, where))
	}
	if t != nil && !slices.ContainsFunc(x.Columns, func(name string) bool { col := t.Column(name); return col == nil || !col.Nullable }) {
		var nulls []string
		for _, name := range x.Columns {
			nulls = append(nulls, quote.Ident(name)+" = NULL")
		}
		r.choice("b", "let them refer to nothing; what they referred to is forgotten", both, "", fmt.Sprintf("UPDATE %s SET %s\n  %s", table, strings.Join(nulls, ", "), where))
	}
	r.parents(x, where, both)
	r.choice("d", "delete them", both, "", fmt.Sprintf("DELETE FROM %s\n  %s", table, where))
}

// parents offers to add what is referred to; what else the target requires is for a
// person to fill in.
func (r *repair) parents(x Wrong, where string, both []catalog.Ref) {
	quote := r.q.Quoting()
	t := r.c.Table(x.Target)
	if t == nil {
		return
	}
	columns, values, says := slices.Clone(x.Keys), []string{}, "add the parents that are missing"
	for _, name := range x.Columns {
		values = append(values, own(r.q, x.Table)+"."+quote.Ident(name))
	}
	for _, col := range t.Columns {
		if !slices.Contains(x.Keys, col.Name) && !col.Nullable && col.Default == "" && col.Generated == "" && col.Identity == catalog.NoIdentity {
			columns = append(columns, col.Name)
			values = append(values, "NULL /* "+strings.ReplaceAll(text.Line(col.Name), "*/", "* /")+": fill in */")
			says = "add the parents that are missing, once what they require is filled in"
		}
	}
	sql := []string{fmt.Sprintf("INSERT INTO %s (%s)\n  SELECT DISTINCT %s FROM %s\n  %s", r.q.Relation(x.Target), quote.Idents(columns), strings.Join(values, ", "), r.q.Relation(x.Table), where)}
	if n, ok := r.q.(Numberer); ok && slices.ContainsFunc(t.Columns, func(c *catalog.Column) bool {
		return c.Identity == catalog.IdentityAlways && slices.Contains(columns, c.Name)
	}) {
		before, after := n.Given(t)
		sql = []string{before, sql[0], after}
	}
	r.choice("c", says, both, "", sql...)
}

// repeats is about rows that are the same where they should differ.
func (r *repair) repeats(n int, x Wrong) {
	quote, table, its := r.q.Quoting(), r.q.Relation(x.Table), own(r.q, x.Table)
	r.head(n, fmt.Sprintf("%s (%s) tells rows apart, except for values that occur more than once", x.Table, strings.Join(x.Columns, ", ")), x)
	r.line("%s;", quote.Repeats(table, x.Columns, 100))
	t := r.c.Table(x.Table)
	if t == nil || t.PrimaryKey == nil || len(t.PrimaryKey.Columns) != 1 || slices.Contains(x.Columns, t.PrimaryKey.Columns[0]) {
		r.line("-- There is no key of one column by which to say which of them comes first.")
		return
	}
	key := quote.Ident(t.PrimaryKey.Columns[0])
	var like, alike []string
	for _, name := range x.Columns {
		like = append(like, fmt.Sprintf("k.%s = %s.%s", quote.Ident(name), its, quote.Ident(name)))
		alike = append(alike, fmt.Sprintf("k.%[1]s = d.%[1]s", quote.Ident(name)))
	}
	where := fmt.Sprintf("WHERE EXISTS (SELECT 1 FROM %s k WHERE %s AND k.%s < %s.%s)", table, strings.Join(like, " AND "), key, its, key)
	aside := r.aside(x.Table)
	putAside := fmt.Sprintf("INSERT INTO %s SELECT %s.* FROM %s\n  %s", r.q.Relation(aside), its, table, where)
	r.careful(x.Table)
	held := []catalog.Ref{x.Table}
	r.choice("a", "keep the first of each, and put the others aside in "+aside.Table, held, r.empty(aside, t), putAside, fmt.Sprintf("DELETE FROM %s\n  %s", table, where))
	var merge []string
	for _, f := range r.lookup.Referrers(x.Table) {
		if f.Table.Ref() == x.Table || !slices.Equal(f.ForeignKey.TargetColumns, t.PrimaryKey.Columns) {
			continue
		}
		child, col := r.q.Relation(f.Table.Ref()), quote.Ident(f.ForeignKey.Columns[0])
		first := fmt.Sprintf("SELECT min(k.%s) FROM %s d JOIN %s k ON %s WHERE d.%s = %s.%s", key, table, table, strings.Join(alike, " AND "), key, own(r.q, f.Table.Ref()), col)
		held = append(held, f.Table.Ref())
		merge = append(merge, fmt.Sprintf("UPDATE %s SET %s = (%s)\n  WHERE %s > (%s)", child, col, first, col, first))
	}
	if len(merge) > 0 {
		r.choice("b", "let those that refer to the others refer to the first, and then put the others aside", held, r.empty(aside, t), slices.Concat(merge, []string{putAside, fmt.Sprintf("DELETE FROM %s\n  %s", table, where)})...)
	}
}

// empty makes a table of the same columns that holds nothing yet.
func (r *repair) empty(aside catalog.Ref, of *catalog.Table) string {
	if c, ok := r.q.(Copier); ok {
		return c.EmptyCopy(aside, of)
	}
	return fmt.Sprintf("CREATE TABLE %s AS SELECT * FROM %s WHERE 1 = 0", r.q.Relation(aside), r.q.Relation(of.Ref()))
}

// careful says what goes with rows that are taken out.
func (r *repair) careful(of catalog.Ref) {
	for _, f := range r.lookup.Referrers(of) {
		if f.ForeignKey.OnDelete == catalog.Cascade || f.ForeignKey.OnDelete == catalog.SetNull {
			r.line("-- Careful: rows of %s that refer to those taken out are changed with them (on delete %s).", text.Line(f.Table.Ref().String()), f.ForeignKey.OnDelete)
		}
	}
}

func rowsOf(n int64) string {
	if n == 0 {
		return "rows"
	}
	return text.Plural(n, "row")
}
