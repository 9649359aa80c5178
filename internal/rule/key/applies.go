package key

import "nexdal/internal/catalog"

// uniqueKeys: a table can have unique keys besides the primary one.
func uniqueKeys(can catalog.Abilities) bool { return !can.PrimaryKeysAlone }
