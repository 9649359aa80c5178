// Package mongodb reads and writes databases of MongoDB, which keep documents whose structure nothing
// declares: it is read from some of them, or all. Exported documents in files, a line each, are read
// the same way.
package mongodb

import (
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/sqlexpr"
	"nexdal/internal/engine/sqllex"
)

// Engine is MongoDB.
type Engine struct{}

// Name is "mongodb".
func (Engine) Name() string { return "mongodb" }

// Title is the makers' spelling.
func (Engine) Title() string { return "MongoDB" }

// Serves says what this was tried on.
func (Engine) Serves() string {
	return "by its documented commands, tried on a simulated server alone; exported documents in files"
}

// Schemes of its addresses. The last leads to a folder of files.
func (Engine) Schemes() []string { return []string{"mongodb", "mongodb+srv", "docs"} }

// Dialect cuts what its shell runs, which is JavaScript.
func (Engine) Dialect() sqllex.Dialect {
	return sqllex.Dialect{TextQuotes: true, SlashComments: true, Letters: "length"}
}

// The most that a document and an index's name may be
// (https://www.mongodb.com/docs/manual/reference/limits/).
const (
	largestDocument = 16 << 20
	longestName     = 255
)

// Abilities: nothing declares what a collection holds but a validator; a unique index takes what is
// not there for null, and one null alone
// (https://www.mongodb.com/docs/manual/core/index-unique/).
func (Engine) Abilities(string) catalog.Abilities {
	return catalog.Abilities{
		NoForeignKeys: true, Undeclared: true, Lists: true, Shards: true, LargestRow: largestDocument, RequiredAtBirth: true,
		UniqueIndexIsKey: true, NullsAlike: true, IndexNamesPerTable: true, PrimaryKeyName: idIndex, NotEnforced: true, WarnsUnenforced: true, ChecksNewRows: true,
		CountsReads: true, ReadsAdvice: "grant the role clusterMonitor, which may ask for $indexStats",
		PartialIndexes: true, DateTypes: true, MaxName: longestName,
		AnalyseAdvice: "survey the database itself",
		Presence:      presence,
		Compares:      compares,
		Expires:       expires,
		GrowsAtEnd:    growsAtEnd,
		Expressions:   sqlexpr.Reader{Dialect: Engine{}.Dialect()},
	}
}

// idIndex is the index behind the key that every collection has.
const idIndex = "_id_"

// ClientLine is a call of its shell
// (https://www.mongodb.com/docs/mongodb-shell/write-scripts/).
func (Engine) ClientLine(address, file string) string {
	if address == "" || strings.HasPrefix(address, "docs:") {
		address = "mongodb://HOST/DATABASE"
	}
	return "mongosh '" + address + "' " + file
}

var (
	_ engine.Writer  = Engine{}
	_ engine.Creator = Engine{}
)
