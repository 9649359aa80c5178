package postgres

import (
	"regexp"
	"strings"

	"nexdal/internal/catalog"
)

var plainName = regexp.MustCompile(`^[a-z_][a-z0-9_]*$`)

// reserved words that need quotes as names
// (https://www.postgresql.org/docs/current/sql-keywords-appendix.html: all but
// the non-reserved ones).
var reserved = map[string]bool{}

func init() {
	for w := range strings.FieldsSeq(`all analyse analyze and any array as asc asymmetric authorization between bigint binary bit boolean both case cast char character check coalesce collate collation column concurrently constraint create cross current_catalog current_date current_role current_schema current_time current_timestamp current_user dec decimal default deferrable desc distinct do else end except exists extract false fetch float for foreign freeze from full grant greatest group grouping having ilike in initially inner inout int integer intersect interval into is isnull join json json_array json_arrayagg json_exists json_object json_objectagg json_query json_scalar json_serialize json_table json_value lateral leading least left like limit localtime localtimestamp merge_action national natural nchar none normalize not notnull null nullif numeric offset on only or order out outer overlaps overlay placing position precision primary real references returning right row select session_user setof similar smallint some substring symmetric system_user table tablesample then time timestamp to trailing treat trim true union unique user using values varchar variadic verbose when where window with xmlattributes xmlconcat xmlelement xmlexists xmlforest xmlnamespaces xmlparse xmlpi xmlroot xmlserialize xmltable`) {
		reserved[w] = true
	}
}

// ident writes a name, with quotes where it needs them.
func ident(name string) string {
	if plainName.MatchString(name) && !reserved[name] {
		return name
	}
	return `"` + strings.ReplaceAll(name, `"`, `""`) + `"`
}

func idents(names []string) string {
	quoted := make([]string, len(names))
	for i, n := range names {
		quoted[i] = ident(n)
	}
	return strings.Join(quoted, ", ")
}

// qualified writes a name with its schema.
func qualified(schema, name string) string { return ident(schema) + "." + ident(name) }

func relation(r catalog.Ref) string { return qualified(r.Schema, r.Table) }

// literal writes a string; backslashes stay what they are, since
// standard_conforming_strings is on by default since 9.1.
func literal(s string) string { return "'" + strings.ReplaceAll(s, "'", "''") + "'" }
