package write

import "testing"

func TestStable(t *testing.T) {
	for text, want := range map[string]string{
		"((code)::text = ANY ((ARRAY['A'::character varying, 'it''s, B'::character varying])::text[]))": "(code IN ('A', 'it''s, B'))",
		`(("Kind; x")::text <> ALL ((ARRAY['a'::character varying])::text[]))`:                          `("Kind; x" NOT IN ('a'))`,
		`((s."a""b".code)::text = ANY ((ARRAY['A'::character varying])::text[])) AND (n > 1)`:           `(s."a""b".code IN ('A')) AND (n > 1)`,
		"((code)::text = ANY (ARRAY[('A'::character varying)::text]))":                                  "((code)::text = ANY (ARRAY[('A'::character varying)::text]))",
		"(n = ANY (ARRAY[1, 2]))": "(n = ANY (ARRAY[1, 2]))",
		"((f(code))::text = ANY ((ARRAY['A'::character varying])::text[]))": "((f(code))::text = ANY ((ARRAY['A'::character varying])::text[]))",
	} {
		if got := stable(text); got != want {
			t.Errorf("%s\n became %s\n, not %s", text, got, want)
		}
	}
}
