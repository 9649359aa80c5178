package sqllex

import "testing"

// TestIdent: which names stand bare.
func TestIdent(t *testing.T) {
	small, capitals, brackets := NewQuoting(`"`, "table Number"), NewQuoting(`"`, "table number").WithCapitals(), NewQuoting("[", "table")
	for _, c := range []struct {
		quoting Quoting
		name    string
		want    string
	}{
		{small, "raft_2", "raft_2"}, {small, "Raft", `"Raft"`}, {small, "table", `"table"`}, {small, "2rafts", `"2rafts"`}, {small, `a"b`, `"a""b"`}, {small, "", `""`},
		{capitals, "RAFT_2", "RAFT_2"}, {capitals, "A$#", "A$#"}, {capitals, "raft", `"raft"`}, {capitals, "TABLE", `"TABLE"`}, {capitals, "NUMBER", `"NUMBER"`}, {capitals, "_RAFT", `"_RAFT"`}, {capitals, "RÄFT", `"RÄFT"`},
		{brackets, "raft", "raft"}, {brackets, "a]b", "[a]]b]"}, {AlwaysQuoting("`"), "raft", "`raft`"}, {AlwaysQuoting("`"), "a`b", "`a``b`"},
	} {
		if got := c.quoting.Ident(c.name); got != c.want {
			t.Errorf("%q is written %s, want %s", c.name, got, c.want)
		}
	}
}

// TestFirst: how many rows a query wants is written, and read back.
func TestFirst(t *testing.T) {
	for want, q := range map[string]Quoting{
		"SELECT DISTINCT a FROM t LIMIT 7":                 NewQuoting(`"`, ""),
		"SELECT DISTINCT TOP (7) a FROM t":                 NewQuoting("[", "").WithTop(),
		"SELECT DISTINCT a FROM t FETCH FIRST 7 ROWS ONLY": NewQuoting(`"`, "").WithCapitals(),
	} {
		got := q.First(7, "SELECT DISTINCT a FROM t")
		if got != want {
			t.Errorf("%q, want %q", got, want)
		}
		if most, ok := q.Most(got); !ok || most != 7 {
			t.Errorf("%q wants %d rows, %v", got, most, ok)
		}
		if _, ok := q.Most("SELECT a FROM t"); ok {
			t.Errorf("%q: a query for all rows wants some", want)
		}
	}
}
