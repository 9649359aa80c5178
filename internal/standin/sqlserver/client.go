package sqlserver

import (
	"context"
	"errors"
	"slices"
	"strings"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/standin"
	"nexdal/internal/standin/grammar"
)

// client is one session.
type client struct {
	*standin.Session
	*wire
	server *Server
	db     *database

	abort     bool           // an error ends the transaction: XACT_ABORT
	depth     int            // @@TRANCOUNT
	numbering catalog.Ref    // of which table the numbers may be given: IDENTITY_INSERT
	variables map[string]any // of the batch
	caught    uint32         // the number of the error that is being looked after: ERROR_NUMBER()
	user      string
	tran      uint64
}

func (s *client) use(name string) error {
	d := s.server.database(name)
	if d == nil {
		return refuse(911, "Database '%s' does not exist. Make sure that the name is entered correctly.", name)
	}
	s.db, s.Session = d, d.Open("dbo")
	s.Of = s
	return nil
}

// leave ends what a client left open.
func (s *client) leave() {
	if s.Session != nil {
		s.End(context.Background(), false)
	}
	s.server.mutex.Lock()
	defer s.server.mutex.Unlock()
	for name, by := range s.server.locks {
		if by == s {
			delete(s.server.locks, name)
		}
	}
}

func (s *client) talk() {
	for {
		kind, body, err := s.message()
		if err != nil {
			return
		}
		switch kind {
		case packetPrelogin:
			s.prelogin()
		case packetLogin:
			user, name := s.login(body)
			s.user = user
			if name == "" {
				name = "master"
			}
			number, text := uint32(0), ""
			switch {
			case user == "" || user == "nobody":
				number, text = 18456, "Login failed for user '"+user+"'."
			case s.use(name) != nil:
				number, text = 4060, "Cannot open database \""+name+"\" requested by the login. The login failed."
			}
			if number > 0 {
				s.says(tokenError, number, 14, text)
				s.done(tokenDone, doneError, 0)
				s.flush()
				return
			}
			s.welcome(name)
		case packetBatch:
			s.batch(fromUTF16(body[le.Uint32(body):]))
		case packetTransaction:
			s.fail(beyond("transactions by the protocol; send statements"), true)
		case packetAttention:
			s.done(tokenDone, doneStop, 0)
		case packetCall:
			s.fail(beyond("calls by the protocol; send batches"), true)
		default:
			return
		}
		if s.flush() != nil {
			return
		}
	}
}

func (s *client) fail(err error, last bool) {
	s.says(tokenError, numberOf(err), 16, err.Error())
	if last {
		s.done(tokenDone, doneError, 0)
	}
}

func numberOf(err error) uint32 {
	var f *fault
	if errors.As(err, &f) {
		return f.number
	}
	return 50000
}

// batch carries out statements, one after another, until one fails.
func (s *client) batch(text string) {
	s.variables = map[string]any{}
	c := grammar.New(s.db.Lexis(), text, func(n string) string { return n })
	if err := s.statements(context.Background(), c, c.Done); err != nil {
		if s.abort && s.Inside() {
			s.end(context.Background(), false)
		}
		s.fail(err, true)
		return
	}
	s.done(tokenDone, 0, 0)
}

// statements carries them out up to where it is over, or until one fails.
func (s *client) statements(ctx context.Context, c *grammar.Cursor, over func() bool) error {
	for {
		for c.Take(";") {
		}
		if over() {
			return nil
		}
		var err error
		if failed := grammar.Read(func() { err = s.statement(ctx, c) }); failed != nil {
			err = failed
		}
		if err = s.understood(err); err != nil {
			return err
		}
	}
}

func (s *client) end(ctx context.Context, keep bool) error {
	s.depth = 0
	s.changed(map[bool]byte{true: 9, false: 10}[keep], func() { s.bytes(0, 8); s.u64(s.tran) })
	return s.End(ctx, keep)
}

