package traits

import (
	"cmp"
	"fmt"
	"strings"
	"time"

	"nexdal/internal/catalog"
)

// The options of a column that begin so are of the column's own, with what stands behind
// (https://learn.microsoft.com/en-us/sql/relational-databases/security/dynamic-data-masking,
// https://learn.microsoft.com/en-us/sql/relational-databases/security/encryption/always-encrypted-database-engine,
// https://learn.microsoft.com/en-us/sql/relational-databases/system-stored-procedures/sp-bindrule-transact-sql,
// https://learn.microsoft.com/en-us/sql/relational-databases/xml/xml-schema-collections-sql-server).
const (
	Masked       = "masked by "
	Encrypted    = "encrypted, "
	BoundRule    = "bound to rule "
	BoundDefault = "bound to default "
	Typed        = "of XML schema collection "
)

// firing orders of a trigger
// (https://learn.microsoft.com/en-us/sql/relational-databases/system-stored-procedures/sp-settriggerorder-transact-sql).
const (
	FiresFirst = 1
	FiresLast  = -1
)

// LockTimeout is how long a session waits for a lock, unless it is told otherwise.
const LockTimeout = 5 * time.Second

// ChangeTracking is the option of a table whose changes are tracked.
const ChangeTracking = "change tracking"

// Bars says what of the column's options keeps it from being altered, or "".
func Bars(c *catalog.Column) string {
	for _, o := range c.Options {
		if o == "column set" || o == "filestream" || o == "generated always" || strings.HasPrefix(o, Masked) || UnwrittenOption(o) {
			return o
		}
	}
	return ""
}

// UnwrittenOption reports whether a column's option rests on what is not read.
func UnwrittenOption(o string) bool {
	return strings.HasPrefix(o, Encrypted) || strings.HasPrefix(o, BoundRule) || strings.HasPrefix(o, BoundDefault) || strings.HasPrefix(o, Typed)
}

// PrimaryXML is the one that the other XML indexes of a column rest on.
const PrimaryXML = "PRIMARY"

// Description is the property that the maker's own tools show as a comment
// (https://learn.microsoft.com/en-us/sql/relational-databases/system-stored-procedures/sp-addextendedproperty-transact-sql).
const Description = "MS_Description"

// LockLimit says how long a statement may wait for a lock; 0 is the default.
func LockLimit(lock time.Duration) string {
	return fmt.Sprintf("SET LOCK_TIMEOUT %d", cmp.Or(lock, LockTimeout).Milliseconds())
}

// Uncompared are the types whose values the engine neither compares nor counts.
func Uncompared(t catalog.Type) bool {
	switch t.Native {
	case "text", "ntext", "image", "xml", "geography", "geometry":
		return true
	}
	return t.Family == catalog.Binary || t.Family == catalog.Other
}
