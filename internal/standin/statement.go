package standin

import (
	"context"
	"fmt"
	"regexp"
	"slices"
	"strings"

	"nexdal/internal/pattern"
)

// A fault is an error with the code that the engine gives it.
type fault struct{ code, message string }

func (f *fault) Error() string { return f.message }

func refuse(code, format string, args ...any) error {
	return &fault{code, fmt.Sprintf(format, args...)}
}

// beyond is the answer to what the stand-in does not know.
func beyond(what string) error {
	return refuse("0A000", "the simulated cluster does not know %s", what)
}

func quote(name string) string { return `"` + strings.ReplaceAll(name, `"`, `""`) + `"` }

const name = `("(?:[^"]|"")+"|[A-Za-z_][A-Za-z0-9_$]*)`

// re is the pattern of a whole statement: @N stands for a name, @T for a table's, a blank
// for any white space.
func re(text string) *pattern.Pattern {
	return pattern.New(`(?is)^\s*` + strings.NewReplacer("@N", name, "@T", name+`(?:\s*\.\s*`+name+`)?`, " ", `\s+`).Replace(text) + `\s*;?\s*$`)
}

var (
	createSchema  = re(`CREATE SCHEMA (IF NOT EXISTS )?@N`)
	dropSchema    = re(`DROP SCHEMA (?:IF EXISTS )?@N(?: CASCADE)?`)
	createTable   = re(`CREATE TABLE (?:IF NOT EXISTS )?@T\s*(\(.*)`)
	dropTable     = re(`DROP TABLE (IF EXISTS )?@T(?: CASCADE)?`)
	createView    = re(`CREATE (?:OR REPLACE )?VIEW @T AS (.*)`)
	alterTable    = re(`ALTER TABLE @T (.*)`)
	renameTo      = re(`RENAME TO @N`)
	alterStyle    = re(`ALTER DISTSTYLE (ALL|EVEN|AUTO)`)
	alterDistkey  = re(`ALTER (?:DISTSTYLE KEY )?DISTKEY @N`)
	alterSort     = re(`ALTER (COMPOUND )?SORTKEY\s*\((.*)\)`)
	alterNoSort   = re(`ALTER SORTKEY (NONE|AUTO)`)
	alterEncode   = pattern.New(`(?is)^\s*ALTER\s+COLUMN\s+` + name + `\s+ENCODE\s+(\w+)\s*$`)
	addConstraint = re(`ADD CONSTRAINT @N (PRIMARY KEY|UNIQUE|FOREIGN KEY)\s*\(([^)]*)\)(?:\s*REFERENCES @T\s*\(([^)]*)\))?`)
	dropConstr    = re(`DROP CONSTRAINT @N`)
	addColumn     = re(`ADD COLUMN (.*)`)
	commentOn     = re(`COMMENT ON (TABLE|COLUMN) (.*) IS (.*)`)
	vacuum        = re(`VACUUM(?: (FULL|SORT ONLY|DELETE ONLY|REINDEX|RECLUSTER))?(?: @T)?(?: TO (?:[0-9]+) PERCENT)?`)
	analyze       = re(`ANALY[SZ]E(?: @T)?`)
	insertInto    = pattern.New(`(?is)^\s*INSERT\s+INTO\s+` + name + `(?:\s*\.\s*` + name + `)?(.*)$`)
	deleteFrom    = pattern.New(`(?is)^\s*DELETE\s+FROM\s+` + name + `(?:\s*\.\s*` + name + `)?(.*)$`)
	update        = pattern.New(`(?is)^\s*UPDATE\s+` + name + `(?:\s*\.\s*` + name + `)?(\s+.*)$`)
	lockTables    = re(`LOCK(?: TABLE)? (.*)`)
	setting       = pattern.New(`(?is)^\s*SET\s+(?:SESSION\s+)?(\w+)\s*(?:TO|=)\s*(.*?)\s*;?\s*$`)
)

// plain is a name as it is kept: in small letters unless it was quoted.
func plain(n string) string {
	if strings.HasPrefix(n, `"`) {
		return strings.ReplaceAll(n[1:len(n)-1], `""`, `"`)
	}
	return strings.ToLower(n)
}

