package model

import "nexdal/internal/catalog"

// Abilities are what changes ask of an engine, in the combinations that there are: of
// one whose partitions are tables, one whose indexes yield to others, one that keeps rows
// in the order of their key, one without indexes, and one that can do nothing.
func Abilities() map[string]catalog.Abilities {
	return map[string]catalog.Abilities{
		"none": {},
		"tables": {PartitionedKeyNeedsColumns: true, DropsEmptySchemas: true, ForeignKeysNameIndex: true, OwnedSequences: true, UncheckedReferences: true,
			PartsAreTables: true, TriggersSwitch: true, MaxName: 63},
		"yields": {PartitionedKeyNeedsColumns: true, ForeignKeysNameIndex: true, PlainAction: catalog.Restrict, ForeignKeyIndexYields: true, UniqueIndexIsKey: true,
			PrimaryKeyName: "PRIMARY", PlacesColumns: true, IndexNamesPerTable: true, MaxName: 64},
		"order": {NullableKeys: true, SystemNamedKeys: true, ConstraintCopies: true, OwnOrder: func(t *catalog.Table, columns []string) bool {
			return len(columns) == 1 && t.Column(columns[0]).Type.Family == catalog.Integer
		}},
		"cluster": {Spreads: true, KeysUnenforced: true, Indexless: true, NullableKeys: true, MaxName: 127},
	}
}