// statement is one production of the grammar.
func (s *client) statement(ctx context.Context, c *grammar.Cursor) error {
	switch {
	case c.Is("WITH") && c.Ahead("INSERT", "INTO"):
		return s.write(ctx, "INSERT", c.Statement())
	case c.Is("SELECT") && c.Ahead("INTO"):
		text := c.Statement()
		return s.Alter(ctx, func() error { return s.selectInto(ctx, text) })
	case c.Is("SELECT"), c.Is("WITH"):
		return s.query(ctx, c.Statement())
	case c.Is("INSERT"), c.Is("UPDATE"), c.Is("DELETE"):
		return s.write(ctx, strings.ToUpper(c.Peek(0).Text), c.Statement())
	case c.Take("BEGIN", "TRANSACTION"), c.Take("BEGIN", "TRAN"):
		s.depth++
		if s.depth > 1 {
			return nil
		}
		if err := s.Begin(ctx); err != nil {
			s.depth = 0
			return err
		}
		s.tran++
		s.changed(8, func() { s.bytes(8); s.u64(s.tran); s.bytes(0) })
		return nil
	case c.Take("BEGIN", "TRY"):
		return s.try(ctx, c)
	case c.Take("BEGIN"):
		if err := s.statements(ctx, c, func() bool { return c.Is("END") || c.Done() }); err != nil {
			return err
		}
		c.Need("END")
		return nil
	case c.Take("COMMIT"), c.Take("ROLLBACK"):
		return s.ends(ctx, c)
	case c.Take("SET"):
		return s.set(ctx, c)
	case c.Take("IF"):
		return s.conditional(ctx, c)
	case c.Take("DECLARE"):
		return s.declare(ctx, c)
	case c.Take("EXEC"), c.Take("EXECUTE"):
		return s.call(ctx, c)
	case c.Take("USE"):
		old := s.db.Catalog.Database
		if err := s.use(c.Name()); err != nil {
			return err
		}
		s.changed(1, func() { s.short(s.db.Catalog.Database); s.short(old) })
		return nil
	case c.Take("PRINT"):
		s.says(tokenInfo, 0, 0, c.Literal())
		return nil
	case c.Take("CREATE", "DATABASE"):
		name := c.Name()
		if c.Take("COLLATE") {
			c.Name()
		}
		return s.server.create(name)
	case c.Take("DROP", "DATABASE"):
		return s.server.drop(c.Name())
	}
	return s.Alter(ctx, func() error { return s.define(ctx, c) })
}

func (s *client) ends(ctx context.Context, c *grammar.Cursor) error {
	keep := c.Before("COMMIT")
	_ = c.Take("TRANSACTION") || c.Take("TRAN") || c.Take("WORK")
	if s.depth == 0 {
		return refuse(map[bool]uint32{true: 3902, false: 3903}[keep], "The %s TRANSACTION request has no corresponding BEGIN TRANSACTION.", map[bool]string{true: "COMMIT", false: "ROLLBACK"}[keep])
	}
	if keep {
		if s.depth--; s.depth > 0 {
			return nil
		}
	}
	return s.end(ctx, keep)
}

// settings are options that are either on or off, and need nothing of the stand-in.
var settings = []string{"ansi_nulls", "ansi_padding", "ansi_warnings", "arithabort", "concat_null_yields_null", "quoted_identifier", "numeric_roundabort", "nocount", "ansi_null_dflt_on"}

func (s *client) set(ctx context.Context, c *grammar.Cursor) error {
	switch {
	case c.Take("@"):
		name := strings.ToLower(c.Name())
		c.Need("=")
		return s.assign(ctx, name, c.Statement())
	case c.Take("XACT_ABORT"):
		s.abort = c.OneOf("ON", "OFF") == "ON"
		return nil
	case c.Take("LOCK_TIMEOUT"):
		s.Wait = 0
		if n := c.Number(); n >= 0 {
			s.Wait = max(time.Millisecond, time.Duration(n)*time.Millisecond)
		}
		return nil
	case c.Take("IDENTITY_INSERT"):
		ref := c.Ref("dbo")
		if _, err := s.db.Table(ref); err != nil {
			return err
		}
		if s.numbering = (catalog.Ref{}); c.OneOf("ON", "OFF") == "ON" {
			s.numbering = ref
		}
		return nil
	case c.Take("TRANSACTION", "ISOLATION", "LEVEL"):
		c.OneOf("READ UNCOMMITTED", "READ COMMITTED", "REPEATABLE READ", "SNAPSHOT", "SERIALIZABLE")
		return nil
	}
	for {
		if name := c.Word(); !slices.Contains(settings, name) {
			return refuse(195, "'%s' is not a recognized SET option of the simulated server.", name)
		}
		if !c.Take(",") {
			break
		}
	}
	c.OneOf("ON", "OFF")
	return nil
}