// list cuts at commas outside brackets and quotes.
func list(text string) []string {
	var parts []string
	depth, from, in := 0, 0, byte(0)
	for i := 0; i < len(text); i++ {
		switch ch := text[i]; {
		case in != 0:
			if ch == in {
				in = 0
			}
		case ch == '\'' || ch == '"':
			in = ch
		case ch == '(':
			depth++
		case ch == ')':
			depth--
		case ch == ',' && depth == 0:
			parts, from = append(parts, strings.TrimSpace(text[from:i])), i+1
		}
	}
	return append(parts, strings.TrimSpace(text[from:]))
}

func plains(text string) []string {
	parts := list(text)
	for i, p := range parts {
		parts[i] = plain(p)
	}
	return parts
}

// names reads a table's name; without a schema it is of the first of the search path.
func (s *session) names(first, second string) (schema, table string) {
	if second == "" {
		return s.path, plain(first)
	}
	return plain(first), plain(second)
}

func (s *session) find(first, second string) (*table, error) {
	schema, name := s.names(first, second)
	t := s.c.table(schema, name)
	if t == nil && second == "" {
		t = s.c.table("public", name)
	}
	if t == nil {
		return nil, refuse("42P01", `relation "%s" does not exist`, name)
	}
	return t, nil
}

func (s *session) do(ctx context.Context, sql string) (int64, error) {
	r, err := s.c.db.ExecContext(ctx, sql)
	if err != nil {
		return 0, understood(err)
	}
	n, _ := r.RowsAffected()
	return n, nil
}

// understood turns what the rows' keeper says into what the engine would.
func understood(err error) error {
	text := strings.TrimPrefix(err.Error(), "SQL logic error: ")
	switch {
	case strings.Contains(text, "no such table"):
		return refuse("42P01", "%s", text)
	case strings.Contains(text, "no such column"):
		return refuse("42703", "%s", text)
	case strings.Contains(text, "no such function"):
		return refuse("42883", "%s: the simulated cluster does not know it", text)
	case strings.Contains(text, "NOT NULL"):
		return refuse("23502", "%s", text)
	case strings.Contains(text, "syntax error"):
		return refuse("42601", "%s", text)
	}
	return refuse("XX000", "%s", text)
}

// execute carries out one statement that gives no rows, and returns its tag.
func (s *session) execute(ctx context.Context, sql string) (string, error) {
	if m := createSchema.FindStringSubmatch(sql); m != nil {
		return "CREATE SCHEMA", s.createSchema(ctx, plain(m[2]), m[1] != "")
	}
	if err := s.begun(ctx); err != nil {
		return "", err
	}
	for _, x := range []struct {
		form *pattern.Pattern
		tag  string
		do   func(ctx context.Context, m []string) error
	}{
		{createTable, "CREATE TABLE", s.createTable}, {dropTable, "DROP TABLE", s.dropTable}, {createView, "CREATE VIEW", s.createView},
		{alterTable, "ALTER TABLE", s.alterTable}, {commentOn, "COMMENT", s.comment}, {vacuum, "VACUUM", s.vacuum}, {analyze, "ANALYZE", s.analyze},
		{dropSchema, "DROP SCHEMA", s.dropSchema}, {lockTables, "LOCK TABLE", func(context.Context, []string) error { return nil }},
	} {
		if m := x.form.FindStringSubmatch(sql); m != nil {
			return x.tag, x.do(ctx, m)
		}
	}
	for _, x := range []struct {
		form *pattern.Pattern
		tag  string
		note func(t *table, n int64)
	}{
		{insertInto, "INSERT 0 ", func(t *table, n int64) { t.unsorted += n; t.changed += n }},
		{deleteFrom, "DELETE ", func(t *table, n int64) { t.dead += n; t.changed += n; t.unsorted = max(0, t.unsorted-n) }},
		{update, "UPDATE ", func(t *table, n int64) { t.dead += n; t.unsorted += n; t.changed += n }},
	} {
		m := x.form.FindStringSubmatchIndex(sql)
		if m == nil {
			continue
		}
		part := func(i int) string {
			if m[2*i] < 0 {
				return ""
			}
			return sql[m[2*i]:m[2*i+1]]
		}
		t, err := s.find(part(1), part(2))
		if err != nil {
			return "", err
		}
		// The name as it is stored stands where the name was.
		n, err := s.do(ctx, sql[:m[2]]+t.stored()+s.readable(part(3)))
		if err != nil {
			return "", err
		}
		x.note(t, n)
		t.counts = nil
		return fmt.Sprintf("%s%d", x.tag, n), nil
	}
	return "", beyond("this statement: " + firstWords(sql))
}

