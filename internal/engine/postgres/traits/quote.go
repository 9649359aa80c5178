package traits

import (
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqllex"
)

// Quoting knows the words that need quotes as names
// (https://www.postgresql.org/docs/current/sql-keywords-appendix.html: all but
// the non-reserved ones).
var Quoting = sqllex.NewQuoting(`"`, `all analyse analyze and any array as asc asymmetric authorization between bigint binary bit boolean both case cast char character check coalesce collate collation column concurrently constraint create cross current_catalog current_date current_role current_schema current_time current_timestamp current_user dec decimal default deferrable desc distinct do else end except exists extract false fetch float for foreign freeze from full grant greatest group grouping having ilike in initially inner inout int integer intersect interval into is isnull join json json_array json_arrayagg json_exists json_object json_objectagg json_query json_scalar json_serialize json_table json_value lateral leading least left like limit localtime localtimestamp merge_action national natural nchar none normalize not notnull null nullif numeric offset on only or order out outer overlaps overlay placing position precision primary real references returning right row select session_user setof similar smallint some substring symmetric system_user table tablesample then time timestamp to trailing treat trim true union unique user using values varchar variadic verbose when where window with xmlattributes xmlconcat xmlelement xmlexists xmlforest xmlnamespaces xmlparse xmlpi xmlroot xmlserialize xmltable`).WithCollations(inCollation)

// Ident writes a name.
func Ident(name string) string { return Quoting.Ident(name) }

// Idents writes names, with commas between them.
func Idents(names []string) string { return Quoting.Idents(names) }

// Qualified writes a name with its schema.
func Qualified(schema, name string) string { return Ident(schema) + "." + Ident(name) }

// Relation writes the name of a table, a view or a sequence with its schema.
func Relation(r catalog.Ref) string { return Qualified(r.Schema, r.Table) }

// Literal writes a string; backslashes stay what they are, since
// standard_conforming_strings is on by default since 9.1.
func Literal(s string) string { return "'" + strings.ReplaceAll(s, "'", "''") + "'" }

// CollationName writes the name of a collation or operator class, which
// carries a schema where it is not the system's.
func CollationName(name string) string {
	if name == "" {
		return ""
	}
	schema, rest, ok := strings.Cut(name, ".")
	if !ok {
		return Ident(name)
	}
	return Qualified(schema, rest)
}

// inCollation: texts of two collations are not compared; a foreign key compares by that of the key
// (https://www.postgresql.org/docs/current/collation.html#COLLATION-CONCEPTS).
func inCollation(q sqllex.Quoting, value string, as catalog.Type) string {
	schema, name, ok := strings.Cut(as.Collation, ".")
	switch {
	case as.Collation == "":
		return value + ` COLLATE pg_catalog."default"`
	case !ok:
		return value + " COLLATE " + q.Ident(schema)
	}
	return value + " COLLATE " + q.Ident(schema) + "." + q.Ident(name)
}

// Quoting writes names as the engine wants them.
func (Traits) Quoting() sqllex.Quoting { return Quoting }

// Relation is the table's name with its schema.
func (Traits) Relation(r catalog.Ref) string { return Relation(r) }

// Holding locks the tables against writers
// (https://www.postgresql.org/docs/current/explicit-locking.html).
func (Traits) Holding(tables ...catalog.Ref) []string {
	names := make([]string, len(tables))
	for i, ref := range tables {
		names[i] = Relation(ref)
	}
	return []string{"BEGIN", "LOCK TABLE " + strings.Join(names, ", ") + " IN SHARE ROW EXCLUSIVE MODE"}
}