// conditional is IF condition statement.
func (s *client) conditional(ctx context.Context, c *grammar.Cursor) error {
	condition := c.Until("ROLLBACK", "COMMIT", "EXEC", "DROP", "ALTER", "CREATE", "BEGIN", "PRINT", "SET")
	a, err := s.Query(ctx, "SELECT CASE WHEN "+condition+" THEN 1 ELSE 0 END")
	if err != nil {
		return err
	}
	switch {
	case a.Rows[0][0] == int64(1):
		return s.statement(ctx, c)
	case c.Take("BEGIN"):
		passed(c)
		c.Need("END")
	default:
		c.Statement()
	}
	return nil
}

// passed goes on to the END of a block whose BEGIN was taken, without carrying anything out.
func passed(c *grammar.Cursor) {
	for depth := 0; !c.Done(); c.Skip() {
		switch {
		case c.Is("BEGIN") && !c.Is("BEGIN", "TRANSACTION") && !c.Is("BEGIN", "TRAN"), c.Is("CASE"):
			depth++
		case c.Is("END"):
			if depth == 0 {
				return
			}
			depth--
		}
	}
}

// try is BEGIN TRY ... END TRY BEGIN CATCH ... END CATCH
// (https://learn.microsoft.com/en-us/sql/t-sql/language-elements/try-catch-transact-sql).
func (s *client) try(ctx context.Context, c *grammar.Cursor) error {
	from := *c
	passed(&from) // where it ends, wherever a statement fails
	err := s.statements(ctx, c, func() bool { return c.Is("END", "TRY") || c.Done() })
	*c = from
	c.Need("END", "TRY")
	for c.Take(";") {
	}
	c.Need("BEGIN", "CATCH")
	if err == nil {
		passed(c)
	} else {
		before := s.caught
		s.caught = numberOf(err)
		err = s.statements(ctx, c, func() bool { return c.Is("END", "CATCH") || c.Done() })
		s.caught = before
	}
	if err == nil {
		c.Need("END", "CATCH")
	}
	return err
}

// declare gives a variable its value, which may be that of a query in brackets.
func (s *client) declare(ctx context.Context, c *grammar.Cursor) error {
	c.Need("@")
	name := strings.ToLower(c.Name())
	s.readType(c)
	s.variables[name] = nil
	if !c.Take("=") {
		return nil
	}
	return s.assign(ctx, name, c.Until("DECLARE", "EXEC", "SELECT", "SET", "BEGIN", "IF"))
}

func (s *client) assign(ctx context.Context, name, value string) error {
	a, err := s.Query(ctx, "SELECT "+value)
	if err == nil {
		s.variables[name] = a.Rows[0][0]
	}
	return err
}

func (s *client) query(ctx context.Context, text string) error {
	if err := s.allowed(text); err != nil {
		return err
	}
	a, err := s.Query(ctx, text)
	if err != nil {
		return err
	}
	if err := s.answer(a.Names, a.Types, a.Rows); err != nil {
		return err
	}
	s.done(tokenDone, doneCount|doneMore, uint64(len(a.Rows)))
	return nil
}

// Permissions without which the server's dynamic views are not shown. Of the logins, sa alone has
// them.
var permissions = []struct {
	view   string
	number uint32
	said   string
}{
	{"dm_db_partition_stats", 262, "VIEW DATABASE STATE permission denied in database '%s'."},
	{"dm_db_index_usage_stats", 300, "VIEW SERVER STATE permission was denied on object 'server', database '%s'."},
	{"dm_os_sys_info", 300, "VIEW SERVER STATE permission was denied on object 'server', database '%s'."},
}

func (s *client) allowed(text string) error {
	for _, p := range permissions {
		if s.user != "sa" && strings.Contains(text, p.view) {
			return refuse(p.number, p.said, s.db.Catalog.Database)
		}
	}
	return nil
}