func firstWords(sql string) string {
	words := strings.Fields(sql)
	return strings.Join(words[:min(4, len(words))], " ")
}

func (s *session) createSchema(ctx context.Context, schema string, quiet bool) error {
	if slices.Contains(s.c.schemas(ctx), schema) {
		if quiet {
			return nil
		}
		return refuse("42P06", `schema "%s" already exists`, schema)
	}
	if s.started {
		return refuse("25001", "the simulated cluster makes schemas at the beginning of a transaction alone")
	}
	_, err := s.do(ctx, "ATTACH ':memory:' AS "+quote(schema))
	if err == nil && s.inside {
		s.attached = append(s.attached, schema)
	}
	return err
}

func (c *Cluster) schemas(ctx context.Context) []string {
	var names []string
	rows, err := c.db.QueryContext(ctx, "SELECT name FROM pragma_database_list")
	if err != nil {
		return nil
	}
	defer rows.Close()
	for rows.Next() {
		var n string
		if rows.Scan(&n) == nil {
			names = append(names, n)
		}
	}
	return names
}

func (s *session) dropSchema(ctx context.Context, m []string) error {
	schema := plain(m[1])
	for _, t := range slices.Clone(s.c.tables) {
		if t.schema == schema {
			if err := s.drop(ctx, t); err != nil {
				return err
			}
		}
	}
	s.c.views = slices.DeleteFunc(s.c.views, func(v *view) bool { return v.schema == schema })
	return nil
}

var (
	distkeyClause = pattern.New(`(?is)\bDISTKEY\s*\(\s*` + name + `\s*\)`)
	styleClause   = pattern.New(`(?is)\bDISTSTYLE\s+(KEY|ALL|EVEN|AUTO)`)
	sortClause    = pattern.New(`(?is)(COMPOUND|INTERLEAVED)?\s*SORTKEY\s*\(([^)]*)\)`)
	columnClause  = pattern.New(`(?is)^` + name + `\s+(.*)$`)
	kindOf        = pattern.New(`(?is)^((?:character varying|double precision|timestamp with(?:out)? time zone|time with(?:out)? time zone|[a-z0-9_]+)(?:\s*\(\s*\d+(?:\s*,\s*\d+)?\s*\))?)(.*)$`)
	keyClause     = pattern.New(`(?is)^(?:CONSTRAINT\s+` + name + `\s+)?(PRIMARY\s+KEY|UNIQUE|FOREIGN\s+KEY)\s*\(([^)]*)\)(?:\s*REFERENCES\s+` + name + `(?:\s*\.\s*` + name + `)?\s*\(([^)]*)\))?$`)
)

