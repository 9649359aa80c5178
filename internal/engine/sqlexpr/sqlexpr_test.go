package sqlexpr

import (
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"nexdal/internal/engine/sqllex"
)

var reader = Reader{sqllex.Dialect{Backquotes: true, Brackets: true, DollarStrings: true, NestedComments: true}}

func TestMentions(t *testing.T) {
	for _, c := range []struct {
		expression, column string
		want               bool
	}{
		{"level > 0", "level", true}, {"LEVEL > 0", "level", true}, {`"Level" > 0`, "Level", true}, {`"Level" > 0`, "level", false}, {"`level` > 0", "level", true}, {"[level] > 0", "level", true},
		{"kind <> 'level'", "level", false}, {"kind <> 'it''s level'", "level", false}, {"kind > 0 -- level", "level", false}, {"/* level */ kind > 0", "level", false}, {"$$level$$ = kind", "level", false},
		{"level_mm > 0", "level", false}, {"my_level > 0", "level", false}, {"gauge.level > 0", "level", true}, {"level(kind) > 0", "level", false}, {"(level)::text <> ''", "text", false}, {"(level)::text <> ''", "level", true},
		{`"a""b" > 0`, `a"b`, true}, {"", "level", false}, {"level", "", false}, {"Ⱥ > 0", "Ⱥ", true}, {"ȺȺȺ > level", "level", true}, {"x > 0 AND Ⱥlevel > 1", "level", false}, {"İ = ẞ", "level", false},
		{"'Ⱥ' = level", "level", true}, {"\xff\xfe level", "level", true},
	} {
		if got := reader.Mentions(c.expression, c.column); got != c.want {
			t.Errorf("%s mentions %s: %v", c.expression, c.column, got)
		}
	}
}

func TestNotNull(t *testing.T) {
	for expression, want := range map[string]string{
		"a IS NOT NULL": "a", "(a IS NOT NULL)": "a", "((a IS NOT NULL) AND (b IS NOT NULL))": "a b", `"a" is not null`: "a", "(((`a b`) is not null))": "a b", "t.a IS NOT NULL": "a",
		"(a IS NOT NULL AND b IS NOT NULL) AND c IS NOT NULL": "a b c", "a /* x */ IS NOT -- y\n NULL": "a", `("Is" IS NOT NULL)`: "Is",
		"c IS NULL": "", "a > 0": "", "a IS NOT NULL OR b > 1": "", "a IS NOT NULL OR b IS NOT NULL": "", "a IS NOT NULL AND": "", "a IS NOT NULL AND b > 1": "", "(a IS NOT NULL": "", "a IS NOT NULL)": "", "": "", "'a' IS NOT NULL": "", "lower(a) IS NOT NULL": "",
		"NOT a IS NOT NULL": "", "a IS NOT NULL b": "", "(a, b) IS NOT NULL": "",
	} {
		if got := strings.Join(reader.NotNull(expression), " "); got != want {
			t.Errorf("%s: %q, want %q", expression, got, want)
		}
	}
}

func TestPlain(t *testing.T) {
	for expression, want := range map[string]string{
		"level > 0": "level > 0", "(level > 0)": "level > 0", " ( ( level  >\n0 ) ) ": "level > 0", "(a) > (b)": "(a) > (b)", "(a = 1) OR (b = 2)": "(a = 1) OR (b = 2)", "((a = 1) OR (b = 2))": "(a = 1) OR (b = 2)",
		"a = ')' AND (b)": "a = ')' AND (b)", "(a = '(')": "a = '('", "a /* why */ > 0": "a > 0", "(a": "(a", "": "", "()": "", "'  '": "'  '",
	} {
		if got := reader.Plain(expression); got != want {
			t.Errorf("%q: %q, want %q", expression, got, want)
		}
	}
}

