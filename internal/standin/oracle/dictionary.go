// Package oracle is a paper dictionary: a simulated Oracle database that is there to be captured,
// to rehearse scripts on, and to be captured again. It keeps what its tables promise, offers the
// documented views of the dictionary by their documented columns, refuses with the numbers of
// Oracle's errors, and reads scripts line by line as SQL*Plus does. It compiles nothing: texts of
// triggers and routines are kept, and not carried out.
package oracle

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/pattern"
	"nexdal/internal/standin"
	"nexdal/internal/standin/grammar"
)

// What it says that it is.
const (
	version = "19.0.0.0.0"
	product = "Oracle Database 19c %s Edition (simulated by Nexdal)"
)

// The editions, which differ in what is done while others write.
const (
	Enterprise = "Enterprise"
	Standard   = "Standard"
)

// A Dictionary is one database.
type Dictionary struct {
	*standin.Machine
	edition string
	numbers int // of objects and of what the system names
	more    *more
}

// more is what there is besides the catalog.
type more struct {
	states   map[state]states  // of constraints
	named    map[state]bool    // by the system
	nulls    map[state]string  // the constraint that forbids null in a column
	spaces   map[string]string // tablespaces that were named, of tables and indexes
	compiled []broken          // what could not be compiled any more
	grants   []grant
	policies []grant                // of rows, by their names
	logs     []catalog.Ref          // the tables whose changes are kept for materialized views
	counters map[catalog.Ref]string // sequences behind identity columns, by table
}

// A state is what is kept of a constraint, or of a column, of a table.
type state struct {
	table catalog.Ref
	name  string
}

// states of a constraint; the zero value is one that is on, and checked.
type states struct{ off, unchecked, rely, deferrable, deferred bool }

type broken struct{ owner, name, kind string }

type grant struct {
	on                       catalog.Ref
	to, what, column, option string
}

// New makes an empty database of the edition, in which the accounts are there.
func New(edition, name string, accounts ...string) (*Dictionary, error) {
	d := &Dictionary{edition: edition, numbers: 7000, more: &more{states: map[state]states{}, named: map[state]bool{}, nulls: map[state]string{}, spaces: map[string]string{}, counters: map[catalog.Ref]string{}}}
	m, err := standin.New(d, accounts...)
	if err != nil {
		return nil, err
	}
	m.Keeps, m.AllNullFree = true, true
	m.Catalog.Database = name
	d.Machine = m
	return d, nil
}

// Wear is a copy of what there is besides the catalog.
func (d *Dictionary) Wear() any {
	m := *d.more
	m.states, m.named, m.nulls, m.spaces, m.counters = maps.Clone(m.states), maps.Clone(m.named), maps.Clone(m.nulls), maps.Clone(m.spaces), maps.Clone(m.counters)
	m.grants, m.compiled = slices.Clone(m.grants), slices.Clone(m.compiled)
	m.policies, m.logs = slices.Clone(m.policies), slices.Clone(m.logs)
	return &m
}

// Rewear puts it back.
func (d *Dictionary) Rewear(was any) { d.more = was.(*more) }

// Lexis is that of SQL and PL/SQL.
func (d *Dictionary) Lexis() sqllex.Dialect {
	return sqllex.Dialect{National: true, ChosenQuotes: true, Capitals: true, Letters: "length"}
}

// number is the next of those that the system names things by, and that none is called by.
func (d *Dictionary) number() int {
	for d.numbers++; d.taken(fmt.Sprintf("SYS_C%07d", d.numbers)); d.numbers++ {
	}
	return d.numbers
}

func (d *Dictionary) taken(name string) bool {
	for at := range d.more.states {
		if at.name == name {
			return true
		}
	}
	return false
}

func quoted(name string) string { return `"` + name + `"` }

// An Error is one of Oracle's.
type Error struct {
	Code int
	Says string
}

// Error is as SQL*Plus shows it.
func (e *Error) Error() string { return fmt.Sprintf("ORA-%05d: %s", e.Code, e.Says) }

func refuse(code int, format string, args ...any) error {
	return &Error{code, fmt.Sprintf(format, args...)}
}