func (s *session) createTable(ctx context.Context, m []string) error {
	schema, called := s.names(m[1], m[2])
	if s.c.table(schema, called) != nil {
		return refuse("42P07", `relation "%s" already exists`, called)
	}
	end := closing(m[3])
	if end < 0 {
		return refuse("42601", "the column list does not end")
	}
	t := &table{id: s.c.id(), schema: schema, name: called, style: "auto"}
	var keys []string
	for _, part := range list(m[3][1:end]) {
		if keyClause.MatchString(part) {
			keys = append(keys, part)
			continue
		}
		if err := s.columnOf(t, part); err != nil {
			return err
		}
	}
	rest := m[3][end+1:]
	if x := styleClause.FindStringSubmatch(rest); x != nil {
		t.style = strings.ToLower(x[1])
	}
	if x := distkeyClause.FindStringSubmatch(rest); x != nil {
		t.style, t.distkey = "key", plain(x[1])
	}
	if x := sortClause.FindStringSubmatch(rest); x != nil {
		t.sortkey, t.interleaved = plains(x[2]), strings.EqualFold(x[1], "INTERLEAVED")
	}
	for _, n := range append(slices.Clone(t.sortkey), t.distkey) {
		if n != "" && t.column(n) == nil {
			return refuse("42703", `column "%s" does not exist`, n)
		}
	}
	var parts []string
	for _, col := range t.columns {
		parts = append(parts, col.stored())
	}
	if _, err := s.do(ctx, fmt.Sprintf("CREATE TABLE %s (%s)", t.stored(), strings.Join(parts, ", "))); err != nil {
		return err
	}
	s.c.tables = append(s.c.tables, t)
	for i, k := range keys {
		x := keyClause.FindStringSubmatch(k)
		called := plain(x[1])
		if x[1] == "" {
			called = fmt.Sprintf("%s_key%d", t.name, i+1)
		}
		if err := s.constrain(t, called, x[2], x[3], x[4], x[5], x[6]); err != nil {
			return err
		}
	}
	return nil
}

// closing is where the first bracket closes.
func closing(text string) int {
	depth, in := 0, byte(0)
	for i := 0; i < len(text); i++ {
		switch ch := text[i]; {
		case in != 0:
			if ch == in {
				in = 0
			}
		case ch == '\'' || ch == '"':
			in = ch
		case ch == '(':
			depth++
		case ch == ')':
			if depth--; depth == 0 {
				return i
			}
		}
	}
	return -1
}

var longNames = map[string]string{"int": "integer", "int2": "smallint", "int4": "integer", "int8": "bigint", "varchar": "character varying", "text": "character varying(256)", "timestamp": "timestamp without time zone", "timestamptz": "timestamp with time zone", "bool": "boolean", "decimal": "numeric", "float8": "double precision", "float": "double precision", "float4": "real", "char": "character"}

func (s *session) columnOf(t *table, text string) error {
	m := columnClause.FindStringSubmatch(text)
	if m == nil {
		return refuse("42601", "column %q is not understood", text)
	}
	x := kindOf.FindStringSubmatch(strings.TrimSpace(m[2]))
	if x == nil {
		return refuse("42601", "the type of %s is not understood", m[1])
	}
	kind := strings.ToLower(strings.Join(strings.Fields(x[1]), " "))
	word, size, _ := strings.Cut(kind, "(")
	if long := longNames[strings.TrimSpace(word)]; long != "" {
		if kind = long; size != "" {
			kind += "(" + strings.ReplaceAll(size, " ", "")
		}
	}
	col := &column{name: plain(m[1]), kind: kind, encoding: "raw"}
	rest := x[2]
	has := func(pattern string) []string { return regexp.MustCompile(`(?is)` + pattern).FindStringSubmatch(rest) }
	if e := has(`\bENCODE\s+(\w+)`); e != nil {
		col.encoding = strings.ToLower(e[1])
	}
	col.notNull = has(`\bNOT\s+NULL\b`) != nil
	col.identity = has(`\bIDENTITY\b`) != nil
	if d := has(`\bDEFAULT\s+('(?:[^']|'')*'|[^\s,]+)`); d != nil && !strings.EqualFold(d[1], "AS") {
		col.def = d[1]
	}
	if has(`\bDISTKEY\b`) != nil {
		t.style, t.distkey = "key", col.name
	}
	if has(`\bSORTKEY\b`) != nil {
		t.sortkey = append(t.sortkey, col.name)
	}
	t.columns = append(t.columns, col)
	if has(`\bPRIMARY\s+KEY\b`) != nil {
		t.constraints = append(t.constraints, &constraint{id: s.c.id(), name: t.name + "_pkey", kind: "p", columns: []string{col.name}})
		col.notNull = true
	}
	return nil
}

