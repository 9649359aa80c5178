// Package read surveys a PostgreSQL database by its system tables, live or from a capture, and says
// how questions about its data are put.
package read

import (
	"context"
	"errors"
	"fmt"
	"strconv"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgconn"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/pgwire"
	"nexdal/internal/engine/postgres/traits"
)

// A Reader reads what the engine's own client has shown.
type Reader struct{ traits.Traits }

// reader gathers the catalog of one database.
type reader struct {
	source  answers
	version int // server_version_num
	catalog *catalog.Catalog
	schemas map[string]*catalog.Schema
	names   map[uint32]string // of schemas
	// What is known by oid.
	tables     map[uint32]*catalog.Table
	views      map[uint32]*catalog.View
	sequences  map[uint32]*catalog.Sequence
	routines   map[uint32]*catalog.Routine
	made       map[uint32]*catalog.UserType
	columns    map[uint32]map[int16]*catalog.Column // by table and attnum
	indexes    map[uint32]*catalog.Index
	types      map[uint32]pgType
	domains    map[uint32]domain
	raw        []rawColumn
	collations map[uint32]string // names, with the schema where it is not the system's
	collatedBy map[*catalog.Column]uint32
	things     map[object]catalog.ObjectRef // what things others may need are called
	standsFor  map[object]object            // what has no name of its own, and what it is part of
	members    map[object]string            // the extension that an object belongs to
	comments   map[object]string
	spaces     map[uint32]string // names of tablespaces
	block      int64             // bytes of a page
	homes      map[uint32]object // of each default: table and column
	held       map[uint32]bool   // relations that somebody else holds exclusively
	analysed   map[uint32]bool   // tables whose size the engine has noted
	unsized    []uint32          // tables and indexes whose size has to be asked for
	lookup     *catalog.Lookup
	err        error
}

// object is how the system tables name anything: the table that it is in and
// its oid there; part is a column's number, or 0.
type object struct {
	class, oid uint32
	part       int32
}

// The system tables that objects are in; their oids are the same everywhere.
const (
	classClass      = 1259
	classType       = 1247
	classProc       = 1255
	classNamespace  = 2615
	classConstraint = 2606
	classDefault    = 2604
	classRewrite    = 2618
	classTrigger    = 2620
	classPolicy     = 3256
	classLanguage   = 2612
	classCollation  = 3456
	classOperator   = 2617
	classOpclass    = 2616
	classCast       = 2605
	classExtension  = 3079
	classServer     = 1417
	classWrapper    = 2328
	classEvent      = 3466
	classStatistics = 3381
	classDictionary = 3600
	classSearch     = 3602
)

// attempts is how often a survey starts over when a table vanishes under it.
const attempts = 3

// Survey reads the catalog in one read-only transaction, by a fixed number of
// questions (https://www.postgresql.org/docs/current/catalogs.html). The
// engine's own describing functions look at the present and not at the
// snapshot, so a table that is dropped or locked meanwhile can make them fail; then the
// survey starts over.
func Survey(ctx context.Context, s *pgwire.Session) (*catalog.Catalog, error) {
	alone := false
	for i := 1; ; i++ {
		c, err := once(ctx, s, alone)
		if errors.Is(err, errBeside) && !alone {
			alone = true
			continue
		}
		var said *pgconn.PgError
		if errors.As(err, &said) && (said.Code == "XX000" || said.Code == "42P01" || said.Code == "42704" || said.Code == "55P03") && i < attempts {
			continue
		}
		return c, s.Wrap(ctx, err)
	}
}

// Spelling is what the texts rest on that the engine writes for us: whatever the server, the
// database or the role says otherwise, the same structure reads the same.
const Spelling = "SET LOCAL search_path = pg_catalog; SET LOCAL quote_all_identifiers = off; SET LOCAL DateStyle = 'ISO, YMD'; SET LOCAL IntervalStyle = 'postgres'; SET LOCAL TimeZone = 'UTC'; " +
	"SET LOCAL bytea_output = 'hex'; SET LOCAL extra_float_digits = 1; SET LOCAL lc_monetary = 'C'; SET LOCAL xmlbinary = 'base64'; SET LOCAL row_security = off"