// faults are the numbers of what the machine refuses
// (https://docs.oracle.com/en/error-help/db/).
var faults = map[standin.FaultKind]Error{
	standin.Exists:      {955, "name is already used by an existing object"},
	standin.Missing:     {942, "table or view does not exist"},
	standin.NoColumn:    {904, "invalid identifier"},
	standin.HasKey:      {2260, "table can have only one primary key"},
	standin.Repeats:     {2299, "cannot validate - duplicate keys found"},
	standin.Orphans:     {2298, "cannot validate - parent keys not found"},
	standin.Breaks:      {2293, "cannot validate - check constraint violated"},
	standin.Nulls:       {2296, "cannot enable - null values found"},
	standin.TooLong:     {1441, "cannot decrease column length because some value is too big"},
	standin.NoNumber:    {1440, "column to be modified must be empty to decrease precision or scale"},
	standin.LeanedOn:    {2273, "this unique/primary key is referenced by some foreign keys"},
	standin.NoUniqueKey: {2270, "no matching unique or primary key for this column-list"},
	standin.NotEmpty:    {1758, "table must be empty to add mandatory (NOT NULL) column"},
}

// unknown is what SQLite says of a name that it does not know.
var unknown = pattern.New(`no such (table|column|function): (?:main\.)?([^ ]+)`)

// told makes an error of Oracle's of one of the machine's.
func (s *Session) told(err error) error {
	if err == nil {
		return nil
	}
	if b := s.Told(err); b != nil {
		at := quotedRef(b.Table)
		switch b.Kind {
		case "unique":
			return refuse(1, "unique constraint (%s.%s) violated", b.Table.Schema, b.Name)
		case "null":
			if b.Verb == "UPDATE" {
				return refuse(1407, "cannot update (%s.%s) to NULL", at, quoted(b.Column))
			}
			return refuse(1400, "cannot insert NULL into (%s.%s)", at, quoted(b.Column))
		case "long":
			return refuse(12899, "value too large for column %s.%s", at, quoted(b.Column))
		case "range":
			return refuse(1438, "value larger than specified precision allowed for this column")
		case "check":
			return refuse(2290, "check constraint (%s.%s) violated", b.Table.Schema, b.Name)
		case "foreign key":
			return refuse(2291, "integrity constraint (%s.%s) violated - parent key not found", b.Table.Schema, b.Name)
		case "referred":
			return refuse(2292, "integrity constraint (%s.%s) violated - child record found", b.Table.Schema, b.Name)
		}
	}
	if f, ok := err.(*standin.Fault); ok {
		e := faults[f.Kind]
		return refuse(e.Code, "%s: %s of %s %s", e.Says, f.Name, f.Table, f.By)
	}
	if m := unknown.FindStringSubmatch(err.Error()); m != nil {
		if m[1] == "table" {
			return refuse(942, "table or view does not exist: %s", strings.ToUpper(m[2]))
		}
		return refuse(904, "%s: invalid identifier", strings.ToUpper(m[2]))
	}
	if strings.Contains(err.Error(), "UNIQUE constraint failed") {
		return refuse(1452, "cannot CREATE UNIQUE INDEX; duplicate keys found")
	}
	return err
}

func quotedRef(r catalog.Ref) string { return quoted(r.Schema) + "." + quoted(r.Table) }

// reserved are words that no name without quotes may be
// (https://docs.oracle.com/en/database/oracle/oracle-database/19/sqlrf/Oracle-SQL-Reserved-Words.html).
var reserved = func() map[string]bool {
	words := map[string]bool{}
	for w := range strings.FieldsSeq(`access add all alter and any as asc audit between by char check cluster column comment compress connect create current date decimal default delete desc distinct drop else exclusive exists file float for from grant group having identified immediate in increment index initial insert integer intersect into is level like lock long maxextents minus mlslabel mode modify noaudit nocompress not nowait null number of offline on online option or order pctfree prior public raw rename resource revoke row rowid rownum rows select session set share size smallint start successful synonym sysdate table then to trigger uid union unique update user validate values varchar varchar2 view whenever where with`) {
		words[w] = true
	}
	return words
}()

// bare is what a name without quotes stands for.
func bare(word string) string {
	if reserved[strings.ToLower(word)] {
		grammar.Fail(refuse(903, "invalid table name, or 904, invalid identifier: %s", word))
	}
	return strings.ToUpper(word)
}