// stored is the column where the rows are.
func (col *column) stored() string {
	if col.identity {
		return quote(col.name) + " INTEGER PRIMARY KEY"
	}
	text := quote(col.name) + " " + col.kind
	if col.notNull {
		text += " NOT NULL"
	}
	if col.def != "" {
		text += " DEFAULT (" + now(col.def) + ")"
	}
	return text
}

// now is the engine's word for the present as the rows' keeper has it.
func now(expression string) string {
	switch strings.ToLower(strings.Trim(expression, "()")) {
	case "getdate", "sysdate", "now", "current_timestamp":
		return "CURRENT_TIMESTAMP"
	}
	return expression
}

func (s *session) constrain(t *table, called, kind, columns, first, second, target string) error {
	k := &constraint{id: s.c.id(), name: called, columns: plains(columns)}
	if slices.ContainsFunc(t.constraints, func(o *constraint) bool { return o.name == called }) {
		return refuse("42710", `constraint "%s" already exists`, called)
	}
	switch strings.ToUpper(strings.Fields(kind)[0]) {
	case "PRIMARY":
		if k.kind = "p"; slices.ContainsFunc(t.constraints, func(o *constraint) bool { return o.kind == "p" }) {
			return refuse("42P16", `multiple primary keys for table "%s" are not allowed`, t.name)
		}
	case "UNIQUE":
		k.kind = "u"
	default:
		to, err := s.find(first, second)
		if err != nil {
			return err
		}
		k.kind, k.refers, k.target = "f", to, plains(target)
		for _, n := range k.target {
			if to.column(n) == nil {
				return refuse("42703", `column "%s" does not exist`, n)
			}
		}
	}
	for _, n := range k.columns {
		if t.column(n) == nil {
			return refuse("42703", `column "%s" does not exist`, n)
		}
	}
	t.constraints = append(t.constraints, k)
	return nil
}

func (s *session) drop(ctx context.Context, t *table) error {
	if _, err := s.do(ctx, "DROP TABLE "+t.stored()); err != nil {
		return err
	}
	s.c.tables = slices.DeleteFunc(s.c.tables, func(o *table) bool { return o == t })
	return nil
}

func (s *session) dropTable(ctx context.Context, m []string) error {
	t, err := s.find(m[2], m[3])
	if err != nil {
		if m[1] != "" {
			return nil
		}
		return err
	}
	for _, o := range s.c.tables {
		for _, k := range o.constraints {
			if k.refers == t && o != t {
				return refuse("2BP01", `cannot drop table "%s" because other objects depend on it: constraint %s on table %s`, t.name, k.name, o.name)
			}
		}
	}
	return s.drop(ctx, t)
}

func (s *session) createView(ctx context.Context, m []string) error {
	schema, called := s.names(m[1], m[2])
	if _, err := s.do(ctx, fmt.Sprintf("CREATE TEMP VIEW %s AS %s", quote(called), s.readable(m[3]))); err != nil {
		return err
	}
	s.c.views = append(s.c.views, &view{schema, called, strings.TrimSpace(m[3])})
	return nil
}

func (s *session) comment(_ context.Context, m []string) error {
	parts := strings.Split(m[2], ".")
	for i := range parts {
		parts[i] = strings.TrimSpace(parts[i])
	}
	text := strings.TrimSpace(m[3])
	if strings.EqualFold(text, "NULL") {
		text = "''"
	}
	text = strings.ReplaceAll(strings.Trim(text, "'"), "''", "'")
	column := ""
	if strings.EqualFold(m[1], "COLUMN") {
		column, parts = plain(parts[len(parts)-1]), parts[:len(parts)-1]
	}
	t, err := s.find(parts[0], strings.Join(parts[1:], ""))
	if err != nil {
		return err
	}
	if column == "" {
		t.comment = text
		return nil
	}
	col := t.column(column)
	if col == nil {
		return refuse("42703", `column "%s" does not exist`, column)
	}
	col.comment = text
	return nil
}

