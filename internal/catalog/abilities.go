package catalog

import "time"

// Abilities are what an engine can do, asked for by rules and the planner so
// that neither needs to know an engine by name.
type Abilities struct {
	// ForeignKeysPerConnection: each connection switches enforcement on for
	// itself, so the database cannot tell whether its users do.
	ForeignKeysPerConnection bool
	// EnforcementSetting names the setting that switches foreign keys off,
	// EnforcementOff the value that does it, EnforcementDefault the one that
	// does not; empty where there is none.
	EnforcementSetting, EnforcementOff, EnforcementDefault string
	// EnforcementAdvice is the statement that brings enforcement back.
	EnforcementAdvice string
	// AddedKeyType is the type of a key column that a change may add.
	AddedKeyType Type
	// IntegerTypes are those of whole numbers that keys are given, the narrowest first.
	IntegerTypes []Type
	// AddedKeyIdentity is how such a column is numbered.
	AddedKeyIdentity Identity
	// NumberedBy is the sequence and the trigger that number a column which is added with
	// [IdentityTrigger]. Nil: none can be.
	NumberedBy func(t *Table, column string) (*Sequence, *Trigger)
	// Definers: views, triggers and routines act with the rights of an account that may be gone.
	Definers bool
	// ViewsBreak: what a view reads can be dropped, and the view stays.
	ViewsBreak bool
	// WithoutTransactions names the storage of a table that keeps neither transactions nor
	// foreign keys, and the one that does; empty: it keeps them. Nil: all do.
	WithoutTransactions func(t *Table) (storage, better string)
	// Strays is the query that lists values of another kind than the column's type. Nil: the
	// engine lets none in.
	Strays func(t *Table, c *Column) string
	// CountsDeadRows: the engine counts rows that are gone and not reclaimed, and those that
	// changed since it looked at their values; MaintainsItself: it sees to both by itself.
	CountsDeadRows, MaintainsItself bool
	// InvisibleColumns: a column can be left out of SELECT * and of an INSERT without a list
	// of columns, so that those who know nothing of it go on as before.
	InvisibleColumns bool
	// OwnOrder reports whether a primary key on the columns would be the
	// table's own order, numbered by the engine and without an index behind
	// it. Nil: never.
	OwnOrder func(t *Table, columns []string) bool
	// NullableKeys: columns of a primary key may hold nulls.
	NullableKeys bool
	// SystemNamedKeys: indexes behind keys get names that cannot be chosen.
	SystemNamedKeys bool
	// PartitionedKeyNeedsColumns: a key of a partitioned table must hold the
	// partition columns.
	PartitionedKeyNeedsColumns bool
	// PlacesColumns: a column can be added in front of another.
	PlacesColumns bool
	// DropsEmptySchemas: a schema can be dropped, and is not while it holds anything.
	DropsEmptySchemas bool
	// ConstraintCopies: adding a constraint means copying the whole table.
	ConstraintCopies bool
	// ConstraintsBuild: a unique constraint builds an index of its own, and takes over none that is
	// there.
	ConstraintsBuild bool
	// Boundaries are those by which a partitioned table is cut up, or a plain one would be that has
	// the partition key. Nil: the bounds of parts are the table's own.
	Boundaries func(c *Catalog, t *Table) *Boundaries
	// PartitionedReferences: partitioned tables have foreign keys, and are referred to by their keys.
	PartitionedReferences bool
	// PlainAction is what the catalog says of a foreign key that was declared
	// without an action; empty: NoAction.
	PlainAction Action
	// NoRestrict: there is no RESTRICT; NO ACTION refuses at once.
	NoRestrict bool
	// ForeignKeysNameIndex: the catalog says which index of the target a foreign
	// key leans on.
	ForeignKeysNameIndex bool
	// ForeignKeyIndexYields: an index that the engine made for a foreign key
	// goes when another one serves.
	ForeignKeyIndexYields bool
	// ReferencesBuild: a foreign key builds an index of its own, called like it, which goes with it
	// and with it alone.
	ReferencesBuild bool
	// PrimaryKeyName is what every primary key is called, where it cannot be
	// chosen.
	PrimaryKeyName string
	// OwnedSequences: a sequence can belong to a column, and goes with it.
	OwnedSequences bool
	// UniqueIndexIsKey: every unique index is a constraint.
	UniqueIndexIsKey bool
	// ClusteredByKey reports whether the engine keeps the table's rows in the
	// order of its primary key. Nil: of none.
	ClusteredByKey func(t *Table) bool
	// ClustersKeys: the rows are kept in the order of a primary key that is added, where no
	// index keeps them in one; a table without such an order is a heap.
	ClustersKeys bool
	// IndexesSwitch: an index that is not valid was switched off, and is not maintained.
	IndexesSwitch bool
	// NullsAlike: a unique key takes nulls for equal, so that a second one is refused.
	NullsAlike bool
	// AllNullsLeftOut: an index, and so a unique key, leaves out the rows that are null in all of
	// its columns, and no others.
	AllNullsLeftOut bool
	// BrokenRefuses: while a unique index is not usable, what would have to write it is refused.
	BrokenRefuses bool
	// OneWay reports whether a column of the first type that was made one of the second stays so
	// as long as it holds values. Nil: none does.
	OneWay func(from, to Type) bool
	// DefaultName is what the default of a column is called, where it is a constraint. Nil: it
	// is none.
	DefaultName func(table, column string) string
	// CountsReads: the engine counts how often each index is read. ReadsAdvice says
	// how it is brought to, where it does not by itself.
	CountsReads bool
	ReadsAdvice string
	// IndexEntry is what an entry of an index takes besides its columns, in bytes;
	// 0: the sizes of indexes tell nothing of how full they are.
	IndexEntry int64
	// IndexPage is a third of an index's page in bytes: entries that are longer
	// are refused; 0: not known, or longer columns cannot be indexed at all.
	IndexPage int64
	// Reserved reports whether the engine reserves the word, in small letters,
	// besides those of the SQL standard. Nil: none.
	Reserved func(word string) bool
	// AnalyseAdvice says how the engine is brought to count its tables and look
	// at their values.
	AnalyseAdvice string
	// DeferrableReferences: a foreign key can be checked at the end of the
	// transaction.
	DeferrableReferences bool
	// MatchFull: a foreign key of several columns can refuse rows that are half
	// filled.
	MatchFull bool
	// PartialIndexes: an index can leave rows out.
	PartialIndexes bool
	// IndexesOneWay: an index is read from its beginning alone, and never backwards.
	IndexesOneWay bool
	// IndexExpressions: an index can be on what is computed.
	IndexExpressions bool
	// NullsNotDistinct: a unique key can take nulls for equal.
	NullsNotDistinct bool
	// DateTypes: there are types of their own for dates and moments.
	DateTypes bool
	// ZonedMoments: a type for moments keeps them apart from time zones, and
	// another does not.
	ZonedMoments bool
	// FoldsCase: a name without quotes is taken for its small letters.
	FoldsCase bool
	// Comments: tables and columns can have them.
	Comments bool
	// Flag reports whether the type is the engine's own for yes and no, though it
	// goes by the name of another. Nil: never.
	Flag func(Type) bool
	// Obsolete says why the engine's manual advises against a type, and what it
	// advises in its place; the second is empty where nothing takes its place as
	// it stands. Nil, or an empty reason: it does not.
	Obsolete func(Type) (why string, successor Type)
	// ExactType is for amounts of money; its native name is empty where there is no
	// exact type for fractions.
	ExactType Type
	// Now is the expression, as the engine writes it, of the present moment as
	// the default of a column of the type; empty where it takes none.
	Now func(Type) string
	// Condition is a condition as the engine writes it. Nil: none can be
	// proposed.
	Condition func(*Table, Condition) string
	// Bounds reads the bounds of a part of the table. Nil, or not ok: they are
	// not understood.
	Bounds func(t *Table, bounds string) (Bounds, bool)
	// RangeBounds writes the bounds of a part that takes a range. Nil: parts cannot be
	// proposed.
	RangeBounds func(t *Table, from, to Bound) string
	// HashBounds writes the bounds of a part by hash. Nil: the engine makes all of them.
	HashBounds func(modulus, remainder int) string
	// ListBounds writes the bounds of a part that takes one value, and the condition that
	// a row has it. Nil: parts cannot be proposed.
	ListBounds func(t *Table, value string) (bounds, condition string)
	// RangeKey cuts a plain table up by ranges of a column, and says how a moment is
	// written in its bounds; nil: it cannot be. Nil: no table can be.
	RangeKey func(t *Table, column string) (*PartitionKey, Bound)
	// InRange is the condition, as the engine writes it, that a column lies between two
	// moments, the second left out.
	InRange func(column string, from, to Bound) string
	// BoundAt is a moment as the engine writes it in bounds, in the way of another.
	BoundAt func(t *Table, at time.Time, like Bound) Bound
	// RestBounds are those of the part that takes what no other does; empty: the table
	// can have none.
	RestBounds func(t *Table) string
	// PartitionsStay: a table that is cut up cannot be made one table again.
	PartitionsStay bool
	// PartsAreTables: the parts of a partitioned table are tables.
	PartsAreTables bool
	// SystemNamed reports whether the engine itself would call a key, foreign
	// key, check or index of the table so. Nil: it leaves them without a name.
	SystemNamed func(t *Table, kind, name string, columns []string) bool
	// SequenceMost is the largest number that a sequence can give; 0: there are none, or
	// they cannot be altered.
	SequenceMost int64
	// DefaultOnNull: a default can take the place of a null that is given, so that it numbers a
	// column just as a trigger would; a column that is there can be made no identity.
	DefaultOnNull bool
	// ChildrenLocked: where no index leads to the rows that refer to a parent, all of the referring
	// table is locked for as long as a parent's key is written or a parent deleted.
	ChildrenLocked bool
	// SequenceTypes: a sequence has a type, which limits it.
	SequenceTypes bool
	// NextValue is the default that draws from a sequence, as the engine writes it. Nil:
	// a column's sequence cannot be changed for another while others insert.
	NextValue func(sequence Ref) string
	// Spreads: tables are laid out over the slices of a cluster, kept in an order of
	// their own, and compressed column by column.
	Spreads bool
	// ReferencesAtEnd: a foreign key is looked at once the statement is done with all that its triggers
	// do.
	ReferencesAtEnd bool
	// KeysUnenforced: keys and foreign keys are declared, and nothing keeps them.
	KeysUnenforced bool
	// PrimaryKeysAlone: a table can have a primary key, and no other unique one; foreign keys
	// refer to it alone.
	PrimaryKeysAlone bool
	// Clusters is how many columns a table's blocks can be kept together by, so that a query
	// for some values reads few of them; 0: tables are not clustered so.
	Clusters int
	// PartitionEvery cuts a plain table up by the values of a column, where the engine makes
	// the parts as rows come. Every is the length of a part: "day", "month", "year"; nil: it
	// cannot be. Nil: the engine makes no parts.
	PartitionEvery func(t *Table, column, every string) *PartitionKey
	// FiltersRequired: a partitioned table can refuse queries that do not say which parts they
	// read.
	FiltersRequired bool
	// Lists: the data can be asked about values of which a row has any number.
	Lists bool
	// NoForeignKeys: none can be declared; what refers to what is in people's heads, and the data.
	NoForeignKeys bool
	// Undeclared: nothing declares what columns a table has, nor their types: both are read from
	// some of its rows.
	Undeclared bool
	// Compares names what values of a type compare with, where nothing declares types: those of one
	// name compare.
	Compares func(native string) string
	// Expires is the type of the moments by which the index lets rows expire, where nothing declares
	// types; "": it lets none.
	Expires func(*Index) string
	// GrowsAtEnd reports whether the rows of a table are spread by ranges of a column whose values
	// only grow.
	GrowsAtEnd func(*Table) bool
	// Shards: a table may be laid out over several machines by the values of a column.
	Shards bool
	// ChecksNewRows: a check that is declared says nothing of the rows that are there.
	ChecksNewRows bool
	// LargestRow is how many bytes a row can have; 0: any number.
	LargestRow int64
	// Presence is the check that says of which type each column is, and that those are there which
	// all rows have, as the engine writes it, under the name that it has; of what is not told by
	// types it says nothing. Nil: the engine has no such check.
	Presence func(t *Table) *Check
	// Metered: whoever asks pays for the bytes that the engine reads.
	Metered bool
	// Indexless: there are no indexes.
	Indexless bool
	// RawEncoding is that of a column which is not compressed.
	RawEncoding string
	// Encoding is how a column of the type is best compressed, as the engine suggests.
	Encoding func(Type) string
	// ActionsBarChecks: no check may stand on a column that an action of a foreign
	// key writes.
	ActionsBarChecks bool
	// UncheckedReferences: a foreign key can be declared without a look at the rows,
	// and the catalog says so of it.
	UncheckedReferences bool
	// RequiredAtBirth: a column that is there cannot be made to refuse null.
	RequiredAtBirth bool
	// NotNullNamed: what forbids null in a column keeps a name that somebody gave it, and can be given
	// one where it is declared; the engine's own names are of no account.
	NotNullNamed bool
	// NotNullName is what the engine calls a constraint that forbids null in a column of a
	// table. Nil: such constraints have no names.
	NotNullName func(table, column string) string
	// NotEnforced: a constraint can be declared so that nothing checks it.
	NotEnforced bool
	// WarnsUnenforced: of a row that breaks a check which is not enforced the server's log tells, so
	// that a check may begin its life like that.
	WarnsUnenforced bool
	// Overlaps reports whether a key can end with a column of the type, a range, in which rows
	// that are alike in the rest may not overlap. Nil: with none.
	Overlaps func(Type) bool
	// SkipsColumns: an index serves a search on later columns of it too, as long as the
	// first has few values.
	SkipsColumns bool
	// PartsShareIdentity: the parts of a partitioned table number a column as the whole does,
	// and from its sequence.
	PartsShareIdentity bool
	// TriggersFill: a trigger before an insert can give a column of the new row a value.
	TriggersFill bool
	// TriggersSwitch: a trigger can be switched off and on.
	TriggersSwitch bool
	// IndexNamesPerTable: two tables may have indexes of one name.
	IndexNamesPerTable bool
	// ConstraintNamesPerSchema: two tables of a schema may not have constraints of one name.
	ConstraintNamesPerSchema bool
	// Expressions reads the expressions of its catalogs; nil: nobody does.
	Expressions Expressions
	// MaxName is the longest identifier in bytes; 0: no limit.
	MaxName int
}
