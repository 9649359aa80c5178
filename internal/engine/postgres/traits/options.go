package traits

// ShadowedNames is what the survey calls that bare names may mean other objects than the engine's
// (https://www.postgresql.org/docs/current/ddl-schemas.html#DDL-SCHEMAS-PATTERNS).
const ShadowedNames = "shadowed_names"

// DefaultPrivileges is what the survey calls that somebody altered what new objects are
// granted (https://www.postgresql.org/docs/current/sql-alterdefaultprivileges.html).
const DefaultPrivileges = "default_privileges"

// What an index may be pinned for.
const (
	PinnedReplica = "replica identity"
	PinnedCluster = "clustering order"
)
