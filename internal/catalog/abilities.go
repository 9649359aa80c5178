package catalog

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
	// AddedKeyIdentity is how such a column is numbered.
	AddedKeyIdentity Identity
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
	// ConstraintCopies: adding a constraint means copying the whole table.
	ConstraintCopies bool
	// PlainAction is what the catalog says of a foreign key that was declared
	// without an action; empty: NoAction.
	PlainAction Action
	// ForeignKeysNameIndex: the catalog says which index of the target a foreign
	// key leans on.
	ForeignKeysNameIndex bool
	// ForeignKeyIndexYields: an index that the engine made for a foreign key
	// goes when another one serves.
	ForeignKeyIndexYields bool
	// PrimaryKeyName is what every primary key is called, where it cannot be
	// chosen.
	PrimaryKeyName string
	// MaxName is the longest identifier in bytes; 0: no limit.
	MaxName int
}