// vacuum sorts and reclaims, for one table or all.
func (s *session) vacuum(ctx context.Context, m []string) error {
	if s.inside {
		return refuse("25001", "VACUUM cannot run inside a transaction block")
	}
	what := strings.ToUpper(strings.Join(strings.Fields(m[1]), " "))
	return s.each(m[2], m[3], func(t *table) {
		if what != "DELETE ONLY" {
			t.unsorted = 0
		}
		if what != "SORT ONLY" {
			t.dead = 0
		}
	})
}

func (s *session) analyze(_ context.Context, m []string) error {
	return s.each(m[1], m[2], func(t *table) { t.changed = 0 })
}

func (s *session) each(first, second string, do func(*table)) error {
	if first == "" {
		for _, t := range s.c.tables {
			do(t)
		}
		return nil
	}
	t, err := s.find(first, second)
	if err == nil {
		do(t)
	}
	return err
}

func (s *session) alterTable(ctx context.Context, m []string) error {
	t, err := s.find(m[1], m[2])
	if err != nil {
		return err
	}
	action := strings.TrimSpace(m[3])
	sorted := func() { t.unsorted, t.dead, t.counts = 0, 0, nil } // the rows are rewritten
	if x := renameTo.FindStringSubmatch(action); x != nil {
		if s.c.table(t.schema, plain(x[1])) != nil {
			return refuse("42P07", `relation "%s" already exists`, plain(x[1]))
		}
		if _, err := s.do(ctx, fmt.Sprintf("ALTER TABLE %s RENAME TO %s", t.stored(), quote(plain(x[1])))); err != nil {
			return err
		}
		t.name = plain(x[1])
		return nil
	}
	if x := alterStyle.FindStringSubmatch(action); x != nil {
		t.style, t.distkey = strings.ToLower(x[1]), ""
		sorted()
		return nil
	}
	if x := alterDistkey.FindStringSubmatch(action); x != nil {
		if t.column(plain(x[1])) == nil {
			return refuse("42703", `column "%s" does not exist`, plain(x[1]))
		}
		t.style, t.distkey = "key", plain(x[1])
		sorted()
		return nil
	}
	if x := alterSort.FindStringSubmatch(action); x != nil {
		columns := plains(x[2])
		for _, n := range columns {
			if t.column(n) == nil {
				return refuse("42703", `column "%s" does not exist`, n)
			}
		}
		t.sortkey, t.interleaved = columns, false
		sorted()
		return nil
	}
	if alterNoSort.MatchString(action) {
		t.sortkey, t.interleaved = nil, false
		return nil
	}
	if x := addConstraint.FindStringSubmatch(action); x != nil {
		return s.constrain(t, plain(x[1]), x[2], x[3], x[4], x[5], x[6])
	}
	if x := dropConstr.FindStringSubmatch(action); x != nil {
		n := len(t.constraints)
		t.constraints = slices.DeleteFunc(t.constraints, func(k *constraint) bool { return k.name == plain(x[1]) })
		if len(t.constraints) == n {
			return refuse("42704", `constraint "%s" does not exist`, plain(x[1]))
		}
		return nil
	}
	if x := addColumn.FindStringSubmatch(action); x != nil {
		if err := s.columnOf(t, x[1]); err != nil {
			return err
		}
		col := t.columns[len(t.columns)-1]
		_, err := s.do(ctx, fmt.Sprintf("ALTER TABLE %s ADD COLUMN %s", t.stored(), col.stored()))
		return err
	}
	parts := list(action)
	for _, p := range parts {
		x := alterEncode.FindStringSubmatch(p)
		if x == nil {
			return beyond("ALTER TABLE ... " + firstWords(p))
		}
		col := t.column(plain(x[1]))
		switch e := strings.ToLower(x[2]); {
		case col == nil:
			return refuse("42703", `column "%s" does not exist`, plain(x[1]))
		case slices.Contains([]string{"bytedict", "runlength", "text255", "text32k"}, e):
			return refuse("0A000", "a column cannot be altered to encoding %s", e)
		default:
			col.encoding = e
		}
	}
	return nil
}