func TestConstants(t *testing.T) {
	for expression, want := range map[string]string{"0": "0 number", "'x'": "x", "'7'": "7 number", "('it''s')": "it's", "'x'::character varying(3)": "x", "(-1.5)": "-1.5 number", "NULL": "null", "(NULL::text)": "null", "now()": "?", "a": "?", "": "?", "'a' || 'b'": "?", "''": ""} {
		got := "?"
		if c, ok := reader.Constant(expression); ok {
			got = c.Text
			if c.Number {
				got += " number"
			}
			if c.Null {
				got = "null"
			}
		}
		if got != want {
			t.Errorf("%s: %q, want %q", expression, got, want)
		}
	}
	for _, c := range []struct {
		check, value string
		refuses      bool
	}{
		{"level > 0", "0", true}, {"level > 0", "1", false}, {"level >= 0", "0", false}, {"level < 5", "5", true}, {"level <= 5", "5", false}, {"level <> 3", "3", true}, {"level = 3", "4", true}, {"level != 3", "4", false},
		{"level BETWEEN 1 AND 5", "1", false}, {"level BETWEEN 1 AND 5", "0", true}, {"level BETWEEN 1 AND 5", "6", true}, {"((level >= 1) AND (level <= 5))", "6", true}, {"((level >= 1) AND (level <= 5))", "5", false},
		{"level IN ('a', 'b')", "'c'", true}, {"level IN ('a', 'b')", "'b'", false}, {"(level = ANY (ARRAY['a'::text, 'b'::text]))", "'c'", true}, {"(level = ANY (ARRAY['a'::text, 'b'::text]))", "'a'", false},
		{"(level > (0)::numeric)", "0", true}, {"(level > (0)::numeric)", "1", false}, {"(level > (0.5)::double precision)", "0", true}, {"(level <> (0)::numeric(6,2))", "0.0", true}, {"(level > '5000000000'::bigint)", "0", true},
		{"(level <> 'a'::text)", "'a'::text", true}, {"(level <> 'a'::text)", "'b'", false}, {"level = 'it''s'", "'it''s'", false}, {"level = 'a'", "'b'", true}, {"level = 'a' OR level = 'b'", "'c'", false},
		{"other > 0", "0", false}, {"level > other", "0", false}, {"level > 0", "'x'", false}, {"level > 0", "NULL", false}, {"length(level) > 3", "1", false}, {"level > 0 OR level < 10", "0", false},
	} {
		value, ok := reader.Constant(c.value)
		if !ok {
			t.Fatalf("%s is no constant", c.value)
		}
		if got := reader.Refuses(c.check, "level", value); got != c.refuses {
			t.Errorf("%s refuses %s: %v", c.check, c.value, got)
		}
	}
}

// TestAnyText: whatever the text, nothing fails, and what is plain stays so.
func TestAnyText(t *testing.T) {
	pieces := []string{"a", "Ⱥ", "İ", "(", ")", "'", `"`, "`", "[", "]", "--", "/*", "*/", "\n", " ", "is", "not", "null", "and", "::", "$$", "$x$", ".", "\xff", "0", "IN", "'a'", ","}
	r := rand.New(rand.NewPCG(1, 2))
	for range 20_000 {
		var b strings.Builder
		for range r.IntN(12) {
			b.WriteString(pieces[r.IntN(len(pieces))])
		}
		e := b.String()
		plain := reader.Plain(e)
		if again := reader.Plain(plain); again != plain {
			t.Fatalf("%q: plain %q, and again %q", e, plain, again)
		}
		columns := reader.NotNull(e)
		if len(columns) > 0 && slices.Contains(columns, "a") && !reader.Mentions(e, "a") {
			t.Fatalf("%q: not null %v, and not mentioned", e, columns)
		}
		reader.Mentions(e, "Ⱥ")
		if c, ok := reader.Constant(e); ok {
			reader.Refuses(e, "a", c)
		}
	}
}

