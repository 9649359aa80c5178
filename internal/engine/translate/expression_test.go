package translate

import (
	"testing"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqllex"
)

var (
	standard = sqllex.Dialect{DollarStrings: true, EscapeStrings: true, NestedComments: true, Letters: "length"}
	slashes  = sqllex.Dialect{Backquotes: true, Backslashes: true, HashComments: true, Letters: "char_length"}
)

func of(from, to string, source, dialect sqllex.Dialect) *translation {
	return &translation{from: &catalog.Catalog{Engine: catalog.Engine{Name: from}}, Target: Target{Engine: catalog.Engine{Name: to}, Source: source, Dialect: dialect,
		Ident: func(s string) string { return "<" + s + ">" }, Now: "NOW", Today: "TODAY", True: "YES", False: "NO"}}
}

var gauge = &catalog.Table{Columns: []*catalog.Column{
	{Name: "id", Type: catalog.Type{Family: catalog.Integer}}, {Name: "code", Type: catalog.Type{Family: catalog.Text}}, {Name: "Two Words", Type: catalog.Type{Family: catalog.Text}},
	{Name: "level", Type: catalog.Type{Family: catalog.Float}}, {Name: "at", Type: catalog.Type{Family: catalog.Timestamp}}, {Name: "ok", Type: catalog.Type{Family: catalog.Boolean}},
}}

// TestExpression: what means the same is rewritten, with the casts of the
// engine taken out; what may mean something else is refused ("").
func TestExpression(t *testing.T) {
	fromPostgres, fromMariaDB := of("postgres", "mariadb", standard, slashes), of("mariadb", "postgres", slashes, standard)
	for _, c := range []struct {
		x          *translation
		text, want string
	}{
		{fromPostgres, "(level > (0)::double precision)", "(<level> > (0))"},
		{fromPostgres, "((code)::text = ANY ((ARRAY['A'::character varying, 'it''s'::character varying])::text[]))", "((<code>) IN ('A', 'it''s'))"},
		{fromPostgres, "(code = ANY (ARRAY['a\\b'::text]))", `(<code> IN ('a\\b'))`},
		{fromPostgres, "((level >= ('-90'::integer)::double precision) AND (level <= (90)::double precision))", "((<level> >= (-90)) AND (<level> <= (90)))"},
		{fromPostgres, `("Two Words" IS NOT NULL)`, "(<Two Words> IS NOT NULL)"},
		{fromPostgres, "(length(code) > 1)", "(char_length(<code>) > 1)"},
		{fromPostgres, "(at > '2026-01-01 00:00:00'::timestamp without time zone)", "(<at> > '2026-01-01 00:00:00')"},
		{fromPostgres, "(at > '2026-01-01 00:00:00+00'::timestamp with time zone)", ""},
		{fromPostgres, "(ok = true)", "(<ok> = YES)"},
		{fromPostgres, "(id / 2)", ""},
		{fromPostgres, "(code ~ '^a')", ""},
		{fromPostgres, "(code ~~ 'a%'::text)", ""},
		{fromPostgres, "(other > 1)", ""},
		{fromPostgres, "f(id)", ""},
		{fromPostgres, "((code || 'x'::text) <> ''::text)", ""},
		{fromPostgres, "(id + 1)", "(<id> + 1)"},
		{fromPostgres, "(code + 1)", ""},
		{fromPostgres, "", ""},
		{fromMariaDB, "`level` between -90 and 90", "<level> BETWEEN - 90 AND 90"},
		{fromMariaDB, "char_length(`code`) > 1", "length(<code>) > 1"},
		{fromMariaDB, "length(`code`) > 1", ""},
		{fromMariaDB, "`code` <> 'it\\'s'", "<code> <> 'it''s'"},
		{fromMariaDB, "`code` > 5", ""},
		{fromMariaDB, "json_valid(`code`)", ""},
	} {
		got, ok := c.x.Expression(gauge, c.text)
		if !ok {
			got = ""
		}
		if got != c.want {
			t.Errorf("%s: %q, not %q", c.text, got, c.want)
		}
	}
}

func TestDefaults(t *testing.T) {
	x := of("postgres", "mariadb", standard, slashes)
	for _, c := range []struct {
		text   string
		family catalog.Family
		want   string
	}{
		{"now()", catalog.Timestamp, "NOW"}, {"CURRENT_TIMESTAMP", catalog.Date, "TODAY"}, {"now()", catalog.Decimal, ""}, {"CURRENT_DATE", catalog.Date, "TODAY"},
		{"'quiet'::text", catalog.Text, "'quiet'"}, {"'-5'::integer", catalog.Integer, "-5"}, {"0", catalog.Integer, "0"}, {"(-1)", catalog.Integer, "-1"}, {"1.5", catalog.Decimal, "1.5"},
		{"true", catalog.Boolean, "YES"}, {"'f'::bpchar", catalog.Boolean, "NO"}, {"0", catalog.Boolean, "NO"}, {"5", catalog.Boolean, ""}, {"NULL::character varying", catalog.Text, "NULL"},
		{"gen_random_uuid()", catalog.UUID, ""}, {"nextval('x'::regclass)", catalog.Integer, ""}, {"'0000-00-00'", catalog.Date, ""}, {"'2026-01-01'::date", catalog.Date, "'2026-01-01'"},
		{"'{}'::jsonb", catalog.JSON, "'{}'"}, {"'{'::text", catalog.JSON, ""}, {"'abc'", catalog.Integer, ""}, {`'a\b'`, catalog.Text, `'a\\b'`}, {"'\\x00'::bytea", catalog.Binary, ""},
	} {
		got, ok := x.value(c.text, catalog.Type{Family: c.family})
		if !ok {
			got = ""
		}
		if got != c.want {
			t.Errorf("%s for %s: %q, not %q", c.text, c.family, got, c.want)
		}
	}
}
