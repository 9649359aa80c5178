// Package engine says what a database system must be able to do to take part:
// very little is obligatory, the rest are interfaces of their own that the
// caller asks for. Each system lives in a folder of its own below.
package engine

import (
	"context"
	"io"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine/capture"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/evidence"
)

// An Engine is one database system.
type Engine interface {
	// Name is the short name in surveys, scripts and settings: "sqlite".
	Name() string
	// Title is the name that its makers write: "SQLite".
	Title() string
	// Serves says which versions are served: "12 and later".
	Serves() string
	// Abilities tells what the given version can do.
	Abilities(version string) catalog.Abilities
	// Dialect tells how its SQL is cut into tokens.
	Dialect() sqllex.Dialect
}

// A Versioned engine takes statements that not every version of it does.
type Versioned interface {
	Engine
	// Features lists, in the engine's words, what the version takes and an older one that
	// is served does not.
	Features(version string) []string
	// Lacks lists what the statements need and the version does not take, with the version
	// that does: "NOT ENFORCED (18)".
	Lacks(version string, sql []string) []string
}

// An Opener is an engine that Nexdal can connect to.
type Opener interface {
	Engine
	// Schemes lists the URL schemes, without "://", that lead to it.
	Schemes() []string
	// Open connects. The session is read-only unless o.Write is set. Errors
	// name no password; [ErrUnreachable] and its kin tell what went wrong.
	Open(ctx context.Context, url string, o Options) (Session, error)
}

// A Capturer is an engine whose own client can put the questions of a survey, where Nexdal may
// not connect.
type Capturer interface {
	Engine
	// CaptureClient is the client that runs the script; "": none does.
	CaptureClient() string
	// CaptureScript is what the client has to run; it alters nothing. The result is a capture.
	CaptureScript() (string, error)
	// Captured reads the catalog that a survey would have read.
	Captured(c *capture.Capture) (*catalog.Catalog, error)
}

// A Questioner is a Capturer whose client can put a probe's questions about the data as well.
type Questioner interface {
	Capturer
	// Questions puts those that a session would put to somebody who knows answers.
	Questions(rows func(ctx context.Context, sql string, most int) ([]string, []Row, error)) evidence.Asker
	// DataScript is what the client has to run; it alters nothing. The result is a capture.
	DataScript(asked []capture.Question) string
}

// A FileOpener is an engine whose databases are single files.
type FileOpener interface {
	Opener
	// Owns reports whether a file that begins with these bytes is one of its
	// databases.
	Owns(head []byte) bool
	// FileURL makes a URL of a path.
	FileURL(path string) string
}

// Options of a connection. Zero time-outs mean the engine's own defaults.
type Options struct {
	Write            bool
	StatementTimeout time.Duration
	LockTimeout      time.Duration
	Watch            Watch // nil: nobody wants to know
	// Of a store that declares no structure and answers no questions: whether all rows are looked at
	// for the one, how many of a table are fetched at most for the others (0: all), and who is told
	// of what is being fetched, and how far that has come.
	Full    bool
	Rows    int64
	Fetched func(what string, done, of int64)
	Meter   *Meter // of an engine that bills what it reads; nil: no limit
}

// Watch is told of each statement that was sent, how long it took until its answer began, and
// what the engine had against it. Several connections may call it at once.
type Watch func(statement string, took time.Duration, err error)

// A Client is an engine with a client of its own that runs scripts.
type Client interface {
	// ClientLine is the command that runs the script file on the database at
	// the address, which holds no secret; an empty address is left to fill in.
	ClientLine(address, file string) string
}

// A Builder is an engine on which an empty database, or a schema of its own
// in one, can be made for the demo.
type Builder interface {
	Opener
	// Build makes room for the demo and returns a session whose statements
	// act there, in a transaction that is open, and the name of the schema
	// made, if any. It refuses where something is there already.
	Build(ctx context.Context, address, schema string) (Loader, string, error)
	// Discard takes away what Build made, after a failure that may have
	// broken the session; the session is closed before.
	Discard(ctx context.Context, address, schema string) error
}

// A Session is one connection. It is not safe for concurrent use.
type Session interface {
	// Survey reads the whole catalog in a fixed number of questions, all
	// answered as of one moment.
	Survey(ctx context.Context) (*catalog.Catalog, error)
	// Place names the database for people, without secrets:
	// "saltmere.db", "saltmere at db1:5432".
	Place() string
	// Close ends the session; it may be called more than once.
	Close() error
}

// A session that is Alone answers questions from rows that it has fetched first: another beside it
// would fetch them again.
type Alone interface {
	Prober
	Alone()
}

// A Prober is a session that can be asked about the data.
type Prober interface {
	Session
	// Asker prepares the session to be asked, read-only and within its
	// time-outs. Each question is one statement that changes nothing.
	Asker(ctx context.Context) (evidence.Asker, error)
}

// A Runner is a session opened with Write that carries out statements.
type Runner interface {
	Session
	// Exec sends one statement exactly as it stands. A failure inside a
	// transaction leaves the transaction open; see Rollback.
	Exec(ctx context.Context, sql string) error
	// Rows sends a query and returns at most max rows as text.
	Rows(ctx context.Context, sql string, max int) (names []string, rows []Row, err error)
	// Rollback ends an open transaction, if there is one, without trace, and
	// brings the session back to where it can go on.
	Rollback(ctx context.Context) error
}

// A Row is the values of one row of an answer as text; nil is a NULL.
type Row = evidence.Row