// TestStamps: what a trigger gives the present moment, and whether it does nothing else.
func TestStamps(t *testing.T) {
	const row = "CREATE TRIGGER s BEFORE INSERT ON t FOR EACH ROW "
	for _, c := range []struct{ trigger, routine, want string }{
		{"SET NEW.made = NOW()", "", "made alone"},
		{"SET NEW.made = NOW(3), NEW.seen = CURRENT_TIMESTAMP", "", "made seen alone"},
		{"BEGIN SET NEW.`made at` = UTC_TIMESTAMP(); END", "", "made at alone"},
		{"BEGIN IF NEW.made IS NULL THEN SET NEW.made = NOW(); END IF; END", "", "made alone"},
		{"BEGIN IF NEW.other IS NULL THEN SET NEW.made = NOW(); END IF; END", "", "made"},
		{"BEGIN IF NEW.made IS NOT NULL THEN SET NEW.made = NOW(); END IF; END", "", "made"},
		{"SET NEW.made = IFNULL(NEW.made, NOW())", "", "made alone"},
		{"SET NEW.made = IFNULL(NEW.other, NOW())", "", ""},
		{"SET NEW.made = NOW() + INTERVAL 1 DAY", "", ""},
		{"SET NEW.made = 'now()'", "", ""},
		{"SET NEW.made = now(NEW.zone, 'x')", "", ""},
		{"SET NEW.name = TRIM(NEW.name), NEW.made = NOW()", "", "made"},
		{"BEGIN :NEW.made := SYSDATE; END s;", "", "made alone"},
		{"DECLARE n NUMBER; BEGIN :NEW.made := SYSDATE; END;", "", "made"},
		{"WHEN (NEW.made IS NULL) BEGIN :new.made := SYSTIMESTAMP; END;", "", "made alone"},
		{"WHEN (NEW.kind = 'x') BEGIN :new.made := SYSTIMESTAMP; END;", "", "made"},
		{"BEGIN NULL; END;", "", ""},
		{"EXECUTE FUNCTION f()", "CREATE FUNCTION f() RETURNS trigger AS $$ BEGIN NEW.made := now(); RETURN NEW; END $$", "made alone"},
		{"EXECUTE FUNCTION f()", "CREATE FUNCTION f() RETURNS trigger AS $x$\nBEGIN\n NEW.\"Made\" = clock_timestamp();\n RETURN NEW;\nEND;\n$x$", "Made alone"},
		{"EXECUTE FUNCTION f()", "CREATE FUNCTION f() RETURNS trigger AS $$ BEGIN NEW.made := now(); PERFORM g(); RETURN NEW; END $$", "made"},
		{"EXECUTE FUNCTION f()", "CREATE FUNCTION f() RETURNS trigger AS $$ DECLARE x int; BEGIN NEW.made := now(); RETURN NEW; END $$", "made"},
		{"WHEN ((new.made IS NULL)) EXECUTE FUNCTION f()", "CREATE FUNCTION f() RETURNS trigger AS $$ BEGIN NEW.made := COALESCE(NEW.made, now()); RETURN NEW; END $$", "made alone"},
		{"WHEN ((new.other IS NULL)) EXECUTE FUNCTION f()", "CREATE FUNCTION f() RETURNS trigger AS $$ BEGIN NEW.made := now(); RETURN NEW; END $$", "made"},
		{"EXECUTE FUNCTION f()", "CREATE FUNCTION f() RETURNS trigger LANGUAGE c AS 'stamp'", ""},
		{"EXECUTE FUNCTION f()", "", ""},
	} {
		columns, alone := reader.Stamps(row+c.trigger, c.routine)
		got := strings.Join(columns, " ")
		if alone {
			got += " alone"
		}
		if got != c.want {
			t.Errorf("%s %s: %q, want %q", c.trigger, c.routine, got, c.want)
		}
	}
	if columns, _ := reader.Stamps("CREATE TRIGGER s AFTER INSERT ON t SET NEW.made = NOW()", ""); len(columns) > 0 {
		t.Errorf("a trigger of the statement gives %v", columns)
	}
}