func once(ctx context.Context, s *pgwire.Session, alone bool) (*catalog.Catalog, error) {
	tx, err := s.Conn.BeginTx(ctx, pgx.TxOptions{IsoLevel: pgx.RepeatableRead, AccessMode: pgx.ReadOnly})
	if err != nil {
		return nil, err
	}
	defer tx.Rollback(context.WithoutCancel(ctx))
	statement, lock := s.Options.StatementTimeout, s.Options.LockTimeout
	if statement == 0 {
		statement = pgwire.StatementTimeout
	}
	if lock == 0 {
		lock = pgwire.LockTimeout
	}
	l := &live{ctx: ctx, tx: tx}
	r := newReader(l)
	// The search path decides which names the engine writes with their schema.
	limits := fmt.Sprintf("SET LOCAL statement_timeout = %d; SET LOCAL lock_timeout = %d; "+Spelling, statement.Milliseconds(), lock.Milliseconds())
	if _, err := tx.Exec(ctx, limits, pgx.QueryExecModeSimpleProtocol); err != nil {
		return nil, err
	}
	defer func() { l.beside.end() }()
	return r.read(func() error {
		if alone || len(r.tables) < largeCatalog {
			return nil
		}
		var each []question
		for _, text := range []string{r.columnsQuery(), r.indexesQuery(), r.constraintsQuery(), dependQuery} {
			each = append(each, question{text: text})
		}
		return l.askBeside(s.Conn.Config(), limits, []question{r.sizes()}, each)
	})
}

func newReader(from answers) *reader {
	return &reader{source: from, catalog: &catalog.Catalog{Engine: catalog.Engine{Name: "postgres"}, Surveyed: time.Now().UTC()},
		schemas: map[string]*catalog.Schema{}, names: map[uint32]string{}, tables: map[uint32]*catalog.Table{}, views: map[uint32]*catalog.View{},
		sequences: map[uint32]*catalog.Sequence{}, routines: map[uint32]*catalog.Routine{}, columns: map[uint32]map[int16]*catalog.Column{},
		indexes: map[uint32]*catalog.Index{}, types: map[uint32]pgType{}, domains: map[uint32]domain{}, collations: map[uint32]string{},
		collatedBy: map[*catalog.Column]uint32{}, things: map[object]catalog.ObjectRef{}, members: map[object]string{}, standsFor: map[object]object{}, comments: map[object]string{},
		spaces: map[uint32]string{}, block: 8192, homes: map[uint32]object{}, held: map[uint32]bool{}, analysed: map[uint32]bool{}}
}

// read puts the questions, in an order in which each finds what it needs; further is called
// once it is known how many tables there are.
func (r *reader) read(further func() error) (*catalog.Catalog, error) {
	for _, read := range []func(){r.settings, r.locks, r.notes, r.schemata, r.relations, func() { r.err = further() }, r.kinship, r.readColumns, r.readDefaults, r.finishColumns,
		r.userTypes, r.readRoutines, r.readSequences, r.readSizes, r.readIndexes, r.readConstraints, r.readNotNull, r.viewTexts, r.readTriggers, r.readObjects,
		r.needs, r.readRights, r.shadows, r.readStatistics, r.readLastValues} {
		if read(); r.err != nil {
			return nil, r.err
		}
	}
	r.sumPartitions()
	r.catalog.Sort()
	engine.Hints(r.catalog, Reader{}.Dialect())
	return r.catalog, nil
}

// whichQuery is the first question: which version, and which database.
const whichQuery = `SELECT split_part(current_setting('server_version'), ' ', 1), current_setting('server_version_num')::int, current_database()::text`

