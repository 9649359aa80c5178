// Package mariadb reads MariaDB databases, version 10.5 and later, and writes
// what concerns their indexes and keys.
package mariadb

import (
	"math"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqlexpr"
	"nexdal/internal/engine/sqllex"
)

// Engine is MariaDB, or another server of its family ([Of]).
type Engine struct{ is *Family }

// Name is "mariadb".
func (e Engine) Name() string { return e.family().Name }

// Title is the makers' spelling.
func (e Engine) Title() string { return e.family().Title }

// Schemes of its URLs.
func (e Engine) Schemes() []string { return e.family().Schemes }

// Dialect of its lexer (https://mariadb.com/kb/en/identifier-names/,
// https://mariadb.com/kb/en/string-literals/),
// with its client's DELIMITER.
func (Engine) Dialect() sqllex.Dialect {
	return sqllex.Dialect{Backquotes: true, Backslashes: true, HashComments: true, CodeComments: true, Delimiters: true, CountsInto: true, Hints: sqllex.UseIndex, Letters: "char_length"}
}

// Abilities of version 10.5 and later. The manual pages behind them:
// https://mariadb.com/kb/en/foreign-keys/ (the switch foreign_key_checks),
// https://mariadb.com/kb/en/identifier-names/ (64 characters),
// https://mariadb.com/kb/en/partitioning-limitations/ (keys hold the columns).
func (e Engine) Abilities(version string) catalog.Abilities {
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
		Expressions:                sqlexpr.Reader{Dialect: Engine{}.Dialect()},
	}
	if alter := e.family().Alter; alter != nil {
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
func (e Engine) Serves() string { return e.family().Serves }
