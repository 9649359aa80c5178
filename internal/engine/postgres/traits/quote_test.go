package traits

import (
	"testing"

	"nexdal/internal/catalog"
)

func TestIdent(t *testing.T) {
	for name, want := range map[string]string{"station": "station", "Station": `"Station"`, "user": `"user"`, "a b": `"a b"`, `q"`: `"q"""`, "_x1": "_x1"} {
		if got := Ident(name); got != want {
			t.Errorf("%q: %s, want %s", name, got, want)
		}
	}
	if got := Relation(catalog.Ref{Schema: "a.b", Table: "c"}); got != `"a.b".c` {
		t.Error(got)
	}
	if got := Literal(`it's \ that`); got != `'it''s \ that'` {
		t.Error(got)
	}
}