func (r *reader) settings() {
	r.ask(whichQuery,
		func(scan func(...any) error) error {
			return scan(&r.catalog.Engine.Version, &r.version, &r.catalog.Database)
		})
	r.catalog.Features = Reader{}.Features(r.catalog.Engine.Version)
	r.ask(`SELECT oid, spcname::text FROM pg_tablespace`, named(r.spaces))
	// The view gathers all settings each time, so it is asked once. Of the time zone it is told what
	// the database says, whatever the client or the role does.
	r.ask(`SELECT name, CASE WHEN name <> 'TimeZone' THEN setting ELSE coalesce((SELECT split_part(c, '=', 2) FROM pg_db_role_setting s, unnest(s.setconfig) c
			WHERE s.setrole = 0 AND s.setdatabase = (SELECT oid FROM pg_database WHERE datname = current_database()) AND lower(split_part(c, '=', 1)) = 'timezone'), reset_val) END,
			CASE WHEN name <> 'TimeZone' THEN source ELSE '' END
		FROM pg_settings WHERE name IN ('session_replication_role', 'server_encoding', 'default_transaction_isolation', 'lc_collate', 'block_size', 'TimeZone')`,
		func(scan func(...any) error) error {
			var s catalog.Setting
			if err := scan(&s.Name, &s.Value, &s.Source); err != nil {
				return err
			}
			if s.Name == "block_size" {
				r.block, _ = strconv.ParseInt(s.Value, 10, 64)
			}
			r.catalog.Settings = append(r.catalog.Settings, s)
			return nil
		})
}

// ours is the condition that a schema is neither the system's nor temporary.
const ours = `n.nspname NOT LIKE 'pg\_%' AND n.nspname <> 'information_schema'`

// own is the first oid that is not the system's own
// (https://www.postgresql.org/docs/current/system-catalog-initial-data.html#SYSTEM-CATALOG-OID-ASSIGNMENT).
const own = "16384"

// heldQuery is an array of the relations that somebody else holds exclusively.
const heldQuery = `array(SELECT DISTINCT relation FROM pg_locks WHERE mode = 'AccessExclusiveLock' AND granted AND pid <> pg_backend_pid()
		AND database = (SELECT oid FROM pg_database WHERE datname = current_database()) AND relation IS NOT NULL)`

// locks lists what somebody holds so strongly that even its size, or the text
// of its indexes, cannot be asked for without waiting.
func (r *reader) locks() {
	r.ask(`SELECT unnest(`+heldQuery+`)`, func(scan func(...any) error) error {
		var oid uint32
		err := scan(&oid)
		r.held[oid] = true
		return err
	})
}

// notes reads all comments, and what belongs to extensions.
func (r *reader) notes() {
	r.ask(`SELECT classoid, objoid, objsubid, description FROM pg_description WHERE objoid >= `+own+` OR classoid = 2615`, func(scan func(...any) error) error {
		var o object
		var text string
		err := scan(&o.class, &o.oid, &o.part, &text)
		r.comments[o] = text
		return err
	})
	r.ask(`SELECT d.classid, d.objid, x.extname::text FROM pg_depend d JOIN pg_extension x ON x.oid = d.refobjid
		WHERE d.deptype = 'e' AND d.refclassid = 3079`, func(scan func(...any) error) error {
		var o object
		var name string
		err := scan(&o.class, &o.oid, &name)
		r.members[o] = name
		return err
	})
}

func (r *reader) schemata() {
	r.ask(`SELECT n.oid, n.nspname::text, has_schema_privilege(n.oid, 'USAGE') FROM pg_namespace n WHERE `+ours,
		func(scan func(...any) error) error {
			s := &catalog.Schema{}
			var oid uint32
			var usable bool
			if err := scan(&oid, &s.Name, &usable); err != nil {
				return err
			}
			if !usable {
				r.catalog.Gaps = append(r.catalog.Gaps, catalog.Gap{Schema: s.Name, What: "rows", Figures: true,
					Reason: "no USAGE privilege on the schema: its structure was read, its data cannot be"})
			}
			o := object{class: classNamespace, oid: oid}
			s.Comment, s.Extension = r.comments[o], r.members[o]
			if s.Name == "public" && s.Comment == "standard public schema" {
				s.Comment = "" // every database has it
			}
			r.schemas[s.Name], r.names[oid] = s, s.Name
			r.things[o] = catalog.ObjectRef{Kind: catalog.KindSchema, Name: s.Name}
			r.catalog.Schemas = append(r.catalog.Schemas, s)
			return nil
		})
}

func (r *reader) gap(schema, table, what, reason string) {
	r.catalog.Gaps = append(r.catalog.Gaps, catalog.Gap{Schema: schema, Table: table, What: what, Reason: reason})
}

// heldByOthers is why something of a table is not read.
const heldByOthers = "somebody holds its table so strongly that asking would have to wait"