// A Guarded session tells beforehand what its user may not do.
type Guarded interface {
	Runner
	// MayNotAlter lists those of the tables that exist and that the user may not
	// alter. Where the engine does not say, it lists none.
	MayNotAlter(ctx context.Context, tables []catalog.Ref) ([]catalog.Ref, error)
}

// A CreateGuarded session tells beforehand where its user may make nothing.
type CreateGuarded interface {
	Runner
	// MayNotCreate lists those of the schemas in which the user may make nothing, where
	// some of the statements would make something.
	MayNotCreate(ctx context.Context, schemas, statements []string) ([]string, error)
}

// A Sheltered session tells beforehand what keeps rows from some users and would be lost with the
// statements, where tables are copied.
type Sheltered interface {
	Runner
	// GuardsLost lists it in words: "row access policy north of saltmere.reading". Where that
	// cannot be found out it fails.
	GuardsLost(ctx context.Context, tables []catalog.Ref, statements []string) ([]string, error)
}

// An Exclusive session keeps other runs away for as long as it lasts.
type Exclusive interface {
	Runner
	// Claim takes a lock that every run on these schemas takes, and says who holds it if
	// somebody does. The lock ends with the session, however that ends.
	Claim(ctx context.Context, schemas []string) (holder string, err error)
}

// A Rehearser is an engine on which an empty database can be made for a
// rehearsal, where nobody else works.
type Rehearser interface {
	Opener
	// Scratch makes an empty database at the address, for a structure like that of the
	// catalog, and returns a session that writes there. Discard takes it away, whole, with
	// what had to be made for it on the server, and ends the session. Where a name is
	// taken it refuses.
	Scratch(ctx context.Context, address string, like *catalog.Catalog) (s Runner, discard func(context.Context) error, err error)
	// Twin writes the whole structure for such a database, with owners and grants where
	// the engine has them.
	Twin(c *catalog.Catalog) (*Work, []Loss)
}

// A Loader is a session opened with Write that takes in many rows at once.
type Loader interface {
	Runner
	// Load adds rows; next returns nil at the end. Values are nil, bool,
	// int64, float64, string or time.Time.
	Load(ctx context.Context, table catalog.Ref, columns []string, next func() []any) error
}

// A SelfCapturing session can give the capture that the engine's own client would give there.
type SelfCapturing interface {
	Session
	Capture(ctx context.Context, w io.Writer) error
}

// A Writer is an engine whose DDL Nexdal writes.
type Writer interface {
	Engine
	// Refuses says why the engine cannot make the change, or "". Callers go by [Refuses], which
	// looks at what leans on the object first.
	Refuses(c *catalog.Catalog, ch change.Change) string
	// Write turns a plan, which leads from one catalog to the other, into
	// steps. Where to holds the engine's own text of a table (as it does when
	// a reversal leads back to a survey), the table is made to that very text.
	Write(from, to *catalog.Catalog, plan change.Plan) (*Work, error)
}

// A Limiter is a writer whose scripts say how long they wait.
type Limiter interface {
	Writer
	// Limits are the statements that say how long a step may wait for a lock and how
	// long a statement may take. Zero times give those that Write puts into a script.
	Limits(lock, statement time.Duration) []string
}

// A Creator is an engine that writes out a whole structure, to be made in an
// empty database.
type Creator interface {
	Engine
	// Create writes the catalog, which is in the engine's own terms, in an order
	// in which everything comes after what it needs, foreign keys last. What it
	// leaves out it lists.
	Create(c *catalog.Catalog) (*Work, []Loss)
}

// An Adopter is an engine that can take over the structure of another.
type Adopter interface {
	Creator
	// Adopt returns the catalog in the engine's own terms, with each thing that
	// is lost or becomes other than it was. Source is how the texts of the other
	// engine are cut. The given catalog is left alone.
	Adopt(c *catalog.Catalog, source sqllex.Dialect) (*catalog.Catalog, []Loss)
}

// A Loss is something that a script leaves out or makes otherwise than it was.
type Loss struct {
	What catalog.ObjectRef
	Why  string
}

// Work is a plan written out for one engine.
type Work struct {
	Client    []string // lines for the engine's own client: stop at the first error
	Setup     []string // statements that prepare the session
	Waits     string   // how long a step waits for its locks, and what then; or empty
	Preflight []Question
	Steps     []Step
}

// Blocking says how long others have to wait for a step.
type Blocking int

// From harmless to grave.
const (
	BlocksNobody  Blocking = iota
	BlocksBriefly          // for a moment, once the lock is had
	BlocksAtWork           // for as long as rows are read or written
)

// A Question is asked before the first step; a row in the answer means that
// the data stands in the way.
type Question struct {
	Title string // what a row in the answer means
	Step  int    // the step that the answer bears on, from 1
	// Answers are the findings whose fix it is about; of a step that carries
	// out several, the others are not concerned.
	Answers []string
	SQL     string
}

// A Step is what runs or fails together.
type Step struct {
	Title       string
	Changes     []int         // places in the plan of what it carries out
	Answers     []string      // findings
	Tables      []catalog.Ref // those that are altered
	Lock        string        // what is locked, and who waits
	Blocks      Blocking      // for how long
	Transaction bool          // the step is one transaction: it happens whole or not at all
	Notes       []string      // what else to know before
	CleanUp     string        // statement that clears away what a failed step may leave, or ""
	SQL         []string      // statements, BEGIN and COMMIT included
	// Passing: it leaves nothing of its own that would have to be taken back, as where
	// rows are checked.
	Passing bool
}
