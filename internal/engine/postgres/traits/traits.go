// Package traits says what PostgreSQL is like: how it writes names and texts, and what its versions
// can do.
package traits

import (
	"math"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqlexpr"
	"nexdal/internal/engine/sqllex"
)

// Traits are those of PostgreSQL.
type Traits struct{}

// Name is "postgres".
func (Traits) Name() string { return "postgres" }

// Title is the makers' spelling.
func (Traits) Title() string { return "PostgreSQL" }

// Schemes of its connection URLs.
func (Traits) Schemes() []string { return []string{"postgres", "postgresql"} }

// Dialect of its lexer (https://www.postgresql.org/docs/current/sql-syntax-lexical.html),
// with the backslash commands of psql.
func (Traits) Dialect() sqllex.Dialect {
	return sqllex.Dialect{DollarStrings: true, EscapeStrings: true, NestedComments: true, Small: true, Letters: "length", Hints: sqllex.ByIndex, Infers: true, Directives: `\`}
}

// Abilities of version 12 and later. The manual pages behind them:
// runtime-config-client (session_replication_role), ddl-partitioning section
// 5.11.2.3 (keys of partitioned tables), sql-syntax-lexical (63 bytes).
func (Traits) Abilities(version string) catalog.Abilities {
	return catalog.Abilities{
		EnforcementSetting: "session_replication_role",
		EnforcementOff:     "replica",
		EnforcementDefault: "origin",
		EnforcementAdvice:  "session_replication_role = origin",
		AddedKeyType:       catalog.Type{Native: "bigint", Family: catalog.Integer, Bits: 64},
		IntegerTypes: []catalog.Type{{Native: "smallint", Family: catalog.Integer, Bits: 16}, {Native: "integer", Family: catalog.Integer, Bits: 32},
			{Native: "bigint", Family: catalog.Integer, Bits: 64}},
		AddedKeyIdentity:           catalog.IdentityByDefault,
		PartitionedKeyNeedsColumns: true,
		DropsEmptySchemas:          true,
		ForeignKeysNameIndex:       true,
		OwnedSequences:             true,
		IndexPage:                  2704, // https://www.postgresql.org/docs/current/btree.html: about a third of a page
		Reserved:                   func(word string) bool { return reserved[word] },
		CountsReads:                true,
		ReadsAdvice:                "set track_counts = on, and survey the database itself",
		IndexEntry:                 12, // header and pointer: https://www.postgresql.org/docs/current/btree-implementation.html
		AnalyseAdvice:              "ANALYZE on the database, then survey it",
		DeferrableReferences:       true,
		MatchFull:                  true,
		PartialIndexes:             true,
		NullsNotDistinct:           AtLeast(version, 15),
		DateTypes:                  true,
		ZonedMoments:               true,
		SequenceTypes:              true,
		SequenceMost:               math.MaxInt64,
		NextValue:                  nextValue,
		UncheckedReferences:        true,
		RangeBounds:                rangeBounds,
		HashBounds:                 hashBounds,
		ListBounds:                 oneValue,
		RangeKey:                   rangeKey,
		CountsDeadRows:             true,
		MaintainsItself:            true,
		InRange:                    within,
		BoundAt:                    boundAt,
		RestBounds:                 restBounds,
		PartsAreTables:             true,
		TriggersSwitch:             true,
		TriggersFill:               true,
		FoldsCase:                  true,
		Comments:                   true,
		Obsolete:                   obsolete,
		ExactType:                  catalog.Type{Native: "numeric(19,4)", Family: catalog.Decimal, Precision: 19, Scale: 4},
		Now:                        now,
		Condition:                  condition,
		Bounds:                     BoundsOf,
		SystemNamed:                SystemNamed,
		MaxName:                    63,
		Expressions:                sqlexpr.Reader{Dialect: Traits{}.Dialect()},
		NotNullName:                since(version, 18, NotNullName),
		PartsShareIdentity:         AtLeast(version, 17),
		NotEnforced:                AtLeast(version, 18),
		Overlaps:                   since(version, 18, func(y catalog.Type) bool { return strings.HasSuffix(y.Native, "range") }),
		SkipsColumns:               AtLeast(version, 18),
	}
}

// since is the ability where the version is of that major one or a later.
func since[T any](version string, major int, is T) (none T) {
	if AtLeast(version, major) {
		return is
	}
	return none
}

// Serves names the versions that the catalog of is read whole.
func (Traits) Serves() string { return "12 and later" }
