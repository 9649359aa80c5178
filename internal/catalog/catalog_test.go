package catalog

import (
	"bytes"
	"fmt"
	"strings"
	"testing"
	"unicode/utf8"
)

// TestFree: names are new, short enough and whole.
func TestFree(t *testing.T) {
	c := &Catalog{Schemas: []*Schema{{Name: "s", Tables: []*Table{{Schema: "s", Name: "t_a_idx"}}}}}
	n := NewNames(c, 20)
	seen := map[string]bool{"t_a_idx": true}
	for range 12 {
		for _, parts := range [][]string{{"t", "a"}, {"T", "A"}, {"station", "a_long_column_name"}, {"station", "a_long_column_nome"}, {"ürümçi", "ürümçi_ürümçi"}} {
			name := n.Free("s", "idx", parts...)
			if seen[strings.ToLower(name)] || len(name) > 20 || !utf8.ValidString(name) {
				t.Errorf("%v: %q", parts, name)
			}
			seen[strings.ToLower(name)] = true
		}
	}
	if name := n.Free("other", "idx", "t", "a"); name != "t_a_idx" {
		t.Errorf("another schema: %s", name)
	}
}

// TestRead: what is no survey of ours is refused, and why.
func TestRead(t *testing.T) {
	var whole bytes.Buffer
	if err := (&Catalog{Engine: Engine{"sqlite", "3"}, Schemas: []*Schema{{Name: "main", Tables: []*Table{{Name: "a", Kind: Ordinary}}}}}).Write(&whole, true); err != nil {
		t.Fatal(err)
	}
	c, err := Read(bytes.NewReader(whole.Bytes()))
	if err != nil || c.Tables()[0].Schema != "main" {
		t.Fatalf("%v", err)
	}
	for name, text := range map[string]string{
		"empty": "", "cut": whole.String()[:whole.Len()/2], "a list": "[]", "another kind": `{"format":1,"kind":"findings"}`,
		"newer": strings.Replace(whole.String(), fmt.Sprintf(`"format": %d`, Format), fmt.Sprintf(`"format": %d`, Format+1), 1), "unknown member": strings.Replace(whole.String(), `"engine"`, `"motor"`, 1),
	} {
		if _, err := Read(strings.NewReader(text)); err == nil {
			t.Errorf("%s: taken", name)
		}
	}
}

// TestRelease: a version that is shown says whether the server is simulated, once.
func TestRelease(t *testing.T) {
	for _, c := range []struct {
		version  string
		settings []Setting
		want     string
	}{
		{"15.8", nil, "15.8"},
		{"1.0", []Setting{{Name: "nodes", Value: "2"}, {Name: "simulated", Value: "yes"}}, "1.0 (simulated)"},
		{"7.0 (simulated)", []Setting{{Name: "simulated", Value: "yes"}}, "7.0 (simulated)"},
		{"1.0", []Setting{{Name: "simulated", Value: "no"}, {Name: "of", Value: "simulated"}}, "1.0"},
		{"", []Setting{{Name: "simulated", Value: "yes"}}, " (simulated)"},
	} {
		if got := (&Catalog{Engine: Engine{Name: "tern", Version: c.version}, Settings: c.settings}).Release(); got != c.want {
			t.Errorf("%q with %v: %q, want %q", c.version, c.settings, got, c.want)
		}
	}
}
