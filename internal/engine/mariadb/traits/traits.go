// Package traits says what MariaDB and the other servers of its family are like: how they write names
// and texts, what they call things in their views, and what their versions can do.
package traits

import (
	"math"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqlexpr"
	"nexdal/internal/engine/sqllex"
)

// Traits are those of a server of the family; nil: of MariaDB.
type Traits struct{ Is *Family }

// Name is "mariadb".
func (e Traits) Name() string { return e.Family().Name }

// Title is the makers' spelling.
func (e Traits) Title() string { return e.Family().Title }

// Schemes of its URLs.
func (e Traits) Schemes() []string { return e.Family().Schemes }

// Dialect of its lexer (https://mariadb.com/kb/en/identifier-names/,
// https://mariadb.com/kb/en/string-literals/),
// with its client's DELIMITER.
func (Traits) Dialect() sqllex.Dialect {
	return sqllex.Dialect{Backquotes: true, Backslashes: true, HashComments: true, CodeComments: true, Delimiters: true, CountsInto: true, Hints: sqllex.UseIndex, Letters: "char_length"}
}

// Abilities of version 10.5 and later. The manual pages behind them:
// https://mariadb.com/kb/en/foreign-keys/ (the switch foreign_key_checks),
// https://mariadb.com/kb/en/identifier-names/ (64 characters),
// https://mariadb.com/kb/en/partitioning-limitations/ (keys hold the columns).
func (e Traits) Abilities(version string) catalog.Abilities {
	can := catalog.Abilities{
		EnforcementSetting: "foreign_key_checks",
		EnforcementOff:     "OFF",
		EnforcementDefault: "ON",
		EnforcementAdvice:  "SET GLOBAL foreign_key_checks = ON, and in the configuration file",
		AddedKeyType:       catalog.Type{Native: "bigint(20)", Family: catalog.Integer, Bits: 64},
		IntegerTypes: []catalog.Type{{Native: "smallint(6)", Family: catalog.Integer, Bits: 16}, {Native: "int(11)", Family: catalog.Integer, Bits: 32},
			{Native: "bigint(20)", Family: catalog.Integer, Bits: 64}},
		AddedKeyIdentity:           catalog.IdentityCounter,
		InvisibleColumns:           true,
		Definers:                   true,
		ViewsBreak:                 true,
		WithoutTransactions:        withoutTransactions,
		PartitionedKeyNeedsColumns: true,
		ForeignKeysNameIndex:       true,
		PlainAction:                catalog.Restrict,
		ForeignKeyIndexYields:      true,
		ActionsBarChecks:           true,
		PrimaryKeyName:             "PRIMARY",
		UniqueIndexIsKey:           true,
		PlacesColumns:              true,
		ClusteredByKey:             clustered,
		AnalyseAdvice:              "ANALYZE TABLE, then survey the database",
		DateTypes:                  true,
		Comments:                   true,
		Flag:                       func(t catalog.Type) bool { return t.Native == "tinyint(1)" || t.Native == "bit(1)" },
		Obsolete:                   obsolete,
		ExactType:                  catalog.Type{Native: "decimal(19,4)", Family: catalog.Decimal, Precision: 19, Scale: 4},
		Now:                        now,
		Condition:                  condition,
		Bounds:                     boundsOf,
		SystemNamed:                systemNamed,
		Reserved:                   func(word string) bool { return reserved[word] },
		RangeBounds:                rangeBounds,
		ListBounds:                 oneValue,
		RangeKey:                   rangeKey,
		InRange:                    within,
		BoundAt:                    boundAt,
		RestBounds:                 restBounds,
		SequenceMost:               math.MaxInt64 - 1,
		IndexNamesPerTable:         true,
		MaxName:                    64,
		TriggersFill:               true,
		Expressions:                sqlexpr.Reader{Dialect: Traits{}.Dialect()},
	}
	if alter := e.Family().Alter; alter != nil {
		alter(&can, version)
	}
	return can
}

// clustered: InnoDB keeps rows in the order of the primary key
// (https://mariadb.com/kb/en/getting-started-with-indexes/).
func clustered(t *catalog.Table) bool {
	return !slices.ContainsFunc(t.Options, func(o string) bool { return strings.HasPrefix(o, "engine ") })
}

// Serves names the versions that the catalog of is read whole.
func (e Traits) Serves() string { return e.Family().Serves }