// selectInto makes a table of what a query gives, with the columns of the first that it reads. One
// that is numbered there is numbered here too, unless tables are put together
// (https://learn.microsoft.com/en-us/sql/t-sql/queries/select-into-clause-transact-sql).
func (s *client) selectInto(ctx context.Context, text string) error {
	c := grammar.New(s.db.Lexis(), text, func(n string) string { return n })
	head := c.Upto("INTO")
	c.Need("INTO")
	ref := c.Ref("dbo")
	rest := c.Statement()
	at := grammar.New(s.db.Lexis(), rest, func(n string) string { return n })
	at.Need("FROM")
	of, err := s.db.Table(at.Ref("dbo"))
	if err != nil {
		return err
	}
	a, err := s.Ask(ctx, head+" "+rest)
	if err != nil {
		return err
	}
	made := &catalog.Table{Schema: ref.Schema, Name: ref.Table, Kind: catalog.Ordinary}
	for _, name := range a.Names {
		col := of.Column(name)
		if col == nil {
			return beyond("a SELECT INTO of what is no column")
		}
		col = col.Clone()
		col.Default, col.DefaultName, col.Comment, col.Generated = "", "", "", ""
		if at.Ahead("UNION") {
			col.Identity = catalog.NoIdentity
		}
		made.Columns = append(made.Columns, col)
	}
	if err := s.CreateTable(ctx, made); err != nil {
		return err
	}
	return s.Fill(ctx, ref, a.Rows)
}

// write adds, alters or removes rows.
func (s *client) write(ctx context.Context, verb, text string) error {
	at := grammar.New(s.db.Lexis(), text, func(n string) string { return n })
	at.Upto(verb)
	at.Need(verb)
	_ = at.Take("INTO") || at.Take("FROM")
	ref := at.Ref("dbo")
	if verb == "UPDATE" && s.db.Catalog.Table(ref) == nil && !at.Before(".") {
		var err error
		if ref, text, err = s.joined(text); err != nil {
			return err
		}
	}
	t, err := s.db.Table(ref)
	if err != nil {
		return refuse(208, "Invalid object name '%s'.", ref)
	}
	for _, g := range t.Triggers {
		if g.Enabled != "disabled" && slices.Contains(g.Events, strings.ToLower(verb)) {
			return beyond("what trigger " + g.Name + " does: disable it first")
		}
	}
	if verb == "INSERT" {
		if err := s.numbered(t, at); err != nil {
			return err
		}
	}
	n, err := s.Write(ctx, text)
	if err == nil {
		s.done(tokenDone, doneCount|doneMore, uint64(n))
	}
	return err
}

// numbered refuses an INSERT that gives numbers which the server gives, or the other way about.
func (s *client) numbered(t *catalog.Table, at *grammar.Cursor) error {
	i := slices.IndexFunc(t.Columns, func(c *catalog.Column) bool { return c.Identity != catalog.NoIdentity })
	if i < 0 {
		return nil
	}
	given := false
	if at.Is("(") {
		given = slices.Contains(at.Names(), t.Columns[i].Name)
	}
	switch on := s.numbering == t.Ref(); {
	case given && !on:
		return refuse(544, "Cannot insert explicit value for identity column in table '%s' when IDENTITY_INSERT is set to OFF.", t.Name)
	case !given && on:
		return refuse(545, "Explicit value must be specified for identity column in table '%s' when IDENTITY_INSERT is set to ON.", t.Name)
	}
	return nil
}

// joined writes UPDATE c SET ... FROM t c JOIN u p ON ... WHERE ... as SQLite has it.
func (s *client) joined(text string) (catalog.Ref, string, error) {
	c := grammar.New(s.db.Lexis(), text, func(n string) string { return n })
	c.Need("UPDATE")
	alias := c.Name()
	c.Need("SET")
	set := c.Upto("FROM")
	c.Need("FROM")
	ref := c.Ref("dbo")
	if name := c.Name(); name != alias {
		return ref, "", beyond("an UPDATE of another table than the first of its FROM")
	}
	c.Need("JOIN")
	with := c.Upto("ON")
	c.Need("ON")
	on := c.Upto("WHERE")
	where := "1 = 1"
	if c.Take("WHERE") {
		where = c.Rest()
	}
	return ref, "UPDATE " + bracket(ref.Schema) + "." + bracket(ref.Table) + " AS " + bracket(alias) + " SET " + set + " FROM " + with + " WHERE (" + on + ") AND (" + where + ")", nil
}

func bracket(name string) string { return "[" + strings.ReplaceAll(name, "]", "]]") + "]" }
